//! One step of smoothing by a half-life, in closed form.

/// A smoothed value closer to a standing goal than this, in screen pixels, is set to the goal.
pub(crate) const REST_PIXELS: f64 = 0.01;

/// The two factors of a half-life step: `a = 1 − e^(−x)` and `b = 1 − a/x`, `x = dt·ln 2 / h`.
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
    pub fn advance(&self, position: f64, from: f64, to: f64) -> f64 {
        if self.b == 1.0 {
            return to;
        }
        position + (from - position) * self.a + (to - from) * self.b
    }

    /// Moves a value towards a standing target, and to the target once the rest can't be seen. `pixels` is the number of
    /// screen pixels per unit of the value.
    pub fn approach(&self, value: f64, target: f64, pixels: f64) -> f64 {
        let next = self.advance(value, target, target);
        if (target - next).abs() * pixels < REST_PIXELS { target } else { next }
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_series_meets_its_formula() {
        let [series, formula] = [0.0288, 0.0289].map(|x| HalfLifeFactors::new(1.0, x).b / x);
        assert!((series - formula).abs() < 1e-4);
    }
}
