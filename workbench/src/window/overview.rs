//! The overview: the whole level with its places, the ride's path and the view, in a camera of its own.

use std::sync::Arc;

use eframe::egui::{
    Align2, Color32, ColorImage, FontId, Painter, Pos2, Rect, Response, Role, Sense, Shape, Stroke,
    TextureHandle, TextureOptions, Ui, WidgetInfo, pos2, vec2,
};
use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{Lens, Rect as World, Screen, Snap, View, WindowSize, YAxis};
use velvet_pan_egui::{Places, PlacesView, paint_places, places};
use velvet_pan_takes::Take;
use velvet_pan_terraces::art::palette::NIGHT as BEHIND;
use velvet_pan_terraces::picture::Picture;
use velvet_pan_terraces::scenery::Scenery;

use super::Workbench;
use super::look::{CREAM, HONEY, MIST, NIGHT, PEBBLE};
use super::picture::{notches, shown};
use crate::model::{A, B};

/// The height of the ruler above and the width of that at the left, in points.
const RULER: f32 = 18.0;
/// The longest side of the picture of the whole level, in pixels.
const MAX_SIDE: f64 = 2048.0;
/// The largest number of tiles that are drawn anew while the overview moves.
const MAX_TILES_ANEW: usize = 20_000;
/// The most points of a path that are drawn.
const POINTS: usize = 2000;
/// How much a notch of the wheel magnifies.
const NOTCH: f64 = 1.25;

/// Where the overview looks, and its pictures of the ground.
#[derive(Default)]
pub struct Overview {
    /// The middle in world units, and the window pixels of a world unit. `None` for the whole level.
    place: Option<(DVec2, f64)>,
    whole: Option<Plate>,
    near: Option<Plate>,
}

/// A picture of a part of the world.
struct Plate {
    texture: TextureHandle,
    /// What it shows, a little more than what was asked for.
    world: World,
    /// The part of the world that was asked for, and its size in pixels.
    asked: (World, UVec2),
    /// What it was drawn from. It is kept so that its address stays unique.
    scenery: Arc<Scenery>,
}

impl Overview {
    /// Looks at the whole level.
    pub fn fit(&mut self) {
        self.place = None;
    }
}

/// Shows the overview in all the space.
pub fn show(window: &mut Workbench, ui: &mut Ui) {
    let area = ui.available_rect_before_wrap();
    let response = ui.allocate_rect(area, Sense::click_and_drag());
    response.widget_info(|| WidgetInfo::labeled(Role::Image, true, "overview of the level"));
    let Some(scenery) = window.scenery.clone() else { return };
    let (per_point, take) = (ui.pixels_per_point(), window.bench.take());
    let picture = Rect::from_min_max(area.min + vec2(RULER, RULER), area.max);
    if picture.width() < 32.0 || picture.height() < 32.0 {
        return;
    }
    let whole = whole_of(&scenery, take);
    let pixels = (picture.size() * per_point).round();
    let pixels = UVec2::new(pixels.x.max(1.0) as u32, pixels.y.max(1.0) as u32);
    let y_axis = take.settings.screen.y_axis;
    let view = view(window.overview.place, &whole, pixels, y_axis);
    let painter = ui.painter_at(picture);
    painter.rect_filled(picture, 0.0, NIGHT);
    window.overview.draw_ground(&painter, &scenery, &view, (&whole, y_axis), (picture, per_point));
    let sheet = sheet_of(&view, picture, per_point);
    draw_ride(&painter, &sheet, window);
    let mut takes_pointer = false;
    if window.edits {
        let tuning = &mut window.bench.tuning;
        takes_pointer = places(ui, &response, &sheet, tuning, &mut window.places).takes_pointer;
    } else {
        let settings = window.bench.tuning.settings();
        paint_places(&painter, &sheet, settings, &Places::default());
    }
    // After the places, which go first when the pointer takes one.
    if takes_pointer {
        // Bounds that grow must not move what is under the pointer.
        window.overview.place = Some((view.centre(), view.scale()));
    } else {
        look(window, ui, &response, (picture, per_point), (&whole, pixels, y_axis));
    }
    draw_rulers(&ui.painter_at(area), area, &sheet);
    let pointer = ui.input(|input| input.pointer.latest_pos());
    if let Some(at) = pointer.filter(|at| picture.contains(*at)) {
        let world = sheet.to_world(at);
        label(&painter, picture.right_bottom(), &format!("{:.1}, {:.1}", world.x, world.y));
    }
}

/// The wheel and the drag of the overview, which move nothing but itself.
fn look(
    window: &mut Workbench,
    ui: &Ui,
    response: &Response,
    (picture, per_point): (Rect, f32),
    (whole, pixels, y_axis): (&World, UVec2, YAxis),
) {
    let before = view(window.overview.place, whole, pixels, y_axis);
    let mut place = (before.centre(), before.scale());
    let notches = if response.hovered() { notches(ui) } else { 0.0 };
    if let Some(pointer) = ui.input(|input| input.pointer.latest_pos()).filter(|_| notches != 0.0) {
        let sheet = sheet_of(&before, picture, per_point);
        let about = sheet.to_world(pointer);
        let fitting = view(None, whole, pixels, y_axis).scale();
        let scale = (place.1 * NOTCH.powf(notches)).clamp(fitting / 4.0, fitting.max(1.0) * 64.0);
        place = (about + (place.0 - about) * (place.1 / scale), scale);
    }
    if response.dragged() {
        let moved = response.drag_delta() * per_point;
        place.0 -= before.screen_to_world_vector(Vec2::new(moved.x, moved.y));
    }
    if place != (before.centre(), before.scale()) {
        window.overview.place = Some(place);
    }
    if response.double_clicked() {
        window.overview.fit();
    }
}

/// Returns the view of the overview; without a place, of the whole level.
fn view(place: Option<(DVec2, f64)>, whole: &World, pixels: UVec2, y_axis: YAxis) -> View {
    let fit = (pixels.as_dvec2() / whole.size().max(DVec2::splat(1e-9))).min_element() * 0.96;
    let (centre, scale) = place.unwrap_or((whole.centre(), fit));
    plan(centre, scale, pixels, y_axis)
}

/// Returns the overview's picture, for drawing.
fn sheet_of(view: &View, picture: Rect, per_point: f32) -> PlacesView<'_> {
    PlacesView { view, corner: picture.min, per_point, is_camera: false }
}

fn plan(centre: DVec2, scale: f64, pixels: UVec2, y_axis: YAxis) -> View {
    let screen = Screen { size: pixels, y_axis, snap: Snap::Whole, ..Screen::default() };
    let lens = Lens::new(&Screen { unit_pixels: scale.clamp(1e-6, 1e6), ..screen });
    let window = WindowSize { width: pixels.x, height: pixels.y };
    View::new(lens, centre, Snap::Off).with_window(window)
}

/// Returns the world of the overview: what the map, the level and the bounds cover, or else where the subjects go.
fn whole_of(scenery: &Scenery, take: &Take) -> World {
    let joined = |one: World, other: World| World {
        min: one.min.min(other.min),
        max: one.max.max(other.max),
    };
    let settings = &take.settings;
    let bounds = settings.bounds.iter().filter_map(|bounds| settings.extent(bounds));
    let covered = scenery.covered().into_iter().chain(bounds).reduce(joined);
    let rows = || take.subjects.values().flat_map(|subject| subject.path.rows());
    let paths = || rows().map(|row| World::around(row.position, [160.0, 90.0])).reduce(joined);
    covered.or_else(paths).unwrap_or(World::around([0.0, 0.0], [160.0, 90.0]))
}

impl Overview {
    /// Draws the level: sharp where few tiles are seen, else a picture of the whole.
    fn draw_ground(
        &mut self,
        painter: &Painter,
        scenery: &Arc<Scenery>,
        view: &View,
        (whole, y_axis): (&World, YAxis),
        (picture, per_point): (Rect, f32),
    ) {
        let sheet = sheet_of(view, picture, per_point);
        // Not the bounds, which may be dragged while it is shown.
        let whole = &scenery.covered().unwrap_or(*whole);
        let size = whole.size().max(DVec2::splat(1e-9));
        let scale = (MAX_SIDE / size.max_element()).min(8.0);
        let pixels = (size * scale).ceil().clamp(DVec2::ONE, DVec2::splat(MAX_SIDE)).as_uvec2();
        if !self.whole.as_ref().is_some_and(|plate| plate.shows(scenery, whole, pixels)) {
            let plan = plan(whole.centre(), scale, pixels, y_axis);
            self.whole = Some(Plate::draw(painter, scenery, &plan, *whole));
        }
        let seen = view.visible_world();
        let is_sharp = scale * 1.2 >= view.scale();
        let plate = if is_sharp || scenery.tiles_in(view) > MAX_TILES_ANEW {
            self.whole.as_ref()
        } else {
            if !self.near.as_ref().is_some_and(|plate| plate.shows(scenery, &seen, view.size())) {
                self.near = Some(Plate::draw(painter, scenery, view, seen));
            }
            self.near.as_ref()
        };
        if let Some(plate) = plate {
            plate.paint(painter, &sheet);
        }
    }
}

impl Plate {
    fn draw(painter: &Painter, scenery: &Arc<Scenery>, view: &View, asked: World) -> Self {
        // Drawn in whole pixels from the corner on.
        let lens = *view.lens();
        let drawn = View::new(lens, asked.centre(), Snap::Whole);
        let mut picture = Picture::new(drawn.canvas_size(), BEHIND);
        scenery.paint_world(&drawn, &mut picture);
        let size = picture.size();
        let bytes: Vec<u8> = picture.pixels().data.as_flattened().to_vec();
        let image = ColorImage::from_rgba_premultiplied([size.x as usize, size.y as usize], &bytes);
        let texture = painter.ctx().load_texture("overview", image, TextureOptions::NEAREST);
        // What the canvas shows, which is a little more than the view.
        let from = drawn.canvas_position(drawn.centre()) - drawn.world_to_screen(drawn.centre());
        let corner = |at: Vec2| drawn.screen_to_world(at - from);
        let (one, other) = (corner(Vec2::ZERO), corner(size.as_vec2()));
        let shown = World { min: one.min(other), max: one.max(other) };
        Self { texture, world: shown, asked: (asked, view.size()), scenery: Arc::clone(scenery) }
    }

    /// Returns whether it still shows this part of this scenery.
    fn shows(&self, scenery: &Arc<Scenery>, asked: &World, pixels: UVec2) -> bool {
        Arc::ptr_eq(&self.scenery, scenery) && self.asked == (*asked, pixels)
    }

    fn paint(&self, painter: &Painter, sheet: &PlacesView<'_>) {
        let [one, other] = [self.world.min, self.world.max].map(|at| sheet.to_points(at));
        let rect = Rect::from_two_pos(one, other);
        let uv = Rect::from_min_max(pos2(0.0, 0.0), pos2(1.0, 1.0));
        painter.image(self.texture.id(), rect, uv, Color32::WHITE);
    }
}

/// The paths of the subjects, where they are now, hazards, and what the cameras show.
fn draw_ride(painter: &Painter, sheet: &PlacesView<'_>, window: &Workbench) {
    let (bench, take) = (&window.bench, window.bench.take());
    for hazard in &take.hazards {
        let corners = hazard.corners().map(|at| sheet.to_points(at));
        painter.add(Shape::closed_line(corners.to_vec(), Stroke::new(1.5, HONEY)));
    }
    for subject in take.subjects.values() {
        let rows = subject.path.rows();
        let every = rows.len().div_ceil(POINTS).max(1);
        let way: Vec<Pos2> =
            rows.iter().step_by(every).map(|row| sheet.to_points(row.position)).collect();
        painter.add(Shape::line(way, Stroke::new(1.5, PEBBLE)));
        let at = sheet.to_points(subject.path.position(bench.time()));
        painter.circle(at, 3.0, MIST, Stroke::new(1.0, NIGHT));
    }
    let sides = window.show.sides();
    for side in &sides {
        let view = shown(&bench.sides()[*side], sides.len() > 1).steady();
        let size = view.size().as_vec2();
        let corners = [Vec2::ZERO, Vec2::new(size.x, 0.0), size, Vec2::new(0.0, size.y)];
        let corners = corners.map(|at| sheet.to_points(view.screen_to_world(at))).to_vec();
        let color = if *side == A && sides.len() > 1 { MIST } else { CREAM };
        painter.add(Shape::closed_line(corners.clone(), Stroke::new(4.0, NIGHT)));
        painter.add(Shape::closed_line(corners.clone(), Stroke::new(2.0, color)));
        let name = if *side == B { "view" } else { "view A" };
        painter.text(corners[0], Align2::LEFT_BOTTOM, name, FontId::proportional(12.0), color);
    }
}

/// Rulers in world units along the upper and the left edge.
fn draw_rulers(painter: &Painter, area: Rect, sheet: &PlacesView<'_>) {
    let behind = Color32::from_rgb(0x0d, 0x0a, 0x1e);
    let above = Rect::from_min_size(area.min, vec2(area.width(), RULER));
    let left = Rect::from_min_size(area.min, vec2(RULER, area.height()));
    for band in [above, left] {
        painter.rect_filled(band, 0.0, behind);
    }
    let step = nice(f64::from(72.0 * sheet.per_point) / sheet.view.scale());
    let (first, last) = (sheet.to_world(area.min), sheet.to_world(area.max));
    let font = FontId::proportional(10.0);
    let marks = |from: f64, to: f64| {
        let low = (from.min(to) / step).ceil();
        (0..200)
            .map(move |index| (low + f64::from(index)) * step)
            .take_while(move |at| *at <= from.max(to))
    };
    for x in marks(first.x, last.x) {
        let at = sheet.to_points(DVec2::new(x, first.y)).x;
        if at > area.min.x + RULER {
            painter.vline(at, above.y_range().min + 12.0..=above.max.y, Stroke::new(1.0, MIST));
            let place = pos2(at + 2.0, above.min.y + 1.0);
            painter.text(place, Align2::LEFT_TOP, short(x), font.clone(), MIST);
        }
    }
    for y in marks(first.y, last.y) {
        let at = sheet.to_points(DVec2::new(first.x, y)).y;
        if at > area.min.y + RULER {
            painter.hline(left.min.x + 12.0..=left.max.x, at, Stroke::new(1.0, MIST));
            let text = painter.layout_no_wrap(short(y), font.clone(), MIST);
            let angle = -std::f32::consts::FRAC_PI_2;
            let place = pos2(left.min.x + 1.0, at - 2.0);
            let text = eframe::egui::epaint::TextShape::new(place, text, MIST).with_angle(angle);
            painter.add(text);
        }
    }
}

/// Returns the next of 1, 2, 5, 10, 20 … from a number on.
fn nice(least: f64) -> f64 {
    let power = 10_f64.powf(least.max(1e-9).log10().floor());
    let steps = [1.0, 2.0, 5.0, 10.0].map(|step| step * power);
    steps.into_iter().find(|step| *step >= least).unwrap_or(least)
}

fn short(number: f64) -> String {
    let text = format!("{:.2}", number + 0.0);
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

/// Text in the lower right corner.
fn label(painter: &Painter, corner: Pos2, text: &str) {
    let text = painter.layout_no_wrap(text.to_owned(), FontId::proportional(12.0), CREAM);
    let place = Align2::RIGHT_BOTTOM.anchor_size(corner - vec2(8.0, 6.0), text.size());
    painter.rect_filled(place.expand(3.0), 2.0, NIGHT.gamma_multiply(0.8));
    painter.galley(place.min, text, CREAM);
}
