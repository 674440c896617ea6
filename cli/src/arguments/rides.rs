//! Several rides: takes, and what is tried with each.

use std::path::PathBuf;

use clap::Args;
use velvet_pan_takes::{Change, Fault, Files, Moment, Ride, Take};

use crate::arguments::args::ChangeArgs;

/// Takes, and the settings that are tried with each.
#[derive(Args, Debug)]
pub struct RidesArgs {
    /// The take files
    #[arg(value_name = "TAKE", required = true)]
    takes: Vec<PathBuf>,

    #[command(flatten)]
    changes: ChangeArgs,

    /// Another ride of each take, with this setting changed; may be given several times
    #[arg(long = "try", value_name = "KEY=VALUE")]
    tries: Vec<Change>,
}

/// A take as it was ridden.
#[derive(Debug)]
pub struct Ridden {
    /// What tells it from the others.
    pub name: String,
    /// The take.
    pub take: Take,
    /// Its moments.
    pub moments: Vec<Moment>,
}

impl RidesArgs {
    /// Every take, and every take with each change to be tried.
    pub fn ride(&self) -> Result<Vec<Ridden>, Fault> {
        let mut rides = Vec::new();
        for path in &self.takes {
            for change in std::iter::once(None).chain(self.tries.iter().map(Some)) {
                let take = Take::read(Files::Disk, path, &self.changes.with(change))?;
                let name = match change {
                    None => take.name.clone(),
                    Some(change) if self.takes.len() == 1 => change.to_string(),
                    Some(change) => format!("{}, {change}", take.name),
                };
                let moments = Ride::new(&take)?.collect();
                rides.push(Ridden { name, take, moments });
            }
        }
        Ok(rides)
    }
}
