//! `chart`: rides as curves over time, and from above.

use std::path::PathBuf;

use clap::Args;
use velvet_pan_takes::Fault;

use crate::arguments::rides::RidesArgs;
use crate::charts::rides_chart::Chart;
use crate::support::output::{refuse_overwriting, write_whole};

/// Draw rides as curves over time (distance from the subject, lag, speed, shake, zoom), and from above.
#[derive(Args, Debug)]
#[command(after_help = "\
One ride shows how far its goal and its view are from the subject; several show their views in one picture.

Examples:
  velvet-pan chart terraces/demo/terraces.toml --out terraces.png
  velvet-pan chart terraces/demo/terraces.toml --try follow.look_ahead.seconds='[0.0, 0.0]' --out ahead.svg")]
pub struct ChartArgs {
    #[command(flatten)]
    rides: RidesArgs,

    /// The PNG or SVG file to write
    #[arg(long, value_name = "FILE")]
    out: PathBuf,
}

/// Runs the command.
pub fn run(args: &ChartArgs) -> Result<(), Fault> {
    refuse_overwriting(&[Some(&args.out)], &args.rides.takes)?;
    let chart = Chart::of(args.rides.read()?, &args.out)?;
    write_whole(&args.out, |out| chart.write(out))
}
