//! What happens at a moment within a frame. It is found there, divides the step, and acts.

use glam::DVec2;

use crate::base::maths::bisect;
use crate::camera::hand::Hand;
use crate::goal::air::Air;
use crate::goal::rooms;

use super::Camera;
use super::arrival::Clock;
use super::clock_state::{Moving, TIE};
use super::command::Command;
use super::path::{Path, SAME};
use super::step::Found;

/// The most moments at which a step is divided.
const MAX_EVENTS: usize = 64;

/// How often a step is halved to find a moment in it.
const HALVINGS: u32 = 30;

/// Just past a line, as a fraction of a step's way: farther than where a room is looked for.
const JUST_PAST: f64 = 2.0 * rooms::JUST_PAST;

impl Camera {
    /// Returns whether something happens where the frame begins.
    pub(super) fn begins_with_event(&self, path: &Path<'_>) -> bool {
        let (arrival, pan) = (path.arrival, path.pan[0]);
        let picture = &self.state.ride.picture;
        let is_new = arrival.is_new || arrival.together;
        let learns = is_new && picture.fades.has_newest();
        let held = match picture.hand {
            Hand::Stay => true,
            Hand::Pan => pan == DVec2::ZERO,
            _ => false,
        };
        learns || self.takes_pan(pan) || held || self.told.at_end.holds_point()
    }

    /// Returns whether a pan by some pixels takes the view in hand.
    fn takes_pan(&self, pan: DVec2) -> bool {
        pan != DVec2::ZERO && !matches!(self.state.ride.picture.hand, Hand::Pan | Hand::Grab(_))
    }

    /// What happens where the frame begins: the subject is at its old position, with a velocity that may only now be known.
    pub(super) fn begin_frame(&mut self, path: &Path<'_>) {
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
        if self.takes_pan(path.pan[0]) {
            let shown = self.shown_focus(clock);
            self.state.ride.picture.take_in_hand(Hand::Pan, shown);
        }
        if self.told.at_end.holds_point() && !self.waits_for_subject() {
            self.take_point_in_hand(clock);
        }
        self.leap(clock);
    }

    /// Passes to each moment up to a time at which something is due, and acts.
    pub(super) fn act_before(&mut self, path: &mut Path<'_>, to: f64) {
        while let Some(moment) = self.told.next_moment(path.arrival.seconds) {
            let at = path.time_of(moment);
            if at > to {
                return;
            }
            self.pass_to(path, at, false);
            let acted = path.fraction(at) + TIE * 1e-3;
            self.act_until(path.arrival, acted);
            path.waits &= !path.arrival.has_come(acted);
            self.leap(path.clock(at));
            self.happen(path, true);
        }
    }

    /// Returns whether nothing happens besides following until something is told.
    #[inline]
    pub(super) fn is_even(&self, path: &Path<'_>) -> bool {
        let Self { rules, state, framing, .. } = self;
        state.ride.picture.hand == Hand::Off
            && state.pause <= 0.0
            && state.ride.goal.air != Air::Held
            && path.members.is_none()
            && framing.outline.is_none()
            && !rules.has_places()
            && rules.settings.rail.is_none()
    }

    /// Passes to a time, over everything that happens up to it.
    pub(super) fn pass_to(&mut self, path: &Path<'_>, to: f64, is_shown: bool) {
        for event in 0..=MAX_EVENTS {
            let from = self.state.clock.part;
            if to - from <= SAME {
                break;
            }
            if self.is_even(path) {
                self.pass(path, to, is_shown);
                return;
            }
            let divides = event < MAX_EVENTS;
            let end = if divides { self.next_moment(path, from, to) } else { to };
            let is_over = self.step_until_over(path, end, is_shown);
            self.happen(path, is_over);
        }
        self.state.clock.part = to;
    }

    /// What happens at this moment, besides following. `may_end` says whether the state may decide that something ends here.
    pub(super) fn happen(&mut self, path: &Path<'_>, may_end: bool) {
        let clock = path.clock(self.state.clock.part);
        let mut happens = may_end && self.end_what_is_over(path, clock);
        if self.rules.has_places()
            && let Some(place) = self.place(path, clock)
        {
            happens |= self.pass_lines(place, clock);
        }
        if happens {
            self.leap(clock);
        }
    }

    /// Ends what the state decides to be over at this moment. Returns whether anything was.
    fn end_what_is_over(&mut self, path: &Path<'_>, clock: Clock) -> bool {
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
        happens
    }

    /// Returns the point whose rooms and zones count at this moment.
    fn place(&self, path: &Path<'_>, clock: Clock) -> Option<DVec2> {
        match path.arrival.together {
            true => self.state.goal.party.middle(&self.framing.lens),
            false => clock.subject(&self.state.goal.track).map(|now| now.position),
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
        let mut last = from;
        // The way has a corner where the frame begins.
        for next in [path.start, end].into_iter().filter(|next| *next <= end) {
            if next <= last {
                continue;
            }
            let line = place(last).zip(place(next)).and_then(|(here, there)| {
                self.rules.crossing(&self.framing, self.state.ride.room, here, there)
            });
            if let Some(line) = line {
                return last + (next - last) * (line + JUST_PAST).min(1.0);
            }
            last = next;
        }
        end
    }

    /// Passes one step, at most until something that the state decides happens. Returns whether it does.
    fn step_until_over(&mut self, path: &Path<'_>, end: f64, is_shown: bool) -> bool {
        let from = self.state.clock.part;
        let before = self
            .may_end(path)
            .then(|| (Moving::of(&self.state), self.state.goal.track, self.framing));
        let mut found = self.pass(path, end, is_shown);
        let is_over = before.is_some() && self.is_over(found, path);
        if let Some(before) = before.filter(|_| is_over) {
            let pass_again = |camera: &mut Self, to: f64| {
                before.0.put_into(&mut camera.state);
                (camera.state.goal.track, camera.framing) = (before.1, before.2);
                camera.state.clock.part = from;
                camera.pass(path, to, is_shown)
            };
            let [just_before, over] = bisect([from, end], HALVINGS, |to| {
                let found = pass_again(self, to);
                self.is_over(found, path)
            });
            found = pass_again(self, over);
            if found == Found::Leapt {
                // The view has not moved on yet.
                pass_again(self, just_before);
                self.state.clock.part = over;
            }
        }
        let clock = path.clock(self.state.clock.part);
        if found == Found::LeftLeash {
            self.state.ride.goal.air = Air::Loose;
        }
        if found != Found::Nothing {
            self.run_instant(clock);
            self.leap(clock);
        }
        if self.state.pass_pause(self.state.clock.part - from) {
            self.release_hand(clock);
            self.leap(clock);
        }
        is_over
    }

    /// Returns whether the state may decide that something happens within a step.
    fn may_end(&self, path: &Path<'_>) -> bool {
        let ride = &self.state.ride;
        matches!(ride.picture.hand, Hand::Pin(..))
            || self.framing.outline.is_some()
            || path.arrival.together
            || self.rules.settings.rail.is_some()
            || ride.goal.air == Air::Held
    }

    /// Returns whether something happens at this moment that the state decides: a held height is let go, the goal leaps along
    /// its rail, a party changes, a pinned point is released, the view passes into another hall.
    fn is_over(&self, found: Found, path: &Path<'_>) -> bool {
        let Self { rules, state, framing, .. } = self;
        let clock = path.clock(state.clock.part);
        let party = &state.goal.party;
        found != Found::Nothing
            || (party.is_several() && party.changes(&self.party_context()))
            || rules.ends_pin(state, framing, clock)
            || self.next_hall(clock).is_some()
    }
}
