//! Cues, which connect game events with the camera.

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::sound::sound;
use crate::curves::ease::Ease;
use crate::keys::error::{Report, SettingsError};
use crate::keys::keys::settings;
use crate::keys::setting::Setting;
use crate::keys::value::Value;
use crate::shake::shake::Shake;

/// What the camera does at a named event of the game: a `[cues.NAME]` table of a tuning file. The game calls
/// [`Camera::cue`](crate::Camera::cue) with the name.
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
    /// The distance from the view's centre up to which the shake has its full strength, in widths of the [design
    /// screen](crate::Screen::design_size), 0 or more. It counts if the call has a position. Default 0.25.
    pub full_within: f64,
    /// The distance from which on the shake has no strength, in widths of the design screen, above `full_within`.
    /// Between the two the strength decreases linearly. Default 2.
    pub none_beyond: f64,
    /// A short change of the zoom.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub zoom: Option<ZoomNudge>,
    /// Reaches the goal within this number of seconds, like [`Camera::glide`](crate::Camera::glide).
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub glide: Option<f64>,
    /// Pauses following for this number of seconds.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub pause: Option<f64>,
}

impl Cue {
    /// Returns whether it does more than shake.
    pub(crate) fn moves(&self) -> bool {
        self.zoom.is_some() || self.glide.is_some() || self.pause.is_some()
    }

    /// Reports values that do not fit each other.
    pub(crate) fn check_pairs(&self, name: &str, report: Report<'_>) {
        let within = |key: &str| alloc::format!("cues.{name}.{key}");
        if self.none_beyond <= self.full_within {
            let expected = "a number of screen widths, above full_within";
            report(SettingsError::new(within("none_beyond"), self.none_beyond, expected));
        }
        if let Some(shake) = &self.shake {
            shake.check_motion(&within("shake"), report);
        }
    }
}

settings!(Cue {
    full_within = Setting::number("full_within", "the distance up to which its shake has full strength", "a number of screen widths")
        .measured("design screen widths").from(0.0, 1e6).usual_from(0.0, 2.0).later();
    none_beyond = Setting::number("none_beyond", "the distance at which its shake has no strength", "a number of screen widths")
        .measured("design screen widths").from(0.0, 1e6).usual_from(0.1, 4.0).later();
    glide = Setting::number("glide", "glides to the goal within this time", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 3.0).later().optional();
    pause = Setting::number("pause", "following pauses for this time", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 3.0).later().optional();
});

impl Default for Cue {
    fn default() -> Self {
        Self {
            shake: None,
            full_within: 0.25,
            none_beyond: 2.0,
            zoom: None,
            glide: None,
            pause: None,
        }
    }
}

/// A short change of the zoom: it rises, holds, and returns to nothing.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct ZoomNudge {
    /// The factor by which the zoom is multiplied, from 0.1 to 10. Default 1.05.
    pub by: f64,
    /// The time in which the change rises, in seconds, from 0 to 1,000. Default 0.05.
    pub rise: f64,
    /// The time at full strength, in seconds, from 0 to 1,000. Default 0.
    pub hold: f64,
    /// The time in which it returns, in seconds, from 0 to 1,000. Default 0.3.
    pub fade: f64,
}

sound!(ZoomNudge {
    by in 0.1..=10.0,
    rise in 0.0..=1e6,
    hold in 0.0..=1e6,
    fade in 0.0..=1e6,
});

settings!(ZoomNudge {
    by = Setting::number("by", "the factor by which the zoom is multiplied", "the factor by which the zoom is multiplied")
        .from(0.1, 10.0).usual_from(0.8, 1.3).later();
    rise = Setting::number("rise", "the time in which it rises", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 1.0).later();
    hold = Setting::number("hold", "the time at full strength", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0).later();
    fade = Setting::number("fade", "the time in which it returns", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0).later();
});

/// A short change of the zoom under way.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Nudge {
    pub nudge: ZoomNudge,
    pub strength: f64,
    pub age: f64,
}

sound!(Nudge { nudge, strength, age in 0.0..=1e6 });

impl Nudge {
    pub fn factor(&self) -> f64 {
        self.nudge.factor(self.age, self.strength)
    }

    /// Grows older by some seconds. Returns whether it is over.
    pub fn advance(&mut self, seconds: f64) -> bool {
        self.age += seconds;
        self.nudge.is_over(self.age)
    }
}

impl Default for ZoomNudge {
    fn default() -> Self {
        Self { by: 1.05, rise: 0.05, hold: 0.0, fade: 0.3 }
    }
}

impl ZoomNudge {
    /// Returns the factor by which the zoom is multiplied at an age in seconds, for a call with this strength.
    pub(crate) fn factor(&self, age: f64, strength: f64) -> f64 {
        let leaving = 1.0 - (age - self.rise - self.hold) / self.fade.max(1e-9);
        // Without a rise, this is 0/0 at age 0. `min` ignores a number that is NaN.
        let fraction = (age / self.rise).min(leaving);
        let eased = Ease::InOut.at(fraction);
        libm::pow(self.by, eased * strength)
    }

    pub(crate) fn is_over(&self, age: f64) -> bool {
        age >= self.rise + self.hold + self.fade
    }
}

/// Where, how strongly and when a cue is called. Every world point converts into a call.
///
/// ```
/// use velvet_pan::CueCall;
///
/// let pebble = CueCall::at([900, 320]).with_strength(0.5); // half as hard
/// let everywhere = CueCall::anywhere();
/// # let _ = (pebble, everywhere);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct CueCall {
    pub(crate) position: Option<DVec2>,
    pub(crate) strength: f64,
    pub(crate) age: f64,
}

impl Default for CueCall {
    /// Anywhere, at full strength, at the end of the next frame.
    fn default() -> Self {
        Self::anywhere()
    }
}

impl CueCall {
    /// Creates a call at a world position. A shake weakens with the distance from the view's centre.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cue, CueCall, Settings, Shake};
    /// let mut settings = Settings::default();
    /// settings.cues.insert("gong".into(), Cue { shake: Some(Shake::default()), ..Cue::default() });
    /// let mut camera = Camera::new(settings)?;
    /// camera.cue("gong", CueCall::at([5000, 0]).with_strength(0.5))?; // too far away to be felt
    /// camera.advance(0.0);
    /// assert_eq!(camera.advance(0.05).shake().pixels.x, 0.0);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn at(position: impl IntoWorld) -> Self {
        let position = Some(position.into_world()).filter(|position| position.is_finite());
        Self { position, ..Self::anywhere() }
    }

    /// Creates a call without a position: a shake has its full strength.
    #[must_use]
    pub fn anywhere() -> Self {
        Self { position: None, strength: 1.0, age: 0.0 }
    }

    /// Returns this call with a strength. 1 is the strength of the settings. If the strength is not above 0 and finite,
    /// the call does nothing.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cue, CueCall, Settings, Shake};
    /// let mut settings = Settings::default();
    /// let gong = Cue { shake: Some(Shake::default()), ..Cue::default() };
    /// settings.cues.insert("gong".into(), gong);
    /// let envelope = |strength| -> Result<f64, Box<dyn std::error::Error>> {
    ///     let mut camera = Camera::new(settings.clone())?;
    ///     camera.cue("gong", CueCall::anywhere().with_strength(strength))?;
    ///     camera.advance(0.0); // the cue plays from the end of this frame
    ///     camera.advance(0.1);
    ///     Ok(camera.shake_envelope().x)
    /// };
    /// assert!(envelope(1.0)? > 0.0);
    /// assert_eq!(envelope(0.5)?, envelope(1.0)? / 2.0);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn with_strength(mut self, strength: f64) -> Self {
        self.strength = strength;
        self
    }

    /// Returns this call for an event that happened this number of seconds before the end of the next frame.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cue, CueCall, Settings, Shake};
    /// let mut settings = Settings::default();
    /// let gong = Cue { shake: Some(Shake { hold: 0.2, fade: 0.5, ..Shake::default() }), ..Cue::default() };
    /// settings.cues.insert("gong".into(), gong);
    /// let mut camera = Camera::new(settings)?;
    /// camera.cue("gong", CueCall::anywhere().since(0.8))?; // reported late: it is over already
    /// camera.advance(0.0);
    /// assert_eq!(camera.shake_envelope().x, 0.0);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
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

/// The error for a cue that the settings do not have.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct UnknownCue {
    pub(crate) name: String,
    pub(crate) known: Vec<String>,
}

impl UnknownCue {
    /// Returns the names of the cues that the settings have, in order.
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

impl UnknownCue {
    fn all_known(&self) -> String {
        if self.known.is_empty() { "none".into() } else { self.known.join(", ") }
    }
}

impl fmt::Display for UnknownCue {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "no cue \"{}\": the tuning has {}", self.name, self.all_known())
    }
}

impl From<UnknownCue> for SettingsError {
    fn from(unknown: UnknownCue) -> Self {
        let what = alloc::format!("no such cue: the tuning has {}", unknown.all_known());
        let path = alloc::format!("cues.{}", unknown.name);
        Self::missing(&path, Value::Text(unknown.name), what)
    }
}

impl core::error::Error for UnknownCue {}
