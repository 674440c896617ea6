//! Finds the regions that a short movement may touch.

use alloc::boxed::Box;
use alloc::vec::Vec;

use glam::{DVec2, UVec2};

use crate::base::rect::Rect;

/// A coarse grid over regions of the world, so that distant regions are not checked. It is built when the regions
/// change. For a few regions there is no grid, and all are checked.
#[derive(Clone, Debug, Default)]
pub(crate) struct Nearby(Option<Box<Cells>>);

/// Up to this number of regions, no grid is built.
const MAX_UNINDEXED: usize = 32;

/// The maximum number of entries in the grid for each region. If many regions are large, the cells become larger.
const MAX_ENTRIES: usize = 16;

impl Nearby {
    /// Builds the grid.
    pub fn of(regions: impl ExactSizeIterator<Item = Rect> + Clone) -> Self {
        Self((regions.len() > MAX_UNINDEXED).then(|| Cells::of(regions)).flatten().map(Box::new))
    }

    /// Returns every item whose region the segment may touch, in order. May include some that it does not touch.
    #[inline]
    pub fn about<'a, T>(
        &'a self,
        items: &'a [T],
        from: DVec2,
        to: DVec2,
    ) -> impl DoubleEndedIterator<Item = &'a T> + Clone {
        let listed = self.0.as_ref().and_then(|cells| cells.about(from, to));
        let all = if listed.is_some() { &[] } else { items };
        let listed = listed.unwrap_or(&[]).iter();
        listed.filter_map(|number| items.get(*number as usize)).chain(all)
    }
}

/// The cells. Each lists the regions that reach into it, or come closer to it than half a cell.
#[derive(Clone, Debug)]
struct Cells {
    /// The rectangle around all regions.
    area: Rect,
    /// The size of a cell in world units, and the number of cells per world unit.
    side: DVec2,
    per_side: DVec2,
    count: UVec2,
    /// The start of each cell's numbers, and the end of the last one's.
    starts: Vec<u32>,
    numbers: Vec<u32>,
}

impl Cells {
    fn of(regions: impl ExactSizeIterator<Item = Rect> + Clone) -> Option<Self> {
        let area = regions.clone().reduce(|all, region| all.joined(&region))?;
        let mut count = f64::from(u32::try_from(regions.len()).ok()?.min(1 << 16));
        while area.has_area() && count >= 4.0 {
            let cells = Self::empty(&area, count);
            let all: usize = regions.clone().map(|region| cells.reached_by(&region).count()).sum();
            if all <= regions.len() * MAX_ENTRIES {
                return Some(cells.filled(regions));
            }
            count /= 4.0;
        }
        None
    }

    /// Creates about this number of cells, as square as possible.
    fn empty(area: &Rect, count: f64) -> Self {
        let side = libm::sqrt(area.size().element_product() / count);
        let count = (area.size() / side).clamp(DVec2::ONE, DVec2::splat(count)).as_uvec2();
        let side = area.size() / count.as_dvec2();
        let per_side = 1.0 / side;
        Self { area: *area, side, per_side, count, starts: Vec::new(), numbers: Vec::new() }
    }

    fn filled(mut self, regions: impl Iterator<Item = Rect> + Clone) -> Self {
        let cells = (self.count.x * self.count.y) as usize;
        let mut ends = alloc::vec![0_u32; cells + 1];
        for cell in regions.clone().flat_map(|region| self.reached_by(&region)) {
            ends[cell] += 1;
        }
        let mut end = 0;
        for entry in &mut ends {
            end += *entry;
            *entry = end;
        }
        self.numbers.resize(end as usize, 0);
        // From the last to the first, each in front of the others, so that the numbers are in order.
        let numbered: Vec<(u32, Rect)> = (0..).zip(regions).collect();
        for (number, region) in numbered.iter().rev() {
            for cell in self.reached_by(region) {
                ends[cell] -= 1;
                self.numbers[ends[cell] as usize] = *number;
            }
        }
        self.starts = ends;
        self
    }

    /// Returns the cells in which a region is listed.
    fn reached_by(&self, region: &Rect) -> impl Iterator<Item = usize> + use<> {
        // Slightly more than half a cell, so that rounding loses none.
        let beyond = self.side * 0.501;
        let (low, high) = (self.cell(region.min - beyond), self.cell(region.max + beyond));
        let columns = self.count.x;
        (low.y..=high.y).flat_map(move |row| {
            (low.x..=high.x).map(move |column| (row * columns + column) as usize)
        })
    }

    /// Returns the cell that contains a point. For points outside, the nearest cell.
    fn cell(&self, point: DVec2) -> UVec2 {
        let cell = (point - self.area.min) * self.per_side;
        UVec2::new(cell.x as u32, cell.y as u32).min(self.count - 1)
    }

    /// Returns the numbers of the regions that a movement may touch, in order, or `None` if it is longer than a cell,
    /// so that all have to be checked.
    fn about(&self, from: DVec2, to: DVec2) -> Option<&[u32]> {
        if !(to - from).abs().cmple(self.side).all() {
            return None;
        }
        let (low, high) = (from.min(to), from.max(to));
        if (high.cmplt(self.area.min) | low.cmpgt(self.area.max)).any() {
            return Some(&[]);
        }
        let cell = self.cell(from + (to - from) / 2.0);
        let cell = (cell.y * self.count.x + cell.x) as usize;
        self.numbers.get(self.starts[cell] as usize..self.starts[cell + 1] as usize)
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        /// Compares with checking every region.
        #[test]
        fn none_is_lost(
            regions in prop::collection::vec(((-900.0..900.0_f64, -400.0..400.0_f64), (0.0..90.0_f64, 0.0..400.0_f64)), 1..300),
            ways in prop::collection::vec(((-1200.0..1200.0_f64, -700.0..700.0_f64), (-90.0..90.0_f64, -60.0..60.0_f64)), 1..40),
        ) {
            let regions: Vec<Rect> = regions.into_iter()
                .map(|(corner, size)| Rect::from_corner_size(DVec2::from(corner), DVec2::from(size)))
                .collect();
            let nearby = Nearby::of(regions.iter().copied());
            for (from, way) in ways {
                let (from, to) = (DVec2::from(from), DVec2::from(from) + DVec2::from(way));
                let touches = |region: &&Rect| {
                    region.min.cmple(from.max(to)).all() && region.max.cmpge(from.min(to)).all()
                };
                let found: Vec<&Rect> = nearby.about(&regions, from, to).filter(touches).collect();
                let all: Vec<&Rect> = regions.iter().filter(touches).collect();
                prop_assert_eq!(found, all);
            }
        }
    }

    #[test]
    fn most_of_a_thousand_are_not_looked_at() {
        let region = |index: u32| {
            let corner = DVec2::new(f64::from(index % 40), f64::from(index / 40)) * 100.0;
            Rect::from_corner_size(corner, [40.0, 40.0])
        };
        let regions: Vec<Rect> = (0..1000).map(region).collect();
        let nearby = Nearby::of(regions.iter().copied());
        let place = DVec2::new(1520.0, 820.0);
        let about = nearby.about(&regions, place, place + 2.0).count();
        assert!((1..20).contains(&about), "{about}");
        // A movement across all of them checks them all.
        assert_eq!(nearby.about(&regions, DVec2::ZERO, place).count(), 1000);
        assert_eq!(nearby.about(&regions, DVec2::NAN, place).count(), 1000);
    }
}
