//! `tiles`: the tiles of the map that a view touches, and the time that this saves.

use std::io::Write;
use std::path::PathBuf;
use std::time::Instant;

use clap::{Args, ValueEnum};
use serde::Serialize;
use velvet_pan::View;
use velvet_pan_takes::{Fault, Files, Map, Ride, Take};
use velvet_pan_terraces::map_art::MapArt;
use velvet_pan_terraces::picture::{CLEAR, Picture};

use crate::arguments::args::{OutFile, TakeArgs};
use crate::arguments::view_args::ViewArgs;
use crate::sheets::plan;
use crate::sheets::reel::artwork;
use crate::support::output::{
    hundredths, put, refuse_overwriting, write_csv, write_json, write_to, write_whole,
};
use crate::support::progress::Progress;

/// Count the tiles of the map that a take's views touch, and measure how much time skipping the others saves.
#[derive(Args, Debug)]
#[command(after_help = "\
Without --at or --centre it goes over the whole ride. The times are those of drawing a frame's tiles,
only those in view against all of the map; they differ from run to run and machine to machine. Of a map of
more than 65,536 tiles some rows are drawn, evenly spaced, and their time is multiplied.

Examples:
  velvet-pan tiles terraces/demo/terraces.toml
  velvet-pan tiles terraces/demo/terraces.toml --at 12 --picture tiles.png
  velvet-pan tiles terraces/demo/terraces.toml --centre 2300,560 --zoom 0.5 --rotate 0.4 --picture tiles.png
  velvet-pan tiles terraces/demo/terraces.toml --format csv --out tiles.csv")]
pub struct TilesArgs {
    #[command(flatten)]
    take: TakeArgs,

    #[command(flatten)]
    out: OutFile,

    #[command(flatten)]
    view: ViewArgs,

    /// The format of the output
    #[arg(long, value_enum, default_value_t = TilesFormat::Text)]
    format: TilesFormat,

    /// A PNG file that shows the tiles that the view touches; of a ride, the view in its middle
    #[arg(long, value_name = "FILE")]
    picture: Option<PathBuf>,
}

/// The format of the output.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum TilesFormat {
    /// Text to read
    Text,
    /// CSV, one line of names and one of numbers
    Csv,
    /// JSON, one object
    Json,
}

/// Runs the command.
pub fn run(args: &TilesArgs) -> Result<(), Fault> {
    let outputs = [args.out.out.as_deref(), args.picture.as_deref()];
    refuse_overwriting(&outputs, &[&args.take.path])?;
    let take = args.take.read(Files::Disk)?;
    let Some(map) = &take.map else {
        let what = "the take has no map: expected map = { file = \"…\", tile = [width, height] }";
        return Err(Fault::new(format!("{}: {what}", take.name)));
    };
    let art = MapArt::new(&artwork(&take), &take.settings, Some(map));
    let mut survey = Survey::new(map);
    if let Some(view) = args.view.view(&take)? {
        survey.add(&view, true);
        survey.middle = Some(view);
    } else {
        let (rows, mut progress) = (take.rows(), Progress::new("counting", take.rows()));
        let step = rows.div_ceil(TIMED).max(1);
        for (row, moment) in (0..).zip(Ride::new(&take)?) {
            progress.step();
            survey.add(&moment.view, row % step == 0);
            if row == rows / 2 {
                survey.middle = Some(moment.view);
            }
        }
    }
    if let (Some(path), Some(view)) = (&args.picture, &survey.middle) {
        let picture = plan::draw(map, &art, view);
        write_whole(path, |out| picture.write_png(out))?;
    }
    let report = survey.report(&art);
    write_to(args.out.out.as_deref(), |out| report.write(&take, args.format, out))
}

/// The mean, the smallest and the largest of some counts.
#[derive(Clone, Copy, Debug)]
struct Spread {
    mean: f64,
    least: usize,
    most: usize,
}

/// Collects counts.
#[derive(Clone, Copy, Debug, Default)]
struct Counts {
    count: usize,
    sum: usize,
    least: Option<usize>,
    most: usize,
}

impl Counts {
    fn add(&mut self, count: usize) {
        self.count += 1;
        self.sum += count;
        self.least = Some(self.least.map_or(count, |least| least.min(count)));
        self.most = self.most.max(count);
    }

    fn spread(&self) -> Spread {
        let mean = self.sum as f64 / self.count.max(1) as f64;
        Spread { mean, least: self.least.unwrap_or(0), most: self.most }
    }
}

/// Goes through the views one by one and keeps only a few.
struct Survey<'a> {
    map: &'a Map,
    touched: Counts,
    blank: Counts,
    drawn: Counts,
    /// Upright views to measure.
    timed: Vec<View>,
    /// The view in the middle of the ride.
    middle: Option<View>,
}

impl<'a> Survey<'a> {
    fn new(map: &'a Map) -> Self {
        let none = Counts::default();
        Self { map, touched: none, blank: none, drawn: none, timed: Vec::new(), middle: None }
    }

    fn add(&mut self, view: &View, is_timed: bool) {
        let tiles = view.tiles(self.map.grid());
        let (touched, drawn) = (tiles.count(), self.map.filled(&tiles));
        self.touched.add(touched);
        self.blank.add(touched - drawn);
        self.drawn.add(drawn);
        if is_timed && !view.lens().is_rotated() {
            self.timed.push(*view);
        }
    }

    fn report(&self, art: &MapArt) -> Report {
        Report {
            views: self.touched.count,
            all: self.map.numbers().len(),
            touched: self.touched.spread(),
            blank: self.blank.spread(),
            drawn: self.drawn.spread(),
            times: Times::of(self.map, art, &self.timed),
        }
    }
}

/// The results for some views.
#[derive(Clone, Copy, Debug)]
struct Report {
    views: usize,
    all: usize,
    touched: Spread,
    blank: Spread,
    drawn: Spread,
    /// `None` if every view that would be measured is rotated: those are drawn pixel by pixel.
    times: Option<Times>,
}

/// The time to draw the tiles of a frame, in milliseconds.
#[derive(Clone, Copy, Debug)]
struct Times {
    culled: f64,
    whole: f64,
}

/// The maximum number of measured views.
const TIMED: u64 = 32;

/// The maximum number of tiles that are drawn to measure a frame.
const SAMPLE: usize = 1 << 16;

impl Report {
    /// Returns the fraction of the map that is skipped.
    fn saved(&self) -> f64 {
        1.0 - self.drawn.mean / self.all.max(1) as f64
    }

    fn write(&self, take: &Take, format: TilesFormat, out: &mut dyn Write) -> Result<(), Fault> {
        match format {
            TilesFormat::Text => put(out, &self.text(take)),
            TilesFormat::Json => write_json(&self.line(), out),
            TilesFormat::Csv => write_csv(&[self.line()], out),
        }
    }

    fn text(&self, take: &Take) -> String {
        let size = take.settings.screen.size;
        let of = if self.views == 1 {
            "one view".to_owned()
        } else {
            format!("{} views in {} s", self.views, hundredths(take.seconds))
        };
        let mut text = format!("{}: {of}, of {} x {} screen pixels\n\n", take.name, size.x, size.y);
        let mut line = |name: &str, spread: Spread| {
            let Spread { mean, least, most } = spread;
            text += &if self.views == 1 {
                format!("  {name:<20} {most:>7}\n")
            } else {
                format!("  {name:<20} {mean:>7.1}   least {least}, most {most}\n")
            };
        };
        line("tiles touched", self.touched);
        line("of these blank", self.blank);
        line("drawn", self.drawn);
        text += &format!("  {:<20} {:>7}\n", "in the map", self.all);
        text += &format!("  {:<20} {:>7.2} %\n\n", "skipped", 100.0 * self.saved());
        let Some(Times { culled, whole }) = self.times else {
            return text + "  A rotated view is drawn pixel by pixel: no times for its tiles.\n";
        };
        text += &format!("  {:<20} {culled:>7.3} ms a frame\n", "drawing these");
        text += &format!(
            "  {:<20} {whole:>7.3} ms a frame, {:.1} times as long\n",
            "drawing the map",
            whole / culled
        );
        text
    }

    fn line(&self) -> Line {
        Line {
            views: self.views,
            map: self.all,
            touched_mean: self.touched.mean,
            touched_least: self.touched.least,
            touched_most: self.touched.most,
            blank_mean: self.blank.mean,
            drawn_mean: self.drawn.mean,
            drawn_least: self.drawn.least,
            drawn_most: self.drawn.most,
            saved: self.saved(),
            culled_ms: self.times.map(|times| times.culled),
            whole_ms: self.times.map(|times| times.whole),
        }
    }
}

/// The result as a line of a table.
#[derive(Debug, Serialize)]
struct Line {
    views: usize,
    map: usize,
    touched_mean: f64,
    touched_least: usize,
    touched_most: usize,
    blank_mean: f64,
    drawn_mean: f64,
    drawn_least: usize,
    drawn_most: usize,
    saved: f64,
    culled_ms: Option<f64>,
    whole_ms: Option<f64>,
}

impl Times {
    /// Draws some views in both ways.
    fn of(map: &Map, art: &MapArt, views: &[View]) -> Option<Self> {
        let rows = map.grid().rows() as usize;
        let every = map.numbers().len().div_ceil(SAMPLE).max(1);
        let sampled = rows.div_ceil(every).max(1);
        let mut progress = Progress::new("drawing", views.len() as u64);
        let (mut culled, mut whole) = (0.0, 0.0);
        for view in views {
            progress.step();
            let mut canvas = Picture::new(view.canvas_size(), CLEAR);
            culled += best_of_three(|| art.draw(&mut canvas, map, view));
            let some = best_of_three(|| art.draw_all(&mut canvas, map, view, every));
            whole += some * rows as f64 / sampled as f64;
        }
        let frames = views.len() as f64;
        (frames > 0.0).then(|| Self { culled: culled / frames, whole: whole / frames })
    }
}

/// Returns the duration of the fastest of three runs, in milliseconds.
fn best_of_three(mut work: impl FnMut()) -> f64 {
    let mut once = || {
        let start = Instant::now();
        work();
        start.elapsed().as_secs_f64() * 1e3
    };
    once().min(once()).min(once())
}
