//! Logs of games that call anything, whole and cut off anywhere.

use std::fs;
use std::path::{Path, PathBuf};

use velvet_pan::Camera;
use velvet_pan::glam::DVec2;
use velvet_pan_takes::{RideLog, Take, newest_part};

use crate::known::{Measures, first_seed, rides};
use crate::random_play::{Dice, Game, Pcg};

const FRAMES: u64 = 120;

/// Logs a random game, and returns the folder of its log.
fn logged(folder: &Path, seed: u64) -> PathBuf {
    let mut game = Game(Pcg(seed << 20));
    let mut camera = RideLog::new(game.camera(), folder).expect("a log");
    let mut at = [DVec2::new(300.0, 60.0); 4];
    for _frame in 0..FRAMES {
        game.any_frame(&mut camera, &mut at);
    }
    camera.write();
    if let Some(fault) = camera.fault() {
        println!("seed {seed}: {fault}");
    }
    drop(camera);
    newest_part(folder).expect("a part").parent().expect("a folder").to_owned()
}

/// The frames that are read and are the same as they were, and what is wrong with the rest.
fn replayed(part: &Path) -> (u64, String) {
    let log = match Take::open(part.join("take.toml")) {
        Ok(take) => take.log.expect("a log"),
        Err(fault) => return (0, fault.to_string()),
    };
    match log.first_difference() {
        Some(differs) => (0, format!("line {} differs", differs.line)),
        None => (log.frames() as u64, log.fault().map(ToString::to_string).unwrap_or_default()),
    }
}

/// How many whole frames a text of calls has.
fn whole_frames(text: &str) -> u64 {
    let frames = ["follow,", "follow_all,", "advance,"];
    let is_frame =
        |line: &&str| line.ends_with('\n') && frames.iter().any(|name| line.starts_with(name));
    text.split_inclusive('\n').filter(is_frame).count() as u64
}

#[test]
fn random_games_are_logged_read_and_replayed() {
    let mut measures = Measures::of_search("ride logs");
    let (mut lost, mut lost_when_cut) = (0, 0);
    let count = rides(40, 300);
    for seed in first_seed()..first_seed() + count {
        let folder = tempfile::tempdir().expect("a folder");
        let part = logged(folder.path(), seed);
        let (frames, fault) = replayed(&part);
        if frames < FRAMES {
            println!("seed {seed}: {frames} of {FRAMES} frames: {fault}");
            lost += 1;
            continue;
        }
        let calls = part.join("calls.csv");
        let text = fs::read_to_string(&calls).expect("calls");
        let cut = &text.as_bytes()[..Pcg(seed).below(text.len() as u32) as usize];
        fs::write(&calls, cut).expect("written");
        let whole = whole_frames(&String::from_utf8_lossy(cut));
        let (frames, fault) = replayed(&part);
        if frames < whole {
            println!("seed {seed}, cut: {frames} of {whole} frames: {fault}");
            lost_when_cut += 1;
        }
    }
    measures.at_most(0.0, "logs of which a frame is lost", f64::from(lost));
    measures.at_most(0.0, "cut logs of which a whole frame is lost", f64::from(lost_when_cut));
    measures.check();
}

/// Calls in the middle of a game that a log has to survive.
type Calls = (&'static str, fn(&mut RideLog<Camera>));

const CALLS: [Calls; 3] = [
    ("settings that are refused", |camera| {
        let mut settings = camera.settings().clone();
        settings.zoom.level = -1.0;
        assert!(camera.set_settings(settings, 0.1).is_err());
    }),
    ("the largest seed", |camera| {
        let mut settings = camera.settings().clone();
        settings.shake.seed = u64::MAX;
        camera.set_settings(settings, 0.1).expect("any seed");
    }),
    ("a step of 10^9 s", |camera| {
        camera.advance(1e9);
    }),
];

#[test]
fn logs_survive_what_a_game_may_call() {
    let mut measures = Measures::of("calls in a log");
    for (name, call) in CALLS {
        let folder = tempfile::tempdir().expect("a folder");
        let mut camera = RideLog::new(Game(Pcg(1)).camera(), folder.path()).expect("a log");
        for frame in 0..60 {
            if frame == 30 {
                call(&mut camera);
            }
            camera.follow(1.0 / 60.0, [f64::from(frame), 0.0]);
        }
        drop(camera);
        let part =
            newest_part(folder.path()).expect("a part").parent().expect("a folder").to_owned();
        let (frames, fault) = replayed(&part);
        println!("{name}: {fault}");
        measures.at_most(
            0.0,
            &format!("{name}: frames lost"),
            60_u64.saturating_sub(frames) as f64,
        );
    }
    measures.check();
}
