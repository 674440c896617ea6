//! Settings and states that are written and read.

mod settings_table;
mod state;
mod tuning_file;

use serde::Serialize;
use serde::de::DeserializeOwned;
use toml::Value;

// Each type becomes one kind of tree, and the tree becomes text: serde would compile a type for each format.

fn written<T: Serialize>(value: &T) -> Value {
    Value::try_from(value).expect("it writes")
}

fn read<T: DeserializeOwned>(tree: Value) -> Result<T, String> {
    tree.try_into().map_err(|error: toml::de::Error| error.message().to_owned())
}

fn json<T: Serialize>(value: &T) -> serde_json::Value {
    serde_json::to_value(written(value)).expect("it writes")
}

fn toml<T: Serialize>(value: &T) -> String {
    toml::to_string(&written(value)).expect("it writes")
}

fn read_json<T: DeserializeOwned>(text: &str) -> Result<T, String> {
    read(serde_json::from_str(text).map_err(|error| error.to_string())?)
}

fn read_toml<T: DeserializeOwned>(text: &str) -> Result<T, String> {
    read(toml::from_str(text).map_err(|error| error.message().to_owned())?)
}

fn through_json<T: Serialize + DeserializeOwned>(value: &T) -> T {
    read_json(&json(value).to_string()).expect("it reads")
}

fn through_toml<T: Serialize + DeserializeOwned>(value: &T) -> T {
    read_toml(&toml(value)).expect("it reads")
}
