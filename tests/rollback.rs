//! A state is everything: ten frames later it is ridden again, to the bit.

use std::collections::VecDeque;

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Airborne, Bounds, Camera, Cameras, Ease, Rail, Rect, Rooms, Settings, StateError, Subject,
    View, WindowSize,
};

use crate::rides::random_play::{Dice, Game, Pcg};

const FRAMES: u64 = 600;
const BACK: usize = 10;

/// What a netcode keeps of a frame's start.
struct Kept {
    settings: Settings,
    window: WindowSize,
    state: velvet_pan::CameraState,
    at: [DVec2; 4],
}

/// A frame with any commands before it: the same for the same number.
fn play(camera: &mut Camera, at: &mut [DVec2; 4], seed: u64, frame: u64) -> View {
    Game(Pcg(seed << 32 | frame)).any_frame(camera, at)
}

#[test]
fn ten_frames_are_ridden_again_to_the_bit() {
    for seed in 0..8 {
        let mut camera = Game(Pcg(seed)).camera();
        let mut at = [DVec2::new(300.0, 60.0); 4];
        let (mut past, mut seen) = (VecDeque::new(), VecDeque::new());
        for frame in 0..FRAMES {
            let (settings, state) = (camera.settings().clone(), camera.state());
            past.push_back(Kept { settings, window: camera.view().window_size(), state, at });
            seen.push_back(play(&mut camera, &mut at, seed, frame));
            if past.len() <= BACK {
                continue;
            }
            let kept = past.pop_front().expect("eleven");
            let mut again = camera.clone();
            again.set_settings(kept.settings, 0.0).expect("valid settings");
            again.resize(kept.window);
            again.restore(kept.state).expect("a state of a camera");
            let mut at_then = kept.at;
            for (back, view) in (0..).zip(&seen) {
                let number = frame + back - BACK as u64;
                let ridden = play(&mut again, &mut at_then, seed, number);
                assert_eq!(ridden, *view, "seed {seed}, frame {number}");
            }
            assert_eq!(again.state(), camera.state(), "seed {seed}, frame {frame}");
            seen.pop_front();
        }
    }
}

/// Three cameras with any commands, and glides between them.
fn play_all(cameras: &mut Cameras<u32>, at: &mut [DVec2; 4], seed: u64, frame: u64) -> View {
    let mut dice = Pcg(seed << 40 | frame);
    match dice.below(20) {
        0 => assert!(cameras.switch_to(&dice.below(3))),
        1..4 => {
            let ease = dice.pick(&[Ease::Smooth, Ease::Linear, Ease::InOut]);
            assert!(cameras.glide_to(&dice.below(3), dice.fair(0.0, 0.5), ease));
        }
        _ => {}
    }
    for (key, camera) in cameras.iter_mut() {
        play(camera, at, seed + u64::from(*key), frame);
    }
    cameras.view(dice.fair(0.0, 0.05))
}

#[test]
fn glides_between_cameras_are_ridden_again_to_the_bit() {
    for seed in (0..60).step_by(10) {
        let mut cameras = Cameras::new(0, Game(Pcg(seed)).camera());
        for key in 1..3 {
            cameras.insert(key, Game(Pcg(seed + u64::from(key))).camera());
        }
        let mut at = [DVec2::new(300.0, 60.0); 4];
        let (mut past, mut seen) = (VecDeque::new(), VecDeque::new());
        for frame in 0..200 {
            let each = cameras.iter().map(|(key, camera)| {
                (*key, camera.settings().clone(), camera.view().window_size())
            });
            past.push_back((each.collect::<Vec<_>>(), cameras.state(), at));
            seen.push_back(play_all(&mut cameras, &mut at, seed, frame));
            if past.len() <= BACK {
                continue;
            }
            let (each, state, mut at_then) = past.pop_front().expect("eleven");
            let mut again = cameras.clone();
            for (key, settings, window) in each {
                let camera = again.get_mut(&key).expect("one of three");
                camera.set_settings(settings, 0.0).expect("valid settings");
                camera.resize(window);
            }
            again.restore(&state).expect("the same cameras");
            for (back, view) in (0..).zip(&seen) {
                let number = frame + back - BACK as u64;
                let ridden = play_all(&mut again, &mut at_then, seed, number);
                assert_eq!(ridden, *view, "seed {seed}, frame {number}");
            }
            assert_eq!(again.state(), cameras.state(), "seed {seed}, frame {frame}");
            seen.pop_front();
        }
        let mut fewer = Cameras::new(0, Camera::new(Settings::default()).expect("valid"));
        let before = fewer.state();
        assert_eq!(fewer.restore(&cameras.state()), Err(StateError::UnknownCamera));
        assert_eq!(fewer.state(), before);
    }
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
