//! How evenly the picture and the subject on it are drawn.

use std::collections::VecDeque;

use velvet_pan::View;
use velvet_pan::glam::DVec2;

use super::Figures;
use super::sample::Sample;
use super::worst::Worst;
use crate::ride::drawn::{drawn_origin, drawn_subject, true_origin};

/// A picture moves if it truly moves by at least this distance in a frame, in window pixels.
const MOVES: f64 = 0.01;
/// A step that is reversed within this time, in seconds, is a tremble.
const QUICK: f64 = 0.1;

#[derive(Debug, Default)]
pub struct Picture {
    last: Option<(Sample, DVec2)>,
    strays: [Spread; 2],
    /// The frames in which the picture moves, and those of them in which art is drawn between the pixels of the canvas.
    moving: u64,
    between: u64,
    tremble: Option<Tremble>,
}

/// The spread of values about their mean.
#[derive(Clone, Copy, Debug, Default)]
struct Spread {
    count: f64,
    mean: f64,
    square: f64,
}

impl Spread {
    fn add(&mut self, value: f64) {
        self.count += 1.0;
        let away = value - self.mean;
        self.mean += away / self.count;
        self.square += away * (value - self.mean);
    }
}

impl Picture {
    pub fn add(&mut self, sample: &Sample) {
        let truly = true_origin(&sample.view);
        if let Some((last, before)) = self.last {
            let alike = last.view.placement().scale == sample.view.placement().scale
                && last.scale == sample.scale
                && last.view.lens().rotation() == sample.view.lens().rotation();
            if alike && !sample.cut && !sample.shaken && !last.shaken {
                self.stray(drawn_origin(&sample.view) - truly, truly - before);
                self.fit(&sample.view, truly - before);
            }
        }
        match (sample.subject, sample.on_screen) {
            (Some(subject), Some(on_screen)) if !sample.cut && !sample.teleport => {
                let drawn = drawn_subject(&sample.view, subject);
                let truly = on_screen * sample.view.placement().scale;
                self.tremble.get_or_insert_default().add(sample.t, drawn, truly);
            }
            _ => {
                if let Some(tremble) = &mut self.tremble {
                    tremble.recent.clear();
                }
            }
        }
        self.last = Some((*sample, truly));
    }

    fn stray(&mut self, by: DVec2, moved: DVec2) {
        for axis in 0..2 {
            if moved[axis].abs() > MOVES {
                self.strays[axis].add(by[axis]);
            }
        }
    }

    fn fit(&mut self, view: &View, moved: DVec2) {
        if moved.abs().max_element() > MOVES {
            let corner = view.canvas_corner();
            self.moving += 1;
            self.between += u64::from((corner - corner.round()).abs().max_element() > 1e-6);
        }
    }

    pub fn tell(self, figures: &mut Figures) {
        let [x, y] = self.strays;
        let count = x.count + y.count;
        figures.judder = (count > 0.0).then(|| ((x.square + y.square) / count).sqrt());
        figures.tremble = self.tremble.and_then(|tremble| tremble.worst.tell("tremble", figures));
        figures.off_grid = (self.moving > 0).then(|| self.between as f64 / self.moving as f64);
    }
}

/// Finds steps that are reversed.
#[derive(Debug, Default)]
struct Tremble {
    /// Time, drawn position and true position.
    recent: VecDeque<(f64, DVec2, DVec2)>,
    worst: Worst,
}

impl Tremble {
    fn add(&mut self, t: f64, drawn: DVec2, truly: DVec2) {
        self.recent.push_back((t, drawn, truly));
        while self.recent.front().is_some_and(|(first, ..)| t - first > QUICK) {
            self.recent.pop_front();
        }
        for axis in 0..2 {
            self.worst.add(self.there_and_back(axis), t);
        }
    }

    /// Returns the shorter one of a step and the step back from it, if the last movement was the step back and the
    /// subject truly moved in one direction.
    fn there_and_back(&self, axis: usize) -> f64 {
        let (mut forth, mut back) = (false, false);
        let [mut low, mut high] = [f64::MAX, f64::MIN];
        // The true position at the highest and at the lowest drawn one.
        let (mut rise, mut fall) = (0.0, 0.0);
        let mut last = None;
        for (_, drawn, truly) in &self.recent {
            let (drawn, truly) = (drawn[axis], truly[axis]);
            if let Some(before) = last.replace(truly) {
                forth |= truly > before + 1e-9;
                back |= truly < before - 1e-9;
            }
            if drawn > high {
                (high, rise) = (drawn, drawn - low.min(drawn));
            }
            if drawn < low {
                (low, fall) = (drawn, high.max(drawn) - drawn);
            }
        }
        let Some((_, now, _)) = self.recent.back().filter(|_| !(forth && back)) else { return 0.0 };
        let (now, up, down) = (now[axis], high, low);
        f64::max(rise.min(up - now), fall.min(now - down))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_steps_that_come_back_tremble() {
        let worst = |drawn: &[f64], step: f64| {
            let mut tremble = Tremble::default();
            for (index, drawn) in (0..).zip(drawn) {
                let truly = f64::from(index) * step;
                tremble.add(f64::from(index) / 60.0, DVec2::splat(*drawn), DVec2::splat(truly));
            }
            tremble.worst.tell("tremble", &mut Figures::default()).unwrap_or(0.0)
        };
        assert_eq!(worst(&[0.0, 1.0, 2.0, 3.0], 1.0), 0.0);
        assert_eq!(worst(&[0.0, 4.0, 0.0, 4.0], 0.3), 4.0);
        assert_eq!(worst(&[5.0, 2.0, 3.0, 2.0], 0.0), 1.0);
        // Slower than a tenth of a second is a drift.
        assert_eq!(worst(&[0.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 0.0], 0.0), 0.0);
    }
}
