//! How the view follows its goal.

use crate::curves::spring::SETTLED;
use crate::keys::setting::Choice;
use crate::keys::value::{Chosen, SettingValue, Value};

/// How the view moves to its goal on one axis.
///
/// Every kind is a function of time in closed form, so it is the same at any frame rate. It is exact for a goal that
/// moves in a straight line during a step. When the goal stands still and less than a hundredth of a screen pixel is
/// left, the view is set to the goal.
///
/// For a step of `dt` seconds in which the goal moves from `g0` to `g1`, with `Δ = g1 − g0` and the view at `c0`:
///
/// * `HalfLife(h)`: `c1 = c0 + (g0 − c0)·a + Δ·b`, with `x = dt·ln 2 / h`, `a = 1 − e^(−x)`, `b = 1 − a/x`.
/// * `Settle(T)`: a critically damped spring `c̈ = ω²(g − c) − 2ωċ`, with `(1 + ωT)·e^(−ωT) = 1/100`.
///
/// ```
/// use velvet_pan::{Camera, Settings, Smoothing};
///
/// let mut settings = Settings::default();
/// settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
/// let mut camera = Camera::new(settings)?;
/// camera.place_at([0, 0]);
/// camera.aim_at([100, 0]);
/// camera.advance(0.0); // commands take effect at the end of the next frame
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
    /// No smoothing: the view is at its goal immediately.
    #[default]
    None,
    /// Covers half of the remaining way in this number of seconds, 0 or more. It starts abruptly and stops softly.
    HalfLife(f64),
    /// A critically damped spring that covers 99 % of the way to a new goal in this number of seconds, 0 or more. It
    /// starts and stops softly, and does not overshoot a goal that stands still.
    Settle(f64),
    /// Moves in a straight line to the goal, with at most this number of world units per second. It does not overshoot.
    Speed(f64),
}

impl Smoothing {
    /// Its names.
    pub(crate) const NAMES: &'static [Choice] = &[
        Choice::name("none"),
        Choice::number("half_life", "a half-life in seconds", "s", MAX_SECONDS, [0.0, 1.0]),
        Choice::number("settle", "a time to settle in seconds", "s", MAX_SECONDS, [0.0, 2.0]),
        Choice::number(
            "speed",
            "a speed in world units per second",
            "world units/s",
            1e12,
            [0.0, 1000.0],
        ),
    ];
}

impl SettingValue for Smoothing {
    fn value(&self) -> Option<Value> {
        let chosen = match self {
            Self::None => Chosen::name("none"),
            Self::HalfLife(seconds) => Chosen::number("half_life", *seconds),
            Self::Settle(seconds) => Chosen::number("settle", *seconds),
            Self::Speed(speed) => Chosen::number("speed", *speed),
        };
        Some(chosen.into())
    }

    fn of(value: &Value) -> Option<Self> {
        let Value::Choice(chosen) = value else { return None };
        Some(match (chosen.as_str(), chosen.numbers()) {
            ("none", []) => Self::None,
            ("half_life", [seconds]) => Self::HalfLife(*seconds),
            ("settle", [seconds]) => Self::Settle(*seconds),
            ("speed", [speed]) => Self::Speed(*speed),
            _ => return None,
        })
    }
}

/// The longest time for smoothing, in seconds: eleven days.
const MAX_SECONDS: f64 = 1e6;

impl Smoothing {
    /// Converts "this fraction of the way in each frame, at this number of frames per second" to a half-life: `h = −ln
    /// 2 / (fps · ln(1 − fraction))`. A fraction of 0 or less gives the longest half-life, 1,000,000 seconds. A
    /// fraction of 1 or more gives [`Smoothing::None`].
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
        Self::per_second(-libm::log1p(-fraction.max(0.0)) * frames_per_second)
    }

    /// Converts a rate per second, as in `x += (goal − x)·rate·dt` or `1 − e^(−rate·dt)`, to a half-life: `h = ln 2 /
    /// rate`. A time constant is one divided by the rate. A rate of 0 or less gives the longest half-life, 1,000,000
    /// seconds. An infinite rate gives [`Smoothing::None`].
    ///
    /// ```
    /// # use velvet_pan::Smoothing;
    /// let Smoothing::HalfLife(seconds) = Smoothing::per_second(5.0) else { unreachable!() };
    /// assert!((seconds - 0.1386).abs() < 1e-4);
    /// ```
    #[must_use]
    pub fn per_second(rate: f64) -> Self {
        if rate == f64::INFINITY {
            return Self::None;
        }
        Self::HalfLife((core::f64::consts::LN_2 / rate.max(0.0)).min(MAX_SECONDS))
    }

    /// Converts "the remaining way divided by this number in each frame, at this number of frames per second" to a
    /// half-life.
    ///
    /// ```
    /// # use velvet_pan::Smoothing;
    /// assert_eq!(Smoothing::divided(8.0, 60.0), Smoothing::per_frame(0.125, 60.0));
    /// ```
    #[must_use]
    pub fn divided(divisor: f64, frames_per_second: f64) -> Self {
        Self::per_frame(1.0 / divisor, frames_per_second)
    }

    /// Returns the distance of the view behind a goal that moves with a constant `speed`: `speed·h/ln 2` for a
    /// half-life, `2·speed/ω` for a spring, and infinity for a speed limit below `speed`. The distance is in the unit
    /// of `speed` times seconds.
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
