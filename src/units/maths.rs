//! The few plain functions that `core` has no stable name for.
//!
//! Everything that is not exactly rounded by the processor goes through `libm`, so that the same
//! ride has the same bits on every 64-bit target and in the browser.

use glam::DVec2;

/// Whole numbers beyond this are no longer told apart by `f64` arithmetic.
pub(crate) const FARTHEST: i64 = 1 << 52;

/// The largest whole number not above `value`, as a whole number.
///
/// Beyond the range of `i64` it answers the nearest end; NaN gives 0.
#[inline]
#[must_use]
pub(crate) fn floor_to_i64(value: f64) -> i64 {
    let cut = value as i64;
    cut.saturating_sub(i64::from((cut as f64) > value))
}

/// The smallest whole number not below `value`, as a whole number; ends and NaN as with
/// [`floor_to_i64`].
#[inline]
#[must_use]
pub(crate) fn ceil_to_i64(value: f64) -> i64 {
    floor_to_i64(-value).saturating_neg()
}

/// The nearest whole number, halves up.
#[inline]
#[must_use]
pub(crate) fn round_to_i64(value: f64) -> i64 {
    floor_to_i64(value + 0.5)
}

/// `value` held within `low..=high`; where these cross, `low` wins.
#[inline]
#[must_use]
pub(crate) fn clamp(value: f64, low: f64, high: f64) -> f64 {
    let below = if value < high { value } else { high };
    if below > low { below } else { low }
}

/// Both axes of a point held within `low..=high`; where these cross, `low` wins.
#[inline]
#[must_use]
pub(crate) fn clamp_point(point: DVec2, low: DVec2, high: DVec2) -> DVec2 {
    DVec2::new(clamp(point.x, low.x, high.x), clamp(point.y, low.y, high.y))
}

/// `value` turned by the angle whose cosine and sine are given.
#[inline]
#[must_use]
pub(crate) fn turn(value: DVec2, cos: f64, sin: f64) -> DVec2 {
    DVec2::new(value.x * cos - value.y * sin, value.x * sin + value.y * cos)
}

/// The point a fraction of the way from one to another; exact at both ends.
#[inline]
#[must_use]
pub(crate) fn mix(from: DVec2, to: DVec2, fraction: f64) -> DVec2 {
    if fraction >= 1.0 { to } else { from + (to - from) * fraction }
}

/// The turn from one angle to another by the shorter way, within half a turn either way.
#[must_use]
pub(crate) fn shorter_arc(from: f64, to: f64) -> f64 {
    libm::remainder(to - from, core::f64::consts::TAU)
}

/// An angle in radians that can be used; one of many turns is the same without them.
#[must_use]
pub(crate) fn usable_angle(angle: f64) -> Option<f64> {
    const MANY: f64 = 1e6;
    let few = if angle.abs() <= MANY { angle } else { shorter_arc(0.0, angle) };
    Some(few).filter(|angle| angle.is_finite())
}

/// Whether a world point can be used: it is finite, and so near that its square is, too.
#[inline]
#[must_use]
pub(crate) fn is_usable(point: DVec2) -> bool {
    const FARTHEST: f64 = 1e100;
    point.abs().cmple(DVec2::splat(FARTHEST)).all()
}

/// Seconds that a frame can use: steps that are negative or not finite count as 0.
#[inline]
#[must_use]
pub(crate) fn usable_seconds(seconds: f64) -> f64 {
    if seconds > 0.0 && seconds < f64::INFINITY { seconds } else { 0.0 }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn floor_is_right_at_the_edges() {
        for (value, floor) in [(0.0, 0), (-0.5, -1), (1.999, 1), (-2.0, -2), (1e30, i64::MAX)] {
            assert_eq!(floor_to_i64(value), floor, "{value}");
        }
        assert_eq!(floor_to_i64(f64::NAN), 0);
        assert_eq!(floor_to_i64(f64::NEG_INFINITY), i64::MIN);
    }

    #[test]
    fn bad_steps_count_as_zero() {
        for bad in [-1.0, f64::NAN, f64::INFINITY, f64::NEG_INFINITY, -0.0] {
            assert_eq!(usable_seconds(bad), 0.0);
        }
        assert_eq!(usable_seconds(1e300), 1e300);
    }
}
