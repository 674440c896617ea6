//! Changes at one moment: the difference between the old and the new picture fades.

use glam::{DVec2, DVec4, Vec4Swizzles};

use crate::base::rect::Rect;
use crate::curves::ease::{Ease, Timing};
use crate::curves::smoothing::Smoothing;
use crate::goal::subject::SubjectNow;
use crate::keys::per_axis::PerAxis;
use crate::lens::lens::Lens;
use crate::motion::motion::Moving;
use crate::motion::transition::{INSTANT, Transition};

use super::arrival::{Arrival, Clock};
use super::framing::Framing;
use super::limits::Tether;
use super::state::CameraState;
use super::step::{self, Factors, Step};
use super::{Camera, party};

/// The time over which the rate of the whole picture is measured, in seconds. A stage that comes to rest within twice
/// this time counts as standing.
const MOMENT: f64 = 1.0 / 4096.0;

/// A smaller difference than this, in screen pixels, is no change.
pub(super) const SEEN_PIXELS: f64 = 1e-6;

/// The greatest velocity that a change keeps, in views per second, and in natural logarithms of the zoom per second.
/// At this velocity the picture moves by one view, or zooms by a factor of e, before it has faded.
pub(super) const MAX_RATE: f64 = 37.0;

/// What was shown before a change, and how it moved.
#[derive(Clone, Copy, Debug)]
struct Seen {
    /// Centre, logarithm of the zoom and rotation, and their rate of change.
    picture: DVec4,
    rate: DVec4,
    /// Half the size of the upright visible rectangle.
    half: DVec2,
    anchor: DVec2,
}

/// A change that has begun, for [`Camera::fade`].
#[derive(Clone, Copy, Debug)]
#[must_use = "a change that does not fade jumps"]
pub(super) struct Change {
    timing: Timing,
    /// `None` for a cut.
    seen: Option<Seen>,
    /// The goal before the change, shaped and bounded.
    goal: DVec2,
}

/// Where following is after a change.
#[derive(Clone, Copy, Debug)]
pub(super) enum FocusAfter {
    /// Where it was.
    Here,
    /// As far behind its goal as before.
    AsFarBehind,
    /// As far behind its goal as the present smoothing would be instead of this one.
    Resmoothed(PerAxis<Smoothing>),
    /// At its goal, at rest.
    AtGoal,
    /// At a new goal, at rest, with nothing else known.
    Restarted(DVec2),
}

impl Camera {
    /// Begins a change that takes the given time. Make it with plain assignments, and then let the difference
    /// [`fade`](Self::fade).
    pub(super) fn begin(&mut self, timing: Timing, clock: Clock) -> Change {
        let seen = (timing.seconds > 0.0).then(|| Seen {
            picture: self.framing.lens.numbers(self.centre(clock)),
            rate: self.rate(clock),
            half: self.framing.half,
            anchor: self.framing.follow.anchor,
        });
        Change { timing, seen, goal: self.goal_at_rest() }
    }

    /// Ends a change: puts following into its new position. The picture keeps its position and its velocity, and the
    /// difference fades. At 0 seconds it is a cut.
    pub(super) fn fade(&mut self, change: Change, after: FocusAfter, clock: Clock) {
        let Change { timing, seen, goal } = change;
        self.refresh_framing();
        let after = self.keep_to_halls(after, clock);
        let Some(seen) = seen else {
            self.put(after, goal, clock);
            return self.refresh(clock);
        };
        let fills = self.rules.settings.zoom.fill_bounds;
        if let Some(out) = edges_let_out(&self.framing, fills, &seen, timing.seconds) {
            self.state.limits.edges.add(out, DVec4::ZERO);
            self.refresh_framing();
        }
        let rate = || self.rate(clock).z;
        if let Some(fade) = fade_of_zoom(&self.framing.lens, &seen, rate, timing) {
            let Framing { wanted, least_zoom, .. } = self.framing;
            let source = self.state.goal.party.zoom(wanted, self.rules.settings.zoom.whole);
            self.state.lens.transitions.add(fade, libm::log(source.max(least_zoom)));
            self.refresh_framing();
        }
        if self.framing.follow.anchor != seen.anchor {
            let before = self.framing.lens.anchor_offset(seen.anchor);
            self.state.ride.picture.carry_hand(self.framing.offset - before);
        }
        self.put(after, goal, clock);
        let tether = self.tether(clock);
        self.state.ride.limit_following(&self.framing, tether.as_ref());
        self.state.ride.picture.limit_hand(&self.framing);
        let focus = self.state.ride.focus.position;
        let (now, rate) = (self.state.ride.picture.faded(focus), || self.rate(clock).xy());
        let fade = fade_of_focus(&self.framing, &seen, now, rate, timing);
        let picture = &mut self.state.ride.picture;
        if let Some(fade) = fade {
            picture.add_fade(fade, focus);
        }
        picture.let_leash_out(&self.framing, focus, tether.as_ref());
        self.refresh(clock);
    }

    fn put(&mut self, after: FocusAfter, goal_before: DVec2, clock: Clock) {
        let rest = |position: DVec2| Moving { position, velocity: DVec2::ZERO };
        match after {
            FocusAfter::Here => {}
            FocusAfter::AtGoal => self.state.ride.focus = rest(self.goal_at_rest()),
            FocusAfter::Restarted(goal) => {
                self.state.forget_goal(goal);
                self.state.ride.focus = rest(self.goal_at_rest());
            }
            FocusAfter::Resmoothed(old) => {
                self.put(FocusAfter::AsFarBehind, goal_before, clock);
                let (goal, velocity) = self.moving_goal(clock);
                let smoothing = &self.framing.follow.smoothing;
                let focus = &mut self.state.ride.focus;
                *focus = focus.resmoothed(goal, velocity, [&old, smoothing]);
            }
            FocusAfter::AsFarBehind => {
                let subject = clock.subject(&self.state.goal.track);
                let ride = &mut self.state.ride;
                let (goal, memory) = ride.goal_now(&self.rules, &self.framing, subject);
                let moved = goal - goal_before;
                ride.goal = memory;
                if moved.is_finite() {
                    ride.focus.position += moved;
                }
            }
        }
    }

    /// Returns the goal, shaped and bounded, and its velocity.
    fn moving_goal(&self, clock: Clock) -> (DVec2, DVec2) {
        let mut later = self.moment(clock);
        let start = self.state.ride.goal_now(&self.rules, &self.framing, later.subject).0;
        later.pass(self, INSTANT);
        (start, (later.state.ride.aim - start) / INSTANT)
    }

    /// Corrects the newest change when a subject, whose velocity was unknown at it, turns out to have one.
    pub(super) fn learn_velocities(&mut self, arrival: &Arrival<'_>) {
        if !self.state.ride.picture.fades.has_newest() {
            return;
        }
        let faster = match (arrival.stride(), arrival.party) {
            (Some(stride), _) if arrival.is_new => {
                let rate_at = |velocity: DVec2| {
                    let subject = SubjectNow { position: stride.from, velocity };
                    self.rate(Clock::Step(Some(subject))).xy()
                };
                rate_at(stride.velocity[0]) - rate_at(DVec2::ZERO)
            }
            (None, Some(subjects)) if arrival.together && arrival.seconds > 0.0 => {
                let before = self.rate(Clock::Track).xy();
                self.state.goal.party.learn_velocities(subjects, arrival.seconds);
                self.rate(Clock::Track).xy() - before
            }
            _ => return,
        };
        let newest = self.state.ride.picture.fades.newest();
        if let Some(newest) = newest.filter(|_| faster.is_finite()) {
            newest.learn(faster);
        }
    }

    /// Returns the rate of change of the picture from this moment on, if nothing else happens: of its centre, the
    /// logarithm of its zoom and its rotation. It is measured by running three moments of a copy.
    pub(super) fn rate(&self, clock: Clock) -> DVec4 {
        let mut later = self.moment(clock);
        later.state.ride.aim = self.goal_at_rest();
        rate_of([(); 3].map(|()| later.pass(self, MOMENT)), self.framing.view * MAX_RATE)
    }

    fn moment(&self, clock: Clock) -> Later {
        let subject = clock.subject(&self.state.goal.track);
        let factors = Factors::default();
        Later { state: self.state, framing: self.framing, subject, factors }
    }
}

/// A copy of a camera that goes on from a moment, to measure how it moves.
struct Later {
    state: CameraState,
    framing: Framing,
    subject: Option<SubjectNow>,
    factors: Factors,
}

impl Later {
    /// Goes on for a short time. Returns the picture then.
    fn pass(&mut self, camera: &Camera, seconds: f64) -> DVec4 {
        let Self { state, framing, subject, factors } = self;
        let (rules, window) = (&camera.rules, camera.window);
        let stride = party::stride_of_instant(rules, framing, state, *subject, seconds);
        step::run(&Step::alone(rules, window, stride, seconds), state, framing, factors);
        *subject = stride.map(|stride| stride.end());
        let tether = Tether::new(framing, state.frees_from_leash(rules), *subject);
        framing.lens.numbers(state.ride.centre(framing, tether.as_ref()))
    }
}

/// Returns the rate of change of three pictures, an instant apart. `most` is the greatest velocity of the centre.
fn rate_of([one, two, three]: [DVec4; 3], most: DVec2) -> DVec4 {
    // A stage that comes to rest in between counts as standing.
    let (first, second) = (two - one, three - two);
    let rate = DVec4::select(first.abs().cmplt(second.abs()), first, second) / MOMENT;
    let finite = |number: f64| if number.is_finite() { number } else { 0.0 };
    let centre = rate.xy().clamp(-most, most);
    let centre = if centre.is_nan() { DVec2::ZERO } else { centre };
    let zoom = finite(rate.z).clamp(-MAX_RATE, MAX_RATE);
    DVec4::new(centre.x, centre.y, zoom, finite(rate.w))
}

/// Widens tightened bounds by as much as the view lies outside them. `fills` says whether the view fills the bounds.
fn edges_let_out(
    framing: &Framing,
    fills: bool,
    Seen { picture, rate, half, .. }: &Seen,
    seconds: f64,
) -> Option<Transition<DVec4>> {
    let walls = framing.walls.as_ref()?;
    let (lens, centre) = framing.lens.with_numbers(picture.with_w(framing.lens.rotation()));
    let seen = Rect::around(centre, *half);
    let clamped = walls.centre_range(&lens).nearest(centre);
    let (low, high) = (walls.rect.min - seen.min, seen.max - walls.rect.max);
    // The outward speed of the view's edges.
    let grows = *half * -rate.z;
    let (low_rate, high_rate) = (grows - rate.xy(), grows + rate.xy());
    let (mut gap, mut speed) = (DVec4::ZERO, DVec4::ZERO);
    for axis in (0..2).filter(|axis| fills || clamped[*axis] != centre[*axis]) {
        for (edge, out, rate) in
            [(axis, low[axis], low_rate[axis]), (axis + 2, high[axis], high_rate[axis])]
        {
            if out > 0.0 {
                (gap[edge], speed[edge]) = (out, rate.max(0.0));
            }
        }
    }
    let is_seen = gap != DVec4::ZERO && gap.is_finite() && speed.is_finite();
    is_seen.then(|| Transition::smooth(gap, speed, seconds))
}

/// Returns the transition from the zoom before to that of this lens, which changes at `rate`. Both are natural
/// logarithms. Only a smooth one needs the rate.
fn fade_of_zoom(
    lens: &Lens,
    seen: &Seen,
    rate: impl FnOnce() -> f64,
    timing: Timing,
) -> Option<Transition<f64>> {
    let pixels = lens.size().as_dvec2().length();
    let was = seen.picture.z;
    let gap = was - libm::log(lens.zoom());
    if timing.ease != Ease::Smooth {
        let is_seen = gap.abs() * pixels >= SEEN_PIXELS;
        return is_seen.then(|| Transition::eased(was, timing.seconds, timing.ease));
    }
    let faster = seen.rate.z - rate();
    let is_seen = (gap.abs() + faster.abs()) * pixels >= SEEN_PIXELS;
    is_seen.then(|| Transition::smooth(gap, faster, timing.seconds))
}

/// Returns the transition from the focus before to that of now, which moves at `rate`. Only a smooth one needs the rate.
fn fade_of_focus(
    framing: &Framing,
    seen: &Seen,
    now: DVec2,
    rate: impl FnOnce() -> DVec2,
    timing: Timing,
) -> Option<Transition<DVec2>> {
    let was = seen.picture.xy() + framing.offset;
    let gap = was - now;
    if !gap.is_finite() {
        return None;
    }
    if timing.ease != Ease::Smooth {
        return Some(Transition::eased(was, timing.seconds, timing.ease));
    }
    let faster = seen.rate.xy() - rate();
    let faster = if faster.is_finite() { faster } else { DVec2::ZERO };
    let is_seen = (gap.length() + faster.length()) * framing.lens.scale() >= SEEN_PIXELS;
    is_seen.then(|| Transition::smooth(gap, faster, timing.seconds))
}
