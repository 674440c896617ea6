//! What stands on the command line: which commands there are, and the arguments that several share. It uses
//! nothing of this crate but the commands' own arguments.

pub mod args;
pub mod command;
pub mod rides;
pub mod view_args;
