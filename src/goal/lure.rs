//! Points of interest that pull the view.

use glam::DVec2;

use crate::base::rect::Rect;
use crate::curves::ease::Ease;
use crate::keys::keys::settings;
use crate::keys::setting::Setting;

/// A point of interest that pulls the goal towards itself: an entry of `[[lures]]` in a tuning file.
///
/// The goal moves by `strength · smoothstep(1 − distance/radius)` of the way to the lure, where
/// `smoothstep(n) = n²·(3 − 2n)`. At the radius and beyond, the pull is 0.
///
/// ```
/// use velvet_pan::{Lure, glam::DVec2};
///
/// let bell = Lure { at: DVec2::new(100.0, 0.0), radius: 100.0, strength: 0.5 };
/// assert_eq!(Lure::pull(&[bell], DVec2::ZERO), DVec2::ZERO); // just out of reach
/// assert_eq!(Lure::pull(&[bell], DVec2::new(50.0, 0.0)), DVec2::new(62.5, 0.0));
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(deny_unknown_fields)
)]
pub struct Lure {
    /// Its position, in world units.
    pub at: DVec2,
    /// The distance up to which it pulls, in world units, above 0.
    pub radius: f64,
    /// The largest fraction of the way by which it pulls, from 0 to 1. Default 0.5.
    #[cfg_attr(feature = "serde", serde(default = "half"))]
    pub strength: f64,
}

settings!(Lure {
    at = Setting::pair("at", "its position", "a world point").measured("world units").required();
    radius = Setting::number("radius", "the distance up to which it pulls", "a distance in world units")
        .measured("world units").above(0.0, 1e9).usual_from(16.0, 640.0)
        .required();
    strength = Setting::number("strength", "the largest fraction of the way by which it pulls", "a fraction of the way")
        .from(0.0, 1.0);
});

#[cfg(feature = "serde")]
fn half() -> f64 {
    0.5
}

impl Lure {
    /// Returns `goal` as these lures pull it, in world units. The pulls of several lures are added. If their fractions
    /// add up to more than 1, the sum is divided by it.
    #[must_use]
    pub fn pull(lures: &[Self], goal: DVec2) -> DVec2 {
        Self::pull_of(lures.iter(), goal)
    }

    pub(crate) fn pull_of<'a>(lures: impl Iterator<Item = &'a Self>, goal: DVec2) -> DVec2 {
        let (mut way, mut all) = (DVec2::ZERO, 0.0);
        for lure in lures {
            let to = lure.at - goal;
            if lure.reaches(goal) {
                let near = 1.0 - libm::sqrt(to.length_squared()) / lure.radius;
                let share = lure.strength * Ease::InOut.at(near);
                way += to * share;
                all += share;
            }
        }
        if all > 1.0 { goal + way / all } else { goal + way }
    }

    /// Returns the square around everything within its radius.
    pub(crate) fn region(&self) -> Rect {
        Rect { min: self.at - self.radius, max: self.at + self.radius }
    }

    /// Returns whether it pulls a goal here.
    pub(crate) fn reaches(&self, goal: DVec2) -> bool {
        self.at.distance_squared(goal) < self.radius * self.radius
    }
}
