//! The tip: a change, or a small set of changes, that was tried on the same rides.

use velvet_pan_takes::{Change, Figure, Figures};

use super::comfort::{Comfort, discomfort, is_beyond};
use super::ladder::rungs;
use crate::arguments::rides::Entry;
use crate::support::workers::on_all_processors;

/// The most changes in a tip.
const MAX_CHANGES: usize = 3;
/// A further change must take away this much of what is left, as a fraction.
const HELPS: f64 = 0.15;
/// A figure that is uncomfortable already may become this much worse, as a fraction.
const WORSE: f64 = 0.02;

/// A figure that is uncomfortable in some rides.
struct Complaint {
    comfort: Comfort,
    /// The rides by number, and their values.
    rides: Vec<(usize, f64)>,
}

/// Changes, and their effect on the rides.
struct Tip {
    changes: Vec<String>,
    /// The figures of each ride with the changes.
    after: Vec<(usize, Figures)>,
    /// How uncomfortable the rides are with them.
    left: f64,
}

/// Rides a take, by its number, with changes.
pub type TryOut<'a> = &'a (dyn Fn(usize, &[Change]) -> Option<Figures> + Sync);

/// What is uncomfortable, as text, and what mends it without harm.
pub fn text(rides: &[Entry], figures: &[Figures], try_out: TryOut<'_>) -> String {
    let complaints = complaints(rides, figures);
    if complaints.is_empty() {
        return String::new();
    }
    let mut text: String = complaints.iter().map(|complaint| said(complaint, figures)).collect();
    let search = Search { rides, figures, complaints: &complaints, try_out };
    let (tip, tried) = search.run();
    text += &match (tip, tried) {
        (Some(tip), _) => search.told(&tip),
        (None, 0) => "      nothing to try is known for this\n".to_owned(),
        (None, tried) => {
            format!("      none of {tried} changes that were tried helps without doing harm\n")
        }
    };
    text
}

fn complaints(rides: &[Entry], figures: &[Figures]) -> Vec<Complaint> {
    let complaint = |comfort: Comfort| {
        let broken = |(index, ride): (usize, &Entry)| {
            Some((index, comfort.broken(&figures[index], &ride.take)?))
        };
        let rides: Vec<(usize, f64)> = rides.iter().enumerate().filter_map(broken).collect();
        (!rides.is_empty()).then_some(Complaint { comfort, rides })
    };
    Comfort::all().filter_map(complaint).collect()
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

/// The search for a tip.
struct Search<'a> {
    rides: &'a [Entry],
    figures: &'a [Figures],
    complaints: &'a [Complaint],
    try_out: TryOut<'a>,
}

impl Search<'_> {
    /// Returns the best tip, and the number of changes that were tried. Each step adds the change that helps most; of
    /// those that mend everything, the mildest.
    fn run(&self) -> (Option<Tip>, usize) {
        let candidates = self.candidates();
        let mut left: f64 =
            self.uncomfortable().map(|index| self.bad(index, &self.figures[index])).sum();
        let mut best: Option<Tip> = None;
        for _step in 0..MAX_CHANGES {
            let chosen = best.as_ref().map_or(Vec::new(), |tip| tip.changes.clone());
            let is_free = |rung: &&String| !chosen.iter().any(|one| key(one) == key(rung));
            let sets: Vec<Vec<String>> = candidates
                .iter()
                .filter(is_free)
                .map(|rung| chosen.iter().chain([rung]).cloned().collect())
                .collect();
            let tips = on_all_processors(&sets, |set| self.tip(set));
            let Some(next) = mildest(tips) else { break };
            // The last step must be worth its change.
            if left - next.left < HELPS * left {
                break;
            }
            left = next.left;
            let mends_all = next.left <= 0.0;
            best = Some(next);
            if mends_all {
                break;
            }
        }
        (best, candidates.len())
    }

    /// All changes to try, the mildest of each figure first.
    fn candidates(&self) -> Vec<String> {
        let mut all: Vec<String> = Vec::new();
        for complaint in self.complaints {
            let Some((first, _)) = complaint.rides.first() else { continue };
            for rung in rungs(complaint.comfort.figure.key, &self.rides[*first].take.settings) {
                if !all.contains(&rung) {
                    all.push(rung);
                }
            }
        }
        all
    }

    /// Returns the rides that are uncomfortable, by number.
    fn uncomfortable(&self) -> impl Iterator<Item = usize> {
        let is_broken = |index: &usize| {
            self.complaints.iter().any(|one| one.rides.iter().any(|(ride, _)| ride == index))
        };
        (0..self.rides.len()).filter(is_broken)
    }

    /// Returns the tip with these changes, unless they do harm.
    fn tip(&self, changes: &[String]) -> Option<Tip> {
        let parsed: Vec<Change> = changes.iter().filter_map(|one| one.parse().ok()).collect();
        let mut after = Vec::new();
        for index in self.uncomfortable() {
            let figures = (self.try_out)(index, &parsed)?;
            if self.harms(index, &figures) {
                return None;
            }
            after.push((index, figures));
        }
        let left = after.iter().map(|(index, figures)| self.bad(*index, figures)).sum();
        Some(Tip { changes: changes.to_vec(), after, left })
    }

    fn bad(&self, index: usize, figures: &Figures) -> f64 {
        discomfort(figures, &self.rides[index].take)
    }

    /// Returns whether a comfortable figure becomes uncomfortable, or an uncomfortable one worse.
    fn harms(&self, index: usize, after: &Figures) -> bool {
        let (before, take) = (&self.figures[index], &self.rides[index].take);
        Comfort::all().any(|comfort| {
            let Some(now) = comfort.broken(after, take) else { return false };
            let Some(was) = comfort.broken(before, take) else { return true };
            is_beyond(comfort.figure, now, was) && (now - was).abs() > WORSE * was.abs().max(0.05)
        })
    }

    /// Returns a tip as text: the changes, and the figures that they affect, those that were uncomfortable first.
    fn told(&self, tip: &Tip) -> String {
        let changes = match tip.changes.as_slice() {
            [one] => format!("--try '{one}'"),
            all => all.iter().map(|one| format!("--set '{one}'")).collect::<Vec<_>>().join(" "),
        };
        let stays = self.stays(tip);
        let end = if stays.is_empty() {
            String::new()
        } else {
            format!(" (stays: {})", stays.join(", "))
        };
        let mut text = format!("      {changes}{end}\n");
        for (index, after) in &tip.after {
            text += &format!("      ({}) {}\n", index + 1, self.effect(*index, after));
        }
        text
    }

    /// Returns the figures that stay uncomfortable.
    fn stays(&self, tip: &Tip) -> Vec<&'static str> {
        let broken = |one: &&Complaint| {
            let take = |index: &usize| &self.rides[*index].take;
            tip.after.iter().any(|(index, after)| one.comfort.broken(after, take(index)).is_some())
        };
        self.complaints.iter().filter(broken).map(|one| one.comfort.figure.name).collect()
    }

    fn effect(&self, index: usize, after: &Figures) -> String {
        let before = &self.figures[index];
        let is_marked = |figure: &Figure| {
            let marks = |one: &Complaint| {
                one.comfort.figure.key == figure.key
                    && one.rides.iter().any(|(ride, _)| *ride == index)
            };
            self.complaints.iter().any(marks)
        };
        let mut moved: Vec<(bool, f64, String)> = Figure::ALL
            .iter()
            .filter_map(|figure| {
                let share = share(figure, before, after)?;
                Some((is_marked(figure), share, step(figure, before, after)))
            })
            .filter(|(marked, share, _)| *marked || *share > 0.05)
            .collect();
        moved.sort_by(|a, b| b.0.cmp(&a.0).then(b.1.total_cmp(&a.1)));
        let marked = moved.iter().filter(|(marked, ..)| *marked).count();
        let shown = moved.into_iter().take(marked.max(1) + 2);
        shown.map(|(.., text)| text).collect::<Vec<_>>().join("; ")
    }
}

/// Returns the tip that leaves least; of those that leave nothing, the first.
fn mildest(tips: Vec<Option<Tip>>) -> Option<Tip> {
    let mut best: Option<Tip> = None;
    for tip in tips.into_iter().flatten() {
        if best.as_ref().is_none_or(|best| tip.left < best.left) {
            best = Some(tip);
        }
    }
    best
}

/// Returns the key of a change.
fn key(change: &str) -> &str {
    change.split('=').next().unwrap_or(change)
}

fn share(figure: &Figure, before: &Figures, after: &Figures) -> Option<f64> {
    let (before, after) = (figure.of(before)?, figure.of(after)?);
    Some((after - before).abs() / before.abs().max(after.abs()).max(1e-9))
}

fn step(figure: &Figure, before: &Figures, after: &Figures) -> String {
    format!("{} {} -> {}", figure.name, figure.shown(before), figure.shown(after))
}
