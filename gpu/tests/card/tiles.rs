//! Tiles drawn with the view's matrices cover the same pixels as the CPU's rectangles.

use velvet_pan_wgpu::velvet_pan::glam::{DVec2, Mat4, UVec2, Vec2};
use velvet_pan_wgpu::velvet_pan::{Grid, GridEdge, Lens, Screen, Snap, View, YAxis};

use crate::card;
use crate::drawing::{Vertex, draw, quad};
use crate::offscreen::Card;

const SIZE: UVec2 = UVec2::new(320, 180);
const TILE: f64 = 16.0;

/// Near the world's origin, and ten million units away from it.
const PLACES: [f64; 2] = [0.0, 1e7];

fn view(centre: DVec2, zoom: f64, snap: Snap, y_axis: YAxis) -> View {
    let screen = Screen { size: SIZE, y_axis, ..Screen::default() };
    View::new(Lens::new(&screen).with_zoom(zoom), centre, snap)
}

/// An endless grid whose tile 0, 0 is at the world's origin.
fn grid() -> Grid {
    Grid::new(1, 1, [TILE, TILE]).with_edges(GridEdge::Unbounded)
}

/// A number for each tile, never 0.
fn number(column: i64, row: i64) -> u32 {
    let mixed = (column as u32).wrapping_mul(73) ^ (row as u32).wrapping_mul(151);
    mixed & 0xffff | 0xff00_0000
}

/// The pixels of each tile, as the CPU fills its rectangle.
fn expected(view: &View) -> Vec<u32> {
    let size = view.canvas_size();
    let mut pixels = vec![0; size.element_product() as usize];
    for row in view.tiles(&grid()).rows() {
        for tile in row.tiles() {
            let inside = |edge: Vec2| edge.clamp(Vec2::ZERO, size.as_vec2()).as_uvec2();
            let (first, end) = (inside(tile.rect.min), inside(tile.rect.max));
            for y in first.y..end.y {
                let row = (y * size.x) as usize;
                pixels[row + first.x as usize..row + end.x as usize]
                    .fill(number(tile.column, tile.row));
            }
        }
    }
    pixels
}

/// Two triangles for each visible tile, from the result of `corner` for two opposite world corners.
fn triangles(view: &View, corner: impl Fn(DVec2) -> Vec2) -> Vec<Vertex> {
    let y_axis = view.lens().y_axis();
    let tiles = view.tiles(&grid());
    let each = tiles.rows().flat_map(|row| row.tiles().collect::<Vec<_>>());
    each.flat_map(|tile| {
        let rect = grid().tile_rect(tile.column, tile.row, y_axis);
        quad(corner(rect.min), corner(rect.max), number(tile.column, tile.row))
    })
    .collect()
}

fn drawn(card: &Card, view: &View, matrix: Mat4, offset: Vec2, triangles: &[Vertex]) -> Vec<u32> {
    draw(card, view.canvas_size(), matrix, offset, triangles)
}

/// Views at whole scales, near and far, at positions with unusual fractions.
fn upright() -> impl Iterator<Item = View> {
    PLACES.into_iter().flat_map(|far| {
        [1.0, 2.0, 3.0].into_iter().flat_map(move |zoom| {
            [Snap::Whole, Snap::Subpixel].into_iter().flat_map(move |snap| {
                [YAxis::Down, YAxis::Up].into_iter().map(move |y_axis| {
                    let odd = DVec2::new(0.37 + zoom * 0.21, -12.81);
                    view(DVec2::splat(far) + odd, zoom, snap, y_axis)
                })
            })
        })
    })
}

#[test]
fn the_relative_matrix_fills_the_rectangles_of_tiles() {
    let Some(card) = card() else { return };
    for view in upright() {
        let corners = triangles(&view, |world| view.world_to_relative(world));
        let shown = drawn(&card, &view, view.relative_to_clip_matrix(), Vec2::ZERO, &corners);
        assert!(shown == expected(&view), "at {} {:?}", view.centre(), view.snap());
        assert!(!shown.contains(&0), "a hole");
    }
}

#[test]
fn the_canvas_matrix_fills_the_rectangles_of_tiles() {
    let Some(card) = card() else { return };
    for view in upright() {
        let tiles = view.tiles(&grid());
        let corners: Vec<Vertex> = tiles
            .rows()
            .flat_map(|row| row.tiles().collect::<Vec<_>>())
            .flat_map(|tile| quad(tile.rect.min, tile.rect.max, number(tile.column, tile.row)))
            .collect();
        let shown = drawn(&card, &view, view.canvas_to_clip_matrix(), Vec2::ZERO, &corners);
        assert!(shown == expected(&view), "at {} {:?}", view.centre(), view.snap());
    }
}

/// A static buffer holds the corners relative to its chunk; only the chunk's own corner is subtracted in `f64`.
#[test]
fn a_buffer_relative_to_its_chunk_is_exact_far_away() {
    let Some(card) = card() else { return };
    for view in upright() {
        // The chunk of 64 x 64 tiles in whose corner the view is: whole numbers, made once.
        let chunk = (view.visible_world().min / (64.0 * TILE)).floor() * 64.0 * TILE;
        let corners = triangles(&view, |world| (world - chunk).as_vec2());
        let offset = view.world_to_relative(chunk);
        let shown = drawn(&card, &view, view.relative_to_clip_matrix(), offset, &corners);
        assert!(shown == expected(&view), "at {} {:?}", view.centre(), view.snap());
    }
}

/// The greatest distance of a tile's corner from its true position, in screen pixels, with the plain world matrix,
/// over many views at this distance.
fn plain_error(distance: f64) -> f64 {
    let mut worst = 0.0_f64;
    for step in 0..200 {
        let centre = DVec2::splat(distance + f64::from(step) * 3.7);
        let view = view(centre, 1.0, Snap::Subpixel, YAxis::Down);
        let matrix = view.world_to_clip_matrix();
        for row in view.tiles(&grid()).rows() {
            for tile in row.tiles() {
                let world = grid().tile_rect(tile.column, tile.row, YAxis::Down).min;
                let clip = matrix * world.as_vec2().extend(0.0).extend(1.0);
                let unit = DVec2::new(f64::from(clip.x) + 1.0, 1.0 - f64::from(clip.y)) / 2.0;
                let canvas = unit * view.canvas_size().as_dvec2();
                worst = worst.max((canvas - tile.rect.min.as_dvec2()).abs().max_element());
            }
        }
    }
    worst
}

/// The number in the guide: up to this distance the plain world matrix is right to a sixteenth of a pixel.
#[test]
fn the_plain_world_matrix_is_coarse_far_away() {
    for exponent in 12..=24 {
        let distance = f64::from(1 << exponent);
        println!("{distance:>9}: {:.5} screen pixels", plain_error(distance));
    }
    assert!(plain_error(3e5) < 1.0 / 16.0);
    assert!(plain_error(1e7) > 0.5);
}

/// The tile at the middle of a pixel in a rotated view, by plain arithmetic, and the distance to the nearest edge
/// between two tiles in screen pixels.
fn turned(view: &View, x: u32, y: u32) -> (u32, f64) {
    let lens = view.lens();
    let middle = DVec2::new(f64::from(x), f64::from(y)) + 0.5 + view.canvas_corner();
    let (sin, cos) = lens.rotation().sin_cos();
    let world =
        DVec2::new(cos * middle.x - sin * middle.y, sin * middle.x + cos * middle.y) / view.scale();
    let cell = world / TILE;
    let part = cell - cell.floor();
    let away = part.min(1.0 - part).min_element() * TILE * view.scale();
    (number(cell.x.floor() as i64, cell.y.floor() as i64), away)
}

#[test]
fn turned_tiles_are_right_to_a_256th_of_a_pixel() {
    let Some(card) = card() else { return };
    let (mut near, mut all) = (0, 0);
    for (index, far) in [0.0, 0.0, 1e7, 1e7].into_iter().enumerate() {
        let angle = 0.3 + 0.7 * index as f64;
        let lens = *view(DVec2::ZERO, 2.0, Snap::Off, YAxis::Down).lens();
        let view = View::new(lens.with_rotation(angle), DVec2::splat(far) + 0.4, Snap::Off);
        let corners = triangles(&view, |world| view.world_to_relative(world));
        let shown = drawn(&card, &view, view.relative_to_clip_matrix(), Vec2::ZERO, &corners);
        for (pixel, number) in (0..).zip(shown) {
            let (expected, away) = turned(&view, pixel % SIZE.x, pixel / SIZE.x);
            all += 1;
            if number != expected {
                near += 1;
                assert!(away < 1.0 / 256.0, "pixel {pixel} at {far}: {away} from the edge");
            }
        }
    }
    println!("{near} of {all} pixels decided otherwise, all within 1/256 pixel of an edge");
}
