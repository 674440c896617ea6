//! What is comfortable.

use velvet_pan_takes::{Better, Figure, Figures, Take};

/// What is comfortable of a figure, and what it means if it is not.
pub struct Comfort {
    pub figure: &'static Figure,
    /// On a screen 320 pixels wide.
    limit: f64,
    pub cause: &'static str,
}

const LIMITS: [(&str, f64, &str); 13] = [
    ("lag_mean", 64.0, "the view is far from where it wants to be most of the time"),
    ("lag_p95", 110.0, "smoothing or the deadzone lets the subject drift far"),
    ("lag_worst", 140.0, "the subject comes near the edge of the screen"),
    ("settle", 1.5, "the view still moves long after the subject has stopped"),
    ("overshoot", 24.0, "the view runs past its place of rest and comes back"),
    ("view_ahead", 0.48, "more is shown of what is behind than of what is ahead"),
    ("judder", 1.0, "the picture moves in whole art pixels"),
    ("tremble", 1.0, "the subject is drawn to and fro"),
    ("turns", 1.5, "the view repeats every twitch"),
    ("peak_speed", 900.0, "the picture is too fast to be read"),
    ("peak_acceleration", 9000.0, "the view is jerked"),
    ("out_of_bounds", 0.0, "what lies outside the world is shown"),
    ("lost", 0.0, "the subject is off the screen"),
];

impl Comfort {
    /// All figures, in the order of tables.
    pub fn all() -> impl Iterator<Item = Self> {
        Figure::ALL.iter().filter_map(|figure| {
            let (_, limit, cause) = LIMITS.iter().find(|(key, ..)| *key == figure.key)?;
            Some(Self { figure, limit: *limit, cause })
        })
    }

    /// What is comfortable of a figure, on a screen 320 pixels wide.
    pub fn of(figure: &Figure) -> f64 {
        LIMITS.iter().find(|(key, ..)| *key == figure.key).map_or(0.0, |(_, limit, _)| *limit)
    }

    /// What is comfortable on this take's screen.
    pub fn limit_on(&self, take: &Take) -> f64 {
        let screens = f64::from(take.settings.screen.size.x) / 320.0;
        if self.figure.unit.starts_with("screen px") { self.limit * screens } else { self.limit }
    }

    /// The value, where it is beyond what is comfortable.
    pub fn broken(&self, figures: &Figures, take: &Take) -> Option<f64> {
        let value = self.figure.of(figures)?;
        is_beyond(self.figure, value, self.limit_on(take)).then_some(value)
    }
}

/// Whether a value is worse than a limit.
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
