//! What impacts do to the view: one shake, all that are alive, and cues, the named events that call them. It
//! uses `units` and the stages before it.

pub(crate) mod cue;
pub(crate) mod shake;
pub(crate) mod shaker;
