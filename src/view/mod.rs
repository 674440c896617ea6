//! The result of a frame: the view, its pixels, its place in the window, its matrices and its layers. It uses `base`,
//! `keys`, `lens`, `limits` and `shake`.

pub(crate) mod measures;
pub(crate) mod in_window;
pub(crate) mod layer;
pub(crate) mod matrix;
pub(crate) mod overlay;
pub(crate) mod snap;
pub(crate) mod view;
