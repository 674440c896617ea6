//! The quick tests of the library. Each file has one subject; together they are one program, because forty would take
//! minutes to build. The long searches are in `searches.rs`.

mod allocations;
mod api;
mod bodies;
mod calls;
mod commands;
mod cameras;
mod changes;
mod composition;
mod due;
mod following;
mod module_order;
#[cfg(all(feature = "bytemuck", feature = "mint"))]
mod interchange;
mod itinerary;
mod live_settings;
mod lost_ground;
mod odd_numbers;
mod outlines;
mod pages;
mod pixels;
mod player;
mod rails;
mod rooms;
mod shaking;
mod smoothness;
mod spaces;
mod support;
mod travel;
mod during_changes;
mod smoothing;
#[cfg(feature = "serde")]
mod written;
mod zones;
