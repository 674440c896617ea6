//! Objects on the terraces: the kite, the bell, the cable and its seat.

use super::sprite::sprite;
use crate::picture::Picture;

/// The kite, and the offset from the top left corner of its picture to its middle.
pub const KITE_MIDDLE: (i64, i64) = (8, 7);

const KITE: [&str; 20] = [
    "........w.......",
    ".......wcw......",
    "......wwcww.....",
    ".....wwwcwww....",
    "....wwwwcwwww...",
    "...wwwwwcwwwww..",
    "..ccccccccccccc.",
    "...kkkkCckkkkkk.",
    "....kkkCckkkkk..",
    ".....kkCckkkk...",
    "......kCckkk....",
    ".......Cckk.....",
    "........ck......",
    "........c.......",
    ".........n......",
    ".......kn.......",
    "........nk......",
    ".........n......",
    ".......Cn.......",
    "........nC......",
];

/// The bell under its small roof, and the offset from the top left corner to the middle of its foot.
pub const BELL_FOOT: (i64, i64) = (10, 30);

const BELL: [&str; 30] = [
    ".........rr.........",
    ".......rrvvrr.......",
    ".....rrvvvvvvrr.....",
    "...rrvvvvvvvvvvrr...",
    ".rrvvvvvvvvvvvvvvrr.",
    "rvvvvvvvvvvvvvvvvvvr",
    "..bb............bb..",
    "..bPPPPPPPPPPPPPPb..",
    "..bb.....PP.....bb..",
    "..bb.....aa.....bb..",
    "..bb....aaka....bb..",
    "..bb...aaakka...bb..",
    "..bb...aaakka...bb..",
    "..bb...aaakka...bb..",
    "..bb..oaaaakka..bb..",
    "..bb..oaaaakka..bb..",
    "..bb..ooaaaaka..bb..",
    "..bb...oooaaa...bb..",
    "..bb.....PP.....bb..",
    "..bb............bb..",
    "..bb............bb..",
    "..bb............bb..",
    "..bb............bb..",
    "..bb............bb..",
    "..bb............bb..",
    "..bb............bb..",
    ".SllS..........SllS.",
    ".SllS..........SllS.",
    "SlllSSSSSSSSSSSSlllS",
    "SllllllllllllllllllS",
];

/// Draws the kite.
pub fn kite() -> Picture {
    sprite(&KITE)
}

/// Draws the bell.
pub fn bell() -> Picture {
    sprite(&BELL)
}
