//! The same bits at every optimisation level, with every set of features, on every 64-bit machine.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Settings, Shake, ShakeMotion, Subject, View};

use super::digest_input::DigestInput;
use super::path::{TICK, hop, tick_at};
use super::random_play::{Game, Pcg};
use super::stages::{KINDS, STAGES};

/// Frames of a game.
const FRAMES: u32 = 200;

/// A smooth swing between −1 and 1 with this period, only from sums and products.
fn swing(t: f64, period: f64) -> f64 {
    let part = (t / period).fract() * 2.0;
    let arch = |part: f64| 4.0 * part * (1.0 - part);
    if part < 1.0 { arch(part) } else { -arch(part - 1.0) }
}

fn subject(t: f64, hops: bool) -> Subject {
    let way = DVec2::new(420.0 * swing(t, 7.7) + 60.0 * swing(t, 3.1), 120.0 * swing(t, 5.3));
    let (height, grounded) = if hops { hop(t) } else { (0.0, true) };
    Subject::from(DVec2::new(900.0, 480.0 - height) + way).with_grounded(grounded)
}

/// Games with any settings, any calls and any numbers. The promises of a view are checked in each frame.
fn games(digest_input: &mut DigestInput, games: u64) {
    for seed in 0..games {
        let mut game = Game(Pcg(seed));
        let mut see = |camera: &Camera, view: &View| digest_input.see(camera, view);
        match seed % 8 {
            0 => game.several_cameras(FRAMES, &mut see),
            _ => game.one_camera(FRAMES, &mut see),
        };
    }
}

/// A ride through every stage with every smoothing, with shakes.
fn stages(digest_input: &mut DigestInput) {
    for stage in STAGES {
        for kind in KINDS {
            let mut settings = Settings::default();
            settings.follow.smoothing = kind.into();
            (stage.set)(&mut settings);
            let mut camera = Camera::new(settings).expect("valid settings");
            for frame in 0..480 {
                let t = f64::from(frame) / 60.0;
                if let Some(tick) = tick_at(t) {
                    (stage.event)(&mut camera, tick);
                }
                if frame == 100 {
                    let motion = ShakeMotion::Kick(DVec2::new(1.0, 2.0));
                    camera.shake(&Shake { roll: 0.02, ..Shake::default() }, 1.0);
                    camera.shake(&Shake { motion, ..Shake::default() }, 0.7);
                }
                let wren = subject(t, stage.hops).with_id(1);
                let step = if frame == 0 { 0.0 } else { 1.0 / 60.0 };
                let kite = subject(t + 3.0 * TICK, false).with_id(2).with_margin(10.0);
                let view = match stage.party {
                    true => camera.follow_all(step, &[wren, kite]),
                    false => camera.follow(step, wren),
                };
                digest_input.see(&camera, &view);
            }
        }
    }
}

/// The digest of more than 100,000 frames.
#[test]
fn the_bits_are_the_committed_ones() {
    let mut digest_input = DigestInput::new();
    stages(&mut digest_input);
    games(&mut digest_input, 270);
    let digest = digest_input.digest.0;
    assert_eq!(
        digest, COMMITTED,
        "{digest:#018x}: the ride has changed. If you meant it to, commit the new number and say in the \
        changelog what moves otherwise. If you changed nothing, this platform rounds in another way: look \
        for what computes f64 with more or fewer bits (x87, fast-math, a fused multiply-add), and please \
        tell us the platform."
    );
}

/// Changes with the behaviour, never with the optimisation level, the features or the machine.
const COMMITTED: u64 = 0xeb00_06d0_d9c1_19a3;
