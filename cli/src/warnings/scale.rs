//! Numbers that probably belong to another scale: world units taken for pixels, tiles or metres.

use velvet_pan::Settings;
use velvet_pan::glam::DVec2;
use velvet_pan_takes::Take;

/// A size in world units is usual from and to this many design screens.
const USUAL_SIZE: [f64; 2] = [0.02, 50.0];
/// A world is usual up to this many.
const MAX_USUAL_WORLD: f64 = 5000.0;
/// A speed is usual from and to this many design screens a second.
const USUAL_SPEED: [f64; 2] = [0.005, 12.0];
/// A shake is usual up to this fraction of the screen.
const MAX_USUAL_SHAKE: f64 = 0.25;

/// A number with its key and what it is.
struct Measured {
    key: String,
    what: &'static str,
    amount: DVec2,
    usual: [f64; 2],
    unit: &'static str,
}

/// Returns the key and the text of a warning for each number of a tuning that is unusual beside its design screen.
pub fn strange_numbers(settings: &Settings) -> Vec<(String, String)> {
    let design = settings.screen.design_size();
    let unit_pixels = settings.screen.unit_pixels;
    let strange = measured(settings).into_iter().filter_map(|number| {
        let Measured { key, what, amount, usual: [least, most], unit } = number;
        let screens = (amount / design).abs().max_element();
        let is_usual = screens == 0.0 || (least..=most).contains(&screens);
        let text = format!(
            "{what} is {} screens{unit}, at {unit_pixels} screen pixels a world unit (screen.unit_pixels): likely a number for another scale",
            rounded(screens)
        );
        (!is_usual).then_some((key, text))
    });
    strange.chain(strange_shakes(settings)).collect()
}

/// Returns a number with three digits.
fn rounded(number: f64) -> String {
    if number >= 100.0 { format!("{number:.0}") } else { format!("{number:.3}") }
}

/// Returns the sizes and speeds of a tuning that are in world units.
fn measured(settings: &Settings) -> Vec<Measured> {
    let size = |key: String, what: &'static str, amount: DVec2| Measured {
        key,
        what,
        amount,
        usual: USUAL_SIZE,
        unit: "",
    };
    let speed = |key: &str, amount: DVec2| Measured {
        key: key.to_owned(),
        what: "the speed",
        amount,
        usual: USUAL_SPEED,
        unit: " a second",
    };
    let mut found = Vec::new();
    if let Some(extent) = settings.bounds.and_then(|bounds| settings.extent(&bounds)) {
        let world = size("bounds.rect".to_owned(), "the world", extent.size());
        found.push(Measured { usual: [USUAL_SIZE[0], MAX_USUAL_WORLD], ..world });
    }
    if let Some(rooms) = &settings.rooms {
        found.extend(rooms.size.map(|room| size("rooms.size".to_owned(), "a room", room)));
        let list = rooms.list.iter().enumerate();
        found
            .extend(list.map(|(at, room)| size(format!("rooms.list.{at}"), "a room", room.size())));
    }
    for (at, lure) in settings.lures.iter().enumerate() {
        found.push(size(format!("lures.{at}.radius"), "the radius", DVec2::splat(lure.radius)));
    }
    for (at, zone) in settings.zones.iter().enumerate() {
        found.push(size(format!("zones.{at}.rect"), "the zone", zone.rect.size()));
    }
    found.extend(settings.scroll.as_ref().map(|scroll| speed("scroll.speed", scroll.speed)));
    let rail = settings.rail.as_ref().and_then(|rail| rail.speed);
    found.extend(rail.map(|along| speed("rail.speed", DVec2::splat(along))));
    found
}

/// Shakes are in screen pixels. A large one was probably meant for the pixels of a window.
fn strange_shakes(settings: &Settings) -> impl Iterator<Item = (String, String)> {
    let screen = settings.screen.size.as_dvec2();
    let limit = settings.shake.limit.reach;
    let shakes = settings.cues.iter().filter_map(|(name, cue)| Some((name, cue.shake?)));
    shakes.filter_map(move |(name, shake)| {
        let reach = shake.reach.min(limit);
        let text = format!(
            "a shake of {} x {} on a screen of {} x {} screen pixels: likely meant for the pixels of a window",
            reach.x, reach.y, screen.x, screen.y
        );
        let is_large = (reach / screen).max_element() > MAX_USUAL_SHAKE;
        is_large.then(|| (format!("cues.{name}.shake.reach"), text))
    })
}

/// Returns the names of subjects that move, but only by a tiny part of the screen, and by how many screens a second at
/// most.
pub fn slow_subjects(take: &Take) -> impl Iterator<Item = (&String, f64)> {
    let design = take.settings.screen.design_size();
    let speeds = take
        .subjects
        .iter()
        .map(move |(name, subject)| (name, (subject.path.top_speed() / design).max_element()));
    speeds.filter(|(_, speed)| *speed > 0.0 && *speed < USUAL_SPEED[0])
}
