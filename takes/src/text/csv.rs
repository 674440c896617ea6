//! Reads CSV files with faults that name the line and the column. Fields are separated by commas, semicolons or tabs.

use std::path::Path;

use csv::{ReaderBuilder, StringRecord, Trim};

use crate::text::fault::Fault;

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

    /// Returns the separator, judged by the first line that is not blank.
    fn separator(&self) -> u8 {
        let first = self.text.lines().find(|line| !line.trim().is_empty()).unwrap_or("");
        [b',', b';', b'\t']
            .into_iter()
            .max_by_key(|sign| (first.bytes().filter(|byte| byte == sign).count(), *sign == b','))
            .unwrap_or(b',')
    }

    /// Returns every record with its line, from 1, as an editor counts. Rows may differ in length; blank lines are
    /// ignored.
    pub fn records(&self) -> Result<Vec<(usize, StringRecord)>, Fault> {
        let mut reader = ReaderBuilder::new()
            .has_headers(false)
            .flexible(true)
            .trim(Trim::All)
            .delimiter(self.separator())
            .from_reader(self.text.as_bytes());
        let mut counter = Lines { text: self.text, at: 0, line: 1 };
        reader
            .records()
            .map(|record| {
                let record =
                    record.map_err(|error| Fault::of_file(self.path, error.to_string()))?;
                let start = record.position().map_or(0, |position| position.byte() as usize);
                Ok((counter.line_of(start), record))
            })
            .collect()
    }

    /// Returns a fault at a line and a field, both from 1. Its column is that of the field's first sign.
    pub fn fault(&self, line: usize, field: usize, what: impl Into<String>) -> Fault {
        Fault::of_file(self.path, what).at(line, self.column(line, field))
    }

    /// Returns the column of a field in a line, in signs from 1. A field that is missing is behind the end.
    pub(crate) fn column(&self, line: usize, field: usize) -> usize {
        let mut counter = Lines { text: self.text, at: 0, line: 1 };
        let start = counter.start_of(line);
        let separator = char::from(self.separator());
        let (mut quoted, mut left) = (false, field.saturating_sub(1));
        let mut column = 1;
        for sign in self.text[start..].chars().take_while(|sign| !matches!(sign, '\r' | '\n')) {
            if left == 0 && !(sign.is_whitespace() || sign == '"') {
                break;
            }
            quoted ^= sign == '"';
            left -= usize::from(sign == separator && !quoted && left > 0);
            column += 1;
        }
        column
    }

    /// Returns a fault of the file as a whole.
    pub fn whole(&self, what: impl Into<String>) -> Fault {
        Fault::of_file(self.path, what)
    }
}

/// Counts the lines of a text on its way through it. A line ends with CR LF, LF or CR.
struct Lines<'a> {
    text: &'a str,
    /// The bytes that were counted, and the line there.
    at: usize,
    line: usize,
}

impl Lines<'_> {
    /// Returns the line of a record that begins at this byte, or after the blank lines there.
    fn line_of(&mut self, byte: usize) -> usize {
        let bytes = self.text.as_bytes();
        let blank = |byte: &u8| matches!(byte, b'\r' | b'\n');
        let start = byte + bytes[byte..].iter().take_while(|byte| blank(byte)).count();
        while self.at < start {
            self.pass();
        }
        self.line
    }

    /// Returns the first byte of a line.
    fn start_of(&mut self, line: usize) -> usize {
        while self.line < line && self.at < self.text.len() {
            self.pass();
        }
        self.at
    }

    fn pass(&mut self) {
        let bytes = self.text.as_bytes();
        let ends = match bytes[self.at] {
            b'\n' => true,
            b'\r' => bytes.get(self.at + 1) != Some(&b'\n'),
            _ => false,
        };
        self.at += 1;
        self.line += usize::from(ends);
    }
}
