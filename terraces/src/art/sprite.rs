//! Small pictures, written as rows of letters.

use velvet_pan::glam::UVec2;

use super::palette::*;
use crate::picture::{CLEAR, Colour, Picture};

/// Returns the picture that rows of letters describe. All rows are as long as the first.
pub fn sprite(rows: &[&str]) -> Picture {
    let width = rows.first().map_or(0, |row| row.len());
    let size = UVec2::new(width as u32, rows.len() as u32);
    Picture::from_fn(size, |x, y| {
        colour(rows[y as usize].as_bytes().get(x as usize).copied().unwrap_or(b'.'))
    })
}

fn colour(letter: u8) -> Colour {
    match letter {
        b'n' => NIGHT,
        b'h' => PLUM,
        b'v' => VIOLET,
        b'r' => ROSE,
        b'o' => CORAL,
        b'a' => APRICOT,
        b'k' => HONEY,
        b'w' => CREAM,
        b'm' => MOSS,
        b'f' => LEAF,
        b't' => TEA,
        b'g' => SPROUT,
        b'S' => SLATE,
        b'e' => EARTH,
        b'p' => SAND,
        b'P' => WOOD,
        b'b' => BARK,
        b'q' => PLANK,
        b's' => SKIN,
        b'c' => COAT,
        b'C' => COAT_SHADE,
        b'l' => STONE,
        b'i' => MIST,
        _ => CLEAR,
    }
}

/// Returns a number from 0 to 1 that depends only on three numbers. It is the demo's only source of randomness.
pub fn chance(x: i64, y: i64, salt: u64) -> f32 {
    let mut bits = (x as u64).wrapping_mul(0x9e37_79b9_7f4a_7c15)
        ^ (y as u64).wrapping_mul(0xc2b2_ae3d_27d4_eb4f)
        ^ salt.wrapping_mul(0x1656_67b1_9e37_79f9);
    bits = (bits ^ (bits >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    bits = (bits ^ (bits >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    ((bits ^ (bits >> 31)) >> 40) as f32 / (1_u64 << 24) as f32
}

/// Returns the threshold of a 4 x 4 ordered dither at a pixel, from 0 to 1.
pub fn dither(x: u32, y: u32) -> f32 {
    const SIXTEENTHS: [[u8; 4]; 4] = [[0, 8, 2, 10], [12, 4, 14, 6], [3, 11, 1, 9], [15, 7, 13, 5]];
    (f32::from(SIXTEENTHS[y as usize % 4][x as usize % 4]) + 0.5) / 16.0
}
