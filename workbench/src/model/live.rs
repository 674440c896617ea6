//! A game that runs while its ride is shown.

use std::path::Path;

use velvet_pan_takes::{Fault, LogFollower, LogNews, Take};

/// The picture is this far behind the game at least, so that it moves evenly although the log grows by leaps, in seconds.
const MIN_BEHIND: f64 = 0.12;
/// Farther behind than this, in seconds, it catches up.
const MAX_BEHIND: f64 = 0.25;
/// Who looks at a moment nearer to the end than this, in seconds, looks at the game.
const NEAR: f64 = 0.5;

/// Follows the log of a game.
#[derive(Debug)]
pub struct Live {
    follower: LogFollower,
    /// Whether the newest frames are shown.
    at_end: bool,
}

impl Live {
    /// Opens the log in a folder, and shows the newest frames.
    pub fn open(folder: &Path) -> Result<Self, Fault> {
        Ok(Self { follower: LogFollower::open(folder)?, at_end: true })
    }

    /// Returns whether the newest frames are shown.
    pub fn is_at_end(&self) -> bool {
        self.at_end
    }

    /// Looks at a moment this far from the end, in seconds.
    pub fn look_at(&mut self, from_end: f64) {
        self.at_end = from_end < NEAR;
    }

    /// Returns what the game did so far, and goes on from there.
    pub fn begin(&mut self) -> Take {
        self.at_end = true;
        self.follower.take()
    }

    /// Takes over what is new.
    pub fn poll(&mut self, take: &mut Take) -> Result<Option<LogNews>, Fault> {
        self.follower.poll(take)
    }

    /// Returns the number of rows to run if this many are due, and this many are there.
    pub fn due(&self, due: u64, left: u64, fps: f64) -> u64 {
        let rows = |seconds: f64| (seconds * fps).round() as u64;
        match self.at_end {
            true if left > rows(MAX_BEHIND) => left - rows(MIN_BEHIND),
            _ => due.min(left),
        }
    }
}
