//! Houses and their furnishings: walls, floors, roofs, doors, windows, lanterns, ladders, trays.

use crate::art::palette::*;
use crate::art::sprite::chance;
use crate::picture::{CLEAR, Colour};

pub fn plaster(x: i64, y: i64, variant: i64) -> Colour {
    if x % 16 == 0 || y == 15 {
        return BARK;
    }
    if y == 0 {
        return WOOD;
    }
    if chance(x / 2, y / 2, 61 + variant as u64) > 0.9 { ROSE } else { MIST }
}

/// Returns the back wall of a house: upright planks in the shade.
pub fn panel(x: i64, y: i64, variant: i64) -> Colour {
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

/// Returns a floor: boards on beams.
pub fn boards(x: i64, y: i64, variant: i64) -> Colour {
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

pub fn roof(x: i64, y: i64, _variant: i64, side: i64) -> Colour {
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

pub const POST: [&str; 16] = [
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

pub const LANTERN: [&str; 16] = [
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

pub const WINDOW: [&str; 14] = [
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

pub const LADDER: [&str; 16] = [
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
pub const TRAY: [&str; 16] = [
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
pub const PANE: [&str; 14] = [
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

pub const DOOR: [&str; 16] = [
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
