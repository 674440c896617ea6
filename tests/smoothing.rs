//! Smoothing: other notations for a half-life, and the lag, against loops in small steps.

use velvet_pan::Smoothing;
use velvet_pan::glam::DVec2;

use crate::support::{camera, smooth};

/// "A tenth of the way each frame" as a half-life gives the same place after any number of frames.
#[test]
fn a_part_of_the_way_each_frame_is_a_half_life() {
    for (fraction, fps) in [(0.1, 60.0), (0.02, 144.0), (0.5, 30.0), (0.9, 20.0)] {
        for smoothing in
            [Smoothing::per_frame(fraction, fps), Smoothing::divided(1.0 / fraction, fps)]
        {
            let mut camera = camera(smooth(smoothing));
            camera.follow(0.0, [0, 0]);
            camera.follow(1.0 / fps, [400, 0]); // more than a view away: the goal is there, the view not yet
            let mut rest = 400.0;
            for frame in 0..12 {
                let x = camera.follow(1.0 / fps, [400, 0]).centre().x;
                rest -= rest * fraction;
                assert!((400.0 - x - rest).abs() < 0.02, "{fraction} at {fps}, frame {frame}: {x}");
            }
        }
    }
    assert_eq!(Smoothing::per_frame(1.0, 60.0), Smoothing::None);
    assert!(matches!(Smoothing::per_frame(0.0, 60.0), Smoothing::HalfLife(long) if long >= 1000.0));
}

/// A rate per second, simulated in steps of a microsecond, and a time constant.
#[test]
fn a_rate_per_second_is_a_half_life() {
    for rate in [0.5, 5.0, 40.0] {
        let mut camera = camera(smooth(Smoothing::per_second(rate)));
        camera.follow(0.0, [0, 0]);
        camera.follow(0.01, [400, 0]);
        let mut x = 0.0;
        for _frame in 0..20 {
            for _step in 0..10_000 {
                x += (400.0 - x) * rate * 1e-6;
            }
            assert!((camera.follow(0.01, [400, 0]).centre().x - x).abs() < 0.03, "{rate}: {x}");
        }
    }
    assert_eq!(Smoothing::per_second(f64::INFINITY), Smoothing::None);
    for rate in [0.0, -1.0, f64::NAN] {
        assert_eq!(Smoothing::per_second(rate), Smoothing::HalfLife(1e6));
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
        let mut camera = camera(smooth(smoothing));
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
