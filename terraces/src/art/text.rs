//! Text on a picture.

use ab_glyph::{Font, FontRef, PxScale, ScaleFont, point};
use velvet_pan::glam::Vec2;

use crate::picture::{Colour, Picture};

/// Returns the font is part of this program; were it unreadable, pictures would go unlabelled.
fn font() -> Option<FontRef<'static>> {
    FontRef::try_from_slice(epaint_default_fonts::HACK_REGULAR).ok()
}

/// Writes `text` with its top left corner at `corner` and a line height of `height` pixels. Returns its width.
pub fn write(
    picture: &mut Picture,
    text: &str,
    corner: (i64, i64),
    height: f32,
    colour: Colour,
) -> f32 {
    let Some(ascent) = font().map(|font| font.as_scaled(PxScale::from(height)).ascent()) else {
        return 0.0;
    };
    let start = Vec2::new(corner.0 as f32, corner.1 as f32 + ascent);
    rasterize(text, start, height, |x, y, coverage| picture.tint(x, y, colour, coverage))
}

/// Calls `draw` with every pixel of a text whose baseline starts at `start`, and with its coverage from 0 to 1.
/// Returns the width.
pub fn rasterize(text: &str, start: Vec2, height: f32, mut draw: impl FnMut(i64, i64, f32)) -> f32 {
    let Some(font) = font() else { return 0.0 };
    let scaled = font.as_scaled(PxScale::from(height));
    let mut x = 0.0;
    let mut last = None;
    for letter in text.chars() {
        let id = scaled.glyph_id(letter);
        x += last.map_or(0.0, |last| scaled.kern(last, id));
        let place = point(start.x + x, start.y);
        if let Some(outline) = font.outline_glyph(id.with_scale_and_position(height, place)) {
            let corner = outline.px_bounds().min;
            let corner = (corner.x as i64, corner.y as i64);
            outline.draw(|dx, dy, coverage| {
                draw(corner.0 + i64::from(dx), corner.1 + i64::from(dy), coverage);
            });
        }
        x += scaled.h_advance(id);
        last = Some(id);
    }
    x
}

/// Returns the width of `text`.
pub fn width(text: &str, height: f32) -> f32 {
    let Some(font) = font() else { return 0.0 };
    let scaled = font.as_scaled(PxScale::from(height));
    text.chars().map(|letter| scaled.h_advance(scaled.glyph_id(letter))).sum()
}
