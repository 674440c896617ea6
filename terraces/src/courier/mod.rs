//! The courier: a body, and the run that is recorded as the demo's path. It uses the land.

mod body;
pub(crate) mod run;

pub use body::Body;
