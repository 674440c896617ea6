//! A box along the axes of a turned screen against a range along those of the world: a leash, and where the view may be.

use glam::DVec2;

use crate::base::list::List;
use crate::base::rect::Rect;
use crate::lens::lens::Lens;

/// Up to the first slope between the axes of box and range, a box gives way where it passes the range. From the second on
/// it holds exactly.
///
/// A rule that holds at every slope leaps: where box and range part, all that both allow is a corner of the box, and the
/// corner runs along the range by 1 / slope times what the box moves. At slope 0 the whole side is allowed.
const SLOPES: [f64; 2] = [0.15, 0.4];

/// A range without an end ends this far from the box, in views.
const FAR: f64 = 4.0;

/// How much farther than necessary a box is let out, in views, so that rounding does not part it from the range.
const SPARE: f64 = 1e-9;

/// A box along the axes of the screen.
#[derive(Clone, Copy, Debug)]
pub(crate) struct TurnedBox<'a> {
    lens: &'a Lens,
    /// Its centre in the world, and half its size along the axes of the screen, in world units.
    centre: DVec2,
    half: DVec2,
}

impl<'a> TurnedBox<'a> {
    /// Creates a box between two corners along the axes of the screen.
    pub fn new(lens: &'a Lens, [low, high]: [DVec2; 2]) -> Self {
        let centre = lens.to_world_orientation((low + high) / 2.0);
        Self { lens, centre, half: (high - low) / 2.0 }
    }

    /// Returns how far its sides must be let out to reach a range.
    ///
    /// It is the shortest way from a box to the range, for a box smaller than this one by the part of its sides that a small
    /// slope leads past the range.
    pub fn lacks(&self, range: &Rect) -> DVec2 {
        if range.nearest(self.centre) == self.centre {
            return DVec2::ZERO;
        }
        let [across, along] = [DVec2::X, DVec2::Y].map(|axis| {
            let seen = self.lens.to_screen_orientation(axis);
            seen.x.abs()
        });
        let slope = across.min(along) / across.max(along);
        let soft = ((SLOPES[1] - slope) / (SLOPES[1] - SLOPES[0])).clamp(0.0, 1.0);
        let passed = DVec2::new(self.half.y, self.half.x) * (2.0 * slope * soft);
        let inner = Self { half: self.half - passed.min(self.half), ..*self };
        let gap = inner.gap(&self.near(range));
        if gap == DVec2::ZERO { gap } else { gap.abs() + SPARE * self.lens.view_size().x }
    }

    /// Returns the point of a range nearest to another one that is also in this box, which reaches the range.
    #[cold]
    pub fn nearest_in(&self, range: &Rect, to: DVec2) -> DVec2 {
        let free = self.seen(to);
        let held = free.clamp(-self.half, self.half);
        let in_box = self.centre + self.lens.to_world_orientation(held);
        if range.nearest(in_box) == in_box {
            return in_box;
        }
        let corners = self.both(&self.near(range));
        let mut best = (f64::INFINITY, held);
        for (index, end) in corners.iter().enumerate() {
            let start = corners[(index + corners.len() - 1) % corners.len()];
            let way = *end - start;
            let length = way.length_squared();
            let share = if length > 0.0 { (free - start).dot(way) / length } else { 0.0 };
            let point = start + way * share.clamp(0.0, 1.0);
            let away = point.distance_squared(free);
            best = if away < best.0 { (away, point) } else { best };
        }
        range.nearest(self.centre + self.lens.to_world_orientation(best.1))
    }

    /// A point as seen from the box's centre, along its axes.
    fn seen(&self, point: DVec2) -> DVec2 {
        self.lens.to_screen_orientation(point - self.centre)
    }

    /// The part of a range that is not far away. It is never empty.
    fn near(&self, range: &Rect) -> Rect {
        let far = FAR * self.lens.view_size().x + self.half.length();
        let (low, high) = (self.centre - far, self.centre + far);
        let (low, high) = (low.min(range.max), high.max(range.min));
        Rect { min: range.min.max(low), max: range.max.min(high) }
    }

    /// The shortest way from the box to a range, along the box's axes; zero if they meet.
    fn gap(&self, range: &Rect) -> DVec2 {
        let half = self.half;
        let corners = range.corners().map(|corner| self.seen(corner));
        let (low, high) = extent(corners);
        let ends = [half, DVec2::new(-half.x, half.y), -half, DVec2::new(half.x, -half.y)]
            .map(|end| self.centre + self.lens.to_world_orientation(end));
        let (first, last) = extent(ends);
        let apart = low.cmpgt(half) | high.cmplt(-half);
        if !(apart | range.min.cmpgt(last) | range.max.cmplt(first)).any() {
            return DVec2::ZERO;
        }
        let from_ends = ends.map(|end| self.lens.to_screen_orientation(range.nearest(end) - end));
        let to_corners = corners.map(|corner| corner - corner.clamp(-half, half));
        let ways = from_ends.into_iter().chain(to_corners);
        ways.min_by(|a, b| a.length_squared().total_cmp(&b.length_squared())).unwrap_or_default()
    }

    /// The corners of what a range and the box have in common, seen from the box's centre: the range, cut at each of its four
    /// sides.
    ///
    /// Ivan Sutherland and Gary Hodgman, "Reentrant polygon clipping", 1974.
    fn both(&self, range: &Rect) -> List<DVec2, 8> {
        let mut corners = List::default();
        for corner in range.corners() {
            corners.push(self.seen(corner));
        }
        for (axis, sign) in [(0, 1.0), (0, -1.0), (1, 1.0), (1, -1.0)] {
            let over = |point: DVec2| point[axis] * sign - self.half[axis];
            let before = core::mem::take(&mut corners);
            for (index, point) in before.iter().enumerate() {
                let last = before[(index + before.len() - 1) % before.len()];
                let (from, to) = (over(last), over(*point));
                if (from > 0.0) != (to > 0.0) {
                    corners.push(last + (*point - last) * (from / (from - to)));
                }
                if to <= 0.0 {
                    corners.push(*point);
                }
            }
        }
        corners
    }
}

/// The smallest and the largest coordinates of points.
fn extent(points: [DVec2; 4]) -> (DVec2, DVec2) {
    let first = (points[0], points[0]);
    points.iter().fold(first, |(low, high), point| (low.min(*point), high.max(*point)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lens::screen::Screen;
    use proptest::prelude::*;

    proptest! {
        /// A box that is let out meets the range. What it finds there is in both, and no other point in both is nearer.
        #[test]
        fn the_nearest_point_is_found(
            turned in -3.2..3.2_f64,
            centre in (-300.0..300.0_f64, -300.0..300.0_f64),
            half in (0.0..90.0_f64, 0.0..90.0_f64),
            size in (0.0..150.0_f64, 0.0..150.0_f64),
            free in (-300.0..300.0_f64, -300.0..300.0_f64),
            others in prop::collection::vec((-1.0..1.0_f64, -1.0..1.0_f64), 200),
        ) {
            let lens = Lens::new(&Screen::default()).with_rotation(turned);
            let (centre, half, free) = (DVec2::from(centre), DVec2::from(half), DVec2::from(free));
            let range = Rect::around([0, 0], DVec2::from(size));
            let narrow = TurnedBox { lens: &lens, centre, half };
            let held = TurnedBox { half: half + narrow.lacks(&range), ..narrow };
            let found = held.nearest_in(&range, free);
            let over = (held.seen(found).abs() - held.half).max_element();
            prop_assert!(over < 1e-6 && range.nearest(found) == found, "{over} beyond the box");
            for other in others {
                let other = range.nearest(centre + lens.to_world_orientation(DVec2::from(other) * held.half));
                if (held.seen(other).abs() - held.half).max_element() <= 0.0 {
                    prop_assert!(found.distance(free) <= other.distance(free) + 1e-6, "{other} is nearer");
                }
            }
        }
    }
}
