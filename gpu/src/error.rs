//! Why something can't be presented.

use core::fmt;

use velvet_pan::glam::UVec2;
use wgpu::TextureFormat;

/// Why a presenter or a canvas can't be created.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum PresentError {
    /// The device can't draw into this format, or can't blend in it.
    Target(TextureFormat),
    /// The device can't draw into a texture of this format, or can't read it as numbers from 0 to 1.
    Canvas(TextureFormat),
    /// The canvas is larger than the largest texture of the device.
    TooLarge {
        /// The size of the canvas in pixels.
        size: UVec2,
        /// The greatest side in pixels: `max_texture_dimension_2d` in the device's limits.
        limit: u32,
    },
}

impl fmt::Display for PresentError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Target(format) => write!(
                f,
                "target format {format:?}: this device can't blend in it; expected a color format such as \
                 Bgra8Unorm or Rgba8UnormSrgb"
            ),
            Self::Canvas(format) => write!(
                f,
                "canvas format {format:?}: this device can't draw into it and read it; expected a color \
                 format such as Rgba8Unorm or Rgba8UnormSrgb"
            ),
            Self::TooLarge { size, limit } => write!(
                f,
                "canvas of {} x {} pixels: this device has textures of at most {limit} pixels a side; \
                 lower `screen.size`",
                size.x, size.y
            ),
        }
    }
}

impl core::error::Error for PresentError {}
