//! Where the view and the subject are: lag, anchor, view ahead, what is lost or outside.

use std::collections::BTreeMap;

use velvet_pan::Decider;
use velvet_pan::glam::DVec2;

use super::Figures;
use super::percentile::Percentile;
use super::sample::Sample;
use super::worst::Worst;

#[derive(Debug, Default)]
pub struct SubjectFigures {
    /// In screen pixels.
    lags: Percentile,
    lag: Mean,
    lag_worst: Worst,
    off_anchor: Worst,
    ahead: Mean,
    lost: Mean,
    first_lost: Worst,
    outside: Worst,
    led: Mean,
    /// How often a stage decided, over both axes.
    deciders: BTreeMap<&'static str, u64>,
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

/// Returns the length of what counts of a way, or `None` if neither axis counts.
fn counted(way: DVec2, counts: [bool; 2]) -> Option<f64> {
    let axis = |axis: usize| if counts[axis] { way[axis] } else { 0.0 };
    counts.contains(&true).then(|| DVec2::new(axis(0), axis(1)).length())
}

impl SubjectFigures {
    pub fn add(&mut self, sample: &Sample) {
        for by in sample.deciders {
            *self.deciders.entry(by.name()).or_default() += 1;
        }
        if sample.subject.is_some() && !sample.led {
            self.follow(sample);
        }
        if let Some(area) = sample.outside {
            self.outside.add(area, sample.t);
        }
        self.led.add(f64::from(u8::from(sample.led)));
        self.cuts += u32::from(sample.cut);
        self.teleports += u32::from(sample.teleport);
    }

    /// Adds what counts only while a subject is followed.
    fn follow(&mut self, sample: &Sample) {
        let smooths = |by| matches!(by, Decider::Motion | Decider::Party | Decider::Rail);
        if let Some(lag) = counted(sample.behind, sample.deciders.map(smooths)) {
            self.lags.add(lag as f32);
            self.lag.add(lag);
            self.lag_worst.add(lag, sample.t);
        }
        let follows = sample.deciders.map(|by| by == Decider::Motion);
        // In a rotated view the axes of the world are not those of the screen.
        let turned = sample.view.lens().is_rotated();
        let follows = if turned { [follows == [true; 2]; 2] } else { follows };
        if let Some(off) = sample.off_anchor.and_then(|off| counted(off, follows)) {
            self.off_anchor.add(off, sample.t);
        }
        self.look_ahead(sample);
        if let Some(at) = sample.on_screen {
            let off = at.cmplt(DVec2::ZERO).any() || at.cmpge(sample.size).any();
            self.lost.add(f64::from(u8::from(off)));
            self.first_lost.add(f64::from(u8::from(off)), sample.t);
        }
    }

    /// At the world's edge, in a room, with a party or under a scroll the view has no choice.
    fn look_ahead(&mut self, sample: &Sample) {
        let (Some(subject), Some(step)) = (sample.subject, sample.step) else { return };
        let axis = usize::from(step.y.abs() > step.x.abs());
        let chooses = matches!(
            sample.deciders[axis],
            Decider::Motion | Decider::Leash | Decider::Rail | Decider::Barrier
        );
        if let Some(ahead) = sample.view.ahead_of(subject, step / sample.dt).filter(|_| chooses) {
            self.ahead.add(ahead);
        }
    }

    pub fn tell(mut self, figures: &mut Figures) {
        figures.lag_p95 = self.lags.at(95);
        figures.lag_mean = self.lag.value();
        figures.lag_worst = self.lag_worst.tell("lag_worst", figures);
        figures.off_anchor = self.off_anchor.tell("off_anchor", figures);
        figures.view_ahead = self.ahead.value();
        figures.lost = self.lost.value();
        if figures.lost > Some(0.0) {
            self.first_lost.tell("lost", figures);
        }
        figures.out_of_bounds = self.outside.tell("out_of_bounds", figures);
        figures.led = self.led.value().unwrap_or(0.0);
        (figures.cuts, figures.teleports) = (self.cuts, self.teleports);
        let all = self.deciders.values().sum::<u64>().max(1) as f64;
        let share = |(by, count): (&'static str, u64)| (by, count as f64 / all);
        figures.deciders = self.deciders.into_iter().map(share).collect();
    }
}
