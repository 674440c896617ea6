//! Where the view may be: bounds and outlines, leash and ratchet. It uses `base`, `keys`
//! and `lens`.

pub(crate) mod bounds;
pub(crate) mod halls;
pub(crate) mod decision;
pub(crate) mod leash;
pub(crate) mod outline;
pub(crate) mod ratchet;
pub(crate) mod sides;
pub(crate) mod small_world;
pub(crate) mod turned_box;
pub(crate) mod walls;
