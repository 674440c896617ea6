//! The moments at which a view changes its pace abruptly.

use velvet_pan::glam::DVec2;
use velvet_pan::{Decider, Decision, PerAxis};

use crate::ride::moment::{Happening, Moment, deciders_in_words};
use crate::ride::ride::Ride;
use crate::take::take::Take;
use crate::text::fault::Fault;

/// A change of the view's velocity is a jerk from this many screen widths a second on, within one frame.
const ABRUPT: f64 = 0.5;
/// A change of the zoom's velocity is a jerk from this many octaves a second on.
const ABRUPT_ZOOM: f64 = 2.0;
/// Jerks within this time, in seconds, are one.
const TOGETHER: f64 = 0.25;
/// A goal that moves this far, in screen pixels, farther than in the frame before has jumped.
const LEAP_PIXELS: f64 = 8.0;
/// A frame this much longer than the one before explains a jerk.
const LONG_STEP: f64 = 2.5;

/// A moment at which the view changes its pace abruptly.
#[derive(Clone, Copy, Debug)]
pub struct Jerk {
    /// The row of the ride.
    pub row: u64,
    /// Its time, in seconds.
    pub t: f64,
    /// The change of the view's velocity, in screen pixels a second.
    pub pixels: DVec2,
    /// The same as screen widths a second.
    pub widths: f64,
    /// The change of the zoom's velocity, in octaves a second.
    pub octaves: f64,
    /// Who decides where the view is, after it.
    pub decision: PerAxis<Decision>,
    /// What happened in its frame or shortly before.
    pub happening: Option<Happening>,
    /// How far the goal jumped in its frame, in screen pixels: farther than it moved in the frame before.
    pub goal: f64,
    /// The length of its frame in seconds, if it is much longer than the one before.
    pub long_step: Option<f64>,
}

/// The velocity of a view between two moments.
#[derive(Clone, Copy)]
struct Pace {
    pixels: DVec2,
    octaves: f64,
    step: f64,
    /// The movement of the goal, in screen pixels.
    goal: DVec2,
}

impl Pace {
    /// `None` for moments at the same time.
    fn between(one: &Moment, other: &Moment) -> Option<Self> {
        let step = other.t - one.t;
        let (from, to) = (one.view.steady(), other.view.steady());
        let pixels =
            from.world_to_screen_f64(to.centre()) - from.world_to_screen_f64(from.centre());
        let octaves = (to.lens().zoom() / from.lens().zoom()).log2();
        let goal = from.world_to_screen_f64(other.goal) - from.world_to_screen_f64(one.goal);
        (step > 0.0).then(|| Self { pixels: pixels / step, octaves: octaves / step, step, goal })
    }
}

impl Jerk {
    /// Returns the jerks of a take, in order of time: moments at which the view's velocity changes by half a screen's
    /// width a second or more within one frame, or that of the zoom by 2 octaves a second. Shakes and snapping do not
    /// count. Jerks within a quarter of a second are one, the greatest.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Files, Jerk, Overrides, Take};
    /// # let text = "seconds = 2.0\n[subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [2.0, 90.0, 0.0]]\n[[events]]\nat = 1.0\nzoom_now = 2.0\n";
    /// # let files = [BuiltIn { name: "run.toml", text: text.into() }];
    /// let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
    /// let jerks = Jerk::of_take(&take)?;
    /// assert_eq!(jerks.len(), 1);
    /// assert!((jerks[0].t - 1.0).abs() < 0.04 && jerks[0].cause().contains("command"));
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    ///
    /// # Errors
    ///
    /// The settings can't be used.
    pub fn of_take(take: &Take) -> Result<Vec<Self>, Fault> {
        let mut jerks: Vec<Self> = Vec::new();
        let (mut before, mut pace): (Option<Moment>, Option<Pace>) = (None, None);
        let mut lately: Option<(f64, Happening)> = None;
        for (row, moment) in (0..).zip(Ride::new(take)?) {
            lately = moment.happening.map(|what| (moment.t, what)).or(lately);
            let now = before.and_then(|before| Pace::between(&before, &moment));
            if let (Some(was), Some(now)) = (pace, now) {
                let jerk = Self::at(row, &moment, was, now, lately);
                add(&mut jerks, jerk);
            }
            pace = now.or(pace);
            before = Some(moment);
        }
        Ok(jerks)
    }

    fn at(
        row: u64,
        moment: &Moment,
        was: Pace,
        now: Pace,
        lately: Option<(f64, Happening)>,
    ) -> Self {
        let pixels = now.pixels - was.pixels;
        let happening = lately.filter(|(t, _)| moment.t - t <= TOGETHER).map(|(_, what)| what);
        Self {
            row,
            t: moment.t,
            pixels,
            widths: pixels.length() / f64::from(moment.view.size().x),
            octaves: now.octaves - was.octaves,
            decision: moment.decision,
            happening,
            goal: (now.goal - was.goal * (now.step / was.step)).length(),
            long_step: (now.step > LONG_STEP * was.step).then_some(now.step),
        }
    }

    /// Returns what explains it, in words: what happened, who decides, and how far the goal jumped. A jerk without any of
    /// these is one of the camera itself.
    #[must_use]
    pub fn cause(&self) -> String {
        let happened = self.happening.map(|what| what.name().to_owned());
        let step = self.long_step.map(|seconds| format!("a step of {seconds:.3} s"));
        let decider = deciders_in_words(&self.decision);
        let decider = (decider != Decider::Motion.name()).then_some(decider);
        let goal =
            (self.goal >= LEAP_PIXELS).then(|| format!("the goal jumped {:.0} px", self.goal));
        let causes: Vec<String> = [happened, step, decider, goal].into_iter().flatten().collect();
        causes.join(", ")
    }

    /// Returns how far it is above the threshold, as a factor.
    #[must_use]
    pub fn size(&self) -> f64 {
        (self.widths / ABRUPT).max(self.octaves.abs() / ABRUPT_ZOOM)
    }
}

/// Adds a jerk, or joins it with the last one.
fn add(jerks: &mut Vec<Jerk>, jerk: Jerk) {
    if jerk.size() < 1.0 {
        return;
    }
    match jerks.last_mut() {
        Some(last) if jerk.t - last.t <= TOGETHER => {
            if jerk.size() > last.size() {
                *last = jerk;
            }
        }
        _ => jerks.push(jerk),
    }
}
