//! A line that the view travels along.

use alloc::vec::Vec;

use glam::DVec2;

use crate::units::error::{Report, SettingsError, check};

/// A polyline that the goal is held on: the `[rail]` table of a tuning file. The goal is the point of
/// the rail nearest to where it would be, looked for from where it was: a rail that comes near itself
/// is not jumped across. With a speed it travels along by itself.
///
/// The mistake it prevents is a view that cuts the corners of a level that was composed by hand.
///
/// ```
/// use velvet_pan::{Camera, Rail, Settings, glam::DVec2};
///
/// let points = vec![DVec2::new(0.0, 100.0), DVec2::new(500.0, 100.0), DVec2::new(900.0, 300.0)];
/// let mut camera = Camera::new(Settings { rail: Some(Rail { points, speed: None }), ..Settings::default() })?;
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
    /// Its corners, in world units; at least two.
    pub points: Vec<DVec2>,
    /// World units per second along it, from its start; below 0 backwards. Default none: the subject
    /// takes the view along.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub speed: Option<f64>,
}

/// A position on a rail.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct RailPosition {
    /// The piece between two corners, and the part of it, from 0 to 1.
    piece: u32,
    fraction: f64,
}

impl Rail {
    /// Pieces between two corners.
    fn pieces(&self) -> u32 {
        self.points.len().saturating_sub(1) as u32
    }

    /// The two ends of the piece that a position is on.
    pub(crate) fn ends(&self, position: RailPosition) -> [DVec2; 2] {
        self.piece(position.piece.min(self.pieces().saturating_sub(1))).into()
    }

    fn piece(&self, piece: u32) -> (DVec2, DVec2) {
        let corner = |at: usize| self.points.get(at).copied().unwrap_or_default();
        (corner(piece as usize), corner(piece as usize + 1))
    }

    /// The world point of a position.
    pub(crate) fn point(&self, position: RailPosition) -> DVec2 {
        let (from, to) = self.piece(position.piece.min(self.pieces().saturating_sub(1)));
        from + (to - from) * position.fraction
    }

    /// The place of a piece that is nearest to a point.
    fn nearest_of(&self, piece: u32, point: DVec2) -> RailPosition {
        let (from, to) = self.piece(piece);
        let way = to - from;
        let length = way.length_squared();
        let fraction = if length > 0.0 { (point - from).dot(way) / length } else { 0.0 };
        RailPosition { piece, fraction: fraction.clamp(0.0, 1.0) }
    }

    /// The position that is nearest of all.
    pub(crate) fn nearest(&self, point: DVec2) -> RailPosition {
        let position = |piece: u32| self.nearest_of(piece, point);
        let away = |position: &RailPosition| self.point(*position).distance_squared(point);
        let least = |a: RailPosition, b: RailPosition| if away(&b) < away(&a) { b } else { a };
        (0..self.pieces()).map(position).reduce(least).unwrap_or_default()
    }

    /// The nearest position that is reached from `last` by going ever nearer.
    pub(crate) fn nearest_from(&self, last: RailPosition, point: DVec2) -> RailPosition {
        let away = |position: &RailPosition| self.point(*position).distance_squared(point);
        let mut position = self.nearest_of(last.piece.min(self.pieces().saturating_sub(1)), point);
        for _piece in 0..self.pieces() {
            let next = match position.fraction {
                1.0 if position.piece + 1 < self.pieces() => position.piece + 1,
                0.0 if position.piece > 0 => position.piece - 1,
                _ => break,
            };
            let other = self.nearest_of(next, point);
            let turned_back =
                if next > position.piece { other.fraction == 0.0 } else { other.fraction == 1.0 };
            if turned_back || away(&other) > away(&position) {
                break;
            }
            position = other;
        }
        position
    }

    /// The position `way` world units further along; at most the end.
    pub(crate) fn along(&self, mut position: RailPosition, mut way: f64) -> RailPosition {
        for _piece in 0..=self.pieces() {
            let (from, to) = self.piece(position.piece);
            let length = from.distance(to);
            let at = position.fraction * length + way;
            if (0.0..=length).contains(&at) && length > 0.0 {
                return RailPosition { fraction: at / length, ..position };
            }
            let forwards = at > length || (length == 0.0 && way >= 0.0);
            if forwards && position.piece + 1 < self.pieces() {
                (position, way) =
                    (RailPosition { piece: position.piece + 1, fraction: 0.0 }, at - length);
            } else if !forwards && position.piece > 0 {
                (position, way) = (RailPosition { piece: position.piece - 1, fraction: 1.0 }, at);
            } else {
                return RailPosition { fraction: if forwards { 1.0 } else { 0.0 }, ..position };
            }
        }
        position
    }

    pub(crate) fn check(&self, report: Report<'_>) {
        if self.points.len() < 2 {
            let expected = "two points or more";
            report(SettingsError::new("rail.points", self.points.len() as f64, expected));
        }
        if let Some(bad) = self.points.iter().find(|point| !point.is_finite()) {
            report(SettingsError::new("rail.points", *bad, "world points"));
        }
        if let Some(speed) = self.speed {
            let expected = "world units per second, from -1000000 to 1000000";
            check(report, "rail.speed", speed, -1e6..=1e6, expected);
        }
    }
}
