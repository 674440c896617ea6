//! The courier: her body, and the run that the demo's path records. It uses the land.

mod body;
pub(crate) mod run;

pub use body::Body;
