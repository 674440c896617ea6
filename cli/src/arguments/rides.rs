//! Several rides: takes, and the changes that are tried with each.

use std::path::PathBuf;

use clap::Args;
use velvet_pan_takes::{Change, Fault, Files, Take};

use crate::arguments::args::{ChangeArgs, read_take, read_take_quietly};

/// Takes, and the changes that are tried with each.
#[derive(Args, Debug)]
pub struct RidesArgs {
    /// The take files
    #[arg(value_name = "TAKE", required = true)]
    pub takes: Vec<PathBuf>,

    #[command(flatten)]
    changes: ChangeArgs,

    /// Another ride of each take, with this setting changed; may be given several times
    #[arg(long = "try", value_name = "KEY=VALUE")]
    tries: Vec<Change>,
}

/// A take to ride.
#[derive(Debug)]
pub struct Entry {
    /// Its name among the others.
    pub name: String,
    /// Its file.
    pub path: PathBuf,
    /// The change that is tried with it.
    pub change: Option<Change>,
    /// The take, with the change.
    pub take: Take,
}

impl RidesArgs {
    /// Returns every take, and every take with each change.
    pub fn read(&self) -> Result<Vec<Entry>, Fault> {
        let mut entries = Vec::new();
        for path in &self.takes {
            for change in std::iter::once(None).chain(self.tries.iter().map(Some)) {
                let changes: Vec<Change> = change.into_iter().map(tried).collect();
                let take = read_take(Files::Disk, path, &self.changes.with(&changes))?;
                let name = match change {
                    None => take.name.clone(),
                    Some(change) if self.takes.len() == 1 => change.to_string(),
                    Some(change) => format!("{}, {change}", take.name),
                };
                entries.push(Entry { name, path: path.clone(), change: change.cloned(), take });
            }
        }
        Ok(entries)
    }

    /// Returns an entry's take with more changes. What is wrong with its files was reported when it was read.
    pub fn with(&self, entry: &Entry, changes: &[Change]) -> Result<Take, Fault> {
        let changes: Vec<Change> = entry.change.iter().chain(changes).map(tried).collect();
        read_take_quietly(Files::Disk, &entry.path, &self.changes.with(&changes))
    }
}

fn tried(change: &Change) -> Change {
    change.clone().given_with("--try")
}
