//! A take: a scripted run of subjects through a world, in front of a camera.

use std::collections::BTreeMap;
use std::fmt;
use std::path::Path as FilePath;

use serde::de::value::MapAccessDeserializer;
use serde::de::{Error, MapAccess, Visitor};
use serde::{Deserialize, Deserializer};
use velvet_pan::{Camera, Layer, Settings, Subject, WindowSize};

use crate::document::{Change, Document, check_settings, read_settings};
use crate::fault::Fault;
use crate::files::{Files, beside};
use crate::map::Map;
use crate::path::Path;

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

/// A subject of a take: its path, and how it matters among several.
#[derive(Clone, Debug)]
pub struct Actor {
    /// Where it is when.
    pub path: Path,
    /// See [`Subject`].
    pub weight: f64,
    /// See [`Subject`].
    pub priority: i32,
    /// See [`Subject`].
    pub margin: f64,
}

impl Actor {
    /// The subject at `t` seconds.
    pub fn subject(&self, t: f64) -> Subject {
        let Self { weight, priority, margin, .. } = *self;
        Subject { weight, priority, margin, ..self.path.subject(t) }
    }
}

/// A further camera of a take.
#[derive(Clone, Debug)]
pub struct TakeCamera {
    /// Its own settings.
    pub settings: Settings,
    /// Whom it follows.
    pub watch: Vec<String>,
    /// Where it looks, where it follows nobody.
    pub look: Option<[f64; 2]>,
}

/// The name of the take's own camera on the timeline.
pub const MAIN: &str = "main";

/// Something that happens at a time of a take.
#[derive(Clone, Debug, Deserialize, PartialEq)]
#[serde(deny_unknown_fields)]
pub struct Event {
    /// Seconds from the take's start.
    pub at: f64,
    /// Show this camera of the take from now on; with `glide`, within so many seconds. The rest of the
    /// event is for the camera that is then active.
    pub camera: Option<String>,
    /// Follow these subjects from now on; several are framed together.
    pub watch: Option<Vec<String>>,
    /// Look at this world point from now on, instead of a subject.
    pub look: Option<[f64; 2]>,
    /// Be there at once.
    #[serde(default)]
    pub cut: bool,
    /// Be there in so many seconds.
    pub glide: Option<f64>,
    /// Glide to this zoom.
    pub zoom: Option<f64>,
    /// Turn the wheel by so many notches, closer for positive ones …
    pub notches: Option<f64>,
    /// … about this screen point, in screen pixels.
    pub about: Option<[f32; 2]>,
    /// Pan by hand, in screen pixels per second, until told otherwise.
    pub pan: Option<[f32; 2]>,
    /// Show this world rectangle whole: x, y, width, height.
    pub show: Option<[f64; 4]>,
    /// Take the hand off the view.
    #[serde(default)]
    pub release: bool,
    /// New bounds: x, y, width, height in world units. With `glide`, within so many seconds.
    pub bounds: Option<[f64; 4]>,
    /// Call this cue of the tuning …
    pub cue: Option<String>,
    /// … from this world point …
    pub from: Option<[f64; 2]>,
    /// … so many times as hard.
    pub strength: Option<f64>,
    /// The rotation from now on, in radians.
    pub rotate: Option<f64>,
    /// The window's size from now on.
    pub window: Option<[u32; 2]>,
}

impl Event {
    /// The key of a number that is not finite.
    fn first_bad_number(&self) -> Option<&'static str> {
        let wide = |pair: Option<[f32; 2]>| pair.map(|pair| pair.map(f64::from));
        let pairs = [
            ("look", self.look),
            ("from", self.from),
            ("about", wide(self.about)),
            ("pan", wide(self.pan)),
        ];
        let singles =
            [("rotate", self.rotate), ("notches", self.notches), ("strength", self.strength)];
        let fours = [("show", self.show), ("bounds", self.bounds)];
        let bad = |numbers: &[f64]| !numbers.iter().all(|number| number.is_finite());
        let mut names = pairs
            .iter()
            .filter(|(_, pair)| pair.is_some_and(|pair| bad(&pair)))
            .map(|(name, _)| *name)
            .chain(
                singles
                    .iter()
                    .filter(|(_, one)| one.is_some_and(|one| bad(&[one])))
                    .map(|(name, _)| *name),
            )
            .chain(
                fours
                    .iter()
                    .filter(|(_, four)| four.is_some_and(|four| bad(&four)))
                    .map(|(name, _)| *name),
            );
        names.next()
    }
}

impl Take {
    /// Reads a take and every file it names.
    pub fn read(files: Files<'_>, path: &FilePath, overrides: &Overrides) -> Result<Self, Fault> {
        let document = Document::read(files, path)?;
        let file: TakeFile = document.parse()?;
        file.check(&document)?;
        let map = file.map.as_ref().map(|map| map.read(files, &document)).transpose()?;
        let subjects = file.read_subjects(files, &document)?;
        let settings = file.read_settings(files, &document, &overrides.changes)?;
        let longest = subjects.values().map(|actor| actor.path.end()).fold(0.0, f64::max);
        let cameras = file.read_cameras(files, &document)?;
        file.check_cues(&settings, &cameras, &document)?;
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

/// A take as its file holds it.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct TakeFile {
    tuning: Option<Tuning>,
    seconds: Option<f64>,
    fps: Option<f64>,
    window: Option<[u32; 2]>,
    map: Option<MapEntry>,
    watch: Option<Vec<String>>,
    #[serde(default)]
    cameras: BTreeMap<String, CameraEntry>,
    #[serde(default)]
    subjects: BTreeMap<String, SubjectEntry>,
    #[serde(default)]
    timeline: Vec<Event>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct MapEntry {
    file: String,
    tile: [f64; 2],
    #[serde(default)]
    origin: [f64; 2],
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct SubjectEntry {
    path: Option<String>,
    keys: Option<Vec<[f64; 3]>>,
    weight: Option<f64>,
    priority: Option<i32>,
    margin: Option<f64>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct CameraEntry {
    tuning: Option<Tuning>,
    #[serde(default)]
    watch: Vec<String>,
    look: Option<[f64; 2]>,
}

/// The settings of a take: a file beside it, or a table within it.
#[derive(Debug)]
enum Tuning {
    Beside(String),
    Inline(Box<Settings>),
}

impl Tuning {
    /// Its settings, checked; `key` is where in the document it is named. Changes are for a file
    /// beside it: a table is changed before it is read.
    fn read(
        &self,
        files: Files<'_>,
        document: &Document,
        key: &str,
        changes: &[Change],
    ) -> Result<Settings, Fault> {
        match self {
            Self::Beside(name) => read_settings(files, &beside(document.path(), name), changes)
                .map_err(|fault| missing(fault, document, key)),
            Self::Inline(settings) => {
                check_settings(settings, document, &format!("{key}."), &[])?;
                Ok((**settings).clone())
            }
        }
    }
}

impl<'de> Deserialize<'de> for Tuning {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        struct NameOrTable;

        impl<'de> Visitor<'de> for NameOrTable {
            type Value = Tuning;

            fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                f.write_str("the name of a tuning file, or a table of settings")
            }

            fn visit_str<E: Error>(self, name: &str) -> Result<Tuning, E> {
                Ok(Tuning::Beside(name.to_owned()))
            }

            fn visit_map<A: MapAccess<'de>>(self, map: A) -> Result<Tuning, A::Error> {
                let settings = Settings::deserialize(MapAccessDeserializer::new(map))?;
                Ok(Tuning::Inline(Box::new(settings)))
            }
        }

        deserializer.deserialize_any(NameOrTable)
    }
}

impl TakeFile {
    /// The settings that stand in the file itself.
    pub(crate) fn own_settings(&self) -> Option<&Settings> {
        match &self.tuning {
            Some(Tuning::Inline(settings)) => Some(settings),
            _ => None,
        }
    }

    /// The checks that need no other file.
    fn check(&self, document: &Document) -> Result<(), Fault> {
        let mut before = 0.0;
        for (index, event) in self.timeline.iter().enumerate() {
            let fault =
                |what: String| document.fault("timeline", format!("entry {}: {what}", index + 1));
            if !event.at.is_finite() || event.at < before {
                let what = format!("at = {}: expected a time of {before} or later", event.at);
                return Err(fault(what));
            }
            before = event.at;
            self.check_event(event).map_err(fault)?;
        }
        self.window.map_or(Ok(()), |window| {
            check_window(window).map_err(|what| document.fault("window", what))
        })
    }

    fn check_event(&self, event: &Event) -> Result<(), String> {
        for name in event.watch.iter().flatten() {
            self.check_name(name)?;
        }
        if let Some(name) = event.camera.as_ref().filter(|name| *name != MAIN)
            && !self.cameras.contains_key(name)
        {
            let known: Vec<&str> = self.cameras.keys().map(String::as_str).chain([MAIN]).collect();
            return Err(format!("no camera \"{name}\": expected one of {}", known.join(", ")));
        }
        if event.zoom.is_some_and(|zoom| !(1e-6..=1e6).contains(&zoom)) {
            return Err("zoom: expected 0.000001 to 1000000".to_owned());
        }
        if let Some(name) = event.first_bad_number() {
            return Err(format!("{name}: expected finite numbers"));
        }
        let sizes = [("show", event.show), ("bounds", event.bounds)];
        let empty = |rect: Option<[f64; 4]>| rect.is_some_and(|[_, _, w, h]| w <= 0.0 || h <= 0.0);
        if let Some((name, _)) = sizes.into_iter().find(|(_, rect)| empty(*rect)) {
            return Err(format!("{name}: expected x, y, width and height, the latter above 0"));
        }
        if event.glide.is_some_and(|seconds| !(0.0..=86_400.0).contains(&seconds)) {
            return Err("glide: expected 0 to 86400 seconds".to_owned());
        }
        event.window.map_or(Ok(()), check_window)
    }

    /// Every cue that is called must be one of the tuning's, or of a camera's own.
    fn check_cues(
        &self,
        settings: &Settings,
        cameras: &BTreeMap<String, TakeCamera>,
        document: &Document,
    ) -> Result<(), Fault> {
        for (index, event) in self.timeline.iter().enumerate() {
            let called = |name: &&String| {
                let own = |camera: &TakeCamera| camera.settings.cues.contains_key(*name);
                settings.cues.contains_key(*name) || cameras.values().any(own)
            };
            let Some(name) = event.cue.as_ref().filter(|name| !called(name)) else { continue };
            let known: Vec<&str> = settings.cues.keys().map(String::as_str).collect();
            let known = if known.is_empty() { "none".to_owned() } else { known.join(", ") };
            let what = format!("entry {}: no cue \"{name}\": the tuning has {known}", index + 1);
            return Err(document.fault("timeline", what));
        }
        Ok(())
    }

    fn check_name(&self, name: &str) -> Result<(), String> {
        if self.subjects.contains_key(name) {
            return Ok(());
        }
        let known: Vec<&str> = self.subjects.keys().map(String::as_str).collect();
        Err(format!("no subject \"{name}\": expected one of {}", known.join(", ")))
    }

    /// The subjects named by `watch`, or the only one there is.
    fn first_watched(&self, document: &Document) -> Result<Vec<String>, Fault> {
        if let Some(names) = &self.watch {
            for name in names {
                self.check_name(name).map_err(|what| document.fault("watch", what))?;
            }
            return Ok(names.clone());
        }
        match self.subjects.len() {
            0 | 1 => Ok(self.subjects.keys().cloned().collect()),
            _ => Err(document.fault("watch", "left out: expected names of the subjects")),
        }
    }

    fn read_cameras(
        &self,
        files: Files<'_>,
        document: &Document,
    ) -> Result<BTreeMap<String, TakeCamera>, Fault> {
        let read = |(name, entry): (&String, &CameraEntry)| {
            let key = format!("cameras.{name}");
            if name == MAIN {
                return Err(document.fault(&key, "that is the take's own: expected another name"));
            }
            for subject in &entry.watch {
                let fault = |what: String| document.fault(&format!("{key}.watch"), what);
                self.check_name(subject).map_err(fault)?;
            }
            if entry.look.is_some_and(|look| !look.iter().all(|number| number.is_finite())) {
                return Err(document.fault(&format!("{key}.look"), "expected a world point"));
            }
            let settings = match &entry.tuning {
                None => Settings::default(),
                Some(tuning) => tuning.read(files, document, &format!("{key}.tuning"), &[])?,
            };
            let (watch, look) = (entry.watch.clone(), entry.look);
            Ok((name.clone(), TakeCamera { settings, watch, look }))
        };
        self.cameras.iter().map(read).collect()
    }

    fn read_settings(
        &self,
        files: Files<'_>,
        document: &Document,
        changes: &[Change],
    ) -> Result<Settings, Fault> {
        match &self.tuning {
            Some(tuning @ Tuning::Beside(_)) => tuning.read(files, document, "tuning", changes),
            Some(tuning) if changes.is_empty() => tuning.read(files, document, "tuning", changes),
            Some(Tuning::Inline(_)) | None => {
                let changes: Vec<Change> = changes.iter().map(|one| one.within("tuning")).collect();
                let changed: TakeFile = document.parse_changed(&changes)?;
                let Some(Tuning::Inline(settings)) = changed.tuning else {
                    return Ok(Settings::default());
                };
                check_settings(&settings, document, "tuning.", &changes)?;
                Ok(*settings)
            }
        }
    }

    fn read_subjects(
        &self,
        files: Files<'_>,
        document: &Document,
    ) -> Result<BTreeMap<String, Actor>, Fault> {
        let read = |(name, entry): (&String, &SubjectEntry)| {
            let key = format!("subjects.{name}");
            let path = match (&entry.path, &entry.keys) {
                (Some(file), None) => Path::read(files, &beside(document.path(), file))
                    .map_err(|fault| missing(fault, document, &format!("{key}.path")))?,
                (None, Some(keys)) => Path::from_keys(keys)
                    .map_err(|what| document.fault(&format!("{key}.keys"), what))?,
                _ => return Err(document.fault(&key, "expected either path or keys")),
            };
            let (weight, margin) = (entry.weight.unwrap_or(1.0), entry.margin.unwrap_or(0.0));
            for (field, number) in [("weight", weight), ("margin", margin)] {
                if !(0.0..=1e9).contains(&number) {
                    let what = format!("{number} is not possible: expected 0 or more");
                    return Err(document.fault(&format!("{key}.{field}"), what));
                }
            }
            let priority = entry.priority.unwrap_or(0);
            Ok((name.clone(), Actor { path, weight, priority, margin }))
        };
        self.subjects.iter().map(read).collect()
    }
}

impl MapEntry {
    fn read(&self, files: Files<'_>, document: &Document) -> Result<Map, Fault> {
        if !self.tile.iter().all(|side| (1e-6..=1e9).contains(side)) {
            let what = format!(
                "{:?} is not possible: expected a width and a height in world units, above 0",
                self.tile
            );
            return Err(document.fault("map.tile", what));
        }
        if !self.origin.iter().all(|number| number.is_finite()) {
            return Err(document.fault("map.origin", "expected two finite world coordinates"));
        }
        Map::read(files, &beside(document.path(), &self.file), self.tile, self.origin)
            .map_err(|fault| missing(fault, document, "map.file"))
    }
}

/// Says where a file that can't be opened was named; faults within a file stay as they are.
fn missing(fault: Fault, document: &Document, key: &str) -> Fault {
    match (&fault.file, fault.place) {
        (Some(file), None) => document.fault(key, format!("{file}: {}", fault.what)),
        _ => fault,
    }
}

fn check_window(window: [u32; 2]) -> Result<(), String> {
    if window.iter().all(|side| *side <= 16_384) {
        return Ok(());
    }
    Err(format!("window {window:?}: expected at most 16384 pixels a side"))
}
