//! One of the two compared cameras, on its way through the take.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Settings, SettingsError, View, WindowSize};
use velvet_pan_egui::History;
use velvet_pan_takes::{Fault, Figures, Run, Take};

use super::measure::Measure;

/// The time that a change of settings takes while the take runs, in seconds.
const CHANGE: f64 = 0.2;
/// The time that the curves show, in seconds.
const SHOWN: f64 = 6.0;

/// A camera, its settings, and its view.
#[derive(Debug)]
pub struct ComparedCamera {
    settings: Settings,
    run: Run,
    view: View,
    /// The position of the followed subject.
    subject: Option<DVec2>,
    window: WindowSize,
    /// The curves of the last seconds.
    pub history: History,
    measure: Measure,
    changes: u64,
}

impl ComparedCamera {
    /// Starts at the first row of a take.
    pub fn new(take: &Take, settings: Settings, window: WindowSize) -> Result<Self, Fault> {
        let mut run = Run::with_settings(take, &settings)?;
        let subject = run.step(take).subject;
        run.resize(window);
        let (view, history, measure) = (run.view(), History::new(SHOWN), Measure::default());
        Ok(Self { settings, run, view, subject, window, history, measure, changes: 0 })
    }

    /// Returns the active camera.
    pub fn camera(&self) -> &Camera {
        self.run.camera()
    }

    /// Returns the current view.
    pub fn view(&self) -> &View {
        &self.view
    }

    /// Returns the position of the followed subject, in world units.
    pub fn subject(&self) -> Option<DVec2> {
        self.subject
    }

    /// Returns the current row.
    pub fn row(&self) -> u64 {
        self.run.next_row().saturating_sub(1)
    }

    /// Returns the time on the clock of the take's events, in seconds.
    pub fn events_time(&self, take: &Take) -> f64 {
        self.run.events_time(take)
    }

    /// Returns the settings that are ridden.
    pub fn settings(&self) -> &Settings {
        &self.settings
    }

    /// Returns the latest figures of the whole take.
    pub fn figures(&self) -> Option<&Figures> {
        self.measure.figures()
    }

    /// Measures the take in a window of this size whenever it or the settings changed.
    pub fn measure(&mut self, take: &Take, window: WindowSize, change_of_take: u64) {
        let settings = &self.settings;
        let measured = || Take { settings: settings.clone(), window, ..take.clone() };
        self.measure.update(change_of_take + self.changes, measured);
    }

    /// Returns whether the figures belong to this revision of the take and to the current settings.
    pub fn is_measured(&self, change_of_take: u64) -> bool {
        self.measure.is_of(change_of_take + self.changes)
    }

    /// Sets the size of the window that shows it.
    pub fn resize(&mut self, window: WindowSize) {
        if window != self.window {
            self.window = window;
            self.run.resize(window);
            self.view = self.run.view();
            self.history.note_resize();
        }
    }

    /// Runs a frame as long as this number of rows.
    pub fn step(&mut self, take: &Take, rows: u64) {
        let before = self.row();
        self.subject = self.run.long_step(take, rows).subject;
        // The take's own window is not the one on the screen.
        self.run.resize(self.window);
        self.view = self.run.view();
        let seconds = (self.row() - before) as f64 / take.fps;
        self.history.add(self.run.camera(), &self.view, seconds);
    }

    /// Rides from the start to a row, with the current settings.
    pub fn seek(&mut self, take: &Take, row: u64) -> Result<(), Fault> {
        let mut run = Run::with_settings(take, &self.settings)?;
        self.history.clear();
        // Only the end is seen in the curves.
        run.skip_to(take, row.saturating_sub((SHOWN * take.fps) as u64));
        self.run = run;
        while self.run.next_row() <= row {
            self.step(take, 1);
        }
        Ok(())
    }

    /// Changes the settings: gradually, as a game would, or, if the take is paused, as if they had been set from the
    /// start.
    pub fn change(
        &mut self,
        take: &Take,
        settings: Settings,
        runs: bool,
    ) -> Result<(), SettingsError> {
        settings.validate()?;
        self.settings = settings;
        self.changes += 1;
        if runs {
            return self.run.set_settings(self.settings.clone(), CHANGE);
        }
        // They are valid, and nothing else can go wrong.
        let _ridden = self.seek(take, self.row());
        Ok(())
    }
}
