//! Commands and changes while others are under way.

use velvet_pan::glam::{DVec2, I64Vec2, Vec2};
use velvet_pan::{
    Bounds, Camera, Cameras, Cue, CueCall, Ease, Fit, HandReturn, Leash, Party, Ratchet, Rect,
    Settings, Shake, Smoothing, Snap, Subject, View, Zone, ZoomNudge,
};

use crate::support::{camera, smooth};

const DT: f64 = 1.0 / 60.0;

fn within(view: &View, rect: &Rect) -> bool {
    let seen = view.visible_world();
    seen.min.cmpge(rect.min - 1e-6).all() && seen.max.cmple(rect.max + 1e-6).all()
}

/// The distance by which the snapped canvas is outside a rectangle, in world units.
fn outside(view: &View, rect: &Rect) -> f64 {
    let (low, size) = (view.canvas_corner(), view.size().as_dvec2());
    let corners = [DVec2::ZERO, DVec2::new(size.x, 0.0), size, DVec2::new(0.0, size.y)];
    let out = |corner: DVec2| {
        let world = view.lens().to_world_axes(low + corner);
        (rect.min - world).max(world - rect.max).max_element()
    };
    corners.map(out).into_iter().fold(0.0, f64::max)
}

// The same command before every frame.

#[test]
fn a_camera_to_show_may_be_named_before_every_frame() {
    type Set = Cameras<&'static str>;
    type Call = fn(&mut Set);
    let calls: [(&str, Call); 3] = [
        ("glide_to", |set| assert!(set.glide_to(&"bell", 0.8, Ease::Smooth))),
        ("glide_to from rest", |set| assert!(set.glide_to(&"bell", 0.8, Ease::InOut))),
        ("switch_to", |set| assert!(set.switch_to(&"bell"))),
    ];
    for (name, tell) in calls {
        let ride = |every: bool| {
            let mut set = Cameras::new("wren", camera(smooth(Smoothing::HalfLife(0.2))));
            set.insert("bell", camera(smooth(Smoothing::HalfLife(0.1))));
            let views = (0..90).map(|frame| {
                let x = 2.0 * f64::from(frame);
                if frame == 10 || (every && frame > 10) {
                    tell(&mut set);
                }
                for (key, camera) in set.iter_mut() {
                    match *key {
                        "wren" => camera.follow(DT, [x, 0.0]),
                        _ => camera.follow(DT, [1000.0 - x, 40.0]),
                    };
                }
                set.view(DT)
            });
            views.collect::<Vec<View>>()
        };
        let (once, every) = (ride(false), ride(true));
        assert_ne!(once[9].centre(), once[89].centre(), "{name} does something");
        for (frame, (once, every)) in once.iter().zip(&every).enumerate() {
            assert_eq!(once, every, "{name}, frame {frame}");
        }
    }
}

#[test]
fn notches_add_up() {
    let mut wheel = camera(Settings::default());
    for _frame in 0..60 {
        wheel.zoom_by(0.1, None);
        wheel.follow(DT, [0, 0]);
    }
    assert!(wheel.view().lens().zoom() > 2.0, "six notches of 1.2: {}", wheel.view().lens().zoom());
}

// Bounds come in from where the view is, however far off the old ones were.

#[test]
fn tighter_bounds_come_in_smoothly_from_any_old_ones() {
    let tight = Rect::new([0, 0], [640, 360]);
    for wide in [3000.0, 1e5, 1e9] {
        let settings = Settings {
            bounds: Some(Bounds::new(Rect::around([0.0, 0.0], [wide, wide]))),
            ..Settings::default()
        };
        let mut camera = camera(settings);
        camera.follow(0.0, [900, 500]);
        camera.set_bounds(Some(Bounds::new(tight)), 0.5).expect("valid");
        comes_in(&mut camera, [900, 500], &tight);
    }
    // A zone's bounds alike.
    let zone =
        Zone { bounds: Some(tight), fade: 0.5, ..Zone::new(Rect::new([800, 0], [1000, 900])) };
    let mut zoned = camera(Settings { zones: vec![zone], ..Settings::default() });
    zoned.follow(0.0, [799, 500]);
    comes_in(&mut zoned, [801, 500], &tight);
}

/// Within half a second it moves no faster than its steepest part, and is then inside.
fn comes_in(camera: &mut Camera, subject: [i32; 2], tight: &Rect) {
    let mut last = camera.view().centre();
    let far = (last - DVec2::new(480.0, 270.0)).length();
    for _frame in 0..40 {
        let centre = camera.follow(DT, subject).centre();
        let step = (centre - last).length();
        assert!(step < 1.9 * far * DT / 0.5 + 2.1, "{step} in a frame, {far} to go");
        last = centre;
    }
    assert!(within(&camera.view(), tight));
}

#[test]
fn a_snapped_corner_keeps_to_the_edges_as_they_come_in() {
    let mut settings = Settings::default();
    settings.screen.snap = Snap::Whole;
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [9000, 9000])));
    let mut camera = camera(settings);
    camera.follow(0.0, [500, 500]);
    let far = Bounds::new(Rect::new([2000, 2000], [9000, 9000]));
    camera.set_bounds(Some(far), 1.0).expect("valid");
    for _frame in 0..70 {
        let view = camera.follow(DT, [500, 500]);
        let apart = view.canvas_corner() - (view.centre() - view.size().as_dvec2() / 2.0);
        assert!(apart.abs().max_element() <= 1.0 + 1e-6, "{apart}");
    }
    assert_eq!(camera.view().corner(), I64Vec2::new(2000, 2000));
}

// The wheel about the pointer.

#[test]
fn a_notch_about_the_pointer_soon_lets_go_of_a_running_subject() {
    for leash in [None, Some(Leash(DVec2::splat(0.3)))] {
        let mut settings = smooth(Smoothing::HalfLife(0.2));
        settings.follow.leash = leash;
        let mut camera = camera(settings);
        let x = |frame: i32| 95.0 * f64::from(frame) * DT;
        for frame in 0..120 {
            camera.follow(if frame == 0 { 0.0 } else { DT }, [x(frame), 0.0]);
        }
        let mut last = camera.view().centre().x;
        let mut waited = 0;
        for frame in 120..360 {
            if [120, 132, 144].contains(&frame) {
                camera.zoom_by(1.0, Some(Vec2::new(40.0, 60.0)));
            }
            let view = camera.follow(DT, [x(frame), 0.0]);
            waited += i32::from(camera.is_in_hand());
            let seen = view.visible_world().contains([x(frame), 0.0]);
            assert!(seen, "the subject is off the screen in frame {frame}");
            let step = view.centre().x - last;
            assert!(step.abs() < 8.0, "{step} in frame {frame}");
            last = view.centre().x;
        }
        assert!(waited < 100, "following waited {waited} frames");
        let lag = camera.view().centre().x - x(359);
        assert!(lag.abs() < 40.0, "{lag}");
    }
}

#[test]
fn without_a_subject_the_point_stays_to_the_end_and_the_view_where_it_is() {
    let mut camera = camera(Settings::default());
    camera.advance(0.0);
    let pointer = Vec2::new(250.0, 40.0);
    let under = camera.view().screen_to_world(pointer);
    camera.zoom_by(3.0, Some(pointer));
    for _frame in 0..240 {
        let view = camera.advance(DT);
        assert!((view.world_to_screen(under) - pointer).length() < 0.01);
    }
    assert!(!camera.is_in_hand());
}

// The ratchet.

#[test]
fn a_standing_subject_never_moves_a_ratcheted_view_at_a_cushion() {
    for rate in [30.0, 60.0, 240.0] {
        let mut settings = smooth(Smoothing::HalfLife(0.1));
        settings.follow.ratchet = Ratchet::Right;
        settings.bounds =
            Some(Bounds { cushion_depth: 0.125, ..Bounds::new(Rect::new([0, 0], [1000, 400])) });
        let mut camera = camera(settings);
        camera.follow(0.0, [100, 200]);
        for frame in 0..i32::from(rate as u8) {
            camera.follow(1.0 / rate, [100.0 + 60.0 * f64::from(frame) / rate, 200.0]);
        }
        for _frame in 0..200 {
            camera.follow(1.0 / rate, [159.0, 200.0]);
        }
        let stood = camera.view().centre();
        for _frame in 0..200 {
            camera.follow(1.0 / rate, [159.0, 200.0]);
        }
        assert_eq!(camera.view().centre(), stood, "at {rate} frames a second");
    }
}

#[test]
fn no_zoom_of_any_source_takes_a_ratchet_back() {
    let world = Rect::new([0, 0], [1000, 400]);
    let base = || {
        let mut settings = Settings { bounds: Some(Bounds::new(world)), ..Settings::default() };
        settings.follow.ratchet = Ratchet::Right;
        let wide = Some(ZoomNudge { by: 0.5, rise: 0.1, hold: 0.5, fade: 0.1 });
        settings.cues.insert("gong".into(), Cue { zoom: wide, ..Cue::default() });
        settings.zoom.range.min = 0.2;
        settings
    };
    let cue = |camera: &mut Camera| drop(camera.cue("gong", CueCall::anywhere()));
    let nothing = |_: &mut Camera| {};
    let reveal = |camera: &mut Camera| camera.resize((1280, 360));
    let hand = |camera: &mut Camera| camera.zoom_to(0.2);
    let turn = |camera: &mut Camera| camera.rotate_to(0.7);
    let acts: [&dyn Fn(&mut Camera); 5] = [&cue, &nothing, &reveal, &hand, &turn];
    for (index, act) in acts.into_iter().enumerate() {
        let mut settings = base();
        if index == 1 {
            let zone = Rect::new([950, 0], [1000, 400]);
            settings.zones.push(Zone { zoom: Some(0.4), ..Zone::new(zone) });
        }
        if index == 2 {
            settings.screen.fit = Fit::Reveal;
        }
        let mut camera = camera(settings);
        camera.resize((320, 180));
        camera.follow(0.0, [700, 200]);
        camera.follow(DT, [940, 200]);
        let mut edge = camera.view().visible_world().min.x;
        assert_eq!(edge, 680.0);
        act(&mut camera);
        for _frame in 0..60 {
            let view = camera.follow(DT, [960, 200]);
            let now = view.visible_world().min.x;
            assert!(now >= edge - 1e-6, "act {index}: back from {edge} to {now}");
            edge = now;
        }
    }
}

/// A picture that returns to a source held by its ratchet never pushes the line.
#[test]
fn a_ratcheted_view_is_not_pushed_on_by_its_own_line() {
    for hand in [false, true] {
        let mut settings = smooth(Smoothing::HalfLife(0.2));
        settings.follow.ratchet = Ratchet::Right;
        let mut camera = camera(settings);
        for frame in 0..60 {
            let step = if frame == 0 { 0.0 } else { DT };
            camera.follow(step, [5.0 * f64::from(frame), 0.0]);
        }
        if hand {
            camera.show(&Rect::new([-100, -90], [220, 90]), 0.7, Ease::Smooth);
        } else {
            camera.glide(0.7, Ease::Smooth);
        }
        let before = camera.view().centre().x;
        for _frame in 0..60 {
            camera.follow(DT, [100, 0]);
        }
        // Its velocity, 300 units a second, is kept for a moment, and no more than that.
        let on = camera.view().centre().x - before;
        assert!((0.0..=0.027 * 320.0 + 5.0).contains(&on), "{on} with a hand: {hand}");
    }
}

// Parties and whole zooms; filling.

#[test]
fn a_party_is_judged_by_the_zoom_that_is_shown() {
    let mut settings =
        Settings { party: Party { fade: 0.0, ..Party::default() }, ..Settings::default() };
    settings.zoom.whole = true;
    let mut camera = camera(settings);
    let two = [Subject::from([0, 0]).with_id(1), Subject::from([600, 0]).with_id(2)];
    for _frame in 0..120 {
        camera.follow_all(DT, &two);
    }
    for one in two {
        let seen = camera.view().visible_world().contains(one.position);
        let id = one.id.expect("its own");
        assert!(seen != camera.is_dropped(id), "{id}: in view {seen}");
    }
}

#[test]
fn bounds_are_filled_after_every_change() {
    let world = Rect::new([0, 0], [400, 240]);
    let mut settings = Settings { bounds: Some(Bounds::new(world)), ..Settings::default() };
    settings.zoom.fill_bounds = true;
    settings.screen.fit = Fit::Reveal;
    let wide = Some(ZoomNudge { by: 0.5, ..ZoomNudge::default() });
    settings.cues.insert("gong".into(), Cue { zoom: wide, ..Cue::default() });
    let mut camera = camera(settings);
    camera.resize((320, 180));
    camera.follow(0.0, [200, 120]);
    camera.rotate_now(1.5);
    assert!(within(&camera.view(), &world));
    assert!(within(&camera.follow(DT, [200, 120]), &world));
    camera.rotate_now(0.0);
    camera.resize((1280, 360));
    assert!(within(&camera.view(), &world));
    camera.cue("gong", CueCall::anywhere()).expect("a cue");
    camera.rotate_to(0.6);
    for _frame in 0..60 {
        assert!(within(&camera.follow(DT, [200, 120]), &world));
    }
}

// Whole pixels.

#[test]
fn what_is_made_of_a_view_shows_no_pixel_from_outside() {
    let world = Rect::new([10.4, 20.7], [1000.3, 700.6]);
    for rotation in [0.0, 0.3, 1.1] {
        let mut settings = Settings { bounds: Some(Bounds::new(world)), ..Settings::default() };
        settings.screen.snap = Snap::Whole;
        let mut one = camera(settings);
        one.rotate_now(rotation);
        one.shake(&velvet_pan::Shake { hold: 9.0, ..velvet_pan::Shake::default() }, 1.0);
        let mut last = one.follow(0.0, [0, 0]);
        for frame in 0..200 {
            let way = 10.0 * f64::from(frame);
            let view = one.follow(DT, [way, 7.0 * (way / 90.0).sin() - 20.0 + way / 2.0]);
            for shown in [view.steady(), View::between(&last, &view, 0.4).steady()] {
                let out = outside(&shown, &world);
                assert!(out < 1e-6, "{out} at {rotation} in frame {frame}");
            }
            last = view;
        }
    }
    // On the way from one camera to another, both at an edge.
    let at = |point: [i32; 2]| {
        let mut settings = Settings { bounds: Some(Bounds::new(world)), ..Settings::default() };
        settings.screen.snap = Snap::Whole;
        let mut camera = camera(settings);
        camera.follow(0.0, point);
        camera
    };
    let mut cameras = Cameras::new(1, at([0, 0]));
    cameras.insert(2, at([2000, 0]));
    cameras.glide_to(&2, 1.0, Ease::Smooth);
    for _frame in 0..70 {
        assert!(outside(&cameras.view(DT), &world) < 1e-6);
    }
}

#[test]
fn a_view_between_two_does_not_smear_a_cut() {
    let mut camera = camera(Settings::default());
    camera.follow(0.0, [0, 0]);
    let before = camera.follow(DT, [1, 0]);
    camera.cut();
    let after = camera.follow(DT, [900, 0]);
    assert_eq!(View::between(&before, &after, 0.5), after);
    assert_eq!(View::between(&before, &after, 0.0), before);
    let mut cameras = Cameras::new(1, camera.clone());
    camera.follow(DT, [1500, 0]);
    cameras.insert(2, camera);
    let before = cameras.view(DT);
    assert!(cameras.switch_to(&2));
    let after = cameras.view(DT);
    assert_eq!(View::between(&before, &after, 0.5), after);
}

// When a command takes effect.

#[test]
fn a_point_to_aim_at_counts_for_the_next_frame_alone() {
    let mut camera = camera(Settings::default());
    camera.follow(0.0, [0, 0]);
    camera.aim_at([900, 0]);
    for _frame in 0..100 {
        camera.follow(DT, [0, 0]);
    }
    assert_eq!(camera.advance(DT).centre(), DVec2::ZERO);
    camera.aim_at([50, 0]);
    assert_eq!(camera.advance(DT).centre().x, 50.0);
}

#[test]
fn a_pan_takes_effect_with_the_frame() {
    let mut camera = camera(Settings::default());
    camera.advance(0.0);
    camera.pan(Vec2::new(3.0, 0.0));
    camera.pan(Vec2::new(4.0, 0.0));
    assert_eq!(camera.view().centre().x, 0.0);
    assert_eq!(camera.advance(DT).centre().x, 7.0, "pans add up");
    camera.pan(Vec2::new(-2.0, 0.0));
    assert_eq!(camera.advance(DT).centre().x, 5.0);
    for _frame in 0..60 {
        assert_eq!(camera.advance(DT).centre().x, 5.0, "with nobody to come back to");
    }
}

#[test]
fn the_last_of_a_kind_counts_and_what_acts_now_contradicts_it() {
    let mut camera = camera(Settings::default());
    camera.zoom_to(2.0);
    camera.zoom_now(1.0);
    camera.rotate_to(1.0);
    camera.rotate_now(0.5);
    camera.aim_at([5, 5]);
    camera.aim_at([90, 40]);
    for _frame in 0..60 {
        camera.advance(DT);
    }
    let view = camera.view();
    assert_eq!((view.lens().zoom(), view.lens().rotation()), (1.0, 0.5));
    assert_eq!(view.centre(), DVec2::new(90.0, 40.0));
    camera.zoom_by(1.0, None);
    camera.zoom_by(1.0, None);
    for _frame in 0..300 {
        camera.advance(DT);
    }
    assert!((camera.view().lens().zoom() - 1.44).abs() < 1e-9);
}

// Coming back.

#[test]
fn a_view_that_stays_comes_back_once_the_subject_moves() {
    let mut settings = smooth(Smoothing::HalfLife(0.1));
    settings.hands.back = HandReturn::Stay;
    let mut camera = camera(settings);
    camera.follow(0.0, [0, 0]);
    camera.grab(Vec2::new(160.0, 90.0));
    camera.drag_to(Vec2::new(60.0, 90.0));
    camera.follow(DT, [0, 0]);
    camera.release();
    for _frame in 0..100 {
        assert_eq!(camera.follow(DT, [0, 0]).centre().x, 100.0);
    }
    for frame in 1..=30 {
        camera.follow(DT, [f64::from(frame), 0.0]);
    }
    let centre = camera.view().centre().x;
    assert!((centre - 30.0).abs() < 15.0 && !camera.is_in_hand(), "{centre}");
}

/// A point that is grabbed or zoomed about is held from the start of the next frame, so the ride does not depend on that
/// frame's length.
#[test]
fn a_held_point_is_held_from_the_start_of_the_next_frame() {
    let pointer = Vec2::new(90.0, 60.0);
    let ride = |rate: u32, tell: &dyn Fn(&mut Camera)| {
        let mut camera = camera(smooth(Smoothing::HalfLife(0.2)));
        let mut seen = Vec::new();
        for frame in 0..=2 * rate {
            let t = f64::from(frame) / f64::from(rate);
            if frame == rate + 1 {
                tell(&mut camera);
            }
            let step = if frame == 0 { 0.0 } else { 1.0 / f64::from(rate) };
            let view = camera.follow(step, [150.0 * t, 40.0 * t]);
            if (frame * 30).is_multiple_of(rate) {
                seen.push((view.centre(), view.lens().zoom()));
            }
        }
        seen
    };
    let grab = |camera: &mut Camera| camera.grab(pointer);
    let zoom = |camera: &mut Camera| camera.zoom_by(2.0, Some(pointer));
    let tells: [&dyn Fn(&mut Camera); 2] = [&grab, &zoom];
    for (name, tell) in ["grab", "zoom about a point"].into_iter().zip(tells) {
        let exact = ride(960, tell);
        for rate in [30, 60, 120] {
            for (index, (one, other)) in ride(rate, tell).iter().zip(&exact).enumerate() {
                let apart = (one.0 - other.0).length() * other.1;
                assert!(apart < 0.1, "{name} at {rate}, sample {index}: {apart}");
                assert!((one.1 / other.1).ln().abs() < 1e-3, "{name} at {rate}, sample {index}");
            }
        }
    }
}

/// The steady view is grabbed, not the shake.
#[test]
fn a_grab_during_a_shake_does_not_move_the_view() {
    let mut camera = camera(Settings::default());
    camera.advance(0.0);
    camera.shake(&Shake { hold: 5.0, ..Shake::default() }, 1.0);
    for _frame in 0..20 {
        camera.advance(DT);
    }
    assert!(camera.view().shake().pixels.length() > 0.1);
    let before = camera.view().steady().centre();
    camera.grab(Vec2::new(90.0, 60.0));
    for _frame in 0..20 {
        let view = camera.advance(DT);
        assert!((view.steady().centre() - before).length() < 1e-6, "{before} {view:?}");
    }
}
