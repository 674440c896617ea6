//! The visible part of one large picture.

use core::ops::Range;

use glam::UVec2;

use crate::base::pixel_rect::CanvasRect;
use crate::base::rect::Rect;
use crate::cull::grid::Grid;
use crate::cull::lattice::CellWindow;
use crate::view::view::View;

impl View {
    /// Returns the visible part of a large picture, and where to draw it on the canvas. The picture fills the world
    /// rectangle `rect` and has `pixels` columns and rows of pixels. Returns `None` if nothing of it is visible.
    ///
    /// ```
    /// use velvet_pan::{Lens, Rect, Screen, Snap, View, glam::{UVec2, Vec2}};
    ///
    /// let view = View::new(Lens::new(&Screen::default()), [1000, 500], Snap::Whole);
    /// let map = Rect::new([0, 0], [4096, 2048]); // one large picture, two world units to a pixel
    /// let part = view.visible_part(&map, UVec2::new(2048, 1024)).expect("in sight");
    /// assert_eq!((part.columns(), part.rows()), (420..580, 205..295));
    /// assert_eq!(part.rect.min, Vec2::new(0.0, 0.0));
    /// assert_eq!(part.rect.size(), Vec2::new(320.0, 180.0));
    /// ```
    #[must_use]
    pub fn visible_part(&self, rect: &Rect, pixels: UVec2) -> Option<PicturePart> {
        if !rect.is_finite() || pixels.min_element() == 0 {
            return None;
        }
        let grid =
            Grid::new(pixels.x, pixels.y, rect.size() / pixels.as_dvec2()).with_origin(rect.min);
        let window = CellWindow::new(self, grid.lattice(self));
        let ((left, right), (top, bottom)) = (window.columns, window.rows);
        let rows = window.row_lines(top as f64, bottom as f64);
        (left < right).then(|| PicturePart {
            min: UVec2::new(left as u32, top as u32),
            max: UVec2::new(right as u32, bottom as u32),
            rect: window.rect((left as f64, right as f64), &rows),
        })
    }
}

/// The visible part of a large picture: see [`View::visible_part`].
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PicturePart {
    /// The first visible pixel of the picture, per axis, from its top left corner.
    pub min: UVec2,
    /// One past the last visible pixel of the picture, per axis.
    pub max: UVec2,
    /// The rectangle of that part in canvas pixels. With a rotated view it is the bounding box of the rotated part.
    pub rect: CanvasRect,
}

impl PicturePart {
    /// Returns the visible columns of the picture's pixels.
    #[must_use]
    pub fn columns(&self) -> Range<u32> {
        self.min.x..self.max.x
    }

    /// Returns the visible rows of the picture's pixels.
    #[must_use]
    pub fn rows(&self) -> Range<u32> {
        self.min.y..self.max.y
    }
}
