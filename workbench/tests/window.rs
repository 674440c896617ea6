//! The workbench's window as a person or an accessibility tool uses it.

use std::fs;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

use eframe::egui::{
    Context, Event, Key, Modifiers, MouseWheelSource, MouseWheelUnit, Pos2, Rect, TouchPhase, Ui,
    pos2, vec2,
};
use egui_kittest::kittest::Queryable;
use egui_kittest::{Harness, SnapshotOptions};
use velvet_pan::Smoothing;
use velvet_pan_takes::Take;
use velvet_pan_workbench::model::{A, B, Bench, Source, Wish};
use velvet_pan_workbench::window::{Show, Workbench};

type Window = Harness<'static, Workbench>;

fn demo(name: &str) -> PathBuf {
    PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../terraces/demo").join(name)
}

/// A window of the workbench with this size in points, and a folder for its files.
fn window_of(source: Source, size: [f32; 2], per_point: f32) -> (Window, tempfile::TempDir) {
    let folder = tempfile::tempdir().expect("a folder");
    let format = eframe::wgpu::TextureFormat::Rgba8Unorm;
    let mut workbench = Workbench::new(Bench::open(source).expect("a bench"), format);
    workbench.folder = folder.path().to_owned();
    let mut harness = Harness::builder()
        // Around its content there are 8 pixels.
        .with_size(size.map(|side| side + 16.0 / per_point))
        .with_pixels_per_point(per_point)
        .with_context_setup(|context: &Context| context.set_visuals(velvet_pan_egui::dusk()))
        .build_ui_state(
            |ui: &mut Ui, window: &mut Workbench| window.frame(ui, 1.0 / 60.0),
            workbench,
        );
    harness.run_steps(4);
    (harness, folder)
}

fn window(source: Source) -> (Window, tempfile::TempDir) {
    window_of(source, [1280.0, 800.0], 1.0)
}

/// The demo's tuning in a folder of its own.
fn tuning() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("courier.toml");
    fs::copy(demo("courier.toml"), &path).expect("copied");
    (folder, path)
}

fn press(harness: &mut Window, keys: &[Key]) {
    for key in keys {
        harness.key_press(*key);
        harness.run_steps(2);
    }
}

fn settle(harness: &Window, side: usize) -> f64 {
    match harness.state().bench.sides()[side].camera().settings().follow.smoothing.x {
        Smoothing::Settle(seconds) => seconds,
        other => panic!("{other:?}"),
    }
}

fn set(harness: &mut Window, path: &str, value: f64) {
    harness.get_by_label(path).set_value_accesskit(value);
    harness.run_steps(4);
}

/// Waits for a result of another thread or of the disk.
fn wait(harness: &mut Window, is_there: impl Fn(&Window) -> bool) {
    let began = Instant::now();
    while !is_there(harness) {
        assert!(began.elapsed() < Duration::from_secs(20), "it never came");
        std::thread::sleep(Duration::from_millis(10));
        harness.run_steps(1);
    }
}

#[test]
fn a_slider_changes_camera_b_and_not_a() {
    let (mut harness, _folder) = window(Source::Play(None));
    set(&mut harness, "follow.smoothing settle", 0.9);
    assert_eq!((settle(&harness, A), settle(&harness, B)), (0.5, 0.9));
    press(&mut harness, &[Key::K]);
    assert_eq!(settle(&harness, A), 0.9);
}

#[test]
fn a_real_drag_is_one_step_to_undo() {
    let (mut harness, _folder) = window(Source::Play(None));
    let rect = harness.get_by_label("follow.smoothing settle").rect();
    let at = |part: f32| rect.left_center() + vec2(rect.width() * part, 0.0);
    drag(&mut harness, at(0.1), at(0.3));
    assert!(settle(&harness, B) > 0.55, "{}", settle(&harness, B));
    harness.key_press_modifiers(Modifiers::COMMAND, Key::Z);
    harness.run_steps(3);
    assert_eq!(settle(&harness, B), 0.5);
    harness.get_by_label("redo").click();
    harness.run_steps(3);
    assert!(settle(&harness, B) > 0.55);
}

#[test]
fn keys_play_pause_flip_and_compare() {
    let (mut harness, _folder) = window(Source::Play(None));
    harness.key_down(Key::ArrowRight);
    harness.run_steps(30);
    harness.key_up(Key::ArrowRight);
    let place = |harness: &Window| {
        let bench = &harness.state().bench;
        bench.take().subjects["courier"].path.position(bench.time())
    };
    let start = place(&harness);
    assert!(start.x > 220.0, "Wren stands at {start}");
    press(&mut harness, &[Key::Space]);
    harness.run_steps(6);
    assert!(place(&harness).y < start.y - 5.0, "Wren did not jump");
    press(&mut harness, &[Key::P]);
    let (row, last) = harness.state().bench.rows();
    harness.run_steps(10);
    assert_eq!(harness.state().bench.rows(), (row, last));
    press(&mut harness, &[Key::Comma, Key::Comma, Key::Period]);
    assert_eq!(harness.state().bench.rows().0, row - 1);
    press(&mut harness, &[Key::F]);
    assert_eq!(harness.state().show, Show::One(A));
    press(&mut harness, &[Key::B]);
    assert_eq!(harness.state().show, Show::Both);
    let widths =
        harness.state().bench.sides().each_ref().map(|side| side.view().window_size().width);
    assert_eq!(widths[0], widths[1]);
    assert!(widths[0] < 500);
    press(&mut harness, &[Key::R, Key::P]);
    assert!(harness.state().bench.time() < 0.1);
}

/// While a number is being typed, the game receives no keys.
#[test]
fn typing_moves_nobody() {
    let (mut harness, _folder) = window(Source::Play(None));
    harness.get_by_label("search keys").focus();
    harness.run_steps(2);
    harness.key_down(Key::D);
    harness.event(Event::Text("d".into()));
    harness.run_steps(20);
    harness.key_up(Key::D);
    press(&mut harness, &[Key::P]);
    assert!(harness.state().bench.transport.plays);
    assert_eq!(harness.state().bench.take().subjects["courier"].path.position(9.0).x, 200.0);
    press(&mut harness, &[Key::Escape, Key::P]);
    assert!(!harness.state().bench.transport.plays);
}

#[test]
fn the_pointer_drags_and_zooms_the_view() {
    let (mut harness, _folder) = window(Source::Play(None));
    let middle = harness.get_by_label("game picture").rect().center();
    let before = *harness.state().bench.sides()[B].view();
    harness.drag_at(middle);
    harness.run_steps(2);
    for step in 1..=10 {
        harness.hover_at(middle - vec2(6.0 * step as f32, 0.0));
        harness.run_steps(1);
    }
    let dragged = *harness.state().bench.sides()[B].view();
    let moved = (dragged.centre() - before.centre()).x * dragged.placement().scale;
    assert!((40.0..=60.5).contains(&moved), "dragged by 60 px, moved by {moved}");
    harness.drop_at(middle - vec2(60.0, 0.0));
    harness.run_steps(90);
    let back = harness.state().bench.sides()[B].view().centre();
    assert!(back.distance(before.centre()) < 1.0, "it did not come back: {back}");
    harness.hover_at(middle);
    harness.event(Event::MouseWheel {
        unit: MouseWheelUnit::Line,
        delta: vec2(0.0, 2.0),
        source: MouseWheelSource::Wheel,
        phase: TouchPhase::Move,
        modifiers: Modifiers::NONE,
    });
    harness.run_steps(60);
    let zooms = harness.state().bench.sides().each_ref().map(|side| side.view().lens().zoom());
    assert!(zooms[B] > 1.2 && zooms[A] == zooms[B], "{zooms:?}");
}

#[test]
fn saving_changes_one_line_and_outside_writes_come_in() {
    let (_tuning, path) = tuning();
    let own = fs::read_to_string(&path).expect("a file");
    let (mut harness, _folder) = window(Source::of_file(&path).expect("a tuning"));
    set(&mut harness, "follow.smoothing settle", 0.9);
    harness.key_press_modifiers(Modifiers::COMMAND, Key::S);
    harness.run_steps(3);
    let saved = fs::read_to_string(&path).expect("a file");
    assert_eq!(saved, own.replace("settle = 0.5 }", "settle = 0.9 }"));
    fs::write(&path, saved.replace("settle = 0.9 }", "settle = 0.75 }")).expect("written");
    wait(&mut harness, |harness| settle(harness, B) == 0.75);
    // A fault: told with its place, and the camera stays as it is.
    fs::write(&path, saved.replace("settle = 0.9 }", "setle = 0.9 }")).expect("written");
    wait(&mut harness, |harness| harness.query_by_label_contains("courier.toml:").is_some());
    let line = 1 + own.lines().position(|line| line.contains("settle = 0.5 }")).expect("a line");
    let place = format!("courier.toml:{line}:");
    assert!(harness.query_by_label_contains(&place).is_some(), "no {place}");
    assert_eq!(settle(&harness, B), 0.75);
    fs::write(&path, &own).expect("written");
    wait(&mut harness, |harness| settle(harness, B) == 0.5);
    assert!(harness.query_by_label_contains("courier.toml:").is_none());
}

#[test]
fn a_ride_that_was_played_becomes_a_take() {
    let (mut harness, folder) = window(Source::Play(None));
    harness.key_down(Key::D);
    harness.run_steps(60);
    harness.key_up(Key::D);
    harness.get_by_label("gong").click();
    harness.run_steps(60);
    press(&mut harness, &[Key::P]);
    set(&mut harness, "follow.smoothing settle", 0.3);
    harness.get_by_label("ride").click();
    harness.run_steps(2);
    let take = Take::open(folder.path().join("wren-ride-1/take.toml")).expect("a take");
    let bench = &harness.state().bench;
    assert_eq!((take.seconds, take.fps), (bench.take().seconds, 60.0));
    assert_eq!(take.settings.follow.smoothing.x, Smoothing::Settle(0.3));
    assert!(take.events.iter().any(|event| event.cue.as_deref() == Some("gong")));
    let table = fs::read_to_string(folder.path().join("wren-ride-1/ride.csv")).expect("a table");
    assert_eq!(table.lines().count() as u64, take.rows() + 1);
    // It opens in the workbench, and is the same ride.
    let there = bench.sides()[B].view().centre();
    let (mut other, _folder) = window(Source::Take(folder.path().join("wren-ride-1/take.toml")));
    other.state_mut().bench.seek(u64::MAX);
    other.state_mut().bench.transport.plays = false;
    other.run_steps(2);
    let here = other.state().bench.sides()[B].view().centre();
    assert!(here.distance(there) < 1e-9, "{here} is not {there}");
}

/// The picture of the graphics card in its corner of the window, compared with that of the CPU.
#[test]
fn the_card_shows_what_the_cpu_paints() {
    for (size, per_point) in [([1280.0, 800.0], 1.0), ([640.0, 400.0], 2.0)] {
        let (mut harness, folder) = window_of(Source::Demo("terraces.toml"), size, per_point);
        harness.run_steps(150);
        press(&mut harness, &[Key::P, Key::I]);
        let cpu = png_of(&folder.path().join("terraces-1.png"));
        let shown = harness.render().expect("a picture");
        let area = harness.get_by_label("game picture").rect();
        let corner = [area.min.x, area.min.y].map(|side| (side * per_point).round() as u32);
        let top = harness.state().bench.sides()[B].view().placement().first.y;
        let (mut differ, mut compared) = (0, 0);
        for (x, y, color) in cpu.pixels() {
            // The camera's name is written over the upper edge.
            if y > top + 30 * per_point as u32 {
                compared += 1;
                differ +=
                    u32::from(shown.get_pixel(x + corner[0], y + corner[1]).0[..3] != color[..3]);
            }
        }
        assert!(compared > 100_000, "{compared} pixels");
        assert_eq!(differ, 0, "of {compared} pixels at {per_point}");
    }
}

struct Png {
    width: u32,
    data: Vec<u8>,
}

impl Png {
    fn pixels(&self) -> impl Iterator<Item = (u32, u32, &[u8])> {
        let at = |index: u32| (index % self.width, index / self.width);
        (0..).zip(self.data.chunks(3)).map(move |(index, color)| (at(index).0, at(index).1, color))
    }
}

fn png_of(path: &Path) -> Png {
    let file = fs::File::open(path).expect("a picture");
    let mut reader = png::Decoder::new(std::io::BufReader::new(file)).read_info().expect("a PNG");
    let mut data = vec![0; reader.output_buffer_size().expect("a size")];
    let info = reader.next_frame(&mut data).expect("pixels");
    Png { width: info.width, data }
}

/// A and B on the same input, their figures side by side, and all of it in one picture.
#[test]
fn both_cameras_stand_beside_each_other() {
    let (mut harness, _folder) = window(Source::Demo("terraces.toml"));
    set(&mut harness, "follow.smoothing settle", 0.45);
    press(&mut harness, &[Key::B]);
    harness.run_steps(200);
    press(&mut harness, &[Key::P]);
    wait(&mut harness, |harness| harness.state().bench.figures_are_new());
    harness.run_steps(1);
    let [a, b] = harness.state().bench.figures().map(|figures| figures.expect("figures").clone());
    let shown = velvet_pan_takes::Figure::short;
    for value in [a.lag_mean, b.lag_mean, a.peak_speed, b.peak_speed] {
        let text = shown(value.expect("a figure"));
        assert!(harness.query_all_by_label(&text).next().is_some(), "{text} is not shown");
    }
    look_alike(&mut harness, "beside");
}

#[test]
fn the_first_start_looks_as_it_did() {
    let (mut harness, _folder) = window(Source::Play(None));
    harness.state_mut().bench.transport.plays = false;
    wait(&mut harness, |harness| harness.state().bench.figures_are_new());
    harness.run_steps(2);
    look_alike(&mut harness, "first");
}

#[test]
fn everything_is_in_its_place_at_200_percent() {
    let (mut harness, _folder) = window_of(Source::Play(None), [640.0, 400.0], 2.0);
    press(&mut harness, &[Key::F1]);
    look_alike(&mut harness, "large");
    // Nothing reaches beyond the window.
    let all = Rect::from_min_size(pos2(0.0, 0.0), vec2(648.0, 408.0));
    for label in ["game picture", "pause", "time", "search keys", "source", "A | B", "shake"] {
        let rect = harness.get_by_label(label).rect();
        assert!(all.contains_rect(rect), "{label} at {rect}");
    }
}

/// The numbers beside the curves are those of the picture: counted here tile by tile.
#[test]
fn the_drawn_tiles_and_sprites_are_counted() {
    let (mut harness, _folder) = window(Source::Demo("kite.toml"));
    press(&mut harness, &[Key::P]);
    harness.state_mut().bench.nudge(120, Wish::default());
    harness.run_steps(2);
    let bench = &harness.state().bench;
    let (take, view) = (bench.take(), *bench.sides()[B].view());
    let map = take.map.as_ref().expect("a map");
    let (grid, y_axis) = (map.grid(), take.settings.screen.y_axis);
    let shown = view.visible_world();
    let cells =
        (0..grid.rows()).flat_map(|row| (0..grid.columns()).map(move |column| (column, row)));
    let tiles = cells
        .zip(map.numbers())
        .filter(|(_, number)| **number != 0)
        .filter(|((column, row), _)| grid.tile_rect(*column, *row, y_axis).overlaps(&shown))
        .count();
    let drawn = bench.sides()[B].history.drawn().expect("counted");
    // The canvas is a pixel larger than the view.
    assert!(drawn.tiles.abs_diff(tiles) <= 22, "{drawn:?}, {tiles}");
    assert_eq!(drawn.tiles + drawn.tiles_skipped, map.numbers().len());
    assert_eq!(
        drawn.sprites + drawn.sprites_skipped,
        take.subjects.len() + take.settings.lures.len()
    );
    let text = format!("{} of {}", drawn.tiles, map.numbers().len());
    assert!(harness.query_by_label(&text).is_some(), "{text}");
}

/// A cue of the panel is an event of the take, for both cameras.
#[test]
fn the_panel_calls_a_cue() {
    let (mut harness, _folder) = window(Source::Demo("terraces.toml"));
    harness.get_by_label("search keys").focus();
    harness.get_by_label("search keys").type_text("gong");
    harness.run_steps(20);
    harness.get_by_label("call gong").click();
    harness.run_steps(10);
    let bench = &harness.state().bench;
    assert_eq!(bench.added(), 1);
    assert!(bench.sides().iter().all(|side| side.camera().is_shaking()));
}

/// Compares with an approved picture; drivers may round differently.
fn look_alike(harness: &mut Window, name: &str) {
    let options = SnapshotOptions::new()
        .threshold(4.0)
        .max_failed_pixels(600)
        .output_path(PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("tests/snapshots"));
    harness.snapshot_options(name, &options);
}

#[test]
fn another_take_is_opened_from_the_list() {
    let (mut harness, _folder) = window(Source::Play(None));
    harness.get_by_label("source").click();
    harness.run_steps(3);
    harness.get_by_label("kite").click();
    harness.run_steps(3);
    assert_eq!(*harness.state().bench.source(), Source::Demo("kite.toml"));
    assert!(!harness.state().bench.is_played());
    harness.state_mut().bench.nudge(30, Wish::default());
    harness.run_steps(2);
    assert!(harness.state().bench.fault.is_none());
}

/// A passage of a cutscene is moved by its bar and stretched by its end; only its numbers change in the file.
#[test]
fn passages_are_moved_and_stretched() {
    let folder = tempfile::tempdir().expect("a folder");
    for name in ["cutscene.toml", "courier.toml", "courier.csv", "terraces.csv"] {
        fs::copy(demo(name), folder.path().join(name)).expect("copied");
    }
    let path = folder.path().join("cutscene.toml");
    let before = fs::read_to_string(&path).expect("a take");
    let (mut harness, _folder) = window(Source::Take(path.clone()));
    let times = |harness: &Window| -> Vec<(f64, Option<f64>)> {
        harness.state().bench.take().events.iter().map(|event| (event.at, event.glide)).collect()
    };
    let own = times(&harness);
    let bar = harness.get_by_label("travel: 8.00 to 11.00 s").rect();
    let second = bar.width() / 3.0;
    let picture = |harness: &Window| harness.get_by_label("game picture").rect();
    let shown = picture(&harness);
    drag(&mut harness, bar.center(), bar.center() - vec2(2.0 * second, 0.0));
    let [(at, Some(glide)), ..] = times(&harness)[..] else { panic!("{:?}", times(&harness)) };
    assert!((at - 6.0).abs() < 0.15 && glide == 3.0, "{at}");
    let end = harness.get_by_label_contains("end of the travel").rect().center();
    drag(&mut harness, end, end + vec2(second, 0.0));
    let (_, glide) = times(&harness)[0];
    assert!(glide.is_some_and(|glide| (glide - 4.0).abs() < 0.15), "{glide:?}");
    assert_eq!(picture(&harness), shown, "nothing else moves");
    let stretched = times(&harness);
    harness.key_press_modifiers(Modifiers::COMMAND, Key::Z);
    harness.run_steps(2);
    assert_eq!(times(&harness)[0], (at, Some(3.0)));
    harness.key_press_modifiers(Modifiers::COMMAND, Key::Y);
    harness.run_steps(2);
    assert_eq!(times(&harness), stretched);
    // Past the bell: the two change places, with their comments.
    let bar = harness.get_by_label_contains("travel: ").rect();
    drag(&mut harness, bar.center(), bar.center() + vec2(6.0 * second, 0.0));
    assert_eq!(times(&harness)[0], own[1]);
    harness.get_by_label("save times").click();
    harness.run_steps(2);
    assert!(harness.query_by_label("save times").is_none());
    assert_eq!(harness.state().bench.fault.as_ref().map(ToString::to_string), None);
    let after = fs::read_to_string(&path).expect("a take");
    let saved = Take::open(&path).expect("a take").events;
    assert_eq!(saved, harness.state().bench.take().events);
    let mut lines = [before, after].map(|text| text.lines().map(str::to_owned).collect::<Vec<_>>());
    lines.iter_mut().for_each(|lines| lines.sort());
    let [before, after] = lines;
    let changed = after.iter().filter(|line| !before.contains(line));
    assert_eq!((changed.count(), after.len()), (2, before.len()), "only two numbers changed");
}

/// A drag of the mouse's first button.
fn drag(harness: &mut Window, from: Pos2, to: Pos2) {
    harness.drag_at(from);
    harness.run_steps(2);
    for part in 1..=4 {
        harness.hover_at(from + (to - from) * (part as f32 / 4.0));
        harness.run_steps(2);
    }
    harness.drop_at(to);
    harness.run_steps(3);
}

/// A level that is one picture, and a take to play in it, in a folder of its own.
fn meadow() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().expect("a folder");
    let file = fs::File::create(folder.path().join("meadow.png")).expect("a file");
    let mut encoder = png::Encoder::new(file, 800, 400);
    encoder.set_color(png::ColorType::Rgb);
    let bytes: Vec<u8> =
        (0..800 * 400).flat_map(|at| [40, 90 + (at / 50 % 8) as u8 * 8, 60]).collect();
    encoder.write_header().expect("written").write_image_data(&bytes).expect("written");
    let camera = "[bounds]\nrect = [0.0, 0.0, 800.0, 400.0]\n\n[[zones]]\n\
        rect = [160.0, 80.0, 64.0, 32.0]   # the pond\nzoom = 2.0   # look closely\n";
    fs::write(folder.path().join("camera.toml"), camera).expect("written");
    let take = "tuning = \"camera.toml\"\n[pictures]\nlevel = { file = \"meadow.png\" }\n\
        [player]\nkind = \"flyer\"\n[subjects.heron]\nkeys = [[0.0, 200.0, 200.0]]\n";
    let path = folder.path().join("meadow.toml");
    fs::write(&path, take).expect("written");
    (folder, path)
}

/// Where a world point of the meadow is in the overview, which shows all of it below and right of its rulers.
fn in_overview(harness: &Window, world: [f32; 2]) -> Pos2 {
    let rect = harness.get_by_label("overview of the level").rect();
    let picture = Rect::from_min_max(rect.min + vec2(18.0, 18.0), rect.max);
    let scale = (picture.width() / 800.0).min(picture.height() / 400.0) * 0.96;
    picture.center() + vec2(world[0] - 400.0, world[1] - 200.0) * scale
}

fn zone(harness: &Window) -> [f64; 4] {
    let rect = harness.state().bench.tuning.settings().zones[0].rect;
    [rect.min.x, rect.min.y, rect.size().x, rect.size().y]
}

/// The whole way: the overview, a zone resized and moved by mouse, by keyboard and by number, undone, saved with its
/// comments, and felt by the player.
#[test]
fn a_zone_is_edited_where_it_is_seen() {
    let (folder, path) = meadow();
    let (mut harness, _folder) = window(Source::PlayTake(path));
    press(&mut harness, &[Key::V, Key::E]);
    assert!(!harness.state().bench.transport.plays, "the ride pauses");
    let before = harness.state().bench.sides()[B].view().centre();
    let click = |harness: &mut Window, world: [f32; 2]| {
        let at = in_overview(harness, world);
        harness.hover_at(at);
        harness.drag_at(at);
        harness.drop_at(at);
        harness.run_steps(3);
    };
    click(&mut harness, [160.0, 96.0]);
    assert!(harness.query_by_label("remove zone 0").is_some(), "it is selected");
    let [from, to] = [[224.0, 112.0], [300.0, 200.0]].map(|world| in_overview(&harness, world));
    drag(&mut harness, from, to);
    let [x, y, width, height] = zone(&harness);
    assert_eq!([x, y], [160.0, 80.0]);
    // To a point of the screen, on whole units.
    assert!((width - 140.0).abs() < 6.0 && (height - 120.0).abs() < 6.0, "{width} x {height}");
    assert_eq!([width.fract(), height.fract()], [0.0; 2]);
    press(&mut harness, &[Key::ArrowRight, Key::ArrowRight, Key::ArrowDown]);
    assert_eq!(zone(&harness), [162.0, 81.0, width, height]);
    harness.key_press_modifiers(Modifiers::SHIFT, Key::ArrowLeft);
    harness.run_steps(3);
    assert_eq!(zone(&harness), [162.0, 81.0, width - 1.0, height]);
    harness.key_press_modifiers(Modifiers::COMMAND, Key::Z);
    harness.run_steps(3);
    assert_eq!(zone(&harness), [162.0, 81.0, width, height]);
    set(&mut harness, "zone 0 height", 90.0);
    assert_eq!(zone(&harness), [162.0, 81.0, width, 90.0]);
    // The wheel and the drag of the overview move nothing that is tuned.
    let at = in_overview(&harness, [600.0, 300.0]);
    drag(&mut harness, at, at + vec2(-30.0, 10.0));
    assert_eq!(harness.state().bench.sides()[B].view().centre(), before);
    harness.key_press_modifiers(Modifiers::COMMAND, Key::S);
    harness.run_steps(3);
    let text = fs::read_to_string(folder.path().join("camera.toml")).expect("there");
    let rect = format!("rect = [162.0, 81.0, {width:.1}, 90.0]   # the pond\n");
    assert!(text.contains(&rect) && text.contains("zoom = 2.0   # look closely"), "{text}");
}

#[test]
fn places_are_added_doubled_and_removed() {
    let (_meadow, path) = meadow();
    let (mut harness, _folder) = window(Source::Take(path));
    press(&mut harness, &[Key::E]);
    for (button, name) in [
        ("+ part of bounds", "remove part 1"),
        ("+ room", "remove room 0"),
        ("+ lure", "remove lure 0"),
        ("+ rail point", "remove rail point 1"),
        ("+ zone", "remove zone 1"),
    ] {
        harness.get_by_label(button).click();
        harness.run_steps(3);
        assert!(harness.query_by_label(name).is_some(), "{button}");
        harness.get_by_label("duplicate").click();
        harness.run_steps(3);
    }
    let counts = |harness: &Window| {
        let settings = harness.state().bench.tuning.settings().clone();
        assert!(settings.validate().is_ok());
        let rooms = settings.rooms.map_or(0, |rooms| rooms.list.len());
        let points = settings.rail.map_or(0, |rail| rail.points.len());
        [rooms, settings.lures.len(), points, settings.zones.len()]
    };
    assert_eq!(counts(&harness), [2, 2, 3, 3]);
    let level = harness.state().bench.tuning.settings().outlines["level"].clone();
    assert_eq!((level.parts.len(), level.parts[0].size()), (3, [800.0, 400.0].into()));
    for _ in 0..2 {
        harness.get_by_label_contains("remove zone").click();
        harness.run_steps(3);
        harness.get_by_label("zone 0").click();
        harness.run_steps(3);
    }
    assert_eq!(counts(&harness), [2, 2, 3, 1]);
    harness.key_press_modifiers(Modifiers::COMMAND, Key::Z);
    harness.run_steps(3);
    assert_eq!(counts(&harness), [2, 2, 3, 2]);
}

/// Curves stay when A and B are shown side by side.
#[test]
fn curves_stay_when_the_picture_changes_its_size() {
    let (mut harness, _folder) = window(Source::Take(demo("terraces.toml")));
    harness.run_steps(120);
    let seconds = |harness: &Window| harness.state().bench.sides()[B].history.seconds();
    let before = seconds(&harness);
    assert!(before > 1.5, "{before}");
    press(&mut harness, &[Key::B, Key::V]);
    assert!(seconds(&harness) >= before);
}
