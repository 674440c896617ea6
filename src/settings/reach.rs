//! Where each table of keys is in the settings.

use alloc::collections::BTreeMap;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use glam::DVec2;

use crate::base::rect::Rect;
use crate::goal::deadzone::Deadzone;
use crate::goal::look_ahead::LookAhead;
use crate::goal::lure::Lure;
use crate::goal::rail::Rail;
use crate::goal::rooms::Rooms;
use crate::goal::scroll::Scroll;
use crate::keys::keys::Table;
use crate::limits::bounds::Bounds;
use crate::settings::settings::Settings;
use crate::settings::zone::Zone;
use crate::shake::cue::ZoomNudge;
use crate::shake::shake::Shake;
use crate::view::layer::Layer;

/// How to reach a table. The texts are those in place of `*` in its path.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Reach {
    /// The texts of the items that are there; one that is empty if there is no `*`.
    pub items: fn(&Settings) -> Vec<String>,
    pub at: for<'a> fn(&'a Settings, &str) -> Option<&'a dyn Table>,
    /// The same, to be changed. An optional table and a named item are made if they are not there; if `adds`, the next
    /// item of a list, too.
    pub at_mut: for<'a> fn(&'a mut Settings, &str, adds: bool) -> Option<&'a mut dyn Table>,
    /// Takes the table away. Returns whether it may be left out.
    pub leave_out: fn(&mut Settings, &str) -> bool,
}

/// Where tables are kept. One that stands alone has an empty name.
pub(crate) trait Tables {
    type Item;

    fn names(&self) -> Vec<String>;

    fn item(&self, name: &str) -> Option<&Self::Item>;

    /// Returns the same, to be changed. What may be left out, and a named item, is made; if `adds`, the next item of a
    /// list, too.
    fn item_mut(&mut self, name: &str, adds: bool) -> Option<&mut Self::Item>;

    /// Takes it away. Returns whether it may be left out.
    fn take_away(&mut self, name: &str) -> bool;
}

impl<T: Table> Tables for T {
    type Item = T;

    fn names(&self) -> Vec<String> {
        alloc::vec![String::new()]
    }

    fn item(&self, _name: &str) -> Option<&T> {
        Some(self)
    }

    fn item_mut(&mut self, _name: &str, _adds: bool) -> Option<&mut T> {
        Some(self)
    }

    fn take_away(&mut self, _name: &str) -> bool {
        false
    }
}

impl<T: Blank> Tables for Option<T> {
    type Item = T;

    fn names(&self) -> Vec<String> {
        alloc::vec![String::new()]
    }

    fn item(&self, _name: &str) -> Option<&T> {
        self.as_ref()
    }

    fn item_mut(&mut self, _name: &str, _adds: bool) -> Option<&mut T> {
        Some(self.get_or_insert_with(T::blank))
    }

    fn take_away(&mut self, _name: &str) -> bool {
        *self = None;
        true
    }
}

impl<T: Blank> Tables for Vec<T> {
    type Item = T;

    fn names(&self) -> Vec<String> {
        (0..self.len()).map(|number| number.to_string()).collect()
    }

    fn item(&self, name: &str) -> Option<&T> {
        self.get(name.parse::<usize>().ok()?)
    }

    fn item_mut(&mut self, name: &str, adds: bool) -> Option<&mut T> {
        let number = name.parse::<usize>().ok()?;
        if adds && number == self.len() {
            self.push(T::blank());
        }
        self.get_mut(number)
    }

    fn take_away(&mut self, _name: &str) -> bool {
        false
    }
}

impl<T: Default> Tables for BTreeMap<String, T> {
    type Item = T;

    fn names(&self) -> Vec<String> {
        self.keys().cloned().collect()
    }

    fn item(&self, name: &str) -> Option<&T> {
        self.get(name)
    }

    fn item_mut(&mut self, name: &str, _adds: bool) -> Option<&mut T> {
        Some(self.entry(name.into()).or_default())
    }

    fn take_away(&mut self, name: &str) -> bool {
        self.remove(name).is_some()
    }
}

/// A table that was just added. Some have keys without a default.
pub(crate) trait Blank {
    fn blank() -> Self;
}

macro_rules! blank {
    ($($type:ty = $blank:expr;)*) => {
        $(impl Blank for $type {
            fn blank() -> Self {
                $blank
            }
        })*
    };
}

blank! {
    LookAhead = Self::default();
    Rooms = Self::default();
    Rail = Self::default();
    Scroll = Self::default();
    Shake = Self::default();
    ZoomNudge = Self::default();
    Deadzone = Self::default();
    Layer = Self::default();
    Bounds = Self { rect: None, ..Self::new(Rect::default()) };
    Zone = Self::new(Rect::default());
    Lure = Self { at: DVec2::ZERO, radius: 0.0, strength: 0.5 };
}

/// A field of the settings, or one of each of their items: `cues[].shake`.
macro_rules! reach {
    ($($field:ident).+) => {
        Reach {
            items: |settings| settings.$($field).+.names(),
            at: |settings, item| Some(settings.$($field).+.item(item)?),
            at_mut: |settings, item, adds| Some(settings.$($field).+.item_mut(item, adds)?),
            leave_out: |settings, item| settings.$($field).+.take_away(item),
        }
    };
    ($list:ident[].$field:ident) => {
        Reach {
            items: |settings| settings.$list.names(),
            at: |settings, item| Some(settings.$list.item(item)?.$field.item("")?),
            at_mut: |settings, item, adds| {
                Some(settings.$list.item_mut(item, adds)?.$field.item_mut("", adds)?)
            },
            leave_out: |settings, item| {
                let there = settings.$list.item(item).is_some();
                // Only one that is there, because a named one would be made.
                there
                    && settings
                        .$list
                        .item_mut(item, false)
                        .is_some_and(|item| item.$field.take_away(""))
            },
        }
    };
}

pub(crate) use reach;
