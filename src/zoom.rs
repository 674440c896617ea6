//! How large the world appears.

use crate::error::{Report, SettingsError};

/// The zoom: the `[zoom]` table of a tuning file.
///
/// ```
/// use velvet_pan::{Camera, Settings};
///
/// let mut settings = Settings::default();
/// settings.zoom.level = 2.0;
/// assert_eq!(Camera::new(settings)?.view().scale(), 2.0);
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Zoom {
    /// The zoom to start with, from 1e-6 to 1e6; at 2 everything appears twice as large. Default 1.
    pub level: f64,
}

impl Default for Zoom {
    fn default() -> Self {
        Self { level: 1.0 }
    }
}

impl Zoom {
    pub(crate) fn check(&self, report: Report<'_>) {
        if !(1e-6..=1e6).contains(&self.level) {
            let expected = "a zoom from 0.000001 to 1000000; 1 is the screen's own";
            report(SettingsError::new("zoom.level", self.level, expected));
        }
    }
}
