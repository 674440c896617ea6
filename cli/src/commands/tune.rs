//! `tune`: searches settings of following for a ride with given figures.

use std::str::FromStr;

use clap::Args;
use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use velvet_pan::glam::DVec2;
use velvet_pan::{LookAhead, Settings, Smoothing};
use velvet_pan_takes::{Fault, Figure, Figures, Files, Take, settings_text};

use crate::arguments::args::{OutFile, TakeArgs};
use crate::judgement::comfort::{Comfort, discomfort};
use crate::judgement::ladder::rounded;
use crate::judgement::limits::{named, spelled};
use crate::support::output::{refuse_overwriting, tell, write_text};
use crate::support::progress::Progress;
use crate::support::workers::on_all_processors;

/// Search settings of [follow] for a ride with the given figures, comfortable otherwise, and with the least acceleration.
#[derive(Args, Debug)]
#[command(after_help = "\
Every figure of `compare` can be wished for: lag.mean (also lag), lag.p95, lag.worst, settle,
overshoot, view-ahead, turns, peak-speed and so on. `=` wishes for a value, within 5 %; `<=` and
`>=` for at most and at least so much.

Smoothing, deadzone and look-ahead along x are searched; all else stays as the take has it. The
answer is a [follow] table for a tuning file, with what its ride is like. The same wish has the
same answer.

Exit status: 0 every wish came true, 1 one did not: the nearest is printed, and what was missed
is said, 2 bad usage or bad input.

Examples:
  velvet-pan tune terraces/demo/terraces.toml --for 'lag=30,view-ahead>=0.5'
  velvet-pan tune terraces/demo/terraces.toml --for 'settle<=1.5,lag.worst<=90' --out follow.toml")]
pub struct TuneArgs {
    #[command(flatten)]
    take: TakeArgs,

    /// The figures that the ride should have, separated by commas
    #[arg(long = "for", value_name = "FIGURE=VALUE", required = true, value_delimiter = ',')]
    wishes: Vec<Wish>,

    #[command(flatten)]
    out: OutFile,

    /// The number of rides to try
    #[arg(long, value_name = "N", default_value_t = 200, value_parser = clap::value_parser!(u32).range(10..=100_000))]
    rides: u32,
}

/// A wanted figure.
#[derive(Clone, Copy, Debug)]
struct Wish {
    figure: &'static Figure,
    sense: Sense,
    value: f64,
}

/// The comparison of a wish.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Sense {
    Equal,
    AtMost,
    AtLeast,
}

/// A wish for a value is met within this fraction of it.
const NEAR: f64 = 0.05;
/// For wishes near 0: a wish is also met within this fraction of the comfortable value.
const NEAR_ZERO: f64 = 0.05;

impl FromStr for Wish {
    type Err = String;

    /// Parses a wish such as `lag=40`, `lag.worst<=80` or `view-ahead>=0.6`.
    fn from_str(text: &str) -> Result<Self, String> {
        let expected = "expected FIGURE=VALUE, FIGURE<=VALUE or FIGURE>=VALUE, such as lag=40";
        let senses = [("<=", Sense::AtMost), (">=", Sense::AtLeast), ("=", Sense::Equal)];
        let split = |(sign, sense)| text.split_once(sign).map(|(name, value)| (name, value, sense));
        let (name, value, sense) = senses.into_iter().find_map(split).ok_or(expected)?;
        let name = if name.trim() == "lag" { "lag.mean" } else { name };
        let value: f64 = value.trim().parse().map_err(|_| expected)?;
        if !value.is_finite() || value < 0.0 {
            return Err(format!("{value} is not possible: expected a number, 0 or more"));
        }
        Ok(Self { figure: named(name)?, sense, value })
    }
}

impl Wish {
    /// Returns the distance of figures from the wish, as a fraction of it; 0 if it is met.
    fn miss(&self, figures: &Figures) -> f64 {
        // What the ride does not tell counts as missed wholly.
        let Some(value) = self.figure.of(figures) else { return 1.0 };
        let away = match self.sense {
            Sense::Equal => (value - self.value).abs(),
            Sense::AtMost => (value - self.value).max(0.0),
            Sense::AtLeast => (self.value - value).max(0.0),
        };
        away / self.value.max(NEAR_ZERO * Comfort::of(self.figure).max(0.1))
    }

    fn came_true(&self, figures: &Figures) -> bool {
        let near = if self.sense == Sense::Equal { NEAR } else { 0.0 };
        self.miss(figures) <= near
    }

    fn text(&self) -> String {
        let sign = match self.sense {
            Sense::Equal => "=",
            Sense::AtMost => "<=",
            Sense::AtLeast => ">=",
        };
        format!("{} {sign} {}", spelled(self.figure), self.value)
    }
}

/// The searched numbers, each from 0 to 1.
type Knobs = [f64; 5];

/// A ride that was tried.
#[derive(Clone, Debug)]
struct Tried {
    knobs: Knobs,
    /// What it costs: first the wishes that are missed, then discomfort, then acceleration. An earlier one always wins.
    cost: [f64; 3],
    figures: Figures,
}

impl Tried {
    fn is_better_than(&self, other: &Self) -> bool {
        self.cost < other.cost
    }
}

/// Runs the command. Returns whether every wish is met.
pub fn run(args: &TuneArgs) -> Result<bool, Fault> {
    refuse_overwriting(&[args.out.out.as_deref()], &[&args.take.path])?;
    let take = args.take.read(Files::Disk)?;
    if take.subjects.is_empty() {
        return Err(Fault::new(format!("{}: no subject: expected a path to follow", take.name)));
    }
    let best = search(&take, &args.wishes, args.rides as usize);
    let text = answer(&take, &args.wishes, &best)?;
    write_text(args.out.out.as_deref(), &text)?;
    let missed = args.wishes.iter().filter(|wish| !wish.came_true(&best.figures));
    let missed: Vec<String> = missed
        .map(|wish| format!("{}, nearest {}", wish.text(), wish.figure.shown(&best.figures)))
        .collect();
    for wish in &missed {
        tell("missed", wish);
    }
    Ok(missed.is_empty())
}

/// Tries two fifths of the rides anywhere, the rest ever closer to the best one.
fn search(take: &Take, wishes: &[Wish], rides: usize) -> Tried {
    let mut random = SmallRng::seed_from_u64(1);
    let mut anywhere = || std::array::from_fn(|_| random.random_range(0.0..1.0));
    let mut round: Vec<Knobs> = (0..rides * 2 / 5).map(|_| anywhere()).collect();
    let mut progress = Progress::new("tuning", rides as u64);
    let mut best = try_one(take, wishes, [0.3, 0.3, 0.3, 0.3, 0.3]);
    for narrower in [0.25, 0.12, 0.06, 0.03, 0.015, 0.008] {
        for tried in try_all(take, wishes, &round) {
            progress.step();
            if tried.is_better_than(&best) {
                best = tried;
            }
        }
        // Some of the numbers at a time: what is right already is not always lost.
        let mut near = || {
            best.knobs.map(|knob| match random.random_bool(0.5) {
                true => (knob + random.random_range(-narrower..narrower)).clamp(0.0, 1.0),
                false => knob,
            })
        };
        round = (0..rides / 10).map(|_| near()).collect();
    }
    for tried in try_all(take, wishes, &round) {
        if tried.is_better_than(&best) {
            best = tried;
        }
    }
    best
}

/// Tries all rides of a round on every processor. The results are in order, the best first.
fn try_all(take: &Take, wishes: &[Wish], round: &[Knobs]) -> Vec<Tried> {
    let mut done = on_all_processors(round, |knobs| try_one(take, wishes, *knobs));
    done.sort_by(|a, b| {
        let numbers = |tried: &Tried| tried.cost.into_iter().chain(tried.knobs);
        let pairs = numbers(a).zip(numbers(b)).map(|(a, b)| a.total_cmp(&b));
        pairs.fold(std::cmp::Ordering::Equal, std::cmp::Ordering::then)
    });
    done
}

fn try_one(take: &Take, wishes: &[Wish], knobs: Knobs) -> Tried {
    let tried = Take { settings: turned(&take.settings, &knobs), ..take.clone() };
    // Settings that can't be used are no answer.
    let figures = Figures::of_take(&tried).unwrap_or_default();
    let missed = |wish: &Wish| {
        // What nearly comes true goes on being drawn to it.
        if wish.came_true(&figures) { 0.0 } else { 0.01 + wish.miss(&figures) }
    };
    let wishes = wishes.iter().map(missed).sum();
    let cost = [wishes, discomfort(&figures, take), figures.peak_acceleration.unwrap_or(f64::MAX)];
    Tried { knobs, cost, figures }
}

/// Returns the settings with these numbers.
fn turned(settings: &Settings, [smooth, ahead, ease, across, along]: &Knobs) -> Settings {
    let mut settings = settings.clone();
    let follow = &mut settings.follow;
    // A spring has the least acceleration; from next to nothing to three seconds, evenly in ratio.
    let settle = Smoothing::Settle(rounded(0.05 * 60_f64.powf(*smooth)));
    // An axis with a smoothing of its own keeps it.
    let alike = follow.smoothing.x == follow.smoothing.y;
    follow.smoothing.x = settle;
    if alike {
        follow.smoothing.y = settle;
    }
    let own = follow.look_ahead.map_or(0.0, |look| look.seconds.y);
    let seconds = DVec2::new(rounded(*ahead * 1.2), own);
    let look = follow.look_ahead.unwrap_or_default();
    let half_life = rounded(0.05 + ease * 0.6);
    let reach = DVec2::new(look.reach.x.max(0.35), look.reach.y);
    let look = LookAhead { seconds, half_life, reach, ..look };
    follow.look_ahead = (seconds.x > 0.02 || own != 0.0).then_some(look);
    let zone = &mut follow.deadzone;
    (zone.left, zone.right) = sides(zone.left, zone.right, across * 0.2);
    (zone.top, zone.bottom) = sides(zone.top, zone.bottom, along * 0.3);
    settings
}

/// Two sides with this mean width and the same ratio as before.
fn sides(one: f64, other: f64, mean: f64) -> (f64, f64) {
    let both = one + other;
    let part = if both > 0.0 { one / both } else { 0.5 };
    (rounded(2.0 * mean * part), rounded(2.0 * mean * (1.0 - part)))
}

/// Returns a tuning file with the result and its figures.
fn answer(take: &Take, wishes: &[Wish], best: &Tried) -> Result<String, Fault> {
    let mut text = format!("# {}: requested and measured figures\n", take.name);
    for wish in wishes {
        let missed = if wish.came_true(&best.figures) { "" } else { "   missed" };
        text +=
            &format!("#   {:<22} {:>9}{missed}\n", wish.text(), wish.figure.shown(&best.figures));
    }
    let acceleration = best.figures.peak_acceleration.unwrap_or(0.0);
    text += &format!("#   peak-acceleration      {acceleration:>9.0} screen px/s²\n\n");
    let follow = turned(&take.settings, &best.knobs).follow;
    let settings = Settings { follow, ..Settings::default() };
    let follow = settings_text(&settings, |table| table == "follow");
    Ok(text + &follow.ok_or_else(|| Fault::new("not written: a number is too large"))?)
}
