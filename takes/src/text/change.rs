//! A change of one setting from outside its file: `key=value`.

use toml_edit::{DocumentMut, TomlError};

use crate::text::fault::Fault;
use crate::text::node::{Entry, Node, Tree};

/// A change of one setting, as given on a command line: `follow.anchor=[0.5, 0.6]`.
///
/// ```
/// # use velvet_pan_takes::Change;
/// let change: Change = "follow.anchor=[0.5, 0.6]".parse().unwrap();
/// assert_eq!(change.to_string(), "follow.anchor = [0.5, 0.6]");
/// ```
#[derive(Clone, Debug, PartialEq)]
pub struct Change {
    pub(crate) key: String,
    value: Node,
    /// The value as a file has it.
    text: String,
    /// The option that gave it.
    option: &'static str,
}

impl std::str::FromStr for Change {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        let (key, value) = text
            .split_once('=')
            .ok_or("expected key=value, such as follow.anchor=[0.5, 0.6]".to_owned())?;
        let (key, value) = (key.trim().to_owned(), value.trim());
        if key.split('.').any(|part| part.trim().is_empty()) {
            return Err(format!(
                "\"{key}\": expected names with a dot between, such as follow.anchor"
            ));
        }
        // A bare word counts as a string, so that quotes need no escaping in a shell.
        let parsed: DocumentMut = format!("value = {value}")
            .parse()
            .or_else(|_| format!("value = {value:?}").parse())
            .map_err(|error: TomlError| error.message().to_owned())?;
        let value = parsed.get("value").ok_or("expected one value")?;
        let text = value.to_string().trim().to_owned();
        Ok(Self { key, value: Node::of_item(value), text, option: "--set" })
    }
}

impl std::fmt::Display for Change {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{} = {}", self.key, self.text)
    }
}

impl Change {
    /// Returns the same change for settings that are in this table of a file.
    ///
    /// ```
    /// # use velvet_pan_takes::Change;
    /// let change: Change = "zoom.level=3.0".parse().unwrap();
    /// assert_eq!(change.within("tuning").to_string(), "tuning.zoom.level = 3.0");
    /// ```
    pub fn within(&self, table: &str) -> Self {
        Self { key: format!("{table}.{}", self.key), ..self.clone() }
    }

    /// Returns the same change, given with another option than `--set`. Messages then name that option.
    #[must_use]
    pub fn given_with(mut self, option: &'static str) -> Self {
        self.option = option;
        self
    }

    /// Returns a fault of this change. Its key is the one on the command line, wherever the settings are.
    pub(crate) fn fault(&self, what: &str) -> Fault {
        let key = self.key.strip_prefix("tuning.").unwrap_or(&self.key);
        Fault::new(format!("{} {key}: {what}", self.option))
    }

    /// Returns whether the change affects this key, a part of it, or a table that contains it.
    pub(crate) fn concerns(&self, key: &str) -> bool {
        let within = |one: &str, other: &str| {
            one == other || one.strip_prefix(other).is_some_and(|rest| rest.starts_with('.'))
        };
        within(&self.key, key) || within(key, &self.key)
    }

    /// Changes the values of a file. Tables that are missing are added.
    pub(crate) fn apply(&self, root: &mut Node) -> Result<(), Fault> {
        let parts: Vec<&str> = self.key.split('.').collect();
        let mut here = root;
        for (index, part) in parts.iter().enumerate() {
            here = self.inner(here, part, &parts[..index].join("."))?;
        }
        *here = self.value.clone();
        Ok(())
    }

    /// Returns the value of a key in a table, or of a list's item by its index from 0. A key that is missing is added.
    /// `path` is the path of the table or the list.
    fn inner<'a>(&self, node: &'a mut Node, part: &str, path: &str) -> Result<&'a mut Node, Fault> {
        let kind = node.wrong("a table").what;
        match &mut node.tree {
            Tree::Table(entries) => {
                let found = entries.iter().position(|entry| entry.name == part);
                let index = found.unwrap_or(entries.len());
                if found.is_none() {
                    entries.push(Entry { name: part.to_owned(), span: None, node: Node::empty() });
                }
                Ok(&mut entries[index].node)
            }
            Tree::List(items) => {
                let count = items.len();
                let item = part.parse().ok().and_then(|index: usize| items.get_mut(index));
                item.ok_or_else(|| {
                    let what = format!("\"{path}\" is a list of {count}: expected a number from 0");
                    self.fault(&format!("{what}, such as {path}.0.key=value"))
                })
            }
            _ => Err(self.fault(&format!("\"{path}\" is {kind}"))),
        }
    }
}
