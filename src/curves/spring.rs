//! One step of a critically damped spring, in closed form.

/// The factors of a step of a critically damped spring. With `x = ω·dt`, `E = e^(−x)`, `e0 = c0 − g0` and
/// `Δ = g1 − g0`:
///
/// `c1 = g1 + e0·E(1 + x) + ċ0·dt·E − Δ(2a/x − E)`,
/// `ċ1 = Δ·ω·(1 − E − xE)/x + ċ0·E(1 − x) − e0·ω·x·E`.
#[derive(Clone, Copy, Debug)]
pub(crate) struct SpringFactors {
    pub omega: f64,
    /// The factors of the distance, the velocity and the goal's movement, for the new position.
    position: [f64; 3],
    /// The same for the new velocity.
    velocity: [f64; 3],
}

/// `(1 + x)·e^(−x) = 1/100`: the time after which a spring at rest has come within 1 % of its goal.
pub(crate) const SETTLED: f64 = 6.638_352_067_993_813;

impl SpringFactors {
    /// Returns whether the time is so short that nothing moves, not even in the last bit.
    pub fn is_frozen(settle: f64, seconds: f64) -> bool {
        SETTLED / settle * seconds == 0.0
    }

    pub fn new(settle: f64, seconds: f64) -> Self {
        let omega = SETTLED / settle;
        let x = omega * seconds;
        let e = libm::exp(-x);
        if e == 0.0 {
            let lag = if x == f64::INFINITY { 0.0 } else { 2.0 / x };
            let speed = if x == f64::INFINITY { 0.0 } else { omega / x };
            return Self { omega, position: [0.0, 0.0, lag], velocity: [0.0, 0.0, speed] };
        }
        let a = -libm::expm1(-x);
        // (1 − E − xE)/x, as a series where it would cancel: x/2 − x²/3 + x³/8 − …
        let gained =
            if x > 1e-3 { (1.0 - e - x * e) / x } else { x / 2.0 - x * x / 3.0 + x * x * x / 8.0 };
        Self {
            omega,
            position: [e * (1.0 + x), seconds * e, 2.0 * a / x - e],
            velocity: [-omega * x * e, e * (1.0 - x), omega * gained],
        }
    }

    #[inline]
    pub fn advance(&self, position: f64, velocity: f64, from: f64, to: f64) -> (f64, f64) {
        let (error, way) = (position - from, to - from);
        let [of_error, of_velocity, of_way] = self.position;
        let at = to + error * of_error + velocity * of_velocity - way * of_way;
        let [of_error, of_velocity, of_way] = self.velocity;
        (at, error * of_error + velocity * of_velocity + way * of_way)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_series_meets_its_formula() {
        let ratio = |x: f64| SpringFactors::new(SETTLED, x).velocity[2] / x;
        assert!((ratio(0.999_999e-3) - ratio(1.000_001e-3)).abs() < 1e-7);
    }
}
