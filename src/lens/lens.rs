//! The conversion of world lengths to screen lengths: size, zoom and rotation, without a position.

use glam::{DVec2, DVec4, UVec2};

use crate::base::convert::IntoWorld;
use crate::base::maths::{clamp, shorter_arc, turn};
use crate::base::rect::Rect;
use crate::lens::screen::{Screen, YAxis};

/// Size, zoom and rotation of a view: everything except its position.
///
/// `scale = zoom × unit_pixels` is the number of screen pixels per world unit. The view is `size / scale` world units
/// large. A positive rotation, in radians, turns the camera clockwise as seen on the screen, so that the world appears to
/// turn counter-clockwise.
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
    /// Cosine and sine of the angle from the axes of the screen to those of the world, in the world's own direction of
    /// rotation. With `y` up, that is the opposite direction.
    cos: f64,
    sin: f64,
}

impl Lens {
    /// Creates a lens for this screen, at zoom 1 and without rotation.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, glam::DVec2};
    /// let lens = Lens::new(&Screen::default());
    /// assert_eq!(lens.view_size(), DVec2::new(320.0, 180.0)); // world units
    /// ```
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

    /// Returns a lens for this screen at zoom 1, rotated by `rotation` radians. If `other` has the same rotation, its
    /// derived values are reused.
    pub(crate) fn turned_like(screen: &Screen, rotation: f64, other: &Self) -> Self {
        let mut lens = Self::new(screen);
        if other.rotation == rotation && other.y_axis == screen.y_axis {
            (lens.rotation, lens.cos, lens.sin) = (rotation, other.cos, other.sin);
            return lens;
        }
        lens.with_rotation(rotation)
    }

    /// Returns this lens with another zoom. At 2 everything appears twice as large. Clamps `zoom` to 1e-9 to 1e9; NaN
    /// changes nothing.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen};
    /// let lens = Lens::new(&Screen::default());
    /// assert_eq!(lens.with_zoom(4.0).view_size(), [80.0, 45.0].into());
    /// assert_eq!(lens.with_zoom(f64::NAN), lens);
    /// ```
    #[must_use]
    pub fn with_zoom(mut self, zoom: f64) -> Self {
        if !zoom.is_nan() {
            self.zoom = clamp(zoom, 1e-9, 1e9);
            self.scale = self.zoom * self.unit_pixels;
        }
        self
    }

    /// Returns this lens with another rotation, in radians. Values that are not finite change nothing.
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

    /// Returns the screen's size in screen pixels.
    #[inline]
    #[must_use]
    pub fn size(&self) -> UVec2 {
        self.size
    }

    /// Returns the zoom. At 1, one world unit is [`Screen::unit_pixels`] screen pixels.
    #[inline]
    #[must_use]
    pub fn zoom(&self) -> f64 {
        self.zoom
    }

    /// Returns the rotation in radians.
    #[inline]
    #[must_use]
    pub fn rotation(&self) -> f64 {
        self.rotation
    }

    /// Returns whether the view is rotated, so that its axes are not those of the world.
    #[inline]
    #[must_use]
    pub fn is_rotated(&self) -> bool {
        self.sin != 0.0 || self.cos != 1.0
    }

    /// Returns the number of screen pixels per world unit.
    #[inline]
    #[must_use]
    pub fn scale(&self) -> f64 {
        self.scale
    }

    /// Returns the width and height of the view along the screen's axes, in world units.
    #[inline]
    #[must_use]
    pub fn view_size(&self) -> DVec2 {
        self.size.as_dvec2() / self.scale
    }

    /// Returns half of the size of the smallest upright world rectangle that contains the view, in world units:
    /// `(w|cos θ| + h|sin θ|)/2` and `(w|sin θ| + h|cos θ|)/2`.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen};
    /// let lens = Lens::new(&Screen::default()); // 320 x 180
    /// assert_eq!(lens.half_extents(), [160.0, 90.0].into());
    /// let upright = lens.with_rotation(core::f64::consts::FRAC_PI_2).half_extents();
    /// assert!((upright.x - 90.0).abs() < 1e-9 && (upright.y - 160.0).abs() < 1e-9);
    /// ```
    #[inline]
    #[must_use]
    pub fn half_extents(&self) -> DVec2 {
        let half = self.view_size() / 2.0;
        let (cos, sin) = (self.cos.abs(), self.sin.abs());
        DVec2::new(half.x * cos + half.y * sin, half.x * sin + half.y * cos)
    }

    /// Converts a world difference to screen pixels along the screen's axes.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, glam::DVec2};
    /// let lens = Lens::new(&Screen::default()).with_zoom(2.0);
    /// assert_eq!(lens.to_screen_axes([10, 5]), DVec2::new(20.0, 10.0));
    /// ```
    #[inline]
    #[must_use]
    pub fn to_screen_axes(&self, difference: impl IntoWorld) -> DVec2 {
        let turned = turn(difference.into_world(), self.cos, -self.sin);
        DVec2::new(turned.x, turned.y * self.y_axis.sign()) * self.scale
    }

    /// Converts a difference in screen pixels to a world difference: the inverse of
    /// [`to_screen_axes`](Self::to_screen_axes).
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, glam::DVec2};
    /// let lens = Lens::new(&Screen::default()).with_zoom(2.0);
    /// assert_eq!(lens.to_world_axes(DVec2::new(20.0, 10.0)), DVec2::new(10.0, 5.0));
    /// ```
    #[inline]
    #[must_use]
    pub fn to_world_axes(&self, pixels: DVec2) -> DVec2 {
        let upright = DVec2::new(pixels.x, pixels.y * self.y_axis.sign()) / self.scale;
        turn(upright, self.cos, self.sin)
    }

    /// One world unit along `x` and one along `y`, each along the axes of the screen, still in world units.
    #[inline]
    #[must_use]
    pub(crate) fn world_axes(&self) -> [DVec2; 2] {
        let sign = self.y_axis.sign();
        [DVec2::new(self.cos, -self.sin * sign), DVec2::new(self.sin, self.cos * sign)]
    }

    /// Returns a world point or difference along the axes of the screen, `y` down, still in world units.
    #[inline]
    #[must_use]
    pub(crate) fn to_screen_orientation(self, world: DVec2) -> DVec2 {
        if self.is_plain() {
            return world;
        }
        let turned = turn(world, self.cos, -self.sin);
        DVec2::new(turned.x, turned.y * self.y_axis.sign())
    }

    /// Returns the inverse of [`to_screen_orientation`](Self::to_screen_orientation).
    #[inline]
    #[must_use]
    pub(crate) fn to_world_orientation(self, level: DVec2) -> DVec2 {
        if self.is_plain() {
            return level;
        }
        turn(DVec2::new(level.x, level.y * self.y_axis.sign()), self.cos, self.sin)
    }

    /// Returns whether the axes of the world are those of the screen.
    #[inline]
    pub(crate) fn is_plain(&self) -> bool {
        self.y_axis == YAxis::Down && !self.is_rotated()
    }

    /// Returns the largest zoom at which this world rectangle fits the screen.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Rect, Screen};
    /// let lens = Lens::new(&Screen::default()); // 320 x 180
    /// assert_eq!(lens.zoom_to_fit(&Rect::new([0, 0], [640, 90])), 0.5);
    /// ```
    #[must_use]
    pub fn zoom_to_fit(&self, rect: &Rect) -> f64 {
        // Along the axes of the screen, the rectangle is as large as a rotated view of its size is along those of the
        // world.
        let (size, cos, sin) = (rect.size(), self.cos.abs(), self.sin.abs());
        let along = DVec2::new(size.x * cos + size.y * sin, size.x * sin + size.y * cos);
        let fits = self.size.as_dvec2() / (along.max(DVec2::splat(1e-12)) * self.unit_pixels);
        fits.min_element()
    }

    /// Returns the zoom at which the view is as large as possible inside this world rectangle.
    #[must_use]
    pub(crate) fn zoom_to_fill(&self, rect: &Rect) -> f64 {
        let view = self.with_zoom(1.0).half_extents() * 2.0;
        (view / rect.size()).max_element()
    }

    /// Returns the difference from the view's centre to the world point under `anchor`, in world units:
    /// `R(θ)·((anchor − ½)∘V)`. The anchor is in fractions of the screen from its top left corner.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, glam::DVec2};
    /// let lens = Lens::new(&Screen::default()); // 320 x 180
    /// assert_eq!(lens.anchor_offset(DVec2::new(0.25, 0.5)), DVec2::new(-80.0, 0.0));
    /// ```
    #[inline]
    #[must_use]
    pub fn anchor_offset(&self, anchor: DVec2) -> DVec2 {
        self.to_world_axes((anchor - 0.5) * self.size.as_dvec2())
    }

    /// Returns the lens a fraction of the way to another one: the zoom in log space, the rotation by the shorter arc.
    #[must_use]
    pub(crate) fn towards(&self, to: &Self, fraction: f64) -> Self {
        let mut lens = *to;
        if self.zoom != to.zoom {
            let (from, to) = (libm::log(self.zoom), libm::log(to.zoom));
            lens = lens.with_zoom(libm::exp(from + (to - from) * fraction));
        }
        if self.rotation != to.rotation {
            let arc = shorter_arc(self.rotation, to.rotation);
            lens = lens.with_rotation(self.rotation + arc * fraction);
        }
        lens
    }

    /// Returns the picture with a centre as numbers that can be added: centre, logarithm of the zoom, rotation.
    #[must_use]
    pub(crate) fn numbers(&self, centre: DVec2) -> DVec4 {
        DVec4::new(centre.x, centre.y, libm::log(self.zoom), self.rotation)
    }

    /// Returns the lens and the centre with these [`numbers`](Self::numbers), all else as here.
    #[must_use]
    pub(crate) fn with_numbers(&self, numbers: DVec4) -> (Self, DVec2) {
        let lens = self.with_zoom(libm::exp(numbers.z)).with_rotation(numbers.w);
        (lens, DVec2::new(numbers.x, numbers.y))
    }

    /// Returns the direction of the world's `y`.
    #[inline]
    #[must_use]
    pub fn y_axis(&self) -> YAxis {
        self.y_axis
    }
}
