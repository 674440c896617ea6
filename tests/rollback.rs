//! What a state holds, and what a frame of no time leaves alone. That it is everything is tested with the rides.

use velvet_pan::glam::DVec2;
use velvet_pan::{Airborne, Bounds, Camera, Rail, Rect, Rooms, Settings, Subject, View};

use crate::rides::random_play::{Game, Pcg};

/// A frame with any commands before it: the same for the same number.
fn play(camera: &mut Camera, at: &mut [DVec2; 4], seed: u64, frame: u64) -> View {
    Game(Pcg(seed << 32 | frame)).any_frame(camera, at)
}

/// Bounds that are set are part of the state; settings that are read again leave them.
#[test]
fn bounds_in_force_are_state() {
    let court = |x: i32| Some(Bounds::new(Rect::new([x, 0], [x + 600, 400])));
    let settings = Settings { bounds: court(0), ..Settings::default() };
    let mut camera = Camera::new(settings.clone()).expect("valid settings");
    let before = camera.follow(0.0, [900, 200]);
    let state = camera.state();
    camera.set_bounds(court(500), 0.5).expect("valid bounds");
    camera.follow(1.0, [900, 200]); // from the end of this frame on
    let after = camera.follow(1.0, [900, 200]);
    assert!(after.centre().x > before.centre().x && camera.bounds() == court(500));

    let mut softer = settings.clone();
    softer.shake.intensity = 0.5;
    camera.set_settings(softer.clone(), 0.0).expect("valid settings");
    assert_eq!((camera.bounds(), camera.view().centre()), (court(500), after.centre()));
    softer.bounds = court(100);
    camera.set_settings(softer, 0.0).expect("valid settings");
    assert_eq!(camera.bounds(), court(100));

    // Also of other settings, as long as they say nothing else.
    camera.restore(state).expect("a state of a camera");
    assert_eq!(camera.bounds(), court(100));
    camera.set_settings(settings, 0.0).expect("valid settings");
    camera.restore(state).expect("a state of a camera");
    assert_eq!((camera.bounds(), camera.view()), (court(0), before));
}

/// A state of other settings keeps the picture, as far as these settings allow.
#[test]
fn a_changed_number_does_not_void_a_state() {
    for seed in 0..200 {
        let mut game = Game(Pcg(900 + seed));
        let mut camera = game.camera();
        let mut at = [DVec2::new(300.0, 60.0); 4];
        for frame in 0..60 {
            play(&mut camera, &mut at, seed, frame);
        }
        let mut settings = camera.settings().clone();
        settings.shake.seed ^= 1;
        let mut other = Camera::new(settings).expect("valid settings");
        other.resize(camera.view().window_size());
        other.restore(camera.state()).expect("a state of a camera");
        assert_eq!(other.view().steady(), camera.view().steady(), "seed {seed}");
    }
}

/// In a frame of 0 seconds only commands act. So a second one after it changes nothing.
#[test]
fn a_second_frame_of_no_time_changes_nothing() {
    for seed in 0..400 {
        let mut camera = Game(Pcg(5_000 + seed)).camera();
        let mut at = [DVec2::new(300.0, 60.0); 4];
        for frame in 0..40 {
            play(&mut camera, &mut at, seed, frame);
            let view = camera.follow(0.0, at[0]);
            let state = camera.state();
            let again = camera.follow(0.0, at[1] + DVec2::new(500.0, 90.0));
            assert_eq!((again, camera.state()), (view, state), "seed {seed}, frame {frame}");
        }
    }
}

/// A subject that landed, went into another room, or joined counts from the next frame that takes time.
#[test]
fn changes_of_subjects_wait_for_time() {
    type Set = fn(&mut Settings);
    type Frame = fn(&mut Camera, f64, bool) -> View;
    let lands: Frame = |camera, seconds, after| {
        let at = if after { [50.0, 9.0] } else { [50.0, -40.0] };
        camera.follow(seconds, Subject::from(at).with_grounded(after).with_jump(!after))
    };
    let flips: Frame =
        |camera, seconds, after| camera.follow(seconds, [if after { 700 } else { 300 }, 90]);
    let joins: Frame = |camera, seconds, after| {
        let all = [[0.0, 0.0], [150.0, 30.0]].map(Subject::from);
        camera.follow_all(seconds, if after { &all } else { &all[..1] })
    };
    let cases: [(Set, Frame); 3] = [
        (|s| s.follow.airborne = Airborne::Hold, lands),
        (|s| s.rooms = Some(Rooms::default()), flips),
        (|_| {}, joins),
    ];
    for (case, (set, frame)) in cases.into_iter().enumerate() {
        let mut settings = Settings::default();
        set(&mut settings);
        let mut camera = Camera::new(settings).expect("valid settings");
        for step in [0.0, 0.1, 0.1, 0.1] {
            frame(&mut camera, step, false);
        }
        let (state, view) = (camera.state(), camera.view());
        assert_eq!(frame(&mut camera, 0.0, true), view, "case {case}");
        assert_eq!(camera.state(), state, "case {case}");
        frame(&mut camera, 0.1, true);
        assert_ne!(frame(&mut camera, 0.1, true).centre(), view.centre(), "case {case}");
    }
}

/// Whatever settings are valid, a camera takes its own state back.
#[test]
fn no_camera_refuses_its_own_state() {
    let mut tried = 0;
    for side in [5e-324, 1e-300, 1e-9, 1e-3, 1e90, 1e200] {
        for fill_bounds in [false, true] {
            let rect = Rect::from_corner_size([0.0, 0.0], [side, side]);
            let mut settings = Settings { bounds: Some(Bounds::new(rect)), ..Settings::default() };
            settings.zoom.fill_bounds = fill_bounds;
            settings.rail =
                Some(Rail { points: vec![DVec2::ZERO, DVec2::splat(side)], ..Rail::default() });
            let Ok(mut camera) = Camera::new(settings) else { continue };
            tried += 1;
            for frame in 0..5 {
                camera.zoom_by(f64::from(frame), None);
                camera.follow(0.1, [f64::from(frame), 3.0]);
                let (state, view) = (camera.state(), camera.view());
                camera.restore(state).unwrap_or_else(|error| panic!("{side}: {error}"));
                assert_eq!(camera.view(), view, "{side}");
            }
        }
    }
    assert_eq!(tried, 6, "the smallest, the second and the largest are no places");
}
