//! The sky at dusk, behind everything.

use velvet_pan::glam::{UVec2, Vec2};

use super::palette::*;
use super::sprite::{chance, dither};
use crate::picture::{Colour, Picture};

/// The colours of the sky from the zenith to the horizon.
const BANDS: [Colour; 8] = [NIGHT, PLUM, VIOLET, MAUVE, ROSE, CORAL, APRICOT, HONEY];

/// The height of the horizon, as a fraction of the screen from the top.
const HORIZON: f32 = 0.70;

/// The position of the sun, in fractions of the sky.
pub const SUN: Vec2 = Vec2::new(0.70, 0.49);

/// Draws a sky of this size.
pub fn picture(size: UVec2) -> Picture {
    let sun = (size.x as f32 * SUN.x, size.y as f32 * SUN.y);
    let radius = size.y as f32 * 0.10;
    Picture::from_fn(size, |x, y| {
        let (dx, dy) = (x as f32 + 0.5 - sun.0, y as f32 + 0.5 - sun.1);
        let distance = (dx * dx + dy * dy).sqrt();
        if distance < radius {
            return if distance < radius * 0.86 { CREAM } else { HONEY };
        }
        let height = (y as f32 + 0.5) / size.y as f32;
        if height < 0.45 && chance(i64::from(x), i64::from(y), 7) > 0.9975 + height * 0.004 {
            return MIST;
        }
        // The light around the sun lifts the bands a little.
        let glow = (1.0 - (distance / (radius * 5.0)).min(1.0)).powi(2) * 0.9;
        band(x, y, height / HORIZON * (BANDS.len() - 1) as f32 + glow)
    })
}

/// Returns the band at a level from 0 to 7, dithered towards the next one.
fn band(x: u32, y: u32, level: f32) -> Colour {
    let level = level.clamp(0.0, (BANDS.len() - 1) as f32);
    let threshold = dither(x, y);
    // Steeper than even, so that the bands show as bands with a narrow dithered seam.
    let part = ((level.fract() - 0.5) * 1.8 + 0.5).clamp(0.0, 1.0);
    let index = level as usize + usize::from(part > threshold);
    BANDS[index.min(BANDS.len() - 1)]
}
