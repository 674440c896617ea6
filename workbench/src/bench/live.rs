//! A game that runs while its ride is shown.

use velvet_pan_takes::{Fault, LogFollower, LogNews, Take};

/// The picture is this far behind the game at least, so that it moves evenly although the log grows by leaps, in seconds.
const BEHIND: f64 = 0.12;
/// Farther behind than this, in seconds, it catches up.
const MOST_BEHIND: f64 = 0.25;
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
    /// Shows the newest frames.
    pub fn new(follower: LogFollower) -> Self {
        Self { follower, at_end: true }
    }

    /// Returns whether the newest frames are shown.
    pub fn is_at_end(&self) -> bool {
        self.at_end
    }

    /// Looks at a moment this far from the end, in seconds.
    pub fn look_at(&mut self, from_end: f64) {
        self.at_end = from_end < NEAR;
    }

    /// Puts what the game did so far into a take, and goes on from there.
    pub fn begin(&mut self, take: &mut Take) {
        let settings = take.settings.clone();
        let fps = take.fps;
        *take = Take { settings, fps, ..self.follower.take() };
        self.at_end = true;
    }

    /// Takes over what is new.
    pub fn poll(&mut self, take: &mut Take) -> Result<Option<LogNews>, Fault> {
        self.follower.poll(take)
    }

    /// The number of rows to run if this many are due, and this many are there.
    pub fn due(&self, due: u64, left: u64, fps: f64) -> u64 {
        let rows = |seconds: f64| (seconds * fps).round() as u64;
        match self.at_end {
            true if left > rows(MOST_BEHIND) => left - rows(BEHIND),
            _ => due.min(left),
        }
    }
}
