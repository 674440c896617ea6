//! The low-resolution picture that the game draws.

use glam::{DVec2, UVec2};

use crate::keys::keys::{names, settings};
use crate::keys::setting::Setting;
use crate::lens::fit::Fit;

/// The screen: the picture that the game draws before it is scaled into the window. It is the `[screen]` table of a
/// tuning file.
///
/// The view's size depends on `size` and not on the window, except with [`Fit::Reveal`].
///
/// ```
/// use velvet_pan::{Screen, glam::UVec2};
///
/// let screen = Screen { size: UVec2::new(400, 225), ..Screen::default() };
/// assert_eq!(screen.unit_pixels, 1.0);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Screen {
    /// Width and height in screen pixels, each from 1 to 65,536. Default 320 x 180.
    pub size: UVec2,
    /// Screen pixels per world unit at zoom 1, from 1e-6 to 1e6. Default 1.
    pub unit_pixels: f64,
    /// The direction of the world's `y`. Default [`YAxis::Down`].
    pub y_axis: YAxis,
    /// How the screen is fitted into a window. Default [`Fit::Whole`].
    pub fit: Fit,
    /// What happens to fractions of a screen pixel. Default [`Snap::Subpixel`].
    pub snap: Snap,
}

settings!(Screen {
    size = Setting::size("size", "the picture that the game draws", "width and height in screen pixels")
        .measured("screen px").from(1.0, 65_536.0).usual_from(64.0, 640.0);
    unit_pixels = Setting::number("unit_pixels", "screen pixels per world unit at zoom 1", "screen pixels per world unit")
        .measured("screen px").from(1e-6, 1e6).usual_from(0.25, 32.0);
    y_axis = Setting::choice("y_axis", "the direction of the world's y", YAxis::NAMES);
    fit = Setting::choice("fit", "how the screen is scaled into the window", Fit::NAMES);
    snap = Setting::choice("snap", "what happens to fractions of a screen pixel", Snap::NAMES);
});

impl Default for Screen {
    fn default() -> Self {
        Self {
            size: UVec2::new(320, 180),
            unit_pixels: 1.0,
            y_axis: YAxis::default(),
            fit: Fit::default(),
            snap: Snap::default(),
        }
    }
}

impl Screen {
    /// Returns the size of the design screen in world units: `size / unit_pixels`, what it shows at zoom 1, whatever
    /// the window. Distances that are a matter of feel are shares of it, so that they change neither with the zoom nor
    /// with the world's unit.
    ///
    /// ```
    /// use velvet_pan::{Screen, glam::DVec2};
    ///
    /// let tiles = Screen { unit_pixels: 16.0, ..Screen::default() };
    /// assert_eq!(tiles.design_size(), DVec2::new(20.0, 11.25));
    /// ```
    #[inline]
    #[must_use]
    pub fn design_size(&self) -> DVec2 {
        self.size.as_dvec2() / self.unit_pixels
    }
}

/// The direction of the world's `y`.
///
/// In this documentation "up" and "top" always mean the screen's direction.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
pub enum YAxis {
    /// Larger `y` is lower on the screen, as in most 2D worlds.
    #[default]
    Down,
    /// Larger `y` is higher on the screen, as in mathematics.
    Up,
}

names!(YAxis { Down = "down", Up = "up" });

impl YAxis {
    /// +1 for down, −1 for up.
    #[inline]
    pub(crate) fn sign(self) -> f64 {
        match self {
            Self::Down => 1.0,
            Self::Up => -1.0,
        }
    }
}

/// What happens if the view's corner is between two screen pixels.
///
/// ```
/// use velvet_pan::{Lens, Screen, Snap, View};
///
/// let lens = Lens::new(&Screen::default());
/// let view = View::new(lens, [160.3, 90.0], Snap::Subpixel);
/// assert_eq!(view.corner().x, 0);
/// assert!((view.residual().x - 0.3).abs() < 1e-6);
/// assert_eq!(view.canvas_size().x, 321); // one more, to have something to slide in
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Snap {
    /// Everything is drawn at its exact position, and the renderer filters.
    Off,
    /// The picture moves in whole screen pixels. It is crisp, but moves in uneven steps at low speed. A rotated view
    /// whose bounds are larger than itself by less than 1.42 pixels shows up to 0.71 pixels from outside.
    Whole,
    /// The picture is drawn at whole screen pixels, one pixel larger than the screen. The finished picture is then moved
    /// in the window by the remaining fraction. It is crisp and moves smoothly.
    #[default]
    Subpixel,
}

names!(Snap { Off = "off", Whole = "whole", Subpixel = "subpixel" });
