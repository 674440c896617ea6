//! Whole rides: the same at any frame rate, and the same as tiny steps of plain arithmetic.

mod digest;
#[path = "../game/mod.rs"]
pub mod game;
mod measure;
mod path;
mod stages;
mod tiny_steps;
mod told;
mod witness;
