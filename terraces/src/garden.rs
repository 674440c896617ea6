//! The tea garden behind the drying house, seen from above: a take with pictures of its own, as a game would have them.

use std::fmt::Write;

use velvet_pan::glam::{DVec2, UVec2, Vec2};

use crate::art::palette::{
    BARK, CLAY, COAT, COAT_SHADE, EARTH, HONEY, LEAF, LOAM, MOSS, PEBBLE, PLANK, SAND, SKIN, SLATE,
    SPROUT, STONE, TEA, WOOD,
};
use crate::art::sprite::chance;
use crate::map_text::map_text;
use crate::picture::{CLEAR, Colour, Picture};

/// The size of the garden in tiles, and the side of a tile in pixels and world units.
const SIZE: (usize, usize) = (60, 36);
const TILE: u32 = 16;

/// The numbers of tiles in the map; 0 is free ground.
const BUSH: u8 = 1;
const WALL: u8 = 2;
const POND: u8 = 3;
const LANTERN: u8 = 4;

/// The beds: their number across and down, their size in tiles, and the distance from one to the next.
const BEDS: (usize, usize) = (5, 4);
const BED: (usize, usize) = (9, 6);
const STEP: (usize, usize) = (11, 8);
const FIRST: (usize, usize) = (3, 4);
/// The bed in which there is a pond.
const WET: (usize, usize) = (2, 1);

/// The way of the gardener, along the paths between the beds, in tiles.
const WAY: [(u32, u32); 8] =
    [(13, 3), (13, 11), (35, 11), (35, 19), (24, 19), (24, 11), (46, 11), (46, 27)];
/// The speed of the gardener in world units a second, and the length of a stop at each corner in seconds.
const SPEED: f64 = 110.0;
const STOP: f64 = 0.4;

/// Returns the tile at a column and a row.
fn tile(column: usize, row: usize) -> u8 {
    if column == 0 || row == 0 || column + 1 == SIZE.0 || row + 1 == SIZE.1 {
        return WALL;
    }
    let (Some(x), Some(y)) = (column.checked_sub(FIRST.0), row.checked_sub(FIRST.1)) else {
        return 0;
    };
    let (bed, within) = ((x / STEP.0, y / STEP.1), (x % STEP.0, y % STEP.1));
    if bed.0 >= BEDS.0 || bed.1 >= BEDS.1 || within.0 >= BED.0 || within.1 >= BED.1 {
        return 0;
    }
    if bed == WET {
        let from = DVec2::new(within.0 as f64 - 4.0, (within.1 as f64 - 2.5) * 1.4);
        return if from.length() < 4.2 { POND } else { 0 };
    }
    let is_corner = within.0 == BED.0 - 1 && within.1 == 1;
    match within.1 % 2 {
        0 => BUSH,
        _ if is_corner => LANTERN,
        _ => 0,
    }
}

/// Returns the file of the map.
pub fn map_csv() -> String {
    map_text(SIZE, tile)
}

/// Returns the file of the gardener's path, thirty rows a second.
pub fn path_csv() -> String {
    let mut text = String::from("t,x,y\n");
    let at = |(x, y): (u32, u32)| DVec2::new(f64::from(x * TILE), f64::from(y * TILE));
    let mut begins = 0.8;
    let mut legs = Vec::new();
    for ends in WAY.windows(2) {
        let (from, to) = (at(ends[0]), at(ends[1]));
        let seconds = (to - from).length() / SPEED;
        legs.push((begins, seconds, from, to));
        begins += seconds + STOP;
    }
    let position = |t: f64| {
        let started = legs.iter().rev().find(|leg| t >= leg.0);
        started.map_or(at(WAY[0]), |(begins, seconds, from, to)| {
            from.lerp(*to, ((t - begins) / seconds).min(1.0))
        })
    };
    for row in 0..=((begins + 2.0) * 30.0) as u32 {
        let t = f64::from(row) / 30.0;
        let at = position(t);
        // Writing to a string can't fail.
        let _ = writeln!(text, "{t:.4},{:.2},{:.2}", at.x, at.y);
    }
    text
}

/// Returns the tiles in one picture: bush, wall, pond, lantern.
pub fn tiles() -> Picture {
    Picture::from_fn(UVec2::new(4 * TILE, TILE), |x, y| {
        let (kind, x) = (x / TILE, x % TILE);
        match kind {
            0 => bush(x, y),
            1 => wall(x, y),
            2 => pond(x, y),
            _ => lantern(x, y),
        }
    })
}

/// Light and shade by chance, the same for every pixel at each run.
fn speckle(x: u32, y: u32, salt: u64) -> f32 {
    chance(i64::from(x), i64::from(y), salt)
}

/// Returns the distance from the middle of a tile.
fn away(x: u32, y: u32) -> f32 {
    (Vec2::new(x as f32, y as f32) - 7.5).length()
}

fn bush(x: u32, y: u32) -> Colour {
    let light = speckle(x, y, 61) + (8.0 - y as f32) * 0.04;
    match away(x, y) {
        far if far > 10.2 => MOSS,
        _ if y > 13 => MOSS,
        _ if light > 0.95 => SPROUT,
        _ if light > 0.45 => TEA,
        _ => LEAF,
    }
}

fn wall(x: u32, y: u32) -> Colour {
    let row = y / 5;
    let joint = y % 5 == 4 || (x + row * 6) % 8 == 7;
    match (joint, speckle(x, y, 62) > 0.75) {
        (true, _) => SLATE,
        (_, true) => PEBBLE,
        _ => STONE,
    }
}

fn pond(x: u32, y: u32) -> Colour {
    if (y + x / 5) % 7 == 2 && speckle(x / 3, y, 63) > 0.5 { COAT } else { COAT_SHADE }
}

fn lantern(x: u32, y: u32) -> Colour {
    match away(x, y) {
        far if far < 3.2 => HONEY,
        far if far < 4.6 => PLANK,
        far if far < 5.6 => BARK,
        _ => CLEAR,
    }
}

/// Returns the ground: soil, with sand on the paths.
pub fn ground() -> Picture {
    let size = UVec2::new(SIZE.0 as u32, SIZE.1 as u32) * TILE;
    Picture::from_fn(size, |x, y| {
        let (column, row) = ((x / TILE) as usize, (y / TILE) as usize);
        let is_between = |at: usize, first: usize, step: usize, bed: usize| {
            at < first || (at - first) % step >= bed
        };
        let is_path = is_between(column, FIRST.0, STEP.0, BED.0)
            || is_between(row, FIRST.1, STEP.1, BED.1)
            || column >= FIRST.0 + BEDS.0 * STEP.0
            || row >= FIRST.1 + BEDS.1 * STEP.1;
        match (is_path, speckle(x, y, 64)) {
            (true, roll) if roll > 0.93 => SAND,
            (true, roll) if roll > 0.2 => EARTH,
            (false, roll) if roll > 0.85 => EARTH,
            (false, roll) if roll < 0.1 => LOAM,
            _ => CLAY,
        }
    })
}

/// Returns the gardener from above, four frames: a straw hat, shoulders, and feet that take turns.
pub fn gardener() -> Picture {
    Picture::from_fn(UVec2::new(4 * TILE, TILE), |x, y| {
        let (frame, x) = (x / TILE, x % TILE);
        let (at, swing) = (Vec2::new(x as f32 - 7.5, y as f32 - 7.5), [0.0, 2.5, 0.0, -2.5]);
        let step = swing[frame as usize];
        let oval = |middle: Vec2, reach: Vec2| ((at - middle) / reach).length() <= 1.0;
        match () {
            () if oval(Vec2::new(0.5, 0.0), Vec2::splat(2.6)) => WOOD,
            () if oval(Vec2::new(0.5, 0.0), Vec2::splat(4.6)) => HONEY,
            () if oval(Vec2::new(-0.5, 0.0), Vec2::new(3.6, 6.6)) => COAT,
            () if oval(Vec2::new(4.5 + step * 0.4, -5.0), Vec2::splat(1.6)) => SKIN,
            () if oval(Vec2::new(4.5 - step * 0.4, 5.0), Vec2::splat(1.6)) => SKIN,
            () if oval(Vec2::new(step, -3.0), Vec2::new(5.5, 1.8)) => BARK,
            () if oval(Vec2::new(-step, 3.0), Vec2::new(5.5, 1.8)) => BARK,
            () => CLEAR,
        }
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::own::read_png;

    /// The files in `terraces/demo/` are what the code makes; `UPDATE_DEMO=1 cargo test` writes them again.
    #[test]
    fn files_of_the_garden_stand_as_made() {
        let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
        let updates = std::env::var_os("UPDATE_DEMO").is_some();
        for (name, text) in [("garden.csv", map_csv()), ("gardener.csv", path_csv())] {
            let path = folder.join(name);
            if updates {
                std::fs::write(&path, &text).unwrap();
            }
            assert!(std::fs::read_to_string(&path).unwrap() == text, "{name} differs");
        }
        let pictures = [
            ("garden-tiles.png", tiles()),
            ("garden-ground.png", ground()),
            ("gardener.png", gardener()),
        ];
        for (name, picture) in pictures {
            let path = folder.join(name);
            if updates {
                picture.write_sprite(&mut std::fs::File::create(&path).unwrap()).unwrap();
            }
            assert!(read_png(&path).unwrap() == picture, "{name} differs");
        }
    }

    /// The gardener walks on free ground.
    #[test]
    fn the_way_leads_between_the_beds() {
        for line in path_csv().lines().skip(1) {
            let mut fields = line.split(',').skip(1).map(|field| field.parse::<f64>().unwrap());
            let (x, y) = (fields.next().unwrap(), fields.next().unwrap());
            for (across, down) in [(-7.0, -7.0), (7.0, 7.0)] {
                let column = ((x + across) / f64::from(TILE)) as usize;
                let row = ((y + down) / f64::from(TILE)) as usize;
                assert_eq!(tile(column, row), 0, "{line}");
            }
        }
    }
}
