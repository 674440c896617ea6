//! The figures of rides as a table to read, with notes below it.

use velvet_pan_takes::{Figure, Figures, Take};

use super::comfort::Comfort;
use crate::arguments::rides::Entry;

/// Warnings that are shorter than this, in seconds, are listed.
const SHORT: f64 = 1.0;

/// Returns the figures side by side.
pub fn table(entries: &[Entry], figures: &[Figures]) -> String {
    let mut text = String::new();
    for (number, figures) in (1..).zip(figures) {
        text += &format!("  ({number})  {}\n", figures.ride);
    }
    text += &format!("\n{:<22} {:<14}", "", "");
    for number in 1..=figures.len() {
        text += &format!("{:>10} ", format!("({number})"));
    }
    // There is room for the times of one ride.
    let one = if let [one] = figures { Some(one) } else { None };
    text += if one.is_some() { "      at, s\n" } else { "\n" };
    for comfort in Comfort::all() {
        let figure = comfort.figure;
        let known: Vec<f64> = figures.iter().filter_map(|one| figure.of(one)).collect();
        text += &format!("{:<22} {:<14}", figure.name, figure.unit);
        for (figures, entry) in figures.iter().zip(entries) {
            text += &cell(&comfort, figures, &entry.take, &known);
        }
        if let Some(t) = one.and_then(|one| figure.when(one)) {
            text += &format!("{t:>11.2}");
        }
        text.truncate(text.trim_end().len());
        text += "\n";
    }
    text += &notes(figures);
    if figures.len() > 1 {
        text += "  + best, - worst\n";
    }
    text
}

fn cell(comfort: &Comfort, figures: &Figures, take: &Take, known: &[f64]) -> String {
    let figure = comfort.figure;
    let mark = match figure.of(figures).and_then(|value| figure.rank(value, known)) {
        Some(true) => '+',
        Some(false) => '-',
        None => ' ',
    };
    let limit = if comfort.broken(figures, take).is_some() { "!" } else { "" };
    format!("{:>10}{mark}", limit.to_owned() + &figure.shown(figures))
}

/// Notes below the table: why a figure is missing, who decided, which stops did not settle, what was seen late, and
/// what was not counted.
fn notes(all: &[Figures]) -> String {
    let mut text = String::from("\n");
    for (number, figures) in (1..).zip(all) {
        let mut note = |what: String| text += &format!("  ({number})  {what}\n");
        note(format!("decided by {}", deciders(figures)));
        for (reason, names) in missing(figures) {
            note(format!("-  {reason}: {}", names.join("; ")));
        }
        let Figures { stops, unsettled, short_stops, cuts, teleports, led, .. } = figures;
        if *short_stops > 0 {
            let what = "in which the subject went on while the camera was still moving";
            note(format!("stops {what}, too short to measure: {short_stops}"));
        }
        if *unsettled > 0 {
            note(format!("in {unsettled} of {stops} stops the camera was not at rest within 5 s"));
        }
        if figures.warning.is_some_and(|warning| warning < SHORT) {
            note(format!("shortest warnings: {}", warnings(figures)));
        }
        match figures.hazards_missed {
            0 => {}
            1 => note("1 hazard is never reached".to_owned()),
            count => note(format!("{count} hazards are never reached")),
        }
        if *led > 0.0 {
            let share = percent(*led);
            note(format!(
                "{share} % of the time is not counted as following: glides, hands, cutscenes, {cuts} cuts, {teleports} teleports"
            ));
        }
    }
    text
}

/// Returns the reasons for missing figures, each with their names.
fn missing(figures: &Figures) -> Vec<(&'static str, Vec<&'static str>)> {
    let mut missing: Vec<(&str, Vec<&str>)> = Vec::new();
    for figure in Figure::ALL.iter().filter(|figure| figure.of(figures).is_none()) {
        match missing.iter_mut().find(|(reason, _)| *reason == figure.reason()) {
            Some((_, names)) => names.push(figure.name),
            None => missing.push((figure.reason(), vec![figure.name])),
        }
    }
    missing
}

/// Returns the shares of the stages that decided where the view is, the largest first.
fn deciders(figures: &Figures) -> String {
    let mut shares: Vec<(&str, f64)> =
        figures.deciders.iter().map(|(by, share)| (*by, *share)).collect();
    shares.sort_by(|a, b| b.1.total_cmp(&a.1));
    let shares: Vec<String> =
        shares.into_iter().map(|(by, share)| format!("{by} {} %", percent(share))).collect();
    shares.join(", ")
}

fn warnings(figures: &Figures) -> String {
    let one = |warned: &velvet_pan_takes::Warned| {
        let velvet_pan_takes::Warned { seconds, t, x, y } = warned;
        format!("{seconds:.2} s at {t:.2} s ({x:.0}, {y:.0})")
    };
    figures.warnings.iter().map(one).collect::<Vec<String>>().join("; ")
}

fn percent(share: f64) -> f64 {
    (share * 1000.0).round() / 10.0
}

/// Returns the figures as records of a CSV file, the names of the columns first.
pub fn records(all: &[Figures]) -> Vec<Vec<String>> {
    let figures = || Figure::ALL.iter();
    let counts =
        ["stops", "unsettled", "short_stops", "cuts", "teleports", "led", "hazards_missed"];
    let names = ["ride".to_owned()]
        .into_iter()
        .chain(figures().map(|figure| figure.key.to_owned()))
        .chain(counts.map(str::to_owned))
        .chain(figures().map(|figure| format!("{}_at", figure.key)));
    let number = |value: Option<f64>| value.map_or_else(String::new, |value| value.to_string());
    let record = |one: &Figures| -> Vec<String> {
        let counts = [one.stops, one.unsettled, one.short_stops, one.cuts, one.teleports];
        let counts = counts.map(|count| count.to_string());
        [one.ride.clone()]
            .into_iter()
            .chain(figures().map(|figure| number(figure.of(one))))
            .chain(counts)
            .chain([one.led.to_string(), one.hazards_missed.to_string()])
            .chain(figures().map(|figure| number(figure.when(one))))
            .collect()
    };
    [names.collect()].into_iter().chain(all.iter().map(record)).collect()
}
