//! Where things are drawn in the window, and where they would be without snapping.

use velvet_pan::View;
use velvet_pan::glam::DVec2;

/// Returns the position of the world's origin as drawn in the window, in whole window pixels.
pub fn drawn_origin(view: &View) -> DVec2 {
    let placement = view.placement();
    (placement.origin - view.canvas_corner() * placement.scale).round()
}

/// Returns the position of the world's origin in the window without snapping.
pub fn true_origin(view: &View) -> DVec2 {
    let size = view.steady().size().as_dvec2();
    let corner = view.lens().to_screen_axes(view.centre()) - size / 2.0;
    -corner * view.placement().scale
}

/// Returns the position of a followed subject as drawn in the window, in whole window pixels.
pub fn drawn_subject(view: &View, subject: DVec2) -> DVec2 {
    view.steady().followed_placement(subject).origin.round()
}
