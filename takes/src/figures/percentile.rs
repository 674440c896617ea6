//! A percentile whose memory does not grow with the length of a ride.

/// The number of values that are kept exactly: 18 minutes of samples.
const EXACT: usize = 1 << 18;

/// The bits of a value's fraction that are dropped. Values in the same bin differ by less than a thousandth.
const ROUGH: u32 = f32::MANTISSA_DIGITS - 1 - 10;

/// Collects numbers of 0 or more and returns their percentiles.
#[derive(Debug, Default)]
pub struct Percentile {
    exact: Vec<f32>,
    /// The count of each bin, once there are too many values to keep.
    bins: Vec<u64>,
    count: u64,
}

impl Percentile {
    pub fn add(&mut self, value: f32) {
        self.count += 1;
        if self.bins.is_empty() && self.exact.len() < EXACT {
            return self.exact.push(value);
        }
        if self.bins.is_empty() {
            self.bins = vec![0; bin(f32::INFINITY) + 1];
        }
        for value in self.exact.drain(..).chain([value]) {
            self.bins[bin(value)] += 1;
        }
    }

    /// Returns the smallest value that `percent` of all values do not exceed. It is exact for rides of up to 18 minutes,
    /// otherwise within a thousandth. `None` if there are no values.
    pub fn at(&mut self, percent: u64) -> Option<f64> {
        let rank = (self.count * percent / 100).min(self.count.checked_sub(1)?);
        if self.bins.is_empty() {
            let (_, value, _) = self.exact.select_nth_unstable_by(rank as usize, f32::total_cmp);
            return Some(f64::from(*value));
        }
        let mut below = 0;
        let found = self.bins.iter().position(|count| {
            below += count;
            below > rank
        });
        found.map(|bin| f64::from(value_of(bin)))
    }
}

/// Returns the bin of a value: its exponent and the first bits of its fraction.
fn bin(value: f32) -> usize {
    (value.max(0.0).to_bits() >> ROUGH) as usize
}

/// Returns the middle of a bin.
fn value_of(bin: usize) -> f32 {
    f32::from_bits(((bin as u32) << ROUGH) + (1 << (ROUGH - 1)))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Compares the percentiles of few and of many numbers with sorting.
    #[test]
    fn many_are_as_good_as_a_few() {
        for count in [1, 2, 99, 1000, EXACT, EXACT + 1, 1_000_000] {
            let value = |index: usize| ((index * 7919) % 100_003) as f32 * 0.01;
            let mut percentile = Percentile::default();
            let mut sorted: Vec<f32> = (0..count).map(value).collect();
            sorted.iter().for_each(|value| percentile.add(*value));
            sorted.sort_unstable_by(f32::total_cmp);
            let expected = f64::from(sorted[(count * 95 / 100).min(count - 1)]);
            let found = percentile.at(95).expect("not empty");
            let within = if count > EXACT { expected * 1e-3 } else { 0.0 };
            assert!((found - expected).abs() <= within, "{count}: {found}, {expected}");
        }
        assert_eq!(Percentile::default().at(95), None);
    }
}
