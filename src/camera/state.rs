//! What lasts from frame to frame, grouped as a frame is.

use core::fmt;

use glam::DVec2;

use crate::camera::hands::Hand;
use crate::goal::look_ahead::LookMemory;
use crate::goal::party::PartyMemory;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::Track;
use crate::lens::rotation::RotationGlide;
use crate::lens::zoom::ZoomGlide;
use crate::limits::bounds::BoundsBlend;
use crate::limits::ratchet::Barrier;
use crate::motion::glide::Glide;
use crate::motion::motion::Moving;
use crate::settings::zone::ZoneMemory;
use crate::shake::cue::ZoomNudge;
use crate::shake::shaker::Shaker;

/// What lasts from frame to frame: small, `Copy`, and enough to go back to an earlier moment.
///
/// Save it with [`Camera::state`](crate::Camera::state) and go back with
/// [`Camera::restore`](crate::Camera::restore). With the feature `serde` it can be written and read.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
pub struct CameraState {
    /// Of the settings that it was made under.
    #[cfg_attr(feature = "serde", serde(with = "crate::units::number::bits"))]
    pub(super) settings: u64,
    /// Seconds since the first frame.
    pub(super) time: f64,
    pub(super) lens: LensState,
    pub(super) goal: GoalState,
    pub(super) motion: MotionState,
    pub(super) limits: LimitsState,
    pub(super) shakes: Shaker,
    pub(super) pending: Pending,
}

/// How large the world appears, and how that changes.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct LensState {
    pub zoom: ZoomGlide,
    pub rotation: RotationGlide,
    /// A short change of the zoom.
    pub nudge: Option<Nudge>,
}

/// A short change of the zoom that has begun.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Nudge {
    pub nudge: ZoomNudge,
    pub strength: f64,
    pub age: f64,
}

impl Nudge {
    pub fn factor(&self) -> f64 {
        self.nudge.factor(self.age, self.strength)
    }

    /// Grows older by some seconds. Returns whether it is over.
    pub fn advance(&mut self, seconds: f64) -> bool {
        self.age += seconds;
        self.nudge.is_over(self.age)
    }
}

/// Where the camera wants to look.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct GoalState {
    pub memory: GoalMemory,
    /// Whether the next frame with a subject cuts to it.
    pub cut: bool,
    pub track: Track,
    pub party: PartyMemory,
    pub room: Option<RoomMemory>,
    pub zones: ZoneMemory,
}

/// What a leg of the step changes in the goal, small enough to be copied before each.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct GoalMemory {
    /// Where the focus wants to be, before the bounds, in world units.
    pub goal: DVec2,
    pub look: LookMemory,
    pub air: Air,
    /// How far along the rail the goal is, in world units from its start.
    pub rail: f64,
    /// Where the steadily scrolling goal is.
    pub scroll: DVec2,
}

/// Whether the subject's height is followed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) enum Air {
    #[default]
    Grounded,
    /// In the air, and the view holds its height.
    Held,
    /// In the air, and beyond its leash: the view follows until it lands.
    Loose,
}

/// How the camera gets to its goal.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct MotionState {
    /// The world point held at the anchor, as following has it.
    pub focus: Moving,
    /// Where the focus was before the last leg that took time, and that time in seconds.
    pub before: (DVec2, f64),
    pub glide: Option<Glide>,
    pub hand: Hand,
    /// Seconds for which following still pauses.
    pub pause: f64,
}

/// Where the view may be.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct LimitsState {
    pub bounds: Option<BoundsBlend>,
    pub barrier: Option<Barrier>,
    /// How much longer than set the leash is for now, in world units along the screen's axes.
    pub leash_slack: DVec2,
    /// Whether the leash took the view along in the last leg, per axis of the screen.
    pub on_leash: [bool; 2],
}

/// What the game asked for since the last frame: it begins at the end of the next.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Pending {
    pub glide: Option<Glide>,
    /// A point to aim at once nobody is followed.
    pub aim: Option<DVec2>,
    pub nudge: Option<Nudge>,
    pub pause: Option<f64>,
    /// Whether zoom, rotation and bounds wait for the end of the next frame.
    pub zoom: bool,
    pub rotation: bool,
    pub bounds: bool,
}

/// A state that can't be restored.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum StateError {
    /// It was made under settings that differ from the camera's.
    OtherSettings,
    /// It holds numbers that are not finite or out of their range.
    BadNumbers,
}

impl fmt::Display for StateError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Self::OtherSettings => {
                "the state was made under other settings: restore it into a camera with the same"
            }
            Self::BadNumbers => {
                "the state holds numbers that no camera can have: expected one from Camera::state"
            }
        })
    }
}

impl core::error::Error for StateError {}

impl CameraState {
    /// Whether every number is one that a camera can have.
    pub(super) fn is_sound(&self) -> bool {
        (0.0..f64::INFINITY).contains(&self.time)
            && self.lens.is_sound()
            && self.goal.is_sound()
            && self.motion.is_sound()
            && self.limits.is_sound()
            && self.shakes.is_sound()
            && self.pending.is_sound()
    }
}

impl LensState {
    fn is_sound(&self) -> bool {
        self.zoom.is_sound()
            && self.rotation.is_finite()
            && self.nudge.is_none_or(|nudge| nudge.is_sound())
    }
}

impl Nudge {
    fn is_sound(&self) -> bool {
        let Self { nudge, strength, age } = self;
        let times = [nudge.rise, nudge.hold, nudge.fade, *age];
        (0.1..=10.0).contains(&nudge.by)
            && times.iter().all(|time| (0.0..=1e6).contains(time))
            && strength.is_finite()
    }
}

impl GoalState {
    fn is_sound(&self) -> bool {
        let GoalMemory { goal, look, rail, scroll, .. } = &self.memory;
        goal.is_finite()
            && look.is_finite()
            && rail.is_finite()
            && scroll.is_finite()
            && self.track.is_finite()
            && self.party.is_sound()
            && self.room.is_none_or(|room| room.rect().has_area())
            && self.zones.is_sound()
    }
}

impl MotionState {
    fn is_sound(&self) -> bool {
        self.focus.is_finite()
            && self.before.0.is_finite()
            && self.before.1.is_finite()
            && self.glide.is_none_or(|glide| glide.is_sound())
            && self.hand.is_finite()
            && (0.0..=1e6).contains(&self.pause)
    }
}

impl LimitsState {
    fn is_sound(&self) -> bool {
        self.bounds.is_none_or(|blend| blend.is_sound())
            && self.barrier.is_none_or(|barrier| barrier.at.is_finite())
            && self.leash_slack.is_finite()
    }
}

impl Pending {
    /// Whether nothing begins with the end of the next frame.
    #[inline]
    pub fn is_empty(&self) -> bool {
        let Self { glide, nudge, pause, zoom, rotation, bounds, .. } = self;
        glide.is_none() && nudge.is_none() && pause.is_none() && !zoom && !rotation && !bounds
    }

    fn is_sound(&self) -> bool {
        self.glide.is_none_or(|glide| glide.is_sound())
            && self.aim.is_none_or(DVec2::is_finite)
            && self.nudge.is_none_or(|nudge| nudge.is_sound())
            && self.pause.is_none_or(|pause| (0.0..=1e6).contains(&pause))
    }
}
