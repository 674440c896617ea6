//! Figures of a whole ride, computed on another thread.

use std::sync::mpsc::{Receiver, channel};
use std::thread;
use std::time::{Duration, Instant};

use velvet_pan_takes::{Figures, Take};

/// The shortest time between two measurements of a take that grows.
const PAUSE: Duration = Duration::from_millis(700);

/// The figures of a take, and what they belong to.
#[derive(Debug, Default)]
pub struct Measure {
    figures: Option<Figures>,
    /// The revision of the take that the figures belong to.
    of: Option<u64>,
    running: Option<(u64, Receiver<Option<Figures>>)>,
    began: Option<Instant>,
}

impl Measure {
    /// Returns the latest figures.
    pub fn figures(&self) -> Option<&Figures> {
        self.figures.as_ref()
    }

    /// Returns whether the figures belong to this revision of the take.
    pub fn is_of(&self, change: u64) -> bool {
        self.of == Some(change)
    }

    /// Measures the take after each change. Call it in each frame.
    pub fn update(&mut self, change: u64, take: impl FnOnce() -> Take) {
        if let Some((of, answer)) = &self.running {
            match answer.try_recv() {
                Ok(figures) => (self.figures, self.of) = (figures, Some(*of)),
                Err(std::sync::mpsc::TryRecvError::Empty) => return,
                Err(_) => self.of = Some(*of),
            }
            self.running = None;
        }
        if self.is_of(change) || self.began.is_some_and(|began| began.elapsed() < PAUSE) {
            return;
        }
        let (sender, answer) = channel();
        let take = take();
        // Nobody may be waiting any longer.
        thread::spawn(move || drop(sender.send(Figures::of_take(&take).ok())));
        (self.running, self.began) = (Some((change, answer)), Some(Instant::now()));
    }
}
