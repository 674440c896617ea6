//! The subjects of a take, and its further cameras.

use velvet_pan::{Settings, Subject};

use crate::take::path::Path;

/// A subject of a take: its path, and its importance among several.
#[derive(Clone, Debug)]
pub struct TakeSubject {
    /// Its position over time.
    pub path: Path,
    /// Its weight in a party. See [`Subject`].
    pub weight: f64,
    /// Its rank in a party. See [`Subject`].
    pub rank: i32,
    /// The margin around it, in world units. See [`Subject`].
    pub margin: f64,
}

impl TakeSubject {
    /// Returns the subject at `t` seconds.
    pub fn subject(&self, t: f64) -> Subject {
        let Self { weight, rank, margin, .. } = *self;
        Subject { weight, rank, margin, ..self.path.subject(t) }
    }
}

/// A further camera of a take.
#[derive(Clone, Debug)]
pub struct TakeCamera {
    /// Its settings.
    pub settings: Settings,
    /// The subjects that it follows.
    pub watch: Vec<String>,
    /// The world point that it aims at if it follows no subject.
    pub aim: Option<[f64; 2]>,
}

/// The name of the take's own camera in events.
pub const MAIN: &str = "main";
