//! Pictures of many frames: contact sheets, several rides side by side, and the plan of a view's tiles.

pub mod plan;
pub mod reel;
pub mod sheet;
