//! A game that logs itself: what its camera did can be run again to the bit, looked at, and tuned while the game runs.
//!
//! `cargo run -p velvet-pan-takes --example logged_game`
//!
//! With `-- FOLDER` it runs for a minute, as fast as a clock, with the log in `FOLDER/logs` and its tuning in
//! `FOLDER/camera.toml`. Meanwhile `velvet-pan-workbench --follow FOLDER/logs` shows it, and saving there changes the
//! game.

use std::error::Error;
use std::path::{Path, PathBuf};
use std::{env, fs, process, thread, time};

use velvet_pan::{
    Camera, Command, CueCall, Ease, Itinerary, ItineraryRun, Subject, Travel, Waypoint,
};
use velvet_pan_takes::{Jerk, LogOptions, RideLog, Take, TuningFile, newest_part};

const TUNING: &str = "\
[follow]
anchor = [0.5, 0.6]
smoothing = { settle = 0.5 }
airborne = \"hold\"
deadzone = { left = 0.04, right = 0.04, top = 0.1, bottom = 0.1 }
look_ahead = { seconds = [0.4, 0.0], reach = [0.15, 0.0] }

[bounds]
rect = [-200.0, -400.0, 6000.0, 640.0]

[cues.landing]
shake = { reach = [0.0, 2.0], fade = 0.25 }
";

/// The steps of the physics, in seconds.
const STEP: f64 = 1.0 / 50.0;

/// Somebody who runs to and fro and jumps, in fixed steps.
#[derive(Clone, Copy)]
struct Runner {
    at: [f64; 2],
    velocity: [f64; 2],
    steps: u32,
}

impl Runner {
    fn step(self) -> Self {
        let way = if self.steps % 700 < 500 { 1.0 } else { -1.0 };
        let run = self.velocity[0] + (way * 130.0 - self.velocity[0]) * 0.15;
        let on_ground = self.at[1] >= 0.0;
        let jumps = on_ground && self.steps % 90 == 40;
        let fall = if jumps { -330.0 } else { self.velocity[1] + 900.0 * STEP };
        let (x, y) = (self.at[0] + run * STEP, self.at[1] + fall * STEP);
        let (y, fall) = if y >= 0.0 { (0.0, 0.0) } else { (y, fall) };
        Self { at: [x, y], velocity: [run, fall], steps: self.steps + 1 }
    }

    fn subject(self) -> Subject {
        Subject::from(self.at).with_velocity(self.velocity).with_grounded(self.at[1] >= 0.0)
    }
}

/// A walk to the bell and back, once.
fn scene() -> Itinerary {
    let way = [[400.0, -60.0], [700.0, -90.0], [1000.0, -60.0]].map(Waypoint::at);
    Itinerary::default()
        .at(0.0, Command::Travel(Travel::new(way, 1.5)))
        .at(2.0, Command::Glide { seconds: 0.8, ease: Ease::Smooth })
}

/// The frames of a machine: mostly 60 a second, now and then a slow one.
fn frame_time(frame: u32) -> f64 {
    let wobble = f64::from(frame * 7919 % 100) / 100.0 - 0.5;
    if frame % 400 == 399 { 0.12 } else { 1.0 / 60.0 + 0.002 * wobble }
}

fn play(folder: &Path, seconds: f64, by_the_clock: bool) -> Result<(), Box<dyn Error>> {
    let path = folder.join("camera.toml");
    if !path.exists() {
        fs::write(&path, TUNING)?;
    }
    let mut tuning = TuningFile::open(&path)?;
    tuning.watch()?;

    // The only line that makes the game log itself.
    let options = LogOptions { tuning: Some(path), ..LogOptions::default() };
    let camera = Camera::new(tuning.settings().clone())?;
    let mut camera = RideLog::with(camera, folder.join("logs"), options)?;
    camera.resize((1280, 720));

    let mut scene = ItineraryRun::new(scene())?;
    let mut before = Runner { at: [0.0, 0.0], velocity: [0.0, 0.0], steps: 0 };
    let (mut now, mut rest, mut t) = (before.step(), 0.0, 0.0);
    for frame in 0.. {
        let dt = frame_time(frame);
        (t, rest) = (t + dt, rest + dt);
        if t > seconds {
            break;
        }
        while rest >= STEP {
            rest -= STEP;
            before = now;
            now = now.step();
            if before.at[1] < 0.0 && now.at[1] >= 0.0 {
                camera.cue("landing", CueCall::at(now.at).with_strength(0.8))?;
            }
        }
        match tuning.poll() {
            Some(Ok(())) => camera.set_settings(tuning.settings().clone(), 0.2)?,
            Some(Err(fault)) => println!("{fault}"),
            None => {}
        }
        if t > 6.0 {
            scene.advance(dt, &mut camera).for_each(drop);
        }
        if frame == 300 {
            camera.resize((960, 600));
        }
        camera.follow(dt, Subject::between(&before.subject(), &now.subject(), rest / STEP));
        if by_the_clock {
            thread::sleep(time::Duration::from_secs_f64(dt));
        }
    }
    if let Some(fault) = camera.fault() {
        println!("{fault}");
    }
    Ok(())
}

fn main() -> Result<(), Box<dyn Error>> {
    if let Some(folder) = env::args_os().nth(1).map(PathBuf::from) {
        fs::create_dir_all(&folder)?;
        return play(&folder, 60.0, true);
    }
    let folder = env::temp_dir().join(format!("velvet-pan-game-{}", process::id()));
    fs::create_dir_all(&folder)?;
    play(&folder, 12.0, false)?;

    // What anybody can do with the log, here or on another machine.
    let take = Take::open(newest_part(&folder.join("logs")).ok_or("no log")?)?;
    let log = take.log.as_ref().ok_or("not a log")?;
    println!("{} frames, {:.1} s", log.frames(), log.seconds());
    assert_eq!(log.first_difference(), None);
    println!("run again: the same, to the bit");
    for jerk in Jerk::of_take(&take)? {
        println!("a jerk at {:.2} s, {:.2} screens/s: {}", jerk.t, jerk.widths, jerk.cause());
    }
    fs::remove_dir_all(&folder)?;
    Ok(())
}
