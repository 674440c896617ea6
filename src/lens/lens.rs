//! How world lengths become screen lengths: size, zoom and rotation, without a position.

use glam::{DVec2, UVec2};

use crate::lens::screen::{Screen, YAxis};
use crate::units::convert::IntoWorld;
use crate::units::maths::{clamp, turn};
use crate::units::rect::Rect;

/// Size, zoom and rotation of a view: everything but where it is.
///
/// `scale = zoom × unit_pixels` is screen pixels per world unit; the view is `size / scale` world
/// units large. A positive rotation, in radians, turns the camera clockwise as seen on the screen,
/// so that the world appears to turn counter-clockwise.
///
/// ```
/// use velvet_pan::{Lens, Screen};
///
/// let lens = Lens::new(&Screen::default()).with_zoom(2.0);
/// assert_eq!(lens.scale(), 2.0);
/// assert_eq!(lens.view_size(), [160.0, 90.0].into());
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lens {
    size: UVec2,
    unit_pixels: f64,
    y_axis: YAxis,
    zoom: f64,
    scale: f64,
    rotation: f64,
    /// Cosine and sine of the angle by which the world's axes stand to the screen's, in the
    /// world's own sense of rotation: with `y` up that is the other way round.
    cos: f64,
    sin: f64,
}

impl Lens {
    /// A lens for this screen, at zoom 1 and not rotated.
    #[must_use]
    pub fn new(screen: &Screen) -> Self {
        Self {
            size: screen.size,
            unit_pixels: screen.unit_pixels,
            y_axis: screen.y_axis,
            zoom: 1.0,
            scale: screen.unit_pixels,
            rotation: 0.0,
            cos: 1.0,
            sin: 0.0,
        }
    }

    /// A lens for this screen at zoom 1, turned by `rotation` radians. Where another lens is turned alike, what
    /// follows from that is taken over from it.
    pub(crate) fn turned_like(screen: &Screen, rotation: f64, other: &Self) -> Self {
        let mut lens = Self::new(screen);
        if other.rotation == rotation && other.y_axis == screen.y_axis {
            (lens.rotation, lens.cos, lens.sin) = (rotation, other.cos, other.sin);
            return lens;
        }
        lens.with_rotation(rotation)
    }

    /// The same lens at another zoom: 2 shows everything twice as large. Values that are not a
    /// number leave it as it is; others are held from 1e-9 to 1e9.
    #[must_use]
    pub fn with_zoom(mut self, zoom: f64) -> Self {
        if !zoom.is_nan() {
            self.zoom = clamp(zoom, 1e-9, 1e9);
            self.scale = self.zoom * self.unit_pixels;
        }
        self
    }

    /// The same lens turned to `rotation` radians; values that are not finite leave it as it is.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen};
    /// let lens = Lens::new(&Screen::default()).with_rotation(core::f64::consts::FRAC_PI_2);
    /// // The camera's right is now the world's down: a point below appears to the right.
    /// let position = lens.to_screen_axes([0.0, 10.0]);
    /// assert!((position.x - 10.0).abs() < 1e-12 && position.y.abs() < 1e-12);
    /// ```
    #[must_use]
    pub fn with_rotation(mut self, rotation: f64) -> Self {
        if rotation.is_finite() && rotation != self.rotation {
            self.rotation = rotation;
            let (sin, cos) = libm::sincos(rotation);
            (self.cos, self.sin) = (cos, sin * self.y_axis.sign());
        }
        self
    }

    /// The screen's size in screen pixels.
    #[inline]
    #[must_use]
    pub fn size(&self) -> UVec2 {
        self.size
    }

    /// The zoom; 1 is the screen's own.
    #[inline]
    #[must_use]
    pub fn zoom(&self) -> f64 {
        self.zoom
    }

    /// The rotation in radians.
    #[inline]
    #[must_use]
    pub fn rotation(&self) -> f64 {
        self.rotation
    }

    /// Whether the view's axes stand askew to the world's.
    #[inline]
    #[must_use]
    pub fn is_rotated(&self) -> bool {
        self.sin != 0.0 || self.cos != 1.0
    }

    /// Screen pixels per world unit.
    #[inline]
    #[must_use]
    pub fn scale(&self) -> f64 {
        self.scale
    }

    /// Width and height of the view in world units, along the screen's axes.
    #[inline]
    #[must_use]
    pub fn view_size(&self) -> DVec2 {
        self.size.as_dvec2() / self.scale
    }

    /// Half of the upright world rectangle that holds the whole view, in world units:
    /// `(w|cos θ| + h|sin θ|)/2` and `(w|sin θ| + h|cos θ|)/2`.
    #[inline]
    #[must_use]
    pub fn half_extents(&self) -> DVec2 {
        let half = self.view_size() / 2.0;
        let (cos, sin) = (self.cos.abs(), self.sin.abs());
        DVec2::new(half.x * cos + half.y * sin, half.x * sin + half.y * cos)
    }

    /// A world difference in screen pixels along the screen's axes.
    #[inline]
    #[must_use]
    pub fn to_screen_axes(&self, difference: impl IntoWorld) -> DVec2 {
        let turned = turn(difference.into_world(), self.cos, -self.sin);
        DVec2::new(turned.x, turned.y * self.y_axis.sign()) * self.scale
    }

    /// A difference in screen pixels along the screen's axes as a world difference: the inverse of
    /// [`to_screen_axes`](Self::to_screen_axes).
    #[inline]
    #[must_use]
    pub fn to_world_axes(&self, pixels: DVec2) -> DVec2 {
        let upright = DVec2::new(pixels.x, pixels.y * self.y_axis.sign()) / self.scale;
        turn(upright, self.cos, self.sin)
    }

    /// One world unit along `x` and one along `y`, each along the screen's axes, still in world units.
    #[inline]
    #[must_use]
    pub(crate) fn world_axes(&self) -> [DVec2; 2] {
        let sign = self.y_axis.sign();
        [DVec2::new(self.cos, -self.sin * sign), DVec2::new(self.sin, self.cos * sign)]
    }

    /// A world point or difference along the screen's axes, `y` down, still in world units.
    #[inline]
    #[must_use]
    pub(crate) fn screen_aligned(&self, world: DVec2) -> DVec2 {
        if self.is_plain() {
            return world;
        }
        let turned = turn(world, self.cos, -self.sin);
        DVec2::new(turned.x, turned.y * self.y_axis.sign())
    }

    /// The inverse of [`screen_aligned`](Self::screen_aligned).
    #[inline]
    #[must_use]
    pub(crate) fn world_aligned(&self, level: DVec2) -> DVec2 {
        if self.is_plain() {
            return level;
        }
        turn(DVec2::new(level.x, level.y * self.y_axis.sign()), self.cos, self.sin)
    }

    /// Whether the world's axes are the screen's.
    #[inline]
    pub(crate) fn is_plain(&self) -> bool {
        self.y_axis == YAxis::Down && !self.is_rotated()
    }

    /// The zoom at which this world rectangle just fits the screen.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Rect, Screen};
    /// let lens = Lens::new(&Screen::default()); // 320 x 180
    /// assert_eq!(lens.zoom_to_fit(&Rect::new([0, 0], [640, 90])), 0.5);
    /// ```
    #[must_use]
    pub fn zoom_to_fit(&self, rect: &Rect) -> f64 {
        // Along the screen's axes the rectangle is as large as a view of its size, turned, is
        // along the world's.
        let (size, cos, sin) = (rect.size(), self.cos.abs(), self.sin.abs());
        let along = DVec2::new(size.x * cos + size.y * sin, size.x * sin + size.y * cos);
        let fits = self.size.as_dvec2() / (along.max(DVec2::splat(1e-12)) * self.unit_pixels);
        fits.min_element()
    }

    /// The zoom at which the view is as large as it can be inside this world rectangle.
    #[must_use]
    pub(crate) fn zoom_to_fill(&self, rect: &Rect) -> f64 {
        let view = self.with_zoom(1.0).half_extents() * 2.0;
        (view / rect.size()).max_element()
    }

    /// From the view's centre to the world point under `anchor`, in world units. The anchor is in
    /// fractions of the screen from its top left: `R(θ)·((anchor − ½)∘V)`.
    #[inline]
    #[must_use]
    pub fn anchor_offset(&self, anchor: DVec2) -> DVec2 {
        self.to_world_axes((anchor - 0.5) * self.size.as_dvec2())
    }

    /// Which way the world's `y` runs.
    #[inline]
    #[must_use]
    pub fn y_axis(&self) -> YAxis {
        self.y_axis
    }
}
