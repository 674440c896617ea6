//! Changes of settings to try, from mild to strong.

use velvet_pan::glam::DVec2;
use velvet_pan::{LookAhead, PerAxis, Settings, Shake, Smoothing};

/// Changes that may improve a figure, in the notation of `--try`, starting with those that change the feel least.
pub fn rungs(figure: &str, settings: &Settings) -> Vec<String> {
    let quicker = || smoothing(settings, &[0.85, 0.7, 0.5, 0.35, 0.2]);
    let ahead = || [ahead_seconds(settings, &[1.25, 1.5, 2.0, 3.0]), anchor(settings)].concat();
    let all = match figure {
        "lag_mean" | "lag_p95" => vec![quicker(), ahead_half_life(settings, &[0.7, 0.5, 0.3])],
        "lag_worst" => vec![quicker()],
        "off_anchor" => vec![quicker(), leash(settings)],
        "warning" | "hazard_warning" => vec![quicker(), ahead(), narrower(settings)],
        "settle" => vec![ahead_half_life(settings, &[0.7, 0.5, 0.35, 0.2]), quicker()],
        "overshoot" => vec![
            ahead_half_life(settings, &[0.7, 0.5, 0.3]),
            ahead_seconds(settings, &[0.8, 0.6, 0.4, 0.2]),
        ],
        "view_ahead" => vec![ahead(), narrower(settings), quicker()],
        "judder" | "tremble" | "off_grid" => vec![pair("screen.snap", "subpixel")],
        "turns" => vec![wider(settings), turn(settings)],
        "peak_speed" | "peak_acceleration" => vec![
            smoothing(settings, &[1.2, 1.5, 2.0, 3.0]),
            ahead_half_life(settings, &[1.5, 2.0, 3.0]),
            cushion(settings),
        ],
        "zooming" => vec![zoom_half_life(settings)],
        "shaken" => vec![shorter_shakes(settings)],
        "shake" => vec![intensity(&[0.8, 0.6, 0.4, 0.2])],
        "out_of_bounds" => {
            vec![pair("shake.stay_in_bounds", "true"), pair("zoom.fill_bounds", "true")]
        }
        "lost" => vec![leash(settings), overstep(settings), quicker()],
        _ => Vec::new(),
    };
    all.concat()
}

fn pair(key: &str, value: &str) -> Vec<String> {
    vec![format!("{key}={value}")]
}

/// Changes of one key, from numbers.
fn numbers<const N: usize>(key: &str, values: [f64; N]) -> Vec<String> {
    values.map(|value| format!("{key}={}", round(value))).into()
}

/// The times to settle of a smoothing that starts softly, for what has none, or one with a fixed speed.
const SOFT: [f64; 5] = [0.25, 0.4, 0.5, 0.7, 1.0];

/// Returns the same smoothing with its time multiplied, along both axes and along each; and one that starts softly.
fn smoothing(settings: &Settings, factors: &[f64]) -> Vec<String> {
    let PerAxis { x, y } = settings.follow.smoothing;
    let same = |one: Smoothing| Some(written(one));
    let rung = |x: Option<String>, y: Option<String>| match (x?, y?) {
        (x, y) if x == y => Some(format!("follow.smoothing={x}")),
        (x, y) => Some(format!("follow.smoothing={{ x = {x}, y = {y} }}")),
    };
    let both = factors.iter().filter_map(|factor| rung(scaled(x, *factor), scaled(y, *factor)));
    let on_y = factors.iter().filter_map(|factor| rung(same(x), scaled(y, *factor)));
    let on_x = factors.iter().filter_map(|factor| rung(scaled(x, *factor), same(y)));
    let soft = SOFT.map(|seconds| Some(written(Smoothing::Settle(seconds))));
    let soft_y = soft.iter().filter_map(|soft| rung(same(x), soft.clone()));
    let softly = soft.iter().filter_map(|soft| rung(soft.clone(), soft.clone()));
    let mut all: Vec<String> = Vec::new();
    for rung in both.chain(on_y).chain(on_x).chain(soft_y).chain(softly) {
        if !all.contains(&rung) {
            all.push(rung);
        }
    }
    all
}

fn written(smoothing: Smoothing) -> String {
    scaled(smoothing, 1.0).unwrap_or("\"none\"".to_owned())
}

fn scaled(smoothing: Smoothing, factor: f64) -> Option<String> {
    match smoothing {
        Smoothing::HalfLife(seconds) => {
            Some(format!("{{ half_life = {} }}", round(seconds * factor)))
        }
        Smoothing::Settle(seconds) => Some(format!("{{ settle = {} }}", round(seconds * factor))),
        Smoothing::Speed(speed) => Some(format!("{{ speed = {} }}", round(speed / factor))),
        _ => None,
    }
}

fn ahead_half_life(settings: &Settings, factors: &[f64]) -> Vec<String> {
    let Some(LookAhead { half_life, .. }) = settings.follow.look_ahead else { return Vec::new() };
    let rung = |factor: &f64| format!("follow.look_ahead.half_life={}", round(half_life * factor));
    factors.iter().map(rung).collect()
}

/// Look-ahead multiplied, or a usual look-ahead for settings without it.
fn ahead_seconds(settings: &Settings, factors: &[f64]) -> Vec<String> {
    let Some(ahead) = settings.follow.look_ahead else {
        let rungs = if factors[0] < 1.0 { &[][..] } else { &[0.2, 0.3, 0.45, 0.6, 0.8][..] };
        let rung = |seconds: &f64| format!("follow.look_ahead={{ seconds = [{seconds:?}, 0.0] }}");
        return rungs.iter().map(rung).collect();
    };
    let rung = |factor: &f64| {
        let [x, y] = (ahead.seconds * *factor).to_array().map(round);
        format!("follow.look_ahead.seconds=[{x}, {y}]")
    };
    factors.iter().map(rung).collect()
}

/// Returns the anchor back to the middle, half of the way and all of it, and as far on the other side.
fn anchor(settings: &Settings) -> Vec<String> {
    let DVec2 { x, y } = settings.follow.anchor;
    let places = [[(x + 0.5) / 2.0, (y + 0.5) / 2.0], [0.5, y], [0.5, 0.5], [1.0 - x, y]];
    let moved = places.into_iter().filter(|place| *place != [x, y]);
    moved.map(|[x, y]| format!("follow.anchor=[{}, {}]", round(x), round(y))).collect()
}

fn deadzone(settings: &Settings, side: impl Fn(f64) -> f64) -> String {
    let sides = &settings.follow.deadzone;
    let [left, right, top, bottom] =
        [sides.left, sides.right, sides.top, sides.bottom].map(|one| round(side(one)));
    format!("follow.deadzone={{ left = {left}, right = {right}, top = {top}, bottom = {bottom} }}")
}

/// Returns a deadzone that is wider on every side, in fractions of the screen.
fn wider(settings: &Settings) -> Vec<String> {
    [0.02, 0.05, 0.1, 0.15].map(|by| deadzone(settings, |side| (side + by).min(0.5))).into()
}

/// Returns a deadzone that is narrower on every side, for one that is wide.
fn narrower(settings: &Settings) -> Vec<String> {
    let sides = &settings.follow.deadzone;
    let widest = [sides.left, sides.right, sides.top, sides.bottom].into_iter().fold(0.0, f64::max);
    if widest <= 0.02 {
        return Vec::new();
    }
    [0.7, 0.5, 0.3, 0.0].map(|factor| deadzone(settings, |side| side * factor)).into()
}

/// Look-ahead that turns later.
fn turn(settings: &Settings) -> Vec<String> {
    let Some(LookAhead { turn_after, .. }) = settings.follow.look_ahead else { return Vec::new() };
    numbers("follow.look_ahead.turn_after", [0.04, 0.08, 0.12].map(|by| turn_after + by))
}

/// Ever shorter leashes.
fn leash(settings: &Settings) -> Vec<String> {
    let now = settings.follow.leash.map_or(1.0, |leash| leash.0.max_element());
    let shorter = [0.46, 0.42, 0.36, 0.3, 0.22].into_iter().filter(|length| *length < now);
    shorter.map(|length| format!("follow.leash=[{length}, {length}]")).collect()
}

/// Slower and slower at the bounds.
fn cushion(settings: &Settings) -> Vec<String> {
    let Some(bounds) = &settings.bounds else { return Vec::new() };
    let deeper = [0.06, 0.12, 0.25].into_iter().filter(|depth| *depth > bounds.cushion_depth);
    deeper.map(|depth| format!("bounds.cushion_depth={depth}")).collect()
}

fn zoom_half_life(settings: &Settings) -> Vec<String> {
    numbers(
        "zoom.half_life",
        [2.0, 4.0, 8.0].map(|factor| settings.zoom.half_life.max(0.05) * factor),
    )
}

/// Shakes of cues that end sooner.
fn shorter_shakes(settings: &Settings) -> Vec<String> {
    let shaking = settings.cues.iter().filter_map(|(name, cue)| Some((name, cue.shake?)));
    let shorter = |(name, shake): (&String, Shake)| {
        let rung = |factor: f64| {
            let [hold, fade] = [shake.hold, shake.fade].map(|seconds| round(seconds * factor));
            [format!("cues.{name}.shake.fade={fade}"), format!("cues.{name}.shake.hold={hold}")]
        };
        [0.5, 0.25, 0.1].map(rung).concat()
    };
    shaking.flat_map(shorter).collect()
}

fn intensity(values: &[f64]) -> Vec<String> {
    values.iter().map(|value| format!("shake.intensity={value:?}")).collect()
}

/// Rooms that change at their edge.
fn overstep(settings: &Settings) -> Vec<String> {
    let steps_over = settings.rooms.as_ref().is_some_and(|rooms| rooms.overstep > 0.0);
    if steps_over { pair("rooms.overstep", "0.0") } else { Vec::new() }
}

/// Returns the number as text, always with a decimal point.
fn round(value: f64) -> String {
    format!("{:?}", rounded(value))
}

/// Returns a number rounded to the digits that a person would write.
pub fn rounded(value: f64) -> f64 {
    (value * 1000.0).round() / 1000.0
}

#[cfg(test)]
mod tests {
    use velvet_pan_takes::{Change, Figure};

    use super::*;

    #[test]
    fn every_rung_can_be_pasted() {
        let mut settings = Settings::default();
        settings.follow.smoothing =
            PerAxis { x: Smoothing::HalfLife(0.2), y: Smoothing::Speed(90.0) };
        for look_ahead in [None, Some(LookAhead::default())] {
            settings.follow.look_ahead = look_ahead;
            for figure in &Figure::ALL {
                for rung in rungs(figure.key, &settings) {
                    assert!(rung.parse::<Change>().is_ok(), "{rung}");
                }
            }
        }
    }
}
