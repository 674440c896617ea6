//! A ride as a chart shows it, collected moment by moment.

use velvet_pan::glam::DVec2;
use velvet_pan::{Rect, View};
use velvet_pan_takes::{Fault, Moment, Ride, Take, drawn_origin};

use crate::arguments::rides::Entry;
use crate::charts::thinned::{Curve, MAX_ITEMS, Thinned};
use crate::support::progress::Progress;

/// A take and its ride.
#[derive(Debug)]
pub struct Ridden {
    /// Its name among the others.
    pub name: String,
    /// The take.
    pub take: Take,
    /// The data to draw.
    pub curves: Curves,
}

/// The data of a ride that a chart draws.
#[derive(Debug, Default)]
pub struct Curves {
    /// The distance from the subject to the middle of the view and to the goal, per axis, in screen pixels.
    pub view: [Curve; 2],
    pub goal: [Curve; 2],
    /// In screen pixels.
    pub lag: Curve,
    /// In screen pixels per second.
    pub speed: Curve,
    pub zoom: Curve,
    /// In degrees.
    pub rotation: Curve,
    /// The movement of the picture from frame to frame, per axis, in window pixels.
    pub steps: [Curve; 2],
    /// Downwards, in screen pixels.
    pub shake: Curve,
    pub envelope: Curve,
    /// The paths of the view and of its subject, in world units.
    pub way: Thinned<DVec2, MAX_ITEMS>,
    pub subject: Thinned<DVec2, MAX_ITEMS>,
    /// The visible rectangle every two seconds, or four, or eight …
    pub shown: Thinned<Rect, 600>,
    /// The rectangle that contains everything that was shown.
    pub seen: Option<Rect>,
    /// Whether the ride turns or shakes.
    pub turns: bool,
    pub shakes: bool,
}

impl Ridden {
    /// Rides a take.
    pub fn new(entry: Entry) -> Result<Self, Fault> {
        let Entry { name, take, .. } = entry;
        let mut curves = Curves::default();
        let mut progress = Progress::new("riding", take.rows());
        let every = (take.fps * 2.0).round().max(1.0) as u64;
        let mut before: Option<(f64, View)> = None;
        for (row, moment) in (0_u64..).zip(Ride::new(&take)?) {
            progress.step();
            curves.add(&moment, moment.lag());
            if row.is_multiple_of(every) {
                curves.shown.add(moment.view.visible_world());
            }
            if let Some((t, view)) = before.replace((moment.t, moment.view)) {
                curves.add_step(&moment, t, &view);
            }
        }
        Ok(Self { name, take, curves })
    }
}

impl Curves {
    /// Adds everything that depends on one moment.
    fn add(&mut self, moment: &Moment, lag: Option<f64>) {
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
        if let Some(lag) = lag {
            self.lag.add(t, lag);
        }
        self.zoom.add(t, moment.view.lens().zoom());
        self.rotation.add(t, steady.lens().rotation().to_degrees());
        self.shake.add(t, moment.view.shake().pixels.y);
        self.envelope.add(t, moment.envelope.y);
        self.way.add(steady.centre());
        let joined =
            |seen: Rect| Rect { min: seen.min.min(shown.min), max: seen.max.max(shown.max) };
        self.seen = Some(self.seen.map_or(shown, joined));
        self.turns |= steady.lens().is_rotated();
        self.shakes |= moment.envelope != DVec2::ZERO;
    }

    /// Adds everything that depends on two moments.
    fn add_step(&mut self, moment: &Moment, t: f64, before: &View) {
        let (from, to) = (before.steady(), moment.view.steady());
        let seconds = (moment.t - t).max(1e-9);
        let speed = (to.centre() - from.centre()).length() * to.scale() / seconds;
        self.speed.add(moment.t, speed);
        let step = drawn_origin(before) - drawn_origin(&moment.view);
        (0..2).for_each(|axis| self.steps[axis].add(moment.t, step[axis]));
    }
}
