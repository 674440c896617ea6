//! How long before the subject is somewhere the player has seen the place.

use std::collections::VecDeque;

use velvet_pan::glam::DVec2;
use velvet_pan::{Decider, Rect, View};

use super::Figures;
use super::sample::Sample;
use super::worst::Worst;

/// Longer warnings count as this long, in seconds.
const MAX_WARNING: f64 = 3.0;
/// A position is taken each time the subject has moved by this many screen pixels.
const EVERY: f64 = 8.0;
/// A hazard is reached when the subject is nearer than this, in widths of the screen.
const NEAR: f64 = 0.25;
/// The number of the shortest warnings that are reported.
const TOLD: usize = 5;

/// One of the shortest warnings.
#[derive(Clone, Copy, Debug, PartialEq, serde::Serialize)]
pub struct Warned {
    /// How long the place had been in view, in seconds.
    pub seconds: f64,
    /// When the subject came there, in seconds from the start.
    pub t: f64,
    /// Where, in world units.
    pub x: f64,
    /// See `x`.
    pub y: f64,
}

/// Measures warnings.
#[derive(Debug)]
pub struct Warnings<'a> {
    /// The views of the last seconds, the newest last.
    seen: VecDeque<(f64, View)>,
    /// The way since the last position that was taken, in screen pixels.
    way: f64,
    shortest: Vec<Warned>,
    hazards: &'a [Rect],
    reached: Vec<bool>,
    hazard: Worst,
}

impl<'a> Warnings<'a> {
    pub fn new(hazards: &'a [Rect]) -> Self {
        let reached = vec![false; hazards.len()];
        let (seen, shortest) = (VecDeque::new(), Vec::new());
        Self { seen, way: 0.0, shortest, hazards, reached, hazard: Worst::default() }
    }

    pub fn add(&mut self, sample: &Sample) {
        // Where something else decides, the player does not look ahead.
        let elsewhere = |by: &Decider| matches!(by, Decider::Room | Decider::Scroll);
        if sample.led || sample.deciders.iter().any(elsewhere) {
            self.seen.clear();
            return;
        }
        self.seen.push_back((sample.t, sample.view.steady()));
        // The one before the first of the time shows whether all of it is known.
        while self.seen.get(1).is_some_and(|(t, _)| sample.t - t >= MAX_WARNING) {
            self.seen.pop_front();
        }
        let Some((first, _)) = self.seen.front() else { return };
        let Some(subject) = sample.subject.filter(|_| sample.t - first >= MAX_WARNING - 1e-9)
        else {
            return;
        };
        self.way += sample.step.map_or(0.0, DVec2::length) * sample.scale;
        if self.way >= EVERY {
            self.way = 0.0;
            self.take(self.warning(sample.t, subject), sample.t, subject);
        }
        let reach = NEAR * sample.size.x / sample.scale;
        for (index, hazard) in self.hazards.iter().enumerate() {
            let nearest = subject.clamp(hazard.min, hazard.max);
            if !self.reached[index] && subject.distance(nearest) <= reach {
                self.reached[index] = true;
                self.hazard.add_small(self.warning(sample.t, nearest), sample.t);
            }
        }
    }

    /// How long a place has been in view without a break.
    fn warning(&self, now: f64, place: DVec2) -> f64 {
        let shows = |(_, view): &&(f64, View)| {
            let at = view.world_to_screen_f64(place);
            at.cmpge(DVec2::ZERO).all() && at.cmplt(view.size().as_dvec2()).all()
        };
        let since = self.seen.iter().rev().take_while(shows).last();
        since.map_or(0.0, |(t, _)| (now - t).min(MAX_WARNING))
    }

    /// Keeps the shortest.
    fn take(&mut self, seconds: f64, t: f64, place: DVec2) {
        let at = self.shortest.partition_point(|other| other.seconds <= seconds);
        if at < TOLD {
            self.shortest.insert(at, Warned { seconds, t, x: place.x, y: place.y });
            self.shortest.truncate(TOLD);
        }
    }

    pub fn tell(self, figures: &mut Figures) {
        figures.warning = self.shortest.first().map(|shortest| shortest.seconds);
        figures.when.extend(self.shortest.first().map(|shortest| ("warning", shortest.t)));
        figures.hazard_warning = self.hazard.tell("hazard_warning", figures);
        figures.hazards_missed = self.reached.iter().filter(|reached| !**reached).count() as u32;
        figures.warnings = self.shortest;
    }
}
