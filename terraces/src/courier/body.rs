//! A body that runs, jumps and falls on the land.

use velvet_pan::glam::DVec2;

use crate::art::tiles::is_solid;
use crate::land::Land;

/// The side of a tile, in world units.
pub const TILE: f64 = 16.0;

/// Speeds in world units per second, accelerations in world units per second².
const RUN: f64 = 132.0;
const PUSH: f64 = 620.0;
const BRAKE: f64 = 900.0;
const GRAVITY: f64 = 900.0;
const LEAP: f64 = 335.0;

/// Half of the body's width, and its height, in world units.
pub const HALF_WIDTH: f64 = 5.0;
const HEIGHT: f64 = 20.0;

/// The courier's body.
#[derive(Clone, Copy, Debug)]
pub struct Body {
    /// The middle between the feet.
    pub feet: DVec2,
    /// The velocity, in world units per second.
    pub velocity: DVec2,
    /// Whether it stands on something.
    pub grounded: bool,
}

impl Body {
    /// Creates a body that stands here.
    #[must_use]
    pub fn at(feet: DVec2) -> Self {
        Self { feet, velocity: DVec2::ZERO, grounded: true }
    }

    /// Jumps.
    pub fn leap(&mut self) {
        self.velocity.y = -LEAP;
    }

    /// Runs one small step of time, moving to the left (−1), to the right (1) or not at all (0).
    pub fn step(&mut self, land: &Land, way: f64, seconds: f64) {
        let wanted = way * RUN;
        let change = if wanted == 0.0 || wanted * self.velocity.x < 0.0 { BRAKE } else { PUSH };
        let most = change * seconds;
        self.velocity.x += (wanted - self.velocity.x).clamp(-most, most);
        self.velocity.y += GRAVITY * seconds;
        self.slide(land, self.velocity * seconds);
    }

    /// Returns whether there is a wall just in front of the feet.
    #[must_use]
    pub fn blocked_ahead(&self, land: &Land, way: f64) -> bool {
        solid(land, self.feet + DVec2::new(way * (HALF_WIDTH + 16.0), -4.0))
    }

    /// Moves along each axis as far as the land allows.
    fn slide(&mut self, land: &Land, by: DVec2) {
        self.feet.x += by.x;
        if self.touches(land) {
            self.feet.x -= by.x;
            self.velocity.x = 0.0;
        }
        self.feet.y += by.y;
        self.grounded = false;
        if self.touches(land) {
            self.grounded = by.y > 0.0;
            // Down: feet on the tile's top. Up: back to where the head was free.
            let landed = (self.feet.y / TILE).floor() * TILE;
            self.feet.y = if by.y > 0.0 { landed } else { self.feet.y - by.y };
            self.velocity.y = 0.0;
        }
    }

    fn touches(&self, land: &Land) -> bool {
        let across = [-HALF_WIDTH, HALF_WIDTH];
        let up = [-0.001, -HEIGHT / 2.0, -HEIGHT];
        across.iter().any(|x| up.iter().any(|y| solid(land, self.feet + DVec2::new(*x, *y))))
    }
}

fn solid(land: &Land, point: DVec2) -> bool {
    let cell = (point / TILE).floor();
    is_solid(land.tile(cell.x as i64, cell.y as i64))
}
