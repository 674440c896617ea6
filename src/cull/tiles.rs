//! Which tiles of a grid are in view, and where each is drawn.

use core::ops::Range;

use glam::{DVec2, Vec2};

use crate::cull::grid::Grid;
use crate::cull::lattice::{CellWindow, RowLines};
use crate::units::convert::IntoWorld;
use crate::units::rect::ScreenRect;
use crate::view::view::View;

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
    ///     for (tile, number) in row.filled(&map, |number| *number != 0) {
    ///         // draw picture `number` at `tile.rect`
    ///         assert_eq!(tile.rect.size().x, 16.0);
    ///         drawn += usize::from(*number);
    ///     }
    /// }
    /// assert_eq!(drawn, 21 * 12);
    /// ```
    #[must_use]
    #[inline]
    pub fn tiles(&self, grid: &Grid) -> Tiles {
        Tiles { window: CellWindow::new(self, grid.lattice(self)), grid: *grid }
    }

    /// Where a world point is in a grid: columns from its left and rows from its top, with
    /// fractions; outside the grid too.
    ///
    /// The tile under the pointer is this of [`world`](Self::screen_to_world), rounded down.
    ///
    /// ```
    /// # use velvet_pan::{Grid, Lens, Screen, Snap, View, glam::DVec2};
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
    /// let grid = Grid::new(240, 60, [16, 16]);
    /// assert_eq!(view.in_grid(&grid, [40, 8]), DVec2::new(2.5, 0.5));
    /// ```
    #[must_use]
    pub fn in_grid(&self, grid: &Grid, world: impl IntoWorld) -> DVec2 {
        grid.lattice(self).cell(world.into_world())
    }
}

/// The tiles of a grid that are in view: made by [`View::tiles`].
///
/// Columns and rows count from the map's first, which is the top left one; where the grid is
/// wrapped or unbounded they go on beyond it, below 0 too.
#[derive(Clone, Copy, Debug)]
pub struct Tiles {
    window: CellWindow,
    grid: Grid,
}

impl Tiles {
    /// The columns in view, over all rows; empty where none is.
    #[must_use]
    pub fn columns(&self) -> Range<i64> {
        self.window.columns.0..self.window.columns.1
    }

    /// The rows in view; empty where none is.
    #[must_use]
    pub fn row_numbers(&self) -> Range<i64> {
        self.window.rows.0..self.window.rows.1
    }

    /// Whether no tile is in view.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.window.rows.0 == self.window.rows.1
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
        self.window.count()
    }

    /// The visible part of each row, from the top, as a contiguous piece of the map's slice.
    ///
    /// With a rotated view each row has a span of its own. Where a wrapped grid begins anew within
    /// a row, the row comes in several pieces, from the left.
    #[inline]
    pub fn rows(&self) -> impl Iterator<Item = TileRow<'_>> {
        Rows { tiles: self, next_row: self.window.rows.0, left: (0, 0) }
    }
}

/// The pieces of all rows, one after the other.
struct Rows<'a> {
    tiles: &'a Tiles,
    next_row: i64,
    /// The columns that are left of the row before `next_row`.
    left: (i64, i64),
}

impl<'a> Iterator for Rows<'a> {
    type Item = TileRow<'a>;

    #[inline]
    fn next(&mut self) -> Option<TileRow<'a>> {
        let window = &self.tiles.window;
        while self.left.0 >= self.left.1 {
            if self.next_row >= window.rows.1 {
                return None;
            }
            self.left = window.span(self.next_row);
            self.next_row += 1;
        }
        let (start, row_end) = self.left;
        let end = match self.tiles.grid.lap() {
            None => row_end,
            Some(lap) => row_end.min((start.div_euclid(lap) + 1) * lap),
        };
        self.left.0 = end;
        Some(TileRow { tiles: self.tiles, row: self.next_row - 1, columns: (start, end) })
    }
}

/// The visible part of one row of tiles, or a piece of it where the grid is wrapped.
#[derive(Clone, Copy, Debug)]
pub struct TileRow<'a> {
    tiles: &'a Tiles,
    row: i64,
    columns: (i64, i64),
}

impl TileRow<'_> {
    /// The row's number, counted from the map's first, which is the top one.
    #[inline]
    #[must_use]
    pub fn row(&self) -> i64 {
        self.row
    }

    /// The columns in view.
    #[inline]
    #[must_use]
    pub fn columns(&self) -> Range<i64> {
        self.columns.0..self.columns.1
    }

    /// Where these tiles are in the map's slice: `map[row.indices()]`. Empty in grids that are
    /// unbounded on an axis, whose tiles are in no slice.
    #[inline]
    #[must_use]
    pub fn indices(&self) -> Range<usize> {
        match self.tiles.grid.index(self.columns.0, self.row) {
            Some(start) => start..start + (self.columns.1 - self.columns.0) as usize,
            None => 0..0,
        }
    }

    /// Where the top left corner of the piece's first tile is drawn on the canvas, in screen
    /// pixels; whole unless [`Snap::Off`](crate::Snap::Off). With a rotated view, where that corner
    /// of the turned tile appears.
    #[inline]
    #[must_use]
    pub fn screen_position(&self) -> Vec2 {
        self.tiles.window.position(self.columns.0 as f64, self.row as f64)
    }

    /// Each tile in view with the canvas rectangle it fills.
    ///
    /// Neighbours share their edges even where the scale is not whole, so there are no seams. With
    /// a rotated view the rectangle is the bounding box of the turned tile.
    #[inline]
    pub fn tiles(&self) -> impl Iterator<Item = Tile> {
        let lines = self.lines();
        self.columns().map(move |column| self.tile(column, &lines))
    }

    /// The tiles of `map` that are filled, each with what the map holds there; blank ones are
    /// passed over. Tiles that the slice does not hold count as blank.
    #[inline]
    pub fn filled<'m, T>(
        &self,
        map: &'m [T],
        is_filled: impl Fn(&T) -> bool,
    ) -> impl Iterator<Item = (Tile, &'m T)> {
        let indices = self.indices();
        let piece = map.get(indices.start..indices.end.min(map.len())).unwrap_or(&[]);
        let columns = (self.columns.0..).zip(piece);
        let lines = self.lines();
        columns
            .filter(move |(_, held)| is_filled(held))
            .map(move |(column, held)| (self.tile(column, &lines), held))
    }

    #[inline]
    fn lines(&self) -> RowLines {
        self.tiles.window.row_lines(self.row as f64, self.row as f64 + 1.0)
    }

    #[inline]
    fn tile(&self, column: i64, lines: &RowLines) -> Tile {
        let left = column as f64;
        let rect = self.tiles.window.rect((left, left + 1.0), lines);
        Tile { column, row: self.row, rect }
    }
}

/// One tile in view.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tile {
    /// Its column, from the map's first; beyond the map where the grid is wrapped or unbounded.
    pub column: i64,
    /// Its row, from the top.
    pub row: i64,
    /// The canvas pixels it fills; whole unless [`Snap::Off`](crate::Snap::Off) or rotated.
    pub rect: ScreenRect,
}
