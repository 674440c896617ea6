//! `replay`: runs a ride log again, to the bit.

use std::fmt::Write as _;
use std::path::PathBuf;

use clap::Args;
use velvet_pan_takes::{Differs, Fault, Files, Overrides};

use crate::arguments::args::read_take;
use crate::support::output::write_text;

/// Run a ride log again, and say whether it shows the same pictures, to the bit.
#[derive(Args, Debug)]
#[command(after_help = "\
The log is that of a game that wraps its camera in a RideLog. If a frame differs, its numbers are shown
side by side, and what was told just before; the exit status is 1.

Example:
  velvet-pan replay logs/")]
pub struct ReplayArgs {
    /// The folder of a ride log, or the take file of one of its parts
    #[arg(value_name = "TAKE")]
    path: PathBuf,
}

/// Runs the command. Returns whether all frames are the same.
pub fn run(args: &ReplayArgs) -> Result<bool, Fault> {
    let take = read_take(Files::Disk, &args.path, &Overrides::default())?;
    let Some(log) = &take.log else {
        let what = "not a ride log: expected a take with the key calls, as a RideLog writes it";
        return Err(Fault::of_file(&args.path, what));
    };
    let (all, differs) = (log.frames(), log.first_difference());
    let same = differs.as_ref().map_or(all, |differs| differs.frame);
    let mut text = format!("{same} of {all} frames the same, to the bit\n");
    text += &differs.as_ref().map_or(String::new(), table_of);
    write_text(None, &text)?;
    Ok(differs.is_none())
}

/// What differs, number by number, and the commands before.
fn table_of(differs: &Differs) -> String {
    let Differs { frame, t, line, logged, now, told } = differs;
    let mut text = format!("\nframe {frame} at t = {t:.4} s differs, line {line} of the calls\n");
    // Writing to a string can't fail.
    let _ = writeln!(text, "{:>10}  {:>24}  {:>24}", "", "in the game", "now");
    let mut row = |name: &str, logged: &str, now: &str| {
        let mark = if logged == now { "" } else { "  differs" };
        let _ = writeln!(text, "{name:>10}  {logged:>24}  {now:>24}{mark}");
    };
    for ((name, logged), (_, now)) in logged.numbers().into_iter().zip(now.numbers()) {
        row(name, &logged.to_string(), &now.to_string());
    }
    row("digest", &hex(logged.digest), &hex(now.digest));
    let told = if told.is_empty() { "nothing".to_owned() } else { told.join("; ") };
    text + &format!("told before it: {told}\n")
}

fn hex(digest: u64) -> String {
    format!("{digest:016x}")
}
