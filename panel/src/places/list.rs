//! Places as a list of numbers.

use egui::{Button, DragValue, Role, Ui, WidgetInfo};
use velvet_pan::View;
use velvet_pan_takes::TuningFile;

use super::Places;
use super::place::{Place, PlaceKind};
use super::shape::Shape;

/// Shows all places as a list with their numbers, and buttons that add, double and remove them. New ones appear in the
/// middle of `view`. Returns whether the tuning was changed.
pub fn place_list(ui: &mut Ui, view: &View, tuning: &mut TuningFile, places: &mut Places) -> bool {
    let (settings, mut changed) = (tuning.settings_mut(), false);
    ui.horizontal_wrapped(|ui| {
        for kind in PlaceKind::ALL {
            if kind == PlaceKind::Bounds && settings.bounds.is_some() {
                continue;
            }
            let name = format!("add {}", kind.name());
            if ui.small_button(format!("+ {}", kind.name())).on_hover_text(&name).clicked() {
                let size = view.lens().half_extents();
                let size = places.snapped(size, false).max(places.step());
                let at = places.snapped(view.centre() - size / 2.0, false) + size / 2.0;
                places.selected = Some(Place::add(settings, kind, at, size));
                changed = true;
            }
        }
    });
    if let Some(place) = places.selected {
        ui.horizontal(|ui| {
            let can_double = place != Place::Bounds && !place.is_on_screen();
            if ui.add_enabled(can_double, Button::new("duplicate")).clicked() {
                places.selected = place.duplicate(settings, places.step()).or(Some(place));
                changed = true;
            }
            if ui.button(format!("remove {}", place.name())).clicked() {
                place.delete(settings);
                changed = true;
                places.selected = None;
            }
        });
    }
    for place in Place::all(settings) {
        let Some(shape) = place.shape(settings, None) else { continue };
        ui.horizontal_wrapped(|ui| {
            let is_selected = places.selected == Some(place);
            if ui.selectable_label(is_selected, place.name()).clicked() {
                places.selected = (!is_selected).then_some(place);
            }
            if let Some(shape) = number_fields(ui, place, &shape) {
                place.set_shape(settings, shape, None);
                changed = true;
                places.selected = Some(place);
            }
        });
    }
    changed
}

/// Returns the numbers of a shape as fields. Returns the new shape.
fn number_fields(ui: &mut Ui, place: Place, shape: &Shape) -> Option<Shape> {
    let names: &[&str] = match shape {
        Shape::Rect(_) => &["x", "y", "width", "height"],
        Shape::Circle { .. } => &["x", "y", "radius"],
        Shape::Point(_) => &["x", "y"],
    };
    let mut values = shape.numbers();
    let mut changed = false;
    for (value, name) in values.iter_mut().zip(names) {
        let drag = DragValue::new(value).speed(1.0).max_decimals(2).range(-1e9..=1e9);
        let response = ui.add(drag).on_hover_text(format!("{name} in world units"));
        let name = format!("{} {name}", place.name());
        response.widget_info(|| WidgetInfo::labeled(Role::SpinButton, true, &name));
        changed |= response.changed();
    }
    changed.then(|| shape.with_numbers(values))
}
