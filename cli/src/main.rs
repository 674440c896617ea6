//! The command `velvet-pan`.

use std::process::ExitCode;

fn main() -> ExitCode {
    velvet_pan_cli::run()
}
