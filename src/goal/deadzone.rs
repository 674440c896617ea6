//! A zone of the screen in which the subject moves without moving the view.

use glam::DVec2;

use crate::base::maths::clamp_point;
use crate::keys::keys::settings;
use crate::keys::setting::Setting;

/// How far the subject may be from its anchor before the goal follows, on each side, in fractions of the screen.
///
/// The goal moves only as far as needed to keep the subject in the zone:
/// `goal' = clamp(goal, want − right·V, want + left·V)`, where `want` is the subject with its offset and look-ahead, and
/// `V` the view's size. The same holds for `bottom` and `top`.
///
/// ```
/// use velvet_pan::{Deadzone, glam::DVec2};
///
/// let zone = Deadzone { left: 0.1, right: 0.1, top: 0.2, bottom: 0.1 };
/// let view = DVec2::new(320.0, 180.0);
/// // The subject may be 32 to the right; the goal moves only for what is beyond that.
/// assert_eq!(zone.goal(DVec2::ZERO, DVec2::new(30.0, 0.0), view), DVec2::ZERO);
/// assert_eq!(zone.goal(DVec2::ZERO, DVec2::new(40.0, 0.0), view), DVec2::new(8.0, 0.0));
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Deadzone {
    /// The distance to the left of the anchor, from 0 to 1. Default 0.
    pub left: f64,
    /// The distance to the right of the anchor, from 0 to 1. Default 0.
    pub right: f64,
    /// The distance above the anchor, from 0 to 1. Default 0.
    pub top: f64,
    /// The distance below the anchor, from 0 to 1. Default 0.
    pub bottom: f64,
}

settings!(Deadzone {
    left = Setting::number("left", "how far to the left of its anchor the subject moves without the view", "a fraction of the screen")
        .measured("of the screen").from(0.0, 1.0).usual_from(0.0, 0.5);
    right = Setting::number("right", "how far to the right of its anchor the subject moves without the view", "a fraction of the screen")
        .measured("of the screen").from(0.0, 1.0).usual_from(0.0, 0.5);
    top = Setting::number("top", "how far above its anchor the subject moves without the view", "a fraction of the screen")
        .measured("of the screen").from(0.0, 1.0).usual_from(0.0, 0.5);
    bottom = Setting::number("bottom", "how far below its anchor the subject moves without the view", "a fraction of the screen")
        .measured("of the screen").from(0.0, 1.0).usual_from(0.0, 0.5);
});

impl Deadzone {
    /// Returns `goal`, moved only as far as needed for `want` to be in the zone around it:
    /// `clamp(goal, want − right·V, want + left·V)`, and the same with bottom and top. All positions are along the
    /// screen's axes, `y` down, in world units. `view` is the view's size.
    #[inline]
    #[must_use]
    pub fn goal(&self, goal: DVec2, want: DVec2, view: DVec2) -> DVec2 {
        let low = want - DVec2::new(self.right, self.bottom) * view;
        let high = want + DVec2::new(self.left, self.top) * view;
        clamp_point(goal, low, high)
    }
}
