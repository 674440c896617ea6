//! The courier's run: a small run-and-jump simulation over the land.

use std::fmt::Write;

use velvet_pan::glam::DVec2;

use super::land::Land;
use crate::art::tiles::is_solid;

/// World units along a tile's side.
const TILE: f64 = 16.0;
/// Steps of the simulation in a second, and how many of them make a row of the path.
const STEPS_PER_SECOND: u32 = 240;
const STEPS_PER_ROW: u32 = 4;

/// World units per second, and per second².
const RUN: f64 = 132.0;
const PUSH: f64 = 620.0;
const BRAKE: f64 = 900.0;
const GRAVITY: f64 = 900.0;
const LEAP: f64 = 335.0;

/// Half of her width, and her height, in world units.
const HALF_WIDTH: f64 = 5.0;
const HEIGHT: f64 = 20.0;

/// What she means to do, in order.
#[derive(Clone, Copy, Debug)]
enum Plan {
    /// Run until she is past this x.
    RunTo(f64),
    /// Wait for so many seconds.
    Wait(f64),
    /// Leap where she stands.
    Hop,
}

const PLANS: [Plan; 15] = [
    Plan::Wait(0.8),
    Plan::RunTo(420.0),
    Plan::Wait(1.0),
    Plan::RunTo(980.0),
    Plan::RunTo(900.0),
    Plan::Wait(0.5),
    Plan::Hop,
    Plan::RunTo(1540.0),
    Plan::Wait(0.9),
    Plan::RunTo(2300.0),
    Plan::RunTo(2230.0),
    Plan::Wait(0.7),
    Plan::RunTo(3300.0),
    Plan::Hop,
    Plan::Wait(1.5),
];

/// Her body and her plans.
#[derive(Debug)]
struct Courier {
    /// The middle between her feet.
    feet: DVec2,
    velocity: DVec2,
    grounded: bool,
    plan: usize,
    waited: f64,
}

impl Courier {
    /// One step; answers whether she still has plans.
    fn step(&mut self, land: &Land, seconds: f64) -> bool {
        let Some(plan) = PLANS.get(self.plan).copied() else { return false };
        let mut wanted = 0.0;
        match plan {
            Plan::RunTo(x) => {
                let way = if x > self.feet.x { 1.0 } else { -1.0 };
                wanted = way * RUN;
                if (x - self.feet.x).abs() < 4.0 {
                    self.plan += 1;
                } else if self.grounded && self.blocked_ahead(land, way) {
                    self.velocity.y = -LEAP;
                }
            }
            Plan::Wait(time) => {
                self.waited += seconds;
                if self.waited >= time {
                    (self.waited, self.plan) = (0.0, self.plan + 1);
                }
            }
            Plan::Hop => {
                self.velocity.y = -LEAP;
                self.plan += 1;
            }
        }
        let change = if wanted == 0.0 || wanted * self.velocity.x < 0.0 { BRAKE } else { PUSH };
        let most = change * seconds;
        self.velocity.x += (wanted - self.velocity.x).clamp(-most, most);
        self.velocity.y += GRAVITY * seconds;
        self.slide(land, self.velocity * seconds);
        true
    }

    /// Whether a wall stands a little ahead of her feet.
    fn blocked_ahead(&self, land: &Land, way: f64) -> bool {
        solid(land, self.feet + DVec2::new(way * (HALF_WIDTH + 16.0), -4.0))
    }

    /// Moves along each axis as far as the land lets her.
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

/// The path's file: `t,x,y,grounded`, sixty rows a second.
pub fn path_csv() -> String {
    let land = Land::new();
    let seconds = 1.0 / f64::from(STEPS_PER_SECOND);
    let mut courier = Courier {
        feet: DVec2::new(72.0, 50.0 * TILE),
        velocity: DVec2::ZERO,
        grounded: true,
        plan: 0,
        waited: 0.0,
    };
    let mut text = String::from("t,x,y,grounded\n");
    let mut step = 0;
    loop {
        if step % STEPS_PER_ROW == 0 {
            let t = f64::from(step) / f64::from(STEPS_PER_SECOND);
            let DVec2 { x, y } = (courier.feet * 1000.0).round() / 1000.0;
            // Writing to a string can't fail.
            let _ = writeln!(text, "{t},{x},{y},{}", u8::from(courier.grounded));
        }
        step += 1;
        if !courier.step(&land, seconds) || step > 120 * STEPS_PER_SECOND {
            return text;
        }
    }
}
