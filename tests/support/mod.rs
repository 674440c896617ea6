//! Functions that several tests share.
#![allow(dead_code)] // each of the two programs uses its part

pub mod properties;

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, PerAxis, Rect, Settings, Smoothing, Snap, View};

/// The default settings with this smoothing.
pub fn smooth(smoothing: impl Into<PerAxis<Smoothing>>) -> Settings {
    let mut settings = Settings::default();
    settings.follow.smoothing = smoothing.into();
    settings
}

pub fn camera(settings: Settings) -> Camera {
    Camera::new(settings).expect("valid settings")
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

/// The overlap of two rectangles, each at any angle, along the axis that separates them best; not positive if they are
/// apart.
pub fn overlap(a: &[DVec2; 4], b: &[DVec2; 4]) -> f64 {
    let mut least = f64::INFINITY;
    for figure in [a, b] {
        // Opposite sides are parallel.
        for side in [figure[1] - figure[0], figure[2] - figure[1]] {
            let normal = side.perp().normalize();
            let (a, b) = (reach(a, normal), reach(b, normal));
            least = least.min(a.1.min(b.1) - a.0.max(b.0));
        }
    }
    least
}

/// How far a figure reaches along a direction, backwards and forwards.
fn reach(figure: &[DVec2; 4], direction: DVec2) -> (f64, f64) {
    let [a, b, c, d] = figure.map(|corner| corner.dot(direction));
    (a.min(b).min(c.min(d)), a.max(b).max(c.max(d)))
}
