//! The command `velvet-pan`: takes, rides and pictures of a 2D game camera.

mod arguments;
mod charts;
mod commands;
mod judgement;
mod sheets;
mod starter;
mod support;
mod warnings;

use std::process::ExitCode;

use clap::{CommandFactory, Parser};
use velvet_pan_takes::{Fault, remove_unfinished};

use crate::arguments::command::{Cli, Command};
use crate::commands::{
    chart, check, compare, demo, film, jerks, locate, manual, new, replay, settings, tiles, trace,
    tune,
};

/// The exit status of an interrupted command, as shells have it.
const INTERRUPTED: i32 = 130;

fn main() -> ExitCode {
    let done = |result: Result<(), Fault>| result.map(|()| true);
    let Cli { quiet, command } = Cli::parse();
    support::progress::set_quiet(quiet);
    // Without a handler an interrupted command leaves half a file, under a temporary name.
    let _set = ctrlc::set_handler(|| {
        remove_unfinished();
        std::process::exit(INTERRUPTED);
    });
    let result = match command {
        Command::Tune(args) => tune::run(&args),
        Command::Completions(args) => done(manual::write_completions(&args, Cli::command())),
        Command::Man(_) => done(manual::write_man(Cli::command())),
        Command::Check(args) => check::run(&args),
        Command::Demo(args) => done(demo::run(&args)),
        Command::Trace(args) => done(trace::run(&args)),
        Command::Film(args) => done(film::run(&args)),
        Command::Chart(args) => done(chart::run(&args)),
        Command::Compare(args) => compare::run(&args),
        Command::New(args) => done(new::run(&args)),
        Command::Settings(args) => done(settings::run(&args)),
        Command::Replay(args) => replay::run(&args),
        Command::Jerks(args) => done(jerks::run(&args)),
        Command::Locate(args) => done(locate::run(&args)),
        Command::Tiles(args) => done(tiles::run(&args)),
    };
    match result {
        Ok(true) => ExitCode::SUCCESS,
        Ok(false) => ExitCode::from(1),
        Err(fault) => {
            support::output::tell("error", &fault);
            ExitCode::from(2)
        }
    }
}
