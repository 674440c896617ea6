//! The terraces as they are drawn: the pictures that are kept, and what a view shows of them.

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{Grid, Layer, Overhang, ScreenRect, Settings, Snap, View};
use velvet_pan_takes::Map;

use crate::art::backdrop::Backdrop;
use crate::art::courier::{self, Pose};
use crate::art::landmarks;
use crate::art::palette::BARK;
use crate::art::tiles::TileSet;
use crate::cel::{Cel, Place, Quad, paint};
use crate::paint::unsnapped;
use crate::picture::Picture;

/// Everything that can be drawn, and the positions of what never moves.
#[derive(Debug)]
pub struct Stage {
    /// All pictures by number, the tiles first.
    pictures: Vec<Picture>,
    tiles: TileSet,
    backdrop: Backdrop,
    sprites: Sprites,
    map: Option<Map>,
    bells: Vec<DVec2>,
    cable: Vec<DVec2>,
}

/// The numbers of the pictures of moving figures and of small objects.
#[derive(Debug)]
struct Sprites {
    courier: usize,
    kite: usize,
    bell: usize,
    fibre: usize,
}

/// A figure in the scene.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Figure {
    /// Its kind.
    pub role: Role,
    /// The world position of its feet, or of a kite's middle.
    pub at: DVec2,
    /// Whether it faces left.
    pub left: bool,
    /// Whether the camera follows it. It then has a canvas of its own, placed with its own residual, so that it does
    /// not tremble while the view moves.
    pub followed: bool,
}

/// The kind of a figure.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Role {
    /// Wren, in a pose.
    Courier(Pose),
    /// The kite.
    Kite,
}

/// What a view draws, and what it skips: tiles that are out of view or blank, and sprites that are out of view.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Tally {
    /// Drawn and skipped tiles of the map.
    pub tiles: [usize; 2],
    /// Drawn and skipped figures and bells.
    pub sprites: [usize; 2],
}

impl Stage {
    /// Draws all pictures for these settings. `layers` are those of the camera
    /// ([`Camera::layers`](velvet_pan::Camera::layers)).
    pub fn new(settings: &Settings, layers: &[Layer], map: Option<Map>) -> Self {
        let tiles = TileSet::drawn();
        let mut pictures = tiles.pictures().to_vec();
        let screen = &settings.screen;
        let backdrop = Backdrop::new(layers, screen.size, screen.y_axis, &mut pictures);
        let first = pictures.len();
        pictures.extend(Pose::ALL.map(courier::picture));
        let kite = first + Pose::ALL.len();
        pictures.extend([landmarks::kite(), landmarks::bell(), Picture::new(UVec2::ONE, BARK)]);
        let sprites = Sprites { courier: first, kite, bell: kite + 1, fibre: kite + 2 };
        let bells = settings.lures.iter().map(|lure| lure.at).collect();
        let cable = settings.rail.iter().flat_map(|rail| rail.points.iter().copied()).collect();
        Self { pictures, tiles, backdrop, sprites, map, bells, cable }
    }

    /// Returns all pictures, in the order of their numbers.
    pub fn pictures(&self) -> &[Picture] {
        &self.pictures
    }

    /// Returns the cels of this view, from back to front.
    pub fn cels(&self, view: &View, figures: &[Figure]) -> Vec<Cel> {
        self.counted_cels(view, figures).0
    }

    /// Returns the cels, and counts what they draw and what they skip.
    pub fn counted_cels(&self, view: &View, figures: &[Figure]) -> (Vec<Cel>, Tally) {
        let mut cels = self.backdrop.cels(view, false);
        let world = drawn_as(view);
        let (cel, [tiles, mut sprites]) =
            self.world(&world, figures.iter().filter(|one| !one.followed));
        cels.push(cel);
        for figure in figures.iter().filter(|one| one.followed) {
            let place = world.canvas_position(figure.at);
            let quad = self.figure(figure, place, &world);
            if !quad.is_seen(&world) {
                continue;
            }
            let mut cel = Cel::new(world, vec![quad]);
            cel.placement = world.followed_placement(figure.at).anchored(place);
            cels.push(cel);
            sprites += 1;
        }
        cels.extend(self.backdrop.cels(view, true));
        let all_tiles = self.map.as_ref().map_or(0, |map| map.numbers().len());
        let all_sprites = self.bells.len() + figures.len();
        let tally =
            Tally { tiles: [tiles, all_tiles - tiles], sprites: [sprites, all_sprites - sprites] };
        (cels, tally)
    }

    /// Draws this view over a picture of the window.
    pub fn paint(&self, view: &View, figures: &[Figure], window: &mut Picture) {
        for cel in self.cels(view, figures) {
            cel.paint(&self.pictures, window);
        }
    }

    /// Everything that moves with the world: the tiles, and the objects between them. Returns also the number of tiles and
    /// of sprites.
    fn world<'a>(
        &self,
        view: &View,
        figures: impl Iterator<Item = &'a Figure>,
    ) -> (Cel, [usize; 2]) {
        let mut quads = Vec::new();
        if let Some(map) = &self.map {
            quads.extend(tile_quads(&self.tiles, map, view, map.grid(), 1));
        }
        let tiles = quads.len();
        quads.extend(self.bells(view).filter(|quad| quad.is_seen(view)));
        let bells = quads.len() - tiles;
        for ends in self.cable.windows(2) {
            quads.extend(self.fibres(ends, view));
        }
        let figures =
            figures.map(|figure| self.figure(figure, view.canvas_position(figure.at), view));
        let before = quads.len();
        quads.extend(figures.filter(|quad| quad.is_seen(view)));
        let sprites = bells + quads.len() - before;
        (Cel::new(*view, quads), [tiles, sprites])
    }

    fn bells(&self, view: &View) -> impl Iterator<Item = Quad> {
        self.bells.iter().map(|bell| {
            let place = view.canvas_position(*bell);
            self.sprite(self.sprites.bell, landmarks::BELL_FOOT, place, view, false)
        })
    }

    /// The cable between two points, pixel by pixel.
    fn fibres(&self, ends: &[DVec2], view: &View) -> impl Iterator<Item = Quad> {
        let picture = self.sprites.fibre;
        let size = view.canvas_size().as_vec2();
        let (from, to) = (view.canvas_position(ends[0]), view.canvas_position(ends[1]));
        // Only the part near the canvas: its ends may be far away.
        let far = size.max_element() * 4.0;
        let limit = |point: Vec2| point.clamp(Vec2::splat(-far), Vec2::splat(far));
        let (from, to) = (limit(from), limit(to));
        let length = (to - from).length().max(1e-3);
        let half_step = (to - from) / length / 2.0;
        (0..=(length * 2.0) as u32).filter_map(move |step| {
            let min = (from + half_step * step as f32 - 0.5).round();
            let inside = min.cmpge(Vec2::ZERO).all() && min.cmplt(size).all();
            let rect = ScreenRect { min, max: min + 1.0 };
            inside.then_some(Quad { picture, place: Place::Canvas { rect, mirrored: false } })
        })
    }

    fn figure(&self, figure: &Figure, place: Vec2, view: &View) -> Quad {
        let (picture, origin) = match figure.role {
            Role::Courier(pose) => (self.sprites.courier + pose.number(), courier::FEET),
            Role::Kite => (self.sprites.kite, landmarks::KITE_MIDDLE),
        };
        self.sprite(picture, origin, place, view, figure.left)
    }

    /// A sprite whose origin, one of its pixels, is at a position of the canvas.
    fn sprite(
        &self,
        picture: usize,
        origin: (i64, i64),
        place: Vec2,
        view: &View,
        mirrored: bool,
    ) -> Quad {
        let scale = view.scale() as f32;
        let min = (place - Vec2::new(origin.0 as f32, origin.1 as f32) * scale).round();
        let max = min + (self.pictures[picture].size().as_vec2() * scale).round();
        Quad { picture, place: Place::Canvas { rect: ScreenRect { min, max }, mirrored } }
    }
}

/// The view to draw with. Without snapping, it draws in the window's own pixels.
fn drawn_as(view: &View) -> View {
    if view.snap() == Snap::Off { unsnapped(view, view.window_size()) } else { *view }
}

/// Draws the visible tiles.
pub fn draw_map(canvas: &mut Picture, tiles: &TileSet, map: &Map, view: &View) {
    paint(canvas, tiles.pictures(), view, &tile_quads(tiles, map, view, map.grid(), 1));
}

/// Draws every tile of the map, visible or not, to measure what culling saves. For a large map, one of `every` rows is
/// enough to estimate the time.
pub fn draw_whole_map(canvas: &mut Picture, tiles: &TileSet, map: &Map, view: &View, every: usize) {
    const ANYWHERE: f64 = 1e6;
    let everywhere = Overhang { left: ANYWHERE, right: ANYWHERE, up: ANYWHERE, down: ANYWHERE };
    let grid = map.grid().with_overhang(everywhere);
    paint(canvas, tiles.pictures(), view, &tile_quads(tiles, map, view, &grid, every));
}

/// The visible tiles of a map, in one of this number of rows.
fn tile_quads(tiles: &TileSet, map: &Map, view: &View, grid: &Grid, every: usize) -> Vec<Quad> {
    let y_axis = view.lens().y_axis();
    let turned = view.lens().is_rotated();
    let mut quads = Vec::new();
    for row in view.tiles(grid).rows().step_by(every) {
        for (tile, number) in row.filled(map.numbers(), |number| *number != 0) {
            let place = match turned {
                true => Place::World(grid.tile_rect(tile.column, tile.row, y_axis)),
                false => Place::Canvas { rect: tile.rect, mirrored: false },
            };
            quads.push(Quad { picture: tiles.number(*number, tile.column, tile.row), place });
        }
    }
    quads
}
