//! `trace`: the ride as a table.

use std::io::Write;

use clap::{Args, ValueEnum};

use crate::args::{OutFile, TakeArgs};
use crate::fault::Fault;
use crate::files::Files;
use crate::output::{broken, write_to};
use crate::progress::Progress;
use crate::ride::{Ride, Row};
use crate::take::Take;

/// Write what the camera does in a take, one row a frame.
#[derive(Args, Debug)]
#[command(after_help = "\
Row i is the state at t = i / fps; row 0 is the first cut to the subject. World units for positions,
screen pixels for what is on the screen, radians for angles. Numbers read back to the same value.

Examples:
  velvet-pan trace demo/terraces.toml > ride.csv
  velvet-pan trace demo/terraces.toml --format json --out ride.json
  velvet-pan trace demo/terraces.toml --set follow.smoothing='{ half_life = 0.3 }' | head")]
pub struct TraceArgs {
    #[command(flatten)]
    take: TakeArgs,

    #[command(flatten)]
    out: OutFile,

    /// The form of the table
    #[arg(long, value_enum, default_value_t = Format::Csv)]
    format: Format,
}

/// How a table is written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Format {
    /// Comma-separated values, the first line naming the columns
    Csv,
    /// An array of objects
    Json,
}

/// Runs the command.
pub fn run(args: &TraceArgs) -> Result<(), Fault> {
    let take = args.take.read(Files::Disk)?;
    write_to(args.out.out.as_deref(), |out| write_ride(&take, args.format, out))
}

/// Writes a take's whole ride, row by row.
pub fn write_ride(take: &Take, format: Format, out: &mut dyn Write) -> Result<(), Fault> {
    let mut progress = Progress::new("tracing", take.rows());
    let rows = Ride::new(take)?.map(|moment| moment.row(take)).inspect(|_| progress.step());
    match format {
        Format::Csv => write_csv(rows, out),
        Format::Json => write_json(rows, out).map_err(|error| broken(&error)),
    }
}

fn write_csv(rows: impl Iterator<Item = Row>, out: &mut dyn Write) -> Result<(), Fault> {
    let failed = |error: csv::Error| match error.into_kind() {
        csv::ErrorKind::Io(error) => broken(&error),
        other => Fault::new(format!("not written: {other:?}")),
    };
    let mut writer = csv::Writer::from_writer(out);
    for row in rows {
        writer.serialize(row).map_err(failed)?;
    }
    writer.flush().map_err(|error| broken(&error))
}

fn write_json(rows: impl Iterator<Item = Row>, out: &mut dyn Write) -> std::io::Result<()> {
    for (index, row) in rows.enumerate() {
        out.write_all(if index == 0 { b"[\n" } else { b",\n" })?;
        serde_json::to_writer(&mut *out, &row)?;
    }
    out.write_all(b"\n]\n")
}
