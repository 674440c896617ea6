//! Where following may be: on its leash, and in the allowed range of the view's centre.

use glam::DVec2;

use crate::goal::party::PartyMemory;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::SubjectNow;
use crate::lens::lens::Lens;
use crate::limits::bounds::Bounds;
use crate::limits::leash::Leash;
use crate::limits::ratchet::{Barrier, Ratchet};
use crate::motion::motion::Moving;
use crate::units::rect::Rect;

use super::framing::Framing;
use super::leg::Ride;
use super::rules::Rules;

/// A leash that pulls by less than this, in world units, has not pulled: it is rounding.
pub(super) const ROUNDING: f64 = 1e-9;

/// A room is reached when the view is nearer to its range than this, in screen pixels.
const REACHED_PIXELS: f64 = 1e-6;

/// The subject at the end of its leash.
#[derive(Clone, Copy, Debug)]
pub(super) struct Tether {
    pub leash: Leash,
    pub subject: SubjectNow,
    /// Whether the subject may be anywhere on the screen, so that the leash does not pull.
    pub is_free: bool,
}

impl Rules {
    /// The leash of a subject, if there are both.
    pub(super) fn tether(
        &self,
        framing: &Framing,
        party: &PartyMemory,
        subject: Option<SubjectNow>,
    ) -> Option<Tether> {
        let (leash, subject) = framing.follow.leash.zip(subject)?;
        Some(Tether { leash, subject, is_free: self.frees_from_leash(party) })
    }
}

impl Tether {
    /// Returns a focus as the leash with some slack pulls it, moving at the subject's speed, or `None` if it does not
    /// pull.
    pub fn pull(&self, framing: &Framing, focus: &Moving, slack: DVec2) -> Option<Moving> {
        if self.is_free {
            return None;
        }
        let Framing { follow, lens, view, .. } = framing;
        let before = lens.screen_aligned(focus.position);
        let subject = lens.screen_aligned(self.subject.position);
        let mut held = self.leash.clamp_with_slack(before, subject, follow.anchor, *view, slack);
        let mut speed = lens.screen_aligned(focus.velocity);
        let subject_speed = lens.screen_aligned(self.subject.velocity);
        for axis in 0..2 {
            if !follow.axes.has(axis) || (held[axis] - before[axis]).abs() <= ROUNDING {
                held[axis] = before[axis];
            } else {
                speed[axis] = subject_speed[axis];
            }
        }
        (held != before).then(|| Moving {
            position: lens.world_aligned(held),
            velocity: lens.world_aligned(speed),
        })
    }

    /// The distance from a focus to the subject, per axis of the screen, in world units.
    pub fn length(&self, lens: &Lens, focus: DVec2) -> DVec2 {
        lens.screen_aligned(self.subject.position - focus).abs()
    }
}

impl Ride {
    /// Limits following, the hand and the picture.
    #[inline]
    pub fn limit(&mut self, framing: &Framing, tether: Option<&Tether>) {
        self.limit_following(framing, tether);
        if self.picture.shows_following() {
            self.picture.slack = DVec2::ZERO;
        } else {
            self.picture.hold(framing);
            let shown = self.shown_focus(framing, tether);
            if let Some(tether) = tether {
                self.picture.take_in_leash(tether.length(&framing.lens, shown), tether.is_free);
            }
        }
        if framing.follow.ratchet != Ratchet::None {
            let centre = self.centre(framing, tether);
            self.picture.advance_barrier(framing, centre);
        }
    }

    /// Limits the focus of following: first by the leash, then by the range.
    #[inline]
    pub fn limit_following(&mut self, framing: &Framing, tether: Option<&Tether>) {
        (self.focus, self.on_leash) = on_leash(tether, framing, self.focus);
        self.room = arrived(self.room, framing, self.focus.position);
        let range = self.range(framing, self.focus.position);
        self.focus = in_range(&range, framing.offset, self.focus);
    }

    /// The allowed range of the centre for a focus of following.
    #[inline]
    pub fn range(&self, framing: &Framing, focus: DVec2) -> Rect {
        let barrier = self.picture.barrier_for(framing, focus);
        range(framing, self.room.as_ref(), barrier.as_ref())
    }
}

/// Keeps a focus on the leash. Returns also whether the leash pulled it, per axis of the screen.
#[inline]
fn on_leash(tether: Option<&Tether>, framing: &Framing, focus: Moving) -> (Moving, [bool; 2]) {
    let pulled = tether.and_then(|tether| tether.pull(framing, &focus, DVec2::ZERO));
    let Some(pulled) = pulled else { return (focus, [false; 2]) };
    let moved = framing.lens.screen_aligned(pulled.position - focus.position).abs();
    (pulled, [moved.x > ROUNDING, moved.y > ROUNDING])
}

/// Whether the leash pulls the view along, within the allowed range.
pub(super) fn is_led(tether: &Tether, framing: &Framing, range: &Rect, focus: &Moving) -> bool {
    let Some(held) = tether.pull(framing, focus, DVec2::ZERO) else { return false };
    let led = range.nearest(held.position - framing.offset);
    let still = focus.position - framing.offset;
    (led - still).abs().max_element() > ROUNDING
}

/// Whether the focus moved back against a ratchet, or may have done so on the way.
pub(super) fn goes_back(barrier: &Barrier, before: &Moving, now: &Moving) -> bool {
    barrier.is_behind(now.velocity)
        || barrier.is_behind(before.velocity)
        || barrier.is_behind(now.position - before.position)
}

/// The room, which limits the view once the view has reached it.
#[inline]
fn arrived(room: Option<RoomMemory>, framing: &Framing, focus: DVec2) -> Option<RoomMemory> {
    let Some(on_the_way) = room.filter(|room| !room.arrived) else { return room };
    let centre = focus - framing.offset;
    let rest = (room_range(&on_the_way, &framing.lens).nearest(centre) - centre).length();
    let arrived = rest * framing.lens.scale() < REACHED_PIXELS;
    Some(RoomMemory::new(on_the_way.rect(), arrived))
}

/// Keeps a focus in the allowed range of the centre, which always wins.
#[inline]
fn in_range(range: &Rect, offset: DVec2, focus: Moving) -> Moving {
    let centre = focus.position - offset;
    let allowed = range.nearest(centre);
    if allowed == centre {
        return focus;
    }
    let outward = (centre - allowed) * focus.velocity;
    let speed = |axis: usize| if outward[axis] > 0.0 { 0.0 } else { focus.velocity[axis] };
    Moving { position: allowed + offset, velocity: DVec2::new(speed(0), speed(1)) }
}

/// The allowed range of the centre: bounds, a ratchet's line, and a room that the view has reached.
#[inline]
pub(super) fn range(
    framing: &Framing,
    room: Option<&RoomMemory>,
    barrier: Option<&Barrier>,
) -> Rect {
    let Framing { range, half, lens, .. } = *framing;
    let range = barrier.map_or(range, |barrier| barrier.cut(range, half));
    let Some(room) = room.filter(|room| room.arrived) else { return range };
    let own = room_range(room, &lens);
    Rect { min: range.nearest(own.min), max: range.nearest(own.max) }
}

/// The allowed range of the view's centre in a room.
pub(super) fn room_range(room: &RoomMemory, lens: &Lens) -> Rect {
    Bounds::new(room.rect()).centre_range(lens)
}

/// The allowed range of a snapped picture's centre in a room. A ratchet's line, and a room with less than a pixel to
/// spare, do not limit fractions of a pixel.
pub(super) fn snapping_range(framing: &Framing, room: &RoomMemory) -> Rect {
    let (mut snapping, own) = (framing.range, range(framing, Some(room), None));
    let spare = (own.max - own.min) * framing.lens.scale();
    for axis in (0..2).filter(|axis| spare[*axis] >= 1.0) {
        (snapping.min[axis], snapping.max[axis]) = (own.min[axis], own.max[axis]);
    }
    snapping
}
