//! How large the world appears: screen size, zoom, rotation, and how the screen is fitted into a window. It
//! uses `units`.

pub(crate) mod fit;
pub(crate) mod lens;
pub(crate) mod rotation;
pub(crate) mod screen;
pub(crate) mod zoom;
