//! A path to begin with, which stays inside of the map.

use velvet_pan::Rect;
use velvet_pan::glam::DVec2;
use velvet_pan_takes::{Map, PlayerKind};

/// Rows a second.
const FPS: f64 = 60.0;
/// The length of the path, in seconds.
const SECONDS: f64 = 8.0;
/// The largest speed in world units a second, and the height of a leap.
const SPEED: f64 = 120.0;
const LEAP: f64 = 48.0;
/// Half of a runner's height.
const HALF: f64 = 10.0;

/// The world of a path: where it may go along x, and where along y.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Room {
    from: DVec2,
    to: DVec2,
}

/// Returns the file of a path, `t,x,y` and for a runner `grounded`, in a map or else in a level of this rectangle.
pub fn csv(kind: PlayerKind, map: Option<&Map>, level: Option<&Rect>) -> String {
    let runs = kind == PlayerKind::Runner;
    let free = Room { from: DVec2::new(160.0, 200.0), to: DVec2::new(560.0, 280.0) };
    let room = match (map, level) {
        (Some(map), _) => room_in(map, kind),
        (None, Some(level)) => middle_of(level),
        (None, None) => free,
    };
    let mut text = String::from(if runs { "t,x,y,grounded\n" } else { "t,x,y\n" });
    for row in 0..=(SECONDS * FPS) as u32 {
        let t = f64::from(row) / FPS;
        let (at, grounded) = match kind {
            PlayerKind::Runner => run(room, t),
            PlayerKind::Walker => (walk(room, t), true),
            PlayerKind::Flyer => (fly(room, t), true),
        };
        text += &format!("{t:.4},{:.2},{:.2}", at.x, at.y);
        text += if !runs {
            "\n"
        } else if grounded {
            ",1\n"
        } else {
            ",0\n"
        };
    }
    text
}

/// Runs to the right, stops, leaps, and runs half of the way back. The floor is at the room's lower end.
fn run(room: Room, t: f64) -> (DVec2, bool) {
    let width = (room.to.x - room.from.x).min(3.0 * SPEED);
    let there = part(t, 1.0, 4.0) - 0.5 * part(t, 5.5, 7.0);
    let height = LEAP.min(room.to.y - room.from.y);
    let leap = ((t - 2.0) / 0.7).clamp(0.0, 1.0);
    let high = 4.0 * height * leap * (1.0 - leap);
    (DVec2::new(room.from.x + width * there, room.to.y - high), high == 0.0)
}

/// Walks around a rectangle, with a stop at each corner.
fn walk(room: Room, t: f64) -> DVec2 {
    let size = (room.to - room.from).min(DVec2::splat(1.5 * SPEED));
    let x = part(t, 0.5, 2.0) - part(t, 4.5, 6.0);
    let y = part(t, 2.5, 4.0) - part(t, 6.5, 8.0);
    room.from + size * DVec2::new(x, y)
}

/// Flies around an ellipse, ever faster.
fn fly(room: Room, t: f64) -> DVec2 {
    let (middle, reach) = ((room.from + room.to) / 2.0, (room.to - room.from) / 2.0);
    let turn = std::f64::consts::TAU * (t / SECONDS).powi(2);
    middle + reach.min(DVec2::splat(2.0 * SPEED)) * DVec2::new(turn.cos(), turn.sin())
}

/// How much of a stretch of time is over, with a soft start and end.
fn part(t: f64, from: f64, to: f64) -> f64 {
    let part = ((t - from) / (to - from)).clamp(0.0, 1.0);
    part * part * (3.0 - 2.0 * part)
}

/// Returns the middle half of a rectangle.
fn middle_of(rect: &Rect) -> Room {
    Room { from: rect.min + rect.size() / 4.0, to: rect.max - rect.size() / 4.0 }
}

/// Returns the room of a map with the most space for a kind.
fn room_in(map: &Map, kind: PlayerKind) -> Room {
    let (rect, tile) = (map.grid().rect(), map.grid().tile_size());
    let whole = middle_of(&rect);
    if kind == PlayerKind::Flyer {
        return whole;
    }
    let is_free = |column: i64, row: i64| {
        map.grid().index(column, row).is_some_and(|index| map.numbers()[index] == 0)
    };
    let is_filled = |column: i64, row: i64| {
        map.grid().index(column, row).is_some_and(|index| map.numbers()[index] != 0)
    };
    let columns = i64::from(map.grid().columns());
    let rows = i64::from(map.grid().rows());
    let needed = (2.0 * HALF / tile.y).ceil().max(1.0) as i64;
    let is_good = |column: i64, row: i64| match kind {
        PlayerKind::Runner => {
            is_filled(column, row + 1) && (0..needed).all(|up| is_free(column, row - up))
        }
        _ => is_free(column, row),
    };
    let Some((length, first, row)) = (0..rows)
        .filter_map(|row| longest(columns, row, &is_good))
        .max_by_key(|(length, _, row)| (*length, -(row - rows / 2).abs()))
    else {
        return whole;
    };
    let cell = |column: i64, row: i64| -> Rect {
        let min = rect.min + DVec2::new(column as f64, row as f64) * tile;
        Rect { min, max: min + tile }
    };
    let (left, right) = (cell(first, row), cell(first + length - 1, row));
    if kind == PlayerKind::Runner {
        // Above it, as far as every column of it is free.
        let free = (needed..=(LEAP / tile.y).ceil() as i64 + needed)
            .take_while(|up| (first..first + length).all(|column| is_free(column, row - up)))
            .count();
        let floor = left.max.y - HALF;
        let inset = tile.x.min((right.max.x - left.min.x) / 4.0);
        return Room {
            from: DVec2::new(left.min.x + inset, floor - free as f64 * tile.y),
            to: DVec2::new(right.max.x - inset, floor),
        };
    }
    let down = (1..rows - row)
        .take_while(|down| (first..first + length).all(|column| is_free(column, row + down)))
        .count() as i64;
    let below = cell(first, row + down);
    Room {
        from: (left.min + left.max) / 2.0,
        to: DVec2::new((right.min.x + right.max.x) / 2.0, (below.min.y + below.max.y) / 2.0),
    }
}

/// Returns the longest stretch of good cells in a row: its length, its first column, its row. Of equal ones, the first.
fn longest(columns: i64, row: i64, is_good: &impl Fn(i64, i64) -> bool) -> Option<(i64, i64, i64)> {
    let mut best: Option<(i64, i64, i64)> = None;
    let mut length = 0;
    for column in 0..columns {
        length = if is_good(column, row) { length + 1 } else { 0 };
        if length > best.map_or(0, |best| best.0) {
            best = Some((length, column + 1 - length, row));
        }
    }
    best
}
