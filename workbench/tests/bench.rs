//! The workbench without its window: a take that is played or ridden, and two cameras.

use std::fs;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread::{JoinHandle, sleep};
use std::time::{Duration, Instant};

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{Camera, PerAxis, Smoothing, Snap, View, WindowSize};
use velvet_pan_takes::{
    BuiltIn, Figures, Files, LogOptions, Overrides, RideLog, Run, Take, TuningFile, newest_part,
};
use velvet_pan_workbench::model::{A, B, Bench, Source, Wish};

const WINDOW: WindowSize = WindowSize { width: 960, height: 540 };
const RUN: Wish = Wish { way: 1.0, rise: 0.0, leap: false };

fn demo(name: &str) -> PathBuf {
    PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../terraces/demo").join(name)
}

fn open(source: Source) -> Bench {
    let mut bench = Bench::open(source).expect("a bench");
    frames(&mut bench, 0.0, 1, Wish::default());
    bench
}

fn frames(bench: &mut Bench, seconds: f64, count: u32, wish: Wish) {
    for _ in 0..count {
        bench.frame(seconds, wish, false, [WINDOW; 2]);
    }
}

fn centres(bench: &Bench) -> [DVec2; 2] {
    [A, B].map(|side| bench.sides()[side].view().centre())
}

/// Waits until the figures are current.
fn measured(bench: &mut Bench) -> [Figures; 2] {
    for _ in 0..2000 {
        frames(bench, 0.0, 1, Wish::default());
        if bench.figures_are_new() {
            return bench.figures().map(|figures| figures.expect("figures").clone());
        }
        sleep(Duration::from_millis(10));
    }
    panic!("no figures in 20 s");
}

fn soften(bench: &mut Bench, seconds: f64) {
    bench.tuning.settings_mut().follow.smoothing = PerAxis::both(Smoothing::HalfLife(seconds));
}

/// The view of a fresh run of the take at a row, with the settings of a camera.
fn ridden(bench: &Bench, side: usize) -> View {
    let take = bench.take();
    let mut run = Run::with_settings(take, bench.sides()[side].settings()).expect("a run");
    run.resize(WINDOW);
    run.skip_to(take, bench.rows().0 + 1);
    run.view()
}

#[test]
fn a_and_b_have_the_figures_of_the_command() {
    let mut bench = open(Source::Take(demo("terraces.toml")));
    soften(&mut bench, 0.4);
    bench.machine.snap = Some(Snap::Whole);
    let [a, b] = measured(&mut bench);
    // As `compare --set` reads the same file.
    let read = |changes: &[&str]| {
        let changes = changes.iter().map(|change| change.parse().expect("a change")).collect();
        let overrides = Overrides { changes, ..Overrides::default() };
        let take = Take::read(Files::Disk, &demo("terraces.toml"), &overrides).expect("a take");
        Figures::of_take(&take).expect("figures")
    };
    assert_eq!(a, read(&["screen.snap=whole"]));
    assert_eq!(b, read(&["screen.snap=whole", "follow.smoothing={ half_life = 0.4 }"]));
    assert_ne!(a.lag_mean, b.lag_mean);
    bench.machine.fps = Some(30.0);
    let [at_30, _] = measured(&mut bench);
    let take = Take { fps: 30.0, ..bench.take().clone() };
    assert_eq!(bench.take().fps, 30.0);
    assert_eq!(
        at_30.lag_mean,
        Figures::of_take(&Take { settings: bench.sides()[A].settings().clone(), ..take })
            .expect("figures")
            .lag_mean
    );
}

#[test]
fn what_is_played_can_be_seen_again_to_the_bit() {
    let mut bench = open(Source::Play(None));
    let mut seen = Vec::new();
    for frame in 0..240 {
        let leap = frame % 50 == 10;
        if frame == 60 {
            bench.cue("gong");
        }
        if frame == 90 {
            bench.shake();
        }
        if (100..110).contains(&frame) {
            bench.drag(Vec2::new(3.0, -1.0));
        }
        if frame == 110 {
            bench.let_go();
        }
        if frame == 150 {
            bench.turn_wheel(2.0, Vec2::new(40.0, 30.0));
        }
        if frame == 200 {
            bench.watch(&["courier", "kite"]);
        }
        frames(&mut bench, 1.0 / 60.0, 1, Wish { leap, ..RUN });
        seen.push((bench.rows().0, [A, B].map(|side| *bench.sides()[side].view())));
    }
    assert_eq!(bench.rows(), (240, 240));
    assert!(bench.added() > 5);
    assert_eq!(bench.watched(), ["courier", "kite"]);
    bench.transport.plays = false;
    for (row, views) in seen.iter().rev().step_by(7) {
        bench.seek(*row);
        let again = [A, B].map(|side| *bench.sides()[side].view());
        assert_eq!(again, *views, "row {row}");
    }
    let mut again = bench.take().subjects["courier"].path.rows().iter();
    assert!(again.any(|row| row.grounded == Some(false)), "Wren never left the ground");
}

/// A change while running affects both cameras from then on. A change while paused applies as if it had been so from
/// the start.
#[test]
fn a_change_is_felt_on_the_way_and_seen_in_a_pause() {
    let mut bench = open(Source::Take(demo("terraces.toml")));
    frames(&mut bench, 1.0 / 60.0, 130, Wish::default());
    let before = centres(&bench);
    soften(&mut bench, 0.6);
    frames(&mut bench, 1.0 / 60.0, 1, Wish::default());
    let after = centres(&bench);
    assert!(after[B].distance(before[B]) < 4.0, "it jumped");
    bench.transport.plays = false;
    soften(&mut bench, 0.5);
    frames(&mut bench, 1.0 / 60.0, 1, Wish::default());
    assert_eq!(*bench.sides()[B].view(), ridden(&bench, B));
    assert!(centres(&bench)[B].distance(centres(&bench)[A]) > 5.0);
    // A is not touched by what is tuned, until it is kept.
    assert!(bench.sides()[A].settings() != bench.tuning.settings());
    bench.keep();
    frames(&mut bench, 0.0, 1, Wish::default());
    assert!(bench.sides()[A].settings() == bench.tuning.settings());
    assert_eq!(centres(&bench)[A], centres(&bench)[B]);
}

#[test]
fn a_refused_number_changes_nothing() {
    let mut bench = open(Source::Take(demo("terraces.toml")));
    bench.tuning.settings_mut().zoom.level = -3.0;
    frames(&mut bench, 1.0 / 60.0, 30, Wish::default());
    assert_eq!(bench.sides()[B].settings().zoom.level, 1.0);
    assert_eq!(bench.rows().0, 30);
}

#[test]
fn the_machine_divides_the_same_time() {
    let mut bench = open(Source::Take(demo("terraces.toml")));
    frames(&mut bench, 1.0 / 60.0, 120, Wish::default());
    assert_eq!(bench.time(), 2.0);
    for fps in [30.0, 144.0, 240.0] {
        bench.machine.fps = Some(fps);
        frames(&mut bench, 0.0, 1, Wish::default());
        assert_eq!((bench.time(), bench.take().fps), (2.0, fps));
        frames(&mut bench, 1.0 / 60.0, 60, Wish::default());
        assert!((bench.time() - 3.0).abs() < 2.0 / fps, "{} at {fps}", bench.time());
        bench.seek((2.0 * fps) as u64);
    }
    bench.machine.fps = None;
    frames(&mut bench, 0.0, 1, Wish::default());
    assert_eq!(bench.take().fps, 60.0);
}

#[test]
fn a_hitch_is_one_long_frame() {
    let mut bench = open(Source::Play(None));
    frames(&mut bench, 1.0 / 60.0, 60, RUN);
    let before = bench.take().subjects["courier"].path.position(bench.time());
    bench.hitch();
    frames(&mut bench, 1.0 / 60.0, 1, RUN);
    assert_eq!(bench.rows().0, 75);
    let after = bench.take().subjects["courier"].path.position(bench.time());
    assert!((after.x - before.x - 132.0 * 0.25).abs() < 0.5, "Wren ran {}", after.x - before.x);
    frames(&mut bench, 1.0 / 60.0, 1, RUN);
    assert_eq!(bench.rows().0, 76);
}

#[test]
fn it_runs_slowly_in_steps_and_in_a_loop() {
    let mut bench = open(Source::Take(demo("pan.toml")));
    bench.transport.slow = true;
    frames(&mut bench, 1.0 / 60.0, 40, Wish::default());
    assert_eq!(bench.rows(), (20, 180));
    bench.nudge(3, Wish::default());
    assert_eq!((bench.rows().0, bench.transport.plays), (23, false));
    bench.nudge(-5, Wish::default());
    assert_eq!(bench.rows().0, 18);
    bench.nudge(-500, Wish::default());
    assert_eq!(bench.rows().0, 0);
    (bench.transport.slow, bench.transport.loops) = (false, true);
    bench.seek(175);
    bench.play_or_pause();
    frames(&mut bench, 1.0 / 60.0, 10, Wish::default());
    assert_eq!(bench.rows().0, 4);
    bench.transport.loops = false;
    frames(&mut bench, 1.0 / 60.0, 400, Wish::default());
    assert_eq!((bench.rows().0, bench.transport.plays), (180, false));
    bench.play_or_pause(); // from the end: from the start
    frames(&mut bench, 1.0 / 60.0, 2, Wish::default());
    assert_eq!(bench.rows().0, 2);
}

#[test]
fn again_takes_out_what_was_added() {
    let mut bench = open(Source::Demo("terraces.toml"));
    let own = bench.take().events.clone();
    frames(&mut bench, 1.0 / 60.0, 30, Wish::default());
    bench.shake();
    bench.cue("gong");
    assert_eq!((bench.added(), bench.take().events.len()), (2, own.len() + 2));
    frames(&mut bench, 1.0 / 60.0, 2, Wish::default());
    assert!(bench.sides().iter().all(|side| side.camera().is_shaking()));
    bench.again();
    assert_eq!((bench.added(), bench.rows().0), (0, 0));
    assert_eq!(bench.take().events, own);
}

#[test]
fn undo_goes_back_step_by_step() {
    let mut bench = open(Source::Play(None));
    let half_life = |bench: &Bench| bench.sides()[B].settings().follow.smoothing.x;
    let own = half_life(&bench);
    for seconds in [0.2, 0.3, 0.4] {
        // Dragged there: one step.
        for part in [0.05, 0.02, 0.0] {
            soften(&mut bench, seconds - part);
            bench.frame(0.01, Wish::default(), true, [WINDOW; 2]);
        }
        frames(&mut bench, 0.01, 1, Wish::default());
    }
    for seconds in [0.3, 0.2] {
        bench.undo(true);
        frames(&mut bench, 0.01, 1, Wish::default());
        assert_eq!(half_life(&bench), Smoothing::HalfLife(seconds));
    }
    bench.undo(false);
    frames(&mut bench, 0.01, 1, Wish::default());
    assert_eq!(half_life(&bench), Smoothing::HalfLife(0.3));
    for _ in 0..5 {
        bench.undo(true);
        frames(&mut bench, 0.01, 1, Wish::default());
    }
    assert_eq!((half_life(&bench), bench.can_undo()), (own, [false, true]));
    // A change after steps back: what was undone is gone.
    soften(&mut bench, 0.9);
    frames(&mut bench, 0.01, 1, Wish::default());
    assert_eq!(bench.can_undo(), [true, false]);
    bench.tuning.revert();
    frames(&mut bench, 0.01, 1, Wish::default());
    bench.undo(true);
    frames(&mut bench, 0.01, 1, Wish::default());
    assert_eq!(half_life(&bench), Smoothing::HalfLife(0.9));
}

#[test]
fn a_file_is_a_take_or_a_tuning_or_a_fault() {
    let folder = tempfile::tempdir().expect("a folder");
    let write = |name: &str, text: &str| {
        let path = folder.path().join(name);
        fs::write(&path, text).expect("written");
        path
    };
    let source = |path: &Path| Source::of_file(path).map_err(|fault| fault.to_string());
    assert_eq!(source(&demo("kite.toml")), Ok(Source::Take(demo("kite.toml"))));
    assert_eq!(source(&demo("courier.toml")), Ok(Source::Play(Some(demo("courier.toml")))));
    let empty = write("empty.toml", "");
    assert_eq!(source(&empty), Ok(Source::Play(Some(empty.clone()))));
    assert!(Bench::open(Source::Play(Some(empty))).is_ok());
    let missing = folder.path().join("none.toml");
    assert!(source(&missing).expect_err("missing").contains("no such file"));
    assert!(source(folder.path()).expect_err("a folder").contains("folder"));
    let bad = write("bad.toml", "[zoom]\nlevle = 2.0\n");
    let fault = Bench::open(source(&bad).expect("a tuning")).expect_err("a bad key").to_string();
    assert!(fault.contains("bad.toml:2:1") && fault.contains("did you mean \"level\"?"), "{fault}");
}

/// Every take of the demo opens, runs and can be left at any time.
#[test]
fn every_take_of_the_demo_runs() {
    for source in Source::demos() {
        let mut bench = open(source.clone());
        frames(&mut bench, 0.05, 60, Wish::default());
        assert!(bench.fault.is_none(), "{source:?}: {:?}", bench.fault);
        assert!(bench.rows().0 > 100, "{source:?}");
        let [_, before] = centres(&bench);
        bench.seek(bench.rows().0);
        let [_, after] = centres(&bench);
        assert!(after.distance(before) < 1e-9, "{source:?}");
        assert_eq!(*bench.sides()[B].view(), ridden(&bench, B), "{source:?}");
    }
}

/// The tuning in a take's own file.
#[test]
fn a_take_keeps_its_own_tuning_when_saved() {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("shrine.toml");
    for name in ["shrine.toml", "terraces.csv", "courier.csv"] {
        fs::copy(demo(name), folder.path().join(name)).expect("copied");
    }
    let mut tuning = TuningFile::of_take(Files::Disk, &path).expect("a table of the take");
    tuning.settings_mut().follow.anchor.x = 0.25;
    tuning.settings_mut().zoom.notch = 1.5;
    tuning.save().expect("saved");
    let text = fs::read_to_string(&path).expect("a file");
    let own = fs::read_to_string(demo("shrine.toml")).expect("a file");
    let new: Vec<&str> = text.lines().filter(|line| !own.lines().any(|old| old == *line)).collect();
    assert_eq!(new, ["anchor = [0.25, 0.6]", "[tuning.zoom]", "notch = 1.5"]);
    assert_eq!(Take::open(&path).expect("still a take").settings.zoom.notch, 1.5);
}

/// A built-in tuning is saved as a new file, and never over another one.
#[test]
fn what_is_built_in_becomes_a_new_file() {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("soft.toml");
    let name: &'static str = path.to_string_lossy().into_owned().leak();
    let built_in = [BuiltIn { name, text: "[zoom]\nlevel = 1.5 # near\n".into() }];
    let open = || TuningFile::read(Files::BuiltIn(&built_in), name).expect("a tuning");
    let (mut one, mut other) = (open(), open());
    assert!(!one.is_on_disk());
    one.settings_mut().zoom.level = 2.0;
    one.save().expect("saved");
    assert!(one.is_on_disk());
    assert_eq!(fs::read_to_string(&path).expect("a file"), "[zoom]\nlevel = 2.0 # near\n");
    let fault = other.save().expect_err("another file").to_string();
    assert!(fault.contains("a file with this name exists"), "{fault}");
    one.settings_mut().zoom.level = 3.0;
    one.save().expect("saved again");
    assert_eq!(fs::read_to_string(&path).expect("a file"), "[zoom]\nlevel = 3.0 # near\n");
}

/// A game that runs in a thread of its own, logs itself, and reads its tuning file.
fn game(folder: PathBuf, tuning: PathBuf, stop: Arc<AtomicBool>) -> JoinHandle<f64> {
    std::thread::spawn(move || {
        let mut tuning = TuningFile::open(&tuning).expect("a tuning");
        tuning.watch().expect("watched");
        let camera = Camera::new(tuning.settings().clone()).expect("valid");
        let options =
            LogOptions { tuning: Some(tuning.path().to_owned()), ..LogOptions::default() };
        let mut camera = RideLog::with(camera, &folder, options).expect("a log");
        let mut t = 0.0;
        while !stop.load(Ordering::Relaxed) {
            if let Some(Ok(())) = tuning.poll() {
                camera.set_settings(tuning.settings().clone(), 0.2).expect("valid");
            }
            camera.follow(1.0 / 60.0, [400.0 + 90.0 * t, 700.0]);
            t += 1.0 / 60.0;
            sleep(Duration::from_millis(16));
        }
        camera.settings().zoom.level
    })
}

/// Runs the bench as a window does, until something is so, and returns how many seconds that took.
fn until(bench: &mut Bench, what: &str, is_so: impl Fn(&Bench) -> bool) -> f64 {
    let began = Instant::now();
    while !is_so(bench) {
        assert!(began.elapsed() < Duration::from_secs(20), "{what} never came");
        frames(bench, 1.0 / 60.0, 1, Wish::default());
        sleep(Duration::from_millis(10));
    }
    began.elapsed().as_secs_f64()
}

/// The bench shows a running game; what is saved there reaches the game; a new start is a new part.
#[test]
fn a_running_game_is_followed_and_tuned() {
    let folder = tempfile::tempdir().expect("a folder");
    let (logs, tuning) = (folder.path().join("logs"), folder.path().join("courier.toml"));
    fs::copy(demo("courier.toml"), &tuning).expect("copied");
    let start = || {
        let stop = Arc::new(AtomicBool::new(false));
        (game(logs.clone(), tuning.clone(), Arc::clone(&stop)), stop)
    };
    let (first, stop) = start();
    while newest_part(&logs).is_none() {
        sleep(Duration::from_millis(20));
    }
    sleep(Duration::from_millis(200));
    let mut bench = Bench::open(Source::Log(logs.clone())).expect("a bench");
    until(&mut bench, "the game's second second", |bench| bench.time() > 2.0);
    assert!(bench.is_live());
    let (row, last) = bench.rows();
    assert!(last - row <= 18, "{} rows behind", last - row);
    let shown = bench.sides()[A].view().centre().x;
    assert!(shown > 400.0, "{shown}");
    // Somebody looks at what was, and comes back.
    bench.nudge(-60, Wish::default());
    assert!(!bench.is_live());
    bench.play_or_pause();
    let (_, last) = bench.rows();
    bench.seek(last);
    assert!(bench.is_live());
    // Saving changes the game, which logs that.
    bench.tuning.settings_mut().zoom.level = 1.5;
    bench.save();
    assert!(bench.fault.is_none(), "{:?}", bench.fault);
    let near = |bench: &Bench| bench.sides()[A].view().lens().zoom() > 1.49;
    let seconds = until(&mut bench, "the change in the game", near);
    println!("shown after {seconds:.2} s");
    stop.store(true, Ordering::Relaxed);
    assert_eq!(first.join().expect("no panic"), 1.5);
    until(&mut bench, "the end", |bench| bench.rows().0 == bench.rows().1);
    let end = bench.time();
    let (second, stop) = start();
    until(&mut bench, "a new part", |bench| bench.time() < end && bench.time() > 0.5);
    stop.store(true, Ordering::Relaxed);
    second.join().expect("no panic");
    assert!(logs.join("part-2/take.toml").is_file());
}

/// A map with walls around it, a floor, pillars and a ledge, and a take to play in it.
fn garden(kind: &str, extra: &str) -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().expect("a folder");
    let cell = |column: usize, row: usize| {
        let edge = column == 0 || column == 39 || row == 0 || row >= 22;
        let pillar = column.is_multiple_of(9) && (row % 6 > 2 || row > 18);
        if edge || pillar { "3" } else { "0" }
    };
    let row = |row: usize| (0..40).map(|column| cell(column, row)).collect::<Vec<_>>().join(",");
    let map: Vec<String> = (0..24).map(row).collect();
    fs::write(folder.path().join("map.csv"), map.join("\n")).expect("written");
    let text = format!(
        "# my garden\nmap = {{ file = \"map.csv\", tile = [16.0, 16.0] }}\n{extra}\n\
         [player]\nkind = \"{kind}\"   # as in the game\nspeed = 120.0\nsize = [12.0, 14.0]\n\
         [subjects.gardener]\nkeys = [[0.0, 72.0, 335.0], [4.0, 72.0, 335.0]]\n\
         [subjects.goose]\nkeys = [[0.0, 400.0, 200.0], [4.0, 500.0, 200.0]]\nwatch_me = 1\n"
    )
    .replace("watch_me = 1\n", "");
    let path = folder.path().join("garden.toml");
    fs::write(&path, format!("watch = [\"gardener\"]\n{text}")).expect("written");
    (folder, path)
}

/// Whatever the keys say, at any frame rate, nobody is ever inside of a filled tile.
#[test]
fn filled_tiles_are_solid_for_every_kind() {
    for (kind, fps) in
        [("runner", 60.0), ("walker", 60.0), ("flyer", 60.0), ("runner", 15.0), ("flyer", 10.0)]
    {
        let (_folder, path) = garden(kind, "");
        let mut bench = open(Source::PlayTake(path));
        bench.machine.fps = Some(fps);
        let mut roll = 12345_u32;
        let mut wish = Wish::default();
        for frame in 0..1500 {
            if frame % 7 == 0 {
                roll = roll.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
                let third = |shift: u32| f64::from(roll >> shift & 3).min(2.0) - 1.0;
                wish = Wish { way: third(9), rise: third(13), leap: roll >> 17 & 1 == 1 };
            }
            frames(&mut bench, 1.0 / fps, 1, wish);
        }
        let take = bench.take();
        let map = take.map.as_ref().expect("a map");
        let rows = take.subjects["gardener"].path.rows();
        assert!(rows.len() > 1400, "{kind}: {}", rows.len());
        for row in rows {
            for corner in [[-1.0, -1.0], [1.0, -1.0], [-1.0, 1.0], [1.0, 1.0]] {
                let at = row.position + DVec2::from(corner) * (DVec2::new(6.0, 7.0) - 1e-3);
                let cell = (at / 16.0).floor().as_i64vec2();
                let index = map.grid().index(cell.x, cell.y).expect("inside");
                assert_eq!(map.numbers()[index], 0, "{kind} at {fps}: {row:?}");
            }
        }
        let far = |axis: usize| {
            let places = || rows.iter().map(|row| row.position[axis]);
            places().fold(f64::MIN, f64::max) - places().fold(f64::MAX, f64::min)
        };
        assert!(far(0) > 60.0 && (far(1) > 30.0), "{kind}: {} {}", far(0), far(1));
        // Others go their own way.
        assert_eq!(take.subjects["goose"].path.position(2.0), DVec2::new(450.0, 200.0));
    }
}

/// A runner jumps as high as it is told, at any frame rate and with y upwards, and a walker moves in all directions.
#[test]
fn a_player_moves_as_its_numbers_say() {
    let leap = |fps: f64| {
        let (_folder, path) = garden("runner", "");
        let mut bench = open(Source::PlayTake(path));
        bench.machine.fps = Some(fps);
        let mut player = bench.player().expect("a player").clone();
        player.jump = 40.0;
        bench.set_player(player);
        frames(&mut bench, 1.0 / fps, (fps * 0.3) as u32, Wish::default());
        frames(&mut bench, 1.0 / fps, 1, Wish { leap: true, ..Wish::default() });
        frames(&mut bench, 1.0 / fps, fps as u32, Wish::default());
        let rows = bench.take().subjects["gardener"].path.rows().to_vec();
        let floor = 22.0 * 16.0 - 7.0;
        assert!((rows.last().expect("rows").position.y - floor).abs() < 1e-3, "{:?}", rows.last());
        assert_eq!(rows.last().expect("rows").grounded, Some(true));
        floor - rows.iter().map(|row| row.position.y).fold(f64::MAX, f64::min)
    };
    // A longer step gains and loses speed in larger steps: half a step of its first speed.
    for fps in [60.0, 240.0] {
        let first = 2.0 * 40.0 / 0.372;
        assert!((leap(fps) - 40.0).abs() < 0.6 * first / fps, "{} at {fps}", leap(fps));
    }
    for (y_axis, sign) in [("down", -1.0), ("up", 1.0)] {
        let extra = format!("[tuning.screen]\ny_axis = \"{y_axis}\"");
        let (_folder, path) = garden("flyer", &extra);
        let mut bench = open(Source::PlayTake(path));
        let place = |bench: &Bench| bench.take().subjects["gardener"].path.position(bench.time());
        let before = place(&bench);
        frames(&mut bench, 1.0 / 60.0, 12, Wish { rise: 1.0, ..Wish::default() });
        let moved = place(&bench) - before;
        assert!(moved.y * sign > 1.0 && moved.x == 0.0, "{y_axis}: {moved}");
    }
}

#[test]
fn a_players_numbers_are_saved_into_its_take() {
    let (_folder, path) = garden("walker", "");
    let mut bench = open(Source::PlayTake(path.clone()));
    let before = fs::read_to_string(&path).expect("there");
    let mut player = bench.player().expect("a player").clone();
    player.speed = 75.5;
    bench.set_player(player);
    frames(&mut bench, 0.0, 1, Wish::default());
    bench.undo(true);
    assert_eq!(bench.player().expect("a player").speed, 120.0);
    bench.undo(false);
    bench.save();
    assert_eq!(bench.fault, None);
    let after = fs::read_to_string(&path).expect("there");
    assert_eq!(after, before.replace("speed = 120.0", "speed = 75.5"));
    assert_eq!(bench.source().other(), Some(Source::Take(path)));
}
