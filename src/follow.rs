//! Where the camera wants to look: from the subject to the goal.

use glam::DVec2;

use crate::error::{Report, SettingsError};
use crate::per_axis::PerAxis;
use crate::smoothing::Smoothing;
use crate::subject::Subject;

/// How the view follows its subject: the `[follow]` table of a tuning file.
///
/// ```
/// use velvet_pan::{Follow, Smoothing, glam::DVec2};
///
/// let follow = Follow {
///     anchor: DVec2::new(0.5, 0.65), // a little below the middle: more sky than soil
///     smoothing: Smoothing::HalfLife(0.12).into(),
///     ..Follow::default()
/// };
/// assert_eq!(follow.offset, DVec2::ZERO);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Follow {
    /// The axes on which the subject is followed; on others the view stays. Default both.
    pub axes: Axes,
    /// Where on the screen the subject is held, in fractions of the screen from its top left, each
    /// from 0 to 1. Default the middle.
    pub anchor: DVec2,
    /// From the subject to the point that is followed, in world units. Default none.
    pub offset: DVec2,
    /// How the view comes to its goal, along the world's axes. Default none: at once.
    pub smoothing: PerAxis<Smoothing>,
}

impl Default for Follow {
    fn default() -> Self {
        Self {
            axes: Axes::default(),
            anchor: DVec2::splat(0.5),
            offset: DVec2::ZERO,
            smoothing: PerAxis::default(),
        }
    }
}

impl Follow {
    /// The point that the focus wants to be at, given where it last wanted to be; `None` where
    /// the subject is lost.
    #[inline]
    #[must_use]
    pub fn want(&self, last: DVec2, subject: &Subject) -> Option<DVec2> {
        let want = subject.position + self.offset;
        want.is_finite().then(|| self.axes.pick(want, last))
    }

    pub(crate) fn check(&self, report: Report<'_>) {
        if !(0.0..=1.0).contains(&self.anchor.x) || !(0.0..=1.0).contains(&self.anchor.y) {
            let expected = "two fractions of the screen, each from 0 to 1";
            report(SettingsError::new("follow.anchor", self.anchor, expected));
        }
        if !self.offset.is_finite() {
            let expected = "two finite distances in world units";
            report(SettingsError::new("follow.offset", self.offset, expected));
        }
        self.smoothing.x.check("follow.smoothing", report);
        if self.smoothing.y != self.smoothing.x {
            self.smoothing.y.check("follow.smoothing", report);
        }
    }
}

/// The axes on which the subject is followed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
pub enum Axes {
    /// Along both.
    #[default]
    Both,
    /// Along the world's `x` only.
    X,
    /// Along the world's `y` only.
    Y,
    /// Along neither: the view stays.
    None,
}

impl Axes {
    /// `followed` on the axes that are followed, `kept` on the others.
    #[inline]
    fn pick(self, followed: DVec2, kept: DVec2) -> DVec2 {
        match self {
            Self::Both => followed,
            Self::X => DVec2::new(followed.x, kept.y),
            Self::Y => DVec2::new(kept.x, followed.y),
            Self::None => kept,
        }
    }
}
