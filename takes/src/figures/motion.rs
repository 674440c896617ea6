//! The speed of the view, and how often it turns back.

use std::collections::VecDeque;

use velvet_pan::glam::DVec2;

use super::Figures;
use super::sample::Sample;
use super::worst::Worst;

/// Samples in a sixtieth of a second; the speed is measured over this time.
const SPAN: usize = 4;
/// The view turns if it moves back by this many screen pixels.
const TURN: f64 = 1.0;

/// The highest speed and the greatest change of speed.
#[derive(Debug, Default)]
pub struct Motion {
    /// The last centres, while only following moves the view.
    centres: VecDeque<(f64, DVec2)>,
    speed: Worst,
    acceleration: Worst,
}

impl Motion {
    pub fn add(&mut self, sample: &Sample) {
        if sample.led {
            self.centres.clear();
            return;
        }
        self.centres.push_back((sample.t, sample.centre));
        if self.centres.len() > 2 * SPAN + 1 {
            self.centres.pop_front();
        }
        let from_last = |back: usize| self.centres.len().checked_sub(1 + back);
        let speed = |back: usize| {
            let (t, centre) = self.centres[from_last(back)?];
            let (before_t, before) = self.centres[from_last(back + SPAN)?];
            Some(((centre - before) * sample.scale / (t - before_t), t - before_t))
        };
        let Some((now, seconds)) = speed(0) else { return };
        self.speed.add(now.length(), sample.t);
        if let Some((before, _)) = speed(SPAN) {
            self.acceleration.add((now - before).length() / seconds, sample.t);
        }
    }

    pub fn tell(self, figures: &mut Figures) {
        figures.peak_speed = self.speed.tell("peak_speed", figures);
        figures.peak_acceleration = self.acceleration.tell("peak_acceleration", figures);
    }
}

/// Counts how often the view turns back.
#[derive(Debug, Default)]
pub struct Turns {
    axes: [Axis; 2],
    seconds: f64,
    count: u32,
}

/// The movement along one axis since the last turn.
#[derive(Debug, Default)]
struct Axis {
    /// The farthest position since the last turn, in world units.
    farthest: Option<f64>,
    /// The direction: 1 or −1, or 0 until the view has moved far enough.
    way: f64,
}

impl Turns {
    pub fn add(&mut self, sample: &Sample) {
        if sample.led {
            self.axes = Default::default();
            return;
        }
        self.seconds += sample.dt;
        for (axis, place) in self.axes.iter_mut().zip(sample.centre.to_array()) {
            self.count += u32::from(axis.turns(place, TURN / sample.scale));
        }
    }

    pub fn tell(self, figures: &mut Figures) {
        figures.turns = (self.seconds > 0.0).then(|| f64::from(self.count) / self.seconds);
    }
}

impl Axis {
    /// Adds a position and returns whether it completes a turn.
    fn turns(&mut self, place: f64, by: f64) -> bool {
        let farthest = *self.farthest.get_or_insert(place);
        let moved = place - farthest;
        if self.way == 0.0 {
            if moved.abs() >= by {
                (self.way, self.farthest) = (moved.signum(), Some(place));
            }
            return false;
        }
        if moved * self.way >= 0.0 {
            self.farthest = Some(place);
            return false;
        }
        let turned = moved.abs() >= by;
        if turned {
            (self.way, self.farthest) = (-self.way, Some(place));
        }
        turned
    }
}
