//! The terraces as they are drawn: the pictures that are kept, and what a view shows of them.

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{CanvasRect, Layer, Rect, Settings, Snap, View};
use velvet_pan_takes::Map;

use crate::art::backdrop::Backdrop;
use crate::art::courier::{self, Pose};
use crate::art::landmarks;
use crate::art::palette::BARK;
use crate::cel::{Cel, Quad, QuadArea};
use crate::ground;
use crate::map_art::MapArt;
use crate::own::plain::{BOX_MIDDLE, GRID, boxes};
use crate::own::{Artwork, Own};
use crate::paint::unsnapped;
use crate::picture::Picture;

/// Everything that can be drawn, and the positions of what never moves.
#[derive(Debug)]
pub struct Scenery {
    /// All pictures by number, the tiles first.
    pictures: Vec<Picture>,
    tiles: MapArt,
    backdrop: Backdrop,
    props: Props,
    map: Option<Map>,
}

/// The numbers of the pictures of figures, and what else stands in the world.
#[derive(Debug)]
enum Props {
    Terraces {
        courier: usize,
        kite: usize,
        bell: Prop,
        fibre: Prop,
    },
    Own {
        sprites: Vec<Option<Sprite>>,
        boxes: usize,
        level: Vec<(usize, Rect)>,
        grid: Option<usize>,
        step: DVec2,
    },
}

/// A picture at several points.
#[derive(Debug)]
struct Prop {
    picture: usize,
    points: Vec<DVec2>,
}

/// The frames of a subject.
#[derive(Debug)]
struct Sprite {
    first: usize,
    frames: usize,
    fps: f64,
    origin: Vec2,
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
    /// A subject of the user.
    Own {
        /// Its number, in the order of names.
        subject: usize,
        /// The eighth of a turn that it looks to, clockwise from the right; `None` before it first moves.
        way: Option<usize>,
        /// For how many seconds it has been moving; `None` while it stands.
        moves: Option<f64>,
    },
}

/// What a view draws, and what it skips: tiles that are out of view or blank, and sprites that are out of view.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Tally {
    /// Drawn and skipped tiles of the map.
    pub tiles: [usize; 2],
    /// Drawn and skipped figures and bells.
    pub sprites: [usize; 2],
}

impl Scenery {
    /// Draws or copies all pictures for these settings. `layers` are those of the camera
    /// ([`Camera::layers`](velvet_pan::Camera::layers)).
    pub fn new(art: &Artwork, settings: &Settings, layers: &[Layer], map: Option<Map>) -> Self {
        let tiles = MapArt::new(art, settings, map.as_ref());
        let mut pictures = tiles.pictures().to_vec();
        let backdrop = Backdrop::new(art, layers, &settings.screen, &mut pictures);
        let props = match art {
            Artwork::Terraces => Props::of_terraces(settings, &mut pictures),
            Artwork::Own(own) => {
                let step = map.as_ref().map_or(DVec2::splat(16.0), |map| map.grid().tile_size());
                Props::of_user(own, step * 4.0, &mut pictures)
            }
        };
        Self { pictures, tiles, backdrop, props, map }
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
        let bells = match &self.props {
            Props::Terraces { bell, .. } => bell.points.len(),
            Props::Own { .. } => 0,
        };
        let all_sprites = bells + figures.len();
        let tally =
            Tally { tiles: [tiles, all_tiles - tiles], sprites: [sprites, all_sprites - sprites] };
        (cels, tally)
    }

    /// Draws what stands still in the world over the canvas of a view: the level, tiles, and objects between them. A view
    /// of the whole level shows it as a plan.
    pub fn paint_world(&self, view: &View, canvas: &mut Picture) {
        let (cel, _) = self.world(view, [].iter());
        crate::cel::paint(canvas, &self.pictures, view, &cel.quads);
    }

    /// Returns the number of tiles that a view touches.
    pub fn tiles_in(&self, view: &View) -> usize {
        self.map.as_ref().map_or(0, |map| view.tiles(map.grid()).count())
    }

    /// Returns the world that the map and the level cover.
    pub fn covered(&self) -> Option<Rect> {
        let parts = match &self.props {
            Props::Own { level, .. } => level.as_slice(),
            Props::Terraces { .. } => &[],
        };
        let map = self.map.iter().map(|map| map.grid().rect());
        let joined = |one: Rect, other: Rect| Rect {
            min: one.min.min(other.min),
            max: one.max.max(other.max),
        };
        map.chain(parts.iter().map(|(_, rect)| *rect)).reduce(joined)
    }

    /// Draws this view over a picture of the window.
    pub fn paint(&self, view: &View, figures: &[Figure], window: &mut Picture) {
        for cel in self.cels(view, figures) {
            cel.paint(&self.pictures, window);
        }
    }

    /// Everything that moves with the world: the tiles, and the objects between them. Returns also the number of tiles
    /// and of sprites.
    fn world<'a>(
        &self,
        view: &View,
        figures: impl Iterator<Item = &'a Figure>,
    ) -> (Cel, [usize; 2]) {
        let mut quads = self.props.behind(view);
        let behind = quads.len();
        if let Some(map) = &self.map {
            quads.extend(self.tiles.quads(map, view, map.grid(), 1));
        }
        let tiles = quads.len() - behind;
        let mut sprites = 0;
        if let Props::Terraces { bell, fibre, .. } = &self.props {
            let before = quads.len();
            quads.extend(self.bells(bell, view).filter(|quad| quad.is_seen(view)));
            sprites += quads.len() - before;
            for ends in fibre.points.windows(2) {
                quads.extend(fibres(fibre.picture, ends, view));
            }
        }
        let figures =
            figures.map(|figure| self.figure(figure, view.canvas_position(figure.at), view));
        let before = quads.len();
        quads.extend(figures.filter(|quad| quad.is_seen(view)));
        sprites += quads.len() - before;
        (Cel::new(*view, quads), [tiles, sprites])
    }

    fn bells(&self, bell: &Prop, view: &View) -> impl Iterator<Item = Quad> {
        bell.points.iter().map(|at| {
            let place = view.canvas_position(*at);
            self.sprite(bell.picture, origin(landmarks::BELL_FOOT), place, view, false)
        })
    }

    fn figure(&self, figure: &Figure, place: Vec2, view: &View) -> Quad {
        let (picture, origin, mirrored) = self.props.picture(figure);
        self.sprite(picture, origin, place, view, mirrored)
    }

    /// Returns a sprite whose origin, one of its pixels, is at a position of the canvas.
    fn sprite(
        &self,
        picture: usize,
        origin: Vec2,
        place: Vec2,
        view: &View,
        mirrored: bool,
    ) -> Quad {
        let scale = view.scale() as f32;
        let min = (place - origin * scale).round();
        let max = min + (self.pictures[picture].size().as_vec2() * scale).round();
        Quad { picture, place: QuadArea::Canvas { rect: CanvasRect { min, max }, mirrored } }
    }
}

impl Props {
    fn of_terraces(settings: &Settings, pictures: &mut Vec<Picture>) -> Self {
        let courier = pictures.len();
        pictures.extend(Pose::ALL.map(courier::picture));
        let kite = pictures.len();
        pictures.extend([landmarks::kite(), landmarks::bell(), Picture::new(UVec2::ONE, BARK)]);
        let bells = settings.lures.iter().map(|lure| lure.at).collect();
        let cable = settings.rail.iter().flat_map(|rail| rail.points.iter().copied()).collect();
        Self::Terraces {
            courier,
            kite,
            bell: Prop { picture: kite + 1, points: bells },
            fibre: Prop { picture: kite + 2, points: cable },
        }
    }

    fn of_user(own: &Own, step: DVec2, pictures: &mut Vec<Picture>) -> Self {
        let mut add = |added: Vec<Picture>| {
            let first = pictures.len();
            pictures.extend(added);
            first
        };
        let sprite = |sprite: &crate::own::Sprite, first: usize| Sprite {
            first,
            frames: sprite.frames.len(),
            fps: sprite.fps,
            origin: sprite.origin,
        };
        let sprites = own.subjects.iter().map(|own| {
            let own = own.as_ref()?;
            Some(sprite(own, add(own.frames.clone())))
        });
        let sprites = sprites.collect();
        let level = own.level.iter().map(|part| (add(vec![part.picture.clone()]), part.rect));
        let level = level.collect();
        let boxes = add(boxes().collect());
        // A picture behind everything needs no grid.
        let is_bare = own.level.is_empty() && own.layers.is_empty();
        let grid = is_bare.then(|| add(vec![Picture::new(UVec2::ONE, GRID)]));
        Self::Own { sprites, boxes, level, grid, step }
    }

    /// What lies behind the tiles.
    fn behind(&self, view: &View) -> Vec<Quad> {
        let Self::Own { level, grid, step, .. } = self else { return Vec::new() };
        let lines = grid.map(|picture| ground::grid(picture, *step, view)).unwrap_or_default();
        let parts = level.iter().filter(|(_, rect)| view.sees(rect));
        lines
            .into_iter()
            .chain(parts.map(|(picture, rect)| ground::placed(*picture, rect, view)))
            .collect()
    }

    /// Returns the picture of a figure, the pixel of it that is at its position, and whether it is mirrored.
    fn picture(&self, figure: &Figure) -> (usize, Vec2, bool) {
        match (self, figure.role) {
            (Self::Terraces { courier, .. }, Role::Courier(pose)) => {
                (courier + pose.number(), origin(courier::FEET), figure.left)
            }
            (Self::Terraces { kite, .. }, _) => {
                (*kite, origin(landmarks::KITE_MIDDLE), figure.left)
            }
            (Self::Own { sprites, boxes, .. }, Role::Own { subject, way, moves }) => {
                match sprites.get(subject) {
                    Some(Some(sprite)) => (sprite.frame(moves), sprite.origin, figure.left),
                    _ => (boxes + way.map_or(0, |way| way + 1), origin(BOX_MIDDLE), false),
                }
            }
            (Self::Own { boxes, .. }, _) => (*boxes, origin(BOX_MIDDLE), false),
        }
    }
}

impl Sprite {
    /// Returns the number of the picture to show, after this time of movement in seconds.
    fn frame(&self, moves: Option<f64>) -> usize {
        let shown = moves.map_or(0, |seconds| (seconds * self.fps) as usize);
        self.first + shown % self.frames.max(1)
    }
}

fn origin((x, y): (i64, i64)) -> Vec2 {
    Vec2::new(x as f32, y as f32)
}

/// Returns the cable between two points, pixel by pixel.
fn fibres(picture: usize, ends: &[DVec2], view: &View) -> impl Iterator<Item = Quad> {
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
        let rect = CanvasRect { min, max: min + 1.0 };
        inside.then_some(Quad { picture, place: QuadArea::Canvas { rect, mirrored: false } })
    })
}

/// Returns the view to draw with. Without snapping, it draws in the window's own pixels.
fn drawn_as(view: &View) -> View {
    if view.snap() == Snap::Off { unsnapped(view, view.window_size()) } else { *view }
}
