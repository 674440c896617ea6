//! Charts of rides: curves over time, and the ways seen from above. It uses the arguments, for the list of rides.

pub mod from_above;
pub mod over_time;
pub mod plot;
pub mod ridden;
pub mod rides_chart;
pub mod surface;
pub mod thinned;
