//! `jerks`: the moments at which the view changes its pace abruptly.

use std::path::PathBuf;

use clap::Args;
use serde::Serialize;
use velvet_pan_takes::{Fault, Files, Jerk, Take, deciders_in_words};
use velvet_pan_terraces::picture::Picture;

use crate::arguments::args::{OutFile, TakeArgs};
use crate::commands::film::strip;
use crate::commands::trace::Format;
use crate::support::output::{
    put, refuse_overwriting, write_csv, write_json, write_to, write_whole,
};

/// The frames before and after the worst jerk that are filmed.
const AROUND: u64 = 4;

/// List the moments at which the view changes its pace abruptly, and why.
#[derive(Args, Debug)]
#[command(after_help = "\
A jerk changes the view's velocity by half a screen's width a second or more within one frame, or the
zoom's by 2 octaves a second. Shakes do not count. Jerks within 0.25 s are one, the greatest. A cause is
what happened shortly before, a long step, who decides if that is not motion, or a jump of the goal.

Examples:
  velvet-pan jerks terraces/demo/valley.toml
  velvet-pan jerks logs/ --film worst.png")]
pub struct JerksArgs {
    #[command(flatten)]
    take: TakeArgs,

    /// Film the frames around the worst one, as a PNG file
    #[arg(long, value_name = "FILE")]
    film: Option<PathBuf>,

    #[command(flatten)]
    out: OutFile,

    /// The format of the output
    #[arg(long, value_enum, default_value_t = Format::Csv)]
    format: Format,
}

/// The columns of the table.
const COLUMNS: &str = "t,row,pixels_x,pixels_y,widths,octaves,decider,cause";

/// A jerk, as it is printed.
#[derive(Clone, Debug, Serialize)]
struct Row {
    t: f64,
    row: u64,
    /// The change of the view's velocity, in screen pixels a second, and its size in screen widths a second.
    pixels_x: f64,
    pixels_y: f64,
    widths: f64,
    /// The change of the zoom's velocity, in octaves a second.
    octaves: f64,
    decider: String,
    cause: String,
}

impl Row {
    fn of(jerk: &Jerk) -> Self {
        let short = |number: f64| (number * 1000.0).round() / 1000.0 + 0.0;
        Self {
            t: short(jerk.t),
            row: jerk.row,
            pixels_x: short(jerk.pixels.x),
            pixels_y: short(jerk.pixels.y),
            widths: short(jerk.widths),
            octaves: short(jerk.octaves),
            decider: deciders_in_words(&jerk.decision),
            cause: jerk.cause(),
        }
    }
}

/// Runs the command.
pub fn run(args: &JerksArgs) -> Result<(), Fault> {
    let take = args.take.read(Files::Disk)?;
    let outputs = [args.out.out.as_deref(), args.film.as_deref()];
    refuse_overwriting(&outputs, &[&args.take.path])?;
    let jerks = Jerk::of_take(&take)?;
    if let Some(path) = &args.film {
        let worst = jerks.iter().max_by(|one, other| one.size().total_cmp(&other.size()));
        let Some(worst) = worst else {
            return Err(Fault::new("--film: the ride has no jerk: expected one to film"));
        };
        let picture = around(&take, worst)?;
        write_whole(path, |out| picture.write_png(out))?;
    }
    let rows: Vec<Row> = jerks.iter().map(Row::of).collect();
    write_to(args.out.out.as_deref(), |out| match args.format {
        Format::Csv if rows.is_empty() => put(out, &format!("{COLUMNS}\n")),
        Format::Csv => write_csv(&rows, out),
        Format::Json => write_json(&rows, out),
    })
}

/// Returns the frames around a jerk.
fn around(take: &Take, jerk: &Jerk) -> Result<Picture, Fault> {
    let first = jerk.row.saturating_sub(AROUND);
    let last = (jerk.row + AROUND).min(take.rows() - 1);
    strip(take, first..=last, (jerk.row, "the jerk"))
}
