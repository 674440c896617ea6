//! The kinds of figures: their names and units, for tables of any kind.

use super::Figures;

/// Which values of a figure are better.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Better {
    /// Lower values are better.
    Low,
    /// Higher values are better.
    High,
}

/// One of the figures of a ride.
#[derive(Clone, Copy, Debug)]
pub struct Figure {
    /// The name of its field in [`Figures`], and its key in files.
    pub key: &'static str,
    /// Its name in tables.
    pub name: &'static str,
    /// Its unit.
    pub unit: &'static str,
    /// Which values are better.
    pub better: Better,
    value: fn(&Figures) -> Option<f64>,
    /// Why a ride may have no such figure.
    reason: &'static str,
}

impl Figure {
    /// All kinds, in the order of tables.
    pub const ALL: [Self; 21] = [
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
            key: "off_anchor",
            name: "off anchor",
            unit: "screen px",
            better: Better::Low,
            value: |figures| figures.off_anchor,
            reason: "nothing is followed",
        },
        Self {
            key: "settle",
            name: "settle",
            unit: "s",
            better: Better::Low,
            value: |figures| figures.settle,
            reason: "no stop that was long enough",
        },
        Self {
            key: "overshoot",
            name: "overshoot",
            unit: "screen px",
            better: Better::Low,
            value: |figures| figures.overshoot,
            reason: "no stop in which the camera settled",
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
            key: "warning",
            name: "warning",
            unit: "s",
            better: Better::High,
            value: |figures| figures.warning,
            reason: "nothing is followed for 3 s without a break",
        },
        Self {
            key: "hazard_warning",
            name: "warning of hazards",
            unit: "s",
            better: Better::High,
            value: |figures| figures.hazard_warning,
            reason: "no hazard is reached",
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
            key: "off_grid",
            name: "off the grid",
            unit: "of the frames",
            better: Better::Low,
            value: |figures| figures.off_grid,
            reason: "the picture never moves",
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
            key: "zooming",
            name: "zooming",
            unit: "octaves/s",
            better: Better::Low,
            value: |figures| figures.zooming,
            reason: "no frame",
        },
        Self {
            key: "rotating",
            name: "rotating",
            unit: "degrees/s",
            better: Better::Low,
            value: |figures| figures.rotating,
            reason: "no frame",
        },
        Self {
            key: "shaken",
            name: "shaken",
            unit: "of the time",
            better: Better::Low,
            value: |figures| figures.shaken,
            reason: "no frame",
        },
        Self {
            key: "shake",
            name: "shake",
            unit: "screen px",
            better: Better::Low,
            value: |figures| figures.shake,
            reason: "nothing shakes",
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

    /// Returns the value of this figure for a ride, in its [unit](Self::unit), or `None` if the ride does not have it.
    ///
    /// ```
    /// # use velvet_pan_takes::{Figure, Figures};
    /// let figures = Figures { lag_mean: Some(12.5), ..Figures::default() };
    /// assert_eq!(Figure::named("lag.mean").unwrap().of(&figures), Some(12.5));
    /// ```
    pub fn of(&self, figures: &Figures) -> Option<f64> {
        (self.value)(figures)
    }

    /// Returns the value as short text. `>` marks a camera that did not settle, `-` a missing value.
    ///
    /// ```
    /// # use velvet_pan_takes::{Figure, Figures};
    /// let figures = Figures { lag_mean: Some(12.5), ..Figures::default() };
    /// assert_eq!(Figure::named("lag.mean").unwrap().shown(&figures), "12.5");
    /// assert_eq!(Figure::named("lag.worst").unwrap().shown(&figures), "-");
    /// ```
    pub fn shown(&self, figures: &Figures) -> String {
        match self.of(figures) {
            Some(value) if self.key == "settle" && figures.unsettled > 0 => {
                format!(">{}", Self::short(value))
            }
            Some(value) => Self::short(value),
            None => "-".to_owned(),
        }
    }

    /// Returns when its worst value was, in seconds from the start. Returns `None` if the value is no single moment's, or
    /// if there is nothing bad about it.
    ///
    /// ```
    /// # use velvet_pan_takes::{Figure, Figures};
    /// let mut figures = Figures { lag_worst: Some(12.5), ..Figures::default() };
    /// figures.when.insert("lag_worst", 3.2);
    /// assert_eq!(Figure::named("lag.worst").unwrap().when(&figures), Some(3.2));
    /// ```
    pub fn when(&self, figures: &Figures) -> Option<f64> {
        let told = self.of(figures).filter(|value| self.better == Better::High || *value > 0.0);
        told.and_then(|_| figures.when.get(self.key).copied())
    }

    /// Returns why a ride may have no such figure.
    pub fn reason(&self) -> &'static str {
        self.reason
    }

    /// Returns the kind with this key. `lag_worst`, `lag-worst` and `lag.worst` are the same.
    ///
    /// ```
    /// # use velvet_pan_takes::Figure;
    /// let lag = Figure::named("lag.worst").unwrap();
    /// assert_eq!(lag.key, "lag_worst");
    /// assert_eq!(lag.unit, "screen px");
    /// assert!(Figure::named("beauty").is_none());
    /// ```
    pub fn named(name: &str) -> Option<&'static Self> {
        let name = name.trim().replace(['-', '.'], "_");
        Self::ALL.iter().find(|figure| figure.key == name)
    }

    /// Returns a number in the shortest readable form.
    ///
    /// ```
    /// # use velvet_pan_takes::Figure;
    /// assert_eq!(Figure::short(1234.5), "1234");
    /// assert_eq!(Figure::short(0.125), "0.12");
    /// ```
    pub fn short(value: f64) -> String {
        match value.abs() {
            size if size >= 100.0 => format!("{value:.0}"),
            size if size >= 10.0 => format!("{value:.1}"),
            0.0 => "0".to_owned(),
            _ => format!("{value:.2}"),
        }
    }

    /// Returns whether a value is the best (`Some(true)`) or the worst (`Some(false)`) of all. Returns `None` if it is
    /// neither, or too close to the others to matter.
    ///
    /// ```
    /// # use velvet_pan_takes::Figure;
    /// let lag = Figure::named("lag.mean").unwrap(); // lower is better
    /// assert_eq!(lag.rank(10.0, &[10.0, 20.0, 30.0]), Some(true));
    /// assert_eq!(lag.rank(20.0, &[10.0, 20.0, 30.0]), None);
    /// assert_eq!(lag.rank(30.0, &[10.0, 20.0, 30.0]), Some(false));
    /// ```
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
