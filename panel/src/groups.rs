//! The tables of a tuning, in the order in which people work on a camera.

use velvet_pan::{Settings, SettingsTable};

/// A group of tables and its name.
pub struct Group {
    pub title: &'static str,
    pub tables: &'static [&'static str],
}

pub const GROUPS: [Group; 10] = [
    Group { title: "Following", tables: &["follow", "follow.deadzone", "follow.look_ahead"] },
    Group { title: "World bounds", tables: &["bounds", "outlines.*"] },
    Group { title: "Zoom and rotation", tables: &["zoom", "rotation"] },
    Group { title: "Screen and pixels", tables: &["screen"] },
    Group { title: "Layers", tables: &["layers.*"] },
    Group { title: "Shakes", tables: &["shake"] },
    Group { title: "Cues", tables: &["cues.*", "cues.*.shake", "cues.*.zoom"] },
    Group { title: "Several subjects", tables: &["party"] },
    Group {
        title: "Rooms, rails and places",
        tables: &["rooms", "rail", "scroll", "lures.*", "zones.*", "zones.*.deadzone"],
    },
    Group { title: "Moving by hand", tables: &["hands"] },
];

/// A table of the settings: its path, its description, and whether it exists.
pub struct ListedTable {
    pub path: String,
    pub table: &'static SettingsTable,
    pub there: bool,
}

impl Group {
    /// Returns the tables of these settings that belong to the group, including those that could be added.
    pub fn shown(&self, settings: &Settings) -> Vec<ListedTable> {
        let known = Settings::tables().iter();
        let ours = known.filter(|table| self.tables.contains(&table.path()));
        let places = ours.flat_map(|table| {
            settings.table_paths(table).into_iter().map(move |path| (table, path))
        });
        let mut shown: Vec<ListedTable> = places
            .map(|(table, path)| ListedTable { there: settings.has_table(&path), path, table })
            .collect();
        // A cue with its own tables, then the next one.
        shown.sort_by_key(|one| one.path.contains('.').then(|| first_two(&one.path)));
        shown
    }
}

fn first_two(path: &str) -> String {
    path.split('.').take(2).collect::<Vec<_>>().join(".")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_table_is_in_one_group() {
        for table in Settings::tables() {
            let groups = GROUPS.iter().filter(|group| group.tables.contains(&table.path()));
            assert_eq!(groups.count(), 1, "{}", table.path());
        }
    }
}
