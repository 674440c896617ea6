//! Settings that change while the camera runs: the change takes its time and disturbs nothing else.

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Bounds, Camera, LookAhead, Rect, Setting, SettingKind, Settings, Smoothing, Value, View,
};

use crate::support::smooth;

const DT: f64 = 1.0 / 60.0;

fn settings() -> Settings {
    let mut settings = smooth(Smoothing::HalfLife(0.12));
    settings.follow.look_ahead = Some(LookAhead::default());
    settings.bounds = Some(Bounds::new(Rect::from_corner_size([-5000, -5000], [20_000, 10_000])));
    settings
}

fn subject(frame: u32) -> DVec2 {
    DVec2::new(200.0 + f64::from(frame) * 1.5, 300.0)
}

/// A camera that has followed for a second.
fn running(settings: Settings) -> Camera {
    let mut camera = Camera::new(settings).expect("valid settings");
    for frame in 0..60 {
        camera.follow(DT, subject(frame));
    }
    camera
}

#[test]
fn a_zoom_glides_on_while_other_settings_change_in_every_frame() {
    let (mut changed, mut alone) = (running(settings()), running(settings()));
    changed.zoom_to(3.0);
    alone.zoom_to(3.0);
    for frame in 60..120 {
        let mut settings = changed.settings().clone();
        settings.shake.intensity = 0.5 + f64::from(frame % 2) * 0.1;
        settings.follow.anchor.x = 0.5 + f64::from(frame - 60) * 0.001;
        changed.set_settings(settings, 0.2).expect("valid settings");
        let (one, other) = (changed.follow(DT, subject(frame)), alone.follow(DT, subject(frame)));
        let apart = (one.lens().zoom() / other.lens().zoom()).ln();
        assert!(apart.abs() < 1e-9, "frame {frame}: {apart}");
    }
    assert!(changed.view().lens().zoom() > 2.9);
}

#[test]
fn a_setting_that_is_not_seen_disturbs_nothing() {
    let (mut changed, mut alone) = (running(settings()), running(settings()));
    for frame in 60..180 {
        let mut settings = changed.settings().clone();
        settings.shake.intensity = f64::from(frame % 10) / 10.0;
        changed.set_settings(settings, 0.2).expect("valid settings");
        let (one, other) = (changed.follow(DT, subject(frame)), alone.follow(DT, subject(frame)));
        let apart = (one.centre() - other.centre()).length();
        assert!(apart < 1e-6, "frame {frame}: {apart}");
    }
}

#[test]
fn another_zoom_level_is_reached_within_the_change_s_own_time() {
    let mut camera = running(settings());
    let mut changed = settings();
    changed.zoom.level = 2.0;
    camera.set_settings(changed, 0.2).expect("valid settings");
    assert_eq!(camera.view().lens().zoom(), 1.0);
    let zooms: Vec<f64> =
        (60..80).map(|frame| camera.follow(DT, subject(frame)).lens().zoom()).collect();
    assert!(zooms.windows(2).all(|pair| pair[0] <= pair[1]), "{zooms:?}");
    assert!(zooms[9] < 2.0, "{zooms:?}");
    assert_eq!(zooms[12], 2.0);
    // And a cut is one.
    camera.set_settings(settings(), 0.0).expect("valid settings");
    assert_eq!(camera.view().lens().zoom(), 1.0);
}

/// The value at a fraction of a slider.
fn dragged(setting: &Setting, fraction: f64) -> Option<Value> {
    let [low, high] = setting.usual();
    let number = low + (high - low) * fraction;
    match setting.kind() {
        SettingKind::Number => Some(Value::Number(number)),
        // A smallest and a largest zoom: the smallest is dragged, below the zoom of 1.
        SettingKind::Pair if setting.expected().starts_with("the smallest") => {
            Some(Value::Pair([low + (1.0 - low) * fraction, high]))
        }
        SettingKind::Pair => Some(Value::Pair([number; 2])),
        _ => None,
    }
}

/// The movement from one picture to the next, in screen pixels: that of its middle, and that of its corners by zoom.
fn step(before: &View, after: &View) -> f64 {
    let moved = (after.centre() - before.centre()).length() * after.scale();
    let zoomed = (after.lens().zoom() / before.lens().zoom()).ln().abs() * 183.0;
    moved + zoomed
}

/// The largest step of the view while a slider is dragged from end to end within a second: with changes that take 0.2
/// s, and with changes that cut.
fn worst_steps(path: &str, setting: &Setting) -> [f64; 2] {
    [0.2, 0.0].map(|seconds| {
        let mut settings = settings();
        settings.set(path, dragged(setting, 0.0).expect("a number")).expect(path);
        let mut camera = running(settings);
        let (mut worst, mut before) = (0.0_f64, camera.view());
        for frame in 60..150 {
            let fraction = (f64::from(frame - 60) / 60.0).min(1.0);
            let mut settings = camera.settings().clone();
            settings.set(path, dragged(setting, fraction).expect("a number")).expect(path);
            camera.set_settings(settings, seconds).expect(path);
            let view = camera.follow(DT, subject(frame));
            worst = worst.max(step(&before, &view));
            before = view;
        }
        worst
    })
}

/// Each change fades by `(1 - τ)³(1 + 3τ + 6τ²)`, whose steepest slope is 15/8 per duration. The changes of a drag
/// overlap, and move the view at most by that slope times what the drag moves within a fifth of a second.
#[test]
fn no_slider_moves_the_view_faster_than_its_own_change() {
    let mut tried = 0;
    for (path, setting) in settings().paths() {
        if !setting.is_live() || path.starts_with("screen") || dragged(setting, 0.0).is_none() {
            continue;
        }
        let [eased, cut] = worst_steps(&path, setting);
        println!("{path:<32} {eased:7.2} px a frame; as a cut {cut:7.2}");
        assert!(eased <= cut.max(2.0) * 15.0 / 8.0 + 0.5, "{path}: {eased} for {cut}");
        tried += 1;
    }
    assert!(tried > 20, "{tried}");
}

/// Another smoothing, told within a time: the view neither jumps nor turns back, and then follows as if it had always
/// been so.
#[test]
fn another_smoothing_fades() {
    let walk = |frame: i32| DVec2::new(f64::from(frame) * 150.0 * DT, 0.0);
    let kinds = [
        Smoothing::None,
        Smoothing::HalfLife(0.3),
        Smoothing::HalfLife(0.29),
        Smoothing::HalfLife(0.01),
        Smoothing::Settle(0.8),
        Smoothing::Settle(0.3),
        Smoothing::Speed(400.0),
    ];
    for (from, to) in kinds.iter().flat_map(|from| kinds.iter().map(move |to| (*from, *to))) {
        for seconds in [0.5, 2.0] {
            let mut camera = Camera::new(smooth(from)).expect("valid settings");
            let mut always = Camera::new(smooth(to)).expect("valid settings");
            for frame in 0..300 {
                camera.follow(DT, walk(frame));
                always.follow(DT, walk(frame));
            }
            camera.set_settings(smooth(to), seconds).expect("valid settings");
            let mut last = camera.view().centre().x;
            // The lags differ by at most 65 pixels. Added to 2.5 pixels a frame, that takes its time.
            let most = 2.5 + 70.0 * 2.0 / seconds * DT;
            for frame in 300..450 {
                let now = camera.follow(DT, walk(frame)).centre().x;
                let ahead = always.follow(DT, walk(frame)).centre().x;
                let (moved, name) = (now - last, format!("{from:?} -> {to:?} within {seconds}"));
                let slowest = if seconds > 1.0 { -0.01 } else { 2.5 - 70.0 * 2.0 / seconds * DT };
                assert!(moved > slowest && moved < most, "{name}, frame {frame}: {moved}");
                let over = f64::from(frame - 300) * DT > seconds + DT;
                assert!(
                    !over || (now - ahead).abs() < 0.02,
                    "{name}, frame {frame}: {now} {ahead}"
                );
                last = now;
            }
        }
    }
}

/// A nudge of a half-life moves the view by about the difference of the two lags.
#[test]
fn a_nudge_of_the_smoothing_is_a_nudge_of_the_view() {
    let lag = |half_life: f64| Smoothing::HalfLife(half_life).lag_at(150.0);
    let mut camera = Camera::new(smooth(Smoothing::HalfLife(0.3))).expect("valid settings");
    for frame in 0..300 {
        camera.follow(DT, [150.0 * DT * f64::from(frame), 0.0]);
    }
    for (half_life, first) in [(0.29, 300), (0.3, 330), (0.31, 360)] {
        camera.set_settings(smooth(Smoothing::HalfLife(half_life)), 0.2).expect("valid settings");
        for frame in first..first + 30 {
            let before = camera.view().centre().x;
            let now = camera.follow(DT, [150.0 * DT * f64::from(frame), 0.0]).centre().x;
            assert!(
                (now - before - 2.5).abs() < 0.5,
                "{half_life}, frame {frame}: {}",
                now - before
            );
        }
        let behind = 150.0 * DT * f64::from(first + 29) - camera.view().centre().x;
        assert!((behind - lag(half_life)).abs() < 0.02, "{half_life}: {behind}");
    }
}
