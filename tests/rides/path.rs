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
    class: Class,
    /// The times of sharp corners.
    corners: Vec<f64>,
    /// How fast time passes on it.
    pace: f64,
    /// When the world moves, and by how much.
    moves: (f64, DVec2),
}

/// What a camera can know of a path from the positions of its frames.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub enum Class {
    /// All of it, nearly: the acceleration is finite.
    #[default]
    Known,
    /// The subject is lost for a while, or teleports.
    Lost,
    /// It turns at once, between two frames.
    Corners,
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
        let mut corners = vec![0.0];
        while corners[corners.len() - 1] < SECONDS {
            corners.push(corners[corners.len() - 1] + random.random_range(0.4..1.5));
        }
        let start = DVec2::new(900.0, 480.0);
        Self {
            swings,
            start,
            class: Class::Known,
            corners,
            pace: 1.0,
            moves: (f64::INFINITY, DVec2::ZERO),
        }
    }

    pub fn of(self, class: Class) -> Self {
        Self { class, ..self }
    }

    pub fn class(&self) -> Class {
        self.class
    }

    /// The same path, this far away.
    pub fn shifted(&self, by: DVec2) -> Self {
        Self { start: self.start + by, ..self.clone() }
    }

    /// The same path, so slow that the subject moves by at most this many world units a second.
    pub fn slowed(self, speed: f64) -> Self {
        let greatest: f64 = self.swings.iter().map(|(size, pace, _)| size.length() * pace).sum();
        Self { pace: speed / greatest, ..self }
    }

    /// The same path in a world that moves at a time.
    pub fn moving(self, at: f64, by: DVec2) -> Self {
        Self { moves: (at, by), ..self }
    }

    pub fn at(&self, t: f64) -> DVec2 {
        let moved = if t >= self.moves.0 { self.moves.1 } else { DVec2::ZERO };
        let t = t * self.pace;
        let swung = |(size, pace, phase): &(DVec2, f64, f64)| *size * (pace * t + phase).sin();
        self.start + moved + self.swings.iter().map(swung).sum::<DVec2>() + self.apart(t)
    }

    /// What its class adds to it.
    fn apart(&self, t: f64) -> DVec2 {
        const TELEPORTS: [DVec2; 3] =
            [DVec2::ZERO, DVec2::new(700.0, -60.0), DVec2::new(-400.0, 300.0)];
        match self.class {
            Class::Known => DVec2::ZERO,
            Class::Lost => TELEPORTS[((t + 1e-7) / (17.0 * TICK)) as usize % 3],
            Class::Corners => {
                let next = self.corners.partition_point(|corner| *corner <= t).max(1);
                let (from, to) = (self.corners[next - 1], self.corners[next]);
                let share = (t - from) / (to - from);
                DVec2::new(80.0 * if next % 2 == 0 { 1.0 - share } else { share }, 0.0)
            }
        }
    }

    /// Whether the subject is gone.
    pub fn is_lost(&self, t: f64) -> bool {
        self.class == Class::Lost && (20.0..27.0).contains(&((t + 1e-7) / TICK))
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
    /// Between these two lengths at random, in seconds.
    Irregular(f64, f64),
}

/// Frames a second whose moments all even rates share, apart from the ticks.
const SHARED: [u32; 2] = [30, 48];

impl Frames {
    /// The end of each frame; the first one is at 0. Each tick is one, and at a high rate each moment that others share.
    pub fn times(self) -> Vec<f64> {
        match self {
            Self::PerSecond(rate) => {
                let even = |rate: u32| {
                    (0..=SECONDS as u32 * rate).map(move |frame| f64::from(frame) / f64::from(rate))
                };
                let mut times: Vec<f64> = even(rate).chain(even(6)).collect();
                if rate > 240 {
                    times.extend(SHARED.into_iter().flat_map(even));
                }
                times.sort_by(f64::total_cmp);
                times.dedup_by(|a, b| (*a - *b).abs() < 1e-7);
                times
            }
            Self::Irregular(shortest, longest) => {
                let mut random = SmallRng::seed_from_u64(7);
                let mut times = vec![0.0];
                for tick in 1..=(SECONDS / TICK).round() as u32 {
                    let end = f64::from(tick) * TICK;
                    let mut t = end - TICK;
                    loop {
                        t += random.random_range(shortest..longest);
                        if t > end - shortest {
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

/// Whether rides are compared at a time.
pub fn is_shared(t: f64) -> bool {
    let is_frame = |rate| (t * f64::from(rate) - (t * f64::from(rate)).round()).abs() < 1e-6;
    tick_at(t).is_some() || SHARED.into_iter().any(is_frame)
}

/// The tick at a time, if there is one.
pub fn tick_at(t: f64) -> Option<u32> {
    let ticks = t / TICK;
    ((ticks - ticks.round()).abs() < 1e-6).then(|| ticks.round() as u32)
}
