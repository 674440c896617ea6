//! Where a world is shown that is smaller than the view.

use crate::keys::keys::names;

/// Where the world is shown on an axis on which it is smaller than the view.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum SmallWorld {
    /// The world in the middle of the screen.
    #[default]
    Centre,
    /// The world at the screen's left or top edge.
    Start,
    /// The world at the screen's right or bottom edge.
    End,
}

names!(SmallWorld { Centre = "centre", Start = "start", End = "end" });
