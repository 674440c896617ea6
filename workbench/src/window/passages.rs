//! What happens in a take, below its time slider: events as ticks, and what takes time as bars.

use eframe::egui::{Color32, Rect, Response, Sense, Ui, pos2, vec2};
use velvet_pan_takes::{Event, Take};

use super::look::{CORAL, CREAM, HONEY, SPROUT};

/// The height of the bars, and the least width of one, in points.
const HEIGHT: f32 = 3.0;
const TICK: f32 = 2.0;

/// Draws the events of a take below the slider of its time.
pub fn show(ui: &mut Ui, slider: &Response, take: &Take) {
    if take.events.is_empty() || take.seconds <= 0.0 {
        return;
    }
    // The handle's middle moves from half its width after the left end to half its width before the right one.
    let rail = slider.rect.shrink2(vec2(slider.rect.height() / 2.5, 0.0));
    let x = |t: f64| rail.left() + rail.width() * (t / take.seconds).clamp(0.0, 1.0) as f32;
    for (number, event) in take.events.iter().enumerate() {
        let (what, seconds) = event.passage().unwrap_or(("event", 0.0));
        let (from, to) = (x(event.at), x(event.at + seconds));
        let (top, bottom) = (slider.rect.bottom() - HEIGHT, slider.rect.bottom());
        let bar = Rect::from_min_max(pos2(from, top), pos2(to.max(from + TICK), bottom));
        ui.painter().rect_filled(bar, 1.0, colour(event, seconds));
        let id = slider.id.with(("passage", number));
        ui.interact(bar.expand(2.0), id, Sense::hover()).on_hover_text(hint(what, event, seconds));
    }
}

fn colour(event: &Event, seconds: f64) -> Color32 {
    match () {
        () if event.travel.is_some() || event.camera.is_some() => HONEY,
        () if event.cue.is_some() || event.shake.is_some() => CORAL,
        () if seconds > 0.0 => SPROUT,
        () => CREAM,
    }
}

fn hint(what: &str, event: &Event, seconds: f64) -> String {
    let at = event.at;
    let name = event.cue.as_ref().or(event.mark.as_ref());
    let name = name.map_or(String::new(), |name| format!(" {name}"));
    match seconds > 0.0 {
        true => format!("{what}{name}: {at:.2} to {:.2} s", at + seconds),
        false => format!("{what}{name} at {at:.2} s"),
    }
}
