//! Structs that name several stages: all settings of a camera, of following, and of a zone. It uses every
//! stage, and holds nothing that changes from frame to frame but the memory of the zones.

pub(crate) mod follow;
pub(crate) mod settings;
pub(crate) mod zone;
