//! Axis-aligned rectangles of the world and of the screen.

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::maths::{clamp_point, is_usable};

/// A rectangle in world units, from its smallest to its largest coordinates.
///
/// ```
/// use velvet_pan::Rect;
///
/// let shed = Rect::from_corner_size([96.0, 32.0], [64.0, 48.0]);
/// assert_eq!(shed.max, [160.0, 80.0].into());
/// assert!(shed.contains([100.0, 40.0]));
/// assert!(!shed.contains([160.0, 40.0])); // half-open: the far edge is outside
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Rect {
    /// The corner with the smallest coordinates, in world units.
    pub min: DVec2,
    /// The corner with the largest coordinates, in world units.
    pub max: DVec2,
}

impl Rect {
    /// The whole plane.
    pub(crate) const EVERYWHERE: Self = Self { min: DVec2::NEG_INFINITY, max: DVec2::INFINITY };

    /// Creates a rectangle from two opposite corners, in any order, in world units.
    ///
    /// ```
    /// # use velvet_pan::Rect;
    /// assert_eq!(Rect::new([4, 0], [0, 2]), Rect::new([0, 0], [4, 2]));
    /// ```
    #[must_use]
    pub fn new(one: impl IntoWorld, other: impl IntoWorld) -> Self {
        let (one, other) = (one.into_world(), other.into_world());
        Self { min: one.min(other), max: one.max(other) }
    }

    /// Creates a rectangle from the corner with the smallest coordinates and a size, in world units.
    ///
    /// ```
    /// # use velvet_pan::Rect;
    /// assert_eq!(Rect::from_corner_size([4, 2], [10, 20]), Rect::new([4, 2], [14, 22]));
    /// ```
    #[must_use]
    pub fn from_corner_size(corner: impl IntoWorld, size: impl IntoWorld) -> Self {
        let corner = corner.into_world();
        Self::new(corner, corner + size.into_world())
    }

    /// Creates a rectangle from its centre and half of its size, in world units.
    ///
    /// ```
    /// # use velvet_pan::Rect;
    /// assert_eq!(Rect::around([8, 8], [8, 4]), Rect::new([0, 4], [16, 12]));
    /// ```
    #[must_use]
    pub fn around(centre: impl IntoWorld, half: impl IntoWorld) -> Self {
        let (centre, half) = (centre.into_world(), half.into_world());
        Self::new(centre - half, centre + half)
    }

    /// Moves it.
    pub(crate) fn translate(&mut self, delta: DVec2) {
        (self.min, self.max) = (self.min + delta, self.max + delta);
    }

    /// Returns the width and the height, in world units.
    #[must_use]
    pub fn size(&self) -> DVec2 {
        self.max - self.min
    }

    /// Returns the middle.
    #[must_use]
    pub fn centre(&self) -> DVec2 {
        self.min + self.size() / 2.0
    }

    /// Returns whether the point is inside. The edges at `min` belong to the rectangle, those at `max` do not.
    ///
    /// ```
    /// # use velvet_pan::Rect;
    /// let terrace = Rect::new([0, 0], [320, 180]);
    /// assert!(terrace.contains([0, 0]) && !terrace.contains([320, 0]));
    /// ```
    #[must_use]
    pub fn contains(&self, point: impl IntoWorld) -> bool {
        let point = point.into_world();
        point.cmpge(self.min).all() && point.cmplt(self.max).all()
    }

    /// Returns whether the point is inside or on any edge.
    #[inline]
    pub(crate) fn covers(&self, point: DVec2) -> bool {
        point.cmpge(self.min).all() && point.cmple(self.max).all()
    }

    /// Returns whether the two rectangles overlap. Touching edges do not overlap.
    ///
    /// ```
    /// # use velvet_pan::Rect;
    /// let a = Rect::new([0, 0], [2, 2]);
    /// assert!(a.overlaps(&Rect::new([1, 1], [3, 3])));
    /// assert!(!a.overlaps(&Rect::new([2, 0], [4, 2]))); // only an edge in common
    /// ```
    #[must_use]
    pub fn overlaps(&self, other: &Self) -> bool {
        self.min.cmplt(other.max).all() && other.min.cmplt(self.max).all()
    }

    /// Returns the point of the rectangle that is nearest to `point`.
    ///
    /// ```
    /// # use velvet_pan::Rect;
    /// let field = Rect::new([0, 0], [10, 10]);
    /// assert_eq!(field.nearest([15, 5]), [10.0, 5.0].into());
    /// ```
    #[must_use]
    pub fn nearest(&self, point: impl IntoWorld) -> DVec2 {
        clamp_point(point.into_world(), self.min, self.max)
    }

    /// Returns the part of a straight path that is inside, as fractions from 0 to 1: its start (0 or less if the path
    /// begins inside) and its end (1 or more if it ends inside). `None` if the path does not enter.
    pub(crate) fn stretch_of(&self, from: DVec2, to: DVec2) -> Option<(f64, f64)> {
        let (mut start, mut end) = (f64::NEG_INFINITY, f64::INFINITY);
        for axis in 0..2 {
            let (at, way) = (from[axis], to[axis] - from[axis]);
            if way == 0.0 {
                if !(self.min[axis]..self.max[axis]).contains(&at) {
                    return None;
                }
                continue;
            }
            let (one, other) = ((self.min[axis] - at) / way, (self.max[axis] - at) / way);
            (start, end) = (start.max(one.min(other)), end.min(one.max(other)));
        }
        (start < end && start < 1.0 && end > 0.0).then_some((start, end))
    }

    /// Returns its corners in order around it, from the smallest coordinates: each differs from the next along one axis.
    ///
    /// ```
    /// # use velvet_pan::Rect;
    /// let corners = Rect::new([0, 0], [4, 3]).corners().map(|at| at.to_array());
    /// assert_eq!(corners, [[0.0, 0.0], [4.0, 0.0], [4.0, 3.0], [0.0, 3.0]]);
    /// ```
    #[must_use]
    pub fn corners(&self) -> [DVec2; 4] {
        let Self { min, max } = *self;
        [min, DVec2::new(max.x, min.y), max, DVec2::new(min.x, max.y)]
    }

    /// Returns the centre of a view with these half-extents, moved as little as possible to stay inside. On an axis on
    /// which the view is larger, it does not move.
    #[must_use]
    pub(crate) fn clamp_centre(&self, centre: DVec2, half: DVec2) -> DVec2 {
        self.clamp_centre_or(centre, half, centre)
    }

    /// Returns the position of a body with these half-extents, moved as little as possible to be inside, or in the
    /// middle if it does not fit.
    #[must_use]
    pub(crate) fn clamp_body(&self, position: DVec2, half: DVec2) -> DVec2 {
        self.clamp_centre_or(position, half, self.centre())
    }

    /// `otherwise` is for an axis on which it does not fit.
    fn clamp_centre_or(&self, centre: DVec2, half: DVec2, otherwise: DVec2) -> DVec2 {
        let (low, high) = (self.min + half, self.max - half);
        let axis = |axis: usize| {
            let fits = low[axis] <= high[axis];
            if fits { centre[axis].clamp(low[axis], high[axis]) } else { otherwise[axis] }
        };
        DVec2::new(axis(0), axis(1))
    }

    /// Returns the smallest rectangle around both.
    #[inline]
    pub(crate) fn joined(&self, other: &Self) -> Self {
        Self { min: self.min.min(other.min), max: self.max.max(other.max) }
    }

    /// Returns whether it is finite, and has a width and a height above 0.
    pub(crate) fn has_area(&self) -> bool {
        let size = self.size();
        self.is_finite() && size.is_finite() && size.min_element() > 0.0
    }

    /// Returns whether it can be a place in the world: not too far away, and not so small that no zoom shows it.
    pub(crate) fn is_place(&self) -> bool {
        is_usable(self.min) && is_usable(self.max) && self.size().min_element() >= 1e-9
    }

    pub(crate) fn is_finite(&self) -> bool {
        self.min.is_finite() && self.max.is_finite()
    }
}
