//! The camera's overlay, drawn over a frame.

use velvet_pan::glam::Vec2;
use velvet_pan::{Overlay, View};
use velvet_pan_takes::{MarkLine, MarkLook, MarkNames, Moment};

use super::palette::NIGHT;
use super::text;
use crate::picture::Picture;

/// Draws all marks of a moment over its frame.
pub fn draw(frame: &mut Picture, moment: &Moment) {
    draw_overlay(frame, &moment.overlay, &moment.view);
}

/// Draws all marks of an overlay over the picture of a view in its window, their names last.
pub fn draw_overlay(frame: &mut Picture, overlay: &Overlay, view: &View) {
    let unit = (view.window_size().width as f32 / 320.0).max(1.0);
    let area = [Vec2::ZERO, frame.size().as_vec2()];
    let in_window = |point| {
        let at = view.screen_to_window(point);
        Vec2::new(at.x, at.y)
    };
    let mut drawn: Vec<(MarkLook, Vec<MarkLine>)> = Vec::new();
    for mark in overlay.marks() {
        let look = MarkLook::of(mark.kind);
        let points: Vec<Vec2> = mark.screen_points(view).map(in_window).collect();
        let lines = look.lines(&points, area, unit);
        draw_lines(frame, &look, &lines, unit);
        MarkNames::gather(&mut drawn, look, lines);
    }
    let mut names = MarkNames::new(area);
    drawn.iter().for_each(|(look, lines)| names.avoid(look, lines));
    for (look, lines) in &drawn {
        write_name(frame, &mut names, look, lines, unit);
    }
}

/// Draws lines with a dark outline.
fn draw_lines(frame: &mut Picture, look: &MarkLook, lines: &[MarkLine], unit: f32) {
    let [red, green, blue] = look.colour;
    let width = (unit * 0.6).clamp(1.0, 4.0);
    for (width, colour) in [(width + 2.0, NIGHT), (width, [red, green, blue, 255])] {
        for [from, to] in lines {
            frame.line(*from, *to, width, look.dash * unit, colour);
        }
    }
}

fn write_name(
    frame: &mut Picture,
    names: &mut MarkNames,
    look: &MarkLook,
    lines: &[MarkLine],
    unit: f32,
) {
    let height = (unit * 5.5).clamp(12.0, 22.0);
    let size = Vec2::new(text::width(look.name, height) + 6.0, height + 2.0);
    if look.name.is_empty() {
        return;
    }
    let Some(corner) = names.place(lines, size, unit) else { return };
    let (x, y) = (corner.x as i64, corner.y as i64);
    let [red, green, blue] = look.colour;
    frame.fill((x, y), (size.x as i64, size.y as i64), NIGHT);
    text::write(frame, look.name, (x + 3, y + 1), height, [red, green, blue, 255]);
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Every mark is drawn in a colour of the palette.
    #[test]
    fn marks_are_of_the_palette() {
        use super::super::palette::*;
        let palette = [ROSE, CORAL, APRICOT, HONEY, CREAM, SPROUT, PEBBLE, MIST, COAT];
        for look in MarkLook::ALL {
            assert!(palette.iter().any(|colour| colour[..3] == look.colour), "{}", look.name);
        }
    }
}
