//! A map: a grid of tile numbers from a CSV file.

use std::path::Path;

use velvet_pan::{Grid, Tiles};

use crate::fault::Fault;
use crate::files::Files;
use crate::table::Table;

/// The largest map that is read, in tiles.
const MOST_TILES: usize = 100_000_000;

/// Tile numbers and where they stand; 0 is blank.
#[derive(Clone, Debug, PartialEq)]
pub struct Map {
    grid: Grid,
    numbers: Vec<u16>,
}

impl Map {
    /// Reads a map of tiles of this size, in world units, its smallest coordinates at `origin`.
    pub fn read(
        files: Files<'_>,
        path: &Path,
        tile: [f64; 2],
        origin: [f64; 2],
    ) -> Result<Self, Fault> {
        Self::parse(path, &files.read(path)?, tile, origin)
    }

    /// The same from the file's text.
    pub fn parse(path: &Path, text: &str, tile: [f64; 2], origin: [f64; 2]) -> Result<Self, Fault> {
        let (columns, numbers) = numbers(&Table::new(path, text))?;
        let rows = numbers.len() / columns;
        let grid = Grid::new(columns as u32, rows as u32, tile).with_origin(origin);
        Ok(Self { grid, numbers })
    }

    /// Where the tiles stand.
    pub fn grid(&self) -> &Grid {
        &self.grid
    }

    /// All tile numbers, row by row from the top.
    pub fn numbers(&self) -> &[u16] {
        &self.numbers
    }

    /// How many of these tiles are not blank.
    pub fn filled(&self, tiles: &Tiles) -> usize {
        let blank = |number: &&u16| **number != 0;
        tiles.rows().map(|row| self.numbers[row.indices()].iter().filter(blank).count()).sum()
    }
}

/// The number of columns, and all numbers.
fn numbers(table: &Table<'_>) -> Result<(usize, Vec<u16>), Fault> {
    let records = table.records()?;
    let Some((first_line, first)) = records.first() else {
        return Err(table.whole("no tiles: expected rows of tile numbers"));
    };
    let columns = first.len();
    if columns.saturating_mul(records.len()) > MOST_TILES {
        return Err(table.whole(format!("more than {MOST_TILES} tiles: expected a smaller map")));
    }
    let mut numbers = Vec::with_capacity(columns * records.len());
    for (line, record) in &records {
        if record.len() != columns {
            let what = format!(
                "{} tiles in this row: expected {columns}, as in line {first_line}",
                record.len()
            );
            return Err(table.fault(*line, record.len().min(columns) + 1, what));
        }
        for (index, field) in record.iter().enumerate() {
            let number = field.parse().map_err(|_| {
                let what = format!("\"{field}\" is no tile number: expected 0 (blank) to 65535");
                table.fault(*line, index + 1, what)
            })?;
            numbers.push(number);
        }
    }
    Ok((columns, numbers))
}
