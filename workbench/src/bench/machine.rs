//! The player's machine, as it is made believe.

use velvet_pan::{Settings, Snap, WindowSize};

/// What replaces what the take and the tuning say, where it is set.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Machine {
    /// Frames a second.
    pub fps: Option<f64>,
    /// The window's size in physical pixels.
    pub window: Option<WindowSize>,
    /// What happens to fractions of a screen pixel.
    pub snap: Option<Snap>,
    /// How much of all shaking the player wants, from 0 to 1.
    pub intensity: Option<f64>,
}

impl Machine {
    /// These settings on this machine.
    pub fn settings(&self, settings: &Settings) -> Settings {
        let mut settings = settings.clone();
        settings.screen.snap = self.snap.unwrap_or(settings.screen.snap);
        settings.shake.intensity = self.intensity.unwrap_or(settings.shake.intensity);
        settings
    }
}
