//! One leg: goal, motion, limits and picture, in this order. It reads a ride, and writes the next one at its end.

use glam::DVec2;

use crate::base::maths::bisect;
use crate::base::sound::{Sound, sound};
use crate::curves::course::Course;
use crate::curves::half_life::{HalfLifeStep, REST_PIXELS};
use crate::goal::air::Air;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::{Stride, SubjectNow};
use crate::lens::lens::Lens;
use crate::motion::motion::Moving;

use super::Scratch;
use super::air::{apex, has_left_leash};
use super::framing::Framing;
use super::goal::{self, GoalMemory, Shapes};
use super::limits::{self, Tether};
use super::picture::Picture;
use super::rules::Rules;
use super::state::CameraState;

/// Small steps per second, used while one stage depends on another throughout a leg.
const SMALL_STEPS: f64 = 480.0;

/// The maximum number of small steps. A pause of minutes in a debugger would otherwise take hundreds of thousands.
const MAX_STEPS: f64 = 128.0;

/// The longest leg at the edge of a hall, in seconds, so that a way into another one is not missed.
pub(super) const HALL_SECONDS: f64 = 1.0 / 240.0;

/// How often a leg is halved while its course has too many bends. What is then left is a 64th of a frame.
const MAX_HALVINGS: u32 = 6;

/// How often a leg is halved to find a moment in it. What is then left is less than a nanosecond of a frame.
pub(super) const HALVINGS: u32 = 24;

/// A path that deviates from a line by less than this, in screen pixels, counts as straight.
pub(super) const STRAIGHT_PIXELS: f64 = 0.02;

/// What a leg changes. A leg reads it, decides, and writes it once at its end, so that nothing is ever put back.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Ride {
    pub goal: GoalMemory,
    /// The world point that following puts at the anchor. It keeps moving while a hand controls the view.
    pub focus: Moving,
    /// Where the goal wanted the focus at the end of the last step: shaped and bounded.
    #[cfg(new_frame)]
    pub aim: DVec2,
    pub room: Option<RoomMemory>,
    /// Whether the leash pulled the view in the last leg, per axis of the screen.
    pub on_leash: [bool; 2],
    pub picture: Picture,
}

#[cfg(new_frame)]
sound!(Ride { goal, focus, aim, room, on_leash, picture });
#[cfg(not(new_frame))]
sound!(Ride { goal, focus, room, on_leash, picture });

/// What a leg is given. None of it changes while the leg runs.
#[derive(Clone, Copy, Debug)]
pub(super) struct Leg<'a> {
    pub rules: &'a Rules,
    pub framing: &'a Framing,
    /// Whether the subject is free from its leash.
    pub is_free: bool,
    /// The path of the followed subject.
    pub stride: Option<Stride>,
    pub seconds: f64,
    /// The fraction of the leg in which a steady scroll moves.
    pub scrolls: f64,
    /// The movement of the lens, if it moves.
    pub lens: Option<LensMove>,
}

/// What a moving lens changes in a leg, which runs as its end shows it.
#[derive(Clone, Copy, Debug)]
pub(super) struct LensMove {
    /// Where the goal was before. It moves through the leg, too: behind a goal that jumps from leg to leg, smoothing
    /// would lag by a distance that depends on the legs.
    pub goal_before: DVec2,
    /// The lens an instant after the leg, if there is a leash.
    pub later: Option<Lens>,
}

/// Following within a leg, before the limits.
#[derive(Clone, Copy, Debug)]
pub(super) struct Led {
    pub goal: GoalMemory,
    pub focus: Moving,
}

/// Runs a leg. It is divided where the subject's path bends, where a held height is released, and into small steps where
/// a limit acts within it.
pub(super) fn run(leg: &Leg<'_>, ride: &mut Ride, scratch: &mut Scratch) {
    if let Some(split) = leg.split_at(ride.goal.air) {
        run(&leg.part(0.0, split), ride, scratch);
        return run(&leg.part(split, 1.0), ride, scratch);
    }
    let led = lead(leg, ride, scratch);
    if leg.has_left_leash(&led) {
        return release_height(leg, ride, scratch);
    }
    if leg.is_limited(ride, &led) {
        return run_small_steps(leg, ride, scratch);
    }
    end(leg, ride, led);
}

/// Runs a step in which nothing but following happens as one leg. Returns whether it did: where the view passes into
/// another hall of its outline, the step must be divided.
#[inline]
pub(super) fn run_alone(leg: &Leg<'_>, state: &mut CameraState, scratch: &mut Scratch) -> bool {
    if leg.framing.outline.is_none() {
        run(leg, &mut state.ride, scratch);
        return true;
    }
    let ride = run_in_hall(leg, state, scratch);
    state.ride = ride.unwrap_or(state.ride);
    ride.is_some()
}

/// Runs such a leg in an outline. Returns `None` if the view passes into another hall.
fn run_in_hall(leg: &Leg<'_>, state: &CameraState, scratch: &mut Scratch) -> Option<Ride> {
    let Leg { rules, framing, .. } = *leg;
    let passes = |ride: &Ride, at: f64| {
        let subject = leg.stride.map(|stride| stride.between(0.0, at).to);
        rules.next_hall(framing, &state.limits, ride, subject).is_some()
    };
    let mut ride = state.ride;
    run(leg, &mut ride, scratch);
    let is_inside = framing.allows(&ride) && framing.allows(&state.ride);
    if is_inside || rules.stays_in_hall(framing, &state.limits, leg.stride) {
        return (!passes(&ride, 1.0)).then_some(ride);
    }
    let parts = libm::ceil(leg.seconds / HALL_SECONDS - 1e-6).clamp(1.0, MAX_STEPS);
    ride = state.ride;
    for part in 0..parts as u32 {
        let at = |part: u32| f64::from(part) / parts;
        run(&leg.part(at(part), at(part + 1)), &mut ride, scratch);
        if passes(&ride, at(part + 1)) {
            return None;
        }
    }
    Some(ride)
}

/// Runs a leg as small steps.
fn run_small_steps(leg: &Leg<'_>, ride: &mut Ride, scratch: &mut Scratch) {
    let steps = small_steps(leg.seconds);
    for step in 0..steps as u32 {
        let at = |step: u32| f64::from(step) / steps;
        let part = Leg { seconds: leg.seconds / steps, ..leg.part(at(step), at(step + 1)) };
        end(&part, ride, lead(&part, ride, scratch));
    }
}

/// Runs up to the moment at which the subject leaves its leash in the air, and releases the height. The goal jumps, and
/// the rest of the leg begins from there.
fn release_height(leg: &Leg<'_>, ride: &mut Ride, scratch: &mut Scratch) {
    let [_, left] = bisect([0.0, 1.0], HALVINGS, |moment| {
        let part = leg.part(0.0, moment);
        part.has_left_leash(&lead(&part, ride, scratch))
    });
    let part = leg.part(0.0, left);
    end(&part, ride, lead(&part, ride, scratch));
    ride.goal.air = Air::Loose;
    run(&leg.part(left, 1.0), ride, scratch);
}

/// Moves goal and focus through a leg, before the limits.
#[inline]
pub(super) fn lead(leg: &Leg<'_>, ride: &Ride, scratch: &mut Scratch) -> Led {
    let from = Led { goal: ride.goal, focus: ride.focus };
    lead_in_parts(leg, ride, from, MAX_HALVINGS, scratch)
}

/// Does the same, in two halves if the course has too many bends for one.
fn lead_in_parts(
    leg: &Leg<'_>,
    ride: &Ride,
    from: Led,
    halvings: u32,
    scratch: &mut Scratch,
) -> Led {
    let Leg { rules, framing, stride, seconds, scrolls, .. } = leg;
    let Scratch { course, ahead, motion, .. } = scratch;
    let barrier = ride.picture.barrier_for(framing, from.focus.position);
    let shapes = Shapes { rules, framing, room: ride.room.as_ref(), barrier, scrolls: *scrolls };
    let mut goal = from.goal;
    goal::lay(course, &shapes, stride.as_ref(), *seconds, &mut goal, ahead);
    if course.is_full() && halvings > 0 {
        let half = lead_in_parts(&leg.part(0.0, 0.5), ride, from, halvings - 1, scratch);
        return lead_in_parts(&leg.part(0.5, 1.0), ride, half, halvings - 1, scratch);
    }
    if let Some(LensMove { goal_before, .. }) = leg.lens {
        let gap = goal_before - course.knots()[0].point;
        course.map_in_time(|at, goal| goal + gap * (1.0 - at));
    }
    let (smoothing, scale) = (&framing.follow.smoothing, framing.lens.scale());
    let moved = motion.advance(smoothing, from.focus, course, *seconds, scale);
    Led { goal, focus: if moved.is_sound() { moved } else { from.focus } }
}

/// The end of a leg: changes fade on, and the limits apply.
fn end(leg: &Leg<'_>, ride: &mut Ride, led: Led) {
    let Leg { framing, seconds, .. } = leg;
    if *seconds > 0.0 {
        let start = leg.tether(Stride::start);
        ride.picture.before = (ride.shown_focus(framing, start.as_ref()), *seconds);
    }
    (ride.goal, ride.focus) = (led.goal, led.focus);
    ride.picture.fades.advance(*seconds);
    ride.limit(framing, leg.tether(Stride::end).as_ref());
}

impl<'a> Leg<'a> {
    /// Returns a whole step of some seconds.
    #[inline]
    pub fn new(
        rules: &'a Rules,
        framing: &'a Framing,
        state: &CameraState,
        stride: Option<Stride>,
        seconds: f64,
    ) -> Self {
        let is_free = state.frees_from_leash(rules);
        let scrolls = rules.settings.scroll.as_ref().map_or(1.0, |scroll| scroll.share(seconds));
        Self { rules, framing, is_free, stride, seconds, scrolls, lens: None }
    }

    /// Returns the leg between two fractions of it.
    fn part(&self, first: f64, last: f64) -> Self {
        let stride = self.stride.map(|stride| stride.between(first, last));
        let lens = self.lens.filter(|_| first <= 0.0);
        Self { stride, seconds: self.seconds * (last - first), lens, ..*self }
    }

    /// Returns the fraction at which the leg should be divided: where a held height turns, or halfway if the path is
    /// curved.
    #[inline]
    fn split_at(&self, air: Air) -> Option<f64> {
        let (stride, lens) = (self.stride.as_ref()?, &self.framing.lens);
        if stride.bulge() * lens.scale() > STRAIGHT_PIXELS {
            return Some(0.5);
        }
        if air == Air::Held { apex(stride, lens) } else { None }
    }

    /// Returns the leash and the subject at one end of the leg.
    #[inline]
    pub fn tether(&self, end: impl Fn(&Stride) -> SubjectNow) -> Option<Tether> {
        let leash = self.framing.follow.leash?;
        let subject = end(self.stride.as_ref()?);
        let later = self.lens.and_then(|lens| lens.later);
        Some(Tether { leash, subject, is_free: self.is_free, later })
    }

    /// Returns whether the subject's height was held, and it left its leash vertically.
    #[inline]
    fn has_left_leash(&self, Led { goal, focus }: &Led) -> bool {
        let end = self.stride.filter(|_| goal.air == Air::Held);
        end.is_some_and(|stride| has_left_leash(self.framing, focus.position, stride.to))
    }

    /// Returns whether leash or ratchet would have acted within the leg. It must then be run in small steps.
    #[inline]
    fn is_limited(&self, ride: &Ride, led: &Led) -> bool {
        let Self { framing, seconds, .. } = self;
        let (leash, barrier) = (framing.follow.leash, ride.picture.barrier);
        if (leash.is_none() && barrier.is_none()) || small_steps(*seconds) <= 1.0 {
            return false;
        }
        let range = ride.range(framing, led.focus.position);
        let tether = self.tether(Stride::end);
        let is_led = |tether| limits::is_led(tether, framing, &range, &led.focus);
        let goes_back = |barrier| {
            let centre = led.focus.position - framing.offset;
            limits::goes_back(barrier, &ride.focus, &led.focus) || range.nearest(centre) != centre
        };
        barrier.as_ref().is_some_and(goes_back) || tether.as_ref().is_some_and(is_led)
    }
}

impl Ride {
    /// Creates a goal at rest at a position.
    pub fn at(position: DVec2) -> Self {
        Self {
            goal: GoalMemory { point: position, scroll: position, ..GoalMemory::default() },
            focus: Moving { position, velocity: DVec2::ZERO },
            #[cfg(new_frame)]
            aim: position,
            room: None,
            on_leash: [false; 2],
            picture: Picture::at(position),
        }
    }

    /// Returns what shapes the goal at a moment.
    pub fn shapes<'a>(&'a self, rules: &'a Rules, framing: &'a Framing) -> Shapes<'a> {
        let barrier = self.picture.barrier_for(framing, self.focus.position);
        Shapes { rules, framing, room: self.room.as_ref(), barrier, scrolls: 1.0 }
    }

    /// Returns the goal, shaped and bounded.
    pub fn goal_at_rest(&self, rules: &Rules, framing: &Framing) -> DVec2 {
        self.shapes(rules, framing).at_rest(self.goal)
    }

    /// Returns the goal for a subject that is here: shaped and bounded, and what its stages then remember.
    pub fn goal_now(
        &self,
        rules: &Rules,
        framing: &Framing,
        subject: Option<SubjectNow>,
    ) -> (DVec2, GoalMemory) {
        #[cfg(new_frame)]
        {
            let mut goal = self.goal;
            if let Some(subject) = subject {
                let ahead = &mut HalfLifeStep::default();
                goal::follow_step(framing, &subject.stays(), 0.0, &mut goal, ahead);
            }
            (self.shapes(rules, framing).aim(0.0, &mut goal), goal)
        }
        #[cfg(not(new_frame))]
        {
            let (mut course, mut memory) = (Course::default(), self.goal);
            let stride = subject.map(SubjectNow::stays);
            let (shapes, ahead) = (self.shapes(rules, framing), &mut HalfLifeStep::default());
            goal::lay(&mut course, &shapes, stride.as_ref(), 0.0, &mut memory, ahead);
            (course.end(), memory)
        }
    }

    /// Keeps a view that rests at a ratchet's line there while the lens changes. Smoothing would lag behind, by a
    /// distance that depends on the legs, and the line would move on.
    pub fn stay_at_line(&mut self, before: &Framing, after: &Framing) {
        let Some(barrier) = self.picture.barrier.filter(|_| self.picture.shows_following()) else {
            return;
        };
        let axis = usize::from(barrier.is_across_y());
        let line = |framing: &Framing| barrier.centre_at(framing.half) + framing.offset[axis];
        let focus = &mut self.focus.position[axis];
        if (*focus - line(before)).abs() * before.lens.scale() <= REST_PIXELS {
            *focus = line(after);
        }
    }

    pub fn translate(&mut self, delta: DVec2) {
        self.goal.translate(delta);
        self.focus.position += delta;
        #[cfg(new_frame)]
        {
            self.aim += delta;
        }
        if let Some(room) = &mut self.room {
            room.translate(delta);
        }
        self.picture.translate(delta);
    }
}

/// Returns the number of small steps in a period of time, at least 1.
fn small_steps(seconds: f64) -> f64 {
    libm::ceil(seconds * SMALL_STEPS - 1e-6).clamp(1.0, MAX_STEPS)
}
