//! The movement of the view after the subject stops.

use velvet_pan::glam::DVec2;

use super::Figures;
use super::sight::Sight;

/// A subject that is slower than this, in screen pixels per second, stands.
const STANDS: f64 = 0.5;
/// A camera that is slower than this, in screen pixels per second, is at rest.
const RESTS: f64 = 4.0;
/// The longest time, in seconds, that a camera has to settle.
pub const PATIENCE: f64 = 5.0;
/// A stop that is shorter than this, in seconds, is not measured if the camera is still moving.
const SHORT: f64 = 1.0;

#[derive(Debug, Default)]
pub struct Stops {
    /// The direction of the subject while it moves.
    way: Option<DVec2>,
    /// The stop that is being measured.
    stop: Option<Stop>,
    last: Option<DVec2>,
    settle: Option<f64>,
    overshoot: Option<f64>,
    count: u32,
    unsettled: u32,
    short: u32,
}

/// A stop of the subject.
#[derive(Debug)]
struct Stop {
    since: f64,
    /// The direction from which it came.
    way: DVec2,
    /// The time at which the camera last moved.
    moved: f64,
    now: f64,
    /// The positions of the camera since, in world units.
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
            // It stopped at the sample before.
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

    /// Ends the stop, because the subject moves on or has stood long enough.
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
    /// The distance beyond the position of rest, in screen pixels, in the direction of the subject and in that of the
    /// camera.
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
