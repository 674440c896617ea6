//! The file of a map: tile numbers, row by row.

use std::fmt::Display;

/// Writes the tile of each column and row of a map of this size, in tiles.
pub fn map_text<T: Display>(
    (columns, rows): (usize, usize),
    tile: impl Fn(usize, usize) -> T,
) -> String {
    let row = |row: usize| {
        let numbers: Vec<String> =
            (0..columns).map(|column| tile(column, row).to_string()).collect();
        numbers.join(",") + "\n"
    };
    (0..rows).map(row).collect()
}
