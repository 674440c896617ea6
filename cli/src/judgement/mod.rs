//! Judges rides and files: whether figures are comfortable or within limits, what helps, and which values are
//! unlikely. It uses the arguments and nothing of the commands.

pub mod comfort;
pub mod ladder;
pub mod limits;
mod outlines;
mod scale;
pub mod table;
pub mod tips;
pub mod warnings;
mod window;
