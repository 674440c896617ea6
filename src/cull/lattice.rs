//! A lattice of equal cells across a view: its lines, and the cells that an area touches.

use glam::{DVec2, Vec2};

use crate::base::maths::{MAX_EXACT_INTEGER, ceil_to_i64, floor_to_i64, round_to_i64};
use crate::base::pixel_rect::CanvasRect;
use crate::lens::screen::Snap;
use crate::view::view::View;

/// Equal cells in rows and columns. The first one is at the corner that is the top left one on the screen.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Lattice {
    pub x: AxisCells,
    pub y: AxisCells,
    /// +1 if the world's `y` points down, −1 if it points up.
    y_sign: f64,
}

impl Lattice {
    /// Cells of this size in world units; `corner` is the top left one, as seen on the screen, of
    /// cell 0, 0.
    pub fn new(view: &View, corner: DVec2, step: DVec2) -> Self {
        let y_sign = view.lens().y_axis().sign();
        let (x, y) = (corner.x, corner.y * y_sign);
        let scale = view.scale();
        Self { x: AxisCells::new(x, step.x, scale), y: AxisCells::new(y, step.y, scale), y_sign }
    }

    /// Converts a world point to columns and rows.
    pub fn cell(&self, world: DVec2) -> DVec2 {
        let (x, y) = (world.x - self.x.start, world.y * self.y_sign - self.y.start);
        DVec2::new(x / self.x.step, y / self.y.step)
    }

    /// Returns the world point where two lines cross.
    #[inline]
    pub fn world(&self, column: f64, row: f64) -> DVec2 {
        DVec2::new(self.world_x(column), self.world_y(row))
    }

    #[inline]
    fn world_x(&self, column: f64) -> f64 {
        self.x.start + column * self.x.step
    }

    #[inline]
    fn world_y(&self, row: f64) -> f64 {
        (self.y.start + row * self.y.step) * self.y_sign
    }
}

/// The cells along one axis. Line `i` is at `(start + i·step)·scale` screen pixels, and cell `i` lies between the
/// lines `i` and `i + 1`.
#[derive(Clone, Copy, Debug)]
pub(crate) struct AxisCells {
    pub start: f64,
    pub step: f64,
    scale: f64,
    /// Cells per screen pixel.
    per_pixel: f64,
    /// How far the picture of a cell reaches beyond it, in cells: before its first line, and past
    /// its last. Below 0 where it does not fill its cell.
    pub before: f64,
    pub past: f64,
    /// The cells that there are: the first, and one past the last.
    pub first: i64,
    pub end: i64,
}

impl AxisCells {
    fn new(start: f64, step: f64, scale: f64) -> Self {
        let (first, end) = (-MAX_EXACT_INTEGER, MAX_EXACT_INTEGER);
        let per_pixel = 1.0 / (scale * step);
        Self { start, step, scale, per_pixel, before: 0.0, past: 0.0, first, end }
    }

    #[inline]
    pub fn line(&self, number: f64) -> f64 {
        (self.start + number * self.step) * self.scale
    }

    /// Returns the cells whose pictures touch `low..high`, in screen pixels.
    #[inline]
    pub fn touching(&self, low: f64, high: f64) -> (i64, i64) {
        let at = |edge: f64| (edge - self.start * self.scale) * self.per_pixel;
        let first = floor_to_i64(at(low) - self.past);
        let first = self.settled(first, |cell| self.line(cell as f64 + 1.0 + self.past) > low);
        let end = ceil_to_i64(at(high) + self.before);
        let end = self.settled(end, |cell| self.line(cell as f64 - self.before) >= high);
        self.limited(first, end)
    }

    /// Returns the cells whose pictures touch a span, given in cells.
    #[inline]
    pub fn touching_cells(&self, (low, high): (f64, f64)) -> (i64, i64) {
        self.limited(floor_to_i64(low - self.past), ceil_to_i64(high + self.before))
    }

    /// Returns the first cell near `guess` for which `is_past` holds. The sum behind the guess may be rounded, so the
    /// lines decide.
    #[inline]
    fn settled(&self, guess: i64, is_past: impl Fn(i64) -> bool) -> i64 {
        let mut cell = guess.clamp(-MAX_EXACT_INTEGER, MAX_EXACT_INTEGER);
        for _nearby in 0..4 {
            if !is_past(cell) {
                cell += 1;
            } else if is_past(cell - 1) {
                cell -= 1;
            } else {
                break;
            }
        }
        cell
    }

    #[inline]
    fn limited(&self, first: i64, end: i64) -> (i64, i64) {
        let first = first.clamp(self.first, self.end);
        (first, end.clamp(first, self.end))
    }
}

/// The part of a lattice that a canvas shows: the range of rows and columns, and for a rotated view the range of each
/// row.
#[derive(Clone, Copy, Debug)]
pub(crate) struct CellWindow {
    pub lattice: Lattice,
    pub columns: (i64, i64),
    pub rows: (i64, i64),
    /// The corner of the canvas as drawn, and whether drawing uses whole pixels.
    corner: DVec2,
    snapped: bool,
    turned: Option<Turned>,
}

/// Additional values of a rotated view.
#[derive(Clone, Copy, Debug)]
struct Turned {
    view: View,
    /// The corners of the canvas in cells, in order around it.
    outline: [DVec2; 4],
}

impl Turned {
    /// Returns the contribution of this world coordinate to a position, in world units along the axes of the screen
    /// from its middle.
    #[inline]
    fn share(&self, axis: usize, world: f64) -> DVec2 {
        self.view.lens().world_axes()[axis] * (world - self.view.centre()[axis])
    }

    /// Returns the position on the canvas for the sum of two contributions.
    #[inline]
    fn place(&self, across: DVec2, down: DVec2) -> Vec2 {
        let middle = self.view.lens().size().as_dvec2() / 2.0;
        ((across + down) * self.view.scale() + middle).as_vec2()
    }
}

/// Two lines of rows: everything that the cells between them have in common.
///
/// In an upright view, their positions on the canvas. In a rotated one, the smallest and the largest contribution to a
/// position.
#[derive(Clone, Copy, Debug)]
pub(crate) struct RowLines {
    low: DVec2,
    high: DVec2,
}

impl CellWindow {
    #[inline]
    pub fn new(view: &View, lattice: Lattice) -> Self {
        let corner = view.canvas_corner();
        let high = corner + view.canvas_size().as_dvec2();
        let (columns, rows, turned) = if view.lens().is_rotated() {
            let outline = outline(view, &lattice);
            let [x, y] = [0, 1].map(|axis| span(outline.map(|corner| corner[axis])));
            let (columns, rows) = (lattice.x.touching_cells(x), lattice.y.touching_cells(y));
            (columns, rows, Some(Turned { view: *view, outline }))
        } else {
            (lattice.x.touching(corner.x, high.x), lattice.y.touching(corner.y, high.y), None)
        };
        let empty = columns.0 >= columns.1 || rows.0 >= rows.1;
        let (columns, rows) = if empty { ((0, 0), (0, 0)) } else { (columns, rows) };
        let snapped = view.snap() != Snap::Off;
        Self { lattice, columns, rows, corner, snapped, turned }
    }

    /// Returns the visible columns of a row.
    #[inline]
    pub fn span(&self, row: i64) -> (i64, i64) {
        let Some(Turned { outline, .. }) = &self.turned else { return self.columns };
        let Lattice { x, y, .. } = &self.lattice;
        let (top, bottom) = (row as f64 - y.before, row as f64 + 1.0 + y.past);
        band_span(outline, top, bottom).map_or((0, 0), |span| x.touching_cells(span))
    }

    /// Returns the number of cells in view.
    pub fn count(&self) -> usize {
        let length = |(first, end): (i64, i64)| usize::try_from(end - first).unwrap_or(0);
        match self.turned {
            None => length(self.columns).saturating_mul(length(self.rows)),
            Some(_) => (self.rows.0..self.rows.1).map(|row| length(self.span(row))).sum(),
        }
    }

    /// Returns the position of a crossing of lines on the canvas. It is the same for every cell that shares the
    /// crossing, so there are no seams.
    #[inline]
    pub fn position(&self, column: f64, row: f64) -> Vec2 {
        if let Some(Turned { view, .. }) = &self.turned {
            return view.canvas_position(self.lattice.world(column, row));
        }
        Vec2::new(self.upright_x(column), self.upright_y(row))
    }

    #[inline]
    fn upright_x(&self, column: f64) -> f32 {
        self.upright(self.lattice.x.line(column), self.corner.x)
    }

    #[inline]
    fn upright_y(&self, row: f64) -> f32 {
        self.upright(self.lattice.y.line(row), self.corner.y)
    }

    #[inline]
    fn upright(&self, pixels: f64, corner: f64) -> f32 {
        let pixels = if self.snapped { round_to_i64(pixels) as f64 } else { pixels };
        (pixels - corner) as f32
    }

    /// Returns two lines of rows, for [`rect`](Self::rect).
    #[inline]
    pub fn row_lines(&self, top: f64, bottom: f64) -> RowLines {
        let [one, other] = [top, bottom].map(|row| match &self.turned {
            Some(turned) => turned.share(1, self.lattice.world_y(row)),
            None => DVec2::new(0.0, f64::from(self.upright_y(row))),
        });
        RowLines { low: one.min(other), high: one.max(other) }
    }

    /// Returns the canvas rectangle between two lines of columns and two of rows; with a turned view its bounding box.
    ///
    /// Since a place is a sum of what column and row add to it, its least is the sum of the two least.
    #[inline]
    pub fn rect(&self, (left, right): (f64, f64), rows: &RowLines) -> CanvasRect {
        let Some(turned) = &self.turned else {
            let min = Vec2::new(self.upright_x(left), rows.low.y as f32);
            return CanvasRect { min, max: Vec2::new(self.upright_x(right), rows.high.y as f32) };
        };
        let [one, other] = [left, right].map(|at| turned.share(0, self.lattice.world_x(at)));
        CanvasRect {
            min: turned.place(one.min(other), rows.low),
            max: turned.place(one.max(other), rows.high),
        }
    }
}

/// Returns the corners of the canvas, in order around it, in cells.
fn outline(view: &View, lattice: &Lattice) -> [DVec2; 4] {
    let (low, size) = (view.canvas_corner(), view.canvas_size().as_dvec2());
    [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]
        .map(|corner| lattice.cell(view.lens().to_world_axes(low + size * DVec2::from(corner))))
}

/// Returns the smallest and the largest of some numbers.
fn span(values: [f64; 4]) -> (f64, f64) {
    values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), value| {
        (low.min(*value), high.max(*value))
    })
}

/// Returns the range of a convex outline along `x` within the band `top < y < bottom`.
fn band_span(corners: &[DVec2; 4], top: f64, bottom: f64) -> Option<(f64, f64)> {
    let (mut low, mut high) = (f64::INFINITY, f64::NEG_INFINITY);
    for index in 0..4 {
        let (a, b) = (corners[index], corners[(index + 1) % 4]);
        let (first, last) = if a.y <= b.y { (a, b) } else { (b, a) };
        if last.y < top || first.y > bottom {
            continue;
        }
        let at = |y: f64| first.x + (last.x - first.x) * ((y - first.y) / (last.y - first.y));
        let start = if first.y >= top { first.x } else { at(top) };
        let end = if last.y <= bottom { last.x } else { at(bottom) };
        low = low.min(start.min(end));
        high = high.max(start.max(end));
    }
    (low < high).then_some((low, high))
}
