//! The same ride at 30, 60, 120 and 240 frames a second.

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Airborne, Bounds, Camera, Deadzone, Ease, Leash, LookAhead, Lure, Rail, Ratchet, Rect, Rooms,
    Settings, Smoothing, Subject, Zone,
};

/// A subject of finite acceleration that runs, turns, pauses and turns again.
fn subject(t: f64) -> DVec2 {
    let x = 900.0 + 420.0 * (0.8 * t).sin() + 60.0 * (2.1 * t).sin();
    DVec2::new(x, 480.0 + 110.0 * (1.3 * t).cos())
}

/// The centres of a ride of twelve seconds, one every 1/30 s.
fn ride(settings: &Settings, fps: u32, event: fn(&mut Camera, u32)) -> Vec<DVec2> {
    let mut camera = Camera::new(settings.clone()).expect("valid settings");
    let views = (0..=12 * fps).map(|frame| {
        let step = if frame == 0 { 0.0 } else { 1.0 / f64::from(fps) };
        if (frame * 30).is_multiple_of(fps) {
            event(&mut camera, frame * 30 / fps);
        }
        camera.follow(step, Subject::from(subject(f64::from(frame) / f64::from(fps))))
    });
    views.step_by((fps / 30) as usize).map(|view| view.centre()).collect()
}

/// The greatest distance between the ride at 240 frames a second and that at 30, 60 and 120.
fn apart(settings: &Settings, event: fn(&mut Camera, u32)) -> [f64; 3] {
    let best = ride(settings, 240, event);
    [30, 60, 120].map(|fps| {
        let ride = ride(settings, fps, event);
        ride.iter().zip(&best).map(|(a, b)| (*a - *b).length()).fold(0.0, f64::max)
    })
}

fn no_event(_: &mut Camera, _: u32) {}

const KINDS: [(&str, Smoothing); 4] = [
    ("none", Smoothing::None),
    ("half-life 0.12", Smoothing::HalfLife(0.12)),
    ("settle 0.5", Smoothing::Settle(0.5)),
    ("speed 240", Smoothing::Speed(240.0)),
];

fn with_deadzone(settings: &mut Settings) {
    settings.follow.deadzone = Deadzone { left: 0.08, right: 0.08, top: 0.15, bottom: 0.1 };
}

fn with_look_ahead(settings: &mut Settings) {
    settings.follow.look_ahead = Some(LookAhead::default());
}

fn with_bounds(settings: &mut Settings) {
    settings.bounds = Some(Bounds::new(Rect::new([420, 300], [1300, 640])));
}

fn with_cushion(settings: &mut Settings) {
    with_bounds(settings);
    settings.bounds.as_mut().expect("just set").cushion = 60.0;
}

fn with_leash(settings: &mut Settings) {
    settings.follow.leash = Some(Leash(DVec2::new(0.12, 0.12)));
}

fn with_ratchet(settings: &mut Settings) {
    settings.follow.ratchet = Ratchet::Right;
}

fn with_all(settings: &mut Settings) {
    with_deadzone(settings);
    with_look_ahead(settings);
    with_cushion(settings);
}

fn with_rooms(settings: &mut Settings) {
    let size = DVec2::new(400.0, 250.0);
    settings.rooms = Some(Rooms { size, origin: DVec2::new(37.0, 11.0), ..Rooms::default() });
}

fn with_sliding_rooms(settings: &mut Settings) {
    with_rooms(settings);
    settings.rooms.as_mut().expect("just set").slide = Some(0.5);
}

fn with_lures(settings: &mut Settings) {
    let lure = |x, y, strength| Lure { at: DVec2::new(x, y), radius: 160.0, strength };
    settings.lures = vec![lure(700.0, 420.0, 0.5), lure(1150.0, 500.0, 0.9)];
}

fn with_zones(settings: &mut Settings) {
    let near = Zone {
        anchor: Some(DVec2::new(0.3, 0.6)),
        zoom: Some(1.6),
        ..Zone::new(Rect::new([612, 300], [913, 700]))
    };
    let calm = Zone {
        deadzone: Some(Deadzone { left: 0.1, right: 0.1, top: 0.2, bottom: 0.2 }),
        bounds: Some(Rect::new([600, 300], [1250, 640])),
        blend: 0.8,
        ..Zone::new(Rect::new([777, 300], [1150, 500]))
    };
    settings.zones = vec![near, calm];
}

fn with_rail(settings: &mut Settings) {
    let points = [[300, 500], [700, 420], [900, 560], [1200, 460], [1500, 520]];
    let points = points.map(|[x, y]| DVec2::new(f64::from(x), f64::from(y))).to_vec();
    settings.rail = Some(Rail { points, speed: None });
}

type Stage = (&'static str, fn(&mut Settings));

const STAGES: [Stage; 13] = [
    ("nothing else", |_| {}),
    ("deadzone", with_deadzone),
    ("look-ahead", with_look_ahead),
    ("bounds", with_bounds),
    ("cushion", with_cushion),
    ("leash", with_leash),
    ("ratchet", with_ratchet),
    ("deadzone, look-ahead, cushion", with_all),
    ("rooms", with_rooms),
    ("rooms that slide", with_sliding_rooms),
    ("lures", with_lures),
    ("zones", with_zones),
    ("rail", with_rail),
];

/// Run with `--nocapture` for the table.
#[test]
fn every_smoothing_with_every_stage() {
    println!("greatest distance from the ride at 240 frames a second, in screen pixels");
    println!("{:<16} {:<30} {:>8} {:>8} {:>8}", "smoothing", "with", "30/s", "60/s", "120/s");
    for (kind, smoothing) in KINDS {
        for (stage, with) in STAGES {
            let mut settings = Settings::default();
            settings.follow.smoothing = smoothing.into();
            with(&mut settings);
            let apart = apart(&settings, no_event);
            let cells: String = apart.iter().map(|gap| format!(" {gap:8.4}")).collect();
            println!("{kind:<16} {stage:<30}{cells}");
            assert!(apart.iter().all(|gap| *gap <= 0.5), "{kind} with {stage}: {apart:?}");
        }
    }
}

#[test]
fn what_is_announced_begins_at_its_time() {
    let glide: fn(&mut Camera, u32) = |camera, tick| {
        if tick == 60 {
            camera.glide(1.5, Ease::InOut);
        }
    };
    let zoom: fn(&mut Camera, u32) = |camera, tick| match tick {
        60 => camera.zoom_to(2.0),
        120 => camera.zoom_to(0.7),
        _ => {}
    };
    let bounds: fn(&mut Camera, u32) = |camera, tick| {
        if tick == 90 {
            let smaller = Bounds::new(Rect::new([500, 380], [1100, 600]));
            camera.set_bounds(Some(smaller), 1.0).expect("good bounds");
        }
    };
    let mut settings = Settings::default();
    settings.follow.anchor = DVec2::new(0.4, 0.6);
    settings.follow.smoothing = Smoothing::HalfLife(0.15).into();
    with_bounds(&mut settings);
    for (name, event) in [("glide", glide), ("zoom", zoom), ("new bounds", bounds)] {
        let apart = apart(&settings, event);
        println!("{name:<12} {apart:.4?}");
        assert!(apart.iter().all(|gap| *gap <= 0.5), "{name}: {apart:?}");
    }
}

/// Holding the height in the air depends on the frame in which the game says so; the landings here
/// fall on frames of every rate.
#[test]
fn jumps_that_land_on_common_frames() {
    let jumping = |fps: u32| -> Vec<DVec2> {
        let mut settings = Settings::default();
        settings.follow.airborne = Airborne::Hold;
        settings.follow.smoothing = Smoothing::Settle(0.4).into();
        let mut camera = Camera::new(settings).expect("valid settings");
        let views = (0..=6 * fps).map(|frame| {
            let step = if frame == 0 { 0.0 } else { 1.0 / f64::from(fps) };
            let t = f64::from(frame) / f64::from(fps);
            let hop = (t % 1.5).min(0.7);
            // Each jump ends on a ledge 20 units higher.
            let ledges = (t / 1.5).floor() + hop / 0.7;
            let height = 300.0 * hop * (0.7 - hop) + 20.0 * ledges;
            let ground = f64::from(frame % (3 * fps / 2)) >= 0.7 * f64::from(fps) - 1e-9;
            let grounded = ground || frame % (3 * fps / 2) == 0;
            let subject = Subject::from([100.0 * t, 500.0 - height]).with_grounded(grounded);
            camera.follow(step, subject)
        });
        views.step_by((fps / 30) as usize).map(|view| view.centre()).collect()
    };
    let best = jumping(240);
    for fps in [30, 60, 120] {
        let gap =
            jumping(fps).iter().zip(&best).map(|(a, b)| (*a - *b).length()).fold(0.0, f64::max);
        println!("airborne hold at {fps}/s: {gap:.4}");
        assert!(gap <= 0.5, "{fps}: {gap}");
    }
}
