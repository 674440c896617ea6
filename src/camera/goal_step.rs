//! The goal of a leg: from the subject's path to the course of the focus, before motion.

use glam::DVec2;

use crate::goal::air::Air;
use crate::goal::look_ahead::LookFrame;
use crate::goal::lure::Lure;
use crate::goal::subject::{Stride, Subject};
use crate::lens::lens::Lens;
use crate::settings::follow::Follow;
use crate::units::course::Course;
use crate::units::half_life::HalfLifeStep;
use crate::units::maths::clamp_point;

use super::Camera;
use super::state::GoalMemory;

/// The parts of a leg that the goal's path needs.
#[derive(Clone, Copy, Debug)]
struct LegFrame<'a> {
    lens: &'a Lens,
    view: DVec2,
    design: DVec2,
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
    let stride = level(&mut memory.air, &stride, frame.seconds);
    let offset = lens.screen_aligned(follow.offset);
    let goal = lens.screen_aligned(memory.goal);
    let mut course = Course::straight(stride.from + offset, stride.to + offset);
    if let Some(look_ahead) = &follow.look_ahead {
        let frame = LookFrame {
            seconds: frame.seconds,
            view: frame.view,
            design: frame.design,
            scale: lens.scale(),
        };
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

/// The movement whose height the goal follows: not that of a jump, and not what may become one.
#[inline]
fn level(air: &mut Air, stride: &Stride, seconds: f64) -> Stride {
    match air {
        Air::Grounded | Air::Loose => *stride,
        Air::Held => stride.with_axis(1, [stride.from.y; 2], [0.0; 2]),
        Air::Doubt { speed, lift } => {
            let moved = stride.against_carrier(seconds);
            let before = *lift;
            *lift = (before + (moved.from.y - moved.to.y) - *speed * seconds).max(0.0);
            let heights = [stride.from.y + before, stride.to.y + *lift];
            stride.with_axis(1, heights, stride.carrier().map(|carrier| carrier.y - *speed))
        }
    }
}

impl Camera {
    /// Returns the course of the focus through a leg, shaped and bounded. It may be full.
    #[inline]
    pub(super) fn goal_course(&mut self, stride: Option<&Stride>, seconds: f64) -> Course {
        let Self { framing, scratch, state, .. } = self;
        let frame =
            LegFrame { lens: &framing.lens, view: framing.view, design: framing.design, seconds };
        let memory = &mut state.ride.goal;
        let mut course = lay_course(&framing.follow, memory, &mut scratch.ahead, stride, &frame);
        if self.rules.shapes {
            let mut memory = self.state.ride.goal;
            self.shape(&mut course, &mut memory, seconds);
            self.state.ride.goal = memory;
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
        self.framing.bound(self.bounds().as_ref(), barrier.as_ref(), course);
        course.map(|centre| centre + offset);
    }

    /// Shapes the goal's path through a leg. The remembered goal stays as following alone gave it.
    fn shape(&self, course: &mut Course, memory: &mut GoalMemory, seconds: f64) {
        if self.rules.settings.rail.is_some() {
            self.rules.rail.hold(course, &mut memory.rail, seconds);
        }
        self.scroll(course, &mut memory.scroll, seconds);
        self.pull_to_lures(course);
        if let Some(room) = self.state.ride.room {
            let (range, offset) = (self.room_range(&room), self.framing.offset);
            course.clamp(range.min + offset, range.max + offset);
        }
    }

    fn pull_to_lures(&self, course: &mut Course) {
        let lures = &self.rules.settings.lures;
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
        let near = self.rules.lures.about(lures, low, high);
        course.map(|goal| Lure::pull_of(near.clone(), goal));
    }

    fn scroll(&self, course: &mut Course, position: &mut DVec2, seconds: f64) {
        let Some(scroll) = self.rules.settings.scroll else { return };
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
        let mut memory = self.state.ride.goal;
        let mut course = Course::straight(memory.goal, memory.goal);
        self.shape(&mut course, &mut memory, 0.0);
        self.bound(&mut course);
        course.end()
    }

    /// Restarts the shapes at the current goal. A cut also returns a moving rail to its start.
    pub(super) fn begin_shapes(&mut self) {
        let (range, offset) = (self.framing.range, self.framing.offset);
        let memory = &mut self.state.ride.goal;
        // Scrolling begins within the range of the view.
        memory.scroll = range.nearest(memory.goal - offset) + offset;
        memory.rail = match &self.rules.settings.rail {
            Some(rail) if rail.speed.is_none() => self.rules.rail.nearest(memory.goal),
            _ => 0.0,
        };
    }

    /// Looks at the subject at once: the goal is at the wanted position, and all memories are cleared.
    pub(super) fn cut_goal(&mut self, subject: &Subject) {
        let (follow, lens) = (&self.framing.follow, &self.framing.lens);
        let want = lens.screen_aligned(subject.position + follow.offset);
        let last = lens.screen_aligned(self.state.ride.goal.goal);
        let pick = |axis: usize| if follow.axes.has(axis) { want[axis] } else { last[axis] };
        let goal = lens.world_aligned(DVec2::new(pick(0), pick(1)));
        self.state.ride.goal = GoalMemory { goal, ..GoalMemory::default() };
    }
}
