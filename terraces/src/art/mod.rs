//! The pictures of the tea terraces.

pub mod backdrop;
pub mod courier;
pub mod landmarks;
pub mod marks;
pub mod mist;
pub mod palette;
pub mod reeds;
pub mod ridge;
pub mod sky;
pub mod sprite;
pub mod text;
pub mod tiles;
