//! The camera's overlay, drawn over a frame.

use velvet_pan::glam::Vec2;
use velvet_pan::{MarkKind, Overlay, View, WindowSize};
use velvet_pan_takes::Moment;

use super::palette::*;
use super::text;
use crate::picture::{Colour, Picture};

/// The look of a kind of mark.
struct Style {
    colour: Colour,
    name: &'static str,
    /// The length of dashes in pixels; 0 for a solid line.
    dash: f32,
}

fn style(kind: MarkKind) -> Style {
    let (colour, name, dash) = match kind {
        MarkKind::Bounds => (HONEY, "bounds", 0.0),
        MarkKind::Barrier => (COAT, "barrier", 0.0),
        MarkKind::Leash => (MIST, "leash", 6.0),
        MarkKind::Deadzone => (SPROUT, "deadzone", 0.0),
        MarkKind::LookAhead => (APRICOT, "", 0.0),
        MarkKind::Goal => (CORAL, "goal", 0.0),
        MarkKind::Party => (TEA, "party", 4.0),
        MarkKind::Room => (PEBBLE, "room", 4.0),
        MarkKind::Zone => (ROSE, "zone", 8.0),
        MarkKind::Lure => (APRICOT, "lure", 3.0),
        MarkKind::Rail => (MIST, "rail", 0.0),
        // The anchor, and kinds that are newer than this drawing.
        _ => (CREAM, "", 0.0),
    };
    Style { colour, name, dash }
}

/// Draws all marks of a moment over its frame.
pub fn draw(frame: &mut Picture, moment: &Moment) {
    draw_overlay(frame, &moment.overlay, &moment.view);
}

/// Draws all marks of an overlay over the picture of a view in its window.
pub fn draw_overlay(frame: &mut Picture, overlay: &Overlay, view: &View) {
    let mut pen = Pen::new(view.window_size());
    for mark in overlay.marks() {
        let points: Vec<Vec2> = mark
            .screen_points(view)
            .map(|point| view.screen_to_window(point))
            .map(|point| Vec2::new(point.x, point.y))
            .collect();
        pen.draw(frame, mark.kind, &points);
    }
    pen.write_labels(frame);
}

/// Draws lines with a dark outline, and keeps the names for the end.
struct Pen {
    /// The number of window pixels per pixel of a usual screen.
    unit: f32,
    labels: Vec<(&'static str, Vec2, Colour)>,
}

impl Pen {
    fn new(window: WindowSize) -> Self {
        Self { unit: (window.width as f32 / 320.0).max(1.0), labels: Vec::new() }
    }

    fn draw(&mut self, frame: &mut Picture, kind: MarkKind, points: &[Vec2]) {
        let Style { colour, name, dash } = style(kind);
        let edges = match points {
            [at] if kind == MarkKind::Anchor => cross(*at, 5.0 * self.unit),
            [at] => diamond(*at, 4.0 * self.unit),
            [from, to] if kind == MarkKind::Barrier => {
                // It stands at the very edge of the picture: drawn just inside.
                let room = frame.size().as_vec2() - 3.0;
                let inside = |point: Vec2| point.clamp(Vec2::splat(2.0), room);
                vec![(inside(*from), inside(*to))]
            }
            [from, to] => {
                let mut edges = vec![(*from, *to)];
                if matches!(kind, MarkKind::LookAhead | MarkKind::Lure) {
                    edges.extend(diamond(*to, 2.0 * self.unit));
                }
                edges
            }
            corners => closed(corners),
        };
        let width = (self.unit * 0.6).clamp(1.0, 4.0);
        let dash = dash * self.unit / 2.0;
        for (from, to) in &edges {
            frame.line(*from, *to, width + 2.0, dash, NIGHT);
        }
        for (from, to) in &edges {
            frame.line(*from, *to, width, dash, colour);
        }
        // Named only where a line of it can be seen.
        let size = frame.size().as_vec2();
        let seen = edges
            .iter()
            .flat_map(|(from, to)| (0..=256).map(move |step| from.lerp(*to, step as f32 / 256.0)));
        let inside = |point: &Vec2| point.cmpge(Vec2::ZERO).all() && point.cmple(size).all();
        if let Some(at) = seen.filter(inside).max_by(|a, b| (a.y - a.x).total_cmp(&(b.y - b.x)))
            && !name.is_empty()
        {
            self.labels.push((name, at, colour));
        }
    }

    /// Writes the names beside their marks, without overlap.
    fn write_labels(&self, frame: &mut Picture) {
        let height = (self.unit * 5.5).clamp(12.0, 22.0);
        let size = frame.size().as_vec2();
        let mut taken: Vec<(Vec2, Vec2)> = Vec::new();
        for (name, at, colour) in &self.labels {
            let extent = Vec2::new(text::width(name, height) + 6.0, height + 2.0);
            let room = (size - extent - 2.0).max(Vec2::splat(2.0));
            let mut corner = (*at + self.unit * 1.5).clamp(Vec2::splat(2.0), room);
            let clashes = |corner: Vec2| {
                taken.iter().any(|(other, theirs)| {
                    corner.cmplt(*other + *theirs).all() && other.cmplt(corner + extent).all()
                })
            };
            while clashes(corner) && corner.y > extent.y {
                corner.y -= extent.y + 1.0;
            }
            taken.push((corner, extent));
            let whole = (corner.x as i64, corner.y as i64);
            frame.fill(whole, (extent.x as i64, extent.y as i64), NIGHT);
            text::write(frame, name, (whole.0 + 3, whole.1 + 1), height, *colour);
        }
    }
}

fn cross(at: Vec2, reach: f32) -> Vec<(Vec2, Vec2)> {
    [Vec2::X, Vec2::Y].map(|side| (at - side * reach, at + side * reach)).to_vec()
}

fn diamond(at: Vec2, reach: f32) -> Vec<(Vec2, Vec2)> {
    closed(&[Vec2::X, Vec2::Y, Vec2::NEG_X, Vec2::NEG_Y].map(|side| at + side * reach))
}

fn closed(corners: &[Vec2]) -> Vec<(Vec2, Vec2)> {
    let next = corners.iter().cycle().skip(1);
    corners.iter().copied().zip(next.copied()).collect()
}
