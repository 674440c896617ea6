//! The camera follows: exactly, at any frame rate, inside its world.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan::{
    Axes, Bounds, Camera, Cue, LookAhead, PerAxis, Rect, Rooms, Screen, Settings, Shake,
    SmallWorld, Smoothing, Subject, YAxis,
};

use crate::support::properties::properties;

fn smooth(half_life: f64) -> Settings {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(half_life).into();
    settings
}

fn camera(settings: Settings) -> Camera {
    Camera::new(settings).expect("valid settings")
}

/// A subject that runs, turns and rests, with finite acceleration.
fn subject(t: f64) -> DVec2 {
    DVec2::new(600.0 + 260.0 * (0.9 * t).sin(), 400.0 + 90.0 * (1.7 * t).cos())
}

/// The centres of a ride, one every 1/30 s.
fn ride(settings: &Settings, fps: u32) -> Vec<DVec2> {
    let mut camera = camera(settings.clone());
    let frames = 0..=10 * fps;
    let views = frames.map(|frame| {
        let step = if frame == 0 { 0.0 } else { 1.0 / f64::from(fps) };
        camera.follow(step, subject(f64::from(frame) / f64::from(fps)))
    });
    views.step_by((fps / 30) as usize).map(|view| view.centre()).collect()
}

#[test]
fn a_goal_in_a_straight_line_is_followed_in_closed_form() {
    // c(t) = g(t) − v/k + (c0 − g0 + v/k)·e^(−kt), with k = ln 2 / h.
    let (h, v) = (0.2, DVec2::new(140.0, -35.0));
    let k = core::f64::consts::LN_2 / h;
    let mut camera = camera(smooth(h));
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
fn frame_rates_agree() {
    let mut settings = smooth(0.12);
    settings.follow.anchor = DVec2::new(0.5, 0.6);
    let mut bounded = settings.clone();
    bounded.bounds = Some(Bounds::new(Rect::new([400, 250], [980, 560])));
    for settings in [settings, bounded] {
        let slow = ride(&settings, 30);
        for fps in [60, 120, 240] {
            let fast = ride(&settings, fps);
            let apart = slow.iter().zip(&fast).map(|(a, b)| (*a - *b).length()).fold(0.0, f64::max);
            assert!(apart < 0.5, "{fps} frames a second: {apart} screen pixels apart");
        }
    }
}

#[test]
fn the_view_comes_to_true_rest() {
    let mut camera = camera(smooth(0.1));
    camera.follow(0.0, [0, 0]);
    let views: Vec<_> = (0..300).map(|_| camera.follow(1.0 / 60.0, [100, 40])).collect();
    assert_eq!(views[299].centre(), DVec2::new(100.0, 40.0));
    let arrived = views.iter().position(|view| view.centre() == views[299].centre());
    assert!(arrived.is_some_and(|frame| (60..110).contains(&frame)), "{arrived:?}");
}

#[test]
fn a_long_step_along_a_bound_is_many_short_ones() {
    let mut settings = smooth(0.15);
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [1000, 1000])));
    let (mut once, mut often) = (camera(settings.clone()), camera(settings));
    // The subject runs from open ground past the edge where the view stops (x = 840), and on.
    let way = |t: f64| DVec2::new(650.0 + 300.0 * t, 500.0 + 100.0 * t);
    once.follow(0.0, way(0.0));
    often.follow(0.0, way(0.0));
    let single = once.follow(1.0, way(1.0)).centre();
    let stepwise = (1..=4096).map(|i| often.follow(1.0 / 4096.0, way(f64::from(i) / 4096.0)));
    let last = stepwise.last().expect("steps").centre();
    assert!((single - last).length() < 1e-6, "{single} and {last}");
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
    let mut settings = Settings::default();
    settings.follow.smoothing = PerAxis { x: Smoothing::HalfLife(0.1), y: Smoothing::None };
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
    let mut camera = camera(smooth(0.1));
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
fn a_saved_moment_goes_on_with_the_same_bits() {
    let mut camera = camera(smooth(0.3));
    camera.follow(0.0, subject(0.0));
    let frames = |camera: &mut Camera| -> Vec<_> {
        (1..50).map(|i| camera.follow(0.02, subject(0.02 * f64::from(i)))).collect()
    };
    let saved = camera.state();
    let first = frames(&mut camera);
    camera.restore(saved).expect("its own state");
    assert_eq!(first, frames(&mut camera));
}

#[test]
fn every_setting_out_of_range_is_named() {
    let refused = |change: fn(&mut Settings)| {
        let mut settings = Settings::default();
        change(&mut settings);
        Camera::new(settings).expect_err("refused").field().to_owned()
    };
    assert_eq!(refused(|s| s.screen.size = UVec2::new(0, 180)), "screen.size");
    assert_eq!(refused(|s| s.screen.unit_pixels = 0.0), "screen.unit_pixels");
    assert_eq!(refused(|s| s.follow.anchor.y = -0.1), "follow.anchor");
    assert_eq!(refused(|s| s.follow.offset.x = f64::NAN), "follow.offset");
    assert_eq!(refused(|s| s.follow.smoothing.y = Smoothing::HalfLife(-1.0)), "follow.smoothing");
    assert_eq!(refused(|s| s.zoom.level = f64::INFINITY), "zoom.level");
    assert_eq!(refused(|s| s.bounds = Some(Bounds::new(Rect::new([0, 0], [0, 9])))), "bounds.rect");
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

properties! {
    #![cases(400)]

    /// The view always stays inside hard bounds, and no number is NaN.
    #[test]
    fn the_view_never_leaves_its_bounds(
        frames in prop::collection::vec(
            (0.0..10.0_f64, -5000.0..9000.0_f64, -5000.0..9000.0_f64, 0.3..6.0_f64, -7.0..7.0_f64),
            1..60,
        ),
        size in (1..500_u32, 1..500_u32),
        anchor in (0.0..=1.0_f64, 0.0..=1.0_f64),
        turned in any::<bool>(),
    ) {
        let mut settings = smooth(0.2);
        settings.screen.size = size.into();
        settings.follow.anchor = anchor.into();
        let rect = Rect::new([-1000, 0], [3000, 4000]);
        settings.bounds = Some(Bounds::new(rect));
        let mut camera = camera(settings);
        for (step, x, y, zoom, rotation) in frames {
            camera.zoom_now(zoom);
            camera.rotate_now(if turned { rotation } else { 0.0 });
            let visible = camera.follow(step, [x, y]).visible_world();
            prop_assert!(visible.min.is_finite() && visible.max.is_finite());
            let slack = 1e-9 * 5000.0;
            for axis in 0..2 {
                let inside = visible.min[axis] >= rect.min[axis] - slack
                    && visible.max[axis] <= rect.max[axis] + slack;
                prop_assert!(inside || visible.size()[axis] > rect.size()[axis]);
            }
        }
    }

    #[test]
    fn any_bits_in_any_frame_leave_a_finite_view(
        frames in prop::collection::vec(prop::array::uniform5(any::<u64>()), 1..40),
    ) {
        let mut camera = camera(smooth(0.2));
        for frame in frames {
            let [step, x, y, zoom, rotation] = frame.map(f64::from_bits);
            camera.zoom_now(zoom);
            camera.rotate_now(rotation);
            let view = camera.follow(step, [x, y]);
            prop_assert!(view.centre().is_finite());
        }
    }
}

#[test]
fn a_world_of_another_unit_feels_the_same_with_the_same_numbers() {
    let ride = |unit: f64| {
        let mut settings = smooth(0.1);
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

#[test]
fn look_ahead_begins_at_once_where_a_unit_is_a_tile() {
    let mut settings = Settings::default();
    settings.screen.unit_pixels = 16.0;
    settings.follow.look_ahead = Some(LookAhead::default());
    let mut camera = camera(settings);
    let begins = (0..120).find(|frame| {
        let t = f64::from(*frame) / 60.0;
        let place = DVec2::new(8.9 * t, 0.0);
        camera.follow(if *frame == 0 { 0.0 } else { 1.0 / 60.0 }, place).centre().x > place.x + 1e-9
    });
    // 0.04 of 20 units at 8.9 units/s.
    assert!(begins.is_some_and(|frame| frame <= 7), "{begins:?}");
}
