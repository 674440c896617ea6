//! A take: a scripted run of subjects through a world, in front of a camera.

use std::collections::BTreeMap;
use std::path::Path as FilePath;

use velvet_pan::{Camera, Layer, Settings, WindowSize};

use crate::cast::{Actor, TakeCamera};
use crate::change::Change;
use crate::document::Document;
use crate::event::Event;
use crate::fault::Fault;
use crate::files::Files;
use crate::map::Map;
use crate::take_file::TakeFile;

/// What the command line may change in a take.
#[derive(Clone, Debug, Default)]
pub struct Overrides {
    /// Frames per second.
    pub fps: Option<f64>,
    /// Length in seconds.
    pub seconds: Option<f64>,
    /// Settings, in order.
    pub changes: Vec<Change>,
}

/// A take, loaded and checked.
#[derive(Clone, Debug)]
pub struct Take {
    /// Its file's name without the folder and the ending.
    pub name: String,
    /// The camera's settings.
    pub settings: Settings,
    /// Its length in seconds.
    pub seconds: f64,
    /// Frames per second.
    pub fps: f64,
    /// The window's size in physical pixels.
    pub window: WindowSize,
    /// The tiles, if any.
    pub map: Option<Map>,
    /// The subjects that are followed at first; several are framed together.
    pub watch: Vec<String>,
    /// All subjects by name.
    pub subjects: BTreeMap<String, Actor>,
    /// Further cameras by name, beside the take's own.
    pub cameras: BTreeMap<String, TakeCamera>,
    /// What happens when, in order of time.
    pub timeline: Vec<Event>,
}

impl Take {
    /// Reads a take from disk, and every file it names, without changes.
    ///
    /// # Errors
    ///
    /// The first fault: file, line, key, and what would be right.
    pub fn open(path: impl AsRef<FilePath>) -> Result<Self, Fault> {
        Self::read(Files::Disk, path.as_ref(), &Overrides::default())
    }

    /// Reads a take and every file it names, with changes.
    ///
    /// # Errors
    ///
    /// The first fault: file, line, key, and what would be right.
    pub fn read(files: Files<'_>, path: &FilePath, overrides: &Overrides) -> Result<Self, Fault> {
        let document = Document::read(files, path)?;
        refuse_tuning(&document)?;
        let file: TakeFile = document.parse()?;
        file.check(&document)?;
        let map = file.map.as_ref().map(|map| map.read(files, &document)).transpose()?;
        let subjects = file.read_subjects(files, &document)?;
        let settings = file.read_settings(files, &document, &overrides.changes)?;
        let longest = subjects.values().map(|actor| actor.path.end()).fold(0.0, f64::max);
        let cameras = file.read_cameras(files, &document)?;
        file.check_cues(&settings, &cameras, &document)?;
        if subjects.is_empty() && file.seconds.or(overrides.seconds).is_none() {
            let what = "nothing to ride: expected [subjects.NAME] with a path, or seconds";
            return Err(Fault::of_file(path, what));
        }
        let take = Self {
            name: path.file_stem().unwrap_or_default().to_string_lossy().into_owned(),
            settings,
            seconds: overrides.seconds.or(file.seconds).unwrap_or(longest),
            fps: overrides.fps.or(file.fps).unwrap_or(60.0),
            window: file.window.unwrap_or([1280, 720]).into(),
            map,
            watch: file.first_watched(&document)?,
            subjects,
            cameras,
            timeline: file.timeline,
        };
        take.check_length(&document, overrides)?;
        Ok(take)
    }

    /// Its layers, those that cover with the rates that follow from its bounds.
    pub fn layers(&self) -> Vec<Layer> {
        Camera::new(self.settings.clone())
            .map_or_else(|_| Vec::new(), |camera| camera.layers().to_vec())
    }

    /// How many rows its ride has: `round(seconds × fps) + 1`.
    pub fn rows(&self) -> u64 {
        (self.seconds * self.fps).round() as u64 + 1
    }

    fn check_length(&self, document: &Document, overrides: &Overrides) -> Result<(), Fault> {
        let fault = |key: &str, flag: bool, what: String| {
            if flag { Fault::new(format!("--{key}: {what}")) } else { document.fault(key, what) }
        };
        if !(0.0..=86_400.0).contains(&self.seconds) {
            let what = format!("{} is not possible: expected 0 to 86400 seconds", self.seconds);
            return Err(fault("seconds", overrides.seconds.is_some(), what));
        }
        if !(0.001..=100_000.0).contains(&self.fps) {
            let what = format!("{} is not possible: expected 0.001 to 100000 a second", self.fps);
            return Err(fault("fps", overrides.fps.is_some(), what));
        }
        Ok(())
    }
}

/// Says so where somebody has mistaken a tuning for a take.
fn refuse_tuning(document: &Document) -> Result<(), Fault> {
    if document.is_take() || toml::from_str::<Settings>(document.text()).is_err() {
        return Ok(());
    }
    let name = document.path().file_name().unwrap_or_default().to_string_lossy();
    let what = format!("a tuning: expected a take, which names it as tuning = \"{name}\"");
    Err(Fault::of_file(document.path(), what))
}
