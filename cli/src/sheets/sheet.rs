//! A contact sheet: frames side by side, each with its label.

use velvet_pan::glam::UVec2;
use velvet_pan_terraces::art::palette::{CREAM, HONEY, MIST, NIGHT, PLUM};
use velvet_pan_terraces::art::text;
use velvet_pan_terraces::picture::Picture;

use crate::sheets::reel::Frame;

/// A sheet of equal frames that is filled from left to right and from top to bottom.
#[derive(Clone, Debug)]
pub struct Sheet {
    picture: Picture,
    cell: UVec2,
    columns: u32,
    rows: u32,
    filled: u32,
    measure: Measure,
}

/// Lengths in pixels that depend on the size of a frame.
#[derive(Clone, Copy, Debug)]
struct Measure {
    margin: u32,
    title: u32,
    label: u32,
}

impl Sheet {
    /// Creates an empty sheet with a title, for this number of frames of this size.
    pub fn new(title: &str, frames: u32, columns: u32, cell: UVec2) -> Self {
        let columns = columns.clamp(1, frames.max(1));
        let rows = frames.div_ceil(columns).max(1);
        let unit = (cell.x / 40).clamp(14, 30);
        let measure = Measure { margin: unit, title: unit * 2, label: unit + unit / 3 };
        let across = columns * (cell.x + measure.margin) + measure.margin;
        let down =
            measure.title + rows * (cell.y + measure.label + measure.margin) + measure.margin;
        let mut picture = Picture::new(UVec2::new(across, down), NIGHT);
        let corner = (i64::from(measure.margin), i64::from(measure.margin) * 2 / 3);
        text::write(&mut picture, title, corner, measure.margin as f32 * 1.25, CREAM);
        Self { picture, cell, columns, rows, filled: 0, measure }
    }

    /// Adds the next frame, with its description on the left and a number on the right.
    pub fn add(&mut self, frame: &Picture, label: &str, detail: &str) {
        if self.filled >= self.columns * self.rows {
            return;
        }
        let (column, row) = (self.filled % self.columns, self.filled / self.columns);
        self.filled += 1;
        let Measure { margin, title, label: line } = self.measure;
        let x = i64::from(margin + column * (self.cell.x + margin));
        let y = i64::from(margin + title + row * (self.cell.y + line + margin));
        let (width, height) = (i64::from(self.cell.x), i64::from(self.cell.y));
        if frame.size().cmplt(self.cell).any() {
            self.picture.fill((x, y), (width, height), PLUM);
        }
        for (top, high) in [(y - 1, 1), (y + height, i64::from(line) + 1)] {
            self.picture.fill((x - 1, top), (width + 2, high), PLUM);
        }
        for left in [x - 1, x + width] {
            self.picture.fill((left, y), (1, height), PLUM);
        }
        self.picture.put(frame, UVec2::new(x as u32, y as u32), self.cell);

        let size = line as f32 * 0.78;
        let below = y + height + i64::from(line) / 10;
        let inset = i64::from(margin) / 2;
        text::write(&mut self.picture, label, (x + inset, below), size, HONEY);
        let right = x + width - inset - text::width(detail, size).ceil() as i64;
        text::write(&mut self.picture, detail, (right, below), size, MIST);
    }

    /// Fills an earlier picture of the sheet anew with these frames.
    pub fn refill(&mut self, picture: &mut Picture, frames: &[Frame]) {
        std::mem::swap(&mut self.picture, picture);
        self.filled = 0;
        for frame in frames {
            self.add(&frame.picture, &frame.label, &frame.detail);
        }
        std::mem::swap(&mut self.picture, picture);
    }

    /// Returns the finished sheet.
    pub fn finish(self) -> Picture {
        self.picture
    }
}
