//! The camera's clock: its state lives on a grid of time of its own, and the frame's times never enter it.
//!
//! A frame takes whole steps of the grid, keeps what they moved in a [`ClockState`], and goes on from there to its own end by one
//! partial step, which makes the view. What happens at a moment is found in a step, and divides it.

use glam::DVec2;

use crate::goal::air::Air;
use crate::goal::subject::SubjectNow;
use crate::limits::ratchet::{Barrier, Ratchet};
use crate::settings::follow::Airborne;

use super::Camera;
use super::air::take_off;
use super::arrival::{Arrival, Clock, Input, Kind, arrive};
use super::clock_state::{ClockState, Moving, STEP, TIE};
use super::framing::Framing;
use super::path::{Path, SAME};
use super::picture::edge_behind;
use super::state::{CameraState, Cut};
use super::step::{self, Found, Step};

/// A frame takes at most this many steps. The steps of a longer one are larger.
const MAX_STEPS: f64 = 128.0;

/// A longer frame, in seconds, is as if it were this long: everything is at rest long before.
const MAX_SECONDS: f64 = 1e6;

impl Camera {
    /// Takes the present moment as that of the grid's state: something has changed at it.
    pub(super) fn commit(&mut self) {
        self.leap(Clock::Track);
        let subject = self.state.goal.track.end();
        let grid = &self.state.clock;
        self.state.clock = ClockState {
            part: grid.rest,
            pan: DVec2::ZERO,
            subject: subject.map(|now| (now.position, now.velocity)),
            moving: Moving::of(&self.state),
            ..*grid
        };
        self.scratch.framing = Some(self.framing);
        self.scratch.is_alike = true;
    }

    /// Lets something act at the end of a frame, and commits what it changes, or in any case if somebody `left` there.
    pub(super) fn committing(&mut self, left: bool, act: impl FnOnce(&mut Self)) {
        let before = Moving::of(&self.state);
        act(self);
        if left || before != Moving::of(&self.state) {
            self.commit();
        }
    }

    /// Lets the aim of the last step be that of now, also of a party's zoom: where the goal leaps, no smoothing starts from the
    /// old one.
    pub(super) fn leap(&mut self, clock: Clock) {
        if self.state.goal.party.may_zoom() {
            let context = self.party_context();
            self.state.goal.party.step(&context, 0.0);
            self.refresh_framing();
        }
        let subject = clock.subject(&self.state.goal.track);
        let (aim, goal) = self.state.ride.goal_now(&self.rules, &self.framing, subject);
        (self.state.ride.aim, self.state.ride.goal) = (aim, goal);
    }

    /// Works out the framing of the grid's state anew.
    pub(super) fn frame_grid(&mut self) {
        let shown = (Moving::of(&self.state), self.framing);
        let moving = self.state.clock.moving;
        moving.put_into(&mut self.state);
        let (lens, least_zoom) = (&self.framing.lens, Some(moving.limits.least_zoom));
        let framing = Framing::new(&self.rules, &self.state, self.window, lens, least_zoom);
        (self.scratch.framing, self.scratch.is_alike) = (Some(framing), false);
        shown.0.put_into(&mut self.state);
        self.framing = shown.1;
    }

    /// Runs the step of a frame.
    pub(super) fn step(&mut self, input: &Input<'_>) {
        let seconds = input.seconds.min(MAX_SECONDS);
        let shown = self.shown_focus(Clock::Track);
        let (edge, cuts) = (self.state.ride.picture.edge, self.state.cuts);
        let Self { state, told, framing, .. } = self;
        let (view, offset) = (framing.view, framing.follow.offset);
        let input = &Input { seconds, ..*input };
        let arrival = arrive(input, &mut state.goal, told, view, offset);
        state.clock.go_on(seconds);
        // Who is in the party moves through the whole frame.
        let party = (!state.goal.party.is_idle()).then(|| {
            let mut after = state.goal.party;
            let ways = after.ways(arrival.party.unwrap_or(&[]), seconds, view);
            (after, ways.continued_to(&state.clock.moving.party))
        });
        let ways = party.as_ref().map(|(_, ways)| ways);
        let mut path = Path::new(&arrival, &state.clock, ways);
        let scroll = &self.rules.settings.scroll;
        path.scrolls[0] = scroll.as_ref().map_or(1.0, |scroll| scroll.share(seconds));
        self.state.clock.scrolls = path.scrolls[0];
        let is_cut = matches!(arrival.kind, Kind::Cut) && self.state.goal.cut == Cut::Commanded;
        path.pan[0] = core::mem::take(&mut self.told.at_end.pan);
        if is_cut {
            path.pan[0] = DVec2::ZERO;
        }
        // In most frames nothing but the ride moves.
        let is_light = self.scratch.is_alike && self.is_light(&path);
        self.go_to_grid(&path, is_light);
        let line = self.state.ride.picture.barrier;
        self.state.take_off(&arrival, &self.framing);
        if self.begins_with_event(&path) {
            self.pass_to(&path, path.start, false);
            self.begin_frame(&path);
        }
        if !self.is_even(&path) {
            self.happen(&path, true);
        }
        if let Some((after, _)) = &party {
            let moving = self.state.goal.party.moving();
            self.state.goal.party = *after;
            self.state.goal.party.put(&moving);
        }
        self.pass_to_now(&mut path, is_light);
        if seconds > 0.0 {
            self.state.ride.picture.before = (shown, seconds);
        }
        if self.has_to_settle(&arrival) {
            self.committing(arrival.leaving.is_some(), |camera| camera.settle(&arrival));
        }
        self.keep_edge(edge, cuts, line);
    }

    /// Remembers the edge that is shown at the end of a frame. Before there was this one, as many cuts, and a ratchet's line.
    pub(super) fn keep_edge(&mut self, last: Option<Barrier>, cuts: u32, line: Option<Barrier>) {
        if self.framing.follow.ratchet != Ratchet::None {
            let shown = edge_behind(&self.framing, self.centre(Clock::Track));
            let last = last.filter(|_| cuts == self.state.cuts);
            self.state.ride.picture.keep_edge(shown, last, line);
        }
    }

    /// Passes whole steps, and commands at their moments, into the state of the grid. From there, one partial step makes
    /// what is shown.
    fn pass_to_now(&mut self, path: &mut Path<'_>, is_light: bool) {
        self.pass_whole_steps(path);
        self.act_before(path, f64::INFINITY);
        self.keep(path, is_light);
        let kept = self.state.clock.part;
        self.pass_to(path, path.end, true);
        self.state.clock.part = kept;
        if !is_light {
            let mut shown = Moving::of(&self.state);
            shown.ride = self.state.clock.moving.ride;
            self.scratch.is_alike = self.is_light(path) && shown == self.state.clock.moving;
        }
    }

    /// Returns whether nothing but the ride moves in a frame.
    fn is_light(&self, path: &Path<'_>) -> bool {
        self.is_even(path)
            && !self.state.lens_changes()
            && !self.told.has_due()
            && !self.told.at_end.holds_point()
            && path.pan[0] == DVec2::ZERO
    }

    /// Puts the state of the grid in the place of the one that is shown.
    fn go_to_grid(&mut self, path: &Path<'_>, is_light: bool) {
        if is_light {
            self.state.ride = self.state.clock.moving.ride;
            self.state.ride.picture.edge = None;
            return;
        }
        let moving = self.state.clock.moving;
        moving.put_into(&mut self.state);
        self.state.ride.picture.edge = None;
        if let Some(framing) = self.scratch.framing {
            self.framing = framing;
        }
        if path.arrival.together {
            self.state.goal.stand_for_party(&self.party_context());
        }
    }

    /// Keeps the state as that of the grid.
    fn keep(&mut self, path: &Path<'_>, is_light: bool) {
        let clock = &mut self.state.clock;
        let subject = path.at(clock.part);
        clock.subject = subject.map(|now| (now.position, now.velocity));
        clock.pan = path.pan(clock.part, path.end);
        if is_light {
            clock.moving.ride = self.state.ride;
            return;
        }
        self.state.clock.moving = Moving::of(&self.state);
        self.scratch.framing = Some(self.framing);
    }

    /// Passes the whole steps up to the last point of the grid.
    fn pass_whole_steps(&mut self, path: &mut Path<'_>) {
        let since = self.state.clock.part;
        let few = -since <= MAX_STEPS * STEP;
        let length = if few { STEP } else { -since / MAX_STEPS };
        if since >= -SAME {
            return;
        }
        let steps = if few { libm::ceil(-since / STEP - TIE) } else { MAX_STEPS };
        let is_even = self.is_even(path) && !self.told.has_due();
        for left in (0..steps as u32).rev() {
            let to = -f64::from(left) * length;
            if is_even {
                self.pass(path, to, false);
            } else {
                self.act_before(path, to);
                self.pass_to(path, to, false);
            }
        }
    }

    /// Passes to a time over which nothing else happens.
    #[inline]
    pub(super) fn pass(&mut self, path: &Path<'_>, to: f64, is_shown: bool) -> Found {
        let Self { rules, window, state, framing, scratch, .. } = self;
        let from = core::mem::replace(&mut state.clock.part, to);
        let seconds = whole_step(to - from);
        let step = Step {
            rules,
            window: *window,
            stride: path.stride(from, to),
            seconds,
            scrolls: path.scrolls((from + to) / 2.0),
            members: path.members.map(|members| (members, path.way_time(to))),
            together: path.arrival.together,
            pan: path.pan(from, to),
        };
        let is_whole = !is_shown && seconds == STEP;
        let factors = if is_whole { &mut scratch.whole } else { &mut scratch.part };
        step::run(&step, state, framing, factors)
    }

    /// Moves the goal to where the subject is, in no time.
    pub(super) fn run_instant(&mut self, clock: Clock) {
        let stride = match clock {
            Clock::Step(subject) => subject.map(SubjectNow::stays),
            Clock::Track => None,
        };
        let Self { rules, window, state, framing, scratch, .. } = self;
        let step = Step::alone(rules, *window, stride, 0.0);
        step::run(&step, state, framing, &mut scratch.part);
    }
}

impl CameraState {
    fn take_off(&mut self, arrival: &Arrival<'_>, framing: &Framing) {
        let Self { goal, ride, .. } = self;
        if framing.follow.airborne == Airborne::Hold {
            let focus = ride.focus.position;
            (goal.takeoff, ride.goal) = take_off(arrival, framing, goal.takeoff, ride.goal, focus);
        } else {
            ride.goal.air = Air::Grounded;
        }
    }
}

/// The length of a step, which is that of a whole one but for rounding: its factors are then known.
fn whole_step(seconds: f64) -> f64 {
    if (seconds - STEP).abs() < SAME { STEP } else { seconds }
}
