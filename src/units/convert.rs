//! What a caller may hand in as a world point or as a stretch of time.

use core::time::Duration;

use glam::{DVec2, IVec2, Vec2};

/// A world point, in whatever type the game keeps its positions.
///
/// Implemented for `glam`'s `DVec2`, `Vec2` and `IVec2`, for arrays and pairs of `f64`, `f32` and
/// `i32`, and, with the feature `mint`, for the points and vectors of that crate. The library
/// works in `f64` throughout, so that a pan is as smooth far from the origin as at it.
///
/// ```
/// use velvet_pan::{IntoWorld, glam::DVec2};
///
/// assert_eq!((3, -4).into_world(), DVec2::new(3.0, -4.0));
/// assert_eq!([0.5_f32, 2.0].into_world(), DVec2::new(0.5, 2.0));
/// ```
pub trait IntoWorld {
    /// The same point in world units.
    fn into_world(self) -> DVec2;
}

impl IntoWorld for DVec2 {
    #[inline]
    fn into_world(self) -> DVec2 {
        self
    }
}

impl IntoWorld for Vec2 {
    #[inline]
    fn into_world(self) -> DVec2 {
        self.as_dvec2()
    }
}

impl IntoWorld for IVec2 {
    #[inline]
    fn into_world(self) -> DVec2 {
        self.as_dvec2()
    }
}

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

#[cfg(feature = "mint")]
macro_rules! mint_into_world {
    ($($kind:ident<$number:ty>),*) => {$(
        impl IntoWorld for mint::$kind<$number> {
            #[inline]
            fn into_world(self) -> DVec2 {
                DVec2::new(f64::from(self.x), f64::from(self.y))
            }
        }
    )*};
}

#[cfg(feature = "mint")]
mint_into_world!(Point2<f64>, Point2<f32>, Point2<i32>, Vector2<f64>, Vector2<f32>, Vector2<i32>);

/// A stretch of time: seconds as `f64` or `f32`, or a [`Duration`].
///
/// ```
/// use core::time::Duration;
/// use velvet_pan::IntoSeconds;
///
/// assert_eq!(Duration::from_millis(250).into_seconds(), 0.25);
/// assert_eq!(0.25_f32.into_seconds(), 0.25);
/// ```
pub trait IntoSeconds {
    /// The same time in seconds.
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
