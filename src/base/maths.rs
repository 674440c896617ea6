//! Simple functions that `core` lacks.
//!
//! Every function that the processor does not round exactly comes from `libm`, so that the same ride gives exactly the
//! same results on every 64-bit target and in the browser.

use glam::DVec2;

/// Larger whole numbers can't be told apart in `f64` arithmetic.
pub(crate) const MAX_EXACT_INTEGER: i64 = 1 << 52;

/// Returns the largest whole number that is not above `value`.
///
/// Beyond the range of `i64`, returns the nearest end; for NaN, 0.
#[inline]
#[must_use]
pub(crate) fn floor_to_i64(value: f64) -> i64 {
    let cut = value as i64;
    cut.saturating_sub(i64::from((cut as f64) > value))
}

/// Returns the smallest whole number that is not below `value`. Ends and NaN as in [`floor_to_i64`].
#[inline]
#[must_use]
pub(crate) fn ceil_to_i64(value: f64) -> i64 {
    floor_to_i64(-value).saturating_neg()
}

/// Returns the nearest whole number; halves are rounded up.
#[inline]
#[must_use]
pub(crate) fn round_to_i64(value: f64) -> i64 {
    floor_to_i64(value + 0.5)
}

/// `value` clamped to `low..=high`. If these cross, `low` wins.
#[inline]
#[must_use]
pub(crate) fn clamp(value: f64, low: f64, high: f64) -> f64 {
    let below = if value < high { value } else { high };
    if below > low { below } else { low }
}

/// Both axes of a point clamped to `low..=high`. If these cross, `low` wins.
#[inline]
#[must_use]
pub(crate) fn clamp_point(point: DVec2, low: DVec2, high: DVec2) -> DVec2 {
    DVec2::new(clamp(point.x, low.x, high.x), clamp(point.y, low.y, high.y))
}

/// `value` rotated by the angle with this cosine and sine.
#[inline]
#[must_use]
pub(crate) fn turn(value: DVec2, cos: f64, sin: f64) -> DVec2 {
    DVec2::new(value.x * cos - value.y * sin, value.x * sin + value.y * cos)
}

/// Returns the point at a fraction of the way from one point to another, exact at both ends.
#[inline]
#[must_use]
pub(crate) fn mix(from: DVec2, to: DVec2, fraction: f64) -> DVec2 {
    if fraction >= 1.0 { to } else { from + (to - from) * fraction }
}

/// Returns the rotation from one angle to another in the shorter direction, at most half a turn.
#[must_use]
pub(crate) fn shorter_arc(from: f64, to: f64) -> f64 {
    libm::remainder(to - from, core::f64::consts::TAU)
}

/// Returns a usable angle in radians, reduced to less than a turn, or `None`.
#[must_use]
pub(crate) fn usable_angle(angle: f64) -> Option<f64> {
    const MANY: f64 = 1e6;
    let few = if angle.abs() <= MANY { angle } else { shorter_arc(0.0, angle) };
    Some(few).filter(|angle| angle.is_finite())
}

/// Narrows the interval from `low`, where a condition is false, to `high`, where it is true, by this number of
/// halvings. Returns its two ends.
pub(crate) fn bisect(
    [mut low, mut high]: [f64; 2],
    halvings: u32,
    mut is_true: impl FnMut(f64) -> bool,
) -> [f64; 2] {
    for _halving in 0..halvings {
        let middle = f64::midpoint(low, high);
        if is_true(middle) { high = middle } else { low = middle }
    }
    [low, high]
}

/// Returns whether a world point is usable: it is finite, and so is its square.
#[inline]
#[must_use]
pub(crate) fn is_usable(point: DVec2) -> bool {
    const MAX_COORDINATE: f64 = 1e100;
    point.abs().cmple(DVec2::splat(MAX_COORDINATE)).all()
}

/// Returns usable seconds for a frame: negative steps and steps that are not finite count as 0.
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
