//! How the focus gets to its goal: smoothing along a course, and timed movements. It uses `units`, `lens`
//! and `goal`.

pub(crate) mod glide;
pub(crate) mod motion;
