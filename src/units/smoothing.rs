//! How the view follows its goal.

use crate::units::error::{Report, check};
use crate::units::spring::SETTLED;

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

    pub(crate) fn check(self, field: &'static str, report: Report<'_>) {
        let (number, most, expected) = match self {
            Self::None => return,
            Self::HalfLife(seconds) => {
                (seconds, LONGEST, "a half-life in seconds, from 0 to 1000000")
            }
            Self::Settle(seconds) => {
                (seconds, LONGEST, "a time to settle in seconds, from 0 to 1000000")
            }
            Self::Speed(speed) => (speed, 1e12, "a speed in world units per second, 0 or more"),
        };
        check(report, field, number, 0.0..=most, expected);
    }
}
