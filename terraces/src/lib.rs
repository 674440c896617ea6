//! The demo world: tea terraces at dusk, their courier Wren, and how they are drawn.
//!
//! The land and the courier's run are made by code; all pictures are drawn by code. Nothing here is
//! part of the library.

pub mod art;
#[cfg(feature = "card")]
mod atlas;
#[cfg(feature = "card")]
pub mod card;
pub mod cel;
mod courier;
pub mod files;
mod house;
mod kite;
mod land;
pub mod paint;
pub mod picture;
pub mod scene;
pub mod stage;

pub use courier::Body;
pub use kite::kite;
pub use land::Land;
