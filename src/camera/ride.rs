//! Following, and the picture of it: what a step moves besides the lens.

use glam::DVec2;

use crate::base::sound::sound;
use crate::curves::half_life::HalfLifeStep;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::SubjectNow;
use crate::motion::motion::Moving;

use super::framing::Framing;
use super::goal::{self, GoalMemory, Shapes};
use super::picture::Picture;
use super::rules::Rules;

/// What follows the subject, and what is shown of it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Ride {
    pub goal: GoalMemory,
    /// The world point that following puts at the anchor. It keeps moving while a hand controls the view.
    pub focus: Moving,
    /// Where the goal wanted the focus at the end of the last step: shaped and bounded.
    pub aim: DVec2,
    pub room: Option<RoomMemory>,
    /// Whether the leash pulled the view in the last step, per axis of the screen.
    pub on_leash: [bool; 2],
    pub picture: Picture,
}

sound!(Ride { goal, focus, aim, room, on_leash, picture });

impl Ride {
    /// Creates a goal at rest at a position.
    pub fn at(position: DVec2) -> Self {
        Self {
            goal: GoalMemory { point: position, scroll: position, ..GoalMemory::default() },
            focus: Moving { position, velocity: DVec2::ZERO },
            aim: position,
            room: None,
            on_leash: [false; 2],
            picture: Picture::at(position),
        }
    }

    /// Returns what shapes the goal at a moment.
    pub fn shapes<'a>(&'a self, rules: &'a Rules, framing: &'a Framing) -> Shapes<'a> {
        let barrier = self.picture.barrier_for(framing, self.focus.position);
        Shapes { rules, framing, room: self.room.as_ref(), barrier, scrolls: 1.0 }
    }

    /// Returns the goal, shaped and bounded.
    pub fn goal_at_rest(&self, rules: &Rules, framing: &Framing) -> DVec2 {
        let mut goal = self.goal;
        self.shapes(rules, framing).aim(0.0, &mut goal)
    }

    /// Returns the goal for a subject that is here: shaped and bounded, and what its stages then remember.
    pub fn goal_now(
        &self,
        rules: &Rules,
        framing: &Framing,
        subject: Option<SubjectNow>,
    ) -> (DVec2, GoalMemory) {
        let mut goal = self.goal;
        if let Some(subject) = subject {
            let ahead = &mut HalfLifeStep::default();
            goal::follow(framing, &subject.stays(), 0.0, &mut goal, ahead);
        }
        (self.shapes(rules, framing).aim(0.0, &mut goal), goal)
    }

    pub fn translate(&mut self, delta: DVec2) {
        self.goal.translate(delta);
        self.focus.position += delta;
        self.aim += delta;
        if let Some(room) = &mut self.room {
            room.translate(delta);
        }
        self.picture.translate(delta);
    }
}
