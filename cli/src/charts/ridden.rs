//! A ride as a chart shows it, taken in moment by moment.

use velvet_pan::glam::DVec2;
use velvet_pan::{Rect, View};
use velvet_pan_takes::{Fault, Moment, Ride, Take, drawn_origin};

use crate::arguments::rides::Entry;
use crate::charts::thinned::{Curve, Thinned};
use crate::progress::Progress;

/// Rectangles that are drawn, at most.
const RECTANGLES: usize = 600;

/// A take as it was ridden: what of it is drawn, and no more than that.
#[derive(Debug)]
pub struct Ridden {
    /// What tells it from the others.
    pub name: String,
    /// The take.
    pub take: Take,
    /// From the subject to the middle of the view and to the goal, per axis, in screen pixels.
    pub view: [Curve; 2],
    pub goal: [Curve; 2],
    /// In screen pixels.
    pub lag: Curve,
    /// In screen pixels a second.
    pub speed: Curve,
    pub zoom: Curve,
    /// How far the picture is moved across from frame to frame, in window pixels.
    pub steps: Curve,
    /// Downwards, in screen pixels.
    pub shake: Curve,
    pub envelope: Curve,
    /// In world units: the way of the view and of its subject, and what was shown every two seconds, or four,
    /// or eight …
    pub way: Thinned<DVec2>,
    pub subject: Thinned<DVec2>,
    pub shown: Thinned<Rect>,
    /// All that was shown.
    pub seen: Option<Rect>,
    /// Whether it ever zooms, or shakes.
    pub zooms: bool,
    pub shakes: bool,
}

impl Ridden {
    /// Rides a take.
    pub fn new(entry: Entry) -> Result<Self, Fault> {
        let mut ridden = Self {
            name: entry.name,
            take: entry.take.clone(),
            view: Default::default(),
            goal: Default::default(),
            lag: Curve::default(),
            speed: Curve::default(),
            zoom: Curve::default(),
            steps: Curve::default(),
            shake: Curve::default(),
            envelope: Curve::default(),
            way: Thinned::default(),
            subject: Thinned::default(),
            shown: Thinned::at_most(RECTANGLES),
            seen: None,
            zooms: false,
            shakes: false,
        };
        let mut progress = Progress::new("riding", entry.take.rows());
        let every = (entry.take.fps * 2.0).round().max(1.0) as u64;
        let mut before: Option<(f64, View)> = None;
        for (row, moment) in (0_u64..).zip(Ride::new(&entry.take)?) {
            progress.step();
            ridden.add(&moment);
            if row.is_multiple_of(every) {
                ridden.shown.add(moment.view.visible_world());
            }
            if let Some((t, view)) = before.replace((moment.t, moment.view)) {
                ridden.add_step(&moment, t, &view);
            }
        }
        Ok(ridden)
    }

    /// Everything that a moment shows by itself.
    fn add(&mut self, moment: &Moment) {
        let (t, steady, shown) = (moment.t, moment.view.steady(), moment.view.visible_world());
        if let Some(subject) = moment.subject {
            let away = |place: DVec2| (place - subject) * steady.scale();
            let (view, goal) = (away(steady.centre()), away(moment.goal));
            for axis in 0..2 {
                self.view[axis].add(t, view[axis]);
                self.goal[axis].add(t, goal[axis]);
            }
            self.subject.add(subject);
        }
        if let Some(lag) = moment.lag(&self.take) {
            self.lag.add(t, lag);
        }
        self.zoom.add(t, moment.view.lens().zoom());
        self.shake.add(t, moment.view.shake().pixels.y);
        self.envelope.add(t, moment.envelope.y);
        self.way.add(steady.centre());
        let joined =
            |seen: Rect| Rect { min: seen.min.min(shown.min), max: seen.max.max(shown.max) };
        self.seen = Some(self.seen.map_or(shown, joined));
        self.zooms |= moment.view.lens().zoom() != 1.0;
        self.shakes |= moment.envelope != DVec2::ZERO;
    }

    /// What it shows beside the moment before.
    fn add_step(&mut self, moment: &Moment, t: f64, before: &View) {
        let (from, to) = (before.steady(), moment.view.steady());
        let seconds = (moment.t - t).max(1e-9);
        let speed = (to.centre() - from.centre()).length() * to.scale() / seconds;
        self.speed.add(moment.t, speed);
        let step = drawn_origin(before).x - drawn_origin(&moment.view).x;
        self.steps.add(moment.t, step);
    }
}
