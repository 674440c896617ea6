//! The game's picture: one camera, or both side by side, and the pointer on it.

use std::sync::Arc;

use eframe::egui::{
    Event, FontId, MouseWheelUnit, Painter, Pos2, Rect, Response, Role, Sense, Ui, Vec2,
    WidgetInfo, pos2, vec2,
};
use eframe::egui_wgpu::Callback;
use velvet_pan::glam;
use velvet_pan::{Fit, View, WindowPoint, WindowSize};
use velvet_pan_egui::{Drawn, PlacesView, drawn_label, overlay, places};
use velvet_pan_terraces::scene::figures;
use velvet_pan_terraces::scenery::{Scenery, Tally};

use super::Workbench;
use super::hints;
use super::look::{CREAM, NIGHT};
use super::painter::{DrawnView, Frame};
use crate::model::{A, B, ComparedCamera};

/// The gap between two pictures, in points.
const GAP: f32 = 4.0;
/// The distance that a touchpad scrolls for one notch of a wheel, in points.
const POINTS_A_NOTCH: f32 = 50.0;

/// Which of the two cameras are shown.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Show {
    /// One of them.
    One(usize),
    /// A on the left, B on the right.
    Both,
}

impl Show {
    /// Returns the other camera; A if both are shown.
    pub fn flipped(self) -> Self {
        if self == Self::One(A) { Self::One(B) } else { Self::One(A) }
    }

    /// Returns both, or B if both are shown.
    pub fn both_or_one(self) -> Self {
        if self == Self::Both { Self::One(B) } else { Self::Both }
    }

    /// Returns the cameras from left to right.
    pub fn sides(self) -> Vec<usize> {
        match self {
            Self::One(side) => vec![side],
            Self::Both => vec![A, B],
        }
    }
}

/// Gives the keyboard to the game.
pub fn take_focus(ui: &Ui) {
    ui.memory_mut(|memory| {
        if let Some(focused) = memory.focused() {
            memory.surrender_focus(focused);
        }
    });
}

impl Workbench {
    /// Shows the picture in all the remaining space.
    pub(super) fn picture(&mut self, ui: &mut Ui) {
        let area = ui.available_rect_before_wrap();
        let response = ui.allocate_rect(area, Sense::click_and_drag());
        response.widget_info(|| WidgetInfo::labeled(Role::Image, true, "game picture"));
        let per_point = ui.pixels_per_point();
        let sides = self.show.sides();
        let rects = self.rects(area, sides.len(), per_point);
        for (side, rect) in sides.iter().zip(&rects) {
            self.windows[*side] = window_of(*rect, per_point);
        }
        if !self.edits {
            self.point(ui, &response, &sides, &rects);
        }
        self.draw(ui, &sides, &rects);
        let painter = ui.painter_at(area);
        for (side, rect) in sides.iter().zip(&rects) {
            self.write_over(&painter.with_clip_rect(*rect), *side, *rect);
        }
        if let (true, [rect]) = (self.edits, rects.as_slice()) {
            let view = shown(&self.bench.sides()[sides[0]], false).steady();
            let response = Response { rect: part_of(*rect, &view, per_point), ..response };
            let picture = PlacesView { view: &view, corner: rect.min, per_point, is_camera: true };
            places(ui, &response, &picture, &mut self.bench.tuning, &mut self.places);
        }
        if self.shows_hints {
            hints::show(&painter, area, self.bench.is_played(), self.show == Show::Both);
        }
    }

    /// Returns the rectangles of the pictures, on whole pixels: as large as the simulated window, or as the space allows.
    fn rects(&self, area: Rect, count: usize, per_point: f32) -> Vec<Rect> {
        let width = (area.width() - GAP * (count - 1) as f32) / count as f32;
        let room = vec2(width, area.height());
        let size = self.bench.machine.window.map_or(room, |window| {
            (vec2(window.width as f32, window.height as f32) / per_point).min(room)
        });
        let whole = |length: f32| (length * per_point).round() / per_point;
        (0..count)
            .map(|index| {
                let left = area.left() + index as f32 * (width + GAP);
                let middle = pos2(left, area.top()) + (room - size) / 2.0;
                let min = Pos2::new(whole(middle.x), whole(middle.y));
                Rect::from_min_size(min, (size * per_point).floor() / per_point)
            })
            .collect()
    }

    fn draw(&mut self, ui: &Ui, sides: &[usize], rects: &[Rect]) {
        for rect in rects {
            ui.painter().rect_filled(*rect, 0.0, NIGHT);
        }
        let per_point = ui.pixels_per_point();
        let is_dragged = ui.input(|input| input.pointer.any_down());
        let bench = &self.bench;
        let cameras = sides.iter().map(|side| bench.sides()[*side].camera());
        let take = bench.take();
        let sceneries = self.sceneries.of(cameras, (take, bench.art()), is_dragged);
        self.scenery = sceneries.last().map(Arc::clone);
        let sides_shown = sides.len();
        let part = |(scenery, (index, rect)): (Arc<Scenery>, (&usize, &Rect))| {
            let side = &bench.sides()[*index];
            let window = window_of(*rect, per_point);
            let view = shown(side, sides_shown > 1);
            let figures = figures(bench.take(), bench.time(), side.subject());
            let (cels, tally) = scenery.counted_cels(&view, &figures);
            let part = DrawnView {
                cels,
                scenery,
                corner: pixels(rect.min.to_vec2(), per_point),
                size: glam::UVec2::new(window.width, window.height),
            };
            (part, (*index, drawn(&tally)))
        };
        let parts = sceneries.into_iter().zip(sides.iter().zip(rects)).map(part);
        let (parts, drawn): (Vec<DrawnView>, Vec<(usize, Drawn)>) = parts.unzip();
        for (side, drawn) in drawn {
            self.bench.note_drawn(side, drawn);
        }
        let around = rects.iter().fold(Rect::NOTHING, |all, rect| all.union(*rect));
        let frame = Frame { parts, target: self.target, trouble: Arc::clone(&self.trouble) };
        ui.painter().add(Callback::new_paint_callback(around, frame));
    }

    /// Draws the overlay, and the name of the camera, over the part of the window that shows the world.
    fn write_over(&self, painter: &Painter, side: usize, rect: Rect) {
        let camera = self.bench.sides()[side].camera();
        let view = shown(&self.bench.sides()[side], self.show == Show::Both);
        let part = part_of(rect, &view, painter.pixels_per_point());
        // Where places are edited, their handles are enough.
        if self.shows_marks && !self.edits {
            let painter = painter.with_clip_rect(part);
            overlay(&painter, camera, &view, rect.min, &self.marks);
            if let Some(drawn) = self.bench.sides()[side].history.drawn() {
                drawn_label(&painter, &drawn, part.left_bottom());
            }
        }
        let name = if side == A { "A  kept" } else { "B  now" };
        let text = painter.layout_no_wrap(name.to_owned(), FontId::proportional(14.0), CREAM);
        let at = part.right_top() + vec2(-text.size().x - 12.0, 8.0);
        let plate = Rect::from_min_size(at, text.size()).expand2(vec2(6.0, 3.0));
        painter.rect_filled(plate, 4.0, NIGHT.gamma_multiply(0.75));
        painter.galley(at, text, CREAM);
    }

    fn point(&mut self, ui: &Ui, response: &Response, sides: &[usize], rects: &[Rect]) {
        if response.clicked() || response.drag_started() {
            take_focus(ui);
        }
        let Some(pointer) = ui.input(|input| input.pointer.latest_pos()) else { return };
        let Some(index) = rects.iter().position(|rect| rect.contains(pointer)) else { return };
        let view = shown(&self.bench.sides()[sides[index]], sides.len() > 1);
        let per_point = ui.pixels_per_point();
        if response.dragged() {
            let moved = response.drag_delta() * per_point / view.placement().scale as f32;
            self.bench.drag(glam::Vec2::new(moved.x, moved.y));
        }
        if response.drag_stopped() {
            self.bench.let_go();
        }
        let notches = notches(ui);
        if response.hovered() && notches != 0.0 {
            let at = (pointer - rects[index].min) * per_point;
            let at = WindowPoint { x: at.x, y: at.y };
            if let Some(about) = view.steady().window_to_screen(at) {
                self.bench.turn_wheel(notches, about);
            }
        }
    }
}

/// Returns the part of a window's rectangle that shows the world.
fn part_of(window: Rect, view: &View, per_point: f32) -> Rect {
    let placement = view.placement();
    Rect::from_min_max(
        window.min + points(placement.first, per_point),
        window.min + points(placement.end, per_point),
    )
}

fn drawn(tally: &Tally) -> Drawn {
    let Tally { tiles: [tiles, tiles_skipped], sprites: [sprites, sprites_skipped] } = *tally;
    Drawn { tiles, tiles_skipped, sprites, sprites_skipped }
}

/// Returns the view of a camera. If two are side by side, whole scales would leave most of the space empty.
pub fn shown(side: &ComparedCamera, is_beside: bool) -> View {
    let screen = &side.camera().settings().screen;
    let view = *side.view();
    if is_beside && screen.fit == Fit::Whole {
        return view.with_fit(Fit::Contain, screen.size);
    }
    view
}

/// Returns the notches of the wheel in this frame; positive ones zoom in.
pub fn notches(ui: &Ui) -> f64 {
    ui.input(|input| {
        let turned = |event: &Event| match event {
            Event::MouseWheel { unit: MouseWheelUnit::Point, delta, .. } => {
                delta.y / POINTS_A_NOTCH
            }
            Event::MouseWheel { delta, .. } => delta.y,
            _ => 0.0,
        };
        f64::from(input.events.iter().map(turned).sum::<f32>())
    })
}

fn pixels(points: Vec2, per_point: f32) -> glam::UVec2 {
    let pixels = (points * per_point).round();
    glam::UVec2::new(pixels.x.max(0.0) as u32, pixels.y.max(0.0) as u32)
}

fn points(pixels: glam::UVec2, per_point: f32) -> Vec2 {
    vec2(pixels.x as f32, pixels.y as f32) / per_point
}

fn window_of(rect: Rect, per_point: f32) -> WindowSize {
    let size = pixels(rect.size(), per_point);
    WindowSize { width: size.x, height: size.y }
}
