//! The page and the schema of settings match the table, and the schema accepts what the library accepts.

use std::fs;
use std::path::{Path, PathBuf};

use boon::{Compiler, SchemaIndex, Schemas};
use velvet_pan::{SettingKind, Settings, Value};
use velvet_pan_takes::{settings_reference, settings_schema, settings_text};

fn project() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..")
}

/// Compares a file with its expected text. With `UPDATE_DOCS` in the environment, writes it.
fn is_up_to_date(file: &str, expected: &str) {
    let path = project().join(file);
    if std::env::var_os("UPDATE_DOCS").is_some() {
        fs::write(&path, expected).expect("written");
    }
    let found = fs::read_to_string(&path).expect("a file");
    assert!(
        found == expected,
        "{file} is out of date: UPDATE_DOCS=1 cargo test -p velvet-pan-takes"
    );
}

#[test]
fn the_page_is_up_to_date() {
    const BEGIN: &str = "<!-- from here to the next mark written by the code -->\n\n";
    const END: &str = "<!-- to here -->\n";
    let page = fs::read_to_string(project().join("docs/settings.md")).expect("the page");
    let (before, rest) = page.split_once(BEGIN).expect("the first mark");
    let (_, after) = rest.split_once(END).expect("the second mark");
    let expected = [before, BEGIN, &settings_reference(), END, after].concat();
    is_up_to_date("docs/settings.md", &expected);
}

#[test]
fn the_schema_is_up_to_date() {
    let text = serde_json::to_string_pretty(&settings_schema()).expect("JSON");
    is_up_to_date("docs/tuning.schema.json", &(text + "\n"));
}

/// The schema of settings, compiled.
struct Schema(Schemas, SchemaIndex);

impl Schema {
    fn new() -> Self {
        let (mut schemas, mut compiler) = (Schemas::new(), Compiler::new());
        let (name, schema) = ("settings.json", settings_schema());
        compiler.add_resource(name, schema).expect("a new name");
        let index = compiler.compile(name, &mut schemas).expect("a valid schema");
        Self(schemas, index)
    }

    /// Returns what is wrong with a document.
    fn refuses(&self, document: &serde_json::Value) -> Option<String> {
        self.0.validate(document, self.1).err().map(|error| format!("{error:#}"))
    }
}

/// The tuning of a file, which may be a take with an inline tuning.
fn tuning(path: &Path) -> Option<serde_json::Value> {
    let text = fs::read_to_string(path).expect("a file");
    let document: serde_json::Value = toml::from_str(&text).expect("TOML");
    let is_take = document.get("tuning").is_some() || document.get("subjects").is_some();
    if is_take {
        document.get("tuning").filter(|it| it.is_object()).cloned()
    } else {
        Some(document)
    }
}

#[test]
fn the_demo_s_tunings_fit_the_schema() {
    let schema = Schema::new();
    let mut fits = 0;
    for entry in fs::read_dir(project().join("terraces/demo")).expect("the demo") {
        let path = entry.expect("an entry").path();
        let name = path.to_string_lossy();
        // Limits are no settings.
        if !name.ends_with(".toml") || name.ends_with(".limits.toml") {
            continue;
        }
        if let Some(tuning) = tuning(&path) {
            assert_eq!(schema.refuses(&tuning), None, "{}", path.display());
            fits += 1;
        }
    }
    assert!(fits > 5, "{fits}");
}

#[test]
fn default_settings_fit_the_schema() {
    let settings = settings_text(&Settings::default(), |_| true).expect("it can be written");
    let settings = toml::from_str(&settings).expect("TOML");
    assert_eq!(Schema::new().refuses(&settings), None);
}

/// Sets a key of a document, creating its tables.
fn set(document: &mut serde_json::Value, path: &str, value: serde_json::Value) {
    let parts: Vec<&str> = path.split('.').collect();
    let mut at = document;
    for part in parts {
        at = &mut at[part];
    }
    *at = value;
}

/// For each key with a number, the schema accepts and refuses what the library accepts and refuses.
#[test]
fn the_schema_refuses_what_the_library_refuses() {
    let schema = Schema::new();
    let mut tried = 0;
    for table in Settings::tables().iter().filter(|table| !table.path().contains('*')) {
        for setting in table.keys() {
            let path = format!("{}.{}", table.path(), setting.key());
            let [least, most] = setting.allowed();
            let usual = setting.usual();
            for number in [least, most, least - 0.5, most + 1.0, usual[0], usual[1]] {
                let (value, json) = match setting.kind() {
                    SettingKind::Number => (Value::Number(number), number.into()),
                    SettingKind::Pair => (Value::Pair([number; 2]), vec![number; 2].into()),
                    _ => continue,
                };
                let mut document = serde_json::json!({});
                for needed in table.keys().iter().filter(|key| key.is_required()) {
                    let value = match needed.kind() {
                        SettingKind::Rect => serde_json::json!([0, 0, 9, 9]),
                        SettingKind::Points => serde_json::json!([[0, 0], [1, 0]]),
                        _ => serde_json::json!([0, 0]),
                    };
                    set(&mut document, &format!("{}.{}", table.path(), needed.key()), value);
                }
                if table.path() == "bounds" {
                    set(&mut document, "bounds.rect", serde_json::json!([0, 0, 9, 9]));
                }
                set(&mut document, &path, json);
                let taken = setting.refuses(&value).is_none();
                assert_eq!(schema.refuses(&document).is_none(), taken, "{path} = {number}");
                tried += 1;
            }
        }
    }
    assert!(tried > 100, "{tried}");
    for wrong in [
        r#"{"zoom": {"levle": 1}}"#,
        r#"{"screen": {"fit": "squeeze"}}"#,
        r#"{"follow": {"smoothing": {"half_life": -1}}}"#,
        r#"{"bounds": {"cushion_depth": 1}}"#,
        r#"{"bounds": {"rect": [0, 0, 9, 9], "outline": "cellar"}}"#,
        r#"{"layers": [{"rate": [1]}]}"#,
        r#"{"cues": {"gong": {"shake": {"hz": 0}}}}"#,
    ] {
        let document: serde_json::Value = serde_json::from_str(wrong).expect("JSON");
        assert!(schema.refuses(&document).is_some(), "{wrong}");
    }
}
