//! The goal of a step: from the way of the subject to where the focus should be, before motion.

use glam::DVec2;

use crate::base::maths::clamp_point;
use crate::base::sound::sound;
use crate::curves::half_life::HalfLifeStep;
use crate::goal::air::Air;
use crate::goal::look_ahead::{LookContext, LookMemory};
use crate::goal::lure::Lure;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::Stride;
use crate::limits::ratchet::Barrier;
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
    /// The fraction of a step in which a steady scroll moves.
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

/// Moves the goal of following through one short step: look-ahead, deadzone, the axes that are followed.
#[inline]
pub(super) fn follow(
    framing: &Framing,
    stride: &Stride,
    seconds: f64,
    memory: &mut GoalMemory,
    ahead: &mut HalfLifeStep,
) {
    let Framing { follow, lens, view, design, .. } = framing;
    let turned = (!lens.is_plain()).then(|| stride.map(|world| lens.to_screen_orientation(world)));
    let level = level(&mut memory.air, turned.as_ref().unwrap_or(stride), seconds);
    let stride = level.as_ref().or(turned.as_ref()).unwrap_or(stride);
    let before = lens.to_screen_orientation(memory.point);
    let mut want = stride.to + lens.to_screen_orientation(follow.offset);
    if let Some(look_ahead) = &follow.look_ahead {
        let context = LookContext { seconds, view: *view, design: *design, scale: lens.scale() };
        want += look_ahead.step(&mut memory.look, ahead, stride, &context);
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

/// Returns the movement whose height the goal follows, if it is another: not that of a jump, and not what may become one.
#[inline]
fn level(air: &mut Air, stride: &Stride, seconds: f64) -> Option<Stride> {
    match air {
        Air::Grounded | Air::Loose => None,
        Air::Held => Some(stride.with_axis(1, [stride.from.y; 2], [0.0; 2])),
        Air::Doubt { speed, lift } => {
            let moved = stride.against_carrier(seconds);
            let before = *lift;
            let risen = (before + (moved.from.y - moved.to.y) - *speed * seconds).max(0.0);
            *lift = if risen.is_finite() { risen } else { before };
            let heights = [stride.from.y + before, stride.to.y + *lift];
            let speeds = stride.carrier().map(|carrier| carrier.y - *speed);
            Some(stride.with_axis(1, heights, speeds))
        }
    }
}

impl Shapes<'_> {
    /// Returns where the goal wants the focus after one short step: shaped, and bounded.
    pub fn aim(&self, seconds: f64, memory: &mut GoalMemory) -> DVec2 {
        let shaped = self.shape(seconds, memory);
        self.bound(shaped)
    }

    /// The stages in their order. A further one is called here, and named in [`shapes_goal`].
    pub fn shape(&self, seconds: f64, memory: &mut GoalMemory) -> DVec2 {
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

    fn bound(&self, focus: DVec2) -> DVec2 {
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
