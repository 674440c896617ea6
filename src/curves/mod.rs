//! Curves in time and in the plane, in closed form: easing, half-lives, springs, and a smooth curve
//! through points. It uses `base` and `keys`.

pub(crate) mod curve;
pub(crate) mod ease;
pub(crate) mod half_life;
pub(crate) mod smoothing;
pub(crate) mod spring;
