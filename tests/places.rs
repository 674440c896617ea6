//! Rooms, zones, lures, rails and steady scrolling.

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{
    Bounds, Camera, Deadzone, Ease, Leash, Lure, Outside, Rail, RailCurve, Rect, Rooms, Screen,
    Scroll, Settings, Smoothing, Zone,
};

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
fn walks(longest: f64) -> impl Strategy<Value = Vec<(f64, DVec2)>> {
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

    /// In and out of zones, no step of the picture is larger than its speed explains: the subject's movement, and the
    /// greatest effect of anchor and zoom (an eased fade is 1.5 times as fast in its middle as a linear one).
    #[test]
    fn a_zone_fades_at_a_limited_rate(
        zones in prop::collection::vec(zones(), 1..5), walk in walks(6.0),
    ) {
        let mut camera = Camera::new(Settings { zones: zones.clone(), ..Settings::default() }).unwrap();
        let mut place = DVec2::ZERO;
        let mut last = camera.follow(0.0, place);
        for (seconds, way) in walk {
            place += way;
            let view = camera.follow(seconds, place);
            // With every zone blending at once.
            let rate: f64 = zones.iter().map(|zone| 1.5 * seconds / zone.fade).sum();
            let zoom = (view.lens().zoom() / last.lens().zoom()).ln().abs();
            prop_assert!(zoom <= rate * 6.0_f64.ln() + 1e-9, "zoom by {zoom}");
            let size = view.lens().view_size().max(last.lens().view_size());
            let shown = size * (rate + zoom.exp() - 1.0);
            let step = (view.centre() - last.centre()).abs();
            prop_assert!(step.cmple(way.abs() + shown + 1e-6).all(), "{step} for {way}, at most {shown}");
            last = view;
        }
    }

}

prop_compose! {
    fn zones()(
        corner in (-200.0..200.0_f64, -200.0..200.0_f64), size in (10.0..200.0_f64, 10.0..200.0_f64),
        fade in 0.1..1.0_f64,
        anchor in prop::option::of((0.0..1.0_f64, 0.0..1.0_f64)),
        zoom in prop::option::of(0.5..3.0_f64),
    ) -> Zone {
        let rect = Rect::from_corner_size(corner, size);
        Zone { fade, anchor: anchor.map(DVec2::from), zoom, ..Zone::new(rect) }
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
fn zones_change_and_change_back() {
    let mut zone = Zone::new(Rect::new([100, -100], [300, 100]));
    (zone.anchor, zone.zoom, zone.fade) = (Some(DVec2::new(0.25, 0.5)), Some(2.0), 0.4);
    zone.deadzone = Some(Deadzone { left: 0.1, right: 0.1, top: 0.0, bottom: 0.0 });
    let mut camera = Camera::new(Settings { zones: vec![zone], ..Settings::default() }).unwrap();
    camera.follow(0.0, [0, 0]);
    camera.follow(0.1, [120, 0]);
    let view = camera.follow(1.0, [200, 0]);
    assert_eq!(view.lens().zoom(), 2.0);
    assert!(
        (view.world_to_screen([200, 0]).x - (0.25 + 0.1) * 320.0).abs() < 1e-3,
        "held at the zone's edge of the deadzone"
    );
    camera.follow(0.1, [320, 0]);
    let view = camera.follow(1.0, [320, 0]);
    assert_eq!((view.lens().zoom(), view.world_to_screen([320, 0]).x), (1.0, 160.0));
    // A cut into it is there at once.
    camera.cut();
    assert_eq!(camera.follow(0.1, [200, 0]).lens().zoom(), 2.0);
}

properties! {
    #![cases(1000)]

    /// The goal is always on the rail, and never further along than possible.
    #[test]
    fn the_goal_is_on_the_rail(
        corners in prop::collection::vec((-300.0..300.0_f64, -300.0..300.0_f64), 2..12), walk in walks(30.0),
    ) {
        let points: Vec<DVec2> = corners.into_iter().map(DVec2::from).collect();
        let rail = Rail { points: points.clone(), ..Rail::default() };
        let mut camera = Camera::new(Settings { rail: Some(rail), ..Settings::default() }).unwrap();
        let mut place = DVec2::ZERO;
        let nearest = |at: DVec2| {
            let piece = |pair: &[DVec2]| {
                let way = pair[1] - pair[0];
                let part = ((at - pair[0]).dot(way) / way.length_squared()).clamp(0.0, 1.0);
                pair[0] + way * part
            };
            points.windows(2).map(piece).fold(DVec2::INFINITY, |best, one| {
                if one.distance(at) < best.distance(at) { one } else { best }
            })
        };
        // The first frame is at the nearest point of all.
        let first = camera.follow(0.0, place).centre();
        prop_assert!((first.distance(place) - nearest(place).distance(place)).abs() < 1e-9);
        for (seconds, way) in walk {
            place += way;
            let centre = camera.follow(seconds, place).centre();
            prop_assert!(nearest(centre).distance(centre) < 1e-6, "{centre} is beside the rail");
        }
    }
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

fn on_rail(points: &[[f64; 2]], speed: Option<f64>, smoothing: Smoothing) -> Camera {
    let points = points.iter().map(|point| DVec2::from(*point)).collect();
    let mut settings =
        Settings { rail: Some(Rail { points, speed, ..Rail::default() }), ..Settings::default() };
    settings.follow.smoothing = smoothing.into();
    Camera::new(settings).unwrap()
}

/// The goal does not jump across a rail that comes near itself.
#[test]
fn a_rail_is_followed_along() {
    let points = [[0.0, 0.0], [400.0, 0.0], [400.0, 30.0], [0.0, 30.0]];
    let mut camera = on_rail(&points, None, Smoothing::None);
    camera.follow(0.0, [100, 0]);
    let centre = camera.follow(0.1, [110, 25]).centre();
    assert!((centre - DVec2::new(110.0, 0.0)).length() < 1e-9, "{centre}");
    // By itself: 90 units a second, around the corner, and at the end it stays.
    let points = [[0.0, 0.0], [90.0, 0.0], [90.0, 45.0]];
    let mut camera = on_rail(&points, Some(90.0), Smoothing::None);
    camera.follow(0.0, [0, 500]);
    for (seconds, at) in [(0.5, [45.0, 0.0]), (0.75, [90.0, 22.5]), (5.0, [90.0, 45.0])] {
        let centre = camera.follow(seconds, [0, 500]).centre();
        assert!((centre - DVec2::from(at)).length() < 1e-9, "{centre}");
    }
}

/// A rail from a curve tool has thousands of corners. Bends that can't be seen are left out, and the view is still on it
/// to 1/50 px at the largest zoom.
#[test]
fn a_rail_of_short_pieces_is_followed_within_a_fiftieth_of_a_pixel() {
    let curve = |x: f64| [x, 480.0 + 200.0 * (x / 96.0).sin()];
    let points: Vec<[f64; 2]> = (0..=10_000).map(|at| curve(f64::from(at) * 0.384)).collect();
    let mut camera = on_rail(&points, None, Smoothing::None);
    let zoom = camera.settings().zoom.range.max;
    let mut by_itself = on_rail(&points, Some(90.0), Smoothing::None);
    by_itself.follow(0.0, points[0]);
    let mut beyond: f64 = 0.0;
    for frame in 0..1500 {
        let x = 20.0 + f64::from(frame) * 2.3;
        let centres =
            [camera.follow(1.0 / 60.0, [x, 480.0]), by_itself.follow(1.0 / 60.0, points[0])];
        for centre in centres.map(|view| view.centre()) {
            let near = points.partition_point(|[x, _]| *x < centre.x);
            let [from, to] = [near - 1, near].map(|at| DVec2::from(points[at]));
            let away = (centre - from).perp_dot((to - from).normalize()).abs();
            beyond = beyond.max(away * zoom);
        }
    }
    assert!(beyond <= 0.02, "{beyond} px beside the rail");
}

/// A smooth rail passes through its points at an even speed, and has no corner.
#[test]
fn a_smooth_rail_passes_through_its_points() {
    let points: Vec<DVec2> =
        [[0.0, 0.0], [300.0, 0.0], [420.0, 160.0], [420.0, 160.0], [700.0, 40.0]]
            .map(DVec2::from)
            .to_vec();
    let rail = Rail { points: points.clone(), speed: Some(90.0), curve: RailCurve::Smooth };
    let mut camera = Camera::new(Settings { rail: Some(rail), ..Settings::default() }).unwrap();
    camera.follow(0.0, [0, 0]);
    let centres: Vec<DVec2> =
        (0..640).map(|_frame| camera.follow(1.0 / 60.0, [0, 0]).centre()).collect();
    let end = centres.iter().position(|centre| *centre == points[4]).expect("it arrives");
    for point in &points {
        let nearest = centres.iter().map(|centre| centre.distance(*point)).fold(f64::MAX, f64::min);
        assert!(nearest < 1.51, "{point} is {nearest} away");
    }
    for three in centres[..end].windows(3) {
        let [before, after] = [three[1] - three[0], three[2] - three[1]];
        assert!((before.length() - 1.5).abs() < 0.015, "{before}");
        assert!(before.angle_to(after).abs() < 0.06, "a corner at {}", three[1]);
    }
}

/// Corners on a straight line change nothing, nor do corners that stand twice.
#[test]
fn a_corner_that_does_not_bend_a_rail_changes_nothing() {
    let plain = [[0.0, 0.0], [400.0, 0.0], [400.0, 300.0], [100.0, 300.0]];
    let corners = [
        [0.0, 0.0],
        [0.0, 0.0],
        [128.0, 0.0],
        [400.0, 0.0],
        [400.0, 0.0],
        [400.0, 75.0],
        [400.0, 300.0],
        [100.0, 300.0],
    ];
    for speed in [None, Some(90.0)] {
        let rails = [&plain[..], &corners[..]];
        let mut cameras = rails.map(|points| on_rail(points, speed, Smoothing::HalfLife(0.1)));
        for frame in 0..600 {
            let subject = [f64::from(frame), f64::from(frame) * 0.6];
            let [one, other] =
                cameras.each_mut().map(|camera| camera.follow(1.0 / 60.0, subject).centre());
            assert_eq!(one, other, "frame {frame}, {speed:?}");
        }
    }
}

/// There and back around two corners, and beyond both ends.
#[test]
fn a_rail_is_followed_back() {
    let points = [[0.0, 0.0], [90.0, 0.0], [90.0, 45.0], [180.0, 45.0]];
    let mut camera = on_rail(&points, None, Smoothing::None);
    let along = |at: f64| match at {
        at if at < 90.0 => DVec2::new(at, 0.0),
        at if at < 135.0 => DVec2::new(90.0, at - 90.0),
        at => DVec2::new(at - 45.0, 45.0),
    };
    let there = (-10..=24).chain((-10..24).rev()).chain(-10..=24);
    for at in there.map(|step| f64::from(step) * 10.0) {
        let centre = camera.follow(1.0 / 60.0, along(at)).centre();
        let expected = along(at.clamp(0.0, 225.0));
        assert!(centre.distance(expected) < 1e-9, "{centre} for {expected}");
    }
}

/// A rail that ends within a step: a view that is smoothed is where tiny steps lead it.
#[test]
fn the_end_of_a_rail_is_reached_within_a_step() {
    let ride = |steps: u32| {
        let points = [[0.0, 0.0], [36.0, 0.0]];
        let mut camera = on_rail(&points, Some(90.0), Smoothing::HalfLife(0.3));
        camera.follow(0.0, [0, 500]);
        camera.follow(0.1, [0, 500]);
        (0..steps).map(|_| camera.follow(1.0 / f64::from(steps), [0, 500]).centre().x).last()
    };
    let (one, tiny) = (ride(1).unwrap(), ride(10_000).unwrap());
    assert!((one - tiny).abs() < 1e-2 && tiny < 33.0, "{one} beside {tiny}");
}

#[test]
fn scrolling_stays_inside_the_bounds() {
    let scroll = Some(Scroll { speed: DVec2::new(100.0, 0.0) });
    let mut settings = Settings { scroll, ..Settings::default() };
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [500, 180])));
    let mut camera = Camera::new(settings).unwrap();
    camera.follow(0.0, [160, 90]);
    for _step in 0..100 {
        camera.follow(0.1, [0, 90]);
    }
    assert_eq!(camera.view().centre().x, 340.0);
    // New bounds: it goes on from there, not from where it would have been.
    camera.set_bounds(Some(Bounds::new(Rect::new([0, 0], [5000, 180]))), 0.0).unwrap();
    camera.follow(0.0, [0, 90]);
    assert_eq!(camera.follow(0.1, [0, 90]).centre().x, 350.0);
}

#[test]
fn settings_that_are_none_are_refused() {
    let refused = |change: fn(&mut Settings)| {
        let mut settings = Settings::default();
        change(&mut settings);
        settings.validate().unwrap_err().field().to_owned()
    };
    let rooms = |rooms: Rooms| Settings { rooms: Some(rooms), ..Settings::default() };
    let field = |settings: &Settings| settings.validate().unwrap_err().field().to_owned();
    assert_eq!(field(&rooms(Rooms { size: Some(DVec2::ZERO), ..Rooms::default() })), "rooms.size");
    assert_eq!(field(&rooms(Rooms { overstep: -1.0, ..Rooms::default() })), "rooms.overstep");
    assert_eq!(field(&rooms(Rooms { slide: Some(f64::NAN), ..Rooms::default() })), "rooms.slide");
    let flat = vec![Rect::new([0, 0], [9, 0])];
    assert_eq!(field(&rooms(Rooms { list: flat, ..Rooms::default() })), "rooms.list.0");
    assert_eq!(refused(|s| s.rail = Some(Rail::default())), "rail.points");
    assert_eq!(refused(|s| s.scroll = Some(Scroll { speed: DVec2::NAN })), "scroll.speed");
    let lure = Lure { at: DVec2::ZERO, radius: 0.0, strength: 0.5 };
    let mut settings = Settings { lures: vec![lure], ..Settings::default() };
    assert_eq!(field(&settings), "lures.0.radius");
    settings.lures.clear();
    let zone = Zone::new(Rect::new([0, 0], [9, 9]));
    for (zone, name) in [
        (Zone { fade: -1.0, ..zone }, "zones.0.fade"),
        (Zone { zoom: Some(0.0), ..zone }, "zones.0.zoom"),
        (Zone { anchor: Some(DVec2::splat(2.0)), ..zone }, "zones.0.anchor"),
        (Zone { bounds: Some(Rect::default()), ..zone }, "zones.0.bounds"),
        (
            Zone { deadzone: Some(Deadzone { left: 9.0, ..Deadzone::default() }), ..zone },
            "zones.0.deadzone.left",
        ),
        (Zone { rect: Rect::default(), ..zone }, "zones.0.rect"),
    ] {
        settings.zones = vec![zone];
        assert_eq!(field(&settings), name);
    }
}

properties! {
    #![cases(300)]

    /// Many lures and zones are found by their positions. Distant ones do not change a single bit, wherever they are
    /// in the list.
    #[test]
    fn what_is_far_away_changes_nothing(
        walk in walks(60.0), zooms in prop::collection::vec(1.0..2.0_f64, 4), spread in 30.0..400.0_f64,
        far in prop::collection::vec((2.0..9.0_f64, 0.0..6.3_f64, 10.0..900.0_f64), 40..120),
    ) {
        // The walk is held to a field, and everything far is outside of it.
        let field = 600.0;
        let near = |index: usize| DVec2::from_angle(index as f64 * 1.3) * spread;
        let zones: Vec<Zone> = (0..4)
            .map(|index| {
                let rect = Rect::around(near(index), [90, 60]);
                Zone { zoom: Some(zooms[index]), fade: 0.2 * index as f64, ..Zone::new(rect) }
            })
            .collect();
        let lures: Vec<Lure> =
            (0..4).map(|index| Lure { at: near(index + 7), radius: 120.0, strength: 0.5 }).collect();
        let settings = Settings { zones: zones.clone(), lures: lures.clone(), ..Settings::default() };
        let mut crowded = settings.clone();
        for (index, (away, angle, size)) in far.iter().enumerate() {
            let at = DVec2::from_angle(*angle) * (field * away + 2.0 * size);
            let (zone_at, lure_at) = (index * 7 % (crowded.zones.len() + 1), index * 5 % (crowded.lures.len() + 1));
            crowded.zones.insert(zone_at, Zone { zoom: Some(3.0), ..Zone::new(Rect::around(at, [*size, *size])) });
            crowded.lures.insert(lure_at, Lure { at, radius: *size, strength: 0.9 });
        }
        let (mut few, mut many) = (Camera::new(settings).unwrap(), Camera::new(crowded).unwrap());
        let mut at = DVec2::ZERO;
        for (seconds, way) in walk {
            at = (at + way).clamp(DVec2::splat(-field), DVec2::splat(field));
            prop_assert_eq!(few.follow(seconds, at), many.follow(seconds, at));
        }
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
