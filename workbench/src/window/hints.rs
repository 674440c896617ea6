//! A line for each key, over the picture, until the user hides them.

use eframe::egui::{Align2, Color32, FontId, Painter, Rect, vec2};

use super::keys::{BINDINGS, MOVES};
use super::look::{CREAM, HONEY};

const PLATE: Color32 = Color32::from_rgba_premultiplied(0x11, 0x0d, 0x21, 0xd0);
const LINE: f32 = 17.0;

/// Lists the keys in the sky, or below two pictures side by side. The keys that move the player are listed only if it is
/// played.
pub fn show(painter: &Painter, area: Rect, is_played: bool, is_beside: bool) {
    let moves = MOVES.iter().filter(|_| is_played).map(|(key, hint)| ((*key).to_owned(), *hint));
    let keys = BINDINGS.iter().map(|one| (one.key.symbol_or_name().to_owned(), one.hint));
    let lines: Vec<(String, &str)> = moves.chain(keys).collect();
    let columns = if area.width() > 560.0 { 2 } else { 1 };
    let rows = lines.len().div_ceil(columns);
    let width = 264.0;
    let size = vec2(width * columns as f32 + 12.0, rows as f32 * LINE + 14.0);
    let corner = match is_beside {
        true => area.left_bottom() + vec2(8.0, -8.0 - size.y),
        false => area.left_top() + vec2(8.0, 8.0),
    };
    painter.rect_filled(Rect::from_min_size(corner, size), 6.0, PLATE);
    for (index, (key, hint)) in lines.iter().enumerate() {
        let (column, row) = (index / rows, index % rows);
        let at = corner + vec2(10.0 + column as f32 * width, 7.0 + row as f32 * LINE);
        let font = FontId::proportional(13.0);
        let key_at = at + vec2(88.0, 0.0);
        painter.text(key_at, Align2::RIGHT_TOP, key, font.clone(), HONEY);
        painter.text(at + vec2(98.0, 0.0), Align2::LEFT_TOP, hint, font, CREAM);
    }
}
