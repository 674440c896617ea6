//! Structs that name several stages: all settings of a camera, of following, of a zone and of hands. Nothing in it
//! changes from frame to frame. It uses every folder before it but `motion`.

pub(crate) mod follow;
pub(crate) mod hands;
pub(crate) mod reach;
pub(crate) mod settings;
pub(crate) mod table;
pub(crate) mod zone;
