//! The sides of a rectangle.

use alloc::string::String;
use alloc::vec::Vec;

use crate::base::rect::Rect;
use crate::keys::keys::names;
use crate::keys::value::{SettingValue, Value};
use crate::lens::screen::YAxis;

/// A side of a world rectangle, as it is seen on a screen that is not rotated.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
pub enum Side {
    /// The side of the smallest `x`.
    Left,
    /// The side of the largest `x`.
    Right,
    /// The side of the smallest `y`, or if `y` points up, of the largest.
    Top,
    /// The side of the largest `y`, or if `y` points up, of the smallest.
    Bottom,
}

names!(Side { Left = "left", Right = "right", Top = "top", Bottom = "bottom" });

/// Some of the sides of a world rectangle. In a file, a list of names: `["left", "top"]`.
///
/// ```
/// use velvet_pan::{Side, Sides};
///
/// let sides = Sides::from([Side::Left, Side::Top]);
/// assert!(sides.has(Side::Top) && !sides.has(Side::Right));
/// assert_eq!(sides.iter().count(), 2);
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(from = "Vec<Side>", into = "Vec<Side>")
)]
pub struct Sides(u8);

impl Sides {
    const ALL: [Side; 4] = [Side::Left, Side::Right, Side::Top, Side::Bottom];

    /// Returns whether a side is one of them.
    #[must_use]
    pub fn has(self, side: Side) -> bool {
        self.0 & (1 << side as u8) != 0
    }

    /// Returns them one after the other.
    pub fn iter(self) -> impl Iterator<Item = Side> {
        Self::ALL.into_iter().filter(move |side| self.has(*side))
    }

    /// Returns whether no side is one of them.
    #[must_use]
    pub fn is_empty(self) -> bool {
        self.0 == 0
    }

    /// Returns a rectangle whose sides of these are moved to infinity.
    #[inline]
    pub(crate) fn moved_out(self, mut rect: Rect, y_axis: YAxis) -> Rect {
        if self.is_empty() {
            return rect;
        }
        let (min, max) = (&mut rect.min, &mut rect.max);
        for side in self.iter() {
            match (side, y_axis) {
                (Side::Left, _) => min.x = f64::NEG_INFINITY,
                (Side::Right, _) => max.x = f64::INFINITY,
                (Side::Top, YAxis::Down) | (Side::Bottom, YAxis::Up) => min.y = f64::NEG_INFINITY,
                (Side::Top, YAxis::Up) | (Side::Bottom, YAxis::Down) => max.y = f64::INFINITY,
            }
        }
        rect
    }
}

impl FromIterator<Side> for Sides {
    fn from_iter<T: IntoIterator<Item = Side>>(sides: T) -> Self {
        Self(sides.into_iter().fold(0, |all, side| all | (1 << side as u8)))
    }
}

impl<const N: usize> From<[Side; N]> for Sides {
    fn from(sides: [Side; N]) -> Self {
        sides.into_iter().collect()
    }
}

impl From<Vec<Side>> for Sides {
    fn from(sides: Vec<Side>) -> Self {
        sides.into_iter().collect()
    }
}

impl From<Sides> for Vec<Side> {
    fn from(sides: Sides) -> Self {
        sides.iter().collect()
    }
}

impl SettingValue for Sides {
    fn value(&self) -> Option<Value> {
        let name = |side: Side| Side::NAMES[side as usize].as_str().into();
        Some(Value::Names(self.iter().map(name).collect()))
    }

    fn of(value: &Value) -> Option<Self> {
        let Value::Names(names) = value else { return None };
        let side = |name: &String| {
            Self::ALL.into_iter().find(|side| Side::NAMES[*side as usize].as_str() == name)
        };
        names.iter().map(side).collect()
    }
}
