//! The files that `new` writes.

pub mod path;

use velvet_pan_takes::PlayerKind;

/// The beginning of a tuning, with a comment for each key.
const CAMERA: &str = include_str!("camera.toml");
/// The beginning of a take.
pub const RIDE: &str = include_str!("ride.toml");
/// Limits for its figures.
pub const LIMITS: &str = include_str!("ride.limits.toml");

/// Returns a tuning for a kind of player.
pub fn camera(kind: PlayerKind) -> String {
    let follow = match kind {
        PlayerKind::Runner => include_str!("follow-runner.toml"),
        PlayerKind::Walker => include_str!("follow-walker.toml"),
        PlayerKind::Flyer => include_str!("follow-flyer.toml"),
    };
    CAMERA.to_owned() + follow
}
