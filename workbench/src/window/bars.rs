//! The bars of buttons: the source, the playback, and the simulated machine.

use eframe::egui::{Button, ComboBox, Rangef, Response, Role, Slider, Ui, WidgetInfo};
use velvet_pan::{Snap, WindowSize};
use velvet_pan_egui::mark_switches;

use super::{Show, Workbench, passages};
use crate::model::{A, B, Source, Transport, Wish};

/// What is ridden, which camera is shown, and buttons to write files.
pub fn source_bar(window: &mut Workbench, ui: &mut Ui) {
    ui.horizontal_wrapped(|ui| {
        pick_source(window, ui);
        if matches!(window.bench.source(), Source::Play(_)) {
            pick_subject(window, ui);
        }
        ui.separator();
        for (show, name, hint) in [
            (Show::One(A), "A", "the camera with the kept settings (F switches)"),
            (Show::One(B), "B", "the camera with the current settings (F switches)"),
            (Show::Both, "A | B", "both side by side, on the same input (B)"),
        ] {
            if ui.selectable_label(window.show == show, name).on_hover_text(hint).clicked() {
                window.show = show;
            }
        }
        if ui.button("keep as A").on_hover_text("keep the current settings as A (K)").clicked() {
            window.bench.keep();
        }
        ui.separator();
        let [can_undo, can_redo] = window.bench.can_undo();
        if ui.add_enabled(can_undo, Button::new("undo")).on_hover_text("Ctrl+Z").clicked() {
            window.bench.undo(true);
        }
        if ui.add_enabled(can_redo, Button::new("redo")).on_hover_text("Ctrl+Y").clicked() {
            window.bench.undo(false);
        }
        ui.separator();
        if ui.button("picture").on_hover_text("save the picture as a PNG file (I)").clicked() {
            window.write_picture();
        }
        if ui
            .button("ride")
            .on_hover_text("save the take, its tuning and the table of the ride in a folder")
            .clicked()
        {
            window.write_ride();
        }
        ui.separator();
        ui.toggle_value(&mut window.shows_marks, "marks")
            .on_hover_text("deadzone, goal, bounds and more (O)");
        if window.shows_marks {
            ui.menu_button("kinds", |ui| mark_switches(ui, &mut window.marks));
        }
        ui.toggle_value(&mut window.shows_overview, "overview")
            .on_hover_text("the whole level: the view, places, paths (V); double-click: all of it");
        let mut edits = window.edits;
        if ui
            .toggle_value(&mut edits, "edit")
            .on_hover_text("select and drag bounds, rooms, zones, lures and rail points (E)")
            .changed()
        {
            window.edit(edits);
        }
        ui.toggle_value(&mut window.shows_figures, "figures");
        ui.toggle_value(&mut window.shows_hints, "keys").on_hover_text("F1");
        if let Some(news) = &window.news {
            ui.weak(news);
        }
    });
}

fn pick_source(window: &mut Workbench, ui: &mut Ui) {
    let now = window.bench.source().clone();
    let mut picked = None;
    let mut sources: Vec<Source> =
        [Source::Play(None)].into_iter().chain(Source::demos()).collect();
    if !sources.contains(&now) {
        sources.splice(0..0, [Some(now.clone()), now.other()].into_iter().flatten());
    }
    let answer = ComboBox::from_id_salt("source").selected_text(now.name()).show_ui(ui, |ui| {
        for source in &sources {
            if ui.selectable_label(*source == now, source.name()).clicked() {
                picked = Some(source.clone());
            }
        }
    });
    name(&answer.response, Role::ComboBox, "source");
    if let Some(source) = picked {
        window.open(source);
    }
}

fn pick_subject(window: &mut Workbench, ui: &mut Ui) {
    const CHOICES: [(&str, &[&str]); 3] = [
        ("follow Wren", &["courier"]),
        ("follow the kite", &["kite"]),
        ("frame both", &["courier", "kite"]),
    ];
    let watched = window.bench.watched();
    let now = CHOICES.iter().find(|(_, names)| watched == *names).map_or("", |(text, _)| text);
    let answer = ComboBox::from_id_salt("subject").selected_text(now).show_ui(ui, |ui| {
        for (text, names) in CHOICES {
            if ui.selectable_label(text == now, text).clicked() {
                window.bench.watch(names);
            }
        }
    });
    name(&answer.response, Role::ComboBox, "followed subject");
}

/// In a window narrower than this, in points, a bar takes more rows.
const NARROW: f32 = 640.0;

/// How the take is played.
pub fn transport_bar(window: &mut Workbench, ui: &mut Ui) {
    let is_narrow = ui.available_width() < NARROW;
    let beside = |window: &mut Workbench, ui: &mut Ui| {
        run_buttons(window, ui);
        (!is_narrow).then(|| time_slider(window, ui))
    };
    let times = ui.horizontal(|ui| beside(window, ui)).inner;
    let times = times.unwrap_or_else(|| ui.horizontal(|ui| time_slider(window, ui)).inner);
    passages::show(ui, times, &mut window.bench, &mut window.passage);
}

fn run_buttons(window: &mut Workbench, ui: &mut Ui) {
    let bench = &mut window.bench;
    let text = if bench.transport.plays { "pause" } else { "play" };
    if ui.button(text).on_hover_text("P").clicked() {
        bench.play_or_pause();
    }
    if ui.button("-1").on_hover_text("one frame back (,)").clicked() {
        bench.nudge(-1, Wish::default());
    }
    if ui.button("+1").on_hover_text("one frame forwards (.)").clicked() {
        bench.nudge(1, Wish::default());
    }
    let Transport { slow, loops, .. } = &mut bench.transport;
    ui.toggle_value(slow, "½").on_hover_text("half speed (H)");
    ui.toggle_value(loops, "loop").on_hover_text("start again at the end (L)");
    if ui.button("restart").on_hover_text("start from the beginning (R)").clicked() {
        bench.again();
    }
}

/// Returns the range of x in which the slider's handle moves.
fn time_slider(window: &mut Workbench, ui: &mut Ui) -> Rangef {
    let bench = &mut window.bench;
    let (mut row, last) = bench.rows();
    let text = match bench.is_live() {
        true => format!("{:8.2} s, live", bench.time()),
        false => format!("{:6.2} of {:.1} s", bench.time(), bench.take().seconds),
    };
    ui.spacing_mut().slider_width = (ui.available_width() - 130.0).max(60.0);
    let slider = ui.add(Slider::new(&mut row, 0..=last.max(1)).show_value(false));
    name(&slider, Role::Slider, "time");
    if slider.changed() {
        bench.transport.plays = false;
        bench.seek(row);
    }
    ui.monospace(text).on_hover_text(match bench.is_live() {
        true => "the game as it runs now; drag the slider to look at what was",
        false => "the time of the ride",
    });
    // The handle's middle moves from half its width after the left end to half its width before the right one.
    slider.rect.x_range().shrink(slider.rect.height() / 2.5)
}

/// The simulated machine, and the shakes.
pub fn machine_bar(window: &mut Workbench, ui: &mut Ui) {
    if ui.available_width() < NARROW {
        ui.horizontal(|ui| machine(window, ui));
        ui.horizontal(|ui| drawing(window, ui));
        ui.horizontal_wrapped(|ui| shakes(window, ui));
    } else {
        ui.horizontal_wrapped(|ui| {
            machine(window, ui);
            drawing(window, ui);
            ui.separator();
            shakes(window, ui);
        });
    }
}

fn machine(window: &mut Workbench, ui: &mut Ui) {
    pick_fps(window, ui);
    if ui.button("hitch").on_hover_text("a frame of 0.25 s (T)").clicked() {
        window.bench.hitch();
    }
    pick_window(window, ui);
}

fn drawing(window: &mut Workbench, ui: &mut Ui) {
    pick_snap(window, ui);
    pick_intensity(window, ui);
}

fn shakes(window: &mut Workbench, ui: &mut Ui) {
    if ui.button("shake").on_hover_text("a shake that does not depend on the tuning (X)").clicked()
    {
        window.bench.shake();
    }
    let cues = window.bench.tuning.settings().cues.keys();
    let names: Vec<String> = cues.map(ToString::to_string).collect();
    for cue in names {
        if ui.button(cue.as_str()).on_hover_text("a cue of the tuning").clicked() {
            window.bench.cue(&cue);
        }
    }
    if window.bench.is_retimed() {
        let hint = "write the times of the passages into the take's file (Ctrl+S)";
        if ui.button("save times").on_hover_text(hint).clicked() {
            window.bench.save();
        }
    }
    if window.bench.added() > 0 {
        let text = format!("{} by hand", window.bench.added());
        ui.weak(text).on_hover_text("events that were added to the take; \"restart\" removes them");
    }
}

fn pick_fps(window: &mut Workbench, ui: &mut Ui) {
    const CHOICES: [f64; 4] = [30.0, 60.0, 144.0, 240.0];
    let own = format!("{} fps", window.bench.take().fps);
    let answer = ComboBox::from_id_salt("fps").width(72.0).selected_text(own).show_ui(ui, |ui| {
        let fps = &mut window.bench.machine.fps;
        ui.selectable_value(fps, None, "from the take");
        for choice in CHOICES {
            ui.selectable_value(fps, Some(choice), format!("{choice} fps"));
        }
    });
    name(&answer.response, Role::ComboBox, "frames per second");
}

fn pick_window(window: &mut Workbench, ui: &mut Ui) {
    const CHOICES: [[u32; 2]; 6] =
        [[320, 180], [640, 360], [854, 480], [480, 480], [240, 480], [840, 360]];
    let text = |size: WindowSize| format!("{} x {}", size.width, size.height);
    let now = window.bench.machine.window.map_or("window: all".to_owned(), text);
    let answer =
        ComboBox::from_id_salt("window").width(92.0).selected_text(now).show_ui(ui, |ui| {
            let picked = &mut window.bench.machine.window;
            ui.selectable_value(picked, None, "all of the space");
            for size in CHOICES.map(WindowSize::from) {
                ui.selectable_value(picked, Some(size), text(size));
            }
        });
    name(&answer.response, Role::ComboBox, "window");
}

fn pick_snap(window: &mut Workbench, ui: &mut Ui) {
    const CHOICES: [(&str, Snap); 3] =
        [("off", Snap::Off), ("whole", Snap::Whole), ("subpixel", Snap::Subpixel)];
    let picked = &mut window.bench.machine.snap;
    let now = CHOICES.iter().find(|(_, snap)| *picked == Some(*snap));
    let now = now.map_or("snap: tuning's".to_owned(), |(text, _)| format!("snap: {text}"));
    let answer = ComboBox::from_id_salt("snap").width(100.0).selected_text(now).show_ui(ui, |ui| {
        ui.selectable_value(picked, None, "from the tuning");
        for (text, snap) in CHOICES {
            ui.selectable_value(picked, Some(snap), text);
        }
    });
    name(&answer.response, Role::ComboBox, "snap");
}

fn pick_intensity(window: &mut Workbench, ui: &mut Ui) {
    let own = window.bench.tuning.settings().shake.intensity;
    let picked = &mut window.bench.machine.intensity;
    let mut intensity = picked.unwrap_or(own);
    ui.spacing_mut().slider_width = 60.0;
    let slider = ui.add(Slider::new(&mut intensity, 0.0..=1.0).fixed_decimals(1).text("shakes"));
    name(&slider, Role::Slider, "motion intensity");
    if slider.changed() {
        *picked = (intensity != own).then_some(intensity);
    }
}

/// Names a part of the window for accessibility tools.
pub fn name(response: &Response, role: Role, name: &str) {
    response.widget_info(|| WidgetInfo::labeled(role, true, name));
}
