//! The tests of the library, in one program: forty would be built much more slowly. Each file has one subject.

mod allocations;
mod api;
mod calls;
mod cameras;
mod changes;
mod chunks;
mod composition;
mod following;
mod house;
mod layers;
mod live_settings;
mod odd_numbers;
mod pages;
mod party;
mod pixels;
mod places;
mod presenting;
mod promises;
#[path = "rides/main.rs"]
mod rides;
mod shaking;
mod smoothness;
mod soak;
mod spaces;
mod sprites;
mod support;
mod tiling;
mod under_way;
mod units;
#[cfg(feature = "serde")]
mod written;
