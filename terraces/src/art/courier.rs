//! Wren, the parcel courier.

use super::sprite::sprite;
use crate::picture::Picture;

/// A pose of the courier.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Pose {
    /// Standing.
    Stand,
    /// Running; the number counts the steps.
    Run(u32),
    /// In the air, rising.
    Rise,
    /// In the air, falling.
    Fall,
}

impl Pose {
    /// All poses, each with a picture.
    pub const ALL: [Self; 7] = [
        Self::Stand,
        Self::Run(0),
        Self::Run(1),
        Self::Run(2),
        Self::Run(3),
        Self::Rise,
        Self::Fall,
    ];

    /// Returns the pose for a velocity, and a position along `x`, in world units.
    #[must_use]
    pub fn of(grounded: bool, rising: bool, speed: f64, x: f64) -> Self {
        match grounded {
            false if rising => Self::Rise,
            false => Self::Fall,
            true if speed.abs() < 12.0 => Self::Stand,
            true => Self::Run((x.abs() / 9.0) as u32),
        }
    }

    /// Returns its number in [`Pose::ALL`].
    #[must_use]
    pub fn number(self) -> usize {
        match self {
            Self::Stand => 0,
            Self::Run(step) => 1 + step as usize % 4,
            Self::Rise => 5,
            Self::Fall => 6,
        }
    }
}

/// The offset from the sprite's top left corner to the middle between the feet.
pub const FEET: (i64, i64) = (8, 22);

const STANDING: [&str; 15] = [
    ".......gg.......",
    ".....hhghhh.....",
    "....hhhhhhhh....",
    "....ccccccccc...",
    ".....hhssss.....",
    ".....hhsssns....",
    "......sssss.....",
    ".....kkkkkk.....",
    ".pppkkccccc.....",
    "pPppPCccccccc...",
    "pPppPCccccccs...",
    "ppPPpCcccccc....",
    "pPppPCccccc.....",
    ".pppbbbbbbb.....",
    ".....Cccccc.....",
];

const MOVING: [&str; 15] = [
    "........gg......",
    "......hhghhh....",
    ".....hhhhhhhh...",
    ".....ccccccccc..",
    "......hhssss....",
    "......hhsssns...",
    "kk.....sssss....",
    "kkkkkkkkkkk.....",
    ".pppkkcccccc....",
    "pPppPCcccccccs..",
    "pPppPCccccccss..",
    "ppPPpCccccccc...",
    "pPppPCccccc.....",
    ".pppbbbbbbb.....",
    ".....Cccccc.....",
];

const FEET_TOGETHER: [&str; 7] = [
    ".....lllllS.....",
    ".....lllSSS.....",
    ".....ll.SS......",
    ".....ll.SS......",
    ".....ll.SS......",
    ".....bb.bb......",
    ".....bbbbbb.....",
];

const STRIDE: [&str; 7] = [
    ".....lllSSS.....",
    "....llllSSSS....",
    "...lll...SSSS...",
    "..lll......SS...",
    ".bbl.......SS...",
    ".bb........bbb..",
    "................",
];

const PASSING: [&str; 7] = [
    ".....lllSS......",
    ".....lllSS......",
    ".....lllSS......",
    "....SSllS.......",
    "...bbSSll.......",
    "...b...ll.......",
    ".......bbb......",
];

const STRIDE_BACK: [&str; 7] = [
    ".....SSSlll.....",
    "....SSSSllll....",
    "...SSS...llll...",
    "..SSS......ll...",
    ".bbS.......ll...",
    ".bb........bbb..",
    "................",
];

const TUCKED: [&str; 7] = [
    ".....lllSSSS....",
    "....llllSSSSS...",
    "...lll....SSS...",
    "..bbl.....Sbb...",
    "..bb.......bb...",
    "................",
    "................",
];

const HANGING: [&str; 7] = [
    ".....lllSSS.....",
    "....lll..SSS....",
    "....ll....SS....",
    "....ll....SS....",
    "...bb.....bbb...",
    "...bbb..........",
    "................",
];

/// Draws a pose, facing right.
pub fn picture(pose: Pose) -> Picture {
    let (body, legs) = match pose {
        Pose::Stand => (STANDING, FEET_TOGETHER),
        Pose::Run(step) => (MOVING, [STRIDE, PASSING, STRIDE_BACK, PASSING][step as usize % 4]),
        Pose::Rise => (MOVING, TUCKED),
        Pose::Fall => (MOVING, HANGING),
    };
    let rows: Vec<&str> = body.into_iter().chain(legs).collect();
    sprite(&rows)
}
