//! One leg: goal, motion, limits and picture, in this order. It takes a ride and returns the next one.

use glam::DVec2;

use crate::goal::air::Air;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::Stride;
use crate::limits::ratchet::Ratchet;
use crate::motion::motion::Moving;
use crate::units::rect::Rect;

use super::Scratch;
use super::air::{apex, has_left_leash};
use super::arrival::SubjectNow;
use super::framing::Framing;
use super::goal::{self, GoalMemory, Shapes};
use super::limits::{self, Tether};
use super::picture::Picture;
use super::rules::Rules;

/// Small steps per second, used while one stage depends on another throughout a leg.
const SMALL_STEPS: f64 = 480.0;

/// The maximum number of small steps. A pause of minutes in a debugger would otherwise take hundreds of thousands.
const MAX_STEPS: f64 = 128.0;

/// How often a leg is halved while its course has too many bends. What is then left is a 64th of a frame.
const MAX_HALVINGS: u32 = 6;

/// A path that deviates from a line by less than this, in screen pixels, counts as straight.
const STRAIGHT_PIXELS: f64 = 0.02;

/// What a leg changes. A leg takes one and returns the next, so that nothing is ever put back.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Ride {
    pub goal: GoalMemory,
    /// The world point that following puts at the anchor. It keeps moving while a hand controls the view.
    pub focus: Moving,
    pub room: Option<RoomMemory>,
    /// Whether the leash pulled the view in the last leg, per axis of the screen.
    pub on_leash: [bool; 2],
    pub picture: Picture,
}

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
}

/// Following within a leg, before the limits.
#[derive(Clone, Copy, Debug)]
struct Led {
    goal: GoalMemory,
    focus: Moving,
}

/// Runs a leg. It is divided where the subject's path bends, where a held height is released, and into small steps where
/// a limit acts within it.
#[inline]
pub(super) fn run(leg: &Leg<'_>, was: &Ride, scratch: &mut Scratch) -> Ride {
    if let Some(split) = leg.split_at(was) {
        let halfway = run(&leg.part(0.0, split), was, scratch);
        return run(&leg.part(split, 1.0), &halfway, scratch);
    }
    let led = lead(leg, was, scratch);
    if leg.has_left_leash(&led) {
        return release_height(leg, was, scratch);
    }
    let steps = small_steps(leg.seconds);
    if steps > 1.0 && leg.is_limited(was, &led) {
        return run_small_steps(leg, was, steps, scratch);
    }
    end(leg, was, led)
}

/// Runs a leg without division.
fn run_whole(leg: &Leg<'_>, was: &Ride, scratch: &mut Scratch) -> Ride {
    let led = lead(leg, was, scratch);
    end(leg, was, led)
}

/// Runs goal and motion of a leg, without limits.
pub(super) fn run_unlimited(leg: &Leg<'_>, was: &Ride, scratch: &mut Scratch) -> Ride {
    let Led { goal, focus } = lead(leg, was, scratch);
    Ride { goal, focus, ..*was }
}

fn run_small_steps(leg: &Leg<'_>, was: &Ride, steps: f64, scratch: &mut Scratch) -> Ride {
    let mut ride = *was;
    for step in 0..steps as u32 {
        let at = |step: u32| f64::from(step) / steps;
        let part = leg.part(at(step), at(step + 1));
        ride = run_whole(&Leg { seconds: leg.seconds / steps, ..part }, &ride, scratch);
    }
    ride
}

/// Runs up to the moment at which the subject leaves its leash in the air, and releases the height. The goal jumps, and
/// the rest of the leg begins from there.
fn release_height(leg: &Leg<'_>, was: &Ride, scratch: &mut Scratch) -> Ride {
    let (mut low, mut high) = (0.0, 1.0);
    for _halving in 0..24 {
        let middle = f64::midpoint(low, high);
        let part = leg.part(0.0, middle);
        let left = part.has_left_leash(&lead(&part, was, scratch));
        if left { high = middle } else { low = middle }
    }
    let mut released = run_whole(&leg.part(0.0, high), was, scratch);
    released.goal.air = Air::Loose;
    run(&leg.part(high, 1.0), &released, scratch)
}

/// Moves the focus along the goal's course through a leg.
#[inline]
fn lead(leg: &Leg<'_>, was: &Ride, scratch: &mut Scratch) -> Led {
    let from = Led { goal: was.goal, focus: was.focus };
    lead_in_parts(leg, was, from, MAX_HALVINGS, scratch)
}

/// Does the same, in two halves if the course has too many bends for one.
fn lead_in_parts(
    leg: &Leg<'_>,
    was: &Ride,
    from: Led,
    halvings: u32,
    scratch: &mut Scratch,
) -> Led {
    let Leg { rules, framing, stride, seconds, scrolls, .. } = leg;
    let Scratch { course, ahead, motion, .. } = scratch;
    let barrier = was.picture.barrier_for(framing, from.focus.position);
    let shapes = Shapes { rules, framing, room: was.room, barrier, scrolls: *scrolls };
    let goal = goal::lay(course, &shapes, stride.as_ref(), *seconds, from.goal, ahead);
    if course.is_full() && halvings > 0 {
        let half = lead_in_parts(&leg.part(0.0, 0.5), was, from, halvings - 1, scratch);
        return lead_in_parts(&leg.part(0.5, 1.0), was, half, halvings - 1, scratch);
    }
    let (smoothing, scale) = (&framing.follow.smoothing, framing.lens.scale());
    let moved = motion.advance(smoothing, from.focus, course, *seconds, scale);
    Led { goal, focus: if moved.is_finite() { moved } else { from.focus } }
}

/// The end of a leg: changes fade on, and the limits apply.
#[inline]
fn end(leg: &Leg<'_>, was: &Ride, led: Led) -> Ride {
    let mut ride = Ride { goal: led.goal, focus: led.focus, ..*was };
    if leg.seconds > 0.0 {
        let start = leg.stride.map(|stride| SubjectNow::at_start_of(&stride));
        let tether = Tether::new(leg.framing, start, leg.is_free);
        ride.picture.before = (was.shown(leg.framing, tether.as_ref()), leg.seconds);
    }
    ride.picture.fades.advance(leg.seconds);
    ride.limited(leg.framing, leg.tether().as_ref())
}

impl Leg<'_> {
    /// The leg between two fractions of it.
    fn part(&self, first: f64, last: f64) -> Self {
        let stride = self.stride.map(|stride| stride.between(first, last));
        Self { stride, seconds: self.seconds * (last - first), ..*self }
    }

    /// The fraction at which the leg should be divided: where a held height turns, or halfway if the path is curved.
    #[inline]
    fn split_at(&self, was: &Ride) -> Option<f64> {
        let (stride, lens) = (self.stride.as_ref()?, &self.framing.lens);
        if stride.bulge() * lens.scale() > STRAIGHT_PIXELS {
            return Some(0.5);
        }
        apex(was.goal.air, stride, lens)
    }

    /// The leash at the end of the leg.
    #[inline]
    fn tether(&self) -> Option<Tether> {
        let end = self.stride.map(|stride| SubjectNow::at_end_of(&stride));
        Tether::new(self.framing, end, self.is_free)
    }

    /// Whether the subject's height was held, and it left its leash vertically.
    #[inline]
    fn has_left_leash(&self, led: &Led) -> bool {
        self.stride.is_some_and(|stride| {
            has_left_leash(self.framing, led.goal.air, led.focus.position, stride.to)
        })
    }

    /// Whether leash or ratchet would have acted within the leg. It must then be run in small steps.
    #[inline]
    fn is_limited(&self, was: &Ride, led: &Led) -> bool {
        if self.framing.follow.leash.is_none() && was.picture.barrier.is_none() {
            return false;
        }
        let Led { focus, .. } = led;
        let range = Ride { focus: *focus, ..*was }.range(self.framing);
        let goes_back = |barrier| {
            let centre = focus.position - self.framing.offset;
            limits::goes_back(barrier, &was.focus, focus) || range.nearest(centre) != centre
        };
        was.picture.barrier.as_ref().is_some_and(goes_back)
            || self
                .tether()
                .is_some_and(|tether| limits::is_led(&tether, self.framing, &range, focus))
    }
}

impl Ride {
    /// At rest at a position.
    pub fn at(position: DVec2) -> Self {
        Self {
            goal: GoalMemory { goal: position, scroll: position, ..GoalMemory::default() },
            focus: Moving { position, velocity: DVec2::ZERO },
            room: None,
            on_leash: [false; 2],
            picture: Picture::at(position),
        }
    }

    /// Limits following, the hand and the picture, without moving on in time.
    #[inline]
    pub fn limited(&self, framing: &Framing, tether: Option<&Tether>) -> Self {
        let mut ride = self.following_limited(framing, tether);
        ride.picture.hold(framing);
        ride.picture.take_in_leash(framing, ride.focus.position, tether);
        if framing.follow.ratchet != Ratchet::None {
            let centre = ride.centre(framing, tether);
            ride.picture.advance_barrier(framing.follow.ratchet, framing, centre);
        }
        ride
    }

    /// Limits the focus of following: first by the leash, then by the range.
    #[inline]
    pub fn following_limited(&self, framing: &Framing, tether: Option<&Tether>) -> Self {
        let (focus, on_leash) = limits::on_leash(tether, framing, self.focus);
        let room = limits::arrived(self.room, framing, focus.position);
        let ride = Self { focus, on_leash, room, ..*self };
        Self { focus: limits::in_range(&ride.range(framing), framing.offset, focus), ..ride }
    }

    /// The allowed range of the centre for following.
    #[inline]
    fn range(&self, framing: &Framing) -> Rect {
        let barrier = self.picture.barrier_for(framing, self.focus.position);
        limits::range(framing, self.room.as_ref(), barrier.as_ref())
    }

    /// The shown focus.
    #[inline]
    pub fn shown(&self, framing: &Framing, tether: Option<&Tether>) -> DVec2 {
        self.picture.focus(framing, self.focus.position, tether)
    }

    /// The centre of the picture.
    #[inline]
    pub fn centre(&self, framing: &Framing, tether: Option<&Tether>) -> DVec2 {
        self.picture.centre(framing, self.focus.position, self.room.as_ref(), tether)
    }

    pub fn translate(&mut self, delta: DVec2) {
        self.goal.goal += delta;
        self.goal.scroll += delta;
        self.focus.position += delta;
        if let Some(room) = &mut self.room {
            room.translate(delta);
        }
        self.picture.translate(delta);
    }

    pub fn is_sound(&self) -> bool {
        self.goal.is_finite()
            && self.focus.is_finite()
            && self.room.is_none_or(|room| room.rect().is_finite())
            && self.picture.is_sound()
    }
}

/// The number of small steps in a period of time, at least 1.
#[inline]
fn small_steps(seconds: f64) -> f64 {
    libm::ceil(seconds * SMALL_STEPS - 1e-6).clamp(1.0, MAX_STEPS)
}
