#![doc = include_str!("../README.md")]
#![warn(missing_docs)]

mod gpu_canvas;
mod error;
mod presenter;

pub use velvet_pan;
pub use wgpu;

pub use error::PresentError;
pub use gpu_canvas::GpuCanvas;
pub use presenter::{Alpha, PlacedCanvas, Presenter};
