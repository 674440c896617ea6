//! All active shakes, and their sum.

use glam::DVec2;

use crate::base::list::List;
use crate::base::maths::{clamp, clamp_point};
use crate::base::sound::{POSITIVE, Ranged, Sound, sound};
use crate::keys::keys::{names, settings};
use crate::keys::setting::{Setting, SettingKind};
use crate::shake::shake::{RISE, Shake, ShakeOffset};

/// How several shakes are combined: the `[shake]` table of a tuning file. At most 8 shakes are active at once; if
/// there are more, the weakest ends.
///
/// ```
/// use velvet_pan::{Camera, Settings, Shake};
///
/// let mut settings = Settings::default();
/// settings.shake.intensity = 0.0; // for players who can't bear it
/// let mut camera = Camera::new(settings)?;
/// camera.shake(&Shake::default(), 1.0);
/// camera.advance(0.0);
/// assert_eq!(camera.advance(0.1).shake().pixels.x, 0.0);
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct ShakeSettings {
    /// How several shakes are combined. Default [`ShakeMix::Add`].
    pub mix: ShakeMix,
    /// The largest offset and rotation of all shakes together.
    pub limit: ShakeLimit,
    /// A factor for all shakes, from 0 (none) to 1. Offer it to the player as an option. Default 1.
    pub intensity: f64,
    /// Whether the shaken view stays inside the bounds, widened by `overscan`. If the world is not larger than the view,
    /// this leaves no room to shake. Default `false`.
    pub stay_in_bounds: bool,
    /// How far a shaken view may go beyond the bounds with `stay_in_bounds`, in screen pixels, 0 or more. Default 0.
    pub overscan: DVec2,
    /// The seed of the random targets. Default 1.
    pub seed: u64,
}

settings!(ShakeSettings {
    mix = Setting::choice("mix", "how several shakes are combined", ShakeMix::NAMES);
    limit.reach = Setting::pair("limit.reach", "the largest offset of all shakes together", "two lengths in screen pixels")
        .measured("screen px").from(0.0, 10_000.0).usual_from(0.0, 32.0);
    limit.roll = Setting::number("limit.roll", "the largest rotation of all shakes together", "an angle in radians")
        .measured("rad").from(0.0, 3.0).usual_from(0.0, 0.2);
    intensity = Setting::number("intensity", "a factor for all shakes, as an option for the player; 0 means none", "a share of all motion")
        .from(0.0, 1.0);
    stay_in_bounds = Setting::flag("stay_in_bounds", "whether the shaken view stays inside the bounds");
    overscan = Setting::pair("overscan", "how far beyond the bounds it may go with stay_in_bounds", "two lengths in screen pixels")
        .measured("screen px").from(0.0, 10_000.0).usual_from(0.0, 16.0);
    seed = Setting::other("seed", SettingKind::Count, "the seed of the random targets", "a whole number, 0 or more").later();
});

/// The largest offset and rotation of all shakes together: by default 12 x 8 screen pixels and 0.05 radians.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct ShakeLimit {
    /// The largest offset per axis, in screen pixels, from 0 to 10,000.
    pub reach: DVec2,
    /// The largest rotation, in radians, from 0 to 3.
    pub roll: f64,
}

/// How several shakes are combined.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum ShakeMix {
    /// The sum of their offsets, up to the limit on each axis.
    #[default]
    Add,
    /// As strong as the strongest, however many there are: `Σ offset · max e / max(max e, √Σ e²)`, per axis, and never
    /// beyond the largest envelope `e`. In the sum, a shake on its way to its first position counts as far as it has
    /// come. Of more than four, the weakest fade within a tenth of a second; one that is weaker than all four does not begin.
    Strongest,
    /// Only the newest. Older ones fade within a tenth of a second.
    Replace,
}

names!(ShakeMix { Add = "add", Strongest = "strongest", Replace = "replace" });

impl Default for ShakeSettings {
    fn default() -> Self {
        Self {
            mix: ShakeMix::default(),
            limit: ShakeLimit::default(),
            intensity: 1.0,
            stay_in_bounds: false,
            overscan: DVec2::ZERO,
            seed: 1,
        }
    }
}

impl Default for ShakeLimit {
    fn default() -> Self {
        Self { reach: DVec2::new(12.0, 8.0), roll: 0.05 }
    }
}

/// The position of a shake in the world, and how the shake weakens with distance.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct ShakeOrigin {
    pub position: DVec2,
    pub near: f64,
    pub far: f64,
}

impl Sound for ShakeOrigin {
    fn is_sound(&self) -> bool {
        let Self { position, near, far } = self;
        position.is_sound() && *near >= 0.0 && far > near && far.is_sound()
    }
}

impl ShakeOrigin {
    /// Returns the strength by distance: full up to `near` world units from the view's centre, zero from `far`.
    fn share(&self, centre: DVec2) -> f64 {
        let distance = (self.position - centre).length();
        if distance <= self.near {
            return 1.0;
        }
        if distance >= self.far {
            return 0.0;
        }
        1.0 - (distance - self.near) / (self.far - self.near)
    }
}

/// An active shake.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct ActiveShake {
    shake: Shake,
    strength: f64,
    source: Option<ShakeOrigin>,
    #[cfg_attr(feature = "serde", serde(with = "crate::keys::number::bits"))]
    seed: u64,
    age: f64,
    fade_out: Option<FadeOut>,
    /// Whether it began since the last frame.
    fresh: bool,
}

/// An early fade, in seconds.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
struct FadeOut {
    all: f64,
    left: f64,
    /// Whether it began since the last frame.
    fresh: bool,
}

impl Sound for ActiveShake {
    fn is_sound(&self) -> bool {
        let Self { shake, strength, source, age, fade_out, seed: _, fresh: _ } = self;
        shake.is_sound()
            && strength.is_within(&POSITIVE)
            && *age >= 0.0
            && fade_out.is_none_or(|fade_out| fade_out.all > 0.0 && fade_out.left.is_sound())
            && source.is_sound()
    }
}

impl ActiveShake {
    /// Returns the strength for a view with this centre, 0 or more.
    fn strength_at(&self, centre: DVec2) -> f64 {
        self.strength * self.left() * self.source.map_or(1.0, |source| source.share(centre))
    }

    /// Returns the fraction that an early fade has left.
    fn left(&self) -> f64 {
        self.fade_out.map_or(1.0, |fade_out| (fade_out.left / fade_out.all).max(0.0))
    }

    /// How far it reaches now. A shake that still rises counts with its final strength.
    fn power(&self) -> f64 {
        let envelope = self.shake.envelope(self.age.max(RISE)) * self.strength * self.left();
        envelope * self.shake.reach.max_element()
    }

    fn is_over(&self) -> bool {
        self.shake.is_over(self.age) || self.fade_out.is_some_and(|fade_out| fade_out.left <= 0.0)
    }

    /// Fades within some seconds. A shake that fades already continues from its current strength, at least as fast.
    fn leave(&mut self, seconds: f64) {
        let fade_out =
            self.fade_out.unwrap_or(FadeOut { all: seconds, left: seconds, fresh: true });
        let fraction = fade_out.left / fade_out.all;
        let all = fade_out.all.min(seconds / fraction.max(1e-9));
        self.fade_out = Some(FadeOut { all, left: all * fraction, ..fade_out });
    }
}

/// The maximum number of active shakes.
const MAX_ACTIVE: usize = 8;

/// Of more than this, the weakest fade if only the strongest counts.
const MAX_STRONGEST: usize = 4;

/// The time in which a shake fades that is in the way of others, in seconds.
const OUT_OF_THE_WAY: f64 = 0.1;

/// What all shakes come to at most, along x, along y and in roll.
#[derive(Clone, Copy, Debug, Default)]
struct Envelopes {
    all: [f64; 3],
    squares: [f64; 3],
    most: [f64; 3],
}

/// All active shakes.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct ActiveShakes {
    active: List<ActiveShake, MAX_ACTIVE>,
    #[cfg_attr(feature = "serde", serde(with = "crate::keys::number::bits"))]
    begun: u64,
    pub paused: bool,
}

sound!(ActiveShakes { active, begun, paused });

impl ActiveShakes {
    /// Begins a shake that is `age` seconds old at the end of the next frame. If there are too many, the weakest one
    /// ends.
    pub fn begin(
        &mut self,
        settings: &ShakeSettings,
        shake: Shake,
        strength: f64,
        source: Option<ShakeOrigin>,
        age: f64,
    ) {
        if !(strength > 0.0 && strength.is_finite() && shake.is_sound()) {
            return;
        }
        if settings.mix == ShakeMix::Replace {
            self.leave(OUT_OF_THE_WAY);
        }
        let seed = settings.seed.wrapping_mul(0x2545_f491_4f6c_dd1d).wrapping_add(self.begun);
        self.begun = self.begun.wrapping_add(1);
        let age = if age > 0.0 { age } else { 0.0 };
        let new = ActiveShake { shake, strength, source, seed, age, fade_out: None, fresh: true };
        if settings.mix == ShakeMix::Strongest && !self.let_a_weaker_one_leave(new.power()) {
            return;
        }
        if let Some(slot) = self.weakest(|_| true).filter(|_| self.active.is_full()) {
            self.active.remove(slot);
        }
        self.active.push(new);
    }

    /// Returns the slot of the weakest of these shakes.
    fn weakest(&self, counts: impl Fn(&ActiveShake) -> bool) -> Option<usize> {
        let those = self.active.iter().enumerate().filter(|(_, active)| counts(active));
        those.min_by(|a, b| a.1.power().total_cmp(&b.1.power())).map(|(slot, _)| slot)
    }

    /// Makes room for another of the strongest. Returns `false` if it is not one of them.
    fn let_a_weaker_one_leave(&mut self, power: f64) -> bool {
        let stays = |active: &ActiveShake| active.fade_out.is_none();
        if self.active.iter().filter(|active| stays(active)).count() < MAX_STRONGEST {
            return true;
        }
        let weaker = self.weakest(stays).filter(|slot| self.active[*slot].power() < power);
        weaker.map(|slot| self.active[slot].leave(OUT_OF_THE_WAY)).is_some()
    }

    /// Returns whether any shake is active.
    #[inline]
    pub fn is_alive(&self) -> bool {
        !self.active.is_empty()
    }

    /// Ages all shakes by `seconds`, and removes those that ended.
    pub fn advance(&mut self, seconds: f64) {
        let seconds = if self.paused { 0.0 } else { seconds };
        self.active.retain(|active| {
            if core::mem::take(&mut active.fresh) {
                return true;
            }
            active.age += seconds;
            if let Some(fade_out) = &mut active.fade_out
                && !core::mem::take(&mut fade_out.fresh)
            {
                fade_out.left -= seconds;
            }
            !active.is_over()
        });
    }

    /// Ends all shakes within some seconds, or immediately.
    pub fn leave(&mut self, seconds: f64) {
        if seconds <= 0.0 || seconds.is_nan() {
            self.active.truncate(0);
            return;
        }
        self.active.iter_mut().for_each(|active| active.leave(seconds));
    }

    /// Moves the places that shakes come from.
    pub fn translate(&mut self, delta: DVec2) {
        for source in self.active.iter_mut().filter_map(|active| active.source.as_mut()) {
            source.position += delta;
        }
    }

    /// Returns the envelopes of all shakes, in screen pixels and radians: their sums, the squares of what they have
    /// unfolded, and the largest.
    fn envelopes(&self, centre: DVec2) -> Envelopes {
        let Envelopes { mut all, mut squares, mut most } = Envelopes::default();
        for active in self.active.iter() {
            let envelope = active.shake.envelope(active.age) * active.strength_at(centre);
            let reaches = [active.shake.reach.x, active.shake.reach.y, active.shake.roll];
            for (axis, reach) in reaches.into_iter().enumerate() {
                all[axis] += envelope * reach;
                let now = envelope * reach * active.shake.unfolded(active.age);
                squares[axis] += now * now;
                most[axis] = most[axis].max(envelope * reach);
            }
        }
        Envelopes { all, squares, most }
    }

    /// Returns the largest possible offset of all shakes together, in screen pixels.
    pub fn envelope(&self, settings: &ShakeSettings, centre: DVec2) -> DVec2 {
        let Envelopes { all, most, .. } = self.envelopes(centre);
        let [x, y, _] = if settings.mix == ShakeMix::Strongest { most } else { all };
        DVec2::new(x, y).min(settings.limit.reach) * settings.intensity
    }

    /// Returns the sum of all shakes, limited, for a view with this centre.
    pub fn offset(&self, settings: &ShakeSettings, centre: DVec2) -> ShakeOffset {
        let mut sum = ShakeOffset::default();
        for active in self.active.iter() {
            let strength = active.strength_at(centre);
            let offset = active.shake.offset(active.age, active.seed);
            sum.pixels += offset.pixels * strength;
            sum.roll += offset.roll * strength;
        }
        if settings.mix == ShakeMix::Strongest {
            let Envelopes { squares, most, .. } = self.envelopes(centre);
            // Shakes are independent of each other, so their squares add up.
            let mixed = |axis: usize, sum: f64| {
                let all = libm::sqrt(squares[axis]).max(most[axis]);
                if all > 0.0 {
                    clamp(sum * (most[axis] / all), -most[axis], most[axis])
                } else {
                    0.0
                }
            };
            sum.pixels = DVec2::new(mixed(0, sum.pixels.x), mixed(1, sum.pixels.y));
            sum.roll = mixed(2, sum.roll);
        }
        let ShakeLimit { reach, roll } = settings.limit;
        ShakeOffset {
            pixels: clamp_point(sum.pixels, -reach, reach) * settings.intensity,
            roll: clamp(sum.roll, -roll, roll) * settings.intensity,
        }
    }
}
