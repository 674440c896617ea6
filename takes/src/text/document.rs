//! A TOML file, with faults that name line, column and key.

use std::borrow::Cow;
use std::path::{Path, PathBuf};
use std::sync::OnceLock;

use crate::text::change::Change;
use crate::text::fault::{Fault, quoted};
use crate::text::files::Files;
use crate::text::node::{Entry, Node, Span};

/// The text of a TOML file, and its path.
#[derive(Clone, Debug)]
pub struct Document {
    path: PathBuf,
    text: String,
    /// What the text says, once it is asked for.
    root: OnceLock<Result<Node, Fault>>,
    /// Where each line begins, once a fault is found.
    lines: OnceLock<Vec<usize>>,
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
        let (root, lines) = (OnceLock::new(), OnceLock::new());
        Ok(Self { path: path.to_owned(), text: files.read(path)?, root, lines })
    }

    /// Returns the path of the file.
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// Returns the whole text of the file.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// Returns every number of a file that contains nothing else, with its dotted key.
    ///
    /// # Errors
    ///
    /// The file is not TOML, or a value is not a number.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Document, Fault, Files};
    /// let files = [BuiltIn { name: "limits.toml", text: "settle = 2\n[lag]\nworst = 40.5\n".into() }];
    /// let document = Document::read(Files::BuiltIn(&files), "limits.toml".as_ref())?;
    /// assert_eq!(document.numbers()?, [("settle".to_owned(), 2.0), ("lag.worst".to_owned(), 40.5)]);
    /// # Ok::<(), Fault>(())
    /// ```
    pub fn numbers(&self) -> Result<Vec<(String, f64)>, Fault> {
        let (numbers, faults) = self.all_numbers();
        faults.into_iter().next().map_or(Ok(numbers), Err)
    }

    /// Returns every number with its dotted key, and a fault for each value that is not a number.
    pub fn all_numbers(&self) -> (Vec<(String, f64)>, Vec<Fault>) {
        let (mut numbers, mut faults) = (Vec::new(), Vec::new());
        match self.root() {
            Ok(root) => self.add_numbers(root, "", &mut numbers, &mut faults),
            Err(fault) => faults.push(fault),
        }
        (numbers, faults)
    }

    fn add_numbers(
        &self,
        table: &Node,
        prefix: &str,
        numbers: &mut Vec<(String, f64)>,
        faults: &mut Vec<Fault>,
    ) {
        for Entry { name, span, node } in table.entries().unwrap_or_default() {
            let key = format!("{prefix}{name}");
            if node.entries().is_some() {
                self.add_numbers(node, &format!("{key}."), numbers, faults);
                continue;
            }
            match node.number() {
                Ok(number) => numbers.push((key, number)),
                Err(wrong) => faults.push(self.fault_at(&key, span, wrong.what)),
            }
        }
    }

    /// Returns every text in the file, for example the names of other files. Returns nothing if the file is not TOML.
    pub fn texts(&self) -> Vec<String> {
        self.root().map(Node::texts).unwrap_or_default()
    }

    /// Returns a fault at this key. If the file does not contain the key, the fault is at the longest part of the key
    /// that it contains, or of the file as a whole.
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
        self.fault_at(key, &None, what)
    }

    /// Returns a fault at a known place. Without one, the key is searched for.
    pub(crate) fn fault_at(&self, key: &str, span: &Span, what: impl Into<String>) -> Fault {
        let mut fault = Fault::of_file(&self.path, what);
        if !key.is_empty() {
            fault = fault.of_key(key);
        }
        match span.clone().or_else(|| self.find(key)) {
            Some(span) => self.at(fault, span.start),
            None => fault,
        }
    }

    fn at(&self, fault: Fault, offset: usize) -> Fault {
        let end = self.text.floor_char_boundary(offset);
        let ends = || self.text.match_indices('\n').map(|(at, _)| at + 1);
        let starts = self.lines.get_or_init(|| std::iter::once(0).chain(ends()).collect());
        let line = starts.partition_point(|start| *start <= end);
        let column = self.text[starts[line - 1]..end].chars().count() + 1;
        fault.at(line, column)
    }

    /// Returns the values of the file.
    pub(crate) fn root(&self) -> Result<&Node, Fault> {
        self.root.get_or_init(|| self.parse()).as_ref().map_err(Clone::clone)
    }

    fn parse(&self) -> Result<Node, Fault> {
        let error = match toml_edit::Document::parse(self.text.as_str()) {
            Ok(document) => return Ok(Node::of_item(document.as_item())),
            Err(error) => error,
        };
        let span = error.span();
        let part = span.clone().and_then(|span| self.text.get(span)).unwrap_or("");
        let fault = Fault::of_file(&self.path, in_plain_words(error.message(), part));
        Err(match span {
            Some(span) => self.at(fault, span.start),
            None => fault,
        })
    }

    /// Returns the values of the file after these changes.
    pub(crate) fn changed(&self, changes: &[Change]) -> Result<Cow<'_, Node>, Fault> {
        let mut root = Cow::Borrowed(self.root()?);
        for change in changes {
            change.apply(root.to_mut())?;
        }
        Ok(root)
    }

    /// Returns the place of a dotted key, or of the longest part of the key that the file contains.
    fn find(&self, key: &str) -> Span {
        let (mut here, mut found) = (self.root().ok()?, None);
        for part in key.split('.') {
            let entry = here.entries().and_then(|all| all.iter().find(|one| one.name == part));
            here = match entry {
                Some(entry) => &entry.node,
                None => match here.get(part) {
                    Some(item) => item,
                    None => break,
                },
            };
            found = entry.map_or(&here.span, |entry| &entry.span).clone().or(found);
        }
        found
    }
}

/// Returns the message of the TOML parser for a part of a text, without words of parsers.
pub(crate) fn in_plain_words(message: &str, part: &str) -> String {
    let first = message.lines().next().unwrap_or_default();
    let what = first.split(", expected ").next().unwrap_or_default();
    let part = quoted(part.trim());
    match what {
        "duplicate key" => format!("{part} twice: expected each key and each table once"),
        "string values must be quoted" if part == "\"\"" => {
            "no value: expected one after the =".to_owned()
        }
        "invalid boolean" => "neither true nor false: expected quotes around a text".to_owned(),
        "string values must be quoted" => {
            format!("{part}: expected a text in quotes, a number, true or false")
        }
        "" => "not TOML: expected key = value, or [table]".to_owned(),
        what => format!("not TOML: {}", what.replace('`', "\"")),
    }
}

/// The maximum number of faults that are reported for one file.
const MAX_FAULTS: usize = 100;

/// Returns the faults of a file in its order.
pub(crate) fn in_order(mut faults: Vec<Fault>) -> Vec<Fault> {
    faults.sort_by_key(|fault| (fault.place.is_none(), fault.place));
    faults.truncate(MAX_FAULTS);
    faults
}
