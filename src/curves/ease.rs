//! The easing of a timed movement.

use crate::base::sound::{NOT_NEGATIVE, always_sound, sound};

/// How a movement of a fixed duration is distributed over its time: from 0 at its start to 1 at its end.
///
/// ```
/// use velvet_pan::Ease;
///
/// assert_eq!(Ease::InOut.at(0.5), 0.5);
/// assert!(Ease::In.at(0.5) < 0.5 && Ease::Out.at(0.5) > 0.5);
/// assert_eq!(Ease::Out.at(7.0), 1.0); // over is over
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Ease {
    /// Linear: `t`.
    Linear,
    /// Slow at the start: `t²`.
    In,
    /// Slow at the end: `1 − (1 − t)²`.
    Out,
    /// Slow at both ends: `3t² − 2t³`.
    InOut,
    /// Slow at both ends: `1 − (1 − t)³·(1 + 3t + 6t²)`. The default.
    ///
    /// A camera's change with this ease also keeps the view's velocity at its start. Let `x0` be the difference between
    /// what was shown and the new source at the change, `v0` the difference of their velocities, `T` the duration, and
    /// `Tv = min(T, 0.25 s)`. At an age `a` the view shows the new source plus `x0·(1 − τ)³·(1 + 3τ + 6τ²) + v0·Tv·σ·(1
    /// − σ)³`, with `τ = a/T` and `σ = min(1, a/Tv)`. With any other ease, a change goes from the value at its start to
    /// the new source, with no velocity at its start.
    #[default]
    Smooth,
}

always_sound!(Ease);

impl Ease {
    /// Returns the fraction of the movement that is done at the fraction `t` of its time. It is exactly 0 for `t` of 0
    /// or less, and exactly 1 for `t` of 1 or more and for NaN.
    ///
    /// ```
    /// # use velvet_pan::Ease;
    /// assert_eq!(Ease::Linear.at(0.25), 0.25);
    /// assert_eq!(Ease::Smooth.at(0.5), 0.5);
    /// assert!(Ease::Smooth.at(0.1) < 0.1); // it starts slowly
    /// ```
    #[inline]
    #[must_use]
    pub fn at(self, t: f64) -> f64 {
        if t <= 0.0 {
            return 0.0;
        }
        if t >= 1.0 || t.is_nan() {
            return 1.0;
        }
        match self {
            Self::Linear => t,
            Self::In => t * t,
            Self::Out => t * (2.0 - t),
            Self::InOut => t * t * (3.0 - 2.0 * t),
            Self::Smooth => t * t * t * (10.0 - t * (15.0 - 6.0 * t)),
        }
    }
}

/// The duration and the easing of a change.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Timing {
    pub seconds: f64,
    pub ease: Ease,
}

sound!(Timing { seconds in NOT_NEGATIVE, ease });

impl Timing {
    pub fn smooth(seconds: f64) -> Self {
        Self { seconds, ease: Ease::Smooth }
    }
}
