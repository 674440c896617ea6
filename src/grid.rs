//! A grid of tiles: where each tile of a map stands in the world.

use glam::{DVec2, UVec2};

use crate::convert::IntoWorld;
use crate::rect::Rect;
use crate::screen::YAxis;

/// A grid of equal tiles, its map stored row by row, the top row of the screen first.
///
/// It holds no tiles, only where they stand; the map stays the game's own slice. The map's first
/// row is the top row on the screen whichever way the world's `y` runs, and the grid's origin is
/// its smallest coordinates: the same rectangle as the bounds of the world it fills.
///
/// ```
/// use velvet_pan::{Grid, Rect};
///
/// let grid = Grid::new(240, 60, [16, 16]);
/// assert_eq!(grid.rect(), Rect::from_corner_size([0, 0], [3840, 960]));
/// assert_eq!(grid.index(3, 2), Some(2 * 240 + 3)); // rows times columns, not the other way
/// assert_eq!(grid.index(240, 0), None);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Grid {
    size: UVec2,
    tile: DVec2,
    origin: DVec2,
}

impl Grid {
    /// A grid of so many columns and rows, of tiles of this size in world units, its smallest
    /// coordinates at the world's origin.
    ///
    /// Tile sizes that are not finite or not above 0 leave a grid without tiles.
    #[must_use]
    pub fn new(columns: u32, rows: u32, tile: impl IntoWorld) -> Self {
        let tile = tile.into_world();
        let usable = tile.is_finite() && tile.min_element() > 0.0;
        let (size, tile) = if usable { ((columns, rows), tile) } else { ((0, 0), DVec2::ONE) };
        Self { size: size.into(), tile, origin: DVec2::ZERO }
    }

    /// The same grid with its smallest coordinates at this world point; points that are not finite
    /// leave it where it is.
    #[must_use]
    pub fn at(mut self, origin: impl IntoWorld) -> Self {
        let origin = origin.into_world();
        if origin.is_finite() {
            self.origin = origin;
        }
        self
    }

    /// Tiles from left to right.
    #[inline]
    #[must_use]
    pub fn columns(&self) -> u32 {
        self.size.x
    }

    /// Tiles from top to bottom.
    #[inline]
    #[must_use]
    pub fn rows(&self) -> u32 {
        self.size.y
    }

    /// The size of a tile in world units.
    #[inline]
    #[must_use]
    pub fn tile(&self) -> DVec2 {
        self.tile
    }

    /// The world rectangle that the grid fills.
    #[inline]
    #[must_use]
    pub fn rect(&self) -> Rect {
        Rect { min: self.origin, max: self.origin + self.size.as_dvec2() * self.tile }
    }

    /// The smallest world rectangle that holds all tiles of `map` that are filled: bounds for a
    /// world that does not fill its grid. None where no tile is filled; tiles that the slice does
    /// not hold count as blank.
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
            filled.map(move |(column, _)| UVec2::new(column as u32, row as u32))
        });
        let (first, last) = cells
            .map(|cell| (cell, cell))
            .reduce(|all, one| (all.0.min(one.0), all.1.max(one.1)))?;
        // The first row is the top one: the farthest from the origin where y runs up.
        let (top, bottom) = match y_axis {
            YAxis::Down => (first.y, last.y + 1),
            YAxis::Up => (self.size.y - last.y - 1, self.size.y - first.y),
        };
        let corner = |column: u32, row: u32| {
            self.origin + DVec2::new(f64::from(column), f64::from(row)) * self.tile
        };
        Some(Rect { min: corner(first.x, top), max: corner(last.x + 1, bottom) })
    }

    /// Where in the map's slice this tile is: `row × columns + column`.
    #[inline]
    #[must_use]
    pub fn index(&self, column: u32, row: u32) -> Option<usize> {
        let inside = column < self.size.x && row < self.size.y;
        inside.then(|| row as usize * self.size.x as usize + column as usize)
    }
}
