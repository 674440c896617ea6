//! Whether the subject's height is followed in a step: lost ground is, a jump is not.

use glam::DVec2;

use crate::goal::air::{Air, Climb, PUSH, Takeoff, Verdict};
use crate::goal::subject::Stride;
use crate::lens::lens::Lens;
use crate::limits::leash::Leash;

use super::arrival::Arrival;
use super::framing::Framing;
use super::goal::GoalMemory;
use super::limits::ROUNDING;

/// Decides at the start of a step whether the subject's height is followed in it. A jump counts from its start.
pub(super) fn take_off(
    arrival: &Arrival<'_>,
    framing: &Framing,
    takeoff: Takeoff,
    goal: GoalMemory,
    focus: DVec2,
) -> (Takeoff, GoalMemory) {
    let Some(stride) = arrival.stride() else {
        // Nothing is known of how it came here.
        return (Takeoff::default(), goal);
    };
    if arrival.seconds <= 0.0 {
        return (takeoff, goal);
    }
    let mut takeoff = takeoff;
    let climb = climb(arrival, &stride, &framing.lens);
    let verdict = takeoff.advance(&climb, framing.follow.grace, PUSH * framing.design.y);
    (takeoff, judged(verdict, framing, stride.from, goal, focus))
}

/// Returns the goal after a verdict on a step that starts at `from`.
fn judged(
    verdict: Verdict,
    framing: &Framing,
    from: DVec2,
    goal: GoalMemory,
    focus: DVec2,
) -> GoalMemory {
    let air = match (goal.air, verdict) {
        (Air::Held | Air::Loose, _) => return goal,
        (_, Verdict::Follow) => Air::Grounded,
        (Air::Doubt { .. }, Verdict::Doubt(_)) => return goal,
        (_, Verdict::Doubt(speed)) => Air::Doubt { speed, lift: 0.0 },
        (_, Verdict::Push(rise)) => {
            let held = held_from(framing, from, rise, goal);
            // A subject that is beyond its leash already is not held.
            let left = has_left_leash(framing, focus, from);
            return GoalMemory { air: if left { Air::Loose } else { Air::Held }, ..held };
        }
    };
    GoalMemory { air, ..goal }
}

/// Returns the step of the subject as its carrier sees it, along the screen's axes.
fn climb(arrival: &Arrival<'_>, stride: &Stride, lens: &Lens) -> Climb {
    let moved = stride.against_carrier(arrival.seconds);
    let way = lens.to_screen_orientation(moved.to - moved.from);
    let jump = arrival.subject.and_then(|subject| subject.jump);
    let (up, across) = (-way.y, way.x.abs());
    Climb { seconds: arrival.seconds, up, across, in_air: arrival.in_air, jump }
}

/// Returns the goal at the height from which the subject was pushed, which it has left by `rise` already.
fn held_from(framing: &Framing, from: DVec2, rise: f64, memory: GoalMemory) -> GoalMemory {
    let Framing { follow, lens, view, .. } = framing;
    if rise <= 0.0 || !follow.axes.has(1) {
        return memory;
    }
    let mut goal = lens.to_screen_orientation(memory.point);
    let ground = lens.to_screen_orientation(from + follow.offset) + DVec2::new(0.0, rise);
    goal.y = follow.deadzone.goal(goal, ground + memory.look.ahead, *view).y;
    GoalMemory { point: lens.to_world_orientation(goal), ..memory }
}

/// Returns whether a subject with a held height has left its leash vertically.
#[inline]
pub(super) fn has_left_leash(framing: &Framing, focus: DVec2, subject: DVec2) -> bool {
    let Framing { follow, lens, view, .. } = framing;
    let leash = follow.leash.unwrap_or(Leash(DVec2::ONE));
    let focus = lens.to_screen_orientation(focus);
    let held = leash.clamp(focus, lens.to_screen_orientation(subject), follow.anchor, *view).y;
    // A subject exactly on the edge has not left the leash.
    (held - focus.y).abs() > ROUNDING
}
