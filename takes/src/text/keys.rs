//! Reads a table key by key, and collects what is wrong.

use std::collections::{BTreeMap, BTreeSet};

use crate::text::change::Change;
use crate::text::document::Document;
use crate::text::fault::{Fault, quoted};
use crate::text::node::{Entry, Node, Span, Tree, Wrong};

/// The maximum number of faults that are noted, many more than are reported.
const MAX_FAULTS: usize = 10_000;

/// What was found wrong while reading a document, with these changes applied to it.
pub struct Faults<'a> {
    pub document: &'a Document,
    pub changes: &'a [Change],
    pub found: Vec<Fault>,
    /// The keys of the faults; a fault of a change does not tell its own.
    keys: BTreeSet<String>,
}

impl<'a> Faults<'a> {
    pub fn new(document: &'a Document, changes: &'a [Change]) -> Self {
        Self { document, changes, found: Vec::new(), keys: BTreeSet::new() }
    }

    /// Adds a fault of a key. It names the change that the value came from, or else the place in the document.
    pub fn add(&mut self, key: &str, span: &Span, what: String) {
        if self.found.len() == MAX_FAULTS {
            return;
        }
        let fault = match self.changes.iter().rev().find(|change| change.concerns(key)) {
            Some(change) => {
                // For a whole table, name the key within it.
                let part = key.strip_prefix(&change.key).unwrap_or("").trim_start_matches('.');
                change.fault(&if part.is_empty() { what } else { format!("{part}: {what}") })
            }
            None => self.document.fault_at(key, span, what),
        };
        self.found.push(fault);
        self.keys.insert(key.to_owned());
    }

    /// Returns whether this key, or a part of it, already has a fault.
    pub fn has(&self, key: &str) -> bool {
        let part = format!("{key}.");
        let next = self.keys.range(part.clone()..).next();
        self.keys.contains(key) || next.is_some_and(|found| found.starts_with(&part))
    }

    /// Returns a value that was read, or adds the fault of its entry.
    pub fn take<T>(&mut self, path: &str, entry: &Entry, read: Result<T, Wrong>) -> Option<T> {
        let wrong = match read {
            Ok(value) => return Some(value),
            Err(wrong) => wrong,
        };
        if wrong.key.is_empty() {
            self.add(path, &entry.span, wrong.what);
        } else {
            self.add(&format!("{path}.{}", wrong.key), &wrong.span, wrong.what);
        }
        None
    }
}

/// The keys of a table that is being read.
pub struct Keys<'a, 'f, 'd> {
    path: String,
    span: Span,
    entries: &'a [Entry],
    known: Vec<&'static str>,
    pub faults: &'f mut Faults<'d>,
}

impl<'a, 'f, 'd> Keys<'a, 'f, 'd> {
    /// Returns the keys of the value at a path, which should be a table.
    pub fn of(node: &'a Node, path: &str, span: &Span, faults: &'f mut Faults<'d>) -> Self {
        if node.entries().is_none() {
            faults.add(path, span, node.wrong("a table").what);
        }
        let entries = node.entries().unwrap_or_default();
        Self { path: path.to_owned(), span: span.clone(), entries, known: Vec::new(), faults }
    }

    /// Returns the path of a key.
    pub fn path(&self, key: &str) -> String {
        joined(&self.path, key)
    }

    /// Returns an entry, if there is one.
    pub fn entry(&mut self, key: &'static str) -> Option<&'a Entry> {
        self.known.push(key);
        self.entries.iter().find(|entry| entry.name == key)
    }

    /// Reads a key, if it is there.
    pub fn read<T>(
        &mut self,
        key: &'static str,
        read: impl FnOnce(&'a Node) -> Result<T, Wrong>,
    ) -> Option<T> {
        let entry = self.entry(key)?;
        let path = self.path(key);
        self.faults.take(&path, entry, read(&entry.node))
    }

    /// Reads a key that must be there.
    pub fn required<T: Default>(
        &mut self,
        key: &'static str,
        expected: &str,
        read: impl FnOnce(&'a Node) -> Result<T, Wrong>,
    ) -> T {
        if !self.entries.iter().any(|entry| entry.name == key) && !self.entries.is_empty() {
            let (path, span) = (self.path(key), self.span.clone());
            self.faults.add(&path, &span, format!("missing: expected {expected}"));
        }
        self.read(key, read).unwrap_or_default()
    }

    pub fn number(&mut self, key: &'static str) -> Option<f64> {
        self.read(key, Node::number)
    }

    pub fn flag(&mut self, key: &'static str) -> bool {
        self.read(key, Node::flag).unwrap_or(false)
    }

    pub fn text(&mut self, key: &'static str) -> Option<String> {
        self.read(key, Node::text).map(str::to_owned)
    }

    /// Returns a list of names.
    pub fn texts(&mut self, key: &'static str) -> Option<Vec<String>> {
        self.read(key, |node| node.list("a list of names", |item| item.text().map(str::to_owned)))
    }

    /// Returns a list of this many numbers.
    pub fn numbers<const N: usize>(&mut self, key: &'static str) -> Option<[f64; N]> {
        self.read(key, |node| node.array(&format!("a list of {N} numbers"), Node::number))
    }

    /// Returns width and height in whole numbers.
    pub fn size(&mut self, key: &'static str) -> Option<[u32; 2]> {
        let side = |side: &Node| side.whole("a whole number, 0 or more");
        self.read(key, |node| node.array("a width and a height", side))
    }

    /// Reads the table of this key, if it is there.
    pub fn table<T>(
        &mut self,
        key: &'static str,
        read: impl FnOnce(Keys<'a, '_, 'd>) -> T,
    ) -> Option<T> {
        let (entry, path) = (self.entry(key)?, self.path(key));
        Some(read(Keys::of(&entry.node, &path, &entry.span, self.faults)))
    }

    /// Reads every named table within the table of this key.
    pub fn named<T>(
        &mut self,
        key: &'static str,
        mut read: impl FnMut(Keys<'a, '_, 'd>) -> T,
    ) -> Vec<(String, T)> {
        let Some(entry) = self.entry(key) else { return Vec::new() };
        let path = self.path(key);
        let all = Keys::of(&entry.node, &path, &entry.span, self.faults);
        let named = all.entries.iter().map(|one| {
            let path = joined(&path, &one.name);
            (one.name.clone(), read(Keys::of(&one.node, &path, &one.span, all.faults)))
        });
        named.collect()
    }

    /// Reads the numbers in the table of this key, by name.
    pub fn number_table(&mut self, key: &'static str) -> BTreeMap<String, f64> {
        let Some(entry) = self.entry(key) else { return BTreeMap::new() };
        let path = self.path(key);
        let all = Keys::of(&entry.node, &path, &entry.span, self.faults);
        let numbers = all.entries.iter().filter_map(|one| {
            let number = all.faults.take(&joined(&path, &one.name), one, one.node.number())?;
            Some((one.name.clone(), number))
        });
        numbers.collect()
    }

    /// Reads every table in the list of this key.
    pub fn listed<T>(
        &mut self,
        key: &'static str,
        mut read: impl FnMut(Keys<'a, '_, 'd>) -> T,
    ) -> Vec<T> {
        let path = self.path(key);
        let items = self.read(key, |node| match &node.tree {
            Tree::List(items) => Ok(items),
            _ => Err(node.wrong("a list of tables")),
        });
        let listed = items.into_iter().flatten().enumerate().map(|(index, node)| {
            read(Keys::of(node, &format!("{path}.{index}"), &node.span, self.faults))
        });
        listed.collect()
    }

    /// Adds a fault for each key that nothing has read.
    pub fn finish(self) {
        for entry in self.entries.iter().filter(|one| !self.known.contains(&one.name.as_str())) {
            let what = unknown("key", &entry.name, &self.known);
            self.faults.add(&joined(&self.path, &entry.name), &entry.span, what);
        }
    }
}

/// Returns the path of a key in a table.
pub fn joined(path: &str, key: &str) -> String {
    if path.is_empty() { key.to_owned() } else { format!("{path}.{key}") }
}

/// Returns the message for an unknown name, with the nearest known one.
pub fn unknown(kind: &str, given: &str, known: &[&str]) -> String {
    let nearest = known
        .iter()
        .map(|name| (strsim::osa_distance(given, name), name))
        .min_by_key(|(distance, _)| *distance)
        .filter(|(distance, name)| *distance < name.len().min(2 + name.len() / 3));
    let given = quoted(given);
    match nearest {
        Some((_, name)) => format!("unknown {kind} {given}: did you mean \"{name}\"?"),
        None => format!("unknown {kind} {given}: expected one of {}", known.join(", ")),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_unknown_name_is_answered_with_the_nearest() {
        let known = ["axes", "anchor", "offset"];
        assert_eq!(
            unknown("key", "anchr", &known),
            "unknown key \"anchr\": did you mean \"anchor\"?"
        );
        let far = unknown("key", "zzz", &known[..2]);
        assert_eq!(far, "unknown key \"zzz\": expected one of axes, anchor");
    }
}
