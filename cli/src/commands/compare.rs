//! `compare`: ride figures side by side, and what to change.

use std::path::PathBuf;

use clap::{Args, ValueEnum};
use velvet_pan::Settings;
use velvet_pan_takes::{Fault, Figures, Take};

use crate::arguments::args::OutFile;
use crate::arguments::rides::{Ridden, RidesArgs};
use crate::charts::rides_chart::Chart;
use crate::output::{broken, write_csv, write_json, write_to, write_whole};

/// Measure rides and set them side by side: what each is like, and what to change.
#[derive(Args, Debug)]
#[command(after_help = "\
The best of each figure is marked with +, the worst with -. Figures beyond what is comfortable come
with the likely cause, and the key and value to try.

Examples:
  velvet-pan compare demo/terraces.toml
  velvet-pan compare demo/terraces.toml --try follow.smoothing='{ settle = 0.4 }' --try follow.look_ahead.seconds='[0.8, 0.0]'
  velvet-pan compare demo/gully.toml demo/shrine.toml --format csv --out figures.csv
  velvet-pan compare demo/pan.toml --try screen.snap=whole --chart pan.png")]
pub struct CompareArgs {
    #[command(flatten)]
    rides: RidesArgs,

    #[command(flatten)]
    out: OutFile,

    /// The form of the answer
    #[arg(long, value_enum, default_value_t = CompareFormat::Text)]
    format: CompareFormat,

    /// A PNG or SVG file with the rides in one picture
    #[arg(long, value_name = "FILE")]
    chart: Option<PathBuf>,
}

/// How the answer is written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum CompareFormat {
    /// For reading
    Text,
    /// A line for each ride
    Csv,
    /// A list of objects, one for each ride
    Json,
}

/// Runs the command.
pub fn run(args: &CompareArgs) -> Result<(), Fault> {
    let rides = args.rides.ride()?;
    if let Some(path) = &args.chart {
        let chart = Chart::of(&rides, path)?;
        write_whole(path, |out| chart.write(out))?;
    }
    let figures: Vec<Figures> = rides
        .iter()
        .map(|ride| Figures::of(&ride.take, &ride.name, ride.moments.iter().copied()))
        .collect();
    write_to(args.out.out.as_deref(), |out| match args.format {
        CompareFormat::Text => {
            let text = table(&rides, &figures) + &advice(&rides, &figures);
            out.write_all(text.as_bytes()).map_err(|error| broken(&error))
        }
        CompareFormat::Csv => write_csv(&figures, out),
        CompareFormat::Json => write_json(&figures, out),
    })
}

/// Which end of a figure is the better one.
#[derive(Clone, Copy, PartialEq)]
enum Better {
    Low,
    High,
}

/// A figure as a line of the table, and what is comfortable.
struct Kind {
    name: &'static str,
    unit: &'static str,
    value: fn(&Figures) -> Option<f64>,
    better: Better,
    limit: f64,
    cause: &'static str,
    cure: fn(&Settings, f64) -> String,
}

fn half_life(settings: &Settings, part: f64) -> String {
    use velvet_pan::Smoothing;
    match settings.follow.smoothing.x {
        Smoothing::HalfLife(seconds) => {
            format!("follow.smoothing = {{ half_life = {:.3} }}", seconds * part)
        }
        Smoothing::Settle(seconds) => {
            format!("follow.smoothing = {{ settle = {:.3} }}", seconds * part)
        }
        Smoothing::Speed(speed) => format!("follow.smoothing = {{ speed = {:.0} }}", speed / part),
        _ => "follow.smoothing = { half_life = 0.12 }".to_owned(),
    }
}

const KINDS: [Kind; 13] = [
    Kind {
        name: "lag, mean",
        unit: "screen px",
        value: |figures| figures.lag_mean,
        better: Better::Low,
        limit: 64.0,
        cause: "the view is far from where it wants to be most of the time",
        cure: |settings, _| half_life(settings, 0.6),
    },
    Kind {
        name: "lag, 95th percentile",
        unit: "screen px",
        value: |figures| figures.lag_p95,
        better: Better::Low,
        limit: 110.0,
        cause: "smoothing or the deadzone lets her drift far",
        cure: |settings, _| half_life(settings, 0.6),
    },
    Kind {
        name: "lag, worst",
        unit: "screen px",
        value: |figures| figures.lag_worst,
        better: Better::Low,
        limit: 140.0,
        cause: "she comes near the edge of the screen",
        cure: |_, _| "follow.leash = [0.4, 0.4]".to_owned(),
    },
    Kind {
        name: "settle",
        unit: "s",
        value: |figures| figures.settle,
        better: Better::Low,
        limit: 1.5,
        cause: "the view still moves long after she has stopped",
        cure: |settings, value| half_life(settings, (1.5 / value).max(0.2)),
    },
    Kind {
        name: "overshoot",
        unit: "screen px",
        value: |figures| figures.overshoot,
        better: Better::Low,
        limit: 24.0,
        cause: "the view runs past its place of rest: the look-ahead takes itself back late",
        cure: |settings, _| match &settings.follow.look_ahead {
            Some(ahead) => format!("follow.look_ahead.half_life = {:.2}", ahead.half_life * 2.0),
            None => "follow.smoothing = { half_life = 0.12 }".to_owned(),
        },
    },
    Kind {
        name: "view ahead",
        unit: "of the screen",
        value: |figures| figures.view_ahead,
        better: Better::High,
        limit: 0.48,
        cause: "more is shown of what is behind than of what is ahead",
        cure: |settings, _| {
            let seconds = settings.follow.look_ahead.map_or(0.4, |ahead| ahead.seconds.x + 0.3);
            format!("follow.look_ahead = {{ seconds = [{seconds:.1}, 0.0] }}")
        },
    },
    Kind {
        name: "judder",
        unit: "window px",
        value: |figures| figures.judder,
        better: Better::Low,
        limit: 1.0,
        cause: "the picture moves in whole art pixels",
        cure: |_, _| "screen.snap = \"subpixel\"".to_owned(),
    },
    Kind {
        name: "tremble",
        unit: "window px",
        value: |figures| figures.tremble,
        better: Better::Low,
        limit: 1.0,
        cause: "camera and sprite are rounded apart",
        cure: |_, _| "screen.snap = \"subpixel\", and the sprite's own placement".to_owned(),
    },
    Kind {
        name: "turns",
        unit: "a second",
        value: |figures| Some(figures.turns),
        better: Better::Low,
        limit: 1.5,
        cause: "the view repeats every twitch",
        cure: |settings, _| {
            let sides = &settings.follow.deadzone;
            let wider = |side: f64| side + 0.05;
            format!(
                "follow.deadzone = {{ left = {:.2}, right = {:.2}, top = {:.2}, bottom = {:.2} }}",
                wider(sides.left),
                wider(sides.right),
                wider(sides.top),
                wider(sides.bottom)
            )
        },
    },
    Kind {
        name: "peak speed",
        unit: "screen px/s",
        value: |figures| Some(figures.peak_speed),
        better: Better::Low,
        limit: 900.0,
        cause: "the picture is too fast to be read",
        cure: |settings, _| half_life(settings, 1.5),
    },
    Kind {
        name: "peak acceleration",
        unit: "screen px/s²",
        value: |figures| Some(figures.peak_acceleration),
        better: Better::Low,
        limit: 9000.0,
        cause: "the view is jerked",
        cure: |_, _| "follow.smoothing = { settle = 0.5 }".to_owned(),
    },
    Kind {
        name: "out of bounds",
        unit: "screen px²",
        value: |figures| figures.out_of_bounds,
        better: Better::Low,
        limit: 0.0,
        cause: "what lies outside the world is shown, by a shake or a zoom",
        cure: |_, _| "shake.stay_in_bounds = true, zoom.fill_bounds = true".to_owned(),
    },
    Kind {
        name: "lost",
        unit: "of the frames",
        value: |figures| figures.lost,
        better: Better::Low,
        limit: 0.0,
        cause: "she is off the screen",
        cure: |_, _| "follow.leash = [0.42, 0.42]".to_owned(),
    },
];

impl Kind {
    /// What is comfortable on this take's screen: lengths are given for one 320 pixels wide.
    fn limit_on(&self, take: &Take) -> f64 {
        let screens = f64::from(take.settings.screen.size.x) / 320.0;
        if self.unit.starts_with("screen px") { self.limit * screens } else { self.limit }
    }

    fn is_uncomfortable(&self, value: f64, take: &Take) -> bool {
        match self.better {
            Better::Low => value > self.limit_on(take),
            Better::High => value < self.limit_on(take),
        }
    }

    /// The mark of a value among all: best, worst or neither.
    fn mark(&self, value: f64, all: &[f64]) -> char {
        let (low, high) = all
            .iter()
            .fold((f64::MAX, f64::MIN), |(low, high), one| (low.min(*one), high.max(*one)));
        // Too near each other to matter.
        if all.len() < 2 || high - low <= 0.02 * high.abs() {
            return ' ';
        }
        let (best, worst) = if self.better == Better::Low { (low, high) } else { (high, low) };
        match value {
            value if value == best => '+',
            value if value == worst => '-',
            _ => ' ',
        }
    }
}

/// A number as short as it may be read.
fn short(value: f64) -> String {
    match value.abs() {
        size if size >= 100.0 => format!("{value:.0}"),
        size if size >= 10.0 => format!("{value:.1}"),
        0.0 => "0".to_owned(),
        _ => format!("{value:.2}"),
    }
}

fn table(rides: &[Ridden], figures: &[Figures]) -> String {
    let mut text = String::new();
    for (number, figures) in (1..).zip(figures) {
        text += &format!("  ({number})  {}\n", figures.ride);
    }
    text += &format!("\n{:<22} {:<14}", "", "");
    for number in 1..=figures.len() {
        text += &format!("{:>10} ", format!("({number})"));
    }
    text += "\n";
    for kind in &KINDS {
        let values: Vec<Option<f64>> = figures.iter().map(kind.value).collect();
        let known: Vec<f64> = values.iter().copied().flatten().collect();
        text += &format!("{:<22} {:<14}", kind.name, kind.unit);
        for (value, ride) in values.into_iter().zip(rides) {
            text += &match value {
                Some(value) => {
                    let limit = if kind.is_uncomfortable(value, &ride.take) { "!" } else { "" };
                    format!("{:>10}{}", limit.to_owned() + &short(value), kind.mark(value, &known))
                }
                None => format!("{:>10} ", "-"),
            };
        }
        text.truncate(text.trim_end().len());
        text += "\n";
    }
    if figures.len() > 1 {
        text += "\n  + best, - worst";
    }
    text + "\n"
}

/// For each figure beyond what is comfortable: the cause, and what to try.
fn advice(rides: &[Ridden], figures: &[Figures]) -> String {
    let mut text = String::new();
    for (number, (ride, figures)) in (1..).zip(rides.iter().zip(figures)) {
        for kind in &KINDS {
            let Some(value) =
                (kind.value)(figures).filter(|value| kind.is_uncomfortable(*value, &ride.take))
            else {
                continue;
            };
            let than = if kind.better == Better::Low { "above" } else { "below" };
            text += &format!(
                "\n! ({number}) {} {} {}, {than} {}: {}.\n      try {}\n",
                kind.name,
                short(value),
                kind.unit,
                short(kind.limit_on(&ride.take)),
                kind.cause,
                (kind.cure)(&ride.take.settings, value)
            );
        }
    }
    text
}
