//! A grid of tiles: where each tile of a map stands in the world.

use glam::{DVec2, UVec2};

use crate::convert::IntoWorld;
use crate::rect::Rect;

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

    /// Where in the map's slice this tile is: `row × columns + column`.
    #[inline]
    #[must_use]
    pub fn index(&self, column: u32, row: u32) -> Option<usize> {
        let inside = column < self.size.x && row < self.size.y;
        inside.then(|| row as usize * self.size.x as usize + column as usize)
    }
}
