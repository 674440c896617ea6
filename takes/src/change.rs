//! A change of one setting from outside its file: `key=value`.

use crate::fault::Fault;

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
    value: toml::Value,
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
        // A bare word counts as a string, so that quotes need no escaping in a shell.
        let parsed = toml::from_str::<toml::Table>(&format!("value = {value}"))
            .or_else(|_| toml::from_str(&format!("value = {value:?}")))
            .map_err(|error| error.message().to_owned())?;
        let value = parsed.get("value").cloned().ok_or("expected one value")?;
        Ok(Self { key, value, option: "--set" })
    }
}

impl std::fmt::Display for Change {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{} = {}", self.key, self.value)
    }
}

impl Change {
    /// Returns the same change for settings that are in this table of a file.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Change, Document, Fault, Files};
    /// let files = [BuiltIn { name: "run.toml", text: "[tuning.zoom]\nlevel = 2.0\n".into() }];
    /// let document = Document::read(Files::BuiltIn(&files), "run.toml".as_ref())?;
    /// let change: Change = "zoom.level=3.0".parse().unwrap();
    /// let table: toml::Table = document.parse_changed(&[change.within("tuning")])?;
    /// assert_eq!(table["tuning"]["zoom"]["level"].as_float(), Some(3.0));
    /// # Ok::<(), Fault>(())
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

    /// A fault of this change. Its key is the one on the command line, wherever the settings are.
    pub(crate) fn fault(&self, what: &str) -> Fault {
        let key = self.key.strip_prefix("tuning.").unwrap_or(&self.key);
        Fault::new(format!("{} {key}: {what}", self.option))
    }

    /// Whether the change affects this key, a part of it, or a table that contains it.
    pub(crate) fn concerns(&self, key: &str) -> bool {
        let within = |one: &str, other: &str| {
            one == other || one.strip_prefix(other).is_some_and(|rest| rest.starts_with('.'))
        };
        within(&self.key, key) || within(key, &self.key)
    }

    pub(crate) fn apply(&self, table: &mut toml::Table) -> Result<(), Fault> {
        let (tables, last) = self.key.rsplit_once('.').unwrap_or(("", &self.key));
        let mut here = table;
        let mut parts = tables.split('.').filter(|part| !part.is_empty());
        while let Some(part) = parts.next() {
            let mut inner = here.entry(part).or_insert_with(|| toml::Table::new().into());
            if let toml::Value::Array(items) = inner {
                inner = self.item(part, items, parts.next())?;
            }
            let kind = inner.type_str();
            here = inner
                .as_table_mut()
                .ok_or_else(|| self.fault(&format!("\"{part}\" is a {kind}, not a table")))?;
        }
        here.insert(last.to_owned(), self.value.clone());
        Ok(())
    }

    /// The item of a list whose index, from 0, is the next part of the key.
    fn item<'a>(
        &self,
        list: &str,
        items: &'a mut [toml::Value],
        number: Option<&str>,
    ) -> Result<&'a mut toml::Value, Fault> {
        let count = items.len();
        number.and_then(|number| items.get_mut(number.parse::<usize>().ok()?)).ok_or_else(|| {
            let what = format!("\"{list}\" is a list of {count}: expected a number from 0");
            self.fault(&format!("{what}, such as {list}.0.key=value"))
        })
    }
}
