//! Rectangles in pixels: of the screen, and of the canvas.

use glam::Vec2;

/// The same rectangle in another kind of pixels: two types, so that one is not taken for the other.
macro_rules! pixel_rect {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, Default, PartialEq)]
        pub struct $name {
            /// The top left corner.
            pub min: Vec2,
            /// The bottom right corner.
            pub max: Vec2,
        }

        impl $name {
            /// Creates a rectangle from two opposite corners, in any order.
            #[must_use]
            pub fn new(one: Vec2, other: Vec2) -> Self {
                Self { min: one.min(other), max: one.max(other) }
            }

            /// Returns the width and the height.
            #[must_use]
            pub fn size(&self) -> Vec2 {
                self.max - self.min
            }

            /// Returns the middle.
            #[must_use]
            pub fn centre(&self) -> Vec2 {
                self.min + self.size() / 2.0
            }
        }
    };
}

pixel_rect! {
    /// A rectangle in screen pixels, `y` down.
    ///
    /// ```
    /// use velvet_pan::{ScreenRect, glam::Vec2};
    ///
    /// let hut = ScreenRect::new(Vec2::new(24.0, 4.0), Vec2::new(8.0, 20.0));
    /// assert_eq!((hut.min, hut.size()), (Vec2::new(8.0, 4.0), Vec2::splat(16.0)));
    /// ```
    ScreenRect
}

pixel_rect! {
    /// A rectangle in canvas pixels, `y` down: where to draw a tile or a picture. The canvas is the screen, except with
    /// [`Snap::Subpixel`](crate::Snap::Subpixel): there it is a pixel larger, and its corner is at
    /// [`View::canvas_corner`](crate::View::canvas_corner).
    ///
    /// ```
    /// use velvet_pan::{CanvasRect, glam::Vec2};
    ///
    /// let tile = CanvasRect::new(Vec2::new(32.0, 0.0), Vec2::new(48.0, 16.0));
    /// assert_eq!(tile.centre(), Vec2::new(40.0, 8.0));
    /// ```
    CanvasRect
}
