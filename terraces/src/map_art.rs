//! The tiles of a map as they are drawn.

use velvet_pan::glam::UVec2;
use velvet_pan::{Grid, Overhang, Settings, View};
use velvet_pan_takes::Map;

use crate::art::tiles;
use crate::cel::{Quad, QuadArea, paint};
use crate::own::plain::{self, Open};
use crate::own::{Artwork, Own};
use crate::picture::Picture;

/// The pictures of tiles.
#[derive(Clone, Debug)]
pub struct MapArt {
    kind: Kind,
    pictures: Vec<Picture>,
}

#[derive(Clone, Debug)]
enum Kind {
    /// The demo's own tiles, in variants.
    Terraces,
    /// This number of tiles of the user. What is beyond them is a plain block.
    Own(usize),
}

impl MapArt {
    /// Draws or copies the pictures.
    pub fn new(art: &Artwork, settings: &Settings, map: Option<&Map>) -> Self {
        match art {
            Artwork::Terraces => Self { pictures: tiles::pictures(), kind: Kind::Terraces },
            Artwork::Own(Own { tiles, .. }) => {
                let unit = settings.screen.unit_pixels;
                let size = map.map_or(UVec2::splat(16), |map| {
                    (map.grid().tile_size() * unit).round().as_uvec2()
                });
                let pictures = tiles.iter().cloned().chain(plain::blocks(size)).collect();
                Self { kind: Kind::Own(tiles.len()), pictures }
            }
        }
    }

    /// Returns all pictures, by number.
    pub fn pictures(&self) -> &[Picture] {
        &self.pictures
    }

    /// Returns the number of the picture for the tile at this column and row, which is not blank.
    pub fn number(&self, map: &Map, tile: u16, column: i64, row: i64) -> usize {
        match &self.kind {
            Kind::Terraces => tiles::picture_number(tile, column, row),
            Kind::Own(count) if usize::from(tile) <= *count => usize::from(tile) - 1,
            Kind::Own(count) => {
                let is_open = |across: i64, down: i64| {
                    let beside = map.grid().index(column + across, row + down);
                    beside.is_some_and(|index| map.numbers()[index] == 0)
                };
                let open = Open {
                    left: is_open(-1, 0),
                    right: is_open(1, 0),
                    top: is_open(0, -1),
                    bottom: is_open(0, 1),
                };
                count + plain::block(tile, open)
            }
        }
    }

    /// Returns the visible tiles of a map, in one of this number of rows.
    pub fn quads(&self, map: &Map, view: &View, grid: &Grid, every: usize) -> Vec<Quad> {
        let y_axis = view.lens().y_axis();
        let turned = view.lens().is_rotated();
        let mut quads = Vec::new();
        for row in view.tiles(grid).rows().step_by(every) {
            for (tile, number) in row.filled(map.numbers(), |number| *number != 0) {
                let place = match turned {
                    true => QuadArea::World(grid.tile_rect(tile.column, tile.row, y_axis)),
                    false => QuadArea::Canvas { rect: tile.rect, mirrored: false },
                };
                let picture = self.number(map, *number, tile.column, tile.row);
                quads.push(Quad { picture, place });
            }
        }
        quads
    }

    /// Draws the visible tiles.
    pub fn draw(&self, canvas: &mut Picture, map: &Map, view: &View) {
        paint(canvas, &self.pictures, view, &self.quads(map, view, map.grid(), 1));
    }

    /// Draws every tile of the map, visible or not, to measure what culling saves. For a large map, one of `every` rows
    /// is enough to estimate the time.
    pub fn draw_all(&self, canvas: &mut Picture, map: &Map, view: &View, every: usize) {
        const ANYWHERE: f64 = 1e6;
        let everywhere = Overhang { left: ANYWHERE, right: ANYWHERE, up: ANYWHERE, down: ANYWHERE };
        let grid = map.grid().with_overhang(everywhere);
        paint(canvas, &self.pictures, view, &self.quads(map, view, &grid, every));
    }
}
