//! Sizes and points of the window, in types of their own so that they can't be taken for the
//! screen's.

use glam::{UVec2, Vec2};

/// The size of a window in physical pixels. Zero (a minimised window) is allowed.
///
/// ```
/// use velvet_pan::WindowSize;
///
/// let window: WindowSize = (1280, 720).into();
/// assert_eq!((window.width, window.height), (1280, 720));
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct WindowSize {
    /// Physical pixels from left to right.
    pub width: u32,
    /// Physical pixels from top to bottom.
    pub height: u32,
}

impl From<(u32, u32)> for WindowSize {
    fn from((width, height): (u32, u32)) -> Self {
        Self { width, height }
    }
}

impl From<[u32; 2]> for WindowSize {
    fn from([width, height]: [u32; 2]) -> Self {
        Self { width, height }
    }
}

impl From<UVec2> for WindowSize {
    fn from(size: UVec2) -> Self {
        Self { width: size.x, height: size.y }
    }
}

/// A point of the window in physical pixels from its top left corner, `y` down.
///
/// ```
/// use velvet_pan::WindowPoint;
///
/// let pointer = WindowPoint::from((640.0, 360.5));
/// assert_eq!(pointer.y, 360.5);
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct WindowPoint {
    /// Physical pixels from the left edge.
    pub x: f32,
    /// Physical pixels from the top edge.
    pub y: f32,
}

impl From<(f32, f32)> for WindowPoint {
    fn from((x, y): (f32, f32)) -> Self {
        Self { x, y }
    }
}

impl From<Vec2> for WindowPoint {
    fn from(point: Vec2) -> Self {
        Self { x: point.x, y: point.y }
    }
}
