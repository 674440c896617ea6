//! The values of a TOML file, each with its place in the text.

use std::ops::{Range, RangeInclusive};

use toml_edit::{Item, TableLike, Value};

use crate::text::fault::{brief, quoted};

/// The bytes of a text in which something stands. `None` for what a change added.
pub type Span = Option<Range<usize>>;

/// A value and its place.
#[derive(Clone, Debug, PartialEq)]
pub struct Node {
    pub span: Span,
    pub tree: Tree,
}

/// A value of any kind.
#[derive(Clone, Debug, PartialEq)]
pub enum Tree {
    Text(String),
    Whole(i64),
    Number(f64),
    Flag(bool),
    Date,
    List(Vec<Node>),
    Table(Vec<Entry>),
}

/// A key of a table and its value.
#[derive(Clone, Debug, PartialEq)]
pub struct Entry {
    pub name: String,
    /// The place of the name.
    pub span: Span,
    pub node: Node,
}

/// What is wrong with a value.
#[derive(Debug)]
pub struct Wrong {
    /// The key within the value, for example the index in a list. Empty for the value itself.
    pub key: String,
    pub span: Span,
    pub what: String,
}

impl Node {
    pub fn of_item(item: &Item) -> Self {
        let tree = match item {
            Item::None => Tree::Table(Vec::new()),
            Item::Value(value) => return Self::of_value(value),
            Item::Table(table) => Tree::Table(entries(table)),
            Item::ArrayOfTables(tables) => {
                let node = |table: &toml_edit::Table| Self {
                    span: table.span(),
                    tree: Tree::Table(entries(table)),
                };
                Tree::List(tables.iter().map(node).collect())
            }
        };
        Self { span: item.span(), tree }
    }

    pub fn of_value(value: &Value) -> Self {
        let tree = match value {
            Value::String(text) => Tree::Text(text.value().clone()),
            Value::Integer(number) => Tree::Whole(*number.value()),
            Value::Float(number) => Tree::Number(*number.value()),
            Value::Boolean(flag) => Tree::Flag(*flag.value()),
            Value::Datetime(_) => Tree::Date,
            Value::Array(items) => Tree::List(items.iter().map(Self::of_value).collect()),
            Value::InlineTable(table) => Tree::Table(entries(table)),
        };
        Self { span: value.span(), tree }
    }

    /// Returns a table without keys.
    pub fn empty() -> Self {
        Self { span: None, tree: Tree::Table(Vec::new()) }
    }

    pub fn entries(&self) -> Option<&[Entry]> {
        match &self.tree {
            Tree::Table(entries) => Some(entries),
            _ => None,
        }
    }

    /// Returns the value in a table, or in a list by its index.
    pub fn get(&self, key: &str) -> Option<&Self> {
        match &self.tree {
            Tree::Table(entries) => entries.iter().find(|one| one.name == key).map(|one| &one.node),
            Tree::List(items) => items.get(key.parse::<usize>().ok()?),
            _ => None,
        }
    }

    /// Returns the fault of a value that is of another kind.
    pub fn wrong(&self, expected: &str) -> Wrong {
        let what = match &self.tree {
            Tree::Text(text) => quoted(text),
            Tree::Whole(number) => number.to_string(),
            Tree::Number(number) => brief(*number),
            Tree::Flag(flag) => flag.to_string(),
            Tree::Date => "a date".to_owned(),
            Tree::List(items) => format!("a list of {}", items.len()),
            Tree::Table(_) => "a table".to_owned(),
        };
        let what = format!("{what}: expected {expected}");
        Wrong { key: String::new(), span: self.span.clone(), what }
    }

    pub fn number(&self) -> Result<f64, Wrong> {
        match self.tree {
            Tree::Number(number) => Ok(number),
            Tree::Whole(number) => Ok(number as f64),
            _ => Err(self.wrong("a number")),
        }
    }

    /// Returns a whole number in the range of its type.
    pub fn whole<T: TryFrom<i64>>(&self, expected: &str) -> Result<T, Wrong> {
        let number =
            if let Tree::Whole(number) = self.tree { T::try_from(number).ok() } else { None };
        number.ok_or_else(|| self.wrong(expected))
    }

    /// Returns a number within a range.
    pub fn number_in(&self, range: RangeInclusive<f64>, expected: &str) -> Result<f64, Wrong> {
        let number = self.number()?;
        if range.contains(&number) { Ok(number) } else { Err(self.wrong(expected)) }
    }

    /// Returns a whole number within a range.
    pub fn whole_in(&self, range: RangeInclusive<u32>, expected: &str) -> Result<u32, Wrong> {
        let number = self.whole(expected)?;
        if range.contains(&number) { Ok(number) } else { Err(self.wrong(expected)) }
    }

    pub fn flag(&self) -> Result<bool, Wrong> {
        if let Tree::Flag(flag) = self.tree { Ok(flag) } else { Err(self.wrong("true or false")) }
    }

    pub fn text(&self) -> Result<&str, Wrong> {
        if let Tree::Text(text) = &self.tree { Ok(text) } else { Err(self.wrong("a text")) }
    }

    /// Reads every item of a list.
    pub fn list<T>(
        &self,
        expected: &str,
        read: impl Fn(&Self) -> Result<T, Wrong>,
    ) -> Result<Vec<T>, Wrong> {
        let Tree::List(items) = &self.tree else { return Err(self.wrong(expected)) };
        let item = |(index, node)| read(node).map_err(|wrong: Wrong| wrong.within(index));
        items.iter().enumerate().map(item).collect()
    }

    /// Reads a list of a certain length.
    pub fn array<T, const N: usize>(
        &self,
        expected: &str,
        read: impl Fn(&Self) -> Result<T, Wrong>,
    ) -> Result<[T; N], Wrong> {
        self.list(expected, read)?.try_into().map_err(|_| self.wrong(expected))
    }

    /// Returns every text in the value.
    pub fn texts(&self) -> Vec<String> {
        match &self.tree {
            Tree::Text(text) => vec![text.clone()],
            Tree::List(items) => items.iter().flat_map(Self::texts).collect(),
            Tree::Table(entries) => entries.iter().flat_map(|one| one.node.texts()).collect(),
            _ => Vec::new(),
        }
    }
}

impl Wrong {
    /// Returns the same fault, of a value that contains it.
    pub fn within(mut self, key: impl std::fmt::Display) -> Self {
        let dot = if self.key.is_empty() { "" } else { "." };
        self.key = format!("{key}{dot}{}", self.key);
        self
    }
}

fn entries(table: &dyn TableLike) -> Vec<Entry> {
    let entry = |(name, item): (&str, &Item)| Entry {
        name: name.to_owned(),
        span: table.key(name).and_then(toml_edit::Key::span),
        node: Node::of_item(item),
    };
    table.iter().map(entry).collect()
}
