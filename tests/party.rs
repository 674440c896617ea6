//! Several subjects framed together.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Airborne, Camera, Deadzone, Leash, LookAhead, Party, Rect, Settings, Smoothing, Subject, Zone,
};

use crate::support::properties::properties;
use crate::support::smooth;

const SMALLEST: f64 = 0.5;

fn at_once() -> Party {
    Party { fade: 0.0, widen: 0.0, narrow: 0.0, ..Party::default() }
}

fn camera(party: Party) -> Camera {
    Camera::new(Settings { party, ..Settings::default() }).unwrap()
}

/// A party that walks for some frames: the start of each member, its importance, and its movement in each frame.
#[derive(Clone, Debug)]
struct Walk {
    members: Vec<Subject>,
    ways: Vec<Vec<DVec2>>,
    seconds: Vec<f64>,
    /// The members that are present in each frame, one bit each.
    here: Vec<u8>,
}

prop_compose! {
    fn walks(longest: f64)(
        members in prop::collection::vec(
            ((-200.0..200.0_f64, -100.0..100.0_f64), 0.1..3.0_f64, -2..3_i32, 0.0..30.0_f64), 1..6,
        ),
        ways in prop::collection::vec(prop::collection::vec((-longest..longest, -longest..longest), 6), 100),
        seconds in prop::collection::vec(0.0..0.05_f64, 100),
        here in prop::collection::vec(prop_oneof![6 => Just(255_u8), 1 => any::<u8>()], 100),
    ) -> Walk {
        let members = (0..).zip(members).map(|(id, (place, weight, rank, margin))| {
            Subject::from(place).with_id(id).with_weight(weight).with_rank(rank).with_margin(margin)
        });
        let ways = ways.into_iter().map(|frame| frame.into_iter().map(DVec2::from).collect()).collect();
        Walk { members: members.collect(), ways, seconds, here }
    }
}

/// The rectangle around these, with their margins.
fn hull<'a>(members: impl Iterator<Item = &'a Subject>) -> Rect {
    let around = |member: &Subject| Rect::around(member.position, DVec2::splat(member.margin));
    members
        .map(around)
        .reduce(|a, b| Rect { min: a.min.min(b.min), max: a.max.max(b.max) })
        .unwrap()
}

properties! {
    #![cases(1000)]

    /// Every framed member is on the screen with its margin. No member is dropped that would fit with a tenth to
    /// spare, and none is framed that does not fit.
    #[test]
    fn who_is_kept_is_in_view(walk in walks(60.0)) {
        let mut camera = camera(at_once());
        let mut members = walk.members.clone();
        let view = DVec2::new(320.0, 180.0) / SMALLEST;
        for (ways, seconds) in walk.ways.iter().zip(&walk.seconds) {
            for (member, way) in members.iter_mut().zip(ways) {
                member.position += *way;
            }
            let shown = camera.follow_all(*seconds, &members).visible_world();
            let let_go = |member: &&Subject| camera.is_dropped(member.id.unwrap());
            let kept: Vec<&Subject> = members.iter().filter(|member| !let_go(member)).collect();
            prop_assert!(!kept.is_empty());
            let around = hull(kept.iter().copied());
            let fits = around.size().cmple(view + 1e-6).all();
            prop_assert!(fits || kept.len() == 1, "{around:?} at the smallest zoom");
            let inside = around.min.cmpge(shown.min - 1e-6).all() && around.max.cmple(shown.max + 1e-6).all();
            prop_assert!(inside || !fits, "{around:?} in {shown:?}");
            let everybody = (hull(members.iter()).size() * 1.1).cmple(view).all();
            prop_assert!(!everybody || kept.len() == members.len(), "let go, and there is room");
            // Never somebody more important, while somebody less important could make room.
            let least = kept.iter().map(|member| member.rank).min().unwrap();
            for gone in members.iter().filter(let_go).filter(|gone| gone.rank > least) {
                let peers = kept.iter().copied().filter(|one| one.rank >= gone.rank);
                let with = hull(peers.chain([gone]));
                prop_assert!((with.size() * 1.1).cmpgt(view).any(), "{gone:?} let go for less");
            }
        }
    }

    /// Joining, leaving, being dropped and taken back cause no unexplained step. A step is explained by the members'
    /// own movements, by the greatest effect of a fade (each share changes by 1.5 · dt / fade and moves the middle by
    /// as much of the whole extent, more with a larger weight), and by the zoom.
    #[test]
    fn nobody_jerks_the_view(walk in walks(4.0)) {
        let party = Party { fade: 0.5, ..Party::default() };
        let mut camera = camera(party);
        let mut members = walk.members.clone();
        let mut last = camera.follow_all(0.0, &members[..1]);
        let mut longest_before = 0.0_f64;
        let mut fastest = 0.0_f64;
        for ((ways, seconds), here) in walk.ways.iter().zip(&walk.seconds).zip(&walk.here) {
            // Whoever is away stays where she was: coming back elsewhere would be a jump of her own.
            let present = |member: &&mut Subject| here & (1 << member.id.unwrap()) != 0;
            let mut longest = 0.0_f64;
            for (member, way) in members.iter_mut().zip(ways).filter(|(member, _)| present(member)) {
                member.position += *way;
                longest = longest.max(way.length());
            }
            let present = |member: &&Subject| here & (1 << member.id.unwrap()) != 0;
            let there: Vec<Subject> = members.iter().filter(present).copied().collect();
            let view = camera.follow_all(*seconds, &there);
            prop_assert!(view.centre().is_finite());
            let extent = hull(members.iter()).size().length();
            let weights = members.iter().map(|member| member.weight);
            let heavy = weights.clone().sum::<f64>() / weights.fold(f64::MAX, f64::min);
            // No part of a transition is steeper than 1.875 of its way in its time; and it keeps the
            // velocity that it began with.
            fastest = fastest.max(longest / seconds.max(1e-9));
            let faded = 1.875 * seconds / party.fade * heavy * extent + fastest * seconds;
            let zoomed = (view.lens().zoom() / last.lens().zoom()).ln().abs().exp() - 1.0;
            // Each axis may go with another member.
            // One that leaves goes on through the step, by no more than twice its last.
            let most = (longest + 4.0 * longest_before) * 2.0_f64.sqrt() + 2.0 * faded + zoomed * view.lens().view_size().length();
            let step = view.centre().distance(last.centre());
            prop_assert!(step <= most + 1e-6, "{step}, at most {most}");
            // One that comes back takes that back.
            let any_left = there.len() < members.len();
            longest_before = if any_left { longest_before.max(longest) } else { longest };
            last = view;
        }
    }

    /// A member that swings about the limit is dropped once.
    #[test]
    fn a_member_is_dropped_and_taken_back_once(swing in prop::collection::vec(-1.0..1.0_f64, 100)) {
        let mut camera = camera(at_once());
        let mut changes = 0;
        for swing in swing {
            // The limit is at 640; a tenth to spare at 581.8.
            let kite = Subject::from([612.0 + 29.0 * swing, 0.0]).with_id(2).with_rank(-1);
            let before = camera.is_dropped(2);
            camera.follow_all(0.1, &[Subject::from([0, 0]).with_id(1), kite]);
            changes += u32::from(camera.is_dropped(2) != before);
        }
        prop_assert!(changes <= 1, "{changes} changes");
    }
}

#[test]
fn the_middle_and_the_zoom_in_numbers() {
    let mut camera = camera(at_once());
    let wren = Subject::from([0, 0]).with_id(1).with_margin(20.0);
    let kite = |x: f64| Subject::from([x, 0.0]).with_id(2).with_margin(20.0);
    // 400 apart: with margins 440 of 320 at zoom 1.
    let view = camera.follow_all(0.0, &[wren, kite(400.0)]);
    assert!((view.lens().zoom() - 320.0 / 440.0).abs() < 1e-12);
    assert!((view.centre() - DVec2::new(200.0, 0.0)).length() < 1e-9);
    // Near each other: no closer than the largest zoom, the heavier nearer to the middle.
    let view = camera.follow_all(0.1, &[wren.with_weight(3.0), kite(40.0)]);
    assert_eq!((view.lens().zoom(), view.centre().x), (1.0, 10.0));
    // A heavy one is moved from the middle as far as needed for the other to be in view.
    let view = camera.follow_all(0.1, &[wren.with_weight(1e6), kite(150.0)]);
    assert!((view.visible_world().max.x - 170.0).abs() < 1e-3, "{:?}", view.visible_world());
    // An anchor and a deadzone leave less room around themselves.
    let mut settings = camera.settings().clone();
    settings.follow.anchor = DVec2::new(0.4, 0.5);
    settings.follow.deadzone = Deadzone { left: 0.1, right: 0.05, top: 0.0, bottom: 0.0 };
    camera.set_settings(settings, 0.0).unwrap();
    let view = camera.follow_all(0.1, &[wren, kite(300.0)]);
    assert!((view.lens().zoom() - (0.4 - 0.1) * 2.0 * 320.0 / 340.0).abs() < 1e-9);
}

/// A step in which nothing moves as far as one sees. In a step of 0 seconds, a changed party would not count.
const MOMENT: f64 = 1e-12;

/// A party zooms out from the zoom that the game, the wheel or a zone wants, and shows it whenever there is space.
#[test]
fn the_wanted_zoom_is_shown_where_there_is_space() {
    let mut settings =
        Settings { party: Party { fade: 0.0, ..Party::default() }, ..Settings::default() };
    settings.zoom.range.min = 0.1;
    let mut camera = Camera::new(settings).expect("valid settings");
    let pair = |x: f64| [Subject::from([0, 0]), Subject::from([x, 0.0])];
    camera.follow_all(0.0, &pair(40.0));
    camera.zoom_now(2.0);
    assert_eq!(camera.follow_all(0.1, &pair(40.0)).lens().zoom(), 2.0);
    camera.zoom_to(3.0);
    for _frame in 0..200 {
        camera.follow_all(0.05, &pair(40.0));
    }
    let zoom = camera.view().lens().zoom();
    assert!((zoom - 3.0).abs() < 1e-6, "{zoom}, by the wheel");
    // Out as far as needed, and not beyond the widest.
    let zoom_at = |camera: &mut Camera, apart: f64| {
        camera.follow_all(60.0, &pair(apart));
        camera.follow_all(60.0, &pair(apart)).lens().zoom()
    };
    assert!((zoom_at(&mut camera, 200.0) - 1.6).abs() < 1e-9);
    assert!(
        (zoom_at(&mut camera, 2000.0) - 3.0).abs() < 1e-9,
        "one alone is framed as it is wanted"
    );
    // A wheel within what is shown anyway changes nothing; one beyond shows at once.
    assert!((zoom_at(&mut camera, 400.0) - 0.8).abs() < 1e-9);
    camera.zoom_now(1.0);
    assert!((camera.follow_all(0.1, &pair(400.0)).lens().zoom() - 0.8).abs() < 1e-9);
    camera.zoom_now(0.4);
    assert_eq!(camera.follow_all(0.1, &pair(400.0)).lens().zoom(), 0.4);
    // Wanted wider than the widest: there is space for more.
    camera.follow_all(0.1, &pair(700.0));
    assert!(!camera.is_dropped(1));
}

/// In a zone with a zoom of its own, the party zooms out from that one.
#[test]
fn a_party_in_a_zone_zooms_out_from_the_zone() {
    let rect = Rect::new([-100, -100], [300, 100]);
    let zone = Zone { zoom: Some(2.0), fade: 0.5, ..Zone::new(rect) };
    let mut camera =
        Camera::new(Settings { zones: vec![zone], ..Settings::default() }).expect("valid settings");
    let pair = |x: f64, apart: f64| [Subject::from([x, 0.0]), Subject::from([x + apart, 0.0])];
    camera.follow_all(0.0, &pair(0.0, 40.0));
    assert_eq!(camera.view().lens().zoom(), 2.0);
    for _frame in 0..100 {
        camera.follow_all(0.1, &pair(0.0, 200.0));
    }
    assert!((camera.view().lens().zoom() - 1.6).abs() < 1e-6);
    // Out of the zone: no faster than a smooth fade from 1.6 to 1, which is at most 1.875 of the way in its time.
    let mut last = 1.6_f64;
    for frame in 0..120 {
        let zoom = camera.follow_all(1.0 / 60.0, &pair(310.0, 200.0)).lens().zoom();
        let step = (zoom / last).ln();
        assert!(
            (-1e-9..=1.9 * 1.6_f64.ln() / 0.5 / 60.0).contains(&-step),
            "{step} in frame {frame}"
        );
        last = zoom;
    }
    assert!((last - 1.0).abs() < 1e-9, "{last}");
}

properties! {
    #![cases(300)]

    /// One subject in a party gets the picture of a single followed one, to the bit, whatever else happens.
    #[test]
    fn one_alone_is_followed_like_a_single_subject(
        ways in prop::collection::vec((-9.0..9.0_f64, -5.0..5.0_f64, 0.0..0.04_f64, 0..60_u8), 120),
        zooms in prop::collection::vec(0.5..2.0_f64, 120),
        margin in 0.0..200.0_f64,
    ) {
        let mut settings = smooth(Smoothing::HalfLife(0.1));
        settings.follow.deadzone = Deadzone { left: 0.1, right: 0.1, top: 0.2, bottom: 0.1 };
        settings.follow.leash = Some(Leash(DVec2::new(0.3, 0.3)));
        settings.follow.look_ahead = Some(LookAhead::default());
        settings.follow.airborne = Airborne::Hold;
        settings.zones = vec![Zone { zoom: Some(1.5), fade: 0.3, ..Zone::new(Rect::new([40, -99], [90, 99])) }];
        let mut pair = [Camera::new(settings.clone()).unwrap(), Camera::new(settings).unwrap()];
        let mut at = DVec2::ZERO;
        for ((x, y, seconds, event), zoom) in ways.into_iter().zip(zooms) {
            at += DVec2::new(x, y);
            for camera in &mut pair {
                match event {
                    0 => camera.zoom_to(zoom),
                    1 => camera.zoom_by(zoom, Some(Vec2::new(60.0, 30.0))),
                    2 => camera.switch_subject(),
                    3 => camera.cut(),
                    4 => camera.pan(Vec2::new(20.0, 5.0)),
                    _ => {}
                }
            }
            let one = Subject::from(at).with_margin(margin).with_grounded(event % 7 < 5);
            let [alone, party] = &mut pair;
            prop_assert_eq!(alone.follow(seconds, one), party.follow_all(seconds, &[one]));
        }
    }
}

/// The zoom goes out quickly and returns slowly, by half-lives.
#[test]
fn out_is_quicker_than_in() {
    let party = Party { widen: 0.1, narrow: 0.4, ..at_once() };
    let mut camera = camera(party);
    let pair = |x: f64| [Subject::from([0, 0]), Subject::from([x, 0.0])];
    camera.follow_all(0.0, &pair(100.0));
    camera.follow_all(MOMENT, &pair(640.0)); // there at once
    let zoom = camera.follow_all(0.1, &pair(640.0)).lens().zoom();
    assert!((zoom - 0.5_f64.sqrt()).abs() < 1e-9, "{zoom}");
    camera.follow_all(50.0, &pair(640.0));
    camera.follow_all(MOMENT, &pair(100.0));
    // It is back within a view, so it moves; a step of the camera's clock takes that as even.
    let zoom = camera.follow_all(0.4, &pair(100.0)).lens().zoom();
    assert!((zoom - 0.5_f64.sqrt()).abs() < 1e-3, "{zoom}");
    // Alone again, the zoom that was set by hand comes back.
    camera.zoom_now(0.8);
    for _frame in 0..100 {
        camera.follow(0.1, [0, 0]);
    }
    assert_eq!(camera.view().lens().zoom(), 0.8);
}

#[test]
fn one_followed_alone_is_joined() {
    let mut camera = camera(Party { fade: 1.0, ..Party::default() });
    camera.follow(0.0, [100, 0]);
    let both = [Subject::from([200, 0]).with_id(7), Subject::from([100, 0]).with_id(3)];
    let x = |camera: &mut Camera, seconds: f64| camera.follow_all(seconds, &both).centre().x;
    assert!((x(&mut camera, MOMENT) - 100.0).abs() < 1e-6);
    // The party is two at once, and the picture half way there in half the time.
    assert!((x(&mut camera, 0.5) - 125.0).abs() < 1e-9);
    assert!((x(&mut camera, 0.5) - 150.0).abs() < 1e-9);
    // Dead: she leaves with the end of the next step, within the fade; the other stays.
    let alone = [both[0]];
    camera.follow_all(MOMENT, &alone);
    camera.follow_all(0.5, &alone);
    assert!((camera.follow_all(0.5, &alone).centre().x - 200.0).abs() < 1e-9);
}

#[test]
fn parties_with_odd_numbers_have_a_finite_view() {
    let mut camera = camera(Party::default());
    let first = camera.follow_all(0.1, &[]).centre();
    assert_eq!(camera.follow_all(0.1, &[Subject::from([f64::NAN, 0.0])]).centre(), first);
    let odd = Subject::from([10, 10]).with_weight(f64::NAN).with_margin(f64::INFINITY);
    assert_eq!(camera.follow_all(0.1, &[odd]).centre(), DVec2::new(10.0, 10.0));
    let crowd: Vec<Subject> = (0..200).map(|x| Subject::from([x, 0])).collect();
    for _frame in 0..20 {
        assert!(camera.follow_all(0.1, &crowd).centre().is_finite());
    }
    let far = [Subject::from([-1e300, 0.0]), Subject::from([1e300, 0.0]).with_rank(1)];
    assert!(camera.follow_all(f64::INFINITY, &far).centre().is_finite());
    assert!(!camera.is_dropped(1234));
}
