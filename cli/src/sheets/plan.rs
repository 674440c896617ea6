//! A plan of the tiles around a view: touched tiles are bright, the others dim.

use std::collections::BTreeSet;

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{CanvasRect, Lens, Rect, Screen, Snap, View};
use velvet_pan_takes::Map;
use velvet_pan_terraces::art::palette::{CREAM, HONEY, MIST, NIGHT, PLUM, SPROUT, STONE};
use velvet_pan_terraces::art::text;
use velvet_pan_terraces::map_art::MapArt;
use velvet_pan_terraces::paint::stretch;
use velvet_pan_terraces::picture::{Colour, Picture};

/// The size of a plan in pixels, and of the text band at its top.
const SIZE: UVec2 = UVec2::new(1280, 800);
const BAND: u32 = 64;

/// Draws the tiles around a view.
pub fn draw(map: &Map, art: &MapArt, view: &View) -> Picture {
    let over = overview(view);
    let tiles = view.tiles(map.grid());
    let touched: BTreeSet<(i64, i64)> =
        tiles.rows().flat_map(|row| row.columns().map(move |column| (row.row(), column))).collect();
    let mut ground = Picture::new(over.canvas_size(), PLUM);
    for row in over.tiles(map.grid()).rows() {
        for (tile, number) in row.tiles().zip(&map.numbers()[row.indices()]) {
            ground.fill(corner(&tile.rect), size(&tile.rect), NIGHT);
            if *number != 0 {
                stretch(
                    &mut ground,
                    &art.pictures()[art.number(map, *number, tile.column, tile.row)],
                    &tile.rect,
                    false,
                );
            }
            light(
                &mut ground,
                &tile.rect,
                *number != 0,
                touched.contains(&(tile.row, tile.column)),
            );
        }
    }
    outline(&mut ground, view, &over);
    let mut picture = Picture::new(SIZE, NIGHT);
    picture.lay(&ground, (0, i64::from(BAND)), false);
    let filled = map.filled(&tiles);
    write_words(&mut picture, touched.len(), touched.len() - filled, map.numbers().len());
    picture
}

/// Returns an upright view of the surroundings.
fn overview(view: &View) -> View {
    let screen = Screen {
        size: SIZE - UVec2::new(0, BAND),
        y_axis: view.lens().y_axis(),
        snap: Snap::Whole,
        ..Screen::default()
    };
    let around = Rect::around(view.centre(), view.lens().half_extents() * 1.5);
    let lens = Lens::new(&screen);
    View::new(lens.with_zoom(lens.zoom_to_fit(&around)), view.centre(), Snap::Whole)
}

/// Dims a tile that is not touched, and outlines one that is.
fn light(ground: &mut Picture, rect: &CanvasRect, filled: bool, touched: bool) {
    let ((x, y), (width, height)) = (corner(rect), size(rect));
    let mut tint =
        |x: i64, y: i64, colour: Colour, opacity: f32| ground.tint(x, y, colour, opacity);
    if !touched {
        for (x, y) in (y..y + height).flat_map(|y| (x..x + width).map(move |x| (x, y))) {
            tint(x, y, NIGHT, 0.72);
        }
        return;
    }
    let (rim, opacity) = if filled { (SPROUT, 0.75) } else { (MIST, 0.35) };
    for x in x..x + width - 1 {
        tint(x, y, rim, opacity);
        tint(x, y + height - 2, rim, opacity);
    }
    for y in y + 1..y + height - 2 {
        tint(x, y, rim, opacity);
        tint(x + width - 2, y, rim, opacity);
    }
}

/// Draws the outline of the canvas.
fn outline(ground: &mut Picture, view: &View, over: &View) {
    let size = view.canvas_size().as_vec2();
    let from = view.canvas_position(view.centre()) - view.world_to_screen(view.centre());
    let corners = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]
        .map(|corner| over.world_to_screen(view.screen_to_world(size * Vec2::from(corner) - from)));
    for index in 0..4 {
        let (a, b) = (corners[index], corners[(index + 1) % 4]);
        ground.line(a, b, 5.0, 0.0, NIGHT);
        ground.line(a, b, 3.0, 0.0, HONEY);
    }
}

fn write_words(picture: &mut Picture, touched: usize, blank: usize, all: usize) {
    let drawn = touched - blank;
    let share = 100.0 * (1.0 - drawn as f64 / all.max(1) as f64);
    let title = format!("{touched} of {all} tiles touched, {drawn} drawn: {share:.1} % skipped");
    text::write(picture, &title, (20, 8), 26.0, CREAM);
    let mut x = 20;
    let keys = [
        (SPROUT, "touched, drawn".to_owned()),
        (MIST, format!("touched, blank: {blank}")),
        (STONE, "dim: not touched".to_owned()),
        (PLUM, "outside of the map".to_owned()),
        (HONEY, "the edge of the canvas".to_owned()),
    ];
    for (colour, words) in keys {
        picture.fill((x, 42), (14, 14), colour);
        x += 22;
        x += text::write(picture, &words, (x, 38), 18.0, MIST).ceil() as i64 + 28;
    }
}

fn corner(rect: &CanvasRect) -> (i64, i64) {
    (rect.min.x as i64, rect.min.y as i64)
}

fn size(rect: &CanvasRect) -> (i64, i64) {
    let DVec2 { x, y } = rect.size().as_dvec2();
    (x as i64, y as i64)
}
