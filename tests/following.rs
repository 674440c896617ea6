//! The camera follows: exactly, at any frame rate, inside its world.

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Axes, Bounds, Camera, Cue, LookAhead, PerAxis, Rect, Rooms, Screen, Settings, Shake,
    SmallWorld, Smoothing, Subject, YAxis,
};

use crate::support::{camera, smooth};

#[test]
fn a_goal_in_a_straight_line_is_followed_in_closed_form() {
    // c(t) = g(t) − v/k + (c0 − g0 + v/k)·e^(−kt), with k = ln 2 / h.
    let (h, v) = (0.2, DVec2::new(140.0, -35.0));
    let k = core::f64::consts::LN_2 / h;
    let mut camera = camera(smooth(Smoothing::HalfLife(h)));
    let start = DVec2::new(10.0, 20.0);
    camera.follow(0.0, start);
    let mut t = 0.0;
    for frame in 0..600 {
        let step = 0.001 * f64::from(frame % 37);
        t += step;
        let centre = camera.follow(step, start + v * t).centre();
        let expected = start + v * t - v / k + v / k * (-k * t).exp();
        assert!((centre - expected).length() < 1e-9, "at {t}: {centre} for {expected}");
    }
}

#[test]
fn the_view_comes_to_true_rest() {
    let mut camera = camera(smooth(Smoothing::HalfLife(0.1)));
    camera.follow(0.0, [0, 0]);
    let views: Vec<_> = (0..300).map(|_| camera.follow(1.0 / 60.0, [100, 40])).collect();
    assert_eq!(views[299].centre(), DVec2::new(100.0, 40.0));
    let arrived = views.iter().position(|view| view.centre() == views[299].centre());
    assert!(arrived.is_some_and(|frame| (60..110).contains(&frame)), "{arrived:?}");
}

/// Where the first subject was, or where the game placed the view before.
#[test]
fn axes_that_are_not_followed_stay() {
    for (axes, first, placed) in [
        (Axes::Both, [600.0, 900.0], [600.0, 900.0]),
        (Axes::X, [600.0, 700.0], [600.0, 40.0]),
        (Axes::Y, [500.0, 900.0], [30.0, 900.0]),
        (Axes::None, [500.0, 700.0], [30.0, 40.0]),
    ] {
        let mut settings = Settings::default();
        settings.follow.axes = axes;
        for (places, expected) in [(false, first), (true, placed)] {
            let mut camera = camera(settings.clone());
            if places {
                camera.place_at([30, 40]);
            }
            camera.follow(0.1, [500, 700]);
            assert_eq!(camera.follow(0.1, [600, 900]).centre(), expected.into(), "{axes:?}");
            camera.cut();
            assert_eq!(camera.follow(0.1, [600, 900]).centre(), expected.into(), "{axes:?}, cut");
        }
    }
}

#[test]
fn each_axis_may_have_its_own_smoothing() {
    let settings = smooth(PerAxis { x: Smoothing::HalfLife(0.1), y: Smoothing::None });
    let mut camera = camera(settings);
    camera.follow(0.0, [0, 0]);
    let centre = camera.follow(1e-9, [0, 64]).centre();
    assert!(centre.x == 0.0 && centre.y == 64.0, "{centre}");
    camera.place_at([100, 64]);
    let centre = camera.follow(0.1, [0, 0]).centre();
    assert!(centre.x > 20.0 && centre.y == 0.0, "{centre}");
}

#[test]
fn the_subject_is_held_at_its_anchor_at_every_zoom_and_rotation() {
    let mut settings = Settings::default();
    settings.follow.anchor = DVec2::new(0.3, 0.65);
    settings.follow.offset = DVec2::new(4.0, -12.0);
    for y_axis in [YAxis::Down, YAxis::Up] {
        settings.screen.y_axis = y_axis;
        let mut camera = camera(settings.clone());
        for (zoom, rotation) in [(1.0, 0.0), (3.0, 0.0), (0.5, 1.2), (2.0, -4.0)] {
            camera.zoom_now(zoom);
            camera.rotate_now(rotation);
            let view = camera.follow(0.016, [900, 300]);
            let place = view.world_to_screen([904, 288]).as_dvec2() / DVec2::new(320.0, 180.0);
            assert!(
                (place - settings.follow.anchor).length() < 1e-6,
                "{y_axis:?} {zoom} {rotation}"
            );
        }
    }
}

#[test]
fn a_world_smaller_than_the_view_stands_as_told() {
    let rect = Rect::new([0, 0], [100, 50]);
    let places = [
        (SmallWorld::Centre, YAxis::Down, [110.0, 65.0]),
        (SmallWorld::Start, YAxis::Down, [0.0, 0.0]),
        (SmallWorld::End, YAxis::Down, [220.0, 130.0]),
        (SmallWorld::Start, YAxis::Up, [0.0, 0.0]),
        (SmallWorld::End, YAxis::Up, [220.0, 130.0]),
    ];
    for (small, y_axis, corner) in places {
        let mut settings = Settings::default();
        settings.screen = Screen { y_axis, ..settings.screen };
        settings.bounds = Some(Bounds { small: small.into(), ..Bounds::new(rect) });
        let view = camera(settings).follow(0.1, [3000, -800]);
        let shown = view.world_to_screen_rect(&rect).min.as_dvec2();
        assert_eq!(shown, DVec2::from(corner), "{small:?}, {y_axis:?}");
    }
}

#[test]
fn bad_numbers_never_move_the_camera() {
    let mut camera = camera(smooth(Smoothing::HalfLife(0.1)));
    let before = camera.follow(0.0, [50, 60]);
    for bad in [f64::NAN, f64::INFINITY, f64::NEG_INFINITY] {
        // A lost subject: nothing moves, but time goes on.
        let time = camera.view().time();
        let lost = camera.follow(0.1, [bad, 60.0]);
        assert_eq!((lost.time(), lost.with_time(0.0)), (time + 0.1, before));
        let before = before.with_time(lost.time());
        assert_eq!(camera.follow(bad, [900, 900]), before);
        camera.place_at([0.0, bad]);
        camera.rotate_now(bad);
        assert_eq!(camera.advance(-1.0), before);
        // The subject is back where it was.
        camera.follow(0.0, [50, 60]);
    }
    camera.zoom_now(f64::NAN);
    assert_eq!(camera.view().with_time(0.0), before);
}

#[test]
fn look_ahead_needs_only_its_time_on_either_axis() {
    let mut settings = Settings::default();
    settings.follow.look_ahead =
        Some(LookAhead { seconds: DVec2::splat(0.4), ..LookAhead::default() });
    for way in [DVec2::X, DVec2::Y] {
        let mut camera = Camera::new(settings.clone()).expect("valid settings");
        for frame in 0..240 {
            camera.follow(1.0 / 60.0, way * f64::from(frame));
        }
        let ahead = (camera.view().centre() - way * 239.0).dot(way);
        assert!((ahead - 24.0).abs() < 0.1, "{way}: {ahead}"); // 60 units a second, 0.4 s
    }
}

/// A courier who stands on a swinging platform does not run: look-ahead stays where it is.
#[test]
fn a_platform_that_swings_is_not_looked_ahead_of() {
    let mut settings = Settings::default();
    settings.follow.look_ahead = Some(LookAhead::default());
    for rate in [30.0, 60.0, 144.0] {
        for given in [false, true] {
            let mut camera = Camera::new(settings.clone()).expect("valid settings");
            let mut worst = [0.0_f64; 2];
            for frame in 0..(12.0 * rate) as u32 {
                let t = f64::from(frame) / rate;
                // At most 60 units a second; after 6 s it is not told any more.
                let (x, speed) = (100.0 - 85.0 * (0.7 * t).cos(), 59.5 * (0.7 * t).sin());
                let mut courier = Subject::from([x, 50.0]);
                if given {
                    courier = courier.with_velocity([speed, 0.0]);
                }
                if t < 6.0 {
                    courier = courier.with_carrier([speed, 0.0]);
                }
                let ahead = camera.follow(1.0 / rate, courier).centre().x - x;
                let phase = usize::from(t >= 6.0);
                worst[phase] = worst[phase].max(ahead.abs());
            }
            assert!(worst[0] < 0.01, "{rate}, {given}: {worst:?}");
            assert!(
                worst[1] > 15.0,
                "{rate}, {given}: without the carrier it is movement, {worst:?}"
            );
        }
    }
}

/// Sizes that are a matter of feel, the reach of a cue too, are shares of the design screen.
#[test]
fn a_world_of_another_unit_feels_the_same_with_the_same_numbers() {
    let ride = |unit: f64| {
        let mut settings = smooth(Smoothing::HalfLife(0.1));
        settings.screen.unit_pixels = unit;
        settings.follow.look_ahead = Some(LookAhead::default());
        let world = Rect::new(DVec2::splat(-500.0) / unit, DVec2::splat(500.0) / unit);
        settings.bounds = Some(Bounds { cushion_depth: 0.2, ..Bounds::new(world) });
        let (size, origin) = (DVec2::splat(400.0) / unit, DVec2::splat(-200.0) / unit);
        settings.rooms = Some(Rooms { size: Some(size), origin, ..Rooms::default() });
        settings
            .cues
            .insert("gong".into(), Cue { shake: Some(Shake::default()), ..Cue::default() });
        let mut camera = camera(settings);
        let frame = |frame: u32| {
            let t = f64::from(frame) / 60.0;
            if frame == 30 {
                camera.cue("gong", DVec2::new(300.0, 0.0) / unit).expect("known");
            }
            let place = DVec2::new(300.0 * (1.3 * t).sin(), 190.0 * (0.7 * t).sin());
            let view = camera.follow(1.0 / 60.0, place / unit);
            (view.centre() * unit, view.shake().pixels)
        };
        (0..600).map(frame).collect::<Vec<_>>()
    };
    let plain = ride(1.0);
    for unit in [16.0, 0.25, 100.0] {
        for (frame, (one, other)) in plain.iter().zip(ride(unit)).enumerate() {
            assert!(one.0.distance(other.0) < 1e-6, "{unit}: frame {frame}");
            assert!(one.1.distance(other.1) < 1e-6, "{unit}: frame {frame}");
        }
    }
}
