//! What happens in a take, below its time slider: events as ticks, and what takes time as bars. Those of the take's file
//! can be moved and stretched.

use std::ops::RangeInclusive;

use eframe::egui::{
    Align, Color32, CursorIcon, DragValue, Id, Layout, Rangef, Rect, Response, Role, Sense, Stroke,
    StrokeKind, Ui, UiBuilder, vec2,
};
use velvet_pan_takes::{Event, EventTime};

use super::bars::name as label;
use super::look::{CORAL, CREAM, HONEY, SPROUT};
use crate::model::Bench;

/// The height of the row, of the strip in it, and the least width of a bar, in points.
const ROW: f32 = 20.0;
const HEIGHT: f32 = 12.0;
const TICK: f32 = 3.0;
/// The width of a bar's end by which it is stretched, in points.
const END: f32 = 6.0;
/// The gap between the strip and the numbers to its right, in points.
const GAP: f32 = 12.0;
/// The longest passage, in seconds.
const MAX_SECONDS: f64 = 3600.0;

/// The place of times in the strip.
#[derive(Clone, Copy)]
struct Strip {
    rect: Rect,
    seconds: f64,
}

impl Strip {
    fn x(&self, t: f64) -> f32 {
        self.rect.left() + self.rect.width() * (t / self.seconds).clamp(0.0, 1.0) as f32
    }

    /// Returns the time that a distance in points stands for.
    fn seconds_of(&self, points: f32) -> f64 {
        f64::from(points / self.rect.width()) * self.seconds
    }

    fn bar(&self, event: &Event) -> Rect {
        let seconds = event.passage().map_or(0.0, |(_, seconds)| seconds);
        let (from, to) = (self.x(event.at), self.x(event.at + seconds));
        let rows = self.rect.y_range().shrink(3.0);
        Rect::from_x_y_ranges(Rangef::new(from, to.max(from + TICK)), rows)
    }
}

/// Shows the events of a take, in this range of x. `picked` is the number of the picked one in its file.
pub fn show(ui: &mut Ui, x: Rangef, bench: &mut Bench, picked: &mut Option<usize>) {
    if bench.take().events.is_empty() || bench.take().seconds <= 0.0 {
        return;
    }
    let (row, _) = ui.allocate_exact_size(vec2(ui.available_width(), ROW), Sense::hover());
    let rect = Rect::from_x_y_ranges(x, row.y_range().shrink((ROW - HEIGHT) / 2.0));
    let strip = Strip { rect, seconds: bench.take().seconds };
    ui.painter().rect_filled(rect, 2.0, ui.visuals().extreme_bg_color);
    // Events may change places, so they do not before all are drawn.
    let count = bench.take().events.len();
    let moved = (0..count).filter_map(|index| passage(ui, &strip, bench, index, picked)).last();
    if let Some((index, time)) = moved {
        retime(bench, index, time);
    }
    let beside = Rect::from_x_y_ranges(Rangef::new(x.max + GAP, row.right()), row.y_range());
    let layout = Layout::left_to_right(Align::Center);
    // A part of this row, which must not grow with it: the picture above would be resized.
    let mut beside = ui.new_child(UiBuilder::new().max_rect(beside).layout(layout));
    beside.spacing_mut().item_spacing.x = 4.0;
    beside.spacing_mut().interact_size.x = 0.0;
    numbers(&mut beside, bench, *picked);
}

/// Draws an event. Returns it with its new time, if the pointer moved it.
fn passage(
    ui: &mut Ui,
    strip: &Strip,
    bench: &Bench,
    index: usize,
    picked: &mut Option<usize>,
) -> Option<(usize, EventTime)> {
    let event = &bench.take().events[index];
    let (what, seconds) = event.passage().unwrap_or(("event", 0.0));
    let bar = strip.bar(event);
    ui.painter().rect_filled(bar, 1.0, colour(event, seconds));
    let number = bench.number_of(index)?;
    if *picked == Some(number) {
        let stroke = Stroke::new(1.0, CREAM);
        ui.painter().rect_stroke(bar.expand(2.0), 1.0, stroke, StrokeKind::Outside);
    }
    let text = hint(what, event, seconds);
    let body = touched(ui, bar.expand2(vec2(2.0, 3.0)), ("passage", number), &text);
    let mut time = EventTime::of(event);
    if let Some((from, moved)) = dragged(&body, time) {
        time.at = rounded(from.at + strip.seconds_of(moved));
    }
    let mut held = body.on_hover_cursor(CursorIcon::Grab);
    if time.glide.is_some() && bar.width() > 2.0 * END {
        let end = Rect::from_x_y_ranges(Rangef::new(bar.right() - END, bar.right()), bar.y_range());
        let end = touched(ui, end.expand(3.0), ("end", number), &format!("end of the {what}"));
        if let Some((from, moved)) = dragged(&end, time) {
            let seconds = |glide: f64| rounded((glide + strip.seconds_of(moved)).max(0.0));
            time.glide = from.glide.map(seconds);
        }
        held = held.union(end.on_hover_cursor(CursorIcon::ResizeHorizontal));
    }
    if held.clicked() || held.drag_started() {
        *picked = Some(number);
    }
    (time != EventTime::of(event)).then_some((index, time))
}

fn retime(bench: &mut Bench, index: usize, time: EventTime) {
    bench.transport.plays = false;
    bench.retime(index, time);
}

/// Returns the time with which a drag began, and how far it went to the right since, in points.
fn dragged(part: &Response, now: EventTime) -> Option<(EventTime, f32)> {
    if part.drag_started() {
        part.ctx.data_mut(|data| data.insert_temp(part.id, now));
    }
    let moved = part.dragged().then(|| part.total_drag_delta()).flatten()?;
    Some((part.ctx.data(|data| data.get_temp(part.id))?, moved.x))
}

/// Returns a part of the strip for the pointer, the keyboard and accessibility tools.
fn touched(ui: &Ui, rect: Rect, name: (&str, usize), text: &str) -> Response {
    let response = ui.interact(rect, Id::unique(name), Sense::click_and_drag());
    label(&response, Role::Button, text);
    response.on_hover_text(text)
}

/// The times of the picked event.
fn numbers(ui: &mut Ui, bench: &mut Bench, picked: Option<usize>) {
    let Some(picked) = picked else { return };
    let count = bench.take().events.len();
    let Some(index) = (0..count).find(|index| bench.number_of(*index) == Some(picked)) else {
        return;
    };
    let latest = bench.take().seconds;
    let before = EventTime::of(&bench.take().events[index]);
    let mut time = before;
    number(ui, &mut time.at, 0.0..=latest, "at ", "time of the passage");
    if let Some(glide) = &mut time.glide {
        number(ui, glide, 0.0..=MAX_SECONDS, "for ", "length of the passage");
    }
    if time != before {
        retime(bench, index, time);
    }
}

fn number(ui: &mut Ui, value: &mut f64, range: RangeInclusive<f64>, prefix: &str, name: &str) {
    let drag = DragValue::new(value).range(range).speed(0.01).fixed_decimals(2);
    let response = ui.add(drag.prefix(prefix)).on_hover_text(format!("{name}, in seconds"));
    label(&response, Role::SpinButton, name);
}

/// In hundredths, as people write seconds.
fn rounded(seconds: f64) -> f64 {
    (seconds * 100.0).round() / 100.0
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
