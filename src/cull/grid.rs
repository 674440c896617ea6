//! A grid of tiles: the position of each tile of a map in the world.

use alloc::vec::Vec;

use glam::{DVec2, UVec2};

use crate::base::convert::IntoWorld;
use crate::base::rect::Rect;
use crate::cull::lattice::Lattice;
use crate::keys::per_axis::PerAxis;
use crate::lens::screen::YAxis;
use crate::limits::outline::Outline;
use crate::view::view::View;

/// What is beyond the edges of a grid.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum GridEdge {
    /// Nothing: the map ends.
    #[default]
    Clamped,
    /// The map again, repeated without end.
    Wrapped,
    /// More tiles without end, which do not come from a slice but, for example, from a function or from chunks. Columns
    /// and rows continue, below 0 too.
    Unbounded,
}

/// How far the pictures of tiles extend beyond their cells, in tiles, for example for trees that are three tiles high.
/// A tile is visible when its picture is. Each value is 0 or more; invalid values count as 0.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Overhang {
    /// Beyond the left side.
    pub left: f64,
    /// Beyond the right side.
    pub right: f64,
    /// Beyond the top.
    pub up: f64,
    /// Beyond the bottom.
    pub down: f64,
}

/// A grid of equal tiles. Its map is the game's own slice, row by row. The first row is the top row on the screen,
/// whatever the direction of the world's `y`, or the bottom row [`with_rows_from_bottom`](Self::with_rows_from_bottom).
///
/// A grid does not contain tiles, only their positions. Its origin is the point with its smallest coordinates.
///
/// ```
/// use velvet_pan::{Grid, GridEdge, Rect};
///
/// let grid = Grid::new(240, 60, [16, 16]);
/// assert_eq!(grid.rect(), Rect::from_corner_size([0, 0], [3840, 960]));
/// assert_eq!(grid.index(3, 2), Some(2 * 240 + 3)); // rows times columns, not the other way
/// assert_eq!(grid.index(240, 0), None);
/// assert_eq!(grid.with_edges(GridEdge::Wrapped).index(-1, 0), Some(239));
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Grid {
    size: UVec2,
    tile: DVec2,
    origin: DVec2,
    edges: PerAxis<GridEdge>,
    overhang: Overhang,
    from_bottom: bool,
}

impl Grid {
    /// Creates a grid with this number of columns and rows, and tiles of this size in world units. Its smallest
    /// coordinates are 0, 0.
    ///
    /// If the tile size is not finite or not above 0, the grid has no tiles.
    ///
    /// ```
    /// # use velvet_pan::{Grid, Rect};
    /// assert_eq!(Grid::new(240, 60, [16, 16]).rect(), Rect::from_corner_size([0, 0], [3840, 960]));
    /// ```
    #[must_use]
    pub fn new(columns: u32, rows: u32, tile: impl IntoWorld) -> Self {
        let tile = tile.into_world();
        let usable = tile.is_finite() && tile.min_element() > 0.0;
        let (size, tile) = if usable { ((columns, rows), tile) } else { ((0, 0), DVec2::ONE) };
        let (edges, overhang) = (PerAxis::default(), Overhang::default());
        Self { size: size.into(), tile, origin: DVec2::ZERO, edges, overhang, from_bottom: false }
    }

    /// Creates a grid without end, with tiles of this size in world units. The smallest coordinates of tile 0, 0 are 0, 0.
    ///
    /// ```
    /// use velvet_pan::{Grid, Lens, Screen, Snap, View};
    ///
    /// let terrain = |column: i64, row: i64| row > (column % 7).abs(); // any function
    /// let view = View::new(Lens::new(&Screen::default()), [-1e9, 40.0], Snap::Whole);
    /// let mut drawn = 0;
    /// for row in view.tiles(&Grid::unbounded([16, 16])).rows() {
    ///     drawn += row.tiles().filter(|tile| terrain(tile.column, tile.row)).count();
    /// }
    /// assert!(drawn > 0);
    /// ```
    #[must_use]
    pub fn unbounded(tile: impl IntoWorld) -> Self {
        Self::new(1, 1, tile).with_edges(GridEdge::Unbounded)
    }

    /// Returns this grid with its smallest coordinates at another world point. A point that is not finite changes
    /// nothing.
    ///
    /// ```
    /// # use velvet_pan::{Grid, Rect};
    /// let grid = Grid::new(10, 5, [16, 16]).with_origin([-80, 0]);
    /// assert_eq!(grid.rect(), Rect::new([-80, 0], [80, 80]));
    /// ```
    #[must_use]
    pub fn with_origin(mut self, origin: impl IntoWorld) -> Self {
        let origin = origin.into_world();
        if origin.is_finite() {
            self.origin = origin;
        }
        self
    }

    /// Returns this grid with rows that count from the bottom of the screen: for a map that the game indexes with a `y`
    /// that points up.
    ///
    /// ```
    /// use velvet_pan::{Grid, Rect, YAxis};
    ///
    /// let grid = Grid::new(3, 2, [16, 16]).with_rows_from_bottom();
    /// assert_eq!(grid.tile_rect(1, 0, YAxis::Up), Rect::new([16, 0], [32, 16]));
    /// assert_eq!(grid.index(1, 0), Some(1));
    /// ```
    #[must_use]
    pub fn with_rows_from_bottom(mut self) -> Self {
        self.from_bottom = true;
        self
    }

    /// Converts the number of a row from the top to the game's number, or back.
    #[inline]
    pub(crate) fn row(&self, row: i64) -> i64 {
        if self.from_bottom { i64::from(self.size.y) - 1 - row } else { row }
    }

    /// Converts rows from the top, from the first to just before the last, to the game's rows, or back.
    #[inline]
    pub(crate) fn row_span(&self, (first, end): (i64, i64)) -> (i64, i64) {
        if self.from_bottom { (self.row(end) + 1, self.row(first) + 1) } else { (first, end) }
    }

    /// Converts a height in rows from the top to one in the game's rows.
    pub(crate) fn row_height(&self, rows: f64) -> f64 {
        if self.from_bottom { f64::from(self.size.y) - rows } else { rows }
    }

    /// Returns the grid's smallest coordinates, in world units.
    ///
    /// ```
    /// use velvet_pan::{Grid, glam::DVec2};
    ///
    /// let shelf = Grid::new(8, 2, [16, 16]).with_origin([320, 48]);
    /// assert_eq!(shelf.origin(), DVec2::new(320.0, 48.0));
    /// ```
    #[must_use]
    pub fn origin(&self) -> DVec2 {
        self.origin
    }

    /// Returns this grid with other edges: the same for both axes, or one for each axis.
    ///
    /// ```
    /// use velvet_pan::{Grid, GridEdge, Lens, PerAxis, Screen, Snap, View};
    ///
    /// // A valley that goes around: walk far enough to the right and you are where you began.
    /// let edges = PerAxis { x: GridEdge::Wrapped, y: GridEdge::Clamped };
    /// let valley = Grid::new(40, 12, [16, 16]).with_edges(edges);
    /// let view = View::new(Lens::new(&Screen::default()), [640, 90], Snap::Whole);
    /// let runs: Vec<_> = view.tiles(&valley).rows().take(2).map(|run| run.indices()).collect();
    /// assert_eq!(runs, [30..40, 0..10]); // the first row, in two pieces of the slice
    /// ```
    #[must_use]
    pub fn with_edges(mut self, edges: impl Into<PerAxis<GridEdge>>) -> Self {
        self.edges = edges.into();
        self
    }

    /// Returns this grid with tiles whose pictures extend beyond their cells.
    ///
    /// ```
    /// use velvet_pan::{Grid, Lens, Overhang, Screen, Snap, View};
    ///
    /// let cedars = Grid::new(240, 60, [16, 16]).with_overhang(Overhang { up: 2.0, ..Overhang::default() });
    /// let view = View::new(Lens::new(&Screen::default()), [160, 88], Snap::Whole);
    /// // The view ends at y 178, in row 11; the tops of rows 12 and 13 reach into it.
    /// assert_eq!(view.tiles(&cedars).row_numbers(), 0..14);
    /// ```
    #[must_use]
    pub fn with_overhang(mut self, overhang: Overhang) -> Self {
        let usable = |tiles: f64| if tiles > 0.0 && tiles <= 1e6 { tiles } else { 0.0 };
        let Overhang { left, right, up, down } = overhang;
        let [left, right, up, down] = [left, right, up, down].map(usable);
        self.overhang = Overhang { left, right, up, down };
        self
    }

    /// Returns the number of columns of the map.
    #[inline]
    #[must_use]
    pub fn columns(&self) -> u32 {
        self.size.x
    }

    /// Returns the number of rows of the map.
    #[inline]
    #[must_use]
    pub fn rows(&self) -> u32 {
        self.size.y
    }

    /// Returns the size of a tile in world units.
    #[inline]
    #[must_use]
    pub fn tile_size(&self) -> DVec2 {
        self.tile
    }

    /// Returns the world rectangle of the map; if it is wrapped, of one copy. For an [`unbounded`](Self::unbounded) grid,
    /// returns the rectangle of tile 0, 0.
    #[inline]
    #[must_use]
    pub fn rect(&self) -> Rect {
        Rect { min: self.origin, max: self.origin + self.size.as_dvec2() * self.tile }
    }

    /// Returns the cells of the grid in a view.
    pub(crate) fn lattice(&self, view: &View) -> Lattice {
        let rect = self.rect();
        // The first row of the map is at the top of the screen, at the largest y if y points up.
        let top = if view.lens().y_axis() == YAxis::Down { rect.min.y } else { rect.max.y };
        let mut lattice = Lattice::new(view, DVec2::new(rect.min.x, top), self.tile);
        let Overhang { left, right, up, down } = self.overhang;
        (lattice.x.before, lattice.x.past) = (left, right);
        (lattice.y.before, lattice.y.past) = (up, down);
        let empty = self.size.min_element() == 0;
        for (cells, edge, count) in [
            (&mut lattice.x, self.edges.x, self.size.x),
            (&mut lattice.y, self.edges.y, self.size.y),
        ] {
            if edge == GridEdge::Clamped || empty {
                (cells.first, cells.end) = (0, if empty { 0 } else { i64::from(count) });
            }
        }
        lattice
    }

    /// Returns the number of tiles of the map along an axis, and whether it wraps there. `None` if it is unbounded.
    pub(crate) fn map_length(&self, axis: usize) -> Option<(i64, bool)> {
        let edge = if axis == 0 { self.edges.x } else { self.edges.y };
        let empty = self.size.min_element() == 0;
        match edge {
            GridEdge::Unbounded if !empty => None,
            edge => Some((i64::from(self.size[axis]), edge == GridEdge::Wrapped)),
        }
    }

    /// Returns the number of tiles in a row after which the map's slice starts again, or `None`.
    #[inline]
    pub(crate) fn lap(&self) -> Option<i64> {
        (self.edges.x == GridEdge::Wrapped).then(|| i64::from(self.size.x.max(1)))
    }

    /// Returns the world rectangle of a tile. Column 0, row 0 is the top left tile on the screen, or the bottom left
    /// one if rows count from the bottom. Tiles outside of the map are allowed.
    ///
    /// ```
    /// use velvet_pan::{Grid, Rect, YAxis};
    ///
    /// let grid = Grid::new(3, 2, [16, 16]);
    /// assert_eq!(grid.tile_rect(1, 0, YAxis::Down), Rect::new([16, 0], [32, 16]));
    /// assert_eq!(grid.tile_rect(1, 0, YAxis::Up), Rect::new([16, 16], [32, 32]));
    /// ```
    #[must_use]
    pub fn tile_rect(&self, column: impl Into<i64>, row: impl Into<i64>, y_axis: YAxis) -> Rect {
        let (column, row) = (column.into() as f64, self.row(row.into()) as f64);
        // The first row is the top one, which is the farthest from the origin if y points up.
        let row = if y_axis == YAxis::Down { row } else { f64::from(self.size.y) - 1.0 - row };
        let corner = self.origin + DVec2::new(column, row) * self.tile;
        Rect { min: corner, max: corner + self.tile }
    }

    /// Returns the smallest world rectangle that contains all tiles of `map` for which `is_filled` returns `true`. Use
    /// it as bounds for a world that does not fill its grid. Returns `None` if there is no such tile. Tiles beyond the
    /// end of the slice are left out.
    ///
    /// ```
    /// use velvet_pan::{Grid, Rect, YAxis};
    ///
    /// let map = [0, 0, 0, 0, 7, 7, 0, 7, 0]; // 3 x 3, the top row blank
    /// let grid = Grid::new(3, 3, [16, 16]);
    /// let filled = |y_axis| grid.filled_rect(&map, y_axis, |tile| *tile != 0);
    /// assert_eq!(filled(YAxis::Down), Some(Rect::new([16, 16], [48, 48])));
    /// assert_eq!(filled(YAxis::Up), Some(Rect::new([16, 0], [48, 32])));
    /// ```
    #[must_use]
    pub fn filled_rect<T>(
        &self,
        map: &[T],
        y_axis: YAxis,
        is_filled: impl Fn(&T) -> bool,
    ) -> Option<Rect> {
        let columns = self.size.x.max(1) as usize;
        let rows = map.chunks(columns).take(self.size.y as usize);
        let cells = rows.enumerate().flat_map(|(row, tiles)| {
            let filled = tiles.iter().enumerate().filter(|(_, tile)| is_filled(tile));
            let row = self.row(row as i64) as u32;
            filled.map(move |(column, _)| UVec2::new(column as u32, row))
        });
        let (first, last) = cells
            .map(|cell| (cell, cell))
            .reduce(|all, one| (all.0.min(one.0), all.1.max(one.1)))?;
        // The first row is the top one, which is the farthest from the origin if y points up.
        let (top, bottom) = match y_axis {
            YAxis::Down => (first.y, last.y + 1),
            YAxis::Up => (self.size.y - last.y - 1, self.size.y - first.y),
        };
        let corner = |column: u32, row: u32| {
            self.origin + DVec2::new(f64::from(column), f64::from(row)) * self.tile
        };
        Some(Rect { min: corner(first.x, top), max: corner(last.x + 1, bottom) })
    }

    /// Returns the outline of all tiles of `map` for which `is_inside` returns `true`: those that are not walls, for a
    /// cave; those that are filled, for islands. Runs of tiles are one part, and rows with the same run as well. Tiles
    /// beyond the end of the slice are left out.
    ///
    /// ```
    /// use velvet_pan::{Grid, Rect, YAxis};
    ///
    /// let map = [0, 1, 1, 0, 1, 1, 0, 0, 1]; // 3 x 3, 1 is rock
    /// let cave = Grid::new(3, 3, [16, 16]).outline(&map, YAxis::Down, |tile| *tile == 0);
    /// assert_eq!(cave.parts, [Rect::new([0, 0], [16, 32]), Rect::new([0, 32], [32, 48])]);
    /// ```
    #[must_use]
    pub fn outline<T>(&self, map: &[T], y_axis: YAxis, is_inside: impl Fn(&T) -> bool) -> Outline {
        let mut parts: Vec<Rect> = Vec::new();
        // The runs of the last row: their columns, and their parts.
        let mut above: Vec<([usize; 2], usize)> = Vec::new();
        let rows = map.chunks(self.size.x.max(1) as usize).take(self.size.y as usize);
        for (row, tiles) in rows.enumerate() {
            let mut here = Vec::new();
            for run in runs(tiles, &is_inside) {
                let tile = |column: usize| self.tile_rect(column as i64, row as i64, y_axis);
                let part = tile(run[0]).joined(&tile(run[1] - 1));
                let same = above.iter().find(|(columns, _)| *columns == run);
                let index = same.map_or(parts.len(), |(_, index)| *index);
                match parts.get_mut(index) {
                    Some(tall) => *tall = tall.joined(&part),
                    None => parts.push(part),
                }
                here.push((run, index));
            }
            above = here;
        }
        Outline { parts }
    }

    /// Returns the index of a tile in the map's slice: `row × columns + column`. Returns `None` beyond a clamped edge,
    /// and if the grid is unbounded on an axis.
    ///
    /// ```
    /// # use velvet_pan::Grid;
    /// let grid = Grid::new(240, 60, [16, 16]);
    /// assert_eq!((grid.index(5, 2), grid.index(-1, 2)), (Some(485), None));
    /// ```
    #[inline]
    #[must_use]
    pub fn index(&self, column: impl Into<i64>, row: impl Into<i64>) -> Option<usize> {
        let column = home(column.into(), self.size.x, self.edges.x)?;
        let row = home(row.into(), self.size.y, self.edges.y)?;
        Some(row * self.size.x as usize + column)
    }
}

/// Returns the runs of tiles that are inside: the first column of each, and the one after its last.
fn runs<T>(tiles: &[T], is_inside: impl Fn(&T) -> bool) -> Vec<[usize; 2]> {
    let mut runs: Vec<[usize; 2]> = Vec::new();
    for (column, _) in tiles.iter().enumerate().filter(|(_, tile)| is_inside(tile)) {
        match runs.last_mut().filter(|run| run[1] == column) {
            Some(run) => run[1] += 1,
            None => runs.push([column, column + 1]),
        }
    }
    runs
}

/// Returns the column or row of the map that a number stands for.
#[inline]
fn home(number: i64, count: u32, edge: GridEdge) -> Option<usize> {
    let count = i64::from(count);
    let inside = (0..count).contains(&number);
    match edge {
        GridEdge::Clamped => inside.then_some(number as usize),
        GridEdge::Wrapped if inside => Some(number as usize),
        GridEdge::Wrapped => (count > 0).then(|| number.rem_euclid(count) as usize),
        GridEdge::Unbounded => None,
    }
}
