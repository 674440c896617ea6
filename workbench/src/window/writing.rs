//! Writes pictures and rides to files.

use std::path::{Path, PathBuf};

use velvet_pan::glam::UVec2;
use velvet_pan_takes::{Fault, Ride, Take, reason, write_rows, write_whole};
use velvet_pan_terraces::art::palette::NIGHT;
use velvet_pan_terraces::picture::Picture;
use velvet_pan_terraces::scene::figures;
use velvet_pan_terraces::scenery::Scenery;

use super::Workbench;
use crate::model::{B, Bench, ComparedCamera};

impl Workbench {
    /// Writes the visible pictures, side by side, to a new PNG file.
    pub(super) fn write_picture(&mut self) {
        let sides = self.show.sides().into_iter();
        let pictures: Vec<Picture> =
            sides.map(|side| picture(&self.bench, &self.bench.sides()[side])).collect();
        let path = new_name(&self.folder, &self.bench.take().name, ".png");
        let written = write_png(&beside(&pictures), &path);
        self.tell(written, &path);
    }

    /// Writes the take with its tuning, and the ride of B as a table, to a new folder.
    pub(super) fn write_ride(&mut self) {
        let take = Take {
            settings: self.bench.sides()[B].settings().clone(),
            ..self.bench.take().clone()
        };
        let path = new_name(&self.folder, &format!("{}-ride", take.name), "");
        let written = take.save(&path).and_then(|()| write_table(&take, &path.join("ride.csv")));
        self.tell(written, &path);
    }

    fn tell(&mut self, written: Result<(), Fault>, path: &Path) {
        match written {
            Ok(()) => self.news = Some(format!("written: {}", path.display())),
            Err(fault) => self.bench.fault = Some(fault),
        }
    }
}

/// Returns a name that does not exist in this folder yet.
fn new_name(folder: &Path, name: &str, ending: &str) -> PathBuf {
    let path = |number: u32| folder.join(format!("{name}-{number}{ending}"));
    (1..).map(path).find(|path| !path.exists()).unwrap_or_else(|| path(0))
}

/// Returns the picture of a camera, drawn as in the command's films.
fn picture(bench: &Bench, side: &ComparedCamera) -> Picture {
    let (view, camera, take) = (side.view(), side.camera(), bench.take());
    let window = view.window_size();
    let mut picture = Picture::new(UVec2::new(window.width, window.height), NIGHT);
    let scenery = Scenery::new(bench.art(), camera.settings(), camera.layers(), take.map.clone());
    scenery.paint(view, &figures(take, bench.time(), side.subject()), &mut picture);
    picture
}

/// Joins pictures from left to right, without a gap.
fn beside(pictures: &[Picture]) -> Picture {
    let width = pictures.iter().map(|picture| picture.size().x).sum();
    let height = pictures.iter().map(|picture| picture.size().y).max().unwrap_or(0);
    let mut all = Picture::new(UVec2::new(width, height), NIGHT);
    let mut left = 0;
    for picture in pictures {
        all.lay(picture, (left, 0), false);
        left += i64::from(picture.size().x);
    }
    all
}

fn write_png(picture: &Picture, path: &Path) -> Result<(), Fault> {
    write_whole(path, |error| not_written(path, &error), |out| picture.write_png(out))
}

/// Returns the ride's table, as `trace` prints it.
fn write_table(take: &Take, path: &Path) -> Result<(), Fault> {
    let rows = Ride::new(take)?.map(|moment| moment.row(take));
    let failed = |error| not_written(path, &error);
    write_whole(path, failed, |out| write_rows(rows, true, out).map_err(failed))
}

fn not_written(path: &Path, error: &std::io::Error) -> Fault {
    Fault::of_file(path, format!("not written: {}", reason(error)))
}
