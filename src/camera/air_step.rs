//! Whether the subject's height is followed in a step: lost ground is, a jump is not.

use glam::DVec2;

use crate::goal::air::{Air, Climb, PUSH, Takeoff, Verdict};
use crate::goal::subject::Stride;
use crate::limits::leash::Leash;
use crate::settings::follow::Airborne;

use super::Camera;
use super::arrivals::Arrival;
use super::lens_step::Framing;
use super::limit_step::ROUNDING;

impl Camera {
    /// Decides at the start of a step whether the subject's height is followed in it. A jump counts from its start.
    #[inline]
    pub(super) fn take_off(&mut self, arrival: &Arrival<'_>) {
        if self.rules.settings.follow.airborne == Airborne::Hold {
            self.judge_take_off(arrival);
        } else {
            self.state.ride.goal.air = Air::Grounded;
        }
    }

    fn judge_take_off(&mut self, arrival: &Arrival<'_>) {
        let Some(stride) = arrival.stride() else {
            // Nothing is known of how it came here.
            self.state.goal.takeoff = Takeoff::default();
            return;
        };
        if arrival.seconds <= 0.0 {
            return;
        }
        let push = PUSH * self.framing.design.y;
        let climb = self.climb(arrival, &stride);
        let verdict =
            self.state.goal.takeoff.advance(&climb, self.rules.settings.follow.grace, push);
        let air = self.state.ride.goal.air;
        let is_jump = matches!(air, Air::Held | Air::Loose);
        match verdict {
            _ if is_jump => {}
            Verdict::Follow => self.state.ride.goal.air = Air::Grounded,
            Verdict::Doubt(_) if matches!(air, Air::Doubt { .. }) => {}
            Verdict::Doubt(speed) => self.state.ride.goal.air = Air::Doubt { speed, lift: 0.0 },
            Verdict::Push(rise) => self.hold_height(stride.from, rise),
        }
    }

    /// The step of the subject as its carrier sees it, along the screen's axes.
    fn climb(&self, arrival: &Arrival<'_>, stride: &Stride) -> Climb {
        let moved = stride.against_carrier(arrival.seconds);
        let way = self.framing.lens.screen_aligned(moved.to - moved.from);
        let jump = arrival.subject.and_then(|subject| subject.jump);
        let (up, across) = (-way.y, way.x.abs());
        Climb { seconds: arrival.seconds, up, across, in_air: arrival.in_air, jump }
    }

    /// Holds the height from which the subject was pushed, which it has left by `rise` already.
    fn hold_height(&mut self, from: DVec2, rise: f64) {
        let Framing { follow, lens, view, .. } = &self.framing;
        let memory = &mut self.state.ride.goal;
        memory.air = Air::Held;
        if rise > 0.0 && follow.axes.has(1) {
            let mut goal = lens.screen_aligned(memory.goal);
            let ground = lens.screen_aligned(from + follow.offset) + DVec2::new(0.0, rise);
            goal.y = follow.deadzone.goal(goal, ground + memory.look.ahead, *view).y;
            memory.goal = lens.world_aligned(goal);
        }
        // A subject that is beyond its leash already is not held.
        if self.leaves_leash_in_air(from) {
            self.state.ride.goal.air = Air::Loose;
        }
    }

    /// The fraction of a leg at which a subject with a held height reverses its vertical movement.
    #[inline]
    pub(super) fn apex(&self, stride: &Stride) -> Option<f64> {
        if self.state.ride.goal.air != Air::Held {
            return None;
        }
        let [before, after] =
            stride.velocity.map(|speed| self.framing.lens.screen_aligned(speed).y);
        let apex = before / (before - after);
        // Within the step only if one is up and the other down.
        (apex > 1e-3 && apex < 1.0 - 1e-3).then_some(apex)
    }

    /// Counts the subject as landed at the end of the step. Returns whether its height was held.
    pub(super) fn land(&mut self, in_air: bool) -> bool {
        let air = &mut self.state.ride.goal.air;
        if in_air || *air == Air::Grounded {
            return false;
        }
        core::mem::replace(air, Air::Grounded) == Air::Held
    }

    /// Whether a subject with a held height has left its leash vertically.
    #[inline]
    pub(super) fn leaves_leash_in_air(&self, subject: DVec2) -> bool {
        if self.state.ride.goal.air != Air::Held {
            return false;
        }
        let (follow, lens) = (&self.framing.follow, &self.framing.lens);
        let leash = follow.leash.unwrap_or(Leash(DVec2::ONE));
        let focus = lens.screen_aligned(self.state.ride.focus.position);
        let subject = lens.screen_aligned(subject);
        let held = leash.clamp(focus, subject, follow.anchor, self.framing.view).y;
        // A subject exactly on the edge has not left the leash.
        (held - focus.y).abs() > ROUNDING
    }
}
