//! All settings as tables of keys, to list, read and change by name.

use alloc::string::String;
use alloc::vec::Vec;

use glam::DVec2;

use crate::goal::deadzone::Deadzone;
use crate::goal::look_ahead::LookAhead;
use crate::goal::lure::Lure;
use crate::goal::party::Party;
use crate::goal::rail::Rail;
use crate::goal::rooms::Rooms;
use crate::goal::scroll::Scroll;
use crate::lens::rotation::Rotation;
use crate::lens::screen::Screen;
use crate::lens::zoom::Zoom;
use crate::limits::bounds::Bounds;
use crate::settings::follow::Follow;
use crate::settings::hands::Hands;
use crate::settings::settings::Settings;
use crate::settings::zone::Zone;
use crate::shake::cue::{Cue, ZoomNudge};
use crate::shake::shake::Shake;
use crate::shake::shaker::Shaking;
use crate::units::error::SettingsError;
use crate::units::keys::Table;
use crate::units::rect::Rect;
use crate::units::setting::Setting;
use crate::units::value::Value;
use crate::view::layer::Layer;

/// A table of a tuning file.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SettingsTable {
    path: &'static str,
    help: &'static str,
    form: TableForm,
    keys: &'static [Setting],
}

/// How often a table may stand in a tuning file.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum TableForm {
    /// Once; left out, it is there with its defaults.
    Always,
    /// Once or not at all; left out, there is no such thing.
    Optional,
    /// Once for each name.
    Named,
    /// Any number of times, as a list.
    List,
}

impl SettingsTable {
    /// Returns its path; `*` stands for a name or a number, as in `cues.*.shake` and `layers.*`.
    #[must_use]
    pub const fn path(&self) -> &'static str {
        self.path
    }

    /// Returns what it is for, in one sentence without a full stop.
    #[must_use]
    pub const fn help(&self) -> &'static str {
        self.help
    }

    /// Returns how often it may stand in a tuning file.
    #[must_use]
    pub const fn form(&self) -> TableForm {
        self.form
    }

    /// Returns its keys.
    #[must_use]
    pub const fn keys(&self) -> &'static [Setting] {
        self.keys
    }
}

const fn table(
    path: &'static str,
    form: TableForm,
    keys: &'static [Setting],
    help: &'static str,
) -> SettingsTable {
    SettingsTable { path, help, form, keys }
}

/// In the order in which a frame uses them.
static TABLES: [SettingsTable; 20] = {
    use TableForm::{Always, List, Named, Optional};
    [
        table("screen", Always, Screen::KEYS, "The picture that the game draws"),
        table("follow", Always, Follow::KEYS, "How the view follows its subject"),
        table(
            "follow.deadzone",
            Always,
            Deadzone::KEYS,
            "The zone around its anchor in which the subject moves without the view",
        ),
        table(
            "follow.look_ahead",
            Optional,
            LookAhead::KEYS,
            "How far the view looks ahead of the subject",
        ),
        table("party", Always, Party::KEYS, "How several subjects are framed together"),
        table("rooms", Optional, Rooms::KEYS, "Rooms that the view shows one at a time"),
        table("rail", Optional, Rail::KEYS, "A polyline on which the goal stays"),
        table("scroll", Optional, Scroll::KEYS, "Steady scrolling"),
        table("bounds", Optional, Bounds::KEYS, "The rectangle that the view must not leave"),
        table("zoom", Always, Zoom::KEYS, "How large the world appears"),
        table("rotation", Always, Rotation::KEYS, "How the camera turns"),
        table("hands", Always, Hands::KEYS, "How the view returns after the player moved it"),
        table("shake", Always, Shaking::KEYS, "How several shakes are combined"),
        table("cues.*", Named, Cue::KEYS, "What the camera does at a named event of the game"),
        table("cues.*.shake", Optional, Shake::KEYS, "The shake of a cue"),
        table("cues.*.zoom", Optional, ZoomNudge::KEYS, "A short change of the zoom"),
        table("lures.*", List, Lure::KEYS, "A point of interest that pulls the view"),
        table("zones.*", List, Zone::KEYS, "A region of the world with other settings"),
        table("zones.*.deadzone", Optional, Deadzone::KEYS, "The deadzone there"),
        table(
            "layers.*",
            List,
            Layer::KEYS,
            "A layer that scrolls at its own rate, from back to front",
        ),
    ]
};

/// One table of some settings.
#[derive(Clone, Copy, Debug)]
struct Place<'a> {
    /// Its index in `TABLES`.
    table: usize,
    /// The text in place of `*`.
    item: &'a str,
}

impl<'a> Place<'a> {
    /// The places that a path may name: a cue may be called `gate.shake`.
    fn all(path: &'a str) -> impl Iterator<Item = Self> {
        let find = move |(table, known): (usize, &SettingsTable)| {
            let item = match known.path.split_once('*') {
                None => (known.path == path).then_some("")?,
                Some((before, after)) => path.strip_prefix(before)?.strip_suffix(after)?,
            };
            Some(Self { table, item })
        };
        // From the end, so that `cues.gate.shake` is first of all the shake of a cue.
        TABLES.iter().enumerate().rev().filter_map(find)
    }

    fn number(&self) -> Option<usize> {
        self.item.parse().ok()
    }
}

impl Settings {
    /// Returns all tables of a tuning file with their keys, in the order in which a frame uses them.
    ///
    /// ```
    /// use velvet_pan::Settings;
    ///
    /// for table in Settings::tables() {
    ///     println!("[{}] {}", table.path(), table.help());
    ///     for setting in table.keys() {
    ///         println!("  {}: {} ({})", setting.key(), setting.help(), setting.unit());
    ///     }
    /// }
    /// assert_eq!(Settings::tables()[0].keys()[0].key(), "size");
    /// ```
    #[must_use]
    pub fn tables() -> &'static [SettingsTable] {
        &TABLES
    }

    /// Returns the description of a key by its path: `follow.anchor`, `cues.gong.shake.reach`,
    /// `layers.0.rate`. Returns `None` if there is no such key.
    ///
    /// ```
    /// # use velvet_pan::Settings;
    /// assert_eq!(Settings::setting("zoom.half_life").map(|key| key.unit()), Some("s"));
    /// assert!(Settings::setting("zoom.half_live").is_none());
    /// ```
    #[must_use]
    pub fn setting(path: &str) -> Option<&'static Setting> {
        let (place, key) = locate(path)?;
        TABLES[place.table].keys.get(key)
    }

    /// Returns the value of a key by its path. Returns `None` if there is no such key, or if it is not set.
    ///
    /// ```
    /// use velvet_pan::{LookAhead, Settings, Value};
    ///
    /// let mut settings = Settings::default();
    /// assert_eq!(settings.get("follow.look_ahead.turn_after"), None);
    /// settings.follow.look_ahead = Some(LookAhead::default());
    /// assert_eq!(settings.get("follow.look_ahead.turn_after"), Some(Value::Number(0.04)));
    /// ```
    #[must_use]
    pub fn get(&self, path: &str) -> Option<Value> {
        let (place, key) = locate(path)?;
        self.at(place)?.value(key)
    }

    /// Sets a key by its path. A table that is left out, and a cue that is not there, is made with its
    /// defaults; items of lists must be there.
    ///
    /// # Errors
    ///
    /// There is no such key, or it does not allow this value. Nothing is then changed. Whether values fit each
    /// other, [`validate`](Self::validate) says.
    ///
    /// ```
    /// use velvet_pan::{Chosen, Settings};
    ///
    /// let mut settings = Settings::default();
    /// settings.set("follow.smoothing", Chosen::number("half_life", 0.12))?;
    /// settings.set("follow.look_ahead.turn_after", 0.1)?;
    /// assert_eq!(settings.follow.look_ahead.unwrap().turn_after, 0.1);
    ///
    /// let error = settings.set("zoom.half_life", -1.0).unwrap_err();
    /// assert_eq!(error.to_string(), "zoom.half_life = -1: expected a half-life in seconds, from 0 to 1000000");
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn set(&mut self, path: &str, value: impl Into<Value>) -> Result<(), SettingsError> {
        let value = value.into();
        let refused =
            |value, expected: String| Err(SettingsError::new(String::from(path), value, expected));
        let Some((place, key)) = locate(path) else {
            return refused(value, "a key of the settings".into());
        };
        let setting = &TABLES[place.table].keys[key];
        if let Some(expected) = setting.refuses(&value) {
            return refused(value, expected);
        }
        let Some(table) = self.at_mut(place) else {
            return refused(value, "an item of the list".into());
        };
        if table.put(key, &value) { Ok(()) } else { refused(value, setting.expected()) }
    }

    /// Returns the paths at which a table stands in these settings, or could stand: with the names of the cues
    /// and the numbers of the items that are there.
    ///
    /// ```
    /// use velvet_pan::{Layer, Settings};
    ///
    /// let mut settings = Settings::default();
    /// settings.layers = vec![Layer::at_rate("ridge", [0.3, 0.3])];
    /// let all: Vec<String> =
    ///     Settings::tables().iter().flat_map(|table| settings.table_paths(table)).collect();
    /// assert!(all.contains(&"layers.0".into()) && settings.has_table("layers.0"));
    /// assert!(all.contains(&"rooms".into()) && !settings.has_table("rooms"));
    /// ```
    #[must_use]
    pub fn table_paths(&self, table: &SettingsTable) -> Vec<String> {
        self.items(table).into_iter().map(|item| table.path.replace('*', &item)).collect()
    }

    /// Returns whether the table at this path is there.
    ///
    /// ```
    /// # use velvet_pan::Settings;
    /// let settings = Settings::default();
    /// assert!(settings.has_table("follow") && !settings.has_table("bounds"));
    /// ```
    #[must_use]
    pub fn has_table(&self, path: &str) -> bool {
        Place::all(path).any(|place| self.at(place).is_some())
    }

    /// Adds a table with its defaults if it is not there: an optional one, a cue, or the next item of a list. Returns
    /// whether it is there now. Some have keys without a default; [`validate`](Self::validate) names them.
    ///
    /// ```
    /// use velvet_pan::Settings;
    ///
    /// let mut settings = Settings::default();
    /// assert!(settings.add_table("follow.look_ahead"));
    /// assert!(settings.add_table("cues.gong.shake"));
    /// assert!(settings.add_table("layers.0"));
    /// assert!(!settings.add_table("layers.2")); // the next is 1
    /// assert!(settings.follow.look_ahead.is_some() && settings.layers.len() == 1);
    /// ```
    pub fn add_table(&mut self, path: &str) -> bool {
        let Some(place) = Place::all(path).next() else { return false };
        let next = |length: usize| place.number() == Some(length);
        match TABLES[place.table].path {
            "lures.*" if next(self.lures.len()) => {
                self.lures.push(Lure { at: DVec2::ZERO, radius: 0.0, strength: 0.5 });
            }
            "zones.*" if next(self.zones.len()) => self.zones.push(Zone::new(Rect::default())),
            "layers.*" if next(self.layers.len()) => self.layers.push(Layer::default()),
            _ => {}
        }
        self.at_mut(place).is_some()
    }

    /// Leaves out a key or a table that may be left out. Returns whether it may.
    ///
    /// ```
    /// use velvet_pan::Settings;
    ///
    /// let mut settings = Settings::default();
    /// settings.set("rooms.slide", 0.5).unwrap();
    /// assert!(settings.leave_out("rooms.slide"));
    /// assert!(settings.leave_out("rooms"));
    /// assert!(!settings.leave_out("zoom.level"));
    /// assert_eq!(settings, Settings::default());
    /// ```
    pub fn leave_out(&mut self, path: &str) -> bool {
        if let Some((place, key)) = locate(path) {
            let there = self.at(place).is_some();
            return there && self.at_mut(place).is_some_and(|table| table.leave_out(key));
        }
        let there = Place::all(path).find(|place| self.at(*place).is_some());
        let Some(place) = there.or(Place::all(path).next()) else { return false };
        let zone = place.number().filter(|index| *index < self.zones.len());
        match TABLES[place.table].path {
            "follow.look_ahead" => self.follow.look_ahead = None,
            "rooms" => self.rooms = None,
            "rail" => self.rail = None,
            "scroll" => self.scroll = None,
            "bounds" => self.bounds = None,
            "cues.*" => return self.cues.remove(place.item).is_some(),
            "cues.*.shake" | "cues.*.zoom" => {
                let Some(cue) = self.cues.get_mut(place.item) else { return false };
                if path.ends_with(".shake") { cue.shake = None } else { cue.zoom = None }
            }
            "zones.*.deadzone" => match zone {
                Some(index) => self.zones[index].deadzone = None,
                None => return false,
            },
            _ => return false,
        }
        true
    }

    /// Returns the paths of all keys that these settings have, cues and items of lists included, each with its
    /// description. Keys of tables that are left out are missing.
    #[must_use]
    pub fn paths(&self) -> Vec<(String, &'static Setting)> {
        let tables = self.tables_here().into_iter();
        let keys = tables.flat_map(|(path, table)| {
            let keys = table.keys().iter();
            keys.map(move |setting| (alloc::format!("{path}.{}", setting.key()), setting))
        });
        keys.collect()
    }

    /// All existing tables, with their paths.
    pub(crate) fn tables_here(&self) -> Vec<(String, &dyn Table)> {
        let mut here: Vec<(String, &dyn Table)> = Vec::new();
        for (table, known) in TABLES.iter().enumerate() {
            for item in self.items(known) {
                if let Some(held) = self.at(Place { table, item: &item }) {
                    here.push((known.path.replace('*', &item), held));
                }
            }
        }
        here
    }

    /// The texts in place of `*` in the path of a table.
    fn items(&self, table: &SettingsTable) -> Vec<String> {
        match table.path.split_once(".*") {
            Some(("cues", _)) => self.cues.keys().cloned().collect(),
            Some((list, _)) => {
                (0..self.length(list)).map(|item| alloc::format!("{item}")).collect()
            }
            None => alloc::vec![String::new()],
        }
    }

    fn length(&self, list: &str) -> usize {
        match list {
            "lures" => self.lures.len(),
            "zones" => self.zones.len(),
            _ => self.layers.len(),
        }
    }

    fn at(&self, place: Place<'_>) -> Option<&dyn Table> {
        let cue = self.cues.get(place.item);
        let zone = place.number().and_then(|index| self.zones.get(index));
        Some(match TABLES[place.table].path {
            "screen" => &self.screen,
            "follow" => &self.follow,
            "follow.deadzone" => &self.follow.deadzone,
            "follow.look_ahead" => self.follow.look_ahead.as_ref()?,
            "party" => &self.party,
            "rooms" => self.rooms.as_ref()?,
            "rail" => self.rail.as_ref()?,
            "scroll" => self.scroll.as_ref()?,
            "bounds" => self.bounds.as_ref()?,
            "zoom" => &self.zoom,
            "rotation" => &self.rotation,
            "hands" => &self.hands,
            "shake" => &self.shake,
            "cues.*" => cue?,
            "cues.*.shake" => cue?.shake.as_ref()?,
            "cues.*.zoom" => cue?.zoom.as_ref()?,
            "lures.*" => self.lures.get(place.number()?)?,
            "zones.*" => zone?,
            "zones.*.deadzone" => zone?.deadzone.as_ref()?,
            _ => self.layers.get(place.number()?)?,
        })
    }

    /// The table at a place, to be changed. It is created if it does not exist.
    fn at_mut(&mut self, place: Place<'_>) -> Option<&mut dyn Table> {
        let path = TABLES[place.table].path;
        if path.starts_with("cues") {
            let cue = self.cues.entry(place.item.into()).or_default();
            return Some(match path {
                "cues.*" => cue,
                "cues.*.shake" => cue.shake.get_or_insert_default(),
                _ => cue.zoom.get_or_insert_default(),
            });
        }
        Some(match path {
            "screen" => &mut self.screen,
            "follow" => &mut self.follow,
            "follow.deadzone" => &mut self.follow.deadzone,
            "follow.look_ahead" => self.follow.look_ahead.get_or_insert_default(),
            "party" => &mut self.party,
            "rooms" => self.rooms.get_or_insert_default(),
            "rail" => self.rail.get_or_insert_default(),
            "scroll" => self.scroll.get_or_insert_default(),
            "bounds" => self.bounds.get_or_insert_with(|| Bounds::new(Rect::default())),
            "zoom" => &mut self.zoom,
            "rotation" => &mut self.rotation,
            "hands" => &mut self.hands,
            "shake" => &mut self.shake,
            "lures.*" => self.lures.get_mut(place.number()?)?,
            "zones.*" => self.zones.get_mut(place.number()?)?,
            "zones.*.deadzone" => {
                self.zones.get_mut(place.number()?)?.deadzone.get_or_insert_default()
            }
            _ => self.layers.get_mut(place.number()?)?,
        })
    }
}

/// The table and the key that a path names.
fn locate(path: &str) -> Option<(Place<'_>, usize)> {
    let dots = path.match_indices('.').map(|(at, _)| at);
    dots.rev().find_map(|at| {
        Place::all(&path[..at]).find_map(|place| {
            let keys = TABLES[place.table].keys;
            let key = keys.iter().position(|setting| setting.key() == &path[at + 1..])?;
            Some((place, key))
        })
    })
}
