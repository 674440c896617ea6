//! How the focus moves to its goal: smoothing, and changes that fade. It uses `base`, `keys`,
//! `curves` and `lens`.

pub(crate) mod footing;
pub(crate) mod motion;
pub(crate) mod transition;
