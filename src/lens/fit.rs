//! Fitting the screen into a window.

use glam::{DVec2, UVec2, Vec2};

use crate::base::window::WindowSize;
use crate::keys::keys::names;

/// How the screen is fitted into a window. Both axes always have the same scale.
///
/// Window sizes are in physical pixels, not in the window system's scaled units. A window of zero size (minimised) is
/// valid.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Fit {
    /// The largest whole scale that fits, with bars on all sides: `max(1, floor(min(ww/sw, wh/sh)))`. A window smaller
    /// than the screen shows the middle of the screen.
    #[default]
    Whole,
    /// The largest scale that fits, with bars on two sides: `min(ww/sw, wh/sh)`.
    Contain,
    /// The largest scale at which the design size fits. Instead of bars, the screen becomes larger and shows more of the
    /// world, up to [`MAX_REVEALED`] times its design size on each axis. In still larger windows there are bars.
    Reveal,
    /// The smallest scale without bars: `max(ww/sw, wh/sh)`. Two sides of the screen are cut off.
    Cover,
}

names!(Fit { Whole = "whole", Contain = "contain", Reveal = "reveal", Cover = "cover" });

/// The largest factor by which a screen becomes larger than its design size on an axis with [`Fit::Reveal`]. It limits
/// the canvas in extremely wide or high windows.
pub const MAX_REVEALED: u32 = 8;

impl Fit {
    /// Returns the screen's size in this window, in screen pixels. It is the design size except with [`Fit::Reveal`],
    /// where it may be larger. It is rounded up; what does not fit is cut equally on both sides.
    ///
    /// ```
    /// use velvet_pan::{Fit, glam::UVec2};
    ///
    /// let design = UVec2::new(320, 180);
    /// assert_eq!(Fit::Reveal.screen_size(design, (1000, 1000).into()), UVec2::new(320, 320));
    /// assert_eq!(Fit::Contain.screen_size(design, (1000, 1000).into()), design);
    /// ```
    #[must_use]
    pub fn screen_size(self, design: UVec2, window: WindowSize) -> UVec2 {
        if self != Self::Reveal || window.width == 0 || window.height == 0 {
            return design;
        }
        let scale = self.scale(design, window);
        // Slightly less, so that a length that is whole except for rounding is not rounded up.
        let shown = |length: u32| libm::ceil(f64::from(length) / scale - 1e-9) as u32;
        let size = UVec2::new(shown(window.width), shown(window.height));
        size.clamp(design, design.saturating_mul(UVec2::splat(MAX_REVEALED)))
    }

    /// Returns the number of window pixels per screen pixel for a screen of this design size. It is above 0 for any
    /// window.
    ///
    /// ```
    /// use velvet_pan::{Fit, glam::UVec2};
    ///
    /// let screen = UVec2::new(320, 180);
    /// assert_eq!(Fit::Whole.scale(screen, (1920, 1080).into()), 6.0);
    /// assert_eq!(Fit::Whole.scale(screen, (1000, 1000).into()), 3.0);
    /// assert_eq!(Fit::Contain.scale(screen, (1000, 1000).into()), 3.125);
    /// assert_eq!(Fit::Cover.scale(screen, (1000, 1000).into()), 1000.0 / 180.0);
    /// assert_eq!(Fit::Whole.scale(screen, (0, 0).into()), 1.0); // minimised
    /// ```
    #[must_use]
    pub fn scale(self, design: UVec2, window: WindowSize) -> f64 {
        let design = design.max(UVec2::ONE);
        let window = UVec2::new(window.width, window.height);
        if self == Self::Whole {
            let whole = (window / design).min_element();
            return f64::from(whole.max(1));
        }
        if window.min_element() == 0 {
            return 1.0;
        }
        let ratio = window.as_dvec2() / design.as_dvec2();
        if self == Self::Cover { ratio.max_element() } else { ratio.min_element() }
    }
}

/// Where a finished canvas is drawn in the window: see [`View::placement`](crate::View::placement).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Placement {
    /// The canvas' top left corner, in window pixels. With [`Snap::Subpixel`](crate::Snap::Subpixel) it is moved back by
    /// the residual.
    pub origin: DVec2,
    /// Window pixels per canvas pixel, on both axes.
    pub scale: f64,
    /// The first window pixel that shows the picture, per axis.
    pub first: UVec2,
    /// One past the last window pixel that shows the picture, per axis. The bars are outside.
    pub end: UVec2,
}

/// Smaller shares of a window pixel than this are rounding.
pub(crate) const SLIVER: f64 = 1e-6;

impl Placement {
    /// Centres `screen` in `window` at `scale`, and moves the canvas back by `residual` screen pixels.
    pub(crate) fn centred(screen: UVec2, window: WindowSize, scale: f64, residual: DVec2) -> Self {
        let window = DVec2::new(f64::from(window.width), f64::from(window.height));
        let picture = screen.as_dvec2() * scale;
        let middle = (window - picture) / 2.0;
        // On a whole window pixel, so that at a whole scale every edge of an art pixel is on the edge of a window
        // pixel.
        let corner = if scale == libm::floor(scale) { (middle + 1e-9).floor() } else { middle };
        let within = |edge: DVec2| edge.round().max(DVec2::ZERO).min(window).as_uvec2();
        let end = corner + picture;
        Self { origin: corner - residual * scale, scale, first: within(corner), end: within(end) }
    }

    /// Returns the same placement in a part of a larger framebuffer, for example a half of a split screen.
    /// `corner` is the top left corner of that part, in window pixels.
    ///
    /// On a graphics card `@builtin(position)` counts from the framebuffer's corner, not from the viewport's.
    ///
    /// ```
    /// use velvet_pan::{Lens, Screen, Snap, View, glam::UVec2};
    ///
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole).with_window((640, 720));
    /// let right = view.placement().moved(UVec2::new(640, 0));
    /// assert_eq!(right.origin.x, view.placement().origin.x + 640.0);
    /// assert_eq!(right.scissor(), Some([640, 180, 640, 360]));
    /// ```
    #[must_use]
    pub fn moved(&self, corner: UVec2) -> Self {
        Self {
            origin: self.origin + corner.as_dvec2(),
            first: self.first.saturating_add(corner),
            end: self.end.saturating_add(corner),
            ..*self
        }
    }

    /// Returns this placement for a canvas on which the placed point is at this pixel, and not at the top left corner:
    /// for the feet of a sprite, say. See [`View::followed_placement`](crate::View::followed_placement).
    ///
    /// ```
    /// use velvet_pan::{Lens, Screen, Snap, View};
    ///
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole).with_window((1280, 720));
    /// let corner = view.followed_placement([0, 0]).anchored([8.0, 16.0]);
    /// assert_eq!(corner.origin, [640.0 - 4.0 * 8.0, 360.0 - 4.0 * 16.0].into());
    /// ```
    #[must_use]
    pub fn anchored(&self, pixel: impl Into<Vec2>) -> Self {
        Self { origin: self.origin - pixel.into().as_dvec2() * self.scale, ..*self }
    }

    /// Returns the same placement limited to a canvas of this size: [`first`](Self::first) and [`end`](Self::end) are the
    /// window pixels whose middles are on it. Beyond a small canvas, such as a sprite's own, nothing is shown.
    /// [`present()`](crate::present()) does this itself; on a graphics card, it gives the scissor rectangle.
    ///
    /// ```
    /// use velvet_pan::{Lens, Screen, Snap, View, glam::UVec2};
    ///
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole).with_window((1280, 720));
    /// let player = view.followed_placement([0, 0]).on_canvas(UVec2::new(16, 24));
    /// assert_eq!(player.scissor(), Some([640, 360, 64, 96]));
    /// ```
    #[must_use]
    pub fn on_canvas(&self, size: UVec2) -> Self {
        let low = (self.origin - 0.5 - SLIVER).ceil();
        let far = (self.origin + size.as_dvec2() * self.scale - 0.5 + SLIVER).ceil();
        Self { first: self.first.max(low.as_uvec2()), end: self.end.min(far.as_uvec2()), ..*self }
    }

    /// Returns the window pixels that show the picture, as `[x, y, width, height]`: the scissor rectangle that
    /// keeps the bars clear. Returns `None` if no pixel shows it, for example in a minimised window.
    #[must_use]
    pub fn scissor(&self) -> Option<[u32; 4]> {
        let size = self.end.saturating_sub(self.first);
        (size.min_element() > 0).then_some([self.first.x, self.first.y, size.x, size.y])
    }

    /// Returns origin and scale as an array to upload to a graphics card: `[x, y, scale, 0]`, in window
    /// pixels. The last number is padding.
    ///
    /// At a whole scale the origin is rounded to a whole window pixel, as the nearest filter rounds it: `f32`
    /// then picks the same pixels as the CPU does.
    ///
    /// ```
    /// use velvet_pan::{Lens, Screen, Snap, View};
    ///
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole).with_window((1300, 720));
    /// assert_eq!(view.placement().uniform(), [10.0, 0.0, 4.0, 0.0]);
    /// ```
    #[must_use]
    pub fn uniform(&self) -> [f32; 4] {
        let DVec2 { x, y } = if self.is_whole() { self.first_edge() } else { self.origin };
        [x as f32, y as f32, self.scale as f32, 0.0]
    }

    /// Returns the left and top edge of the first canvas pixel at a whole scale: the first window pixel whose middle is
    /// not before the origin. There, a window pixel shows the canvas pixel that contains its middle.
    pub(crate) fn first_edge(&self) -> DVec2 {
        (self.origin - 0.5).ceil()
    }

    /// Returns whether every canvas pixel is the same whole number of window pixels.
    #[must_use]
    pub fn is_whole(&self) -> bool {
        self.scale >= 1.0 && self.scale == libm::floor(self.scale)
    }

    /// Returns whether this window position shows the picture and not a bar.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole).with_window((1300, 720));
    /// assert!(view.placement().shows(10.0, 0.0) && !view.placement().shows(9.0, 0.0)); // a bar of 10 pixels
    /// ```
    #[must_use]
    pub fn shows(&self, x: f64, y: f64) -> bool {
        let inside = |at: f64, first: u32, end: u32| at >= f64::from(first) && at < f64::from(end);
        inside(x, self.first.x, self.end.x) && inside(y, self.first.y, self.end.y)
    }
}
