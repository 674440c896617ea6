//! The demo world: tea terraces at dusk, their courier Wren, and their pictures.
//!
//! Code creates the land, the courier's run and all pictures. Takes of the user are drawn with their own pictures, or
//! plainly. Nothing here is part of the library.

pub mod art;
#[cfg(feature = "card")]
mod atlas;
#[cfg(feature = "card")]
pub mod card;
pub mod cel;
mod cellar;
mod courier;
pub mod files;
pub mod garden;
mod ground;
mod house;
mod kite;
mod land;
pub mod map_art;
mod map_text;
pub mod own;
pub mod paint;
pub mod picture;
pub mod scene;
pub mod scenery;

pub use courier::Body;
pub use kite::kite;
pub use land::Land;
