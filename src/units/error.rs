//! The one way in which settings are refused.

use alloc::borrow::Cow;
use alloc::string::String;
use core::fmt;
use core::ops::{Bound, RangeBounds};

/// A setting that can't be used: which, what it was, and what would be right.
///
/// Made by [`Settings::validate`](crate::Settings::validate) and
/// [`Camera::new`](crate::Camera::new). The field is named as in a tuning file.
///
/// ```
/// use velvet_pan::{Camera, Settings};
///
/// let mut settings = Settings::default();
/// settings.follow.anchor.x = 1.5;
/// let error = Camera::new(settings).unwrap_err();
/// assert_eq!(error.field(), "follow.anchor");
/// assert_eq!(error.to_string(), "follow.anchor = [1.5, 0.5]: expected two fractions of the screen, each from 0 to 1");
/// ```
#[derive(Clone, Debug, PartialEq)]
pub struct SettingsError {
    field: Cow<'static, str>,
    value: Value,
    expected: Cow<'static, str>,
}

impl SettingsError {
    pub(crate) fn new(
        field: impl Into<Cow<'static, str>>,
        value: impl Into<Value>,
        expected: impl Into<Cow<'static, str>>,
    ) -> Self {
        Self { field: field.into(), value: value.into(), expected: expected.into() }
    }

    /// The dotted name of the field, as in a tuning file: `follow.anchor`.
    #[must_use]
    pub fn field(&self) -> &str {
        &self.field
    }

    /// The refused value.
    #[must_use]
    pub fn value(&self) -> Value {
        self.value
    }

    /// What would be right, in words.
    #[must_use]
    pub fn expected(&self) -> &str {
        &self.expected
    }
}

impl fmt::Display for SettingsError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} = {}: expected {}", self.field, self.value, self.expected)
    }
}

impl core::error::Error for SettingsError {}

/// A refused value: up to four numbers, written as a tuning file writes them.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum Value {
    /// One number.
    Number(f64),
    /// Two numbers: a point, a size or a pair of fractions.
    Pair([f64; 2]),
    /// Four numbers: a rectangle as x, y, width, height, or the sides of a deadzone.
    Four([f64; 4]),
}

impl Value {
    /// Returns its numbers.
    #[must_use]
    pub fn numbers(&self) -> &[f64] {
        match self {
            Self::Number(number) => core::slice::from_ref(number),
            Self::Pair(numbers) => numbers,
            Self::Four(numbers) => numbers,
        }
    }
}

impl fmt::Display for Value {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Number(number) => write!(f, "{number}"),
            Self::Pair(numbers) => write!(f, "{numbers:?}"),
            Self::Four(numbers) => write!(f, "{numbers:?}"),
        }
    }
}

impl From<f64> for Value {
    fn from(number: f64) -> Self {
        Self::Number(number)
    }
}

impl From<[f64; 4]> for Value {
    fn from(numbers: [f64; 4]) -> Self {
        Self::Four(numbers)
    }
}

impl From<glam::DVec2> for Value {
    fn from(pair: glam::DVec2) -> Self {
        Self::Pair(pair.to_array())
    }
}

impl From<glam::UVec2> for Value {
    fn from(pair: glam::UVec2) -> Self {
        Self::Pair(pair.as_dvec2().to_array())
    }
}

/// Where the checks of all settings report what they refuse.
pub(crate) type Report<'a> = &'a mut dyn FnMut(SettingsError);

/// The name of a setting, put together only when it is reported.
#[derive(Clone, Debug)]
pub(crate) enum Field<'a> {
    Whole(Cow<'static, str>),
    Within(&'a str, &'static str),
}

impl From<&'static str> for Field<'_> {
    fn from(name: &'static str) -> Self {
        Self::Whole(name.into())
    }
}

impl From<String> for Field<'_> {
    fn from(name: String) -> Self {
        Self::Whole(name.into())
    }
}

/// A table and a key in it.
impl<'a> From<(&'a str, &'static str)> for Field<'a> {
    fn from((table, key): (&'a str, &'static str)) -> Self {
        Self::Within(table, key)
    }
}

impl From<Field<'_>> for Cow<'static, str> {
    fn from(field: Field<'_>) -> Self {
        match field {
            Field::Whole(name) => name,
            Field::Within(table, key) => alloc::format!("{table}.{key}").into(),
        }
    }
}

/// Reports a value unless each of its numbers lies in `range`; NaN lies in none.
pub(crate) fn check<'a>(
    report: Report<'_>,
    field: impl Into<Field<'a>>,
    value: impl Into<Value>,
    range: impl RangeBounds<f64>,
    expected: &'static str,
) {
    let value = value.into();
    if !value.numbers().iter().all(|number| range.contains(number)) {
        report(SettingsError::new(field.into(), value, expected));
    }
}

/// The range of numbers above `low`, up to `high`.
pub(crate) fn above(low: f64, high: f64) -> (Bound<f64>, Bound<f64>) {
    (Bound::Excluded(low), Bound::Included(high))
}

/// The range of a finite number.
pub(crate) const FINITE: core::ops::RangeInclusive<f64> = f64::MIN..=f64::MAX;
