//! Small parts that games use alone: smoothing, rectangles, windows, times.

use std::time::Duration;

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{
    Camera, Cue, CueCall, Grid, Layer, Lens, Rect, Screen, ScreenRect, Settings, Shake,
    ShakeMotion, Smoothing, Snap, View, WindowPoint, WindowSize, Zone, ZoomNudge, ZoomRange,
    edge_push,
};

/// "A tenth of the way each frame" as a half-life gives the same place after any number of frames.
#[test]
fn a_part_of_the_way_each_frame_is_a_half_life() {
    for (fraction, fps) in [(0.1, 60.0), (0.02, 144.0), (0.5, 30.0), (0.9, 20.0)] {
        for smoothing in
            [Smoothing::per_frame(fraction, fps), Smoothing::divided(1.0 / fraction, fps)]
        {
            let mut settings = Settings::default();
            settings.follow.smoothing = smoothing.into();
            let mut camera = Camera::new(settings).expect("valid settings");
            camera.follow(0.0, [0, 0]);
            camera.follow(1e-9, [100, 0]); // the goal is there, the view not yet
            let mut rest = 100.0;
            for frame in 0..12 {
                let x = camera.follow(1.0 / fps, [100, 0]).centre().x;
                rest -= rest * fraction;
                assert!((100.0 - x - rest).abs() < 0.02, "{fraction} at {fps}, frame {frame}: {x}");
            }
        }
    }
    assert_eq!(Smoothing::per_frame(1.0, 60.0), Smoothing::None);
    assert!(matches!(Smoothing::per_frame(0.0, 60.0), Smoothing::HalfLife(long) if long >= 1000.0));
}

/// A rate per second, simulated in steps of 1/100,000 s, and a time constant.
#[test]
fn a_rate_per_second_is_a_half_life() {
    for rate in [0.5, 5.0, 40.0] {
        let mut settings = Settings::default();
        settings.follow.smoothing = Smoothing::per_second(rate).into();
        let mut camera = Camera::new(settings).expect("valid settings");
        camera.follow(0.0, [0, 0]);
        camera.follow(1e-9, [100, 0]);
        let mut x = 0.0;
        for _frame in 0..20 {
            for _step in 0..1000 {
                x += (100.0 - x) * rate * 1e-5;
            }
            assert!((camera.follow(0.01, [100, 0]).centre().x - x).abs() < 0.03, "{rate}: {x}");
        }
    }
    assert_eq!(Smoothing::per_second(f64::INFINITY), Smoothing::None);
    for rate in [0.0, -1.0, f64::NAN] {
        assert_eq!(Smoothing::per_second(rate), Smoothing::HalfLife(1e6));
    }
}

/// A shake counted in frames, and one that loses a part of its strength in each, beside the loops that they stand for.
#[test]
fn shakes_in_frames() {
    let hit = Shake::default().with_frames(12.0, 60.0);
    let strong = (0..30).filter(|frame| hit.envelope(f64::from(*frame) / 60.0 + 1e-6) > 0.5);
    assert_eq!(strong.count(), 11, "all but the first, in which it rises");
    for (factor, fps) in [(0.9, 60.0), (0.8, 30.0), (0.98, 144.0)] {
        let decaying = Shake::default().with_decay(factor, fps);
        let (mut strength, mut frame) = (1.0, 0.0);
        while strength > 0.5 {
            (strength, frame) = (strength * factor, frame + 1.0);
        }
        let before = decaying.envelope((frame - 1.0) / fps);
        assert!(decaying.envelope(frame / fps) <= 0.5 && before >= 0.5, "{factor}");
        assert!(decaying.is_over(10.0 * frame / fps));
    }
    for odd in [f64::NAN, f64::INFINITY, -1.0, 0.0, 1e300] {
        let shakes = [
            Shake::default().with_decay(odd, 60.0),
            Shake::default().with_decay(0.9, odd),
            Shake::default().with_frames(odd, 60.0),
            Shake::default().with_frames(9.0, odd),
        ];
        for shake in shakes {
            let cue = Cue { shake: Some(shake), ..Cue::default() };
            let settings = Settings { cues: [("odd".into(), cue)].into(), ..Settings::default() };
            settings.validate().unwrap_or_else(|error| panic!("{odd}: {error}"));
        }
    }
}

/// A layer that goes along with the camera by a share is drawn where a world point is that does so.
#[test]
fn a_layer_goes_along_with_the_camera() {
    for share in [0.0, 0.3, 1.0, -0.5] {
        let layer = Layer::going_along("ridge", share);
        let at = |x: f64| View::new(Lens::new(&Screen::default()), [x, 0.0], Snap::Off);
        for x in [0.0, 50.0, -700.0] {
            let carried = DVec2::new(20.0 + share * x, 5.0);
            let drawn = at(x).layer(&layer).world_to_screen([20.0, 5.0]);
            assert!((drawn - at(x).world_to_screen(carried)).length() < 1e-3, "{share} at {x}");
        }
    }
}

/// How far a view stays behind, measured on one that runs for long enough.
#[test]
fn the_lag_is_the_one_that_is_told() {
    for (smoothing, speed) in [
        (Smoothing::HalfLife(0.2), 150.0),
        (Smoothing::Settle(0.7), 150.0),
        (Smoothing::Speed(300.0), 150.0),
        (Smoothing::Speed(150.0), 150.0),
        (Smoothing::None, 150.0),
    ] {
        let mut settings = Settings::default();
        settings.follow.smoothing = smoothing.into();
        let mut camera = Camera::new(settings).expect("valid settings");
        camera.follow(0.0, [0, 0]);
        let at = |frame: u32| DVec2::new(speed * f64::from(frame) / 60.0, 0.0);
        let end =
            (1..1200).map(|frame| camera.follow(1.0 / 60.0, at(frame))).last().expect("a frame");
        let behind = at(1199).x - end.centre().x;
        let told = smoothing.lag_at(speed);
        assert!((behind - told).abs() < 0.2, "{smoothing:?}: {behind} for {told}");
    }
    assert_eq!(Smoothing::Speed(100.0).lag_at(150.0), f64::INFINITY);
}

#[test]
fn rectangles_have_a_middle() {
    let rect = ScreenRect::new(Vec2::new(10.0, 50.0), Vec2::new(40.0, 20.0));
    assert_eq!((rect.centre(), rect.size()), (Vec2::new(25.0, 35.0), Vec2::new(30.0, 30.0)));
    let rect = Rect::from_corner_size([-20, 5], [60, 30]);
    assert_eq!((rect.centre(), rect.size()), (DVec2::new(10.0, 20.0), DVec2::new(60.0, 30.0)));
}

#[test]
fn windows_come_from_what_a_game_has() {
    let size = WindowSize { width: 640, height: 360 };
    assert_eq!([WindowSize::from((640, 360)), WindowSize::from([640, 360])], [size; 2]);
    assert_eq!(WindowSize::from(UVec2::new(640, 360)), size);
    let point = WindowPoint { x: 700.0, y: 40.0 };
    assert_eq!(WindowPoint::from(Vec2::new(700.0, 40.0)), point);
    assert_eq!(point.within(UVec2::new(640, 30)), WindowPoint { x: 60.0, y: 10.0 });
}

/// Seconds as any of the numbers that games count them in.
#[test]
fn times_come_from_what_a_game_has() {
    let ride = |camera: &mut Camera| camera.view().time();
    let mut camera = Camera::new(Settings::default()).expect("valid settings");
    camera.follow(0.5_f32, [0, 0]);
    assert_eq!(ride(&mut camera), 0.5);
    camera.follow(Duration::from_millis(250), [0, 0]);
    assert_eq!(ride(&mut camera), 0.75);
    camera.follow(0.25_f64, [0, 0]);
    camera.follow(-3.0, [0, 0]);
    camera.follow(f64::INFINITY, [0, 0]);
    assert_eq!(ride(&mut camera), 1.0);
}

/// At the corners of a margin of 20 pixels, and within and beyond it.
#[test]
fn the_pointer_pushes_at_the_screens_edge() {
    let push = |x: f32, y: f32| edge_push(Vec2::new(x, y), UVec2::new(320, 180), 20.0);
    assert_eq!(push(160.0, 90.0), Vec2::ZERO);
    assert_eq!((push(20.0, 90.0), push(300.0, 90.0)), (Vec2::ZERO, Vec2::ZERO));
    assert_eq!((push(10.0, 90.0), push(310.0, 90.0)), (Vec2::new(-0.5, 0.0), Vec2::new(0.5, 0.0)));
    assert_eq!(
        (push(160.0, 5.0), push(160.0, 175.0)),
        (Vec2::new(0.0, -0.75), Vec2::new(0.0, 0.75))
    );
    assert_eq!((push(0.0, 0.0), push(320.0, 180.0)), (Vec2::splat(-1.0), Vec2::splat(1.0)));
    assert_eq!(push(f32::NAN, 3.0), Vec2::ZERO);
}

/// A nudge of the zoom rises, stays and is taken back: in logarithms half of it is there half way in and out.
#[test]
fn a_nudge_has_its_times() {
    let nudge = ZoomNudge { by: 4.0, rise: 0.2, hold: 0.3, fade: 0.4 };
    let mut settings = Settings::default();
    settings.cues.insert("gong".into(), Cue { zoom: Some(nudge), ..Cue::default() });
    for (age, expected) in [
        (0.0, 1.0),
        (0.1, 2.0),
        (0.2, 4.0),
        (0.35, 4.0),
        (0.5, 4.0),
        (0.7, 2.0),
        (0.9, 1.0),
        (2.0, 1.0),
    ] {
        let mut camera = Camera::new(settings.clone()).expect("valid settings");
        camera.follow(0.0, [0, 0]);
        camera.cue("gong", CueCall::anywhere().since(age)).expect("a cue");
        let zoom = camera.follow(0.01, [0, 0]).lens().zoom();
        assert!((zoom - expected).abs() < 1e-9, "{zoom} at {age}");
        let mut weak = Camera::new(settings.clone()).expect("valid settings");
        weak.cue("gong", CueCall::anywhere().since(age).with_strength(0.5)).expect("a cue");
        let half = weak.follow(0.01, [0, 0]).lens().zoom();
        assert!((half * half - expected).abs() < 1e-9, "{half} at {age}");
    }
}

/// Of twelve shakes that live the weakest gives way to a thirteenth, wherever in the row it stands.
#[test]
fn the_weakest_shake_gives_way() {
    let shake = |reach: f64| Shake {
        reach: DVec2::new(reach, 0.0),
        hold: 100.0,
        motion: ShakeMotion::Kick(DVec2::X),
        hz: 1.0,
        ..Shake::default()
    };
    for weakest in [0, 3, 11] {
        let mut settings = Settings::default();
        settings.shake.limit.reach = DVec2::splat(1e4);
        let mut camera = Camera::new(settings).expect("valid settings");
        camera.follow(0.0, [0, 0]);
        for number in 0..12 {
            camera.shake(&shake(if number == weakest { 1.0 } else { 40.0 }), 1.0);
        }
        camera.shake(&shake(5.0), 1.0);
        camera.follow(0.0, [0, 0]);
        // A quarter of a second is where a kick of one swing a second is farthest out.
        let view = (0..10).map(|_| camera.follow(0.025, [0, 0])).last().expect("a frame");
        let expected = 11.0 * 40.0 + 5.0;
        assert!((view.shake().pixels.x - expected).abs() < 1e-6, "{}", view.shake().pixels.x);
    }
}

#[test]
fn a_cue_that_is_not_there_is_named() {
    let mut settings = Settings::default();
    settings.cues.insert("gong".into(), Cue::default());
    let mut camera = Camera::new(settings).expect("valid settings");
    let fault = camera.cue("bong", CueCall::anywhere()).expect_err("no such cue");
    assert_eq!((fault.name(), fault.known()), ("bong", &["gong".to_owned()][..]));
    assert_eq!(fault.to_string(), "no cue \"bong\": the tuning has gong");
}

#[test]
fn values_that_do_not_fit_each_other_are_named() {
    let faults = |change: &dyn Fn(&mut Settings)| -> Vec<String> {
        let mut settings = Settings::default();
        change(&mut settings);
        settings.faults().iter().map(ToString::to_string).collect()
    };
    let named = |cue: Cue| {
        faults(&|settings| {
            settings.cues.insert("gong".into(), cue);
        })
    };
    let far = named(Cue { full_within: 2.0, none_beyond: 2.0, ..Cue::default() });
    assert!(far.len() == 1 && far[0].starts_with("cues.gong.none_beyond = 2"), "{far:?}");
    let kick = Shake { motion: ShakeMotion::Kick(DVec2::ZERO), ..Shake::default() };
    let kick = named(Cue { shake: Some(kick), ..Cue::default() });
    assert!(kick.len() == 1 && kick[0].starts_with("cues.gong.shake.motion"), "{kick:?}");
    let zooms = |min, max, level| {
        faults(&|settings| {
            settings.zoom.range = ZoomRange { min, max };
            settings.zoom.level = level;
        })
    };
    assert_eq!((zooms(1.0, 1.0, 1.0).len(), zooms(0.5, 2.0, 2.0).len()), (0, 0));
    assert_eq!((zooms(2.0, 1.0, 1.5).len(), zooms(0.5, 2.0, 3.0).len()), (1, 1));
}

#[test]
fn a_grid_tells_its_size_and_a_zone_its_blend() {
    let grid = Grid::new(23, 17, [16, 12]);
    assert_eq!((grid.columns(), grid.rows(), grid.tile_size()), (23, 17, DVec2::new(16.0, 12.0)));
    let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Off);
    assert!(!view.tiles(&grid).is_empty());
    assert_eq!(Zone::new(Rect::new([0, 0], [9, 9])).fade, 0.5);
    assert!(!Layer::at_rate("ridge", [1.0, 1.0]).is_foreground());
    assert!(Layer::at_rate("mist", [1.0, 1.1]).is_foreground());
    assert_eq!(Layer::named("ridge").name, "ridge");
}
