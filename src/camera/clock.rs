//! The camera's clock: its state lives on a grid of time of its own, and the frame's times never enter it.
//!
//! A frame takes whole steps of the grid, keeps what they moved in a [`ClockState`], and goes on from there to its own end by one
//! partial step, which makes the view. What happens at a moment is found in a step, and divides it.

use glam::DVec2;

use crate::base::maths::bisect;
use crate::camera::hand::Hand;
use crate::goal::air::Air;
use crate::goal::subject::SubjectNow;
use crate::settings::follow::Airborne;

use super::air::take_off;
use super::arrival::{Arrival, Clock, Input, Kind, arrive};
use super::clock_state::{ClockState, Moving, STEP, TIE};
use super::command::Command;
use super::framing::Framing;
use super::party;
use super::path::{Path, SAME};
use super::rules::Rules;
use super::state::{CameraState, Cut};
use super::step::{self, Found, Step, way};
use super::{Camera, Scratch};

/// A frame takes at most this many steps. The steps of a longer one are larger.
const MAX_STEPS: f64 = 128.0;

/// A longer frame, in seconds, is as if it were this long: everything is at rest long before.
const MAX_SECONDS: f64 = 1e6;

/// The most moments at which a step is divided.
const MAX_EVENTS: usize = 64;

/// How often a step is halved to find a moment in it.
const HALVINGS: u32 = 30;

/// Just past a line, as a fraction of a step's way.
const JUST_PAST: f64 = 2e-9;

impl Camera {
    /// Takes the present moment as that of the grid's state: something has changed at it.
    pub(super) fn commit(&mut self) {
        self.leap(Clock::Track);
        self.state.ride.picture.edge = self.state.ride.picture.barrier;
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

    /// Lets the aim of the last step be that of now: where the goal leaps, no smoothing starts from the old one.
    fn leap(&mut self, clock: Clock) {
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
        self.give_shares(&mut path);
        // In most frames nothing but the ride moves.
        let is_light = self.scratch.is_alike && self.is_light(&path);
        self.go_to_grid(&path, is_light);
        let line = self.state.ride.picture.barrier;
        self.take_off(&arrival);
        if self.begins_with_event(&path) {
            self.pass_to(&path, path.start, false);
            self.begin_frame(&path);
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
            self.settle_frame(&arrival);
        }
        let is_same = cuts == self.state.cuts;
        self.state.ride.picture.keep_edge(edge.filter(|_| is_same), line);
    }

    /// Gives a path what a scroll and a hand do in the frame.
    fn give_shares(&mut self, path: &mut Path<'_>) {
        let (arrival, scroll) = (path.arrival, &self.rules.settings.scroll);
        let scrolls = scroll.as_ref().map_or(1.0, |scroll| scroll.share(arrival.seconds));
        (path.scrolls[0], self.state.clock.scrolls) = (scrolls, scrolls);
        let is_cut = matches!(arrival.kind, Kind::Cut) && self.state.goal.cut == Cut::Commanded;
        let pan = core::mem::take(&mut self.told.at_end.pan);
        path.pan[0] = if is_cut { DVec2::ZERO } else { pan };
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

    fn settle_frame(&mut self, arrival: &Arrival<'_>) {
        let before = Moving::of(&self.state);
        if let Some(leaving) = &arrival.leaving {
            self.state.goal.track.leave_at(leaving.end());
            self.state.let_leash_go(leaving.end(), &self.rules, &self.framing);
        }
        self.settle(arrival);
        if before != Moving::of(&self.state) {
            self.commit();
        }
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

    fn take_off(&mut self, arrival: &Arrival<'_>) {
        let Self { state, framing, .. } = self;
        if framing.follow.airborne == Airborne::Hold {
            let (takeoff, focus) = (state.goal.takeoff, state.ride.focus.position);
            (state.goal.takeoff, state.ride.goal) =
                take_off(arrival, framing, takeoff, state.ride.goal, focus);
        } else {
            state.ride.goal.air = Air::Grounded;
        }
    }

    /// Returns whether something happens where the frame begins.
    fn begins_with_event(&mut self, path: &Path<'_>) -> bool {
        let (arrival, pan) = (path.arrival, path.pan[0]);
        let picture = &mut self.state.ride.picture;
        let is_new = arrival.is_new || arrival.together;
        let learns = is_new && picture.fades.newest().is_some();
        let pans = pan != DVec2::ZERO && !matches!(picture.hand, Hand::Pan | Hand::Grab(_));
        let held = match picture.hand {
            Hand::Stay => true,
            Hand::Pan => pan == DVec2::ZERO,
            _ => false,
        };
        learns || pans || held || self.told.at_end.holds_point()
    }

    /// What happens where the frame begins: the subject is at its old position, with a velocity that may only now be known.
    fn begin_frame(&mut self, path: &Path<'_>) {
        let (arrival, clock) = (path.arrival, path.clock(path.start));
        self.learn_velocities(arrival);
        let stays = arrival.stride().is_none_or(|stride| stride.from == stride.to);
        let is_over = match self.state.ride.picture.hand {
            Hand::Stay => !stays,
            Hand::Pan => {
                let pans = |command: &Command| matches!(command, Command::Pan(_));
                path.pan[0] == DVec2::ZERO && !self.told.is_due(pans)
            }
            _ => false,
        };
        if is_over {
            self.release_hand(clock);
        }
        let hand = self.state.ride.picture.hand;
        if path.pan[0] != DVec2::ZERO && !matches!(hand, Hand::Pan | Hand::Grab(_)) {
            let shown = self.shown_focus(clock);
            self.state.ride.picture.take_in_hand(Hand::Pan, shown);
        }
        if self.told.at_end.holds_point() && !self.waits_for_subject() {
            self.take_point_in_hand(clock);
        }
        self.leap(clock);
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
        if !self.told.has_due() && self.is_even(path) {
            let mut here = path.at(since);
            for left in (0..steps as u32).rev() {
                here = self.pass_evenly(path, here, -f64::from(left) * length, false);
            }
            return;
        }
        for left in (0..steps as u32).rev() {
            let to = -f64::from(left) * length;
            self.act_before(path, to);
            self.pass_to(path, to, false);
        }
    }

    /// Passes to each moment up to a time at which something is due, and acts.
    fn act_before(&mut self, path: &mut Path<'_>, to: f64) {
        while let Some(moment) = self.told.next_moment(path.arrival.seconds) {
            let at = path.time_of(moment);
            if at > to {
                return;
            }
            self.pass_to(path, at, false);
            self.act_at(path, at);
        }
    }

    fn act_at(&mut self, path: &mut Path<'_>, at: f64) {
        self.act_until(path.arrival, path.fraction(at) + TIE * 1e-3);
        path.waits &= !path.arrival.has_come(path.fraction(at) + TIE * 1e-3);
        self.leap(path.clock(at));
    }

    /// Returns whether nothing happens besides following until something is told.
    #[inline]
    fn is_even(&self, path: &Path<'_>) -> bool {
        let Self { rules, state, framing, .. } = self;
        state.ride.picture.hand == Hand::Off
            && state.pause <= 0.0
            && state.ride.goal.air != Air::Held
            && path.members.is_none()
            && framing.outline.is_none()
            && !rules.has_places()
            && rules.settings.rail.is_none()
    }

    /// Passes to a time over which nothing else happens. Returns where the subject is then.
    #[inline]
    fn pass_evenly(
        &mut self,
        path: &Path<'_>,
        from: Option<SubjectNow>,
        to: f64,
        is_shown: bool,
    ) -> Option<SubjectNow> {
        let Self { rules, window, state, framing, scratch, .. } = self;
        let (since, there) = (state.clock.part, path.at(to));
        let stride =
            from.zip(there).map(|(from, to_here)| way(from, to_here, path.carriers(since, to)));
        let alone = Step::alone(rules, *window, stride, whole_step(to - since));
        let step = Step { scrolls: path.scrolls((since + to) / 2.0), ..alone };
        let factors = if is_shown { &mut scratch.part } else { &mut scratch.whole };
        step::run(&step, state, framing, factors);
        state.clock.part = to;
        there
    }

    /// Passes to a time, over everything that happens before.
    fn pass_to(&mut self, path: &Path<'_>, to: f64, is_shown: bool) {
        if self.is_even(path) {
            if to - self.state.clock.part > SAME {
                let from = path.at(self.state.clock.part);
                self.pass_evenly(path, from, to, is_shown);
            }
            return;
        }
        for event in 0..=MAX_EVENTS {
            self.happen(path);
            let from = self.state.clock.part;
            if to - from <= SAME {
                break;
            }
            let divides = event < MAX_EVENTS;
            let end = if divides { self.next_moment(path, from, to) } else { to };
            self.step_until_over(path, end, is_shown);
        }
        self.state.clock.part = to;
    }

    /// What happens at this moment, besides following.
    fn happen(&mut self, path: &Path<'_>) {
        let at = self.state.clock.part;
        let clock = path.clock(at);
        let Self { rules, state, framing, .. } = self;
        let mut happens = rules.ends_pin(state, framing, clock);
        if happens {
            self.release_hand(clock);
        }
        if self.framing.outline.is_some() {
            let hall = self.state.limits.hall;
            self.pass_halls(clock);
            happens |= self.state.limits.hall != hall;
        }
        if self.shows_several(path.arrival)
            && let Some(next) = self.reconsidered_party()
        {
            self.change_party(next, clock);
            happens = true;
        }
        let place = match path.arrival.together {
            true => self.state.goal.party.middle(&self.framing.lens),
            false => clock.subject(&self.state.goal.track).map(|now| now.position),
        };
        if self.rules.has_places()
            && let Some(place) = place
        {
            happens |= self.pass_lines(place, clock);
        }
        if happens {
            self.leap(clock);
        }
    }

    /// Returns the next moment at which the step is divided.
    fn next_moment(&self, path: &Path<'_>, from: f64, to: f64) -> f64 {
        let mut end = to;
        if self.state.pause > 0.0 {
            end = end.min(from + self.state.pause);
        }
        let place = |at: f64| match path.members {
            Some(ways) if path.arrival.together => {
                let mut party = self.state.goal.party;
                party.place(ways, path.way_time(at), 0.0);
                party.middle(&self.framing.lens)
            }
            _ => path.at(at).map(|now| now.position),
        };
        if !self.rules.has_places() {
            return end;
        }
        // The way has a corner where the frame begins.
        let corner = path.start.clamp(from, end);
        for [from, to] in [[from, corner], [corner, end]] {
            let (Some(here), Some(there)) = (place(from), place(to)) else { continue };
            let room = self.state.ride.room;
            if let Some(line) = self.rules.crossing(&self.framing, room, here, there) {
                return from + (to - from) * (line + JUST_PAST).min(1.0);
            }
        }
        end
    }

    /// Passes one step, at most until something that the state decides happens.
    fn step_until_over(&mut self, path: &Path<'_>, end: f64, is_shown: bool) {
        let from = self.state.clock.part;
        let decides = matches!(self.state.ride.picture.hand, Hand::Pin(..))
            || self.framing.outline.is_some()
            || path.arrival.together
            || self.rules.settings.rail.is_some()
            || self.state.ride.goal.air == Air::Held;
        let Self { rules, window, state, framing, scratch, .. } = self;
        let step = |to: f64| Step {
            rules,
            window: *window,
            stride: path.stride(from, to),
            seconds: whole_step(to - from),
            scrolls: path.scrolls((from + to) / 2.0),
            members: path.members.map(|members| (members, path.way_time(to))),
            together: path.arrival.together,
            pan: path.pan(from, to),
        };
        let Scratch { whole, part, .. } = scratch;
        let is_whole = !is_shown && (end - from - STEP).abs() < SAME;
        let factors = if is_whole { whole } else { part };
        let before = decides.then_some((*state, *framing));
        let mut found = step::run(&step(end), state, framing, factors);
        let mut at = end;
        if let Some(before) = before {
            let is_over = |state: &CameraState, framing: &Framing, at: f64| {
                rules.is_over_at(state, framing, path.clock(at))
            };
            if found != Found::Nothing || is_over(state, framing, end) {
                let mut over_at = |to: f64| {
                    let (mut state, mut framing) = before;
                    step::run(&step(to), &mut state, &mut framing, factors) != Found::Nothing
                        || is_over(&state, &framing, to)
                };
                let [just_before, over] = bisect([from, end], HALVINGS, &mut over_at);
                at = over;
                (*state, *framing) = before;
                found = step::run(&step(at), state, framing, factors);
                if found == Found::Leapt {
                    (*state, *framing) = before;
                    step::run(&step(just_before), state, framing, factors);
                }
            }
        }
        self.state.clock.part = at;
        let clock = path.clock(at);
        if found == Found::LeftLeash {
            self.state.ride.goal.air = Air::Loose;
        }
        if found != Found::Nothing {
            self.run_instant(clock);
            self.leap(clock);
        }
        if self.state.pass_pause(at - from) {
            self.release_hand(clock);
            self.leap(clock);
        }
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

/// The length of a step, which is that of a whole one but for rounding: its factors are then known.
fn whole_step(seconds: f64) -> f64 {
    if (seconds - STEP).abs() < SAME { STEP } else { seconds }
}

impl Rules {
    /// Returns whether something happens here that the state decides: a pinned point is released, the view passes into
    /// another hall.
    fn is_over_at(&self, state: &CameraState, framing: &Framing, clock: Clock) -> bool {
        let subject = clock.subject(&state.goal.track).map(|now| now.position);
        let context = || party::context(self, framing);
        state.goal.party.is_several() && state.goal.party.changes(&context())
            || self.ends_pin(state, framing, clock)
            || self.next_hall(framing, &state.limits, &state.ride, subject).is_some()
    }
}
