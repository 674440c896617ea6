//! Rides at 30, 60 and 144 frames a second, and with irregular steps, compared with 240.

use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use velvet_pan::{Camera, Settings, Smoothing, Subject, View};

use super::commands::TimedCommand;
use super::path::{Frames, Path, tick_at};
use super::stages::{KINDS, OUTLINES, STAGES, Stage, subjects};

/// The rates that are compared with 240 frames a second.
const RATES: [Frames; 4] =
    [Frames::PerSecond(30), Frames::PerSecond(60), Frames::PerSecond(144), Frames::Irregular(7)];

/// The views of a ride at its ticks, and every 1/30 s if the rate has such frames.
fn ride(
    stages: &[Stage],
    commands: &[TimedCommand],
    kind: Smoothing,
    path: &Path,
    frames: Frames,
) -> Vec<(f64, View)> {
    let mut settings = Settings::default();
    settings.follow.smoothing = kind.into();
    stages.iter().for_each(|stage| (stage.set)(&mut settings));
    let mut camera = Camera::new(settings).expect("valid settings");
    let mut last = 0.0;
    let mut views = Vec::new();
    for t in frames.times() {
        let tick = tick_at(t);
        if let Some(tick) = tick {
            stages.iter().for_each(|stage| (stage.event)(&mut camera, tick));
        }
        commands.iter().for_each(|command| command.tell(&mut camera, last, t));
        let mut now = subjects(path, stages, t, tick);
        if commands.iter().any(|command| command.brings_another(last, t)) {
            for (subject, before) in now.iter_mut().zip(subjects(path, stages, t - 1e-6, None)) {
                *subject = subject.with_velocity((subject.position - before.position) / 1e-6);
            }
        }
        let mut view = frame(&mut camera, t - last, &now);
        if let Some(tick) = tick
            && commands.iter().filter(|command| command.settle(&mut camera, tick)).count() > 0
        {
            view = frame(&mut camera, 0.0, &now);
        }
        last = t;
        let shared =
            [30.0, 48.0].map(|rate| t * rate).iter().any(|at| (at - at.round()).abs() < 1e-6);
        if tick.is_some() || shared {
            views.push((t, view));
        }
    }
    views
}

fn frame(camera: &mut Camera, seconds: f64, subjects: &[Subject]) -> View {
    match subjects {
        [only] => camera.follow(seconds, *only),
        several => camera.follow_all(seconds, several),
    }
}

/// The distance of two pictures: the greater one of two opposite corners, in screen pixels.
fn apart(one: &View, other: &View) -> f64 {
    let shown = other.visible_world();
    let off = |corner| one.world_to_screen_f64(corner).distance(other.world_to_screen_f64(corner));
    off(shown.min).max(off(shown.max))
}

/// The greatest distance from the ride at 240, for each of the rates.
fn gaps(stages: &[Stage], commands: &[TimedCommand], kind: Smoothing, path: &Path) -> [f64; 4] {
    let best = ride(stages, commands, kind, path, Frames::PerSecond(240));
    RATES.map(|frames| {
        let views = ride(stages, commands, kind, path, frames);
        let gap = |(t, view): &(f64, View)| {
            let next = best.partition_point(|(other, _)| *other < t - 1e-6);
            best.get(next).filter(|(other, _)| other - t < 1e-6).map(|(_, same)| apart(view, same))
        };
        views.iter().filter_map(gap).fold(0.0, f64::max)
    })
}

fn row(name: &str, gaps: [f64; 4]) {
    let cells: String = gaps.iter().map(|gap| format!(" {gap:9.4}")).collect();
    println!("{name:<58}{cells}");
}

/// Run with `--nocapture` for the table.
#[test]
fn every_stage_alone() {
    println!(
        "{:<58} {:>9} {:>9} {:>9} {:>9}",
        "screen pixels from the ride at 240/s", "30/s", "60/s", "144/s", "8-25 ms"
    );
    let mut worst: f64 = 0.0;
    for stage in STAGES.into_iter().chain(OUTLINES) {
        let mut most = [0.0_f64; 4];
        for (kind, seed) in KINDS.into_iter().zip(1..) {
            let gaps = gaps(&[stage], &[], kind, &Path::random(seed));
            most = [0, 1, 2, 3].map(|rate| most[rate].max(gaps[rate]));
        }
        row(stage.name, most);
        worst = most.into_iter().fold(worst, f64::max);
    }
    assert!(worst <= MAX_ALONE, "{worst} screen pixels");
}

/// Whether a decision of a stage has a margin larger than a frame. A jump that nearly leaves its leash at the top has
/// not: it depends on which frame sees it.
fn is_decided_by_far(stage: &Stage) -> bool {
    stage.name != "airborne, off the leash"
}

/// Each kind of command with each stage. Run with `--nocapture` for the table.
#[test]
fn every_command_with_every_stage() {
    let mut worst: f64 = 0.0;
    for (index, command) in TimedCommand::each().into_iter().enumerate() {
        let mut most = [0.0_f64; 4];
        for stage in STAGES.into_iter().filter(is_decided_by_far).chain(OUTLINES) {
            for (kind, seed) in KINDS.into_iter().zip(60..) {
                let gaps = gaps(&[stage], &[command], kind, &Path::random(seed + index as u64));
                if gaps.iter().any(|gap| *gap > 0.5) {
                    row(&format!("{command:?} {} {kind:?}", stage.name), gaps);
                }
                most = [0, 1, 2, 3].map(|rate| most[rate].max(gaps[rate]));
            }
        }
        row(&format!("{command:?}"), most);
        worst = most.into_iter().fold(worst, f64::max);
    }
    assert!(worst <= MAX_ALONE, "{worst} screen pixels");
}

/// Pairs that once differed at different rates.
#[test]
fn pairs_of_stages() {
    let pairs: [&[&str]; 9] = [
        &["rail", "look-ahead"],
        &["ratchet", "scroll", "lures"],
        &["rooms", "party"],
        &["zone: anchor, zoom", "party"],
        &["zoom", "look-ahead"],
        &["airborne hold", "zoom"],
        &["airborne, off the leash", "deadzone"],
        &["cue: pause", "zone: deadzone, bounds"],
        &["leash", "ratchet"],
    ];
    let stage = |name: &&str| *STAGES.iter().find(|stage| stage.name == *name).expect("a stage");
    for names in pairs {
        let stages: Vec<Stage> = names.iter().map(stage).collect();
        let mut most = [0.0_f64; 4];
        for (kind, seed) in KINDS.into_iter().zip(31..) {
            let gaps = gaps(&stages, &[], kind, &Path::random(seed));
            most = [0, 1, 2, 3].map(|rate| most[rate].max(gaps[rate]));
        }
        row(&names.join(" + "), most);
        assert!(most.iter().all(|gap| *gap <= 0.5), "{names:?}: {most:?}");
    }
}

#[test]
fn random_combinations() {
    combinations(&[], 0.99, |_| true, |_| Vec::new());
}

/// The same, with commands of every kind at random times.
#[test]
fn random_combinations_with_commands() {
    combinations(&[], 0.99, is_decided_by_far, TimedCommand::several);
}

/// Outlines in place of bounds, with other stages and commands.
#[test]
fn random_combinations_in_outlines() {
    let takes = |stage: &Stage| !["bounds", "cushion"].contains(&stage.name);
    // Where a leash or a party decides too, a moment may differ.
    combinations(
        &OUTLINES,
        0.97,
        |stage| takes(stage) && is_decided_by_far(stage),
        TimedCommand::several,
    );
}

fn combinations(
    first: &[Stage],
    share: f64,
    takes: impl Fn(&Stage) -> bool,
    draw: impl Fn(&mut SmallRng) -> Vec<TimedCommand>,
) {
    let count = std::env::var("RIDES").map_or(400, |count| count.parse().expect("a number"));
    let mut random = SmallRng::seed_from_u64(2026);
    let mut all = Vec::new();
    let mut acceleration: f64 = 0.0;
    for seed in 0..count {
        let stages = random.random_range(2..=4);
        let one_of = |stages: &[Stage]| stages.get(seed as usize % stages.len().max(1)).copied();
        let mut picked = Vec::from_iter(one_of(first));
        while picked.len() < stages {
            let stage = STAGES[random.random_range(1..STAGES.len())];
            if picked.iter().all(|other| other.name != stage.name) && takes(&stage) {
                picked.push(stage);
            }
        }
        let kind = KINDS[random.random_range(0..KINDS.len())];
        let commands = draw(&mut random);
        let path = Path::random(100 + seed);
        acceleration = acceleration.max(path.greatest_acceleration());
        let names: Vec<&str> = picked.iter().map(|stage| stage.name).collect();
        let gaps = gaps(&picked, &commands, kind, &path);
        all.push((gaps, format!("{seed}: {}, {kind:?} {commands:?}", names.join(" + "))));
    }
    let most = |gaps: &[f64; 4]| gaps.iter().copied().fold(0.0, f64::max);
    all.sort_by(|a, b| most(&a.0).total_cmp(&most(&b.0)));
    let at = |part: f64| most(&all[((all.len() - 1) as f64 * part).round() as usize].0);
    println!("greatest acceleration of a path: {acceleration:.0} world units/s²");
    println!(
        "{count} combinations: median {:.4}, 90th percentile {:.3}, 99th {:.3}, worst {:.3} screen pixels; above 0.5: {}",
        at(0.5),
        at(0.9),
        at(0.99),
        at(1.0),
        all.iter().filter(|(gaps, _)| most(gaps) > 0.5).count(),
    );
    for (gaps, name) in all.iter().rev().take(12) {
        row(name, *gaps);
    }
    assert!(at(0.5) <= MEDIAN && at(share) <= MAX_COMBINED, "{} and {}", at(0.5), at(share));
}

/// Limits in screen pixels.
const MAX_ALONE: f64 = 0.45;
const MEDIAN: f64 = 0.02;
const MAX_COMBINED: f64 = 0.45;
