//! Against what a followed subject stands still: the ground or the window.

use glam::DVec2;

use crate::base::sound::sound;
use crate::lens::lens::Lens;

/// Two movements whose ratio is nearer to 1 than this are the same, but for rounding.
const ALIKE: f64 = 1.0 - 1e-6;

/// The movements of the subject against the ground and in the window.
///
/// A sprite in whole pixels cannot keep to both: while the view moves, the rounded ground and the rounded sprite take
/// turns. So that it trembles against neither, it is rounded where it moves less.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Footing {
    /// The subject's last position: in the world, and from the middle of the screen in screen pixels.
    last: Option<(DVec2, DVec2)>,
    /// Whether it is drawn in whole pixels of the ground, per axis of the screen.
    on_ground: [bool; 2],
}

sound!(Footing { last, on_ground });

impl Footing {
    /// Takes the subject's position at the end of a step, with the view's centre.
    pub fn advance(&mut self, subject: Option<DVec2>, centre: DVec2, lens: &Lens) {
        let now = subject.map(|subject| (subject, lens.to_screen_axes(subject - centre)));
        let last = core::mem::replace(&mut self.last, now);
        let Some(((at, shown), (last_at, last_shown))) = now.zip(last) else { return };
        let ground = lens.to_screen_axes(at - last_at).abs();
        let window = (shown - last_shown).abs();
        for (axis, on_ground) in self.on_ground.iter_mut().enumerate() {
            if ground[axis] < window[axis] * ALIKE {
                *on_ground = true;
            } else if window[axis] < ground[axis] * ALIKE {
                *on_ground = false;
            }
        }
    }

    /// Returns whether the subject is drawn in whole pixels of the ground, or else of the window, per axis of the screen.
    #[inline]
    pub fn on_ground(&self) -> [bool; 2] {
        self.on_ground
    }

    /// Moves the world by `delta`.
    pub fn translate(&mut self, delta: DVec2) {
        if let Some((at, _)) = &mut self.last {
            *at += delta;
        }
    }
}
