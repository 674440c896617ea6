//! One frame, one path: arrivals, legs of lens, goal, motion and limits, commands, view.

use glam::DVec2;

use crate::camera::hands::Hand;
use crate::goal::subject::{Stride, Subject};
use crate::motion::glide::Glide;
use crate::motion::motion::Moving;
use crate::units::course::ROOMY;
use crate::units::maths::usable_seconds;
use crate::view::view::View;

use super::Camera;
use super::arrivals::{Arrival, Kind};
use super::state::{Air, GoalMemory};

/// Small steps a second, where one stage depends on another all along a step.
const SMALL_STEPS: f64 = 480.0;

/// Small steps of one step, at most: a breakpoint of minutes is not gone through in hundreds of
/// thousands.
const MOST_STEPS: f64 = 128.0;

/// Screen pixels by which the subject's way may be bowed and still count as straight.
const STRAIGHT: f64 = 0.02;

/// Moments at which a step may be divided; the rest is one leg.
const MOST_LEGS: usize = 256;

impl Camera {
    /// A whole frame: with one subject alone, with several together, or with nobody.
    #[inline]
    pub(super) fn frame(
        &mut self,
        seconds: f64,
        party: Option<&[Subject]>,
        alone: Option<&Subject>,
    ) -> View {
        let seconds = usable_seconds(seconds);
        self.pass_time(seconds);
        let glide = self.take_glide();
        // 1. How the subject got here.
        let arrival = self.arrive(seconds, party, alone);
        // 2, 3. The step, leg by leg.
        self.take_off(arrival.in_air, arrival.position_at(0.0));
        if self.is_busy() {
            self.run_legs(&arrival);
        } else {
            self.follow_leg(arrival.stride(), seconds);
        }
        // 4. What the game told takes effect.
        self.settle(&arrival, glide);
        // 5. The answer.
        self.view()
    }

    fn pass_time(&mut self, seconds: f64) {
        if (self.state.time + seconds).is_finite() {
            self.state.time += seconds;
        }
        if self.state.shakes.is_alive() {
            self.state.shakes.advance(seconds);
        }
        if let Some(scroll) = &self.settings.scroll {
            self.scroll_share = scroll.share(seconds);
        }
    }

    /// A glide that begins with the end of this frame takes the hand off the view.
    fn take_glide(&mut self) -> Option<Glide> {
        let glide = self.state.pending.glide.take();
        if glide.is_some() {
            self.release();
        }
        glide
    }

    /// Whether the step has to be divided, or is not simply followed through.
    #[inline]
    fn is_busy(&self) -> bool {
        self.lens_moves()
            || self.has_places()
            || self.state.motion.pause > 0.0
            || self.state.motion.hand != Hand::Off
    }

    // 2. Legs: only here is time divided.

    /// The step, divided at every moment at which something changes.
    fn run_legs(&mut self, arrival: &Arrival<'_>) {
        let mut done = 0.0;
        self.pass_lines(arrival, 0.0);
        for _leg in 0..MOST_LEGS {
            let mut end = self.next_change(arrival, done);
            if self.has_places()
                && let Some(line) = self.next_line(arrival, done, end)
            {
                end = line;
            }
            end = self.run_leg(arrival, done, end);
            self.pass_lines(arrival, end);
            done = end;
            if done >= 1.0 {
                return;
            }
        }
        self.run_leg(arrival, done, 1.0);
    }

    /// The next moment at which the step is divided whoever is where, as a fraction of it: the end of a
    /// pause, and of a small step while the lens is moving.
    fn next_change(&self, arrival: &Arrival<'_>, done: f64) -> f64 {
        let (seconds, pause) = (arrival.seconds, self.state.motion.pause);
        if seconds <= 0.0 {
            return 1.0;
        }
        let mut end = 1.0;
        if pause > 0.0 {
            end = (done + pause / seconds).min(end);
        }
        if self.lens_moves() {
            // Of a very long step, no more than so many.
            let step = (1.0 / SMALL_STEPS).max(seconds / MOST_STEPS) / seconds;
            end = done + (end - done) / libm::ceil((end - done) / step - 1e-6).max(1.0);
        }
        // The rounding of a sum of steps is no leg.
        if end > 1.0 - 1e-9 { 1.0 } else { end }
    }

    /// One leg, from one fraction of the step to another. Returns where it ended: earlier, if a line
    /// was crossed by a party.
    fn run_leg(&mut self, arrival: &Arrival<'_>, done: f64, end: f64) -> f64 {
        let (stride, end) = self.stride_of_leg(arrival, done, end);
        let seconds = arrival.seconds * (end - done);
        if self.lens_moves() {
            self.move_lens(seconds);
        }
        if self.state.motion.pause > 0.0 {
            self.wait(arrival, seconds, end);
        } else if self.state.motion.hand != Hand::Off {
            self.obey_hand();
            self.end_leg(stride.as_ref(), seconds);
        } else {
            self.follow_leg(stride, seconds);
        }
        end
    }

    /// The way of the subject, or of the party, through a leg, and where the leg ends: earlier, where a
    /// party crosses a line.
    fn stride_of_leg(
        &mut self,
        arrival: &Arrival<'_>,
        done: f64,
        end: f64,
    ) -> (Option<Stride>, f64) {
        let share = |end: f64| (end - done) / (1.0 - done);
        if !arrival.together {
            self.move_party_alone(arrival, share(end), arrival.seconds * (end - done));
            return (arrival.stride().map(|stride| stride.between(done, end)), end);
        }
        let before = (self.state.goal.party, self.state.goal.track);
        let stride = self.move_party(arrival, share(end), arrival.seconds * (end - done));
        let line = stride.filter(|_| self.has_places());
        let line = line.and_then(|stride| self.crossing(stride.from, stride.to));
        let Some(line) = line.filter(|line| *line < 1.0 - 1e-6) else { return (stride, end) };
        (self.state.goal.party, self.state.goal.track) = before;
        let end = done + (end - done) * (line + 1e-6);
        (self.move_party(arrival, share(end), arrival.seconds * (end - done)), end)
    }

    /// Following pauses; at the pause's end the subject is where it is now, as if it had jumped.
    fn wait(&mut self, arrival: &Arrival<'_>, seconds: f64, end: f64) {
        self.state.motion.pause -= seconds;
        let subject = arrival.position_at(end);
        self.end_leg(subject.map(Stride::standing).as_ref(), seconds);
        if self.state.motion.pause <= 1e-12 {
            self.state.motion.pause = 0.0;
            if let Some(subject) = subject {
                self.jump_to(subject);
            }
        }
    }

    // 3. Following through a leg.

    /// Goal, motion and limits of a leg. Where a limit has a say, or the height is let go of, within
    /// the leg, it is tried again in smaller ones.
    #[inline]
    fn follow_leg(&mut self, stride: Option<Stride>, seconds: f64) {
        let parting = stride.and_then(|stride| Some((stride, self.parting(&stride)?)));
        if let Some((stride, part)) = parting {
            self.follow_leg(Some(stride.between(0.0, part)), seconds * part);
            let rest = stride.between(part, 1.0);
            return self.follow_leg(Some(rest), seconds * (1.0 - part));
        }
        let before = (self.state.goal.memory, self.state.motion.focus);
        if seconds > 0.0 {
            self.state.motion.before = (before.1.position, seconds);
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

    /// Where a leg is better gone in two: where a held height turns, or halfway if it is bowed.
    #[inline]
    fn parting(&self, stride: &Stride) -> Option<f64> {
        if stride.bowed_by() * self.framing.lens.scale() > STRAIGHT {
            return Some(0.5);
        }
        self.apex(stride)
    }

    fn put_back(&mut self, (memory, focus): (GoalMemory, Moving)) {
        (self.state.goal.memory, self.state.motion.focus) = (memory, focus);
    }

    fn follow_in_small_steps(&mut self, stride: Option<Stride>, seconds: f64, steps: f64) {
        for step in 0..steps as u32 {
            let part = |step: u32| f64::from(step) / steps;
            let stride = stride.map(|stride| stride.between(part(step), part(step + 1)));
            self.state.motion.before = (self.state.motion.focus.position, seconds / steps);
            self.move_focus_along(stride.as_ref(), seconds / steps);
            self.end_leg(stride.as_ref(), seconds / steps);
        }
    }

    #[inline]
    fn end_leg(&mut self, stride: Option<&Stride>, seconds: f64) {
        if self.state.motion.glide.as_mut().is_some_and(|glide| glide.advance(seconds)) {
            self.state.motion.glide = None;
        }
        self.limit(stride.map(|stride| (stride.to, stride.velocity[1])));
    }

    /// The goal's course through a leg, and the focus after it: on a straight course if that does, else
    /// on one with room for bends, else in two halves.
    #[inline]
    fn move_focus_along(&mut self, stride: Option<&Stride>, seconds: f64) {
        let memory = self.state.goal.memory;
        if !self.try_course::<2>(stride, seconds) {
            self.move_focus_along_bends(stride, seconds, &memory);
        }
    }

    /// The same where the goal's course bends, from the memory before it.
    #[cold]
    #[inline(never)]
    fn move_focus_along_bends(
        &mut self,
        stride: Option<&Stride>,
        seconds: f64,
        memory: &GoalMemory,
    ) {
        self.state.goal.memory = *memory;
        if self.try_course::<ROOMY>(stride, seconds) {
            return;
        }
        self.state.goal.memory = *memory;
        for (first, last) in [(0.0, 0.5), (0.5, 1.0)] {
            let half = stride.map(|stride| stride.between(first, last));
            // A quarter of a leg that still bends more than that is not told from a straight one.
            self.try_course_whole(half.as_ref(), seconds / 2.0);
        }
    }

    /// Moves the focus along the goal's course, unless the course is full. Returns whether it did.
    #[inline]
    fn try_course<const N: usize>(&mut self, stride: Option<&Stride>, seconds: f64) -> bool {
        let course = self.goal_course::<N>(stride, seconds);
        if course.is_full() {
            return false;
        }
        let (smoothing, scale) = (&self.settings.follow.smoothing, self.framing.lens.scale());
        let before = self.state.motion.focus;
        let focus = self.motion.advance(smoothing, before, &course, seconds, scale);
        if focus.is_finite() {
            self.state.motion.focus = focus;
        }
        true
    }

    fn try_course_whole(&mut self, stride: Option<&Stride>, seconds: f64) {
        let memory = self.state.goal.memory;
        if self.try_course::<ROOMY>(stride, seconds) {
            return;
        }
        self.state.goal.memory = memory;
        self.try_course::<{ 8 * ROOMY }>(stride, seconds);
    }

    /// Finds the moment at which the subject leaves its leash in the air, goes there, and lets go of the
    /// height: the goal jumps, and the rest of the leg begins from there.
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
        self.state.goal.memory.air = Air::Loose;
        self.follow_leg(Some(stride.between(high, 1.0)), seconds * (1.0 - high));
    }

    // 4. The end of the step: what the game told of it takes effect.

    #[inline]
    fn settle(&mut self, arrival: &Arrival<'_>, glide: Option<Glide>) {
        let quiet = matches!(arrival.kind, Kind::Moved(_)) && arrival.party.is_none();
        let landed = self.state.goal.memory.air != Air::Grounded && !arrival.in_air;
        if !quiet || landed || glide.is_some() || !self.state.goal.party.is_idle() {
            self.settle_arrival(arrival, glide);
        }
        if !self.state.pending.is_empty() {
            self.obey_commands();
        }
        if self.state.motion.hand != Hand::Off {
            self.loosen_hand();
        }
    }

    fn settle_arrival(&mut self, arrival: &Arrival<'_>, glide: Option<Glide>) {
        let party = self.settle_party(arrival);
        let subject = party.or(arrival.subject.copied().filter(|_| arrival.party.is_none()));
        if let Some(glide) = glide {
            self.state.motion.glide = Some(glide.starting_at(self.focus()));
            return self.cut_to_subject(subject.as_ref());
        }
        match (arrival.kind, subject) {
            (Kind::Cut, Some(subject)) => self.cut_to(&subject),
            (Kind::Jumped, Some(subject)) => {
                self.state.goal.track.jump(subject.position);
                self.land(arrival.in_air, subject.position);
                self.jump_to(subject.position);
                self.pass_lines_at(subject.position, false);
            }
            (Kind::Moved(_), Some(subject)) if self.land(arrival.in_air, subject.position) => {
                self.jump_to(subject.position);
            }
            (_, Some(point)) if arrival.together => self.follow_party(point.position),
            (_, Some(_)) => {}
            (_, None) => self.aim(),
        }
    }

    /// Who joins and who leaves; the subject that stands for them all.
    fn settle_party(&mut self, arrival: &Arrival<'_>) -> Option<Subject> {
        let Some(subjects) = arrival.party else {
            self.state.goal.party.disband();
            return None;
        };
        let before = self.state.goal.party.zoom();
        let alone = self.state.goal.track.last().filter(|_| self.state.goal.party.is_idle());
        let cut = matches!(arrival.kind, Kind::Cut);
        let mut party = self.state.goal.party;
        let point = party.settle(subjects, arrival.seconds, cut, alone, &self.party_frame());
        self.state.goal.party = party;
        if self.state.goal.party.zoom() != before {
            self.refresh();
        }
        match subjects {
            // What is known of one alone is known of the point.
            [only] if !self.state.goal.party.is_several() => {
                arrival.subject.or(Some(only)).copied()
            }
            _ => point.map(|point| Subject::from(point).with_velocity(DVec2::ZERO)),
        }
    }

    /// Who has joined, left or changed its weight may have moved the point at once.
    fn follow_party(&mut self, point: DVec2) {
        if self.state.goal.track.last() != Some(point) {
            self.state.goal.track.jump(point);
            self.jump_to(point);
        }
    }

    /// The party's way through a leg; nobody looks ahead for it.
    fn move_party(&mut self, arrival: &Arrival<'_>, share: f64, seconds: f64) -> Option<Stride> {
        let from = self.state.goal.track.last();
        let to = self.advance_party(arrival.party?, share, seconds)?;
        self.state.goal.track.jump(to);
        Some(Stride::straight(from.unwrap_or(to), to, [DVec2::ZERO; 2]))
    }

    fn move_party_alone(&mut self, arrival: &Arrival<'_>, share: f64, seconds: f64) {
        if self.state.goal.party.is_idle() {
            return;
        }
        if let Some(subjects) = arrival.party {
            self.advance_party(subjects, share, seconds);
            return;
        }
        let mut party = self.state.goal.party;
        party.advance_alone(seconds, &self.party_frame());
        self.state.goal.party = party;
        self.refresh_framing();
    }

    fn advance_party(&mut self, subjects: &[Subject], share: f64, seconds: f64) -> Option<DVec2> {
        let mut party = self.state.goal.party;
        let point = party.advance(subjects, share, seconds, &self.party_frame());
        self.state.goal.party = party;
        self.refresh_framing();
        point
    }

    /// The goal jumps to a subject that is here without having moved; smoothing takes it.
    /// Not while a hand or a pause has the view: what comes after them begins with the subject anyway.
    fn jump_to(&mut self, position: DVec2) {
        let velocity = self.state.goal.track.velocity();
        if self.state.motion.hand == Hand::Off && self.state.motion.pause <= 0.0 {
            let stride = Stride::straight(position, position, [velocity; 2]);
            self.move_focus_along(Some(&stride), 0.0);
        }
        self.limit(Some((position, velocity)));
    }

    /// Nobody is followed: a point that was named is a new goal.
    fn aim(&mut self) {
        let Some(aim) = self.state.pending.aim.take() else { return };
        self.state.goal.memory.goal = aim;
        // A point that is aimed at is in no room.
        self.state.goal.room = None;
        self.move_focus_along(None, 0.0);
        self.limit(None);
    }

    /// A cut: memories, transitions, hand and pause end, and the view is at its goal at once.
    fn cut_to(&mut self, subject: &Subject) {
        let motion = &mut self.state.motion;
        (motion.hand, motion.pause, motion.glide) = (Hand::Off, 0.0, None);
        self.state.limits.bounds = None;
        self.refresh_framing();
        self.pass_lines_at(subject.position, true);
        self.cut_to_subject(Some(subject));
        self.limit(Some((subject.position, DVec2::ZERO)));
    }

    /// The view at its subject, or at the point that was named.
    pub(super) fn cut_to_subject(&mut self, subject: Option<&Subject>) {
        self.state.goal.cut = false;
        if let Some(subject) = subject {
            self.cut_goal(subject);
            self.state.pending.aim = None;
        } else if let Some(aim) = self.state.pending.aim.take() {
            self.state.goal.memory = GoalMemory { goal: aim, ..GoalMemory::default() };
            self.state.goal.track.forget();
            self.state.goal.room = None;
        }
        self.begin_shapes();
        if self.state.motion.glide.is_none() {
            (self.state.limits.barrier, self.state.limits.leash_slack) = (None, DVec2::ZERO);
        }
        let position = self.shaped_goal();
        self.state.motion.focus = Moving { position, velocity: DVec2::ZERO };
    }
}

/// How many small steps a stretch of time is made of, at least 1.
#[inline]
fn small_steps(seconds: f64) -> f64 {
    libm::ceil(seconds * SMALL_STEPS - 1e-6).clamp(1.0, MOST_STEPS)
}
