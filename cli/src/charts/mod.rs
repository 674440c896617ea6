//! Curves of a ride's shake, and of several rides. It uses the arguments, for the list of rides.

pub mod plot;
pub mod ridden;
pub mod rides_chart;
pub mod surface;
pub mod thinned;
