//! One short step: lens, goal, smoothing, limits, picture, in this order. Each stage is a plain function of its memory, the
//! subject at both ends, and the time. A step of 0 s changes nothing, and many short steps converge.

use glam::DVec2;

use crate::base::sound::Sound;
use crate::base::window::WindowSize;
use crate::camera::hand::Hand;
use crate::curves::half_life::HalfLifeStep;
use crate::goal::air::Air;
use crate::goal::member::WayTime;
use crate::goal::party_memory::MemberWays;
use crate::goal::subject::{Stride, SubjectNow};
use crate::lens::lens::Lens;
use crate::motion::motion::Motion;
use crate::motion::transition::INSTANT;

use super::air::has_left_leash;
use super::framing::Framing;
use super::goal::{GoalMemory, Shapes, follow};
use super::limits::Tether;
use super::party;
use super::ride::Ride;
use super::rules::Rules;
use super::state::CameraState;

/// Factors of steps of one length, kept while it stays the same.
#[derive(Clone, Debug, Default)]
pub(super) struct Factors {
    pub motion: Motion,
    pub ahead: HalfLifeStep,
    pub zoom: HalfLifeStep,
}

/// What a step is given.
#[derive(Clone, Copy, Debug)]
pub(super) struct Step<'a> {
    pub rules: &'a Rules,
    pub window: WindowSize,
    /// The way of the followed subject.
    pub stride: Option<Stride>,
    pub seconds: f64,
    /// The fraction of the time in which a steady scroll moves.
    pub scrolls: f64,
    /// The ways of a party's members, and where on them the step ends.
    pub members: Option<(&'a MemberWays, WayTime)>,
    /// Whether several are followed together.
    pub together: bool,
    /// By how many screen pixels a hand pans the view.
    pub pan: DVec2,
}

impl<'a> Step<'a> {
    /// Returns a step of following alone.
    pub fn alone(
        rules: &'a Rules,
        window: WindowSize,
        stride: Option<Stride>,
        seconds: f64,
    ) -> Self {
        let pan = DVec2::ZERO;
        Self { rules, window, stride, seconds, scrolls: 1.0, members: None, together: false, pan }
    }
}

/// What a step finds that divides it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Found {
    Nothing,
    /// The subject, whose height was held, has left its leash vertically.
    LeftLeash,
    /// The goal leapt along its rail.
    Leapt,
}

/// Moves a camera through a step.
#[inline]
pub(super) fn run(
    step: &Step<'_>,
    state: &mut CameraState,
    framing: &mut Framing,
    factors: &mut Factors,
) -> Found {
    if !state.lens_changes() && step.members.is_none() && !state.goal.party.may_zoom() {
        let is_free = state.frees_from_leash(step.rules);
        return ride(step, &mut state.ride, framing, factors, (is_free, None));
    }
    let before = framing.lens;
    let stride = move_lens(step, state, framing, factors);
    let is_free = state.frees_from_leash(step.rules);
    let step = &Step { stride, ..*step };
    ride(step, &mut state.ride, framing, factors, (is_free, Some(&before)))
}

/// Moves the lens, and a party with it, which may zoom. Returns the way of who is followed.
#[inline(never)]
fn move_lens(
    step: &Step<'_>,
    state: &mut CameraState,
    framing: &mut Framing,
    factors: &mut Factors,
) -> Option<Stride> {
    let Step { rules, window, mut stride, seconds, members, together, .. } = *step;
    let zooms = state.goal.party.may_zoom();
    if state.lens_changes() {
        state.move_lens(&rules.settings, framing.lens.size(), seconds, &mut factors.zoom);
        *framing = framing.renewed(rules, state, window);
    }
    if let Some((ways, at)) = members {
        let context = party::context(rules, framing);
        let goal = &mut state.goal;
        goal.party.place(ways, at, seconds);
        let point = goal.party.step(&context, seconds);
        if let Some(point) = point.filter(|_| together) {
            goal.track.jump(point);
            stride = Some(SubjectNow { position: point, velocity: DVec2::ZERO }.stays());
        }
    }
    if zooms || state.goal.party.may_zoom() {
        *framing = framing.renewed(rules, state, window);
    }
    stride
}

/// Moves following, and the picture of it. The subject may be free from its leash; the lens was another one before, if it
/// moves.
fn ride(
    step: &Step<'_>,
    ride: &mut Ride,
    framing: &Framing,
    factors: &mut Factors,
    (is_free, lens_before): (bool, Option<&Lens>),
) -> Found {
    let Step { rules, stride, seconds, scrolls, pan, .. } = step;
    let before = (ride.goal.rail, ride.goal.point);
    if let Some(stride) = stride {
        follow(framing, stride, *seconds, &mut ride.goal, &mut factors.ahead);
    }
    let barrier = ride.picture.barrier_for(framing, ride.focus.position);
    let shapes = Shapes { rules, framing, room: ride.room.as_ref(), barrier, scrolls: *scrolls };
    let aim = shapes.aim(*seconds, &mut ride.goal);
    let (smoothing, scale) = (&framing.follow.smoothing, framing.lens.scale());
    let focus = factors.motion.step(smoothing, ride.focus, [ride.aim, aim], *seconds, scale);
    if focus.is_sound() {
        (ride.aim, ride.focus) = (aim, focus);
    }
    // Before the leash pulls the view along.
    let has_left = ride.goal.air == Air::Held
        && stride.is_some_and(|way| has_left_leash(framing, ride.focus.position, way.to));
    ride.picture.fades.advance(*seconds);
    if *pan != DVec2::ZERO && ride.picture.hand == Hand::Pan {
        let way = |lens: &Lens| lens.to_world_axes(*pan) / 2.0;
        let lens = &framing.lens;
        ride.picture.hand_focus += way(lens_before.unwrap_or(lens)) + way(lens);
    }
    let tether = framing.follow.leash.zip(stride.as_ref()).map(|(leash, stride)| {
        let later = lens_before.and_then(|before| later(before, &framing.lens, *seconds));
        Tether { leash, subject: stride.end(), is_free, let_out: DVec2::ZERO, later }
    });
    ride.limit(framing, tether.as_ref());
    match has_left {
        true => Found::LeftLeash,
        false if has_leapt(rules, before, &ride.goal) => Found::Leapt,
        false => Found::Nothing,
    }
}

/// Returns whether a goal leapt to another part of its rail. Along one part it moves no farther than what it follows.
#[inline]
fn has_leapt(rules: &Rules, (rail, point): (f64, DVec2), now: &GoalMemory) -> bool {
    if rail == now.rail || rules.settings.rail.as_ref().is_none_or(|rail| rail.speed.is_some()) {
        return false;
    }
    let way = rules.rail.point(now.rail) - rules.rail.point(rail);
    way.length() > (now.point - point).length() * (1.0 + 1e-6) + 1e-6
}

/// The lens an instant after it moved from one to another, if it goes on.
fn later(before: &Lens, now: &Lens, seconds: f64) -> Option<Lens> {
    let share = INSTANT / seconds;
    let zoom = now.zoom() * libm::pow(now.zoom() / before.zoom(), share);
    let rotation = now.rotation() + (now.rotation() - before.rotation()) * share;
    (share.is_finite() && zoom.is_finite()).then(|| now.with_rotation(rotation).with_zoom(zoom))
}

/// The way between two moments, close to each other.
pub(super) fn way(from: SubjectNow, to: SubjectNow, carrier: [DVec2; 2]) -> Stride {
    Stride::straight(from.position, to.position, [from.velocity, to.velocity]).carried(carrier)
}
