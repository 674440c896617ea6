//! `compare`: the figures of rides, suggested changes, and limits.

use std::path::PathBuf;

use clap::{Args, ValueEnum};
use velvet_pan_takes::{Change, Fault, Figure, Figures, Take};

use crate::arguments::args::{OutFile, PartArgs};
use crate::arguments::rides::{Entry, RidesArgs};
use crate::charts::rides_chart::Chart;
use crate::judgement::comfort::Comfort;
use crate::judgement::limits::{self, Limit};
use crate::judgement::tips;
use crate::output::{put, refuse_overwriting, tell, write_csv, write_json, write_to, write_whole};
use crate::progress::Progress;

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
  velvet-pan compare terraces/demo/pan.toml --try screen.snap=whole --chart pan.png")]
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
        CompareFormat::Csv => write_csv(&figures, out),
        CompareFormat::Json => write_json(&figures, out),
    })?;
    if let Some(path) = &args.chart {
        let chart = Chart::of(entries, path)?;
        write_whole(path, |out| chart.write(out))?;
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

/// The limits that rides exceed, from the command line and from the files beside the takes.
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

fn table(entries: &[Entry], figures: &[Figures]) -> String {
    let mut text = String::new();
    for (number, figures) in (1..).zip(figures) {
        text += &format!("  ({number})  {}\n", figures.ride);
    }
    text += &format!("\n{:<22} {:<14}", "", "");
    for number in 1..=figures.len() {
        text += &format!("{:>10} ", format!("({number})"));
    }
    text += "\n";
    for comfort in Comfort::all() {
        let figure = comfort.figure;
        let known: Vec<f64> = figures.iter().filter_map(|one| figure.of(one)).collect();
        text += &format!("{:<22} {:<14}", figure.name, figure.unit);
        for (figures, entry) in figures.iter().zip(entries) {
            text += &cell(&comfort, figures, &entry.take, &known);
        }
        text.truncate(text.trim_end().len());
        text += "\n";
    }
    text += &notes(figures);
    if figures.len() > 1 {
        text += "  + best, - worst\n";
    }
    text
}

fn cell(comfort: &Comfort, figures: &Figures, take: &Take, known: &[f64]) -> String {
    let figure = comfort.figure;
    let mark = match figure.of(figures).and_then(|value| figure.rank(value, known)) {
        Some(true) => '+',
        Some(false) => '-',
        None => ' ',
    };
    let limit = if comfort.broken(figures, take).is_some() { "!" } else { "" };
    format!("{:>10}{mark}", limit.to_owned() + &figure.shown(figures))
}

/// Notes below the table: why a figure is missing, which stops did not settle, and what was not counted.
fn notes(all: &[Figures]) -> String {
    let mut text = String::from("\n");
    for (number, figures) in (1..).zip(all) {
        let mut missing: Vec<(&str, Vec<&str>)> = Vec::new();
        for figure in Figure::ALL.iter().filter(|figure| figure.of(figures).is_none()) {
            match missing.iter_mut().find(|(reason, _)| *reason == figure.reason()) {
                Some((_, names)) => names.push(figure.name),
                None => missing.push((figure.reason(), vec![figure.name])),
            }
        }
        for (reason, names) in missing {
            text += &format!("  ({number})  -  {reason}: {}\n", names.join("; "));
        }
        let Figures { stops, unsettled, short_stops, cuts, teleports, led, .. } = figures;
        if *short_stops > 0 {
            let what = "of less than a second, with the camera still moving: too short to measure";
            text += &format!("  ({number})  stops {what}: {short_stops}\n");
        }
        if *unsettled > 0 {
            let what = "the camera was not at rest within 5 s, or when the subject went on";
            text += &format!("  ({number})  in {unsettled} of {stops} stops {what}\n");
        }
        if *led > 0.0 {
            let share = (led * 1000.0).round() / 10.0;
            text += &format!(
                "  ({number})  {share} % of the time is not counted as following: glides, hands, cutscenes, {cuts} cuts, \
                 {teleports} teleports\n"
            );
        }
    }
    text
}

/// The cause of each uncomfortable figure, and the changes that helped.
fn advice(args: &CompareArgs, entries: &[Entry], figures: &[Figures]) -> String {
    if entries.iter().any(|entry| entry.take.seconds > TRIED) {
        return format!("\n  Rides of more than {TRIED} s are not ridden again to find tips.\n");
    }
    let mut known: Vec<(usize, Change, Option<Figures>)> = Vec::new();
    let mut try_out = |index: usize, change: &Change| {
        if let Some((.., figures)) = known.iter().find(|(at, one, _)| *at == index && one == change)
        {
            return figures.clone();
        }
        let ridden = args.rides.with(&entries[index], change).ok().and_then(|take| {
            let part = args.part.of(&take).ok()?;
            Figures::of_part(&take, part).ok()
        });
        known.push((index, change.clone(), ridden.clone()));
        ridden
    };
    tips::text(&tips::complaints(entries, figures, &mut try_out), figures)
}
