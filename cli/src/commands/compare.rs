//! `compare`: the figures of rides, suggested changes, and limits.

use std::path::{Path, PathBuf};

use clap::{Args, ValueEnum};
use velvet_pan_takes::{Change, Fault, Figure, Figures};

use crate::arguments::args::{OutFile, PartArgs};
use crate::arguments::rides::{Entry, RidesArgs};
use crate::charts::rides_chart::Chart;
use crate::commands::film::{SheetArgs, contact_sheet};
use crate::judgement::limits::{self, Limit};
use crate::judgement::table::{records, table};
use crate::judgement::tips;
use crate::support::output::{
    make_folder, put, refuse_overwriting, tell, write_json, write_records, write_to, write_whole,
};
use crate::support::progress::Progress;

/// Measure rides, show their figures side by side, and suggest changes.
#[derive(Args, Debug)]
#[command(after_help = "\
The best of each figure is marked with +, the worst with -, one beyond what is comfortable with !. For each of
these a change is named that helped when it was tried on the very rides, with what it did.

A limit is the worst that a figure may be: `--limit lag.worst=80`. Limits may also stand in a file beside the
take, crossing.limits.toml for crossing.toml, as `lag.worst = 80`. Then the command is a test of the camera.

Exit status: 0 done and all limits kept, 1 a limit broken, 2 bad usage or bad input.

Examples:
  velvet-pan compare terraces/demo/terraces.toml
  velvet-pan compare terraces/demo/terraces.toml --try follow.smoothing='{ settle = 0.4 }' --try follow.look_ahead.seconds='[0.8, 0.0]'
  velvet-pan compare terraces/demo/shrine.toml --from 8 --to 12
  velvet-pan compare terraces/demo/terraces.toml --limit lag.worst=90 --limit out-of-bounds=0
  velvet-pan compare terraces/demo/gully.toml terraces/demo/shrine.toml --format csv --out figures.csv
  velvet-pan compare terraces/demo/pan.toml --try screen.snap=whole --chart pan.png
  velvet-pan compare terraces/demo/terraces.toml --worst worst")]
pub struct CompareArgs {
    #[command(flatten)]
    rides: RidesArgs,

    #[command(flatten)]
    part: PartArgs,

    /// The worst that a figure may be; may be given several times
    #[arg(long = "limit", value_name = "FIGURE=VALUE")]
    limits: Vec<Limit>,

    #[command(flatten)]
    out: OutFile,

    /// The format of the output
    #[arg(long, value_enum, default_value_t = CompareFormat::Text)]
    format: CompareFormat,

    /// A PNG or SVG file with the rides in one picture
    #[arg(long, value_name = "FILE")]
    chart: Option<PathBuf>,

    /// A folder for a picture of the moment of each worst value, such as lag-worst.png
    #[arg(long, value_name = "DIR")]
    worst: Option<PathBuf>,
}

/// The format of the output.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum CompareFormat {
    /// Text to read
    Text,
    /// CSV with one line per ride
    Csv,
    /// JSON, an array with one object per ride
    Json,
}

/// Rides longer than this, in seconds, are not ridden again to find tips.
const TRIED: f64 = 600.0;

/// Runs the command. Returns whether all limits are kept.
pub fn run(args: &CompareArgs) -> Result<bool, Fault> {
    refuse_overwriting(&[args.out.out.as_deref(), args.chart.as_deref()], &args.rides.takes)?;
    let entries = args.rides.read()?;
    let figures = measure(args, &entries)?;
    let broken_limits = broken_limits(args, &entries, &figures)?;
    write_to(args.out.out.as_deref(), |out| match args.format {
        CompareFormat::Text => {
            let text = table(&entries, &figures) + &advice(args, &entries, &figures);
            put(out, &text)
        }
        CompareFormat::Csv => write_records(&records(&figures), out),
        CompareFormat::Json => write_json(&figures, out),
    })?;
    if let Some(path) = &args.chart {
        let chart = Chart::of(entries, path)?;
        write_whole(path, |out| chart.write(out))?;
    }
    if let Some(folder) = &args.worst {
        draw_worst(folder, &args.rides.read()?, &figures)?;
    }
    for limit in &broken_limits {
        tell("limit", limit);
    }
    Ok(broken_limits.is_empty())
}

fn measure(args: &CompareArgs, entries: &[Entry]) -> Result<Vec<Figures>, Fault> {
    let mut progress = Progress::new("measuring", entries.len() as u64);
    let mut figures = Vec::new();
    for entry in entries {
        let part = args.part.of(&entry.take)?;
        figures.push(Figures { ride: entry.name.clone(), ..Figures::of_part(&entry.take, part)? });
        progress.step();
    }
    Ok(figures)
}

/// Returns the limits that rides exceed, from the command line and from the files beside the takes.
fn broken_limits(
    args: &CompareArgs,
    entries: &[Entry],
    figures: &[Figures],
) -> Result<Vec<String>, Fault> {
    let mut all = Vec::new();
    for (entry, figures) in entries.iter().zip(figures) {
        // Those of the file are for the take as it is, and not for what is tried with it.
        let own = if entry.change.is_none() { limits::beside(&entry.path)? } else { Vec::new() };
        let limits = Limit::replacing(&args.limits, own);
        let broken = limits.iter().filter_map(|limit| limit.broken(figures));
        all.extend(broken.map(|what| format!("{}: {what}", entry.name)));
    }
    Ok(all)
}

/// Writes a picture of the moment of each worst value, with the overlay.
fn draw_worst(folder: &Path, entries: &[Entry], figures: &[Figures]) -> Result<(), Fault> {
    make_folder(folder)?;
    let moments: Vec<(usize, &Figure, f64)> = (0..)
        .zip(figures)
        .flat_map(|(index, one)| {
            Figure::ALL.iter().filter_map(move |figure| Some((index, figure, figure.when(one)?)))
        })
        .collect();
    let mut progress = Progress::new("drawing", moments.len() as u64);
    for (index, figure, t) in moments {
        progress.step();
        let take = &entries[index].take.clone().in_even_steps();
        let at = vec![t.min(take.time_of(take.rows() - 1))];
        let args = SheetArgs { at, columns: 1, overlay: true, ..SheetArgs::default() };
        let picture = contact_sheet(std::slice::from_ref(take), &args)?;
        let ride = if entries.len() > 1 { format!("{}-", index + 1) } else { String::new() };
        let name = format!("{ride}{}.png", limits::spelled(figure).replace('.', "-"));
        write_whole(&folder.join(name), |out| picture.write_png(out))?;
    }
    Ok(())
}

/// Returns the cause of each uncomfortable figure, and the changes that helped.
fn advice(args: &CompareArgs, entries: &[Entry], figures: &[Figures]) -> String {
    if entries.iter().any(|entry| entry.take.seconds > TRIED) {
        return format!("\n  Rides of more than {TRIED} s are not ridden again to find tips.\n");
    }
    let try_out = |index: usize, changes: &[Change]| {
        let take = args.rides.with(&entries[index], changes).ok()?;
        let part = args.part.of(&take).ok()?;
        Figures::of_part(&take, part).ok()
    };
    tips::text(entries, figures, &try_out)
}
