//! Where each table of keys is in the settings.

use alloc::collections::BTreeMap;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use glam::DVec2;

use crate::goal::deadzone::Deadzone;
use crate::goal::look_ahead::LookAhead;
use crate::goal::lure::Lure;
use crate::goal::rail::Rail;
use crate::goal::rooms::Rooms;
use crate::goal::scroll::Scroll;
use crate::limits::bounds::Bounds;
use crate::settings::settings::Settings;
use crate::settings::zone::Zone;
use crate::shake::cue::ZoomNudge;
use crate::shake::shake::Shake;
use crate::units::keys::Table;
use crate::units::rect::Rect;
use crate::view::layer::Layer;

/// How to reach a table. The texts are those in place of `*` in its path.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Reach {
    /// The texts of the items that are there; one that is empty if there is no `*`.
    pub items: fn(&Settings) -> Vec<String>,
    pub at: for<'a> fn(&'a Settings, &str) -> Option<&'a dyn Table>,
    /// The same, to be changed. An optional table and a named item are made if they are not there; if `adds`, the next item
    /// of a list, too.
    pub at_mut: for<'a> fn(&'a mut Settings, &str, adds: bool) -> Option<&'a mut dyn Table>,
    /// Takes the table away. Returns whether it may be left out.
    pub leave_out: fn(&mut Settings, &str) -> bool,
}

/// A table that is always there, or may be left out.
pub(crate) trait Slot {
    fn table(&self) -> Option<&dyn Table>;

    /// Returns the table, made with its defaults if it is not there.
    fn make(&mut self) -> Option<&mut dyn Table>;

    /// Takes it away. Returns whether it may be left out.
    fn take_away(&mut self) -> bool;
}

impl<T: Table + 'static> Slot for T {
    fn table(&self) -> Option<&dyn Table> {
        Some(self)
    }

    fn make(&mut self) -> Option<&mut dyn Table> {
        Some(self)
    }

    fn take_away(&mut self) -> bool {
        false
    }
}

impl<T: Table + Blank + 'static> Slot for Option<T> {
    fn table(&self) -> Option<&dyn Table> {
        Some(self.as_ref()?)
    }

    fn make(&mut self) -> Option<&mut dyn Table> {
        Some(self.get_or_insert_with(T::blank))
    }

    fn take_away(&mut self) -> bool {
        *self = None;
        true
    }
}

/// Tables with numbers, or with names.
pub(crate) trait Items {
    type Item;

    fn names(&self) -> Vec<String>;

    fn item(&self, name: &str) -> Option<&Self::Item>;

    /// Returns the item. A named one is made if it is not there; if `adds`, the next one of a list.
    fn item_mut(&mut self, name: &str, adds: bool) -> Option<&mut Self::Item>;

    /// Takes a named item away. Returns whether it was there.
    fn take_item_away(&mut self, name: &str) -> bool;
}

impl<T: Blank> Items for Vec<T> {
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

    fn take_item_away(&mut self, _name: &str) -> bool {
        false
    }
}

impl<T: Default> Items for BTreeMap<String, T> {
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

    fn take_item_away(&mut self, name: &str) -> bool {
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
    Bounds = Self::new(Rect::default());
    Zone = Self::new(Rect::default());
    Lure = Self { at: DVec2::ZERO, radius: 0.0, strength: 0.5 };
}

/// A table that is there once, or not at all.
macro_rules! one {
    ($($field:ident).+) => {
        Reach {
            items: |_| alloc::vec![String::new()],
            at: |settings, _| settings.$($field).+.table(),
            at_mut: |settings, _, _| settings.$($field).+.make(),
            leave_out: |settings, _| settings.$($field).+.take_away(),
        }
    };
}

/// A table that is there for each item of a list, or for each name.
macro_rules! each {
    ($list:ident) => {
        Reach {
            items: |settings| settings.$list.names(),
            at: |settings, item| settings.$list.item(item).and_then(Slot::table),
            at_mut: |settings, item, adds| settings.$list.item_mut(item, adds).and_then(Slot::make),
            leave_out: |settings, item| settings.$list.take_item_away(item),
        }
    };
}

/// A table within each of those.
macro_rules! in_each {
    ($list:ident, $field:ident) => {
        Reach {
            items: |settings| settings.$list.names(),
            at: |settings, item| settings.$list.item(item)?.$field.table(),
            at_mut: |settings, item, adds| settings.$list.item_mut(item, adds)?.$field.make(),
            leave_out: |settings, item| {
                let there = settings.$list.item(item).is_some();
                there
                    && settings
                        .$list
                        .item_mut(item, false)
                        .is_some_and(|one| one.$field.take_away())
            },
        }
    };
}

pub(crate) use {each, in_each, one};
