//! Rides at many frame rates, compared with 240 and with 1,000 frames a second.

use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};

use super::commands::TimedCommand;
use super::known::{Measures, first_seed, is_long, rides};
use super::path::{Class, Frames, Path};
use super::ride::{Ride, apart};
use super::stages::{KINDS, Stage, every_stage, named};

/// The frames that are compared.
const FRAMES: [(&str, Frames); 5] = [
    ("30/s", Frames::PerSecond(30)),
    ("60/s", Frames::PerSecond(60)),
    ("144/s", Frames::PerSecond(144)),
    ("8-25 ms", Frames::Irregular(0.008, 0.025)),
    ("1-40 ms", Frames::Irregular(0.001, 0.04)),
];

/// The frames that they are compared with.
const BESIDE: [(&str, Frames); 2] =
    [("240", Frames::PerSecond(240)), ("1,000", Frames::PerSecond(1000))];

/// Above this distance from other rates, it is asked whether a decision hangs by a twentieth of a pixel.
const DOUBTFUL: f64 = 0.3;

/// What a ride differs by at the frame rates.
pub struct Gaps {
    ride: Ride,
    /// Beside each of `BESIDE`, the greatest distance of each of `FRAMES`, in screen pixels.
    pixels: [[f64; 5]; 2],
    is_undecided: bool,
}

impl Gaps {
    fn of(ride: Ride) -> Self {
        let best = BESIDE.map(|(_, frames)| ride.views(frames));
        let views = FRAMES.map(|(_, frames)| ride.views(frames));
        let pixels = best.each_ref().map(|best| views.each_ref().map(|views| apart(views, best)));
        let mut gaps = Self { ride, pixels, is_undecided: false };
        gaps.is_undecided =
            gaps.worst() > DOUBTFUL && gaps.ride.is_undecided(&best[1], BESIDE[1].1);
        gaps
    }

    fn worst_beside(&self, beside: usize) -> f64 {
        self.pixels[beside].into_iter().fold(0.0, f64::max)
    }

    fn worst(&self) -> f64 {
        self.worst_beside(0).max(self.worst_beside(1))
    }
}

/// The rides of a table.
pub struct Table(Vec<Gaps>);

impl Table {
    pub fn of(rides: impl IntoIterator<Item = Ride>) -> Self {
        Self(rides.into_iter().map(Gaps::of).collect())
    }

    /// The rides whose decisions hang by no hair.
    pub fn decided(mut self) -> Self {
        self.0.retain(|one| !one.is_undecided);
        self
    }

    /// Prints median, 99th percentile and worst for each of the frames.
    pub fn print(&self, name: &str) {
        println!("{name}: {} rides; median, 99 %, worst in screen pixels", self.0.len());
        for (beside, (best, _)) in BESIDE.iter().enumerate() {
            for (at, (frames, _)) in FRAMES.iter().enumerate() {
                let of = |part| percentile(self.0.iter().map(|one| one.pixels[beside][at]), part);
                let [half, most, all] = [0.5, 0.99, 1.0].map(of);
                println!("  {frames:>8} beside {best:<6} {half:9.4} {most:9.3} {all:9.3}");
            }
        }
        let mut worst: Vec<&Gaps> = self.0.iter().filter(|one| one.worst() > DOUBTFUL).collect();
        worst.sort_by(|a, b| b.worst().total_cmp(&a.worst()));
        for one in worst.iter().take(8) {
            println!("  {:8.3} {}", one.worst(), one.ride.name());
        }
    }

    /// Takes the percentile over the worst frames of each ride, beside both.
    pub fn measure(&self, measures: &mut Measures, name: &str, part: f64, wanted: f64) {
        for (beside, (best, _)) in BESIDE.iter().enumerate() {
            let all = percentile(self.0.iter().map(|one| one.worst_beside(beside)), part);
            let part = if part < 1.0 { format!("{:.0} %", part * 100.0) } else { "worst".into() };
            measures.at_most(wanted, &format!("{name}: {part} beside {best}"), all);
        }
    }
}

/// The value below which this part of all values is; 0 if there are none.
fn percentile(values: impl Iterator<Item = f64>, part: f64) -> f64 {
    let mut all: Vec<f64> = values.collect();
    all.sort_by(f64::total_cmp);
    let at = (all.len().saturating_sub(1) as f64 * part).round() as usize;
    all.get(at).copied().unwrap_or(0.0)
}

/// A ride of two to five stages at random, half of them with commands at times that are in no frame.
pub fn random_ride(seed: u64) -> Ride {
    let mut random = SmallRng::seed_from_u64(seed);
    let classes = [Class::Known, Class::Known, Class::Known, Class::Lost, Class::Corners];
    let class = classes[random.random_range(0..classes.len())];
    let mut ride = ride_with(&[], &mut random, Path::random(100 + seed).of(class));
    if random.random_range(0..2) == 0 {
        ride.commands = TimedCommand::several(&mut random);
    }
    ride
}

/// A ride of these stages and others, two to five in all.
fn ride_with(stages: &[Stage], random: &mut SmallRng, path: Path) -> Ride {
    let kind = KINDS[random.random_range(0..KINDS.len())];
    let mut ride = Ride::of(stages, kind, path);
    let all: Vec<Stage> = every_stage().skip(1).collect();
    let count = random.random_range(2..=5);
    while ride.stages.len() < count {
        let stage = all[random.random_range(0..all.len())];
        if !ride.stages.iter().any(|other| other.excludes(&stage)) {
            ride.stages.push(stage);
        }
    }
    ride
}

/// Run with `--nocapture` for the tables.
#[test]
fn random_combinations() {
    let mut measures = Measures::of_search("random rides");
    let count = rides(200, 2000);
    let all = Table::of((first_seed()..first_seed() + count).map(random_ride));
    let (undecided, mut decided): (Vec<Gaps>, Vec<Gaps>) =
        all.0.into_iter().partition(|one| one.is_undecided);
    let undecided = Table(undecided);
    undecided.print("a decision hangs by 0.05 pixels");
    measures.at_most(5.0, "undecided of 1000", undecided.0.len() as f64 * 1000.0 / count as f64);
    // Of those that a camera can't know, a few may be anywhere.
    let classes = [
        (Class::Known, "known ways", 0.3, Some(1.0)),
        (Class::Lost, "lost or teleported", 1.1, None),
        (Class::Corners, "corners", 5.0, None),
    ];
    for (class, name, most, worst) in classes {
        let table;
        (table, decided) = decided.into_iter().partition(|one| one.ride.class() == class);
        let table = Table(table);
        table.print(name);
        table.measure(&mut measures, name, 0.99, most);
        if class == Class::Known {
            table.measure(&mut measures, name, 0.5, 0.02);
        }
        if let Some(worst) = worst.filter(|_| first_seed() == 0) {
            table.measure(&mut measures, name, 1.0, worst);
        }
    }
    measures.check();
}

/// A stage with every smoothing.
fn alone(stage: Stage) -> impl Iterator<Item = Ride> {
    KINDS.into_iter().zip(1..).map(move |(kind, seed)| Ride::of(&[stage], kind, Path::random(seed)))
}

#[test]
fn every_stage_alone() {
    let mut measures = Measures::of("alone");
    for stage in every_stage() {
        let table = Table::of(alone(stage));
        table.print(stage.name);
        table.measure(&mut measures, stage.name, 1.0, 0.45);
    }
    measures.check();
}

/// Stages that once differed together at different rates, alone.
const PAIRS: [&[&str]; 9] = [
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

/// Stages that differ, with others at random.
const AMONG_OTHERS: [&[&str]; 9] = [
    &["leash", "rotation"],
    &["leash", "outline"],
    &["leash", "ratchet", "rotation"],
    &["party", "rotation", "zone: deadzone, bounds"],
    &["zone: deadzone, bounds", "zoom"],
    &["zone: deadzone, bounds", "scroll"],
    &["zone: deadzone, bounds", "ratchet"],
    &["zone: deadzone, bounds", "cushion"],
    &["outline"],
];

#[test]
fn stages_together() {
    let mut measures = Measures::of_search("together");
    let seeds = first_seed()..first_seed() + rides(10, 300);
    let (part, wanted) = if is_long() { (0.99, 0.3) } else { (1.0, 1.0) };
    let alone = PAIRS.iter().map(|names| (names, false));
    let all = alone.chain(AMONG_OTHERS.iter().map(|names| (names, true)));
    let (mut undecided, mut count) = (0, 0);
    for (names, has_others) in all {
        let stages: Vec<Stage> = names.iter().map(|name| named(name)).collect();
        let ride = |seed: u64| {
            let path = Path::random(31 + seed);
            if has_others {
                ride_with(&stages, &mut SmallRng::seed_from_u64(seed), path)
            } else {
                Ride::of(&stages, KINDS[seed as usize % KINDS.len()], path)
            }
        };
        let known = |ride: &Ride| !has_others || ride.class() == Class::Known;
        let table = Table::of(seeds.clone().map(ride).filter(known));
        count += table.0.len();
        undecided += table.0.iter().filter(|one| one.is_undecided).count();
        let table = table.decided();
        let name = names.join(" + ") + if has_others { " among others" } else { "" };
        table.print(&name);
        table.measure(&mut measures, &name, part, wanted);
    }
    measures.at_most(5.0, "undecided of 1000", undecided as f64 * 1000.0 / count as f64);
    measures.check();
}
