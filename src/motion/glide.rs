//! A timed movement to where following would be.

use glam::DVec2;

use crate::units::ease::Ease;
use crate::units::maths::mix;

/// On the way from one focus to another, in a set time.
///
/// The other end may move: it is what following gives at each moment, so the glide ends on its time
/// and at the right position whatever the goal does meanwhile.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Glide {
    pub from: DVec2,
    seconds: f64,
    elapsed: f64,
    ease: Ease,
}

impl Glide {
    /// From a focus, to be over in `seconds`.
    pub fn new(from: DVec2, seconds: f64, ease: Ease) -> Self {
        Self { from, seconds, elapsed: 0.0, ease }
    }

    pub fn is_sound(&self) -> bool {
        self.from.is_finite()
            && self.seconds > 0.0
            && self.seconds.is_finite()
            && self.elapsed >= 0.0
    }

    /// The same glide from another focus.
    pub fn starting_at(self, from: DVec2) -> Self {
        Self { from, ..self }
    }

    /// Goes on for some seconds; answers whether it is over.
    pub fn advance(&mut self, seconds: f64) -> bool {
        self.elapsed += seconds;
        // A millionth of a millionth of its time is rounding: sums of steps seldom meet it exactly.
        self.elapsed >= self.seconds * (1.0 - 1e-12)
    }

    /// The focus now, `to` being where following is.
    pub fn focus(&self, to: DVec2) -> DVec2 {
        mix(self.from, to, self.ease.at(self.elapsed / self.seconds))
    }
}
