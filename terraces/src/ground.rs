//! What lies under a map of the user: a grid, and a level that is one picture.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{CanvasRect, Rect, View};

use crate::cel::{Quad, QuadArea};

/// The smallest distance of two lines of the grid, in screen pixels.
const NEAR: f64 = 24.0;
/// The largest number of lines along each axis.
const MAX_LINES: usize = 512;

/// Returns the picture of a rectangle of the world, in a view.
pub fn placed(picture: usize, rect: &Rect, view: &View) -> Quad {
    if view.lens().is_rotated() {
        return Quad { picture, place: QuadArea::World(*rect) };
    }
    let (one, other) = (view.canvas_position(rect.min), view.canvas_position(rect.max));
    // Each corner is rounded by itself, so that pictures beside each other meet.
    let far = |at: Vec2| at.clamp(Vec2::splat(-1e6), Vec2::splat(1e6)).round();
    let rect = CanvasRect { min: far(one.min(other)), max: far(one.max(other)) };
    Quad { picture, place: QuadArea::Canvas { rect, mirrored: false } }
}

/// Returns the lines of a grid of this many world units, or of twice as many, and so on, where it is dense.
pub fn grid(picture: usize, step: DVec2, view: &View) -> Vec<Quad> {
    let scale = view.scale();
    let widened = |step: f64| {
        let dense = NEAR / (step * scale);
        step * 2.0_f64.powf(dense.log2().ceil().max(0.0))
    };
    let step = DVec2::new(widened(step.x), widened(step.y));
    let shown = view.visible_world();
    let thick = 1.0 / scale;
    let lines = move |axis: usize| {
        let first = (shown.min[axis] / step[axis]).floor();
        let count = ((shown.max[axis] - shown.min[axis]) / step[axis]).ceil() + 1.0;
        (0..(count as usize).min(MAX_LINES)).map(move |index| (first + index as f64) * step[axis])
    };
    let upright = lines(0).map(move |x| Rect {
        min: DVec2::new(x, shown.min.y - thick),
        max: DVec2::new(x + thick, shown.max.y + thick),
    });
    let level = lines(1).map(move |y| Rect {
        min: DVec2::new(shown.min.x - thick, y),
        max: DVec2::new(shown.max.x + thick, y + thick),
    });
    upright.chain(level).map(|rect| placed(picture, &rect, view)).collect()
}
