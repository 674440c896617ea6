//! Sizes and points in the window. They have their own types so that they can't be confused with those of the screen.

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

#[cfg(feature = "mint")]
impl From<mint::Vector2<u32>> for WindowSize {
    fn from(size: mint::Vector2<u32>) -> Self {
        Self { width: size.x, height: size.y }
    }
}

#[cfg(feature = "mint")]
impl From<WindowSize> for mint::Vector2<u32> {
    fn from(WindowSize { width, height }: WindowSize) -> Self {
        Self { x: width, y: height }
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

impl From<(f64, f64)> for WindowPoint {
    fn from((x, y): (f64, f64)) -> Self {
        Self { x: x as f32, y: y as f32 }
    }
}

impl From<[f32; 2]> for WindowPoint {
    fn from([x, y]: [f32; 2]) -> Self {
        Self { x, y }
    }
}

impl WindowPoint {
    /// Returns the same point in a part of the window, for example a half of a split screen. `corner` is the top
    /// left corner of that part, in window pixels.
    ///
    /// ```
    /// use velvet_pan::{WindowPoint, glam::UVec2};
    ///
    /// let pointer = WindowPoint::from((700.0_f32, 40.0));
    /// assert_eq!(pointer.within(UVec2::new(640, 0)), WindowPoint::from((60.0_f32, 40.0)));
    /// ```
    #[must_use]
    pub fn within(self, corner: UVec2) -> Self {
        let corner = corner.as_vec2();
        Self { x: self.x - corner.x, y: self.y - corner.y }
    }
}

impl From<Vec2> for WindowPoint {
    fn from(point: Vec2) -> Self {
        Self { x: point.x, y: point.y }
    }
}

#[cfg(feature = "mint")]
impl From<mint::Point2<f32>> for WindowPoint {
    fn from(point: mint::Point2<f32>) -> Self {
        Self { x: point.x, y: point.y }
    }
}

#[cfg(feature = "mint")]
impl From<mint::Point2<f64>> for WindowPoint {
    fn from(point: mint::Point2<f64>) -> Self {
        (point.x, point.y).into()
    }
}

#[cfg(feature = "mint")]
impl From<WindowPoint> for mint::Point2<f32> {
    fn from(WindowPoint { x, y }: WindowPoint) -> Self {
        Self { x, y }
    }
}
