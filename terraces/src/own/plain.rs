//! Plain drawing: outlined blocks, a grid, and a box with its direction.

use velvet_pan::glam::{IVec2, UVec2, Vec2};

use crate::art::palette::{
    COAT, COAT_SHADE, CREAM, EARTH, MAUVE, NIGHT, PEBBLE, PLUM, SLATE, STONE,
};
use crate::picture::{CLEAR, Colour, Picture};

/// The colours of a block's inside. The number of a tile selects one.
const SHADES: [Colour; 4] = [SLATE, STONE, MAUVE, EARTH];

/// The number of pictures of blocks: one for each shade and each set of open sides.
pub const BLOCKS: usize = SHADES.len() * 16;

/// The sides of a block that touch no other block.
#[derive(Clone, Copy, Debug, Default)]
#[allow(missing_docs)] // their names say it
pub struct Open {
    pub left: bool,
    pub right: bool,
    pub top: bool,
    pub bottom: bool,
}

/// Returns the number of the block's picture for a tile.
pub fn block(tile: u16, open: Open) -> usize {
    let sides = [open.left, open.right, open.top, open.bottom];
    let bits: usize =
        sides.iter().zip([1, 2, 4, 8]).map(|(is_open, bit)| usize::from(*is_open) * bit).sum();
    usize::from(tile) % SHADES.len() * 16 + bits
}

/// Returns the pictures of all blocks, for tiles of this size in pixels.
pub fn blocks(size: UVec2) -> impl Iterator<Item = Picture> {
    let size = size.clamp(UVec2::splat(4), UVec2::splat(64));
    let edge = (size.min_element() / 12).max(1);
    SHADES.into_iter().flat_map(move |shade| {
        (0..16_u32).map(move |open| {
            Picture::from_fn(size, |x, y| {
                let near = [x < edge, x + edge >= size.x, y < edge, y + edge >= size.y];
                let is_edge = (0..4).any(|side| open >> side & 1 == 1 && near[side]);
                let is_seam = x == 0 || y == 0;
                match () {
                    () if is_edge => PEBBLE,
                    () if is_seam => NIGHT,
                    () => shade,
                }
            })
        })
    })
}

/// A line of the grid.
pub const GRID: Colour = PLUM;

/// The number of directions of a box, clockwise from the right.
pub const WAYS: usize = 8;
/// The side of a box in pixels, without its arrow.
const BOX: i32 = 13;

/// Returns the pictures of a subject: without direction, then looking to each. Its position is the middle.
pub fn boxes() -> impl Iterator<Item = Picture> {
    std::iter::once(None).chain((0..WAYS).map(Some)).map(|way| {
        let arrow = way.map(|way| Vec2::from_angle(way as f32 * std::f32::consts::FRAC_PI_4));
        let side = BOX as u32 + 8;
        Picture::from_fn(UVec2::splat(side), |x, y| {
            let from = IVec2::new(x as i32, y as i32) - side as i32 / 2;
            box_pixel(from, arrow)
        })
    })
}

/// The middle of a box's picture.
pub const BOX_MIDDLE: (i64, i64) = ((BOX as i64 + 8) / 2, (BOX as i64 + 8) / 2);

/// Returns a pixel of a box, so far from its middle.
fn box_pixel(from: IVec2, arrow: Option<Vec2>) -> Colour {
    let reach = from.abs().max_element();
    if let Some(arrow) = arrow {
        let (along, across) = (from.as_vec2().dot(arrow), from.as_vec2().dot(arrow.perp()).abs());
        if (2.0..10.0).contains(&along) && across <= (9.5 - along) * 0.6 {
            return CREAM;
        }
    }
    match BOX / 2 - reach {
        ..0 => CLEAR,
        0 => NIGHT,
        1 | 2 => COAT,
        _ => COAT_SHADE,
    }
}
