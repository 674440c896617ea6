//! What is visible: cells of a lattice (tiles, chunks, copies and parts of pictures) and sprites, one or a million. It
//! uses `base`, `keys`, `lens`, `limits` and `view`.

pub(crate) mod boxes;
pub(crate) mod chunks;
pub(crate) mod copies;
pub(crate) mod grid;
pub(crate) mod lattice;
pub(crate) mod origin;
pub(crate) mod picture_part;
pub(crate) mod sight;
pub(crate) mod sprite_grid;
pub(crate) mod tiles;
