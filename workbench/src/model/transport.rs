//! Whether the take runs, and how fast.

/// The longest time that is caught up after a slow frame of the window, in seconds.
const MAX_CAUGHT_UP: f64 = 0.1;

/// Play and pause.
#[derive(Clone, Copy, Debug)]
pub struct Transport {
    /// Whether it runs.
    pub plays: bool,
    /// Whether it runs at half speed.
    pub slow: bool,
    /// Whether it starts again at the end.
    pub loops: bool,
    /// The time that has not been played yet, in seconds.
    rest: f64,
}

impl Default for Transport {
    /// Starts running.
    fn default() -> Self {
        Self { plays: true, slow: false, loops: false, rest: 0.0 }
    }
}

impl Transport {
    /// Returns the number of frames to run after this time, in seconds.
    pub fn due(&mut self, seconds: f64, fps: f64) -> u64 {
        if !self.plays || !seconds.is_finite() {
            return 0;
        }
        let speed = if self.slow { 0.5 } else { 1.0 };
        self.rest += seconds.clamp(0.0, MAX_CAUGHT_UP) * speed;
        // A hair less, so that rounding costs no frame.
        let due = (self.rest * fps + 1e-9).floor();
        self.rest = (self.rest - due / fps).max(0.0);
        due as u64
    }
}
