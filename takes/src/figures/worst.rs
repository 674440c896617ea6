//! The worst value of a figure, and when it was.

use super::Figures;

/// A value, and its time in seconds.
#[derive(Clone, Copy, Debug, Default)]
pub struct Worst(Option<(f64, f64)>);

impl Worst {
    /// Keeps the greatest value.
    pub fn add(&mut self, value: f64, t: f64) {
        if self.0.is_none_or(|(worst, _)| value > worst) {
            self.0 = Some((value, t));
        }
    }

    /// Keeps the smallest value.
    pub fn add_small(&mut self, value: f64, t: f64) {
        if self.0.is_none_or(|(worst, _)| value < worst) {
            self.0 = Some((value, t));
        }
    }

    /// Returns the value, and notes its time under the key of a figure.
    pub fn tell(self, key: &'static str, figures: &mut Figures) -> Option<f64> {
        let (value, t) = self.0?;
        figures.when.insert(key, t);
        Some(value)
    }
}
