//! The samples of a ride, with everything that figures need.

use velvet_pan::glam::DVec2;
use velvet_pan::{Decider, Rect, ShakeOffset, View};

use super::Run;
use super::outside::outside;
use crate::take::take::Take;
use crate::text::fault::Fault;

/// A subject that is faster than this, in screens per second, counts as teleported.
const TELEPORT: f64 = 12.0;
/// How long a teleport affects figures, in seconds: the camera is still on its way.
const TELEPORT_SECONDS: f64 = 1.0;

/// One sample of a ride.
#[derive(Clone, Copy, Debug)]
pub struct Sample {
    /// Seconds from the start, and since the last sample.
    pub t: f64,
    pub dt: f64,
    pub view: View,
    /// The centre of the view without shake, in world units.
    pub centre: DVec2,
    /// Screen pixels per world unit.
    pub scale: f64,
    /// The size of the screen, in screen pixels.
    pub size: DVec2,
    pub subject: Option<DVec2>,
    /// The movement of the subject since the last sample, in world units. `None` if the subject is new.
    pub step: Option<DVec2>,
    /// The subject's position in the view without snapping and shake, in screen pixels.
    pub on_screen: Option<DVec2>,
    /// From the view to its goal, in screen pixels along the world's axes.
    pub behind: DVec2,
    /// From the anchor to the subject, in screen pixels along the screen's axes.
    pub off_anchor: Option<DVec2>,
    /// Which stage decides where the view is, per axis of the world.
    pub deciders: [Decider; 2],
    /// The area outside the bounds that is shown, in square screen pixels.
    pub outside: Option<f64>,
    pub shaken: bool,
    /// Whether something other than following moves the view.
    pub led: bool,
    /// Whether the view or the subject jumped.
    pub cut: bool,
    pub teleport: bool,
}

/// Iterates over all samples of a take.
pub struct Samples<'a> {
    take: &'a Take,
    run: Run,
    last: Option<Sample>,
    room: Option<Rect>,
    /// The time until which a teleport affects figures.
    until: f64,
}

impl<'a> Samples<'a> {
    pub fn new(take: &'a Take) -> Result<Self, Fault> {
        Ok(Self { take, run: Run::new(take)?, last: None, room: None, until: f64::NEG_INFINITY })
    }
}

impl Iterator for Samples<'_> {
    type Item = Sample;

    fn next(&mut self) -> Option<Sample> {
        if self.run.next_row() >= self.take.rows() {
            return None;
        }
        let glance = self.run.glance(self.take);
        let (view, steady) = (glance.view, glance.view.steady());
        let room = self.run.camera().room();
        let changed_room = self.last.is_some() && room != self.room;
        self.room = room;
        let camera = self.run.camera();
        let settings = camera.settings();
        let subject = glance.subject.filter(|_| self.run.follows());
        let follow = &settings.follow;
        let step = self.last.and_then(|last| Some(subject? - last.subject?));
        let screens = |step: DVec2| step * view.scale() * self.take.fps / view.size().as_dvec2();
        let teleport = step.is_some_and(|step| screens(step).abs().max_element() > TELEPORT);
        if teleport {
            self.until = glance.t + TELEPORT_SECONDS;
        }
        let cut = changed_room || self.last.is_some_and(|last| view.is_cut_from(&last.view));
        let size = steady.size().as_dvec2();
        let off = |subject: DVec2| {
            steady.world_to_screen_f64(subject + follow.offset) - follow.anchor * size
        };
        let sample = Sample {
            t: glance.t,
            dt: self.last.map_or(0.0, |last| glance.t - last.t),
            view,
            centre: steady.centre(),
            scale: steady.scale(),
            size,
            subject,
            step,
            on_screen: subject.map(|subject| steady.world_to_screen_f64(subject)),
            behind: (glance.goal - steady.centre()) * steady.scale(),
            off_anchor: subject.map(off),
            deciders: glance.deciders,
            outside: camera.bounds_now().map(|rect| outside(&view, &rect)),
            shaken: view.shake() != ShakeOffset::default(),
            led: self.run.is_led() || cut || glance.t < self.until,
            cut,
            teleport,
        };
        self.last = Some(sample);
        Some(sample)
    }
}
