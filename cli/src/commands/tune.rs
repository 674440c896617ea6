//! `tune`: the settings of following that a ride with wanted figures needs.

use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};

use clap::Args;
use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use velvet_pan::glam::DVec2;
use velvet_pan::{LookAhead, PerAxis, Settings, Smoothing};
use velvet_pan_takes::{Fault, Figures, Files, Ride, Take};

use crate::arguments::args::{OutFile, TakeArgs};
use crate::output::{broken, write_to};
use crate::progress::Progress;

/// Search the settings of following for a ride with these figures, and the least acceleration.
#[derive(Args, Debug)]
#[command(after_help = "\
What can be wished for: lag (the mean, in screen pixels), worst-lag, settle (seconds), overshoot (screen
pixels), view-ahead (a share of the screen), turns (a second), peak-speed (screen pixels per second).

Smoothing, deadzone and look-ahead are searched; all else stays as the take has it. The answer is a
[follow] table for a tuning file, with what its ride is like. The same wish has the same answer.

Examples:
  velvet-pan tune demo/terraces.toml --for lag=30,view-ahead=0.6
  velvet-pan tune demo/terraces.toml --for settle=0.8 --out follow.toml")]
pub struct TuneArgs {
    #[command(flatten)]
    take: TakeArgs,

    /// What the ride should be like, separated by commas
    #[arg(long = "for", value_name = "FIGURE=VALUE", required = true, value_delimiter = ',', value_parser = wish)]
    wishes: Vec<Wish>,

    #[command(flatten)]
    out: OutFile,

    /// How many rides to try
    #[arg(long, value_name = "N", default_value_t = 400, value_parser = clap::value_parser!(u32).range(10..=100_000))]
    rides: u32,
}

/// A wanted figure.
#[derive(Clone, Copy, Debug)]
struct Wish {
    figure: &'static Wanted,
    value: f64,
}

/// A figure that can be wished for: its name, and how large a miss weighs as much as the figure itself.
#[derive(Debug)]
struct Wanted {
    name: &'static str,
    value: fn(&Figures) -> Option<f64>,
    /// A miss of so much is a whole miss, for wishes near 0.
    least: f64,
}

const WANTED: [Wanted; 7] = [
    Wanted { name: "lag", value: |figures| figures.lag_mean, least: 5.0 },
    Wanted { name: "worst-lag", value: |figures| figures.lag_worst, least: 5.0 },
    Wanted { name: "settle", value: |figures| figures.settle, least: 0.1 },
    Wanted { name: "overshoot", value: |figures| figures.overshoot, least: 2.0 },
    Wanted { name: "view-ahead", value: |figures| figures.view_ahead, least: 0.1 },
    Wanted { name: "turns", value: |figures| Some(figures.turns), least: 0.1 },
    Wanted { name: "peak-speed", value: |figures| Some(figures.peak_speed), least: 20.0 },
];

/// A wish such as lag=40.
fn wish(text: &str) -> Result<Wish, String> {
    let known = || WANTED.map(|wanted| wanted.name).join(", ");
    let (name, value) = text.split_once('=').ok_or("expected FIGURE=VALUE, such as lag=40")?;
    let figure = WANTED.iter().find(|wanted| wanted.name == name.trim());
    let figure =
        figure.ok_or_else(|| format!("no figure \"{name}\": expected one of {}", known()))?;
    let value = value.trim().parse().ok().filter(|value: &f64| value.is_finite() && *value >= 0.0);
    Ok(Wish { figure, value: value.ok_or("expected a number, 0 or more")? })
}

/// What is searched: each from 0 to 1.
type Knobs = [f64; 5];

/// A ride that was tried, and how far it is from what is wished for.
#[derive(Clone, Debug)]
struct Tried {
    knobs: Knobs,
    miss: f64,
    figures: Figures,
}

/// Runs the command.
pub fn run(args: &TuneArgs) -> Result<(), Fault> {
    let take = args.take.read(Files::Disk)?;
    if take.subjects.is_empty() {
        return Err(Fault::new(format!("{}: no subject: expected a path to follow", take.name)));
    }
    let best = search(&take, &args.wishes, args.rides as usize);
    let text = answer(&take, &args.wishes, &best)?;
    write_to(args.out.out.as_deref(), |out| {
        out.write_all(text.as_bytes()).map_err(|error| broken(&error))
    })
}

/// Half of the rides anywhere, the rest ever closer around the best.
fn search(take: &Take, wishes: &[Wish], rides: usize) -> Tried {
    let mut random = SmallRng::seed_from_u64(1);
    let mut anywhere = || std::array::from_fn(|_| random.random_range(0.0..1.0));
    let mut round: Vec<Knobs> = (0..rides / 2).map(|_| anywhere()).collect();
    let mut progress = Progress::new("tuning", rides as u64);
    let mut best = try_one(take, wishes, [0.3, 0.3, 0.3, 0.3, 0.3]);
    for narrower in [0.25, 0.1, 0.04, 0.015] {
        for tried in try_all(take, wishes, &round) {
            progress.step();
            if tried.miss < best.miss {
                best = tried;
            }
        }
        let mut near = || {
            std::array::from_fn(|index| {
                let step = random.random_range(-narrower..narrower);
                (best.knobs[index] + step).clamp(0.0, 1.0)
            })
        };
        round = (0..rides / 8).map(|_| near()).collect();
    }
    for tried in try_all(take, wishes, &round) {
        if tried.miss < best.miss {
            best = tried;
        }
    }
    best
}

/// Tries all of a round, on every processor; the answers are in order, whoever was first.
fn try_all(take: &Take, wishes: &[Wish], round: &[Knobs]) -> Vec<Tried> {
    let workers = std::thread::available_parallelism().map_or(1, std::num::NonZero::get);
    let (next, done) = (AtomicUsize::new(0), Mutex::new(Vec::new()));
    std::thread::scope(|scope| {
        for _worker in 0..workers {
            scope.spawn(|| {
                while let Some(knobs) = round.get(next.fetch_add(1, Ordering::Relaxed)) {
                    let tried = try_one(take, wishes, *knobs);
                    done.lock().unwrap_or_else(std::sync::PoisonError::into_inner).push(tried);
                }
            });
        }
    });
    let mut done = done.into_inner().unwrap_or_else(std::sync::PoisonError::into_inner);
    done.sort_by(|a, b| {
        let knobs = a.knobs.iter().zip(&b.knobs).map(|(a, b)| a.total_cmp(b));
        a.miss
            .total_cmp(&b.miss)
            .then(knobs.fold(std::cmp::Ordering::Equal, std::cmp::Ordering::then))
    });
    done
}

fn try_one(take: &Take, wishes: &[Wish], knobs: Knobs) -> Tried {
    let mut tried = take.clone();
    tried.settings = turned(&take.settings, &knobs);
    let ride = Ride::new(&tried).into_iter().flatten();
    let figures = Figures::of(&tried, &take.name, ride);
    let missed = |wish: &Wish| {
        let size = wish.value.max(wish.figure.least);
        // What the ride does not tell counts as missed wholly.
        (wish.figure.value)(&figures).map_or(1.0, |value| ((value - wish.value) / size).powi(2))
    };
    let miss = wishes.iter().map(missed).sum::<f64>() + 1e-7 * figures.peak_acceleration;
    // Nobody wishes to lose her.
    let miss = miss + figures.lost.unwrap_or(0.0) * 10.0;
    Tried { knobs, miss, figures }
}

/// The settings with these knobs turned.
fn turned(settings: &Settings, [smooth, ahead, ease, across, along]: &Knobs) -> Settings {
    let mut settings = settings.clone();
    let follow = &mut settings.follow;
    // A spring has the least acceleration; from next to nothing to three seconds, evenly in ratio.
    follow.smoothing = PerAxis::both(Smoothing::Settle(rounded(0.05 * 60_f64.powf(*smooth))));
    let seconds = DVec2::new(rounded(*ahead * 1.2), 0.0);
    let look = follow.look_ahead.unwrap_or_default();
    let half_life = rounded(0.05 + ease * 0.6);
    let reach = DVec2::new(look.reach.x.max(0.35), look.reach.y);
    let look = LookAhead { seconds, half_life, reach, ..look };
    follow.look_ahead = (seconds.x > 0.02).then_some(look);
    let (side, above) = (rounded(across * 0.2), rounded(along * 0.3));
    follow.deadzone.left = side;
    follow.deadzone.right = side;
    follow.deadzone.top = above;
    follow.deadzone.bottom = above;
    settings
}

/// As many digits as anybody would write.
fn rounded(value: f64) -> f64 {
    (value * 1000.0).round() / 1000.0
}

/// A tuning file of what was found, with its figures.
fn answer(take: &Take, wishes: &[Wish], best: &Tried) -> Result<String, Fault> {
    let mut text = format!("# {}: what was wished for, and what the ride is like\n", take.name);
    for Wish { figure, value } in wishes {
        let is = (figure.value)(&best.figures)
            .map_or("does not tell".to_owned(), |value| format!("{value:.3}"));
        text += &format!("#   {:<12} {value:>9}   {is:>9}\n", figure.name);
    }
    let acceleration = best.figures.peak_acceleration;
    text += &format!("#   peak acceleration      {acceleration:>9.0} screen px/s²\n\n");
    let follow = turned(&take.settings, &best.knobs).follow;
    let failed = |error: toml::ser::Error| Fault::new(format!("not written: {error}"));
    let mut table = toml::Table::new();
    table.insert("follow".to_owned(), toml::Value::try_from(follow).map_err(failed)?);
    Ok(text + &toml::to_string(&table).map_err(failed)?)
}
