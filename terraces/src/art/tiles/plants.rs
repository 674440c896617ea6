//! Plants: hedges, cedars and grass.

use crate::art::palette::*;
use crate::art::sprite::chance;
use crate::picture::{CLEAR, Colour};

/// Returns a clipped tea hedge, long and round. `side` is −1 at its left end and 1 at its right end.
pub fn bush(x: i64, y: i64, variant: i64, side: i64) -> Colour {
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

pub fn trunk(x: i64, y: i64, variant: i64) -> Colour {
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
pub fn crown(x: i64, y: i64, variant: i64, half: i64, middle: i64) -> Colour {
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

pub fn tuft(x: i64, y: i64, variant: i64) -> Colour {
    let tall = (chance(x, 0, 79 + variant as u64) * 9.0) as i64 - 2;
    if 16 - y > tall {
        return CLEAR;
    }
    if 16 - y == tall { SPROUT } else { LEAF }
}
