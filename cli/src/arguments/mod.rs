//! The command line: the commands, and the arguments that several of them share. It uses nothing of this crate except
//! the commands' own arguments.

pub mod args;
pub mod command;
pub mod rides;
pub mod view_args;
