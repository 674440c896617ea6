//! The focus on its way to the goal, in closed form.

use glam::DVec2;

use crate::course::Course;
use crate::maths::hold;
use crate::per_axis::PerAxis;
use crate::smoothing::Smoothing;

/// Closer to a standing goal than this, in screen pixels, the focus is set on it.
pub(crate) const REST_PIXELS: f64 = 0.01;

/// A place, and how fast it moves: world units, and world units per second.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Moving {
    pub place: DVec2,
    /// Kept for springs only; 0 otherwise.
    pub velocity: DVec2,
}

impl Moving {
    #[inline]
    pub fn is_finite(&self) -> bool {
        self.place.is_finite() && self.velocity.is_finite()
    }
}

/// The motion of the focus.
///
/// It keeps the factors of the last step, which are the same bits whenever the time and the
/// setting are the same.
#[derive(Clone, Debug, Default)]
pub(crate) struct Motion {
    x: Factors,
    y: Factors,
}

impl Motion {
    /// The focus after `seconds` on the way to a goal on `course`; `scale` is screen pixels per
    /// world unit.
    #[inline]
    pub fn advance(
        &mut self,
        smoothing: &PerAxis<Smoothing>,
        mut focus: Moving,
        course: &Course,
        seconds: f64,
        scale: f64,
    ) -> Moving {
        if let (Smoothing::Speed(speed), true) = (smoothing.x, smoothing.x == smoothing.y) {
            return Moving {
                place: chase(focus.place, course, seconds, speed),
                ..Moving::default()
            };
        }
        if let Some((from, to)) = course.as_straight() {
            return self.piece(smoothing, focus, [from, to], seconds, scale);
        }
        for pair in course.knots().windows(2) {
            let part = seconds * (pair[1].at - pair[0].at);
            focus = self.piece(smoothing, focus, [pair[0].point, pair[1].point], part, scale);
        }
        focus
    }

    #[inline]
    fn piece(
        &mut self,
        smoothing: &PerAxis<Smoothing>,
        focus: Moving,
        [from, to]: [DVec2; 2],
        seconds: f64,
        scale: f64,
    ) -> Moving {
        let x = self.x.refresh(smoothing.x, seconds);
        let (px, vx) = x.advance(focus.place.x, focus.velocity.x, from.x, to.x, scale);
        let alike = smoothing.y == smoothing.x;
        let y = if alike { x } else { self.y.refresh(smoothing.y, seconds) };
        let (py, vy) = y.advance(focus.place.y, focus.velocity.y, from.y, to.y, scale);
        Moving { place: DVec2::new(px, py), velocity: DVec2::new(vx, vy) }
    }
}

/// Towards a goal on `course` at no more than `speed`, along the line to it and never past it.
///
/// A goal that moves is chased in small steps.
fn chase(mut place: DVec2, course: &Course, seconds: f64, speed: f64) -> DVec2 {
    for pair in course.knots().windows(2) {
        let part = seconds * (pair[1].at - pair[0].at);
        let (from, way) = (pair[0].point, pair[1].point - pair[0].point);
        let steps = if way == DVec2::ZERO { 1 } else { (part * 480.0).clamp(1.0, 64.0) as u32 };
        for step in 1..=steps {
            let goal = from + way * (f64::from(step) / f64::from(steps));
            let rest = goal - place;
            let most = speed * part / f64::from(steps);
            place =
                if rest.length() <= most { goal } else { place + rest.normalize_or_zero() * most };
        }
    }
    place
}

/// The factors of one axis and one step, kept while time and setting stay the same.
#[derive(Clone, Copy, Debug)]
struct Factors {
    smoothing: Smoothing,
    seconds: f64,
    step: Step,
}

/// One step along one axis, as the factors of what it starts from.
#[derive(Clone, Copy, Debug)]
enum Step {
    Still,
    There,
    HalfLife(HalfLifeFactors),
    Spring(SpringFactors),
    Speed { most: f64 },
}

impl Default for Factors {
    fn default() -> Self {
        Self::new(Smoothing::None, 0.0)
    }
}

impl Factors {
    #[inline]
    fn refresh(&mut self, smoothing: Smoothing, seconds: f64) -> &Self {
        if self.seconds != seconds || self.smoothing != smoothing {
            *self = Self::new(smoothing, seconds);
        }
        self
    }

    fn new(smoothing: Smoothing, seconds: f64) -> Self {
        let step = match smoothing {
            Smoothing::HalfLife(half_life) if half_life > 0.0 => {
                Step::HalfLife(HalfLifeFactors::new(half_life, seconds))
            }
            Smoothing::Settle(settle) if settle > 0.0 => {
                // A frozen moment leaves all as it is, to the last bit.
                let frozen = SETTLED / settle * seconds == 0.0;
                if frozen { Step::Still } else { Step::Spring(SpringFactors::new(settle, seconds)) }
            }
            Smoothing::Speed(speed) => Step::Speed { most: speed * seconds },
            _ => Step::There,
        };
        Self { smoothing, seconds, step }
    }

    /// Place and velocity after the step, for a goal that goes straight from `from` to `to`.
    #[inline]
    fn advance(&self, place: f64, velocity: f64, from: f64, to: f64, scale: f64) -> (f64, f64) {
        match &self.step {
            Step::Still => (place, velocity),
            Step::There => (to, 0.0),
            Step::HalfLife(half_life) => {
                let place = half_life.advance(place, from, to);
                let rests = stands(from, to, scale) && (to - place).abs() * scale < REST_PIXELS;
                (if rests { to } else { place }, 0.0)
            }
            Step::Spring(spring) => {
                let (place, velocity) = spring.advance(place, velocity, from, to);
                let near = (to - place).abs() * scale < REST_PIXELS;
                let slow = velocity.abs() * scale < REST_PIXELS * spring.omega;
                if stands(from, to, scale) && near && slow { (to, 0.0) } else { (place, velocity) }
            }
            Step::Speed { most } => (place + hold(to - place, -most, *most), 0.0),
        }
    }
}

/// Whether a goal stands: a turned view's sums leave it a few last bits of movement.
#[inline]
fn stands(from: f64, to: f64, scale: f64) -> bool {
    const STILL_PIXELS: f64 = 1e-6;
    (to - from).abs() * scale <= STILL_PIXELS
}

/// The two numbers of a half-life step: `a = 1 − e^(−x)` and `b = 1 − a/x`, `x = dt·ln 2 / h`.
#[derive(Clone, Copy, Debug)]
pub(crate) struct HalfLifeFactors {
    a: f64,
    b: f64,
}

impl HalfLifeFactors {
    pub fn new(half_life: f64, seconds: f64) -> Self {
        let x = seconds / half_life * core::f64::consts::LN_2;
        if half_life <= 0.0 || x == f64::INFINITY {
            return Self { a: 1.0, b: 1.0 };
        }
        let a = -libm::expm1(-x);
        if x > 0.02 {
            return Self { a, b: 1.0 - a / x };
        }
        // The difference would cancel: 1 − (1 − e^(−x))/x = x/2! − x²/3! + x³/4! − …
        let series = 1.0 - x / 3.0 * (1.0 - x / 4.0 * (1.0 - x / 5.0 * (1.0 - x / 6.0)));
        Self { a, b: x / 2.0 * series }
    }

    /// `c1 = c0 + (g0 − c0)·a + Δ·b`.
    #[inline]
    pub fn advance(&self, place: f64, from: f64, to: f64) -> f64 {
        if self.b == 1.0 {
            return to;
        }
        place + (from - place) * self.a + (to - from) * self.b
    }
}

/// The factors of the last half-life step, kept while time and setting stay the same.
#[derive(Clone, Copy, Debug)]
pub(crate) struct HalfLifeStep {
    half_life: f64,
    seconds: f64,
    factors: HalfLifeFactors,
}

impl Default for HalfLifeStep {
    fn default() -> Self {
        Self { half_life: 0.0, seconds: 0.0, factors: HalfLifeFactors::new(0.0, 0.0) }
    }
}

impl HalfLifeStep {
    #[inline]
    pub fn get(&mut self, half_life: f64, seconds: f64) -> HalfLifeFactors {
        if self.half_life != half_life || self.seconds != seconds {
            *self = Self { half_life, seconds, factors: HalfLifeFactors::new(half_life, seconds) };
        }
        self.factors
    }
}

/// The numbers of a step of a critically damped spring. With `x = ω·dt`, `E = e^(−x)`,
/// `e0 = c0 − g0` and `Δ = g1 − g0`:
///
/// `c1 = g1 + e0·E(1 + x) + ċ0·dt·E − Δ(2a/x − E)`,
/// `ċ1 = Δ·ω·(1 − E − xE)/x + ċ0·E(1 − x) − e0·ω·x·E`.
#[derive(Clone, Copy, Debug)]
struct SpringFactors {
    omega: f64,
    /// Of the distance, of the velocity and of the goal's way, for the place …
    place: [f64; 3],
    /// … and for the velocity.
    velocity: [f64; 3],
}

/// `(1 + x)·e^(−x) = 1/100`: a spring let go at rest has come within 1 % of its goal.
const SETTLED: f64 = 6.638_352_067_993_813;

impl SpringFactors {
    fn new(settle: f64, seconds: f64) -> Self {
        let omega = SETTLED / settle;
        let x = omega * seconds;
        let e = libm::exp(-x);
        if e == 0.0 {
            let lag = if x == f64::INFINITY { 0.0 } else { 2.0 / x };
            let speed = if x == f64::INFINITY { 0.0 } else { omega / x };
            return Self { omega, place: [0.0, 0.0, lag], velocity: [0.0, 0.0, speed] };
        }
        let a = -libm::expm1(-x);
        // (1 − E − xE)/x, as a series where it would cancel: x/2 − x²/3 + x³/8 − …
        let gained =
            if x > 1e-3 { (1.0 - e - x * e) / x } else { x / 2.0 - x * x / 3.0 + x * x * x / 8.0 };
        Self {
            omega,
            place: [e * (1.0 + x), seconds * e, 2.0 * a / x - e],
            velocity: [-omega * x * e, e * (1.0 - x), omega * gained],
        }
    }

    #[inline]
    fn advance(&self, place: f64, velocity: f64, from: f64, to: f64) -> (f64, f64) {
        let (error, way) = (place - from, to - from);
        let [of_error, of_velocity, of_way] = self.place;
        let at = to + error * of_error + velocity * of_velocity - way * of_way;
        let [of_error, of_velocity, of_way] = self.velocity;
        (at, error * of_error + velocity * of_velocity + way * of_way)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn kinds() -> impl Strategy<Value = Smoothing> {
        prop_oneof![
            (0.001..2.0_f64).prop_map(Smoothing::HalfLife),
            (0.01..4.0_f64).prop_map(Smoothing::Settle),
        ]
    }

    /// One axis without the rule of rest.
    fn advance(kind: Smoothing, (c, v): (f64, f64), from: f64, to: f64, dt: f64) -> (f64, f64) {
        Factors::new(kind, dt).advance(c, v, from, to, f64::INFINITY)
    }

    proptest! {
        /// Two steps along a straight line are one step of their sum.
        #[test]
        fn steps_add_up(
            kind in kinds(),
            place in -1e3..1e3_f64,
            velocity in -1e3..1e3_f64,
            from in -1e3..1e3_f64,
            speed in -1e3..1e3_f64,
            first in 0.0..0.5_f64,
            second in 0.0..0.5_f64,
        ) {
            let velocity = if matches!(kind, Smoothing::Settle(_)) { velocity } else { 0.0 };
            let middle = from + speed * first;
            let end = middle + speed * second;
            let twice = advance(kind, (place, velocity), from, middle, first);
            let twice = advance(kind, twice, middle, end, second);
            let once = advance(kind, (place, velocity), from, end, first + second);
            prop_assert!((twice.0 - once.0).abs() < 1e-9, "{twice:?} for {once:?}");
            prop_assert!((twice.1 - once.1).abs() < 1e-6, "{twice:?} for {once:?}");
        }

        #[test]
        fn a_standing_goal_halves_the_way(h in 1e-3..10.0_f64, c in -1e3..1e3_f64) {
            let (place, _) = advance(Smoothing::HalfLife(h), (c, 0.0), 0.0, 0.0, h);
            prop_assert!((place - c / 2.0).abs() < 1e-9);
        }

        #[test]
        fn a_spring_settles_in_its_time(settle in 1e-3..10.0_f64, c in -1e3..1e3_f64) {
            let (place, _) = advance(Smoothing::Settle(settle), (c, 0.0), 0.0, 0.0, settle);
            prop_assert!((place - c / 100.0).abs() < 1e-9);
        }

        /// The spring against its equation `c̈ = ω²(g − c) − 2ωċ` (with ġ left out, the goal's own
        /// speed is not felt), integrated in small steps.
        #[test]
        fn a_spring_obeys_its_equation(speed in -200.0..200.0_f64, v in -200.0..200.0_f64) {
            let (settle, seconds, steps) = (0.8, 0.3, 3000);
            let omega = SETTLED / settle;
            let (mut c, mut velocity) = (5.0, v);
            let dt = seconds / f64::from(steps);
            let pull = |t: f64, c: f64, v: f64| omega * omega * (speed * t - c) - 2.0 * omega * v;
            for step in 0..steps {
                let t = f64::from(step) * dt;
                let half = velocity + pull(t, c, velocity) * dt / 2.0;
                let middle = c + velocity * dt / 2.0;
                c += half * dt;
                velocity += pull(t + dt / 2.0, middle, half) * dt;
            }
            let (place, _) = advance(Smoothing::Settle(settle), (5.0, v), 0.0, speed * seconds, seconds);
            prop_assert!((place - c).abs() < 1e-3, "{place} for {c}");
        }
    }

    #[test]
    fn any_step_is_finite_and_right() {
        for kind in [Smoothing::HalfLife(0.1), Smoothing::Settle(0.4), Smoothing::Speed(50.0)] {
            for (seconds, expected) in
                [(0.0, 8.0), (1e-300, 8.0), (1e-6, 8.0), (1e6, 2.0), (1e300, 2.0)]
            {
                let (place, velocity) = advance(kind, (8.0, 0.0), 2.0, 2.0, seconds);
                assert!((place - expected).abs() < 1e-4, "{kind:?}, {seconds}: {place}");
                assert!(velocity.is_finite());
            }
        }
        assert_eq!(advance(Smoothing::HalfLife(0.0), (8.0, 0.0), 2.0, 3.0, 0.0), (3.0, 0.0));
        assert_eq!(advance(Smoothing::HalfLife(5e-324), (8.0, 0.0), 2.0, 3.0, 1.0), (3.0, 0.0));
        assert_eq!(advance(Smoothing::Settle(1e-300), (8.0, 0.0), 2.0, 3.0, 1e300), (3.0, 0.0));
    }

    #[test]
    fn series_meet_their_formulas() {
        let (series, formula) =
            (HalfLifeFactors::new(1.0, 0.0288), HalfLifeFactors::new(1.0, 0.0289));
        assert!((series.b / 0.0288 - formula.b / 0.0289).abs() < 1e-4);
        let ratio = |x: f64| SpringFactors::new(SETTLED, x).velocity[2] / x;
        assert!((ratio(0.999_999e-3) - ratio(1.000_001e-3)).abs() < 1e-7);
    }
}
