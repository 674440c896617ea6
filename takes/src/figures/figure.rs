//! The kinds of figures: what each is called and measured in, for tables of any sort.

use super::Figures;

/// Which end of a figure is the better one.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Better {
    /// The lower the better.
    Low,
    /// The higher the better.
    High,
}

/// One of a ride's figures.
#[derive(Clone, Copy, Debug)]
pub struct Figure {
    /// Its field of [`Figures`], and its key in files.
    pub key: &'static str,
    /// Its name in tables.
    pub name: &'static str,
    /// What it is measured in.
    pub unit: &'static str,
    /// Which end is the better one.
    pub better: Better,
    value: fn(&Figures) -> Option<f64>,
    /// Why there may be none.
    reason: &'static str,
}

impl Figure {
    /// All kinds, in the order of tables.
    pub const ALL: [Self; 13] = [
        Self {
            key: "lag_mean",
            name: "lag, mean",
            unit: "screen px",
            better: Better::Low,
            value: |figures| figures.lag_mean,
            reason: "nothing is followed",
        },
        Self {
            key: "lag_p95",
            name: "lag, 95th percentile",
            unit: "screen px",
            better: Better::Low,
            value: |figures| figures.lag_p95,
            reason: "nothing is followed",
        },
        Self {
            key: "lag_worst",
            name: "lag, worst",
            unit: "screen px",
            better: Better::Low,
            value: |figures| figures.lag_worst,
            reason: "nothing is followed",
        },
        Self {
            key: "settle",
            name: "settle",
            unit: "s",
            better: Better::Low,
            value: |figures| figures.settle,
            reason: "no stop that tells",
        },
        Self {
            key: "overshoot",
            name: "overshoot",
            unit: "screen px",
            better: Better::Low,
            value: |figures| figures.overshoot,
            reason: "no stop that settles",
        },
        Self {
            key: "view_ahead",
            name: "view ahead",
            unit: "of the screen",
            better: Better::High,
            value: |figures| figures.view_ahead,
            reason: "the subject never moves",
        },
        Self {
            key: "judder",
            name: "judder",
            unit: "window px",
            better: Better::Low,
            value: |figures| figures.judder,
            reason: "the picture never moves",
        },
        Self {
            key: "tremble",
            name: "tremble",
            unit: "window px",
            better: Better::Low,
            value: |figures| figures.tremble,
            reason: "nothing is followed",
        },
        Self {
            key: "turns",
            name: "turns",
            unit: "a second",
            better: Better::Low,
            value: |figures| figures.turns,
            reason: "nothing is followed",
        },
        Self {
            key: "peak_speed",
            name: "peak speed",
            unit: "screen px/s",
            better: Better::Low,
            value: |figures| figures.peak_speed,
            reason: "nothing is followed",
        },
        Self {
            key: "peak_acceleration",
            name: "peak acceleration",
            unit: "screen px/s²",
            better: Better::Low,
            value: |figures| figures.peak_acceleration,
            reason: "nothing is followed",
        },
        Self {
            key: "out_of_bounds",
            name: "out of bounds",
            unit: "screen px²",
            better: Better::Low,
            value: |figures| figures.out_of_bounds,
            reason: "no bounds",
        },
        Self {
            key: "lost",
            name: "lost",
            unit: "of the frames",
            better: Better::Low,
            value: |figures| figures.lost,
            reason: "nothing is followed",
        },
    ];

    /// Its value among the figures of a ride.
    pub fn of(&self, figures: &Figures) -> Option<f64> {
        (self.value)(figures)
    }

    /// Returns its value as short text. `>` marks a camera that did not settle; `-` is no value.
    pub fn shown(&self, figures: &Figures) -> String {
        match self.of(figures) {
            Some(value) if self.key == "settle" && figures.unsettled > 0 => {
                format!(">{}", Self::short(value))
            }
            Some(value) => Self::short(value),
            None => "-".to_owned(),
        }
    }

    /// Why it is not among the figures of some ride.
    pub fn reason(&self) -> &'static str {
        self.reason
    }

    /// The kind with this key, written with `_`, `-` or `.`: `lag.worst` is `lag_worst`.
    pub fn named(name: &str) -> Option<&'static Self> {
        let name = name.trim().replace(['-', '.'], "_");
        Self::ALL.iter().find(|figure| figure.key == name)
    }

    /// A number as short as it may be read.
    pub fn short(value: f64) -> String {
        match value.abs() {
            size if size >= 100.0 => format!("{value:.0}"),
            size if size >= 10.0 => format!("{value:.1}"),
            0.0 => "0".to_owned(),
            _ => format!("{value:.2}"),
        }
    }

    /// Whether a value is the best of all (`Some(true)`), the worst of all (`Some(false)`), or neither, or too
    /// near the others to matter.
    pub fn rank(&self, value: f64, all: &[f64]) -> Option<bool> {
        let (low, high) = all
            .iter()
            .fold((f64::MAX, f64::MIN), |(low, high), one| (low.min(*one), high.max(*one)));
        if all.len() < 2 || high - low <= 0.02 * high.abs() {
            return None;
        }
        let (best, worst) = if self.better == Better::Low { (low, high) } else { (high, low) };
        (value == best || value == worst).then_some(value == best)
    }
}
