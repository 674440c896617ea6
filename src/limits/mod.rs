//! Where the view may be: bounds, leash and ratchet. It uses the earlier folders in the order of a frame: `units`,
//! `lens`, `goal` and `motion`.

pub(crate) mod bounds;
pub(crate) mod last_word;
pub(crate) mod leash;
pub(crate) mod ratchet;
pub(crate) mod sides;
