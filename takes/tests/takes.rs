//! The tests of takes, in one program. Each file has one subject.

mod events;
mod figures;
mod files;
mod own_world;
#[path = "../../tests/rides/known.rs"]
mod known;
#[path = "../../tests/random_play/mod.rs"]
mod random_play;
mod random_logs;
mod reference;
mod ride_log;
mod saved;
mod settings;
mod tools;
mod tuning_file;
