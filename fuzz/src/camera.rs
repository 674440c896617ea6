//! All calls in any order, with any numbers. Checks the promises of every view.

use std::sync::atomic::{AtomicU64, Ordering};

use crate::draw::Draw;
use crate::random_play::{Dice, Game};

/// The maximum number of frames of an input. More would only be slower.
const MAX_FRAMES: u32 = 400;

/// Runs one camera or several, controlled by the bytes.
///
/// # Panics
///
/// A promise is broken.
pub fn check(bytes: &[u8]) {
    count(ride(bytes));
}

/// The number of frames of all inputs.
static FRAMES: AtomicU64 = AtomicU64::new(0);

/// Adds frames, and reports their number each time it has doubled while fuzzing.
fn count(frames: u32) {
    let before = FRAMES.fetch_add(frames.into(), Ordering::Relaxed);
    let now = before + u64::from(frames);
    if cfg!(fuzzing) && now.checked_ilog2() > before.max(1 << 20).checked_ilog2() {
        eprintln!("{now} frames so far");
    }
}

/// Does the same and returns the number of frames.
///
/// # Panics
///
/// A promise is broken.
pub fn ride(bytes: &[u8]) -> u32 {
    let mut game = Game(Draw::new(bytes));
    if game.0.one_in(8) {
        game.several_cameras(MAX_FRAMES, &mut |_, _| ())
    } else {
        game.one_camera(MAX_FRAMES, &mut |_, _| ())
    }
}
