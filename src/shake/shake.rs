//! One shake: a function of its own age and seed, and of nothing else.

use glam::DVec2;

use crate::units::error::{Report, SettingsError};
use crate::units::keys::{report_faults, settings};
use crate::units::maths::{floor_to_i64, mix};
use crate::units::setting::{Choice, ChoiceForm, Setting};
use crate::units::value::{Chosen, Held, Value};

/// How an impact moves the picture.
///
/// A shake has a position in time, not a state: at each age its offset is the same at any frame rate,
/// for the same seed to the bit. It rises within 1/40 s, holds, and fades to exactly zero; it never
/// exceeds its reach.
///
/// The mistake it prevents is a shake that overwrites the follow and has to be put back, or that
/// decays past zero: this one is added to the view alone, and is over when it is over.
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
    /// The farthest it goes on each axis, in screen pixels, from 0 to 10,000. Default 4, 3.
    pub reach: DVec2,
    /// The farthest it turns, in radians, from 0 to 3. Default 0.
    pub roll: f64,
    /// Seconds at full strength, 0 or more; infinite for a rumble that lasts until it is told
    /// otherwise. Default 0.1.
    #[cfg_attr(feature = "serde", serde(with = "crate::units::number::float"))]
    pub hold: f64,
    /// Seconds from there to nothing, from 0 to 1,000. Default 0.4.
    pub fade: f64,
    /// How often it changes its mind, in places a second, above 0 and up to 1,000. Default 18.
    pub hz: f64,
    /// The way it moves. Default [`ShakeMotion::Wander`].
    pub motion: ShakeMotion,
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
    reach = Setting::pair("reach", "the farthest that it moves the view", "two lengths in screen pixels")
        .measured("screen px").from(0.0, 10_000.0).usual_from(0.0, 24.0).later();
    roll = Setting::number("roll", "the farthest that it turns the view", "an angle in radians")
        .measured("rad").from(0.0, 3.0).usual_from(0.0, 0.1).later();
    hold = Setting::number("hold", "the time at full strength; inf for a rumble", "a time in seconds, 0 or more, or inf")
        .measured("s").from(0.0, f64::INFINITY).usual_from(0.0, 3.0).later();
    fade = Setting::number("fade", "the time from there to nothing", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 3.0).later();
    hz = Setting::number("hz", "random positions per second; for a kick, swings", "positions a second")
        .measured("1/s").above(0.0, 1000.0).usual_from(1.0, 40.0).later();
    motion = Setting::choice("motion", "the way it moves", ShakeMotion::NAMES).later();
});

/// The way a shake moves.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum ShakeMotion {
    /// Smoothly from position to position.
    #[default]
    Wander,
    /// In straight lines from position to position: harder.
    Rattle,
    /// To and fro along this direction of the screen, as a spring that was struck, `hz` times a
    /// second; its length does not matter.
    Kick(DVec2),
}

impl ShakeMotion {
    /// Its names.
    const NAMES: &'static [Choice] = &[
        Choice::name("wander"),
        Choice::name("rattle"),
        Choice::number("kick", "a direction of the screen, not 0", "", 1.0, [-1.0, 1.0])
            .written(ChoiceForm::Pair)
            .finite(),
    ];
}

impl Held for ShakeMotion {
    const BLANK: Self = Self::Wander;

    fn value(&self) -> Option<Value> {
        Some(match self {
            Self::Wander => Chosen::name("wander").into(),
            Self::Rattle => Chosen::name("rattle").into(),
            Self::Kick(way) => Chosen::pair("kick", way.to_array()).into(),
        })
    }

    fn put(&mut self, value: &Value) -> bool {
        let Value::Choice(chosen) = value else { return false };
        *self = match (chosen.as_str(), chosen.numbers()) {
            ("wander", []) => Self::Wander,
            ("rattle", []) => Self::Rattle,
            ("kick", [x, y]) => Self::Kick(DVec2::new(*x, *y)),
            _ => return false,
        };
        true
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

/// By how much a view is moved and turned.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct ShakeOffset {
    /// Screen pixels along the screen's axes.
    pub pixels: DVec2,
    /// Radians, clockwise.
    pub roll: f64,
}

impl ShakeOffset {
    /// A part of the way to another.
    pub(crate) fn mixed(self, other: Self, fraction: f64) -> Self {
        Self {
            pixels: mix(self.pixels, other.pixels, fraction),
            roll: self.roll + (other.roll - self.roll) * fraction,
        }
    }
}

/// Seconds from nothing to full strength: too short to be felt as soft, long enough not to jump.
pub(crate) const RISE: f64 = 0.025;

impl Shake {
    /// How strong it is at an age in seconds, from 0 to 1: rising, held, fading as `(1 − s)²`,
    /// exactly 0 before its start and from its end on.
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

    /// Whether nothing is left of it at this age.
    #[must_use]
    pub fn is_over(&self, age: f64) -> bool {
        age >= self.hold + self.fade
    }

    /// Where it is at an age in seconds.
    #[must_use]
    pub fn offset(&self, age: f64, seed: u64) -> ShakeOffset {
        let strength = self.envelope(age);
        if strength == 0.0 {
            return ShakeOffset::default();
        }
        let (way, roll) = self.way(age, seed);
        ShakeOffset { pixels: way * self.reach * strength, roll: roll * self.roll * strength }
    }

    /// Where it would be at full strength, from −1 to 1 on each axis, and its turn.
    fn way(&self, age: f64, seed: u64) -> (DVec2, f64) {
        let time = age * self.hz;
        if let ShakeMotion::Kick(direction) = self.motion {
            let swing = libm::sin(time * core::f64::consts::TAU);
            return (direction.normalize_or_zero() * swing, swing);
        }
        let index = floor_to_i64(time);
        let fraction = (time - index as f64).clamp(0.0, 1.0);
        let eased = match self.motion {
            ShakeMotion::Rattle => fraction,
            _ => fraction * fraction * fraction * (fraction * (fraction * 6.0 - 15.0) + 10.0),
        };
        // On the way from one random position to the next; the first is the middle, so that a shake
        // starts where the view is.
        let position = |index: i64, channel| {
            if index <= 0 { 0.0 } else { chance(index as u64, seed, channel) }
        };
        let noise = |channel| {
            let (from, to) = (position(index, channel), position(index.saturating_add(1), channel));
            from + (to - from) * eased
        };
        // Most do not turn the view at all.
        let turn = if self.roll == 0.0 { 0.0 } else { noise(2) };
        (DVec2::new(noise(0), noise(1)), turn)
    }
}

/// A number from −1 to 1, always the same for the same three.
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
