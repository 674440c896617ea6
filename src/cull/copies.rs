//! The visible copies of a picture that repeats.

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::pixel_rect::CanvasRect;
use crate::base::rect::Rect;
use crate::cull::lattice::{AxisCells, CellWindow, Lattice};
use crate::lens::screen::YAxis;
use crate::view::view::View;

impl View {
    /// Returns the visible copies of a picture that fills `rect` and repeats every `repeat` world units on each axis,
    /// in rows from the top left. On an axis on which `repeat` is not above 0 there is one copy.
    ///
    /// The picture may be smaller than `repeat`, with gaps between the copies, or larger, so that copies overlap. At
    /// most the last 4,096 columns and rows are returned. A `repeat` below a billionth of the picture, or below a
    /// millionth of a screen pixel, counts as 0.
    ///
    /// ```
    /// use velvet_pan::{Lens, Rect, Screen, Snap, View};
    ///
    /// let view = View::new(Lens::new(&Screen::default()), [2000, 90], Snap::Whole);
    /// let ridge = Rect::new([0, 40], [256, 180]);
    /// let positions: Vec<f32> = view.copies(&ridge, [256, 0]).map(|copy| copy.rect.min.x).collect();
    /// assert_eq!(positions, [-48.0, 208.0]);
    /// ```
    #[must_use]
    pub fn copies(&self, rect: &Rect, repeat: impl IntoWorld) -> Copies {
        let (size, repeat) = (rect.size(), repeat.into_world());
        let usable = rect.is_finite() && size.min_element() > 0.0;
        let step = |axis: usize| {
            let least = (size[axis] * 1e-9).max(1e-6 / self.scale());
            let repeats = repeat[axis] > least && repeat[axis].is_finite();
            if repeats { repeat[axis] } else { size[axis].max(f64::MIN_POSITIVE) }
        };
        let step = DVec2::new(step(0), step(1));
        let top = if self.lens().y_axis() == YAxis::Down { rect.min.y } else { rect.max.y };
        let corner = if usable { DVec2::new(rect.min.x, top) } else { DVec2::ZERO };
        let mut lattice = Lattice::new(self, corner, step);
        for (cells, axis) in [(&mut lattice.x, 0), (&mut lattice.y, 1)] {
            cells.past = if usable { size[axis] / step[axis] - 1.0 } else { 0.0 };
            if !usable {
                (cells.first, cells.end) = (0, 0);
            } else if repeat[axis] != step[axis] {
                (cells.first, cells.end) = (0, 1);
            }
        }
        Copies::new(CellWindow::new(self, lattice))
    }
}

/// One copy of a repeating picture.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PictureCopy {
    /// The number of copies to the right of the first one; negative to the left.
    pub column: i64,
    /// The number of copies below the first one, as seen on the screen; negative above.
    pub row: i64,
    /// The difference from the first copy to this one, in world units.
    pub offset: DVec2,
    /// Its rectangle in canvas pixels. Adjoining copies share their edges. With a rotated view it is the bounding box
    /// of the rotated copy.
    pub rect: CanvasRect,
}

/// The visible copies of a repeating picture, in rows from the top left: see [`View::copies`].
#[derive(Clone, Copy, Debug)]
pub struct Copies {
    window: CellWindow,
    row: i64,
    /// The columns that remain in the row.
    left: (i64, i64),
}

/// The maximum number of columns and rows in the list.
const MAX_COPIES: i64 = 4096;

/// At most the last [`MAX_COPIES`] of a range.
fn last_of((first, end): (i64, i64)) -> (i64, i64) {
    (first.max(end.saturating_sub(MAX_COPIES)), end)
}

impl Copies {
    fn new(window: CellWindow) -> Self {
        let (row, end) = last_of(window.rows);
        let left = if row < end { last_of(window.span(row)) } else { (0, 0) };
        Self { window, row, left }
    }
}

impl Iterator for Copies {
    type Item = PictureCopy;

    fn next(&mut self) -> Option<PictureCopy> {
        while self.left.0 >= self.left.1 {
            if self.row + 1 >= self.window.rows.1 {
                return None;
            }
            self.row += 1;
            self.left = last_of(self.window.span(self.row));
        }
        let (column, row) = (self.left.0, self.row);
        self.left.0 += 1;
        let Lattice { x, y, .. } = &self.window.lattice;
        let past = |cells: &AxisCells, number: i64| number as f64 + 1.0 + cells.past;
        let (left, top) = (column as f64, row as f64);
        let rows = self.window.row_lines(top, past(y, row));
        let rect = self.window.rect((left, past(x, column)), &rows);
        let offset = self.window.lattice.world(left, top) - self.window.lattice.world(0.0, 0.0);
        Some(PictureCopy { column, row, offset, rect })
    }
}
