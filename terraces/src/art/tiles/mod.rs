//! The tiles of the terraces, 16 x 16 pixels each, in several variants.

use velvet_pan::glam::UVec2;

use super::sprite::{chance, sprite};
use crate::picture::{CLEAR, Colour, Picture};

use self::ground::{bridge, deep, lip, soil, wall};
use self::houses::{DOOR, LADDER, LANTERN, PANE, POST, TRAY, WINDOW, boards, panel, plaster, roof};
use self::plants::{bush, crown, trunk, tuft};

mod ground;
mod houses;
mod plants;

/// The side of a tile in pixels.
pub const SIDE: u32 = 16;

/// The number of variants of each tile. The position of a tile selects its variant.
const VARIANTS: usize = 4;

/// The numbers in the map's file.
#[allow(missing_docs)] // their names say it
pub mod number {
    pub const LIP: u16 = 1;
    pub const WALL: u16 = 2;
    pub const SOIL: u16 = 3;
    pub const DEEP: u16 = 4;
    pub const BUSH_LEFT: u16 = 5;
    pub const BUSH: u16 = 6;
    pub const BUSH_RIGHT: u16 = 7;
    pub const BRIDGE: u16 = 8;
    pub const POST: u16 = 9;
    pub const LANTERN: u16 = 10;
    pub const PLASTER: u16 = 11;
    pub const WINDOW: u16 = 12;
    pub const DOOR: u16 = 13;
    pub const ROOF_LEFT: u16 = 14;
    pub const ROOF: u16 = 15;
    pub const ROOF_RIGHT: u16 = 16;
    pub const TRUNK: u16 = 17;
    pub const CROWN: u16 = 18;
    pub const CROWN_TOP: u16 = 19;
    pub const TUFT: u16 = 20;
    pub const CROWN_LEFT: u16 = 21;
    pub const CROWN_RIGHT: u16 = 22;
    pub const PANEL: u16 = 23;
    pub const LADDER: u16 = 24;
    pub const LAMP: u16 = 25;
    pub const TRAY: u16 = 26;
    pub const BOARDS: u16 = 27;
    pub const PANE: u16 = 28;
    pub const LAST: u16 = PANE;
}

/// Returns whether a tile carries the courier and blocks the way.
pub fn is_solid(tile: u16) -> bool {
    matches!(tile, number::LIP | number::WALL | number::SOIL | number::DEEP | number::BRIDGE)
}

/// Draws all pictures, by number: the variants of each tile, one after the other.
pub fn pictures() -> Vec<Picture> {
    let variants = |tile| (0..VARIANTS).map(move |variant| draw(tile, variant as i64));
    (0..=number::LAST).flat_map(variants).collect()
}

/// Returns the number of the picture for the tile at this column and row. Unknown tiles are drawn as walls.
pub fn picture_number(tile: u16, column: i64, row: i64) -> usize {
    let known = if tile <= number::LAST { tile } else { number::WALL };
    let pick = chance(column, row, 1) * VARIANTS as f32;
    usize::from(known) * VARIANTS + (pick as usize).min(VARIANTS - 1)
}

fn draw(tile: u16, variant: i64) -> Picture {
    let painted = |paint: fn(i64, i64, i64) -> Colour| {
        Picture::from_fn(UVec2::splat(SIDE), |x, y| paint(i64::from(x), i64::from(y), variant))
    };
    match tile {
        number::LIP => painted(lip),
        number::WALL => painted(wall),
        number::SOIL => painted(soil),
        number::DEEP => painted(deep),
        number::BUSH_LEFT => painted(|x, y, v| bush(x, y, v, -1)),
        number::BUSH => painted(|x, y, v| bush(x, y, v, 0)),
        number::BUSH_RIGHT => painted(|x, y, v| bush(x, y, v, 1)),
        number::BRIDGE => painted(bridge),
        number::PLASTER => painted(plaster),
        number::ROOF_LEFT => painted(|x, y, v| roof(x, y, v, -1)),
        number::ROOF => painted(|x, y, v| roof(x, y, v, 0)),
        number::ROOF_RIGHT => painted(|x, y, v| roof(x, y, v, 1)),
        number::TRUNK => painted(trunk),
        number::CROWN => painted(|x, y, v| crown(x, y, v, 8 * 2, 8)),
        number::CROWN_TOP => painted(|x, y, v| crown(x, y, v, y, 8)),
        number::CROWN_LEFT => painted(|x, y, v| crown(x, y, v, y, 16)),
        number::CROWN_RIGHT => painted(|x, y, v| crown(x, y, v, y, 0)),
        number::TUFT => painted(tuft),
        number::PANEL => painted(panel),
        number::LADDER => over(&painted(panel), &LADDER),
        number::LAMP => over(&painted(panel), &LANTERN),
        number::TRAY => over(&painted(panel), &TRAY),
        number::BOARDS => painted(boards),
        number::PANE => over(&painted(panel), &PANE),
        number::POST => sprite(&POST),
        number::LANTERN => sprite(&LANTERN),
        number::WINDOW => over(&painted(plaster), &WINDOW),
        number::DOOR => over(&painted(plaster), &DOOR),
        _ => Picture::new(UVec2::splat(SIDE), CLEAR),
    }
}

fn over(ground: &Picture, rows: &[&str]) -> Picture {
    let mut picture = ground.clone();
    picture.lay(&sprite(rows), (0, 0), false);
    picture
}
