//! The tiles of the terraces, 16 x 16 pixels each, in several variants.

use velvet_pan::glam::UVec2;

use super::palette::*;
use super::sprite::{chance, sprite};
use crate::picture::{CLEAR, Colour, Picture};

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

/// All pictures of tiles.
#[derive(Clone, Debug)]
pub struct TileSet {
    /// The variants of each tile, one after the other.
    pictures: Vec<Picture>,
}

impl TileSet {
    /// Draws the pictures.
    pub fn drawn() -> Self {
        let variants = |tile| (0..VARIANTS).map(move |variant| draw(tile, variant as i64));
        Self { pictures: (0..=number::LAST).flat_map(variants).collect() }
    }

    /// Returns all pictures, by number.
    pub fn pictures(&self) -> &[Picture] {
        &self.pictures
    }

    /// Returns the number of the picture for the tile at this column and row. Unknown tiles are drawn as walls, so
    /// that a film can show any map.
    pub fn number(&self, tile: u16, column: i64, row: i64) -> usize {
        let known = if tile <= number::LAST { tile } else { number::WALL };
        let pick = chance(column, row, 1) * VARIANTS as f32;
        usize::from(known) * VARIANTS + (pick as usize).min(VARIANTS - 1)
    }

    /// Returns the picture of the tile at this column and row.
    pub fn picture(&self, tile: u16, column: i64, row: i64) -> &Picture {
        &self.pictures[self.number(tile, column, row)]
    }
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

fn soil(x: i64, y: i64, variant: i64) -> Colour {
    let grain = chance(x / 2, y, 11 + variant as u64);
    match grain {
        grain if grain > 0.965 => EARTH,
        grain if grain < 0.10 => LOAM,
        _ => CLAY,
    }
}

fn deep(x: i64, y: i64, variant: i64) -> Colour {
    let grain = chance(x / 2, y, 23 + variant as u64);
    if grain > 0.97 { CLAY } else { LOAM }
}

/// A dry-stone wall of irregular rubble: each stone has the pixels that are nearest to its middle, with dark joints
/// between stones, lit from above.
fn wall(x: i64, y: i64, variant: i64) -> Colour {
    let (stone, gap) = stone_at(x, y, variant);
    if gap < JOINT {
        return SLATE;
    }
    let (_, gap_above) = stone_at(x, y - 1, variant);
    match chance(stone, variant, 31) {
        tint if gap_above < JOINT && tint > 0.3 => PEBBLE,
        tint if tint > 0.82 => EARTH,
        _ => STONE,
    }
}

/// The width of a joint between two stones, in pixels.
const JOINT: f64 = 1.05;

/// The number of stones across and down a tile.
const RUBBLE: [i64; 2] = [3, 3];

/// The stone at a pixel, and how much farther away the second nearest is. Stones at the edge of a tile are the same in
/// all variants, so that tiles adjoin without a seam.
fn stone_at(x: i64, y: i64, variant: i64) -> (i64, f64) {
    let [across, down] = RUBBLE;
    let side = f64::from(SIDE);
    let (mut nearest, mut second) = ((0, f64::MAX), f64::MAX);
    for (row, column) in (-1..=down).flat_map(|row| (-1..=across).map(move |it| (row, it))) {
        let (home_row, home_column) = (row.rem_euclid(down), column.rem_euclid(across));
        let stone = home_row * across + home_column;
        let inner = home_column == 1 && (1..down - 1).contains(&home_row);
        let salt = if inner { 200 + variant as u64 } else { 200 };
        let wander = |axis: u64| f64::from(chance(stone, 0, salt + 50 * axis)) * 0.9 + 0.05;
        let stagger = if home_row % 2 == 0 { 0.0 } else { 0.5 };
        let middle_x = (column as f64 + wander(1) * 0.6 + stagger) * side / across as f64;
        let middle_y = (row as f64 + wander(2)) * side / down as f64;
        let (dx, dy) = (x as f64 + 0.5 - middle_x, (y as f64 + 0.5 - middle_y) * 1.35);
        let away = dx.hypot(dy);
        if away < nearest.1 {
            (nearest, second) = ((stone, away), nearest.1);
        } else {
            second = second.min(away);
        }
    }
    (nearest.0, second - nearest.1)
}

/// The edge of a terrace: tea grass above the wall.
fn lip(x: i64, y: i64, variant: i64) -> Colour {
    let hang = 4 + (chance(x, 0, 41 + variant as u64) * 3.0) as i64;
    match y {
        0 => {
            if chance(x, 1, 43 + variant as u64) > 0.35 {
                SPROUT
            } else {
                TEA
            }
        }
        1 => TEA,
        y if y < hang => {
            if chance(x, y, 47) > 0.7 {
                TEA
            } else {
                LEAF
            }
        }
        y if y == hang => MOSS,
        _ => wall(x, y, variant),
    }
}

/// A clipped tea hedge, long and round. `side` is −1 at its left end and 1 at its right end.
fn bush(x: i64, y: i64, variant: i64, side: i64) -> Colour {
    let from_end = match side {
        -1 => x,
        1 => 15 - x,
        _ => 15,
    };
    let swell = (chance(x / 3, 0, 53 + variant as u64) * 2.0) as i64;
    let top = 3 + swell + (7 - from_end).max(0).pow(2) / 6;
    if y < top {
        return CLEAR;
    }
    if y >= 14 {
        // Short stems in the shade.
        return if (x + variant) % 5 == 2 {
            BARK
        } else if y == 14 {
            MOSS
        } else {
            CLEAR
        };
    }
    let leaf = chance(x, y, 59 + variant as u64);
    match y - top {
        0 => {
            if leaf > 0.3 {
                SPROUT
            } else {
                TEA
            }
        }
        1 | 2 => {
            if leaf > 0.75 {
                SPROUT
            } else {
                TEA
            }
        }
        3..=6 => {
            if leaf > 0.7 {
                TEA
            } else {
                LEAF
            }
        }
        _ => {
            if leaf > 0.75 {
                LEAF
            } else {
                MOSS
            }
        }
    }
}

fn bridge(x: i64, y: i64, variant: i64) -> Colour {
    match y {
        0 => {
            if x % 8 == 7 {
                BARK
            } else {
                PLANK
            }
        }
        1 | 2 => {
            if x % 8 == 7 {
                BARK
            } else {
                WOOD
            }
        }
        3 => BARK,
        4..=6 if (x + y) % 16 < 2 => WOOD,
        4..=6 if (x + 16 - y + variant) % 16 < 1 => BARK,
        _ => CLEAR,
    }
}

fn plaster(x: i64, y: i64, variant: i64) -> Colour {
    if x % 16 == 0 || y == 15 {
        return BARK;
    }
    if y == 0 {
        return WOOD;
    }
    if chance(x / 2, y / 2, 61 + variant as u64) > 0.9 { ROSE } else { MIST }
}

/// The back wall of a house: upright planks in the shade.
fn panel(x: i64, y: i64, variant: i64) -> Colour {
    if x % 8 == 7 {
        return NIGHT;
    }
    let grain = chance(x, (y + variant * 5) / 6, 67 + variant as u64);
    if grain > 0.9 {
        CLAY
    } else if grain < 0.2 {
        BARK
    } else {
        LOAM
    }
}

/// A floor: boards on beams.
fn boards(x: i64, y: i64, variant: i64) -> Colour {
    match y {
        0 => PLANK,
        1..=3 if (x + variant * 4) % 16 == 0 => BARK,
        1 => PLANK,
        2 | 3 => WOOD,
        4 => NIGHT,
        _ if x % 16 < 4 => WOOD,
        _ => BARK,
    }
}

fn roof(x: i64, y: i64, _variant: i64, side: i64) -> Colour {
    let outside = match side {
        -1 => x < 15 - y,
        1 => x > y,
        _ => false,
    };
    if outside {
        return CLEAR;
    }
    if y == 15 {
        return NIGHT;
    }
    match (y % 4, (x + (y / 4) * 3) % 6) {
        (3, _) => VIOLET,
        (_, 0) => VIOLET,
        (0, _) => ROSE,
        _ => MAUVE,
    }
}

fn trunk(x: i64, y: i64, variant: i64) -> Colour {
    match x {
        6 => BARK,
        7 | 8 => {
            if chance(x, y, 67 + variant as u64) > 0.8 {
                BARK
            } else {
                WOOD
            }
        }
        9 => WOOD,
        _ => CLEAR,
    }
}

/// Cedar needles within `half` pixels of the column `middle`, with a ragged edge.
fn crown(x: i64, y: i64, variant: i64, half: i64, middle: i64) -> Colour {
    let ragged = (chance(y / 2, 0, 71 + variant as u64) * 3.0) as i64;
    let reach = half - ragged;
    let away = if x < middle { middle - x } else { x + 1 - middle };
    if away > reach {
        return CLEAR;
    }
    let lit = x >= middle;
    match chance(x, y, 73 + variant as u64) {
        leaf if leaf > 0.86 => {
            if lit {
                TEA
            } else {
                LEAF
            }
        }
        leaf if leaf > 0.4 => {
            if lit {
                LEAF
            } else {
                MOSS
            }
        }
        _ => MOSS,
    }
}

fn tuft(x: i64, y: i64, variant: i64) -> Colour {
    let tall = (chance(x, 0, 79 + variant as u64) * 9.0) as i64 - 2;
    if 16 - y > tall {
        return CLEAR;
    }
    if 16 - y == tall { SPROUT } else { LEAF }
}

const POST: [&str; 16] = [
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
    "......bbPP......",
    ".....bbbPPP.....",
];

const LANTERN: [&str; 16] = [
    ".......bb.......",
    "......bbbb......",
    "....bbbbbbbb....",
    "...boooooooob...",
    "....oaakkaao....",
    "...oaakwwkaao...",
    "...oakwwwwkao...",
    "...oakwwwwkao...",
    "...oakwwwwkao...",
    "...oaakwwkaao...",
    "....oaakkaao....",
    "....oooooooo....",
    ".....bbbbbb.....",
    ".......bP.......",
    ".......bP.......",
    ".......bP.......",
];

const WINDOW: [&str; 14] = [
    "................",
    "................",
    "................",
    "...bbbbbbbbbb...",
    "...bkkwbwkkkb...",
    "...bkwwbwwkkb...",
    "...bkwwbwwkab...",
    "...bbbbbbbbbb...",
    "...bkwwbwwkab...",
    "...bkkwbwkkab...",
    "...bkkkbkkaab...",
    "...bbbbbbbbbb...",
    "..PPPPPPPPPPPP..",
    "................",
];

const LADDER: [&str; 16] = [
    "...qP......qP...",
    "...qPPPPPPPqP...",
    "...qPqqqqqqqP...",
    "...qP......qP...",
    "...qP......qP...",
    "...qPPPPPPPqP...",
    "...qPqqqqqqqP...",
    "...qP......qP...",
    "...qP......qP...",
    "...qPPPPPPPqP...",
    "...qPqqqqqqqP...",
    "...qP......qP...",
    "...qP......qP...",
    "...qPPPPPPPqP...",
    "...qPqqqqqqqP...",
    "...qP......qP...",
];

/// Tea leaves on a tray that hangs on two cords.
const TRAY: [&str; 16] = [
    "..p..........p..",
    "..p..........p..",
    "..p..........p..",
    "..p...g.t....p..",
    "..p.tgtgtgtt.p..",
    ".qgtgttgtgttgtq.",
    ".qqqqqqqqqqqqqq.",
    ".bPPPPPPPPPPPPb.",
    "..p..........p..",
    "..p..g..t.g..p..",
    "..p.gtgtgttg.p..",
    ".qttgtgtttgtgtq.",
    ".qqqqqqqqqqqqqq.",
    ".bPPPPPPPPPPPPb.",
    "................",
    "................",
];

/// A window with a view of the dusk.
const PANE: [&str; 14] = [
    "................",
    "..qqqqqqqqqqqq..",
    "..qvvvvPvvvvvq..",
    "..qvvvvPvvvvvq..",
    "..qrrrrPrrrrrq..",
    "..qrrrrPrrrrrq..",
    "..qPPPPPPPPPPq..",
    "..qooooPoooooq..",
    "..qooooPoooaaq..",
    "..qaaaaPaaakkq..",
    "..qaaaaPaaakkq..",
    "..qqqqqqqqqqqq..",
    ".PPPPPPPPPPPPPP.",
    "................",
];

const DOOR: [&str; 16] = [
    "................",
    "................",
    "...bbbbbbbbbb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqkb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "...bPPqbPPqPb...",
    "..bbbbbbbbbbbb..",
];
