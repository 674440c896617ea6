//! Figures of a whole ride, found on a thread of their own.

use std::sync::mpsc::{Receiver, channel};
use std::thread;
use std::time::{Duration, Instant};

use velvet_pan_takes::{Figures, Take};

/// A take that grows is not measured more often than this.
const PAUSE: Duration = Duration::from_millis(700);

/// The figures of a take, and what they were found of.
#[derive(Debug, Default)]
pub struct Measure {
    figures: Option<Figures>,
    /// The change of the take that they are the figures of.
    of: Option<u64>,
    running: Option<(u64, Receiver<Option<Figures>>)>,
    began: Option<Instant>,
}

impl Measure {
    /// The figures found last.
    pub fn figures(&self) -> Option<&Figures> {
        self.figures.as_ref()
    }

    /// Whether the figures are those of the take as it was after this change.
    pub fn is_of(&self, change: u64) -> bool {
        self.of == Some(change)
    }

    /// Sees to it that the take is measured after each change; call it each frame.
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
