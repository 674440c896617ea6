//! The window of the workbench.

mod bars;
mod figures_table;
mod hints;
mod keys;
mod look;
mod overview;
mod passages;
mod player;
mod painter;
mod picture;
mod sceneries;
mod writing;

pub use picture::Show;

use std::path::PathBuf;
use std::sync::{Arc, PoisonError};

use eframe::egui::{
    CentralPanel, CollapsingHeader, Color32, Frame, Key, Margin, Panel, ScrollArea, Ui, vec2,
};
use eframe::wgpu::TextureFormat;
use velvet_pan::WindowSize;
use velvet_pan_egui::{Marks, Places, place_list, strips, tuning_panel};
use velvet_pan_takes::Map;
use velvet_pan_terraces::scenery::Scenery;

use crate::model::{A, B, Bench, Source, Wish};
use keys::Action;
use overview::Overview;
use painter::Trouble;
use sceneries::Sceneries;

/// The height of figures and curves, in points.
const FIGURES: f32 = 166.0;
/// A window lower than this, in points, shows no figures and curves.
const LOW: f32 = 520.0;

/// Everything that the window shows.
pub struct Workbench {
    /// The take and its cameras.
    pub bench: Bench,
    /// Which of the two cameras are shown.
    pub show: Show,
    /// The folder for pictures and rides.
    pub folder: PathBuf,
    marks: Marks,
    shows_marks: bool,
    shows_hints: bool,
    shows_figures: bool,
    sceneries: Sceneries,
    /// What was drawn last.
    scenery: Option<Arc<Scenery>>,
    overview: Overview,
    shows_overview: bool,
    /// What is edited, and whether it is.
    places: Places,
    edits: bool,
    /// The format of the target.
    target: TextureFormat,
    trouble: Trouble,
    /// A message about the last action.
    news: Option<String>,
    /// The sizes of the windows in which the cameras were last shown.
    windows: [WindowSize; 2],
    /// The picked event, by its number in the take's file.
    passage: Option<usize>,
    /// A jump that no frame of the take has used yet.
    leaps: bool,
}

impl Workbench {
    /// Creates a workbench that is drawn on targets of this format.
    pub fn new(bench: Bench, target: TextureFormat) -> Self {
        let windows = [bench.take().window; 2];
        let cells = |map: &Map| [map.grid().origin(), map.grid().tile_size()];
        let grid = bench.take().map.as_ref().map(cells);
        Self {
            shows_hints: bench.is_played(),
            bench,
            show: Show::One(B),
            folder: PathBuf::from("."),
            marks: Marks::default(),
            shows_marks: false,
            shows_figures: true,
            sceneries: Sceneries::default(),
            scenery: None,
            overview: Overview::default(),
            shows_overview: false,
            places: Places::on_grid(grid),
            edits: false,
            target,
            trouble: Trouble::default(),
            news: None,
            windows,
            passage: None,
            leaps: false,
        }
    }

    /// Opens another source.
    pub fn open(&mut self, source: Source) {
        match Bench::open(source) {
            Ok(bench) => {
                let (folder, shows_marks) = (self.folder.clone(), self.shows_marks);
                *self = Self { folder, shows_marks, ..Self::new(bench, self.target) };
            }
            Err(fault) => self.bench.fault = Some(fault),
        }
    }

    /// Runs a frame of the window, `seconds` after the last one.
    pub fn frame(&mut self, ui: &mut Ui, seconds: f64) {
        let types = ui.memory(|memory| memory.focused().is_some());
        for action in keys::pressed(ui, types) {
            self.act(action);
        }
        self.let_go_of_focus(ui);
        let wish = self.wish(ui, types);
        let is_down = ui.input(|input| input.pointer.any_down());
        let row = self.bench.rows();
        self.bench.frame(seconds, wish, is_down, self.windows);
        if self.bench.rows() != row {
            self.leaps = false;
        }
        self.lay_out(ui);
        ui.ctx().request_repaint();
    }

    fn lay_out(&mut self, ui: &mut Ui) {
        let size = ui.available_size();
        Panel::top("bar").show(ui, |ui| bars::source_bar(self, ui));
        // At 1280 x 800 this leaves 960 x 540 for the picture: three times its screen.
        let width = 314.0_f32.min(size.x * 0.44);
        Panel::right("tuning").default_size(width).size_range(220.0..=520.0).show(ui, |ui| {
            ui.add_space(4.0);
            self.show_faults(ui);
            player::show(ui, &mut self.bench);
            if self.edits {
                self.list_places(ui);
            }
            let answer = tuning_panel(ui, &mut self.bench.tuning);
            if let Some(fault) = answer.fault {
                self.bench.fault = Some(fault);
            }
            for cue in answer.called {
                self.bench.cue(&cue);
            }
        });
        Panel::bottom("transport").show(ui, |ui| self.lower_part(ui, size.y));
        let behind = ui.visuals().extreme_bg_color;
        let frame = Frame::new().inner_margin(Margin::ZERO).fill(behind);
        if self.shows_overview {
            let height = ui.available_height() * 0.32;
            let panel = Panel::bottom("overview").default_size(height).frame(frame);
            panel.resizable(true).show(ui, |ui| overview::show(self, ui));
        }
        CentralPanel::default().frame(frame).show(ui, |ui| self.picture(ui));
    }

    /// All places as numbers, while they are edited.
    fn list_places(&mut self, ui: &mut Ui) {
        let view = *self.bench.sides()[B].view();
        CollapsingHeader::new("places").default_open(true).show(ui, |ui| {
            let list = ScrollArea::vertical().id_salt("places").max_height(180.0);
            list.show(ui, |ui| {
                place_list(ui, &view, &mut self.bench.tuning, &mut self.places);
            });
        });
    }

    fn lower_part(&mut self, ui: &mut Ui, height: f32) {
        ui.add_space(4.0);
        bars::transport_bar(self, ui);
        bars::machine_bar(self, ui);
        if self.shows_figures && height > LOW {
            ui.separator();
            let size = vec2(ui.available_width(), FIGURES);
            ui.allocate_ui(size, |ui| self.figures_and_curves(ui));
        }
        ui.add_space(2.0);
    }

    fn figures_and_curves(&self, ui: &mut Ui) {
        let side = if self.show == Show::One(A) { A } else { B };
        ui.columns(2, |columns| {
            let [left, right] = columns else { return };
            ScrollArea::vertical().id_salt("figures").show(left, |ui| {
                figures_table::show(ui, &self.bench);
            });
            ScrollArea::vertical().id_salt("curves").show(right, |ui| {
                strips(ui, &self.bench.sides()[side].history);
            });
        });
    }

    /// Shows faults at the top of the panel.
    fn show_faults(&mut self, ui: &mut Ui) {
        let trouble = self.trouble.lock().unwrap_or_else(PoisonError::into_inner).clone();
        let fault = self.bench.fault.as_ref().map(ToString::to_string);
        let mut closes = false;
        for text in trouble.into_iter().chain(fault) {
            let frame = Frame::new().inner_margin(6.0).corner_radius(4.0);
            frame.fill(Color32::from_rgb(0x5a, 0x1f, 0x2e)).show(ui, |ui| {
                ui.label(text);
                closes |= ui.small_button("close").clicked();
            });
        }
        if closes {
            self.bench.fault = None;
            *self.trouble.lock().unwrap_or_else(PoisonError::into_inner) = None;
        }
    }

    fn wish(&mut self, ui: &Ui, types: bool) -> Wish {
        if types {
            return Wish::default();
        }
        let wish = keys::moves(ui);
        self.leaps |= wish.leap;
        Wish { leap: self.leaps, ..wish }
    }

    /// The escape key returns the keyboard to the game.
    fn let_go_of_focus(&self, ui: &Ui) {
        if ui.input(|input| input.key_pressed(Key::Escape)) {
            picture::take_focus(ui);
        }
    }

    /// Begins or ends the editing of places. The ride pauses.
    pub fn edit(&mut self, edits: bool) {
        self.edits = edits;
        if edits {
            self.bench.transport.plays = false;
        }
    }

    fn act(&mut self, action: Action) {
        let bench = &mut self.bench;
        match action {
            Action::Pause => bench.play_or_pause(),
            Action::StepBack => bench.nudge(-1, Wish::default()),
            Action::StepOn => bench.nudge(1, Wish::default()),
            Action::Slow => bench.transport.slow = !bench.transport.slow,
            Action::Loop => bench.transport.loops = !bench.transport.loops,
            Action::Again => bench.again(),
            Action::Keep => bench.keep(),
            Action::Flip => self.show = self.show.flipped(),
            Action::Both => self.show = self.show.both_or_one(),
            Action::Marks => self.shows_marks = !self.shows_marks,
            Action::Overview => self.shows_overview = !self.shows_overview,
            Action::Edit => self.edit(!self.edits),
            Action::Shake => bench.shake(),
            Action::Hitch => bench.hitch(),
            Action::Hints => self.shows_hints = !self.shows_hints,
            Action::WritePicture => self.write_picture(),
            Action::Undo => bench.undo(true),
            Action::Redo => bench.undo(false),
            Action::Save => bench.save(),
        }
    }
}
