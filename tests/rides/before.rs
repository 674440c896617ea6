//! Views of rides as they were when `before.csv` was written: what a camera does, whatever computes it.
//!
//! `UPDATE_BEFORE=1 cargo test -p velvet-pan --test searches before` writes the file again. Do it only for a change of
//! behaviour that is meant, with a line in CHANGELOG.md.

use std::fmt::Write;

use velvet_pan::View;

use super::commands::TimedCommand;
use super::path::{Frames, Path, tick_at};
use super::ride::Ride;
use super::stages::{KINDS, Stage, every_stage};

/// Each row is a moment of a ride: its name, the time, the view, and why the view may be another one now.
const BEFORE: &str = include_str!("before.csv");
const HEADER: &str = "ride,seconds,x,y,zoom,rotation,why it differs";

/// In screen pixels.
const MAX_APART: f64 = 0.1;

/// Half of the screen's diagonal, in screen pixels: how far a corner moves by a radian, or by a whole zoom.
const HALF_SCREEN: f64 = 184.0;

const PAIRS: usize = 60;

/// Each stage alone, each command alone, and pairs of stages that stand near and far from each other in the list.
fn rides() -> Vec<(String, Ride)> {
    let stages: Vec<Stage> = every_stage().skip(1).collect();
    let kind = |index: usize| KINDS[index % KINDS.len()];
    let path = |index: usize| Path::random(500 + index as u64);
    let alone = stages.iter().enumerate().map(|(index, stage)| {
        (stage.name.to_owned(), Ride::of(&[*stage], kind(index), path(index)))
    });
    let commands = TimedCommand::each().into_iter().enumerate().map(|(index, command)| {
        let ride = Ride::of(&[], kind(index), path(index));
        (command.name(), Ride { commands: vec![command], ..ride })
    });
    let apart =
        [1, 4, 9].into_iter().flat_map(|apart| (0..stages.len()).map(move |at| (at, apart)));
    let pairs = apart.map(|(at, apart)| [stages[at], stages[(at + apart) % stages.len()]]);
    let pairs = pairs.filter(|[one, other]| !one.excludes(other)).enumerate();
    let pairs = pairs.take(PAIRS).map(|(index, pair)| {
        (pair.map(|stage| stage.name).join(" + "), Ride::of(&pair, kind(index), path(index)))
    });
    let name = |(name, ride): (String, Ride)| (name.replace(',', ""), ride);
    alone.chain(commands).chain(pairs).map(name).collect()
}

/// The views of a ride at every second tick, at 1,000 frames a second.
fn views(ride: &Ride) -> Vec<(f64, View)> {
    let mut views = ride.views(Frames::PerSecond(1000));
    views.retain(|(t, _)| tick_at(*t).is_some_and(|tick| tick.is_multiple_of(2)));
    views
}

fn numbers(view: &View) -> [f64; 4] {
    [view.centre().x, view.centre().y, view.lens().zoom(), view.lens().rotation()]
}

/// The distance of two views in screen pixels.
fn apart(now: [f64; 4], before: [f64; 4]) -> f64 {
    let [x, y, zoom, rotation] = [0, 1, 2, 3].map(|at| (now[at] - before[at]).abs());
    x.hypot(y) * before[2] + (zoom / before[2] + rotation) * HALF_SCREEN
}

#[test]
fn views_are_as_before() {
    let mut written = format!("{HEADER}\n");
    let mut rows = BEFORE.lines().skip(1);
    let (mut faults, update) = (Vec::new(), std::env::var_os("UPDATE_BEFORE").is_some());
    for (name, ride) in rides() {
        let (mut worst, mut reasons, mut excused) = (0.0_f64, 0, 0);
        for (t, view) in views(&ride) {
            let now = numbers(&view);
            let [x, y, zoom, rotation] = now;
            writeln!(written, "{name},{t:.3},{x:.3},{y:.3},{zoom:.5},{rotation:.5},")
                .expect("text");
            if update {
                continue;
            }
            let row = rows.next().unwrap_or_else(|| panic!("a row for {name} at {t:.3}"));
            let Some(rest) = row.strip_prefix(&format!("{name},{t:.3},")) else {
                panic!("expected {name} at {t:.3}, found {row}")
            };
            let fields: Vec<&str> = rest.splitn(5, ',').collect();
            let before = [0, 1, 2, 3].map(|at| fields[at].parse().expect("a number"));
            let gap = apart(now, before);
            match fields[4] {
                "" => worst = worst.max(gap),
                _ => (reasons, excused) = (reasons + 1, excused + usize::from(gap > MAX_APART)),
            }
        }
        if worst > MAX_APART {
            faults.push(format!("{name}: {worst:.3} pixels"));
        }
        if reasons > 0 && excused == 0 {
            faults.push(format!("{name}: says why it differs, but it does not"));
        }
    }
    if update {
        let file = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/rides/before.csv");
        std::fs::write(file, written).expect("the file can be written");
    }
    assert!(faults.is_empty(), "other than before:\n{}", faults.join("\n"));
}
