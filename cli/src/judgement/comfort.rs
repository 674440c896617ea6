//! The comfortable range of each figure.

use velvet_pan_takes::{Better, Figure, Figures, Take};

/// The comfortable limit of a figure, and the meaning of a value beyond it.
pub struct Comfort {
    pub figure: &'static Figure,
    /// The limit, on a screen 320 pixels wide.
    limit: f64,
    pub cause: &'static str,
}

const LIMITS: [(&str, f64, &str); 21] = [
    ("lag_mean", 40.0, "the view is far behind its goal most of the time"),
    ("lag_p95", 75.0, "smoothing leaves the view far behind its goal"),
    ("lag_worst", 110.0, "for a moment the view is very far behind its goal"),
    ("off_anchor", 150.0, "the subject comes close to the edge of the screen"),
    ("settle", 2.2, "the view still moves long after the subject has stopped"),
    ("overshoot", 40.0, "the view moves far beyond its position of rest and back"),
    ("view_ahead", 0.4, "the view shows more behind the subject than ahead of it"),
    ("warning", 0.25, "the subject comes to a place before the player can react to it"),
    ("hazard_warning", 0.4, "a hazard comes into view too late to react to it"),
    ("judder", 1.0, "the picture moves in whole art pixels"),
    ("tremble", 1.0, "the subject is drawn moving back and forth"),
    ("off_grid", 1.0, "pixel art shimmers"),
    ("turns", 1.5, "the view follows every small movement"),
    ("peak_speed", 900.0, "the picture moves too fast to recognise anything"),
    ("peak_acceleration", 9000.0, "the view changes its speed abruptly"),
    ("zooming", 1.0, "the zoom goes in and out"),
    ("rotating", 45.0, "the picture turns to and fro"),
    ("shaken", 0.3, "the picture is hardly ever still"),
    ("shake", 8.0, "shakes hide what happens"),
    ("out_of_bounds", 0.0, "the outside of the world is shown"),
    ("lost", 0.005, "the subject is off the screen"),
];

impl Comfort {
    /// All figures, in the order of tables.
    pub fn all() -> impl Iterator<Item = Self> {
        Figure::ALL.iter().filter_map(|figure| {
            let (_, limit, cause) = LIMITS.iter().find(|(key, ..)| *key == figure.key)?;
            Some(Self { figure, limit: *limit, cause })
        })
    }

    /// Returns the comfortable limit of a figure, on a screen 320 pixels wide.
    pub fn of(figure: &Figure) -> f64 {
        LIMITS.iter().find(|(key, ..)| *key == figure.key).map_or(0.0, |(_, limit, _)| *limit)
    }

    /// Returns the comfortable limit on this take's screen.
    pub fn limit_on(&self, take: &Take) -> f64 {
        let screens = f64::from(take.settings.screen.size.x) / 320.0;
        if self.figure.unit.starts_with("screen px") { self.limit * screens } else { self.limit }
    }

    /// Returns the value if it is beyond the comfortable limit.
    pub fn broken(&self, figures: &Figures, take: &Take) -> Option<f64> {
        let value = self.figure.of(figures)?;
        is_beyond(self.figure, value, self.limit_on(take)).then_some(value)
    }
}

/// The most that a figure counts, however far it is beyond its limit.
const WORST: f64 = 4.0;

/// How uncomfortable a ride is, 0 for a comfortable one: of each figure, how far it is beyond its limit.
pub fn discomfort(figures: &Figures, take: &Take) -> f64 {
    let one = |comfort: Comfort| {
        let value = comfort.broken(figures, take)?;
        let limit = comfort.limit_on(take);
        // A limit of 0 has no scale of its own.
        let beyond = (value - limit).abs() / limit.max(0.05);
        Some(0.5 + beyond.min(WORST))
    };
    Comfort::all().filter_map(one).sum()
}

/// Returns whether a value is worse than a limit.
pub fn is_beyond(figure: &Figure, value: f64, limit: f64) -> bool {
    match figure.better {
        Better::Low => value > limit,
        Better::High => value < limit,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_figure_has_a_limit() {
        assert_eq!(Comfort::all().count(), Figure::ALL.len());
    }
}
