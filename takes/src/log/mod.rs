//! Ride logs: what a game told its cameras, call by call, as a take.

mod book;
mod call;
mod calls_file;
mod follower;
mod parts;
mod player;
mod read;
mod ride_log;
mod shown_view;
mod story;

pub use book::{Keep, LogOptions};
pub use follower::{LogFollower, LogNews};
pub use parts::newest_part;
pub use player::Differs;
pub use read::Log;
pub use ride_log::RideLog;
pub use shown_view::ShownView;

pub(crate) use player::Player;
pub(crate) use story::Story;
