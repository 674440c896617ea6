//! Arguments that several commands share.

use std::ops::RangeInclusive;
use std::path::{Path, PathBuf};

use clap::Args;
use velvet_pan_takes::{Change, Document, Fault, Files, Overrides, Take, newest_part};

use crate::support::output::tell;
use crate::warnings::warnings_of_log;

/// A take and the changes from the command line, the same for every command.
#[derive(Args, Debug)]
pub struct TakeArgs {
    /// The take file, or the folder of a ride log
    #[arg(value_name = "TAKE")]
    pub path: PathBuf,

    #[command(flatten)]
    changes: ChangeArgs,
}

/// The changes that every command on a take accepts.
#[derive(Args, Debug, Default)]
pub struct ChangeArgs {
    /// Frames per second instead of the take's
    #[arg(long, value_name = "N", allow_negative_numbers = true)]
    fps: Option<f64>,

    /// Length in seconds instead of the take's
    #[arg(long, value_name = "SECONDS", allow_negative_numbers = true)]
    seconds: Option<f64>,

    /// Change one setting, written as in a tuning file; may be given several times
    #[arg(long = "set", value_name = "KEY=VALUE")]
    changes: Vec<Change>,
}

impl ChangeArgs {
    /// Returns these changes and one more.
    pub fn with(&self, more: &[Change]) -> Overrides {
        let changes = self.changes.iter().chain(more).cloned().collect();
        Overrides { fps: self.fps, seconds: self.seconds, changes }
    }
}

impl TakeArgs {
    /// Reads the take with its changes.
    pub fn read(&self, files: Files<'_>) -> Result<Take, Fault> {
        read_take(files, &self.path, &self.changes.with(&[]))
    }
}

/// Reads a take, or the newest part of a ride log.
pub fn read_take_quietly(
    files: Files<'_>,
    path: &Path,
    overrides: &Overrides,
) -> Result<Take, Fault> {
    let part = newest_part(path);
    Take::read(files, part.as_deref().unwrap_or(path), overrides)
}

/// Reads a take, or the newest part of a ride log. What can't be read of a log is reported on standard error.
pub fn read_take(files: Files<'_>, path: &Path, overrides: &Overrides) -> Result<Take, Fault> {
    let take = read_take_quietly(files, path, overrides)?;
    if take.log.is_some() {
        let part = newest_part(path);
        let document = Document::read(files, part.as_deref().unwrap_or(path))?;
        warnings_of_log(&take, &document).iter().for_each(|warning| tell("warning", warning));
    }
    Ok(take)
}

/// A part of a ride.
#[derive(Args, Clone, Copy, Debug)]
pub struct PartArgs {
    /// Measure from this time of the ride on, in seconds
    #[arg(long, value_name = "SECONDS", default_value_t = 0.0, allow_negative_numbers = true)]
    from: f64,

    /// Measure up to this time of the ride, in seconds [default: its end]
    #[arg(long, value_name = "SECONDS", allow_negative_numbers = true)]
    to: Option<f64>,
}

impl PartArgs {
    /// Returns these seconds of a take.
    pub fn of(&self, take: &Take) -> Result<RangeInclusive<f64>, Fault> {
        let to = self.to.unwrap_or(f64::INFINITY);
        if (0.0..=take.seconds).contains(&self.from) && self.from < to {
            return Ok(self.from..=to);
        }
        let to = self.to.map_or(String::new(), |to| format!(" --to {to}"));
        Err(Fault::new(format!(
            "--from {}{to}: expected a part of {}, which has {} s",
            self.from, take.name, take.seconds
        )))
    }
}

/// The destination of one result.
#[derive(Args, Debug)]
pub struct OutFile {
    /// The file to write; it appears whole or not at all
    #[arg(long, value_name = "FILE")]
    pub out: Option<PathBuf>,
}
