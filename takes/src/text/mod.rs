//! Files as text: TOML with the place of every value, CSV, faults that say where, and files that appear whole or not
//! at all. It knows nothing of takes.

pub(crate) mod atomic_write;
pub(crate) mod change;
pub(crate) mod command;
pub(crate) mod csv;
pub(crate) mod document;
pub(crate) mod fault;
pub(crate) mod files;
pub(crate) mod hash;
pub(crate) mod keys;
pub(crate) mod list_text;
pub(crate) mod node;
