//! The folders of a log: `part-1`, `part-2` and so on, one for each start.

use std::fs;
use std::path::{Path, PathBuf};

/// The take of a part.
pub(super) const TAKE: &str = "take.toml";
/// The table of its calls.
pub(super) const CALLS: &str = "calls.csv";

/// Returns the take of the newest part of a log.
#[must_use]
pub fn newest_part(folder: &Path) -> Option<PathBuf> {
    let takes = numbers(folder).into_iter().map(|number| part(folder, number).join(TAKE));
    takes.rev().find(|take| take.is_file())
}

/// Returns a part of a log.
pub(super) fn part(folder: &Path, number: u32) -> PathBuf {
    folder.join(format!("part-{number}"))
}

/// Creates the folder of a new part.
pub(super) fn new_part(folder: &Path) -> std::io::Result<PathBuf> {
    fs::create_dir_all(folder)?;
    let number = numbers(folder).last().map_or(1, |last| last + 1);
    let part = part(folder, number);
    fs::create_dir(&part)?;
    Ok(part)
}

/// Returns the numbers of all parts, in order.
fn numbers(folder: &Path) -> Vec<u32> {
    let entries = fs::read_dir(folder).into_iter().flatten().flatten();
    let number = |name: String| name.strip_prefix("part-")?.parse().ok();
    let mut numbers: Vec<u32> =
        entries.filter_map(|entry| number(entry.file_name().into_string().ok()?)).collect();
    numbers.sort_unstable();
    numbers
}
