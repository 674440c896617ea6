//! The stage that decides where the view is.

/// The stage that decides where the view is on an axis: see [`Camera::decision`](crate::Camera::decision).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Decider {
    /// Smoothing: the view moves towards its goal, or is at it.
    #[default]
    Motion,
    /// The player's hand: a drag, a pan, a zoom about a point, or a `show`.
    Hand,
    /// The leash: the view moves with the subject.
    Leash,
    /// An edge of the bounds, from the settings or from a zone.
    Bounds,
    /// The line behind which a ratchet does not let the view go back.
    Barrier,
    /// An edge of the room.
    Room,
    /// The rail, on which the goal stays.
    Rail,
    /// Steady scrolling.
    Scroll,
    /// Several subjects that are shown together.
    Party,
    /// A change that fades: a glide, a slide to another room, another zone, other settings.
    Transition,
    /// No stage: the axis is not followed.
    Locked,
}

impl Decider {
    /// Returns its name, as in the table of a ride.
    ///
    /// ```
    /// assert_eq!(velvet_pan::Decider::Motion.name(), "motion");
    /// ```
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Self::Motion => "motion",
            Self::Hand => "hand",
            Self::Leash => "leash",
            Self::Bounds => "bounds",
            Self::Barrier => "barrier",
            Self::Room => "room",
            Self::Rail => "rail",
            Self::Scroll => "scroll",
            Self::Party => "party",
            Self::Transition => "transition",
            Self::Locked => "locked",
        }
    }
}

/// The stage that decides where the view is on an axis, and the view's speed there.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Decision {
    /// The stage.
    pub by: Decider,
    /// The speed along the world's axis, in world units per second: 0 at an edge and in a hand, the subject's speed on a
    /// leash.
    pub velocity: f64,
}
