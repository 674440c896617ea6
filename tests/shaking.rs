//! Shakes and cues: never too far, over in time, and without effect on the camera.

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{
    Bounds, Camera, Cue, CueCall, Rect, Settings, Shake, ShakeLimit, ShakeMix, ShakeMotion,
    ShakeSettings, Smoothing, Snap, ZoomNudge,
};

use crate::support::properties::properties;
use crate::support::smooth;

prop_compose! {
    fn shakes()(
        reach in (0.0..40.0_f64, 0.0..40.0_f64),
        roll in 0.0..0.5_f64,
        hold in 0.0..2.0_f64,
        fade in 0.0..2.0_f64,
        hz in 0.5..60.0_f64,
        kind in 0..3,
        direction in (-1.0..1.0_f64, 0.1..1.0_f64),
    ) -> Shake {
        let motion = match kind {
            0 => ShakeMotion::Wander,
            1 => ShakeMotion::Rattle,
            _ => ShakeMotion::Kick(direction.into()),
        };
        Shake { reach: reach.into(), roll, hold, fade, hz, motion }
    }
}

fn mixes() -> impl Strategy<Value = ShakeMix> {
    prop::sample::select(&[ShakeMix::Add, ShakeMix::Strongest, ShakeMix::Replace])
}

/// A still camera at the origin.
fn camera(shaking: ShakeSettings) -> Camera {
    let mut camera =
        Camera::new(Settings { shake: shaking, ..Settings::default() }).expect("valid");
    camera.place_at([0, 0]);
    camera
}

properties! {
    #![cases(10_000)]

    #[test]
    fn never_beyond_its_reach_and_exactly_over(shake in shakes(), seed in any::<u64>(), age in 0.0..6.0_f64) {
        let offset = shake.offset(age, seed);
        prop_assert!(offset.pixels.x.abs() <= shake.reach.x && offset.pixels.y.abs() <= shake.reach.y);
        prop_assert!(offset.roll.abs() <= shake.roll);
        let end = shake.hold + shake.fade;
        for late in [end, end + 1e-9, end + age, 1e300] {
            prop_assert_eq!(shake.offset(late, seed), Default::default());
        }
        for early in [0.0, -age, f64::NAN] {
            prop_assert_eq!(shake.offset(early, seed), Default::default());
        }
        // The same seed, the same bits.
        prop_assert_eq!(shake.offset(age, seed), offset);
    }
}

properties! {
    #![cases(400)]

    #[test]
    fn together_they_stay_within_the_limit(
        shakes in prop::collection::vec((shakes(), 0.1..3.0_f64, 0..60_u32), 1..30),
        mix in mixes(), intensity in 0.0..=1.0_f64, limit in (0.0..20.0_f64, 0.0..20.0_f64, 0.0..0.2_f64),
    ) {
        let limit = ShakeLimit { reach: DVec2::new(limit.0, limit.1), roll: limit.2 };
        let mut camera = camera(ShakeSettings { mix, limit, intensity, ..ShakeSettings::default() });
        for frame in 0..120 {
            for (shake, strength, at) in &shakes {
                if *at == frame {
                    camera.shake(shake, *strength);
                }
            }
            let offset = camera.advance(1.0 / 60.0).shake();
            prop_assert!(offset.pixels.x.abs() <= limit.reach.x * intensity + 1e-9);
            prop_assert!(offset.pixels.y.abs() <= limit.reach.y * intensity + 1e-9);
            prop_assert!(offset.roll.abs() <= limit.roll * intensity + 1e-12);
            let now = camera.shake_envelope();
            prop_assert!(offset.pixels.x.abs() <= now.x + 1e-9 && offset.pixels.y.abs() <= now.y + 1e-9);
        }
    }

    /// The same at common times at any frame rate, to 1e-9.
    #[test]
    fn frame_rates_agree(shake in shakes(), mix in mixes()) {
        let ride = |fps: u32| -> Vec<DVec2> {
            let mut camera = camera(ShakeSettings { mix, ..ShakeSettings::default() });
            let frames = (0..=2 * fps).map(|frame| {
                if frame == 0 || frame == fps / 2 {
                    camera.shake(&shake, 1.0);
                }
                let step = if frame == 0 { 0.0 } else { 1.0 / f64::from(fps) };
                camera.advance(step).shake().pixels
            });
            frames.step_by((fps / 2) as usize).collect()
        };
        let best = ride(1000);
        for fps in [30, 60, 144] {
            for (one, other) in ride(fps).into_iter().zip(&best) {
                prop_assert!((one - *other).length() < 1e-9, "{fps}: {one} and {other}");
            }
        }
    }

    /// Sampled every millisecond, nothing jumps: not when a shake begins, and not when it is replaced.
    #[test]
    fn nothing_jumps(
        shakes in prop::collection::vec((shakes(), 0..900_u32), 2..6), mix in mixes(),
    ) {
        let mut camera = camera(ShakeSettings { mix, ..ShakeSettings::default() });
        let mut last = DVec2::ZERO;
        // The fastest that one may move: across its reach between two places, rising or leaving.
        let speed = |shake: &Shake| {
            let swing = if matches!(shake.motion, ShakeMotion::Kick(_)) { core::f64::consts::TAU } else { 4.0 };
            shake.reach.length() * (swing * shake.hz + 2.0 / 0.025 + 2.0 / shake.fade.max(0.001))
        };
        let fastest: f64 = shakes.iter().map(|(shake, _)| speed(shake)).sum();
        for tick in 0..1500 {
            for (shake, at) in &shakes {
                if *at == tick {
                    camera.shake(shake, 1.0);
                }
            }
            let now = camera.advance(0.001).shake().pixels;
            let most = 0.003 * fastest + 1e-9;
            prop_assert!((now - last).length() <= most, "{} for {most}", (now - last).length());
            last = now;
        }
    }

    /// A shake never shows more of the outside than the overscan.
    #[test]
    fn a_shaken_view_stays_in_its_bounds(
        shake in shakes(), overscan in (0.0..9.0_f64, 0.0..9.0_f64), world in (330.0..900.0_f64, 190.0..700.0_f64),
        at in (-500.0..900.0_f64, -500.0..900.0_f64),
        snap in prop::sample::select(&[Snap::Off, Snap::Whole, Snap::Subpixel]), zoom in 1.0..3.0_f64,
    ) {
        let mut settings = Settings { bounds: Some(Bounds::new(Rect::new([0, 0], DVec2::from(world)))), ..Settings::default() };
        settings.screen.snap = snap;
        settings.zoom.level = zoom;
        settings.shake.stay_in_bounds = true;
        settings.shake.limit = ShakeLimit { reach: DVec2::splat(40.0), roll: 0.5 };
        settings.shake.overscan = overscan.into();
        let mut camera = Camera::new(settings).expect("valid");
        camera.shake(&shake, 1.0);
        for _ in 0..60 {
            let view = camera.follow(1.0 / 60.0, DVec2::from(at));
            let visible = view.visible_world();
            for axis in 0..2 {
                let over = DVec2::from(overscan)[axis] / zoom + 1e-6;
                prop_assert!(visible.min[axis] >= -over, "{visible:?}");
                prop_assert!(visible.max[axis] <= DVec2::from(world)[axis] + over, "{visible:?}");
            }
        }
    }
}

fn subject(t: f64) -> DVec2 {
    DVec2::new(400.0 + 300.0 * (0.9 * t).sin(), 300.0 + 80.0 * (1.7 * t).cos())
}

fn cues() -> Settings {
    let mut settings = smooth(Smoothing::Settle(0.4));
    let cue = |shake: Shake| Cue { shake: Some(shake), ..Cue::default() };
    settings.cues.insert("gong".into(), cue(Shake { roll: 0.02, ..Shake::default() }));
    let kick = ShakeMotion::Kick(DVec2::Y);
    settings.cues.insert("landing".into(), cue(Shake { motion: kick, ..Shake::default() }));
    settings
}

#[test]
fn the_camera_never_learns_of_a_shake() {
    let mut plain = Camera::new(cues()).expect("valid");
    let mut shaken = Camera::new(cues()).expect("valid");
    let mut moved = false;
    for frame in 0..600 {
        let at = subject(f64::from(frame) / 60.0);
        if frame % 12 == 0 {
            let name = if frame % 24 == 0 { "gong" } else { "landing" };
            shaken.cue(name, at).expect("known");
        }
        let (one, other) = (plain.follow(1.0 / 60.0, at), shaken.follow(1.0 / 60.0, at));
        assert_eq!(one.centre(), other.steady().centre(), "frame {frame}");
        assert_eq!(one, other.steady());
        moved |= one.centre() != other.centre();
    }
    assert!(moved, "it shook");
}

/// A shake in the corner of the world shows as much of the outside as the overscan allows, on all sides.
#[test]
fn the_overscan_is_used() {
    let world = Rect::new([0, 0], [900, 700]);
    let mut settings = Settings { bounds: Some(Bounds::new(world)), ..Settings::default() };
    settings.screen.snap = Snap::Off;
    settings.zoom.level = 2.0;
    settings.shake.stay_in_bounds = true;
    settings.shake.overscan = DVec2::new(6.0, 4.0);
    let rumble = Shake { reach: DVec2::splat(40.0), hold: f64::INFINITY, ..Shake::default() };
    for corner in [[0, 0], [900, 700]] {
        let mut camera = Camera::new(settings.clone()).expect("valid");
        camera.shake(&rumble, 1.0);
        let (mut low, mut high) = (world.max, world.min);
        for _frame in 0..300 {
            let visible = camera.follow(1.0 / 60.0, corner).visible_world();
            (low, high) = (low.min(visible.min), high.max(visible.max));
        }
        let over = if corner == [0, 0] { world.min - low } else { high - world.max };
        assert!((over - DVec2::new(3.0, 2.0)).length() < 1e-6, "{corner:?}: {over}");
    }
}

/// Weak is what moves the picture little, by strength, age and reach together.
#[test]
fn the_weakest_gives_way() {
    let limit = ShakeLimit { reach: DVec2::splat(10_000.0), roll: 1.0 };
    let shake = |reach: f64, hold: f64| Shake {
        reach: DVec2::splat(reach),
        hold,
        fade: 1.0,
        ..Shake::default()
    };
    let envelope = |with_faded: bool, one_more: bool| {
        let mut camera = camera(ShakeSettings { limit, ..ShakeSettings::default() });
        if with_faded {
            camera.shake(&shake(0.4, 0.0), 20.0); // strong and old
        }
        camera.advance(0.0);
        camera.advance(0.6);
        camera.shake(&shake(2.0, 9.0), 1.0); // weak and new
        (0..6).for_each(|_| camera.shake(&shake(10.0, 9.0), 10.0));
        camera.advance(0.0);
        camera.advance(0.2);
        if one_more {
            camera.shake(&shake(10.0, 9.0), 10.0);
        }
        camera.advance(0.0);
        camera.advance(0.1);
        camera.shake_envelope()
    };
    assert_ne!(envelope(true, false), envelope(false, false), "the old one is still there");
    assert_eq!(envelope(true, true), envelope(false, true), "as if the old one had never been");
}

/// The envelope of a shake at its full strength, and of two, by hand.
#[test]
fn an_envelope_is_the_reach_by_strength_and_intensity() {
    for (mix, expected) in [(ShakeMix::Add, [1.75, 1.125]), (ShakeMix::Strongest, [1.0, 0.75])] {
        let mut camera = camera(ShakeSettings { mix, intensity: 0.25, ..ShakeSettings::default() });
        for (reach, strength) in [([2.0, 1.5], 2.0), ([1.5, 0.75], 2.0)] {
            camera.shake(
                &Shake { reach: reach.into(), hold: 9.0, roll: 0.02, ..Shake::default() },
                strength,
            );
        }
        camera.advance(0.0);
        camera.advance(1.0);
        assert_eq!(camera.shake_envelope(), DVec2::from(expected), "{mix:?}");
    }
}

/// Mixed as the strongest, two that roll do not roll further than one, and do roll.
#[test]
fn the_strongest_sets_the_roll() {
    let limit = ShakeLimit { roll: 1.0, ..ShakeLimit::default() };
    let mut camera =
        camera(ShakeSettings { limit, mix: ShakeMix::Strongest, ..ShakeSettings::default() });
    let rumble = Shake { roll: 0.1, hold: f64::INFINITY, ..Shake::default() };
    (0..2).for_each(|_| camera.shake(&rumble, 1.0));
    let rolls = (0..600).map(|_| camera.advance(1.0 / 60.0).shake().roll.abs());
    let most = rolls.fold(0.0, f64::max);
    assert!((0.05..=0.1).contains(&most), "{most}");
}

/// Eight shakes are active at once. Ending the weakest of nine changes the picture little compared with the steps
/// of the shake itself.
#[test]
fn the_ninth_shake_is_not_missed() {
    let burst = |count: u32| {
        let mut camera = camera(ShakeSettings::default());
        (0..count).for_each(|index| {
            let reach = DVec2::splat(1.0 + 0.2 * f64::from(index));
            camera.shake(&Shake { reach, hold: 0.4, ..Shake::default() }, 1.0);
            camera.advance(1.0 / 60.0);
        });
        camera
    };
    let (mut all, mut one_more) = (burst(8), burst(8));
    // The weakest, of 1 pixel, gives way to one of 2.6.
    one_more.shake(&Shake { reach: DVec2::splat(2.6), ..Shake::default() }, 1.0);
    let (before, after) = (all.advance(0.0).shake(), one_more.advance(0.0).shake());
    let (mut last, mut steps) = (before.pixels, Vec::new());
    for _frame in 0..20 {
        let now = all.advance(1.0 / 60.0).shake().pixels;
        steps.push(now.distance(last));
        last = now;
    }
    let usual = steps.iter().sum::<f64>() / steps.len() as f64;
    let given_up = after.pixels.distance(before.pixels);
    println!("given up: {given_up:.2} screen pixels; a usual step: {usual:.2}");
    assert!(given_up < usual, "{given_up} beside {usual}");
}

/// Run with `--nocapture` for the table.
#[test]
fn hz_means_what_it_says() {
    println!(
        "turning points a second (of random places at hz, two in three are one), and mean offset"
    );
    for motion in [ShakeMotion::Wander, ShakeMotion::Rattle] {
        for hz in [6.0, 18.0, 30.0] {
            let shake = Shake { hold: f64::INFINITY, hz, motion, ..Shake::default() };
            let samples: Vec<f64> = (0..600_000)
                .map(|i| shake.offset(1.0 + f64::from(i) / 1000.0, 3).pixels.x)
                .collect();
            let steps: Vec<f64> = samples.windows(2).map(|pair| pair[1] - pair[0]).collect();
            let turns =
                steps.windows(2).filter(|pair| pair[0] * pair[1] < 0.0).count() as f64 / 600.0;
            let mean = samples.iter().sum::<f64>() / samples.len() as f64 / shake.reach.x;
            println!(
                "{motion:?} at {hz:4} hz: {turns:6.2} turns/s, ideal {:6.2}; mean {:+.4} of the reach",
                hz * 2.0 / 3.0,
                mean
            );
            assert!((turns / (hz * 2.0 / 3.0) - 1.0).abs() < 0.06);
            assert!(mean.abs() < 0.05);
        }
    }
    // A kick swings hz times a second.
    let kick = Shake {
        hold: f64::INFINITY,
        hz: 7.0,
        motion: ShakeMotion::Kick(DVec2::X),
        ..Shake::default()
    };
    let samples: Vec<f64> =
        (0..10_000).map(|i| kick.offset(1.0 + f64::from(i) / 1000.0, 0).pixels.x).collect();
    let zeros = samples.windows(2).filter(|pair| pair[0] < 0.0 && pair[1] >= 0.0).count();
    assert_eq!(zeros, 70);
}

#[test]
fn another_seed_is_another_path() {
    let path = |seed| {
        let mut camera = camera(ShakeSettings { seed, ..ShakeSettings::default() });
        camera.shake(&Shake::default(), 1.0);
        (0..20).map(|_| camera.advance(0.01).shake().pixels).collect::<Vec<_>>()
    };
    assert_eq!(path(1), path(1));
    assert_ne!(path(1), path(2));
}

#[test]
fn distance_strength_and_intensity() {
    let at = |place: [f64; 2], strength: f64, intensity: f64| {
        let mut settings = cues();
        settings.shake.intensity = intensity;
        let mut camera = Camera::new(settings).expect("valid");
        camera.follow(0.0, [0, 0]);
        camera.cue("gong", CueCall::at(place).with_strength(strength)).expect("known");
        camera.follow(0.0, [0, 0]);
        camera.follow(0.07, [0, 0]).shake().pixels
    };
    let full = at([50.0, 0.0], 1.0, 1.0);
    assert!(full.length() > 0.5);
    assert_eq!(at([50.0, 0.0], 0.5, 1.0), full / 2.0);
    assert_eq!(at([360.0, 0.0], 1.0, 1.0), full / 2.0); // half of the way from 80 to 640
    assert_eq!(at([640.0, 0.0], 1.0, 1.0), DVec2::ZERO);
    assert_eq!(at([50.0, 0.0], 1.0, 0.25), full / 4.0);
    assert_eq!(at([50.0, 0.0], 1.0, 0.0), DVec2::ZERO);
    for bad in [0.0, -1.0, f64::NAN, f64::INFINITY] {
        assert_eq!(at([50.0, 0.0], bad, 1.0), DVec2::ZERO);
    }
}

#[test]
fn rumbles_pauses_and_frozen_moments() {
    let mut camera = camera(ShakeSettings::default());
    let rumble = Shake { hold: f64::INFINITY, ..Shake::default() };
    camera.shake(&rumble, 1.0);
    camera.advance(0.0);
    let moving = camera.advance(100.0).shake();
    assert!(moving.pixels != DVec2::ZERO && camera.is_shaking());

    camera.pause_shakes(true);
    assert_eq!(camera.advance(0.5).shake(), moving);
    camera.pause_shakes(false);
    // A frozen moment: no time for the world, some for the shake.
    let still = camera.advance(0.0).shake();
    camera.advance_shakes(0.02);
    assert_ne!(camera.advance(0.0).shake(), still);

    camera.end_shakes(0.5);
    camera.advance(0.0); // what is announced begins with the next frame
    camera.advance(0.3);
    assert!(camera.is_shaking());
    camera.advance(0.3);
    assert!(!camera.is_shaking());
    assert_eq!(camera.view().shake().pixels, DVec2::ZERO);
}

#[test]
fn a_pointer_may_leave_the_shake_out() {
    let mut camera = camera(ShakeSettings::default());
    camera.shake(&Shake { roll: 0.05, ..Shake::default() }, 1.0);
    camera.advance(0.0);
    let view = camera.advance(0.08);
    assert_ne!(view.window_to_world((200.0, 100.0)), view.steady().window_to_world((200.0, 100.0)));
    assert_eq!(view.steady().window_to_world((160.0, 90.0)), Some(DVec2::ZERO));
}

#[test]
fn with_whole_pixels_it_moves_in_whole_pixels() {
    let mut settings = Settings::default();
    settings.screen.snap = Snap::Whole;
    let mut camera = Camera::new(settings).expect("valid");
    camera.follow(0.0, [160, 90]);
    camera.shake(&Shake::default(), 1.0);
    let tree = [100, 50];
    let places: Vec<_> =
        (0..30).map(|_| camera.follow(1.0 / 60.0, [160, 90]).canvas_position(tree)).collect();
    assert!(places.iter().all(|place| *place == place.round()));
    assert!(places.iter().any(|place| *place != places[0]));
}

/// Computed once from the formulas in the documentation of `Shake`, in another language: motion, age, seed, and then x
/// and y in pixels and the rotation.
#[rustfmt::skip]
const RECORDED: [(&str, f64, u64, [f64; 3]); 21] = [
    ("wander", 0.01, 1, [-0.022_267_888_602, -0.004_105_765_046, 0.000_254_849_880]),
    ("wander", 0.1, 1, [-3.691_114_876_062, -0.574_784_215_301, 0.040_591_573_024]),
    ("wander", 0.3, 1, [-0.730_621_165_216, 0.869_841_658_797, 0.013_058_774_257]),
    ("wander", 0.51, 1, [0.724_876_086_645, 0.048_829_517_198, 0.008_262_104_252]),
    ("wander", 0.79, 1, [0.000_430_744_910, 0.000_203_824_260, 0.000_000_430_557]),
    ("wander", 0.1, 20, [4.323_734_673_458, -0.259_296_979_817, 0.026_536_490_989]),
    ("wander", 0.47, 20, [0.915_128_485_113, 0.674_171_622_511, 0.008_069_663_486]),
    ("rattle", 0.01, 1, [-0.186_616_763_962, -0.034_408_497_378, 0.002_135_777_701]),
    ("rattle", 0.1, 1, [-3.208_517_850_223, -0.226_306_816_684, 0.031_015_411_086]),
    ("rattle", 0.3, 1, [-0.616_828_155_838, 0.613_875_517_322, 0.014_310_231_714]),
    ("rattle", 0.51, 1, [0.641_191_225_864, 0.045_285_369_712, 0.007_525_199_785]),
    ("rattle", 0.79, 1, [0.000_461_021_231, 0.000_214_977_921, 0.000_000_773_935]),
    ("rattle", 0.1, 20, [4.541_262_051_985, 0.225_093_110_248, 0.020_999_160_801]),
    ("rattle", 0.47, 20, [0.694_287_784_232, 0.677_769_156_576, 0.005_582_647_382]),
    ("kick", 0.01, 1, [0.985_747_832_537, -0.657_165_221_692, 0.013_690_942_119]),
    ("kick", 0.1, 1, [3.423_803_458_663, -2.282_535_639_108, 0.047_552_825_815]),
    ("kick", 0.3, 1, [-1.469_463_130_731, 0.979_642_087_154, -0.020_409_210_149]),
    ("kick", 0.51, 1, [0.575_704_116_086, -0.383_802_744_057, 0.007_995_890_501]),
    ("kick", 0.79, 1, [0.000_125_333_234, -0.000_083_555_489, 0.000_001_740_739]),
    ("kick", 0.1, 20, [3.423_803_458_663, -2.282_535_639_108, 0.047_552_825_815]),
    ("kick", 0.47, 20, [-0.839_088_921_383, 0.559_392_614_255, -0.011_654_012_797]),
];

#[test]
fn a_shake_is_the_one_that_was_recorded() {
    for (name, age, seed, expected) in RECORDED {
        let motion = match name {
            "wander" => ShakeMotion::Wander,
            "rattle" => ShakeMotion::Rattle,
            _ => ShakeMotion::Kick(DVec2::new(3.0, -4.0)),
        };
        let reach = DVec2::new(6.0, 3.0);
        let shake = Shake { reach, roll: 0.05, hold: 0.2, fade: 0.6, hz: 12.0, motion };
        let offset = shake.offset(age, seed);
        let shown = [offset.pixels.x, offset.pixels.y, offset.roll];
        let apart = shown.iter().zip(expected).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
        assert!(apart < 1e-10, "{name} at {age}, seed {seed}: {shown:?} for {expected:?}");
    }
}

/// With hits in every frame, "as strong as the strongest" is as strong as one, stays within its envelope, and moves no
/// more in a frame.
#[test]
fn many_at_once_are_as_strong_as_the_strongest() {
    let rms = |offsets: &[DVec2]| {
        let squares = offsets.iter().map(|offset| offset.length_squared()).sum::<f64>();
        (squares / offsets.len() as f64).sqrt()
    };
    let fastest = |offsets: &[DVec2]| {
        offsets.windows(2).map(|pair| (pair[1] - pair[0]).length()).fold(0.0, f64::max)
    };
    let settings = ShakeSettings { mix: ShakeMix::Strongest, ..ShakeSettings::default() };
    let hit = Shake { reach: DVec2::splat(6.0), ..Shake::default() };
    for rate in [30, 60, 144] {
        let step = 1.0 / f64::from(rate);
        let mut one = camera(settings);
        one.shake(&Shake { hold: f64::INFINITY, ..hit }, 1.0);
        let alone: Vec<DVec2> =
            (0..20 * rate).map(|_| one.advance(step).shake().pixels).skip(rate as usize).collect();
        let mut many = camera(settings);
        let mut all = Vec::new();
        for _frame in 0..20 * rate {
            many.shake(&hit, 1.0);
            all.push(many.advance(step).shake().pixels);
            assert!(all.last().unwrap().abs().max_element() <= many.shake_envelope().x + 1e-9);
        }
        let all = &all[rate as usize..];
        assert!(rms(all) >= 0.9 * rms(&alone), "{rate}: {} and {}", rms(all), rms(&alone));
        assert!(rms(all) <= 1.25 * rms(&alone), "{rate}: {} and {}", rms(all), rms(&alone));
        for half in all.chunks(rate as usize / 2) {
            assert!(rms(half) >= 0.6 * rms(&alone), "{rate}: {} and {}", rms(half), rms(&alone));
        }
        let (steps, usual) = (fastest(all), fastest(&alone));
        assert!(steps <= 1.5 * usual, "{rate}: {steps} in a frame, alone {usual}");
    }
}

/// A weak hit among strong ones takes none of them away.
#[test]
fn a_hit_weaker_than_the_strongest_changes_nothing() {
    let shaken = |weak: f64| {
        let mut camera =
            camera(ShakeSettings { mix: ShakeMix::Strongest, ..ShakeSettings::default() });
        let strong = Shake { reach: DVec2::splat(6.0), hold: 1.0, ..Shake::default() };
        (0..4).for_each(|_| camera.shake(&strong, 1.0));
        (0..4).for_each(|_| camera.shake(&Shake { reach: DVec2::splat(1.0), ..strong }, weak));
        (0..30).map(|_| camera.advance(1.0 / 60.0).shake()).collect::<Vec<_>>()
    };
    assert_eq!(shaken(1.0), shaken(0.0));
    assert_ne!(shaken(9.0), shaken(0.0));
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

#[test]
fn a_cue_that_is_not_there_is_named() {
    let mut settings = Settings::default();
    settings.cues.insert("gong".into(), Cue::default());
    let mut camera = Camera::new(settings).expect("valid settings");
    let fault = camera.cue("bong", CueCall::anywhere()).expect_err("no such cue");
    assert_eq!((fault.name(), fault.known()), ("bong", &["gong".to_owned()][..]));
    assert_eq!(fault.to_string(), "no cue \"bong\": the tuning has gong");
}
