//! Every call in any order, with any numbers: what must hold of a view holds.

use std::sync::atomic::{AtomicU64, Ordering};

use crate::draw::Draw;
use crate::game::{Dice, Game};

/// The frames of an input at most: a longer one is only slower.
const MOST: u32 = 400;

/// Rides as the bytes say, with one camera or several.
///
/// # Panics
///
/// A promise is broken.
pub fn check(bytes: &[u8]) {
    count(ride(bytes));
}

/// Frames of all inputs so far.
static FRAMES: AtomicU64 = AtomicU64::new(0);

/// Adds frames to those so far. A fuzzer is told each time they have doubled.
fn count(frames: u32) {
    let before = FRAMES.fetch_add(frames.into(), Ordering::Relaxed);
    let now = before + u64::from(frames);
    if cfg!(fuzzing) && now.checked_ilog2() > before.max(1 << 20).checked_ilog2() {
        eprintln!("{now} frames so far");
    }
}

/// Checks the same, and returns how many frames there were.
///
/// # Panics
///
/// A promise is broken.
pub fn ride(bytes: &[u8]) -> u32 {
    let mut game = Game(Draw::new(bytes));
    if game.0.one_in(8) {
        game.several_cameras(MOST, &mut |_, _| ())
    } else {
        game.one_camera(MOST, &mut |_, _| ())
    }
}
