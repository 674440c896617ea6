//! Whole rides: the same at any frame rate, and the same as tiny steps of plain arithmetic.

mod digest;
#[path = "../random_play/mod.rs"]
pub mod random_play;
mod measure;
mod path;
mod stages;
mod tiny_steps;
mod commands;
mod digest_input;
