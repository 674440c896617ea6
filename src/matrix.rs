//! The view as matrices for a graphics card.
//!
//! All are `f32`, column-major (`to_cols_array` gives what an upload wants), and made entry by
//! entry from the view's numbers after the subtraction in `f64`. The canvas they draw on is the
//! snapped one, unless [`Snap::Off`](crate::Snap::Off).

use glam::{DVec2, Mat4, Vec2, Vec4};

use crate::convert::IntoWorld;
use crate::view::View;

impl View {
    /// A world point relative to the camera, subtracted in `f64`: what the relative matrices take.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()), [1e7, 0.0], Snap::Off);
    /// assert_eq!(view.relative([1e7 + 0.25, 2.0]), Vec2::new(0.25, 2.0));
    /// ```
    #[inline]
    #[must_use]
    pub fn relative(&self, world: impl IntoWorld) -> Vec2 {
        (world.into_world() - self.centre()).as_vec2()
    }

    /// From points [`relative`](Self::relative) to the camera to canvas pixels, `y` down. Use this
    /// one: it is as exact ten million units from the origin as at it.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec3};
    /// let view = View::new(Lens::new(&Screen::default()), [1e7, 0.0], Snap::Off);
    /// let point = view.relative([1e7 + 0.25, 2.0]).extend(0.0);
    /// assert_eq!(view.canvas_matrix().transform_point3(point), Vec3::new(160.25, 92.0, 0.0));
    /// ```
    #[must_use]
    pub fn canvas_matrix(&self) -> Mat4 {
        self.matrix(DVec2::ZERO, |canvas| canvas)
    }

    /// From world points to canvas pixels in one go. Plain, and coarse far from the origin, where
    /// an `f32` no longer holds a pixel's fraction.
    #[must_use]
    pub fn plain_canvas_matrix(&self) -> Mat4 {
        self.matrix(self.centre(), |canvas| canvas)
    }

    /// From points [`relative`](Self::relative) to the camera to clip space: `x` right and `y` up
    /// from −1 to 1 over the canvas, depth unchanged.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec3};
    /// let view = View::new(Lens::new(&Screen::default()), [500.0, 40.0], Snap::Off);
    /// let corner = view.relative([340.0, -50.0]).extend(0.0); // the top left of the screen
    /// assert_eq!(view.clip_matrix().transform_point3(corner), Vec3::new(-1.0, 1.0, 0.0));
    /// ```
    #[must_use]
    pub fn clip_matrix(&self) -> Mat4 {
        self.matrix(DVec2::ZERO, |canvas| self.clip(canvas))
    }

    /// From world points to clip space in one go; see
    /// [`plain_canvas_matrix`](Self::plain_canvas_matrix) for when not to.
    #[must_use]
    pub fn plain_clip_matrix(&self) -> Mat4 {
        self.matrix(self.centre(), |canvas| self.clip(canvas))
    }

    /// An affine matrix from its effect on the axes and on the origin; `origin` is the point,
    /// relative to which the input is given, as seen from the view's centre.
    fn matrix(&self, origin: DVec2, project: impl Fn(DVec2) -> DVec2) -> Mat4 {
        // The middle of the view on the canvas; the drawn corner may differ from the true one.
        let size = self.size().as_dvec2();
        let true_corner = self.lens().to_screen_axes(self.centre()) - size / 2.0;
        let middle = size / 2.0 + (true_corner - self.drawn_corner());
        let zero = self.lens().to_screen_axes(-origin) + middle;
        let column = |axis: DVec2| {
            let along = self.lens().to_screen_axes(axis);
            (project(zero + along) - project(zero)).as_vec2()
        };
        let (x, y) = (column(DVec2::X), column(DVec2::Y));
        let w = project(zero).as_vec2();
        Mat4::from_cols(
            Vec4::new(x.x, x.y, 0.0, 0.0),
            Vec4::new(y.x, y.y, 0.0, 0.0),
            Vec4::Z,
            Vec4::new(w.x, w.y, 0.0, 1.0),
        )
    }

    /// Clip space from canvas pixels.
    fn clip(&self, canvas: DVec2) -> DVec2 {
        let unit = canvas / self.canvas_size().as_dvec2();
        DVec2::new(2.0 * unit.x - 1.0, 1.0 - 2.0 * unit.y)
    }
}
