//! The drying house: nine rooms on three floors, where tea hangs to dry.

use crate::art::tiles::number::*;
use crate::map_text::map_text;

/// The size of a room in tiles, and the number of rooms, across and down.
const ROOM: (usize, usize) = (20, 11);
const ROOMS: (usize, usize) = (3, 3);

/// The ladders from a floor to the one above: the number of the upper floor, and the column.
const LADDERS: [(usize, usize); 2] = [(0, 50), (1, 30)];

/// Returns the tile at a column and a row.
fn tile(column: usize, row: usize) -> u16 {
    let (columns, rows) = (ROOM.0 * ROOMS.0, ROOM.1 * ROOMS.1);
    let (floor, within) = (row / ROOM.1, row % ROOM.1);
    let ladder = LADDERS.iter().any(|(upper, at)| {
        // From the upper floor's boards down to the lower floor.
        *at == column && row > upper * ROOM.1 + 8 && row <= (upper + 1) * ROOM.1 + 9
    });
    let outside = column == 0 || column + 1 == columns || row == 0 || row + 1 == rows;
    let beside_line = [0, ROOM.0 - 1].contains(&(column % ROOM.0));
    let doorway = (8..10).contains(&within) && !outside;
    match within {
        _ if ladder => LADDER,
        _ if outside => WALL,
        10 => BOARDS,
        0 => WALL,
        _ if beside_line && !doorway => WALL,
        4 if column % 7 == 3 => PANE,
        1 if column % 6 == 2 => LAMP,
        6 if (column + floor * 3) % 9 < 3 => TRAY,
        _ => PANEL,
    }
}

/// Returns the file of the map: tile numbers, row by row.
pub fn map_csv() -> String {
    map_text((ROOM.0 * ROOMS.0, ROOM.1 * ROOMS.1), tile)
}
