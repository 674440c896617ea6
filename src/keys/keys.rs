//! The keys of a struct of settings, listed beside its fields.
//!
//! All texts about settings come from these lists: the checks and their messages, the reference page, the schema, and
//! the panel.

use crate::keys::error::{Report, SettingsError};
use crate::keys::setting::Setting;
use crate::keys::value::{Field, Value};

/// A struct of settings as a table of keys.
pub(crate) trait Table {
    /// Its keys, in the order of the reference page.
    fn keys(&self) -> &'static [Setting];

    /// Returns the field of a key by its index.
    fn field(&self, key: usize) -> Option<&dyn Field>;

    /// Returns the same, to be changed.
    fn field_mut(&mut self, key: usize) -> Option<&mut dyn Field>;

    /// Returns the value of a key, or `None` if it is not set.
    fn value(&self, key: usize) -> Option<Value> {
        self.field(key)?.value()
    }
}

/// Returns whether its keys allow every value of a table.
pub(crate) fn is_valid(table: &dyn Table) -> bool {
    let mut valid = true;
    report_faults(table, "", &mut |_| valid = false);
    valid
}

/// Reports every value of a table that its key does not allow; for a list, every item.
pub(crate) fn report_faults(table: &dyn Table, path: &str, report: Report<'_>) {
    for (index, setting) in table.keys().iter().enumerate() {
        let Some(value) = table.value(index) else { continue };
        let Some(expected) = setting.refuses(&value) else { continue };
        let field = alloc::format!("{path}.{}", setting.key());
        let Value::Rects(rects) = value else {
            report(SettingsError::new(field, value, expected));
            continue;
        };
        for (index, rect) in rects.into_iter().enumerate().filter(|(_, rect)| !rect.is_place()) {
            report(SettingsError::new(alloc::format!("{field}.{index}"), rect, expected.clone()));
        }
    }
}

/// Lists the keys of a struct of settings, each with its field.
macro_rules! settings {
    ($type:ty { $($($field:ident).+ = $setting:expr;)* }) => {
        impl $type {
            /// Its keys.
            pub(crate) const KEYS: &'static [$crate::keys::setting::Setting] = &[$($setting),*];
        }

        impl $crate::keys::keys::Table for $type {
            fn keys(&self) -> &'static [$crate::keys::setting::Setting] {
                Self::KEYS
            }

            fn field(&self, key: usize) -> Option<&dyn $crate::keys::value::Field> {
                let fields: &[&dyn $crate::keys::value::Field] = &[$(&self.$($field).+),*];
                fields.get(key).copied()
            }

            fn field_mut(&mut self, key: usize) -> Option<&mut dyn $crate::keys::value::Field> {
                let fields = [$(&mut self.$($field).+ as &mut dyn $crate::keys::value::Field),*];
                fields.into_iter().nth(key)
            }
        }
    };
}

/// Names the values of an enum for tuning files.
macro_rules! names {
    ($type:ident { $($value:ident = $name:literal),* $(,)? }) => {
        impl $type {
            /// Its names.
            pub(crate) const NAMES: &'static [$crate::keys::setting::Choice] =
                &[$($crate::keys::setting::Choice::name($name)),*];
        }

        impl $crate::keys::value::SettingValue for $type {
            fn value(&self) -> Option<$crate::keys::value::Value> {
                let name = match self { $(Self::$value => $name),* };
                Some($crate::keys::value::Chosen::name(name).into())
            }

            fn of(value: &$crate::keys::value::Value) -> Option<Self> {
                let $crate::keys::value::Value::Choice(chosen) = value else { return None };
                let values = [$(($name, Self::$value)),*];
                let found = values.into_iter().find(|(known, _)| *known == chosen.as_str());
                found.map(|(_, value)| value)
            }
        }
    };
}

pub(crate) use {names, settings};
