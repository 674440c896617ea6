//! What is told in every frame: targets, which count once, and hands, which go on.

use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Camera, Command, Ease, Rect, Settings, Travel, View, Waypoint};

use super::frame_rates::{Table, random_ride};
use super::known::{Measures, first_seed, rides};
use super::path::{Class, Frames, Path, TICK};
use super::ride::{Hand, Ride, distance};

/// When telling begins, the world moves, and what holds the view is released: a little before a tick.
const BEGIN: f64 = 21.0 * TICK - 1e-7;
const MOVE: f64 = 24.0 * TICK - 1e-7;
const RELEASE: f64 = 29.0 * TICK - 1e-7;

/// Targets that may be told again and again, in a game with these settings.
fn targets(settings: &Settings) -> [(&'static str, Command); 9] {
    let bounds = Some(Bounds::new(Rect::around([900.0, 500.0], [450.0, 260.0])));
    let rect = Rect::around([860.0, 470.0], [170.0, 95.0]);
    let points = [[700, 400], [900, 520], [1100, 450]].map(Waypoint::at);
    let mut settings = Box::new(settings.clone());
    settings.follow.anchor.x = 0.3;
    [
        ("zoom_to", Command::ZoomTo(1.4)),
        ("rotate_to", Command::RotateTo(0.6)),
        ("set_bounds", Command::SetBounds { bounds, seconds: 0.7 }),
        ("set_settings", Command::SetSettings { settings, seconds: 0.5 }),
        ("resize", Command::Resize((1280, 360).into())),
        ("aim_at", Command::AimAt(DVec2::new(840.0, 470.0))),
        ("show", Command::Show { rect, seconds: 0.8, ease: Ease::Smooth }),
        ("show from rest", Command::Show { rect, seconds: 0.8, ease: Ease::InOut }),
        ("travel", Command::Travel(Travel::new(points, 1.0))),
    ]
}

/// The same target in a world that has moved.
fn moved(command: &Command, by: DVec2) -> Command {
    let mut command = command.clone();
    match &mut command {
        Command::AimAt(point) => *point += by,
        Command::Show { rect, .. } => *rect = Rect { min: rect.min + by, max: rect.max + by },
        Command::Travel(travel) => travel.points.iter_mut().for_each(|point| point.at += by),
        _ => {}
    }
    command
}

/// A ride that is told a target once, or again before every frame.
fn told(ride: &Ride, command: &Command, by: DVec2, again: bool) -> Vec<View> {
    let mut views = Vec::new();
    let tell = |camera: &mut Camera, from: f64, to: f64| {
        let comes = |at: f64| from < at && at <= to;
        if comes(MOVE) {
            camera.translate(by);
        }
        if comes(BEGIN) || (again && (BEGIN..RELEASE).contains(&to)) {
            let by = if to < MOVE { DVec2::ZERO } else { by };
            camera.tell(moved(command, by)).expect("a sound command");
        }
        if comes(RELEASE) {
            camera.release();
        }
    };
    let ride = Ride { path: ride.path.clone().moving(MOVE, by), ..ride.clone() };
    let frames = Frames::Irregular(0.008, 0.025);
    ride.each(&frames.times(), tell, |_, _, view| views.push(*view));
    views
}

#[test]
fn a_target_told_again_changes_nothing() {
    let mut measures = Measures::of_search("told again");
    let rides: Vec<Ride> = (first_seed()..first_seed() + rides(60, 1000))
        .map(|seed| Ride { commands: Vec::new(), ..random_ride(seed) })
        .collect();
    for (by, world) in [(DVec2::ZERO, ""), (DVec2::new(-1024.0, 96.0), " in a world that moves")] {
        for index in 0..targets(&Settings::default()).len() {
            let (mut differ, mut target) = (0, "");
            for ride in &rides {
                let (name, command) = targets(ride.camera().settings())[index].clone();
                target = name;
                let [once, always] = [false, true].map(|again| told(ride, &command, by, again));
                if once != always {
                    let apart = once.iter().zip(&always).map(|(one, other)| distance(one, other));
                    let pixels = apart.fold(0.0, f64::max);
                    println!("{name}{world}: {pixels} pixels, {}", ride.name());
                    differ += 1;
                }
            }
            measures.at_most(0.0, &format!("{target}{world}: rides"), f64::from(differ));
        }
    }
    measures.check();
}

/// A hand holds the view for a second and a half, and lets it go.
#[test]
fn hands_in_every_frame() {
    let mut measures = Measures::of_search("hands");
    for (hand, name) in [(Hand::Pan, "pan"), (Hand::Drag, "drag"), (Hand::Grab, "grab")] {
        let seeds = first_seed()..first_seed() + rides(40, 600);
        let held = seeds.map(|seed| {
            let path = Path::random(100 + seed);
            Ride { commands: Vec::new(), path, hand, ..random_ride(seed) }
        });
        let table = Table::of(held.filter(|ride| ride.class() == Class::Known)).decided();
        table.print(name);
        table.measure(&mut measures, name, 0.5, 0.02);
        table.measure(&mut measures, name, 0.99, 0.3);
    }
    measures.check();
}
