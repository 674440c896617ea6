//! The panel as a person or an accessibility tool uses it.

use std::fs;
use std::path::PathBuf;

use egui_kittest::Harness;
use egui_kittest::kittest::{NodeT, Queryable};
use velvet_pan_egui::velvet_pan::glam::DVec2;
use velvet_pan_egui::velvet_pan::{Camera, HandReturn, Smoothing, View};
use velvet_pan_egui::velvet_pan_takes::TuningFile;
use velvet_pan_egui::{
    Drawn, Handle, History, Marks, PanelResponse, Place, PlaceKind, drawn_label, dusk, egui,
    overlay, strips, tuning_panel,
};

const TEXT: &str = "\
# Wren's camera.
[zoom]
half_life = 0.15 # soft

[follow]
smoothing = { half_life = 0.12 }
";

/// A game with a panel, and what it keeps.
struct Game {
    _folder: tempfile::TempDir,
    path: PathBuf,
    tuning: TuningFile,
    camera: Camera,
    answer: PanelResponse,
    called: Vec<String>,
}

impl Game {
    fn new(text: &str) -> Self {
        let folder = tempfile::tempdir().expect("a folder");
        let path = folder.path().join("courier.toml");
        fs::write(&path, text).expect("written");
        let tuning = TuningFile::open(&path).expect("a tuning");
        let camera = Camera::new(tuning.settings().clone()).expect("valid settings");
        let answer = PanelResponse::default();
        Self { _folder: folder, path, tuning, camera, answer, called: Vec::new() }
    }

    fn show(&mut self, ui: &mut egui::Ui) {
        let answer = tuning_panel(ui, &mut self.tuning);
        if answer.changed && answer.refused.is_none() {
            self.camera.set_settings(self.tuning.settings().clone(), 0.2).expect("checked");
        }
        self.called.extend(answer.called.iter().cloned());
        self.answer = answer;
    }
}

/// A panel with the width that it must fit into.
fn harness(text: &str) -> Harness<'static, Game> {
    let mut harness = Harness::builder()
        .with_size([360.0, 1000.0])
        .with_context_setup(|ctx: &egui::Context| ctx.set_visuals(dusk()))
        .build_ui_state(|ui, game: &mut Game| game.show(ui), Game::new(text));
    harness.run_steps(4);
    harness
}

fn open(harness: &mut Harness<'static, Game>, group: &str) {
    harness.get_by_label(group).click();
    harness.run_steps(20); // until it has unfolded
}

#[test]
fn a_slider_by_its_name_changes_the_camera() {
    let mut harness = harness(TEXT);
    open(&mut harness, "Zoom and rotation");
    harness.get_by_label("zoom.half_life").set_value_accesskit(0.5);
    harness.run_steps(4);
    let game = harness.state();
    assert_eq!(game.tuning.settings().zoom.half_life, 0.5);
    assert_eq!(game.camera.settings().zoom.half_life, 0.5);
}

#[test]
fn a_real_drag_moves_a_slider() {
    let mut harness = harness(TEXT);
    let rect = harness.get_by_label("follow.smoothing half_life").rect();
    let before = harness.state().camera.settings().follow.smoothing;
    harness.drag_at(rect.left_center() + egui::vec2(rect.width() * 0.1, 0.0));
    harness.run_steps(2);
    for step in 1..=10 {
        let at = rect.left_center() + egui::vec2(rect.width() * 0.04 * step as f32, 0.0);
        harness.hover_at(at);
        harness.run_steps(1);
    }
    harness.drop_at(rect.left_center() + egui::vec2(rect.width() * 0.4, 0.0));
    harness.run_steps(2);
    let Smoothing::HalfLife(seconds) = harness.state().camera.settings().follow.smoothing.x else {
        panic!("another smoothing");
    };
    assert_ne!(harness.state().camera.settings().follow.smoothing, before);
    assert!((0.2..1.0).contains(&seconds), "{seconds}");
}

#[test]
fn saving_changes_one_line_and_keeps_comments() {
    let mut harness = harness(TEXT);
    open(&mut harness, "Zoom and rotation");
    harness.get_by_label("zoom.half_life").set_value_accesskit(0.5);
    harness.run_steps(4);
    assert!(harness.query_by_label("not saved").is_some());
    assert!(harness.query_by_label("zoom.half_life is not saved").is_some());
    harness.get_by_label("Save").click();
    harness.run_steps(4);
    let text = fs::read_to_string(&harness.state().path).expect("a file");
    assert_eq!(text, TEXT.replace("0.15", "0.5"));
    assert!(harness.query_by_label_contains("not saved").is_none());
}

#[test]
fn revert_and_reset_go_back() {
    let mut harness = harness(TEXT);
    open(&mut harness, "Zoom and rotation");
    harness.get_by_label("zoom.half_life").set_value_accesskit(0.5);
    harness.run_steps(4);
    harness.get_by_label("Revert").click();
    harness.run_steps(4);
    assert_eq!(harness.state().camera.settings().zoom.half_life, 0.15);
    harness.get_by_label("reset follow.smoothing").click();
    harness.run_steps(4);
    assert_eq!(harness.state().camera.settings().follow.smoothing, Smoothing::None.into());
}

#[test]
fn an_optional_table_is_switched_on_and_off() {
    let mut harness = harness(TEXT);
    assert!(harness.query_by_label("follow.look_ahead.turn_after").is_none());
    harness.get_by_label("follow.look_ahead").click();
    harness.run_steps(4);
    assert!(harness.state().camera.settings().follow.look_ahead.is_some());
    harness.get_by_label("follow.look_ahead.turn_after").set_value_accesskit(0.3);
    harness.run_steps(4);
    let ahead = harness.state().camera.settings().follow.look_ahead;
    assert_eq!(ahead.map(|ahead| ahead.turn_after), Some(0.3));
    harness.get_by_label("follow.look_ahead").click();
    harness.run_steps(4);
    assert_eq!(harness.state().camera.settings().follow.look_ahead, None);
}

#[test]
fn the_search_box_finds_keys_and_their_help() {
    let mut harness = harness(TEXT);
    harness.get_by_label("search keys").focus();
    harness.run_steps(2);
    harness.get_by_label("search keys").type_text("notch");
    harness.run_steps(20);
    assert!(harness.query_by_label("zoom.notch").is_some());
    assert!(harness.query_by_label("zoom.half_life").is_none());
    assert!(harness.query_by_label("Following").is_none());
}

#[test]
fn what_does_not_fit_is_said_and_not_taken() {
    let mut harness = harness(TEXT);
    open(&mut harness, "Zoom and rotation");
    harness.state_mut().tuning.settings_mut().zoom.level = 9.0;
    harness.run_steps(4);
    let refused = harness.state().answer.refused.clone().expect("a refusal");
    assert_eq!(refused.field(), "zoom.level");
    assert!(harness.query_by_label_contains("zoom.level = 9").is_some());
    assert_eq!(harness.state().camera.settings().zoom.level, 1.0);
}

#[test]
fn the_keyboard_alone_changes_a_number() {
    let mut harness = harness(TEXT);
    // To the number by the tab key, then typing it.
    let focused = |harness: &Harness<'static, Game>| {
        let node = harness.query_by_label("follow.anchor x");
        node.is_some_and(|node| node.is_focused())
    };
    for _press in 0..20 {
        if focused(&harness) {
            break;
        }
        harness.key_press(egui::Key::Tab);
        harness.run_steps(2);
    }
    assert!(focused(&harness));
    harness.event(egui::Event::Text("0.25".into()));
    harness.run_steps(2);
    harness.key_press(egui::Key::Enter);
    harness.run_steps(4);
    assert_eq!(harness.state().camera.settings().follow.anchor.x, 0.25);
}

#[test]
fn a_choice_without_its_name_in_the_file_keeps_its_form() {
    let mut harness = harness("[hands]\nreturn = 0.4 # quick\n");
    open(&mut harness, "Moving by hand");
    harness.get_by_label("hands.return seconds").set_value_accesskit(1.0);
    harness.run_steps(4);
    assert_eq!(harness.state().camera.settings().hands.back, HandReturn::Seconds(1.0));
    harness.get_by_label("Save").click();
    harness.run_steps(4);
    let text = fs::read_to_string(&harness.state().path).expect("a file");
    assert_eq!(text, "[hands]\nreturn = 1.0 # quick\n");
}

/// With every group open, nothing is wider than the panel.
#[test]
fn everything_fits_into_its_width() {
    let demo = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../terraces/demo/courier.toml");
    let text = fs::read_to_string(demo).expect("the demo's tuning");
    let mut harness = harness(&text);
    harness.set_size([360.0, 6000.0].into());
    for group in [
        "World bounds",
        "Zoom and rotation",
        "Screen and pixels",
        "Layers",
        "Shakes",
        "Cues",
        "Several subjects",
        "Rooms, rails and places",
        "Moving by hand",
    ] {
        open(&mut harness, group);
    }
    let widest = harness
        .root()
        .children_recursive()
        .filter_map(|node| node.accesskit_node().bounding_box())
        .map(|rect| rect.x1)
        .filter(|right| right.is_finite())
        .fold(0.0, f64::max);
    // The harness has a margin of 8 around it.
    assert!(widest > 300.0 && widest <= 360.0 + 2.0, "{widest}");
    look_at(&mut harness, "everything");
}

/// A button calls a cue at once, and changes nothing.
#[test]
fn a_button_calls_a_cue() {
    let mut harness = harness("[cues.gong.shake]\nreach = [6.0, 3.0]\n[cues.hit]\npause = 0.1\n");
    open(&mut harness, "Cues");
    harness.get_by_label("call gong").click();
    harness.step();
    harness.step();
    let called = |harness: &Harness<'static, Game>| harness.state().called.clone();
    assert_eq!(called(&harness), ["gong"]);
    harness.run_steps(4);
    assert_eq!(called(&harness), ["gong"], "once");
    assert!(harness.query_by_label("call hit").is_some() && !harness.state().answer.changed);
}

/// Writes a picture if one is requested.
fn look_at<State>(harness: &mut Harness<'_, State>, name: &str) {
    if let Some(folder) = std::env::var_os("VELVET_PAN_PICTURES") {
        let picture = harness.render().expect("a picture");
        picture.save(PathBuf::from(folder).join(format!("{name}.png"))).expect("written");
    }
}

/// The overlay and the strips draw over a ride, and show what is switched on.
#[test]
fn overlay_and_strips_show_a_ride() {
    struct Ride {
        camera: Camera,
        view: View,
        history: History,
        marks: Marks,
    }
    let settings = Game::new(TEXT).tuning.settings().clone();
    let mut camera = Camera::new(settings).expect("valid settings");
    camera.resize((640, 360));
    let mut history = History::new(4.0);
    let mut view = camera.view();
    for frame in 0..300 {
        let subject = [f64::from(frame) * 1.5, 100.0 + (f64::from(frame) / 20.0).sin() * 20.0];
        view = camera.follow(1.0 / 60.0, subject);
        history.add(&camera, &view, 1.0 / 60.0);
        let tiles = 200 + frame as usize % 21;
        history.add_drawn(Drawn { tiles, tiles_skipped: 14_000, sprites: 3, sprites_skipped: 9 });
    }
    let ride = Ride { camera, view, history, marks: Marks::default() };
    let mut harness = Harness::builder()
        .with_size([640.0, 800.0])
        .with_context_setup(|ctx: &egui::Context| ctx.set_visuals(dusk()))
        .build_ui_state(
            |ui, ride: &mut Ride| {
                let (rect, _) = ui.allocate_exact_size([640.0, 360.0].into(), egui::Sense::hover());
                overlay(ui.painter(), &ride.camera, &ride.view, rect.min, &ride.marks);
                let drawn = ride.history.drawn().expect("told");
                drawn_label(ui.painter(), &drawn, rect.left_bottom());
                velvet_pan_egui::mark_switches(ui, &mut ride.marks);
                strips(ui, &ride.history);
            },
            ride,
        );
    harness.run_steps(4);
    assert!(harness.query_by_label("lag").is_some());
    assert!(harness.query_by_label("view ahead").is_some());
    assert!(harness.query_by_label("205 of 14205").is_some());
    assert!(harness.query_by_label("3 of 12").is_some());
    harness.get_by_label("deadzone").click();
    harness.run_steps(4);
    assert!(!harness.state().marks.shows(velvet_pan_egui::velvet_pan::MarkKind::Deadzone));
    look_at(&mut harness, "ride");
}

const WORLD: &str = "\
[bounds]
rect = [0.0, 0.0, 640.0, 360.0]
[rooms]
list = [[0.0, 0.0, 320.0, 180.0]]
[[zones]]
rect = [40.0, 30.0, 80.0, 50.0]
[[lures]]
at = [200.0, 90.0]
radius = 60.0
[rail]
points = [[10.0, 20.0], [300.0, 160.0]]
[follow]
deadzone = { left = 0.1, right = 0.2, top = 0.05, bottom = 0.15 }
leash = [0.4, 0.3]
";

fn tuning(text: &str) -> TuningFile {
    Game::new(text).tuning
}

/// What is not moved keeps its numbers, on both kinds of screens, and what is moved can be moved back.
#[test]
fn a_place_is_where_it_was_put() {
    let outlined = WORLD.replace(
        "rect = [0.0, 0.0, 640.0, 360.0]\n",
        "outline = \"cellar\"\n[outlines.cellar]\nparts = [[0.0, 0.0, 640.0, 360.0]]\n",
    );
    for (y_axis, world) in [("down", WORLD), ("up", WORLD), ("up", &outlined)] {
        let mut tuning = tuning(&format!("{world}[screen]\ny_axis = \"{y_axis}\"\n"));
        let mut camera = Camera::new(tuning.settings().clone()).expect("valid");
        let view = camera.follow(0.0, [200, 100]).steady();
        let settings = tuning.settings_mut();
        let before = settings.clone();
        let all: Vec<Place> =
            Place::all(settings).into_iter().chain(Place::on_screen(settings)).collect();
        assert_eq!(all.len(), 6 + 3);
        for place in all {
            let shape = place.shape(settings, Some(&view)).expect("there");
            place.set_shape(settings, shape, Some(&view));
            assert!(*settings == before, "{y_axis}: {place:?}");
            for (handle, at) in shape.handles() {
                let to = at + DVec2::new(16.0, 9.0);
                let moved = shape.dragged(handle, (at, to), |at| at);
                place.set_shape(settings, moved, Some(&view));
                assert!(*settings != before, "{y_axis}: {place:?} by {handle:?}");
                assert!(settings.validate().is_ok(), "{y_axis}: {place:?} by {handle:?}");
                before.clone_into(settings);
            }
        }
    }
}

/// Bounds of one rectangle become an outline with it, which goes with its last part.
#[test]
fn an_outline_is_made_of_parts() {
    let mut tuning = tuning(WORLD);
    let settings = tuning.settings_mut();
    let (at, size) = (DVec2::new(700.0, 400.0), DVec2::new(200.0, 300.0));
    let part = Place::add(settings, PlaceKind::Part, at, size);
    assert_eq!((part, part.name()), (Place::Part(1), "part 1".to_owned()));
    assert!(settings.validate().is_ok() && !Place::Bounds.is_there(settings));
    let copy = part.duplicate(settings, DVec2::new(0.0, 300.0)).expect("a copy");
    assert_eq!(copy, Place::Part(2));
    let extent = settings.extent(&settings.bounds.expect("bounds")).expect("there");
    assert_eq!((extent.min, extent.max), (DVec2::ZERO, DVec2::new(800.0, 850.0)));
    for _part in 0..3 {
        assert!(settings.validate().is_ok());
        Place::Part(0).delete(settings);
    }
    assert!(settings.bounds.is_none() && settings.outlines.is_empty());
}

/// The view's edges of the deadzone move by what the pointer moves, in fractions of the screen.
#[test]
fn the_deadzone_is_dragged_in_the_cameras_view() {
    let mut tuning = tuning(WORLD);
    let mut camera = Camera::new(tuning.settings().clone()).expect("valid");
    let view = camera.follow(0.0, [320, 180]).steady();
    let settings = tuning.settings_mut();
    let shape = Place::Deadzone.shape(settings, Some(&view)).expect("there");
    let (_, corner) = shape.handles()[0];
    let moved =
        shape.dragged(Handle::Corner(0), (corner, corner - DVec2::new(16.0, 18.0)), |at| at);
    Place::Deadzone.set_shape(settings, moved, Some(&view));
    let zone = settings.follow.deadzone;
    let now = [zone.left, zone.right, zone.top, zone.bottom];
    for (side, expected) in now.into_iter().zip([0.15, 0.2, 0.15, 0.15]) {
        assert!((side - expected).abs() < 2e-3, "{now:?}");
    }
    let leash = Place::Leash.shape(settings, Some(&view)).expect("there");
    let (_, corner) = leash.handles()[2];
    let moved =
        leash.dragged(Handle::Corner(2), (corner, corner - DVec2::new(32.0, 18.0)), |at| at);
    Place::Leash.set_shape(settings, moved, Some(&view));
    let reach = settings.follow.leash.expect("a leash").0;
    assert!((reach - DVec2::new(0.3, 0.2)).abs().max_element() < 2e-3, "{reach}");
}

/// Inside out, to nothing, out of the world: there is a place that can be used.
#[test]
fn no_drag_breaks_a_place() {
    let mut tuning = tuning(WORLD);
    let settings = tuning.settings_mut();
    let before = settings.clone();
    for place in Place::all(settings) {
        let shape = place.shape(settings, None).expect("there");
        for (handle, at) in shape.handles() {
            let far = [DVec2::ZERO, DVec2::splat(-1e12), DVec2::new(1e300, -1e300), at, -at];
            let middle = shape.handles().last().expect("a middle").1;
            for to in far.into_iter().chain([middle, middle - (at - middle)]) {
                let moved = shape.dragged(handle, (at, to), |at| at);
                place.set_shape(settings, moved, None);
                assert!(settings.validate().is_ok(), "{place:?} by {handle:?} to {to}: {moved:?}");
                before.clone_into(settings);
            }
        }
    }
    // All of them go, and nothing is left of them.
    while let Some(place) = Place::all(settings).last() {
        place.delete(settings);
        assert!(settings.validate().is_ok(), "without {place:?}");
    }
    for kind in PlaceKind::ALL {
        let size = DVec2::new(64.0, 32.0);
        let place = Place::add(settings, kind, DVec2::new(100.0, 50.0), size);
        assert!(place.is_there(settings) && settings.validate().is_ok(), "{kind:?}");
    }
}
