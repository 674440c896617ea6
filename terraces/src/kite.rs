//! The path of the kite.

use velvet_pan::glam::DVec2;

/// Returns the position of the kite after this number of seconds. It flies in a long figure of eight.
#[must_use]
pub fn kite(t: f64) -> DVec2 {
    let turn = t * 0.7;
    DVec2::new(760.0 + 420.0 * turn.sin(), 640.0 - 60.0 * (2.0 * turn).cos())
}
