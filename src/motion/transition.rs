//! A change that fades from the old picture to the new one.

use core::ops::{Add, Mul, Sub};

use crate::base::list::List;
use crate::base::sound::{NOT_NEGATIVE, POSITIVE, Ranged, Sound};
use crate::curves::ease::Ease;

/// The longest time in which a difference of velocity is absorbed, in seconds.
const VELOCITY_FADE_SECONDS: f64 = 0.25;

/// The time over which a velocity is measured, in seconds.
pub(crate) const INSTANT: f64 = 1.0 / 65536.0;

/// A value that can fade: one number or several.
pub(crate) trait Fading:
    Copy + Default + Sound + Add<Output = Self> + Sub<Output = Self> + Mul<f64, Output = Self>
{
}

impl<V> Fading for V where
    V: Copy + Default + Sound + Add<Output = V> + Sub<Output = V> + Mul<f64, Output = V>
{
}

/// One change under way.
///
/// With [`Ease::Smooth`] it is the remaining difference, which is added to the new source. At the change, the
/// difference is `x0` in value and `v0` in velocity:
///
/// `x0·(1 − τ)³·(1 + 3τ + 6τ²) + v0·Tv·σ·(1 − σ)³`, `τ = age/T`, `Tv = min(T, 0.25 s)`, `σ = age/Tv`.
///
/// The first term starts at 1 and ends at 0, with zero slope and zero curvature at both ends. The second term starts
/// with the slope `v0`. With any other ease, it is the path from the value at the change, from rest, to the new
/// source.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Transition<V> {
    /// `x0`; with another ease, the value at the change.
    start: V,
    velocity_gap: V,
    seconds: f64,
    age: f64,
    ease: Ease,
}

impl<V: Fading> Transition<V> {
    /// Creates a smooth one from a difference in value and in velocity.
    pub fn smooth(gap: V, velocity_gap: V, seconds: f64) -> Self {
        Self { start: gap, velocity_gap, seconds, age: 0.0, ease: Ease::Smooth }
    }

    /// Creates one with another ease from a value, from rest.
    pub fn eased(start: V, seconds: f64, ease: Ease) -> Self {
        Self { start, velocity_gap: V::default(), seconds, age: 0.0, ease }
    }

    /// Adds a velocity of the new source that was unknown at the change. What is shown now stays where it is.
    pub fn learn(&mut self, faster: V) {
        let left = 1.0 - self.ease.at(self.age / self.seconds);
        if left > 0.0 && self.ease == Ease::Smooth {
            self.start = self.start + faster * (self.taken_up() / left);
            self.velocity_gap = self.velocity_gap - faster;
        }
    }

    /// Returns the way of a difference of velocity of 1 up to now.
    fn taken_up(&self) -> f64 {
        let most = self.seconds.min(VELOCITY_FADE_SECONDS);
        let sigma = (self.age / most).min(1.0);
        let rest = 1.0 - sigma;
        most * sigma * rest * rest * rest
    }

    /// Returns this one as it is some time after the change.
    pub fn aged(self, age: f64) -> Self {
        Self { age, ..self }
    }

    /// Returns whether it is a smooth one that begins at this moment.
    fn begins_now(&self) -> bool {
        self.age == 0.0 && self.ease == Ease::Smooth
    }

    fn is_over(&self) -> bool {
        // Sums of steps seldom reach the exact end, so a tiny remainder is rounding.
        self.age >= self.seconds * (1.0 - 1e-12)
    }

    /// Returns the shown value for a source.
    fn shown(&self, source: V) -> V {
        let left = 1.0 - self.ease.at(self.age / self.seconds);
        if self.ease != Ease::Smooth {
            return source + (self.start - source) * left;
        }
        source + self.start * left + self.velocity_gap * self.taken_up()
    }
}

impl<V: Fading> Sound for Transition<V> {
    fn is_sound(&self) -> bool {
        let Self { start, velocity_gap, seconds, age, ease: _ } = self;
        start.is_sound()
            && velocity_gap.is_sound()
            && seconds.is_within(&POSITIVE)
            && age.is_within(&NOT_NEGATIVE)
    }
}

/// Up to four changes under way, the oldest first. Each ends at its own time.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(transparent))]
#[cfg_attr(feature = "serde", serde(bound(serialize = "V: serde::Serialize")))]
#[cfg_attr(feature = "serde", serde(bound(deserialize = "V: Fading + serde::Deserialize<'de>")))]
pub(crate) struct Transitions<V: Fading> {
    list: List<Transition<V>, 4>,
}

impl<V: Fading> Transitions<V> {
    #[inline]
    pub fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    /// Adds a change of a source that is here. If the list is full, it takes over what is left of the oldest one.
    pub fn add(&mut self, mut new: Transition<V>, source: V) {
        if self.list.is_full() {
            let [left, soon] = [0.0, INSTANT].map(|age| self.left_of_oldest(source, age));
            self.list.remove(0);
            // With another ease it begins at the value that is shown, whatever that is made of.
            if new.ease == Ease::Smooth {
                let velocity = (soon - left) * (1.0 / INSTANT);
                new.start = new.start + left - velocity * new.age;
                new.velocity_gap = new.velocity_gap + velocity;
            }
        }
        self.list.push(new);
    }

    /// Returns what the oldest change makes of what is shown, some time from now.
    fn left_of_oldest(&self, source: V, age: f64) -> V {
        let mut all = *self;
        all.list.iter_mut().for_each(|one| one.age += age);
        let shown = all.shown(source);
        all.list.remove(0);
        shown - all.shown(source)
    }

    /// Ends all transitions where they are.
    pub fn clear(&mut self) {
        self.list.truncate(0);
    }

    #[inline]
    pub fn advance(&mut self, seconds: f64) {
        self.list.retain(|one| {
            one.age += seconds;
            !one.is_over()
        });
    }

    /// Returns the shown value for a source: the source plus the remaining difference of each change.
    #[inline]
    pub fn shown(&self, source: V) -> V {
        self.list.iter().fold(source, |shown, one| one.shown(shown))
    }

    /// Moves what was shown at a change, with everything else.
    pub fn translate(&mut self, delta: V) {
        for one in self.list.iter_mut().filter(|one| one.ease != Ease::Smooth) {
            one.start = one.start + delta;
        }
    }

    /// Returns whether one began at this moment.
    pub fn has_newest(&self) -> bool {
        self.list.last().is_some_and(Transition::begins_now)
    }

    /// Returns the one that began at this moment.
    pub fn newest(&mut self) -> Option<&mut Transition<V>> {
        self.list.last_mut().filter(|one| one.begins_now())
    }
}

impl<V: Fading> Sound for Transitions<V> {
    fn is_sound(&self) -> bool {
        self.list.is_sound()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// Value and velocity are kept at the change, and it ends at rest.
        #[test]
        fn it_begins_as_what_was_and_ends_as_nothing(
            gap in -1e3..1e3_f64, velocity_gap in -1e3..1e3_f64, seconds in 0.01..5.0_f64,
        ) {
            let at = |age: f64| {
                let mut list = Transitions::default();
                list.add(Transition::smooth(gap, velocity_gap, seconds), 0.0);
                list.advance(age);
                list.shown(0.0)
            };
            let tiny = 1e-7;
            let slope = |age: f64| (at(age + tiny) - at(age)) / tiny;
            prop_assert_eq!(at(0.0), gap);
            prop_assert!((slope(0.0) - velocity_gap).abs() < 1e-3 * (1.0 + velocity_gap.abs() + gap.abs() / seconds));
            prop_assert!(at(seconds * 0.999).abs() < 1e-6 * gap.abs() + 1e-5 * velocity_gap.abs());
            prop_assert_eq!(at(seconds), 0.0);
        }

        /// The velocity alone moves the view by at most 0.027 s of it.
        #[test]
        fn a_velocity_is_taken_up_soon(velocity_gap in -1e3..1e3_f64, seconds in 0.01..5.0_f64, age in 0.0..5.0_f64) {
            let mut list = Transitions::default();
            list.add(Transition::smooth(0.0, velocity_gap, seconds), 0.0);
            list.advance(age);
            prop_assert!(list.shown(0.0).abs() <= 0.027 * velocity_gap.abs());
        }
    }
}
