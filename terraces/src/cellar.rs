//! The cellar of the drying house: a passage and a hall, an L, with a stair that is narrower than the view.

use crate::art::tiles::number::*;
use crate::map_text::map_text;

/// The size of the map in tiles.
const SIZE: (usize, usize) = (66, 66);

/// What is dug out, in tiles: column, row, width and height. The same rectangles are the outline in `cellar.toml`.
const DUG: [[usize; 4]; 4] = [
    [2, 48, 62, 15], // the passage
    [2, 14, 26, 49], // the hall
    [48, 20, 8, 43], // the stair
    [36, 6, 28, 18], // the store above it
];

/// Ladders, by their column, and their rows.
const LADDERS: [(usize, [usize; 2]); 2] = [(51, [22, 62]), (20, [34, 62])];

/// Boards: columns and rows.
const FLOORS: [([usize; 2], usize); 4] =
    [([2, 64], 62), ([36, 51], 23), ([52, 64], 23), ([2, 24], 33)];

fn is_dug(column: usize, row: usize) -> bool {
    DUG.iter().any(|[x, y, width, height]| {
        (*x..x + width).contains(&column) && (*y..y + height).contains(&row)
    })
}

/// Returns the tile at a column and a row.
fn tile(column: usize, row: usize) -> u16 {
    if !is_dug(column, row) {
        return WALL;
    }
    let ladder =
        |(at, rows): &(usize, [usize; 2])| *at == column && (rows[0]..rows[1]).contains(&row);
    if LADDERS.iter().any(ladder) {
        return LADDER;
    }
    let floor = |(columns, at): &([usize; 2], usize)| {
        *at == row && (columns[0]..columns[1]).contains(&column)
    };
    match (column, row) {
        _ if FLOORS.iter().any(floor) => BOARDS,
        (column, _) if column % 11 == 5 && row % 13 == 10 => LAMP,
        (column, row) if row % 7 == 5 && (column + row) % 9 < 3 => TRAY,
        _ => PANEL,
    }
}

/// Returns the file of the map: tile numbers, row by row.
pub fn map_csv() -> String {
    map_text(SIZE, tile)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The outline of the take is what is dug out in the map.
    #[test]
    fn the_outline_is_what_is_dug_out() {
        let take = include_str!("../demo/cellar.toml");
        for [x, y, width, height] in DUG.map(|part| part.map(|tiles| tiles as f64 * 16.0)) {
            let part = format!("[{x:?}, {y:?}, {width:?}, {height:?}]");
            assert!(take.contains(&part), "{part}");
        }
    }
}
