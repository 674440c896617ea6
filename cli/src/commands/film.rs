//! `film`: the ride as pictures.

use std::ops::RangeInclusive;
use std::path::{Path as FilePath, PathBuf};

use clap::{Args, ValueEnum};
use velvet_pan::glam::UVec2;
use velvet_pan::{Snap, WindowSize};
use velvet_pan_takes::{Fault, Files, Take, Unfinished, place_of};
use velvet_pan_terraces::picture::{Animation, CLEAR, Picture, write_apng};

use crate::arguments::args::{ChangeArgs, read_take};
use crate::sheets::reel::{Frame, Undrawn, frames};
use crate::sheets::sheet::Sheet;
use crate::support::ahead::ahead;
use crate::support::output::{hundredths, make_folder, reason_of, refuse_overwriting, write_whole};
use crate::support::progress::Progress;

/// Draw frames of takes: some of them on one sheet, or all of them as an animation or as files.
#[derive(Args, Debug)]
#[command(after_help = "\
Every frame is drawn as it appears in the take's window: snapped, placed and scaled as the tuning
says. The label gives its time and the world point in the middle of the view.

With several snaps each moment is drawn with each of them, side by side. An animation holds every
frame of the ride, at the ride's own rate.

Examples:
  velvet-pan film terraces/demo/terraces.toml --out film.png
  velvet-pan film terraces/demo/terraces.toml --overlay --out film.png
  velvet-pan film terraces/demo/terraces.toml --frames 12 --columns 3 --window 640x360 --out film.png
  velvet-pan film terraces/demo/kite.toml terraces/demo/shrine.toml --window 640x360 --out both.png
  velvet-pan film terraces/demo/shrine.toml --at 4,8.5,12 --out moments.png
  velvet-pan film terraces/demo/terraces.toml --from 6 --to 9 --format apng --window 640x360 --out gong.png
  velvet-pan film terraces/demo/pan.toml --snap off,whole,subpixel --format apng --small --out pan.png")]
pub struct FilmArgs {
    /// The take files; several are shown side by side, up to the end of the shortest
    #[arg(value_name = "TAKE", required = true)]
    takes: Vec<PathBuf>,

    #[command(flatten)]
    changes: ChangeArgs,

    /// The PNG file to write, or the folder for numbered frames; a file appears whole or not at all
    #[arg(long, value_name = "FILE")]
    out: PathBuf,

    #[command(flatten)]
    sheet: SheetArgs,

    /// The window's size in pixels, instead of the take's
    #[arg(long, value_name = "WxH", value_parser = window_size)]
    window: Option<WindowSize>,

    /// Snaps to draw with instead of the tuning's, separated by commas; several are shown side by side
    #[arg(long, value_enum, value_delimiter = ',')]
    snap: Vec<SnapName>,

    /// The format of the film
    #[arg(long, value_enum, default_value_t = FilmFormat::Sheet)]
    format: FilmFormat,

    /// Take several times as long over an animation, for a much smaller file
    #[arg(long)]
    small: bool,
}

/// The layout of the sheet.
#[derive(Args, Clone, Debug, Default)]
pub struct SheetArgs {
    /// The number of moments, evenly spaced [default: 6 on a sheet, otherwise all]
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u32).range(1..=400))]
    pub frames: Option<u32>,

    /// Start at this time of the ride, in seconds
    #[arg(long, value_name = "SECONDS", conflicts_with = "at", allow_negative_numbers = true)]
    pub from: Option<f64>,

    /// End at this time of the ride, in seconds
    #[arg(long, value_name = "SECONDS", conflicts_with = "at", allow_negative_numbers = true)]
    pub to: Option<f64>,

    /// Draw only these moments, in seconds, separated by commas
    #[arg(
        long,
        value_name = "SECONDS",
        value_delimiter = ',',
        conflicts_with = "frames",
        allow_negative_numbers = true
    )]
    pub at: Vec<f64>,

    /// The number of frames side by side; with several takes or snaps, the number of these
    #[arg(long, value_name = "N", default_value_t = 2, value_parser = clap::value_parser!(u32).range(1..=20))]
    pub columns: u32,

    /// Draw deadzone, leash, anchor, goal and bounds over each frame
    #[arg(long)]
    pub overlay: bool,
}

/// The default number of moments on a sheet.
const ON_A_SHEET: u32 = 6;

impl SheetArgs {
    /// Returns the rows to draw out of this number of rows: `count` of them if no times are given, or all.
    fn rows(&self, rows: u64, fps: f64, count: Option<u32>) -> Result<Vec<u64>, Fault> {
        let last = rows - 1;
        let row = |name: &str, t: f64| {
            let row = (t * fps).round();
            if (0.0..=last as f64).contains(&row) {
                return Ok(row as u64);
            }
            let end = last as f64 / fps;
            Err(Fault::new(format!("--{name} {t}: expected a time of the ride, 0 to {end} s")))
        };
        if !self.at.is_empty() {
            let mut rows =
                self.at.iter().map(|t| row("at", *t)).collect::<Result<Vec<u64>, Fault>>()?;
            rows.sort_unstable();
            return Ok(rows);
        }
        let from = self.from.map_or(Ok(0), |t| row("from", t))?;
        let to = self.to.map_or(Ok(last), |t| row("to", t))?;
        if from > to {
            return Err(Fault::new("--from is after --to: expected times in order"));
        }
        Ok(match self.frames.or(count) {
            Some(count) => wanted_rows(to - from + 1, count).iter().map(|row| from + row).collect(),
            None => (from..=to).collect(),
        })
    }
}

/// Refuses a file whose ending belongs to another format.
fn check_ending(path: &FilePath) -> Result<(), Fault> {
    let ending = path.extension().map(|ending| ending.to_string_lossy().to_lowercase());
    match ending.as_deref() {
        None | Some("png" | "apng") => Ok(()),
        Some(_) => Err(Fault::of_file(path, "expected a name that ends in .png")),
    }
}

/// The form of a film.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum FilmFormat {
    /// A contact sheet
    Sheet,
    /// An animated PNG
    Apng,
    /// A numbered PNG file for each frame, in the folder given with --out
    Frames,
}

/// The treatment of fractions of a screen pixel.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum SnapName {
    /// Draw at exact positions
    Off,
    /// Draw in whole screen pixels
    Whole,
    /// Draw in whole screen pixels, and move the finished picture by the remaining fraction
    Subpixel,
}

impl SnapName {
    fn snap(self) -> Snap {
        match self {
            Self::Off => Snap::Off,
            Self::Whole => Snap::Whole,
            Self::Subpixel => Snap::Subpixel,
        }
    }
}

/// Parses a size such as 1280x720.
fn window_size(text: &str) -> Result<WindowSize, String> {
    let sides = text.split_once('x').and_then(|(width, height)| {
        Some(WindowSize { width: width.parse().ok()?, height: height.parse().ok()? })
    });
    sides
        .filter(|size| (1..=16_384).contains(&size.width) && (1..=16_384).contains(&size.height))
        .ok_or("expected WIDTHxHEIGHT, each from 1 to 16384, such as 1280x720".to_owned())
}

/// Runs the command.
pub fn run(args: &FilmArgs) -> Result<(), Fault> {
    refuse_overwriting(&[Some(&args.out)], &args.takes)?;
    if args.small && args.format != FilmFormat::Apng {
        return Err(Fault::new("--small is for animations: expected --format apng with it"));
    }
    let mut takes = Vec::new();
    for path in &args.takes {
        let take = read_take(Files::Disk, path, &args.changes.with(&[]))?;
        // The frames of a film are all as long.
        let mut take = take.in_even_steps();
        take.window = args.window.unwrap_or(take.window);
        takes.extend(with_snaps(take, &args.snap));
    }
    for take in &takes {
        if take.window != takes[0].window || take.fps != takes[0].fps {
            let what = format!(
                "{} and {} differ in window or frames a second: expected the same side by side (see --window and --fps)",
                takes[0].name, take.name
            );
            return Err(Fault::new(what));
        }
    }
    match args.format {
        FilmFormat::Sheet => {
            check_ending(&args.out)?;
            let sheet = contact_sheet(&takes, &args.sheet)?;
            write_whole(&args.out, |out| sheet.write_png(out))
        }
        FilmFormat::Frames => write_frames(&takes, &args.sheet, &args.out),
        FilmFormat::Apng => {
            check_ending(&args.out)?;
            write_animation(&takes, &args.sheet, args.small, &args.out)
        }
    }
}

/// Returns the take with each of these snaps, or unchanged.
fn with_snaps(take: Take, snaps: &[SnapName]) -> Vec<Take> {
    if snaps.is_empty() {
        return vec![take];
    }
    let with = |snap: &SnapName| {
        let mut take = take.clone();
        take.settings.screen.snap = snap.snap();
        take
    };
    snaps.iter().map(with).collect()
}

/// The largest window in pixels. With all its layers, a larger one would not fit into the memory of most machines.
const MAX_WINDOW_PIXELS: u64 = 64_000_000;
/// The largest film in pixels, over all frames.
const MAX_FILM_PIXELS: u64 = 20_000_000_000;

/// Refuses windows without area, and films that are too large.
fn check_size(window: WindowSize, frames: u64) -> Result<UVec2, Fault> {
    let size = UVec2::new(window.width, window.height);
    let one = u64::from(size.x) * u64::from(size.y);
    let pixels = one.saturating_mul(frames);
    if pixels > 0 && pixels <= MAX_FILM_PIXELS && one <= MAX_WINDOW_PIXELS {
        return Ok(size);
    }
    Err(Fault::new(format!(
        "{frames} frames of {} x {} pixels can't be drawn: expected a window that can be seen, of at most {MAX_WINDOW_PIXELS} pixels, and at most {MAX_FILM_PIXELS} in all (see --window, --frames and --seconds)",
        size.x, size.y,
    )))
}

/// Draws moments of the takes, which have the same window and frame rate, on one sheet.
pub fn contact_sheet(takes: &[Take], args: &SheetArgs) -> Result<Picture, Fault> {
    let Some(first) = takes.first() else { return Err(Fault::new("no take: expected one")) };
    let rows = takes.iter().map(Take::rows).min().unwrap_or(1);
    let wanted = args.rows(rows, first.fps, Some(ON_A_SHEET))?;
    let count = (takes.len() * wanted.len()) as u32;
    let cell = check_size(first.window, u64::from(count))?;
    let columns = if takes.len() > 1 { takes.len() as u32 } else { args.columns };
    let mut sheet = Sheet::new(&title(takes), count, columns, cell);
    let mut progress = Progress::new("filming", rows);
    for (row, frames) in (0..).zip(frames(takes, args.overlay)?) {
        progress.step();
        let times = wanted.iter().filter(|wanted| **wanted == row).count();
        if times > 0 {
            let frames: Vec<Frame> = frames.into_iter().map(Undrawn::draw).collect();
            for frame in (0..times).flat_map(|_| &frames) {
                sheet.add(&frame.picture, &frame.label, &frame.detail);
            }
        }
    }
    Ok(sheet.finish())
}

/// Draws these rows of a take on one sheet, at its own steps, with the marks. One row is named by a word.
pub fn strip(take: &Take, rows: RangeInclusive<u64>, told: (u64, &str)) -> Result<Picture, Fault> {
    let count = rows.end() - rows.start() + 1;
    let cell = check_size(take.window, count)?;
    let (from, to) = (take.time_of(*rows.start()), take.time_of(*rows.end()));
    let title = format!("{} · {from:.2} to {to:.2} s, frame by frame", take.name);
    let mut sheet = Sheet::new(&title, count as u32, 3, cell);
    let drawn = (0..).zip(frames(std::slice::from_ref(take), true)?);
    for (row, frames) in drawn.filter(|(row, _)| rows.contains(row)) {
        let word = if row == told.0 { format!(" · {}", told.1) } else { String::new() };
        for frame in frames.into_iter().map(Undrawn::draw) {
            sheet.add(&frame.picture, &(frame.label + &word), &frame.detail);
        }
    }
    Ok(sheet.finish())
}

fn title(takes: &[Take]) -> String {
    let mut names: Vec<&str> = takes.iter().map(|take| take.name.as_str()).collect();
    names.dedup();
    let seconds = takes.iter().map(|take| take.seconds).fold(f64::MAX, f64::min);
    let fps = takes.first().map_or(0.0, |take| take.fps);
    format!(
        "{} · {} s at {} frames a second",
        names.join(" and "),
        hundredths(seconds),
        hundredths(fps)
    )
}

/// Draws every moment of the takes to a numbered file.
fn write_frames(takes: &[Take], args: &SheetArgs, folder: &FilePath) -> Result<(), Fault> {
    let Some(first) = takes.first() else { return Ok(()) };
    let columns = takes.len() as u32;
    let rows = takes.iter().map(Take::rows).min().unwrap_or(1);
    let wanted = args.rows(rows, first.fps, None)?;
    let count = wanted.len() as u64;
    let cell = check_size(first.window, count.saturating_mul(u64::from(columns)))?;
    // Another film into the same folder must not mix with this one.
    let unfinished = Unfinished::beside(&place_of(folder));
    let new = unfinished.path();
    make_folder(new)?;
    let mut progress = Progress::new("filming", count);
    let drawn = (0..).zip(frames(takes, args.overlay)?);
    let drawn =
        drawn.filter(|(row, _)| wanted.binary_search(row).is_ok()).map(|(_, frames)| frames);
    for (number, frames) in (0..).zip(drawn) {
        progress.step();
        let mut picture = Picture::new(cell * UVec2::new(columns, 1), CLEAR);
        for (column, frame) in (0..).zip(frames.into_iter().map(Undrawn::draw)) {
            picture.put(&frame.picture, UVec2::new(column * cell.x, 0), cell);
        }
        let path = new.join(format!("{number:05}.png"));
        write_whole(&path, |out| picture.write_png(out))?;
    }
    make_folder(folder)?;
    for number in 0..count {
        let name = format!("{number:05}.png");
        let path = folder.join(&name);
        std::fs::rename(new.join(name), &path)
            .map_err(|error| reason_of(&path, "not written", &error))?;
    }
    remove_later(folder, count)
}

/// Removes the frames that a longer film left in the folder.
fn remove_later(folder: &FilePath, rows: u64) -> Result<(), Fault> {
    for number in rows.. {
        let path = folder.join(format!("{number:05}.png"));
        if !path.exists() {
            break;
        }
        std::fs::remove_file(&path).map_err(|error| reason_of(&path, "not removed", &error))?;
    }
    Ok(())
}

/// Draws every moment of the takes as an animation.
fn write_animation(
    takes: &[Take],
    args: &SheetArgs,
    small: bool,
    path: &FilePath,
) -> Result<(), Fault> {
    let Some(first) = takes.first() else { return Ok(()) };
    let columns = takes.len() as u32;
    let rows = takes.iter().map(Take::rows).min().unwrap_or(1);
    let wanted = args.rows(rows, first.fps, None)?;
    let count = wanted.len() as u64;
    let cell = check_size(first.window, count.saturating_mul(u64::from(columns)))?;
    let mut sheet = Sheet::new(&title(takes), columns, columns, cell);
    let animation = Animation { count: count as u32, fps: first.fps, small };
    let mut progress = Progress::new("filming", count);
    let drawn = (0..).zip(frames(takes, args.overlay)?);
    let drawn =
        drawn.filter(|(row, _)| wanted.binary_search(row).is_ok()).map(|(_, frames)| frames);
    let drawn = drawn.map(|frames| frames.into_iter().map(Undrawn::draw).collect::<Vec<Frame>>());
    ahead(drawn, |mut drawn| {
        let blank = sheet.clone().finish();
        let draw = |picture: &mut Picture| {
            progress.step();
            sheet.refill(picture, &drawn.next().unwrap_or_default());
        };
        write_whole(path, |out| write_apng(out, &animation, &blank, draw))
    })
}

/// Selects evenly spaced rows, including the first and the last.
fn wanted_rows(rows: u64, frames: u32) -> Vec<u64> {
    let (last, gaps) = (rows - 1, u64::from(frames.max(2) - 1));
    (0..u64::from(frames)).map(|frame| (frame * last + gaps / 2) / gaps).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn frames_span_the_ride() {
        assert_eq!(wanted_rows(481, 5), [0, 120, 240, 360, 480]);
        assert_eq!(wanted_rows(1, 3), [0, 0, 0]);
        assert_eq!(wanted_rows(481, 1), [0]);
    }
}
