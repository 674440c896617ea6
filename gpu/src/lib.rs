#![doc = include_str!("../README.md")]
#![warn(missing_docs)]

mod canvas_texture;
mod error;
mod presenter;

pub use velvet_pan;
pub use wgpu;

pub use canvas_texture::CanvasTexture;
pub use error::PresentError;
pub use presenter::{Alpha, Presenter, Shown};
