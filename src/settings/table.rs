//! All settings as tables of keys, to list, read and change by name.

use alloc::string::String;
use alloc::vec::Vec;

use crate::base::text::nearest;
use crate::goal::deadzone::Deadzone;
use crate::goal::look_ahead::LookAhead;
use crate::goal::lure::Lure;
use crate::goal::party::Party;
use crate::goal::rail::Rail;
use crate::goal::rooms::Rooms;
use crate::goal::scroll::Scroll;
use crate::keys::error::SettingsError;
use crate::keys::keys::Table;
use crate::keys::setting::Setting;
use crate::keys::value::{Field, Value};
use crate::lens::rotation::Rotation;
use crate::lens::screen::Screen;
use crate::lens::zoom::Zoom;
use crate::limits::bounds::Bounds;
use crate::limits::outline::Outline;
use crate::settings::follow::Follow;
use crate::settings::hands::Hands;
use crate::settings::reach::{Reach, Tables, reach};
use crate::settings::settings::Settings;
use crate::settings::zone::Zone;
use crate::shake::active_shakes::ShakeSettings;
use crate::shake::cue::{Cue, ZoomNudge};
use crate::shake::shake::Shake;
use crate::view::layer::Layer;

/// A table of a tuning file.
#[derive(Clone, Copy, Debug)]
pub struct SettingsTable {
    path: &'static str,
    help: &'static str,
    form: TableForm,
    keys: &'static [Setting],
    reach: Reach,
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

macro_rules! tables {
    ($($path:literal $form:ident $type:ty = ($($reach:tt)+), $help:literal;)*) => {
        [$(SettingsTable {
            path: $path,
            help: $help,
            form: TableForm::$form,
            keys: <$type>::KEYS,
            reach: reach!($($reach)+),
        }),*]
    };
}

/// All tables, in the order in which a frame uses them: the path, the form, the struct, where it is in the settings, and
/// what it is for.
static TABLES: &[SettingsTable] = &tables! {
    "screen" Always Screen = (screen), "The picture that the game draws";
    "follow" Always Follow = (follow), "How the view follows its subject";
    "follow.deadzone" Always Deadzone = (follow.deadzone),
        "The zone around its anchor in which the subject moves without the view";
    "follow.look_ahead" Optional LookAhead = (follow.look_ahead),
        "How far the view looks ahead of the subject";
    "party" Always Party = (party), "How several subjects are shown together";
    "rooms" Optional Rooms = (rooms), "Rooms that the view shows one at a time";
    "rail" Optional Rail = (rail), "A polyline on which the goal stays";
    "scroll" Optional Scroll = (scroll), "Steady scrolling";
    "bounds" Optional Bounds = (bounds), "The rectangle or the outline that the view must not leave";
    "outlines.*" Named Outline = (outlines), "A level that is not one rectangle";
    "zoom" Always Zoom = (zoom), "How large the world appears";
    "rotation" Always Rotation = (rotation), "How the camera turns";
    "hands" Always Hands = (hands), "How the view returns after the player moved it";
    "shake" Always ShakeSettings = (shake), "How several shakes are combined";
    "cues.*" Named Cue = (cues), "What the camera does at a named event of the game";
    "cues.*.shake" Optional Shake = (cues[].shake), "The shake of a cue";
    "cues.*.zoom" Optional ZoomNudge = (cues[].zoom), "A short change of the zoom";
    "lures.*" List Lure = (lures), "A point of interest that pulls the view";
    "zones.*" List Zone = (zones), "A region of the world with other settings";
    "zones.*.deadzone" Optional Deadzone = (zones[].deadzone), "The deadzone there";
    "layers.*" List Layer = (layers),
        "A layer that scrolls at its own rate, from back to front";
};

/// One table of some settings.
#[derive(Clone, Copy, Debug)]
struct TableKey<'a> {
    table: &'static SettingsTable,
    /// The text in place of `*`.
    item: &'a str,
}

impl<'a> TableKey<'a> {
    /// Returns the places that a path may name: a cue may be called `gate.shake`.
    fn all(path: &'a str) -> impl Iterator<Item = Self> {
        let find = move |table: &'static SettingsTable| {
            let item = match table.path.split_once('*') {
                None => (table.path == path).then_some("")?,
                Some((before, after)) => path.strip_prefix(before)?.strip_suffix(after)?,
            };
            Some(Self { table, item })
        };
        // From the end, so that `cues.gate.shake` is first of all the shake of a cue.
        TABLES.iter().rev().filter_map(find)
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
        TABLES
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
        place.table.keys.get(key)
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
            return Err(SettingsError::missing(path, value, self.no_such_key(path)));
        };
        let setting = &place.table.keys[key];
        if let Some(expected) = setting.refuses(&value) {
            return refused(value, expected);
        }
        let Some(table) = self.at_mut(place) else {
            // All but an item of a list is made.
            return Err(SettingsError::missing(path, value, self.no_such_item(place)));
        };
        let taken = table.field_mut(key).is_some_and(|field| field.put(&value));
        if taken { Ok(()) } else { refused(value, setting.expected()) }
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
        TableKey::all(path).any(|place| self.at(place).is_some())
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
        let Some(place) = TableKey::all(path).next() else { return false };
        (place.table.reach.at_mut)(self, place.item, true).is_some()
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
            let field = self.at_mut(place).filter(|_| there);
            return field.and_then(|table| table.field_mut(key)).is_some_and(Field::leave_out);
        }
        let there = TableKey::all(path).find(|place| self.at(*place).is_some());
        let Some(place) = there.or(TableKey::all(path).next()) else { return false };
        (place.table.reach.leave_out)(self, place.item)
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
        for table in TABLES {
            for item in self.items(table) {
                if let Some(found) = self.at(TableKey { table, item: &item }) {
                    here.push((table.path.replace('*', &item), found));
                }
            }
        }
        here
    }

    /// Settings with the same tables, each with its defaults.
    pub(crate) fn defaults_alike(&self) -> Self {
        let mut alike = Self::default();
        for table in TABLES {
            for item in self.items(table) {
                if self.at(TableKey { table, item: &item }).is_some() {
                    let _made = (table.reach.at_mut)(&mut alike, &item, true);
                }
            }
        }
        alike
    }

    /// Returns the texts in place of `*` in the path of a table.
    fn items(&self, table: &SettingsTable) -> Vec<String> {
        (table.reach.items)(self)
    }

    /// Why there is no key at a path.
    fn no_such_key(&self, path: &str) -> String {
        let keys = |table: &'static SettingsTable| {
            let paths = self.table_paths(table).into_iter();
            paths.flat_map(|path| {
                table.keys.iter().map(move |key| alloc::format!("{path}.{}", key.key()))
            })
        };
        let nearest = nearest(path, TABLES.iter().flat_map(keys));
        let hint = nearest.map(|name| alloc::format!(": did you mean {name:?}?"));
        ["no such setting", &hint.unwrap_or_default()].concat()
    }

    /// Why there is no item at a place in a list.
    fn no_such_item(&self, place: TableKey<'_>) -> String {
        let list = place.table.path.split('.').next().unwrap_or_default();
        let (name, item) = (list.trim_end_matches('s'), place.item);
        match self.items(place.table).last() {
            None => alloc::format!("there is no {name} {item}; the list is empty"),
            Some(last) => alloc::format!("there is no {name} {item}; the last is {last}"),
        }
    }

    fn at(&self, place: TableKey<'_>) -> Option<&dyn Table> {
        (place.table.reach.at)(self, place.item)
    }

    /// Returns the table at a place, to be changed. It is created if it does not exist.
    fn at_mut(&mut self, place: TableKey<'_>) -> Option<&mut dyn Table> {
        (place.table.reach.at_mut)(self, place.item, false)
    }
}

/// Returns the table and the key that a path names.
fn locate(path: &str) -> Option<(TableKey<'_>, usize)> {
    let dots = path.match_indices('.').map(|(at, _)| at);
    dots.rev().find_map(|at| {
        TableKey::all(&path[..at]).find_map(|place| {
            let keys = place.table.keys;
            let key = keys.iter().position(|setting| setting.key() == &path[at + 1..])?;
            Some((place, key))
        })
    })
}
