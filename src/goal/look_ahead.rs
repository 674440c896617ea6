//! Showing more of what is ahead of the subject.

use glam::DVec2;

use crate::base::maths::clamp;
use crate::base::sound::sound;
use crate::curves::course::Course;
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
}

impl LookAhead {
    /// Adds look-ahead to a course that is still straight, along the axes of the screen. `view` is the size of the
    /// view in world units, `scale` the number of screen pixels per world unit.
    #[inline]
    pub(crate) fn add(
        &self,
        memory: &mut LookMemory,
        weights: &mut HalfLifeStep,
        course: &mut Course,
        stride: &Stride,
        context: &LookContext,
    ) {
        let stride = &stride.against_carrier(context.seconds);
        if memory.is_still(stride) {
            return;
        }
        let live = [0, 1].map(|axis| self.seconds[axis] != 0.0 || memory.ahead[axis] != 0.0);
        let pieces = [0, 1].map(|axis| match live[axis] {
            true => self.pieces(memory, stride, axis, context.design[axis]),
            false => Pieces::default(),
        });
        for piece in pieces.iter().filter(|piece| piece.is_bent()) {
            for bend in piece.bends() {
                course.bend_at(bend);
            }
        }
        // Look-ahead curves throughout the step; long steps get a few more straight pieces.
        let lives = if self.half_life > 0.0 { context.seconds / self.half_life } else { 0.0 };
        let chords = (lives * 12.0).min(6.0) as u32 + 1;
        for chord in 1..chords {
            course.bend_at(f64::from(chord) / f64::from(chords));
        }
        let mut before = 0.0;
        let mut ahead = memory.ahead;
        let reach = self.reach * context.view;
        course.map_in_time(|at, point| {
            if at == before {
                return point + ahead;
            }
            let fraction = weights.get(self.half_life, context.seconds * (at - before));
            for axis in (0..2).filter(|axis| live[*axis]) {
                let target = |at| pieces[axis].target(at, before) * self.seconds[axis];
                let moved = fraction.advance(ahead[axis], target(before), target(at));
                ahead[axis] = clamp(moved, -reach[axis], reach[axis]);
            }
            before = at;
            point + ahead
        });
        memory.ahead = self.rest(ahead, stride, context.scale);
    }

    /// Moves the distance ahead through one short step, and returns it.
    #[cfg(new_frame)]
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
        let (mut ahead, reach) = (memory.ahead, self.reach * context.view);
        let live = [0, 1].map(|axis| self.seconds[axis] != 0.0 || memory.ahead[axis] != 0.0);
        for axis in (0..2).filter(|axis| live[*axis]) {
            let pieces = self.pieces(memory, stride, axis, context.design[axis]);
            // It may turn within the step.
            let turn = if pieces.before == pieces.after { 1.0 } else { pieces.turn };
            for [from, to] in [[0.0, turn], [turn, 1.0]].into_iter().filter(|[from, to]| to > from)
            {
                let target = |at| pieces.target(at, from) * self.seconds[axis];
                let part = weights.get(self.half_life, context.seconds * (to - from));
                let moved = part.advance(ahead[axis], target(from), target(to));
                ahead[axis] = clamp(moved, -reach[axis], reach[axis]);
            }
        }
        let unseen = (ahead * context.scale).abs().max_element() < REST_PIXELS;
        let rests = unseen && stride.velocity == [DVec2::ZERO; 2];
        memory.ahead = if rests { DVec2::ZERO } else { ahead };
        memory.ahead
    }

    /// Sets the distance ahead of a standing subject to zero once it is no longer visible.
    fn rest(&self, ahead: DVec2, stride: &Stride, scale: f64) -> DVec2 {
        let unseen = (ahead * scale).abs().max_element() < REST_PIXELS;
        if unseen && stride.from == stride.to { DVec2::ZERO } else { ahead }
    }

    /// Returns the speed in the accepted direction during the step, on one axis.
    #[inline]
    fn pieces(&self, memory: &mut LookMemory, stride: &Stride, axis: usize, design: f64) -> Pieces {
        let turn = self.turn_after * design;
        let displacement = stride.to[axis] - stride.from[axis];
        let [v0, v1] = [stride.velocity[0][axis], stride.velocity[1][axis]];
        let direction = memory.direction[axis];
        let distance_against = memory.distance_against[axis];
        let mut pieces =
            Pieces { velocity: [v0, v1], before: direction, after: direction, turn: 1.0 };
        // Without an accepted direction, either one is possible; `distance_against` then has a sign.
        let sign =
            if direction == 0.0 { if displacement < 0.0 { 1.0 } else { -1.0 } } else { direction };
        let travelled = if direction == 0.0 { distance_against * -sign } else { distance_against };
        let turned = travelled - sign * displacement;
        if displacement != 0.0 && turned >= turn && -sign * displacement > 0.0 {
            pieces.after = -sign;
            pieces.turn = ((turn - travelled) / (turned - travelled)).clamp(0.0, 1.0);
            memory.direction[axis] = -sign;
            memory.distance_against[axis] = 0.0;
        } else if direction == 0.0 {
            memory.distance_against[axis] = distance_against + displacement;
        } else {
            memory.distance_against[axis] = turned.max(0.0);
        }
        pieces
    }
}

/// The values of a leg that look-ahead needs.
#[derive(Clone, Copy, Debug)]
pub(crate) struct LookContext {
    pub seconds: f64,
    pub view: DVec2,
    /// The size of the design screen, in world units.
    pub design: DVec2,
    pub scale: f64,
}

/// The speed on one axis during a step, with its accepted directions.
#[derive(Clone, Copy, Debug, Default)]
struct Pieces {
    velocity: [f64; 2],
    before: f64,
    after: f64,
    /// The fraction of the step at which `after` is accepted.
    turn: f64,
}

impl Pieces {
    #[inline]
    fn is_bent(&self) -> bool {
        self.before != self.after || self.velocity[0] * self.velocity[1] < 0.0
    }

    /// Returns the fractions at which the speed bends: where the velocity passes 0, and where the turn is accepted.
    fn bends(&self) -> impl Iterator<Item = f64> {
        let [v0, v1] = self.velocity;
        let stops = (v0 * v1 < 0.0).then(|| v0 / (v0 - v1));
        let turns = (self.before != self.after).then_some(self.turn);
        stops.into_iter().chain(turns)
    }

    #[inline]
    fn direction(&self, from: f64) -> f64 {
        if from > self.turn - 1e-9 { self.after } else { self.before }
    }

    /// Returns the accepted direction times the speed in it, at a fraction of the step, for the piece that begins at
    /// `from`.
    #[inline]
    fn target(&self, at: f64, from: f64) -> f64 {
        let velocity = self.velocity[0] + (self.velocity[1] - self.velocity[0]) * at;
        let direction = self.direction(from);
        direction * (direction * velocity).max(0.0)
    }
}
