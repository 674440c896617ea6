//! Commands as values of TOML.

use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use toml_edit::de::{Error, ValueDeserializer};
use toml_edit::ser::ValueSerializer;
use velvet_pan::{Command, Ease};

/// Returns a command as text, such as `{ zoom_to = 2.0 }`. `None` for one that TOML can't hold.
pub fn written(command: &Command) -> Option<String> {
    text_of(command)
}

/// Reads a command.
pub fn read(text: &str) -> Result<Command, String> {
    value_of(text)
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Timing {
    seconds: f64,
    ease: Ease,
}

/// Returns a duration and its ease as text.
pub fn timing(seconds: f64, ease: Ease) -> String {
    text_of(&Timing { seconds, ease }).unwrap_or_default()
}

/// Reads a duration and its ease.
pub fn read_timing(text: &str) -> Result<(f64, Ease), String> {
    value_of(text).map(|Timing { seconds, ease }| (seconds, ease))
}

fn text_of<T: Serialize>(value: &T) -> Option<String> {
    value.serialize(ValueSerializer::new()).ok().map(|value| value.to_string())
}

fn value_of<T: DeserializeOwned>(text: &str) -> Result<T, String> {
    let told = |error: Error| error.message().to_owned();
    text.parse::<ValueDeserializer>().and_then(T::deserialize).map_err(told)
}
