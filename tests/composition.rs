//! Combinations of two mechanisms, each of which once gave a wrong ride.

use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use velvet_pan::glam::DVec2;
use velvet_pan::{
    Airborne, Bounds, Camera, Cue, CueCall, Ease, Leash, LookAhead, Rail, Ratchet, Rect, Rooms,
    Scroll, Settings, Shake, Smoothing, Subject, Zone, ZoomNudge,
};

use crate::support::{camera, smooth};

/// The view's centre every 1/10 s of a ride of some seconds at a rate. `tell` is called before the frame that ends at
/// each tenth.
fn ride(
    settings: &Settings,
    rate: u32,
    seconds: u32,
    subject: impl Fn(f64) -> Subject,
    tell: impl Fn(&mut Camera, u32),
) -> Vec<DVec2> {
    let mut camera = camera(settings.clone());
    let frames = (0..=seconds * rate).map(|frame| {
        let step = if frame == 0 { 0.0 } else { 1.0 / f64::from(rate) };
        if (frame * 10).is_multiple_of(rate) {
            tell(&mut camera, frame * 10 / rate);
        }
        camera.follow(step, subject(f64::from(frame) / f64::from(rate))).centre()
    });
    frames.step_by((rate / 10) as usize).collect()
}

fn farthest(one: &[DVec2], other: &[DVec2]) -> f64 {
    one.iter().zip(other).map(|(a, b)| a.distance(*b)).fold(0.0, f64::max)
}

// In the air.

#[test]
fn leaving_the_leash_in_the_air_is_a_jump_of_the_goal_and_not_of_the_view() {
    let mut settings = smooth(Smoothing::HalfLife(0.3));
    settings.follow.airborne = Airborne::Hold;
    let mut camera = camera(settings);
    camera.follow(0.0, Subject::from([0, 0]).with_grounded(true));
    let mut last = camera.view().centre().y;
    for frame in 1..120 {
        let t = f64::from(frame) / 60.0;
        let fall = Subject::from([0.0, 450.0 * t * t]).with_grounded(false).with_jump(true);
        let y = camera.follow(1.0 / 60.0, fall).centre().y;
        // The view comes after it at its own pace: never faster than the subject, but for the start.
        let most = (900.0 * t / 60.0).max(8.0);
        assert!((y - last).abs() < most, "{} in frame {frame}", y - last);
        last = y;
    }
    // And it is let go of at the same moment at every rate.
    let mut settings = smooth(Smoothing::HalfLife(0.3));
    settings.follow.airborne = Airborne::Hold;
    let fall = |t: f64| {
        let fallen = (t - 0.5).max(0.0);
        let stands = t <= 0.5 + 1e-9;
        Subject::from([0.0, 450.0 * fallen * fallen]).with_grounded(stands).with_jump(!stands)
    };
    let best = ride(&settings, 240, 3, fall, |_, _| {});
    for rate in [20, 30, 60] {
        let gap = farthest(&ride(&settings, rate, 3, fall, |_, _| {}), &best);
        assert!(gap < 0.5, "{rate}: {gap}");
    }
}

// Zones.

#[test]
fn a_zone_is_left_from_exactly_on_its_edge() {
    let mut settings = smooth(Smoothing::HalfLife(0.1));
    // They hold the view 60 to the right of the subject, until it leaves.
    let bounds = Some(Rect::new([500, 0], [1400, 500]));
    settings.zones = vec![Zone { bounds, fade: 0.0, ..Zone::new(Rect::new([600, 0], [900, 500])) }];
    // It stands on the near edge, which belongs to the zone, for a second.
    let stand_and_go = |t: f64| Subject::from([600.0 - 220.0 * (t - 1.0).max(0.0), 250.0]);
    let best = ride(&settings, 240, 3, stand_and_go, |_, _| {});
    for rate in [30, 60] {
        let gap = farthest(&ride(&settings, rate, 3, stand_and_go, |_, _| {}), &best);
        assert!(gap < 0.5, "{rate}: {gap}");
    }
}

#[test]
fn a_far_zone_does_not_inherit_from_the_one_it_replaces() {
    let near = Zone { zoom: Some(2.0), ..Zone::new(Rect::new([0, 0], [400, 400])) };
    let far = Zone { zoom: Some(3.0), ..Zone::new(Rect::new([9000, 0], [9400, 400])) };
    let mut camera = camera(Settings { zones: vec![near], ..Settings::default() });
    for _frame in 0..60 {
        camera.follow(1.0 / 60.0, [100, 100]);
    }
    assert_eq!(camera.view().lens().zoom(), 2.0);
    camera.set_settings(Settings { zones: vec![far], ..Settings::default() }, 0.0).expect("valid");
    for _frame in 0..60 {
        assert!(camera.follow(1.0 / 60.0, [100, 100]).lens().zoom() <= 2.0);
    }
    assert_eq!(camera.view().lens().zoom(), 1.0);
}

#[test]
fn a_zone_keeps_its_say_when_others_are_put_before_it() {
    let here = Zone { zoom: Some(2.0), ..Zone::new(Rect::new([0, 0], [400, 400])) };
    let far = Zone { zoom: Some(3.0), ..Zone::new(Rect::new([9000, 0], [9400, 400])) };
    let mut camera = camera(Settings { zones: vec![here], ..Settings::default() });
    camera.follow(0.0, [100, 100]);
    camera
        .set_settings(Settings { zones: vec![far, here], ..Settings::default() }, 0.0)
        .expect("valid");
    assert_eq!(camera.follow(1.0 / 60.0, [100, 100]).lens().zoom(), 2.0);
}

// Rails, scrolls and cuts.

#[test]
fn another_rail_is_entered_where_the_goal_is() {
    let points = (0..=40).map(|i| DVec2::new(50.0 * f64::from(i), 100.0)).collect();
    let rail = Some(Rail { points, ..Rail::default() });
    let mut camera = camera(Settings { rail, ..Settings::default() });
    camera.follow(0.0, [1500, 90]);
    // There, over to the right, and back far below.
    let points = [[0, 120], [2000, 120], [2000, 600], [0, 600]];
    let points = points.map(|[x, y]| DVec2::new(f64::from(x), f64::from(y))).to_vec();
    let rail = Some(Rail { points, ..Rail::default() });
    camera.set_settings(Settings { rail, ..Settings::default() }, 0.0).expect("valid");
    assert_eq!(camera.follow(1.0 / 60.0, [1500, 90]).centre(), DVec2::new(1500.0, 120.0));
}

/// What look-ahead remembers does not depend on the rail that the view travels on meanwhile.
#[test]
fn look_ahead_goes_on_under_a_travelling_rail() {
    let points = [[0.0, 0.0], [300.0, 40.0], [900.0, 0.0]].map(DVec2::from).to_vec();
    let mut free = smooth(Smoothing::HalfLife(0.1));
    free.follow.look_ahead = Some(LookAhead { half_life: 0.1, ..LookAhead::default() });
    let on_rail = Settings {
        rail: Some(Rail { points, speed: Some(30.0), ..Rail::default() }),
        ..free.clone()
    };
    // To and fro, with turns within frames; after 2.3 s the rail is taken away.
    let swing = |t: f64| [150.0 + 120.0 * (2.3 * t).sin(), 40.0 * (1.7 * t).cos()];
    let ride = |rate: u32| {
        let mut camera = camera(on_rail.clone());
        let frames = (0..=4 * rate).map(|frame| {
            let step = if frame == 0 { 0.0 } else { 1.0 / f64::from(rate) };
            let centre = camera.follow(step, swing(f64::from(frame) / f64::from(rate))).centre();
            if frame * 10 == 23 * rate {
                camera.set_settings(free.clone(), 0.0).expect("valid");
            }
            centre
        });
        frames.step_by((rate / 10) as usize).collect::<Vec<_>>()
    };
    let best = ride(960);
    for (rate, most) in [(20, 0.2), (30, 0.15), (60, 0.02), (240, 0.01)] {
        let gap = farthest(&ride(rate), &best);
        assert!(gap < most, "{rate}: {gap}");
    }
}

#[test]
fn a_cut_takes_rails_and_scrolls_back() {
    let points = vec![DVec2::new(0.0, 0.0), DVec2::new(1000.0, 0.0)];
    let rail = Some(Rail { points, speed: Some(100.0), ..Rail::default() });
    let mut travelling = camera(Settings { rail, ..Settings::default() });
    let scroll = Some(Scroll { speed: DVec2::new(100.0, 0.0) });
    let mut scrolling = camera(Settings { scroll, ..Settings::default() });
    for _frame in 0..60 {
        travelling.follow(1.0 / 60.0, [0, 0]);
        scrolling.follow(1.0 / 60.0, [0, 0]);
    }
    assert!((travelling.view().centre().x - 98.3).abs() < 0.1);
    travelling.cut();
    assert_eq!(travelling.follow(1.0 / 60.0, [0, 0]).centre().x, 0.0);
    scrolling.cut();
    assert_eq!(scrolling.follow(1.0 / 60.0, [500, 0]).centre().x, 500.0);
}

#[test]
fn a_cut_lands_whatever_is_under_way() {
    let nudge = Cue { zoom: Some(ZoomNudge::default()), ..Cue::default() };
    for rate in [30.0, 60.0, 240.0] {
        for what in ["zoom", "nudge", "bounds", "pause", "hand", "rotation"] {
            let mut settings = smooth(Smoothing::Settle(0.6));
            settings.follow.look_ahead = Some(LookAhead::default());
            settings.cues.insert("drum".into(), nudge);
            settings.cues.insert("stop".into(), Cue { pause: Some(1.0), ..Cue::default() });
            settings.bounds = Some(Bounds::new(Rect::new([-200, -200], [400, 200])));
            let mut camera = camera(settings);
            camera.follow(0.0, [0, 0]);
            for frame in 0..10 {
                camera.follow(1.0 / rate, [6.0 * f64::from(frame), 0.0]);
            }
            let wide = Some(Bounds::new(Rect::new([-9000, -9000], [9000, 9000])));
            camera.set_bounds(wide, if what == "bounds" { 2.0 } else { 0.0 }).expect("good");
            match what {
                "zoom" => camera.zoom_to(2.0),
                "nudge" => camera.cue("drum", CueCall::anywhere()).expect("a cue"),
                "pause" => camera.cue("stop", CueCall::anywhere()).expect("a cue"),
                "hand" => camera.grab([40.0, 40.0].into()),
                "rotation" => camera.rotate_to(1.0),
                _ => {}
            }
            camera.follow(1.0 / rate, [60, 0]);
            camera.cut();
            let view = camera.follow(1.0 / rate, [1000, 0]);
            assert!(view.centre().distance(DVec2::new(1000.0, 0.0)) < 1e-9, "{what}: {view:?}");
        }
    }
}

#[test]
fn a_teleport_while_the_zoom_glides_is_no_movement() {
    let mut settings = smooth(Smoothing::None);
    settings.follow.look_ahead = Some(LookAhead::default());
    let mut camera = camera(settings);
    camera.follow(0.0, [0, 0]);
    camera.zoom_to(2.0);
    camera.follow(1.0 / 60.0, [0, 0]);
    camera.follow(1.0 / 60.0, [0, 0]);
    for _frame in 0..2 {
        let view = camera.follow(1.0 / 60.0, [1500, 0]);
        assert!((view.centre().x - 1500.0).abs() < 1e-6, "something is ahead: {}", view.centre());
    }
}

// Look-ahead.

#[test]
fn walking_off_against_the_remembered_direction_looks_the_right_way() {
    let mut settings = smooth(Smoothing::None);
    let seconds = DVec2::new(1.0, 0.0);
    settings.follow.look_ahead =
        Some(LookAhead { seconds, turn_after: 0.05, ..LookAhead::default() });
    let mut camera = camera(settings);
    camera.follow(0.0, [0, 0]);
    // To the right until the direction is believed, then it stands until nothing is ahead.
    for frame in 1..=100 {
        camera.follow(1.0 / 60.0, [f64::from(frame), 0.0]);
    }
    for _frame in 0..600 {
        camera.follow(1.0 / 60.0, [100, 0]);
    }
    assert_eq!(camera.view().centre().x, 100.0);
    for frame in 1..=30 {
        let subject = 100.0 - 100.0 * f64::from(frame) / 60.0;
        let x = camera.follow(1.0 / 60.0, [subject, 0.0]).centre().x;
        assert!(x <= subject + 1e-9, "{} ahead the old way", x - subject);
    }
    assert!(camera.view().centre().x < 50.0 - 5.0, "it looks ahead to the left");
}

// Cues.

#[test]
fn all_of_a_cue_is_as_old_as_it_says() {
    let mut settings = smooth(Smoothing::HalfLife(0.1));
    let zoom = Some(ZoomNudge { by: 1.5, rise: 0.2, hold: 0.1, fade: 0.6 });
    let shake = Some(Shake::default());
    settings.cues.insert("gong".into(), Cue { zoom, shake, pause: Some(0.35), ..Cue::default() });
    let at = |t: f64| [150.0 * t, 30.0 * (3.0 * t).sin()];
    let (mut early, mut late) = (camera(settings.clone()), camera(settings));
    let mut shaken = false;
    for frame in 0..=90 {
        let t = f64::from(frame) / 60.0;
        let step = if frame == 0 { 0.0 } else { 1.0 / 60.0 };
        match frame {
            // It happens at 0.5 s: one is told in time, the other three frames later.
            30 => early.cue("gong", CueCall::anywhere()).expect("a cue"),
            33 => late.cue("gong", CueCall::anywhere().since(0.05)).expect("a cue"),
            _ => {}
        }
        let (one, other) = (early.follow(step, at(t)), late.follow(step, at(t)));
        if !(30..33).contains(&frame) {
            assert!((one.lens().zoom() - other.lens().zoom()).abs() < 1e-9, "frame {frame}");
            let apart = (one.shake().pixels - other.shake().pixels).length();
            assert!(apart < 1e-6, "frame {frame}");
            shaken |= one.shake().pixels != DVec2::ZERO;
        }
    }
    assert!(shaken);
    // Both let go of the view at the same moment: at most the way of the three frames is between them.
    assert!(early.view().centre().distance(late.view().centre()) < 0.2);
}

// Limits.

#[test]
fn leash_and_ratchet_come_to_rest() {
    let kinds = [Smoothing::HalfLife(0.15), Smoothing::Settle(0.5), Smoothing::Speed(80.0)];
    for (number, kind) in (0..60).map(|number| (number, kinds[number % 3])) {
        let pace = 1.2 + 0.11 * number as f64;
        let mut settings = smooth(kind);
        settings.follow.leash = Some(Leash(DVec2::new(0.2, 0.2)));
        settings.follow.ratchet = Ratchet::Right;
        settings.follow.look_ahead = Some(LookAhead::default());
        let mut moved = camera(settings.clone());
        let mut camera = camera(settings);
        let at = |frame: u32| {
            let t = f64::from(frame) / 60.0;
            let x = 300.0 * (pace * t.min(2.0)).sin();
            DVec2::new(x, 40.0 * (t.min(2.0) * 3.0).sin())
        };
        let far = DVec2::new(4096.0, -1024.0);
        for frame in 0..600 {
            if frame == 100 {
                moved.translate(far);
            }
            let by = if frame >= 100 { far } else { DVec2::ZERO };
            let step = if frame == 0 { 0.0 } else { 1.0 / 60.0 };
            camera.follow(step, at(frame));
            moved.follow(step, at(frame) + by);
        }
        let rest = camera.view();
        for _frame in 0..60 {
            assert_eq!(camera.follow(1.0 / 60.0, at(600)).centre(), rest.centre(), "{kind:?}");
        }
        let apart = (moved.view().centre() - far).distance(rest.centre());
        assert!(apart < 1e-6, "{kind:?}: {apart} after a translation");
    }
}

/// The 17th member of a party is ignored, and framed once there is room.
#[test]
fn a_party_has_sixteen_members() {
    let mut camera = camera(Settings::default());
    let crowd: Vec<Subject> =
        (0..17).map(|id| Subject::from([f64::from(id), 0.0]).with_id(id)).collect();
    camera.follow_all(0.0, &crowd);
    assert_eq!(camera.view().centre().x, 7.5, "the middle of 0 to 15");
    for _frame in 0..120 {
        camera.follow_all(1.0 / 60.0, &crowd[1..]);
    }
    assert!((camera.view().centre().x - 8.5).abs() < 1e-9, "the middle of 1 to 16");
}

/// The stage that decides where the view is, in rides in which it is obvious.
#[test]
fn the_decision_names_the_stage() {
    use velvet_pan::Decider;
    let by = |camera: &Camera| (camera.decision().x.by, camera.decision().y.by);
    let run = |mut camera: Camera, speed: f64| {
        for frame in 0..=60 {
            let step = if frame == 0 { 0.0 } else { 1.0 / 60.0 };
            camera.follow(step, [speed * f64::from(frame) / 60.0, 0.0]);
        }
        camera
    };
    let mut settings = smooth(Smoothing::HalfLife(1.0));
    settings.follow.leash = Some(Leash(DVec2::splat(0.2)));
    let mut leashed = run(camera(settings.clone()), 400.0);
    assert_eq!(by(&leashed), (Decider::Leash, Decider::Motion));
    assert!((leashed.decision().x.velocity - 400.0).abs() < 1e-6, "the subject's velocity");
    leashed.grab([10.0, 10.0].into());
    leashed.follow(1.0 / 60.0, [400.0 * 61.0 / 60.0, 0.0]);
    assert_eq!(by(&leashed), (Decider::Hand, Decider::Hand));

    let mut settings = smooth(Smoothing::None);
    settings.follow.ratchet = Ratchet::Right;
    let back = run(camera(settings), -400.0);
    assert_eq!(by(&back), (Decider::Barrier, Decider::Motion));
    assert_eq!(back.decision().x.velocity, 0.0);

    let rooms = Some(Rooms::default());
    let room = run(camera(Settings { rooms, ..Settings::default() }), 100.0);
    assert_eq!(by(&room), (Decider::Room, Decider::Room));

    let mut settings = Settings::default();
    settings.follow.axes = velvet_pan::Axes::X;
    let along = run(camera(settings), 100.0);
    assert_eq!(by(&along), (Decider::Motion, Decider::Locked));
    assert!((along.decision().x.velocity - 100.0).abs() < 1e-6);

    let points = vec![DVec2::new(0.0, 50.0), DVec2::new(900.0, 50.0)];
    let rail = Some(velvet_pan::Rail { points, ..velvet_pan::Rail::default() });
    let mut railed = run(camera(Settings { rail, ..Settings::default() }), 100.0);
    assert_eq!(by(&railed), (Decider::Rail, Decider::Rail));
    railed.set_settings(Settings::default(), 1.0).unwrap();
    railed.follow(0.1, [120.0, 0.0]);
    assert_eq!(by(&railed), (Decider::Transition, Decider::Transition));

    let scroll = Some(velvet_pan::Scroll { speed: DVec2::new(30.0, 0.0) });
    let scrolled = run(camera(Settings { scroll, ..Settings::default() }), 30.0);
    assert_eq!(by(&scrolled), (Decider::Scroll, Decider::Motion));

    let mut together = Camera::new(Settings::default()).unwrap();
    let pair = [0.0, 60.0].map(|x| velvet_pan::Subject::from([x, 0.0]).with_id(x as u32));
    together.follow_all(0.0, &pair);
    together.follow_all(0.1, &pair);
    assert_eq!(by(&together), (Decider::Party, Decider::Party));
}

/// While a party is framed, no leash holds its members. When one of them is followed alone again, the leash begins at the
/// distance that there is, and does not pull at once.
#[test]
fn a_leash_that_was_off_begins_as_long_as_it_must_be() {
    let gong = Cue { pause: Some(5.0), ..Cue::default() };
    let mut settings = Settings::default();
    settings.follow.leash = Some(Leash(DVec2::splat(0.1)));
    settings.party.fade = 0.0;
    settings.cues.insert("gong".into(), gong);
    let mut camera = Camera::new(settings).expect("valid settings");
    let step = 1.0 / 60.0;
    let both =
        |x: f64| [Subject::from([x, 0.0]).with_id(1), Subject::from([x + 30.0, 0.0]).with_id(2)];
    camera.follow_all(step, &both(0.0));
    camera.follow_all(step, &both(0.0));
    camera.cue("gong", CueCall::anywhere()).expect("a cue");
    for frame in 0..60 {
        camera.follow_all(step, &both(f64::from(frame) * 2.0));
    }
    let before = camera.view().centre();
    let alone = |x: f64| Subject::from([x, 0.0]).with_id(1);
    let after = camera.follow(step, alone(120.0)).centre();
    assert!((after - before).length() < 3.0, "{before} -> {after}");
    for frame in 61..120 {
        let last = camera.view().centre();
        let now = camera.follow(step, alone(f64::from(frame) * 2.0)).centre();
        assert!((now - last).length() < 3.0, "frame {frame}: {last} -> {now}");
    }
}

/// Another subject is announced between two frames. The view moves with the next frame, and not before.
#[test]
fn announcing_another_subject_moves_nothing() {
    let mut settings = smooth(Smoothing::HalfLife(0.3));
    settings.follow.leash = Some(Leash(DVec2::splat(0.05)));
    let mut camera = camera(settings);
    camera.follow(0.0, [0, 0]);
    camera.glide(0.8, velvet_pan::Ease::Smooth);
    camera.follow(0.02, [900, 40]);
    camera.follow(0.02, [905, 40]);
    let before = camera.view();
    camera.switch_subject();
    assert_eq!(camera.view(), before);
    assert_eq!(camera.advance(0.0).centre(), before.centre());
}

/// A leash that pulls the picture of a glide lets it go without a jump when its subject is lost, or is another one. Until
/// the end of that frame the subject is taken to move on as it did.
#[test]
fn losing_the_subject_on_a_leash_moves_nothing() {
    for lost in [true, false] {
        let mut settings = smooth(Smoothing::HalfLife(0.3));
        settings.follow.leash = Some(Leash(DVec2::splat(0.05)));
        let mut camera = camera(settings);
        let step = 1.0 / 60.0;
        camera.follow(0.0, [0, 0]);
        camera.glide(0.8, velvet_pan::Ease::Smooth);
        for frame in 0..6 {
            camera.follow(step, [f64::from(frame * frame) * 8.0, 40.0]);
        }
        for frame in 0..60 {
            let before = camera.view().centre();
            if !lost && frame == 0 {
                camera.switch_subject();
            }
            let now = camera.advance(step).centre();
            // It was 80 a frame fast.
            let most = if frame == 0 { 80.001 } else { 20.0 };
            assert!((now - before).length() < most, "frame {frame}: {before} -> {now}");
        }
    }
}

/// A subject that is lost moves on to the end of that frame, and from there the view stays: it does not go back to a point
/// of the camera's clock.
#[test]
fn a_view_does_not_go_back_when_its_subject_is_lost() {
    for rate in [60.0, 144.0, 144.3, 1000.0] {
        let mut camera = camera(Settings::default());
        for frame in 0..100 {
            camera.follow(1.0 / rate, [f64::from(frame) * 1200.0 / rate, 0.0]);
        }
        let lost = camera.advance(1.0 / rate).centre().x;
        for _frame in 0..20 {
            assert_eq!(camera.advance(1.0 / rate).centre().x, lost, "{rate}");
        }
    }
}

/// Changes follow each other faster than they end: a new one takes over what is left of the oldest. Here
/// the last one is that of a leash whose subject is lost.
#[test]
fn many_changes_at_once_never_jump() {
    let mut random = SmallRng::seed_from_u64(7);
    let mut worst: f64 = 0.0;
    for _game in 0..300 {
        let mut settings = smooth(Smoothing::HalfLife(0.3));
        settings.follow.leash = Some(Leash(DVec2::splat(0.05)));
        let mut camera = camera(settings);
        let mut last = camera.follow(0.0, [0, 0]).centre();
        let mut before = 0.0;
        for _change in 0..4 {
            camera.switch_subject();
            camera.glide(2.0, Ease::Smooth);
            let subject =
                DVec2::new(random.random_range(-400.0..400.0), random.random_range(-200.0..200.0));
            for _frame in 0..random.random_range(2..14) {
                let centre = camera.follow(1.0 / 60.0, subject).centre();
                (before, last) = ((centre - last).length(), centre);
            }
        }
        for _frame in 0..3 {
            let centre = camera.advance(1.0 / 60.0).centre();
            let way = (centre - last).length();
            if way - before > 5.0 {
                println!(
                    "game {_game} frame {_frame} way {way:.3} before {before:.3} {centre} {last}"
                );
            }
            worst = worst.max(way - before);
            (before, last) = (way, centre);
        }
    }
    // What the leash held goes on at the pace of the changes beneath.
    assert!(worst < 32.0, "{worst}");
}
