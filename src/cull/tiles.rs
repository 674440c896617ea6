//! The visible tiles of a grid, and where each is drawn.

use core::ops::Range;

use glam::{DVec2, Vec2};

use crate::base::convert::IntoWorld;
use crate::base::pixel_rect::CanvasRect;
use crate::cull::grid::Grid;
use crate::cull::lattice::{CellWindow, RowLines};
use crate::view::view::View;

impl View {
    /// Returns exactly the tiles of `grid` that overlap the canvas. The time depends on the number of visible rows, not
    /// on the size of the map.
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

    /// Converts a world point to columns from the left and rows from the top (or from the bottom, if the grid counts
    /// them so) of a grid, with fractions. It works outside of the grid too.
    ///
    /// For the tile under the pointer, convert the pointer with [`screen_to_world`](Self::screen_to_world) and round the
    /// result of this method down.
    ///
    /// ```
    /// # use velvet_pan::{Grid, Lens, Screen, Snap, View, glam::DVec2};
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
    /// let grid = Grid::new(240, 60, [16, 16]);
    /// assert_eq!(view.in_grid(&grid, [40, 8]), DVec2::new(2.5, 0.5));
    /// ```
    #[must_use]
    pub fn in_grid(&self, grid: &Grid, world: impl IntoWorld) -> DVec2 {
        let cell = grid.lattice(self).cell(world.into_world());
        DVec2::new(cell.x, grid.row_height(cell.y))
    }
}

/// The tiles of a grid that are visible: see [`View::tiles`].
///
/// Columns and rows count from the map's top left tile, or from the bottom left one if the grid counts rows so. In a
/// wrapped or unbounded grid they continue beyond the map, below 0 too.
#[derive(Clone, Copy, Debug)]
pub struct Tiles {
    window: CellWindow,
    grid: Grid,
}

impl Tiles {
    /// Returns the visible columns of all rows together. The range is empty if no tile is visible.
    #[must_use]
    pub fn columns(&self) -> Range<i64> {
        self.window.columns.0..self.window.columns.1
    }

    /// Returns the visible rows. The range is empty if no tile is visible.
    #[must_use]
    pub fn row_numbers(&self) -> Range<i64> {
        let (first, end) = self.grid.row_span(self.window.rows);
        first..end
    }

    /// Returns whether no tile is visible.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.window.rows.0 == self.window.rows.1
    }

    /// Returns the number of visible tiles, including blank ones.
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

    /// Returns the visible part of each row, from the top, as a contiguous piece of the map's slice.
    ///
    /// With a rotated view each row has its own columns. If a wrapped grid repeats within a row, the row comes in several
    /// pieces, from the left.
    #[inline]
    pub fn rows(&self) -> impl Iterator<Item = TileRow<'_>> {
        Rows { tiles: self, next_row: self.window.rows.0, left: (0, 0) }
    }
}

/// The pieces of all rows, one after the other.
struct Rows<'a> {
    tiles: &'a Tiles,
    next_row: i64,
    /// The columns that remain in the row before `next_row`.
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

/// The visible part of one row of tiles, or a piece of it if the grid is wrapped.
#[derive(Clone, Copy, Debug)]
pub struct TileRow<'a> {
    tiles: &'a Tiles,
    /// From the top.
    row: i64,
    columns: (i64, i64),
}

impl TileRow<'_> {
    /// Returns the row's number in the map.
    #[inline]
    #[must_use]
    pub fn row(&self) -> i64 {
        self.tiles.grid.row(self.row)
    }

    /// Returns the visible columns.
    #[inline]
    #[must_use]
    pub fn columns(&self) -> Range<i64> {
        self.columns.0..self.columns.1
    }

    /// Returns the position of these tiles in the map's slice: `map[row.indices()]`. The range is empty in an unbounded
    /// grid, which has no slice.
    #[inline]
    #[must_use]
    pub fn indices(&self) -> Range<usize> {
        match self.tiles.grid.index(self.columns.0, self.row()) {
            Some(start) => start..start + (self.columns.1 - self.columns.0) as usize,
            None => 0..0,
        }
    }

    /// Returns where to draw the top left corner of the first tile, in canvas pixels. It is whole unless
    /// [`Snap::Off`](crate::Snap::Off). With a rotated view it is the position of that corner of the rotated tile.
    #[inline]
    #[must_use]
    pub fn canvas_position(&self) -> Vec2 {
        self.tiles.window.position(self.columns.0 as f64, self.row as f64)
    }

    /// Returns each visible tile with its rectangle on the canvas.
    ///
    /// Adjoining tiles share their edges at every scale, so there are no seams. With a rotated view the rectangle is the
    /// bounding box of the rotated tile.
    #[inline]
    pub fn tiles(&self) -> impl Iterator<Item = Tile> {
        let lines = self.lines();
        self.columns().map(move |column| self.tile(column, &lines))
    }

    /// Returns the visible tiles of `map` for which `is_filled` returns `true`, each with its element of the map. Tiles
    /// beyond the end of the slice are left out.
    ///
    /// ```
    /// # use velvet_pan::{Grid, Lens, Screen, Snap, View};
    /// let map = [0, 7, 0, 8]; // 0 is blank
    /// let grid = Grid::new(4, 1, [16, 16]);
    /// let view = View::new(Lens::new(&Screen::default()), [32, 8], Snap::Whole);
    /// let tiles = view.tiles(&grid);
    /// let row = tiles.rows().next().unwrap();
    /// let filled = row.filled(&map, |number| *number != 0);
    /// let drawn: Vec<_> = filled.map(|(tile, number)| (tile.column, *number)).collect();
    /// assert_eq!(drawn, [(1, 7), (3, 8)]);
    /// ```
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
            .filter(move |(_, content)| is_filled(content))
            .map(move |(column, content)| (self.tile(column, &lines), content))
    }

    #[inline]
    fn lines(&self) -> RowLines {
        self.tiles.window.row_lines(self.row as f64, self.row as f64 + 1.0)
    }

    #[inline]
    fn tile(&self, column: i64, lines: &RowLines) -> Tile {
        let left = column as f64;
        let rect = self.tiles.window.rect((left, left + 1.0), lines);
        Tile { column, row: self.row(), rect }
    }
}

/// One visible tile.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tile {
    /// Its column, from 0 at the left of the map. In a wrapped or unbounded grid it may be outside of the map.
    pub column: i64,
    /// Its row, from 0 at the top of the map, or at the bottom if the grid counts rows so.
    pub row: i64,
    /// Its rectangle in canvas pixels. It is whole unless [`Snap::Off`](crate::Snap::Off) or rotated.
    pub rect: CanvasRect,
}
