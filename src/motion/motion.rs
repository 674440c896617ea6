//! The focus on its way to the goal, in closed form.

use glam::DVec2;

use crate::base::sound::{Sound, sound};
use crate::curves::half_life::{HalfLifeFactors, REST_PIXELS};
use crate::curves::smoothing::Smoothing;
use crate::curves::spring::SpringFactors;
use crate::keys::per_axis::PerAxis;

/// A position in world units, and its velocity in world units per second.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Moving {
    pub position: DVec2,
    /// Kept for springs only; 0 otherwise.
    pub velocity: DVec2,
}

sound!(Moving { position, velocity });

impl Moving {
    /// Returns where the focus would be if the second of two smoothings had always moved it instead of the first. The goal is at
    /// `goal` and moves at `velocity`.
    ///
    /// The distance behind the goal changes in the ratio of the two lags; without an earlier lag it is that of the new
    /// smoothing at the goal's velocity. Behind a goal that is faster than a limit of the speed it stays as it is.
    pub fn resmoothed(
        self,
        goal: DVec2,
        velocity: DVec2,
        [old, new]: [&PerAxis<Smoothing>; 2],
    ) -> Self {
        let axis = |axis: usize, old: Smoothing, new: Smoothing| {
            let (speed, behind) = (velocity[axis], goal[axis] - self.position[axis]);
            let is_spring = |kind| matches!(kind, Smoothing::Settle(_));
            let keeps = is_spring(old) && is_spring(new);
            let speed_after = if keeps { self.velocity[axis] } else { speed };
            let after = if is_spring(new) { speed_after } else { 0.0 };
            let (was, now) = (old.lag_at(1.0), new.lag_at(1.0));
            let is_ratio = was > 0.0 && was.is_finite() && now.is_finite();
            let lag = new.lag_at(speed.abs()).copysign(speed);
            let distance = match () {
                () if old == new || !lag.is_finite() => behind,
                () if is_ratio => behind * (now / was),
                () => lag,
            };
            (goal[axis] - distance, if old == new { self.velocity[axis] } else { after })
        };
        let ((x, vx), (y, vy)) = (axis(0, old.x, new.x), axis(1, old.y, new.y));
        let moved = Self { position: DVec2::new(x, y), velocity: DVec2::new(vx, vy) };
        if moved.is_sound() { moved } else { self }
    }
}

/// The motion of the focus.
///
/// It keeps the factors of the last step, which are exactly the same whenever the time and the setting are the same.
#[derive(Clone, Debug, Default)]
pub(crate) struct Motion {
    x: Factors,
    y: Factors,
}

impl Motion {
    /// Returns the focus after a short step towards a goal that moves evenly.
    #[inline]
    pub fn step(
        &mut self,
        smoothing: &PerAxis<Smoothing>,
        focus: Moving,
        [from, to]: [DVec2; 2],
        seconds: f64,
        scale: f64,
    ) -> Moving {
        if let (Smoothing::Speed(speed), true) = (smoothing.x, smoothing.x == smoothing.y) {
            let (rest, most) = (to - focus.position, speed * seconds);
            // Towards the middle of the goal's way: its end would be half a step ahead.
            let towards = (from + to) / 2.0 - focus.position;
            let near = rest.length() <= most;
            let position =
                if near { to } else { focus.position + towards.normalize_or_zero() * most };
            return Moving { position, ..Moving::default() };
        }
        self.piece(smoothing, focus, [from, to], seconds, scale)
    }

    #[inline(always)]
    fn piece(
        &mut self,
        smoothing: &PerAxis<Smoothing>,
        focus: Moving,
        [from, to]: [DVec2; 2],
        seconds: f64,
        scale: f64,
    ) -> Moving {
        let x = self.x.refresh(smoothing.x, seconds);
        let (px, vx) = x.advance(focus.position.x, focus.velocity.x, from.x, to.x, scale);
        let alike = smoothing.y == smoothing.x;
        let y = if alike { x } else { self.y.refresh(smoothing.y, seconds) };
        let (py, vy) = y.advance(focus.position.y, focus.velocity.y, from.y, to.y, scale);
        Moving { position: DVec2::new(px, py), velocity: DVec2::new(vx, vy) }
    }
}

/// Moves along one axis, by at most `most`, towards a goal that moves evenly from `from` to `to` meanwhile. A slower
/// goal is kept once it is reached.
fn chase_along(position: f64, from: f64, to: f64, most: f64) -> f64 {
    let (rest, way) = (from - position, to - from);
    let sense = if rest == 0.0 { way } else { rest };
    let closing = most - way * sense.signum();
    // The fraction of the step at which the goal is reached.
    let met = if rest == 0.0 { 0.0 } else { rest.abs() / closing };
    if closing <= 0.0 || met >= 1.0 {
        return position + most.copysign(sense);
    }
    if way.abs() <= most { to } else { from + way * met + (1.0 - met) * most.copysign(way) }
}

/// The factors of one axis and one step, kept while time and setting stay the same.
#[derive(Clone, Copy, Debug)]
struct Factors {
    smoothing: Smoothing,
    seconds: f64,
    step: Step,
}

/// One step along one axis, as factors of its starting values.
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
                // A step without duration changes nothing, not even the last bit.
                let frozen = SpringFactors::is_frozen(settle, seconds);
                if frozen { Step::Still } else { Step::Spring(SpringFactors::new(settle, seconds)) }
            }
            Smoothing::Speed(speed) => Step::Speed { most: speed * seconds },
            _ => Step::There,
        };
        Self { smoothing, seconds, step }
    }

    /// Position and velocity after the step, for a goal that moves straight from `from` to `to`.
    #[inline]
    fn advance(&self, position: f64, velocity: f64, from: f64, to: f64, scale: f64) -> (f64, f64) {
        match &self.step {
            Step::Still => (position, velocity),
            Step::There => (to, 0.0),
            Step::HalfLife(half_life) => {
                let position = half_life.advance(position, from, to);
                let rests = stands(from, to, scale) && (to - position).abs() * scale < REST_PIXELS;
                (if rests { to } else { position }, 0.0)
            }
            Step::Spring(spring) => {
                let (position, velocity) = spring.advance(position, velocity, from, to);
                let near = (to - position).abs() * scale < REST_PIXELS;
                let slow = velocity.abs() * scale < REST_PIXELS * spring.omega;
                if stands(from, to, scale) && near && slow {
                    (to, 0.0)
                } else {
                    (position, velocity)
                }
            }
            Step::Speed { most } => (chase_along(position, from, to, *most), 0.0),
        }
    }
}

/// Returns whether a goal stands still. In a rotated view, rounding leaves it a tiny movement.
#[inline]
fn stands(from: f64, to: f64, scale: f64) -> bool {
    const STILL_PIXELS: f64 = 1e-6;
    (to - from).abs() * scale <= STILL_PIXELS
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::curves::spring::SETTLED;
    use proptest::prelude::*;

    fn kinds() -> impl Strategy<Value = Smoothing> {
        prop_oneof![
            (0.001..2.0_f64).prop_map(Smoothing::HalfLife),
            (0.01..4.0_f64).prop_map(Smoothing::Settle),
        ]
    }

    /// One axis, without stopping close to the goal.
    fn advance(kind: Smoothing, (c, v): (f64, f64), from: f64, to: f64, dt: f64) -> (f64, f64) {
        Factors::new(kind, dt).advance(c, v, from, to, f64::INFINITY)
    }

    proptest! {
        /// Two steps along a straight line equal one step of their sum.
        #[test]
        fn steps_add_up(
            kind in kinds(),
            position in -1e3..1e3_f64,
            velocity in -1e3..1e3_f64,
            from in -1e3..1e3_f64,
            speed in -1e3..1e3_f64,
            first in 0.0..0.5_f64,
            second in 0.0..0.5_f64,
        ) {
            let velocity = if matches!(kind, Smoothing::Settle(_)) { velocity } else { 0.0 };
            let middle = from + speed * first;
            let end = middle + speed * second;
            let twice = advance(kind, (position, velocity), from, middle, first);
            let twice = advance(kind, twice, middle, end, second);
            let once = advance(kind, (position, velocity), from, end, first + second);
            prop_assert!((twice.0 - once.0).abs() < 1e-9, "{twice:?} for {once:?}");
            prop_assert!((twice.1 - once.1).abs() < 1e-6, "{twice:?} for {once:?}");
        }

        #[test]
        fn a_standing_goal_halves_the_way(h in 1e-3..10.0_f64, c in -1e3..1e3_f64) {
            let (position, _) = advance(Smoothing::HalfLife(h), (c, 0.0), 0.0, 0.0, h);
            prop_assert!((position - c / 2.0).abs() < 1e-9);
        }

        #[test]
        fn a_spring_settles_in_its_time(settle in 1e-3..10.0_f64, c in -1e3..1e3_f64) {
            let (position, _) = advance(Smoothing::Settle(settle), (c, 0.0), 0.0, 0.0, settle);
            prop_assert!((position - c / 100.0).abs() < 1e-9);
        }

        /// Compares the spring with its equation `c̈ = ω²(g − c) − 2ωċ`, integrated in small steps. Without ġ, the
        /// goal's own speed has no effect.
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
            let (position, _) = advance(Smoothing::Settle(settle), (5.0, v), 0.0, speed * seconds, seconds);
            prop_assert!((position - c).abs() < 1e-3, "{position} for {c}");
        }
    }

    #[test]
    fn any_step_is_finite_and_right() {
        for kind in [Smoothing::HalfLife(0.1), Smoothing::Settle(0.4), Smoothing::Speed(50.0)] {
            for (seconds, expected) in
                [(0.0, 8.0), (1e-300, 8.0), (1e-6, 8.0), (1e6, 2.0), (1e300, 2.0)]
            {
                let (position, velocity) = advance(kind, (8.0, 0.0), 2.0, 2.0, seconds);
                assert!((position - expected).abs() < 1e-4, "{kind:?}, {seconds}: {position}");
                assert!(velocity.is_finite());
            }
        }
        assert_eq!(advance(Smoothing::HalfLife(0.0), (8.0, 0.0), 2.0, 3.0, 0.0), (3.0, 0.0));
        assert_eq!(advance(Smoothing::HalfLife(5e-324), (8.0, 0.0), 2.0, 3.0, 1.0), (3.0, 0.0));
        assert_eq!(advance(Smoothing::Settle(1e-300), (8.0, 0.0), 2.0, 3.0, 1e300), (3.0, 0.0));
    }
}
