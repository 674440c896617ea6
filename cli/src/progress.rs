//! Progress on standard error, for what takes longer than a second.

use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use indicatif::{ProgressBar, ProgressStyle};

/// Whether no progress is to be shown at all.
static QUIET: AtomicBool = AtomicBool::new(false);

/// Shows no progress from now on, or shows it again.
pub fn set_quiet(quiet: bool) {
    QUIET.store(quiet, Ordering::Relaxed);
}

/// A bar that shows itself after the first second, and only on a terminal.
#[derive(Debug)]
pub struct Progress {
    label: &'static str,
    total: u64,
    done: u64,
    started: Instant,
    bar: Option<ProgressBar>,
}

impl Progress {
    /// Nothing done yet, of `total` steps.
    pub fn new(label: &'static str, total: u64) -> Self {
        Self { label, total, done: 0, started: Instant::now(), bar: None }
    }

    /// One step more.
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

    /// Made late, so that short work leaves no trace; `indicatif` hides it off a terminal.
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
