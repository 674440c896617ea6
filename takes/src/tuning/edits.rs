//! What differs between two settings, to be put on top of others.

use velvet_pan::{Settings, Value};

/// Keys with their values, or `None` for a key that is left out.
#[derive(Clone, Debug, Default)]
pub struct Edits(pub Vec<(String, Option<Value>)>);

impl Edits {
    /// Returns what differs.
    pub fn between(from: &Settings, to: &Settings) -> Self {
        if from == to {
            return Self::default();
        }
        let paths = |one: &Settings| one.paths().into_iter().map(|(path, _)| path);
        let mut all: Vec<String> = paths(to).collect();
        let gone: Vec<String> = paths(from).filter(|path| !all.contains(path)).collect();
        all.extend(gone);
        let differs = |path: String| {
            let value = to.get(&path);
            (value != from.get(&path)).then_some((path, value))
        };
        Self(all.into_iter().filter_map(differs).collect())
    }

    /// Returns whether nothing differs.
    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// Returns settings with these keys, or as they are where that is not possible.
    pub fn applied(&self, settings: &Settings) -> Settings {
        let mut edited = settings.clone();
        for (path, value) in &self.0 {
            let _possible = match value {
                Some(value) => edited.set(path, value.clone()).is_ok(),
                None => edited.leave_out(path),
            };
        }
        if edited.validate().is_ok() { edited } else { settings.clone() }
    }
}
