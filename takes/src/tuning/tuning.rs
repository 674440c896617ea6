//! Reads settings from a tuning file, or from a table within a take.

use std::collections::BTreeMap;
use std::path::Path;
use std::sync::LazyLock;

use velvet_pan::{
    Choice, ChoiceForm, Chosen, Rect, Setting, SettingKind, Settings, SettingsError, SettingsTable,
    TableForm, Value,
};

use crate::text::change::Change;
use crate::text::document::{Document, in_order};
use crate::text::fault::Fault;
use crate::text::files::Files;
use crate::text::keys::{Faults, joined, unknown};
use crate::text::node::{Entry, Node, Span, Tree, Wrong};

/// Reads settings from a file of their own, with changes applied, and checks them.
pub fn read_settings(files: Files<'_>, path: &Path, changes: &[Change]) -> Result<Settings, Fault> {
    let (settings, mut faults) = Document::read(files, path)?.changed_settings(changes);
    if faults.is_empty() { Ok(settings) } else { Err(faults.swap_remove(0)) }
}

impl Document {
    /// Reads the settings of a tuning file, and returns every fault, in the order of the file. A wrong value leaves
    /// the default in its place.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Document, Fault, Files};
    /// let files = [BuiltIn { name: "soft.toml", text: "[zoom]\nlevel = -2.0\nwhole = true\n".into() }];
    /// let document = Document::read(Files::BuiltIn(&files), "soft.toml".as_ref())?;
    /// let (settings, faults) = document.settings();
    /// assert!(faults[0].to_string().starts_with("soft.toml:2:1: zoom.level: -2 is not possible"));
    /// assert!(faults.len() == 1 && settings.zoom.whole);
    /// # Ok::<(), Fault>(())
    /// ```
    pub fn settings(&self) -> (Settings, Vec<Fault>) {
        self.changed_settings(&[])
    }

    /// Does the same after these changes.
    pub(crate) fn changed_settings(&self, changes: &[Change]) -> (Settings, Vec<Fault>) {
        let root = match self.changed(changes) {
            Ok(root) => root,
            Err(fault) => return (Settings::default(), vec![fault]),
        };
        let mut faults = Faults::new(self, changes);
        let settings = settings_in(&root, "", &None, &mut faults);
        (settings, in_order(faults.found))
    }
}

/// Reads and checks the settings in a table. `prefix` is the path of the table, such as `tuning`; empty for a whole
/// file. Values that are wrong keep their defaults.
pub(crate) fn settings_in(
    node: &Node,
    prefix: &str,
    span: &Span,
    faults: &mut Faults<'_>,
) -> Settings {
    let mut reading =
        Reading { settings: Settings::default(), prefix, faults, distances: Vec::new() };
    reading.table("", "", node, span);
    reading.refuse_distances();
    let Reading { settings, .. } = reading;
    for error in settings.faults() {
        let key = joined(prefix, error.field());
        if !faults.has(&key) {
            faults.add(&key, &None, refusal(&error));
        }
    }
    settings
}

/// What may stand at a path.
#[derive(Clone, Copy)]
enum Kind {
    Key(&'static Setting),
    Table,
    /// Tables, each with a name.
    Named,
    /// A list of tables.
    List,
    /// A table that only groups keys, such as `limit` of `limit.reach`.
    Group,
}

/// Every path of a tuning file; `*` stands for a name or a number.
static KINDS: LazyLock<BTreeMap<String, Kind>> = LazyLock::new(|| {
    let mut kinds = BTreeMap::new();
    for table in Settings::tables() {
        kinds.insert(table.path().to_owned(), Kind::Table);
        if let Some(all) = table.path().strip_suffix(".*") {
            let is_list = table.form() == TableForm::List;
            kinds.insert(all.to_owned(), if is_list { Kind::List } else { Kind::Named });
        }
        for key in table.keys() {
            for (dot, _) in key.key().match_indices('.') {
                kinds.insert(joined(table.path(), &key.key()[..dot]), Kind::Group);
            }
            kinds.insert(joined(table.path(), key.key()), Kind::Key(key));
        }
    }
    kinds
});

impl Kind {
    /// What may stand under this name in the table with this path. A name in quotes may contain a dot, or be a star.
    fn of(within: &str, name: &str) -> Option<Self> {
        let is_plain = !name.contains(['.', '*']);
        is_plain.then(|| KINDS.get(&joined(within, name)).copied()).flatten()
    }
}

/// Returns the names that may stand in the table at a path.
fn names_in(pattern: &str) -> Vec<String> {
    let mut names: Vec<String> = Vec::new();
    for table in Settings::tables() {
        let keys = table.keys().iter().map(|key| joined(table.path(), key.key()));
        for path in keys.chain([table.path().to_owned()]) {
            let name = below(&path, pattern).and_then(|rest| rest.split('.').next());
            let new = |name: &&str| *name != "*" && !names.iter().any(|known| known == name);
            names.extend(name.filter(new).map(str::to_owned));
        }
    }
    names
}

/// Returns the rest of a path after a part of it.
fn below<'a>(path: &'a str, part: &str) -> Option<&'a str> {
    if part.is_empty() { Some(path) } else { path.strip_prefix(part)?.strip_prefix('.') }
}

struct Reading<'a, 'd> {
    settings: Settings,
    prefix: &'a str,
    faults: &'a mut Faults<'d>,
    /// Keys that are no more, with the path and the number of each. What it would be now depends on the screen.
    distances: Vec<(&'static Distance, String, Span, f64)>,
}

/// A distance in world units whose place a share of the design screen has taken.
struct Distance {
    table: &'static str,
    key: &'static str,
    share: &'static str,
}

const DISTANCES: [Distance; 5] = [
    Distance { table: "follow.look_ahead", key: "turn", share: "turn_after" },
    Distance { table: "rooms", key: "margin", share: "overstep" },
    Distance { table: "bounds", key: "cushion", share: "cushion_depth" },
    Distance { table: "cues.*", key: "near", share: "full_within" },
    Distance { table: "cues.*", key: "far", share: "none_beyond" },
];

impl Reading<'_, '_> {
    /// Reads a table: `pattern` is its path as the list of tables has it, `path` its path in the settings.
    fn table(&mut self, pattern: &str, path: &str, node: &Node, span: &Span) {
        let Some(entries) = node.entries() else {
            return self.add(path, span, node.wrong("a table of settings").what);
        };
        for entry in entries {
            self.entry(pattern, &joined(path, &entry.name), entry);
        }
        let known = Settings::tables().iter().find(|table| table.path() == pattern);
        for key in known.into_iter().flat_map(SettingsTable::keys) {
            if key.is_required() && node.get(key.key()).is_none() {
                let what = format!("missing: expected {}", key.expected());
                self.add(&joined(path, key.key()), span, what);
            }
        }
    }

    /// Reads an entry of the table with the pattern `within`.
    fn entry(&mut self, within: &str, path: &str, entry: &Entry) {
        let Entry { name, span, node } = entry;
        let pattern = &joined(within, name);
        match Kind::of(within, name) {
            Some(Kind::Key(setting)) => self.key(setting, path, entry),
            Some(Kind::Table) => {
                self.settings.add_table(path);
                self.table(pattern, path, node, span);
            }
            Some(Kind::Group) => self.table(pattern, path, node, span),
            Some(Kind::Named) => {
                for one in self.entries(path, node, span) {
                    let within = joined(path, &one.name);
                    // A cue may be called `gate.shake`, which is also the path of a cue's shake.
                    match pattern.as_str() {
                        "cues" => _ = self.settings.cues.entry(one.name.clone()).or_default(),
                        _ => _ = self.settings.add_table(&within),
                    }
                    self.table(&format!("{pattern}.*"), &within, &one.node, &one.span);
                }
            }
            Some(Kind::List) => {
                let Tree::List(items) = &node.tree else {
                    return self.add(path, span, node.wrong("a list of tables").what);
                };
                for (index, item) in items.iter().enumerate() {
                    let path = joined(path, &index.to_string());
                    self.settings.add_table(&path);
                    self.table(&format!("{pattern}.*"), &path, item, &item.span);
                }
            }
            None => {
                let old = DISTANCES.iter().find(|old| old.table == within && old.key == name);
                if let Some((old, number)) = old.zip(node.number().ok()) {
                    self.distances.push((old, path.to_owned(), span.clone(), number));
                    return;
                }
                let known = names_in(within);
                let known: Vec<&str> = known.iter().map(String::as_str).collect();
                self.add(path, span, unknown("key", name, &known));
            }
        }
    }

    /// Refuses distances in world units, once the screen is known.
    fn refuse_distances(&mut self) {
        let width = self.settings.screen.design_size().x;
        for (old, path, span, number) in core::mem::take(&mut self.distances) {
            let share = (number / width * 1e4).round() / 1e4;
            let what = format!(
                "{number} world units: expected {} = {share}, in widths of the design screen",
                old.share
            );
            self.add(&path, &span, what);
        }
    }

    /// Returns the entries of a table of tables.
    fn entries<'n>(&mut self, path: &str, node: &'n Node, span: &Span) -> &'n [Entry] {
        if node.entries().is_none() {
            self.add(path, span, node.wrong("a table").what);
        }
        node.entries().unwrap_or_default()
    }

    fn key(&mut self, setting: &Setting, path: &str, entry: &Entry) {
        let now = self.settings.get(path);
        let read = value(setting, &entry.node, now);
        let full = joined(self.prefix, path);
        let Some(value) = self.faults.take(&full, entry, read) else { return };
        if let Err(error) = self.settings.set(path, value) {
            self.faults.add(&full, &entry.span, refusal(&error));
        }
    }

    fn add(&mut self, path: &str, span: &Span, what: String) {
        self.faults.add(&joined(self.prefix, path), span, what);
    }
}

/// Returns the value of a setting as a file has it; `now` is its default. Ranges are not checked.
fn value(setting: &Setting, node: &Node, now: Option<Value>) -> Result<Value, Wrong> {
    let expected = setting.expected();
    match setting.kind() {
        SettingKind::Number => match &node.tree {
            // What is written for other formats, which have no infinity.
            Tree::Text(text) if text == "inf" && setting.allowed()[1] == f64::INFINITY => {
                Ok(f64::INFINITY.into())
            }
            Tree::Number(_) | Tree::Whole(_) => node.number().map(Value::Number),
            _ => Err(node.wrong(&expected)),
        },
        SettingKind::Count => node.whole(&expected).map(Value::Count),
        SettingKind::Pair => node.array(&expected, Node::number).map(Value::Pair),
        SettingKind::Size => {
            let side = |side: &Node| side.whole::<u32>("a whole number").map(f64::from);
            node.array(&expected, side).map(Value::Pair)
        }
        SettingKind::Rect => rect(node, &expected).map(Value::Rect),
        SettingKind::Rects => {
            let one = |item: &Node| {
                let rect = rect(item, "x, y, width and height")?;
                match setting.refuses(&Value::Rects(vec![rect])) {
                    Some(expected) => {
                        let what =
                            format!("{} is not possible: expected {expected}", Value::Rect(rect));
                        Err(Wrong { what, ..item.wrong("") })
                    }
                    None => Ok(rect),
                }
            };
            node.list(&expected, one).map(Value::Rects)
        }
        SettingKind::Points => {
            let point = |item: &Node| item.array("a list of 2 numbers", Node::number);
            node.list(&expected, point).map(Value::Points)
        }
        SettingKind::Flag => node.flag().map(Value::Flag),
        SettingKind::Text => node.text().map(|text| Value::Text(text.to_owned())),
        SettingKind::Names(_) => {
            node.list(&expected, |item| item.text().map(str::to_owned)).map(Value::Names)
        }
        SettingKind::Choice(choices) => {
            let is_axis = |entry: &Entry| matches!(entry.name.as_str(), "x" | "y");
            let axes =
                node.entries().filter(|all| setting.is_per_axis() && all.iter().any(is_axis));
            match axes {
                Some(axes) => per_axis(choices, axes, &expected, now),
                None => choice(choices, node, &expected).map(Value::Choice),
            }
        }
        _ => Err(node.wrong(&expected)),
    }
}

/// Returns a rectangle: `[x, y, width, height]`, or `{ min = [x, y], max = [x, y] }`. A negative size is kept, to be
/// reported.
fn rect(node: &Node, expected: &str) -> Result<Rect, Wrong> {
    let Some(entries) = node.entries() else {
        let [x, y, width, height] = node.array(expected, Node::number)?;
        return Ok(Rect { min: (x, y).into(), max: (x + width, y + height).into() });
    };
    if let Some(other) = entries.iter().find(|entry| !matches!(entry.name.as_str(), "min" | "max"))
    {
        let what = unknown("key", &other.name, &["min", "max"]);
        return Err(Wrong { key: other.name.clone(), span: other.span.clone(), what });
    }
    let corner = |name: &str| {
        let corner = node.get(name).ok_or_else(|| node.wrong(expected))?;
        let numbers: [f64; 2] = corner.array("a list of 2 numbers", Node::number)?;
        Ok(numbers.into())
    };
    Ok(Rect { min: corner("min")?, max: corner("max")? })
}

fn per_axis(
    choices: &[Choice],
    axes: &[Entry],
    expected: &str,
    now: Option<Value>,
) -> Result<Value, Wrong> {
    let mut chosen = match now {
        Some(Value::PerAxis(axes)) => axes,
        Some(Value::Choice(both)) => [both.clone(), both],
        _ => [Chosen::name(""), Chosen::name("")],
    };
    for axis in axes {
        let place = match axis.name.as_str() {
            "x" => &mut chosen[0],
            "y" => &mut chosen[1],
            other => {
                let what = unknown("key", other, &["x", "y"]);
                return Err(Wrong { key: other.to_owned(), span: axis.span.clone(), what });
            }
        };
        *place = choice(choices, &axis.node, expected).map_err(|wrong| Wrong {
            span: wrong.span.clone().or(axis.span.clone()),
            ..wrong.within(&axis.name)
        })?;
    }
    Ok(Value::PerAxis(chosen))
}

/// One of several names: alone, with numbers, or as a number alone.
fn choice(choices: &[Choice], node: &Node, expected: &str) -> Result<Chosen, Wrong> {
    let named = |name: &str| choices.iter().find(|choice| choice.as_str() == name);
    match &node.tree {
        Tree::Text(name) => match named(name) {
            Some(choice) if choice.form() == ChoiceForm::Name => Ok(Chosen::name(name.clone())),
            Some(choice) => {
                let expected = choice.expected();
                let what = format!("\"{name}\" alone is not enough: expected {expected}");
                Err(Wrong { what, ..node.wrong(&expected) })
            }
            None => {
                let alone = choices.iter().filter(|choice| choice.form() == ChoiceForm::Name);
                let names: Vec<&str> = alone.map(Choice::as_str).collect();
                Err(Wrong { what: unknown("word", name, &names), ..node.wrong(expected) })
            }
        },
        Tree::Number(_) | Tree::Whole(_) => {
            let bare = choices.iter().find(|choice| choice.form() == ChoiceForm::BareNumber);
            let bare = bare.ok_or_else(|| node.wrong(expected))?;
            Ok(Chosen::number(bare.as_str().to_owned(), node.number()?))
        }
        Tree::Table(entries) => {
            let [entry] = entries.as_slice() else { return Err(node.wrong(expected)) };
            let name = entry.name.clone();
            let form = named(&name).map(Choice::form);
            let within = |wrong: Wrong| wrong.within(&name);
            match form {
                Some(ChoiceForm::Number) => {
                    Ok(Chosen::number(name.clone(), entry.node.number().map_err(within)?))
                }
                Some(ChoiceForm::Pair) => {
                    let numbers = entry.node.array("a list of 2 numbers", Node::number);
                    Ok(Chosen::pair(name.clone(), numbers.map_err(within)?))
                }
                Some(_) => Err(node.wrong(expected)),
                None => {
                    let tables = choices.iter().filter(|choice| {
                        matches!(choice.form(), ChoiceForm::Number | ChoiceForm::Pair)
                    });
                    let names: Vec<&str> = tables.map(Choice::as_str).collect();
                    if names.is_empty() {
                        return Err(node.wrong(expected));
                    }
                    let what = unknown("key", &name, &names);
                    Err(Wrong { key: name, span: entry.span.clone(), what })
                }
            }
        }
        _ => Err(node.wrong(expected)),
    }
}

/// Returns the message for a refused setting.
fn refusal(error: &SettingsError) -> String {
    format!("{} is not possible: expected {}", error.value(), error.expected())
}
