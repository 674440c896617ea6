//! Long searches: many random rides, views and sprites, and a day of play. Each file has one subject.

mod chunks;
mod layers;
mod party;
mod presenting;
mod invariants;
#[path = "rides/main.rs"]
mod rides;
mod rollback;
mod soak;
mod sprites;
mod support;
mod symmetries;
mod tiling;
