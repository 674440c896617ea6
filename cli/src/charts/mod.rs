//! Curves: of a ride's shake, and of rides side by side. It uses the arguments for what was ridden.

pub mod plot;
pub mod ridden;
pub mod rides_chart;
pub mod svg;
pub mod thinned;
