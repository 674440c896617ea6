//! Needed by every command: output that appears whole or not at all, progress, and work on several threads. Of the rest
//! it uses only the name of a take's limits.

pub mod ahead;
pub mod output;
pub mod progress;
pub mod workers;
