//! The base of every other folder: points, rectangles, sizes, times, errors, a list of fixed capacity, the course of a
//! goal through one step, and smoothing in closed form. It uses nothing else of this crate.

pub(crate) mod convert;
pub(crate) mod curve;
pub(crate) mod course;
pub(crate) mod ease;
pub(crate) mod error;
pub(crate) mod half_life;
pub(crate) mod keys;
pub(crate) mod list;
pub(crate) mod maths;
pub(crate) mod nearby;
#[cfg(feature = "serde")]
pub(crate) mod number;
pub(crate) mod per_axis;
pub(crate) mod rect;
pub(crate) mod rect_in_file;
pub(crate) mod setting;
pub(crate) mod smoothing;
pub(crate) mod sound;
pub(crate) mod spring;
pub(crate) mod text;
pub(crate) mod value;
pub(crate) mod window;
