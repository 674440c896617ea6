//! How the view returns after a hand's control.

use crate::keys::keys::settings;
use crate::keys::setting::{Choice, ChoiceForm, Setting};
use crate::keys::value::{Chosen, SettingValue, Value};

/// How the view returns after a drag, a pan, a pinned zoom or a `show`: the `[hands]` table of a tuning file.
///
/// ```
/// use velvet_pan::{HandReturn, Hands, Settings};
///
/// let mut settings = Settings::default();
/// assert_eq!(settings.hands.back, HandReturn::Seconds(0.4));
/// settings.hands.back = HandReturn::Stay;
/// assert!(settings.validate().is_ok());
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Hands {
    /// How the view returns to the followed subject after a hand, a zoom about a point or a pause. In a
    /// file the key is `return`.
    #[cfg_attr(feature = "serde", serde(rename = "return"))]
    pub back: HandReturn,
}

settings!(Hands {
    back = Setting::choice("return", "how the view returns to the subject after a drag, a pan, a zoom about a point or a pause", HandReturn::NAMES);
});

/// How the view returns to the followed subject: in a file a number of seconds, or `"stay"`.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(try_from = "HandReturnRepr", into = "HandReturnRepr")
)]
pub enum HandReturn {
    /// Returns within this number of seconds, from 0 to 1,000. 0 is a cut. Default 0.4.
    Seconds(f64),
    /// Stays until the subject next moves, and then returns within 0.4 seconds.
    Stay,
}

impl HandReturn {
    /// Its names. Seconds are written without a name.
    const NAMES: &'static [Choice] = &[
        Choice::number("seconds", "a time in seconds", "s", 1000.0, [0.0, 2.0])
            .in_form(ChoiceForm::BareNumber),
        Choice::name("stay"),
    ];
}

impl SettingValue for HandReturn {
    fn value(&self) -> Option<Value> {
        Some(match self {
            Self::Seconds(seconds) => Chosen::number("seconds", *seconds).into(),
            Self::Stay => Chosen::name("stay").into(),
        })
    }

    fn of(value: &Value) -> Option<Self> {
        let Value::Choice(chosen) = value else { return None };
        Some(match (chosen.as_str(), chosen.numbers()) {
            ("seconds", [seconds]) => Self::Seconds(*seconds),
            ("stay", []) => Self::Stay,
            _ => return None,
        })
    }
}

impl Default for HandReturn {
    fn default() -> Self {
        Self::Seconds(DEFAULT_SECONDS)
    }
}

const DEFAULT_SECONDS: f64 = 0.4;

impl Hands {
    /// Returns the duration of the return, in seconds.
    pub(crate) fn seconds(&self) -> f64 {
        match self.back {
            HandReturn::Seconds(seconds) => seconds,
            HandReturn::Stay => DEFAULT_SECONDS,
        }
    }
}

/// The notation in a file.
#[cfg(feature = "serde")]
#[derive(serde::Serialize, serde::Deserialize)]
#[serde(untagged, expecting = "expected a time in seconds, from 0 to 1000, or \"stay\"")]
enum HandReturnRepr {
    Seconds(f64),
    Word(alloc::string::String),
}

#[cfg(feature = "serde")]
impl TryFrom<HandReturnRepr> for HandReturn {
    type Error = alloc::string::String;

    fn try_from(written: HandReturnRepr) -> Result<Self, Self::Error> {
        match written {
            HandReturnRepr::Seconds(seconds) => Ok(Self::Seconds(seconds)),
            HandReturnRepr::Word(word) if word == "stay" => Ok(Self::Stay),
            HandReturnRepr::Word(word) => {
                Err(alloc::format!("\"{word}\": expected a time in seconds, or \"stay\""))
            }
        }
    }
}

#[cfg(feature = "serde")]
impl From<HandReturn> for HandReturnRepr {
    fn from(back: HandReturn) -> Self {
        match back {
            HandReturn::Seconds(seconds) => Self::Seconds(seconds),
            HandReturn::Stay => Self::Word("stay".into()),
        }
    }
}
