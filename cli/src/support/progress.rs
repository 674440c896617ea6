//! Progress on standard error, for work that takes longer than a second.

use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use indicatif::{ProgressBar, ProgressStyle};

/// Whether progress is turned off.
static QUIET: AtomicBool = AtomicBool::new(false);

/// Turns progress off or on.
pub fn set_quiet(quiet: bool) {
    QUIET.store(quiet, Ordering::Relaxed);
}

/// A progress bar that appears after a second, and only on a terminal.
#[derive(Debug)]
pub struct Progress {
    label: &'static str,
    total: u64,
    done: u64,
    started: Instant,
    bar: Option<ProgressBar>,
}

impl Progress {
    /// Starts with nothing done, of `total` steps.
    pub fn new(label: &'static str, total: u64) -> Self {
        Self { label, total, done: 0, started: Instant::now(), bar: None }
    }

    /// Adds one step.
    pub fn step(&mut self) {
        self.done += 1;
        if let Some(bar) = &self.bar {
            bar.set_position(self.done);
        } else if !QUIET.load(Ordering::Relaxed)
            && self.done.is_multiple_of(16)
            && self.started.elapsed() > Duration::from_secs(1)
        {
            self.bar = Some(self.show());
        }
    }

    /// Created late, so that short work shows nothing. `indicatif` hides it if there is no terminal.
    fn show(&self) -> ProgressBar {
        let bar = ProgressBar::new(self.total)
            .with_prefix(self.label)
            .with_elapsed(self.started.elapsed());
        if let Ok(style) =
            ProgressStyle::with_template("{prefix} {bar:32} {pos}/{len} · {eta} left")
        {
            bar.set_style(style);
        }
        bar.set_position(self.done);
        bar
    }
}

impl Drop for Progress {
    fn drop(&mut self) {
        if let Some(bar) = &self.bar {
            bar.finish_and_clear();
        }
    }
}
