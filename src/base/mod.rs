//! What every other folder is made of: points and rectangles, sizes of windows, arithmetic that is defined for any
//! number, a list of fixed capacity, and a grid to find regions. It uses no other folder of this crate.

pub(crate) mod convert;
pub(crate) mod list;
pub(crate) mod maths;
pub(crate) mod nearby;
pub(crate) mod pixel_rect;
pub(crate) mod rect;
pub(crate) mod rect_in_file;
pub(crate) mod sound;
pub(crate) mod text;
pub(crate) mod window;
