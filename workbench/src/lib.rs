//! The workbench: play in the tea terraces or ride a take, change the camera's numbers while it runs, and
//! compare with before on the same input.
//!
//! [`mod@bench`] is all of it but the window; [`window`] shows it, with egui.

pub mod bench;
pub mod window;
