//! The settings of a camera as a file: read, changed, saved, and described for readers and editors.

pub(crate) mod edits;
pub(crate) mod reference;
pub(crate) mod schema;
pub(crate) mod tuning;
pub(crate) mod tuning_file;
pub(crate) mod tuning_text;
