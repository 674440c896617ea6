//! A view that scrolls steadily, whatever the subject does.

use glam::DVec2;

use crate::keys::keys::settings;
use crate::keys::setting::Setting;

/// Steady scrolling: the `[scroll]` table of a tuning file.
///
/// A step longer than a quarter of a second scrolls by a quarter of a second, so that the level does not run away after a
/// breakpoint.
///
/// ```
/// use velvet_pan::{Camera, Scroll, Settings, glam::DVec2};
///
/// let scroll = Some(Scroll { speed: DVec2::new(40.0, 0.0) });
/// let mut camera = Camera::new(Settings { scroll, ..Settings::default() })?;
/// camera.follow(0.0, [0, 0]);
/// assert_eq!(camera.follow(0.1, [900, 50]).centre().round(), DVec2::new(4.0, 50.0));
/// assert_eq!(camera.follow(60.0, [900, 50]).centre().round(), DVec2::new(14.0, 50.0));
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(deny_unknown_fields)
)]
pub struct Scroll {
    /// The speed along each axis of the world, in world units per second, from −1,000,000 to 1,000,000. On an axis with
    /// speed 0 the view follows as usual.
    pub speed: DVec2,
}

settings!(Scroll {
    speed = Setting::pair("speed", "the speed of scrolling per axis; on an axis with 0 the view follows", "world units per second for each axis")
        .measured("world units/s").from(-1e6, 1e6).usual_from(-200.0, 200.0)
    .required();
});

impl Scroll {
    /// The longest step in seconds.
    const MAX_STEP_SECONDS: f64 = 0.25;

    /// Returns the fraction of a step in which it scrolls, which is below 1 if the step is too long.
    pub(crate) fn share(&self, seconds: f64) -> f64 {
        if seconds > Self::MAX_STEP_SECONDS { Self::MAX_STEP_SECONDS / seconds } else { 1.0 }
    }

    /// Returns whether it scrolls along this axis.
    pub(crate) fn has(&self, axis: usize) -> bool {
        self.speed[axis] != 0.0
    }
}
