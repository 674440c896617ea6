//! The movement of the view after the subject stops.

use velvet_pan::Decider;
use velvet_pan::glam::DVec2;

use super::Figures;
use super::sample::Sample;
use super::worst::Worst;

/// A subject that is slower than this, in screen pixels per second, stands.
const STANDING_SPEED: f64 = 0.5;
/// A camera that is nearer than this to where it comes to rest, in screen pixels, has settled.
const SETTLED: f64 = 0.5;
/// It has come to rest if it has been that near for this time, in seconds.
const AT_REST: f64 = 0.25;
/// The longest time, in seconds, that a camera has to settle.
pub const PATIENCE: f64 = 5.0;
/// A camera that comes back by this many screen pixels has been beyond its position of rest, though it is not there yet.
const BACK: f64 = 1.0;

#[derive(Debug, Default)]
pub struct Stops {
    /// The direction of the subject while it moves.
    way: Option<DVec2>,
    /// The stop that is being measured.
    stop: Option<Stop>,
    last: Option<DVec2>,
    settle: Worst,
    overshoot: Worst,
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
    now: f64,
    /// The positions of the camera since, each with its time, in world units.
    centres: Vec<(f64, DVec2)>,
    scale: f64,
}

impl Stops {
    pub fn add(&mut self, sample: &Sample) {
        let before = self.last.replace(sample.centre);
        // A view that scrolls by itself never rests.
        let led = sample.led || sample.deciders.contains(&Decider::Scroll);
        let (Some(step), Some(before), false) = (sample.step, before, led) else {
            (self.way, self.stop) = (None, None);
            return;
        };
        if step.length() * sample.scale / sample.dt > STANDING_SPEED {
            self.way = Some(step.normalize_or_zero());
            return self.close();
        }
        if let Some(way) = self.way.take() {
            // It stopped at the sample before.
            let since = sample.t - sample.dt;
            let centres = vec![(since, before)];
            self.stop = Some(Stop { since, way, now: since, centres, scale: sample.scale });
        }
        let Some(stop) = &mut self.stop else { return };
        stop.now = sample.t;
        stop.centres.push((sample.t, sample.centre));
        if sample.t - stop.since >= PATIENCE {
            self.close();
        }
    }

    /// Ends the stop, because the subject moves on or has stood long enough.
    fn close(&mut self) {
        let Some(stop) = self.stop.take() else { return };
        let settle = stop.settle();
        let (overshoot, t) = stop.overshoot();
        if settle.is_some() || overshoot >= BACK {
            self.overshoot.add(overshoot, t);
        }
        match settle {
            Some(seconds) => {
                self.count += 1;
                self.settle.add(seconds, stop.since);
            }
            None if stop.now - stop.since >= PATIENCE => {
                self.count += 1;
                self.unsettled += 1;
                self.settle.add(PATIENCE, stop.since);
            }
            None => self.short += 1,
        }
    }

    pub fn tell(mut self, figures: &mut Figures) {
        self.close();
        figures.settle = self.settle.tell("settle", figures);
        figures.overshoot = self.overshoot.tell("overshoot", figures);
        (figures.stops, figures.unsettled) = (self.count, self.unsettled);
        figures.short_stops = self.short;
    }
}

impl Stop {
    /// Returns the time until the camera stays where it is at the end, or `None` if it still moves there.
    fn settle(&self) -> Option<f64> {
        let (_, rest) = *self.centres.last()?;
        let away = |(_, centre): &&(f64, DVec2)| (*centre - rest).length() * self.scale > SETTLED;
        let last = self.centres.iter().rev().find(away);
        let settled = last.map_or(self.since, |(t, _)| *t);
        (self.now - settled >= AT_REST).then_some(settled - self.since)
    }

    /// Returns the greatest distance beyond the last position, in screen pixels, in the direction of the subject and in
    /// that of the camera, and its time.
    fn overshoot(&self) -> (f64, f64) {
        let (Some((_, first)), Some((_, rest))) = (self.centres.first(), self.centres.last())
        else {
            return (0.0, self.since);
        };
        let camera = (*rest - *first).normalize_or_zero();
        let beyond = |(t, centre): &(f64, DVec2)| {
            let past = *centre - *rest;
            (past.dot(self.way).max(past.dot(camera)) * self.scale, *t)
        };
        let most = self.centres.iter().map(beyond).max_by(|a, b| a.0.total_cmp(&b.0));
        most.map_or((0.0, self.since), |(most, t)| (most.max(0.0), t))
    }
}
