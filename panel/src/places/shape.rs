//! The shapes of places, and how a handle changes them.

use velvet_pan::Rect;
use velvet_pan::glam::DVec2;

/// What a place looks like in the world.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Shape {
    /// A rectangle.
    Rect(Rect),
    /// A point with the distance up to which it works.
    Circle {
        /// The point.
        at: DVec2,
        /// The distance.
        radius: f64,
    },
    /// A point.
    Point(DVec2),
}

/// A part of a shape that can be dragged.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Handle {
    /// The middle of a rectangle, or the point: moves the shape.
    Middle,
    /// A corner of a rectangle, in the order of [`Rect::corners`].
    Corner(usize),
    /// The distance of a circle.
    Radius,
}

/// The farthest place, in world units, and the smallest length.
const MAX_COORDINATE: f64 = 1e9;
const MIN_LENGTH: f64 = 1e-3;

impl Shape {
    /// Returns the handles and where they are in the world.
    #[must_use]
    pub fn handles(&self) -> Vec<(Handle, DVec2)> {
        match *self {
            Self::Rect(rect) => {
                let corners = rect.corners().into_iter().enumerate();
                let corners = corners.map(|(index, at)| (Handle::Corner(index), at));
                corners.chain([(Handle::Middle, rect.centre())]).collect()
            }
            Self::Circle { at, radius } => {
                vec![(Handle::Radius, at + DVec2::new(radius, 0.0)), (Handle::Middle, at)]
            }
            Self::Point(at) => vec![(Handle::Middle, at)],
        }
    }

    /// Returns the shape after it was moved by a distance.
    #[must_use]
    pub fn moved(&self, by: DVec2) -> Self {
        match *self {
            Self::Rect(rect) => Self::Rect(Rect { min: rect.min + by, max: rect.max + by }),
            Self::Circle { at, radius } => Self::Circle { at: at + by, radius },
            Self::Point(at) => Self::Point(at + by),
        }
    }

    /// Returns the shape after a handle was dragged from one world point to another. `snapped` puts a point on the
    /// grid. A rectangle that is dragged inside out is turned over, and nothing shrinks to nothing.
    #[must_use]
    pub fn dragged(
        &self,
        handle: Handle,
        (from, to): (DVec2, DVec2),
        snapped: impl Fn(DVec2) -> DVec2,
    ) -> Self {
        let near =
            |at: DVec2| at.clamp(DVec2::splat(-MAX_COORDINATE), DVec2::splat(MAX_COORDINATE));
        match (*self, handle) {
            (Self::Rect(rect), Handle::Corner(index)) => {
                let corners = rect.corners();
                let (moved, fixed) = (corners[index % 4], corners[(index + 2) % 4]);
                let moved = near(snapped(moved + to - from));
                let (min, max) = (fixed.min(moved), fixed.max(moved));
                Self::Rect(Rect { min, max: max.max(min + MIN_LENGTH) })
            }
            (Self::Rect(rect), _) => {
                let min = near(snapped(rect.min + to - from));
                Self::Rect(Rect { min, max: min + rect.size() })
            }
            (Self::Circle { at, radius }, Handle::Radius) => {
                let end = snapped(at + DVec2::new(radius, 0.0) + to - from);
                Self::Circle { at, radius: (end - at).length().clamp(MIN_LENGTH, MAX_COORDINATE) }
            }
            (Self::Circle { at, radius }, _) => {
                Self::Circle { at: near(snapped(at + to - from)), radius }
            }
            (Self::Point(at), _) => Self::Point(near(snapped(at + to - from))),
        }
    }

    /// Returns the distance of a world point from what is drawn of it.
    #[must_use]
    pub fn distance(&self, world: DVec2) -> f64 {
        match *self {
            Self::Rect(rect) => {
                let outside = (world - rect.nearest(world)).length();
                let inside = (world - rect.min).min(rect.max - world).min_element();
                if rect.contains(world) { inside } else { outside }
            }
            Self::Circle { at, radius } => {
                let away = (world - at).length();
                away.min((away - radius).abs())
            }
            Self::Point(at) => (world - at).length(),
        }
    }

    /// Its numbers: x and y, then width and height, or a radius.
    pub(super) fn numbers(&self) -> [f64; 4] {
        match *self {
            Self::Rect(rect) => [rect.min.x, rect.min.y, rect.size().x, rect.size().y],
            Self::Circle { at, radius } => [at.x, at.y, radius, 0.0],
            Self::Point(at) => [at.x, at.y, 0.0, 0.0],
        }
    }

    /// Returns the shape of the same kind with these numbers.
    pub(super) fn with_numbers(&self, [x, y, width, height]: [f64; 4]) -> Self {
        let at = DVec2::new(x, y);
        match self {
            Self::Rect(_) => Self::Rect(Rect::from_corner_size(
                at,
                [width.max(MIN_LENGTH), height.max(MIN_LENGTH)],
            )),
            Self::Circle { .. } => Self::Circle { at, radius: width.max(MIN_LENGTH) },
            Self::Point(_) => Self::Point(at),
        }
    }
}
