//! Which stage decides where the view is.

/// The stage that decides where the view is on an axis: ask [`Camera::last_word`](crate::Camera::last_word).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Decider {
    /// Smoothing, on its way to the goal or at it.
    #[default]
    Motion,
    /// A hand: a drag, a pan, a pinned zoom, or a rectangle that is shown.
    Hand,
    /// The leash, which takes the view along with the subject.
    Leash,
    /// An edge of the bounds, of the settings or of a zone.
    Bounds,
    /// The line that a ratchet has left behind.
    Barrier,
    /// An edge of the room.
    Room,
    /// Nothing: the axis is not followed.
    Locked,
}

/// The stage that decides on an axis, and how fast the view goes there.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct LastWord {
    /// The stage.
    pub by: Decider,
    /// World units per second along the world's axis: 0 at an edge and in a hand, the subject's on a
    /// leash.
    pub velocity: f64,
}
