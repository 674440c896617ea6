//! A TOML file that is read into settings, with faults that name line, column and key.

use std::ops::Range;
use std::path::{Path, PathBuf};

use serde::de::DeserializeOwned;
use toml::de::{DeTable, DeValue};
use velvet_pan::{Settings, SettingsError};

use crate::change::Change;
use crate::fault::Fault;
use crate::files::Files;

/// The text of a TOML file, and its path.
#[derive(Clone, Debug)]
pub struct Document {
    path: PathBuf,
    text: String,
}

impl Document {
    /// Reads a file without parsing it.
    ///
    /// # Errors
    ///
    /// The file can't be read, or is not UTF-8.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Document, Files, Fault};
    /// let files = [BuiltIn { name: "soft.toml", text: "zoom = { level = 2.0 }".into() }];
    /// let document = Document::read(Files::BuiltIn(&files), "soft.toml".as_ref())?;
    /// assert!(!document.is_take());
    /// # Ok::<(), Fault>(())
    /// ```
    pub fn read(files: Files<'_>, path: &Path) -> Result<Self, Fault> {
        Ok(Self { path: path.to_owned(), text: files.read(path)? })
    }

    /// Returns the path of the file.
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// Returns the whole text of the file.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// Returns whether the file is a take and not a tuning, judged by its keys. A file without any key is a tuning
    /// with defaults.
    pub fn is_take(&self) -> bool {
        let table = toml::from_str::<toml::Table>(&self.text);
        table.is_ok_and(|table| TAKE_KEYS.iter().any(|key| table.contains_key(*key)))
    }

    /// Parses the file, without the values that are wrong in it, and returns every fault, in the order of the file.
    /// Returns no value, and at least one fault, if removing wrong values does not make the file valid.
    pub fn parse_all<T: DeserializeOwned>(&self) -> (Option<T>, Vec<Fault>) {
        let (mut faults, mut removed) = (Vec::new(), Vec::new());
        let mut table = match toml::from_str::<toml::Table>(&self.text) {
            Ok(table) => toml::Value::Table(table),
            Err(error) => return (None, vec![self.explain(&error)]),
        };
        let value = loop {
            let error = match from_value::<T>(table.clone()) {
                Ok(value) => break Some(value),
                Err(error) => error,
            };
            let (key, message) = key_and_message(&error);
            // A key that was removed because its value is wrong is not missing as well.
            let missing =
                named(&message, "missing field `").map(|name| [&key[..], &[name]].concat());
            if missing.is_none_or(|missing| !removed.contains(&missing)) {
                faults.push(self.fault(&key.join("."), helpful(&message)));
            }
            if faults.len() >= MOST_FAULTS || !remove(&mut table, &key) {
                break None;
            }
            removed.push(key);
        };
        faults.sort_by_key(|fault| (fault.place.is_none(), fault.place));
        (value, faults)
    }

    /// Returns a fault for every value in the settings that can't be used. `prefix` is the table of the settings in
    /// the file, such as `tuning`; empty for a tuning file.
    ///
    /// ```
    /// # use velvet_pan::Settings;
    /// # use velvet_pan_takes::{BuiltIn, Document, Fault, Files};
    /// let files = [BuiltIn { name: "soft.toml", text: "[zoom]\nlevel = -2.0\n".into() }];
    /// let document = Document::read(Files::BuiltIn(&files), "soft.toml".as_ref())?;
    /// let settings: Settings = document.parse()?;
    /// let faults = document.faults_of(&settings, "");
    /// assert!(faults[0].to_string().starts_with("soft.toml:2:1: zoom.level"));
    /// # Ok::<(), Fault>(())
    /// ```
    pub fn faults_of(&self, settings: &Settings, prefix: &str) -> Vec<Fault> {
        let fault = |error: SettingsError| {
            self.fault(&format!("{prefix}{}", error.field()), refusal(&error))
        };
        settings.faults().into_iter().map(fault).collect()
    }

    /// Parses the file.
    ///
    /// # Errors
    ///
    /// The first fault, with its line, column and key.
    pub fn parse<T: DeserializeOwned>(&self) -> Result<T, Fault> {
        match self.parse_all() {
            (Some(value), faults) if faults.is_empty() => Ok(value),
            (_, mut faults) => Err(faults.swap_remove(0)),
        }
    }

    /// Parses the file after these `key=value` changes.
    ///
    /// # Errors
    ///
    /// The first fault. If a change caused it, the fault names the change.
    ///
    /// ```
    /// # use velvet_pan::Settings;
    /// # use velvet_pan_takes::{BuiltIn, Document, Fault, Files};
    /// let files = [BuiltIn { name: "soft.toml", text: "[zoom]\nlevel = 2.0\n".into() }];
    /// let document = Document::read(Files::BuiltIn(&files), "soft.toml".as_ref())?;
    /// let settings: Settings = document.parse_changed(&["zoom.level=3.0".parse().unwrap()])?;
    /// assert_eq!(settings.zoom.level, 3.0);
    /// # Ok::<(), Fault>(())
    /// ```
    pub fn parse_changed<T: DeserializeOwned>(&self, changes: &[Change]) -> Result<T, Fault> {
        if changes.is_empty() {
            return self.parse();
        }
        let mut table: toml::Table = self.parse()?;
        // The file may be wrong without the changes. If so, report the position in the file.
        let mut value = self.parse()?;
        for change in changes {
            change.apply(&mut table)?;
            value = from_value(toml::Value::Table(table.clone()))
                .map_err(|error| change.fault(&helpful(error.inner().message())))?;
        }
        Ok(value)
    }

    /// Returns a fault at this key. If the file does not contain the key, the fault is of the file as a whole.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Document, Fault, Files};
    /// let files = [BuiltIn { name: "soft.toml", text: "[zoom]\nlevel = 2.0\n".into() }];
    /// let document = Document::read(Files::BuiltIn(&files), "soft.toml".as_ref())?;
    /// let fault = document.fault("zoom.level", "too large");
    /// assert_eq!(fault.to_string(), "soft.toml:2:1: zoom.level: too large");
    /// # Ok::<(), Fault>(())
    /// ```
    pub fn fault(&self, key: &str, what: impl Into<String>) -> Fault {
        let fault = Fault::of_file(&self.path, what).of_key(key);
        match self.find(key) {
            Some(span) => self.at(fault, span.start),
            None => fault,
        }
    }

    fn at(&self, fault: Fault, offset: usize) -> Fault {
        let before = &self.text[..self.text.floor_char_boundary(offset)];
        let line = before.matches('\n').count() + 1;
        let column = before.rsplit('\n').next().unwrap_or("").chars().count() + 1;
        fault.at(line, column)
    }

    fn explain(&self, error: &toml::de::Error) -> Fault {
        let mut fault = Fault::of_file(&self.path, helpful(error.message()));
        if let Some(span) = error.span() {
            fault = self.at(fault, span.start);
            fault.key = self.key_at(span.start);
        }
        fault
    }

    /// The bytes of a dotted key's value, or of the longest part of the key that the file contains.
    fn find(&self, key: &str) -> Option<Range<usize>> {
        let table = DeTable::parse(&self.text).ok()?;
        let parts: Vec<&str> = key.split('.').collect();
        place_in_table(table.get_ref(), &parts)
    }

    /// The dotted key whose name or value is at this offset.
    fn key_at(&self, offset: usize) -> Option<String> {
        let table = DeTable::parse(&self.text).ok()?;
        key_within(table.get_ref(), offset)
    }
}

/// The bytes of the value of a key in parts, or of as many of the parts as the file contains.
fn place_in_table(table: &DeTable<'_>, parts: &[&str]) -> Option<Range<usize>> {
    let (part, rest) = parts.split_first()?;
    let (name, value) = table.iter().find(|(name, _)| name.get_ref() == part)?;
    place_in_value(value.get_ref(), rest).or(Some(name.span()))
}

fn place_in_value(value: &DeValue<'_>, parts: &[&str]) -> Option<Range<usize>> {
    match value {
        DeValue::Table(inner) => place_in_table(inner, parts),
        DeValue::Array(items) => {
            let (number, rest) = parts.split_first()?;
            let item = items.get(number.parse::<usize>().ok()?)?;
            place_in_value(item.get_ref(), rest).or(Some(item.span()))
        }
        _ => None,
    }
}

/// Keys that a take has and a tuning does not have.
const TAKE_KEYS: [&str; 9] =
    ["tuning", "subjects", "timeline", "watch", "cameras", "map", "fps", "seconds", "window"];

/// The maximum number of faults that are reported for one file.
const MOST_FAULTS: usize = 100;

type ReadError = serde_path_to_error::Error<toml::de::Error>;

/// Reads every type. The code that reads a type from another form, such as text, would take as long to compile again.
fn from_value<T: DeserializeOwned>(value: toml::Value) -> Result<T, ReadError> {
    serde_path_to_error::deserialize(value)
}

/// The key at which reading failed, in parts, and the reader's message.
fn key_and_message(error: &ReadError) -> (Vec<String>, String) {
    let mut key: Vec<String> = error.path().iter().map(segment).collect();
    let message = error.inner().message().to_owned();
    // The message names an unknown key; the path does not always.
    if let Some(unknown) = named(&message, "unknown field `")
        && key.last() != Some(&unknown)
    {
        key.push(unknown);
    }
    (key, message)
}

fn segment(segment: &serde_path_to_error::Segment) -> String {
    match segment {
        serde_path_to_error::Segment::Map { key } => key.clone(),
        serde_path_to_error::Segment::Seq { index } => index.to_string(),
        other => other.to_string(),
    }
}

/// The name after this start of a message: "unknown field `" or "missing field `".
fn named(message: &str, start: &str) -> Option<String> {
    message.strip_prefix(start)?.split('`').next().map(str::to_owned)
}

/// Removes the value at a key, or else the table that contains it. Returns whether something was removed.
fn remove(value: &mut toml::Value, key: &[String]) -> bool {
    let [first, rest @ ..] = key else { return false };
    match value {
        toml::Value::Table(table) => {
            let deeper = table.get_mut(first).is_some_and(|inner| remove(inner, rest));
            deeper || table.remove(first).is_some()
        }
        toml::Value::Array(items) => {
            let index = first.parse::<usize>().ok().filter(|index| *index < items.len());
            let Some(index) = index else { return false };
            // Only lists of tables lose an item, so that a point keeps its length.
            let deeper = remove(&mut items[index], rest);
            if !deeper && items[index].is_table() {
                items.remove(index);
                return true;
            }
            deeper
        }
        _ => false,
    }
}

fn key_within(table: &DeTable<'_>, offset: usize) -> Option<String> {
    table.iter().find_map(|(name, value)| {
        let deeper = match value.get_ref() {
            DeValue::Table(inner) => key_within(inner, offset),
            DeValue::Array(items) => items.iter().find_map(|item| match item.get_ref() {
                DeValue::Table(inner) => key_within(inner, offset),
                _ => None,
            }),
            _ => None,
        };
        match deeper {
            Some(rest) => Some(format!("{}.{rest}", name.get_ref())),
            None => (name.span().contains(&offset) || value.span().contains(&offset))
                .then(|| name.get_ref().to_string()),
        }
    })
}

/// The parser's message, with the nearest known name added for an unknown one.
fn helpful(message: &str) -> String {
    let message = message.lines().next().unwrap_or(message);
    let names: Vec<&str> = message.split('`').skip(1).step_by(2).collect();
    let unknown = message.starts_with("unknown field") || message.starts_with("unknown variant");
    let [given, known @ ..] = names.as_slice() else { return plain(message) };
    if !unknown || known.is_empty() {
        return plain(message);
    }
    let kind = if message.starts_with("unknown field") { "key" } else { "word" };
    let nearest = known
        .iter()
        .map(|name| (strsim::damerau_levenshtein(given, name), name))
        .min_by_key(|(distance, _)| *distance)
        .filter(|(distance, name)| *distance < name.len().min(2 + name.len() / 3));
    match nearest {
        Some((_, name)) => format!("unknown {kind} \"{given}\": did you mean \"{name}\"?"),
        None => format!("unknown {kind} \"{given}\": expected one of {}", known.join(", ")),
    }
}

/// The parser's names for kinds of values, and ours.
const KINDS: [(&str, &str); 18] = [
    ("fewer elements in array", "a shorter list"),
    ("unit variant, expected string only", "not a word, expected one in quotes"),
    ("expected an array of length 2", "expected a list of 2 numbers"),
    ("expected an array of length 3", "expected a list of 3 numbers"),
    ("f64 values", "numbers"),
    ("u32 values", "whole numbers"),
    ("floating point `", "the number `"),
    ("integer `", "the number `"),
    ("boolean `", "`"),
    ("expected f64", "expected a number"),
    ("expected f32", "expected a number"),
    ("expected i64", "expected a whole number"),
    ("expected i32", "expected a whole number"),
    ("expected u32", "expected a whole number, 0 or more"),
    ("expected a boolean", "expected true or false"),
    ("map, expected", "a table, expected"),
    ("sequence, expected", "a list, expected"),
    ("expected a sequence", "expected a list"),
];

/// A parser's message in plain words, such as `string "abc": expected a number`.
fn plain(message: &str) -> String {
    let mut text = message.to_owned();
    for (theirs, ours) in KINDS {
        text = text.replace(theirs, ours);
    }
    if let Some(rest) = text.strip_prefix("invalid length ") {
        return format!("a list of {}", rest.replacen(", expected", ": expected", 1));
    }
    let text = text
        .strip_prefix("invalid type: ")
        .or(text.strip_prefix("invalid value: "))
        .unwrap_or(&text);
    let text = text.replacen(", expected", ": expected", 1);
    match text.split_once("expected struct ").or(text.split_once("expected newtype ")) {
        Some((before, _)) => format!("{before}expected a table of settings"),
        None => text,
    }
}

/// The message for a refused setting.
pub(crate) fn refusal(error: &SettingsError) -> String {
    format!("{} is not possible: expected {}", error.value(), error.expected())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_unknown_name_is_answered_with_the_nearest() {
        let message = "unknown field `anchr`, expected one of `axes`, `anchor`, `offset`";
        assert_eq!(helpful(message), "unknown key \"anchr\": did you mean \"anchor\"?");
        let far = helpful("unknown field `zzz`, expected one of `axes`, `anchor`");
        assert_eq!(far, "unknown key \"zzz\": expected one of axes, anchor");
    }

    #[test]
    fn changes_reach_into_tables() {
        let mut table = toml::Table::new();
        for text in ["follow.anchor = [0.5, 0.25]", "screen.snap=off"] {
            text.parse::<Change>().unwrap().apply(&mut table).unwrap();
        }
        assert_eq!(table["follow"]["anchor"][1].as_float(), Some(0.25));
        assert_eq!(table["screen"]["snap"].as_str(), Some("off"));
        assert!("anchor".parse::<Change>().is_err());
    }
}
