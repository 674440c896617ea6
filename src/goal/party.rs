//! How several subjects are shown together: the settings.

use crate::keys::keys::settings;
use crate::keys::setting::Setting;

/// How several subjects are shown together: the `[party]` table of a tuning file, for
/// [`Camera::follow_all`](crate::Camera::follow_all).
///
/// The goal is the weighted mean of the subjects, moved as little as needed for the rectangle around all of them, with
/// their margins, to be visible. The wanted zoom is that of the zone, else that of the camera. When the subjects move
/// apart, the view zooms out from it, but not beyond `widest`: the zoom approaches the largest one at which the
/// rectangle fits, in log space, with the half-lives `widen` and `narrow`. A change of the wanted zoom has its effect
/// at once, as far as the rectangle fits. The space on each axis is `2·(min(a, 1 − a) − s)·V`, where `a` is the anchor,
/// `s` the larger side of the deadzone and `V` the view's size.
///
/// If the rectangle does not fit at the zoom `widest`, the subject with the lowest rank is no longer shown; of several
/// with the same rank, the last. It is shown again when the rectangle with it would fit with a tenth to spare, but not
/// before `fade` seconds.
///
/// Leash and look-ahead have no effect on several subjects. One subject alone is followed exactly as with
/// [`follow`](crate::Camera::follow).
///
/// ```
/// use velvet_pan::{Camera, Settings, Subject, glam::DVec2};
///
/// let mut camera = Camera::new(Settings::default())?;
/// let courier = Subject::from([0, 0]).with_weight(2.0).with_margin(20.0);
/// let kite = Subject::from([90, -40]).with_margin(10.0);
/// assert_eq!(camera.follow_all(0.0, &[courier, kite]).centre(), DVec2::new(30.0, -40.0 / 3.0));
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Party {
    /// The time in which the picture changes when a subject joins, leaves, or is no longer shown, in seconds, from 0 to
    /// 1,000. Default 0.6.
    pub fade: f64,
    /// The zoom at which the view is as wide as several subjects may make it, from 1e-6 to 1e6. Where the wanted zoom is
    /// smaller, that one is shown. Default 0.5.
    pub widest: f64,
    /// The half-life of zooming out when subjects move apart, in seconds, 0 or more. Default 0.12.
    pub widen: f64,
    /// The half-life of zooming in again, in seconds, 0 or more. Default 0.5.
    pub narrow: f64,
}

settings!(Party {
    widest = Setting::number("widest", "the zoom at which the view is as wide as several subjects may make it", "a zoom")
        .from(1e-6, 1e6).usual_from(0.1, 2.0);
    fade = Setting::number("fade", "the time in which the picture changes when a subject joins or leaves", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0);
    widen = Setting::number("widen", "the half-life of zooming out when subjects move apart", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 1.0);
    narrow = Setting::number("narrow", "the half-life of zooming in again", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0);
});

impl Default for Party {
    fn default() -> Self {
        Self { fade: 0.6, widest: 0.5, widen: 0.12, narrow: 0.5 }
    }
}
