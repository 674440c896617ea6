//! The subject's position on the screen, and the area that is shown.

use super::Figures;
use super::percentile::Percentile;
use super::sight::Sight;

#[derive(Debug, Default)]
pub struct Place {
    /// In screen pixels.
    lags: Percentile,
    lag: Mean,
    lag_worst: f64,
    ahead: Mean,
    lost: Mean,
    outside: Option<f64>,
    led: Mean,
    cuts: u32,
    teleports: u32,
}

#[derive(Debug, Default)]
struct Mean {
    sum: f64,
    count: u64,
}

impl Mean {
    fn add(&mut self, value: f64) {
        self.sum += value;
        self.count += 1;
    }

    fn value(&self) -> Option<f64> {
        (self.count > 0).then(|| self.sum / self.count as f64)
    }
}

impl Place {
    pub fn add(&mut self, sight: &Sight) {
        if let Some(lag) = sight.lag.filter(|_| !sight.led) {
            self.lags.add(lag as f32);
            self.lag.add(lag);
            self.lag_worst = self.lag_worst.max(lag);
        }
        if let (Some(subject), Some(step), false) = (sight.subject, sight.step, sight.led)
            && let Some(ahead) = sight.view.ahead_of(subject, step / sight.dt)
        {
            self.ahead.add(ahead);
        }
        if let Some(at) = sight.on_screen.filter(|_| !sight.led) {
            let off = at.cmplt(Default::default()).any() || at.cmpge(sight.size).any();
            self.lost.add(f64::from(u8::from(off)));
        }
        self.outside = match (self.outside, sight.outside) {
            (Some(worst), Some(area)) => Some(worst.max(area)),
            (worst, area) => worst.or(area),
        };
        self.led.add(f64::from(u8::from(sight.led)));
        self.cuts += u32::from(sight.cut);
        self.teleports += u32::from(sight.teleport);
    }

    pub fn tell(mut self, figures: &mut Figures) {
        figures.lag_p95 = self.lags.at(95);
        figures.lag_mean = self.lag.value();
        figures.lag_worst = figures.lag_mean.map(|_| self.lag_worst);
        figures.view_ahead = self.ahead.value();
        figures.lost = self.lost.value();
        figures.out_of_bounds = self.outside;
        figures.led = self.led.value().unwrap_or(0.0);
        (figures.cuts, figures.teleports) = (self.cuts, self.teleports);
    }
}
