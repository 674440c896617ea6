//! A frame in which something besides following changes: the step is divided at every moment at which it does.

use glam::DVec2;

use crate::base::maths::bisect;
use crate::base::window::WindowSize;
use crate::camera::hand::Hand;
use crate::goal::subject::{Stride, SubjectNow};
use crate::motion::transition::Transition;

use super::arrival::{Arrival, Clock};
use super::change::INSTANT;
use super::command::Command;
use super::framing::Framing;
use super::leg::{self, HALL_SECONDS, HALVINGS, Leg, LensMove, STRAIGHT_PIXELS};
use super::limits::Tether;
use super::rules::Rules;
use super::state::CameraState;
use super::{Camera, Scratch, party};

/// Legs per second while the lens moves, and their maximum number in a very long step.
const LENS_LEGS: f64 = 480.0;
const MAX_LENS_LEGS: f64 = 128.0;

/// The maximum number of moments at which a step is divided; the rest is one leg.
const MAX_LEGS: usize = 256;

/// The fraction of the distance from the anchor to the edge of the screen at which the subject takes the view back
/// from a zoom about a point.
const NEAR_EDGE: f64 = 0.9;

/// What stays the same in all legs of a step.
struct Step<'a> {
    rules: &'a Rules,
    window: WindowSize,
    arrival: &'a Arrival<'a>,
}

impl Step<'_> {
    /// Runs a leg, from one fraction of the step to another: party, lens, and following. Returns where it ended, which
    /// is earlier if a party crossed a line.
    fn pass(
        &self,
        state: &mut CameraState,
        framing: &mut Framing,
        [done, end]: [f64; 2],
        scratch: &mut Scratch,
    ) -> f64 {
        let Self { rules, window, arrival } = *self;
        let moves = lens_moves(arrival, rules, framing, state, done);
        let (stride, end) = party::move_along(arrival, rules, framing, state, [done, end]);
        let seconds = arrival.seconds * (end - done);
        let lens = moves
            .then(|| move_lens(rules, window, state, framing, stride.as_ref(), seconds, scratch));
        // A scroll shares the whole step.
        let whole = Leg::new(rules, framing, state, stride, arrival.seconds);
        let leg = Leg { seconds, lens, ..whole };
        leg::run(&leg, &mut state.ride, scratch);
        end
    }
}

/// Returns whether the lens moves in the rest of a step.
fn lens_moves(
    arrival: &Arrival<'_>,
    rules: &Rules,
    framing: &Framing,
    state: &CameraState,
    done: f64,
) -> bool {
    state.lens_changes() || party::bulge(arrival, rules, framing, &state.goal.party, done).is_none()
}

/// Moves the lens through a leg of some seconds.
pub(super) fn move_lens(
    rules: &Rules,
    window: WindowSize,
    state: &mut CameraState,
    framing: &mut Framing,
    stride: Option<&Stride>,
    seconds: f64,
    scratch: &mut Scratch,
) -> LensMove {
    let goal_before = state.ride.goal_now(rules, framing, stride.map(Stride::start)).0;
    let mut moved = |state: &mut CameraState, framing: &Framing, seconds: f64| {
        state.move_lens(&rules.settings, framing.lens.size(), seconds, &mut scratch.zoom);
        framing.renewed(rules, state, window)
    };
    let before = core::mem::replace(framing, moved(state, framing, seconds));
    state.ride.stay_at_line(&before, framing);
    let later = framing.follow.leash.map(|_| moved(&mut state.clone(), framing, INSTANT).lens);
    LensMove { goal_before, later }
}

impl Camera {
    /// Runs the step, leg by leg.
    pub(super) fn run_legs(&mut self, arrival: &Arrival<'_>) {
        self.begin_step(arrival);
        let mut done = 0.0;
        self.settle_at(arrival, done);
        for _leg in 0..MAX_LEGS {
            done = self.run_leg_until_over(arrival, done, self.next_change(arrival, done));
            self.settle_at(arrival, done);
            if done >= 1.0 {
                return;
            }
        }
        self.run_leg_until_over(arrival, done, 1.0);
        self.settle_at(arrival, 1.0);
    }

    /// What happens at a moment of the step, besides following.
    fn settle_at(&mut self, arrival: &Arrival<'_>, moment: f64) {
        self.act_until(arrival, moment);
        self.enter_places_at(arrival, moment);
    }

    /// Starts a step: the subject is at its old position, with a velocity that may only now be known.
    fn begin_step(&mut self, arrival: &Arrival<'_>) {
        if let Some(left) = arrival.left {
            self.state.let_leash_go(left, &self.rules, &self.framing);
        }
        self.learn_velocities(arrival);
        let stays = arrival.stride().is_none_or(|stride| stride.from == stride.to);
        let is_over = match self.state.ride.picture.hand {
            Hand::Stay => !stays,
            // A pan ends at the start of the first frame without one.
            Hand::Pan => {
                let pans = |command: &Command| matches!(command, Command::Pan(_));
                self.told.at_end.pan == DVec2::ZERO && !self.told.is_due(pans)
            }
            _ => false,
        };
        if is_over {
            self.release_hand(arrival.clock(0.0));
        }
        if self.told.at_end.holds_point() && !self.waits_for_subject() {
            self.take_point_in_hand(arrival.clock(0.0));
        }
        if arrival.seconds > 0.0 {
            self.state.goal.party.begin_step();
        }
    }

    /// Enters the rooms and zones of this fraction of the step.
    fn enter_places_at(&mut self, arrival: &Arrival<'_>, fraction: f64) {
        if !self.rules.has_places() {
            return;
        }
        let clock = arrival.clock(fraction);
        if let Some(position) = self.place_of(arrival, fraction) {
            self.pass_lines(position, clock);
        }
        if fraction <= 0.0 || !self.shows_several(arrival) {
            return;
        }
        // Another zone may have room for other members.
        if let Some(next) = self.reconsidered_party() {
            self.change_party(next, clock);
        }
        if let Some(position) = self.place_of(arrival, fraction) {
            self.pass_lines(position, clock);
        }
    }

    /// Returns the next moment at which the step is divided, as a fraction of it: a command is due, a pause or a small
    /// step of the lens or a party ends, or the subject crosses a line.
    fn next_change(&self, arrival: &Arrival<'_>, done: f64) -> f64 {
        let end = self.next_end(arrival, done);
        if !self.rules.has_places() {
            return end;
        }
        self.next_line(arrival, done, end).unwrap_or(end)
    }

    fn next_end(&self, arrival: &Arrival<'_>, done: f64) -> f64 {
        let Self { rules, framing, state, told, .. } = self;
        let seconds = arrival.seconds;
        if seconds <= 0.0 {
            return 1.0;
        }
        let mut end = told.next_moment(seconds).unwrap_or(1.0);
        if state.pause > 0.0 {
            end = (done + state.pause / seconds).min(end);
        }
        let bulge = || party::bulge(arrival, rules, framing, &state.goal.party, done);
        if framing.outline.is_some() {
            end = end.min(done + HALL_SECONDS.max(seconds / MAX_LENS_LEGS) / seconds);
        }
        let legs = match (!state.lens_changes()).then(bulge).flatten() {
            Some(bulge) => libm::sqrt(bulge * framing.lens.scale() / STRAIGHT_PIXELS),
            None => (end - done) / ((1.0 / LENS_LEGS).max(seconds / MAX_LENS_LEGS) / seconds),
        };
        end = done + (end - done) / libm::ceil(legs - 1e-6).clamp(1.0, MAX_LENS_LEGS);
        // A remainder from the rounding of a sum is not a leg.
        if end > 1.0 - 1e-9 { 1.0 } else { end }
    }

    /// Runs one leg, and what follows from its end. Returns where it ended.
    fn run_leg(&mut self, arrival: &Arrival<'_>, done: f64, end: f64) -> f64 {
        let Self { rules, window, state, framing, scratch, .. } = self;
        let step = Step { rules, window: *window, arrival };
        let end = step.pass(state, framing, [done, end], scratch);
        if self.shows_several(arrival)
            && let Some(next) = self.reconsidered_party()
        {
            self.change_party(next, arrival.clock(end));
        }
        if self.state.pass_pause(arrival.seconds * (end - done)) {
            self.release_hand(arrival.clock(end));
        }
        end
    }

    /// Runs one leg, at most until a pinned point is released or the view passes into another hall. Returns where it
    /// ended.
    fn run_leg_until_over(&mut self, arrival: &Arrival<'_>, done: f64, end: f64) -> f64 {
        self.end_at(arrival.clock(done));
        let is_pinned = matches!(self.state.ride.picture.hand, Hand::Pin(..));
        if !is_pinned && self.framing.outline.is_none() {
            return self.run_leg(arrival, done, end);
        }
        let step = Step { rules: &self.rules, window: self.window, arrival };
        let scratch = &mut self.scratch;
        let mut is_over_at = |end: f64| {
            let (mut state, mut framing) = (self.state, self.framing);
            let end = step.pass(&mut state, &mut framing, [done, end], scratch);
            step.rules.is_over(&state, &framing, arrival.clock(end))
        };
        if !is_over_at(end) {
            return self.run_leg(arrival, done, end);
        }
        let [_, over] = bisect([done, end], HALVINGS, is_over_at);
        let end = self.run_leg(arrival, done, over);
        self.end_at(arrival.clock(end));
        end
    }

    /// Releases a pinned point, and passes into another hall, if it is time.
    fn end_at(&mut self, clock: Clock) {
        if self.rules.ends_pin(&self.state, &self.framing, clock) {
            self.release_hand(clock);
        }
        self.pass_halls(clock);
    }
}

impl CameraState {
    /// Leaves the picture where the leash of a subject that is not followed any more has pulled it. What the leash added
    /// fades in the time in which a hand's view returns.
    pub(super) fn let_leash_go(&mut self, left: SubjectNow, rules: &Rules, framing: &Framing) {
        let tether = Tether::new(framing, self.frees_from_leash(rules), Some(left));
        let alone = self.ride.shown_focus(framing, None);
        let pulled = self.ride.shown_focus(framing, tether.as_ref()) - alone;
        let (picture, seconds) = (&mut self.ride.picture, rules.settings.hands.seconds());
        if pulled == DVec2::ZERO || !pulled.is_finite() {
            return;
        }
        if picture.hand != Hand::Off {
            picture.hand_focus += pulled;
        } else if seconds > 0.0 {
            picture.fades.add(Transition::smooth(pulled, DVec2::ZERO, seconds));
        }
    }
}

impl Rules {
    /// Returns whether a leg must end here: a pinned point is released, or the view passes into another hall.
    fn is_over(&self, state: &CameraState, framing: &Framing, clock: Clock) -> bool {
        let subject = clock.subject(&state.goal.track).map(|now| now.position);
        self.ends_pin(state, framing, clock)
            || self.next_hall(framing, &state.limits, &state.ride, subject).is_some()
    }

    /// Returns whether a zoom about a point is over: it is nearly complete, or the subject is near the edge of the
    /// screen. Without a subject, it stays there to the end.
    pub(super) fn ends_pin(&self, state: &CameraState, framing: &Framing, clock: Clock) -> bool {
        let Hand::Pin(_, rest) = state.ride.picture.hand else { return false };
        let zoom = &state.lens.zoom;
        let Some(subject) = clock.subject(&state.goal.track) else { return zoom.rests() };
        if zoom.rest() <= rest {
            return true;
        }
        let Framing { follow, lens, view, .. } = framing;
        let tether = Tether::new(framing, state.frees_from_leash(self), Some(subject));
        let shown = state.ride.shown_focus(framing, tether.as_ref());
        let away = lens.to_screen_orientation(subject.position - shown) / *view;
        let (before, after) = (follow.anchor * -NEAR_EDGE, (1.0 - follow.anchor) * NEAR_EDGE);
        away.cmplt(before).any() || away.cmpgt(after).any()
    }
}
