//! Reeds in the foreground, in front of everything.

use velvet_pan::glam::UVec2;

use super::palette::{BARK, MOSS, NIGHT, WOOD};
use super::sprite::chance;
use crate::picture::{CLEAR, Picture};

const SIZE: UVec2 = UVec2::new(560, DEPTH + 88);

/// The length of the stems below the picture's foot, for windows that show more than the screen: no edge in mid-air.
const DEPTH: u32 = 512;

/// The positions of the clumps, and the number of blades in each.
const CLUMPS: [(i64, i64); 4] = [(40, 9), (66, 5), (282, 6), (418, 11)];

/// Draws clumps of reeds with gaps between them, as wide as one repeat.
pub fn picture() -> Picture {
    let mut picture = Picture::new(SIZE, CLEAR);
    for (clump, (middle, blades)) in CLUMPS.into_iter().enumerate() {
        for blade in 0..blades {
            let roll = |salt| chance(clump as i64, blade, salt);
            let foot = middle + (blade - blades / 2) * 4 + (roll(51) * 3.0) as i64;
            draw_blade(
                &mut picture,
                foot,
                40.0 + roll(52) * 42.0,
                (roll(53) - 0.5) * 26.0,
                roll(54),
            );
        }
    }
    picture
}

/// A blade from below the ground upwards, which bends more towards its tip. Some carry a seed head.
fn draw_blade(picture: &mut Picture, foot: i64, height: f32, lean: f32, roll: f32) {
    let colour = if roll > 0.5 { MOSS } else { NIGHT };
    let ground = i64::from(SIZE.y - DEPTH);
    for up in -i64::from(DEPTH)..height as i64 {
        let part = up.max(0) as f32 / height;
        let x = foot + (lean * part * part).round() as i64;
        let y = ground - 1 - up;
        picture.set(x, y, colour);
        if part < 0.45 {
            picture.set(x + 1, y, colour);
        }
    }
    if roll > 0.35 {
        let x = foot + lean.round() as i64;
        let y = ground - height as i64;
        picture.fill((x - 1, y - 5), (3, 9), if roll > 0.7 { WOOD } else { BARK });
    }
}
