//! No view makes a step that its neighbours don't explain.

use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Camera, Leash, Rect, Settings, Smoothing, View, Zone};

use super::known::{Measures, first_seed, is_long, rides};
use super::path::{Frames, Path};
use super::ride::{Ride, distance};
use super::stages::{KINDS, Stage, every_stage, named};

/// Frames a second.
const RATE: u32 = 2400;

/// The greatest speed of the subject, in world units a second: a twentieth of a pixel in a frame of 1/2,000 s.
const SPEED: f64 = 100.0;

/// The greatest step that is allowed, in screen pixels.
const MAX_JUMP: f64 = 0.5;

/// The greatest step of a ride by which it is longer than its neighbours explain, in screen pixels. Cuts do not count.
fn greatest_jump(ride: &Ride) -> f64 {
    let (mut steps, mut last): (Vec<f64>, Option<View>) = (Vec::new(), None);
    ride.each(
        &Frames::PerSecond(RATE).times(),
        |_, _, _| {},
        |_, _, view| {
            let seen = last.filter(|last| !view.is_cut_from(last));
            steps.push(seen.map_or(0.0, |last| distance(&last, view)));
            last = Some(*view);
        },
    );
    let longer = |steps: &[f64]| {
        let mut around = [0, 1, 2, 3, 5, 6, 7, 8].map(|at| steps[at]);
        around.sort_by(f64::total_cmp);
        // Twice their median: a movement that begins here has it as well.
        steps[4] - (around[3] + around[4])
    };
    steps.windows(9).map(longer).fold(0.0, f64::max)
}

/// Goals that leap are shown as they are without smoothing: so there is always some.
fn slow_ride(stages: &[Stage], seed: u64) -> Ride {
    let kind = KINDS[1 + seed as usize % (KINDS.len() - 1)];
    Ride::of(stages, kind, Path::random(seed).slowed(SPEED))
}

#[test]
fn no_stage_and_no_pair_jumps() {
    let mut measures = Measures::of_search("jumps");
    let stages: Vec<Stage> = every_stage().collect();
    let pairs =
        (0..stages.len()).flat_map(|one| (one..stages.len()).map(move |other| [one, other]));
    let pairs = pairs.map(|pair| pair.map(|at| stages[at]));
    let of = |pair: &[Stage; 2]| if pair[0].name == pair[1].name { 1 } else { 2 };
    let pairs = pairs.filter(|pair| of(pair) == 1 || !pair[0].excludes(&pair[1]));
    let every = if is_long() { 1 } else { 2 };
    let mut worst: f64 = 0.0;
    for (seed, pair) in (first_seed()..).zip(pairs).step_by(every) {
        let ride = slow_ride(&pair[..of(&pair)], seed);
        let jump = greatest_jump(&ride);
        if jump > MAX_JUMP {
            println!("{jump:.3} {}", ride.name());
        }
        worst = worst.max(jump);
    }
    measures.at_most(MAX_JUMP, "a stage or a pair", worst);
    // Where a leash and what else limits the view are turned against each other.
    for other in ["bounds", "cushion", "outline", "ratchet", "zone: deadzone, bounds"] {
        let stages = ["leash", other, "rotation"].map(named);
        let seeds = first_seed()..first_seed() + rides(12, 100);
        let worst = seeds.map(|seed| greatest_jump(&slow_ride(&stages, seed)));
        measures.at_most(MAX_JUMP, &format!("turned leash and {other}"), worst.fold(0.0, f64::max));
    }
    measures.check();
}

/// A turned camera with its subject at an edge of the bounds, and the view farther away than the leash allows.
fn turned(random: &mut SmallRng) -> (Camera, DVec2) {
    let mut any = |low: f64, high: f64| random.random_range(low..high);
    let slope = 10.0_f64.powf(any(-4.5, -0.1)) * if any(0.0, 1.0) < 0.5 { -1.0 } else { 1.0 };
    let quarter = if any(0.0, 3.0) < 1.0 { core::f64::consts::FRAC_PI_2 } else { 0.0 };
    let sizes = [[900.0, 600.0], [500.0, 400.0], [370.0, 500.0]];
    let size = DVec2::from(sizes[any(0.0, 3.0) as usize]);
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(1e6).into();
    settings.follow.leash = Some(Leash(DVec2::splat([0.12, 0.05, 0.25][any(0.0, 3.0) as usize])));
    settings.zoom.level = any(1.0, 2.0);
    settings.bounds = Some(Bounds::new(Rect::around(DVec2::ZERO, size / 2.0)));
    let mut camera = Camera::new(settings).expect("valid settings");
    camera.rotate_now(quarter + if any(0.0, 4.0) < 1.0 { 0.0 } else { slope });
    let room = (size - DVec2::new(320.0, 180.0)).max(DVec2::ZERO) / 2.0;
    let far = DVec2::new(any(-500.0, 500.0), any(-300.0, 300.0)).clamp(-room, room);
    let off = [3.0, 60.0, 200.0][any(0.0, 3.0) as usize];
    let subject = far + DVec2::new(any(-off, off), any(-off, off));
    camera.follow(0.0, subject);
    camera.place_at(subject + DVec2::new(any(-150.0, 150.0), any(-100.0, 100.0)));
    (camera, subject)
}

/// Games of one frame, of which each is compared with one that differs by a hair.
#[test]
fn a_turned_leash_against_bounds_is_steady() {
    let mut measures = Measures::of("turned games");
    let mut random = SmallRng::seed_from_u64(5 + first_seed());
    let (mut moved, mut turned_on) = (0.0_f64, 0.0_f64);
    for _game in 0..rides(100_000, 100_000) {
        let (camera, subject) = turned(&mut random);
        let shown = |by: DVec2, turn: f64| {
            let mut camera = camera.clone();
            camera.rotate_now(camera.view().lens().rotation() + turn);
            let view = camera.follow(1.0 / 60.0, subject + by);
            view.centre() * view.scale()
        };
        let (here, way) = (shown(DVec2::ZERO, 0.0), random.random_range(0.0..7.0));
        moved = moved
            .max(here.distance(shown(DVec2::from_angle(way) * 0.02 / camera.view().scale(), 0.0)));
        turned_on = turned_on.max(here.distance(shown(DVec2::ZERO, 0.0005)));
    }
    measures.at_most(MAX_JUMP, "0.02 pixels of the subject", moved);
    measures.at_most(MAX_JUMP, "0.0005 radians", turned_on);
    measures.check();
}

/// How far the view is drawn towards a zone that the subject crosses at 1,000 units a second, in frames of a length.
fn felt(zone: Rect, start: f64, seconds: f64) -> f64 {
    let zones = vec![Zone { zoom: Some(1.5), fade: 0.3, ..Zone::new(zone) }];
    let settings = Settings { zones, ..Settings::default() };
    let mut camera = Camera::new(settings).expect("valid settings");
    let frames = (1.0 / seconds) as u32;
    let zoom = |frame: u32| {
        let x = start + 1000.0 * seconds * f64::from(frame);
        camera.follow(if frame == 0 { 0.0 } else { seconds }, [x, 0.0]).lens().zoom()
    };
    (0..frames).map(zoom).fold(1.0, f64::max) - 1.0
}

/// A zone of a few pixels is not jumped over.
#[test]
fn narrow_zones_are_entered() {
    let mut measures = Measures::of("narrow zones");
    let mut random = SmallRng::seed_from_u64(first_seed());
    let (mut missed, count) = (0, rides(60, 200));
    for _zone in 0..count {
        let (x, width) = (random.random_range(300.0..400.0), random.random_range(1.0..4.0));
        let zone = Rect::new([x, -50.0], [x + width, 50.0]);
        for rate in [30.0, 60.0, 75.0, 144.0, 240.0] {
            missed += u32::from(felt(zone, 0.0, 1.0 / rate) == 0.0);
        }
    }
    println!("{count} zones of 1 to 4 pixels at 1,000 a second, at five rates");
    measures.at_most(0.0, "zones that are missed", f64::from(missed));
    measures.check();
}
