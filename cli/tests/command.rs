//! The tests of the command, in one program. Each file has one subject.

mod anything;
mod bad_input;
mod cameras;
mod check;
mod demo;
mod figures;
mod framing;
mod locate;
mod logs;
mod outputs;
mod own_world;
mod recomputed;
mod tiles;
mod tools;
mod trace;
mod tune;
