//! The land: tea terraces that climb one side of a valley and descend again.

use crate::art::sprite::chance;
use crate::art::tiles::number::*;
use crate::map_text::map_text;

/// The number of tiles from left to right.
const COLUMNS: usize = 240;
/// The number of tiles from top to bottom.
const ROWS: usize = 60;

/// The land as tile numbers.
#[derive(Debug)]
pub struct Land {
    tiles: Vec<u16>,
}

impl Land {
    /// Returns the tile at a column and a row, blank outside.
    pub fn tile(&self, column: i64, row: i64) -> u16 {
        let inside = (0..COLUMNS as i64).contains(&column) && (0..ROWS as i64).contains(&row);
        if inside { self.tiles[row as usize * COLUMNS + column as usize] } else { 0 }
    }

    fn set(&mut self, column: usize, row: usize, tile: u16) {
        if column < COLUMNS && row < ROWS {
            self.tiles[row * COLUMNS + column] = tile;
        }
    }

    /// Sets a tile if it is still blank.
    fn grow(&mut self, column: usize, row: usize, tile: u16) {
        if self.tile(column as i64, row as i64) == 0 {
            self.set(column, row, tile);
        }
    }

    /// Creates the land.
    pub fn laid_out() -> Self {
        let mut land = Self { tiles: vec![0; COLUMNS * ROWS] };
        let terraces = terraces();
        for (index, terrace) in terraces.iter().enumerate() {
            let left = index.checked_sub(1).map_or(terrace.ground, |left| terraces[left].ground);
            let right = terraces.get(index + 1).map_or(terrace.ground, |right| right.ground);
            land.lay_terrace(terrace, left, right);
        }
        for (index, terrace) in terraces.iter().enumerate() {
            land.plant(terrace, index);
        }
        land
    }

    /// Adds earth below the ground, and walls where a side is open.
    fn lay_terrace(&mut self, terrace: &Terrace, left: usize, right: usize) {
        for column in terrace.columns() {
            let edge_left = column == terrace.start && left > terrace.ground;
            let edge_right = column + 1 == terrace.end && right > terrace.ground;
            let foot = match (edge_left, edge_right) {
                (true, _) => left,
                (_, true) => right,
                _ => terrace.ground,
            };
            let wall_to = foot + 2;
            if terrace.bridge {
                self.set(column, terrace.ground, BRIDGE);
            }
            let top = if terrace.bridge { terrace.ground + 7 } else { terrace.ground };
            for row in top..ROWS {
                let tile = match row - top {
                    0 => LIP,
                    _ if row < wall_to && !terrace.bridge => WALL,
                    depth if depth < 7 + (chance(column as i64, 0, 3) * 3.0) as usize => SOIL,
                    _ => DEEP,
                };
                self.set(column, row, tile);
            }
        }
    }

    /// Adds hedges, trees, lanterns and houses to a terrace.
    fn plant(&mut self, terrace: &Terrace, index: usize) {
        if terrace.bridge {
            return;
        }
        let (above, width) = (terrace.ground - 1, terrace.end - terrace.start);
        match index % 7 {
            3 if width >= 11 => self.build_house(terrace.start + 3, above),
            1 | 5 if width >= 8 => {
                self.grow_cedar(terrace.start + 2, above, 4 + index % 3);
                self.hang_lantern(terrace.end - 2, above);
            }
            _ => self.hang_lantern(terrace.start + 1, above),
        }
        self.plant_hedges(terrace, above);
        for column in terrace.columns() {
            if chance(column as i64, above as i64, 5) > 0.6 {
                self.grow(column, above, TUFT);
            }
        }
    }

    /// Adds rows of tea, with space to walk between.
    fn plant_hedges(&mut self, terrace: &Terrace, above: usize) {
        let mut column = terrace.start + 2;
        while column + 3 < terrace.end {
            let length = 3 + (chance(column as i64, 1, 7) * 3.0) as usize;
            let end = (column + length).min(terrace.end - 1);
            let free = (column..end).all(|column| self.tile(column as i64, above as i64) == 0);
            if free {
                for place in column..end {
                    let tile = if place == column {
                        BUSH_LEFT
                    } else if place + 1 == end {
                        BUSH_RIGHT
                    } else {
                        BUSH
                    };
                    self.grow(place, above, tile);
                }
            }
            column = end + 1;
        }
    }

    fn hang_lantern(&mut self, column: usize, above: usize) {
        self.grow(column, above, POST);
        self.grow(column, above - 1, LANTERN);
    }

    fn grow_cedar(&mut self, column: usize, above: usize, height: usize) {
        self.grow(column, above, TRUNK);
        for up in 1..height {
            let row = above - up;
            let slim = up + 1 == height;
            self.grow(column, row, if slim { CROWN_TOP } else { CROWN });
            if !slim && up % 2 == 1 {
                self.grow(column - 1, row, CROWN_LEFT);
                self.grow(column + 1, row, CROWN_RIGHT);
            }
        }
    }

    fn build_house(&mut self, start: usize, above: usize) {
        let end = start + 5;
        for column in start..end {
            for row in [above, above - 1] {
                self.grow(column, row, PLASTER);
            }
        }
        self.set(start + 1, above - 1, WINDOW);
        self.set(start + 3, above - 1, WINDOW);
        self.set(start + 2, above, DOOR);
        for step in 0..2 {
            let row = above - 2 - step;
            self.set(start + step - 1, row, ROOF_LEFT);
            self.set(end - step, row, ROOF_RIGHT);
            for column in start + step..end - step {
                self.set(column, row, ROOF);
            }
        }
    }
}

/// A stretch of level ground.
#[derive(Clone, Copy, Debug)]
struct Terrace {
    start: usize,
    end: usize,
    /// The row of its grass.
    ground: usize,
    /// Whether it is a bridge of planks over a gully.
    bridge: bool,
}

impl Terrace {
    fn columns(&self) -> std::ops::Range<usize> {
        self.start..self.end
    }
}

/// Returns the profile of the land: up to the pass, then down.
fn terraces() -> Vec<Terrace> {
    const PASS: usize = 150;
    let mut terraces: Vec<Terrace> = Vec::new();
    let (mut start, mut ground) = (0, 50_usize);
    for index in 0.. {
        if start >= COLUMNS {
            break;
        }
        let roll = chance(index, 0, 1);
        let bridge = index % 6 == 4;
        let width = if bridge { 6 } else { 8 + (roll * 7.0) as usize };
        let end = (start + width).min(COLUMNS);
        terraces.push(Terrace { start, end, ground, bridge });
        let next_is_bridge = index % 6 == 3;
        if !bridge && !next_is_bridge {
            let step = 1 + (chance(index, 1, 1) * 3.0) as usize;
            ground = if end < PASS { ground - step } else { (ground + step).min(52) };
        }
        start = end;
    }
    terraces
}

/// Returns the file of the map: tile numbers, row by row.
pub fn map_csv() -> String {
    let land = Land::laid_out();
    map_text((COLUMNS, land.tiles.len() / COLUMNS), |column, row| {
        land.tiles[row * COLUMNS + column]
    })
}
