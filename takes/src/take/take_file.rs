//! A take as it is written in its file, and the checks that need no other file.

use std::collections::BTreeMap;

use velvet_pan::{Rect, Settings};

use crate::log::Log;
use crate::take::event::Event;
use crate::take::map::{Map, MapForm};
use crate::take::path::{MAX_COORDINATE, Path};
use crate::take::pictures::Pictures;
use crate::take::player::Player;
use crate::take::subjects::{MAIN, TakeCamera, TakeSubject};
use crate::text::change::Change;
use crate::text::document::{Document, in_order};
use crate::text::fault::Fault;
use crate::text::files::{Files, beside};
use crate::text::keys::{Faults, Keys};
use crate::text::node::{Node, Tree};
use crate::tuning::tuning::{read_settings, settings_in};

/// Returns every fault in the text of a take file, and whether its tuning is a table within it.
///
/// Does not read the files that the take names; [`Take::read`](crate::Take::read) does.
pub fn take_faults(document: &Document) -> (Vec<Fault>, bool) {
    let (file, faults) = TakeFile::read(document, &[]);
    (faults, matches!(file.tuning, Some(Tuning::Inline(_))))
}

/// A take as it is written in its file.
#[derive(Debug, Default)]
pub(crate) struct TakeFile {
    pub tuning: Option<Tuning>,
    pub seconds: Option<f64>,
    pub fps: Option<f64>,
    pub window: Option<[u32; 2]>,
    pub map: Option<MapEntry>,
    pub watch: Option<Vec<String>>,
    pub cameras: BTreeMap<String, CameraEntry>,
    pub subjects: BTreeMap<String, SubjectEntry>,
    pub events: Vec<Event>,
    pub gates: BTreeMap<String, f64>,
    /// The table of calls of a ride log, and the version of the library that wrote it.
    pub calls: Option<String>,
    pub version: Option<String>,
    /// The tuning file that its game reads.
    pub tunes: Option<String>,
    pub hazards: Vec<HazardEntry>,
    pub pictures: Pictures,
    pub player: Option<Player>,
}

#[derive(Debug)]
pub(crate) struct MapEntry {
    file: String,
    tile: [f64; 2],
    origin: [f64; 2],
    blank: i64,
    number_bits: Option<u32>,
}

#[derive(Debug)]
pub(crate) struct SubjectEntry {
    path: Option<String>,
    keys: Option<Vec<[f64; 3]>>,
    weight: Option<f64>,
    rank: Option<i32>,
    margin: Option<f64>,
}

#[derive(Debug)]
pub(crate) struct CameraEntry {
    tuning: Option<Tuning>,
    watch: Vec<String>,
    aim: Option<[f64; 2]>,
}

/// A point or a rectangle.
#[derive(Debug)]
pub(crate) struct HazardEntry {
    at: Option<[f64; 2]>,
    rect: Option<[f64; 4]>,
}

/// The settings of a take: a file beside it, or a table within it.
#[derive(Debug)]
pub(crate) enum Tuning {
    Beside(String),
    Inline(Box<Settings>),
}

impl TakeFile {
    /// Reads the file after these changes of its tuning, and returns every fault. A tuning in a file of its own is
    /// changed when that file is read.
    pub fn read(document: &Document, changes: &[Change]) -> (Self, Vec<Fault>) {
        match Self::changed(document, changes) {
            Ok(read) => read,
            Err(fault) => (Self::default(), vec![fault]),
        }
    }

    fn changed(document: &Document, changes: &[Change]) -> Result<(Self, Vec<Fault>), Fault> {
        let tuning = document.root()?.get("tuning");
        let is_beside = tuning.is_some_and(|tuning| matches!(tuning.tree, Tree::Text(_)));
        let changes: Vec<Change> = match is_beside {
            true => Vec::new(),
            false => changes.iter().map(|change| change.within("tuning")).collect(),
        };
        let root = document.changed(&changes)?;
        let mut faults = Faults::new(document, &changes);
        let file = Self::of(Keys::of(&root, "", &None, &mut faults));
        Ok((file, in_order(faults.found)))
    }

    fn of(mut keys: Keys<'_, '_, '_>) -> Self {
        let file = Self {
            tuning: Tuning::read(&mut keys),
            seconds: keys.number("seconds"),
            fps: keys.number("fps"),
            window: keys.size("window"),
            map: keys.table("map", MapEntry::of),
            watch: keys.texts("watch"),
            cameras: keys.named("cameras", CameraEntry::of).into_iter().collect(),
            subjects: keys.named("subjects", SubjectEntry::of).into_iter().collect(),
            events: keys.listed("events", Event::read),
            gates: keys.number_table("gates"),
            calls: keys.text("calls"),
            version: keys.text("version"),
            tunes: keys.text("tunes"),
            hazards: keys.listed("hazards", HazardEntry::of),
            pictures: keys.table("pictures", Pictures::read).unwrap_or_default(),
            player: keys.table("player", Player::read),
        };
        keys.finish();
        file
    }
}

impl MapEntry {
    fn of(mut keys: Keys<'_, '_, '_>) -> Self {
        let pair = |node: &Node| node.array("a list of 2 numbers", Node::number);
        let map = Self {
            file: keys
                .required("file", "the name of a CSV file", |node| node.text().map(str::to_owned)),
            tile: keys.required("tile", "the size of a tile, [width, height]", pair),
            origin: keys.numbers("origin").unwrap_or_default(),
            blank: keys.read("blank", |node| node.whole("0 or -1")).unwrap_or_default(),
            number_bits: keys
                .read("number_bits", |node| node.whole_in(1..=32, "a number of bits, 1 to 32")),
        };
        keys.finish();
        map
    }
}

impl SubjectEntry {
    fn of(mut keys: Keys<'_, '_, '_>) -> Self {
        let key = |node: &Node| node.array("a list of 3 numbers: seconds, x, y", Node::number);
        let subject = Self {
            path: keys.text("path"),
            keys: keys.read("keys", |node| node.list("a list of [seconds, x, y]", key)),
            weight: keys.number("weight"),
            rank: keys.read("rank", |node| node.whole("a whole number")),
            margin: keys.number("margin"),
        };
        keys.finish();
        subject
    }
}

impl CameraEntry {
    fn of(mut keys: Keys<'_, '_, '_>) -> Self {
        let camera = Self {
            tuning: Tuning::read(&mut keys),
            watch: keys.texts("watch").unwrap_or_default(),
            aim: keys.numbers("aim"),
        };
        keys.finish();
        camera
    }
}

impl HazardEntry {
    fn of(mut keys: Keys<'_, '_, '_>) -> Self {
        let hazard = Self { at: keys.numbers("at"), rect: keys.numbers("rect") };
        keys.finish();
        hazard
    }

    /// Returns the rectangle of it, or what would be right.
    fn area(&self) -> Result<Rect, &'static str> {
        let rect = match (self.at, self.rect) {
            (Some(at), None) => Rect { min: at.into(), max: at.into() },
            (None, Some([x, y, width, height])) if width > 0.0 && height > 0.0 => {
                Rect::from_corner_size([x, y], [width, height])
            }
            _ => return Err("expected either at = [x, y] or rect = [x, y, width, height]"),
        };
        let near = rect.min.abs().max(rect.max.abs()).max_element() <= MAX_COORDINATE;
        if near { Ok(rect) } else { Err("expected world coordinates up to 1e12") }
    }
}

impl Tuning {
    /// Reads the key `tuning`: the name of a file, or a table of settings.
    fn read(keys: &mut Keys<'_, '_, '_>) -> Option<Self> {
        let entry = keys.entry("tuning")?;
        let path = keys.path("tuning");
        match &entry.node.tree {
            Tree::Text(name) => Some(Self::Beside(name.clone())),
            Tree::Table(_) => {
                let settings = settings_in(&entry.node, &path, &entry.span, keys.faults);
                Some(Self::Inline(Box::new(settings)))
            }
            _ => {
                let wrong = entry.node.wrong("the name of a tuning file, or a table of settings");
                keys.faults.add(&path, &entry.span, wrong.what);
                None
            }
        }
    }

    /// Returns the settings; `key` is where the document names them. The changes are for a file beside the take.
    fn settings(
        &self,
        files: Files<'_>,
        document: &Document,
        key: &str,
        changes: &[Change],
    ) -> Result<Settings, Fault> {
        match self {
            Self::Beside(name) => read_settings(files, &beside(document.path(), name), changes)
                .map_err(|fault| missing(fault, document, key)),
            Self::Inline(settings) => Ok((**settings).clone()),
        }
    }
}

impl TakeFile {
    /// Returns the ride log, if the take is one.
    pub fn read_log(&self, files: Files<'_>, document: &Document) -> Result<Option<Log>, Fault> {
        let Some(calls) = &self.calls else { return Ok(None) };
        let log = Log::read(files, &beside(document.path(), calls))
            .map_err(|fault| missing(fault, document, "calls"))?;
        Ok(Some(log.of_game(self.version.clone(), self.tunes.as_ref().map(Into::into))))
    }

    /// Returns the hazards, and the faults of those that can't be read.
    pub fn read_hazards(&self, document: &Document, faults: &mut Vec<Fault>) -> Vec<Rect> {
        let mut read = |(index, hazard): (usize, &HazardEntry)| {
            let fault = |what| faults.push(document.fault(&format!("hazards.{index}"), what));
            hazard.area().map_err(fault).ok()
        };
        self.hazards.iter().enumerate().filter_map(&mut read).collect()
    }

    /// Returns the subjects named by `watch`, or the only subject.
    pub fn first_watched(&self, document: &Document) -> Result<Vec<String>, Fault> {
        if let Some(names) = &self.watch {
            for name in names {
                self.check_name(name).map_err(|what| document.fault("watch", what))?;
            }
            return Ok(names.clone());
        }
        match self.subjects.len() {
            0 | 1 => Ok(self.subjects.keys().cloned().collect()),
            _ => Err(document.fault("watch", "missing: expected names of the subjects")),
        }
    }

    pub fn read_cameras(
        &self,
        files: Files<'_>,
        document: &Document,
    ) -> Result<BTreeMap<String, TakeCamera>, Fault> {
        let read = |(name, entry): (&String, &CameraEntry)| {
            let key = format!("cameras.{name}");
            if name == MAIN {
                return Err(document.fault(
                    &key,
                    "this is the name of the take's own camera: expected another name",
                ));
            }
            for subject in &entry.watch {
                let fault = |what: String| document.fault(&format!("{key}.watch"), what);
                self.check_name(subject).map_err(fault)?;
            }
            if entry.aim.is_some_and(|aim| !aim.iter().all(|number| number.abs() <= MAX_COORDINATE))
            {
                return Err(document.fault(&format!("{key}.aim"), "expected a world point"));
            }
            let settings = match &entry.tuning {
                None => Settings::default(),
                Some(tuning) => tuning.settings(files, document, &format!("{key}.tuning"), &[])?,
            };
            let (watch, aim) = (entry.watch.clone(), entry.aim);
            Ok((name.clone(), TakeCamera { settings, watch, aim }))
        };
        self.cameras.iter().map(read).collect()
    }

    pub fn read_settings(
        &self,
        files: Files<'_>,
        document: &Document,
        changes: &[Change],
    ) -> Result<Settings, Fault> {
        match &self.tuning {
            Some(tuning) => tuning.settings(files, document, "tuning", changes),
            None => Ok(Settings::default()),
        }
    }

    /// Returns the subjects that can be read, and the faults of the others.
    pub fn read_subjects(
        &self,
        files: Files<'_>,
        document: &Document,
    ) -> (BTreeMap<String, TakeSubject>, Vec<Fault>) {
        let (mut subjects, mut faults) = (BTreeMap::new(), Vec::new());
        for (name, entry) in &self.subjects {
            match entry.read(files, document, &format!("subjects.{name}")) {
                Ok(subject) => {
                    subjects.insert(name.clone(), subject);
                }
                Err(fault) => faults.push(fault),
            }
        }
        (subjects, faults)
    }
}

impl SubjectEntry {
    fn read(&self, files: Files<'_>, document: &Document, key: &str) -> Result<TakeSubject, Fault> {
        let path = match (&self.path, &self.keys) {
            (Some(file), None) => Path::read(files, &beside(document.path(), file))
                .map_err(|fault| missing(fault, document, &format!("{key}.path")))?,
            (None, Some(keys)) => Path::from_keys(keys)
                .map_err(|what| document.fault(&format!("{key}.keys"), what))?,
            _ => return Err(document.fault(key, "expected either path or keys")),
        };
        let (weight, margin) = (self.weight.unwrap_or(1.0), self.margin.unwrap_or(0.0));
        for (field, number) in [("weight", weight), ("margin", margin)] {
            if !(0.0..=1e9).contains(&number) {
                let what = format!("{number} is not possible: expected 0 or more");
                return Err(document.fault(&format!("{key}.{field}"), what));
            }
        }
        Ok(TakeSubject { path, weight, rank: self.rank.unwrap_or(0), margin })
    }
}

impl MapEntry {
    pub fn read(&self, files: Files<'_>, document: &Document) -> Result<Map, Fault> {
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
        if !(-1..=0).contains(&self.blank) {
            return Err(document.fault("map.blank", format!("{}: expected 0 or -1", self.blank)));
        }
        let Self { tile, origin, blank, number_bits, .. } = *self;
        let form = MapForm { tile, origin, blank, number_bits };
        Map::read(files, &beside(document.path(), &self.file), &form)
            .map_err(|fault| missing(fault, document, "map.file"))
    }
}

/// Adds where a file was named if it can't be opened. Faults within a file stay as they are.
fn missing(fault: Fault, document: &Document, key: &str) -> Fault {
    match (&fault.file, fault.place) {
        (Some(file), None) => document.fault(key, format!("{file}: {}", fault.what)),
        _ => fault,
    }
}

impl Document {
    /// Returns whether the file is a take and not a tuning, judged by its keys. A file without any key is a tuning
    /// with defaults.
    pub fn is_take(&self) -> bool {
        self.root().is_ok_and(|root| TAKE_KEYS.iter().any(|key| root.get(key).is_some()))
    }
}

/// The keys by which a take is recognised.
const TAKE_KEYS: [&str; 14] = [
    "tuning", "subjects", "events", "watch", "cameras", "map", "fps", "seconds", "window", "gates",
    "calls", "hazards", "pictures", "player",
];
