//! Curves of the last seconds.

use std::collections::VecDeque;

use egui::Ui;
use egui_plot::{Line, Plot, PlotPoints};
use velvet_pan::{Camera, View, glam::DVec2};

use crate::look::{CORAL, HONEY, MAUVE, SPROUT, TEAL};

/// What a camera did in the last seconds.
#[derive(Clone, Debug)]
pub struct History {
    seconds: f64,
    moments: VecDeque<Moment>,
    /// The last position of the world's origin as drawn in the window.
    drawn: Option<DVec2>,
    centre: Option<(DVec2, f64)>,
}

#[derive(Clone, Copy, Debug)]
struct Moment {
    t: f64,
    /// Lag in screen pixels; speed in screen pixels per second; view ahead in percent of the screen; the picture's
    /// steps in window pixels.
    figures: [Option<f64>; 4],
}

const NAMES: [(&str, &str, egui::Color32); 4] = [
    ("lag", "screen px", HONEY),
    ("speed", "screen px/s", TEAL),
    ("view ahead", "% of the screen", SPROUT),
    ("picture's step", "window px", CORAL),
];

/// The maximum number of moments that are kept.
const MOST: usize = 4096;

impl History {
    /// Creates a history of this number of seconds, at least one.
    #[must_use]
    pub fn new(seconds: f64) -> Self {
        let seconds = if seconds.is_finite() { seconds.max(1.0) } else { 1.0 };
        Self { seconds, moments: VecDeque::new(), drawn: None, centre: None }
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
        ];
        (self.drawn, self.centre) = (Some(drawn), Some(steady));
        self.moments.push_back(Moment { t, figures });
        while self.moments.len() > MOST
            || self.moments.front().is_some_and(|first| first.t < t - self.seconds)
        {
            self.moments.pop_front();
        }
    }

    /// Removes all frames.
    pub fn clear(&mut self) {
        *self = Self::new(self.seconds);
    }
}

/// From this width on, in points, two strips are side by side.
const WIDE: f32 = 400.0;

/// Shows lag, speed, view ahead and the picture's steps over the last seconds, each in a strip of its own.
pub fn strips(ui: &mut Ui, history: &History) {
    let columns = if ui.available_width() < WIDE { 1 } else { 2 };
    for strips in [0, 1, 2, 3].chunks(columns) {
        ui.columns(columns, |places| {
            for (place, index) in places.iter_mut().zip(strips) {
                strip(place, history, *index);
            }
        });
    }
}

fn strip(ui: &mut Ui, history: &History, index: usize) {
    let (name, unit, color) = NAMES[index];
    let now = history.moments.back().map_or(0.0, |last| last.t);
    let curve: Vec<[f64; 2]> = history
        .moments
        .iter()
        .filter_map(|moment| Some([moment.t - now, moment.figures[index]?]))
        .collect();
    let last = curve.last().map_or("–".to_owned(), |[_, value]| format!("{value:.1}"));
    ui.horizontal(|ui| {
        ui.colored_label(color, name);
        ui.weak(format!("{last} {unit}"));
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
