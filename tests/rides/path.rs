//! Smooth random paths of a subject, and the times at which a ride is sampled.

use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use velvet_pan::glam::DVec2;

/// Seconds of a ride.
pub const SECONDS: f64 = 10.0;

/// The time between two moments that frames of every rate share, in seconds.
pub const TICK: f64 = 1.0 / 6.0;

/// A sum of a few swings on each axis: smooth, with a known greatest acceleration.
#[derive(Clone, Debug)]
pub struct Path {
    swings: Vec<(DVec2, f64, f64)>,
    start: DVec2,
}

impl Path {
    pub fn random(seed: u64) -> Self {
        let mut random = SmallRng::seed_from_u64(seed);
        let mut swing = |size: f64, pace: f64| {
            let across = random.random_range(-size..size);
            let down = random.random_range(-0.4 * size..0.4 * size);
            let pace = random.random_range(0.7 * pace..1.3 * pace);
            (DVec2::new(across, down), pace, random.random_range(0.0..core::f64::consts::TAU))
        };
        let swings = vec![swing(420.0, 0.8), swing(70.0, 2.1), swing(25.0, 3.9)];
        Self { swings, start: DVec2::new(900.0, 480.0) }
    }

    pub fn at(&self, t: f64) -> DVec2 {
        let swung = |(size, pace, phase): &(DVec2, f64, f64)| *size * (pace * t + phase).sin();
        self.start + self.swings.iter().map(swung).sum::<DVec2>()
    }

    /// The greatest acceleration, in world units per second².
    pub fn greatest_acceleration(&self) -> f64 {
        self.swings.iter().map(|(size, pace, _)| size.length() * pace * pace).sum()
    }
}

/// A jump every 1.5 s, from one tick to another: its height, and whether the subject stands.
pub fn hop(t: f64) -> (f64, bool) {
    let (period, airtime) = (9.0 * TICK, 4.0 * TICK);
    let within = t - (t / period + 1e-9).floor() * period;
    let grounded = within < 1e-9 || within > airtime - 1e-9;
    let height = if grounded { 0.0 } else { 560.0 * within * (airtime - within) };
    (height, grounded)
}

/// The times of a ride's frames.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Frames {
    PerSecond(u32),
    /// From 8 to 25 ms at random; ticks are reached exactly.
    Irregular(u64),
}

impl Frames {
    /// The end of each frame; the first one is at 0.
    pub fn times(self) -> Vec<f64> {
        match self {
            Self::PerSecond(rate) => {
                let count = (SECONDS * f64::from(rate)).round() as u32;
                (0..=count).map(|frame| f64::from(frame) / f64::from(rate)).collect()
            }
            Self::Irregular(seed) => {
                let mut random = SmallRng::seed_from_u64(seed);
                let mut times = vec![0.0];
                for tick in 1..=(SECONDS / TICK).round() as u32 {
                    let end = f64::from(tick) * TICK;
                    let mut t = end - TICK;
                    loop {
                        t += random.random_range(0.008..0.025);
                        if t > end - 0.008 {
                            break;
                        }
                        times.push(t);
                    }
                    times.push(end);
                }
                times
            }
        }
    }
}

/// The tick at a time, if there is one.
pub fn tick_at(t: f64) -> Option<u32> {
    let ticks = t / TICK;
    ((ticks - ticks.round()).abs() < 1e-6).then(|| ticks.round() as u32)
}
