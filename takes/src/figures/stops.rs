//! What the view does when the subject stops.

use velvet_pan::glam::DVec2;

use super::Figures;
use super::sight::Sight;

/// Slower than this, in screen pixels per second, a subject stands …
const STANDS: f64 = 0.5;
/// … and the camera is at rest.
const RESTS: f64 = 4.0;
/// So long, in seconds, a camera may take to settle.
pub const PATIENCE: f64 = 5.0;
/// A stop shorter than this does not tell of a camera that is still moving.
const SHORT: f64 = 1.0;

#[derive(Debug, Default)]
pub struct Stops {
    /// Where the subject was heading, while it moves.
    way: Option<DVec2>,
    /// The stop that is looked at.
    stop: Option<Stop>,
    last: Option<DVec2>,
    settle: Option<f64>,
    overshoot: Option<f64>,
    count: u32,
    unsettled: u32,
    short: u32,
}

/// The subject stands.
#[derive(Debug)]
struct Stop {
    since: f64,
    /// The direction in which it came.
    way: DVec2,
    /// When the camera was last seen to move.
    moved: f64,
    now: f64,
    /// Where the camera has been since, in world units.
    centres: Vec<DVec2>,
    scale: f64,
}

impl Stops {
    pub fn add(&mut self, sight: &Sight) {
        let before = self.last.replace(sight.centre);
        let (Some(step), Some(before), false) = (sight.step, before, sight.led) else {
            (self.way, self.stop) = (None, None);
            return;
        };
        if step.length() * sight.scale / sight.dt > STANDS {
            self.way = Some(step.normalize_or_zero());
            return self.close();
        }
        let moves = (sight.centre - before).length() * sight.scale / sight.dt > RESTS;
        if let Some(way) = self.way.take() {
            // The look before is that at which it came to stand.
            let since = sight.t - sight.dt;
            let centres = vec![before];
            let scale = sight.scale;
            self.stop = Some(Stop { since, way, moved: since, now: since, centres, scale });
        }
        let Some(stop) = &mut self.stop else { return };
        stop.now = sight.t;
        stop.centres.push(sight.centre);
        if moves {
            stop.moved = sight.t;
        }
        if sight.t - stop.since >= PATIENCE {
            self.close();
        }
    }

    /// The subject goes on, or has stood long enough.
    fn close(&mut self) {
        let Some(stop) = self.stop.take() else { return };
        let settled = stop.moved < stop.now;
        if !settled && stop.now - stop.since < SHORT {
            self.short += 1;
            return;
        }
        self.count += 1;
        let most =
            |worst: Option<f64>, value: f64| Some(worst.map_or(value, |worst| worst.max(value)));
        if settled {
            self.settle = most(self.settle, stop.moved - stop.since);
            self.overshoot = most(self.overshoot, stop.overshoot());
        } else {
            self.unsettled += 1;
            self.settle = Some(PATIENCE);
        }
    }

    pub fn tell(mut self, figures: &mut Figures) {
        self.close();
        (figures.settle, figures.overshoot) = (self.settle, self.overshoot);
        (figures.stops, figures.unsettled) = (self.count, self.unsettled);
        figures.short_stops = self.short;
    }
}

impl Stop {
    /// Screen pixels beyond the rest, in the direction in which the subject came and in that of the camera.
    fn overshoot(&self) -> f64 {
        let (Some(first), Some(rest)) = (self.centres.first(), self.centres.last()) else {
            return 0.0;
        };
        let camera = (*rest - *first).normalize_or_zero();
        let beyond = |centre: &DVec2| {
            let past = *centre - *rest;
            past.dot(self.way).max(past.dot(camera)) * self.scale
        };
        self.centres.iter().map(beyond).fold(0.0, f64::max)
    }
}
