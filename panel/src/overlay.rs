//! The camera's overlay, drawn over the game.

use egui::{Color32, FontId, Painter, Pos2, Shape, Stroke, Ui, Vec2};
use velvet_pan::{Camera, MarkKind, View, glam};
use velvet_pan_takes::{MarkLine, MarkLook, MarkNames, deciders_in_words};

use crate::look::NIGHT;

/// The size of small details in points.
const UNIT: f32 = 2.0;

/// Which kinds of marks are drawn; all of them by default.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Marks {
    hidden: Vec<MarkKind>,
}

impl Marks {
    /// Returns whether marks of this kind are drawn.
    #[must_use]
    pub fn shows(&self, kind: MarkKind) -> bool {
        !self.hidden.contains(&kind)
    }

    /// Shows or hides marks of this kind.
    ///
    /// ```
    /// # use velvet_pan_egui::{Marks, velvet_pan::MarkKind};
    /// let mut marks = Marks::default();
    /// marks.set(MarkKind::Leash, false);
    /// assert!(!marks.shows(MarkKind::Leash) && marks.shows(MarkKind::Goal));
    /// ```
    pub fn set(&mut self, kind: MarkKind, shown: bool) {
        self.hidden.retain(|hidden| *hidden != kind);
        if !shown {
            self.hidden.push(kind);
        }
    }
}

/// Shows a switch for each kind of mark.
pub fn mark_switches(ui: &mut Ui, marks: &mut Marks) {
    ui.horizontal_wrapped(|ui| {
        for look in MarkLook::ALL {
            let mut shown = marks.shows(look.kind);
            let text = egui::RichText::new(look.name).color(color(&look));
            if ui.checkbox(&mut shown, text).changed() {
                marks.set(look.kind, shown);
            }
        }
    });
}

/// Draws the camera's overlay: deadzone, leash, anchor, goal, look-ahead, bounds, rooms, zones, lures, rail and
/// barrier, as outlines. Beside the goal it writes which stage decides where the view is, along x and y.
///
/// `view` is the view that is shown. `corner` is the top left corner of its window, or of its part of the window, in
/// egui's points.
pub fn overlay(painter: &Painter, camera: &Camera, view: &View, corner: Pos2, marks: &Marks) {
    let per_point = painter.ctx().pixels_per_point();
    let (corner, clip) = (vector(corner.to_vec2()), painter.clip_rect());
    let area = [vector(clip.min.to_vec2()), vector(clip.max.to_vec2())];
    let in_window = |point| {
        let at = view.screen_to_window(point);
        let at = corner + glam::Vec2::new(at.x, at.y) / per_point;
        at.clamp(glam::Vec2::splat(-1e4), glam::Vec2::splat(1e4))
    };
    let mut drawn: Vec<(MarkLook, Vec<MarkLine>)> = Vec::new();
    for mark in camera.overlay().marks().filter(|mark| marks.shows(mark.kind)) {
        let look = MarkLook::of(mark.kind);
        let points: Vec<glam::Vec2> = mark.screen_points(view).map(in_window).collect();
        let lines = look.lines(&points, area, UNIT);
        draw(painter, &look, &lines);
        MarkNames::gather(&mut drawn, look, lines);
    }
    let goal = format!("goal: {}", deciders_in_words(&camera.decision()));
    let mut names = MarkNames::new(area);
    drawn.iter().for_each(|(look, lines)| names.avoid(look, lines));
    for (look, lines) in &drawn {
        let name = if look.kind == MarkKind::Goal { &goal } else { look.name };
        write_name(painter, &mut names, (name, color(look)), lines);
    }
}

/// Returns the colour of a mark.
pub(crate) fn color(look: &MarkLook) -> Color32 {
    let [red, green, blue] = look.colour;
    Color32::from_rgb(red, green, blue)
}

fn vector(of: Vec2) -> glam::Vec2 {
    glam::Vec2::new(of.x, of.y)
}

fn position(of: glam::Vec2) -> Pos2 {
    Pos2::new(of.x, of.y)
}

/// Draws lines with a dark outline.
fn draw(painter: &Painter, look: &MarkLook, lines: &[MarkLine]) {
    for (width, color) in [(3.5, NIGHT.gamma_multiply(0.7)), (1.5, color(look))] {
        let stroke = Stroke::new(width, color);
        for line in lines {
            let ends = line.map(position);
            if look.dash > 0.0 {
                let dash = look.dash * UNIT;
                painter.extend(Shape::dashed_line(&ends, stroke, dash, dash));
            } else {
                painter.line_segment(ends, stroke);
            }
        }
    }
}

fn write_name(
    painter: &Painter,
    names: &mut MarkNames,
    (name, color): (&str, Color32),
    lines: &[MarkLine],
) {
    let text = painter.layout_no_wrap(name.to_owned(), FontId::proportional(12.0), color);
    let size = text.size() + Vec2::splat(2.0);
    let Some(corner) = names.place(lines, vector(size), UNIT) else { return };
    let place = egui::Rect::from_min_size(position(corner), size);
    painter.rect_filled(place, 2.0, NIGHT.gamma_multiply(0.6));
    painter.galley(place.min + Vec2::splat(1.0), text, color);
}
