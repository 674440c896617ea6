//! The treatment of fractions of a screen pixel.

use glam::{DVec2, I64Vec2, Vec2};

use crate::base::maths::{ceil_to_i64, floor_to_i64};

/// Added before the corner is rounded down, so that a corner that misses a whole pixel only by rounding errors does
/// not fall to the pixel below.
const CORNER_SLACK: f64 = 1.0 / 1024.0;

/// A corner on the grid of whole screen pixels, and the fraction that was removed.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct SnappedCorner {
    pub corner: I64Vec2,
    /// In [0, 1) on both axes.
    pub residual: Vec2,
}

impl SnappedCorner {
    /// `corner = floor(o + 2⁻¹⁰)`, `residual = max(0, o − corner)`.
    #[inline]
    pub fn of(corner: DVec2) -> Self {
        let whole = I64Vec2::new(
            floor_to_i64(corner.x + CORNER_SLACK),
            floor_to_i64(corner.y + CORNER_SLACK),
        );
        let rest = corner - whole.as_dvec2();
        Self { corner: whole, residual: Vec2::new(fraction(rest.x), fraction(rest.y)) }
    }

    /// Returns the corner, moved as little as possible to keep `size` pixels within `low..=high`, in screen pixels
    /// along the axes of the view. An axis with too little room does not move.
    #[inline]
    pub fn clamped(self, low: DVec2, high: DVec2, size: DVec2) -> Self {
        let clamp = |corner: i64, low: f64, last: f64| {
            let first = ceil_to_i64(low - CORNER_SLACK);
            let last = floor_to_i64(last + CORNER_SLACK);
            if first > last { corner } else { corner.clamp(first, last) }
        };
        let last = high - size;
        let x = clamp(self.corner.x, low.x, last.x);
        let y = clamp(self.corner.y, low.y, last.y);
        Self { corner: I64Vec2::new(x, y), ..self }
    }
}

/// `rest` as `f32` in [0, 1). The largest fractions would round up to 1.
#[inline]
fn fraction(rest: f64) -> f32 {
    const BELOW_ONE: f32 = 1.0 - f32::EPSILON / 2.0;
    (rest as f32).clamp(0.0, BELOW_ONE)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn residual_is_a_fraction_and_corner_nearby(x in -1e12..1e12_f64, y in any::<f64>()) {
            let snapped = SnappedCorner::of(DVec2::new(x, y));
            prop_assert!((0.0..1.0).contains(&snapped.residual.x));
            prop_assert!((0.0..1.0).contains(&snapped.residual.y));
            let back = snapped.corner.x as f64 + f64::from(snapped.residual.x);
            prop_assert!((back - x).abs() <= CORNER_SLACK + 1e-3);
        }
    }

    #[test]
    fn a_hair_below_a_pixel_is_that_pixel() {
        let snapped = SnappedCorner::of(DVec2::new(63.999_999, -0.000_01));
        assert_eq!(snapped.corner, I64Vec2::new(64, 0));
        assert_eq!(snapped.residual, Vec2::ZERO);
    }
}
