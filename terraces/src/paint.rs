//! Draws pictures where a view says.

use velvet_pan::glam::UVec2;
use velvet_pan::{CanvasRect, Lens, Screen, Snap, View, WindowSize};

use crate::picture::Picture;

/// Returns the same view drawn in the pixels of the window, so that nothing is snapped to the pixels of the screen.
pub fn unsnapped(view: &View, window: WindowSize) -> View {
    let placement = view.placement();
    let screen = Screen {
        size: (placement.end - placement.first).max(UVec2::ONE),
        unit_pixels: view.scale() * placement.scale,
        y_axis: view.lens().y_axis(),
        ..Screen::default()
    };
    let lens = Lens::new(&screen).with_rotation(view.lens().rotation());
    View::new(lens, view.centre(), Snap::Whole).with_window(window)
}

/// Draws `picture` over a rectangle of the canvas, with the nearest pixel.
pub fn stretch(canvas: &mut Picture, picture: &Picture, rect: &CanvasRect, mirrored: bool) {
    let (min, max) = (rect.min.as_i64vec2(), rect.max.as_i64vec2());
    let (size, from) = (max - min, picture.size().as_i64vec2());
    if size == from {
        return canvas.lay(picture, (min.x, min.y), mirrored);
    }
    let end = max.min(canvas.size().as_i64vec2());
    for y in min.y.max(0)..end.y {
        for x in min.x.max(0)..end.x {
            let column = (2 * (x - min.x) + 1) * from.x / (2 * size.x);
            let column = if mirrored { from.x - 1 - column } else { column };
            let colour = picture.get(column, (2 * (y - min.y) + 1) * from.y / (2 * size.y));
            if colour[3] > 0 {
                canvas.set(x, y, colour);
            }
        }
    }
}
