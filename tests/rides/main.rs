//! Whole rides: the same at any frame rate, and the same as tiny steps of plain arithmetic.

mod digest;
#[path = "../random_play/mod.rs"]
pub mod random_play;
mod before;
mod frame_rates;
mod path;
mod games;
mod jumps;
mod known;
mod repeated;
mod restored;
mod ride;
mod stages;
mod tiny_steps;
mod commands;
mod digest_input;
