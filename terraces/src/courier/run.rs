//! The courier's run: a small simulation of running and jumping on the land.

use std::fmt::Write;

use velvet_pan::glam::DVec2;

use super::body::{Body, TILE};
use crate::land::Land;

/// The steps of the simulation per second, and the number of steps per row of the path.
const STEPS_PER_SECOND: u32 = 240;
const STEPS_PER_ROW: u32 = 4;

/// The plans, in order.
#[derive(Clone, Copy, Debug)]
enum Plan {
    /// Run until beyond this x.
    RunTo(f64),
    /// Wait for this number of seconds.
    Wait(f64),
    /// Jump.
    Hop,
}

const PLANS: [Plan; 17] = [
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
    Plan::Wait(2.4),
    Plan::RunTo(3480.0),
    Plan::Wait(2.4),
];

/// The body and its plans.
#[derive(Debug)]
struct Courier {
    body: Body,
    plan: usize,
    waited: f64,
}

impl Courier {
    /// Runs one step. Returns whether there are plans left.
    fn step(&mut self, land: &Land, seconds: f64) -> bool {
        let Some(plan) = PLANS.get(self.plan).copied() else { return false };
        let mut way = 0.0;
        match plan {
            Plan::RunTo(x) => {
                way = if x > self.body.feet.x { 1.0 } else { -1.0 };
                if (x - self.body.feet.x).abs() < 4.0 {
                    self.plan += 1;
                } else if self.body.grounded && self.body.blocked_ahead(land, way) {
                    self.body.leap();
                }
            }
            Plan::Wait(time) => {
                self.waited += seconds;
                if self.waited >= time {
                    (self.waited, self.plan) = (0.0, self.plan + 1);
                }
            }
            Plan::Hop => {
                self.body.leap();
                self.plan += 1;
            }
        }
        self.body.step(land, way, seconds);
        true
    }
}

/// Returns the file of the path: `t,x,y,grounded`, sixty rows per second.
pub fn path_csv() -> String {
    let land = Land::laid_out();
    let seconds = 1.0 / f64::from(STEPS_PER_SECOND);
    let start = DVec2::new(72.0, 50.0 * TILE);
    let mut courier = Courier { body: Body::at(start), plan: 0, waited: 0.0 };
    let mut text = String::from("t,x,y,grounded\n");
    let mut step = 0;
    loop {
        if step % STEPS_PER_ROW == 0 {
            let t = f64::from(step) / f64::from(STEPS_PER_SECOND);
            let DVec2 { x, y } = (courier.body.feet * 1000.0).round() / 1000.0;
            // Writing to a string can't fail.
            let _ = writeln!(text, "{t},{x},{y},{}", u8::from(courier.body.grounded));
        }
        step += 1;
        if !courier.step(&land, seconds) || step > 120 * STEPS_PER_SECOND {
            return text;
        }
    }
}
