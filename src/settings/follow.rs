//! The settings of following one subject.

use glam::DVec2;

use crate::curves::smoothing::Smoothing;
use crate::goal::deadzone::Deadzone;
use crate::goal::look_ahead::LookAhead;
use crate::keys::keys::{names, settings};
use crate::keys::per_axis::PerAxis;
use crate::keys::setting::Setting;
use crate::limits::leash::Leash;
use crate::limits::ratchet::Ratchet;

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
    /// The axes of the screen on which the view follows the subject. On the others it stays where the first subject was,
    /// or where [`Camera::place_at`](crate::Camera::place_at) put it before; cuts leave it there. Default both.
    pub axes: Axes,
    /// The position on the screen at which the subject appears, in fractions of the screen from its top left corner, each
    /// from 0 to 1. Default 0.5, 0.5.
    pub anchor: DVec2,
    /// The difference from the subject's position to the point that is followed, in world units. Default 0, 0.
    pub offset: DVec2,
    /// The zone around the anchor in which the subject moves without the view. Default empty.
    pub deadzone: Deadzone,
    /// How the view moves to its goal, along the world's axes. Default [`Smoothing::None`]: immediately.
    pub smoothing: PerAxis<Smoothing>,
    /// How far the view looks ahead of the subject. Default `None`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub look_ahead: Option<LookAhead>,
    /// What the view does while the subject is in the air. Default [`Airborne::Follow`].
    pub airborne: Airborne,
    /// With [`Airborne::Hold`], the time for which a push upwards is looked for before and after the ground is lost, in
    /// seconds, from 0 to 1. Default 0.08.
    pub grace: f64,
    /// The largest distance of the subject from its anchor. Default `None`: no limit.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub leash: Option<Leash>,
    /// The one direction in which the view may move. Default all directions.
    pub ratchet: Ratchet,
}

settings!(Follow {
    axes = Setting::choice("axes", "the axes that are followed", Axes::NAMES);
    anchor = Setting::pair("anchor", "the position on the screen at which the subject appears, from the top left corner", "two fractions of the screen")
        .measured("of the screen").from(0.0, 1.0);
    offset = Setting::pair("offset", "the difference from the subject's position to the point that is followed", "two finite distances in world units")
        .measured("world units").usual_from(-64.0, 64.0);
    smoothing = Setting::choice("smoothing", "how the view moves to its goal", Smoothing::NAMES).per_axis();
    airborne = Setting::choice("airborne", "what the view does while the subject is in the air", Airborne::NAMES);
    grace = Setting::number("grace", "how long a push upwards is looked for before and after the ground is lost", "a time in seconds")
        .measured("s").from(0.0, 1.0).usual_from(0.0, 0.2);
    leash = Setting::pair("leash", "the largest distance of the subject from its anchor", "two fractions of the screen")
        .measured("of the screen").from(0.0, 1.0).usual_from(0.0, 0.5).optional();
    ratchet = Setting::choice("ratchet", "the one direction in which the view may move", Ratchet::NAMES);
});

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
            grace: 0.08,
            leash: None,
            ratchet: Ratchet::default(),
        }
    }
}

/// What the view does while the subject is in the air.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Airborne {
    /// It follows the subject as on the ground.
    #[default]
    Follow,
    /// In a jump it stays at its height until the subject lands, or leaves its leash upwards or downwards. On landing the
    /// view follows the subject's height again, within the deadzone.
    ///
    /// A jump begins with a push: the ground is lost, and within [`Follow::grace`] before or after that the upward
    /// speed against the [carrier](crate::Subject::carrier) increases by more than half of the design screen's height a
    /// second (`screen.size / unit_pixels`), and by more than on a slope of 45 degrees. A subject that loses the ground
    /// without a push, at an edge, on a slope or for single frames, is followed as on the ground.
    /// [`Subject::with_jump`](crate::Subject::with_jump) says outright whether there is one.
    Hold,
}

names!(Airborne { Follow = "follow", Hold = "hold" });

/// The axes on which the subject is followed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
pub enum Axes {
    /// Along both axes.
    #[default]
    Both,
    /// Along the screen's `x` only.
    X,
    /// Along the screen's `y` only.
    Y,
    /// Along no axis: the view stays.
    None,
}

names!(Axes { Both = "both", X = "x", Y = "y", None = "none" });

impl Axes {
    /// Returns whether the axis, 0 or 1, is followed.
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
