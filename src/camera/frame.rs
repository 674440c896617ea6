//! One frame: arrivals, then legs of lens, goal, motion and limits, then commands and view.

use glam::DVec2;

use crate::camera::hand::Hand;
use crate::goal::air::Air;
use crate::goal::subject::{Stride, Subject};
use crate::motion::motion::Moving;
use crate::units::maths::usable_seconds;
use crate::view::view::View;

use super::Camera;
use super::arrivals::{Arrival, Kind};
use super::state::{CameraState, GoalMemory, Timing};

/// Small steps per second, used while one stage depends on another throughout a step.
const SMALL_STEPS: f64 = 480.0;

/// The maximum number of small steps in one step. A pause of minutes in a debugger would otherwise take hundreds of
/// thousands.
const MOST_STEPS: f64 = 128.0;

/// How often a leg is halved while its course has too many bends. What is then left is a 64th of a frame.
const MOST_HALVINGS: u32 = 6;

/// A path that deviates from a line by less than this, in screen pixels, counts as straight.
const STRAIGHT: f64 = 0.02;

/// The maximum number of moments at which a step is divided; the rest is one leg.
const MOST_LEGS: usize = 256;

impl Camera {
    /// Runs a whole frame, with one subject, with several, or without any.
    #[inline]
    pub(super) fn frame(
        &mut self,
        seconds: f64,
        party: Option<&[Subject]>,
        alone: Option<&Subject>,
    ) -> View {
        let seconds = usable_seconds(seconds);
        self.pass_time(seconds);
        if seconds <= 0.0 && !self.waits_for_subject() {
            return self.frame_of_no_time(party.is_some() || alone.is_some());
        }
        // 1. How the subject reached its position.
        let arrival = self.arrive(seconds, party, alone);
        // 2, 3. The step, leg by leg.
        self.take_off(&arrival);
        if self.is_busy() {
            self.run_legs(&arrival);
        } else {
            self.follow_leg(arrival.stride(), seconds);
        }
        // 4. Commands take effect.
        self.settle(&arrival);
        // 5. The result.
        self.finish()
    }

    /// Whether a command waits that cannot do without the subject: a cut, also that of the first frame, or a glide.
    fn waits_for_subject(&self) -> bool {
        self.state.goal.cut || self.state.pending.glide.is_some()
    }

    /// A frame in which no time passes: commands act, and nothing else. How the subject changed counts in the next frame
    /// that takes time.
    fn frame_of_no_time(&mut self, follows: bool) -> View {
        if !follows {
            self.aim();
        }
        if !self.state.pending.is_empty() {
            self.obey_commands();
        }
        self.finish()
    }

    fn finish(&mut self) -> View {
        let (centre, subject) = (self.centre(), self.state.goal.track.last());
        self.state.footing.advance(subject, centre, &self.framing.lens);
        self.view_about(centre)
    }

    fn pass_time(&mut self, seconds: f64) {
        if (self.state.time + seconds).is_finite() {
            self.state.time += seconds;
        }
        if self.state.shakes.is_alive() {
            self.state.shakes.advance(seconds);
        }
        if let Some(scroll) = &self.rules.settings.scroll {
            self.scroll_share = scroll.share(seconds);
        }
    }

    /// Whether the step may have to be divided, or needs more than following.
    #[inline]
    fn is_busy(&self) -> bool {
        self.lens_moves()
            || self.rules.has_places()
            || self.state.ride.picture.hand != Hand::Off
            || self.state.pause > 0.0
            || !self.state.ride.picture.fades.is_empty()
    }

    // 2. Legs: time is divided only here.

    /// Runs the step, divided at every moment at which something changes.
    fn run_legs(&mut self, arrival: &Arrival<'_>) {
        let mut done = 0.0;
        self.begin_legs(arrival);
        if arrival.seconds > 0.0 {
            self.state.goal.party.begin_step();
        }
        self.pass_lines(arrival, 0.0);
        for _leg in 0..MOST_LEGS {
            let mut end = self.next_change(arrival, done);
            if self.rules.has_places()
                && let Some(line) = self.next_line(arrival, done, end)
            {
                end = line;
            }
            end = self.run_leg_in_hand(arrival, done, end);
            self.pass_lines(arrival, end);
            if self.rules.has_places() && self.frames_several(arrival) {
                // Another zone may have room for other members.
                self.reconsider_party();
                self.pass_lines(arrival, end);
            }
            done = end;
            if done >= 1.0 {
                break;
            }
        }
        if done < 1.0 {
            self.run_leg_in_hand(arrival, done, 1.0);
        }
        self.moment = None;
    }

    /// Starts a step: the subject is at its old position, with a velocity that may only now be known.
    fn begin_legs(&mut self, arrival: &Arrival<'_>) {
        self.meet_subject(arrival);
        // A pan ends at the start of the first frame without one.
        if self.state.ride.picture.hand == Hand::Pan && self.state.pending.pan == DVec2::ZERO {
            self.let_go();
        }
    }

    fn meet_subject(&mut self, arrival: &Arrival<'_>) {
        let Some(stride) = arrival.stride() else {
            self.moment = if arrival.together { None } else { Some(None) };
            if let Some(subjects) = arrival.party.filter(|_| arrival.together) {
                self.learn_velocities(subjects, arrival.seconds);
            }
            return;
        };
        if arrival.is_new {
            self.learn_velocity(&stride);
        }
        self.moment = Some(Some((stride.from, stride.velocity[0])));
        if self.state.ride.picture.hand == Hand::Stay && stride.from != stride.to {
            self.let_go();
        }
    }

    /// The next moment at which the step is divided for any subject, as a fraction of it: the end of a pause, or of a
    /// small step while the lens moves.
    fn next_change(&self, arrival: &Arrival<'_>, done: f64) -> f64 {
        let (seconds, pause) = (arrival.seconds, self.state.pause);
        if seconds <= 0.0 {
            return 1.0;
        }
        let mut end = 1.0;
        if pause > 0.0 {
            end = (done + pause / seconds).min(end);
        }
        if self.lens_moves() {
            // A very long step has a limited number of small steps.
            let step = (1.0 / SMALL_STEPS).max(seconds / MOST_STEPS) / seconds;
            end = done + (end - done) / libm::ceil((end - done) / step - 1e-6).max(1.0);
        }
        // A remainder from the rounding of a sum is not a leg.
        if end > 1.0 - 1e-9 { 1.0 } else { end }
    }

    /// Runs one leg, from one fraction of the step to another. Returns where it ended, which is earlier if a party
    /// crossed a line.
    fn run_leg(&mut self, arrival: &Arrival<'_>, done: f64, end: f64) -> f64 {
        let (stride, end) = self.stride_of_leg(arrival, done, end);
        let seconds = arrival.seconds * (end - done);
        if self.lens_moves() {
            self.move_lens(seconds);
        }
        self.follow_leg(stride, seconds);
        if self.frames_several(arrival) {
            self.reconsider_party();
        }
        self.pass_pause(seconds);
        end
    }

    /// Runs one leg, at most until a pinned point is released. Returns where it ended.
    fn run_leg_in_hand(&mut self, arrival: &Arrival<'_>, done: f64, end: f64) -> f64 {
        if self.pin_is_over() {
            self.let_go();
        }
        if !matches!(self.state.ride.picture.hand, Hand::Pin(..)) {
            return self.run_leg(arrival, done, end);
        }
        let before = (self.state, self.framing, self.moment);
        let again = |camera: &mut Self, end: f64| {
            (camera.state, camera.framing, camera.moment) = before;
            camera.run_leg(arrival, done, end)
        };
        let end = again(self, end);
        if !self.pin_is_over() {
            return end;
        }
        let (mut low, mut high) = (done, end);
        for _halving in 0..24 {
            let middle = f64::midpoint(low, high);
            again(self, middle);
            if self.pin_is_over() { high = middle } else { low = middle }
        }
        let end = again(self, high);
        self.let_go();
        end
    }

    /// Ends a pause at its time.
    fn pass_pause(&mut self, seconds: f64) {
        let pause = &mut self.state.pause;
        if *pause <= 0.0 {
            return;
        }
        *pause -= seconds;
        if *pause <= 1e-12 {
            *pause = 0.0;
            if self.state.ride.picture.hand == Hand::Pause {
                self.let_go();
            }
        }
    }

    // 3. Following through a leg.

    /// Runs goal, motion and limits of a leg. If a limit acts or the height is released within the leg, the leg is run
    /// again in smaller ones.
    #[inline]
    pub(super) fn follow_leg(&mut self, stride: Option<Stride>, seconds: f64) {
        let parting = stride.and_then(|stride| Some((stride, self.parting(&stride)?)));
        if let Some((stride, part)) = parting {
            self.follow_leg(Some(stride.between(0.0, part)), seconds * part);
            let rest = stride.between(part, 1.0);
            return self.follow_leg(Some(rest), seconds * (1.0 - part));
        }
        let before = (self.state.ride.goal, self.state.ride.focus);
        if seconds > 0.0 {
            self.state.ride.picture.before = (self.focus(), seconds);
        }
        self.move_focus_along(stride.as_ref(), seconds);
        if let Some(stride) = stride.filter(|stride| self.leaves_leash_in_air(stride.to)) {
            return self.leave_leash_in_air(stride, seconds, before);
        }
        if self.is_limited(stride.as_ref(), &before.1) {
            let steps = small_steps(seconds);
            if steps > 1.0 {
                self.put_back(before);
                return self.follow_in_small_steps(stride, seconds, steps);
            }
        }
        self.end_leg(stride.as_ref(), seconds);
    }

    /// The fraction at which a leg should be divided: where a held height turns, or halfway if the path is curved.
    #[inline]
    fn parting(&self, stride: &Stride) -> Option<f64> {
        if stride.bowed_by() * self.framing.lens.scale() > STRAIGHT {
            return Some(0.5);
        }
        self.apex(stride)
    }

    fn put_back(&mut self, (memory, focus): (GoalMemory, Moving)) {
        (self.state.ride.goal, self.state.ride.focus) = (memory, focus);
    }

    fn follow_in_small_steps(&mut self, stride: Option<Stride>, seconds: f64, steps: f64) {
        for step in 0..steps as u32 {
            let part = |step: u32| f64::from(step) / steps;
            let stride = stride.map(|stride| stride.between(part(step), part(step + 1)));
            self.state.ride.picture.before = (self.focus(), seconds / steps);
            self.move_focus_along(stride.as_ref(), seconds / steps);
            self.end_leg(stride.as_ref(), seconds / steps);
        }
    }

    #[inline]
    fn end_leg(&mut self, stride: Option<&Stride>, seconds: f64) {
        let subject = stride.map(|stride| (stride.to, stride.velocity[1]));
        if self.moment.is_some() {
            self.moment = Some(subject);
        }
        self.state.ride.picture.fades.advance(seconds);
        self.limit(subject);
    }

    /// Moves the focus along the goal's course through a leg.
    #[inline]
    fn move_focus_along(&mut self, stride: Option<&Stride>, seconds: f64) {
        self.move_focus_in_parts(stride, seconds, MOST_HALVINGS);
    }

    /// Does the same, in two halves if the course has too many bends for one.
    fn move_focus_in_parts(&mut self, stride: Option<&Stride>, seconds: f64, halvings: u32) {
        let memory = self.state.ride.goal;
        let course = self.goal_course(stride, seconds);
        if course.is_full() && halvings > 0 {
            self.state.ride.goal = memory;
            for (first, last) in [(0.0, 0.5), (0.5, 1.0)] {
                let half = stride.map(|stride| stride.between(first, last));
                self.move_focus_in_parts(half.as_ref(), seconds / 2.0, halvings - 1);
            }
            return;
        }
        let (smoothing, scale) = (&self.rules.settings.follow.smoothing, self.framing.lens.scale());
        let before = self.state.ride.focus;
        let focus = self.scratch.motion.advance(smoothing, before, &course, seconds, scale);
        if focus.is_finite() {
            self.state.ride.focus = focus;
        }
    }

    /// Finds the moment at which the subject leaves its leash in the air, runs up to it and releases the height. The
    /// goal jumps, and the rest of the leg begins from there.
    fn leave_leash_in_air(&mut self, stride: Stride, seconds: f64, before: (GoalMemory, Moving)) {
        let (mut low, mut high) = (0.0, 1.0);
        for _halving in 0..24 {
            let middle = f64::midpoint(low, high);
            self.put_back(before);
            let part = stride.between(0.0, middle);
            self.move_focus_along(Some(&part), seconds * middle);
            if self.leaves_leash_in_air(part.to) { high = middle } else { low = middle }
        }
        self.put_back(before);
        let part = stride.between(0.0, high);
        self.move_focus_along(Some(&part), seconds * high);
        self.end_leg(Some(&part), seconds * high);
        self.state.ride.goal.air = Air::Loose;
        self.follow_leg(Some(stride.between(high, 1.0)), seconds * (1.0 - high));
    }

    // 4. The end of the step: commands take effect.

    #[inline]
    fn settle(&mut self, arrival: &Arrival<'_>) {
        let quiet = matches!(arrival.kind, Kind::Moved(_)) && arrival.party.is_none();
        let landed = self.state.ride.goal.air != Air::Grounded && !arrival.in_air;
        let told = !self.state.pending.is_empty();
        if !quiet || landed || told || !self.state.goal.party.is_idle() {
            self.settle_arrival(arrival);
        }
        if told || self.state.ride.picture.hand != Hand::Off {
            self.obey_commands();
        }
    }

    fn settle_arrival(&mut self, arrival: &Arrival<'_>) {
        let cut = matches!(arrival.kind, Kind::Cut);
        let glide = self.state.pending.glide.take();
        if let Some(timing) = glide.filter(|_| !cut) {
            return self.glide_to_subject(arrival, timing);
        }
        let party = self.settle_party(arrival);
        match (arrival.kind, arrival.one_of(party)) {
            (Kind::Cut, Some(subject)) => self.cut_to(&subject),
            (Kind::Jumped, Some(subject)) => {
                self.meet(&subject, arrival);
                self.land(arrival.in_air);
                self.jump_to(subject.position);
                self.pass_lines_at(subject.position);
            }
            (Kind::Moved(_), Some(subject)) if self.land(arrival.in_air) => {
                self.jump_to(subject.position);
            }
            (_, Some(point)) if arrival.together => self.follow_party(point.position),
            (_, Some(_)) => {}
            (_, None) => {
                self.state.goal.track.forget();
                self.aim();
            }
        }
    }

    /// Moves following to its goal at once, and lets the picture reach it in the given time. Ends a hand's control.
    fn glide_to_subject(&mut self, arrival: &Arrival<'_>, timing: Timing) {
        let hand_off = |camera: &mut Self| {
            camera.state.ride.picture.hand = Hand::Off;
            let next = camera.next_party(arrival);
            camera.state.goal.party = next;
            let subject = arrival.one_of(camera.point_of_party(arrival));
            if let Some(subject) = &subject {
                if !matches!(arrival.kind, Kind::Moved(_)) {
                    camera.meet(subject, arrival);
                }
                camera.enter_places(subject.position);
            }
            camera.refresh_framing();
            camera.go_to_subject(subject.as_ref());
        };
        self.change(timing, hand_off, Self::go_to_goal);
    }

    /// Handles a subject that arrived without moving. Nothing more is known about a point that represents a party.
    fn meet(&mut self, subject: &Subject, arrival: &Arrival<'_>) {
        let track = &mut self.state.goal.track;
        if arrival.party.is_some_and(|subjects| subjects.len() > 1) {
            track.jump(subject.position);
        } else {
            track.meet(subject);
        }
    }

    /// Moves the goal to a subject that arrived without moving. Smoothing handles the jump.
    pub(super) fn jump_to(&mut self, position: DVec2) {
        let velocity = self.state.goal.track.velocity();
        let stride = Stride::straight(position, position, [velocity; 2]);
        self.move_focus_along(Some(&stride), 0.0);
        self.limit(Some((position, velocity)));
    }

    /// Without a subject, makes a named point the goal.
    fn aim(&mut self) {
        let Some(aim) = self.state.pending.aim else { return };
        self.state.ride.goal.goal = aim;
        // A point that is aimed at is in no room.
        self.state.ride.room = None;
        self.move_focus_along(None, 0.0);
        self.limit(None);
    }

    /// Cuts: memories, transitions, hand and pause end, and the view is at its goal.
    fn cut_to(&mut self, subject: &Subject) {
        let CameraState { lens, goal, ride, pause, limits, cuts, .. } = &mut self.state;
        *cuts = cuts.wrapping_add(1);
        (ride.picture.hand, *pause) = (Hand::Off, 0.0);
        ride.picture.fades.clear();
        lens.transitions.clear();
        limits.edges.clear();
        ride.picture.barrier = None;
        goal.track.meet(subject);
        self.enter_places(subject.position);
        self.refresh_framing();
        self.go_to_subject(Some(subject));
        self.go_to_goal();
        self.limit(Some((subject.position, DVec2::ZERO)));
    }

    /// Moves the goal to the subject, or to the named point.
    fn go_to_subject(&mut self, subject: Option<&Subject>) {
        self.state.goal.cut = false;
        if let Some(subject) = subject {
            self.cut_goal(subject);
        } else if let Some(aim) = self.state.pending.aim {
            self.state.ride.goal = GoalMemory { goal: aim, ..GoalMemory::default() };
            self.state.goal.track.forget();
            self.state.ride.room = None;
        }
        self.begin_shapes();
    }

    /// Moves following to its goal, at rest.
    pub(super) fn go_to_goal(&mut self) {
        let position = self.shaped_goal();
        self.state.ride.focus = Moving { position, velocity: DVec2::ZERO };
    }
}

/// The number of small steps in a period of time, at least 1.
#[inline]
fn small_steps(seconds: f64) -> f64 {
    libm::ceil(seconds * SMALL_STEPS - 1e-6).clamp(1.0, MOST_STEPS)
}
