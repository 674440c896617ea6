//! `trace`: the ride as a table.

use std::io::Write;
use std::path::PathBuf;

use clap::{Args, ValueEnum};
use velvet_pan_takes::{Fault, Files, Ride, Row, Take, write_rows};

use crate::arguments::args::{OutFile, TakeArgs};
use crate::support::output::{broken, refuse_overwriting, write_json, write_to, write_whole};
use crate::support::progress::Progress;

/// Write what the camera does in a take, one row per frame.
#[derive(Args, Debug)]
#[command(after_help = "\
Row i is the state at t = i / fps; row 0 is the first cut to the subject. World units for positions,
screen pixels for what is on the screen, radians for angles. Numbers read back to the same value.

Examples:
  velvet-pan trace terraces/demo/terraces.toml > ride.csv
  velvet-pan trace terraces/demo/terraces.toml --format json --out ride.json
  velvet-pan trace terraces/demo/terraces.toml --seconds 10 --save ten.json > ride.csv
  velvet-pan trace terraces/demo/terraces.toml --resume ten.json >> ride.csv
  velvet-pan trace terraces/demo/terraces.toml --set follow.smoothing='{ half_life = 0.3 }' | head")]
pub struct TraceArgs {
    #[command(flatten)]
    take: TakeArgs,

    #[command(flatten)]
    out: OutFile,

    /// Save the state at the end of the ride, to resume later
    #[arg(long, value_name = "FILE")]
    save: Option<PathBuf>,

    /// Resume a saved ride: write the following rows, without the header line
    #[arg(long, value_name = "FILE")]
    resume: Option<PathBuf>,

    /// The format of the table
    #[arg(long, value_enum, default_value_t = Format::Csv)]
    format: Format,
}

/// The format of the table.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Format {
    /// Comma-separated values with a header line
    Csv,
    /// An array of objects
    Json,
}

/// Runs the command.
pub fn run(args: &TraceArgs) -> Result<(), Fault> {
    let outputs = [args.out.out.as_deref(), args.save.as_deref()];
    let inputs = args.resume.iter().chain([&args.take.path]);
    refuse_overwriting(&outputs, &inputs.collect::<Vec<&PathBuf>>())?;
    let take = args.take.read(Files::Disk)?;
    let mut ride = args.ride(&take)?;
    let names = args.resume.is_none();
    write_to(args.out.out.as_deref(), |out| {
        write_ride_on(&take, &mut ride, args.format, names, out)
    })?;
    let Some(path) = &args.save else { return Ok(()) };
    let state = ride.state().ok_or_else(|| {
        Fault::new(
            "--save: the view is gliding between two cameras: expected an earlier or later time",
        )
    })?;
    write_whole(path, |out| write_json(&state, out))
}

impl TraceArgs {
    /// Returns the ride of the take from its start, or from the saved state.
    fn ride<'a>(&self, take: &'a Take) -> Result<Ride<'a>, Fault> {
        let Some(path) = &self.resume else { return Ride::new(take) };
        if self.format == Format::Json {
            let what = "--resume continues a table: expected csv";
            return Err(Fault::new(what));
        }
        let text = Files::Disk.read(path)?;
        let state = serde_json::from_str(&text).map_err(|error| {
            let what = format!("no saved ride: {error}");
            Fault::of_file(path, what).at(error.line(), error.column())
        })?;
        Ride::resumed(take, &state)
    }
}

/// Writes a take's whole ride, row by row.
pub fn write_ride(take: &Take, format: Format, out: &mut dyn Write) -> Result<(), Fault> {
    write_ride_on(take, &mut Ride::new(take)?, format, true, out)
}

/// Writes the rest of a ride, with a header line if wanted.
fn write_ride_on(
    take: &Take,
    ride: &mut Ride<'_>,
    format: Format,
    names: bool,
    out: &mut dyn Write,
) -> Result<(), Fault> {
    let mut progress = Progress::new("tracing", take.rows());
    let rows = ride.map(|moment| moment.row(take)).inspect(|_| progress.step());
    match format {
        Format::Csv => write_rows(rows, names, out),
        Format::Json => write_list(rows, out),
    }
    .map_err(|error| broken(&error))
}

fn write_list(rows: impl Iterator<Item = Row>, out: &mut dyn Write) -> std::io::Result<()> {
    for (index, row) in rows.enumerate() {
        out.write_all(if index == 0 { b"[\n" } else { b",\n" })?;
        serde_json::to_writer(&mut *out, &row)?;
    }
    out.write_all(b"\n]\n")
}
