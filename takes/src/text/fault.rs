//! The message for input that can't be used: where, what, and a correct value.

use std::fmt;
use std::path::Path;

/// Returns a number as people write it; a very large or very small one with a power of ten.
pub(crate) fn brief(number: f64) -> String {
    match number.abs() {
        size if size == 0.0 || (1e-6..1e15).contains(&size) || !size.is_finite() => {
            format!("{number}")
        }
        _ => format!("{number:e}"),
    }
}

/// Returns a user's text in quotes, on one line and shortened.
pub(crate) fn quoted(text: &str) -> String {
    const MAX_CHARACTERS: usize = 40;
    let line = text.lines().next().unwrap_or("");
    let short: String = line.chars().take(MAX_CHARACTERS).collect();
    let rest = if short.len() < text.len() { "…" } else { "" };
    format!("\"{short}{rest}\"")
}

/// One mistake in the user's input.
///
/// ```
/// # use velvet_pan_takes::{BuiltIn, Files, Overrides, Take};
/// let text = "seconds = 2.0\n[subjects.courier]\nkeys = []\n";
/// let files = [BuiltIn { name: "run.toml", text: text.into() }];
/// let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default());
/// let fault = take.unwrap_err();
/// assert!(fault.to_string().starts_with("run.toml:3"), "{fault}");
/// ```
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Fault {
    /// The file as the user would name it. `None` for a fault of the command line.
    pub file: Option<String>,
    /// Line and column, from 1.
    pub place: Option<(usize, usize)>,
    /// The dotted key, or the column of a table.
    pub key: Option<String>,
    /// What is wrong and what would be right, in one sentence.
    pub what: String,
}

impl Fault {
    /// Returns a fault that belongs to no file.
    pub fn new(what: impl Into<String>) -> Self {
        Self { what: what.into(), ..Self::default() }
    }

    /// Returns a fault of a file as a whole.
    ///
    /// ```
    /// # use velvet_pan_takes::Fault;
    /// let fault = Fault::of_file("run.csv".as_ref(), "0 is too small").at(3, 1).of_key("t");
    /// assert_eq!(fault.to_string(), "run.csv:3:1: t: 0 is too small");
    /// ```
    pub fn of_file(file: &Path, what: impl Into<String>) -> Self {
        Self { file: Some(file.display().to_string()), ..Self::new(what) }
    }

    /// Returns the same fault at a line and a column, both from 1.
    pub fn at(mut self, line: usize, column: usize) -> Self {
        self.place = Some((line, column));
        self
    }

    /// Returns the same fault with a key.
    pub fn of_key(mut self, key: impl Into<String>) -> Self {
        self.key = Some(key.into());
        self
    }
}

impl fmt::Display for Fault {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if let Some(file) = &self.file {
            f.write_str(file)?;
            if let Some((line, column)) = self.place {
                write!(f, ":{line}:{column}")?;
            }
            f.write_str(": ")?;
        }
        if let Some(key) = &self.key {
            write!(f, "{key}: ")?;
        }
        f.write_str(&self.what)
    }
}

impl std::error::Error for Fault {}
