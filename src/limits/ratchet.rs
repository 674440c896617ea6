//! A camera that scrolls in one direction only.

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::rect::Rect;
use crate::base::sound::sound;
use crate::keys::keys::names;
use crate::lens::lens::Lens;
use crate::lens::screen::YAxis;

/// The one direction of the screen in which the view may move. It never goes back.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Ratchet {
    /// All directions: no ratchet.
    #[default]
    None,
    /// Only to the right.
    Right,
    /// Only to the left.
    Left,
    /// Only down.
    Down,
    /// Only up.
    Up,
}

names!(Ratchet { None = "none", Right = "right", Left = "left", Down = "down", Up = "up" });

/// The world line behind which a ratcheted view does not go back. Use [`stop`](Self::stop) to keep the player in front
/// of it.
///
/// ```
/// use velvet_pan::{Camera, Ratchet, Settings};
///
/// let mut settings = Settings::default();
/// settings.follow.ratchet = Ratchet::Right;
/// let mut camera = Camera::new(settings)?;
/// camera.follow(0.0, [500, 90]);
/// camera.follow(0.1, [300, 90]); // the view does not go back
///
/// let barrier = camera.barrier().expect("a ratchet leaves one");
/// assert_eq!(barrier.at, 340.0); // the screen's left edge
/// assert_eq!(barrier.stop([300.0, 90.0], 8.0).x, 348.0); // the player, 16 wide
/// assert_eq!(barrier.stop([400.0, 90.0], 8.0).x, 400.0); // already past it
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct Barrier {
    /// Whether the line is horizontal, at a value of `y`; otherwise it is vertical.
    across_y: bool,
    /// Whether the allowed side is that of the larger coordinates.
    above: bool,
    /// The line's world coordinate.
    pub at: f64,
}

sound!(Barrier { across_y, above, at });

impl Barrier {
    /// Returns the line behind a view that shows `visible`, or `None` without a ratchet.
    pub(crate) fn behind(ratchet: Ratchet, visible: &Rect, y_axis: YAxis) -> Option<Self> {
        let (axis, above) = match (ratchet, y_axis) {
            (Ratchet::None, _) => return None,
            (Ratchet::Right, _) => (0, true),
            (Ratchet::Left, _) => (0, false),
            (Ratchet::Down, YAxis::Down) | (Ratchet::Up, YAxis::Up) => (1, true),
            (Ratchet::Down, YAxis::Up) | (Ratchet::Up, YAxis::Down) => (1, false),
        };
        let edge = if above { visible.min } else { visible.max };
        Some(Self { across_y: axis == 1, above, at: edge[axis] })
    }

    /// This line or an earlier one of the same kind, whichever is farther on.
    pub(crate) fn after(self, earlier: Option<Self>) -> Self {
        match earlier
            .filter(|earlier| (earlier.across_y, earlier.above) == (self.across_y, self.above))
        {
            Some(earlier) if self.above => Self { at: self.at.max(earlier.at), ..self },
            Some(earlier) => Self { at: self.at.min(earlier.at), ..self },
            None => self,
        }
    }

    /// Returns whether the line is at a `y` coordinate. Otherwise it is at an `x` coordinate.
    #[must_use]
    pub fn is_across_y(&self) -> bool {
        self.across_y
    }

    /// Returns a body's position, moved to the allowed side of the line if needed, in world units. `half` is half of the
    /// body's width (for a line across `y`, of its height).
    ///
    /// ```
    /// # use velvet_pan::{Camera, Ratchet, Settings};
    /// let mut settings = Settings::default();
    /// settings.follow.ratchet = Ratchet::Right;
    /// let mut camera = Camera::new(settings)?;
    /// camera.follow(0.0, [400, 300]); // the screen shows x from 240
    /// let barrier = camera.barrier().unwrap();
    /// assert_eq!(barrier.stop([200, 300], 5.0), [245.0, 300.0].into());
    /// assert_eq!(barrier.stop([300, 300], 5.0), [300.0, 300.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn stop(&self, position: impl IntoWorld, half: f64) -> DVec2 {
        let mut position = position.into_world();
        let value = &mut position[usize::from(self.across_y)];
        *value = if self.above { value.max(self.at + half) } else { value.min(self.at - half) };
        position
    }

    /// Returns the rest of a range of the view's centre; the range itself always wins. `half` is half of the visible
    /// rectangle.
    #[inline]
    pub(crate) fn cut(&self, mut range: Rect, half: DVec2) -> Rect {
        let axis = usize::from(self.across_y);
        let (low, high) = (range.min[axis], range.max[axis]);
        if self.above {
            range.min[axis] = (self.at + half[axis]).max(low).min(high);
        } else {
            range.max[axis] = (self.at - half[axis]).min(high).max(low);
        }
        range
    }

    /// Returns the smallest zoom at which a view fits between this line and the far edge of the bounds, so that zooming
    /// out need not move the line back; 0 if the line is outside. `lens` is at zoom 1.
    pub(crate) fn least_zoom(&self, bounds: &Rect, lens: &Lens) -> f64 {
        let axis = usize::from(self.across_y);
        let (low, high) = (bounds.min[axis], bounds.max[axis]);
        let left = if self.above { high - self.at } else { self.at - low };
        // A line outside, or at the world's edge, belongs to a view that may be larger than the world, which the ratchet
        // does not limit.
        if left <= 0.0 || left >= (high - low) * (1.0 - 1e-12) {
            return 0.0;
        }
        // The rounding of the line itself must not zoom in.
        lens.half_extents()[axis] * 2.0 / left * (1.0 - 1e-12)
    }

    /// Returns the centre, along its axis, of a view whose edge is at the line. `half` is half of the visible rectangle.
    #[inline]
    pub(crate) fn centre_at(&self, half: DVec2) -> f64 {
        let half = self.across(half);
        if self.above { self.at + half } else { self.at - half }
    }

    /// Returns the part of a size across the line.
    #[inline]
    pub(crate) fn across(&self, size: DVec2) -> f64 {
        size[usize::from(self.across_y)]
    }

    /// How far it is behind another line of the same kind.
    #[inline]
    pub(crate) fn behind_by(&self, other: &Self) -> f64 {
        if self.above { other.at - self.at } else { self.at - other.at }
    }

    /// Returns whether a movement along its axis goes forwards.
    #[inline]
    pub(crate) fn is_onwards(&self, way: f64) -> bool {
        if self.above { way > 0.0 } else { way < 0.0 }
    }

    /// Returns the line, moved.
    #[inline]
    pub(crate) fn moved_by(self, way: f64) -> Self {
        Self { at: self.at + way, ..self }
    }

    /// Moves the line with everything else.
    pub(crate) fn translate(&mut self, delta: DVec2) {
        self.at += delta[usize::from(self.across_y)];
    }
}
