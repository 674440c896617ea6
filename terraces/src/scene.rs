//! One moment of a ride as the player would see it.

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{Blending, Grid, Overhang, ScreenRect, Snap, View, YAxis, present_over};
use velvet_pan_takes::{Actor, Map, Moment, Path, Take};

use crate::art::backdrop::Backdrop;
use crate::art::courier::{self, Pose};
use crate::art::landmarks;
use crate::art::palette::{BARK, NIGHT};
use crate::art::tiles::{SIDE, TileSet};
use crate::paint::{lay, stretch, unsnapped};
use crate::picture::{CLEAR, Picture};

/// Draws the moments of a take.
#[derive(Debug)]
pub struct Scene<'a> {
    take: &'a Take,
    tiles: TileSet,
    backdrop: Backdrop,
}

impl<'a> Scene<'a> {
    /// Draws what lasts.
    pub fn new(take: &'a Take) -> Self {
        let (layers, screen) = (take.layers(), &take.settings.screen);
        let backdrop = Backdrop::new(&layers, screen.size, screen.y_axis);
        Self { take, tiles: TileSet::drawn(), backdrop }
    }

    /// The take's name.
    pub fn name(&self) -> &str {
        &self.take.name
    }

    /// The moment in its window, the bars around it in the colour of the night.
    pub fn draw(&self, moment: &Moment) -> Picture {
        let view = moment.view;
        let window = view.window_size();
        let mut picture = Picture::new(UVec2::new(window.width, window.height), NIGHT);
        self.backdrop.draw_behind(&mut picture, &view);
        self.draw_world(&mut picture, moment);
        self.backdrop.draw_before(&mut picture, &view);
        picture
    }

    /// What moves with the world: the tiles, and who is in it.
    fn draw_world(&self, picture: &mut Picture, moment: &Moment) {
        let view = moment.view;
        let window = view.window_size();
        let view = if view.snap() == Snap::Off { unsnapped(&view, window) } else { view };
        let mut canvas = Picture::new(view.canvas_size(), CLEAR);
        if let Some(map) = &self.take.map {
            draw_map(&mut canvas, &self.tiles, map, &view);
        }
        self.draw_landmarks(&mut canvas, &view);
        for (name, actor) in self.take.subjects.iter().filter(|one| !is_followed(one, moment)) {
            let place = view.canvas_position(actor.path.position(moment.t));
            draw_actor(&mut canvas, name, &actor.path, moment.t, place, &view);
        }
        lay(&canvas, picture, &view);
        for (name, actor) in self.take.subjects.iter().filter(|one| is_followed(one, moment)) {
            let at = actor.path.position(moment.t);
            on_own_canvas(picture, at, &view, |canvas| {
                draw_actor(canvas, name, &actor.path, moment.t, view.followed_position(at), &view);
            });
        }
    }

    /// Bells where the view is lured to, and the cable along its rail.
    fn draw_landmarks(&self, canvas: &mut Picture, view: &View) {
        let settings = &self.take.settings;
        for lure in &settings.lures {
            draw_sprite(
                canvas,
                &landmarks::bell(),
                landmarks::BELL_FOOT,
                view.canvas_position(lure.at),
                view,
                false,
            );
        }
        let points = settings.rail.iter().flat_map(|rail| rail.points.windows(2));
        for ends in points {
            canvas.line(
                view.canvas_position(ends[0]),
                view.canvas_position(ends[1]),
                1.0,
                0.0,
                BARK,
            );
        }
    }
}

/// Whom the camera follows has a canvas of her own, placed by its own residual, so that she does
/// not tremble as the view glides.
pub fn draw_followed(picture: &mut Picture, pose: Pose, left: bool, feet: DVec2, view: &View) {
    on_own_canvas(picture, feet, view, |canvas| {
        draw_courier(canvas, pose, left, view.followed_position(feet), view);
    });
}

fn on_own_canvas(picture: &mut Picture, at: DVec2, view: &View, draw: impl FnOnce(&mut Picture)) {
    let mut canvas = Picture::new(view.canvas_size(), CLEAR);
    draw(&mut canvas);
    let placement = view.followed_placement(at);
    present_over(canvas.pixels(), picture.pixels_mut(), &placement, Blending::Encoded);
}

fn is_followed((_, actor): &(&String, &Actor), moment: &Moment) -> bool {
    moment.subject == Some(actor.path.position(moment.t))
}

/// Draws who it is by name: a kite, or the courier.
fn draw_actor(canvas: &mut Picture, name: &str, path: &Path, t: f64, place: Vec2, view: &View) {
    if name.contains("kite") {
        let left = facing(path, t);
        draw_sprite(canvas, &landmarks::kite(), landmarks::KITE_MIDDLE, place, view, left);
    } else {
        let (pose, left) = pose(path, t, view.lens().y_axis());
        draw_courier(canvas, pose, left, place, view);
    }
}

/// Draws the tiles in view.
pub fn draw_map(canvas: &mut Picture, tiles: &TileSet, map: &Map, view: &View) {
    if view.lens().is_rotated() {
        return draw_turned_map(canvas, tiles, map, view);
    }
    draw_tiles(canvas, tiles, map, view, map.grid());
}

/// Draws every tile of the map, in view or not: what culling saves.
pub fn draw_whole_map(canvas: &mut Picture, tiles: &TileSet, map: &Map, view: &View) {
    const ANYWHERE: f64 = 1e6;
    let everywhere = Overhang { left: ANYWHERE, right: ANYWHERE, up: ANYWHERE, down: ANYWHERE };
    draw_tiles(canvas, tiles, map, view, &map.grid().with_overhang(everywhere));
}

fn draw_tiles(canvas: &mut Picture, tiles: &TileSet, map: &Map, view: &View, grid: &Grid) {
    for row in view.tiles(grid).rows() {
        for (tile, number) in row.filled(map.numbers(), |number| *number != 0) {
            let picture = tiles.picture(*number, tile.column, tile.row);
            stretch(canvas, picture, &tile.rect, false);
        }
    }
}

/// Pixel by pixel, asking which tile is there.
fn draw_turned_map(canvas: &mut Picture, tiles: &TileSet, map: &Map, view: &View) {
    let residual = slack(view);
    for y in 0..canvas.size().y {
        for x in 0..canvas.size().x {
            let place = Vec2::new(x as f32, y as f32) + 0.5 - residual;
            let cell = view.in_grid(map.grid(), view.screen_to_world(place));
            let whole = cell.floor();
            let (column, row) = (whole.x as i64, whole.y as i64);
            let Some(index) = map.grid().index(column, row) else { continue };
            let picture = tiles.picture(map.numbers()[index], column, row);
            let texel = ((cell - whole) * f64::from(SIDE)).floor();
            let colour = picture.get(texel.x as i64, texel.y as i64);
            if colour[3] > 0 {
                canvas.set(i64::from(x), i64::from(y), colour);
            }
        }
    }
}

/// From a place of the canvas to the same place of the view.
fn slack(view: &View) -> Vec2 {
    if view.snap() == Snap::Off { Vec2::ZERO } else { view.residual() }
}

/// Draws the courier with her feet at a place of the canvas, facing left or right.
fn draw_courier(canvas: &mut Picture, pose: Pose, left: bool, place: Vec2, view: &View) {
    draw_sprite(canvas, &courier::picture(pose), courier::FEET, place, view, left);
}

/// Draws a sprite with one of its pixels, its origin, at a place of the canvas.
fn draw_sprite(
    canvas: &mut Picture,
    sprite: &Picture,
    origin: (i64, i64),
    place: Vec2,
    view: &View,
    mirrored: bool,
) {
    let scale = view.scale() as f32;
    let min = (place - Vec2::new(origin.0 as f32, origin.1 as f32) * scale).round();
    let max = min + (sprite.size().as_vec2() * scale).round();
    stretch(canvas, sprite, &ScreenRect { min, max }, mirrored);
}

/// What she does, and whether she faces left, from where her path leads.
fn pose(path: &Path, t: f64, y_axis: YAxis) -> (Pose, bool) {
    const MOMENT: f64 = 1.0 / 30.0;
    let speed = (path.position(t + MOMENT) - path.position(t - MOMENT)) / (2.0 * MOMENT);
    let left = facing(path, t);
    let rising = if y_axis == YAxis::Down { speed.y < 0.0 } else { speed.y > 0.0 };
    let pose = match path.grounded(t) {
        false if rising => Pose::Rise,
        false => Pose::Fall,
        true if speed.x.abs() < 12.0 => Pose::Stand,
        true => Pose::Run((path.position(t).x.abs() / 9.0) as u32),
    };
    (pose, left)
}

/// Whether she last moved to the left.
fn facing(path: &Path, t: f64) -> bool {
    let looks = (0..20).map(|back| t - 0.1 * f64::from(back));
    let moved = |t: f64| path.position(t + 0.05).x - path.position(t - 0.05).x;
    looks.map(moved).find(|moved| moved.abs() > 0.5).is_some_and(|moved| moved < 0.0)
}
