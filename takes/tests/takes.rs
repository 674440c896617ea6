//! The tests of takes, in one program. Each file has one subject.

mod events;
mod figures;
mod files;
mod own_world;
mod reference;
mod ride_log;
mod saved;
mod settings;
mod tools;
mod tuning_file;
