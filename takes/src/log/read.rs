//! A log as it was read.

use std::path::{Path, PathBuf};

use velvet_pan::{Camera, Cameras, Settings};

use super::call::{Call, What};
use super::calls_file::{self, Reader};
use super::player::{Differs, Player};
use super::shown_view::ShownView;
use crate::take::subjects::MAIN;
use crate::text::command;
use crate::text::fault::Fault;
use crate::text::files::Files;
use crate::tuning::edits::Edits;

/// What a game told its cameras, call by call.
#[derive(Clone, Debug, Default)]
pub struct Log {
    /// The calls, and their lines in the table.
    calls: Vec<(usize, Call)>,
    /// The frames that were shown.
    frames: Vec<LogFrame>,
    /// Whether a set of cameras was shown.
    has_views: bool,
    fault: Option<Fault>,
    /// The version of the library that wrote it.
    version: Option<String>,
    /// The tuning file that the game reads.
    tuning: Option<PathBuf>,
}

/// A frame that was shown.
#[derive(Clone, Copy, Debug)]
pub(crate) struct LogFrame {
    /// Its call.
    pub call: usize,
    /// The time at its end, in seconds since the end of the first frame.
    pub t: f64,
    /// Its length, in seconds.
    pub step: f64,
}

impl Log {
    /// Reads a table of calls, up to the first line that can't be read.
    ///
    /// # Errors
    ///
    /// The file can't be read, is another table, or has no frame.
    pub(crate) fn read(files: Files<'_>, path: &Path) -> Result<Self, Fault> {
        let text = files.read(path)?;
        let (whole, rest) = calls_file::whole_lines(&text);
        let mut reader = Reader::new(path);
        let mut log = Self::default();
        log.add(reader.read(files, whole));
        reader.end(rest);
        log.fault = reader.fault;
        if log.frames.is_empty() {
            let nothing = || Fault::of_file(path, "no frame: expected a follow, advance or view");
            return Err(log.fault.unwrap_or_else(nothing));
        }
        Ok(log)
    }

    /// Adds calls.
    pub(super) fn add(&mut self, calls: Vec<(usize, Call)>) {
        let views = calls.iter().any(|(_, call)| matches!(call.what, What::View));
        let first = if views && !self.has_views { 0 } else { self.calls.len() };
        if first == 0 {
            self.frames.clear();
        }
        self.has_views |= views;
        self.calls.extend(calls);
        for index in first..self.calls.len() {
            self.add_frame(index);
        }
    }

    /// Notes a frame that a game showed: the view of a set of cameras, or else a frame of its only camera.
    fn add_frame(&mut self, index: usize) {
        let call = &self.calls[index].1;
        let is_shown = match self.has_views {
            true => matches!(call.what, What::View),
            false => call.what.is_frame(),
        };
        if is_shown {
            let step = if call.seconds.is_finite() { call.seconds.max(0.0) } else { 0.0 };
            let t = self.frames.last().map_or(0.0, |last| last.t + step);
            self.frames.push(LogFrame { call: index, t, step });
        }
    }

    /// Returns the same game, before its first call.
    pub(super) fn without_calls(&self) -> Self {
        Self::default().of_game(self.version.clone(), self.tuning.clone())
    }

    /// Says which version of the library wrote it, and which tuning file the game reads.
    pub(crate) fn of_game(self, version: Option<String>, tuning: Option<PathBuf>) -> Self {
        Self { version, tuning, ..self }
    }

    /// Returns the tuning file that the game reads while it runs, if it said so.
    #[must_use]
    pub fn tuning(&self) -> Option<&Path> {
        self.tuning.as_deref()
    }

    /// Returns the version of the library that wrote it, if that is another one. It may show other pictures then.
    #[must_use]
    pub fn other_version(&self) -> Option<&str> {
        self.version.as_deref().filter(|version| *version != env!("CARGO_PKG_VERSION"))
    }

    /// Returns the key and the settings of the first camera.
    pub(crate) fn first_camera(&self) -> (&str, Settings) {
        let first = self.calls.iter().find_map(|(_, call)| match &call.what {
            What::Insert(settings) => Some((call.camera.as_str(), (**settings).clone())),
            _ => None,
        });
        first.unwrap_or((MAIN, Settings::default()))
    }

    /// Returns the number of frames that were shown.
    #[must_use]
    pub fn frames(&self) -> usize {
        self.frames.len()
    }

    /// Returns why the end of the log can't be read, if it can't.
    #[must_use]
    pub fn fault(&self) -> Option<&Fault> {
        self.fault.as_ref()
    }

    /// Returns the length, in seconds.
    #[must_use]
    pub fn seconds(&self) -> f64 {
        self.frames.last().map_or(0.0, |frame| frame.t)
    }

    /// Returns the number of frames up to a time, at least one.
    pub(crate) fn rows_until(&self, seconds: f64) -> u64 {
        self.frames.partition_point(|frame| frame.t <= seconds).max(1) as u64
    }

    /// Returns the frame that is nearest to a time.
    pub(crate) fn row_at(&self, t: f64) -> u64 {
        let after = self.frames.partition_point(|frame| frame.t < t);
        let away =
            |row: usize| self.frames.get(row).map_or(f64::INFINITY, |frame| (frame.t - t).abs());
        let before = after.saturating_sub(1);
        (if away(after) < away(before) { after } else { before }) as u64
    }

    pub(crate) fn frame(&self, row: u64) -> Option<LogFrame> {
        self.frames.get(usize::try_from(row).ok()?).copied()
    }

    /// Returns the calls after that of one frame, up to and with that of another.
    pub(crate) fn calls_of(&self, row: u64) -> impl Iterator<Item = &Call> {
        let from =
            row.checked_sub(1).and_then(|row| self.frame(row)).map_or(0, |frame| frame.call + 1);
        let to = self.frame(row).map_or(from, |frame| frame.call + 1);
        self.calls[from..to].iter().map(|(_, call)| call)
    }

    /// Returns the calls of whole frames from this one on, with the time at the end of their frame, in seconds.
    pub(super) fn timed(&self, first: usize) -> impl Iterator<Item = (f64, &Call)> {
        let last = self.frames.last().map_or(0, |frame| frame.call + 1);
        let end = |index: usize| {
            let after = self.frames.partition_point(|frame| frame.call < index);
            self.frames.get(after).map_or(self.seconds(), |frame| frame.t)
        };
        let whole = (first..last).map(|index| (index, &self.calls[index].1));
        whole.map(move |(index, call)| (end(index), call))
    }

    /// Runs the log again, and returns the first frame that does not show the same, to the bit.
    #[must_use]
    pub fn first_difference(&self) -> Option<Differs> {
        let (key, settings) = self.first_camera();
        let mut cameras = Cameras::new(key.to_owned(), Camera::new(settings).ok()?);
        let mut player = Player::new(key, Edits::default());
        let mut told = 0;
        for (index, (line, call)) in self.calls.iter().enumerate() {
            let now = player.play(&mut cameras, call).map(|view| ShownView::of(&view));
            let Some(logged) = call.shown else { continue };
            // A frame that could not run shows nothing.
            let now = now.unwrap_or_default();
            if now.digest != logged.digest {
                let frame = self.frames.partition_point(|frame| frame.call < index);
                let t = self.frames.get(frame).map_or(self.seconds(), |frame| frame.t);
                let told = self.calls[told..index].iter().filter_map(|(_, call)| words_of(call));
                let (line, told) = (*line, told.collect());
                return Some(Differs { frame, t, line, logged, now, told });
            }
            told = index + 1;
        }
        None
    }
}

/// A command of a call, in words. `None` for frames and their subjects.
fn words_of(call: &Call) -> Option<String> {
    let camera = &call.camera;
    match &call.what {
        What::Tell(command) => command::written(command).map(|text| format!("{camera}: {text}")),
        what if what.is_frame() || matches!(what, What::View | What::Member) => None,
        other => Some(format!("{camera}: {}", other.name())),
    }
}
