//! The hand that controls the view.

use glam::{DVec2, Vec2};

use crate::base::rect::Rect;
use crate::base::sound::{Ranged, Sound, sound};
use crate::lens::lens::Lens;
use crate::view::view::View;

/// A world point that stays under a screen point.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Grip {
    pub world: DVec2,
    pub screen: Vec2,
}

sound!(Grip { world, screen });

impl Grip {
    /// Returns a grip on what this screen point shows.
    pub fn at(view: &View, screen: Vec2) -> Self {
        Self { world: view.screen_to_world(screen), screen }
    }

    /// Returns the view's centre that has the world point there.
    #[inline]
    fn centre(&self, lens: &Lens) -> DVec2 {
        let from_middle = self.screen.as_dvec2() - lens.size().as_dvec2() / 2.0;
        self.world - lens.to_world_axes(from_middle)
    }
}

/// The kind of hand that controls the view.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) enum Hand {
    /// None: the view follows.
    #[default]
    Off,
    /// It is moved, from frame to frame.
    Pan,
    /// A grabbed point, until it is released.
    Grab(Grip),
    /// A zoom about a point, until it is nearly complete, and the remaining difference at which it ends, in natural
    /// logarithms.
    Pin(Grip, f64),
    /// A rectangle that is shown, until it is released, and the zoom that it asked for.
    Show(Rect, f64),
    /// On a way along a curve, whose point is in the middle.
    Travel(DVec2),
    /// The view waits for the end of a pause.
    Pause,
    /// It waits for the subject to move.
    Stay,
}

impl Hand {
    /// Returns the focus that the hand wants; `held` is the last one. `None` if there is no hand.
    #[inline]
    pub fn focus(&self, lens: &Lens, offset: DVec2, held: DVec2) -> Option<DVec2> {
        match self {
            Self::Off => None,
            Self::Grab(grip) | Self::Pin(grip, _) => Some(grip.centre(lens) + offset),
            Self::Show(rect, _) => Some(rect.centre() + offset),
            Self::Travel(centre) => Some(*centre + offset),
            Self::Pan | Self::Pause | Self::Stay => Some(held),
        }
    }

    /// Returns whether the leash holds the view: the hand is not the player's.
    #[inline]
    pub fn is_leashed(&self) -> bool {
        matches!(self, Self::Pin(..) | Self::Pause | Self::Stay)
    }

    /// Moves everything that is in the world.
    pub fn translate(&mut self, delta: DVec2) {
        match self {
            Self::Grab(grip) | Self::Pin(grip, _) => grip.world += delta,
            Self::Show(rect, _) => rect.translate(delta),
            Self::Travel(position) => *position += delta,
            Self::Off | Self::Pan | Self::Pause | Self::Stay => {}
        }
    }
}

impl Sound for Hand {
    fn is_sound(&self) -> bool {
        match self {
            Self::Grab(grip) => grip.is_sound(),
            Self::Pin(grip, rest) => grip.is_sound() && rest.is_within(&(0.0..=100.0)),
            Self::Show(rect, zoom) => rect.is_sound() && zoom.is_within(&(1e-9..=1e9)),
            Self::Travel(centre) => centre.is_sound(),
            Self::Off | Self::Pan | Self::Pause | Self::Stay => true,
        }
    }
}
