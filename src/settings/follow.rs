//! Where the camera wants to look: from the subject to the goal.

use glam::DVec2;

use crate::goal::deadzone::Deadzone;
use crate::goal::look_ahead::{LookAhead, LookFrame, LookMemory};
use crate::goal::subject::{Stride, Subject, Track};
use crate::lens::lens::Lens;
use crate::limits::leash::Leash;
use crate::limits::ratchet::Ratchet;
use crate::units::course::Course;
use crate::units::error::{FINITE, Report, check};
use crate::units::half_life::HalfLifeStep;
use crate::units::per_axis::PerAxis;
use crate::units::smoothing::Smoothing;

/// How the view follows its subject: the `[follow]` table of a tuning file.
///
/// ```
/// use velvet_pan::{Follow, Smoothing, glam::DVec2};
///
/// let follow = Follow {
///     anchor: DVec2::new(0.5, 0.65), // a little below the middle: more sky than soil
///     smoothing: Smoothing::HalfLife(0.12).into(),
///     ..Follow::default()
/// };
/// assert_eq!(follow.offset, DVec2::ZERO);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Follow {
    /// The axes of the screen on which the subject is followed; on others the view stays where
    /// it is. Default both.
    pub axes: Axes,
    /// Where on the screen the subject is held, in fractions of the screen from its top left, each
    /// from 0 to 1. Default the middle.
    pub anchor: DVec2,
    /// From the subject to the point that is followed, in world units. Default none.
    pub offset: DVec2,
    /// Where around the anchor the subject moves freely. Default nowhere.
    pub deadzone: Deadzone,
    /// How the view comes to its goal, along the world's axes. Default none: at once.
    pub smoothing: PerAxis<Smoothing>,
    /// How far the view runs ahead of the subject. Default not at all.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub look_ahead: Option<LookAhead>,
    /// What the view does while the subject is in the air. Default: it follows.
    pub airborne: Airborne,
    /// How far the subject may drift from its anchor. Default as far as smoothing lets it.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub leash: Option<Leash>,
    /// The one direction in which the view scrolls. Default every one.
    pub ratchet: Ratchet,
}

impl Default for Follow {
    fn default() -> Self {
        Self {
            axes: Axes::default(),
            anchor: DVec2::splat(0.5),
            offset: DVec2::ZERO,
            deadzone: Deadzone::default(),
            smoothing: PerAxis::default(),
            look_ahead: None,
            airborne: Airborne::default(),
            leash: None,
            ratchet: Ratchet::default(),
        }
    }
}

/// What the view does while its subject is in the air.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Airborne {
    /// It follows as on the ground.
    #[default]
    Follow,
    /// It stays at its height until the subject lands, or leaves its leash upwards or downwards;
    /// on landing it is framed anew. The mistake this prevents is a picture that bobs with every
    /// jump.
    Hold,
}

/// The axes on which the subject is followed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
pub enum Axes {
    /// Along both.
    #[default]
    Both,
    /// Along the screen's `x` only.
    X,
    /// Along the screen's `y` only.
    Y,
    /// Along neither: the view stays.
    None,
}

impl Axes {
    /// Whether the axis, 0 or 1, is followed.
    #[inline]
    pub(crate) fn has(self, axis: usize) -> bool {
        match self {
            Self::Both => true,
            Self::X => axis == 0,
            Self::Y => axis == 1,
            Self::None => false,
        }
    }
}

/// What following remembers from frame to frame.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct FollowMemory {
    /// Where the focus wants to be, before the bounds, in world units.
    pub goal: DVec2,
    pub track: Track,
    pub look: LookMemory,
    air: Air,
}

/// Whether the subject's height is followed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
enum Air {
    #[default]
    Grounded,
    /// In the air, and the view holds its height.
    Held,
    /// In the air, and beyond its leash: the view follows until it lands.
    Loose,
}

impl FollowMemory {
    /// Nothing but a goal.
    pub fn at(goal: DVec2) -> Self {
        Self { goal, ..Self::default() }
    }

    /// Whether the subject was on the ground in the last frame, as far as it mattered.
    pub fn is_grounded(&self) -> bool {
        self.air == Air::Grounded
    }

    /// Moves everything by `delta`.
    pub fn translate(&mut self, delta: DVec2) {
        self.goal += delta;
        self.track.translate(delta);
    }
}

/// What following needs to know of a frame.
#[derive(Clone, Copy, Debug)]
pub(crate) struct FollowFrame<'a> {
    pub lens: &'a Lens,
    pub view: DVec2,
    pub focus: DVec2,
    pub seconds: f64,
}

impl Follow {
    /// Lays the way of the goal through this step on `course`, in world units and before the
    /// bounds; answers the subject's own way.
    ///
    /// Without a subject, or with one that is lost, the goal stays. One that comes new, or comes
    /// back, takes effect at the end of the step that it arrives with.
    #[inline]
    pub(crate) fn course(
        &self,
        course: &mut Course,
        memory: &mut FollowMemory,
        ahead: &mut HalfLifeStep,
        subject: Option<&Subject>,
        frame: &FollowFrame<'_>,
    ) -> Option<Stride> {
        let last = memory.goal;
        let Some(subject) = subject.filter(|subject| (subject.position + self.offset).is_finite())
        else {
            memory.track.forget();
            course.restart(last, last);
            return None;
        };
        let known = memory.track.is_known();
        let stride = memory.track.advance(subject, frame.seconds, frame.view);
        let way = stride;
        let stride = if frame.lens.is_plain() {
            stride
        } else {
            stride.map(|world| frame.lens.screen_aligned(world))
        };
        let offset = frame.lens.screen_aligned(self.offset);
        let goal = frame.lens.screen_aligned(last);
        course.restart(stride.from + offset, stride.to + offset);
        if let Some(look_ahead) = &self.look_ahead {
            let frame =
                LookFrame { seconds: frame.seconds, view: frame.view, scale: frame.lens.scale() };
            look_ahead.add(&mut memory.look, ahead, course, &stride, &frame);
        }
        let want = course.end();
        let landed = self.watch_the_air(memory, subject, &stride.to, frame);
        for axis in 0..2 {
            if !self.axes.has(axis)
                || (axis == 1 && memory.air == Air::Held)
                || (axis == 1 && landed)
            {
                course.still(axis, goal[axis]);
            } else {
                self.deadzone.drag(course, axis, goal[axis], frame.view);
            }
        }
        let mut end = course.end();
        if landed && self.axes.has(1) {
            end.y = want.y;
        }
        if !known {
            course.restart(goal, goal);
        }
        if end != course.end() {
            course.jump(end);
        }
        if !frame.lens.is_plain() {
            course.map(|level| frame.lens.world_aligned(level));
        }
        memory.goal = course.end();
        Some(way)
    }

    /// Looks at the subject at once: goal and want are one, and all memories are cleared.
    pub(crate) fn cut(&self, memory: &mut FollowMemory, subject: &Subject, lens: &Lens) {
        let (want, last) =
            (lens.screen_aligned(subject.position + self.offset), lens.screen_aligned(memory.goal));
        let pick = |axis: usize| if self.axes.has(axis) { want[axis] } else { last[axis] };
        *memory = FollowMemory::at(lens.world_aligned(DVec2::new(pick(0), pick(1))));
        memory.track.advance(subject, 0.0, DVec2::INFINITY);
    }

    /// Notes whether the subject is in the air; answers whether it has just landed.
    fn watch_the_air(
        &self,
        memory: &mut FollowMemory,
        subject: &Subject,
        level: &DVec2,
        frame: &FollowFrame<'_>,
    ) -> bool {
        if self.airborne == Airborne::Follow || subject.grounded.unwrap_or(true) {
            let landed = memory.air == Air::Held;
            memory.air = Air::Grounded;
            return landed;
        }
        let leash = self.leash.unwrap_or(Leash(DVec2::ONE));
        let focus = frame.lens.screen_aligned(frame.focus);
        let held = leash.clamp(focus, *level, self.anchor, frame.view);
        if memory.air == Air::Loose || held.y != focus.y {
            memory.air = Air::Loose;
        } else {
            memory.air = Air::Held;
        }
        false
    }

    pub(crate) fn check(&self, report: Report<'_>) {
        let expected = "two fractions of the screen, each from 0 to 1";
        check(report, "follow.anchor", self.anchor, 0.0..=1.0, expected);
        let expected = "two finite distances in world units";
        check(report, "follow.offset", self.offset, FINITE, expected);
        self.deadzone.check("follow.deadzone", report);
        self.smoothing.x.check("follow.smoothing", report);
        if self.smoothing.y != self.smoothing.x {
            self.smoothing.y.check("follow.smoothing", report);
        }
        if let Some(look_ahead) = &self.look_ahead {
            look_ahead.check(report);
        }
        if let Some(leash) = &self.leash {
            leash.check(report);
        }
    }
}
