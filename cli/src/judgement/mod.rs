//! Judges rides and files: whether figures are comfortable or within limits, and what helps. It uses the arguments and
//! nothing of the commands.

pub mod comfort;
pub mod ladder;
pub mod limits;
pub mod table;
pub mod tips;
