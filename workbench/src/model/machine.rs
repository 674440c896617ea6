//! The simulated machine of a player.

use velvet_pan::{Settings, Snap, WindowSize};

/// Values that replace those of the take and the tuning, if set.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Machine {
    /// Frames per second.
    pub fps: Option<f64>,
    /// The size of the window, in physical pixels.
    pub window: Option<WindowSize>,
    /// The snapping to screen pixels.
    pub snap: Option<Snap>,
    /// The intensity of all shakes, from 0 to 1.
    pub intensity: Option<f64>,
}

impl Machine {
    /// Returns these settings on this machine.
    pub fn settings(&self, settings: &Settings) -> Settings {
        let mut settings = settings.clone();
        settings.screen.snap = self.snap.unwrap_or(settings.screen.snap);
        settings.shake.intensity = self.intensity.unwrap_or(settings.shake.intensity);
        settings
    }
}
