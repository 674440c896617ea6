//! Mist that drifts between the ridges. It thins at its edges, so that the background shows through.

use velvet_pan::glam::UVec2;

use super::palette::{CREAM, MIST};
use super::sprite::dither;
use crate::picture::{CLEAR, Colour, Picture};

const SIZE: UVec2 = UVec2::new(384, 64);

/// Draws banks of mist, as wide as one repeat.
pub fn picture() -> Picture {
    Picture::from_fn(SIZE, |x, y| {
        let along = x as f32 / SIZE.x as f32 * std::f32::consts::TAU;
        let bank = |times: f32, shift: f32, middle: f32, height: f32| {
            let thick = (0.62 + 0.38 * (along * times + shift).sin()) * height;
            1.0 - ((y as f32 - middle) / thick.max(1.0)).powi(2)
        };
        let depth = bank(1.0, 0.4, 24.0, 13.0).max(bank(2.0, 2.1, 42.0, 9.0));
        veil(depth, dither(x, y))
    })
}

/// Four thicknesses, with dithering between them.
fn veil(depth: f32, threshold: f32) -> Colour {
    let step = depth.max(0.0) * 3.0 + threshold;
    match step as u32 {
        0 => CLEAR,
        1 => thinned(MIST, 0.14),
        2 => thinned(MIST, 0.26),
        _ => thinned(CREAM, 0.32),
    }
}

/// Returns a colour with an opacity, premultiplied.
fn thinned(colour: Colour, opacity: f32) -> Colour {
    colour.map(|channel| (f32::from(channel) * opacity).round() as u8)
}
