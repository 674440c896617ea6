//! How large the world appears: the size of the screen, zoom, rotation, and how the screen fits into a window. It uses
//! `base`, `keys` and `curves`.

pub(crate) mod fit;
pub(crate) mod lens;
pub(crate) mod rotation;
pub(crate) mod screen;
pub(crate) mod zoom;
