//! The camera's overlay, drawn over the game.

use egui::{FontId, Painter, Pos2, Rect, Shape, Stroke, Ui, Vec2};
use velvet_pan::{Camera, MarkKind, View};

use crate::look::{CORAL, CREAM, HONEY, MIST, NIGHT, ROSE, SPROUT, TEAL};

/// The kinds of marks with their names and colours, in the order of the switches.
const KINDS: [(MarkKind, &str, egui::Color32); 12] = [
    (MarkKind::Anchor, "anchor", CREAM),
    (MarkKind::Goal, "goal", SPROUT),
    (MarkKind::LookAhead, "look-ahead", TEAL),
    (MarkKind::Deadzone, "deadzone", HONEY),
    (MarkKind::Leash, "leash", CORAL),
    (MarkKind::Bounds, "bounds", ROSE),
    (MarkKind::Barrier, "barrier", CORAL),
    (MarkKind::Room, "room", MIST),
    (MarkKind::Zone, "zone", TEAL),
    (MarkKind::Lure, "lure", HONEY),
    (MarkKind::Rail, "rail", MIST),
    (MarkKind::Party, "party", CREAM),
];

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
        for (kind, name, color) in KINDS {
            let mut shown = marks.shows(kind);
            let text = egui::RichText::new(name).color(color);
            if ui.checkbox(&mut shown, text).changed() {
                marks.set(kind, shown);
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
    let mut names: Vec<Rect> = Vec::new();
    let goal = format!("goal: {}", velvet_pan_takes::deciders_in_words(&camera.last_word()));
    for mark in camera.overlay().marks().filter(|mark| marks.shows(mark.kind)) {
        let (name, color) = KINDS
            .iter()
            .find(|(kind, ..)| *kind == mark.kind)
            .map_or(("", CREAM), |(_, name, color)| (*name, *color));
        let points: Vec<Pos2> = mark
            .screen_points(view)
            .map(|point| view.screen_to_window(point))
            .map(|point| corner + Vec2::new(point.x, point.y) / per_point)
            .map(|point| point.clamp(Pos2::new(-1e4, -1e4), Pos2::new(1e4, 1e4)))
            .collect();
        draw(painter, &points, color);
        let name = if mark.kind == MarkKind::Goal { &goal } else { name };
        write_name(painter, &points, name, color, &mut names);
    }
}

fn draw(painter: &Painter, points: &[Pos2], color: egui::Color32) {
    match points {
        [] => {}
        [point] => {
            painter.circle(*point, 4.0, NIGHT, Stroke::new(2.0, color));
        }
        points => {
            for (width, color) in [(3.5, NIGHT.gamma_multiply(0.7)), (1.5, color)] {
                let stroke = Stroke::new(width, color);
                painter.add(match points.len() {
                    2 => Shape::line(points.to_vec(), stroke),
                    _ => Shape::closed_line(points.to_vec(), stroke),
                });
            }
        }
    }
}

/// Writes the name of a mark beside its first visible point, below the names that are there already.
fn write_name(
    painter: &Painter,
    points: &[Pos2],
    name: &str,
    color: egui::Color32,
    names: &mut Vec<Rect>,
) {
    let Some(point) = points.iter().find(|point| painter.clip_rect().contains(**point)) else {
        return;
    };
    let text = painter.layout_no_wrap(name.to_owned(), FontId::proportional(12.0), color);
    let mut place = Rect::from_min_size(*point + Vec2::new(6.0, 4.0), text.size());
    while let Some(other) = names.iter().find(|other| other.intersects(place)) {
        place = place.translate(Vec2::new(0.0, other.bottom() - place.top() + 0.5));
    }
    names.push(place);
    painter.rect_filled(place.expand(1.0), 2.0, NIGHT.gamma_multiply(0.6));
    painter.galley(place.min, text, color);
}
