//! The value of a setting.

use alloc::borrow::Cow;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

use glam::{DVec2, UVec2};

use crate::base::rect::Rect;

/// The value of a setting, written as a tuning file writes it.
///
/// ```
/// use velvet_pan::{Settings, Value};
///
/// let settings = Settings::default();
/// assert_eq!(settings.get("follow.anchor"), Some(Value::Pair([0.5, 0.5])));
/// assert_eq!(settings.get("follow.smoothing").unwrap().to_string(), "\"none\"");
/// ```
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum Value {
    /// One number.
    Number(f64),
    /// A whole number.
    Count(u64),
    /// Two numbers: a point, a size or a pair of fractions.
    Pair([f64; 2]),
    /// A rectangle of the world.
    Rect(Rect),
    /// Yes or no.
    Flag(bool),
    /// One of several names.
    Choice(Chosen),
    /// Some of several names.
    Names(Vec<String>),
    /// Any text.
    Text(String),
    /// Points of the world.
    Points(Vec<[f64; 2]>),
    /// Rectangles of the world.
    Rects(Vec<Rect>),
    /// One of several names for each axis.
    PerAxis([Chosen; 2]),
}

/// A name that was chosen, with the numbers that belong to it.
///
/// ```
/// use velvet_pan::{Chosen, Value};
///
/// assert_eq!(Value::from(Chosen::number("half_life", 0.12)).to_string(), "{ half_life = 0.12 }");
/// ```
#[derive(Clone, Debug, PartialEq)]
pub struct Chosen {
    name: Cow<'static, str>,
    numbers: [f64; 2],
    count: usize,
}

impl Chosen {
    /// Creates a choice from a name alone.
    ///
    /// ```
    /// # use velvet_pan::{Chosen, Settings};
    /// let mut settings = Settings::default();
    /// settings.set("screen.snap", Chosen::name("off")).unwrap();
    /// assert_eq!(settings.screen.snap, velvet_pan::Snap::Off);
    /// ```
    #[must_use]
    pub fn name(name: impl Into<Cow<'static, str>>) -> Self {
        Self { name: name.into(), numbers: [0.0; 2], count: 0 }
    }

    /// Creates a choice from a name and a number.
    ///
    /// ```
    /// # use velvet_pan::{Chosen, Settings, Smoothing};
    /// let mut settings = Settings::default();
    /// settings.set("follow.smoothing", Chosen::number("half_life", 0.2)).unwrap();
    /// assert_eq!(settings.follow.smoothing, Smoothing::HalfLife(0.2).into());
    /// ```
    #[must_use]
    pub fn number(name: impl Into<Cow<'static, str>>, number: f64) -> Self {
        Self { name: name.into(), numbers: [number, 0.0], count: 1 }
    }

    /// Creates a choice from a name and two numbers.
    ///
    /// ```
    /// # use velvet_pan::{Chosen, Settings};
    /// let mut settings = Settings::default();
    /// settings.cues.insert("hit".into(), velvet_pan::Cue::default());
    /// assert!(settings.add_table("cues.hit.shake"));
    /// settings.set("cues.hit.shake.motion", Chosen::pair("kick", [1.0, 0.0])).unwrap();
    /// assert_eq!(settings.get("cues.hit.shake.motion"), Some(Chosen::pair("kick", [1.0, 0.0]).into()));
    /// ```
    #[must_use]
    pub fn pair(name: impl Into<Cow<'static, str>>, numbers: [f64; 2]) -> Self {
        Self { name: name.into(), numbers, count: 2 }
    }

    /// Returns the name.
    #[must_use]
    pub fn as_str(&self) -> &str {
        &self.name
    }

    /// Returns its numbers: zero, one or two.
    #[must_use]
    pub fn numbers(&self) -> &[f64] {
        &self.numbers[..self.count]
    }
}

impl fmt::Display for Chosen {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let name = &self.name;
        match self.numbers() {
            [] => write!(f, "\"{name}\""),
            [number] => write!(f, "{{ {name} = {number:?} }}"),
            numbers => write!(f, "{{ {name} = {numbers:?} }}"),
        }
    }
}

impl Value {
    /// Returns its numbers. A rectangle is no number.
    #[must_use]
    pub fn numbers(&self) -> &[f64] {
        match self {
            Self::Number(number) => core::slice::from_ref(number),
            Self::Pair(numbers) => numbers,
            Self::Choice(chosen) => chosen.numbers(),
            Self::Points(points) => points.as_flattened(),
            _ => &[],
        }
    }
}

impl fmt::Display for Value {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Number(number) => write!(f, "{number}"),
            Self::Count(number) => write!(f, "{number}"),
            Self::Pair(numbers) => write!(f, "{numbers:?}"),
            Self::Rect(rect) => write!(f, "{}", rect.in_a_file()),
            Self::Flag(flag) => write!(f, "{flag}"),
            Self::Choice(chosen) => write!(f, "{chosen}"),
            Self::Text(text) => write!(f, "{text:?}"),
            Self::Names(names) => write!(f, "{names:?}"),
            Self::Points(points) => write!(f, "{points:?}"),
            Self::Rects(rects) => {
                f.write_str("[")?;
                for (index, rect) in rects.iter().enumerate() {
                    let comma = if index > 0 { ", " } else { "" };
                    write!(f, "{comma}{}", rect.in_a_file())?;
                }
                f.write_str("]")
            }
            Self::PerAxis(axes) => write!(f, "{{ x = {}, y = {} }}", axes[0], axes[1]),
        }
    }
}

/// Makes values of types.
macro_rules! values {
    ($($type:ty: |$own:ident| $value:expr;)*) => {
        $(impl From<$type> for Value {
            fn from($own: $type) -> Self {
                $value
            }
        })*
    };
}

values! {
    f64: |number| Self::Number(number);
    bool: |flag| Self::Flag(flag);
    [f64; 2]: |numbers| Self::Pair(numbers);
    Rect: |rect| Self::Rect(rect);
    Chosen: |chosen| Self::Choice(chosen);
    DVec2: |pair| Self::Pair(pair.to_array());
    UVec2: |pair| Self::Pair(pair.as_dvec2().to_array());
}

/// A type that a setting holds.
pub(crate) trait SettingValue: Sized {
    /// Returns the value, or `None` if nothing is set.
    fn value(&self) -> Option<Value>;

    /// Returns what a value stands for, or `None` if it is of another kind.
    fn of(value: &Value) -> Option<Self>;

    /// Returns what stands for nothing, if the setting may be left out.
    fn nothing() -> Option<Self> {
        None
    }
}

/// A field that holds a setting, of any type.
pub(crate) trait Field {
    fn value(&self) -> Option<Value>;

    /// Sets the value. Returns whether it is of the right kind; otherwise nothing changes.
    fn put(&mut self, value: &Value) -> bool;

    /// Removes the value. Returns whether it may be left out.
    fn leave_out(&mut self) -> bool;
}

impl<T: SettingValue> Field for T {
    fn value(&self) -> Option<Value> {
        SettingValue::value(self)
    }

    fn put(&mut self, value: &Value) -> bool {
        T::of(value).map(|own| *self = own).is_some()
    }

    fn leave_out(&mut self) -> bool {
        T::nothing().map(|nothing| *self = nothing).is_some()
    }
}

/// The types that hold exactly one kind of value: the value, and back.
macro_rules! setting_values {
    ($($type:ty, $kind:ident, |$own:ident| $value:expr, |$given:ident| $taken:expr;)*) => {
        $(impl SettingValue for $type {
            fn value(&self) -> Option<Value> {
                let $own = self;
                Some(Value::$kind($value))
            }

            fn of(value: &Value) -> Option<Self> {
                let Value::$kind($given) = value else { return None };
                Some($taken)
            }
        })*
    };
}

setting_values! {
    f64, Number, |own| *own, |given| *given;
    u64, Count, |own| *own, |given| *given;
    bool, Flag, |own| *own, |given| *given;
    String, Text, |own| own.clone(), |given| given.clone();
    DVec2, Pair, |own| own.to_array(), |given| Self::from_array(*given);
    Vec<DVec2>, Points, |own| own.iter().map(DVec2::to_array).collect(),
        |given| given.iter().copied().map(DVec2::from_array).collect();
    Rect, Rect, |own| *own, |given| *given;
    Vec<Rect>, Rects, |own| own.clone(), |given| given.clone();
}

impl SettingValue for UVec2 {
    fn value(&self) -> Option<Value> {
        Some((*self).into())
    }

    fn of(value: &Value) -> Option<Self> {
        let Value::Pair(numbers) = value else { return None };
        let whole = |number: &f64| (0.0..=4e9).contains(number) && *number == libm::floor(*number);
        numbers.iter().all(whole).then(|| DVec2::from_array(*numbers).as_uvec2())
    }
}

impl<T: SettingValue> SettingValue for Option<T> {
    fn value(&self) -> Option<Value> {
        self.as_ref().and_then(T::value)
    }

    fn of(value: &Value) -> Option<Self> {
        T::of(value).map(Some)
    }

    fn nothing() -> Option<Self> {
        Some(None)
    }
}
