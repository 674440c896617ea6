//! The distance that the subject may have from its anchor before smoothing is overridden.

use glam::DVec2;

use crate::keys::value::{SettingValue, Value};

/// The largest distance of the subject from its anchor, per axis, in fractions of the screen.
///
/// The leash overrides smoothing, and never lets the subject leave the screen. It is measured from the subject's own
/// position: look-ahead and `follow.offset` do not count.
///
/// ```
/// use velvet_pan::{Leash, glam::DVec2};
///
/// let leash = Leash(DVec2::new(0.4, 0.4));
/// let (anchor, view) = (DVec2::splat(0.5), DVec2::new(320.0, 180.0));
/// // A subject 200 to the right of the focus may be 128 away: the focus moves by 72.
/// let focus = leash.clamp(DVec2::ZERO, DVec2::new(200.0, 0.0), anchor, view);
/// assert_eq!(focus, DVec2::new(72.0, 0.0));
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(transparent))]
pub struct Leash(
    /// The distance along the screen's x and y, each from 0 to 1.
    pub DVec2,
);

impl Leash {
    /// Returns `focus`, moved as little as needed to keep the subject on its leash. All positions are along the screen's
    /// axes, `y` down, in world units. `view` is the view's size.
    #[inline]
    #[must_use]
    pub fn clamp(&self, focus: DVec2, subject: DVec2, anchor: DVec2, view: DVec2) -> DVec2 {
        let [before, after] = self.lengths(anchor, view);
        focus.max(subject - after).min(subject + before)
    }

    /// Returns how far the focus may be after the subject, and how far before it: along the screen's axes, in world units.
    #[inline]
    pub(crate) fn lengths(&self, anchor: DVec2, view: DVec2) -> [DVec2; 2] {
        [self.0.min(anchor) * view, self.0.min(1.0 - anchor) * view]
    }
}

impl SettingValue for Leash {
    fn value(&self) -> Option<Value> {
        self.0.value()
    }

    fn of(value: &Value) -> Option<Self> {
        DVec2::of(value).map(Self)
    }
}
