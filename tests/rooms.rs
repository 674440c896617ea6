//! Rooms: when one is entered, and what the view shows of it.

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Camera, Ease, Leash, Outside, Rect, Rooms, Screen, Settings, Smoothing};

use crate::support::corners;
use crate::support::properties::properties;

fn smoothings() -> impl Strategy<Value = Smoothing> {
    prop_oneof![
        Just(Smoothing::None),
        (0.02..0.4_f64).prop_map(Smoothing::HalfLife),
        (0.1..1.0_f64).prop_map(Smoothing::Settle),
        (50.0..900.0_f64).prop_map(Smoothing::Speed),
    ]
}

/// A walk of a hundred frames: the seconds and the movement of each.
pub fn walks(longest: f64) -> impl Strategy<Value = Vec<(f64, DVec2)>> {
    let step = prop_oneof![
        20 => (0.0..0.05_f64, (-longest..longest, -longest..longest)),
        1 => (Just(0.0), (Just(0.0), Just(0.0))),
        1 => (0.1..2.0_f64, (-longest..longest, -longest..longest)),
    ];
    prop::collection::vec(step.prop_map(|(seconds, way)| (seconds, DVec2::from(way))), 100)
}

fn grid_or_list() -> impl Strategy<Value = Rooms> {
    let room = ((-600.0..600.0_f64, -400.0..400.0_f64), (100.0..700.0_f64, 80.0..400.0_f64));
    let list = prop::collection::vec(room, 1..8);
    let list = list.prop_map(|rooms| {
        rooms.into_iter().map(|(corner, size)| Rect::from_corner_size(corner, size)).collect()
    });
    let grid = ((100.0..700.0_f64, 80.0..400.0_f64), 0.0..0.1_f64, prop::option::of(0.0..0.8_f64));
    (grid, prop_oneof![Just(Vec::new()), list]).prop_map(|((size, overstep, slide), list)| Rooms {
        size: Some(size.into()),
        list,
        overstep,
        slide,
        ..Rooms::default()
    })
}

properties! {
    #![cases(1000)]

    /// A room changes only when the subject has overstepped its edge, and to one that contains the subject. Once inside,
    /// the view is never outside it on a later frame in this room.
    #[test]
    fn the_room_once_arrived_is_not_left(
        rooms in grid_or_list(), smoothing in smoothings(), walk in walks(40.0),
    ) {
        let settings = Settings { rooms: Some(rooms.clone()), ..Settings::default() };
        let mut camera = Camera::new(settings).unwrap();
        let mut changed = camera.settings().clone();
        changed.follow.smoothing = smoothing.into();
        camera.set_settings(changed, 0.0).unwrap();
        let mut place = DVec2::new(10.0, 10.0);
        let (mut room, mut arrived) = (None, false);
        for (seconds, way) in walk {
            let from = place;
            place += way;
            let view = camera.follow(seconds, place);
            prop_assert!(view.centre().is_finite());
            let now = camera.room().expect("always one");
            // It may have been out, and back, within the step.
            let stays = (0..200).all(|step| now.contains(from + way * f64::from(step) / 200.0));
            if room != Some(now) || !stays {
                (room, arrived) = (Some(now), false);
            }
            let over = DVec2::new(320.0, 180.0) * rooms.overstep + 1e-5;
            let kept = Rect { min: now.min - over, max: now.max + over };
            let others = rooms.list.iter().filter(|other| other.contains(place)).count();
            prop_assert!(kept.contains(place) || (!rooms.list.is_empty() && others == 0),
                "{place} is in another room than {now:?}");
            // Arrived: inside, and where the room is smaller than the view, in its middle.
            let range = Bounds::new(now).centre_range(view.lens());
            let inside = range.nearest(view.centre()).distance(view.centre()) < 1e-6;
            prop_assert!(!arrived || inside, "left {now:?}: {:?}", view.visible_world());
            arrived |= inside && !camera.is_gliding(); // a slide passes through
        }
    }

    /// One long step through listed rooms, which overlap and leave gaps, ends in the room of many tiny steps: the
    /// current room as long as the subject has not overstepped its edge, then the first one in the list that contains it.
    #[test]
    fn a_long_step_ends_in_the_room_of_tiny_ones(
        rects in prop::collection::vec((0.0..250.0_f64, 0.0..150.0_f64, 20.0..120.0_f64, 20.0..90.0_f64), 2..6),
        overstep in 0.0..0.1_f64, free in any::<bool>(),
        from in (0.0..300.0_f64, 0.0..200.0_f64), way in (-150.0..150.0_f64, -85.0..85.0_f64),
    ) {
        let list: Vec<Rect> =
            rects.into_iter().map(|(x, y, w, h)| Rect::from_corner_size([x, y], [w, h])).collect();
        let outside = if free { Outside::Free } else { Outside::Keep };
        let rooms = Rooms { list: list.clone(), overstep, outside, ..Rooms::default() };
        let mut camera = Camera::new(Settings { rooms: Some(rooms), ..Settings::default() }).unwrap();
        let (from, way) = (DVec2::from(from), DVec2::from(way));
        camera.follow(0.0, from);
        let mut expected = camera.room();
        let first = list.iter().find(|room| room.contains(from)).copied();
        prop_assert!(if free { expected == first } else { expected.is_some() }, "{:?}", expected);
        const STEPS: u32 = 3000;
        // Tiny steps may miss a corner that the long one cuts, or the other way round.
        let gap = |corner: DVec2| {
            let along = (corner - from).dot(way) / way.length_squared().max(1e-9);
            (from + way * along.clamp(0.0, 1.0)).distance(corner)
        };
        let over = DVec2::new(320.0, 180.0) * overstep;
        let kept = |room: &Rect| Rect { min: room.min - over, max: room.max + over };
        let lines = list.iter().flat_map(|room| [*room, kept(room)]);
        prop_assume!(lines.flat_map(|rect| corners(&rect)).all(|corner| gap(corner) > 0.25));
        for step in 0..=STEPS {
            let at = from + way * (f64::from(step) / f64::from(STEPS));
            if !expected.is_some_and(|room| kept(&room).contains(at)) {
                let mut others = list.iter().filter(|room| Some(**room) != expected);
                let entered = others.find(|room| room.contains(at)).copied();
                expected = if free { entered } else { entered.or(expected) };
            }
        }
        camera.follow(0.25, from + way);
        prop_assert_eq!(camera.room(), expected);
    }

    /// Moving back and forth about a line without overstepping it changes the room only once.
    #[test]
    fn a_room_is_not_changed_within_its_overstep(overstep in 0.003..0.1_f64, steps in prop::collection::vec(-1.0..1.0_f64, 100)) {
        let rooms = Rooms { overstep, ..Rooms::default() };
        let mut camera = Camera::new(Settings { rooms: Some(rooms), ..Settings::default() }).unwrap();
        camera.follow(0.0, [300, 90]);
        let mut changes = 0;
        for step in steps {
            let before = camera.room();
            camera.follow(1.0 / 60.0, [320.0 + step * 320.0 * overstep * 0.999, 90.0]);
            changes += i32::from(camera.room() != before);
        }
        prop_assert_eq!(changes, 0);
    }

}

/// A slide ends in time and at the right position although the subject moves on.
#[test]
fn a_slide_takes_its_time() {
    let rooms = Rooms { slide: Some(0.5), overstep: 0.0, ..Rooms::default() };
    let mut settings = Settings { rooms: Some(rooms), ..Settings::default() };
    settings.follow.smoothing = Smoothing::HalfLife(0.2).into();
    let mut camera = Camera::new(settings).unwrap();
    assert_eq!(camera.follow(0.0, [310, 90]).centre(), DVec2::new(160.0, 90.0));
    // Half of the step to the line, half past it: the slide has begun 0.05 s ago.
    let view = camera.follow(0.1, [330, 90]);
    // Smooth: what is left after a tenth of the time.
    let left = 0.9_f64.powi(3) * (1.0 + 3.0 * 0.1 + 6.0 * 0.01);
    assert!((view.centre().x - (480.0 - 320.0 * left)).abs() < 1e-4, "{}", view.centre());
    let view = camera.follow(0.45, [420, 100]);
    assert!((view.centre() - DVec2::new(480.0, 90.0)).length() < 1e-6, "{}", view.centre());
}

/// Between listed rooms the last one is kept, and where they overlap the current one.
#[test]
fn listed_rooms_with_gaps_and_overlaps() {
    let list = vec![
        Rect::new([0, 0], [400, 180]),
        Rect::new([380, 0], [800, 180]),
        Rect::new([900, 0], [1300, 180]),
    ];
    let rooms = Rooms { list: list.clone(), overstep: 0.0, ..Rooms::default() };
    let mut camera = Camera::new(Settings { rooms: Some(rooms), ..Settings::default() }).unwrap();
    for (x, room) in [
        (100, 0),
        (390, 0),
        (401, 1),
        (385, 1),
        (379, 0),
        (500, 1),
        (850, 1),
        (899, 1),
        (901, 2),
        (850, 2),
    ] {
        camera.follow(0.1, [x, 90]);
        assert_eq!(camera.room(), Some(list[room]), "at {x}");
    }
    // In a room larger than the view it follows, and stays inside.
    assert_eq!(camera.follow(0.1, [1000, 90]).centre().x, 1060.0);
    assert_eq!(camera.follow(0.1, [1100, 90]).centre().x, 1100.0);
    assert_eq!(camera.follow(0.1, [1290, 90]).centre().x, 1140.0);
}

/// A house in an open world: outside of it, the view is that of a camera without rooms; through the door it never jumps,
/// at any frame rate, with a leash or without.
#[test]
fn outside_of_free_rooms_the_view_is_free() {
    let house = Rect::new([1000, -90], [1320, 90]);
    let way = |t: f64| [300.0 * t, 20.0 * (3.0 * t).sin()];
    for (slide, leash) in
        [(None, None), (Some(0.5), None), (None, Some(0.3)), (Some(0.5), Some(0.3))]
    {
        let mut open = Settings::default();
        open.follow.smoothing = Smoothing::HalfLife(0.15).into();
        open.follow.leash = leash.map(|leash| Leash(DVec2::splat(leash)));
        let mut settings = open.clone();
        let list = vec![house];
        settings.rooms = Some(Rooms { list, slide, outside: Outside::Free, ..Rooms::default() });
        let mut ends = Vec::new();
        for rate in [30.0, 144.0, 1000.0] {
            let mut plain = Camera::new(open.clone()).unwrap();
            let mut camera = Camera::new(settings.clone()).unwrap();
            let mut last = camera.follow(0.0, way(0.0)).centre();
            plain.follow(0.0, way(0.0));
            let mut seen = false;
            for frame in 1..=(10.0 * rate) as u32 {
                let t = f64::from(frame) / rate;
                let view = camera.follow(1.0 / rate, way(t));
                let free = plain.follow(1.0 / rate, way(t));
                seen |= camera.room() == Some(house);
                let is_far = !(3.2..8.0).contains(&t);
                assert!(
                    !is_far || (view.centre() - free.centre()).length() < 0.01,
                    "{t}: {slide:?}"
                );
                let arrived = (3.9..4.3).contains(&t);
                let inside = (view.centre() - house.centre()).length() < 4.0;
                assert!(!arrived || inside || slide.is_none(), "{t}: {view:?}");
                // The fastest is the middle of a slide over half a screen more than the subject's way.
                let speed = view.centre().distance(last) * rate;
                assert!(speed < 300.0 + 1.9 * 330.0 / 0.3, "{speed} at {t}: {slide:?} {leash:?}");
                last = view.centre();
                if frame == (4.5 * rate) as u32 {
                    ends.push(last);
                }
            }
            assert!(seen);
        }
        assert!(
            ends.iter().all(|end| end.distance(ends[0]) < 0.3),
            "{slide:?} {leash:?}: {ends:?}"
        );
    }
}

/// Without a size, the rooms of a grid are as large as the design screen in the world.
#[test]
fn rooms_without_a_size_are_as_large_as_the_design_screen() {
    let mut settings = Settings { rooms: Some(Rooms::default()), ..Settings::default() };
    settings.screen.size = [640, 384].into();
    settings.screen.unit_pixels = 16.0;
    settings.zoom.level = 2.0;
    let mut camera = Camera::new(settings).unwrap();
    camera.follow(0.0, [41, 5]);
    assert_eq!(camera.room(), Some(Rect::new([40, 0], [80, 24])));
}

/// A cutscene looks elsewhere, in any room, and returns.
#[test]
fn a_place_that_is_looked_at_is_in_no_room() {
    let mut camera =
        Camera::new(Settings { rooms: Some(Rooms::default()), ..Settings::default() }).unwrap();
    camera.follow(0.0, [100, 90]);
    for place in [[1000.0, 500.0], [2000.0, 90.0], [50.0, 700.0]] {
        camera.aim_at(place);
        camera.advance(0.1);
        assert_eq!(camera.advance(0.1).centre(), DVec2::from(place));
        assert_eq!(camera.room(), None);
    }
    camera.glide(0.5, Ease::InOut);
    camera.follow(0.0, [400, 90]);
    assert_eq!(camera.follow(0.5, [400, 90]).centre(), DVec2::new(480.0, 90.0));
}

#[test]
fn a_grid_of_rooms_begins_at_its_origin() {
    let (size, origin) = (DVec2::new(100.0, 60.0), DVec2::new(30.0, -20.0));
    let rooms = Rooms { size: Some(size), origin, ..Rooms::default() };
    for point in [[31.0, -19.0], [29.0, 39.0], [-500.0, 700.0]].map(DVec2::from) {
        let room = rooms.at(point, &Screen::default()).expect("a room");
        assert!(room.contains(point) && room.size() == size);
        assert_eq!(((room.min - origin) / size).fract(), DVec2::ZERO);
    }
}

/// A subject that jumps into another room is in the picture at once, whatever carries it there.
#[test]
fn a_jump_into_another_room_shows_that_room() {
    let mut settings = Settings { rooms: Some(Rooms::default()), ..Settings::default() };
    settings.follow.look_ahead = None;
    let mut camera = Camera::new(settings).expect("valid settings");
    camera.follow(1.0 / 60.0, [315, 90]);
    let view = camera.follow(1.0 / 60.0, [715, 90]);
    assert_eq!(view.centre(), DVec2::new(800.0, 90.0));
    assert_eq!(camera.room(), Some(Rect::new([640, 0], [960, 180])));
}
