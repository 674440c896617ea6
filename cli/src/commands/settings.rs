//! `settings`: every key of a tuning file, with what it does, its range and its default.

use clap::{Args, ValueEnum};
use velvet_pan_takes::{Fault, KeyHelp, settings_keys, settings_reference, settings_schema};

use crate::arguments::args::OutFile;
use crate::support::output::write_text;

/// Explain the keys of a tuning file: effect, unit, range and default.
#[derive(Args, Debug)]
#[command(after_help = "\
A key may be a whole one, a table, or the last part of one. The schema is for editors that complete and check TOML:
save it beside the tunings, and begin each with `#:schema tuning.schema.json`.

Examples:
  velvet-pan settings
  velvet-pan settings zoom
  velvet-pan settings follow.look_ahead.turn_after
  velvet-pan settings --format json-schema --out tuning.schema.json")]
pub struct SettingsArgs {
    /// Show only this key, or the keys of this table
    #[arg(value_name = "KEY")]
    key: Option<String>,

    /// The format of the output
    #[arg(long, value_enum, default_value_t = SettingsFormat::Text)]
    format: SettingsFormat,

    #[command(flatten)]
    out: OutFile,
}

/// The format of the output.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum SettingsFormat {
    /// Text to read
    Text,
    /// Markdown tables
    Markdown,
    /// A JSON schema for editors
    JsonSchema,
}

/// Runs the command.
pub fn run(args: &SettingsArgs) -> Result<(), Fault> {
    if args.key.is_some() && args.format != SettingsFormat::Text {
        return Err(Fault::new("KEY: expected only with --format text"));
    }
    let text = match args.format {
        SettingsFormat::Text => listed(&wanted(args.key.as_deref())?),
        SettingsFormat::Markdown => settings_reference(),
        SettingsFormat::JsonSchema => format!("{:#}\n", settings_schema()),
    };
    write_text(args.out.out.as_deref(), &text)
}

fn path(key: &KeyHelp) -> String {
    format!("{}.{}", key.table, key.key)
}

/// Returns the keys that a word means: a key, the keys of a table and of the tables within it, or the keys with this
/// ending.
fn wanted(word: Option<&str>) -> Result<Vec<KeyHelp>, Fault> {
    let all = settings_keys();
    let Some(word) = word else { return Ok(all) };
    let tables = |key: &&KeyHelp| path(key) == word || path(key).starts_with(&format!("{word}."));
    let ends = |key: &&KeyHelp| path(key).ends_with(&format!(".{word}"));
    let mut meant: Vec<KeyHelp> = all.iter().filter(tables).cloned().collect();
    if meant.is_empty() {
        meant = all.iter().filter(ends).cloned().collect();
    }
    if !meant.is_empty() {
        return Ok(meant);
    }
    let names = all.iter().flat_map(|key| [path(key), key.key.to_owned(), key.table.clone()]);
    let nearest = names.min_by_key(|name| strsim::damerau_levenshtein(name, word));
    let nearest = nearest.map_or(String::new(), |name| format!(": did you mean \"{name}\"?"));
    Err(Fault::new(format!("no key \"{word}\"{nearest}")))
}

/// Returns the name of a table, and a line for each of its keys.
fn listed(keys: &[KeyHelp]) -> String {
    let width = keys.iter().map(|key| key.key.len()).max().unwrap_or(0);
    let (mut text, mut table) = (String::new(), "");
    for key in keys {
        if key.table != table {
            text += &format!("{}[{}]\n", if text.is_empty() { "" } else { "\n" }, key.table);
            table = &key.table;
        }
        let later = if key.is_live { "" } else { "; acts from its next use on" };
        text += &format!("  {:<width$}  {}\n", key.key, key.help);
        text += &format!("  {:<width$}  {}; default {}{later}\n", "", key.allowed, key.default);
    }
    text
}
