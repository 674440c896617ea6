//! A party in a leg and at the end of a step. It moves along the legs as one subject does.

use glam::DVec2;

use crate::goal::party::{Part, PartyMemory};
use crate::goal::subject::{Stride, Subject};
use crate::units::maths::is_usable;

use super::Camera;
use super::arrivals::{Arrival, Kind};

impl Camera {
    /// The path of the subject or the party through a leg, and the end of the leg, which is earlier if a party crosses
    /// a line.
    pub(super) fn stride_of_leg(
        &mut self,
        arrival: &Arrival<'_>,
        done: f64,
        end: f64,
    ) -> (Option<Stride>, f64) {
        let part = |end: f64| Part {
            step: arrival.seconds,
            rest: arrival.seconds * (1.0 - done),
            leg: arrival.seconds * (end - done),
        };
        if !arrival.together {
            self.move_party_alone(arrival, &part(end));
            return (arrival.stride().map(|stride| stride.between(done, end)), end);
        }
        if !self.rules.has_places() {
            return (self.move_party(arrival, &part(end)), end);
        }
        let before = (self.state.goal.party, self.state.goal.track);
        let from = self.middle_of_party();
        let stride = self.move_party(arrival, &part(end));
        let way = from.zip(self.middle_of_party());
        let line = way.and_then(|(from, to)| self.crossing(from, to));
        let Some(line) = line.filter(|line| *line < 1.0 - 1e-6) else { return (stride, end) };
        (self.state.goal.party, self.state.goal.track) = before;
        let end = done + (end - done) * (line + 1e-6);
        (self.move_party(arrival, &part(end)), end)
    }

    /// Updates the members with a fade, and returns the subject that represents them.
    pub(super) fn settle_party(&mut self, arrival: &Arrival<'_>) -> Option<Subject> {
        let next = self.next_party(arrival);
        let fades = arrival.party.is_some()
            && !matches!(arrival.kind, Kind::Cut)
            && self.state.goal.party.frames_others(&next);
        if fades {
            self.change_party(next);
        } else if !(self.state.goal.party.is_idle() && next.is_idle()) {
            self.state.goal.party = next;
            self.refresh();
        }
        self.point_of_party(arrival)
    }

    /// The party at the end of this step.
    pub(super) fn next_party(&self, arrival: &Arrival<'_>) -> PartyMemory {
        let mut party = self.state.goal.party;
        let Some(subjects) = arrival.party else {
            party.disband();
            return party;
        };
        let cut = matches!(arrival.kind, Kind::Cut);
        if cut {
            party = PartyMemory::default();
        }
        party.take_note(subjects, arrival.seconds);
        party.let_go_and_take_back(&self.party_frame());
        party.come_together(&self.party_frame(), Some(0.0).filter(|_| !cut));
        party
    }

    /// The subject that represents the party, with everything that is known of a single followed one.
    pub(super) fn point_of_party(&self, arrival: &Arrival<'_>) -> Option<Subject> {
        match arrival.party? {
            [only] if !self.state.goal.party.is_several() => {
                let only = Some(only).filter(|only| is_usable(only.position));
                arrival.subject.or(only).copied()
            }
            _ => {
                let point = self.party_point()?;
                Some(Subject::from(point).with_velocity(DVec2::ZERO))
            }
        }
    }

    /// The position of a party for rooms and zones, which does not change when these change.
    pub(super) fn middle_of_party(&self) -> Option<DVec2> {
        self.state.goal.party.middle(&self.framing.lens)
    }

    /// Moves the subject to the party's point. Nothing else is remembered of it.
    pub(super) fn stand_for_party(&mut self) {
        let point = self.party_point();
        if let Some(point) = point.filter(|point| self.state.goal.track.last() != Some(*point)) {
            self.state.goal.track.jump(point);
        }
    }

    /// The point that represents the party now.
    fn party_point(&self) -> Option<DVec2> {
        self.state.goal.party.point(&self.party_frame())
    }

    /// Follows the point, which jumps if a member changes its weight.
    pub(super) fn follow_party(&mut self, point: DVec2) {
        if self.state.goal.track.last() != Some(point) {
            self.state.goal.track.jump(point);
            self.jump_to(point);
        }
    }

    /// Moves the party through a leg. A party has no look-ahead.
    fn move_party(&mut self, arrival: &Arrival<'_>, part: &Part) -> Option<Stride> {
        let from = self.state.goal.track.last();
        let to = self.advance_party(arrival.party?, part)?;
        self.state.goal.track.jump(to);
        Some(Stride::straight(from.unwrap_or(to), to, [DVec2::ZERO; 2]))
    }

    fn move_party_alone(&mut self, arrival: &Arrival<'_>, part: &Part) {
        if self.state.goal.party.is_idle() {
            return;
        }
        if let Some(subjects) = arrival.party {
            self.advance_party(subjects, part);
            return;
        }
        let frame = self.party_frame();
        self.state.goal.party.advance_alone(part.leg, &frame);
        self.refresh_framing();
    }

    fn advance_party(&mut self, subjects: &[Subject], part: &Part) -> Option<DVec2> {
        let frame = self.party_frame();
        let party = &mut self.state.goal.party;
        party.advance(subjects, part);
        let point = party.come_together(&frame, Some(part.leg));
        self.refresh_framing();
        point
    }

    pub(super) fn frames_several(&self, arrival: &Arrival<'_>) -> bool {
        arrival.party.is_some() && self.state.goal.party.is_several()
    }

    /// Drops members that have moved too far away within a leg, and takes back those that returned.
    pub(super) fn reconsider_party(&mut self) {
        if let Some(next) = self.state.goal.party.reconsidered(&self.party_frame()) {
            self.change_party(next);
        }
    }

    /// Frames other members from now on. The picture reaches them in its own time.
    fn change_party(&mut self, next: PartyMemory) {
        let fade = self.rules.settings.party.fade;
        self.change_following(fade, |camera| {
            camera.state.goal.party = next;
            camera.stand_for_party();
        });
    }
}
