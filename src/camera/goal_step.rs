//! The goal of a leg: from the subject's path to the course of the focus, before motion.

use glam::DVec2;

use crate::goal::look_ahead::LookFrame;
use crate::goal::lure::Lure;
use crate::goal::subject::{Stride, Subject};
use crate::lens::lens::Lens;
use crate::limits::leash::Leash;
use crate::settings::follow::{Airborne, Follow};
use crate::units::course::Course;
use crate::units::half_life::HalfLifeStep;
use crate::units::maths::clamp_point;

use super::Camera;
use super::limit_step::ROUNDING;
use super::state::{Air, GoalMemory};

/// The parts of a leg that the goal's path needs.
#[derive(Clone, Copy, Debug)]
struct LegFrame<'a> {
    lens: &'a Lens,
    view: DVec2,
    seconds: f64,
}

/// Computes the goal's path through a leg, in world units, before it is shaped.
fn lay_course(
    follow: &Follow,
    memory: &mut GoalMemory,
    ahead: &mut HalfLifeStep,
    stride: Option<&Stride>,
    frame: &LegFrame<'_>,
) -> Course {
    let Some(stride) = stride else {
        return Course::straight(memory.goal, memory.goal);
    };
    let lens = frame.lens;
    let plain = lens.is_plain();
    let stride = if plain { *stride } else { stride.map(|world| lens.screen_aligned(world)) };
    let offset = lens.screen_aligned(follow.offset);
    let goal = lens.screen_aligned(memory.goal);
    let mut course = Course::straight(stride.from + offset, stride.to + offset);
    if let Some(look_ahead) = &follow.look_ahead {
        let frame = LookFrame { seconds: frame.seconds, view: frame.view, scale: lens.scale() };
        look_ahead.add(&mut memory.look, ahead, &mut course, &stride, &frame);
    }
    for axis in 0..2 {
        if !follow.axes.has(axis) || (axis == 1 && memory.air == Air::Held) {
            course.still(axis, goal[axis]);
        } else {
            follow.deadzone.drag(&mut course, axis, goal[axis], frame.view);
        }
    }
    if !plain {
        course.map(|aligned| lens.world_aligned(aligned));
    }
    let end = course.end();
    memory.goal = if end.is_finite() { end } else { memory.goal };
    course
}

impl Camera {
    /// Returns the course of the focus through a leg, shaped and bounded. It may be full.
    #[inline]
    pub(super) fn goal_course(&mut self, stride: Option<&Stride>, seconds: f64) -> Course {
        let Self { framing, ahead, state, .. } = self;
        let frame = LegFrame { lens: &framing.lens, view: framing.view, seconds };
        let memory = &mut state.goal.memory;
        let mut course = lay_course(&framing.follow, memory, ahead, stride, &frame);
        if self.shaped {
            let mut memory = self.state.goal.memory;
            self.shape(&mut course, &mut memory, seconds);
            self.state.goal.memory = memory;
        }
        if self.is_bounded() {
            self.bound(&mut course);
        }
        course
    }

    fn bound(&self, course: &mut Course) {
        let offset = self.framing.offset;
        course.map(|focus| focus - offset);
        let barrier = self.barrier_of_following();
        self.framing.bound(self.settings.bounds.as_ref(), barrier.as_ref(), course);
        course.map(|centre| centre + offset);
    }

    /// Whether rail, scroll, lures or rooms shape the goal.
    pub(super) fn is_shaped(&self) -> bool {
        let settings = &self.settings;
        settings.rail.is_some()
            || settings.scroll.is_some()
            || settings.rooms.is_some()
            || !settings.lures.is_empty()
    }

    /// Shapes the goal's path through a leg. The remembered goal stays as following alone gave it.
    fn shape(&self, course: &mut Course, memory: &mut GoalMemory, seconds: f64) {
        if self.settings.rail.is_some() {
            self.rail.hold(course, &mut memory.rail, seconds);
        }
        self.scroll(course, &mut memory.scroll, seconds);
        self.pull_to_lures(course);
        if let Some(room) = self.state.goal.room {
            let (range, offset) = (self.room_range(&room), self.framing.offset);
            course.clamp(range.min + offset, range.max + offset);
        }
    }

    fn pull_to_lures(&self, course: &mut Course) {
        let lures = &self.settings.lures;
        if lures.is_empty() {
            return;
        }
        if course.as_straight().is_none_or(|(from, to)| from != to) {
            for fraction in [0.25, 0.5, 0.75] {
                course.bend_at(fraction);
            }
        }
        let none = (DVec2::INFINITY, DVec2::NEG_INFINITY);
        let (low, high) = course
            .knots()
            .iter()
            .fold(none, |(low, high), knot| (low.min(knot.point), high.max(knot.point)));
        let near = self.near.lures.about(lures, low, high);
        course.map(|goal| Lure::pull_of(near.clone(), goal));
    }

    fn scroll(&self, course: &mut Course, position: &mut DVec2, seconds: f64) {
        let Some(scroll) = self.settings.scroll else { return };
        let (from, way) = (*position, scroll.speed * (seconds * self.scroll_share));
        course.map_in_time(|at, mut goal| {
            for axis in (0..2).filter(|axis| scroll.has(*axis)) {
                goal[axis] = from[axis] + way[axis] * at;
            }
            goal
        });
        // Scrolling does not pass the bounds, and is not pushed by them.
        let (low, high) = self.scroll_range(scroll.speed);
        course.clamp(low, high);
        let to = clamp_point(from + way, low, high);
        *position = if to.is_finite() { to } else { from };
    }

    /// The range of a steady scroll: up to the edge ahead of it, on the axes on which it scrolls.
    fn scroll_range(&self, speed: DVec2) -> (DVec2, DVec2) {
        let range = self.framing.range_before(self.barrier_of_following().as_ref());
        let (low, high) = (range.min + self.framing.offset, range.max + self.framing.offset);
        let axis = |axis: usize| {
            let low = if speed[axis] < 0.0 { low[axis] } else { f64::NEG_INFINITY };
            let high = if speed[axis] > 0.0 { high[axis] } else { f64::INFINITY };
            (low, high)
        };
        let ((low_x, high_x), (low_y, high_y)) = (axis(0), axis(1));
        (DVec2::new(low_x, low_y), DVec2::new(high_x, high_y))
    }

    /// Returns the focus for a goal at rest, shaped and bounded.
    pub(super) fn shaped_goal(&self) -> DVec2 {
        let mut memory = self.state.goal.memory;
        let mut course = Course::straight(memory.goal, memory.goal);
        self.shape(&mut course, &mut memory, 0.0);
        self.bound(&mut course);
        course.end()
    }

    /// Restarts the shapes at the current goal. A cut also returns a moving rail to its start.
    pub(super) fn begin_shapes(&mut self) {
        let (range, offset) = (self.framing.range, self.framing.offset);
        let memory = &mut self.state.goal.memory;
        // Scrolling begins within the range of the view.
        memory.scroll = range.nearest(memory.goal - offset) + offset;
        memory.rail = match &self.settings.rail {
            Some(rail) if rail.speed.is_none() => self.rail.nearest(memory.goal),
            _ => 0.0,
        };
    }

    /// Looks at the subject at once: the goal is at the wanted position, and all memories are cleared.
    pub(super) fn cut_goal(&mut self, subject: &Subject) {
        let (follow, lens) = (&self.framing.follow, &self.framing.lens);
        let want = lens.screen_aligned(subject.position + follow.offset);
        let last = lens.screen_aligned(self.state.goal.memory.goal);
        let pick = |axis: usize| if follow.axes.has(axis) { want[axis] } else { last[axis] };
        let goal = lens.world_aligned(DVec2::new(pick(0), pick(1)));
        self.state.goal.memory = GoalMemory { goal, ..GoalMemory::default() };
    }

    // In the air.

    /// Counts a subject that is reported in the air as in the air from the start of the step.
    #[inline]
    pub(super) fn take_off(&mut self, in_air: bool, from: Option<DVec2>) {
        let holds = self.settings.follow.airborne == Airborne::Hold;
        if !in_air || !holds || self.state.goal.memory.air != Air::Grounded {
            return;
        }
        self.state.goal.memory.air = Air::Held;
        // A subject that is beyond its leash already is not held.
        if from.is_some_and(|from| self.leaves_leash_in_air(from)) {
            self.state.goal.memory.air = Air::Loose;
        }
    }

    /// The fraction of a leg at which a subject with a held height reverses its vertical movement.
    #[inline]
    pub(super) fn apex(&self, stride: &Stride) -> Option<f64> {
        if self.state.goal.memory.air != Air::Held {
            return None;
        }
        let [before, after] =
            stride.velocity.map(|speed| self.framing.lens.screen_aligned(speed).y);
        let apex = before / (before - after);
        // Within the step only if one is up and the other down.
        (apex > 1e-3 && apex < 1.0 - 1e-3).then_some(apex)
    }

    /// Counts the subject as landed at the end of the step and frames a held view again. Returns whether it was held.
    pub(super) fn land(&mut self, in_air: bool, position: DVec2) -> bool {
        let memory = &mut self.state.goal.memory;
        if in_air || memory.air == Air::Grounded {
            return false;
        }
        let held = memory.air == Air::Held;
        memory.air = Air::Grounded;
        let (follow, lens) = (&self.framing.follow, &self.framing.lens);
        if held && follow.axes.has(1) {
            let want = lens.screen_aligned(position + follow.offset).y + memory.look.ahead.y;
            let mut goal = lens.screen_aligned(memory.goal);
            goal.y = want;
            memory.goal = lens.world_aligned(goal);
        }
        held
    }

    /// Whether a subject with a held height has left its leash vertically.
    #[inline]
    pub(super) fn leaves_leash_in_air(&self, subject: DVec2) -> bool {
        if self.state.goal.memory.air != Air::Held {
            return false;
        }
        let (follow, lens) = (&self.framing.follow, &self.framing.lens);
        let leash = follow.leash.unwrap_or(Leash(DVec2::ONE));
        let focus = lens.screen_aligned(self.state.motion.focus.position);
        let subject = lens.screen_aligned(subject);
        let held = leash.clamp(focus, subject, follow.anchor, self.framing.view).y;
        // A subject exactly on the edge has not left the leash.
        (held - focus.y).abs() > ROUNDING
    }
}
