//! The rotation of the camera, and its changes.

use glam::DVec2;

use crate::base::maths::shorter_arc;
use crate::base::sound::sound;
use crate::curves::half_life::HalfLifeFactors;
use crate::keys::keys::settings;
use crate::keys::setting::Setting;

/// The rotation of the camera: the `[rotation]` table of a tuning file.
///
/// ```
/// use velvet_pan::{Camera, Settings};
///
/// let mut camera = Camera::new(Settings::default())?;
/// camera.rotate_to(0.2);
/// camera.advance(0.0); // commands take effect at the end of the next frame
/// let halfway = camera.advance(0.15).lens().rotation(); // after one half-life
/// assert!((halfway - 0.1).abs() < 1e-9);
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Rotation {
    /// The time in which [`Camera::rotate_to`](crate::Camera::rotate_to) covers half of the remaining angle, in seconds,
    /// from 0 to 1,000,000. A glide ends when the rest in radians times the screen's diagonal in screen pixels is below
    /// 0.01. Default 0.15.
    pub half_life: f64,
}

settings!(Rotation {
    half_life = Setting::number("half_life", "the time for half of the remaining angle of a glide", "a half-life in seconds")
        .measured("s").from(0.0, 1e6).usual_from(0.0, 1.0);
});

impl Default for Rotation {
    fn default() -> Self {
        Self { half_life: 0.15 }
    }
}

/// The current rotation and the target, in radians.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct RotationGlide {
    now: f64,
    target: f64,
}

sound!(RotationGlide { now, target });

impl RotationGlide {
    /// Creates a rotation at rest.
    pub fn at(rotation: f64) -> Self {
        Self { now: rotation, target: rotation }
    }

    /// Glides to this rotation from now on, in the shorter direction.
    pub fn head_for(&mut self, rotation: f64) {
        if self.target == rotation {
            return;
        }
        self.now = rotation - shorter_arc(self.now, rotation);
        self.target = rotation;
    }

    #[inline]
    pub fn now(&self) -> f64 {
        self.now
    }

    /// Returns whether the target is reached.
    #[inline]
    pub fn rests(&self) -> bool {
        self.now == self.target
    }

    /// Returns the rotation that it glides to.
    pub fn wanted(&self) -> f64 {
        self.target
    }

    /// Goes on for some seconds; `size` is the screen's in pixels, for what can't be seen.
    pub fn advance(&mut self, half_life: f64, seconds: f64, size: DVec2) {
        if self.rests() {
            return;
        }
        let factors = HalfLifeFactors::new(half_life, seconds);
        self.now = factors.approach(self.now, self.target, size.length());
    }
}
