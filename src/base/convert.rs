//! Types for world points and durations as arguments.

use core::time::Duration;

use glam::{DVec2, IVec2, Vec2};

/// A world point in any of the supported types.
///
/// Implemented for `glam`'s `DVec2`, `Vec2` and `IVec2`, and for arrays and pairs of `f64`, `f32` and `i32`.
/// With the feature `mint` it is implemented for the points and vectors of that crate. Another version of `glam` than
/// ours gives an array: `position.to_array()`. The library works in `f64` throughout, so that a pan is as smooth far
/// from the origin as at it.
///
/// ```
/// use velvet_pan::{IntoWorld, glam::DVec2};
///
/// assert_eq!((3, -4).into_world(), DVec2::new(3.0, -4.0));
/// assert_eq!([0.5_f32, 2.0].into_world(), DVec2::new(0.5, 2.0));
/// ```
pub trait IntoWorld {
    /// Converts the point to `f64`, in world units.
    fn into_world(self) -> DVec2;
}

impl IntoWorld for DVec2 {
    #[inline]
    fn into_world(self) -> DVec2 {
        self
    }
}

/// Implements the conversion for vectors with an `x` and a `y` that `f64` holds exactly.
macro_rules! vectors_into_world {
    ($($vector:ty),*) => {$(
        impl IntoWorld for $vector {
            #[inline]
            fn into_world(self) -> DVec2 {
                DVec2::new(f64::from(self.x), f64::from(self.y))
            }
        }
    )*};
}

vectors_into_world!(Vec2, IVec2);
#[cfg(feature = "mint")]
vectors_into_world!(mint::Point2<f64>, mint::Point2<f32>, mint::Point2<i32>);
#[cfg(feature = "mint")]
vectors_into_world!(mint::Vector2<f64>, mint::Vector2<f32>, mint::Vector2<i32>);

macro_rules! pairs_into_world {
    ($($number:ty),*) => {$(
        impl IntoWorld for [$number; 2] {
            #[inline]
            fn into_world(self) -> DVec2 {
                DVec2::new(f64::from(self[0]), f64::from(self[1]))
            }
        }

        impl IntoWorld for ($number, $number) {
            #[inline]
            fn into_world(self) -> DVec2 {
                DVec2::new(f64::from(self.0), f64::from(self.1))
            }
        }
    )*};
}

pairs_into_world!(f64, f32, i32);

/// A duration: seconds as `f64` or `f32`, or a [`Duration`].
///
/// ```
/// use core::time::Duration;
/// use velvet_pan::IntoSeconds;
///
/// assert_eq!(Duration::from_millis(250).into_seconds(), 0.25);
/// assert_eq!(0.25_f32.into_seconds(), 0.25);
/// ```
pub trait IntoSeconds {
    /// Converts the duration to seconds.
    fn into_seconds(self) -> f64;
}

impl IntoSeconds for f64 {
    #[inline]
    fn into_seconds(self) -> f64 {
        self
    }
}

impl IntoSeconds for f32 {
    #[inline]
    fn into_seconds(self) -> f64 {
        f64::from(self)
    }
}

impl IntoSeconds for Duration {
    #[inline]
    fn into_seconds(self) -> f64 {
        self.as_secs_f64()
    }
}
