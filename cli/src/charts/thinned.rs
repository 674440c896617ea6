//! Curves and paths that need the same memory for any length of ride.

/// The maximum number of stretches or items: many more than a chart has columns of pixels.
pub const MAX_ITEMS: usize = 1 << 14;

/// A curve over time. For a long curve, the smallest and the largest value of each stretch are kept, so that no peak
/// is lost.
#[derive(Debug)]
pub struct Curve {
    stretches: Vec<Stretch>,
    /// The number of points in a stretch; the last one may have fewer.
    every: usize,
    in_last: usize,
}

/// A time and its value.
type Point = (f64, f64);

/// The lowest and the highest point of a part of a curve.
#[derive(Clone, Copy, Debug)]
struct Stretch {
    low: Point,
    high: Point,
}

impl Stretch {
    fn joined(self, other: Self) -> Self {
        Self {
            low: if other.low.1 < self.low.1 { other.low } else { self.low },
            high: if other.high.1 > self.high.1 { other.high } else { self.high },
        }
    }
}

impl Default for Curve {
    fn default() -> Self {
        Self { stretches: Vec::new(), every: 1, in_last: 1 }
    }
}

impl Curve {
    /// Adds a value at a time.
    pub fn add(&mut self, t: f64, value: f64) {
        let one = Stretch { low: (t, value), high: (t, value) };
        if let Some(last) = self.stretches.last_mut().filter(|_| self.in_last < self.every) {
            *last = last.joined(one);
            self.in_last += 1;
            return;
        }
        if self.stretches.len() == MAX_ITEMS {
            let joined = |pair: &[Stretch]| pair.iter().copied().reduce(Stretch::joined);
            self.stretches = self.stretches.chunks(2).filter_map(joined).collect();
            self.every *= 2;
        }
        self.stretches.push(one);
        self.in_last = 1;
    }

    /// Returns times and values, in order of time.
    pub fn points(&self) -> Vec<Point> {
        let ends = |stretch: &Stretch| {
            let Stretch { low, high } = *stretch;
            let (first, last) = if low.0 <= high.0 { (low, high) } else { (high, low) };
            [Some(first), Some(last).filter(|last| *last != first)]
        };
        self.stretches.iter().flat_map(ends).flatten().collect()
    }
}

/// Items along a path, at most a fixed number. Of more items, every second one is kept, then every fourth, and so on.
#[derive(Debug)]
pub struct Thinned<T, const AT_MOST: usize> {
    kept: Vec<T>,
    every: usize,
    seen: usize,
}

impl<T, const AT_MOST: usize> Default for Thinned<T, AT_MOST> {
    fn default() -> Self {
        Self { kept: Vec::new(), every: 1, seen: 0 }
    }
}

impl<T, const AT_MOST: usize> Thinned<T, AT_MOST> {
    /// Adds the next item.
    pub fn add(&mut self, one: T) {
        if self.kept.len() == AT_MOST && self.seen.is_multiple_of(self.every) {
            let mut index = 0;
            self.kept.retain(|_| {
                index += 1;
                index % 2 == 1
            });
            self.every *= 2;
        }
        if self.seen.is_multiple_of(self.every) {
            self.kept.push(one);
        }
        self.seen += 1;
    }

    /// Returns the number of items of which one is kept.
    pub fn every(&self) -> usize {
        self.every
    }

    /// Returns the items that are kept, in order.
    pub fn kept(&self) -> &[T] {
        &self.kept
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_long_curve_keeps_its_peaks() {
        let mut curve = Curve::default();
        for index in 0..1_000_000 {
            let value = if index == 123_457 { 80.0 } else { f64::from(index % 7) };
            curve.add(f64::from(index), value);
        }
        let points = curve.points();
        assert!(points.len() <= 2 * MAX_ITEMS && points.is_sorted_by(|a, b| a.0 < b.0));
        assert!(points.contains(&(123_457.0, 80.0)));
        assert_eq!(points.iter().map(|point| point.1).fold(9.0, f64::min), 0.0);
        assert!(points.windows(2).all(|pair| pair[1].0 - pair[0].0 < 300.0));
    }

    #[test]
    fn a_short_curve_is_kept_whole() {
        let mut curve = Curve::default();
        (0..1000).for_each(|index| curve.add(f64::from(index), f64::from(index % 13)));
        let points = curve.points();
        assert!(points.iter().map(|point| point.0).eq((0..1000).map(f64::from)));
    }

    #[test]
    fn things_are_thinned_evenly() {
        let mut things = Thinned::<i32, MAX_ITEMS>::default();
        (0..1_000_000).for_each(|index| things.add(index));
        let gaps: Vec<i32> = things.kept().windows(2).map(|pair| pair[1] - pair[0]).collect();
        assert!(gaps.iter().all(|gap| *gap == gaps[0]) && things.kept()[0] == 0);
        assert!((MAX_ITEMS / 2..=MAX_ITEMS).contains(&things.kept().len()));
    }
}
