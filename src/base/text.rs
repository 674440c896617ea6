//! Texts that resemble each other.

use alloc::vec::Vec;

/// Returns the known name that is most like a given one, if any is like it.
pub(crate) fn nearest<T: AsRef<str>>(given: &str, known: impl IntoIterator<Item = T>) -> Option<T> {
    let distances = known.into_iter().map(|name| (edits(given, name.as_ref()), name));
    let (distance, name) = distances.min_by_key(|(distance, _)| *distance)?;
    (distance <= 2 + name.as_ref().len() / 4).then_some(name)
}

/// Returns the number of letters to insert, to remove or to replace to get from one text to the other.
fn edits(one: &str, other: &str) -> usize {
    let mut row: Vec<usize> = (0..=other.len()).collect();
    for (at, letter) in one.bytes().enumerate() {
        let mut diagonal = core::mem::replace(&mut row[0], at + 1);
        for (column, wanted) in (1..).zip(other.bytes()) {
            let replaced = diagonal + usize::from(letter != wanted);
            diagonal = row[column];
            row[column] = replaced.min(row[column - 1] + 1).min(diagonal + 1);
        }
    }
    row[other.len()]
}
