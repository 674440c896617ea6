//! Drawing a finished canvas into the pixels of a window, on the CPU, and the same filter as WGSL. It uses
//! `lens` for the placement alone.

pub(crate) mod canvas;
pub(crate) mod mixing;
pub(crate) mod present;
pub(crate) mod spreading;
