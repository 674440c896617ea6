//! Text on a picture.

use ab_glyph::{Font, FontRef, PxScale, ScaleFont, point};

use crate::picture::{Colour, Picture};

/// Writes `text` with its top left corner at `corner` and a line height of `height` pixels. Returns its width.
pub fn write(
    picture: &mut Picture,
    text: &str,
    corner: (i64, i64),
    height: f32,
    colour: Colour,
) -> f32 {
    // The font is part of this program; were it unreadable, pictures would go unlabelled.
    let Ok(font) = FontRef::try_from_slice(epaint_default_fonts::HACK_REGULAR) else { return 0.0 };
    let scaled = font.as_scaled(PxScale::from(height));
    let mut x = 0.0;
    let mut last = None;
    for letter in text.chars() {
        let id = scaled.glyph_id(letter);
        x += last.map_or(0.0, |last| scaled.kern(last, id));
        let place = point(corner.0 as f32 + x, corner.1 as f32 + scaled.ascent());
        if let Some(outline) = font.outline_glyph(id.with_scale_and_position(height, place)) {
            let box_ = outline.px_bounds();
            outline.draw(|dx, dy, coverage| {
                let (px, py) =
                    (box_.min.x as i64 + i64::from(dx), box_.min.y as i64 + i64::from(dy));
                picture.tint(px, py, colour, coverage);
            });
        }
        x += scaled.h_advance(id);
        last = Some(id);
    }
    x
}

/// Returns the width of `text`.
pub fn width(text: &str, height: f32) -> f32 {
    let Ok(font) = FontRef::try_from_slice(epaint_default_fonts::HACK_REGULAR) else { return 0.0 };
    let scaled = font.as_scaled(PxScale::from(height));
    text.chars().map(|letter| scaled.h_advance(scaled.glyph_id(letter))).sum()
}
