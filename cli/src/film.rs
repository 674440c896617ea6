//! `film`: the ride as pictures.

use std::path::PathBuf;

use clap::Args;
use velvet_pan::WindowSize;
use velvet_pan::glam::UVec2;

use crate::args::TakeArgs;
use crate::art::marks;
use crate::fault::Fault;
use crate::files::Files;
use crate::output::write_whole;
use crate::picture::Picture;
use crate::progress::Progress;
use crate::ride::{Moment, Ride};
use crate::scene::Scene;
use crate::sheet::Sheet;
use crate::take::Take;

/// Draw frames of a take, evenly spaced in time, on one sheet.
#[derive(Args, Debug)]
#[command(after_help = "\
Every frame is drawn as it appears in the take's window: snapped, placed and scaled as the tuning
says. The label gives its time and the world point in the middle of the view.

Examples:
  velvet-pan film demo/terraces.toml --out film.png
  velvet-pan film demo/terraces.toml --overlay --out film.png
  velvet-pan film demo/terraces.toml --frames 12 --columns 3 --window 640x360 --out film.png")]
pub struct FilmArgs {
    #[command(flatten)]
    take: TakeArgs,

    /// The PNG file to write; it appears whole or not at all
    #[arg(long, value_name = "FILE")]
    out: PathBuf,

    #[command(flatten)]
    sheet: SheetArgs,
}

/// How the sheet is laid out.
#[derive(Args, Clone, Copy, Debug)]
pub struct SheetArgs {
    /// How many frames
    #[arg(long, value_name = "N", default_value_t = 6, value_parser = clap::value_parser!(u32).range(1..=400))]
    pub frames: u32,

    /// Frames side by side
    #[arg(long, value_name = "N", default_value_t = 2, value_parser = clap::value_parser!(u32).range(1..=20))]
    pub columns: u32,

    /// The window's size in pixels, instead of the take's
    #[arg(long, value_name = "WxH", value_parser = window_size)]
    pub window: Option<WindowSize>,

    /// Draw the camera's own picture over each frame: deadzone, leash, anchor, goal, bounds
    #[arg(long)]
    pub overlay: bool,
}

/// A size such as 1280x720.
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
    let take = args.take.read(Files::Disk)?;
    let sheet = contact_sheet(&take, &args.sheet)?;
    write_whole(&args.out, |out| sheet.write_png(out))
}

/// The largest sheet in pixels.
const MOST_PIXELS: u64 = 400_000_000;

/// Draws the frames of a take on one sheet.
pub fn contact_sheet(take: &Take, args: &SheetArgs) -> Result<Picture, Fault> {
    let window = args.window.unwrap_or(take.window);
    let pixels = u64::from(window.width) * u64::from(window.height) * u64::from(args.frames);
    if pixels == 0 || pixels > MOST_PIXELS {
        return Err(Fault::new(format!(
            "{} frames of {} x {} pixels can't be drawn: expected a window that can be seen, and at most {MOST_PIXELS} pixels in all (see --window and --frames)",
            args.frames, window.width, window.height,
        )));
    }
    let title = format!("{} · {} s at {} frames a second", take.name, take.seconds, take.fps);
    let mut sheet =
        Sheet::new(&title, args.frames, args.columns, UVec2::new(window.width, window.height));
    let scene = Scene::new(take);
    let mut progress = Progress::new("filming", take.rows());
    let wanted = wanted_rows(take.rows(), args.frames);
    for (row, moment) in (0..).zip(Ride::new(take)?) {
        progress.step();
        for _ in wanted.iter().filter(|wanted| **wanted == row) {
            let (label, detail) = labels(&moment);
            let mut frame = scene.draw(&moment, window);
            if args.overlay {
                marks::draw(&mut frame, &moment, window);
            }
            sheet.add(&frame, &label, &detail);
        }
    }
    Ok(sheet.finish())
}

/// Which rows are drawn: evenly spaced, the first and the last among them.
fn wanted_rows(rows: u64, frames: u32) -> Vec<u64> {
    let (last, gaps) = (rows - 1, u64::from(frames.max(2) - 1));
    (0..u64::from(frames)).map(|frame| (frame * last + gaps / 2) / gaps).collect()
}

fn labels(moment: &Moment) -> (String, String) {
    let centre = moment.view.centre();
    let detail = format!("centre {:.1}, {:.1}", centre.x, centre.y);
    (format!("t = {:.2} s", moment.t), detail)
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
