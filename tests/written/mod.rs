//! Settings and states that are written and read.

mod settings_table;
mod state;
mod tuning_file;

use serde::Serialize;
use serde::de::DeserializeOwned;

fn through_json<T: Serialize + DeserializeOwned>(value: &T) -> T {
    read_json(&serde_json::to_string(value).expect("it writes")).expect("it reads")
}

fn through_toml<T: Serialize + DeserializeOwned>(value: &T) -> T {
    read_toml(&toml::to_string(value).expect("it writes")).expect("it reads")
}

fn read_json<T: DeserializeOwned>(text: &str) -> Result<T, String> {
    serde_json::from_str(text).map_err(|error| error.to_string())
}

fn read_toml<T: DeserializeOwned>(text: &str) -> Result<T, String> {
    toml::from_str(text).map_err(|error| error.message().to_owned())
}
