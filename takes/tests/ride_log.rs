//! A game that logs itself, and what becomes of its log.

use std::fs;
use std::path::{Path, PathBuf};

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Camera, Cameras, Command, CueCall, Ease, Itinerary, ItineraryRun, Rect, Settings, Shake,
    Subject, Travel, Waypoint,
};
use velvet_pan_takes::{
    BuiltIn, Figures, Files, Keep, LogOptions, Overrides, Ride, RideLog, Run, Take, newest_part,
};

/// The demo's camera, with a party and rooms to move in.
fn settings() -> Settings {
    crate::tools::demo("terraces").settings
}

/// Where a runner is after this many seconds: hops over uneven ground.
fn runner(t: f64) -> Subject {
    let hop = (t * 1.3).fract();
    let up = if hop < 0.6 { (hop * std::f64::consts::PI / 0.6).sin() * 40.0 } else { 0.0 };
    let place = DVec2::new(200.0 + 130.0 * t + 40.0 * (t * 0.7).sin(), 690.0 - up);
    let velocity = DVec2::new(130.0 + 28.0 * (t * 0.7).cos(), 0.0);
    Subject::from(place).with_velocity(velocity).with_grounded(hop >= 0.6)
}

/// Frames of a machine that stutters.
fn step(frame: u32) -> f64 {
    match frame % 97 {
        13 => 0.31,
        40 => 0.0,
        77 => f64::NAN,
        _ => 0.008 + f64::from(frame * 7919 % 1000) / 1000.0 * 0.014,
    }
}

/// A game of one camera.
fn play(camera: &mut RideLog, frames: u32) {
    let (mut t, mut kept) = (0.0, None);
    let scene = Itinerary::default()
        .at(
            0.1,
            Command::Travel(Travel::new(
                [[300, 600], [500, 650], [700, 640]].map(Waypoint::at),
                1.1,
            )),
        )
        .at(1.3, Command::Cue { name: "gong".into(), call: CueCall::at([572, 720]) })
        .at(1.9, Command::Glide { seconds: 0.6, ease: Ease::InOut });
    let mut scene = ItineraryRun::new(scene).expect("a scene");
    for frame in 0..frames {
        let dt = step(frame);
        t += if dt.is_finite() { dt } else { 0.0 };
        match frame {
            60 => camera.zoom_by(2.0, Some(Vec2::new(90.1, 33.3))),
            90 => camera.resize((1111, 640)),
            120 => camera.grab(Vec2::new(100.0, 90.0)),
            121..=140 => camera.drag_to(Vec2::new(100.0 + frame as f32, 90.0)),
            141 => camera.release(),
            150 => kept = Some(camera.state()),
            170 => camera.restore(kept.expect("a state")).expect("sound"),
            200 => {
                camera.cue("landing", CueCall::at([400, 700]).with_strength(0.7)).expect("a cue");
            }
            220 => camera.shake(&Shake::default(), 1.3),
            230 => camera.tell_due(Command::RotateTo(0.1), 0.004).expect("told"),
            // Refused, as a layer covers the bounds.
            250 => assert!(camera.set_bounds(None, 0.5).is_err()),
            260 => camera.show(&Rect::from_corner_size([100, 500], [600, 300]), 0.4, Ease::Out),
            290 => camera.glide(0.5, Ease::Smooth),
            320 => camera.zoom_to(f64::NAN),
            330 => camera.pan(Vec2::new(f32::INFINITY, 1.0)),
            340 => camera.translate([-64.0, 0.0]),
            _ => {}
        }
        if frame == 360 {
            let mut other = camera.settings().clone();
            other.zoom.level = 1.25;
            camera.set_settings(other, 0.4).expect("valid");
        }
        if frame >= 400 {
            scene.advance(if dt.is_finite() { dt } else { 0.0 }, camera).for_each(drop);
        }
        let subject = match frame {
            180 => Subject::from([f64::NAN, 3.0]),
            300.. => Subject { position: runner(t).position + DVec2::new(900.0, 0.0), ..runner(t) },
            _ => runner(t),
        };
        let kite = Subject::from([subject.position.x + 50.0, 600.0]).with_id(7).with_weight(0.4);
        match frame % 500 {
            380..400 => camera.advance(dt),
            440..480 => camera.follow_all(dt, &[subject.with_id(3), kite]),
            _ => camera.follow(dt, subject),
        };
    }
}

/// Plays a game that logs itself, and returns the folder of its part.
fn logged(folder: &Path, frames: u32) -> PathBuf {
    let camera = Camera::new(settings()).expect("valid settings");
    let mut camera = RideLog::new(camera, folder).expect("a log");
    play(&mut camera, frames);
    assert_eq!(camera.fault().map(|fault| fault.to_string()), None);
    drop(camera);
    newest_part(folder).expect("a part").parent().expect("a folder").to_owned()
}

#[test]
fn a_game_is_run_again_to_the_bit() {
    let folder = tempfile::tempdir().expect("a folder");
    let part = logged(folder.path(), 620);
    let take = Take::open(part.join("take.toml")).expect("a take");
    let log = take.log.clone().expect("a log");
    assert_eq!(log.frames(), 620);
    assert!(log.fault().is_none());
    if let Some(differs) = log.first_difference() {
        panic!("{differs:#?}");
    }
    // Its ride as a take shows the same pictures, at the game's own steps.
    let moments: Vec<_> = Ride::new(&take).expect("a ride").collect();
    assert_eq!(moments.len(), 620);
    let calls = fs::read_to_string(part.join("calls.csv")).expect("calls");
    let shown: Vec<&str> = calls
        .lines()
        .filter(|line| {
            ["follow,", "follow_all,", "advance,"].iter().any(|name| line.starts_with(name))
        })
        .collect();
    let column = |line: &str, index: usize| line.split(',').nth(index).expect("a field").to_owned();
    for (line, moment) in shown.iter().zip(&moments) {
        let x: f64 = column(line, 15).parse().unwrap_or(0.0);
        assert_eq!(x.to_bits(), moment.view.steady().centre().x.to_bits(), "at {}", moment.t);
    }
    assert!(moments.windows(2).any(|pair| pair[1].t == pair[0].t));
}

/// A log in even steps is the same ride, where the game itself had even steps.
#[test]
fn a_log_is_ridden_in_even_steps() {
    let folder = tempfile::tempdir().expect("a folder");
    let mut camera =
        RideLog::new(Camera::new(settings()).expect("valid"), folder.path()).expect("a log");
    camera.resize((1280, 720));
    for frame in 0..300 {
        let t = f64::from(frame) / 60.0;
        match frame {
            60 => camera.zoom_to(1.5),
            150 => camera.tell_due(Command::ZoomTo(1.0), 0.01).expect("told"),
            _ => {}
        }
        camera.follow(1.0 / 60.0, Subject { velocity: None, ..runner(t) });
    }
    drop(camera);
    let path = newest_part(folder.path()).expect("a part");
    let own = Take::open(&path).expect("a take");
    let ridden = |fps: f64| {
        let overrides = Overrides { fps: Some(fps), ..Overrides::default() };
        let take = Take::read(Files::Disk, &path, &overrides).expect("a take");
        Ride::new(&take).expect("a ride").collect::<Vec<_>>()
    };
    let (logged, even) = (Ride::new(&own).expect("a ride").collect::<Vec<_>>(), ridden(60.0));
    assert_eq!(logged.len(), even.len());
    for (logged, even) in logged.iter().zip(&even) {
        let apart = logged.view.centre().distance(even.view.centre());
        assert!(apart < 1e-3, "at {}: {apart}", logged.t);
    }
    // At another rate the subject moves in straight lines between the logged places.
    let finer = ridden(120.0);
    let apart = |row: usize| even[row].view.centre().distance(finer[2 * row].view.centre());
    let worst = (0..even.len()).map(apart).fold(0.0, f64::max);
    assert!(worst < 1.0, "{worst}");
    let [one, other] =
        [&own, &own.clone().in_even_steps()].map(|take| Figures::of_take(take).expect("figures"));
    let near = |a: Option<f64>, b: Option<f64>| (a.unwrap() - b.unwrap()).abs() < 0.01;
    assert!(near(one.lag_worst, other.lag_worst) && near(one.lost, other.lost));
}

/// What is tried wins over the settings of the game, also over those that it changed on its way.
#[test]
fn a_tried_key_wins() {
    let folder = tempfile::tempdir().expect("a folder");
    let mut camera =
        RideLog::new(Camera::new(settings()).expect("valid"), folder.path()).expect("a log");
    for frame in 0..120 {
        if frame == 60 {
            let mut near = camera.settings().clone();
            (near.zoom.level, near.follow.anchor) = (2.0, DVec2::new(0.3, 0.5));
            camera.set_settings(near, 0.0).expect("valid");
        }
        camera.follow(1.0 / 60.0, runner(f64::from(frame) / 60.0));
    }
    drop(camera);
    let path = newest_part(folder.path()).expect("a part");
    let overrides = Overrides {
        changes: vec!["zoom.level=2.5".parse().expect("a change")],
        ..Overrides::default()
    };
    let tried = Take::read(Files::Disk, &path, &overrides).expect("a take");
    for take in [tried.clone(), tried.in_even_steps()] {
        let mut run = Run::new(&take).expect("a run");
        let zooms: Vec<f64> = (0..120).map(|_| run.step(&take).view.lens().zoom()).collect();
        assert!(zooms.iter().all(|zoom| *zoom == 2.5), "{zooms:?}");
        assert_eq!(run.camera().settings().follow.anchor.x, 0.3, "what is not tried changes");
    }
    let own = Take::open(&path).expect("a take");
    let last = Ride::new(&own).expect("a ride").last().expect("a moment");
    assert_eq!(last.view.lens().zoom(), 2.0);
}

/// Cameras that glide, come and go.
#[test]
fn a_set_of_cameras_is_run_again() {
    let folder = tempfile::tempdir().expect("a folder");
    let camera = |zoom: f64| {
        let mut settings = settings();
        settings.zoom.level = zoom;
        Camera::new(settings).expect("valid settings")
    };
    let mut cameras = Cameras::new("hall".to_owned(), camera(1.0));
    cameras.insert("bell, the great".to_owned(), camera(2.0));
    let mut cameras = RideLog::new(cameras, folder.path()).expect("a log");
    let scene = Itinerary::default().at(0.2, Command::ZoomTo(1.4)).mark(0.5, "there");
    let mut scene = ItineraryRun::new(scene).expect("a scene");
    for frame in 0..240 {
        let dt = step(frame);
        match frame {
            30 => _ = cameras.glide_to("bell, the great", 0.7, Ease::Smooth),
            80 => cameras.resize((800, 600)),
            100 => _ = cameras.insert("roof", camera(0.8)),
            110 => _ = cameras.switch_to("roof"),
            150 => _ = cameras.glide_to_due("hall", 0.5, Ease::InOut, 0.004),
            160 => _ = cameras.remove("roof"),
            170 => cameras.active_mut().zoom_to(3.0),
            _ => {}
        }
        if frame > 180 {
            scene.advance(if dt.is_nan() { 0.0 } else { dt }, &mut cameras).for_each(drop);
        }
        for (_, camera) in cameras.iter_mut() {
            camera.follow(dt, runner(f64::from(frame) / 60.0));
        }
        if let Some(roof) = cameras.get_mut("roof") {
            roof.aim_at([500, 500]);
        }
        cameras.view(dt);
    }
    drop(cameras);
    let take = Take::open(newest_part(folder.path()).expect("a part")).expect("a take");
    let log = take.log.clone().expect("a log");
    assert_eq!((log.frames(), log.first_difference()), (240, None));
    let moments = Ride::new(&take).expect("a ride").count();
    let even = Ride::new(&take.in_even_steps()).expect("a ride").count();
    assert_eq!(moments, 240);
    assert!(even > 200, "{even}");
}

/// Only the last seconds, from the state in which they began.
#[test]
fn the_last_seconds_are_kept() {
    let folder = tempfile::tempdir().expect("a folder");
    let camera = Camera::new(settings()).expect("valid settings");
    let keep = Keep::Last { seconds: 1.5 };
    let mut camera =
        RideLog::with(camera, folder.path(), LogOptions { keep, ..LogOptions::default() })
            .expect("a log");
    play(&mut camera, 610);
    assert_eq!(newest_part(folder.path()), None);
    camera.write();
    drop(camera);
    let take = Take::open(newest_part(folder.path()).expect("a part")).expect("a take");
    let log = take.log.expect("a log");
    assert!((1.5..3.6).contains(&log.seconds()), "{}", log.seconds());
    if let Some(differs) = log.first_difference() {
        panic!("{differs:#?}");
    }
}

/// A game may lend its camera to a function that tells it things after its frame, so that something always waits.
#[test]
fn a_camera_that_is_lent_is_logged() {
    fn update(camera: &mut Camera, frame: u32) {
        camera.follow(step(frame), runner(f64::from(frame) / 60.0));
        camera.translate([f64::from(frame % 3) - 1.0, 0.0]);
        match frame % 40 {
            7 => camera.zoom_to(1.0 + f64::from(frame % 7) / 7.0),
            21 => camera.cue("gong", CueCall::anywhere()).expect("a cue"),
            _ => camera.pan(Vec2::new(0.5, 0.0)),
        }
        assert!(camera.set_bounds(None, 0.2).is_err(), "a layer covers the bounds");
    }
    let folder = tempfile::tempdir().expect("a folder");
    let options = LogOptions { keep: Keep::Last { seconds: 1.5 }, ..LogOptions::default() };
    let camera = Camera::new(settings()).expect("valid settings");
    let mut camera = RideLog::with(camera, folder.path(), options).expect("a log");
    (0..500).for_each(|frame| update(&mut camera, frame));
    // A copy notes nothing, and a camera in the place of another begins a new part.
    let mut copy = camera.clone();
    copy.advance(0.1);
    assert_eq!(copy.calls().take().count(), 0);
    *camera = copy;
    (500..700).for_each(|frame| update(&mut camera, frame));
    camera.write();
    let last = camera.into_inner().view();
    let take = Take::open(newest_part(folder.path()).expect("a part")).expect("a take");
    let log = take.log.clone().expect("a log");
    assert!((1.5..4.0).contains(&log.seconds()), "{}", log.seconds());
    assert_eq!(log.first_difference(), None);
    let ridden = Ride::new(&take).expect("a ride").last().expect("a moment");
    assert_eq!(ridden.view.lens(), last.lens());
}

#[test]
fn a_panic_leaves_the_last_seconds() {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().to_owned();
    let game = std::thread::spawn(move || {
        let camera = Camera::new(settings()).expect("valid settings");
        let keep = Keep::Last { seconds: 5.0 };
        let mut camera = RideLog::with(camera, &path, LogOptions { keep, ..LogOptions::default() })
            .expect("a log");
        play(&mut camera, 100);
        panic!("the game breaks, as it should here");
    });
    assert!(game.join().is_err());
    let take = Take::open(newest_part(folder.path()).expect("a part")).expect("a take");
    assert_eq!(take.log.expect("a log").first_difference(), None);
}

/// Parts begin with each start; a limit, a folder that is in the way and a vanished folder end the log and not the game.
#[test]
fn what_ends_a_log() {
    let folder = tempfile::tempdir().expect("a folder");
    let new = |most: u64, at: &Path| {
        let camera = Camera::new(settings()).expect("valid settings");
        RideLog::with(camera, at, LogOptions { most_bytes: most, ..LogOptions::default() })
            .expect("a log")
    };
    let mut small = new(10_000, folder.path());
    play(&mut small, 100);
    small.write();
    let fault = small.fault().expect("a fault").to_string();
    assert!(fault.contains("part-1: the ride log ends here: it is "), "{fault}");
    play(&mut small, 100);
    small.write();
    assert!(small.fault().is_none(), "told once");
    small.record(false);
    play(&mut small, 50);
    small.record(true);
    small.write();
    assert!(folder.path().join("part-2/take.toml").is_file());
    drop(small);
    let mut gone = new(1 << 30, &folder.path().join("gone"));
    play(&mut gone, 50);
    gone.write();
    fs::remove_dir_all(folder.path().join("gone")).expect("removed");
    let mut settings = settings();
    settings.zoom.level = 3.0;
    gone.set_settings(settings, 0.0).expect("valid");
    play(&mut gone, 50);
    gone.write();
    assert!(gone.fault().expect("a fault").to_string().contains("no such file"));
    let file = folder.path().join("file");
    fs::write(&file, "in the way").expect("written");
    let mut barred = new(1 << 30, &file);
    play(&mut barred, 10);
    barred.write();
    assert!(barred.fault().is_some());
}

/// What can be read of a damaged log is ridden, and the rest is told with its line.
#[test]
fn damaged_logs_are_told() {
    let folder = tempfile::tempdir().expect("a folder");
    let part = logged(folder.path(), 60);
    let path = part.join("calls.csv");
    let whole = fs::read_to_string(&path).expect("calls");
    let lines: Vec<&str> = whole.lines().collect();
    let read = |text: &str| {
        fs::write(&path, text).expect("written");
        Take::open(part.join("take.toml"))
    };
    let faulty = |text: &str| {
        let log = read(text).expect("a take").log.expect("a log");
        (
            log.frames(),
            log.fault().map(ToString::to_string).unwrap_or_default(),
            log.first_difference(),
        )
    };
    let (frames, fault, differs) = faulty(&whole[..whole.len() - 30]);
    assert!(frames == 59 && differs.is_none());
    assert!(fault.contains(&format!("calls.csv:{}:1: cut off", lines.len())), "{fault}");
    let mut edited = lines.clone();
    let word = edited[20].replacen(",0.", ",oh.", 1);
    edited[20] = &word;
    let (frames, fault, _) = faulty(&edited.join("\n"));
    assert!(frames < 20 && fault.contains("calls.csv:21:13: \"oh."), "{fault}");
    // A number that was changed, or a line that is missing, shows in the first frame after it.
    let mut nudged = lines.clone();
    let fields: Vec<&str> = nudged[30].split(',').collect();
    let mut fields: Vec<String> = fields.iter().map(|field| (*field).to_owned()).collect();
    fields[3] = format!("{}", fields[3].parse::<f64>().expect("a number") + 1.0);
    let line = fields.join(",");
    nudged[30] = &line;
    let (_, _, differs) = faulty(&(nudged.join("\n") + "\n"));
    let differs = differs.expect("a difference");
    assert_eq!(differs.line, 31);
    assert_ne!(differs.logged.centre, differs.now.centre);
    assert!(read("t,x,y\n0,0,0\n").unwrap_err().to_string().contains("not a table of calls"));
    assert!(read(&format!("{}\n", lines[0])).unwrap_err().to_string().contains("no frame"));
    fs::remove_file(part.join("tuning-1.toml")).expect("removed");
    assert!(read(&whole).unwrap_err().to_string().contains("tuning-1.toml"));
}

/// The ride of a game as it was logged once. What changes it changes the pictures of every game: it is written anew with
/// `UPDATE_GOLDEN=1`, and the change is told in CHANGELOG.md.
#[test]
fn a_golden_ride_stays_the_same() {
    let golden = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("tests/golden");
    if std::env::var_os("UPDATE_GOLDEN").is_some() {
        let _before = fs::remove_dir_all(&golden);
        logged(&golden, 300);
    }
    let take = Take::open(newest_part(&golden).expect("a part")).expect("a take");
    let log = take.log.expect("a log");
    assert_eq!(log.frames(), 300);
    if let Some(differs) = log.first_difference() {
        panic!("{differs:#?}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Fields that were put in anywhere are told or read, and never break anything.
    #[test]
    fn an_edited_log_is_read_or_told(
        line in 1_usize..40,
        column in 0_usize..25,
        field in prop::sample::select(vec![
            "", "nan", "-inf", "1e308", "-0", "view", "follow_all", "remove", "glide_to", "restore",
            "{ zoom_to = inf }", "{ pan = [1e38, nan] }", "\"", "switch_to", "99999999999999999999", "\u{feff}",
        ]),
    ) {
        let golden = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("tests/golden/part-1");
        let whole = fs::read_to_string(golden.join("calls.csv")).expect("calls");
        let mut lines: Vec<String> = whole.lines().take(60).map(str::to_owned).collect();
        let mut fields: Vec<&str> = lines[line].split(',').collect();
        if column < fields.len() {
            fields[column] = field;
        }
        lines[line] = fields.join(",");
        let beside = |name: &'static str| BuiltIn {
            name,
            text: fs::read_to_string(golden.join(name)).unwrap_or_default().into(),
        };
        let files = [
            BuiltIn { name: "calls.csv", text: (lines.join("\n") + "\n").into() },
            beside("take.toml"),
            beside("tuning-1.toml"),
            beside("state-3.json"),
        ];
        let nothing = Overrides::default();
        if let Ok(take) = Take::read(Files::BuiltIn(&files), "take.toml".as_ref(), &nothing) {
            let log = take.log.clone().expect("a log");
            let _differs = log.first_difference();
            for take in [take.clone(), take.in_even_steps()] {
                let rows = take.rows().min(400) as usize;
                let moments = Ride::new(&take).expect("a ride").take(rows);
                prop_assert!(moments.into_iter().all(|moment| moment.view.centre().is_finite()));
            }
        }
    }
}
