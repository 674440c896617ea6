//! The command `velvet-pan`: takes, rides and pictures of a 2D game camera.
//!
//! As a library it lends its pictures and the tea terraces to other demos.

mod args;
pub mod art;
mod chart;
mod check;
mod command;
mod compare;
mod demo;
pub mod document;
pub mod fault;
pub mod figures;
pub mod files;
mod film;
mod locate;
mod manual;
pub mod map;
mod output;
pub mod paint;
pub mod path;
pub mod picture;
mod plan;
mod plot;
mod progress;
mod reel;
pub mod ride;
mod rides;
pub mod scene;
mod sheet;
mod table;
pub mod take;
pub mod terraces;
mod tiles;
mod trace;
mod tune;
mod view_args;

use std::process::ExitCode;

use clap::{CommandFactory, Parser};

use crate::command::{Cli, Command};

/// Runs the command with the arguments of this process.
#[must_use]
pub fn run() -> ExitCode {
    let done = |result: Result<(), fault::Fault>| result.map(|()| true);
    let Cli { quiet, command } = Cli::parse();
    progress::set_quiet(quiet);
    let result = match command {
        Command::Tune(args) => done(tune::run(&args)),
        Command::Completions(args) => done(manual::write_completions(&args, Cli::command())),
        Command::Man(_) => done(manual::write_man(Cli::command())),
        Command::Check(args) => check::run(&args),
        Command::Demo(args) => done(demo::run(&args)),
        Command::Trace(args) => done(trace::run(&args)),
        Command::Film(args) => done(film::run(&args)),
        Command::Chart(args) => done(chart::run(&args)),
        Command::Compare(args) => done(compare::run(&args)),
        Command::Locate(args) => done(locate::run(&args)),
        Command::Tiles(args) => done(tiles::run(&args)),
    };
    match result {
        Ok(true) => ExitCode::SUCCESS,
        Ok(false) => ExitCode::from(1),
        Err(fault) => {
            anstream::eprintln!("\x1b[31merror\x1b[0m: {fault}");
            ExitCode::from(2)
        }
    }
}
