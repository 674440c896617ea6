//! Every call in any order, with any numbers: what must hold of a view holds.

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
    ride(bytes);
}

/// The same; answers how many frames there were.
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
