//! Functions that several tests share.
#![allow(dead_code)] // each test uses its part

use proptest::prelude::ProptestConfig;
use proptest::test_runner::RngSeed;
use velvet_pan::glam::DVec2;
use velvet_pan::{Rect, Snap, View};

/// This number of random cases, always the same ones.
pub fn config(cases: u32) -> ProptestConfig {
    ProptestConfig {
        cases,
        failure_persistence: None,
        rng_seed: RngSeed::Fixed(20),
        ..ProptestConfig::default()
    }
}

/// A rectangle's corners, in order around it.
pub fn corners(rect: &Rect) -> [DVec2; 4] {
    let (min, max) = (rect.min, rect.max);
    [min, DVec2::new(max.x, min.y), max, DVec2::new(min.x, max.y)]
}

/// The view's top left corner in screen pixels, along its own axes, before snapping.
pub fn true_corner(view: &View) -> DVec2 {
    view.lens().to_screen_axes(view.centre()) - view.size().as_dvec2() / 2.0
}

/// The canvas in screen pixels, along the view's axes.
pub fn canvas(view: &View) -> Rect {
    let low = if view.snap() == Snap::Off { true_corner(view) } else { view.corner().as_dvec2() };
    Rect::from_corner_size(low, view.canvas_size().as_dvec2())
}

/// The overlap of two convex quadrilaterals along the axis that separates them best; not positive if they are apart.
pub fn overlap(a: &[DVec2; 4], b: &[DVec2; 4]) -> f64 {
    let normals = [a, b].into_iter().flat_map(|figure| {
        (0..4).map(|index| (figure[(index + 1) % 4] - figure[index]).perp().normalize())
    });
    let reach = |figure: &[DVec2; 4], normal: DVec2| {
        let along = figure.map(|corner| corner.dot(normal));
        (along.into_iter().fold(f64::MAX, f64::min), along.into_iter().fold(f64::MIN, f64::max))
    };
    normals
        .map(|normal| {
            let (a, b) = (reach(a, normal), reach(b, normal));
            a.1.min(b.1) - a.0.max(b.0)
        })
        .fold(f64::INFINITY, f64::min)
}
