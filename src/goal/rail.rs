//! A line along which the view moves.

use alloc::vec::Vec;

use glam::DVec2;

use crate::base::maths::mix;
use crate::curves::curve;
use crate::keys::keys::{names, settings};
use crate::keys::setting::{Setting, SettingKind};

/// A polyline on which the goal stays: the `[rail]` table of a tuning file.
///
/// The goal becomes the nearest point of the rail. The search starts at the last position on the rail and goes only
/// towards nearer points, so that the goal does not jump where the rail passes close to itself. With `speed` the goal
/// travels along the rail by itself.
///
/// Thousands of corners, as from a curve tool, are fine: corners without which the rail moves by less than 1/50 screen
/// pixel at the largest zoom are left out.
///
/// ```
/// use velvet_pan::{Camera, Rail, Settings, glam::DVec2};
///
/// let points = vec![DVec2::new(0.0, 100.0), DVec2::new(500.0, 100.0), DVec2::new(900.0, 300.0)];
/// let mut camera = Camera::new(Settings { rail: Some(Rail { points, ..Rail::default() }), ..Settings::default() })?;
/// assert_eq!(camera.follow(0.0, [200, 180]).centre(), DVec2::new(200.0, 100.0));
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Rail {
    /// The corners, in world units; at least two.
    pub points: Vec<DVec2>,
    /// The speed along the rail, from its start, in world units per second. Negative values go backwards from the start.
    /// Default `None`: the subject moves the goal.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub speed: Option<f64>,
    /// How the rail goes from corner to corner. Default `Corners`.
    pub curve: RailCurve,
}

/// How a rail goes through its points.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum RailCurve {
    /// In straight lines.
    #[default]
    Corners,
    /// In a smooth curve through all points, like that of a [`Travel`](crate::Travel). Between two points it is at most a
    /// quarter of their distance beside the line.
    Smooth,
}

names!(RailCurve { Corners = "corners", Smooth = "smooth" });

settings!(Rail {
    points = Setting::other("points", SettingKind::Points, "the polyline on which the goal stays", "world points, each coordinate at most 1e100")
        .measured("world units").required();
    speed = Setting::number("speed", "the speed with which the goal travels along the polyline, negative for backwards; without it the subject moves the goal", "a speed in world units per second")
        .measured("world units/s").from(-1e6, 1e6).usual_from(-200.0, 200.0).optional();
    curve = Setting::choice("curve", "how the polyline goes from point to point", RailCurve::NAMES);
});

/// A rail with the arc length at each of its corners. A position on it is a single number, the distance from its
/// start.
#[derive(Clone, Debug, Default)]
pub(crate) struct RailTrack {
    points: Vec<DVec2>,
    /// The distance from the start to each corner, one for each point.
    lengths: Vec<f64>,
    speed: Option<f64>,
}

impl RailTrack {
    /// Returns the rail without corners at which it bends by less than `unseen`, in world units.
    pub fn new(rail: &Rail, unseen: f64) -> Self {
        let points = match rail.curve {
            RailCurve::Corners => &rail.points,
            RailCurve::Smooth => &curve::flatten(&rail.points, unseen),
        };
        let mut length = 0.0;
        let steps = points.windows(2).map(|pair| {
            length += pair[0].distance(pair[1]);
            length
        });
        let lengths: Vec<f64> = core::iter::once(0.0).chain(steps).collect();
        let corners = seen_corners(points, unseen);
        Self {
            points: corners.iter().map(|corner| points[*corner]).collect(),
            lengths: corners.iter().map(|corner| lengths[*corner]).collect(),
            speed: rail.speed,
        }
    }

    fn last_piece(&self) -> usize {
        self.points.len().saturating_sub(2)
    }

    /// Returns the piece between two corners that contains a position, and the fraction of that piece.
    fn place(&self, arc: f64) -> (usize, f64) {
        let piece = self.lengths.partition_point(|length| *length <= arc).saturating_sub(1);
        let piece = piece.min(self.last_piece());
        let (start, end) = (self.lengths[piece], self.lengths[piece + 1]);
        let fraction = if end > start { (arc - start) / (end - start) } else { 0.0 };
        (piece, fraction.clamp(0.0, 1.0))
    }

    fn arc(&self, piece: usize, fraction: f64) -> f64 {
        let (start, end) = (self.lengths[piece], self.lengths[piece + 1]);
        if fraction >= 1.0 { end } else { start + (end - start) * fraction }
    }

    fn point_of(&self, piece: usize, fraction: f64) -> DVec2 {
        mix(self.points[piece], self.points[piece + 1], fraction)
    }

    /// Returns the world point of a position.
    pub fn point(&self, arc: f64) -> DVec2 {
        let (piece, fraction) = self.place(arc);
        self.point_of(piece, fraction)
    }

    /// Returns the ends of the piece that contains a position.
    pub fn ends(&self, arc: f64) -> [DVec2; 2] {
        let (piece, _) = self.place(arc);
        [self.points[piece], self.points[piece + 1]]
    }

    /// Returns the projection of a point onto a piece, as an unclamped fraction of the piece.
    fn along(&self, piece: usize, point: DVec2) -> f64 {
        projection([self.points[piece], self.points[piece + 1]], point)
    }

    /// Returns the position that is nearest of all.
    pub fn nearest(&self, point: DVec2) -> f64 {
        let mut nearest = (f64::INFINITY, 0.0);
        for piece in 0..=self.last_piece() {
            let fraction = self.along(piece, point).clamp(0.0, 1.0);
            let away = self.point_of(piece, fraction).distance_squared(point);
            if away < nearest.0 {
                nearest = (away, self.arc(piece, fraction));
            }
        }
        nearest.1
    }

    /// Returns the nearest position that is reached from `last` by moving ever nearer.
    pub fn nearest_from(&self, last: f64, point: DVec2) -> f64 {
        let at = |piece: usize| {
            let fraction = self.along(piece, point).clamp(0.0, 1.0);
            (fraction, self.point_of(piece, fraction).distance_squared(point))
        };
        let (mut piece, _) = self.place(last);
        let (mut fraction, mut away) = at(piece);
        for _piece in 0..=self.last_piece() {
            let next = match fraction {
                1.0 if piece < self.last_piece() => piece + 1,
                0.0 if piece > 0 => piece - 1,
                _ => break,
            };
            let (other, nearer) = at(next);
            let turned_back = if next > piece { other == 0.0 } else { other == 1.0 };
            if turned_back || nearer > away {
                break;
            }
            (piece, fraction, away) = (next, other, nearer);
        }
        self.arc(piece, fraction)
    }

    /// Returns the point of the rail for a goal after one short step, and remembers it.
    pub fn step(&self, goal: DVec2, arc: &mut f64, seconds: f64) -> DVec2 {
        let end = self.lengths[self.lengths.len() - 1];
        *arc = match self.speed {
            Some(speed) => (*arc + speed * seconds).clamp(0.0, end),
            None => self.nearest_from(*arc, goal),
        };
        self.point(*arc)
    }
}

/// Returns the projection of a point onto a line, as a fraction of the way between two points on it; 0 if they are the
/// same.
fn projection([from, to]: [DVec2; 2], point: DVec2) -> f64 {
    let way = to - from;
    let length = way.length_squared();
    if length > 0.0 { (point - from).dot(way) / length } else { 0.0 }
}

/// Returns the corners of a polyline, by their indices, without which it would be moved by `unseen` or more: both ends
/// and, between two that are kept, the one that is farthest away from the line between them, as long as it is that far
/// away.
///
/// David Douglas and Thomas Peucker, "Algorithms for the reduction of the number of points required to represent a
/// digitized line or its caricature", 1973.
fn seen_corners(points: &[DVec2], unseen: f64) -> Vec<usize> {
    let Some(last) = points.len().checked_sub(1) else { return Vec::new() };
    let mut kept = alloc::vec![0];
    let mut ends = alloc::vec![last];
    while let (Some(&from), Some(&to)) = (kept.last(), ends.last()) {
        let line = [points[from], points[to]];
        let away = |corner: &usize| {
            let at = projection(line, points[*corner]).clamp(0.0, 1.0);
            mix(line[0], line[1], at).distance(points[*corner])
        };
        let farthest = (from + 1..to).max_by(|a, b| away(a).total_cmp(&away(b)));
        match farthest.filter(|corner| away(corner) >= unseen) {
            Some(corner) => ends.push(corner),
            None => {
                kept.push(to);
                ends.pop();
            }
        }
    }
    kept
}
