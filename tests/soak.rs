//! A long day of play: no drift, no growth, and exact rest at the end.

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Bounds, Camera, Cue, CueCall, Deadzone, Leash, LookAhead, Rect, Rooms, Settings, Shake,
    ShakeMotion, Smoothing, Subject, View,
};

use crate::support::smooth;

/// Frames per second.
const FPS: u32 = 144;

/// The duration of a lap in seconds, after which the world starts again.
const LAP: u32 = 60;

/// The width of the world, in world units: a whole number of rooms.
const WIDTH: f64 = 6400.0;

/// The number of laps: half an hour of play, or the given number of hours.
fn laps() -> u32 {
    let hours = std::env::var("SOAK_HOURS").ok().and_then(|text| text.parse::<u32>().ok());
    hours.map_or(30, |hours| hours * 3600 / LAP)
}

/// The position of the subject within a lap. It runs back and forth, and ends the width of the world farther.
fn place(second: f64) -> DVec2 {
    let turn = core::f64::consts::TAU * second / f64::from(LAP);
    let on = WIDTH * second / f64::from(LAP);
    DVec2::new(on + 900.0 * (3.0 * turn).sin(), 300.0 + 140.0 * (5.0 * turn).sin())
}

/// The kite beside the courier, in the middle third of a lap.
fn friend(second: f64) -> Option<DVec2> {
    let turn = core::f64::consts::TAU * second / f64::from(LAP);
    let beside = DVec2::new(160.0 * (7.0 * turn).cos(), -60.0 + 30.0 * (11.0 * turn).sin());
    (20.0..40.0).contains(&second).then(|| place(second) + beside)
}

fn roaming() -> Settings {
    let mut settings = smooth(Smoothing::Settle(0.5));
    settings.follow.look_ahead = Some(LookAhead::default());
    settings.follow.deadzone = Deadzone { left: 0.05, right: 0.05, top: 0.1, bottom: 0.1 };
    settings.follow.leash = Some(Leash(DVec2::splat(0.45)));
    with_gong(settings)
}

fn in_rooms() -> Settings {
    let mut settings = smooth(Smoothing::HalfLife(0.12));
    let size = DVec2::new(400.0, 600.0);
    settings.rooms = Some(Rooms { size: Some(size), slide: Some(0.5), ..Rooms::default() });
    settings.bounds = Some(Bounds::new(Rect::new([-1e7, 0.0], [1e7, 600.0])));
    with_gong(settings)
}

fn with_gong(mut settings: Settings) -> Settings {
    let shake = Shake { roll: 0.02, motion: ShakeMotion::Wander, ..Shake::default() };
    settings.cues.insert("gong".into(), Cue { shake: Some(shake), ..Cue::default() });
    settings
}

/// Runs one lap. Returns the view at its end, before the world moves back.
fn lap(camera: &mut Camera) -> View {
    for frame in 1..=LAP * FPS {
        let second = f64::from(frame) / f64::from(FPS);
        if frame % (5 * FPS) == 0 {
            camera.cue("gong", CueCall::at(place(second))).expect("a cue");
        }
        match frame / FPS {
            12 => camera.zoom_to(1.5),
            14 => camera.zoom_to(1.0),
            _ => {}
        }
        let courier = Subject::from(place(second)).with_id(1);
        match friend(second) {
            Some(kite) => {
                let kite = Subject::from(kite).with_id(2).with_margin(8.0);
                camera.follow_all(1.0 / f64::from(FPS), &[courier, kite])
            }
            None => camera.follow(1.0 / f64::from(FPS), courier),
        };
    }
    camera.view()
}

#[test]
fn a_day_is_as_its_first_lap() {
    for settings in [roaming(), in_rooms()] {
        let mut camera = Camera::new(settings).expect("valid settings");
        camera.follow(0.0, Subject::from(place(0.0)).with_id(1));
        let mut first: Option<(View, usize)> = None;
        for number in 0..laps() {
            let view = lap(&mut camera);
            let size = format!("{:?}", camera.state()).len();
            // In the first lap the camera has just come into the world.
            if number == 1 {
                first = Some((view, size));
            }
            if let Some((first, before)) = &first {
                let drift = (view.steady().centre() - first.steady().centre()).abs().max_element();
                assert!(drift < 1e-6, "{drift} world units after {number} laps");
                // Numbers of a few digits more or less: no list is longer.
                assert!(size.abs_diff(*before) < 400, "{size} letters for {before}");
            }
            camera.translate([-WIDTH, 0.0]);
        }
        let seconds = f64::from(laps() * LAP);
        assert!((camera.view().time() - seconds).abs() < 1e-3, "{}", camera.view().time());
        rests(&mut camera);
    }
}

/// With a subject at rest, the view is at its goal after ten seconds, and stays there exactly.
fn rests(camera: &mut Camera) {
    let still = place(0.0);
    for _frame in 0..10 * FPS {
        camera.follow(1.0 / f64::from(FPS), Subject::from(still).with_id(1));
    }
    assert!(!camera.is_shaking() && !camera.is_gliding());
    let view = camera.view();
    assert_eq!(view.centre(), camera.goal());
    for _frame in 0..1000 {
        let next = camera.follow(1.0 / f64::from(FPS), Subject::from(still).with_id(1));
        assert_eq!(next.with_time(0.0), view.with_time(0.0));
    }
}
