//! A take: a scripted run of subjects through a world, in front of a camera.

use std::collections::BTreeMap;
use std::path::Path as FilePath;
use std::sync::Arc;

use velvet_pan::{Camera, Layer, Rect, Settings, WindowSize};

use crate::log::{Log, Story};
use crate::take::event::Event;
use crate::take::map::Map;
use crate::take::pictures::Pictures;
use crate::take::player::Player;
use crate::take::subjects::{TakeCamera, TakeSubject};
use crate::take::take_file::TakeFile;
use crate::text::change::Change;
use crate::text::document::Document;
use crate::text::fault::{Fault, brief};
use crate::text::files::Files;
use crate::text::hash::Hash;

/// Changes to a take from the command line.
#[derive(Clone, Debug, Default)]
pub struct Overrides {
    /// Frames per second.
    pub fps: Option<f64>,
    /// Length, in seconds.
    pub seconds: Option<f64>,
    /// Changes of settings, in order.
    pub changes: Vec<Change>,
}

/// A take that was read and checked.
#[derive(Clone, Debug)]
pub struct Take {
    /// The name of its file without folder and ending.
    pub name: String,
    /// The settings of its own camera.
    pub settings: Settings,
    /// Its length, in seconds.
    pub seconds: f64,
    /// Frames per second.
    pub fps: f64,
    /// The size of the window, in physical pixels.
    pub window: WindowSize,
    /// The tiles, if any.
    pub map: Option<Map>,
    /// The subjects that are followed at the start. Several are shown together.
    pub watch: Vec<String>,
    /// All subjects, by name.
    pub subjects: BTreeMap<String, TakeSubject>,
    /// Further cameras, by name.
    pub cameras: BTreeMap<String, TakeCamera>,
    /// The events, in order of time.
    pub events: Vec<Event>,
    /// When the game opens its gates, by name, in seconds of the ride. Events wait for gates.
    pub gates: BTreeMap<String, f64>,
    /// What a game told its cameras, if the take is a ride log. The paths and events of the take say the same.
    pub log: Option<Arc<Log>>,
    /// Whether it is ridden as it was logged, frame by frame, and not in even steps. Default `true` for a ride log.
    pub as_logged: bool,
    /// What the player must see in time, in world units; a point has no size.
    pub hazards: Vec<Rect>,
    /// The pictures with which tools draw it.
    pub pictures: Pictures,
    /// The subject that a user plays, and how it moves.
    pub player: Option<Player>,
}

impl Default for Take {
    /// Returns a take without subjects, 0 seconds long.
    fn default() -> Self {
        Self {
            name: String::new(),
            settings: Settings::default(),
            seconds: 0.0,
            fps: 60.0,
            window: [1280, 720].into(),
            map: None,
            watch: Vec::new(),
            subjects: BTreeMap::new(),
            cameras: BTreeMap::new(),
            events: Vec::new(),
            gates: BTreeMap::new(),
            log: None,
            as_logged: false,
            hazards: Vec::new(),
            pictures: Pictures::default(),
            player: None,
        }
    }
}

impl Take {
    /// Reads a take from disk, and every file that it names.
    ///
    /// # Errors
    ///
    /// The first fault: file, line, key, and a correct value.
    pub fn open(path: impl AsRef<FilePath>) -> Result<Self, Fault> {
        Self::read(Files::Disk, path.as_ref(), &Overrides::default())
    }

    /// Reads a take and every file that it names, with changes.
    ///
    /// # Errors
    ///
    /// The first fault: file, line, key, and a correct value.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Files, Overrides, Take};
    /// let text = "seconds = 2.0\n[subjects.courier]\nkeys = [[0.0, 0.0, 0.0]]\n";
    /// let files = [BuiltIn { name: "run.toml", text: text.into() }];
    /// let slower = Overrides { fps: Some(30.0), ..Overrides::default() };
    /// let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &slower)?;
    /// assert_eq!((take.seconds, take.fps), (2.0, 30.0));
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn read(files: Files<'_>, path: &FilePath, overrides: &Overrides) -> Result<Self, Fault> {
        Self::read_all(files, path, overrides).map_err(|faults| {
            let first = faults.into_iter().min_by_key(|fault| (fault.place.is_none(), fault.place));
            // Reading failed, so there is a fault.
            first.unwrap_or_else(|| Fault::of_file(path, "not a take"))
        })
    }

    /// Reads a take and every file that it names, with changes, and reports every fault.
    ///
    /// # Errors
    ///
    /// All faults of the take and of the files that it names.
    pub fn read_all(
        files: Files<'_>,
        path: &FilePath,
        overrides: &Overrides,
    ) -> Result<Self, Vec<Fault>> {
        let one = |fault: Fault| vec![fault];
        let document = Document::read(files, path).map_err(one)?;
        refuse_tuning(&document).map_err(one)?;
        let (file, faults) = TakeFile::read(&document, &overrides.changes);
        if !faults.is_empty() {
            return Err(faults);
        }
        let mut faults = file.check(&document);
        let take = Self::put_together(&file, files, &document, overrides, &mut faults);
        if let Some(take) = &take {
            faults.extend(take.check_length(&document, overrides).err());
        }
        take.filter(|_| faults.is_empty()).ok_or(faults)
    }

    /// Reads everything that a take's file names, and adds its faults.
    fn put_together(
        file: &TakeFile,
        files: Files<'_>,
        document: &Document,
        overrides: &Overrides,
        faults: &mut Vec<Fault>,
    ) -> Option<Self> {
        let map = file.map.as_ref().map(|map| map.read(files, document)).transpose();
        let map = kept(map, faults).flatten();
        let (subjects, more) = file.read_subjects(files, document);
        faults.extend(more);
        let log = kept(file.read_log(files, document), faults)?;
        let settings = kept(file.read_settings(files, document, &overrides.changes), faults);
        let cameras = kept(file.read_cameras(files, document), faults);
        let story = log.as_ref().map(Log::story);
        let watch = match &story {
            Some(story) => Some(story.watch.clone()),
            None => kept(file.first_watched(document), faults),
        };
        let (settings, cameras, watch) = (settings?, cameras?, watch?);
        faults.extend(file.check_names(&settings, &cameras, document));
        if subjects.is_empty() && log.is_none() && file.seconds.or(overrides.seconds).is_none() {
            let what = "nothing to ride: expected [subjects.NAME] with a path, or seconds";
            faults.push(Fault::of_file(document.path(), what));
        }
        let longest = subjects.values().map(|subject| subject.path.end()).fold(0.0, f64::max);
        let name = document.path().file_stem().unwrap_or_default();
        let take = Self {
            name: name.to_string_lossy().into_owned(),
            settings,
            seconds: overrides.seconds.or(file.seconds).unwrap_or(longest),
            fps: overrides.fps.or(file.fps).unwrap_or(60.0),
            window: file.window.unwrap_or([1280, 720]).into(),
            map,
            watch,
            subjects,
            cameras,
            events: file.events.clone(),
            gates: file.gates.clone(),
            hazards: file.read_hazards(document, faults),
            pictures: file.pictures.clone(),
            player: file.player.clone(),
            log: None,
            as_logged: false,
        };
        Some(match log.zip(story) {
            Some((log, story)) => take.of_log(log, story, overrides),
            None => take,
        })
    }

    /// Returns the take of a log. A number of frames per second asks for even steps.
    fn of_log(mut self, log: Log, story: Story, overrides: &Overrides) -> Self {
        let Story { window, subjects, cameras, events, .. } = story;
        self.subjects.extend(subjects);
        self.cameras.extend(cameras);
        self.events.extend(events);
        self.events.sort_by(|one, other| one.at.total_cmp(&other.at));
        self.window = window;
        self.seconds = overrides.seconds.unwrap_or(f64::INFINITY).min(log.seconds());
        self.as_logged = overrides.fps.is_none();
        self.log = Some(Arc::new(log));
        self
    }

    /// Returns the log of a take that is ridden as it was logged.
    pub(crate) fn ridden_log(&self) -> Option<&Log> {
        self.log.as_deref().filter(|_| self.as_logged)
    }

    /// Rides a log in even steps from now on, where a tool needs them. Another take stays as it is.
    #[must_use]
    pub fn in_even_steps(self) -> Self {
        Self { as_logged: false, ..self }
    }

    /// Returns the time of a row of its ride, in seconds.
    #[must_use]
    pub fn time_of(&self, row: u64) -> f64 {
        match self.ridden_log().and_then(|log| log.frame(row)) {
            Some(frame) => frame.t,
            None => row as f64 / self.fps,
        }
    }

    /// Returns the row of its ride that is nearest to a time, in seconds.
    #[must_use]
    pub fn row_at(&self, t: f64) -> u64 {
        match self.ridden_log() {
            Some(log) => log.row_at(t),
            None => (t * self.fps).round() as u64,
        }
    }

    /// Returns the layers of the take. Covering layers have the rates that follow from the bounds.
    pub fn layers(&self) -> Vec<Layer> {
        Camera::new(self.settings.clone())
            .map_or_else(|_| Vec::new(), |camera| camera.layers().to_vec())
    }

    /// Returns a number that depends on what happens in a take: paths, events, cameras. Its settings, its length and its
    /// frame rate do not count.
    pub(crate) fn digest(&self) -> u64 {
        let mut hash = Hash::default();
        let mut add = |text: String| text.bytes().for_each(|byte| hash.add(byte.into()));
        for (name, subject) in &self.subjects {
            add(format!("{name} {subject:?}"));
        }
        add(format!("{:?} {:?} {:?}", self.watch, self.events, self.gates));
        for (name, camera) in &self.cameras {
            add(format!("{name} {:?} {:?}", camera.watch, camera.aim));
        }
        hash.0
    }

    /// Returns the number of rows of its ride: `round(seconds × fps) + 1`, or the frames of a log.
    pub fn rows(&self) -> u64 {
        if let Some(log) = self.ridden_log() {
            return log.rows_until(self.seconds);
        }
        (self.seconds * self.fps).round() as u64 + 1
    }

    fn check_length(&self, document: &Document, overrides: &Overrides) -> Result<(), Fault> {
        let fault = |key: &str, flag: bool, what: String| {
            if flag { Fault::new(format!("--{key}: {what}")) } else { document.fault(key, what) }
        };
        if !(0.0..=86_400.0).contains(&self.seconds) {
            let what =
                format!("{} is not possible: expected 0 to 86400 seconds", brief(self.seconds));
            return Err(fault("seconds", overrides.seconds.is_some(), what));
        }
        if !(0.001..=100_000.0).contains(&self.fps) {
            let what =
                format!("{} is not possible: expected 0.001 to 100000 a second", brief(self.fps));
            return Err(fault("fps", overrides.fps.is_some(), what));
        }
        Ok(())
    }
}

/// Adds a hint if a tuning was given as a take.
fn refuse_tuning(document: &Document) -> Result<(), Fault> {
    if document.is_take() || !document.settings().1.is_empty() {
        return Ok(());
    }
    let name = document.path().file_name().unwrap_or_default().to_string_lossy();
    let what = format!("a tuning: expected a take, which names it as tuning = \"{name}\"");
    Err(Fault::of_file(document.path(), what))
}

/// Returns what was read; faults are added to the others.
fn kept<T>(read: Result<T, Fault>, faults: &mut Vec<Fault>) -> Option<T> {
    read.map_err(|fault| faults.push(fault)).ok()
}
