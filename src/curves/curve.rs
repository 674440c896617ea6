//! A smooth curve through points.

use alloc::vec::Vec;

use glam::DVec2;

use crate::base::maths::mix;

/// How far a handle may be beside the chord of its piece, in lengths of the chord. The curve is then at most three
/// quarters of that beside it.
const BESIDE: f64 = 1.0 / 3.0;

/// Sections of a piece for its length, each with five points.
const SECTIONS: u32 = 4;

/// How often a length is made more exact. It is then exact to rounding, unless a piece is almost a point.
const STEPS: u32 = 12;

/// A curve is drawn as about this many lines at most.
const MAX_LINES: usize = 1 << 18;

/// A piece of a curve between two points: a cubic Bézier curve.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Piece([DVec2; 4]);

/// Returns the piece of a centripetal Catmull–Rom curve between the two middle points. The outer two are their
/// neighbours; the first point of a curve has none before it, the last none after it. Handles are shortened so that the
/// curve stays near its chord.
///
/// Cem Yuksel, Scott Schaefer and John Keyser, "Parameterization and applications of Catmull–Rom curves", 2011.
pub(crate) fn piece([before, from, to, after]: [Option<DVec2>; 4]) -> Option<Piece> {
    let (from, to) = (from?, to?);
    let handle = |outer: Option<DVec2>, near: DVec2, far: DVec2| {
        let chord = far - near;
        if chord == DVec2::ZERO {
            return chord;
        }
        let Some(outer) = outer.filter(|outer| *outer != near) else { return chord / 3.0 };
        // The roots of the two distances.
        let (d, e) = (libm::sqrt(near.distance(outer)), libm::sqrt(chord.length()));
        let sum = d * d * far - e * e * outer + (e * e - d * d) * near;
        near_chord(sum / (3.0 * d * (d + e)), chord)
    };
    let (first, last) = (handle(before, from, to), handle(after, to, from));
    Some(Piece([from, from + first, to + last, to]))
}

/// Returns the piece of a curve through points that begins at one of them. Points that stand twice count once for its
/// neighbours.
pub(crate) fn piece_of(points: &[DVec2], from: usize) -> Option<Piece> {
    let (start, end) = (*points.get(from)?, *points.get(from + 1)?);
    let before = points[..from].iter().rev().find(|other| **other != start);
    let after = points[from + 2..].iter().find(|other| **other != end);
    piece([before.copied(), Some(start), Some(end), after.copied()])
}

/// Returns a curve through points, as lines that are at most `unseen` beside it.
pub(crate) fn flatten(points: &[DVec2], unseen: f64) -> Vec<DVec2> {
    let halvings = (MAX_LINES / points.len().max(1)).max(1).ilog2();
    let mut flat: Vec<DVec2> = points.first().copied().into_iter().collect();
    for piece in (0..points.len()).filter_map(|from| piece_of(points, from)) {
        piece.flatten(unseen, halvings, &mut flat);
    }
    flat
}

/// Shortens a handle that is too far beside its chord.
fn near_chord(handle: DVec2, chord: DVec2) -> DVec2 {
    let most = chord.length() * BESIDE;
    let beside = (handle.perp_dot(chord) / chord.length()).abs();
    let length = handle.length();
    handle * (most / beside).min(most * 2.0 / length).min(1.0)
}

impl Piece {
    /// Returns the point at a parameter from 0 to 1.
    pub fn at(&self, t: f64) -> DVec2 {
        let Self([a, b, c, d]) = *self;
        let s = 1.0 - t;
        a * (s * s * s) + b * (3.0 * s * s * t) + c * (3.0 * s * t * t) + d * (t * t * t)
    }

    /// How fast the point moves with the parameter.
    fn speed(&self, t: f64) -> f64 {
        let Self([a, b, c, d]) = *self;
        let s = 1.0 - t;
        ((b - a) * (3.0 * s * s) + (c - b) * (6.0 * s * t) + (d - c) * (3.0 * t * t)).length()
    }

    /// Returns the length of the piece up to a parameter: Gauss–Legendre quadrature.
    pub fn length(&self, t: f64) -> f64 {
        const POINTS: [(f64, f64); 5] = [
            (0.0, 0.568_888_888_888_888_9),
            (-0.538_469_310_105_683_1, 0.478_628_670_499_366_5),
            (0.538_469_310_105_683_1, 0.478_628_670_499_366_5),
            (-0.906_179_845_938_664, 0.236_926_885_056_189_1),
            (0.906_179_845_938_664, 0.236_926_885_056_189_1),
        ];
        let half = t / f64::from(SECTIONS) / 2.0;
        let section = |number: u32| {
            let middle = half * f64::from(2 * number + 1);
            POINTS.iter().map(|(at, weight)| self.speed(middle + half * at) * weight).sum::<f64>()
        };
        (0..SECTIONS).map(section).sum::<f64>() * half
    }

    /// Returns the point at a fraction of the piece's length.
    pub fn at_length(&self, fraction: f64) -> DVec2 {
        let wanted = self.length(1.0) * fraction;
        let (mut low, mut high, mut t) = (0.0, 1.0, fraction.clamp(0.0, 1.0));
        for _step in 0..STEPS {
            let over = self.length(t) - wanted;
            if over == 0.0 {
                break;
            }
            (low, high) = if over > 0.0 { (low, t) } else { (t, high) };
            // Newton's step, or half of what is left where that leads out.
            let next = t - over / self.speed(t);
            t = if next >= low && next <= high { next } else { f64::midpoint(low, high) };
        }
        self.at(t)
    }

    /// Adds the same piece as lines that are at most `unseen` beside it, without its first point. It is halved at most
    /// this often.
    fn flatten(&self, unseen: f64, halvings: u32, points: &mut Vec<DVec2>) {
        let Self([a, b, c, d]) = *self;
        // A cubic curve is at most three quarters as far from its chord as its handles are from thirds of the chord.
        let beside = (b - mix(a, d, 1.0 / 3.0)).length().max((c - mix(a, d, 2.0 / 3.0)).length());
        if beside * 0.75 <= unseen || halvings == 0 {
            points.push(d);
            return;
        }
        let [first, second] = self.halves();
        first.flatten(unseen, halvings - 1, points);
        second.flatten(unseen, halvings - 1, points);
    }

    /// Paul de Casteljau's division in the middle.
    fn halves(&self) -> [Self; 2] {
        let Self([a, b, c, d]) = *self;
        let middle = |from: DVec2, to: DVec2| (from + to) / 2.0;
        let (ab, bc, cd) = (middle(a, b), middle(b, c), middle(c, d));
        let (abc, bcd) = (middle(ab, bc), middle(bc, cd));
        let at = middle(abc, bcd);
        [Self([a, ab, abc, at]), Self([at, bcd, cd, d])]
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn point() -> impl Strategy<Value = DVec2> {
        (-500.0..500.0_f64, -500.0..500.0_f64).prop_map(DVec2::from)
    }

    proptest! {
        /// A piece ends at its points, stays near its chord, makes no loop, and is as long as a thousand lines are.
        #[test]
        fn a_piece_stays_near_its_chord(points in prop::array::uniform4(point())) {
            let [_, from, to, _] = points;
            let chord = (to - from).length();
            prop_assume!(chord > 1.0);
            let piece = piece(points.map(Some)).expect("two points");
            prop_assert_eq!((piece.at(0.0), piece.at(1.0)), (from, to));
            let samples: Vec<DVec2> =
                (0..=1000).map(|at| piece.at(f64::from(at) / 1000.0)).collect();
            for at in &samples {
                let beside = (*at - from).perp_dot(to - from).abs() / chord;
                prop_assert!(beside <= chord / 4.0 + 1e-9, "{beside} of {chord}");
            }
            let lines: f64 = samples.windows(2).map(|pair| pair[0].distance(pair[1])).sum();
            prop_assert!((piece.length(1.0) - lines).abs() < 2e-3 * lines);
            // Lines that are not neighbours do not cross.
            let coarse: Vec<DVec2> = samples.iter().step_by(20).copied().collect();
            let lines: Vec<[DVec2; 2]> = coarse.windows(2).map(|pair| [pair[0], pair[1]]).collect();
            for (index, one) in lines.iter().enumerate() {
                for other in lines.iter().skip(index + 2) {
                    prop_assert!(!cross(one, other), "a loop");
                }
            }
        }

        /// Equal fractions of the length are equally far apart along the curve.
        #[test]
        fn fractions_of_the_length_are_even(points in prop::array::uniform4(point())) {
            let [_, from, to, _] = points;
            prop_assume!((to - from).length() > 1.0);
            let piece = piece(points.map(Some)).expect("two points");
            let along = |from: f64, to: f64| -> f64 {
                let at = |step: u32| piece.at_length(from + (to - from) * f64::from(step) / 50.0);
                (0..50).map(|step| at(step).distance(at(step + 1))).sum()
            };
            let whole = piece.length(1.0);
            for part in [0.0, 0.25, 0.5, 0.75] {
                let share = along(part, part + 0.25) / whole;
                prop_assert!((share - 0.25).abs() < 0.0025, "{share} from {part} on");
            }
        }
    }

    fn cross([a, b]: &[DVec2; 2], [c, d]: &[DVec2; 2]) -> bool {
        let side = |from: &DVec2, to: &DVec2, at: &DVec2| (*to - *from).perp_dot(*at - *from);
        side(a, b, c) * side(a, b, d) < 0.0 && side(c, d, a) * side(c, d, b) < 0.0
    }
}
