//! Places of a tuning, edited where they are seen: with the pointer over a picture, and as numbers in a list.

mod list;
mod on_screen;
mod place;
mod shape;

use egui::{
    Align2, EventFilter, FontId, Id, Key, Modifiers, Painter, Pos2, Rect, Response,
    Shape as Drawing, Stroke, StrokeKind, Ui, pos2, vec2,
};
use velvet_pan::glam::DVec2;
use velvet_pan::{Settings, View, WindowPoint};
use velvet_pan_takes::{MarkLook, TuningFile};

pub use list::place_list;
pub use place::{Place, PlaceKind};
pub use shape::{Handle, Shape};

use crate::look::{CREAM, HONEY, NIGHT};
use crate::overlay::color;

/// How near the pointer must be to a line or a handle, in points.
const NEAR: f32 = 7.0;
/// Half of the side of a handle, in points.
const HALF: f32 = 4.0;

/// What is edited, and how.
#[derive(Clone, Debug, Default)]
pub struct Places {
    /// The selected place, whose handles are shown.
    pub selected: Option<Place>,
    /// The grid to which corners and points snap: its origin and the size of its cells, in world units. Default
    /// `None`: to whole world units. With the Alt key, nothing snaps.
    pub grid: Option<[DVec2; 2]>,
    drag: Option<Drag>,
}

/// A handle on its way.
#[derive(Clone, Copy, Debug)]
struct Drag {
    /// The picture in which it is dragged: several may show the same places.
    picture: Id,
    place: Place,
    handle: Handle,
    /// The shape at the start, and the world point at which the pointer took it.
    shape: Shape,
    from: DVec2,
}

/// What happened in a frame.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct PlacesResponse {
    /// Whether the tuning was changed.
    pub changed: bool,
    /// Whether the pointer drags a place, and must move nothing else.
    pub takes_pointer: bool,
}

/// The picture over which places are drawn.
#[derive(Clone, Copy, Debug)]
pub struct PlacesView<'a> {
    /// The view that it shows: of the camera, or of a plan of the world.
    pub view: &'a View,
    /// The top left corner of the view's window, in points.
    pub corner: Pos2,
    /// The pixels of a point: [`egui::Context::pixels_per_point`].
    pub per_point: f32,
    /// Whether it is the camera's own view, in which anchor, deadzone and leash are places, too.
    pub is_camera: bool,
}

impl PlacesView<'_> {
    /// Returns the camera's own view, if it is shown.
    fn camera(&self) -> Option<&View> {
        self.is_camera.then_some(self.view)
    }

    fn shape(&self, place: Place, settings: &Settings) -> Option<Shape> {
        place.shape(settings, self.camera())
    }

    /// Everything that can be seen and edited in it.
    fn places(&self, settings: &Settings) -> Vec<Place> {
        let on_screen = if self.is_camera { Place::on_screen(settings) } else { Vec::new() };
        Place::all(settings).into_iter().chain(on_screen).collect()
    }

    /// Returns where a world point is in the picture, in points.
    #[must_use]
    pub fn to_points(&self, world: DVec2) -> Pos2 {
        let at = self.view.world_to_window(world);
        let at = self.corner + vec2(at.x, at.y) / self.per_point;
        at.clamp(pos2(-1e5, -1e5), pos2(1e5, 1e5))
    }

    /// Returns the world point at a position, also beyond the picture.
    #[must_use]
    pub fn to_world(&self, at: Pos2) -> DVec2 {
        let at = (at - self.corner) * self.per_point;
        let screen = self.view.window_to_screen_unbounded(WindowPoint { x: at.x, y: at.y });
        self.view.screen_to_world(screen)
    }

    /// Returns the length of a distance in points in the world.
    fn world_length(&self, points: f32) -> f64 {
        (self.to_world(self.corner + vec2(points, 0.0)) - self.to_world(self.corner)).length()
    }
}

impl Places {
    /// Creates places with nothing selected; corners and points snap to a grid.
    #[must_use]
    pub fn on_grid(grid: Option<[DVec2; 2]>) -> Self {
        Self { grid, ..Self::default() }
    }

    /// Returns the point on the grid that is nearest.
    fn snapped(&self, at: DVec2, is_free: bool) -> DVec2 {
        let [origin, step] = self.grid.unwrap_or([DVec2::ZERO, DVec2::ONE]);
        if is_free || step.cmple(DVec2::ZERO).any() {
            return at;
        }
        origin + ((at - origin) / step).round() * step
    }

    fn step(&self) -> DVec2 {
        self.grid.map_or(DVec2::ONE, |[_, step]| step)
    }
}

/// Draws the places of a tuning over the picture of a view, and edits them with the pointer: a click selects, a drag of
/// a handle moves or resizes. When the picture has the focus, the arrow keys move what is selected by a cell of the
/// grid, with Shift its last corner or its distance; Delete removes it, Ctrl+D adds another one like it, Alt frees from
/// the grid.
///
/// `response` is that of the picture, which senses clicks and drags. Show the steady view ([`View::steady`]) while places
/// are edited.
pub fn places(
    ui: &Ui,
    response: &Response,
    sheet: &PlacesView<'_>,
    tuning: &mut TuningFile,
    places: &mut Places,
) -> PlacesResponse {
    let settings = tuning.settings_mut();
    places.selected = places.selected.filter(|place| place.is_there(settings));
    let mut changed = point(ui, response, sheet, settings, places);
    if response.has_focus() {
        keep_arrows(ui, response.id);
        changed |= press(ui, sheet, settings, places);
    }
    let painter = ui.painter().with_clip_rect(response.rect.intersect(ui.clip_rect()));
    paint_places(&painter, sheet, settings, places);
    PlacesResponse { changed, takes_pointer: places.drag.is_some() }
}

/// Returns the pointer: selects, and drags handles. Returns whether the settings were changed.
fn point(
    ui: &Ui,
    response: &Response,
    sheet: &PlacesView<'_>,
    settings: &mut Settings,
    places: &mut Places,
) -> bool {
    let is_ours = |drag: &Drag| drag.picture == response.id;
    let Some(pointer) = response.interact_pointer_pos() else {
        places.drag = places.drag.filter(|drag| !is_ours(drag));
        return false;
    };
    let world = sheet.to_world(pointer);
    if response.drag_started() {
        let pressed = ui.input(|input| input.pointer.press_origin()).unwrap_or(pointer);
        places.drag = handle_at(sheet, settings, places, (response.id, pressed));
        response.request_focus();
    }
    let mut changed = false;
    if let Some(Drag { place, handle, shape, from, .. }) = places.drag.filter(is_ours) {
        let is_free = ui.input(|input| input.modifiers.alt) || place.is_on_screen();
        let shape = shape.dragged(handle, (from, world), |at| places.snapped(at, is_free));
        changed = sheet.shape(place, settings) != Some(shape);
        place.set_shape(settings, shape, sheet.camera());
    }
    if response.drag_stopped() {
        places.drag = None;
    }
    if response.clicked() {
        places.selected = place_at(sheet, settings, world);
        response.request_focus();
    }
    changed
}

/// Returns the handle of the selected place at a position. A handle that stands out of another one's reach goes first.
fn handle_at(
    sheet: &PlacesView<'_>,
    settings: &Settings,
    places: &Places,
    (picture, at): (Id, Pos2),
) -> Option<Drag> {
    let place = places.selected?;
    let shape = sheet.shape(place, settings)?;
    let handles = shape.handles().into_iter();
    let away = |world: DVec2| sheet.to_points(world).distance(at);
    let near = handles.map(|(handle, world)| (handle, away(world)));
    let (handle, _) = near
        .filter(|(_, away)| *away <= NEAR + HALF)
        .min_by(|one, other| one.1.total_cmp(&other.1))?;
    Some(Drag { picture, place, handle, shape, from: sheet.to_world(at) })
}

/// Returns the place whose line is nearest, within reach.
fn place_at(sheet: &PlacesView<'_>, settings: &Settings, world: DVec2) -> Option<Place> {
    let reach = sheet.world_length(NEAR);
    let away = |place: Place| Some((place, sheet.shape(place, settings)?.distance(world)));
    let near = sheet.places(settings).into_iter().filter_map(away);
    near.filter(|(_, away)| *away <= reach)
        .min_by(|one, other| one.1.total_cmp(&other.1))
        .map(|(place, _)| place)
}

/// Arrow keys belong to the picture while it has the focus.
fn keep_arrows(ui: &Ui, id: Id) {
    let filter =
        EventFilter { horizontal_arrows: true, vertical_arrows: true, ..EventFilter::default() };
    ui.memory_mut(|memory| memory.set_focus_lock_filter(id, filter));
}

/// Returns the keys for what is selected. Returns whether one was pressed.
fn press(ui: &Ui, sheet: &PlacesView<'_>, settings: &mut Settings, places: &mut Places) -> bool {
    let Some(place) = places.selected else { return false };
    let pressed = |modifiers, key| ui.input_mut(|input| input.consume_key(modifiers, key));
    if pressed(Modifiers::NONE, Key::Delete) || pressed(Modifiers::NONE, Key::Backspace) {
        place.delete(settings);
        places.selected = None;
        return true;
    }
    if pressed(Modifiers::COMMAND, Key::D) {
        let copy = place.duplicate(settings, places.step());
        places.selected = copy.or(places.selected);
        return copy.is_some();
    }
    let Some(shape) = sheet.shape(place, settings) else { return false };
    let mut changed = false;
    for (key, way) in [
        (Key::ArrowLeft, DVec2::NEG_X),
        (Key::ArrowRight, DVec2::X),
        (Key::ArrowUp, DVec2::NEG_Y),
        (Key::ArrowDown, DVec2::Y),
    ] {
        let down = if settings.screen.y_axis == velvet_pan::YAxis::Down { 1.0 } else { -1.0 };
        let by = way * DVec2::new(1.0, down) * places.step();
        if pressed(Modifiers::SHIFT, key) {
            let handle = match shape {
                Shape::Rect(_) => Handle::Corner(2),
                Shape::Circle { .. } => Handle::Radius,
                Shape::Point(_) => Handle::Middle,
            };
            let shape = shape.dragged(handle, (DVec2::ZERO, by), |at| at);
            place.set_shape(settings, shape, sheet.camera());
            changed = true;
        } else if pressed(Modifiers::NONE, key) {
            place.set_shape(settings, shape.moved(by), sheet.camera());
            changed = true;
        }
    }
    changed
}

/// Draws the places of some settings over the picture of a view, without editing them.
pub fn paint_places(
    painter: &Painter,
    sheet: &PlacesView<'_>,
    settings: &Settings,
    places: &Places,
) {
    let mut rail: Vec<Pos2> = Vec::new();
    for place in sheet.places(settings) {
        let Some(shape) = sheet.shape(place, settings) else { continue };
        let look = MarkLook::of(place.mark());
        let color = color(&look);
        let is_selected = places.selected == Some(place);
        let stroke = Stroke::new(if is_selected { 2.5 } else { 1.5 }, color);
        match shape {
            Shape::Rect(rect) => {
                let corners = rect.corners().map(|at| sheet.to_points(at));
                outline(painter, &corners, look.dash, stroke);
            }
            Shape::Circle { at, radius } => {
                let around = (0..48).map(|step| {
                    let angle = f64::from(step) / 48.0 * std::f64::consts::TAU;
                    sheet.to_points(at + DVec2::from_angle(angle) * radius)
                });
                outline(painter, &around.collect::<Vec<_>>(), look.dash, stroke);
                painter.circle(sheet.to_points(at), 3.5, color, Stroke::new(1.0, NIGHT));
            }
            Shape::Point(at) => {
                if matches!(place, Place::RailPoint(_)) {
                    rail.push(sheet.to_points(at));
                }
                painter.circle(sheet.to_points(at), 3.5, color, Stroke::new(1.0, NIGHT));
            }
        }
        if is_selected {
            draw_handles(painter, sheet, place, &shape, places.drag.is_some());
        }
    }
    let color = color(&MarkLook::of(velvet_pan::MarkKind::Rail));
    painter.add(Drawing::line(rail, Stroke::new(1.5, color)));
}

/// A closed line with a dark rim, in dashes if those are above 0.
fn outline(painter: &Painter, points: &[Pos2], dash: f32, stroke: Stroke) {
    let rim = Stroke::new(stroke.width + 2.0, NIGHT.gamma_multiply(0.7));
    let closed: Vec<Pos2> = points.iter().chain(points.first()).copied().collect();
    for stroke in [rim, stroke] {
        if dash > 0.0 {
            painter.extend(Drawing::dashed_line(&closed, stroke, dash * 2.0, dash * 2.0));
        } else {
            painter.add(Drawing::closed_line(points.to_vec(), stroke));
        }
    }
}

/// Cream squares with a dark rim, and the numbers of the shape beside the first of them.
fn draw_handles(
    painter: &Painter,
    sheet: &PlacesView<'_>,
    place: Place,
    shape: &Shape,
    is_dragged: bool,
) {
    for (_, at) in shape.handles() {
        let square = Rect::from_center_size(sheet.to_points(at), vec2(2.0, 2.0) * HALF);
        painter.rect(square, 1.0, CREAM, Stroke::new(1.5, NIGHT), StrokeKind::Outside);
    }
    let [x, y, width, height] = shape.numbers();
    let text = match shape {
        Shape::Rect(_) => format!("{}: {x:.1}, {y:.1}, {width:.1} x {height:.1}", place.name()),
        Shape::Circle { .. } => format!("{}: {x:.1}, {y:.1}, radius {width:.1}", place.name()),
        Shape::Point(_) => format!("{}: {x:.1}, {y:.1}", place.name()),
    };
    let first = shape.handles().first().map_or(Pos2::ZERO, |(_, at)| sheet.to_points(*at));
    let inside = painter.clip_rect().shrink2(vec2(90.0, 14.0));
    let at = inside.clamp(first) - vec2(0.0, 12.0);
    let color = if is_dragged { HONEY } else { CREAM };
    let font = FontId::proportional(12.0);
    let galley = painter.layout_no_wrap(text, font, color);
    let place = Align2::CENTER_BOTTOM.anchor_size(at, galley.size());
    painter.rect_filled(place.expand(3.0), 2.0, NIGHT.gamma_multiply(0.8));
    painter.galley(place.min, galley, color);
}
