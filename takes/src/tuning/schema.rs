//! The JSON Schema of all settings, for editors that complete and check tuning files.

use serde_json::{Value as Json, json};
use velvet_pan::{Choice, ChoiceForm, Setting, SettingKind, Settings, SettingsTable, TableForm};

use crate::text::node::{Node, Tree};
use crate::tuning::reference::{default_of, defaults};

/// Returns a JSON Schema (draft 2020-12) of a tuning file. With it, an editor completes keys, shows their descriptions
/// and marks mistakes.
///
/// ```
/// let schema = velvet_pan_takes::settings_schema();
/// let half_life = &schema["properties"]["zoom"]["properties"]["half_life"];
/// assert_eq!(half_life["default"], 0.15);
/// assert_eq!(half_life["minimum"], 0.0);
/// ```
#[must_use]
pub fn settings_schema() -> Json {
    let all = defaults();
    let mut root = object("All settings of a camera");
    root["$schema"] = "https://json-schema.org/draft/2020-12/schema".into();
    root["title"] = "Velvet Pan tuning".into();
    for table in Settings::tables() {
        *place(&mut root, table) = self::table(table, &all);
    }
    root
}

fn object(description: &str) -> Json {
    json!({
        "type": "object",
        "description": description,
        "properties": {},
        "additionalProperties": false,
    })
}

/// Returns the schema of a table. Tables come before those within them.
fn place<'a>(root: &'a mut Json, table: &SettingsTable) -> &'a mut Json {
    let mut at = root;
    let parts: Vec<&str> = table.path().split('.').collect();
    for (index, part) in parts.iter().enumerate() {
        let within = match (*part, table_named(&parts[..=index])) {
            ("*", Some(TableForm::List)) => &mut at["items"],
            ("*", _) => &mut at["additionalProperties"],
            (name, _) => &mut at["properties"][name],
        };
        if within.is_null() {
            *within = if parts.get(index + 1) == Some(&"*") {
                several(&parts[..index + 2])
            } else {
                Json::Null
            };
        }
        at = within;
    }
    at
}

fn table_named(parts: &[&str]) -> Option<TableForm> {
    let path = parts.join(".");
    Settings::tables().iter().find(|table| table.path() == path).map(SettingsTable::form)
}

/// Returns the schema of tables that have names, or are in a list.
fn several(parts: &[&str]) -> Json {
    match table_named(parts) {
        Some(TableForm::List) => json!({ "type": "array" }),
        _ => json!({ "type": "object" }),
    }
}

fn table(table: &SettingsTable, all: &Settings) -> Json {
    let mut schema = object(table.help());
    for setting in table.keys() {
        let mut key = of_setting(setting);
        let unit = if setting.unit().is_empty() { "" } else { "; unit: " };
        key["description"] = [setting.help(), unit, setting.unit()].concat().into();
        if let Some(value) = default_of(table, setting, all) {
            key["default"] = default(&setting.write(&value));
        }
        insert(&mut schema, setting.key(), key);
    }
    let needed: Vec<&str> =
        table.keys().iter().filter(|key| key.is_required()).map(Setting::key).collect();
    if !needed.is_empty() {
        schema["required"] = needed.into();
    }
    // One of two keys.
    if table.path() == "bounds" {
        schema["oneOf"] = json!([{ "required": ["rect"] }, { "required": ["outline"] }]);
    }
    schema
}

/// Puts a key into its table: `limit.reach` belongs into a table within.
fn insert(schema: &mut Json, key: &str, value: Json) {
    match key.split_once('.') {
        None => schema["properties"][key] = value,
        Some((within, key)) => {
            let within = &mut schema["properties"][within];
            if within.is_null() {
                *within = object("");
            }
            insert(within, key, value);
        }
    }
}

/// Returns a default as JSON, from the text of a file.
fn default(text: &str) -> Json {
    text.parse().map_or(Json::Null, |value| json_of(&Node::of_value(&value)))
}

fn json_of(node: &Node) -> Json {
    match &node.tree {
        Tree::Text(text) => text.as_str().into(),
        Tree::Whole(number) => (*number).into(),
        Tree::Number(number) => (*number).into(),
        Tree::Flag(flag) => (*flag).into(),
        Tree::Date => Json::Null,
        Tree::List(items) => items.iter().map(json_of).collect(),
        Tree::Table(entries) => {
            let entries = entries.iter().map(|entry| (entry.name.clone(), json_of(&entry.node)));
            Json::Object(entries.collect())
        }
    }
}

fn of_setting(setting: &Setting) -> Json {
    let number = number(setting.allowed(), setting.is_above_least());
    match setting.kind() {
        SettingKind::Number if setting.allowed()[1] == f64::INFINITY => {
            // JSON has no infinity.
            json!({ "anyOf": [number, { "const": "inf" }] })
        }
        SettingKind::Number => number,
        SettingKind::Count => json!({ "type": "integer", "minimum": 0 }),
        SettingKind::Pair => list(&number, 2),
        SettingKind::Size => {
            let [least, most] = setting.allowed();
            list(&json!({ "type": "integer", "minimum": least, "maximum": most }), 2)
        }
        SettingKind::Rect => rect(),
        SettingKind::Flag => json!({ "type": "boolean" }),
        SettingKind::Text => json!({ "type": "string" }),
        SettingKind::Names(names) => {
            json!({ "type": "array", "items": of_choices(names) })
        }
        SettingKind::Points => {
            json!({ "type": "array", "items": list(&json!({ "type": "number" }), 2) })
        }
        SettingKind::Rects => json!({ "type": "array", "items": rect() }),
        SettingKind::Choice(choices) => {
            let choice = of_choices(choices);
            if !setting.is_per_axis() {
                return choice;
            }
            let mut axes = object("one for each axis");
            for axis in ["x", "y"] {
                insert(&mut axes, axis, choice.clone());
            }
            json!({ "anyOf": [choice, axes] })
        }
        _ => Json::Bool(true),
    }
}

fn of_choices(choices: &[Choice]) -> Json {
    let names: Vec<&str> = choices
        .iter()
        .filter(|choice| choice.form() == ChoiceForm::Name)
        .map(Choice::as_str)
        .collect();
    let with_numbers = choices.iter().filter(|choice| choice.form() != ChoiceForm::Name);
    let others = with_numbers.map(|choice| {
        let number = number(choice.allowed(), false);
        let value = match choice.form() {
            ChoiceForm::BareNumber => return number,
            ChoiceForm::Pair => list(&number, 2),
            _ => number,
        };
        let mut table = object("");
        table["required"] = json!([choice.as_str()]);
        insert(&mut table, choice.as_str(), value);
        table
    });
    let named = (!names.is_empty()).then(|| json!({ "enum": names }));
    let mut all: Vec<Json> = named.into_iter().chain(others).collect();
    if all.len() == 1 { all.remove(0) } else { json!({ "anyOf": all }) }
}

fn number([least, most]: [f64; 2], above: bool) -> Json {
    let mut schema = json!({ "type": "number" });
    if least > f64::MIN {
        schema[if above { "exclusiveMinimum" } else { "minimum" }] = least.into();
    }
    if most < f64::MAX {
        schema["maximum"] = most.into();
    }
    schema
}

fn list(item: &Json, length: usize) -> Json {
    json!({ "type": "array", "items": item, "minItems": length, "maxItems": length })
}

fn rect() -> Json {
    let (position, length) =
        (json!({ "type": "number" }), json!({ "type": "number", "exclusiveMinimum": 0 }));
    json!({
        "type": "array",
        "prefixItems": [position, position, length, length],
        "minItems": 4,
        "maxItems": 4,
    })
}
