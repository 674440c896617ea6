//! Changes of settings to try, from mild to strong.

use velvet_pan::{LookAhead, PerAxis, Settings, Smoothing};
use velvet_pan_takes::Change;

/// A change of one key, in steps from mild to strong.
#[derive(Clone, Debug)]
pub struct Ladder {
    pub rungs: Vec<String>,
}

/// Changes that may improve a figure, starting with those that change the feel least.
pub fn ladders(figure: &str, settings: &Settings) -> Vec<Ladder> {
    let quicker = || smoothing(settings, &[0.85, 0.7, 0.5, 0.35, 0.2]);
    let slower = || smoothing(settings, &[1.2, 1.5, 2.0, 3.0]);
    let all = match figure {
        "lag_mean" | "lag_p95" => vec![quicker(), ahead_half_life(settings, &[0.7, 0.5, 0.3])],
        "lag_worst" => vec![quicker()],
        "off_anchor" => vec![quicker(), leash(settings)],
        "warning" | "hazard_warning" => {
            vec![quicker(), ahead_seconds(settings, &[1.25, 1.5, 2.0, 3.0])]
        }
        "settle" => vec![ahead_half_life(settings, &[0.7, 0.5, 0.35, 0.2]), quicker()],
        "overshoot" => vec![
            ahead_half_life(settings, &[0.7, 0.5, 0.3]),
            ahead_seconds(settings, &[0.8, 0.6, 0.4, 0.2]),
        ],
        "view_ahead" => vec![ahead_seconds(settings, &[1.25, 1.5, 2.0, 3.0]), quicker()],
        "judder" | "tremble" | "off_grid" => vec![one("screen.snap", "subpixel")],
        "turns" => vec![deadzone(settings)],
        "peak_speed" | "peak_acceleration" => {
            vec![slower(), ahead_half_life(settings, &[1.5, 2.0, 3.0])]
        }
        "out_of_bounds" => {
            vec![one("shake.stay_in_bounds", "true"), one("zoom.fill_bounds", "true")]
        }
        "lost" => vec![leash(settings)],
        _ => Vec::new(),
    };
    all.into_iter().filter(|ladder| !ladder.rungs.is_empty()).collect()
}

impl Ladder {
    /// Returns the changes in the notation of `--try`.
    pub fn changes(&self) -> impl Iterator<Item = Change> {
        // They are written here, and a test parses all of them.
        self.rungs.iter().filter_map(|rung| rung.parse().ok())
    }
}

fn one(key: &str, value: &str) -> Ladder {
    Ladder { rungs: vec![format!("{key}={value}")] }
}

/// The same smoothing with its time multiplied, on each axis.
fn smoothing(settings: &Settings, factors: &[f64]) -> Ladder {
    let PerAxis { x, y } = settings.follow.smoothing;
    let rung = |factor: &f64| match (scaled(x, *factor), scaled(y, *factor)) {
        (Some(x), Some(y)) if x == y => Some(format!("follow.smoothing={x}")),
        (Some(x), Some(y)) => Some(format!("follow.smoothing={{ x = {x}, y = {y} }}")),
        _ => None,
    };
    Ladder { rungs: factors.iter().filter_map(rung).collect() }
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

fn ahead_half_life(settings: &Settings, factors: &[f64]) -> Ladder {
    let Some(LookAhead { half_life, .. }) = settings.follow.look_ahead else {
        return Ladder { rungs: Vec::new() };
    };
    let rung = |factor: &f64| format!("follow.look_ahead.half_life={}", round(half_life * factor));
    Ladder { rungs: factors.iter().map(rung).collect() }
}

/// Look-ahead multiplied, or a usual look-ahead for settings without it.
fn ahead_seconds(settings: &Settings, factors: &[f64]) -> Ladder {
    let Some(ahead) = settings.follow.look_ahead else {
        let rungs = if factors[0] < 1.0 { &[][..] } else { &[0.2, 0.3, 0.45, 0.6, 0.8][..] };
        let rung = |seconds: &f64| format!("follow.look_ahead={{ seconds = [{seconds:?}, 0.0] }}");
        return Ladder { rungs: rungs.iter().map(rung).collect() };
    };
    let rung = |factor: &f64| {
        let [x, y] = (ahead.seconds * *factor).to_array().map(round);
        format!("follow.look_ahead.seconds=[{x}, {y}]")
    };
    Ladder { rungs: factors.iter().map(rung).collect() }
}

/// Wider on every side, in fractions of the screen.
fn deadzone(settings: &Settings) -> Ladder {
    let sides = &settings.follow.deadzone;
    let rung = |by: &f64| {
        let [left, right, top, bottom] = [sides.left, sides.right, sides.top, sides.bottom]
            .map(|side| round((side + by).min(0.5)));
        format!(
            "follow.deadzone={{ left = {left}, right = {right}, top = {top}, bottom = {bottom} }}"
        )
    };
    Ladder { rungs: [0.02, 0.05, 0.1, 0.15].iter().map(rung).collect() }
}

/// Ever shorter leashes.
fn leash(settings: &Settings) -> Ladder {
    let now = settings.follow.leash.map_or(1.0, |leash| leash.0.max_element());
    let shorter = [0.46, 0.42, 0.36, 0.3, 0.22].into_iter().filter(|length| *length < now);
    Ladder { rungs: shorter.map(|length| format!("follow.leash=[{length}, {length}]")).collect() }
}

/// The number as text, always with a decimal point.
fn round(value: f64) -> String {
    format!("{:?}", rounded(value))
}

/// A number rounded to the digits that a person would write.
pub fn rounded(value: f64) -> f64 {
    (value * 1000.0).round() / 1000.0
}

#[cfg(test)]
mod tests {
    use velvet_pan_takes::Figure;

    use super::*;

    #[test]
    fn every_rung_can_be_pasted() {
        let mut settings = Settings::default();
        settings.follow.smoothing =
            PerAxis { x: Smoothing::HalfLife(0.2), y: Smoothing::Speed(90.0) };
        for look_ahead in [None, Some(LookAhead::default())] {
            settings.follow.look_ahead = look_ahead;
            for figure in &Figure::ALL {
                for ladder in ladders(figure.key, &settings) {
                    assert_eq!(ladder.changes().count(), ladder.rungs.len(), "{ladder:?}");
                }
            }
        }
    }
}
