//! Curves of the last seconds.

use std::collections::VecDeque;

use egui::{Label, RichText, Ui};
use egui_plot::{Line, Plot, PlotPoints};
use velvet_pan::{Camera, View, glam::DVec2};

use crate::drawn::Drawn;
use crate::look::{CORAL, CREAM, HONEY, MAUVE, MIST, SPROUT, TEAL};

/// What a camera did in the last seconds.
#[derive(Clone, Debug)]
pub struct History {
    seconds: f64,
    moments: VecDeque<Moment>,
    /// The last position of the world's origin as drawn in the window.
    drawn: Option<DVec2>,
    centre: Option<(DVec2, f64)>,
    /// What the newest frame has drawn, if the game has reported it.
    drawn_now: Option<Drawn>,
}

#[derive(Clone, Copy, Debug)]
struct Moment {
    t: f64,
    /// Lag in screen pixels; speed in screen pixels per second; view ahead in percent of the screen; the picture's
    /// steps in window pixels; drawn tiles and sprites.
    figures: [Option<f64>; 6],
}

const NAMES: [(&str, &str, egui::Color32); 6] = [
    ("lag", "screen px", HONEY),
    ("speed", "screen px/s", TEAL),
    ("view ahead", "%", SPROUT),
    ("picture's step", "window px", CORAL),
    ("tiles", "drawn", CREAM),
    ("sprites", "drawn", MIST),
];

/// The strips of what is drawn.
const TILES: usize = 4;
const SPRITES: usize = 5;

/// The maximum number of moments that are kept.
const MAX_SAMPLES: usize = 4096;

impl History {
    /// Creates a history of this number of seconds, at least one.
    #[must_use]
    pub fn new(seconds: f64) -> Self {
        let seconds = if seconds.is_finite() { seconds.max(1.0) } else { 1.0 };
        Self { seconds, moments: VecDeque::new(), drawn: None, centre: None, drawn_now: None }
    }

    /// Adds a frame: the camera, the view that is shown, and the duration of the frame in seconds.
    ///
    /// ```
    /// # use velvet_pan_egui::{History, velvet_pan::{Camera, Settings}};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let mut history = History::new(5.0); // seconds
    /// let dt = 1.0 / 60.0;
    /// let view = camera.follow(dt, [400, 300]);
    /// history.add(&camera, &view, dt); // once a frame; `strips` shows it
    /// # Ok::<(), velvet_pan_egui::velvet_pan::SettingsError>(())
    /// ```
    pub fn add(&mut self, camera: &Camera, view: &View, seconds: f64) {
        let t = self.moments.back().map_or(0.0, |last| last.t) + seconds.max(0.0);
        let drawn = velvet_pan_takes::drawn_origin(view);
        let steady = (view.steady().centre(), view.scale());
        let speed =
            self.centre.map(|(centre, _)| (steady.0 - centre).length() * steady.1 / seconds);
        let figures = [
            camera.lag(),
            speed.filter(|speed| speed.is_finite()),
            camera.ahead().map(|ahead| ahead * 100.0),
            self.drawn.map(|before| (drawn - before).length()),
            None,
            None,
        ];
        self.drawn_now = None;
        (self.drawn, self.centre) = (Some(drawn), Some(steady));
        self.moments.push_back(Moment { t, figures });
        while self.moments.len() > MAX_SAMPLES
            || self.moments.front().is_some_and(|first| first.t < t - self.seconds)
        {
            self.moments.pop_front();
        }
    }

    /// Returns how many seconds the curves show now.
    #[must_use]
    pub fn seconds(&self) -> f64 {
        let ends = self.moments.front().zip(self.moments.back());
        ends.map_or(0.0, |(first, last)| last.t - first.t)
    }

    /// Says that the picture has another size from now on, which is no step of the picture. The curves stay.
    pub fn note_resize(&mut self) {
        self.drawn = None;
    }

    /// Adds what the frame has drawn that was just added. From then on, there are strips of tiles and sprites, too.
    ///
    /// ```
    /// # use velvet_pan_egui::{Drawn, History, velvet_pan::{Camera, Grid, Settings}};
    /// # let mut camera = Camera::new(Settings::default())?;
    /// # let mut history = History::new(5.0);
    /// # let (grid, dt) = (Grid::new(240, 60, [16, 16]), 1.0 / 60.0);
    /// let view = camera.follow(dt, [400, 300]);
    /// history.add(&camera, &view, dt);
    /// let tiles = view.tiles(&grid).count();
    /// let drawn = Drawn { tiles, tiles_skipped: 240 * 60 - tiles, ..Drawn::default() };
    /// history.add_drawn(drawn);
    /// assert_eq!(history.drawn(), Some(drawn));
    /// # Ok::<(), velvet_pan_egui::velvet_pan::SettingsError>(())
    /// ```
    pub fn add_drawn(&mut self, drawn: Drawn) {
        if let Some(newest) = self.moments.back_mut() {
            newest.figures[TILES] = Some(drawn.tiles as f64);
            newest.figures[SPRITES] = Some(drawn.sprites as f64);
            self.drawn_now = Some(drawn);
        }
    }

    /// Returns what the newest frame has drawn, if it was [added](Self::add_drawn).
    #[must_use]
    pub fn drawn(&self) -> Option<Drawn> {
        self.drawn_now
    }

    /// Returns the strips that have anything to show.
    fn kinds(&self) -> Vec<usize> {
        let told = |index: usize| {
            index < TILES || self.moments.iter().any(|moment| moment.figures[index].is_some())
        };
        (0..NAMES.len()).filter(|index| told(*index)).collect()
    }

    /// Returns the newest value of a strip, in words: short, and in full.
    fn now(&self, index: usize, value: Option<f64>) -> [String; 2] {
        let (_, unit, _) = NAMES[index];
        let Some(value) = value else { return [(); 2].map(|()| format!("– {unit}")) };
        let skipped = match (index, self.drawn_now) {
            (TILES, Some(drawn)) => drawn.tiles_skipped,
            (SPRITES, Some(drawn)) => drawn.sprites_skipped,
            _ => return [(); 2].map(|()| format!("{value:.1} {unit}")),
        };
        [
            format!("{value} of {}", value + skipped as f64),
            format!("{value} drawn, {skipped} skipped"),
        ]
    }

    /// Removes all frames.
    pub fn clear(&mut self) {
        *self = Self::new(self.seconds);
    }
}

/// The least width of a strip beside another one, in points.
const MIN_WIDTH: f32 = 150.0;
/// The maximum number of strips side by side.
const MAX_COLUMNS: usize = 3;

/// Shows lag, speed, view ahead and the picture's steps over the last seconds, each in a strip of its own, and, if the
/// game tells them, the drawn tiles and sprites.
pub fn strips(ui: &mut Ui, history: &History) {
    let kinds = history.kinds();
    let rows = kinds.len().div_ceil(MAX_COLUMNS);
    let fits = (ui.available_width() / MIN_WIDTH) as usize;
    let columns = kinds.len().div_ceil(rows).min(fits).max(1);
    for strips in kinds.chunks(columns) {
        ui.columns(columns, |places| {
            for (place, index) in places.iter_mut().zip(strips) {
                strip(place, history, *index);
            }
        });
    }
}

fn strip(ui: &mut Ui, history: &History, index: usize) {
    let (name, _, color) = NAMES[index];
    let now = history.moments.back().map_or(0.0, |last| last.t);
    let curve: Vec<[f64; 2]> = history
        .moments
        .iter()
        .filter_map(|moment| Some([moment.t - now, moment.figures[index]?]))
        .collect();
    let [short, full] = history.now(index, curve.last().map(|[_, value]| *value));
    ui.horizontal(|ui| {
        ui.colored_label(color, name);
        let short = RichText::new(short).small().weak();
        ui.add(Label::new(short).truncate()).on_hover_text(full);
    });
    Plot::new(("velvet-pan strip", name))
        .height(54.0)
        .include_x(-history.seconds)
        .include_x(0.0)
        .include_y(0.0)
        .show_axes([false, true])
        .y_axis_min_width(36.0)
        .grid_color(MAUVE.gamma_multiply(0.6))
        .allow_drag(false)
        .allow_zoom(false)
        .allow_scroll(false)
        .show(ui, |plot| {
            plot.line(Line::new(name, PlotPoints::from(curve)).color(color).width(1.5));
        });
}
