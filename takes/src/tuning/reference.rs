//! The reference page of all settings.

use std::fmt::Write;

use velvet_pan::{ChoiceForm, Setting, SettingKind, Settings, SettingsTable, TableForm, Value};

/// Returns all keys of a tuning file as Markdown: a heading and a table for each table of the file.
///
/// ```
/// let page = velvet_pan_takes::settings_reference();
/// assert!(page.contains("| `half_life` | the time for half of the remaining way of a glide, in log space | s, 0 to 1000000 | `0.15` |"));
/// ```
#[must_use]
pub fn settings_reference() -> String {
    let defaults = defaults();
    Settings::tables().iter().map(|table| section(table, &defaults)).collect()
}

/// A key of a tuning file, with its description.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct KeyHelp {
    /// The table of the key, as written in a file: `zoom`, `cues.NAME`.
    pub table: String,
    /// The key within its table.
    pub key: &'static str,
    /// The effect.
    pub help: &'static str,
    /// Unit and range.
    pub allowed: String,
    /// The default.
    pub default: String,
    /// Whether a change takes effect immediately in a running camera.
    pub is_live: bool,
}

/// Returns all keys of a tuning file with their descriptions, in the order of the reference page.
///
/// ```
/// let keys = velvet_pan_takes::settings_keys();
/// let half_life = keys.iter().find(|one| one.table == "zoom" && one.key == "half_life");
/// assert!(half_life.is_some_and(|one| one.default == "0.15"));
/// ```
#[must_use]
pub fn settings_keys() -> Vec<KeyHelp> {
    let defaults = defaults();
    let keys = |table: &'static SettingsTable| table.keys().iter().map(move |key| (table, key));
    let help = |(table, setting): (&SettingsTable, &'static Setting)| KeyHelp {
        table: table.path().replace('*', "NAME"),
        key: setting.key(),
        help: setting.help(),
        allowed: allowed(setting).replace('`', ""),
        default: default_text(table, setting, &defaults),
        is_live: setting.is_live(),
    };
    Settings::tables().iter().flat_map(keys).map(help).collect()
}

fn default_text(table: &SettingsTable, setting: &Setting, defaults: &Settings) -> String {
    match default_of(table, setting, defaults) {
        _ if setting.is_required() => "needed".to_owned(),
        Some(value) => setting.write(&value),
        None => "none".to_owned(),
    }
}

/// Settings that contain every table, with defaults.
pub(crate) fn defaults() -> Settings {
    let mut settings = Settings::default();
    for table in Settings::tables() {
        let _added = settings.add_table(&table.path().replace('*', "0"));
    }
    settings
}

/// Returns the default of a key, or `None` if it has none.
pub(crate) fn default_of(
    table: &SettingsTable,
    setting: &Setting,
    all: &Settings,
) -> Option<Value> {
    let path = format!("{}.{}", table.path().replace('*', "0"), setting.key());
    all.get(&path).filter(|_| !setting.is_required())
}

fn section(table: &SettingsTable, defaults: &Settings) -> String {
    let name = table.path().replace('*', "NAME");
    let heading = match table.form() {
        TableForm::List => format!("[[{}]]", name.trim_end_matches(".NAME")),
        _ => format!("[{name}]"),
    };
    let left_out = match table.form() {
        TableForm::Always => "",
        TableForm::Optional => " Not there by default.",
        TableForm::Named | TableForm::List | _ => " Any number of them; none by default.",
    };
    let mut text = format!("### `{heading}`\n\n{}.{left_out}\n\n", table.help());
    text += "| key | what it does | unit, range | default |\n|---|---|---|---|\n";
    for setting in table.keys() {
        let default = match default_text(table, setting, defaults) {
            word if word == "needed" || word == "none" => word,
            value => format!("`{value}`"),
        };
        let later = if setting.is_live() { "" } else { " (from its next use on)" };
        // Writing to a string can't fail.
        let _ = writeln!(
            text,
            "| `{}` | {}{later} | {} | {default} |",
            setting.key(),
            setting.help(),
            allowed(setting),
        );
    }
    text + "\n"
}

/// Unit and range of a key.
fn allowed(setting: &Setting) -> String {
    let words = match setting.kind() {
        SettingKind::Choice(choices) => {
            let words: Vec<String> = choices.iter().map(choice).collect();
            let axes = if setting.is_per_axis() { ", or `{ x = …, y = … }`" } else { "" };
            words.join(", ") + axes
        }
        SettingKind::Names(names) => {
            let words: Vec<String> = names.iter().map(choice).collect();
            format!("a list of {}", words.join(", "))
        }
        SettingKind::Flag => "`true`, `false`".into(),
        SettingKind::Rect => "`[x, y, width, height]`".into(),
        SettingKind::Rects => "`[[x, y, width, height], …]`".into(),
        SettingKind::Points => "`[[x, y], …]`".into(),
        SettingKind::Text => "text".into(),
        SettingKind::Count => "a whole number".into(),
        _ => range(setting.allowed(), setting.is_above_least()),
    };
    [setting.unit(), &words]
        .into_iter()
        .filter(|part| !part.is_empty())
        .collect::<Vec<_>>()
        .join(", ")
}

fn choice(choice: &velvet_pan::Choice) -> String {
    let (name, unit) = (choice.as_str(), choice.unit());
    match choice.form() {
        ChoiceForm::Number => format!("`{{ {name} = {unit} }}`"),
        ChoiceForm::Pair => format!("`{{ {name} = [x, y] }}`"),
        ChoiceForm::BareNumber => format!("{unit}, {}", range(choice.allowed(), false)),
        ChoiceForm::Name => format!("`\"{name}\"`"),
    }
}

fn range([least, most]: [f64; 2], above: bool) -> String {
    let far = |number: f64| number.abs() >= 1e9;
    match (far(least), far(most), above) {
        (true, true, _) => String::new(),
        (_, true, false) => format!("{least} or more"),
        (_, true, true) => format!("above {least}"),
        (_, false, false) => format!("{least} to {most}"),
        (_, false, true) => format!("above {least}, up to {most}"),
    }
}
