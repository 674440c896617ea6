//! The view as matrices for a graphics card.
//!
//! All are `f32` and column-major (`to_cols_array` gives the layout for an upload). They are computed entry by entry
//! from the view's numbers, after the subtraction in `f64`. They draw on the snapped canvas, unless snapping is
//! [`Snap::Off`](crate::Snap::Off).

use glam::{DVec2, Mat4, Vec2, Vec4};

use crate::base::convert::IntoWorld;
use crate::base::window::WindowSize;
use crate::lens::fit::Placement;
use crate::view::view::View;

impl View {
    /// Returns a world point relative to the camera, in `f32`, for the relative matrices. The subtraction is done in
    /// `f64`, so that it is exact far from the origin.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()), [1e7, 0.0], Snap::Off);
    /// assert_eq!(view.world_to_relative([1e7 + 0.25, 2.0]), Vec2::new(0.25, 2.0));
    /// ```
    #[inline]
    #[must_use]
    pub fn world_to_relative(&self, world: impl IntoWorld) -> Vec2 {
        (world.into_world() - self.centre()).as_vec2()
    }

    /// Returns the matrix from points relative to the camera ([`world_to_relative`](Self::world_to_relative)) to canvas
    /// pixels, `y` down. It is exact at any distance from the origin.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec3};
    /// let view = View::new(Lens::new(&Screen::default()), [1e7, 0.0], Snap::Off);
    /// let point = view.world_to_relative([1e7 + 0.25, 2.0]).extend(0.0);
    /// assert_eq!(view.relative_to_canvas_matrix().transform_point3(point), Vec3::new(160.25, 92.0, 0.0));
    /// ```
    #[must_use]
    pub fn relative_to_canvas_matrix(&self) -> Mat4 {
        self.matrix(DVec2::ZERO, |canvas| canvas)
    }

    /// Returns the matrix from world points to canvas pixels, `y` down. It is inexact far from the origin: at one pixel
    /// per unit, by 1/32 pixel at 3e5 units and by half a pixel at 4e6 units.
    #[must_use]
    pub fn world_to_canvas_matrix(&self) -> Mat4 {
        self.matrix(self.centre(), |canvas| canvas)
    }

    /// Returns the matrix from points relative to the camera ([`world_to_relative`](Self::world_to_relative)) to clip
    /// space: `x` right and `y` up, from −1 to 1 over the canvas. Depth is unchanged.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec3};
    /// let view = View::new(Lens::new(&Screen::default()), [500.0, 40.0], Snap::Off);
    /// let corner = view.world_to_relative([340.0, -50.0]).extend(0.0); // the top left of the screen
    /// assert_eq!(view.relative_to_clip_matrix().transform_point3(corner), Vec3::new(-1.0, 1.0, 0.0));
    /// ```
    #[must_use]
    pub fn relative_to_clip_matrix(&self) -> Mat4 {
        self.matrix(DVec2::ZERO, |canvas| self.clip(canvas))
    }

    /// Returns the matrix from world points to clip space. It is inexact far from the origin, like
    /// [`world_to_canvas_matrix`](Self::world_to_canvas_matrix).
    #[must_use]
    pub fn world_to_clip_matrix(&self) -> Mat4 {
        self.matrix(self.centre(), |canvas| self.clip(canvas))
    }

    /// Returns the matrix from points relative to the camera ([`world_to_relative`](Self::world_to_relative)) to the clip
    /// space of the window, to draw straight into the window without a canvas. A point is drawn at its
    /// [`world_to_window`](Self::world_to_window).
    ///
    /// The viewport is the whole window, or in a split screen the view's part of it.
    /// [`Placement::scissor`](crate::Placement::scissor) keeps the bars clear; it is not the viewport, which would
    /// stretch and shift the picture.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec3};
    /// let view = View::new(Lens::new(&Screen::default()), [500, 40], Snap::Off).with_window((1300, 720));
    /// let corner = view.world_to_relative([340, -50]).extend(0.0); // the top left of the screen, beside a bar of 10 pixels
    /// let clip = view.relative_to_window_clip_matrix().transform_point3(corner);
    /// assert_eq!(clip, Vec3::new(-1.0 + 2.0 * 10.0 / 1300.0, 1.0, 0.0));
    /// ```
    #[must_use]
    pub fn relative_to_window_clip_matrix(&self) -> Mat4 {
        let Placement { origin, scale, .. } = self.placement();
        let WindowSize { width, height } = self.window_size();
        let window = DVec2::new(width.into(), height.into()).max(DVec2::ONE);
        self.matrix(DVec2::ZERO, |canvas| clip((origin + canvas * scale) / window))
    }

    /// Returns the matrix from canvas pixels to clip space, for vertices from
    /// [`canvas_position`](Self::canvas_position) or a tile's rectangle.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec3};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole); // 320 x 180
    /// let matrix = view.canvas_to_clip_matrix();
    /// assert_eq!(matrix.transform_point3(Vec3::ZERO), Vec3::new(-1.0, 1.0, 0.0));
    /// assert_eq!(matrix.transform_point3(Vec3::new(320.0, 90.0, 0.0)), Vec3::new(1.0, 0.0, 0.0));
    /// ```
    #[must_use]
    pub fn canvas_to_clip_matrix(&self) -> Mat4 {
        let size = self.canvas_size().as_vec2();
        Mat4::from_cols(
            Vec4::new(2.0 / size.x, 0.0, 0.0, 0.0),
            Vec4::new(0.0, -2.0 / size.y, 0.0, 0.0),
            Vec4::Z,
            Vec4::new(-1.0, 1.0, 0.0, 1.0),
        )
    }

    /// Returns an affine matrix from its effect on the axes and on the origin. `origin` is the point to which the input
    /// is relative, as seen from the view's centre.
    fn matrix(&self, origin: DVec2, project: impl Fn(DVec2) -> DVec2) -> Mat4 {
        // The middle of the view on the canvas; the drawn corner may differ from the true one.
        let size = self.size().as_dvec2();
        let middle = size / 2.0 + (self.true_corner() - self.canvas_corner());
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

    /// Converts canvas pixels to clip space.
    fn clip(&self, canvas: DVec2) -> DVec2 {
        clip(canvas / self.canvas_size().as_dvec2())
    }
}

/// Converts fractions of a target, from its top left corner, to clip space.
fn clip(fraction: DVec2) -> DVec2 {
    DVec2::new(2.0 * fraction.x - 1.0, 1.0 - 2.0 * fraction.y)
}
