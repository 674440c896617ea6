//! `compare`: ride figures side by side, and what to change.

use std::path::PathBuf;

use clap::{Args, ValueEnum};
use velvet_pan::Settings;
use velvet_pan_takes::{Better, Fault, Figure, Figures, Take};

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

/// What is comfortable of a figure, and what helps.
struct Comfort {
    /// The figure's key.
    of: &'static str,
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

const COMFORTS: [Comfort; 13] = [
    Comfort {
        of: "lag_mean",
        limit: 64.0,
        cause: "the view is far from where it wants to be most of the time",
        cure: |settings, _| half_life(settings, 0.6),
    },
    Comfort {
        of: "lag_p95",
        limit: 110.0,
        cause: "smoothing or the deadzone lets her drift far",
        cure: |settings, _| half_life(settings, 0.6),
    },
    Comfort {
        of: "lag_worst",
        limit: 140.0,
        cause: "she comes near the edge of the screen",
        cure: |_, _| "follow.leash = [0.4, 0.4]".to_owned(),
    },
    Comfort {
        of: "settle",
        limit: 1.5,
        cause: "the view still moves long after she has stopped",
        cure: |settings, value| half_life(settings, (1.5 / value).max(0.2)),
    },
    Comfort {
        of: "overshoot",
        limit: 24.0,
        cause: "the view runs past its place of rest: the look-ahead takes itself back late",
        cure: |settings, _| match &settings.follow.look_ahead {
            Some(ahead) => format!("follow.look_ahead.half_life = {:.2}", ahead.half_life * 2.0),
            None => "follow.smoothing = { half_life = 0.12 }".to_owned(),
        },
    },
    Comfort {
        of: "view_ahead",
        limit: 0.48,
        cause: "more is shown of what is behind than of what is ahead",
        cure: |settings, _| {
            let seconds = settings.follow.look_ahead.map_or(0.4, |ahead| ahead.seconds.x + 0.3);
            format!("follow.look_ahead = {{ seconds = [{seconds:.1}, 0.0] }}")
        },
    },
    Comfort {
        of: "judder",
        limit: 1.0,
        cause: "the picture moves in whole art pixels",
        cure: |_, _| "screen.snap = \"subpixel\"".to_owned(),
    },
    Comfort {
        of: "tremble",
        limit: 1.0,
        cause: "camera and sprite are rounded apart",
        cure: |_, _| "screen.snap = \"subpixel\", and the sprite's own placement".to_owned(),
    },
    Comfort {
        of: "turns",
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
    Comfort {
        of: "peak_speed",
        limit: 900.0,
        cause: "the picture is too fast to be read",
        cure: |settings, _| half_life(settings, 1.5),
    },
    Comfort {
        of: "peak_acceleration",
        limit: 9000.0,
        cause: "the view is jerked",
        cure: |_, _| "follow.smoothing = { settle = 0.5 }".to_owned(),
    },
    Comfort {
        of: "out_of_bounds",
        limit: 0.0,
        cause: "what lies outside the world is shown, by a shake or a zoom",
        cure: |_, _| "shake.stay_in_bounds = true, zoom.fill_bounds = true".to_owned(),
    },
    Comfort {
        of: "lost",
        limit: 0.0,
        cause: "she is off the screen",
        cure: |_, _| "follow.leash = [0.42, 0.42]".to_owned(),
    },
];

/// The figures, each with what is comfortable.
fn kinds() -> impl Iterator<Item = (&'static Figure, &'static Comfort)> {
    Figure::ALL
        .iter()
        .zip(&COMFORTS)
        .inspect(|(figure, comfort)| debug_assert_eq!(figure.key, comfort.of))
}

impl Comfort {
    /// What is comfortable on this take's screen: lengths are given for one 320 pixels wide.
    fn limit_on(&self, figure: &Figure, take: &Take) -> f64 {
        let screens = f64::from(take.settings.screen.size.x) / 320.0;
        if figure.unit.starts_with("screen px") { self.limit * screens } else { self.limit }
    }

    fn is_broken(&self, figure: &Figure, value: f64, take: &Take) -> bool {
        match figure.better {
            Better::Low => value > self.limit_on(figure, take),
            Better::High => value < self.limit_on(figure, take),
        }
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
    for (figure, comfort) in kinds() {
        let values: Vec<Option<f64>> = figures.iter().map(|one| figure.of(one)).collect();
        let known: Vec<f64> = values.iter().copied().flatten().collect();
        text += &format!("{:<22} {:<14}", figure.name, figure.unit);
        for (value, ride) in values.into_iter().zip(rides) {
            text += &match value {
                Some(value) => {
                    let broken = comfort.is_broken(figure, value, &ride.take);
                    let limit = if broken { "!" } else { "" };
                    let mark = match figure.rank(value, &known) {
                        Some(true) => '+',
                        Some(false) => '-',
                        None => ' ',
                    };
                    format!("{:>10}{mark}", limit.to_owned() + &Figure::short(value))
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
        for (figure, comfort) in kinds() {
            let value = figure.of(figures);
            let Some(value) = value.filter(|value| comfort.is_broken(figure, *value, &ride.take))
            else {
                continue;
            };
            let than = if figure.better == Better::Low { "above" } else { "below" };
            text += &format!(
                "\n! ({number}) {} {} {}, {than} {}: {}.\n      try {}\n",
                figure.name,
                Figure::short(value),
                figure.unit,
                Figure::short(comfort.limit_on(figure, &ride.take)),
                comfort.cause,
                (comfort.cure)(&ride.take.settings, value)
            );
        }
    }
    text
}
