//! The sky at dusk: pinned to the screen, behind everything.

use velvet_pan::glam::UVec2;

use super::palette::*;
use super::sprite::chance;
use crate::picture::{Colour, Picture};

/// The sky's colours from the zenith to the horizon.
const BANDS: [Colour; 8] = [NIGHT, PLUM, VIOLET, MAUVE, ROSE, CORAL, APRICOT, HONEY];

/// How far down the screen the horizon lies.
const HORIZON: f32 = 0.86;

/// Thresholds of a 4 x 4 ordered dither, in sixteenths.
const DITHER: [[u8; 4]; 4] = [[0, 8, 2, 10], [12, 4, 14, 6], [3, 11, 1, 9], [15, 7, 13, 5]];

/// The sky for a screen of this size.
pub fn picture(size: UVec2) -> Picture {
    let sun = (size.x as f32 * 0.72, size.y as f32 * 0.60);
    let radius = size.y as f32 * 0.10;
    Picture::from_fn(size, |x, y| {
        if let Some(ridge) = ridge(size, x, y) {
            return ridge;
        }
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

/// The band at a level from 0 to 7, dithered towards the next.
fn band(x: u32, y: u32, level: f32) -> Colour {
    let level = level.clamp(0.0, (BANDS.len() - 1) as f32);
    let threshold = (f32::from(DITHER[y as usize % 4][x as usize % 4]) + 0.5) / 16.0;
    // Steeper than even, so that the bands show as bands with a narrow dithered seam.
    let part = ((level.fract() - 0.5) * 1.8 + 0.5).clamp(0.0, 1.0);
    let index = level as usize + usize::from(part > threshold);
    BANDS[index.min(BANDS.len() - 1)]
}

/// Two far ridges in front of the sky.
fn ridge(size: UVec2, x: u32, y: u32) -> Option<Colour> {
    let along = x as f32 / size.x as f32 * std::f32::consts::TAU;
    let wave = |f: f32, shift: f32| (along * f + shift).sin();
    let far = 0.76 + 0.035 * wave(1.0, 0.6) + 0.018 * wave(3.0, 2.0) + 0.008 * wave(9.0, 1.0);
    let near = 0.86 + 0.030 * wave(1.3, 3.5) + 0.022 * wave(2.7, 0.4) + 0.006 * wave(13.0, 0.0);
    let height = (y as f32 + 0.5) / size.y as f32;
    let fade = |top: f32, colour: Colour, mist: Colour| {
        let level = (height - top) * 9.0;
        let threshold = (f32::from(DITHER[y as usize % 4][x as usize % 4]) + 0.5) / 16.0;
        if level > threshold + 0.35 { mist } else { colour }
    };
    if height > near {
        Some(fade(near, VIOLET, PLUM))
    } else if height > far {
        Some(fade(far, MAUVE, ROSE))
    } else {
        None
    }
}
