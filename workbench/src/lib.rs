//! The workbench: play in the tea terraces or ride a take, change the camera's settings while it runs, and compare
//! with the old settings on the same input.
//!
//! [`model`] is everything except the window; [`window`] shows it with egui.

pub mod model;
pub mod window;
