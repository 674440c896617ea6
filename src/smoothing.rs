//! How the view follows its goal: the motion of the focus, exact at any frame rate.

use glam::DVec2;

use crate::course::Course;
use crate::error::{Report, SettingsError};
use crate::per_axis::PerAxis;

/// How one axis of the view follows its goal.
///
/// The mistake this prevents is a fraction of the way per frame: that follows faster on a faster
/// machine. Here every kind is a closed form of time, exact for a goal that moves in a straight
/// line during the step.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
pub enum Smoothing {
    /// At the goal at once.
    #[default]
    None,
    /// Half of the rest of the way in this many seconds, 0 or more.
    HalfLife(f64),
}

impl Smoothing {
    /// From "this fraction of the way each frame, at this many frames a second", in seconds:
    /// `h = −ln 2 / (fps · ln(1 − fraction))`. A fraction of 0 or less never arrives, 1 or more is
    /// there at once.
    ///
    /// ```
    /// use velvet_pan::Smoothing;
    ///
    /// let Smoothing::HalfLife(seconds) = Smoothing::per_frame(0.1, 60.0) else { unreachable!() };
    /// assert!((seconds - 0.1096).abs() < 1e-4);
    /// assert_eq!(Smoothing::per_frame(1.0, 60.0), Smoothing::None);
    /// ```
    #[must_use]
    pub fn per_frame(fraction: f64, frames_per_second: f64) -> Self {
        if fraction >= 1.0 {
            return Self::None;
        }
        let decay = -libm::log1p(-fraction.max(0.0)) * frames_per_second;
        Self::HalfLife((core::f64::consts::LN_2 / decay).min(LONGEST))
    }

    pub(crate) fn check(self, field: &'static str, report: Report<'_>) {
        if let Self::HalfLife(seconds) = self
            && !(0.0..=LONGEST).contains(&seconds)
        {
            let expected = "a half-life in seconds, from 0 to 1000000";
            report(SettingsError::new(field, seconds, expected));
        }
    }
}

/// The longest half-life in seconds that settings may ask for: eleven days.
const LONGEST: f64 = 1e6;

/// Closer to a standing goal than this, in screen pixels, the focus is set on it.
const REST_PIXELS: f64 = 0.01;

/// The focus on its way to the goal.
///
/// It keeps the weights of the last step, which are the same bits whenever the time and the
/// setting are the same.
#[derive(Clone, Debug, Default)]
pub(crate) struct Motion {
    x: Weights,
    y: Weights,
}

impl Motion {
    /// The focus after `seconds` on the way to a goal on `course`; `scale` is screen pixels per
    /// world unit.
    #[inline]
    pub fn advance(
        &mut self,
        smoothing: &PerAxis<Smoothing>,
        mut focus: DVec2,
        course: &Course,
        seconds: f64,
        scale: f64,
    ) -> DVec2 {
        for pair in course.knots().windows(2) {
            let part = seconds * (pair[1].at - pair[0].at);
            let (from, to) = (pair[0].point, pair[1].point);
            let axis = |focus, from, to, weights: &Weights| {
                rest(weights.advance(focus, from, to), from, to, scale)
            };
            focus.x = axis(focus.x, from.x, to.x, self.x.refresh(smoothing.x, part));
            focus.y = axis(focus.y, from.y, to.y, self.y.refresh(smoothing.y, part));
        }
        focus
    }
}

/// The goal itself where it stands still and the rest of the way can't be seen.
#[inline]
fn rest(focus: f64, from: f64, to: f64, scale: f64) -> f64 {
    if from == to && (to - focus).abs() * scale < REST_PIXELS { to } else { focus }
}

/// The two numbers of a half-life step: `a = 1 − e^(−x)` and `b = 1 − a/x`, `x = dt·ln 2 / h`.
#[derive(Clone, Copy, Debug)]
struct Weights {
    smoothing: Smoothing,
    seconds: f64,
    a: f64,
    b: f64,
}

impl Default for Weights {
    fn default() -> Self {
        Self::new(Smoothing::None, 0.0)
    }
}

impl Weights {
    #[inline]
    fn refresh(&mut self, smoothing: Smoothing, seconds: f64) -> &Self {
        if self.seconds != seconds || self.smoothing != smoothing {
            *self = Self::new(smoothing, seconds);
        }
        self
    }

    fn new(smoothing: Smoothing, seconds: f64) -> Self {
        let (a, b) = match smoothing {
            Smoothing::HalfLife(half_life) if half_life > 0.0 => {
                half_life_weights((seconds / half_life) * core::f64::consts::LN_2)
            }
            _ => (1.0, 1.0),
        };
        Self { smoothing, seconds, a, b }
    }

    /// `c1 = c0 + (g0 − c0)·a + Δ·b`.
    #[inline]
    fn advance(&self, focus: f64, from: f64, to: f64) -> f64 {
        if self.a == 1.0 && self.b == 1.0 {
            return to;
        }
        focus + (from - focus) * self.a + (to - from) * self.b
    }
}

/// `a = −expm1(−x)` and `1 − a/x`, the latter as a series where the difference would cancel.
fn half_life_weights(x: f64) -> (f64, f64) {
    let a = -libm::expm1(-x);
    if x > 0.02 {
        return (a, 1.0 - a / x);
    }
    // 1 − (1 − e^(−x))/x = x/2! − x²/3! + x³/4! − …
    let series = 1.0 - x / 3.0 * (1.0 - x / 4.0 * (1.0 - x / 5.0 * (1.0 - x / 6.0)));
    (a, x / 2.0 * series)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn advance(half_life: f64, focus: f64, from: f64, to: f64, seconds: f64) -> f64 {
        Weights::new(Smoothing::HalfLife(half_life), seconds).advance(focus, from, to)
    }

    proptest! {
        /// Two steps along a straight line are one step of their sum.
        #[test]
        fn steps_add_up(
            half_life in 0.001..2.0_f64,
            focus in -1e3..1e3_f64,
            from in -1e3..1e3_f64,
            speed in -1e3..1e3_f64,
            first in 0.0..0.5_f64,
            second in 0.0..0.5_f64,
        ) {
            let middle = from + speed * first;
            let end = middle + speed * second;
            let stepwise = advance(half_life, focus, from, middle, first);
            let stepwise = advance(half_life, stepwise, middle, end, second);
            let once = advance(half_life, focus, from, end, first + second);
            prop_assert!((stepwise - once).abs() < 1e-9);
        }

        #[test]
        fn a_standing_goal_halves_the_way(h in 1e-3..10.0_f64, c in -1e3..1e3_f64) {
            prop_assert!((advance(h, c, 0.0, 0.0, h) - c / 2.0).abs() < 1e-9);
        }
    }

    #[test]
    fn any_step_is_finite_and_right() {
        for (seconds, expected) in [(0.0, 8.0), (1e-300, 8.0), (1e6, 2.0), (1e300, 2.0)] {
            let focus = advance(0.1, 8.0, 2.0, 2.0, seconds);
            assert!((focus - expected).abs() < 1e-9, "{seconds}: {focus}");
        }
        assert_eq!(advance(0.0, 8.0, 2.0, 3.0, 0.0), 3.0);
        assert_eq!(advance(5e-324, 8.0, 2.0, 3.0, 1.0), 3.0);
    }

    #[test]
    fn the_series_meets_the_formula() {
        let (_, series) = half_life_weights(0.02);
        let (_, formula) = half_life_weights(0.020_000_001);
        assert!((series - formula).abs() < 1e-9);
    }
}
