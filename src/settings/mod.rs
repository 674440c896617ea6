//! Structs that name several stages: all settings of a camera, of following, of a zone and of hands. It uses every
//! stage, and holds nothing that changes from frame to frame.

pub(crate) mod follow;
pub(crate) mod hands;
pub(crate) mod reach;
pub(crate) mod settings;
pub(crate) mod table;
pub(crate) mod zone;
