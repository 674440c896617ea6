//! Changes the text of a tuning file key by key. Comments, order and layout stay.

use toml_edit::{Array, ArrayOfTables, DocumentMut, Item, Table, TableLike, Value};
use velvet_pan::{Settings, SettingsTable, TableForm};

use crate::text::list_text::{change_array, origins};

/// Returns the text after everything that differs between `from` and `to` was changed, and nothing else. The settings
/// are the whole text, or the table `tuning` of a take. Returns `None` if the text is not TOML, or if the settings
/// can't be written.
pub fn changed(text: &str, in_take: bool, from: &Settings, to: &Settings) -> Option<String> {
    let mut document: DocumentMut = text.parse().ok()?;
    let (from, to) = (tree(from)?, tree(to)?);
    let target: &mut dyn TableLike = if in_take {
        let tuning = document.entry("tuning").or_insert_with(|| Item::Table(unheaded()));
        tuning.as_table_like_mut()?
    } else {
        document.as_table_mut()
    };
    change_table(target, &from, &to, 0);
    Some(document.to_string())
}

/// Returns the settings as a file has them, with every key. Returns `None` if a number can't be written.
pub fn tree(settings: &Settings) -> Option<Table> {
    let mut root = Table::new();
    for table in Settings::tables() {
        for path in settings.table_paths(table).iter().filter(|path| settings.has_table(path)) {
            let target = table_at(&mut root, table.path(), path)?;
            for setting in table.keys() {
                let Some(value) = settings.get(&format!("{path}.{}", setting.key())) else {
                    continue;
                };
                let value: Value = setting.write(&value).parse().ok()?;
                let (tables, key) = setting.key().rsplit_once('.').unwrap_or(("", setting.key()));
                inner(target, tables)?.insert(key, value.into());
            }
        }
    }
    Some(root)
}

/// Returns settings as the text of a tuning file, with every key of the tables that `keep` accepts by their name.
/// Returns `None` if a number can't be written: TOML has whole numbers of 63 bits.
///
/// ```
/// # use velvet_pan::Settings;
/// let text = velvet_pan_takes::settings_text(&Settings::default(), |table| table == "rotation").unwrap();
/// assert!(text.starts_with("[rotation]\n"));
/// ```
pub fn settings_text(settings: &Settings, keep: impl Fn(&str) -> bool) -> Option<String> {
    let mut tree = tree(settings)?;
    tree.retain(|name, _| keep(name));
    Some(text_of(tree))
}

/// Returns the text of a file with this content.
pub fn text_of(table: Table) -> String {
    DocumentMut::from(table).to_string()
}

/// Returns the table at a path, which is added if it is missing. In the pattern of the path, `*` stands for a name or a
/// number.
fn table_at<'a>(root: &'a mut Table, pattern: &str, path: &str) -> Option<&'a mut Table> {
    let Some((before, after)) = pattern.split_once(".*") else {
        return path.split('.').try_fold(root, inner);
    };
    let item = path.strip_prefix(before)?.strip_suffix(after)?.strip_prefix('.')?;
    let target = match item.parse::<usize>() {
        Ok(index) if is_list(before) => {
            let items = root.entry(before).or_insert(Item::ArrayOfTables(ArrayOfTables::new()));
            let items = items.as_array_of_tables_mut()?;
            if items.len() == index {
                items.push(Table::new());
            }
            items.get_mut(index)?
        }
        _ => named(inner(root, before)?, item)?,
    };
    after.split('.').try_fold(target, inner)
}

fn is_list(path: &str) -> bool {
    let is_named = |table: &&SettingsTable| table.path().strip_suffix(".*") == Some(path);
    Settings::tables().iter().find(is_named).is_some_and(|table| table.form() == TableForm::List)
}

/// Returns the table of a name within a table, which is added if it is missing; without a name the table itself.
fn inner<'a>(table: &'a mut Table, name: &str) -> Option<&'a mut Table> {
    if name.is_empty() { Some(table) } else { named(table, name) }
}

fn named<'a>(table: &'a mut Table, name: &str) -> Option<&'a mut Table> {
    table.entry(name).or_insert(Item::Table(unheaded())).as_table_mut()
}

/// Returns whether a table needs no heading of its own, because it contains only tables.
fn unheaded() -> Table {
    let mut table = Table::new();
    table.set_implicit(true);
    table
}

fn change_table(
    target: &mut dyn TableLike,
    from: &dyn TableLike,
    to: &dyn TableLike,
    depth: usize,
) {
    let gone = from.iter().map(|(key, _)| key).filter(|key| !to.contains_key(key));
    for key in gone.collect::<Vec<_>>() {
        target.remove(key);
    }
    for (key, to) in to.iter() {
        let from = from.get(key);
        if from.is_some_and(|from| is_same(from, to)) {
            continue;
        }
        match target.get_mut(key) {
            Some(item) => change_item(item, from, to, depth),
            None => add(target, key, from, to, depth),
        }
    }
}

/// Adds what the text does not contain yet; of a table, only what differs. The tables of a file get a heading, those
/// within them are written inline.
fn add(target: &mut dyn TableLike, key: &str, from: Option<&Item>, to: &Item, depth: usize) {
    let Some(to_table) = to.as_table_like() else {
        target.insert(key, written(to));
        return;
    };
    let mut table = Table::new();
    let nothing = Table::new();
    let from = from.and_then(Item::as_table_like).unwrap_or(&nothing);
    change_table(&mut table, from, to_table, depth + 1);
    let item = if depth == 0 { Item::Table(table) } else { table.into_inline_table().into() };
    target.insert(key, item);
}

fn change_item(item: &mut Item, from: Option<&Item>, to: &Item, depth: usize) {
    if let (Some(target), Some(from), Some(to)) =
        (item.as_table_like_mut(), from.and_then(Item::as_table_like), to.as_table_like())
    {
        return change_table(target, from, to, depth + 1);
    }
    if let (Some(tables), Some(from), Some(to)) =
        (item.as_array_of_tables_mut(), from.and_then(tables_of), tables_of(to))
        && tables.len() == from.len()
    {
        return change_tables(tables, &from, &to, depth);
    }
    match (item.as_value_mut(), to.as_value()) {
        (Some(value), Some(to)) => change_value(value, to),
        _ => *item = written(to),
    }
}

/// Changes a list of tables. What stays of it keeps its comments.
fn change_tables(
    tables: &mut ArrayOfTables,
    from: &ArrayOfTables,
    to: &ArrayOfTables,
    depth: usize,
) {
    let (from, to): (Vec<&Table>, Vec<&Table>) = (from.iter().collect(), to.iter().collect());
    let origins = origins(from.len(), to.len(), |i, j| is_same_table(from[i], to[j]));
    let old: Vec<Table> = tables.iter().cloned().collect();
    tables.clear();
    for (to, origin) in to.into_iter().zip(origins) {
        match origin {
            Some(origin) => {
                let mut table = old[origin].clone();
                change_table(&mut table, from[origin], to, depth + 1);
                tables.push(table);
            }
            None => {
                let mut table = Table::new();
                change_table(&mut table, &Table::new(), to, depth + 1);
                table.decor_mut().set_prefix("\n");
                tables.push(table);
            }
        }
    }
}

/// Sets a number of a table, unless it has this value already.
pub fn change_number(table: &mut dyn TableLike, key: &str, number: f64) {
    let is_so = table.get(key).and_then(Item::as_value).is_some_and(|now| is_number(now, number));
    if !is_so {
        change_key(table, key, &number.into());
    }
}

/// Sets a key of a table. A comment beside it stays.
pub fn change_key(table: &mut dyn TableLike, key: &str, to: &Value) {
    match table.get_mut(key) {
        Some(Item::Value(value)) => change_value(value, to),
        _ => _ = table.insert(key, to.clone().into()),
    }
}

fn is_number(value: &Value, number: f64) -> bool {
    value.as_float().or_else(|| value.as_integer().map(|whole| whole as f64)) == Some(number)
}

/// Replaces a value. Spaces and a comment after it stay; so do those of each item of a list.
fn change_value(value: &mut Value, to: &Value) {
    if let (Some(items), Some(to)) = (value.as_array_mut(), to.as_array()) {
        if items.len() != to.len() {
            return change_array(items, to, is_same_value, change_value);
        }
        for (item, to) in items.iter_mut().zip(to) {
            change_value(item, to);
        }
        return;
    }
    let decor = value.decor().clone();
    *value = to.clone();
    *value.decor_mut() = decor;
}

/// Returns a list of tables, in either notation.
fn tables_of(item: &Item) -> Option<ArrayOfTables> {
    match item {
        Item::ArrayOfTables(tables) => Some(tables.clone()),
        Item::Value(Value::Array(array)) => {
            let tables: Option<Vec<Table>> = array
                .iter()
                .map(|value| value.as_inline_table().map(|table| table.clone().into_table()))
                .collect();
            tables.filter(|tables| !tables.is_empty()).map(|tables| tables.into_iter().collect())
        }
        _ => None,
    }
}

/// Returns a new item as people write it: lists of tables with headings, everything else inline.
fn written(item: &Item) -> Item {
    match tables_of(item) {
        Some(tables) => Item::ArrayOfTables(tables),
        None => item.clone(),
    }
}

/// Returns whether two items have the same meaning, in any notation.
fn is_same(one: &Item, other: &Item) -> bool {
    match (one.as_table_like(), other.as_table_like()) {
        (Some(one), Some(other)) => is_same_table(one, other),
        _ => match (one.as_value(), other.as_value()) {
            (Some(one), Some(other)) => is_same_value(one, other),
            _ => false,
        },
    }
}

fn is_same_table(one: &dyn TableLike, other: &dyn TableLike) -> bool {
    let same = |(key, item): (&str, &Item)| one.get(key).is_some_and(|it| is_same(it, item));
    one.len() == other.len() && other.iter().all(same)
}

fn is_same_value(one: &Value, other: &Value) -> bool {
    let all = |one: &Array, other: &Array| {
        one.len() == other.len() && one.iter().zip(other).all(|(a, b)| is_same_value(a, b))
    };
    match (one, other) {
        (Value::String(one), Value::String(other)) => one.value() == other.value(),
        (Value::Integer(one), Value::Integer(other)) => one.value() == other.value(),
        (Value::Float(one), Value::Float(other)) => one.value() == other.value(),
        (Value::Boolean(one), Value::Boolean(other)) => one.value() == other.value(),
        (Value::Array(one), Value::Array(other)) => all(one, other),
        (Value::InlineTable(one), Value::InlineTable(other)) => {
            let same = |(key, value)| one.get(key).is_some_and(|it| is_same_value(it, value));
            one.len() == other.len() && other.iter().all(same)
        }
        _ => false,
    }
}
