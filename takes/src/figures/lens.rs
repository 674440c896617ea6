//! How much the picture zooms, rotates and shakes.

use std::collections::VecDeque;

use super::Figures;
use super::sample::Sample;
use super::worst::Worst;

/// Zoom and rotation are measured over this time, in seconds: a single change is no nuisance, many in a row are.
const SPAN: f64 = 2.0;

#[derive(Debug, Default)]
pub struct LensFigures {
    last: Option<[f64; 2]>,
    /// Time, and by how much zoom and rotation changed until then, in octaves and degrees.
    changes: VecDeque<(f64, [f64; 2])>,
    sums: [f64; 2],
    worst: [Worst; 2],
    frames: u64,
    shaken: u64,
    /// The sum of the squares of the shakes, in screen pixels.
    square: f64,
    largest: Worst,
}

impl LensFigures {
    pub fn add(&mut self, sample: &Sample) {
        let lens = sample.view.steady();
        let now = [lens.lens().zoom().log2(), lens.lens().rotation().to_degrees()];
        let last = self.last.replace(now).filter(|_| !sample.cut).unwrap_or(now);
        let change = [0, 1].map(|index| (now[index] - last[index]).abs());
        self.changes.push_back((sample.t, change));
        (0..2).for_each(|index| self.sums[index] += change[index]);
        while let Some((t, old)) = self.changes.front().copied()
            && sample.t - t >= SPAN - 1e-9
        {
            (0..2).for_each(|index| self.sums[index] -= old[index]);
            self.changes.pop_front();
        }
        for (worst, sum) in self.worst.iter_mut().zip(self.sums) {
            // The sums come back to 0 but for rounding.
            worst.add(if sum > 1e-9 { sum / SPAN } else { 0.0 }, sample.t);
        }
        self.frames += 1;
        if sample.shaken {
            let by = sample.view.shake().pixels.length();
            self.shaken += 1;
            self.square += by * by;
            self.largest.add(by, sample.t);
        }
    }

    pub fn tell(self, figures: &mut Figures) {
        let [zoom, rotation] = self.worst;
        figures.zooming = zoom.tell("zooming", figures);
        figures.rotating = rotation.tell("rotating", figures);
        figures.shaken = (self.frames > 0).then(|| self.shaken as f64 / self.frames as f64);
        let rms = (self.shaken > 0).then(|| (self.square / self.shaken as f64).sqrt());
        figures.shake = self.largest.tell("shake", figures).and(rms);
    }
}
