//! The effect of impacts on the view: one shake, all active shakes, and cues, which are named events. It uses `base`,
//! `keys` and `curves`.

pub(crate) mod cue;
pub(crate) mod shake;
pub(crate) mod active_shakes;
