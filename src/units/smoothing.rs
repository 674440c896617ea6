//! How the view follows its goal.

use crate::units::setting::Choice;
use crate::units::spring::SETTLED;
use crate::units::value::{Chosen, Held, Value};

/// How one axis of the view follows its goal.
///
/// The mistake this prevents is a fraction of the way per frame: that follows faster on a faster
/// machine, and never quite arrives. Here every kind is a closed form of time, exact for a goal
/// that moves in a straight line during the step, and truly at rest in the end.
///
/// ```
/// use velvet_pan::{Camera, Settings, Smoothing};
///
/// let mut settings = Settings::default();
/// settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
/// let mut camera = Camera::new(settings)?;
/// camera.place_at([0, 0]);
/// camera.aim_at([100, 0]);
/// camera.advance(0.0); // what is announced begins with the next frame
/// assert!((camera.advance(0.1).centre().x - 50.0).abs() < 1e-9);
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Smoothing {
    /// At the goal at once.
    #[default]
    None,
    /// Half of the rest of the way in this many seconds, 0 or more. Quick to start, soft to stop.
    HalfLife(f64),
    /// A critically damped spring that comes within 1 % of a new goal in this many seconds, 0 or
    /// more. Soft to start and soft to stop, without swinging past a goal that stands.
    Settle(f64),
    /// At most this many world units per second, in a straight line to the goal, never past it.
    Speed(f64),
}

impl Smoothing {
    /// Its names.
    pub(crate) const NAMES: &'static [Choice] = &[
        Choice::name("none"),
        Choice::number("half_life", "a half-life in seconds", "s", LONGEST, [0.0, 1.0]),
        Choice::number("settle", "a time to settle in seconds", "s", LONGEST, [0.0, 2.0]),
        Choice::number(
            "speed",
            "a speed in world units per second",
            "world units/s",
            1e12,
            [0.0, 1000.0],
        ),
    ];
}

impl Held for Smoothing {
    const BLANK: Self = Self::None;

    fn value(&self) -> Option<Value> {
        let chosen = match self {
            Self::None => Chosen::name("none"),
            Self::HalfLife(seconds) => Chosen::number("half_life", *seconds),
            Self::Settle(seconds) => Chosen::number("settle", *seconds),
            Self::Speed(speed) => Chosen::number("speed", *speed),
        };
        Some(chosen.into())
    }

    fn put(&mut self, value: &Value) -> bool {
        let Value::Choice(chosen) = value else { return false };
        *self = match (chosen.as_str(), chosen.numbers()) {
            ("none", []) => Self::None,
            ("half_life", [seconds]) => Self::HalfLife(*seconds),
            ("settle", [seconds]) => Self::Settle(*seconds),
            ("speed", [speed]) => Self::Speed(*speed),
            _ => return false,
        };
        true
    }
}

/// The longest time in seconds that smoothing may take: eleven days.
const LONGEST: f64 = 1e6;

impl Smoothing {
    /// From "this fraction of the way each frame, at this many frames a second", in seconds:
    /// `h = −ln 2 / (fps · ln(1 − fraction))`. A fraction of 0 or less never arrives, 1 or more is
    /// there at once.
    ///
    /// ```
    /// use velvet_pan::Smoothing;
    ///
    /// let Smoothing::HalfLife(seconds) = Smoothing::per_frame(0.1, 60.0) else { unreachable!() };
    /// assert!((seconds - 0.1096).abs() < 1e-4);
    /// assert_eq!(Smoothing::per_frame(1.0, 60.0), Smoothing::None);
    /// ```
    #[must_use]
    pub fn per_frame(fraction: f64, frames_per_second: f64) -> Self {
        if fraction >= 1.0 {
            return Self::None;
        }
        let decay = -libm::log1p(-fraction.max(0.0)) * frames_per_second;
        Self::HalfLife((core::f64::consts::LN_2 / decay).min(LONGEST))
    }

    /// From "the rest of the way divided by this, each frame, at this many frames a second".
    ///
    /// ```
    /// # use velvet_pan::Smoothing;
    /// assert_eq!(Smoothing::divided(8.0, 60.0), Smoothing::per_frame(0.125, 60.0));
    /// ```
    #[must_use]
    pub fn divided(divisor: f64, frames_per_second: f64) -> Self {
        Self::per_frame(1.0 / divisor, frames_per_second)
    }

    /// Returns how far the view stays behind a goal that moves at a steady `speed`, in the same unit
    /// per second: `speed·h/ln 2` for a half-life, `2·speed/ω` for a spring, infinitely far for a
    /// speed limit below `speed`.
    ///
    /// ```
    /// # use velvet_pan::Smoothing;
    /// assert!((Smoothing::HalfLife(0.1).lag_at(100.0) - 14.43).abs() < 0.01);
    /// assert_eq!(Smoothing::Speed(200.0).lag_at(100.0), 0.0);
    /// ```
    #[must_use]
    pub fn lag_at(self, speed: f64) -> f64 {
        match self {
            Self::HalfLife(seconds) => speed * seconds / core::f64::consts::LN_2,
            Self::Settle(seconds) => 2.0 * speed * seconds / SETTLED,
            Self::Speed(most) if speed > most => f64::INFINITY,
            Self::None | Self::Speed(_) => 0.0,
        }
    }
}
