//! Earth and walls: soil, dry-stone walls, the edges of terraces, bridges.

use crate::art::palette::*;
use crate::art::sprite::chance;
use crate::art::tiles::SIDE;
use crate::picture::{CLEAR, Colour};

pub fn soil(x: i64, y: i64, variant: i64) -> Colour {
    let grain = chance(x / 2, y, 11 + variant as u64);
    match grain {
        grain if grain > 0.965 => EARTH,
        grain if grain < 0.10 => LOAM,
        _ => CLAY,
    }
}

pub fn deep(x: i64, y: i64, variant: i64) -> Colour {
    let grain = chance(x / 2, y, 23 + variant as u64);
    if grain > 0.97 { CLAY } else { LOAM }
}

/// Returns a dry-stone wall of irregular rubble: each stone has the pixels that are nearest to its middle, with dark
/// joints between stones, lit from above.
pub fn wall(x: i64, y: i64, variant: i64) -> Colour {
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

/// Returns the stone at a pixel, and how much farther away the second nearest is. Stones at the edge of a tile are the
/// same in all variants, so that tiles adjoin without a seam.
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

/// Returns the edge of a terrace: tea grass above the wall.
pub fn lip(x: i64, y: i64, variant: i64) -> Colour {
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

pub fn bridge(x: i64, y: i64, variant: i64) -> Colour {
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
