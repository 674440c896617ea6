//! One shake: a function of its age and its seed only.

use glam::DVec2;

use crate::base::maths::{floor_to_i64, mix};
use crate::base::sound::Sound;
use crate::curves::ease::Ease;
use crate::curves::smoothing::Smoothing;
use crate::keys::error::{Report, SettingsError};
use crate::keys::keys::{report_faults, settings};
use crate::keys::setting::{Choice, ChoiceForm, Setting};
use crate::keys::value::{Chosen, SettingValue, Value};

/// How an impact moves the picture.
///
/// A shake is a function of its age, so it is the same at any frame rate, and the same to the bit for the same seed. It
/// rises within 1/40 s, holds, and fades to exactly 0. It never exceeds its reach. It is added to the view only.
///
/// The offset on each axis is `envelope(age) · reach · n`, where `n` is from −1 to 1:
///
/// * `Wander` and `Rattle`: `n` goes from random target to random target, `hz` targets per second. With
///   `k = floor(age · hz)` and `f` the fraction, `n = c(k) + (c(k + 1) − c(k)) · e(f)`. For `Wander`,
///   `e(f) = f³·(f·(6f − 15) + 10)`; for `Rattle`, `e(f) = f`. The first target is 0.
/// * `Kick`: `n = direction · sin(2π · age · hz)`, with a direction of length 1.
///
/// The random targets `c` are a hash in wrapping 64-bit arithmetic. For target `k`, seed `s` and channel `a` (0 for x, 1
/// for y, 2 for the roll): `b = k·0x9e3779b97f4a7c15 + s·0xd1b54a32d192ed03 + a·0xaef17502108ef2d9`, then
/// `b = (b ^ (b >> 30))·0xbf58476d1ce4e5b9`, `b = (b ^ (b >> 27))·0x94d049bb133111eb`, `b = b ^ (b >> 31)`, and the target is
/// `(b >> 11) / 2⁵² − 1`. The seed of the camera's shake number `i`, from 0 on, is
/// `shake.seed·0x2545f4914f6cdd1d + i`.
///
/// ```
/// use velvet_pan::{Shake, ShakeMotion, glam::DVec2};
///
/// let gong = Shake { reach: DVec2::new(6.0, 3.0), hold: 0.15, fade: 0.6, ..Shake::default() };
/// let early = gong.offset(0.1, 7);
/// assert!(early.pixels.x.abs() <= 6.0 && early.pixels.y.abs() <= 3.0);
/// assert_eq!(gong.offset(0.75, 7).pixels, DVec2::ZERO); // over, exactly
/// assert_eq!(gong.motion, ShakeMotion::Wander);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Shake {
    /// The largest offset on each axis, in screen pixels, from 0 to 10,000. Default 4, 3.
    pub reach: DVec2,
    /// The largest rotation, in radians, from 0 to 3. Default 0.
    pub roll: f64,
    /// The time at full strength, in seconds, 0 or more. Infinite for a rumble that lasts until
    /// [`Camera::end_shakes`](crate::Camera::end_shakes). Default 0.1.
    #[cfg_attr(feature = "serde", serde(with = "crate::keys::number::float"))]
    pub hold: f64,
    /// The time in which it fades to 0 after that, in seconds, from 0 to 1,000. Default 0.4.
    pub fade: f64,
    /// The number of random targets per second (for a kick: oscillations per second), above 0 and up to 1,000. Default 18.
    pub hz: f64,
    /// How it moves. Default [`ShakeMotion::Wander`].
    pub motion: ShakeMotion,
}

impl Sound for Shake {
    fn is_sound(&self) -> bool {
        let mut sound = true;
        self.check("shake", &mut |_| sound = false);
        sound
    }
}

impl Shake {
    /// Reports every value that is not allowed.
    pub(crate) fn check(&self, path: &str, report: Report<'_>) {
        report_faults(self, path, report);
        self.check_motion(path, report);
    }

    /// Reports a kick without a direction.
    pub(crate) fn check_motion(&self, path: &str, report: Report<'_>) {
        if self.motion == ShakeMotion::Kick(DVec2::ZERO) {
            let expected = "a direction of the screen, not 0";
            report(SettingsError::new(alloc::format!("{path}.motion"), DVec2::ZERO, expected));
        }
    }
}

settings!(Shake {
    reach = Setting::pair("reach", "the largest offset of the view", "two lengths in screen pixels")
        .measured("screen px").from(0.0, 10_000.0).usual_from(0.0, 24.0).later();
    roll = Setting::number("roll", "the largest rotation of the view", "an angle in radians")
        .measured("rad").from(0.0, 3.0).usual_from(0.0, 0.1).later();
    hold = Setting::number("hold", "the time at full strength; inf for a rumble without end", "a time in seconds, 0 or more, or inf")
        .measured("s").from(0.0, f64::INFINITY).usual_from(0.0, 3.0).later();
    fade = Setting::number("fade", "the time in which it fades to 0", "a time in seconds")
        .measured("s").from(0.0, MAX_FADE_SECONDS).usual_from(0.0, 3.0).later();
    hz = Setting::number("hz", "the number of random targets per second; for a kick, of oscillations", "a frequency in hertz")
        .measured("1/s").above(0.0, 1000.0).usual_from(1.0, 40.0).later();
    motion = Setting::choice("motion", "how it moves", ShakeMotion::NAMES).later();
});

/// How a shake moves.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum ShakeMotion {
    /// Smoothly from random target to random target.
    #[default]
    Wander,
    /// In straight lines from random target to random target: harder than `Wander`.
    Rattle,
    /// A sine along this direction of the screen, `hz` times per second. The length of the direction does not matter; it
    /// must not be 0.
    Kick(DVec2),
}

impl ShakeMotion {
    /// Its names.
    const NAMES: &'static [Choice] = &[
        Choice::name("wander"),
        Choice::name("rattle"),
        Choice::number("kick", "a direction of the screen, not 0", "", 1.0, [-1.0, 1.0])
            .in_form(ChoiceForm::Pair)
            .finite(),
    ];
}

impl SettingValue for ShakeMotion {
    fn value(&self) -> Option<Value> {
        Some(match self {
            Self::Wander => Chosen::name("wander").into(),
            Self::Rattle => Chosen::name("rattle").into(),
            Self::Kick(way) => Chosen::pair("kick", way.to_array()).into(),
        })
    }

    fn of(value: &Value) -> Option<Self> {
        let Value::Choice(chosen) = value else { return None };
        Some(match (chosen.as_str(), chosen.numbers()) {
            ("wander", []) => Self::Wander,
            ("rattle", []) => Self::Rattle,
            ("kick", [x, y]) => Self::Kick(DVec2::new(*x, *y)),
            _ => return None,
        })
    }
}

impl Default for Shake {
    fn default() -> Self {
        Self {
            reach: DVec2::new(4.0, 3.0),
            roll: 0.0,
            hold: 0.1,
            fade: 0.4,
            hz: 18.0,
            motion: ShakeMotion::Wander,
        }
    }
}

/// By how much a shake moves and rotates a view.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct ShakeOffset {
    /// The offset along the screen's axes, in screen pixels.
    pub pixels: DVec2,
    /// The rotation in radians, clockwise.
    pub roll: f64,
}

impl ShakeOffset {
    /// Returns the value a fraction of the way to another.
    pub(crate) fn mixed(self, other: Self, fraction: f64) -> Self {
        Self {
            pixels: mix(self.pixels, other.pixels, fraction),
            roll: self.roll + (other.roll - self.roll) * fraction,
        }
    }
}

/// The longest fade, in seconds.
const MAX_FADE_SECONDS: f64 = 1000.0;

/// The time from zero to full strength, in seconds: too short to look soft, and long enough not to jump.
pub(crate) const RISE: f64 = 0.025;

/// The share of its fade after which a shake has half of its strength: `1 − √½`.
const HALF_OF_FADE: f64 = 1.0 - core::f64::consts::FRAC_1_SQRT_2;

impl Shake {
    /// Returns this shake with full strength for a number of frames, and then an end: one target for each frame.
    /// Numbers that are not positive count as one frame.
    ///
    /// ```
    /// # use velvet_pan::Shake;
    /// let hit = Shake::default().with_frames(12.0, 60.0);
    /// assert_eq!((hit.hold, hit.fade, hit.hz), (0.2, 0.0, 60.0));
    /// ```
    #[must_use]
    pub fn with_frames(self, frames: f64, frames_per_second: f64) -> Self {
        let (frames, rate) = (frames.max(1.0), frames_per_second.max(1.0));
        Self { hold: frames / rate, fade: 0.0, hz: rate.min(1000.0), ..self }
    }

    /// Returns this shake with a fade instead of a factor for the strength in each frame, from 0 to 1. It has half of its
    /// strength left at the same moment, and, other than with a factor, it ends.
    ///
    /// ```
    /// # use velvet_pan::Shake;
    /// let hit = Shake::default().with_decay(0.9, 60.0); // after 6.6 frames, half
    /// assert!((hit.envelope(6.58 / 60.0) - 0.5).abs() < 1e-3);
    /// ```
    #[must_use]
    pub fn with_decay(self, factor: f64, frames_per_second: f64) -> Self {
        let half = match Smoothing::per_frame(1.0 - factor, frames_per_second) {
            Smoothing::HalfLife(seconds) => seconds,
            _ => 0.0,
        };
        Self { hold: 0.0, fade: (half / HALF_OF_FADE).min(MAX_FADE_SECONDS), ..self }
    }

    /// Returns the strength at an age in seconds, from 0 to 1: `min(1, age / 0.025)`, after `hold` times
    /// `(1 − (age − hold)/fade)²`. It is exactly 0 before the start and from the end on.
    ///
    /// ```
    /// # use velvet_pan::Shake;
    /// let gong = Shake { hold: 0.1, fade: 0.4, ..Shake::default() };
    /// assert_eq!((gong.envelope(0.1), gong.envelope(0.3), gong.envelope(0.5)), (1.0, 0.25, 0.0));
    /// ```
    #[must_use]
    pub fn envelope(&self, age: f64) -> f64 {
        if age <= 0.0 || age.is_nan() || self.is_over(age) {
            return 0.0;
        }
        let rise = (age / RISE).min(1.0);
        let past = age - self.hold;
        if past <= 0.0 {
            return rise;
        }
        let rest = 1.0 - past / self.fade;
        rise * rest * rest
    }

    /// Returns whether the shake has ended at this age in seconds.
    ///
    /// ```
    /// # use velvet_pan::Shake;
    /// let gong = Shake { hold: 0.2, fade: 0.5, ..Shake::default() };
    /// assert!(!gong.is_over(0.6) && gong.is_over(0.8));
    /// ```
    #[must_use]
    pub fn is_over(&self, age: f64) -> bool {
        age >= self.hold + self.fade
    }

    /// Returns the offset at an age in seconds, for a seed.
    ///
    /// ```
    /// # use velvet_pan::Shake;
    /// let gong = Shake { hold: 0.2, fade: 0.5, ..Shake::default() };
    /// assert_eq!(gong.offset(0.1, 7), gong.offset(0.1, 7)); // the same for the same seed
    /// assert!(gong.offset(0.1, 7).pixels.x.abs() <= gong.reach.x);
    /// ```
    #[must_use]
    pub fn offset(&self, age: f64, seed: u64) -> ShakeOffset {
        let strength = self.envelope(age);
        if strength == 0.0 {
            return ShakeOffset::default();
        }
        let (way, roll) = self.way(age, seed);
        ShakeOffset { pixels: way * self.reach * strength, roll: roll * self.roll * strength }
    }

    /// How much of its reach it has at an age: a random one starts in the middle.
    pub(crate) fn unfolded(&self, age: f64) -> f64 {
        let time = age * self.hz;
        let is_random = !matches!(self.motion, ShakeMotion::Kick(_));
        if is_random && time < 1.0 { self.eased(time.max(0.0)) } else { 1.0 }
    }

    /// How a random one gets from one position to the next.
    fn eased(&self, fraction: f64) -> f64 {
        match self.motion {
            ShakeMotion::Rattle => fraction,
            _ => Ease::Smooth.at(fraction),
        }
    }

    /// Returns the offset at full strength, from −1 to 1 on each axis, and the rotation.
    fn way(&self, age: f64, seed: u64) -> (DVec2, f64) {
        let time = age * self.hz;
        if let ShakeMotion::Kick(direction) = self.motion {
            let swing = libm::sin(time * core::f64::consts::TAU);
            return (direction.normalize_or_zero() * swing, swing);
        }
        let index = floor_to_i64(time);
        let eased = self.eased((time - index as f64).clamp(0.0, 1.0));
        // Between two random positions. The first one is the middle, so that a shake starts at the view's position.
        let position = |index: i64, channel| {
            if index <= 0 { 0.0 } else { chance(index as u64, seed, channel) }
        };
        let noise = |channel| {
            let (from, to) = (position(index, channel), position(index.saturating_add(1), channel));
            from + (to - from) * eased
        };
        // Most shakes do not rotate the view.
        let turn = if self.roll == 0.0 { 0.0 } else { noise(2) };
        (DVec2::new(noise(0), noise(1)), turn)
    }
}

/// Returns a number from −1 to 1 that depends only on these three.
fn chance(index: u64, seed: u64, channel: u64) -> f64 {
    let mut bits = index
        .wrapping_mul(0x9e37_79b9_7f4a_7c15)
        .wrapping_add(seed.wrapping_mul(0xd1b5_4a32_d192_ed03))
        .wrapping_add(channel.wrapping_mul(0xaef1_7502_108e_f2d9));
    bits = (bits ^ (bits >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    bits = (bits ^ (bits >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    bits ^= bits >> 31;
    // 53 bits, evenly from −1 to 1.
    (bits >> 11) as f64 / (1_u64 << 52) as f64 - 1.0
}
