//! The zoom of the camera, and its changes.

use glam::DVec2;

use crate::base::maths::clamp;
use crate::base::sound::sound;
use crate::curves::half_life::HalfLifeStep;
use crate::keys::keys::settings;
use crate::keys::setting::Setting;
use crate::keys::value::{SettingValue, Value};

/// The zoom: the `[zoom]` table of a tuning file.
///
/// It glides in log space: a glide from 1 to 2 takes as long as one from 2 to 4.
///
/// ```
/// use velvet_pan::{Camera, Settings};
///
/// let mut camera = Camera::new(Settings::default())?;
/// camera.zoom_to(2.0);
/// camera.advance(0.0); // commands take effect at the end of the next frame
/// let halfway = camera.advance(0.15).lens().zoom(); // after one half-life
/// assert!((halfway - 2.0_f64.sqrt()).abs() < 1e-9);
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Zoom {
    /// The zoom at the start, within `range`. At 2 everything appears twice as large. Default 1.
    pub level: f64,
    /// The smallest and the largest zoom, each from 1e-6 to 1e6. Default 0.5 to 4.
    pub range: ZoomRange,
    /// The time in which a glide covers half of the remaining way in log space, in seconds, 0 or more. A glide ends when
    /// the rest, as a natural logarithm, times the screen's diagonal in screen pixels is below 0.01. Default 0.15.
    pub half_life: f64,
    /// The factor by which one notch of a wheel multiplies the zoom, above 1 and up to 100. Default 1.2.
    pub notch: f64,
    /// Whether only whole-number zooms are shown. A notch is then a step of 1. Default `false`.
    pub whole: bool,
    /// Whether the smallest zoom is raised so far that the view fits into the bounds. Default `false`.
    pub fill_bounds: bool,
}

settings!(Zoom {
    level = Setting::number("level", "the zoom at the start; at 2 everything appears twice as large", "a zoom")
        .from(1e-6, 1e6).usual_from(0.5, 4.0);
    range = Setting::pair("range", "the smallest and the largest zoom", "the smallest and the largest zoom")
        .from(1e-6, 1e6).usual_from(0.1, 8.0);
    half_life = Setting::number("half_life", "the time for half of the remaining way of a glide, in log space", "a half-life in seconds")
        .measured("s").from(0.0, 1e6).usual_from(0.0, 1.0);
    notch = Setting::number("notch", "the factor of one notch of a wheel", "a factor")
        .above(1.0, 100.0).usual_from(1.01, 2.0);
    whole = Setting::flag("whole", "whether only whole-number zooms are shown; a notch is then a step of 1");
    fill_bounds = Setting::flag("fill_bounds", "whether the smallest zoom is raised until the view fits into the bounds");
});

impl Default for Zoom {
    fn default() -> Self {
        Self {
            level: 1.0,
            range: ZoomRange { min: 0.5, max: 4.0 },
            half_life: 0.15,
            notch: 1.2,
            whole: false,
            fill_bounds: false,
        }
    }
}

impl Zoom {
    /// Limits a wanted zoom to the range. `least` is a smallest zoom from other stages.
    #[must_use]
    pub(crate) fn limited(&self, wanted: f64, least: f64) -> f64 {
        let (low, high) = (self.range.min.max(least), self.range.max.max(least));
        if !self.whole {
            return clamp(wanted, low, high);
        }
        let low = libm::ceil(low).max(1.0);
        clamp(libm::round(wanted), low, libm::floor(high).max(low))
    }

    /// Returns the zoom this number of notches away from `wanted`, without limits. Positive notches zoom in.
    #[must_use]
    pub(crate) fn notched(&self, wanted: f64, notches: f64) -> f64 {
        if self.whole { wanted + notches } else { wanted * libm::pow(self.notch, notches) }
    }
}

/// A smallest and a largest zoom. In a file it is written as `[min, max]`.
///
/// ```
/// use velvet_pan::ZoomRange;
///
/// assert_eq!(ZoomRange::from([0.5, 4.0]), ZoomRange { min: 0.5, max: 4.0 });
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(from = "[f64; 2]", into = "[f64; 2]")
)]
pub struct ZoomRange {
    /// The smallest zoom, from 1e-6 to `max`.
    pub min: f64,
    /// The largest zoom, from `min` to 1e6.
    pub max: f64,
}

impl SettingValue for ZoomRange {
    fn value(&self) -> Option<Value> {
        Some(Value::Pair((*self).into()))
    }

    fn of(value: &Value) -> Option<Self> {
        let Value::Pair(numbers) = value else { return None };
        Some((*numbers).into())
    }
}

impl From<[f64; 2]> for ZoomRange {
    fn from([min, max]: [f64; 2]) -> Self {
        Self { min, max }
    }
}

impl From<ZoomRange> for [f64; 2] {
    fn from(range: ZoomRange) -> Self {
        [range.min, range.max]
    }
}

/// The current zoom and the target, as natural logarithms.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct ZoomGlide {
    now: f64,
    target: f64,
    /// The wanted zoom itself, so that it is reached exactly.
    wanted: f64,
}

sound!(ZoomGlide {
    now in -100.0..=100.0,
    target in -100.0..=100.0,
    wanted in 1e-9..=1e9,
});

impl ZoomGlide {
    /// Creates a zoom at rest.
    pub fn at(zoom: f64) -> Self {
        let log = libm::log(zoom);
        Self { now: log, target: log, wanted: zoom }
    }

    /// Glides to this zoom from now on. It starts from `least` or more, because less is not shown.
    pub fn head_for(&mut self, zoom: f64, least: f64) {
        if zoom != self.wanted {
            (self.target, self.wanted) = (libm::log(zoom), zoom);
        }
        if libm::exp(self.now) < least {
            self.now = libm::log(least);
        }
    }

    /// Returns the absolute value of the remaining difference, as a natural logarithm.
    pub fn rest(&self) -> f64 {
        (self.target - self.now).abs()
    }

    /// Returns the target.
    #[inline]
    pub fn wanted(&self) -> f64 {
        self.wanted
    }

    /// Returns whether the target is reached.
    #[inline]
    pub fn rests(&self) -> bool {
        self.now == self.target
    }

    /// Returns the zoom to show; a whole-number zoom steps through whole values.
    pub fn zoom(&self, whole: bool) -> f64 {
        if self.rests() {
            return self.wanted;
        }
        let zoom = libm::exp(self.now);
        if whole { libm::round(zoom).max(1.0) } else { zoom }
    }

    /// Goes on for some seconds; `size` is the screen's in pixels, for what can't be seen.
    pub fn advance(&mut self, half_life: f64, seconds: f64, size: DVec2, step: &mut HalfLifeStep) {
        self.now = step.get(half_life, seconds).approach(self.now, self.target, size.length());
    }
}
