//! How much of the world's outside a view shows.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{Rect, View};

/// Returns the area outside a rectangle that a view shows, in square screen pixels. Of a rolled view, only what is on
/// the screen counts, not all of the upright rectangle around it.
pub fn outside(view: &View, rect: &Rect) -> f64 {
    let [width, height] = view.size().as_vec2().to_array();
    let corners = [[0.0, 0.0], [width, 0.0], [width, height], [0.0, height]];
    let corners = corners.map(|corner| view.screen_to_world(Vec2::from(corner)));
    // About the view's middle, so that large coordinates lose nothing.
    let middle = view.centre();
    let mut inside: Vec<DVec2> = corners.iter().map(|corner| *corner - middle).collect();
    let all = area(&inside);
    for axis in 0..2 {
        inside = cut(&inside, axis, rect.min[axis] - middle[axis], 1.0);
        inside = cut(&inside, axis, rect.max[axis] - middle[axis], -1.0);
    }
    let outside = (all - area(&inside)) * view.scale() * view.scale();
    // Rounding is not an area.
    if outside < 1e-3 { 0.0 } else { outside }
}

/// Returns the part of a convex polygon that is on one side of a line across an axis: beyond it for a `side` of 1,
/// before it for −1.
fn cut(corners: &[DVec2], axis: usize, line: f64, side: f64) -> Vec<DVec2> {
    let beyond = |corner: DVec2| (corner[axis] - line) * side;
    let mut kept = Vec::new();
    for (index, to) in corners.iter().enumerate() {
        let from = corners[(index + corners.len() - 1) % corners.len()];
        let (before, after) = (beyond(from), beyond(*to));
        if before * after < 0.0 {
            kept.push(from + (*to - from) * (before / (before - after)));
        }
        if after >= 0.0 {
            kept.push(*to);
        }
    }
    kept
}

/// Returns the area of a polygon.
fn area(corners: &[DVec2]) -> f64 {
    let next = corners.iter().cycle().skip(1);
    corners.iter().zip(next).map(|(a, b)| a.perp_dot(*b)).sum::<f64>().abs() / 2.0
}
