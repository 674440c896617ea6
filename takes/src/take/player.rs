//! The player of a take: how the subject moves that a user plays in the workbench.

use std::convert::identity;
use std::path::Path;

use toml_edit::{DocumentMut, Item, Table, TableLike, value};

use crate::text::atomic_write::write_whole;
use crate::text::document::Document;
use crate::text::fault::Fault;
use crate::text::files::{Files, reason};
use crate::text::keys::Keys;
use crate::text::node::Node;
use crate::tuning::tuning_text::{change_key, change_number};

/// How a subject moves.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum PlayerKind {
    /// Runs, falls and jumps, seen from the side.
    #[default]
    Runner,
    /// Walks in eight directions, seen from above.
    Walker,
    /// Flies in every direction, and glides on for a while.
    Flyer,
}

/// The subject that a user plays. Filled tiles of the map are solid for it.
#[derive(Clone, Debug, PartialEq)]
pub struct Player {
    /// How it moves.
    pub kind: PlayerKind,
    /// The name of the subject. Default the first that is followed.
    pub subject: Option<String>,
    /// The largest speed in world units a second. Default 130.
    pub speed: f64,
    /// How high a runner jumps, in world units. Default 62.
    pub jump: f64,
    /// The width and the height of its body in world units. Its position is the middle. Default 10 and 20 for a runner,
    /// 12 and 12 otherwise.
    pub size: [f64; 2],
}

impl Default for Player {
    /// Returns a runner.
    fn default() -> Self {
        Self::new(PlayerKind::Runner)
    }
}

/// The kinds by name.
const KINDS: [(&str, PlayerKind); 3] =
    [("runner", PlayerKind::Runner), ("walker", PlayerKind::Walker), ("flyer", PlayerKind::Flyer)];

/// The largest speed, jump and size, in world units.
const MAX_LENGTH: f64 = 1e6;

impl PlayerKind {
    /// Returns the name of the kind in a file.
    #[must_use]
    pub fn name(self) -> &'static str {
        KINDS.iter().find(|(_, kind)| *kind == self).map_or("runner", |(name, _)| name)
    }
}

impl Player {
    /// Creates a player with the default numbers of its kind.
    ///
    /// ```
    /// use velvet_pan_takes::{Player, PlayerKind};
    ///
    /// let walker = Player::new(PlayerKind::Walker);
    /// assert_eq!((walker.speed, walker.size), (130.0, [12.0, 12.0]));
    /// ```
    #[must_use]
    pub fn new(kind: PlayerKind) -> Self {
        let size = if kind == PlayerKind::Runner { [10.0, 20.0] } else { [12.0, 12.0] };
        Self { kind, subject: None, speed: 130.0, jump: 62.0, size }
    }

    /// Reads the table `player`.
    pub(crate) fn read(mut keys: Keys<'_, '_, '_>) -> Self {
        let kind = |node: &Node| {
            let name = node.text()?;
            let known = KINDS.iter().find(|(known, _)| *known == name);
            known.map(|(_, kind)| *kind).ok_or_else(|| node.wrong("runner, walker or flyer"))
        };
        let plain = Self::new(keys.read("kind", kind).unwrap_or_default());
        // Above 0.
        let range = || f64::from_bits(1)..=MAX_LENGTH;
        let number =
            |node: &Node| node.number_in(range(), "a number of world units, above 0, at most 1e6");
        let side = |node: &Node| node.number_in(range(), "world units above 0, at most 1e6");
        let size = |node: &Node| node.array("a width and a height", side);
        let player = Self {
            subject: keys.text("subject"),
            speed: keys.read("speed", number).unwrap_or(plain.speed),
            jump: keys.read("jump", number).unwrap_or(plain.jump),
            size: keys.read("size", size).unwrap_or(plain.size),
            ..plain
        };
        keys.finish();
        player
    }

    /// Returns the table that is read.
    pub(crate) fn table(&self) -> Table {
        let mut table = Table::new();
        table.insert("kind", value(self.kind.name()));
        if let Some(subject) = &self.subject {
            table.insert("subject", value(subject));
        }
        table.insert("speed", value(self.speed));
        table.insert("jump", value(self.jump));
        table.insert("size", value(toml_edit::Array::from_iter(self.size)));
        table
    }

    /// Writes speed, jump and size into a take's file. All else stays as it is written, comments included.
    ///
    /// # Errors
    ///
    /// The file is not a take any more, or can't be written.
    pub fn save(&self, path: &Path) -> Result<(), Fault> {
        let fault = |what: &str| Fault::of_file(path, format!("not saved: {what}"));
        let document = Document::read(Files::Disk, path)?;
        let mut text: DocumentMut =
            document.text().parse().map_err(|_| fault("its file is not TOML any more"))?;
        let item = text.entry("player").or_insert_with(|| Item::Table(Table::new()));
        let table = item.as_table_like_mut().ok_or_else(|| fault("player: expected a table"))?;
        self.write(table);
        let text = text.to_string();
        if text == document.text() {
            return Ok(());
        }
        write_whole(path, identity, |out| out.write_all(text.as_bytes()))
            .map_err(|error| fault(&reason(&error)))
    }

    fn write(&self, table: &mut dyn TableLike) {
        if !table.contains_key("kind") {
            table.insert("kind", value(self.kind.name()));
        }
        change_number(table, "speed", self.speed);
        if self.kind == PlayerKind::Runner {
            change_number(table, "jump", self.jump);
        }
        change_key(table, "size", &toml_edit::Array::from_iter(self.size).into());
    }
}
