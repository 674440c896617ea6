//! How a goal moves during one step.

use glam::DVec2;

/// One bend of a course: where the goal is at a fraction of the step.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Knot {
    /// Fraction of the step, from 0 to 1.
    pub at: f64,
    pub point: DVec2,
}

/// The way of a goal through one step: straight from knot to knot, the first at 0, the last at 1.
///
/// A stage that takes hold somewhere (a bound is reached, a deadzone's edge catches up) puts a
/// knot at that moment. The motion then goes knot by knot, each part being a straight line for
/// which its closed form is exact, so that a long step gives what many short ones give.
#[derive(Clone, Debug)]
pub(crate) struct Course {
    knots: [Knot; Self::CAPACITY],
    len: usize,
}

impl Course {
    /// Enough for every stage to take hold and let go once on each axis. Should a stage want more,
    /// the bend is rounded off instead.
    const CAPACITY: usize = 12;

    #[inline]
    pub fn straight(from: DVec2, to: DVec2) -> Self {
        let mut knots = [Knot { at: 0.0, point: from }; Self::CAPACITY];
        knots[1] = Knot { at: 1.0, point: to };
        Self { knots, len: 2 }
    }

    #[inline]
    pub fn knots(&self) -> &[Knot] {
        &self.knots[..self.len]
    }

    #[inline]
    pub fn end(&self) -> DVec2 {
        self.knots[self.len - 1].point
    }

    /// Holds the course within `low..=high`, with a knot wherever it meets an edge; where the two
    /// cross, `low` wins.
    #[inline]
    pub fn clamp(&mut self, low: DVec2, high: DVec2) {
        let inside = |knot: &Knot| knot.point.cmpge(low).all() && knot.point.cmple(high).all();
        if !self.knots().iter().all(inside) {
            self.clamp_axis(0, low.x, high.x.max(low.x));
            self.clamp_axis(1, low.y, high.y.max(low.y));
        }
    }

    fn clamp_axis(&mut self, axis: usize, low: f64, high: f64) {
        let mut index = 0;
        while index + 1 < self.len {
            let (a, b) = (self.knots[index].point[axis], self.knots[index + 1].point[axis]);
            let first = [low, high]
                .into_iter()
                .filter(|edge| (a < *edge && *edge < b) || (b < *edge && *edge < a))
                .min_by(|p, q| (p - a).abs().total_cmp(&(q - a).abs()));
            if let Some(edge) = first {
                self.bend(index, (edge - a) / (b - a), |point| point[axis] = edge);
            }
            index += 1;
        }
        for knot in &mut self.knots[..self.len] {
            knot.point[axis] = knot.point[axis].max(low).min(high);
        }
    }

    /// Puts a knot at the fraction `part` of the piece that starts at knot `index`.
    fn bend(&mut self, index: usize, part: f64, exact: impl FnOnce(&mut DVec2)) {
        if self.len == Self::CAPACITY {
            return;
        }
        let (from, to) = (self.knots[index], self.knots[index + 1]);
        let mut knot = Knot {
            at: from.at + (to.at - from.at) * part,
            point: from.point + (to.point - from.point) * part,
        };
        exact(&mut knot.point);
        self.knots.copy_within(index + 1..self.len, index + 2);
        self.knots[index + 1] = knot;
        self.len += 1;
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// The point of a course at a fraction of the step.
    fn sample(course: &Course, at: f64) -> DVec2 {
        let pair = course.knots().windows(2).find(|pair| at <= pair[1].at).expect("ends at 1");
        let part = (at - pair[0].at) / (pair[1].at - pair[0].at).max(1e-300);
        pair[0].point + (pair[1].point - pair[0].point) * part
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
            prop_assert!(course.knots().windows(2).all(|pair| pair[0].at <= pair[1].at));
        }
    }
}
