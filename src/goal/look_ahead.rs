//! Showing more of what is ahead of the subject.

use glam::DVec2;

use crate::base::maths::{clamp, mix};
use crate::base::sound::sound;
use crate::curves::half_life::{HalfLifeStep, REST_PIXELS};
use crate::goal::subject::Stride;
use crate::keys::keys::settings;
use crate::keys::setting::Setting;

/// Moves the view ahead of the subject, in the direction in which the subject moves.
///
/// On each axis the target is `d · max(0, d · v) · seconds`, where `v` is the subject's velocity and `d` the accepted
/// direction: −1, 0 or 1. The distance ahead approaches the target with the half-life `half_life`, and is clamped to
/// `reach` of the view's size.
///
/// A subject that stands on a [carrier](crate::Subject::carrier) does not move.
///
/// A new direction is accepted after the subject has travelled `turn_after` of the [design
/// screen](crate::Screen::design_size) in it. Until then `d` stays, so the target is 0 and the distance ahead decreases
/// as if the subject stood still. The first direction is accepted in the same way.
///
/// ```
/// use velvet_pan::{LookAhead, glam::DVec2};
///
/// let ahead = LookAhead { seconds: DVec2::new(0.4, 0.0), ..LookAhead::default() };
/// assert_eq!(ahead.turn_after, 0.04); // 12.8 units of a screen of 320
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct LookAhead {
    /// How far ahead to look, per axis of the screen, in seconds, from 0 to 10. The target is where the subject will be
    /// after this time at its present velocity. Default 0.4 for x, 0 for y.
    pub seconds: DVec2,
    /// The largest distance ahead, in fractions of the screen, from 0 to 1. Default 0.2.
    pub reach: DVec2,
    /// The half-life with which the distance ahead changes, in seconds. Default 0.25.
    pub half_life: f64,
    /// The distance that the subject must travel in a new direction before look-ahead turns, in fractions of the design
    /// screen: of its width for x, of its height for y. From 0 to 10. Default 0.04.
    pub turn_after: f64,
}

settings!(LookAhead {
    seconds = Setting::pair("seconds", "how far ahead in time the view looks, per axis", "two times in seconds")
        .measured("s").from(0.0, 10.0).usual_from(0.0, 1.5);
    reach = Setting::pair("reach", "the largest distance ahead, per axis", "two fractions of the screen")
        .measured("of the screen").from(0.0, 1.0).usual_from(0.0, 0.5);
    half_life = Setting::number("half_life", "the half-life with which the distance ahead changes", "a half-life in seconds")
        .measured("s").from(0.0, 1e6).usual_from(0.0, 1.0);
    turn_after = Setting::number("turn_after", "the distance that the subject travels in a new direction before look-ahead turns", "a fraction of the design screen")
        .measured("of the design screen").from(0.0, 10.0).usual_from(0.0, 0.2);
});

impl Default for LookAhead {
    fn default() -> Self {
        Self {
            seconds: DVec2::new(0.4, 0.0),
            reach: DVec2::splat(0.2),
            half_life: 0.25,
            turn_after: 0.04,
        }
    }
}

/// The memory of look-ahead, along the axes of the screen, in world units.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct LookMemory {
    /// How far ahead the view is.
    pub ahead: DVec2,
    /// The accepted direction on each axis: −1, 0 (none yet) or 1.
    direction: DVec2,
    /// The distance that the subject has moved against that direction; without one, in either.
    distance_against: DVec2,
}

sound!(LookMemory { ahead, direction, distance_against });

impl LookMemory {
    /// Returns whether the memory can't change: nothing is ahead, and the subject stands.
    #[inline]
    fn is_still(&self, stride: &Stride) -> bool {
        self.ahead == DVec2::ZERO && stride.from == stride.to && stride.velocity == [DVec2::ZERO; 2]
    }

    /// Accepts another direction if the subject has travelled `after` in it. Returns the fraction of the step at which it is
    /// accepted; 1 if none is.
    #[inline]
    fn turn(&mut self, axis: usize, stride: &Stride, after: f64) -> f64 {
        let way = stride.to[axis] - stride.from[axis];
        let (direction, against) = (&mut self.direction[axis], &mut self.distance_against[axis]);
        // Without an accepted direction, either one is possible; the distance then has a sign.
        let is_free = *direction == 0.0;
        let back = if !is_free {
            -*direction
        } else if way < 0.0 {
            -1.0
        } else {
            1.0
        };
        let travelled = if is_free { *against * back } else { *against };
        let turned = travelled + back * way;
        if back * way > 0.0 && turned >= after {
            (*direction, *against) = (back, 0.0);
            return ((after - travelled) / (turned - travelled)).clamp(0.0, 1.0);
        }
        *against = if is_free { *against + way } else { turned.max(0.0) };
        1.0
    }
}

impl LookAhead {
    /// Moves the distance ahead through one short step, and returns it.
    pub(crate) fn step(
        &self,
        memory: &mut LookMemory,
        weights: &mut HalfLifeStep,
        stride: &Stride,
        context: &LookContext,
    ) -> DVec2 {
        let stride = &stride.against_carrier(context.seconds);
        if memory.is_still(stride) {
            return memory.ahead;
        }
        let reach = self.reach * context.view;
        for axis in 0..2 {
            if self.seconds[axis] == 0.0 && memory.ahead[axis] == 0.0 {
                continue;
            }
            let before = memory.direction[axis];
            let turn = memory.turn(axis, stride, self.turn_after * context.design[axis]);
            // It may turn within the step.
            for ([from, to], direction) in
                [([0.0, turn], before), ([turn, 1.0], memory.direction[axis])]
            {
                let speed = |at| mix(stride.velocity[0], stride.velocity[1], at)[axis];
                let target = |at| direction * (direction * speed(at)).max(0.0) * self.seconds[axis];
                if to > from {
                    let part = weights.get(self.half_life, context.seconds * (to - from));
                    let ahead = part.advance(memory.ahead[axis], target(from), target(to));
                    memory.ahead[axis] = clamp(ahead, -reach[axis], reach[axis]);
                }
            }
        }
        let unseen = (memory.ahead * context.scale).abs().max_element() < REST_PIXELS;
        if unseen && stride.velocity == [DVec2::ZERO; 2] {
            memory.ahead = DVec2::ZERO;
        }
        memory.ahead
    }
}

/// The values of a step that look-ahead needs.
#[derive(Clone, Copy, Debug)]
pub(crate) struct LookContext {
    pub seconds: f64,
    pub view: DVec2,
    /// The size of the design screen, in world units.
    pub design: DVec2,
    pub scale: f64,
}
