//! Where game events meet the camera.

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

use glam::DVec2;

use crate::shake::shake::Shake;
use crate::units::convert::IntoWorld;
use crate::units::ease::Ease;
use crate::units::error::{Report, SettingsError};
use crate::units::keys::settings;
use crate::units::setting::Setting;

/// The camera's answer to a named event of the game: the `[cues.NAME]` tables of a tuning file.
///
/// The mistake it prevents is a camera that is told "shake by 6" all over the game: the game says
/// what happened, and the tuning file what the camera makes of it.
///
/// ```
/// use velvet_pan::{Camera, Cue, Settings, Shake};
///
/// let mut settings = Settings::default();
/// settings.cues.insert("gong".into(), Cue { shake: Some(Shake::default()), ..Cue::default() });
/// let mut camera = Camera::new(settings)?;
/// assert!(camera.cue("gong", [900, 320]).is_ok());
/// assert_eq!(
///     camera.cue("gnog", [900, 320]).unwrap_err().to_string(),
///     "no cue \"gnog\": the tuning has gong"
/// );
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Cue {
    /// A shake.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub shake: Option<Shake>,
    /// Up to how many world units from the view's centre the shake has all its strength, where the
    /// call names a position; 0 or more. Default 80.
    pub near: f64,
    /// From where on nothing is left of it; above `near`. Default 600.
    pub far: f64,
    /// A short change of the zoom.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub zoom: Option<ZoomNudge>,
    /// Comes to the goal within so many seconds, as [`Camera::glide`](crate::Camera::glide) does.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub glide: Option<f64>,
    /// Seconds for which following pauses.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub pause: Option<f64>,
}

impl Cue {
    /// Reports values that do not fit each other.
    pub(crate) fn check_pairs(&self, name: &str, report: Report<'_>) {
        let within = |key: &str| alloc::format!("cues.{name}.{key}");
        if self.far <= self.near {
            let expected = "a distance in world units, above near";
            report(SettingsError::new(within("far"), self.far, expected));
        }
        if let Some(shake) = &self.shake {
            shake.check_motion(&within("shake"), report);
        }
    }
}

settings!(Cue {
    near = Setting::number("near", "the distance up to which its shake has full strength", "a distance in world units")
        .measured("world units").from(0.0, 1e12).usual_from(0.0, 640.0).later();
    far = Setting::number("far", "the distance at which its shake has no strength", "a distance in world units")
        .measured("world units").from(0.0, 1e12).usual_from(1.0, 1280.0).later();
    glide = Setting::number("glide", "glides to the goal within this time", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 3.0).later().optional();
    pause = Setting::number("pause", "following pauses for this time", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 3.0).later().optional();
});

impl Default for Cue {
    fn default() -> Self {
        Self { shake: None, near: 80.0, far: 600.0, zoom: None, glide: None, pause: None }
    }
}

/// A short change of the zoom that takes itself back.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct ZoomNudge {
    /// What the zoom is multiplied by, from 0.1 to 10. Default 1.05.
    pub by: f64,
    /// Seconds in, from 0 to 1,000. Default 0.05.
    pub rise: f64,
    /// Seconds at full strength, from 0 to 1,000. Default 0.
    pub hold: f64,
    /// Seconds back, from 0 to 1,000. Default 0.3.
    pub fade: f64,
}

settings!(ZoomNudge {
    by = Setting::number("by", "what the zoom is multiplied by", "what the zoom is multiplied by")
        .from(0.1, 10.0).usual_from(0.8, 1.3).later();
    rise = Setting::number("rise", "the time until it is there", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 1.0).later();
    hold = Setting::number("hold", "the time that it stays", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0).later();
    fade = Setting::number("fade", "the time until it is gone", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0).later();
});

impl Default for ZoomNudge {
    fn default() -> Self {
        Self { by: 1.05, rise: 0.05, hold: 0.0, fade: 0.3 }
    }
}

impl ZoomNudge {
    /// What the zoom is multiplied by at an age in seconds, for a call of this strength.
    pub(crate) fn factor(&self, age: f64, strength: f64) -> f64 {
        let fraction = if age < self.rise {
            age / self.rise
        } else if age <= self.rise + self.hold {
            1.0
        } else {
            1.0 - (age - self.rise - self.hold) / self.fade.max(1e-9)
        };
        let eased = Ease::InOut.at(fraction);
        libm::pow(self.by, eased * strength)
    }

    pub(crate) fn is_over(&self, age: f64) -> bool {
        age >= self.rise + self.hold + self.fade
    }
}

/// Where, how hard and when a cue is called. A world point alone is enough.
///
/// ```
/// use velvet_pan::CueCall;
///
/// let pebble = CueCall::at([900, 320]).with_strength(0.5); // half as hard
/// let everywhere = CueCall::anywhere();
/// # let _ = (pebble, everywhere);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct CueCall {
    pub(crate) position: Option<DVec2>,
    pub(crate) strength: f64,
    pub(crate) age: f64,
}

impl CueCall {
    /// At a position in the world: a shake weakens with its distance.
    #[must_use]
    pub fn at(position: impl IntoWorld) -> Self {
        let position = Some(position.into_world()).filter(|position| position.is_finite());
        Self { position, ..Self::anywhere() }
    }

    /// With no position.
    #[must_use]
    pub fn anywhere() -> Self {
        Self { position: None, strength: 1.0, age: 0.0 }
    }

    /// So many times as hard; 1 is as the tuning says. Values that are not above 0 call nothing.
    #[must_use]
    pub fn with_strength(mut self, strength: f64) -> Self {
        self.strength = strength;
        self
    }

    /// For an event that happened so many seconds before the end of the next frame.
    #[must_use]
    pub fn since(mut self, seconds: f64) -> Self {
        self.age = seconds;
        self
    }
}

impl<T: IntoWorld> From<T> for CueCall {
    fn from(position: T) -> Self {
        Self::at(position)
    }
}

/// A cue was called that the tuning does not have.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct UnknownCue {
    pub(crate) name: String,
    pub(crate) known: Vec<String>,
}

impl UnknownCue {
    /// Returns the names of the tuning's cues, in order.
    #[must_use]
    pub fn known(&self) -> &[String] {
        &self.known
    }

    /// Returns the name that was called.
    #[must_use]
    pub fn name(&self) -> &str {
        &self.name
    }
}

impl fmt::Display for UnknownCue {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "no cue \"{}\": the tuning has ", self.name)?;
        if self.known.is_empty() {
            return f.write_str("none");
        }
        f.write_str(&self.known.join(", "))
    }
}

impl core::error::Error for UnknownCue {}
