//! A moment of a ride.

use velvet_pan::glam::DVec2;
use velvet_pan::{LastWord, Overlay, PerAxis, View};

use crate::take::Take;

/// A moment of a ride: the view, and what was followed.
#[derive(Clone, Copy, Debug)]
pub struct Moment {
    /// Seconds.
    pub t: f64,
    /// The camera's answer.
    pub view: View,
    /// The goal as a centre of the view.
    pub goal: DVec2,
    /// Where the followed subject is.
    pub subject: Option<DVec2>,
    /// The camera's picture of itself.
    pub overlay: Overlay,
    /// How far shakes may go at this moment, in screen pixels.
    pub envelope: DVec2,
    /// Whether something else than following leads the view: a glide, a hand, a cutscene.
    pub led: bool,
    /// The stage that decides where the view is.
    pub last_word: PerAxis<LastWord>,
}

impl Moment {
    /// From the followed point to its anchor, in screen pixels; none where nothing is followed.
    pub fn lag(&self, take: &Take) -> Option<f64> {
        let follow = &take.settings.follow;
        Some(self.view.lag_of(self.subject? + follow.offset, follow.anchor))
    }
}
