//! The command line and its commands.

use clap::{Parser, Subcommand};

use crate::commands::chart::ChartArgs;
use crate::commands::check::CheckArgs;
use crate::commands::compare::CompareArgs;
use crate::commands::demo::DemoArgs;
use crate::commands::film::FilmArgs;
use crate::commands::jerks::JerksArgs;
use crate::commands::locate::LocateArgs;
use crate::commands::manual::{CompletionsArgs, ManArgs};
use crate::commands::new::NewArgs;
use crate::commands::replay::ReplayArgs;
use crate::commands::settings::SettingsArgs;
use crate::commands::tiles::TilesArgs;
use crate::commands::trace::TraceArgs;
use crate::commands::tune::TuneArgs;

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
Exit status: 0 done, 1 faults found by check, a limit of compare broken, a wish of tune missed or a frame of replay
that differs, 2 bad usage or bad input."
)]
pub struct Cli {
    /// Show no progress on standard error; faults are still shown
    #[arg(long, global = true)]
    pub quiet: bool,

    #[command(subcommand)]
    pub command: Command,
}

/// The command to run.
#[derive(Debug, Subcommand)]
pub enum Command {
    Demo(DemoArgs),
    New(NewArgs),
    Trace(TraceArgs),
    Film(FilmArgs),
    Chart(ChartArgs),
    Compare(CompareArgs),
    Jerks(JerksArgs),
    Replay(ReplayArgs),
    Locate(LocateArgs),
    Tune(TuneArgs),
    Check(CheckArgs),
    Settings(SettingsArgs),
    Completions(CompletionsArgs),
    Man(ManArgs),
    Tiles(TilesArgs),
}
