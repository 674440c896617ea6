//! `demo`: the main job on built-in data, in one command.

use std::path::{Path, PathBuf};

use clap::Args;
use velvet_pan::glam::UVec2;
use velvet_pan_takes::{BuiltIn, Fault, Files, Moment, Overrides, Ride, Take};
use velvet_pan_terraces::art::palette::CREAM;
use velvet_pan_terraces::files::{self, TAKE};
use velvet_pan_terraces::own::Artwork;
use velvet_pan_terraces::picture::Picture;
use velvet_pan_terraces::scene::Scene;

use crate::charts::over_time::{Line, Panel, stacked};
use crate::charts::plot::rgb;
use crate::commands::film::{SheetArgs, contact_sheet};
use crate::commands::trace::{Format, write_ride};
use crate::support::output::{hundredths, make_folder, write_text, write_whole};

/// Ride the demo, in which a courier crosses tea terraces, and write a table and pictures of it.
#[derive(Args, Debug)]
#[command(after_help = "\
The take itself is left beside the results, to change a number in and to run again:
  velvet-pan demo
  velvet-pan film velvet-pan-demo/take/terraces.toml --set follow.smoothing=none --out film.png")]
pub struct DemoArgs {
    /// The folder for the results; created if it does not exist
    #[arg(long, value_name = "DIR", default_value = "velvet-pan-demo")]
    out: PathBuf,
}

/// Runs the command.
pub fn run(args: &DemoArgs) -> Result<(), Fault> {
    let files = files::files();
    let take = Take::read(Files::BuiltIn(&files), Path::new(TAKE), &Overrides::default())?;
    let take_folder = args.out.join("take");
    make_folder(&take_folder)?;
    let kept = copy_take(&files, &take_folder)?;

    let ride_file = args.out.join("ride.csv");
    write_whole(&ride_file, |out| write_ride(&take, Format::Csv, out))?;
    let film_file = args.out.join("film.png");
    let small = Take { window: (640, 360).into(), ..take.clone() };
    let layout = SheetArgs { columns: 2, ..SheetArgs::default() };
    let sheet = contact_sheet(&[small], &layout)?;
    write_whole(&film_file, |out| sheet.write_png(out))?;
    let frame_file = args.out.join("frame.png");
    let moments: Vec<Moment> = Ride::new(&take)?.collect();
    write_frame(&take, &moments, &frame_file)?;

    let shake_file = args.out.join("shake.png");
    let plot = shake_plot(&take, &moments)?;
    write_whole(&shake_file, |out| plot.write_png(out))?;

    let summary = Summary::of(&take, &moments);
    let mut text = summary.text(&take);
    let written = [
        (ride_file, "the ride, one row a frame"),
        (film_file, "six moments of it"),
        (frame_file, "one moment in the size of the window"),
        (shake_file, "the shakes of its impacts"),
        (take_folder.clone(), "the take, to change and to run again"),
    ];
    let longest = written.iter().map(|(path, _)| path.as_os_str().len()).max().unwrap_or(0);
    for (index, (path, what)) in written.iter().enumerate() {
        let label = if index == 0 { "wrote" } else { "" };
        text += &format!("  {label:<10} {:<longest$}  {what}\n", path.display().to_string());
    }
    for name in kept {
        let path = take_folder.join(name);
        text += &format!("  kept       {}, which differs from the demo's\n", path.display());
    }
    write_text(None, &text)
}

/// Copies the files of the take. Existing files that differ are kept and listed.
fn copy_take(files: &[BuiltIn], folder: &Path) -> Result<Vec<&'static str>, Fault> {
    let mut kept = Vec::new();
    for file in files {
        let path = folder.join(file.name);
        match std::fs::read_to_string(&path) {
            Ok(text) if text == file.text => {}
            Ok(_) => kept.push(file.name),
            Err(_) => write_text(Some(&path), &file.text)?,
        }
    }
    Ok(kept)
}

/// Returns the moment in the middle of the ride.
fn write_frame(take: &Take, moments: &[Moment], path: &Path) -> Result<(), Fault> {
    let Some(moment) = moments.get(take.rows() as usize / 2) else { return Ok(()) };
    let frame = Scene::new(take, &Artwork::Terraces).draw(moment);
    write_whole(path, |out| frame.write_png(out))
}

/// Returns the shake over time, with its envelope.
fn shake_plot(take: &Take, moments: &[Moment]) -> Result<Picture, Fault> {
    let panel = |title: &str, axis: usize| {
        let shake = moments.iter().map(|moment| (moment.t, moment.view.shake().pixels[axis]));
        let envelope = moments.iter().map(|moment| (moment.t, moment.envelope[axis]));
        let points = shake.collect();
        Panel {
            title: title.to_owned(),
            unit: "screen px",
            lines: vec![Line { name: "shake".to_owned(), colour: rgb(CREAM), points }],
            envelope: envelope.collect(),
            downwards: false,
            is_compared: false,
        }
    };
    let title = format!("{} · landings, a gong, a landslide", take.name);
    stacked(UVec2::new(1280, 800), &title, &[panel("to the right", 0), panel("downwards", 1)])
}

/// A summary of the ride.
#[derive(Debug)]
struct Summary {
    frames: u64,
    mean_lag: f64,
    worst_lag: f64,
    mean_tiles: f64,
}

impl Summary {
    fn of(take: &Take, moments: &[Moment]) -> Self {
        let (mut lag, mut worst, mut tiles) = (0.0, 0.0_f64, 0);
        for moment in moments {
            if let Some(away) = moment.lag() {
                lag += away;
                worst = worst.max(away);
            }
            tiles += moment.row(take).tiles.unwrap_or(0);
        }
        let frames = take.rows();
        let mean = |sum: f64| sum / frames as f64;
        Self { frames, mean_lag: mean(lag), worst_lag: worst, mean_tiles: mean(tiles as f64) }
    }

    fn text(&self, take: &Take) -> String {
        let all = take.map.as_ref().map_or(0, |map| map.numbers().len());
        format!(
            "{}: Wren, a parcel courier, crosses the tea terraces at dusk\n\n\
             \x20 frames     {} in {} s, {} a second\n\
             \x20 lag        {:.1} screen pixels from the view to its goal on average, {:.1} at worst\n\
             \x20 tiles      {:.0} drawn a frame on average, of {all} in the map: {:.1} % skipped\n",
            take.name,
            self.frames,
            hundredths(take.seconds),
            take.fps,
            self.mean_lag,
            self.worst_lag,
            self.mean_tiles,
            100.0 * (1.0 - self.mean_tiles / all.max(1) as f64),
        )
    }
}
