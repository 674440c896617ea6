//! Ridges on the other side of the valley; farther ones are paler.

use velvet_pan::glam::UVec2;

use super::palette::*;
use super::sprite::{chance, dither};
use crate::picture::{CLEAR, Colour, Picture};

/// The look of a ridge.
struct Look {
    size: UVec2,
    /// The mean distance of the ridge's line below the top of the picture, and its amplitude.
    line: f32,
    relief: f32,
    /// The colours of the slope and of the mist at its foot.
    slope: Colour,
    foot: Colour,
    /// Where the mist begins below the line, in pixels, and the height over which it thickens.
    mist: (f32, f32),
    /// The number of trees in a hundred columns.
    trees: f32,
    shift: f32,
}

/// Returns the far ridge, bare and pale.
pub fn far() -> Picture {
    draw(&Look {
        size: UVec2::new(480, 240),
        line: 18.0,
        relief: 9.0,
        slope: MAUVE,
        foot: ROSE,
        mist: (14.0, 40.0),
        trees: 0.0,
        shift: 0.6,
    })
}

/// Returns the near ridge, wooded and dark.
pub fn near() -> Picture {
    draw(&Look {
        size: UVec2::new(512, 340),
        line: 26.0,
        relief: 12.0,
        slope: VIOLET,
        foot: PLUM,
        mist: (10.0, 44.0),
        trees: 16.0,
        shift: 3.5,
    })
}

fn draw(look: &Look) -> Picture {
    let tops: Vec<f32> = (0..look.size.x).map(|x| top(look, x)).collect();
    Picture::from_fn(look.size, |x, y| {
        let below = y as f32 - tops[x as usize];
        let (start, length) = look.mist;
        if below < 0.0 {
            CLEAR
        } else if (below - start) / length > dither(x, y) {
            look.foot
        } else {
            look.slope
        }
    })
}

/// Returns the height of the line at a column: whole waves, so that copies adjoin, and trees.
fn top(look: &Look, x: u32) -> f32 {
    let along = x as f32 / look.size.x as f32 * std::f32::consts::TAU;
    let wave = |times: f32, shift: f32| (along * times + shift * look.shift).sin();
    let line = wave(1.0, 1.0) * 0.5
        + wave(3.0, 2.0) * 0.32
        + wave(8.0, 0.7) * 0.14
        + wave(19.0, 0.3) * 0.06;
    look.line + look.relief * line - tree(look, x)
}

/// Returns the height of a tree above the line: a small cone about its own column.
fn tree(look: &Look, x: u32) -> f32 {
    let cone = |step: i64| {
        let column = (i64::from(x) + step).rem_euclid(i64::from(look.size.x));
        let height = chance(column, 3, 41) * 100.0;
        if height < look.trees { 3.0 + height % 4.0 - 1.6 * step.abs() as f32 } else { 0.0 }
    };
    (-3..=3).map(cone).fold(0.0, f32::max)
}
