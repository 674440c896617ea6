//! Who and what is in a take: its subjects, and its cameras beside its own.

use velvet_pan::{Settings, Subject};

use crate::path::Path;

/// A subject of a take: its path, and how it matters among several.
#[derive(Clone, Debug)]
pub struct Actor {
    /// Where it is when.
    pub path: Path,
    /// See [`Subject`].
    pub weight: f64,
    /// See [`Subject`].
    pub rank: i32,
    /// See [`Subject`].
    pub margin: f64,
}

impl Actor {
    /// The subject at `t` seconds.
    pub fn subject(&self, t: f64) -> Subject {
        let Self { weight, rank, margin, .. } = *self;
        Subject { weight, rank, margin, ..self.path.subject(t) }
    }
}

/// A further camera of a take.
#[derive(Clone, Debug)]
pub struct TakeCamera {
    /// Its own settings.
    pub settings: Settings,
    /// Whom it follows.
    pub watch: Vec<String>,
    /// Where it looks, where it follows nobody.
    pub aim: Option<[f64; 2]>,
}

/// The name of the take's own camera on the timeline.
pub const MAIN: &str = "main";
