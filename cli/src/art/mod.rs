//! The pictures of the tea terraces, drawn here.

pub mod courier;
pub mod marks;
pub mod palette;
pub mod sky;
pub mod sprite;
pub mod text;
pub mod tiles;
