//! One frame: how the subject arrived, the step itself, commands, and the view.

use glam::DVec2;

use crate::base::maths::usable_seconds;
use crate::camera::hand::Hand;
use crate::curves::ease::Timing;
use crate::goal::air::Air;
use crate::goal::subject::SubjectNow;
use crate::motion::motion::Moving;
use crate::motion::transition::Transition;
use crate::settings::follow::Axes;
use crate::view::view::View;

use super::Camera;
use super::arrival::{Arrival, Clock, Input, Kind, meet};
use super::calls::note_frame;
use super::change::{Change, FocusAfter, SEEN_PIXELS};
use super::framing::Framing;
use super::goal::GoalMemory;
use super::ride::Ride;
use super::rules::Rules;
use super::state::{CameraState, Cut};

impl Camera {
    /// Runs a whole frame, with one subject, with several, or without any.
    ///
    /// In a frame in which no time passes commands act, and nothing else. How the subject changed counts in the next
    /// frame that takes time.
    #[inline]
    pub(super) fn frame(&mut self, mut input: Input<'_>) -> View {
        let given = input;
        input.seconds = usable_seconds(input.seconds);
        self.state.pass_time(input.seconds);
        if input.seconds <= 0.0 {
            let CameraState { ride, cuts, .. } = self.state;
            self.committing(false, |camera| camera.stand_still(&input));
            self.keep_edge(ride.picture.edge, cuts, ride.picture.barrier);
        }
        if input.seconds > 0.0 || self.waits_for_subject() {
            self.step(&input);
        }
        let (centre, subject) = (self.centre(Clock::Track), self.state.goal.track.last());
        self.state.footing.advance(subject, centre, &self.framing.lens);
        if self.calls.are_noted() {
            note_frame(self, &given);
        }
        self.view_about(centre)
    }

    /// What acts in a frame in which no time passes.
    fn stand_still(&mut self, input: &Input<'_>) {
        while let Some((before_end, command)) = self.told.take(0.0) {
            self.act(&command, before_end, Clock::Track);
        }
        if self.waits_for_subject() {
            return;
        }
        if input.party.is_none() && input.alone.is_none() {
            self.aim(Clock::Track);
        }
        self.apply_commands(Clock::Track);
    }

    /// The end of the step: the subject is where it arrived, and commands take effect.
    pub(super) fn settle(&mut self, arrival: &Arrival<'_>) {
        if let Some(leaving) = &arrival.leaving {
            self.state.goal.track.leave_at(leaving.end());
            self.let_leash_go(leaving.end());
        }
        self.settle_arrival(arrival);
        self.apply_commands(Clock::Track);
    }

    /// Returns whether anything may happen at the end of a step.
    #[inline]
    pub(super) fn has_to_settle(&self, arrival: &Arrival<'_>) -> bool {
        let CameraState { ride, goal, .. } = &self.state;
        let quiet = matches!(arrival.kind, Kind::Moved(_)) && arrival.party.is_none();
        let landed = ride.goal.air != Air::Grounded && !arrival.in_air;
        !quiet || landed || !self.told.at_end.is_empty() || !goal.party.is_idle()
    }

    fn settle_arrival(&mut self, arrival: &Arrival<'_>) {
        // A cut at a moment before anybody came waits for the one who comes.
        let waits = matches!(arrival.kind, Kind::Jumped) && self.state.goal.cut == Cut::Commanded;
        let cut = waits || matches!(arrival.kind, Kind::Cut);
        let glide = self.told.at_end.glide.take();
        if let Some(timing) = glide.filter(|_| !cut) {
            return self.glide_to_subject(arrival, timing);
        }
        let party = self.settle_party(arrival);
        let Some(subject) = arrival.one_of(party) else {
            self.state.goal.track.forget();
            return self.aim(Clock::Track);
        };
        let CameraState { ride, goal, .. } = &mut self.state;
        let (air, track) = (&mut ride.goal.air, &mut goal.track);
        match arrival.kind {
            _ if cut => {
                if goal.cut == Cut::Commanded {
                    self.told.at_end.drop_hands();
                }
                track.meet(&subject);
                let now = SubjectNow { position: subject.position, velocity: DVec2::ZERO };
                self.cut_to(now, Air::unknown(arrival.in_air));
            }
            Kind::Jumped => {
                *air = Air::unknown(arrival.in_air);
                meet(&subject, arrival.party, track);
                let now = track.stands_at(subject.position);
                self.come_to(now, Clock::Track);
            }
            Kind::Moved(_) if air.touch_down(arrival.in_air) => {
                let now = track.stands_at(subject.position);
                self.run_instant(Clock::Step(Some(now)));
            }
            // The point of a party jumps if a member changes its weight.
            _ if arrival.together && track.last() != Some(subject.position) => {
                track.jump(subject.position);
                let now = track.stands_at(subject.position);
                self.run_instant(Clock::Step(Some(now)));
            }
            _ => {}
        }
    }

    /// What the commands of a moment within the step do to following.
    pub(super) fn settle_moment(&mut self, arrival: &Arrival<'_>, moment: f64) {
        let (comes, clock) = (arrival.comes_with(moment), arrival.clock(moment));
        let before = if comes { arrival.clock_before() } else { clock };
        let now = clock.subject(&self.state.goal.track);
        let cut = self.state.goal.cut == Cut::Commanded;
        let glide = self.told.at_end.glide.take().filter(|_| !cut || now.is_none());
        let change = glide.map(|timing| self.begin(timing, before));
        let air = &mut self.state.ride.goal.air;
        let in_air = arrival.in_air || (!comes && *air != Air::Grounded);
        if comes {
            *air = Air::unknown(in_air);
            if let Some(left) = before.subject(&self.state.goal.track) {
                self.let_leash_go(left);
            }
        }
        match (change, now) {
            (None, Some(now)) if cut => {
                self.told.at_end.drop_hands();
                self.cut_to(now, Air::unknown(in_air));
            }
            (None, Some(now)) if comes => self.come_to(now, clock),
            (None, None) if comes => self.aim(clock),
            (Some(change), now) => self.glide_to(change, now.map(|now| now.position), clock),
            _ => {}
        }
    }

    /// Leaves the picture where the leash of a subject that is not followed any more has pulled it. What the leash added
    /// fades in the time in which a hand's view returns.
    pub(super) fn let_leash_go(&mut self, left: SubjectNow) {
        let [held, free] = [Some(left), None].map(Clock::Step);
        let pulled = self.shown_focus(held) - self.shown_focus(free);
        let is_seen = pulled.length() * self.framing.lens.scale() >= SEEN_PIXELS;
        if !is_seen || !pulled.is_finite() {
            return;
        }
        let seconds = self.rules.settings.hands.seconds();
        let Ride { picture, focus, .. } = &mut self.state.ride;
        if picture.hand != Hand::Off {
            picture.hand_focus += pulled;
        } else if seconds > 0.0 {
            picture.add_fade(Transition::smooth(pulled, DVec2::ZERO, seconds), focus.position);
        }
    }

    /// Moves following to its goal at once, and lets the picture reach it in the given time. Ends a hand's control.
    fn glide_to_subject(&mut self, arrival: &Arrival<'_>, timing: Timing) {
        let change = self.begin(timing, Clock::Track);
        self.state.goal.party = self.next_party(arrival);
        let subject = arrival.one_of(self.point_of_party(arrival));
        if let Some(subject) = &subject
            && !matches!(arrival.kind, Kind::Moved(_))
        {
            self.state.ride.goal.air = Air::unknown(arrival.in_air);
            meet(subject, arrival.party, &mut self.state.goal.track);
        }
        self.glide_to(change, subject.map(|subject| subject.position), Clock::Track);
    }

    fn glide_to(&mut self, change: Change, subject: Option<DVec2>, clock: Clock) {
        self.state.ride.picture.hand = Hand::Off;
        if let Some(position) = subject {
            self.state.enter_places(&self.rules, position);
        }
        self.refresh_framing();
        let air = self.state.ride.goal.air;
        let aim = self.told.at_end.aim;
        self.state.go_to_subject(subject, aim, air, &self.rules, &self.framing);
        self.fade(change, FocusAfter::AtGoal, clock);
    }

    /// Moves the goal to a subject that came without moving, and enters its places and its hall. Smoothing handles the
    /// jump.
    fn come_to(&mut self, now: SubjectNow, clock: Clock) {
        let room = self.state.ride.room;
        self.run_instant(Clock::Step(Some(now)));
        self.pass_lines(now.position, clock);
        if self.state.ride.room != room {
            self.run_instant(Clock::Step(Some(now)));
        }
        self.pass_halls(Clock::Step(Some(now)));
    }

    /// Without a subject, makes a named point the goal.
    pub(super) fn aim(&mut self, clock: Clock) {
        let Some(aim) = self.told.at_end.aim else { return };
        let ride = &self.state.ride;
        if ride.goal.point == aim && ride.room.is_none() {
            return;
        }
        self.state.ride.goal.point = aim;
        // A point that is aimed at is in no room.
        self.state.ride.room = None;
        self.run_instant(clock);
    }

    /// Cuts: memories, transitions, hand and pause end, and the view is at its goal.
    fn cut_to(&mut self, now: SubjectNow, air: Air) {
        let CameraState { lens, ride, pause, limits, cuts, .. } = &mut self.state;
        *cuts = cuts.wrapping_add(1);
        (ride.picture.hand, *pause) = (Hand::Off, 0.0);
        ride.picture.fades.clear();
        lens.transitions.clear();
        limits.edges.clear();
        ride.picture.forget_line();
        self.state.enter_places(&self.rules, now.position);
        self.refresh_framing();
        self.state.go_to_subject(Some(now.position), None, air, &self.rules, &self.framing);
        self.keep_to_halls(FocusAfter::AtGoal, Clock::Step(Some(now)));
        self.state.ride.focus = Moving { position: self.goal_at_rest(), velocity: DVec2::ZERO };
        self.limit(Clock::Step(Some(now)));
    }

    /// Returns whether a command waits that cannot do without the subject: a cut, also that of the first frame, or a
    /// glide.
    pub(super) fn waits_for_subject(&self) -> bool {
        self.state.goal.cut != Cut::No || self.told.at_end.glide.is_some()
    }
}

impl CameraState {
    /// Goes to the subject at once, or to a point that is aimed at.
    fn go_to_subject(
        &mut self,
        subject: Option<DVec2>,
        aim: Option<DVec2>,
        air: Air,
        rules: &Rules,
        framing: &Framing,
    ) {
        let Self { goal, ride, .. } = self;
        // The first subject tells where the view is on axes that are not followed.
        let is_first = core::mem::replace(&mut goal.cut, Cut::No) == Cut::First;
        let axes = if is_first { Axes::Both } else { framing.follow.axes };
        if let Some(position) = subject {
            ride.goal = ride.goal.cut_to(position, axes, air, framing);
        } else if let Some(aim) = aim {
            ride.goal = GoalMemory { point: aim, ..GoalMemory::default() };
            goal.track.forget();
            ride.room = None;
        }
        ride.goal = ride.goal.restarted(rules, framing);
    }
}
