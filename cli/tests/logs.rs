//! Ride logs through the command: a game's run, looked at and run again.

use std::fs;
use std::path::Path;

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Rect, Settings, Smoothing, Subject};
use velvet_pan_takes::{Jerk, RideLog, Take};

use crate::tools::{Folder, Numbers, demo, size_of};

fn camera() -> Camera {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::Settle(0.4).into();
    Camera::new(settings).expect("valid settings")
}

/// A walk along a slow curve, two minutes and more.
fn walker(t: f64) -> Subject {
    let place = DVec2::new(90.0 * t + 30.0 * (t * 0.8).sin(), 40.0 * (t * 0.5).sin());
    Subject::from(place).with_grounded(true)
}

/// Logs a game of this many seconds at 60 frames a second, which does something before each frame.
fn log(
    folder: &Path,
    seconds: f64,
    mut game: impl FnMut(&mut RideLog, u32, f64) -> (f64, Subject),
) {
    let mut camera = RideLog::new(camera(), folder).expect("a log");
    camera.resize((960, 540));
    let mut t = 0.0;
    for frame in 0..(seconds * 60.0) as u32 {
        let (dt, subject) = game(&mut camera, frame, t);
        t += dt;
        camera.follow(dt, subject);
    }
}

const STEP: f64 = 1.0 / 60.0;

/// Five faults in half a minute, as games have them.
fn with_faults(camera: &mut RideLog, frame: u32, t: f64) -> (f64, Subject) {
    let moved = if frame >= 300 { 150.0 } else { 0.0 };
    let subject = Subject { position: walker(t + STEP).position + moved, ..walker(t) };
    match frame {
        600 => camera.zoom_now(1.4),
        1200 => {
            let mut stiff = camera.settings().clone();
            stiff.follow.smoothing = Smoothing::None.into();
            stiff.follow.offset.y = 60.0;
            camera.set_settings(stiff, 0.0).expect("valid");
        }
        900 => camera.place_at(subject.position + DVec2::new(80.0, 0.0)),
        _ => {}
    }
    let lands = if frame == 1500 { 30.0 } else { 0.0 };
    let hit = Subject { position: subject.position + DVec2::new(0.0, lands), ..subject };
    (STEP, hit)
}

#[test]
fn a_log_is_run_again_in_another_process() {
    let folder = Folder::new(&[]);
    log(&folder.path().join("logs"), 20.0, with_faults);
    let text = folder.ok(&["replay", "logs"]);
    assert_eq!(text, "1200 of 1200 frames the same, to the bit\n");
    // A game of another build that moved a little differently.
    let calls = folder.path().join("logs/part-1/calls.csv");
    let whole = fs::read_to_string(&calls).expect("calls");
    let line = whole.lines().position(|line| line.contains("zoom_now")).expect("a zoom");
    fs::write(&calls, whole.replace("zoom_now = 1.4", "zoom_now = 1.5")).expect("written");
    let output = folder.run(&["replay", "logs/part-1/take.toml"]);
    let text = String::from_utf8(output.stdout).expect("text");
    assert_eq!(output.status.code(), Some(1));
    assert!(text.starts_with("600 of 1200 frames the same"), "{text}");
    assert!(text.contains(&format!("line {} of the calls", line + 2)), "{text}");
    assert!(text.contains("told before it: main: { zoom_now = 1.5 }"), "{text}");
    let zoom = text.lines().find(|line| line.contains("zoom")).expect("a line");
    assert!(zoom.contains("1.4") && zoom.contains("1.5  differs"), "{text}");
    let output = folder.run(&["replay", demo("pan.toml").to_str().expect("a path")]);
    assert!(String::from_utf8_lossy(&output.stderr).contains("not a ride log"));
    assert_eq!(output.status.code(), Some(2));
}

#[test]
fn planted_faults_are_found() {
    let folder = Folder::new(&[]);
    log(&folder.path().join("logs"), 30.0, with_faults);
    let rows = folder.ok(&["jerks", "logs", "--film", "worst.png"]);
    let mut table = csv::Reader::from_reader(rows.as_bytes());
    let records: Vec<csv::StringRecord> =
        table.records().map(|record| record.expect("a row")).collect();
    let found: Vec<f64> =
        records.iter().map(|record| record[1].parse().expect("a number")).collect();
    for planted in [300.0, 600.0, 900.0, 1200.0, 1500.0] {
        let near = found.iter().filter(|row| (**row - planted).abs() <= 2.0).count();
        assert_eq!(near, 1, "{planted} in\n{rows}");
    }
    assert_eq!(found.len(), 5, "{rows}");
    let causes: Vec<&str> = records.iter().map(|record| &record[7]).collect();
    assert!(causes[0].contains("teleport") || causes[0].contains("goal jumped"), "{causes:?}");
    assert!(causes[1].contains("command") && causes[2].contains("command"), "{causes:?}");
    assert!(size_of(&folder.path().join("worst.png")).0 > 960);
    let json = folder.ok(&["jerks", "logs", "--format", "json"]);
    assert_eq!(json.matches("\"cause\"").count(), 5);
}

/// Ten minutes of play without a fault: nothing is named.
#[test]
fn ten_quiet_minutes_have_no_jerk() {
    let folder = Folder::new(&[]);
    log(&folder.path().join("logs"), 600.0, |camera, frame, t| {
        if frame % 900 == 0 {
            camera.zoom_to(if frame % 1800 == 0 { 1.2 } else { 1.0 });
        }
        let step = 0.012 + f64::from(frame * 7919 % 1000) / 1000.0 * 0.01;
        (step, walker(t + step))
    });
    assert_eq!(folder.ok(&["jerks", "logs"]).lines().count(), 1);
}

/// In the demo everything that is named has its cause there.
#[test]
fn every_jerk_of_the_demo_has_a_cause() {
    let mut named = 0;
    for name in
        ["terraces", "gully", "pan", "valley", "kite", "house", "shrine", "cable", "changes"]
    {
        let take = Take::open(demo(&format!("{name}.toml"))).expect("a take");
        for jerk in Jerk::of_take(&take).expect("a ride") {
            assert!(!jerk.cause().is_empty(), "{name} at {}: {jerk:?}", jerk.t);
            named += 1;
        }
    }
    assert!(named > 10, "{named}");
}

/// The other commands take a log for what it is: a take.
#[test]
fn a_log_is_a_take_for_every_command() {
    let folder = Folder::new(&[("stiff.toml", "")]);
    log(&folder.path().join("logs"), 4.0, |camera, frame, t| {
        if frame == 60 {
            camera.show(&Rect::from_corner_size([0, -50], [300, 150]), 0.4, Default::default());
        }
        if frame == 120 {
            camera.release();
        }
        let step = if frame % 50 == 0 { 0.05 } else { STEP };
        (step, walker(t + step))
    });
    let own = Numbers::read(&folder.ok(&["trace", "logs"]));
    assert_eq!(own.len(), 240);
    let steps: Vec<f64> = own.column("t").windows(2).map(|pair| pair[1] - pair[0]).collect();
    assert!(steps.iter().any(|step| *step > 0.045) && steps.iter().any(|step| *step < 0.017));
    let even = Numbers::read(&folder.ok(&["trace", "logs", "--fps", "120"]));
    assert!(even.column("t").windows(2).all(|pair| (pair[1] - pair[0] - 1.0 / 120.0).abs() < 1e-9));
    folder.ok(&["chart", "logs", "--out", "chart.png"]);
    folder.ok(&["film", "logs", "--out", "sheet.png", "--frames", "4"]);
    let table = folder.ok(&["compare", "logs", "--try", "follow.smoothing={ half_life = 0.5 }"]);
    assert!(table.contains("half_life"), "{table}");
    assert!(folder.ok(&["check", "logs/part-1/take.toml"]).contains("0 faults, 0 warnings"));
    // Cut off in the middle of a line, and of another version: told, and ridden.
    let part = folder.path().join("logs/part-1");
    let calls = fs::read_to_string(part.join("calls.csv")).expect("calls");
    fs::write(part.join("calls.csv"), &calls[..calls.len() / 2]).expect("written");
    let take = fs::read_to_string(part.join("take.toml")).expect("a take");
    let version = take.lines().find(|line| line.starts_with("version")).expect("a version");
    fs::write(part.join("take.toml"), take.replace(version, "version = \"0.0.9\""))
        .expect("written");
    let output = folder.run(&["trace", "logs"]);
    let told = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(output.status.success(), "{told}");
    assert!(told.contains("calls.csv:") && told.contains(": cut off: what comes before"), "{told}");
    assert!(told.contains("take.toml:3:1: version: written by version 0.0.9"), "{told}");
}
