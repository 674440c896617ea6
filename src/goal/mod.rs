//! Where the camera looks: the subject or a party, and the stages that shape the goal (look-ahead, deadzone, rooms,
//! lures, a rail, steady scrolling). It uses `base`, `keys`, `curves` and `lens`.

pub(crate) mod air;
pub(crate) mod deadzone;
pub(crate) mod look_ahead;
pub(crate) mod lure;
pub(crate) mod member;
pub(crate) mod party;
pub(crate) mod party_memory;
pub(crate) mod party_zoom;
pub(crate) mod rail;
pub(crate) mod rooms;
pub(crate) mod scroll;
pub(crate) mod subject;
