//! Which tiles of a grid are in view, and where each is drawn.

use core::ops::Range;

use glam::{DVec2, Vec2};

use crate::convert::IntoWorld;
use crate::grid::Grid;
use crate::maths::{floor_to_i64, round_to_i64};
use crate::rect::{Rect, ScreenRect};
use crate::snap::Snap;
use crate::view::View;

impl View {
    /// The tiles of `grid` that touch the canvas, `[corner, corner + canvas)`, exactly: none too
    /// few while scrolling, none too many. The cost is that of the visible rows, whatever the
    /// map's size.
    ///
    /// ```
    /// use velvet_pan::{Grid, Lens, Screen, Snap, View};
    ///
    /// let grid = Grid::new(240, 60, [16, 16]);
    /// let map = vec![1_u8; 240 * 60];
    /// let view = View::new(Lens::new(&Screen::default()), [1000, 500], Snap::Whole);
    ///
    /// let mut drawn = 0;
    /// for row in view.tiles(&grid).rows() {
    ///     for (tile, number) in row.tiles().zip(&map[row.indices()]) {
    ///         // draw picture `number` at `tile.rect`
    ///         assert_eq!(tile.rect.size().x, 16.0);
    ///         drawn += usize::from(*number != 0);
    ///     }
    /// }
    /// assert_eq!(drawn, 21 * 12);
    /// ```
    #[must_use]
    pub fn tiles(&self, grid: &Grid) -> Tiles {
        Tiles::new(self, grid)
    }

    /// Where a world point is in a grid: columns from its left and rows from its top, with
    /// fractions; outside the grid too.
    ///
    /// The tile under the pointer is this of [`world`](Self::world), rounded down.
    ///
    /// ```
    /// # use velvet_pan::{Grid, Lens, Screen, Snap, View, glam::DVec2};
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
    /// let grid = Grid::new(240, 60, [16, 16]);
    /// assert_eq!(view.in_grid(&grid, [40, 8]), DVec2::new(2.5, 0.5));
    /// ```
    #[must_use]
    pub fn in_grid(&self, grid: &Grid, world: impl IntoWorld) -> DVec2 {
        GridLines::new(self, grid).cell(world.into_world())
    }
}

/// The tiles of a grid that are in view: made by [`View::tiles`].
#[derive(Clone, Copy, Debug)]
pub struct Tiles {
    lines: GridLines,
    grid_columns: u32,
    columns: (u32, u32),
    rows: (u32, u32),
    /// The canvas' corners in tiles from the grid's top left, where the view is rotated.
    outline: Option<[DVec2; 4]>,
    view: View,
}

impl Tiles {
    fn new(view: &View, grid: &Grid) -> Self {
        let lines = GridLines::new(view, grid);
        let outline = view.lens().is_rotated().then(|| outline(view, grid));
        let (columns, rows) = match &outline {
            Some(corners) => {
                let [x, y] = [0, 1].map(|axis| span(corners.map(|corner| corner[axis])));
                (cells(x, grid.columns()), cells(y, grid.rows()))
            }
            None => {
                let low = view.drawn_corner();
                let high = low + view.canvas_size().as_dvec2();
                (
                    lines.x.touching(low.x, high.x, grid.columns()),
                    lines.y.touching(low.y, high.y, grid.rows()),
                )
            }
        };
        let empty = columns.0 >= columns.1 || rows.0 >= rows.1;
        let (columns, rows) = if empty { ((0, 0), (0, 0)) } else { (columns, rows) };
        Self { lines, grid_columns: grid.columns(), columns, rows, outline, view: *view }
    }

    /// The columns in view, over all rows; empty where none is.
    #[must_use]
    pub fn columns(&self) -> Range<u32> {
        self.columns.0..self.columns.1
    }

    /// The rows in view; empty where none is.
    #[must_use]
    pub fn row_numbers(&self) -> Range<u32> {
        self.rows.0..self.rows.1
    }

    /// Whether no tile is in view.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.rows.0 == self.rows.1
    }

    /// How many tiles are in view, blank ones included.
    ///
    /// ```
    /// # use velvet_pan::{Grid, Lens, Screen, Snap, View};
    /// let grid = Grid::new(240, 60, [16, 16]);
    /// let view = View::new(Lens::new(&Screen::default()), [160, 80], Snap::Whole);
    /// assert_eq!(view.tiles(&grid).count(), 20 * 11);
    /// ```
    #[must_use]
    pub fn count(&self) -> usize {
        match self.outline {
            None => self.columns().len() * self.row_numbers().len(),
            Some(_) => self.rows().map(|row| row.columns().len()).sum(),
        }
    }

    /// The visible part of each row, from the top.
    ///
    /// With a rotated view each row has a span of its own.
    pub fn rows(&self) -> impl Iterator<Item = TileRow> + '_ {
        self.row_numbers().map(|row| self.row(row)).filter(|row| !row.columns().is_empty())
    }

    fn row(&self, row: u32) -> TileRow {
        let columns = match &self.outline {
            None => self.columns,
            Some(corners) => {
                let band = band_span(corners, f64::from(row), f64::from(row) + 1.0);
                band.map_or((0, 0), |span| cells(span, self.grid_columns))
            }
        };
        TileRow {
            lines: self.lines,
            grid_columns: self.grid_columns,
            row,
            columns,
            view: self.view,
        }
    }
}

/// The visible part of one row of tiles.
#[derive(Clone, Copy, Debug)]
pub struct TileRow {
    lines: GridLines,
    grid_columns: u32,
    row: u32,
    columns: (u32, u32),
    view: View,
}

impl TileRow {
    /// The row's number, counted from the map's first, which is the top one.
    #[inline]
    #[must_use]
    pub fn row(&self) -> u32 {
        self.row
    }

    /// The columns in view.
    #[inline]
    #[must_use]
    pub fn columns(&self) -> Range<u32> {
        self.columns.0..self.columns.1
    }

    /// Where these tiles are in the map's slice: `map[row.indices()]`.
    #[inline]
    #[must_use]
    pub fn indices(&self) -> Range<usize> {
        let start = self.row as usize * self.grid_columns as usize;
        start + self.columns.0 as usize..start + self.columns.1 as usize
    }

    /// Where the top left corner of the row's first tile is drawn on the canvas, in screen pixels;
    /// whole unless [`Snap::Off`](crate::Snap::Off). With a rotated view, where that corner of the
    /// turned tile appears.
    #[must_use]
    pub fn screen_position(&self) -> Vec2 {
        let column = f64::from(self.columns.0);
        if self.view.lens().is_rotated() {
            self.view.place(self.lines.world(column, f64::from(self.row)))
        } else {
            self.lines.drawn(&self.view, column, f64::from(self.row))
        }
    }

    /// Each tile in view with the canvas rectangle it fills.
    ///
    /// Neighbours share their edges even where the scale is not whole, so there are no seams. With
    /// a rotated view the rectangle is the bounding box of the turned tile.
    pub fn tiles(&self) -> impl Iterator<Item = Tile> + '_ {
        let first = self.indices().start;
        self.columns().zip(first..).map(|(column, index)| Tile {
            column,
            row: self.row,
            index,
            rect: self.rect(column),
        })
    }

    fn rect(&self, column: u32) -> ScreenRect {
        let (x, y) = (f64::from(column), f64::from(self.row));
        if self.view.lens().is_rotated() {
            let (one, other) = (self.lines.world(x, y), self.lines.world(x + 1.0, y + 1.0));
            return self.view.screen_rect(&Rect::new(one, other));
        }
        ScreenRect {
            min: self.lines.drawn(&self.view, x, y),
            max: self.lines.drawn(&self.view, x + 1.0, y + 1.0),
        }
    }
}

/// One tile in view.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tile {
    /// Its column in the map.
    pub column: u32,
    /// Its row in the map, from the top.
    pub row: u32,
    /// Its index in the map's slice.
    pub index: usize,
    /// The canvas pixels it fills; whole unless [`Snap::Off`](crate::Snap::Off) or rotated.
    pub rect: ScreenRect,
}

/// The lines between a grid's tiles, in screen pixels along the axes of an upright view.
#[derive(Clone, Copy, Debug)]
struct GridLines {
    x: AxisLines,
    y: AxisLines,
    y_sign: f64,
}

impl GridLines {
    fn new(view: &View, grid: &Grid) -> Self {
        let y_sign = view.lens().y_axis().sign();
        let rect = grid.rect();
        // The map's first row is at the top of the screen: at the largest y where y runs up.
        let top = if y_sign > 0.0 { rect.min.y } else { -rect.max.y };
        let scale = view.scale();
        let axis = |start: f64, tile: f64| AxisLines { start, tile, scale };
        Self { x: axis(rect.min.x, grid.tile().x), y: axis(top, grid.tile().y), y_sign }
    }

    /// Where the crossing of two lines is drawn on the canvas of an upright view.
    fn drawn(&self, view: &View, column: f64, row: f64) -> Vec2 {
        let pixels = DVec2::new(self.x.line(column), self.y.line(row));
        let corner = view.drawn_corner();
        if view.snap() == Snap::Off {
            return (pixels - corner).as_vec2();
        }
        let whole = DVec2::new(round_to_i64(pixels.x) as f64, round_to_i64(pixels.y) as f64);
        (whole - corner).as_vec2()
    }

    /// A world point in columns and rows.
    fn cell(&self, world: DVec2) -> DVec2 {
        let (x, y) = (world.x - self.x.start, world.y * self.y_sign - self.y.start);
        DVec2::new(x / self.x.tile, y / self.y.tile)
    }

    /// The world point where two lines cross.
    fn world(&self, column: f64, row: f64) -> DVec2 {
        let down = self.y.start + row * self.y.tile;
        DVec2::new(self.x.start + column * self.x.tile, down * self.y_sign)
    }
}

/// The lines across one axis: number `i` is at `(start + i·tile)·scale` screen pixels.
#[derive(Clone, Copy, Debug)]
struct AxisLines {
    start: f64,
    tile: f64,
    scale: f64,
}

impl AxisLines {
    #[inline]
    fn line(&self, number: f64) -> f64 {
        (self.start + number * self.tile) * self.scale
    }

    /// The cells that touch `low..high`, out of `count`, as first and one past the last.
    fn touching(&self, low: f64, high: f64, count: u32) -> (u32, u32) {
        let guess = |edge: f64| {
            let cell = floor_to_i64((edge / self.scale - self.start) / self.tile);
            cell.clamp(0, i64::from(count))
        };
        // The guess may be off by one where the division rounds: the lines themselves decide.
        let (mut first, mut end) = (guess(low), guess(high));
        while first > 0 && self.line(first as f64) > low {
            first -= 1;
        }
        while first < i64::from(count) && self.line(first as f64 + 1.0) <= low {
            first += 1;
        }
        while end > 0 && self.line(end as f64 - 1.0) >= high {
            end -= 1;
        }
        while end < i64::from(count) && self.line(end as f64) < high {
            end += 1;
        }
        (first as u32, end as u32)
    }
}

/// The canvas' corners, in order around it, in tiles from the grid's top left.
fn outline(view: &View, grid: &Grid) -> [DVec2; 4] {
    let (low, size) = (view.drawn_corner(), view.canvas_size().as_dvec2());
    let lines = GridLines::new(view, grid);
    [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]
        .map(|corner| lines.cell(view.lens().to_world_axes(low + size * DVec2::from(corner))))
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

/// The cells of `0..count` that a span of cell coordinates touches.
fn cells((low, high): (f64, f64), count: u32) -> (u32, u32) {
    let count = i64::from(count);
    let first = floor_to_i64(low).clamp(0, count);
    let end = (-floor_to_i64(-high)).clamp(first, count);
    (first as u32, end as u32)
}
