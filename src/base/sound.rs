//! Whether the numbers of a state are ones that a camera can have: a state may come from a file.

use core::ops::RangeInclusive;

use glam::{DVec2, DVec4, Vec2};

use crate::base::list::List;
use crate::base::rect::Rect;

/// A part of a state whose numbers can be checked.
pub(crate) trait Sound {
    /// Returns whether each number is finite, and in its range.
    fn is_sound(&self) -> bool;
}

/// Above 0, and finite.
pub(crate) const POSITIVE: RangeInclusive<f64> = f64::from_bits(1)..=f64::MAX;

/// 0 or more, and finite.
pub(crate) const NOT_NEGATIVE: RangeInclusive<f64> = 0.0..=f64::MAX;

/// A number, or none, that has a range.
pub(crate) trait Ranged {
    fn is_within(&self, range: &RangeInclusive<f64>) -> bool;
}

impl Ranged for f64 {
    fn is_within(&self, range: &RangeInclusive<f64>) -> bool {
        range.contains(self)
    }
}

impl Ranged for f32 {
    fn is_within(&self, range: &RangeInclusive<f64>) -> bool {
        range.contains(&f64::from(*self))
    }
}

impl<T: Ranged> Ranged for Option<T> {
    fn is_within(&self, range: &RangeInclusive<f64>) -> bool {
        self.as_ref().is_none_or(|number| number.is_within(range))
    }
}

/// Implements [`Sound`] field by field, with a range where a number has one. A field that is left out does not compile.
macro_rules! sound {
    ($name:ident { $($field:ident $(in $range:expr)?),+ $(,)? }) => {
        impl $crate::base::sound::Sound for $name {
            #[inline]
            fn is_sound(&self) -> bool {
                let Self { $($field),+ } = self;
                true $(&& $crate::base::sound::sound!(@check $field $(, $range)?))+
            }
        }
    };
    (@check $field:ident) => { $crate::base::sound::Sound::is_sound($field) };
    (@check $field:ident, $range:expr) => {
        $crate::base::sound::Ranged::is_within($field, &$range)
    };
}
pub(crate) use sound;

/// Implements [`Sound`] for types that know whether they are finite.
macro_rules! sound_if_finite {
    ($($name:ty),+) => { $(
        impl Sound for $name {
            #[inline]
            fn is_sound(&self) -> bool {
                self.is_finite()
            }
        }
    )+ };
}
sound_if_finite!(f64, f32, DVec2, DVec4, Vec2, Rect);

/// Implements [`Sound`] for types of which every value is sound.
macro_rules! always_sound {
    ($($name:ty),+) => { $(
        impl $crate::base::sound::Sound for $name {
            #[inline]
            fn is_sound(&self) -> bool {
                true
            }
        }
    )+ };
}
pub(crate) use always_sound;
always_sound!(bool, u32, u64, i32);

impl<T: Sound> Sound for Option<T> {
    #[inline]
    fn is_sound(&self) -> bool {
        self.as_ref().is_none_or(T::is_sound)
    }
}

impl<T: Sound, const N: usize> Sound for [T; N] {
    #[inline]
    fn is_sound(&self) -> bool {
        self.iter().all(T::is_sound)
    }
}

impl<T: Sound, const N: usize> Sound for List<T, N> {
    fn is_sound(&self) -> bool {
        self.iter().all(T::is_sound)
    }
}

impl<A: Sound, B: Sound> Sound for (A, B) {
    #[inline]
    fn is_sound(&self) -> bool {
        self.0.is_sound() && self.1.is_sound()
    }
}
