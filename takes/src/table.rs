//! Reads CSV files with faults that name the line and the column. Fields are separated by commas, semicolons or tabs.

use std::path::Path;

use csv::{ReaderBuilder, StringRecord, Trim};

use crate::fault::Fault;

/// The text of a CSV file, and its path for messages.
#[derive(Debug)]
pub struct Table<'a> {
    path: &'a Path,
    text: &'a str,
}

impl<'a> Table<'a> {
    /// Creates a table from this text.
    pub fn new(path: &'a Path, text: &'a str) -> Self {
        // Some programs mark the text as UTF-8.
        Self { path, text: text.strip_prefix('\u{feff}').unwrap_or(text) }
    }

    /// The separator, judged by the first line that is not blank.
    fn separator(&self) -> u8 {
        let first = self.text.lines().find(|line| !line.trim().is_empty()).unwrap_or("");
        [b',', b';', b'\t']
            .into_iter()
            .max_by_key(|sign| (first.bytes().filter(|byte| byte == sign).count(), *sign == b','))
            .unwrap_or(b',')
    }

    /// Returns every record with its line, from 1. Rows may differ in length; blank lines are ignored.
    pub fn records(&self) -> Result<Vec<(usize, StringRecord)>, Fault> {
        let mut reader = ReaderBuilder::new()
            .has_headers(false)
            .flexible(true)
            .trim(Trim::All)
            .delimiter(self.separator())
            .from_reader(self.text.as_bytes());
        reader
            .records()
            .map(|record| {
                let record =
                    record.map_err(|error| Fault::of_file(self.path, error.to_string()))?;
                let line = record.position().map_or(1, |position| position.line() as usize);
                Ok((line, record))
            })
            .collect()
    }

    /// Returns a fault at a line and a field, both from 1.
    pub fn fault(&self, line: usize, field: usize, what: impl Into<String>) -> Fault {
        Fault::of_file(self.path, what).at(line, field)
    }

    /// Returns a fault of the file as a whole.
    pub fn whole(&self, what: impl Into<String>) -> Fault {
        Fault::of_file(self.path, what)
    }
}
