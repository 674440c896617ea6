//! A map: a grid of tile numbers from a CSV file.

use std::path::Path;

use csv::StringRecord;
use velvet_pan::{Grid, Tiles};

use crate::text::csv::Table;
use crate::text::fault::{Fault, quoted};
use crate::text::files::Files;

/// The largest map that is read, in tiles.
const MAX_TILES: usize = 100_000_000;

/// Tile numbers and their grid. 0 is blank.
#[derive(Clone, Debug, PartialEq)]
pub struct Map {
    grid: Grid,
    numbers: Vec<u16>,
}

/// How the numbers of a map's file are interpreted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct MapForm {
    /// The size of a tile, in world units.
    pub tile: [f64; 2],
    /// The smallest coordinates of the map, in world units.
    pub origin: [f64; 2],
    /// The number of a blank tile: 0 or −1. With −1, tile 0 is a picture, and tile `n` becomes number `n + 1`.
    pub blank: i64,
    /// The number of low bits that name the tile, for files whose higher bits say how a tile is flipped. Default
    /// `None`: numbers are plain.
    pub number_bits: Option<u32>,
}

impl MapForm {
    /// Uses tiles of this size, starting at the world's origin, with 0 as the blank tile.
    pub fn new(tile: [f64; 2]) -> Self {
        Self { tile, origin: [0.0; 2], blank: 0, number_bits: None }
    }

    /// Does the same, with −1 as the blank tile if the text contains one.
    ///
    /// ```
    /// # use velvet_pan_takes::MapForm;
    /// assert_eq!(MapForm::guessed([16.0, 16.0], "-1,-1,0").blank, -1);
    /// assert_eq!(MapForm::guessed([16.0, 16.0], "0,0,1").blank, 0);
    /// ```
    pub fn guessed(tile: [f64; 2], text: &str) -> Self {
        Self { blank: if text.contains("-1") { -1 } else { 0 }, ..Self::new(tile) }
    }
}

impl Map {
    /// Reads a map from a CSV file with one row of tiles per line, separated by commas, semicolons or tabs. A
    /// separator may end the rows. An empty field is blank.
    ///
    /// # Errors
    ///
    /// The file can't be read, a field is not a tile number, or the rows differ in length.
    pub fn read(files: Files<'_>, path: &Path, form: &MapForm) -> Result<Self, Fault> {
        Self::parse(path, &files.read(path)?, form)
    }

    /// Parses the text of such a file. `path` is only for messages.
    ///
    /// # Errors
    ///
    /// As [`read`](Self::read), except that no file is read.
    ///
    /// ```
    /// # use velvet_pan_takes::{Map, MapForm};
    /// let form = MapForm::new([16.0, 16.0]);
    /// let map = Map::parse("map.csv".as_ref(), "0,1,2\n3,0,0\n", &form)?;
    /// assert_eq!(map.grid().rect().size().to_array(), [48.0, 32.0]); // world units
    /// assert_eq!(map.numbers(), [0, 1, 2, 3, 0, 0]);
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn parse(path: &Path, text: &str, form: &MapForm) -> Result<Self, Fault> {
        let (columns, numbers) = numbers(&Table::new(path, text), form)?;
        let rows = numbers.len() / columns;
        let grid = Grid::new(columns as u32, rows as u32, form.tile).with_origin(form.origin);
        Ok(Self { grid, numbers })
    }

    /// Returns the grid of the tiles.
    pub fn grid(&self) -> &Grid {
        &self.grid
    }

    /// Returns all tile numbers, row by row from the top.
    pub fn numbers(&self) -> &[u16] {
        &self.numbers
    }

    /// Returns the number of tiles in this range that are not blank.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// # use velvet_pan_takes::{Map, MapForm};
    /// let map = Map::parse("map.csv".as_ref(), "0,1,2\n3,0,0\n", &MapForm::new([16.0, 16.0]))?;
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole);
    /// assert_eq!(map.filled(&view.tiles(map.grid())), 3);
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn filled(&self, tiles: &Tiles) -> usize {
        let blank = |number: &&u16| **number != 0;
        tiles.rows().map(|row| self.numbers[row.indices()].iter().filter(blank).count()).sum()
    }
}

/// Returns the number of columns, and all tile numbers.
fn numbers(table: &Table<'_>, form: &MapForm) -> Result<(usize, Vec<u16>), Fault> {
    let records = table.records()?;
    let Some((first_line, first)) = records.first() else {
        return Err(table.whole("no tiles: expected rows of tile numbers"));
    };
    // A separator at the end of every row is not a column.
    let ends_open = |record: &StringRecord| record.iter().next_back() == Some("");
    let open = records.iter().all(|(_, record)| record.len() > 1 && ends_open(record));
    let columns = first.len() - usize::from(open);
    if columns.saturating_mul(records.len()) > MAX_TILES {
        return Err(table.whole(format!("more than {MAX_TILES} tiles: expected a smaller map")));
    }
    let mut numbers = Vec::with_capacity(columns * records.len());
    for (line, record) in &records {
        let here = record.len() - usize::from(open);
        if here != columns {
            let what =
                format!("{here} tiles in this row: expected {columns}, as in line {first_line}");
            return Err(table.fault(*line, here.min(columns) + 1, what));
        }
        for (index, field) in record.iter().take(columns).enumerate() {
            let number = number(field, form).map_err(|what| table.fault(*line, index + 1, what))?;
            numbers.push(number);
        }
    }
    Ok((columns, numbers))
}

/// Returns the number of a tile, 0 for a blank one.
fn number(field: &str, form: &MapForm) -> Result<u16, String> {
    if field.is_empty() {
        return Ok(0);
    }
    let expected = "expected 0 (blank) to 65535";
    let number: i64 =
        field.parse().map_err(|_| format!("{} is not a tile number: {expected}", quoted(field)))?;
    if number == form.blank {
        return Ok(0);
    }
    if number == -1 {
        return Err("-1 is not a tile number: if it is a blank tile, say blank = -1".to_owned());
    }
    let tile = match form.number_bits {
        Some(bits) if number >= 0 => number & ((1 << bits.min(62)) - 1),
        _ => number,
    };
    let hint = match form.number_bits {
        None if number >= 1 << 29 => {
            "; if its highest bits say how the tile is flipped, say number_bits = 29"
        }
        _ => "",
    };
    u16::try_from(tile + i64::from(form.blank < 0))
        .ok()
        .filter(|_| tile >= 0)
        .ok_or_else(|| format!("{tile} is not a tile number: {expected}{hint}"))
}
