//! The command line.

use std::path::PathBuf;

use clap::{Args, Parser, Subcommand};

use crate::demo::DemoArgs;
use crate::document::Change;
use crate::fault::Fault;
use crate::files::Files;
use crate::film::FilmArgs;
use crate::take::{Overrides, Take};
use crate::trace::TraceArgs;

/// See what the camera of a 2D game does, without starting the game.
#[derive(Debug, Parser)]
#[command(
    name = "velvet-pan",
    version,
    arg_required_else_help = true,
    after_help = "\
A take is a TOML file: the camera's settings, the paths of its subjects, and what happens when.
Begin with `velvet-pan demo`, which leaves a take of its own to change and to run again.

Results go to standard output, progress and messages to standard error.
Exit status: 0 done, 2 bad usage or bad input."
)]
pub struct Cli {
    #[command(subcommand)]
    pub command: Command,
}

/// What to do.
#[derive(Debug, Subcommand)]
pub enum Command {
    Demo(DemoArgs),
    Trace(TraceArgs),
    Film(FilmArgs),
}

/// A take, and what the command line changes in it: the same for every command.
#[derive(Args, Debug)]
pub struct TakeArgs {
    /// The take file
    #[arg(value_name = "TAKE")]
    pub path: PathBuf,

    #[command(flatten)]
    changes: ChangeArgs,
}

/// Changes that every command on a take knows.
#[derive(Args, Debug, Default)]
pub struct ChangeArgs {
    /// Frames per second, instead of the take's
    #[arg(long, value_name = "N", allow_negative_numbers = true)]
    fps: Option<f64>,

    /// Length in seconds, instead of the take's
    #[arg(long, value_name = "SECONDS", allow_negative_numbers = true)]
    seconds: Option<f64>,

    /// Change one setting, as in a tuning file; may be given several times
    #[arg(long = "set", value_name = "KEY=VALUE")]
    changes: Vec<Change>,
}

impl TakeArgs {
    /// Reads the take with its changes.
    pub fn read(&self, files: Files<'_>) -> Result<Take, Fault> {
        let ChangeArgs { fps, seconds, changes } = &self.changes;
        let overrides = Overrides { fps: *fps, seconds: *seconds, changes: changes.clone() };
        Take::read(files, &self.path, &overrides)
    }
}

/// Where one result goes.
#[derive(Args, Debug)]
pub struct OutFile {
    /// The file to write; it appears whole or not at all
    #[arg(long, value_name = "FILE")]
    pub out: Option<PathBuf>,
}
