//! A body that the user moves in a map: a runner, a walker seen from above, or a flyer.

use velvet_pan::glam::DVec2;
use velvet_pan::{Rect, YAxis};
use velvet_pan_takes::{Map, Player, PlayerKind};

/// How quickly a runner and a walker reach their speed and lose it, in speeds a second.
const PUSH: f64 = 4.7;
const BRAKE: f64 = 6.8;
/// How quickly a flyer does, as the share of what is missing a second.
const DRAG: f64 = 2.5;
/// How long a jump rises, in seconds.
const RISE: f64 = 0.372;

/// What the user wants in a frame.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Wish {
    /// To the left (−1), to the right (1) or neither (0).
    pub way: f64,
    /// Up on the screen (1), down (−1) or neither (0), for a walker and a flyer.
    pub rise: f64,
    /// Jump, if a runner stands on the ground.
    pub leap: bool,
}

/// What is solid, and the world that nobody leaves.
#[derive(Clone, Debug)]
pub struct Solids {
    map: Option<Map>,
    is_solid: fn(u16) -> bool,
    /// No body leaves it.
    limits: Rect,
    y_axis: YAxis,
}

/// A body on its way.
#[derive(Clone, Copy, Debug)]
pub struct Mover {
    /// Its middle, in world units.
    pub middle: DVec2,
    /// In world units a second.
    pub velocity: DVec2,
    /// Whether it stands on something.
    pub grounded: bool,
}

impl Solids {
    /// Makes the tiles solid for which `is_solid` is true, within these limits.
    pub fn new(map: Option<Map>, is_solid: fn(u16) -> bool, limits: Rect, y_axis: YAxis) -> Self {
        Self { map, is_solid, limits, y_axis }
    }

    /// Returns the direction in which things fall along y.
    fn down(&self) -> f64 {
        if self.y_axis == YAxis::Down { 1.0 } else { -1.0 }
    }

    /// Returns whether a body at this place would touch something, or leave the world.
    fn block(&self, body: &Rect) -> bool {
        let inside = body.min.cmpge(self.limits.min).all() && body.max.cmple(self.limits.max).all();
        !inside || self.map.as_ref().is_some_and(|map| self.touches(map, body))
    }

    fn touches(&self, map: &Map, body: &Rect) -> bool {
        let (grid, tile) = (map.grid(), map.grid().tile_size());
        let rect = grid.rect();
        let (min, max) = match self.y_axis {
            YAxis::Down => (body.min - rect.min, body.max - rect.min),
            YAxis::Up => (
                DVec2::new(body.min.x - rect.min.x, rect.max.y - body.max.y),
                DVec2::new(body.max.x - rect.min.x, rect.max.y - body.min.y),
            ),
        };
        // What only touches an edge is not in the tile.
        let first = (min / tile + 1e-9).floor().as_i64vec2();
        let last = (max / tile - 1e-9).floor().as_i64vec2();
        let cells = (first.y..=last.y).flat_map(|row| (first.x..=last.x).map(move |at| (at, row)));
        cells
            .filter_map(|(column, row)| grid.index(column, row))
            .any(|index| (self.is_solid)(map.numbers()[index]))
    }

    /// Returns the longest step that can't pass through a tile.
    fn longest_step(&self) -> f64 {
        self.map.as_ref().map_or(8.0, |map| map.grid().tile_size().min_element() / 2.0)
    }
}

impl Mover {
    /// Creates a body that rests here.
    pub fn at(middle: DVec2) -> Self {
        Self { middle, velocity: DVec2::ZERO, grounded: true }
    }

    /// Moves for a time, in seconds.
    pub fn step(&mut self, player: &Player, solids: &Solids, wish: Wish, seconds: f64) {
        match player.kind {
            PlayerKind::Runner => self.run(player, solids, wish, seconds),
            PlayerKind::Walker => {
                let wanted = direction(solids, wish) * player.speed;
                let quick = if wanted == DVec2::ZERO { BRAKE } else { PUSH };
                let change =
                    (wanted - self.velocity).clamp_length_max(quick * player.speed * seconds);
                self.velocity += change;
            }
            PlayerKind::Flyer => {
                let wanted = direction(solids, wish) * player.speed;
                self.velocity += (wanted - self.velocity) * (1.0 - (-DRAG * seconds).exp());
            }
        }
        self.slide(player, solids, seconds);
    }

    /// Runs, falls and jumps: the velocity of a runner.
    fn run(&mut self, player: &Player, solids: &Solids, wish: Wish, seconds: f64) {
        let wanted = wish.way * player.speed;
        let brakes = wanted == 0.0 || wanted * self.velocity.x < 0.0;
        let most = if brakes { BRAKE } else { PUSH } * player.speed * seconds;
        self.velocity.x += (wanted - self.velocity.x).clamp(-most, most);
        let gravity = 2.0 * player.jump / (RISE * RISE);
        if wish.leap && self.grounded {
            self.velocity.y = -solids.down() * gravity * RISE;
        }
        self.velocity.y += solids.down() * gravity * seconds;
    }

    /// Moves along each axis as far as the world allows, in steps that pass through no tile.
    fn slide(&mut self, player: &Player, solids: &Solids, seconds: f64) {
        let by = self.velocity * seconds;
        self.grounded = player.kind != PlayerKind::Runner;
        let steps = (by.abs().max_element() / solids.longest_step()).ceil().clamp(1.0, 1000.0);
        for _ in 0..steps as u32 {
            for axis in 0..2 {
                self.slide_along(axis, player, solids, self.velocity[axis] * seconds / steps);
            }
        }
    }

    fn slide_along(&mut self, axis: usize, player: &Player, solids: &Solids, by: f64) {
        let half = DVec2::from(player.size) / 2.0;
        let free = |middle: DVec2| !solids.block(&Rect::around(middle, half));
        let moved = |by: f64| {
            let mut middle = self.middle;
            middle[axis] += by;
            middle
        };
        // A body that is stuck already may leave.
        if free(moved(by)) || !free(self.middle) {
            self.middle = moved(by);
            return;
        }
        // Up to what is in the way, to a millionth of the step.
        let (mut near, mut far) = (0.0, by);
        for _ in 0..20 {
            let half_way = f64::midpoint(near, far);
            if free(moved(half_way)) { near = half_way } else { far = half_way }
        }
        self.middle = moved(near);
        self.grounded |= axis == 1 && by * solids.down() > 0.0;
        self.velocity[axis] = 0.0;
    }
}

/// Returns the direction that is wished for in the world, at most 1 long.
fn direction(solids: &Solids, wish: Wish) -> DVec2 {
    DVec2::new(wish.way, -wish.rise * solids.down()).clamp_length_max(1.0)
}
