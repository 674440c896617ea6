//! Equal cells across a view: the lines between them, and which of them an area touches.

use glam::{DVec2, Vec2};

use crate::maths::{floor_to_i64, round_to_i64};
use crate::rect::ScreenRect;
use crate::snap::Snap;
use crate::view::View;

/// Cell numbers beyond this are no longer told apart by the arithmetic.
const FARTHEST: i64 = 1 << 52;

/// Equal cells in rows and columns, the first at a corner that is the top left one on the screen.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Lattice {
    pub x: AxisCells,
    pub y: AxisCells,
    /// +1 where the world's `y` runs down, −1 where it runs up.
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

    /// Where the crossing of two lines is drawn on the canvas of an upright view. Every cell that
    /// shares the crossing gets the same answer, so there are no seams.
    #[inline]
    pub fn drawn(&self, view: &View, column: f64, row: f64) -> Vec2 {
        let pixels = DVec2::new(self.x.line(column), self.y.line(row));
        let corner = view.drawn_corner();
        if view.snap() == Snap::Off {
            return (pixels - corner).as_vec2();
        }
        let whole = DVec2::new(round_to_i64(pixels.x) as f64, round_to_i64(pixels.y) as f64);
        (whole - corner).as_vec2()
    }

    /// A world point in columns and rows.
    pub fn cell(&self, world: DVec2) -> DVec2 {
        let (x, y) = (world.x - self.x.start, world.y * self.y_sign - self.y.start);
        DVec2::new(x / self.x.step, y / self.y.step)
    }

    /// The world point where two lines cross.
    pub fn world(&self, column: f64, row: f64) -> DVec2 {
        let down = self.y.start + row * self.y.step;
        DVec2::new(self.x.start + column * self.x.step, down * self.y_sign)
    }
}

/// The cells along one axis: line `i` is at `(start + i·step)·scale` screen pixels, and cell `i`
/// lies between the lines `i` and `i + 1`.
#[derive(Clone, Copy, Debug)]
pub(crate) struct AxisCells {
    pub start: f64,
    pub step: f64,
    scale: f64,
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
        let (first, end) = (-FARTHEST, FARTHEST);
        Self { start, step, scale, before: 0.0, past: 0.0, first, end }
    }

    #[inline]
    pub fn line(&self, number: f64) -> f64 {
        (self.start + number * self.step) * self.scale
    }

    /// The cells whose pictures touch `low..high`, in screen pixels.
    #[inline]
    pub fn touching(&self, low: f64, high: f64) -> (i64, i64) {
        let at = |edge: f64| (edge / self.scale - self.start) / self.step;
        let first = self
            .settled(at(low) - self.past, |cell| self.line(cell as f64 + 1.0 + self.past) > low);
        let end = self
            .settled(at(high) + self.before, |cell| self.line(cell as f64 - self.before) >= high);
        self.limited(first, end)
    }

    /// The cells whose pictures touch a span given in cells.
    #[inline]
    pub fn touching_cells(&self, low: f64, high: f64) -> (i64, i64) {
        let end = floor_to_i64(-(high + self.before)).saturating_neg();
        self.limited(floor_to_i64(low - self.past), end)
    }

    /// The first cell for which `is_past` holds, near `guess`: the division that guessed it may
    /// have rounded, the lines themselves decide.
    #[inline]
    fn settled(&self, guess: f64, is_past: impl Fn(i64) -> bool) -> i64 {
        let mut cell = floor_to_i64(guess).clamp(-FARTHEST, FARTHEST);
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

/// What a canvas shows of a lattice: the window of rows and columns, and for a turned view the
/// span of each row.
#[derive(Clone, Copy, Debug)]
pub(crate) struct CellWindow {
    pub lattice: Lattice,
    pub columns: (i64, i64),
    pub rows: (i64, i64),
    /// The canvas' corners in cells, in order around it, where the view is turned.
    outline: Option<[DVec2; 4]>,
    pub view: View,
}

impl CellWindow {
    pub fn new(view: &View, lattice: Lattice) -> Self {
        let outline = view.lens().is_rotated().then(|| outline(view, &lattice));
        let (columns, rows) = match &outline {
            Some(corners) => {
                let [x, y] = [0, 1].map(|axis| span(corners.map(|corner| corner[axis])));
                (lattice.x.touching_cells(x.0, x.1), lattice.y.touching_cells(y.0, y.1))
            }
            None => {
                let low = view.drawn_corner();
                let high = low + view.canvas_size().as_dvec2();
                (lattice.x.touching(low.x, high.x), lattice.y.touching(low.y, high.y))
            }
        };
        let empty = columns.0 >= columns.1 || rows.0 >= rows.1;
        let (columns, rows) = if empty { ((0, 0), (0, 0)) } else { (columns, rows) };
        Self { lattice, columns, rows, outline, view: *view }
    }

    /// The columns in view of a row.
    #[inline]
    pub fn span(&self, row: i64) -> (i64, i64) {
        match &self.outline {
            None => self.columns,
            Some(corners) => {
                let Lattice { x, y, .. } = &self.lattice;
                let (top, bottom) = (row as f64 - y.before, row as f64 + 1.0 + y.past);
                band_span(corners, top, bottom)
                    .map_or((0, 0), |(low, high)| x.touching_cells(low, high))
            }
        }
    }

    /// How many cells are in view.
    pub fn count(&self) -> usize {
        let length = |(first, end): (i64, i64)| usize::try_from(end - first).unwrap_or(0);
        match self.outline {
            None => length(self.columns).saturating_mul(length(self.rows)),
            Some(_) => (self.rows.0..self.rows.1).map(|row| length(self.span(row))).sum(),
        }
    }

    /// Where a crossing of lines is on the canvas.
    #[inline]
    pub fn place(&self, column: f64, row: f64) -> Vec2 {
        match self.outline {
            None => self.lattice.drawn(&self.view, column, row),
            Some(_) => self.view.place(self.lattice.world(column, row)),
        }
    }

    /// The canvas rectangle between two crossings; with a turned view its bounding box.
    #[inline]
    pub fn rect(&self, from: (f64, f64), to: (f64, f64)) -> ScreenRect {
        if self.outline.is_some() {
            let (one, other) = (self.lattice.world(from.0, from.1), self.lattice.world(to.0, to.1));
            return self.view.screen_rect(&crate::rect::Rect::new(one, other));
        }
        ScreenRect {
            min: self.lattice.drawn(&self.view, from.0, from.1),
            max: self.lattice.drawn(&self.view, to.0, to.1),
        }
    }
}

/// The canvas' corners, in order around it, in cells.
fn outline(view: &View, lattice: &Lattice) -> [DVec2; 4] {
    let (low, size) = (view.drawn_corner(), view.canvas_size().as_dvec2());
    [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]
        .map(|corner| lattice.cell(view.lens().to_world_axes(low + size * DVec2::from(corner))))
}

/// The least and the largest of some numbers.
fn span(values: [f64; 4]) -> (f64, f64) {
    values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), value| {
        (low.min(*value), high.max(*value))
    })
}

/// How far a convex outline reaches along `x` within the band `top < y < bottom`.
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
