//! Limits that a ride must keep, from the command line or from a file beside the take.

use std::path::{Path, PathBuf};
use std::str::FromStr;

use velvet_pan_takes::{Better, Document, Fault, Figure, Figures, Files};

use super::comfort::is_beyond;

/// The worst allowed value of a figure.
#[derive(Clone, Copy, Debug)]
pub struct Limit {
    pub figure: &'static Figure,
    pub value: f64,
}

impl FromStr for Limit {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        let expected = "expected FIGURE=VALUE, such as lag.worst=80";
        let (name, value) = text.split_once('=').ok_or(expected)?;
        let value = value.trim().parse().map_err(|_| expected)?;
        Self::of(name, value)
    }
}

impl Limit {
    fn of(name: &str, value: f64) -> Result<Self, String> {
        let figure = named(name)?;
        if !value.is_finite() || value < 0.0 {
            return Err(format!("{value} is not possible: expected a number, 0 or more"));
        }
        Ok(Self { figure, value })
    }

    /// Returns limits in which these replace those of other sources for the same figures.
    pub fn replacing(own: &[Self], others: Vec<Self>) -> Vec<Self> {
        let is_own = |limit: &Self| own.iter().any(|one| one.figure.key == limit.figure.key);
        others.into_iter().filter(|limit| !is_own(limit)).chain(own.iter().copied()).collect()
    }

    /// Returns how these figures exceed the limit, if they do.
    pub fn broken(&self, figures: &Figures) -> Option<String> {
        let Self { figure, value: limit } = self;
        let name = spelled(figure);
        let Some(value) = figure.of(figures) else {
            return Some(format!("{name}: {}: expected {} {limit}", figure.reason(), self.sense()));
        };
        is_beyond(figure, value, *limit).then(|| {
            format!("{name}: {}: expected {} {limit}", figure.shown(figures), self.sense())
        })
    }

    fn sense(&self) -> &'static str {
        if self.figure.better == Better::Low { "at most" } else { "at least" }
    }
}

/// Returns the figure with a name, or a list of all names.
pub fn named(name: &str) -> Result<&'static Figure, String> {
    Figure::named(name).ok_or_else(|| {
        let all: Vec<String> = Figure::ALL.iter().map(spelled).collect();
        format!("no figure \"{}\": expected one of {}", name.trim(), all.join(", "))
    })
}

/// Returns the name of a figure on the command line.
pub fn spelled(figure: &Figure) -> String {
    match figure.key.strip_prefix("lag_") {
        Some(rest) => format!("lag.{rest}"),
        None => figure.key.replace('_', "-"),
    }
}

/// Returns the file of limits beside a take: `crossing.limits.toml` for `crossing.toml`.
pub fn file_beside(take: &Path) -> PathBuf {
    take.with_extension("limits.toml")
}

/// Returns whether a file is a file of limits, by its name.
pub fn is_limits_file(path: &Path) -> bool {
    path.to_string_lossy().ends_with(".limits.toml")
}

/// Returns the limits beside a take, empty without such a file.
pub fn beside(take: &Path) -> Result<Vec<Limit>, Fault> {
    let path = file_beside(take);
    if path.exists() { read(&path) } else { Ok(Vec::new()) }
}

/// Reads a file of limits.
fn read(path: &Path) -> Result<Vec<Limit>, Fault> {
    let first = |faults: Vec<Fault>| faults.into_iter().next();
    read_all(path).map_err(|faults| first(faults).unwrap_or_else(|| Fault::of_file(path, "faulty")))
}

/// Reads a file of limits, or returns all faults in the order of the file.
pub fn read_all(path: &Path) -> Result<Vec<Limit>, Vec<Fault>> {
    let document = Document::read(Files::Disk, path).map_err(|fault| vec![fault])?;
    let (numbers, mut faults) = document.all_numbers();
    let mut limits = Vec::new();
    for (name, most) in numbers {
        match Limit::of(&name, most) {
            Ok(limit) => limits.push(limit),
            Err(what) => faults.push(document.fault(&name, what)),
        }
    }
    faults.sort_by_key(|fault| fault.place);
    if faults.is_empty() { Ok(limits) } else { Err(faults) }
}
