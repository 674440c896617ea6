//! The invariants of every view.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Ratchet, Rect, Snap, View, YAxis};

/// The distance by which the drawn picture exceeds a rectangle, in screen pixels, on the axes on which the rectangle
/// is large enough.
fn outside(view: &View, rect: &Rect) -> f64 {
    let (low, size) = (view.canvas_corner(), view.size().as_dvec2());
    let low = if view.snap() == Snap::Whole { low } else { view.true_corner() };
    let corners = [DVec2::ZERO, DVec2::new(size.x, 0.0), size, DVec2::new(0.0, size.y)];
    let mut out: f64 = 0.0;
    // A view that all but fills them may find no whole pixel.
    let spare = if view.snap() == Snap::Whole { 1.0 / view.scale() } else { 0.0 };
    let needs = view.visible_world().size() + spare;
    for axis in (0..2).filter(|axis| needs[*axis] < rect.size()[*axis]) {
        for corner in corners {
            let world = view.lens().to_world_axes(low + corner)[axis];
            out = out.max(rect.min[axis] - world).max(world - rect.max[axis]);
        }
    }
    out * view.scale()
}

/// The bounds in force, widened while they come in.
pub fn bounds(camera: &Camera) -> Option<Rect> {
    camera.bounds_now()
}

/// The axis of a ratchet's line, and 1 if larger coordinates are ahead.
fn way(camera: &Camera) -> Option<(usize, f64)> {
    let up = camera.settings().screen.y_axis == YAxis::Up;
    match (camera.settings().follow.ratchet, up) {
        (Ratchet::Right, _) => Some((0, 1.0)),
        (Ratchet::Left, _) => Some((0, -1.0)),
        (Ratchet::Down, false) | (Ratchet::Up, true) => Some((1, 1.0)),
        (Ratchet::Up, false) | (Ratchet::Down, true) => Some((1, -1.0)),
        _ => None,
    }
}

/// The position of the rear edge of a ratcheted view.
pub fn edge(camera: &Camera, view: &View) -> Option<f64> {
    let (axis, sense) = way(camera)?;
    let seen = view.visible_world();
    Some(if sense > 0.0 { seen.min[axis] } else { -seen.max[axis] })
}

/// The position of the line that it has passed.
pub fn line(camera: &Camera) -> Option<f64> {
    Some(way(camera)?.1 * camera.barrier()?.at)
}

/// Checks a camera and its view.
pub fn invariants(camera: &Camera, view: &View, frame: u32) {
    let place = || format!("frame {frame}: {view:?} of {:?}", camera.settings());
    let (centre, lens) = (view.centre(), view.lens());
    assert!(centre.is_finite() && lens.scale() > 0.0 && lens.scale().is_finite(), "{}", place());
    assert!(lens.rotation().is_finite() && view.residual().is_finite(), "{}", place());
    assert!(camera.goal().is_finite(), "{}", place());
    for mark in camera.overlay().marks() {
        assert!(mark.world_points().iter().all(|at| !at.is_nan()), "{mark:?} {}", place());
    }
    let steady = view.steady();
    if let Some(rect) = bounds(camera).filter(|_| centre.abs().max_element() < 1e9) {
        // A turned view in whole pixels may find none inside where there is hardly any room.
        let room = (rect.size() - steady.visible_world().size()) * view.scale();
        let turned = view.snap() == Snap::Whole && lens.is_rotated();
        if !turned
            || (room.min_element() > 4.0 && camera.barrier().is_none() && camera.room().is_none())
        {
            let out = outside(&steady, &rect);
            assert!(out < 1e-3, "{out} pixels outside {rect:?}, {}", place());
        }
        if camera.settings().zoom.fill_bounds {
            let fits = steady.visible_world().size() - rect.size();
            assert!(fits.max_element() < 1e-6 * rect.size().max_element(), "{fits} {}", place());
        }
    }
}
