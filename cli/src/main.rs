//! The command `velvet-pan`: takes, rides and pictures of a 2D game camera.

mod args;
mod art;
mod command;
mod demo;
mod document;
mod fault;
mod files;
mod film;
mod map;
mod output;
mod path;
mod picture;
mod progress;
mod reel;
mod ride;
mod scene;
mod sheet;
mod table;
mod take;
mod terraces;
mod trace;

use std::process::ExitCode;

use clap::Parser;

use crate::command::{Cli, Command};

fn main() -> ExitCode {
    let result = match Cli::parse().command {
        Command::Demo(args) => demo::run(&args),
        Command::Trace(args) => trace::run(&args),
        Command::Film(args) => film::run(&args),
    };
    match result {
        Ok(()) => ExitCode::SUCCESS,
        Err(fault) => {
            anstream::eprintln!("\x1b[31merror\x1b[0m: {fault}");
            ExitCode::from(2)
        }
    }
}
