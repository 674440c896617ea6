//! What a frame has drawn.

use egui::{FontId, Painter, Pos2, Rect, vec2};

use crate::look::{CREAM, NIGHT};

/// How many tiles and sprites a frame has drawn, and how many it has skipped, because they are out of view or blank.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Drawn {
    /// The tiles that were drawn.
    pub tiles: usize,
    /// The tiles of the map that were not.
    pub tiles_skipped: usize,
    /// The sprites that were drawn.
    pub sprites: usize,
    /// The sprites that were not.
    pub sprites_skipped: usize,
}

/// Writes these numbers over the game, with the lower left corner at this position, in egui's points.
pub fn drawn_label(painter: &Painter, drawn: &Drawn, corner: Pos2) {
    let Drawn { tiles, tiles_skipped, sprites, sprites_skipped } = drawn;
    let text = format!(
        "tiles: {tiles} drawn, {tiles_skipped} skipped     sprites: {sprites} drawn, {sprites_skipped} skipped"
    );
    let text = painter.layout_no_wrap(text, FontId::proportional(12.0), CREAM);
    let place = Rect::from_min_size(corner - vec2(-10.0, text.size().y + 8.0), text.size());
    painter.rect_filled(place.expand2(vec2(6.0, 3.0)), 4.0, NIGHT.gamma_multiply(0.75));
    painter.galley(place.min, text, CREAM);
}
