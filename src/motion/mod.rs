//! How the focus moves to its goal: smoothing along a course, and changes that fade. It uses `base`, `keys`,
//! `curves` and `lens`.

pub(crate) mod footing;
pub(crate) mod motion;
pub(crate) mod transition;
