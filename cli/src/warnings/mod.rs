//! Values that are allowed but unlikely.

mod outlines;
mod scale;
mod window;

use std::path::Path as FilePath;

use velvet_pan::glam::DVec2;
use velvet_pan::{Airborne, Axes, Fit, Lens, Rect, Settings, Snap, YAxis};
use velvet_pan_takes::{Document, Event, Fault, Path, Take};

use outlines::{is_outside, warnings_of_outlines};
use scale::{slow_subjects, strange_numbers};
use window::warnings_of_window;

/// Warnings about a tuning.
pub fn warnings_of_settings(settings: &Settings, document: &Document, prefix: &str) -> Vec<Fault> {
    let mut warnings = Vec::new();
    let mut warn = |key: &str, what: String| {
        warnings.push(document.fault(&format!("{prefix}{key}"), what));
    };
    let follow = &settings.follow;
    if let Some(leash) = follow.leash {
        let zone = &follow.deadzone;
        let sides = DVec2::new(zone.left.max(zone.right), zone.top.max(zone.bottom));
        if sides.cmpge(leash.0).any() {
            let what = "the deadzone is wider than the leash: the leash acts before the subject leaves the deadzone";
            warn("follow.deadzone", what.to_owned());
        }
    }
    let view = |zoom: f64| Lens::new(&settings.screen).with_zoom(zoom).view_size();
    if let Some(bounds) = &settings.bounds {
        let limits = bounds.limits(settings.screen.y_axis);
        let (size, shown) = (limits.size(), view(settings.zoom.level));
        if size.cmplt(shown).any() {
            let what = format!(
                "the world, {} x {}, is smaller than the view, {} x {}",
                size.x, size.y, shown.x, shown.y
            );
            warn("bounds.rect", what);
        }
        let reach = |axis: usize| {
            let shakes = settings.cues.values().filter_map(|cue| cue.shake);
            shakes
                .map(|shake| shake.reach[axis].min(settings.shake.limit.reach[axis]))
                .fold(0.0, f64::max)
        };
        let reach = DVec2::new(reach(0), reach(1));
        let room = (size - shown) * settings.screen.unit_pixels * settings.zoom.level / 2.0;
        if settings.shake.stay_in_bounds && room.cmplt(reach).any() {
            let what = "the world is hardly larger than the view: inside the bounds there is no room to shake";
            warn("shake.stay_in_bounds", what.to_owned());
        } else if !settings.shake.stay_in_bounds && reach != DVec2::ZERO {
            let what = format!(
                "at the world's edge a shake shows up to {} x {} screen pixels of the outside: see shake.stay_in_bounds",
                reach.x, reach.y
            );
            warn("shake", what);
        }
    }
    let scale = settings.screen.unit_pixels * settings.zoom.level;
    if settings.screen.snap != Snap::Off && scale >= 1.0 && scale.fract() != 0.0 {
        let what = format!(
            "{scale} screen pixels per world unit: pixel art is even only at a whole number"
        );
        warn("zoom.level", what);
    }
    for (key, what) in warnings_of_outlines(settings) {
        warn(&key, what);
    }
    for (key, what) in others(settings) {
        warn(&key, what);
    }
    warnings
}

/// Returns the key and the text of warnings about layers, rooms and numbers for another scale.
fn others(settings: &Settings) -> Vec<(String, String)> {
    let mut found = strange_numbers(settings);
    found.extend(neighbours_shown(settings).map(|what| ("rooms".to_owned(), what)));
    let smallest = settings.zoom.range.min;
    for (index, layer) in settings.layers.iter().enumerate() {
        let lens = Lens::new(&settings.screen).with_zoom(smallest.powf(layer.response));
        let shown = lens.view_size();
        if layer.cover.is_some_and(|cover| cover.cmplt(shown).any()) {
            let what = format!(
                "at zoom {smallest} the view is larger than this picture, which then can't cover it"
            );
            found.push((format!("layers.{index}.cover"), what));
        }
    }
    found
}

/// How much larger than its design size a revealed screen usually is on an axis: 16:9 in a window of 4:3 or 21:9.
const REVEALED: f64 = 4.0 / 3.0;

/// Returns a room that is hardly larger than the screen, which in a window of another shape shows its neighbours.
fn neighbours_shown(settings: &Settings) -> Option<String> {
    let rooms = settings.rooms.as_ref().filter(|_| settings.screen.fit == Fit::Reveal)?;
    let design = settings.screen.design_size();
    let grid = rooms.size.unwrap_or(design);
    let sizes: Vec<DVec2> = rooms.list.iter().map(Rect::size).collect();
    let sizes = if sizes.is_empty() { vec![grid] } else { sizes };
    let shown = design * REVEALED / settings.zoom.level;
    let small = sizes.into_iter().find(|size| size.cmplt(shown).any())?;
    Some(format!(
        "a room of {} x {} is hardly larger than the view: with screen.fit \"reveal\" a window of another shape shows what is beside it; \"contain\" or \"whole\" show bars instead",
        small.x, small.y
    ))
}

/// Warnings about a take.
pub fn warnings_of_take(take: &Take, document: &Document, inline: bool) -> Vec<Fault> {
    let mut warnings = Vec::new();
    let used = |name: &String| take.events.iter().any(|event| event.cue.as_ref() == Some(name));
    // A tuning of its own may serve other takes, too.
    let own = if inline { Some(&take.settings.cues) } else { None };
    for name in own.into_iter().flat_map(|cues| cues.keys()).filter(|name| !used(name)) {
        warnings.push(document.fault(&format!("tuning.cues.{name}"), "this cue is never called"));
    }
    let follow = &take.settings.follow;
    let view = Lens::new(&take.settings.screen).with_zoom(take.settings.zoom.level).view_size();
    for name in &take.watch {
        let Some(subject) = take.subjects.get(name) else { continue };
        let speed = subject.path.top_speed();
        let behind =
            DVec2::new(follow.smoothing.x.lag_at(speed.x), follow.smoothing.y.lag_at(speed.y));
        let room = follow.anchor.max(1.0 - follow.anchor) * view;
        if follow.leash.is_none() && behind.cmpgt(room).any() {
            let what = format!(
                "at its top speed, {:.0} x {:.0} world units a second, smoothing leaves \"{name}\" {:.0} x {:.0} behind: off the screen (see follow.leash)",
                speed.x, speed.y, behind.x, behind.y
            );
            warnings.push(document.fault("tuning", what));
        }
    }
    warnings.extend(warnings_of_paths(take, document));
    warnings.extend(warnings_of_events(take, document));
    for (name, speed) in slow_subjects(take) {
        let what = format!(
            "at most {speed:.4} screens a second, at {} screen pixels a world unit (screen.unit_pixels): likely a path in another unit",
            take.settings.screen.unit_pixels
        );
        warnings.push(document.fault(&format!("subjects.{name}"), what));
    }
    for what in warnings_of_window(&take.settings.screen, take.window) {
        warnings.push(document.fault("window", what));
    }
    warnings
}

/// A subject that is faster than this, in screens per second, probably jumped.
const LEAP: f64 = 12.0;

/// Warnings about jumps without a cut, and paths that leave the bounds.
fn warnings_of_paths(take: &Take, document: &Document) -> Vec<Fault> {
    let mut warnings = Vec::new();
    let view = Lens::new(&take.settings.screen).with_zoom(take.settings.zoom.level).view_size();
    for (name, subject) in &take.subjects {
        let mut warn =
            |what: String| warnings.push(document.fault(&format!("subjects.{name}"), what));
        for t in subject.path.leaps(view * LEAP) {
            warn(format!(
                "a jump at t = {t}: to cut the camera there, add a column cut with 1 in that row"
            ));
        }
        if let Some((t, axis)) =
            leaves_locked_view(take, &subject.path).filter(|_| take.watch.contains(name))
        {
            warn(format!(
                "off the screen from t = {t} on: follow.axes does not follow {axis}, where the view stays at the first subject's position"
            ));
        }
        let holds = take.settings.follow.airborne == Airborne::Hold;
        if holds && take.watch.contains(name) && !subject.path.knows_ground() {
            warn("its path has no column grounded: it counts as always on the ground, so follow.airborne has no effect".to_owned());
        }
        let Some(bounds) = &take.settings.bounds else { continue };
        let outside = |at: DVec2| is_outside(&take.settings, bounds, at);
        if let Some(row) = subject.path.rows().iter().find(|row| outside(row.position)) {
            warn(format!(
                "outside the bounds from t = {} on: the camera does not follow there",
                row.t
            ));
        }
    }
    warnings
}

/// When the path leaves a view that does not follow it on an axis, and which axis that is.
fn leaves_locked_view(take: &Take, path: &Path) -> Option<(f64, char)> {
    let Settings { follow, screen, zoom, bounds, .. } = &take.settings;
    let axis = match follow.axes {
        Axes::X => 1,
        Axes::Y => 0,
        _ => return None,
    };
    let lens = Lens::new(screen).with_zoom(zoom.level);
    let DVec2 { x, y } = follow.anchor;
    let anchor = DVec2::new(x, if screen.y_axis == YAxis::Up { 1.0 - y } else { y });
    let centre = path.rows().first()?.position + (0.5 - anchor) * lens.view_size();
    let centre = bounds.map_or(centre, |bounds| bounds.centre_range(&lens).nearest(centre));
    let half = lens.view_size()[axis] / 2.0;
    let is_out = |at: DVec2| (at[axis] - centre[axis]).abs() > half;
    let row = path.rows().iter().find(|row| is_out(row.position))?;
    Some((row.t, ['x', 'y'][axis]))
}

/// What can't be read of a ride log, and that another version wrote it.
pub fn warnings_of_log(take: &Take, document: &Document) -> Vec<Fault> {
    let Some(log) = &take.log else { return Vec::new() };
    let version = log.other_version().map(|version| {
        let what = format!("written by version {version}, which may show other pictures");
        document.fault("version", what)
    });
    log.fault().cloned().into_iter().chain(version).collect()
}

/// Warnings about events without effect, or with keys without effect.
fn warnings_of_events(take: &Take, document: &Document) -> Vec<Fault> {
    let mut warnings = Vec::new();
    for (index, event) in take.events.iter().enumerate() {
        let mut warn = |key: &str, what: &str| {
            warnings.push(document.fault(&format!("events.{index}{key}"), what));
        };
        if event.at > take.seconds {
            warn(".at", "after the end of the take: it never happens");
        }
        if let Some(what) = endless_wait(take, event) {
            warn(".gate", &what);
        }
        if let Some(what) = cut_off(&take.events[..index], event) {
            warn("", &what);
        }
        for (is_idle, key, what) in idle_keys(event) {
            if is_idle {
                warn(key, what);
            }
        }
    }
    warnings
}

/// Why an event waits until the end of the take, if it does.
fn endless_wait(take: &Take, event: &Event) -> Option<String> {
    let gate = event.gate.as_ref()?;
    match take.gates.get(gate) {
        None => Some(format!(
            "waits without end, as nothing opens \"{gate}\": expected a time in [gates]"
        )),
        Some(at) if *at > take.seconds => Some(format!(
            "waits without end, as \"{gate}\" opens at t = {at}, after the end of the take"
        )),
        _ => None,
    }
}

/// Returns the passage that an event cuts off, in words: a travel or a `show` that is still on its way.
fn cut_off(before: &[Event], event: &Event) -> Option<String> {
    let moves = |event: &Event| {
        event.travel.is_some()
            || event.show.is_some()
            || (event.glide.is_some() && event.bounds.is_none())
    };
    if !(moves(event) || event.cut || event.release) || event.camera.is_some() {
        return None;
    }
    let (number, last) = before.iter().enumerate().rfind(|(_, last)| moves(last))?;
    let waits = |event: &Event| event.arrive || event.gate.is_some();
    // How long a wait takes is known only to a ride.
    if waits(event) || before[number + 1..].iter().any(waits) {
        return None;
    }
    let (key, seconds) = last.passage().filter(|_| last.camera.is_none())?;
    let end = last.at + seconds;
    (event.at < end - 1e-9)
        .then(|| format!("cuts off the {key} of events.{number}, which takes until t = {end}"))
}

/// Returns the keys of an event that have no effect without another one.
fn idle_keys(event: &Event) -> [(bool, &'static str, &'static str); 6] {
    let is_timed = event.glide.is_some();
    let does_nothing = *event == Event { at: event.at, ..Event::default() };
    [
        (does_nothing, "", "this event does nothing"),
        (event.about.is_some() && event.notches.is_none(), ".about", "no effect without notches"),
        (event.from.is_some() && event.cue.is_none(), ".from", "no effect without cue"),
        (event.strength.is_some() && event.cue.is_none(), ".strength", "no effect without cue"),
        (event.ease.is_some() && !is_timed, ".ease", "no effect without glide"),
        (event.travel.is_some() && !is_timed, ".travel", "without glide it cuts to the last point"),
    ]
}

/// Steps of a path longer than this, in seconds, are probably in milliseconds.
const LONG_STEP: f64 = 2.0;
/// A path that begins later than this, in seconds, was probably cut from a longer one.
const LATE: f64 = 60.0;

/// Warnings about assumptions where a path is silent.
pub fn warnings_of_path(file: &FilePath, path: &Path) -> Vec<Fault> {
    let warn = |what: String| Fault::of_file(file, what);
    let gap = |(t, seconds): (f64, f64)| {
        warn(format!(
            "a gap of {seconds:.2} s after t = {t}: the positions between are interpolated"
        ))
    };
    let mut warnings: Vec<Fault> = path.gaps().map(gap).collect();
    if let Some(step) = path.usual_step().filter(|step| *step > LONG_STEP) {
        warnings.push(warn(format!(
            "{step:.3} s from row to row: likely milliseconds; expected t in seconds"
        )));
    } else if let Some(first) = path.rows().first().filter(|row| row.t > LATE) {
        warnings.push(warn(format!(
            "the first row is at {:.3} s: until then the subject stands; expected times from 0 on",
            first.t
        )));
    }
    warnings
}
