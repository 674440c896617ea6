//! A take: subjects and their paths, events, a map and pictures, as they are read from files and written back.

pub(crate) mod event;
pub(crate) mod event_times;
pub(crate) mod map;
pub(crate) mod path;
pub(crate) mod pictures;
pub(crate) mod player;
pub(crate) mod saved;
pub(crate) mod subjects;
pub(crate) mod take;
pub(crate) mod take_checks;
pub(crate) mod take_file;
