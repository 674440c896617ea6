//! Places that follow the screen and not the world: anchor, deadzone and leash, seen through a view of the camera.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{Leash, Rect, ScreenRect, Settings, View};

use super::place::Place;
use super::shape::Shape;

/// Returns the shape of such a place in the world of a view. `None` in a rotated view, whose screen is no rectangle of
/// the world's axes, and for a leash that is not there.
pub fn shape(place: Place, settings: &Settings, view: &View) -> Option<Shape> {
    if view.lens().is_rotated() {
        return None;
    }
    let follow = &settings.follow;
    let (anchor, zone) = (follow.anchor, &follow.deadzone);
    let world = |fraction: DVec2| view.screen_to_world((fraction * size(view)).as_vec2());
    let rect = |from: DVec2, to: DVec2| Shape::Rect(Rect::new(world(from), world(to)));
    match place {
        Place::Anchor => Some(Shape::Point(world(anchor))),
        Place::Deadzone => Some(rect(
            anchor - DVec2::new(zone.left, zone.top),
            anchor + DVec2::new(zone.right, zone.bottom),
        )),
        Place::Leash => follow.leash.map(|Leash(reach)| rect(anchor - reach, anchor + reach)),
        _ => None,
    }
}

/// Gives such a place another shape.
pub fn set_shape(place: Place, settings: &mut Settings, shape: Shape, view: &View) {
    let before = self::shape(place, settings, view);
    let follow = &mut settings.follow;
    let anchor = follow.anchor;
    let part = |at: Vec2| rounded(at.as_dvec2() / size(view));
    match (place, shape, before) {
        (Place::Anchor, Shape::Point(at), _) => {
            follow.anchor = part(view.world_to_screen(at)).clamp(DVec2::ZERO, DVec2::ONE);
        }
        (Place::Deadzone, Shape::Rect(rect), _) => {
            let ScreenRect { min, max } = view.world_to_screen_rect(&rect);
            let low = rounded(anchor - part(min)).clamp(DVec2::ZERO, DVec2::ONE);
            let high = rounded(part(max) - anchor).clamp(DVec2::ZERO, DVec2::ONE);
            let zone = &mut follow.deadzone;
            (zone.left, zone.top) = low.into();
            (zone.right, zone.bottom) = high.into();
        }
        (Place::Leash, Shape::Rect(rect), Some(Shape::Rect(before))) => {
            let (now, before) =
                (view.world_to_screen_rect(&rect), view.world_to_screen_rect(&before));
            let (low, high) = (anchor - part(now.min), part(now.max) - anchor);
            // The side that was dragged says how long it is, and the other one follows.
            let is_low = (now.min - before.min).abs().cmpgt((now.max - before.max).abs());
            let reach = DVec2::select(is_low, low, high);
            follow.leash = Some(Leash(rounded(reach).clamp(DVec2::ZERO, DVec2::ONE)));
        }
        _ => {}
    }
}

fn size(view: &View) -> DVec2 {
    view.size().as_dvec2()
}

/// To thousandths of the screen.
fn rounded(part: DVec2) -> DVec2 {
    (part * 1000.0).round() / 1000.0
}
