//! The error for settings that are refused.

use alloc::borrow::Cow;
use alloc::boxed::Box;
use alloc::string::String;
use core::fmt;

use crate::keys::value::Value;

/// An invalid setting: its key, its value, and what is expected.
///
/// Returned by [`Settings::validate`](crate::Settings::validate), [`Camera::new`](crate::Camera::new) and others.
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
pub struct SettingsError(Box<Refusal>);

#[derive(Clone, Debug, PartialEq)]
struct Refusal {
    field: Cow<'static, str>,
    value: Value,
    expected: Cow<'static, str>,
    /// Whether there is no such key.
    is_missing: bool,
}

impl SettingsError {
    pub(crate) fn new(
        field: impl Into<Cow<'static, str>>,
        value: impl Into<Value>,
        expected: impl Into<Cow<'static, str>>,
    ) -> Self {
        let (field, value, expected) = (field.into(), value.into(), expected.into());
        Self(Box::new(Refusal { field, value, expected, is_missing: false }))
    }

    /// Returns a key that is not there. `what` says so, and what is.
    pub(crate) fn missing(field: &str, value: Value, what: String) -> Self {
        let field = String::from(field).into();
        Self(Box::new(Refusal { field, value, expected: what.into(), is_missing: true }))
    }

    /// Returns the path of the key in a tuning file, such as `follow.anchor`.
    #[must_use]
    pub fn field(&self) -> &str {
        &self.0.field
    }

    /// Returns the invalid value.
    #[must_use]
    pub fn value(&self) -> &Value {
        &self.0.value
    }

    /// Returns what is expected, in words, or why there is no such key.
    #[must_use]
    pub fn expected(&self) -> &str {
        &self.0.expected
    }
}

impl fmt::Display for SettingsError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Refusal { field, value, expected, is_missing } = &*self.0;
        match is_missing {
            true => write!(f, "{field}: {expected}"),
            false => write!(f, "{field} = {value}: expected {expected}"),
        }
    }
}

impl core::error::Error for SettingsError {}

/// Receives everything that the checks of the settings refuse.
pub(crate) type Report<'a> = &'a mut dyn FnMut(SettingsError);
