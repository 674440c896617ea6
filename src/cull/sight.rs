//! The visible part of the world, and whether a sprite is in it.

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::rect::Rect;
use crate::lens::screen::Snap;
use crate::view::view::View;

/// The part of the world that a canvas shows. Call [`View::sight`] once a frame, and test every sprite.
///
/// Sprites are drawn at whole screen pixels, up to half a pixel from their exact positions. Unless [`Snap::Off`], the
/// sight is therefore half a screen pixel larger on all sides.
///
/// ```
/// use velvet_pan::{Lens, Rect, Screen, Snap, View};
///
/// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Off); // 320 x 180
/// let sight = view.sight();
/// assert!(sight.sees(&Rect::new([-15, 20], [1, 36]))); // by its width, not by its middle
/// assert!(!sight.sees(&Rect::new([-16, 20], [0, 36]))); // only touches
/// assert!(sight.sees_circle([330, 90], 12.0) && !sight.sees_circle([330, 90], 10.0));
/// assert!(sight.sees_point([0, 0]) && !sight.sees_point([320, 0])); // half-open
/// assert!(sight.padded(4.0).sees_point([320, 0]));
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Sight {
    centre: DVec2,
    /// Half of its size along the axes of the screen, in world units.
    half: DVec2,
    /// The right and down directions of the screen, as directions of the world.
    right: DVec2,
    down: DVec2,
    bounding: Rect,
    turned: bool,
}

impl View {
    /// Returns the part of the world that the canvas shows, to test whether sprites are visible.
    #[must_use]
    pub fn sight(&self) -> Sight {
        let slack = if self.snap() == Snap::Off { 0.0 } else { 0.5 };
        let half = self.canvas_size().as_dvec2() / 2.0;
        let centre = self.lens().to_world_axes(self.canvas_corner() + half);
        let direction = |axis: DVec2| self.lens().to_world_axes(axis) * self.scale();
        let (right, down) = (direction(DVec2::X), direction(DVec2::Y));
        let half = (half + slack) / self.scale();
        Sight::new(centre, half, right, down, self.lens().is_rotated())
    }

    /// Returns whether a sprite with this world rectangle is visible. For many sprites, call [`sight`](Self::sight) once.
    ///
    /// ```
    /// use velvet_pan::{Lens, Origin, Screen, Snap, View};
    ///
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
    /// // A cedar that stands below the picture, 48 units high: its crown is in view.
    /// assert!(view.sees(&view.sprite_rect([100, 200], [16, 48], Origin::Feet)));
    /// ```
    #[must_use]
    pub fn sees(&self, sprite: &Rect) -> bool {
        self.sight().sees(sprite)
    }
}

impl Sight {
    fn new(centre: DVec2, half: DVec2, right: DVec2, down: DVec2, turned: bool) -> Self {
        let around = right.abs() * half.x + down.abs() * half.y;
        let bounding = Rect { min: centre - around, max: centre + around };
        Self { centre, half, right, down, bounding, turned }
    }

    /// Returns this sight, larger by a margin on all sides, in world units, for example for shadows and glows. A negative
    /// margin makes it smaller, at most down to its middle. A margin that is not finite changes nothing.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let sight = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Off).sight(); // 320 x 180
    /// assert!(!sight.sees_point([325, 90]) && sight.padded(10.0).sees_point([325, 90]));
    /// ```
    #[must_use]
    pub fn padded(&self, margin: f64) -> Self {
        if !margin.is_finite() {
            return *self;
        }
        let half = (self.half + margin).max(DVec2::ZERO);
        Self::new(self.centre, half, self.right, self.down, self.turned)
    }

    /// Returns the smallest upright world rectangle that contains the sight.
    #[must_use]
    pub fn bounding(&self) -> Rect {
        self.bounding
    }

    /// Returns whether the view is rotated, so that the corners of [`bounding`](Self::bounding) are not visible.
    #[inline]
    pub(crate) fn is_turned(&self) -> bool {
        self.turned
    }

    /// Returns whether a world rectangle overlaps the sight. Touching edges do not overlap. Returns `false` for a
    /// rectangle with a NaN coordinate.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Rect, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
    /// let sight = view.sight(); // x from −0.5 to 320.5
    /// assert!(sight.sees(&Rect::from_corner_size([-15, 80], [16, 16])));
    /// assert!(!sight.sees(&Rect::from_corner_size([321, 80], [16, 16])));
    /// ```
    #[inline]
    #[must_use]
    pub fn sees(&self, rect: &Rect) -> bool {
        self.bounding.overlaps(rect) && (!self.turned || self.reaches(rect))
    }

    /// Two rotated boxes overlap if they overlap along the axes of both. This tests the axes of the screen.
    #[inline]
    fn reaches(&self, rect: &Rect) -> bool {
        // Only the part that may be visible: beside a vast extent, rounding would lose the edges.
        let Rect { min, max } = self.bounding;
        let rect = Rect { min: rect.min.max(min), max: rect.max.min(max) };
        if !rect.is_finite() {
            return true;
        }
        let (apart, half) = (rect.centre() - self.centre, rect.size() / 2.0);
        let reach = |axis: DVec2| half.dot(axis.abs());
        apart.dot(self.right).abs() < self.half.x + reach(self.right)
            && apart.dot(self.down).abs() < self.half.y + reach(self.down)
    }

    /// Returns whether a circle overlaps the sight. `radius` is in world units.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let sight = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Off).sight(); // 320 x 180
    /// assert!(sight.sees_circle([330, 90], 12.0) && !sight.sees_circle([330, 90], 10.0));
    /// ```
    #[inline]
    #[must_use]
    pub fn sees_circle(&self, centre: impl IntoWorld, radius: f64) -> bool {
        let outside = (self.along_screen(centre.into_world()).abs() - self.half).max(DVec2::ZERO);
        radius > 0.0 && outside.length_squared() < radius * radius
    }

    /// Returns whether a world point is in the sight. The left and the upper edge belong to it.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let sight = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Off).sight(); // 320 x 180
    /// assert!(sight.sees_point([0, 0]) && !sight.sees_point([320, 0]));
    /// ```
    #[inline]
    #[must_use]
    pub fn sees_point(&self, point: impl IntoWorld) -> bool {
        let along = self.along_screen(point.into_world());
        along.cmpge(-self.half).all() && along.cmplt(self.half).all()
    }

    /// Returns the offset from the middle to a point, along the axes of the screen, in world units.
    #[inline]
    fn along_screen(&self, point: DVec2) -> DVec2 {
        let apart = point - self.centre;
        DVec2::new(apart.dot(self.right), apart.dot(self.down))
    }
}
