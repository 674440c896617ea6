//! The path of a goal during one step.

use glam::DVec2;

use crate::base::list::List;
use crate::base::maths::clamp;

/// A bend of a course: the position of the goal at a fraction of the step.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Knot {
    /// Fraction of the step, from 0 to 1.
    pub at: f64,
    pub point: DVec2,
}

/// The number of knots of a bent course: room for every stage to begin and end on each axis.
const MAX_KNOTS: usize = 24;

/// The path of a goal through one step: straight from knot to knot, the first at 0, the last at 1.
///
/// A stage that begins to act, such as a bound or the edge of a deadzone, adds a knot at that moment. The motion then
/// runs from knot to knot. Each part is a straight line, for which its closed form is exact, so one long step gives
/// the same result as many short ones.
///
/// A course that would need more knots than fit is [`full`](Self::is_full): it keeps its end and loses bends. The step
/// should then be run again in two halves.
#[derive(Clone, Debug)]
pub(crate) struct Course {
    knots: List<Knot, MAX_KNOTS>,
    full: bool,
}

impl Default for Course {
    fn default() -> Self {
        Self::straight(DVec2::ZERO, DVec2::ZERO)
    }
}

impl Course {
    #[inline]
    pub fn straight(from: DVec2, to: DVec2) -> Self {
        let mut course = Self { knots: List::default(), full: false };
        course.straighten(from, to);
        course
    }

    /// Becomes a straight line, and forgets everything.
    #[inline]
    pub fn restart(&mut self, from: DVec2, to: DVec2) {
        self.straighten(from, to);
        self.full = false;
    }

    /// Becomes a straight line. What did not fit stays lost: a course that was full remains so.
    #[inline]
    pub fn straighten(&mut self, from: DVec2, to: DVec2) {
        self.knots.truncate(0);
        self.knots.push(Knot { at: 0.0, point: from });
        self.knots.push(Knot { at: 1.0, point: to });
    }

    /// Returns whether a knot did not fit, so that bends are missing.
    #[inline]
    pub fn is_full(&self) -> bool {
        self.full
    }

    /// Inserts a knot before the one at `index`. Returns whether there was room.
    fn insert(&mut self, index: usize, knot: Knot) -> bool {
        let fits = self.knots.insert(index, knot);
        self.full |= !fits;
        fits
    }

    /// Replaces the knots by those that `follow` pushes for each piece, after the given first knot.
    pub fn rebuild(
        &mut self,
        first: DVec2,
        mut follow: impl FnMut(Knot, Knot, &mut dyn FnMut(f64, DVec2)),
    ) {
        let mut list = List::default();
        list.push(Knot { at: 0.0, point: first });
        let pieces = core::mem::replace(&mut self.knots, list);
        for pair in pieces.windows(2) {
            follow(pair[0], pair[1], &mut |at, point| {
                let knot = Knot { at, point };
                // The end is worth more than the last of too many bends.
                if !self.insert(MAX_KNOTS, knot) {
                    self.knots[MAX_KNOTS - 1] = knot;
                }
            });
        }
    }

    #[inline]
    pub fn knots(&self) -> &[Knot] {
        &self.knots
    }

    /// Returns the two ends if there is no bend between them.
    #[inline]
    pub fn as_straight(&self) -> Option<(DVec2, DVec2)> {
        match self.knots() {
            [from, to] => Some((from.point, to.point)),
            _ => None,
        }
    }

    #[inline]
    pub fn end(&self) -> DVec2 {
        self.knots[self.knots.len() - 1].point
    }

    /// Changes every knot's point.
    #[inline]
    pub fn map(&mut self, change: impl Fn(DVec2) -> DVec2) {
        for knot in self.knots.iter_mut() {
            knot.point = change(knot.point);
        }
    }

    /// Changes the point of every knot in order of time, with its moment.
    #[inline]
    pub fn map_in_time(&mut self, mut change: impl FnMut(f64, DVec2) -> DVec2) {
        for knot in self.knots.iter_mut() {
            knot.point = change(knot.at, knot.point);
        }
    }

    /// Adds a knot at a fraction of the step, unless there is one.
    pub fn bend_at(&mut self, at: f64) {
        let index = self.knots().iter().rposition(|knot| knot.at < at);
        if let Some(index) = index
            && index + 1 < self.knots.len()
            && self.knots[index + 1].at > at
        {
            let (from, to) = (self.knots[index].at, self.knots[index + 1].at);
            self.bend(index, (at - from) / (to - from));
        }
    }

    /// Adds a knot at a point, at a fraction of the step after all others except the last.
    pub fn bend_at_point(&mut self, at: f64, point: DVec2) {
        let last = self.knots.len() - 1;
        self.insert(last, Knot { at: clamp(at, 0.0, 1.0), point });
    }

    /// Keeps one axis at `value`.
    #[inline]
    pub fn still(&mut self, axis: usize, value: f64) {
        for knot in self.knots.iter_mut() {
            knot.point[axis] = value;
        }
    }

    /// Clamps the course to `low..=high`, with a knot at every point at which it meets an edge; where the two
    /// cross, `low` wins.
    #[inline]
    pub fn clamp(&mut self, low: DVec2, high: DVec2) {
        let inside = |point: DVec2| {
            low.x <= point.x && point.x <= high.x && low.y <= point.y && point.y <= high.y
        };
        if !self.knots.iter().all(|knot| inside(knot.point)) {
            self.clamp_bent(low, high);
        }
    }

    fn clamp_bent(&mut self, low: DVec2, high: DVec2) {
        for axis in 0..2 {
            let (low, high) = (low[axis], high[axis].max(low[axis]));
            self.bend_where(axis, &[low, high]);
            for knot in self.knots.iter_mut() {
                knot.point[axis] = clamp(knot.point[axis], low, high);
            }
        }
    }

    /// Adds a knot at every point at which an axis passes one of these values.
    pub fn bend_where(&mut self, axis: usize, values: &[f64]) {
        let mut index = 0;
        while index + 1 < self.knots.len() {
            let (a, b) = (self.knots[index].point[axis], self.knots[index + 1].point[axis]);
            let between =
                |value: &&f64| (a < **value && **value < b) || (b < **value && **value < a);
            let first = values
                .iter()
                .filter(between)
                .min_by(|p, q| (*p - a).abs().total_cmp(&(*q - a).abs()));
            if let Some(value) = first
                && self.bend(index, (value - a) / (b - a))
            {
                self.knots[index + 1].point[axis] = *value;
            }
            index += 1;
        }
    }

    /// Replaces one axis by a value that the course drags: it starts at `start` and stays, except that it is never
    /// more than `behind` below the course and never more than `ahead` above it.
    pub fn drag(&mut self, axis: usize, start: f64, behind: f64, ahead: f64) {
        let within = |value, course| clamp(value, course - behind, course + ahead);
        let mut dragged = within(start, self.knots[0].point[axis]);
        let mut index = 0;
        let mut before = self.knots[0].point[axis];
        self.knots[0].point[axis] = dragged;
        while index + 1 < self.knots.len() {
            let after = self.knots[index + 1].point[axis];
            let end = within(dragged, after);
            if end != dragged {
                // The edge that acts, and the position of the course at that moment.
                let edge = if end > dragged { dragged + behind } else { dragged - ahead };
                let fraction = (edge - before) / (after - before);
                if fraction > 0.0 && fraction < 1.0 && self.bend(index, fraction) {
                    index += 1;
                    self.knots[index].point[axis] = dragged;
                }
            }
            self.knots[index + 1].point[axis] = end;
            (dragged, before) = (end, after);
            index += 1;
        }
    }

    /// Adds a knot at the fraction `fraction` of the piece that starts at knot `index`. Returns whether there was
    /// room.
    fn bend(&mut self, index: usize, fraction: f64) -> bool {
        let (from, to) = (self.knots[index], self.knots[index + 1]);
        let knot = Knot {
            at: clamp(from.at + (to.at - from.at) * fraction, from.at, to.at),
            point: from.point + (to.point - from.point) * fraction,
        };
        self.insert(index + 1, knot)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Returns the position at a fraction of the step.
    fn sample(course: &Course, at: f64) -> DVec2 {
        let knots = course.knots();
        let next = knots.iter().position(|knot| knot.at >= at).unwrap_or(knots.len() - 1);
        let (from, to) = (knots[next.saturating_sub(1)], knots[next]);
        if to.at <= from.at || to.at <= at {
            return to.point;
        }
        from.point + (to.point - from.point) * ((at - from.at) / (to.at - from.at))
    }

    fn in_order(course: &Course) -> bool {
        course.knots().windows(2).all(|pair| pair[0].at <= pair[1].at)
    }

    proptest! {
        #[test]
        fn clamping_a_course_clamps_each_of_its_points(
            ends in prop::array::uniform4(-100.0..100.0_f64),
            edges in prop::array::uniform4(-60.0..60.0_f64),
            at in 0.0..1.0_f64,
        ) {
            let (from, to) = (DVec2::new(ends[0], ends[1]), DVec2::new(ends[2], ends[3]));
            let low = DVec2::new(edges[0].min(edges[1]), edges[2].min(edges[3]));
            let high = DVec2::new(edges[0].max(edges[1]), edges[2].max(edges[3]));
            let mut course = Course::straight(from, to);
            course.clamp(low, high);
            let expected = (from + (to - from) * at).max(low).min(high);
            prop_assert!((sample(&course, at) - expected).length() < 1e-9);
            prop_assert!(in_order(&course));
        }

        /// Compares with the same rule in a thousand small steps.
        #[test]
        fn dragging_is_the_limit_of_small_steps(
            ends in prop::array::uniform3(-100.0..100.0_f64),
            start in -100.0..100.0_f64,
            behind in 0.0..40.0_f64,
            ahead in 0.0..40.0_f64,
            samples in 1..1000_u32,
        ) {
            let way = |at: f64| {
                let (a, b, fraction) = if at < 0.5 { (ends[0], ends[1], at) } else { (ends[1], ends[2], at - 0.5) };
                DVec2::new(a + (b - a) * 2.0 * fraction, 7.0 * at)
            };
            let mut course = Course::straight(way(0.0), way(1.0));
            course.bend_at(0.5);
            course.knots[1].point = way(0.5);
            course.drag(0, start, behind, ahead);
            let mut dragged = start;
            for step in 0..=samples {
                let at = way(f64::from(step) / 1000.0).x;
                dragged = dragged.max(at - behind).min(at + ahead);
            }
            let here = sample(&course, f64::from(samples) / 1000.0);
            prop_assert!((here.x - dragged).abs() < 1e-9, "{} for {dragged}", here.x);
            prop_assert!((here.y - 7.0 * f64::from(samples) / 1000.0).abs() < 1e-9);
            prop_assert!(in_order(&course));
        }
    }
}
