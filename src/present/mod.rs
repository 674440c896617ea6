//! Drawing a finished canvas into the pixels of a window, on the CPU, and the same filter in WGSL. It uses `lens`,
//! only for the placement.

pub(crate) mod canvas;
pub(crate) mod mixing;
pub(crate) mod present;
pub(crate) mod spreading;
