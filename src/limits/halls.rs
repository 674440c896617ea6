//! The halls of an outline: the largest rectangles inside of it, and the one that the view is in.

use alloc::vec::Vec;

use glam::DVec2;

use crate::base::nearby::Nearby;
use crate::base::rect::Rect;
use crate::keys::per_axis::PerAxis;
use crate::lens::lens::Lens;
use crate::limits::small_world::SmallWorld;
use crate::limits::walls::{Walls, clamp_with_cushion};

/// The greatest number of parts, and of halls.
const MAX_HALLS: usize = 2000;

/// Coordinates closer than this, as a fraction of the largest one, are the same.
const SAME: f64 = 1e-12;

/// Differences of a rank that are smaller than this are rounding.
const ROUNDING: f64 = 1e-7;

/// With its goal farther than this from the middle, in halves of the view, a view may pass into another hall, and by
/// how much its goal must come nearer.
const FAR_FROM_MIDDLE: f64 = 0.5;
const MARGIN: f64 = 0.05;

/// A subject closer than this to the edge of its hall, in views, is on its way into a narrower one that goes on there,
/// and farther than this it is back.
const LEAVING: f64 = 0.15;
const BACK: f64 = 0.25;

/// The halls of one outline.
#[derive(Clone, Debug, Default)]
pub(crate) struct Halls {
    rects: Vec<Rect>,
    nearby: Nearby,
    edges: Vec<[DVec2; 2]>,
    extent: Rect,
}

/// Why an outline has no halls.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum TooMany {
    Parts,
    Halls,
}

impl TooMany {
    pub fn expected(self) -> &'static str {
        match self {
            Self::Parts => "at most 2,000 parts",
            Self::Halls => {
                "parts with at most 2,000 halls, which are the largest rectangles inside of their union"
            }
        }
    }
}

/// What decides which hall the view is in.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Stand {
    /// The subject, or what stands for it.
    pub subject: DVec2,
    /// The view's centre, and where it would be without limits.
    pub here: DVec2,
    pub wanted: DVec2,
    /// Whether a change fades. Until it is over, what the change itself moves does not call for another one.
    pub changes: bool,
}

/// How a hall shows the world.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Gauge {
    pub lens: Lens,
    /// The lens if nothing zoomed in to fill the hall. Halls are compared with it, because each is filled by another
    /// zoom.
    pub free: Lens,
    /// How often the size of that view goes into a world unit.
    pub per_view: DVec2,
    pub small: PerAxis<SmallWorld>,
    /// The depth of the cushion, in world units.
    pub cushion: DVec2,
    /// How far the subject may be outside of its hall, in world units.
    pub slack: DVec2,
}

impl Gauge {
    fn range(&self, hall: &Rect, lens: &Lens) -> Rect {
        Walls { rect: *hall, small: self.small }.centre_range(lens)
    }

    /// Returns the centre that a hall allows, nearest to a wanted one.
    pub fn nearest(&self, hall: &Rect, wanted: DVec2) -> DVec2 {
        clamp_with_cushion(&self.range(hall, &self.lens), self.cushion, wanted)
    }

    /// How much of the outside a hall shows, in views.
    fn outside(&self, hall: &Rect) -> f64 {
        (1.0 - hall.size() * self.per_view).max(DVec2::ZERO).element_sum()
    }

    /// How far the view that a hall allows is from the wanted one, in halves of the view.
    fn away(&self, hall: &Rect, wanted: DVec2) -> f64 {
        let nearest = clamp_with_cushion(&self.range(hall, &self.free), self.cushion, wanted);
        ((nearest - wanted) * self.per_view).length() * 2.0
    }

    /// Returns whether the subject is closer than some views to an edge of a hall beyond which another one goes on.
    fn leaves(&self, hall: &Rect, other: &Rect, stand: &Stand, views: f64) -> bool {
        let near = self.free.half_extents() * (2.0 * views);
        let low = other.min.cmplt(hall.min) & stand.subject.cmplt(hall.min + near);
        let high = other.max.cmpgt(hall.max) & stand.subject.cmpgt(hall.max - near);
        (low | high).any()
    }

    /// Returns whether the view's centre is where a hall allows it.
    fn is_in(&self, hall: &Rect, centre: DVec2) -> bool {
        let allowed = self.range(hall, &self.lens).nearest(centre);
        ((allowed - centre) / self.lens.half_extents()).abs().max_element() <= ROUNDING
    }
}

impl Halls {
    pub fn of(parts: &[Rect]) -> Result<Self, TooMany> {
        if parts.len() > MAX_HALLS {
            return Err(TooMany::Parts);
        }
        let (rects, edges) = Sweep::over(parts).ok_or(TooMany::Halls)?;
        let nearby = Nearby::of(rects.iter().copied());
        let extent = parts.iter().copied().reduce(|all, part| all.joined(&part));
        Ok(Self { rects, nearby, edges, extent: extent.unwrap_or_default() })
    }

    pub fn into_rects(self) -> Vec<Rect> {
        self.rects
    }

    pub fn into_edges(self) -> Vec<[DVec2; 2]> {
        self.edges
    }

    pub fn edges(&self) -> &[[DVec2; 2]] {
        &self.edges
    }

    /// Returns the rectangle around all of them.
    pub fn extent(&self) -> Rect {
        self.extent
    }

    pub fn has(&self, hall: &Rect) -> bool {
        self.rects.contains(hall)
    }

    /// Returns the best hall, wherever the view is now.
    pub fn best(&self, stand: &Stand, gauge: &Gauge) -> Option<Rect> {
        let stand = self.brought_inside(stand);
        self.best_for(&stand, self.least_outside(&stand, gauge), gauge)
    }

    /// Returns the hall into which a view passes that is in this one.
    #[inline]
    pub fn next(&self, present: &Rect, stand: &Stand, gauge: &Gauge) -> Option<Rect> {
        let (outside, away) = (gauge.outside(present), gauge.away(present, stand.wanted));
        if outside <= 0.0 && away <= 0.0 && present.covers(stand.subject) {
            return None;
        }
        self.next_from(present, [outside, away], &self.brought_inside(stand), gauge)
    }

    fn next_from(
        &self,
        present: &Rect,
        [outside, away]: [f64; 2],
        stand: &Stand,
        gauge: &Gauge,
    ) -> Option<Rect> {
        let kept = Rect { min: present.min - gauge.slack, max: present.max + gauge.slack };
        let most = self.least_outside(stand, gauge) + ROUNDING;
        let large = || self.holding(stand.subject).filter(|hall| gauge.outside(hall) <= most);
        if !kept.covers(stand.subject) {
            return best_of(large(), stand.wanted, gauge);
        }
        if outside > most {
            if stand.changes {
                return None;
            }
            let back = large().filter(|hall| !gauge.leaves(hall, present, stand, BACK));
            return best_of(back, stand.wanted, gauge);
        }
        let is_far = away > FAR_FROM_MIDDLE && !stand.changes;
        let passes = |hall: &&Rect| {
            let there = gauge.away(hall, stand.wanted);
            let is_nearer = there < away - ROUNDING && gauge.is_in(hall, stand.here);
            is_nearer || (is_far && there < away - MARGIN)
        };
        best_of(large().filter(passes), stand.wanted, gauge).or_else(|| {
            let goes_on = |narrow: &&Rect| {
                is_far && large().all(|hall| gauge.leaves(hall, narrow, stand, LEAVING))
            };
            let narrow = self.holding(stand.subject).filter(|hall| gauge.outside(hall) > most);
            best_of(narrow.filter(goes_on).filter(passes), stand.wanted, gauge)
        })
    }

    /// Returns the same with a subject that is outside brought to the nearest point inside.
    fn brought_inside(&self, stand: &Stand) -> Stand {
        let subject = stand.subject;
        if self.holding(subject).next().is_some() {
            return *stand;
        }
        let inside = self.rects.iter().map(|hall| hall.nearest(subject)).min_by(|one, other| {
            one.distance_squared(subject).total_cmp(&other.distance_squared(subject))
        });
        Stand { subject: inside.unwrap_or(subject), ..*stand }
    }

    /// Returns the halls that hold a point, with their edges.
    fn holding(&self, point: DVec2) -> impl Iterator<Item = &Rect> {
        self.nearby.about(&self.rects, point, point).filter(move |hall| hall.covers(point))
    }

    /// How much of the outside must be seen where the subject is.
    fn least_outside(&self, stand: &Stand, gauge: &Gauge) -> f64 {
        self.holding(stand.subject).map(|hall| gauge.outside(hall)).fold(f64::INFINITY, f64::min)
    }

    /// Returns the best hall of those that hold the subject and show this much of the outside.
    fn best_for(&self, stand: &Stand, outside: f64, gauge: &Gauge) -> Option<Rect> {
        let fits = |hall: &&Rect| gauge.outside(hall) <= outside + ROUNDING;
        best_of(self.holding(stand.subject).filter(fits), stand.wanted, gauge)
    }
}

/// Returns the hall that allows the view nearest to the wanted one; the largest one, if several do.
fn best_of<'a>(
    halls: impl Iterator<Item = &'a Rect>,
    wanted: DVec2,
    gauge: &Gauge,
) -> Option<Rect> {
    let area = |hall: &Rect| hall.size().element_product();
    let ranked = halls.map(|hall| (hall, gauge.away(hall, wanted)));
    let best = ranked.reduce(|best, other| {
        let nearer = best.1 - other.1;
        let is_better = nearer > ROUNDING || (nearer > -ROUNDING && area(other.0) > area(best.0));
        if is_better { other } else { best }
    });
    best.map(|(hall, _)| *hall)
}

/// Finds the halls and the edges of a union of rectangles, row by row of the grid that all their edges make.
struct Sweep {
    x: Vec<f64>,
    y: Vec<f64>,
    /// Whether each column is covered, in the row before and in this one.
    before: Vec<bool>,
    now: Vec<bool>,
    /// For each line between columns: on which side of it the shape is, and since which row.
    sides: Vec<(i8, usize)>,
    halls: Vec<Rect>,
    edges: Vec<[DVec2; 2]>,
}

impl Sweep {
    /// `None` if there are too many halls.
    fn over(parts: &[Rect]) -> Option<(Vec<Rect>, Vec<[DVec2; 2]>)> {
        let lines = |axis: usize| {
            lines(parts.iter().flat_map(|part| [part.min[axis], part.max[axis]]).collect())
        };
        let (x, y) = (lines(0), lines(1));
        let (columns, rows) = (x.len().saturating_sub(1), y.len().saturating_sub(1));
        let covers = Covers::new(parts, &x, &y);
        let mut sweep = Self {
            before: alloc::vec![false; columns],
            now: alloc::vec![false; columns],
            sides: alloc::vec![(0, 0); columns + 1],
            halls: Vec::new(),
            edges: Vec::new(),
            x,
            y,
        };
        let (mut counts, mut heights) = (alloc::vec![0_i32; columns + 1], alloc::vec![0; columns]);
        let mut below = alloc::vec![0_u32; columns + 1];
        covers.row(0, &mut counts, &mut sweep.now);
        for row in 0..=rows {
            sweep.add_edges(row);
            if row == rows {
                break;
            }
            for (height, covered) in heights.iter_mut().zip(&sweep.now) {
                *height = if *covered { *height + 1 } else { 0 };
            }
            core::mem::swap(&mut sweep.before, &mut sweep.now);
            covers.row(row + 1, &mut counts, &mut sweep.now);
            for (column, covered) in sweep.now.iter().enumerate() {
                below[column + 1] = below[column] + u32::from(*covered);
            }
            sweep.add_halls(row, &heights, &below);
            if sweep.halls.len() > MAX_HALLS {
                return None;
            }
        }
        Some((sweep.halls, sweep.edges))
    }

    /// Adds the halls whose last row this is: with `heights` rows above each column, and the number of columns up to
    /// each one that go on below.
    fn add_halls(&mut self, row: usize, heights: &[usize], below: &[u32]) {
        // Rectangles that go on to the right: the first column, and the height.
        let mut open: Vec<(usize, usize)> = Vec::new();
        for column in 0..=heights.len() {
            let height = heights.get(column).copied().unwrap_or(0);
            let mut first = column;
            while let Some((start, tall)) = open.pop_if(|(_, tall)| *tall > height) {
                first = start;
                let goes_on = (below[column] - below[start]) as usize == column - start;
                if !goes_on {
                    let min = DVec2::new(self.x[start], self.y[row + 1 - tall]);
                    let max = DVec2::new(self.x[column], self.y[row + 1]);
                    self.halls.push(Rect { min, max });
                }
            }
            if open.last().is_none_or(|(_, tall)| *tall < height) && height > 0 {
                open.push((first, height));
            }
        }
    }

    /// Adds the edges along the line above a row, and those down its columns that end there.
    fn add_edges(&mut self, row: usize) {
        let side = |before: bool, now: bool| i8::from(now) - i8::from(before);
        let (mut start, mut along) = (0, 0);
        let columns = self.now.len();
        for column in 0..=columns {
            let of = |list: &[bool]| list.get(column).copied().unwrap_or(false);
            let next = side(of(&self.before), of(&self.now));
            if next != along {
                if along != 0 {
                    let at = |column: usize| DVec2::new(self.x[column], self.y[row]);
                    self.edges.push([at(start), at(column)]);
                }
                (start, along) = (column, next);
            }
            let left = column.checked_sub(1).is_some_and(|left| self.now[left]);
            let next = side(left, of(&self.now));
            let (down, since) = self.sides[column];
            if next != down {
                if down != 0 {
                    let at = |row: usize| DVec2::new(self.x[column], self.y[row]);
                    self.edges.push([at(since), at(row)]);
                }
                self.sides[column] = (next, row);
            }
        }
    }
}

/// Returns the coordinates in order, each once.
fn lines(mut all: Vec<f64>) -> Vec<f64> {
    all.sort_by(f64::total_cmp);
    let far = all.iter().fold(0.0, |far: f64, at| far.max(at.abs()));
    all.dedup_by(|next, kept| *next - *kept <= far * SAME);
    all
}

/// Which columns the parts cover, row by row.
struct Covers {
    /// The row, the first and the last line of the columns, and whether a part begins or ends there.
    changes: Vec<(usize, [usize; 2], i32)>,
}

impl Covers {
    fn new(parts: &[Rect], x: &[f64], y: &[f64]) -> Self {
        let line = |lines: &[f64], at: f64| lines.partition_point(|line| *line <= at).max(1) - 1;
        let mut changes = Vec::with_capacity(parts.len() * 2);
        for part in parts {
            let columns = [line(x, part.min.x), line(x, part.max.x)];
            changes.push((line(y, part.min.y), columns, 1));
            changes.push((line(y, part.max.y), columns, -1));
        }
        changes.sort_unstable();
        Self { changes }
    }

    /// Goes on to a row. `counts` says by how many more parts each column is covered than the one before.
    fn row(&self, row: usize, counts: &mut [i32], covered: &mut [bool]) {
        let first = self.changes.partition_point(|change| change.0 < row);
        let here = self.changes[first..].iter().take_while(|change| change.0 == row);
        for (_, [from, to], more) in here {
            counts[*from] += more;
            counts[*to] -= more;
        }
        let mut count = 0;
        for (covered, more) in covered.iter_mut().zip(counts) {
            count += *more;
            *covered = count > 0;
        }
    }
}
