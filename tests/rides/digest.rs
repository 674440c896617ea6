//! The same bits at every optimisation level, with every set of features, on every 64-bit machine.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Settings, Shake, ShakeMotion, Subject};

use crate::path::{TICK, hop, tick_at};
use crate::stages::{KINDS, STAGES};

/// A smooth swing between −1 and 1 with this period, in nothing but sums and products.
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

struct Digest(u64);

impl Digest {
    fn add(&mut self, number: f64) {
        for byte in number.to_bits().to_le_bytes() {
            self.0 = (self.0 ^ u64::from(byte)).wrapping_mul(0x0000_0100_0000_01b3);
        }
    }
}

/// A ride through every stage with every smoothing, shaken too.
fn digest() -> u64 {
    let mut digest = Digest(0xcbf2_9ce4_8422_2325);
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
                let (centre, lens) = (view.centre(), view.lens());
                for number in [centre.x, centre.y, lens.zoom(), lens.rotation()] {
                    digest.add(number);
                }
            }
        }
    }
    digest.0
}

#[test]
fn the_bits_are_the_committed_ones() {
    let digest = digest();
    assert_eq!(digest, COMMITTED, "{digest:#018x}: a change of behaviour, or of the machine's");
}

/// Changes with the behaviour, never with the optimisation level or the machine.
const COMMITTED: u64 = 0x6981_aa21_ae5a_9307;
