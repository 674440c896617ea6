//! Tips that have been tried: each change is listed with its effect on the same rides.

use velvet_pan_takes::{Change, Figure, Figures};

use super::comfort::{Comfort, is_beyond};
use super::ladder::ladders;
use crate::arguments::rides::Entry;

/// The smallest improvement that counts, as a fraction.
const HELPS: f64 = 0.1;

/// A figure that is uncomfortable in some rides.
pub struct Complaint {
    pub comfort: Comfort,
    /// The rides by number, and their values.
    pub rides: Vec<(usize, f64)>,
    /// The change that helps, if one was found.
    pub tip: Option<Tip>,
}

/// A change, and its effect on the rides.
#[derive(Clone, Debug)]
pub struct Tip {
    pub change: String,
    /// The figures of each ride with the change.
    pub after: Vec<(usize, Figures)>,
    /// Whether every ride is comfortable with it.
    pub reaches: bool,
}

/// Finds uncomfortable figures and what helps. `try_out` rides a take with a change.
pub fn complaints(
    rides: &[Entry],
    figures: &[Figures],
    try_out: &mut dyn FnMut(usize, &Change) -> Option<Figures>,
) -> Vec<Complaint> {
    let complaint = |comfort: Comfort| {
        let broken = |(index, ride): (usize, &Entry)| {
            Some((index, comfort.broken(&figures[index], &ride.take)?))
        };
        let broken: Vec<(usize, f64)> = rides.iter().enumerate().filter_map(broken).collect();
        let tip = (!broken.is_empty()).then(|| tip(&comfort, &broken, rides, figures, try_out));
        tip.map(|tip| Complaint { comfort, rides: broken, tip })
    };
    Comfort::all().filter_map(complaint).collect()
}

/// The mildest change with which all of these rides are comfortable, or else the most effective one.
fn tip(
    comfort: &Comfort,
    broken: &[(usize, f64)],
    rides: &[Entry],
    figures: &[Figures],
    try_out: &mut dyn FnMut(usize, &Change) -> Option<Figures>,
) -> Option<Tip> {
    let mut best: Option<(f64, Tip)> = None;
    let (first, _) = *broken.first()?;
    for ladder in ladders(comfort.figure.key, &rides[first].take.settings) {
        for (rung, change) in ladder.rungs.iter().zip(ladder.changes()) {
            let after: Option<Vec<(usize, Figures)>> =
                broken.iter().map(|(index, _)| Some((*index, try_out(*index, &change)?))).collect();
            let Some(after) = after else { continue };
            if after
                .iter()
                .any(|(index, after)| makes_worse(&figures[*index], after, &rides[*index]))
            {
                continue;
            }
            let gain = gain(comfort.figure, broken, &after);
            let is_broken = |(index, after): &(usize, Figures)| {
                comfort.broken(after, &rides[*index].take).is_some()
            };
            let reaches = !after.iter().any(is_broken);
            if gain >= HELPS && (reaches || best.as_ref().is_none_or(|(most, _)| gain > *most)) {
                let tip = Tip { change: rung.clone(), after, reaches };
                if reaches {
                    return Some(tip);
                }
                best = Some((gain, tip));
            }
        }
    }
    best.map(|(_, tip)| tip)
}

/// The smallest fraction by which the figure of a ride improves.
fn gain(figure: &Figure, before: &[(usize, f64)], after: &[(usize, Figures)]) -> f64 {
    let one = |((_, before), (_, after)): (&(usize, f64), &(usize, Figures))| {
        let Some(after) = figure.of(after) else { return 0.0 };
        let better = is_beyond(figure, *before, after);
        if better { (after - before).abs() / before.abs().max(1e-9) } else { 0.0 }
    };
    before.iter().zip(after).map(one).fold(f64::MAX, f64::min)
}

/// Whether a comfortable figure becomes uncomfortable.
fn makes_worse(before: &Figures, after: &Figures, ride: &Entry) -> bool {
    Comfort::all().any(|comfort| {
        comfort.broken(before, &ride.take).is_none() && comfort.broken(after, &ride.take).is_some()
    })
}

/// The complaints as text, each with its remedy. Complaints with the same remedy are grouped; those without one come
/// last.
pub fn text(complaints: &[Complaint], figures: &[Figures]) -> String {
    let mut text = String::new();
    let mut told: Vec<&str> = Vec::new();
    for complaint in complaints {
        let Some(tip) = &complaint.tip else { continue };
        if told.contains(&tip.change.as_str()) {
            continue;
        }
        told.push(&tip.change);
        let same =
            |other: &&Complaint| other.tip.as_ref().is_some_and(|one| one.change == tip.change);
        for other in complaints.iter().filter(same) {
            text += &said(other, figures);
        }
        text += &tried(tip, complaint, figures);
    }
    let helpless: Vec<&Complaint> = complaints.iter().filter(|one| one.tip.is_none()).collect();
    for complaint in &helpless {
        text += &said(complaint, figures);
    }
    if !helpless.is_empty() {
        text +=
            "      no change that was tried helps without making something else uncomfortable\n";
    }
    text
}

fn said(complaint: &Complaint, figures: &[Figures]) -> String {
    let Comfort { figure, cause, .. } = &complaint.comfort;
    let ride = |(index, value): &(usize, f64)| {
        let at = figure.when(&figures[*index]).map(|t| format!(" at {t:.2} s"));
        format!("({}) {}{}", index + 1, Figure::short(*value), at.unwrap_or_default())
    };
    let rides: Vec<String> = complaint.rides.iter().map(ride).collect();
    format!("\n! {}, {}: {}: {cause}\n", figure.name, figure.unit, rides.join(", "))
}

/// The change, and the figures that it affects most, its own first.
fn tried(tip: &Tip, complaint: &Complaint, figures: &[Figures]) -> String {
    let mut text = String::new();
    let end = if tip.reaches { "" } else { " (better, and not yet comfortable)" };
    text += &format!("      --try '{}'{end}\n", tip.change);
    for (index, after) in &tip.after {
        let before = &figures[*index];
        let own = complaint.comfort.figure;
        let mut moved: Vec<(f64, String)> = Figure::ALL
            .iter()
            .filter(|figure| figure.key != own.key)
            .filter_map(|figure| Some((share(figure, before, after)?, step(figure, before, after))))
            .filter(|(share, _)| *share > 0.05)
            .collect();
        moved.sort_by(|a, b| b.0.total_cmp(&a.0));
        let rest: Vec<String> = moved.into_iter().take(3).map(|(_, text)| text).collect();
        let rest = if rest.is_empty() { String::new() } else { format!("; {}", rest.join(", ")) };
        text += &format!("      ({}) {}{rest}\n", index + 1, step(own, before, after));
    }
    text
}

fn share(figure: &Figure, before: &Figures, after: &Figures) -> Option<f64> {
    let (before, after) = (figure.of(before)?, figure.of(after)?);
    Some((after - before).abs() / before.abs().max(after.abs()).max(1e-9))
}

fn step(figure: &Figure, before: &Figures, after: &Figures) -> String {
    format!("{} {} -> {}", figure.name, figure.shown(before), figure.shown(after))
}
