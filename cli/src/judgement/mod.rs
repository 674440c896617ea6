//! What is said of figures: whether they are comfortable or within given limits, and what helps. It uses the
//! arguments, and nothing of the commands.

pub mod comfort;
pub mod ladder;
pub mod limits;
pub mod tips;
