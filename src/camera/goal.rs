//! The goal of a leg: from the subject's path to the course of the focus, before motion.

use glam::DVec2;

use crate::base::maths::clamp_point;
use crate::base::sound::sound;
use crate::curves::course::Course;
use crate::curves::half_life::HalfLifeStep;
use crate::goal::air::Air;
use crate::goal::look_ahead::{LookContext, LookMemory};
use crate::goal::lure::Lure;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::Stride;
use crate::limits::ratchet::Barrier;
use crate::limits::walls::clamp_course;
#[cfg(new_frame)]
use crate::limits::walls::clamp_with_cushion;
use crate::settings::follow::Axes;
use crate::settings::settings::Settings;

use super::framing::Framing;
use super::limits::room_range;
use super::rules::Rules;

/// Where the goal wants the focus to be, and what its stages remember.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct GoalMemory {
    /// Where the focus wants to be, before the bounds, in world units.
    pub point: DVec2,
    pub look: LookMemory,
    pub air: Air,
    /// How far along the rail the goal is, in world units from its start.
    pub rail: f64,
    /// Where the steadily scrolling goal is.
    pub scroll: DVec2,
}

sound!(GoalMemory { point, look, air, rail, scroll });

/// What holds the goal besides following: rail, scroll, lures, the room and the bounds.
#[derive(Clone, Copy, Debug)]
pub(super) struct Shapes<'a> {
    pub rules: &'a Rules,
    pub framing: &'a Framing,
    pub room: Option<&'a RoomMemory>,
    pub barrier: Option<Barrier>,
    /// The fraction of a leg in which a steady scroll moves.
    pub scrolls: f64,
}

/// Returns whether any stage of [`Shapes::shape_in_order`] is there.
pub(super) fn shapes_goal(settings: &Settings) -> bool {
    leads_goal(settings) || settings.rooms.is_some() || !settings.lures.is_empty()
}

/// Returns whether one of them moves the goal by itself, wherever the subject is.
pub(super) fn leads_goal(settings: &Settings) -> bool {
    settings.rail.is_some() || settings.scroll.is_some()
}

/// Lays the course of the focus through a leg: following, its shapes, the bounds. The course may be full.
#[inline]
pub(super) fn lay(
    course: &mut Course,
    shapes: &Shapes<'_>,
    stride: Option<&Stride>,
    seconds: f64,
    memory: &mut GoalMemory,
    ahead: &mut HalfLifeStep,
) {
    let Shapes { framing, barrier, .. } = shapes;
    match stride {
        Some(stride) => follow(course, framing, stride, seconds, memory, ahead),
        None => course.restart(memory.point, memory.point),
    }
    shapes.shape(course, seconds, memory);
    if framing.walls.is_some() || barrier.is_some() {
        shapes.bound(course);
    }
}

/// Lays the course of the goal in following: look-ahead, deadzone, the axes that are followed.
fn follow(
    course: &mut Course,
    framing: &Framing,
    stride: &Stride,
    seconds: f64,
    memory: &mut GoalMemory,
    ahead: &mut HalfLifeStep,
) {
    let Framing { follow, lens, view, design, .. } = framing;
    let plain = lens.is_plain();
    let stride =
        if plain { *stride } else { stride.map(|world| lens.to_screen_orientation(world)) };
    let stride = level(&mut memory.air, &stride, seconds);
    let offset = lens.to_screen_orientation(follow.offset);
    let goal = lens.to_screen_orientation(memory.point);
    course.restart(stride.from + offset, stride.to + offset);
    if let Some(look_ahead) = &follow.look_ahead {
        let context = LookContext { seconds, view: *view, design: *design, scale: lens.scale() };
        look_ahead.add(&mut memory.look, ahead, course, &stride, &context);
    }
    for axis in 0..2 {
        if !follow.axes.has(axis) || (axis == 1 && memory.air == Air::Held) {
            course.still(axis, goal[axis]);
        } else {
            follow.deadzone.drag(course, axis, goal[axis], *view);
        }
    }
    if !plain {
        course.map(|aligned| lens.to_world_orientation(aligned));
    }
    let end = course.end();
    memory.point = if end.is_finite() { end } else { memory.point };
}

/// Moves the goal of following through one short step: look-ahead, deadzone, the axes that are followed.
#[cfg(new_frame)]
#[inline]
pub(super) fn follow_step(
    framing: &Framing,
    stride: &Stride,
    seconds: f64,
    memory: &mut GoalMemory,
    ahead: &mut HalfLifeStep,
) {
    let Framing { follow, lens, view, design, .. } = framing;
    let stride = if lens.is_plain() {
        *stride
    } else {
        stride.map(|world| lens.to_screen_orientation(world))
    };
    let stride = level(&mut memory.air, &stride, seconds);
    let before = lens.to_screen_orientation(memory.point);
    let mut want = stride.to + lens.to_screen_orientation(follow.offset);
    if let Some(look_ahead) = &follow.look_ahead {
        let context = LookContext { seconds, view: *view, design: *design, scale: lens.scale() };
        want += look_ahead.step(&mut memory.look, ahead, &stride, &context);
    }
    let mut goal = follow.deadzone.goal(before, want, *view);
    for axis in 0..2 {
        if !follow.axes.has(axis) || (axis == 1 && memory.air == Air::Held) {
            goal[axis] = before[axis];
        }
    }
    let goal = lens.to_world_orientation(goal);
    memory.point = if goal.is_finite() { goal } else { memory.point };
}

/// Returns the movement whose height the goal follows: not that of a jump, and not what may become one.
#[inline]
fn level(air: &mut Air, stride: &Stride, seconds: f64) -> Stride {
    match air {
        Air::Grounded | Air::Loose => *stride,
        Air::Held => stride.with_axis(1, [stride.from.y; 2], [0.0; 2]),
        Air::Doubt { speed, lift } => {
            let moved = stride.against_carrier(seconds);
            let before = *lift;
            let risen = (before + (moved.from.y - moved.to.y) - *speed * seconds).max(0.0);
            *lift = if risen.is_finite() { risen } else { before };
            let heights = [stride.from.y + before, stride.to.y + *lift];
            stride.with_axis(1, heights, stride.carrier().map(|carrier| carrier.y - *speed))
        }
    }
}

impl Shapes<'_> {
    /// Returns where the goal wants the focus after one short step: shaped, and bounded.
    #[cfg(new_frame)]
    pub fn aim(&self, seconds: f64, memory: &mut GoalMemory) -> DVec2 {
        let shaped = self.shape_point(seconds, memory);
        self.bound_point(shaped)
    }

    /// The stages in their order.
    #[cfg(new_frame)]
    fn shape_point(&self, seconds: f64, memory: &mut GoalMemory) -> DVec2 {
        let mut goal = memory.point;
        if !self.rules.shapes {
            return goal;
        }
        let Settings { rail, scroll, lures, .. } = &self.rules.settings;
        if rail.is_some() {
            goal = self.rules.rail.step(goal, &mut memory.rail, seconds);
        }
        if let Some(scroll) = scroll {
            let (low, high) = self.scroll_range(scroll.speed);
            let way = scroll.speed * (seconds * self.scrolls);
            let to = clamp_point(memory.scroll + way, low, high);
            memory.scroll = if to.is_finite() { to } else { memory.scroll };
            for axis in (0..2).filter(|axis| scroll.has(*axis)) {
                goal[axis] = memory.scroll[axis];
            }
            goal = clamp_point(goal, low, high);
        }
        if !lures.is_empty() {
            goal = Lure::pull_of(self.rules.lures.about(lures, goal, goal), goal);
        }
        if let Some(room) = self.room {
            let (range, offset) = (room_range(room, &self.framing.lens), self.framing.offset);
            goal = clamp_point(goal, range.min + offset, range.max + offset);
        }
        goal
    }

    #[cfg(new_frame)]
    fn bound_point(&self, focus: DVec2) -> DVec2 {
        let Framing { walls, range, design, cushion, offset, lens, .. } = self.framing;
        if walls.is_none() && self.barrier.is_none() {
            return focus;
        }
        let mut centre = clamp_with_cushion(range, *design * *cushion, focus - *offset);
        if self.barrier.is_some() {
            centre = self.framing.range_before(self.barrier.as_ref()).nearest(centre);
        }
        if let Some(room) = self.room.filter(|_| *cushion > 0.0) {
            // The cushion must not push the goal out of its room.
            let own = room_range(room, lens);
            centre = clamp_point(centre, range.nearest(own.min), range.nearest(own.max));
        }
        centre + *offset
    }

    /// Returns the focus for a goal at rest, shaped and bounded.
    pub fn at_rest(&self, memory: GoalMemory) -> DVec2 {
        let mut course = Course::straight(DVec2::ZERO, DVec2::ZERO);
        self.lay_at_rest(&mut course, memory);
        self.bound(&mut course);
        course.end()
    }

    /// Returns the focus for a goal at rest, shaped and without bounds.
    pub fn unbounded(&self, memory: GoalMemory) -> DVec2 {
        let mut course = Course::straight(DVec2::ZERO, DVec2::ZERO);
        self.lay_at_rest(&mut course, memory);
        course.end()
    }

    fn lay_at_rest(&self, course: &mut Course, mut memory: GoalMemory) {
        course.restart(memory.point, memory.point);
        self.shape(course, 0.0, &mut memory);
    }

    /// Shapes a course. The remembered goal stays as following alone gave it.
    #[inline]
    fn shape(&self, course: &mut Course, seconds: f64, memory: &mut GoalMemory) {
        if self.rules.shapes {
            self.shape_in_order(course, seconds, memory);
        }
    }

    /// The stages in their order. A further one is called here, and named in [`shapes_goal`].
    fn shape_in_order(&self, course: &mut Course, seconds: f64, memory: &mut GoalMemory) {
        if self.rules.settings.rail.is_some() {
            self.rules.rail.project_course(course, &mut memory.rail, seconds);
        }
        memory.scroll = self.scroll(course, seconds, memory.scroll);
        self.pull_to_lures(course);
        if let Some(room) = self.room {
            let (range, offset) = (room_range(room, &self.framing.lens), self.framing.offset);
            course.clamp(range.min + offset, range.max + offset);
        }
    }

    fn bound(&self, course: &mut Course) {
        let offset = self.framing.offset;
        course.map(|focus| focus - offset);
        let Framing { range, design, cushion, .. } = self.framing;
        clamp_course(course, range, *design * *cushion);
        if self.barrier.is_some() {
            let range = self.framing.range_before(self.barrier.as_ref());
            course.clamp(range.min, range.max);
        }
        if let Some(room) = self.room.filter(|_| *cushion > 0.0) {
            // The cushion must not push the goal out of its room.
            let own = room_range(room, &self.framing.lens);
            course.clamp(range.nearest(own.min), range.nearest(own.max));
        }
        course.map(|centre| centre + offset);
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

    /// Scrolls the course steadily from a position. Returns where it ends.
    fn scroll(&self, course: &mut Course, seconds: f64, from: DVec2) -> DVec2 {
        let Some(scroll) = self.rules.settings.scroll else { return from };
        let way = scroll.speed * (seconds * self.scrolls);
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
        if to.is_finite() { to } else { from }
    }

    /// Returns the range of a steady scroll: up to the edge ahead of it, on the axes on which it scrolls.
    fn scroll_range(&self, speed: DVec2) -> (DVec2, DVec2) {
        // In an outline it passes from hall to hall.
        let range = self.rules.whole_range(self.framing);
        let range = self.barrier.map_or(range, |barrier| barrier.cut(range, self.framing.half));
        let (low, high) = (range.min + self.framing.offset, range.max + self.framing.offset);
        let axis = |axis: usize| {
            let low = if speed[axis] < 0.0 { low[axis] } else { f64::NEG_INFINITY };
            let high = if speed[axis] > 0.0 { high[axis] } else { f64::INFINITY };
            (low, high)
        };
        let ((low_x, high_x), (low_y, high_y)) = (axis(0), axis(1));
        (DVec2::new(low_x, low_y), DVec2::new(high_x, high_y))
    }
}

impl GoalMemory {
    /// Moves what is a point of the world. Each field is named, so that a new one is not forgotten.
    pub fn translate(&mut self, delta: DVec2) {
        let Self { point, look: _, air: _, rail: _, scroll } = self;
        *point += delta;
        *scroll += delta;
    }

    /// Returns a memory at a new goal that has forgotten everything but rail and scroll.
    pub fn moved_to(self, point: DVec2) -> Self {
        let air = Air::unknown(self.air != Air::Grounded);
        Self { point, air, rail: self.rail, scroll: self.scroll, ..Self::default() }
    }

    /// Looks at the subject at once: the goal is at the wanted position on these axes, and all memories are cleared. A
    /// held height stays.
    pub fn cut_to(self, subject: DVec2, axes: Axes, air: Air, framing: &Framing) -> Self {
        let Framing { follow, lens, .. } = framing;
        let want = lens.to_screen_orientation(subject + follow.offset);
        let last = lens.to_screen_orientation(self.point);
        let stays = |axis: usize| !axes.has(axis) || (axis == 1 && air == Air::Held);
        let pick = |axis: usize| if stays(axis) { last[axis] } else { want[axis] };
        let goal = lens.to_world_orientation(DVec2::new(pick(0), pick(1)));
        Self { point: goal, air, ..Self::default() }
    }

    /// Restarts rail and scroll at the current goal. A moving rail begins at its start.
    pub fn restarted(self, rules: &Rules, framing: &Framing) -> Self {
        let rail = match &rules.settings.rail {
            Some(rail) if rail.speed.is_none() => rules.rail.nearest(self.point),
            _ => 0.0,
        };
        // Scrolling begins within the range of the view.
        let scroll =
            rules.whole_range(framing).nearest(self.point - framing.offset) + framing.offset;
        Self { rail, scroll, ..self }
    }
}
