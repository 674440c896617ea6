//! Moving the view by hand: dragging, keys, the screen's edge.

use glam::{DVec2, Vec2};

use crate::lens::lens::Lens;
use crate::view::view::View;

/// A world point that stays under a screen point.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Grip {
    pub world: DVec2,
    pub screen: Vec2,
}

impl Grip {
    /// What this screen point shows.
    pub fn at(view: &View, screen: Vec2) -> Self {
        Self { world: view.screen_to_world(screen), screen }
    }

    /// The view's centre that has the world point there.
    #[inline]
    pub fn centre(&self, lens: &Lens) -> DVec2 {
        let from_middle = self.screen.as_dvec2() - lens.size().as_dvec2() / 2.0;
        self.world - lens.to_world_axes(from_middle)
    }
}

/// Which hand is on the view.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) enum Hand {
    /// None: the view follows.
    #[default]
    Off,
    /// It was moved, until the next frame.
    Nudge,
    /// A grabbed point, until it is let go.
    Grab(Grip),
    /// A zoom about a point, until it is reached.
    Pin(Grip),
    /// A position that is shown, until it is let go.
    Show(DVec2),
}

/// How hard a pointer near the screen's edge pushes, per axis from −1 to 1: all the way at the edge
/// and beyond, nothing from `margin` screen pixels on.
///
/// ```
/// use velvet_pan::{edge_push, glam::{UVec2, Vec2}};
///
/// let screen = UVec2::new(320, 180);
/// assert_eq!(edge_push(Vec2::new(160.0, 90.0), screen, 16.0), Vec2::ZERO);
/// assert_eq!(edge_push(Vec2::new(320.0, 90.0), screen, 16.0), Vec2::X);
/// assert_eq!(edge_push(Vec2::new(8.0, 90.0), screen, 16.0), Vec2::new(-0.5, 0.0));
/// ```
#[must_use]
pub fn edge_push(pointer: Vec2, screen: glam::UVec2, margin: f32) -> Vec2 {
    if !pointer.is_finite() || margin <= 0.0 || margin.is_nan() {
        return Vec2::ZERO;
    }
    let push = |within: f32| (1.0 - within / margin).clamp(0.0, 1.0);
    let (near, far) = (pointer, screen.as_vec2() - pointer);
    Vec2::new(push(far.x) - push(near.x), push(far.y) - push(near.y))
}
