//! How the screen lands in a window.

use crate::window::WindowSize;
use glam::{DVec2, UVec2};

/// How the screen's picture is fitted into a window.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
pub enum Fit {
    /// The largest whole scale that fits, with bars around; a window smaller than the screen shows
    /// the screen's middle.
    #[default]
    Whole,
}

impl Fit {
    /// Window pixels per screen pixel: `max(1, floor(min(ww/sw, wh/sh)))`.
    ///
    /// The same on both axes, so that nothing is ever squashed.
    ///
    /// ```
    /// use velvet_pan::{Fit, glam::UVec2};
    ///
    /// assert_eq!(Fit::Whole.scale(UVec2::new(320, 180), (1920, 1080).into()), 6.0);
    /// assert_eq!(Fit::Whole.scale(UVec2::new(320, 180), (1000, 1000).into()), 3.0);
    /// assert_eq!(Fit::Whole.scale(UVec2::new(320, 180), (0, 0).into()), 1.0);
    /// ```
    #[must_use]
    pub fn scale(self, screen: UVec2, window: WindowSize) -> f64 {
        let screen = screen.max(UVec2::ONE);
        let whole = (window.width / screen.x).min(window.height / screen.y);
        f64::from(whole.max(1))
    }
}

/// Where a finished canvas lands in the window: ask it of
/// [`View::placement`](crate::View::placement).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Placement {
    /// The canvas' top left corner in window pixels; with [`Snap::Subpixel`](crate::Snap::Subpixel)
    /// this is moved back by the residual.
    pub origin: DVec2,
    /// Window pixels per canvas pixel, on both axes.
    pub scale: f64,
    /// First window pixel, per axis, of the part of the window that shows the picture.
    pub first: UVec2,
    /// One past the last such window pixel, per axis. Outside are the bars.
    pub end: UVec2,
}

impl Placement {
    /// Centres `screen` in `window` at `scale` and moves the canvas back by `residual` screen
    /// pixels.
    pub(crate) fn centred(screen: UVec2, window: WindowSize, scale: f64, residual: DVec2) -> Self {
        let window = DVec2::new(f64::from(window.width), f64::from(window.height));
        let picture = screen.as_dvec2() * scale;
        // Whole window pixels, so that a whole scale keeps every art edge on a pixel's edge.
        let corner = ((window - picture) / 2.0).floor();
        Self {
            origin: corner - residual * scale,
            scale,
            first: corner.max(DVec2::ZERO).as_uvec2(),
            end: (corner + picture).min(window).max(DVec2::ZERO).as_uvec2(),
        }
    }
}
