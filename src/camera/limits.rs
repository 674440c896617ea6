//! Where following may be: on its leash, and in the allowed range of the view's centre.

use glam::DVec2;

use crate::base::rect::Rect;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::SubjectNow;
use crate::lens::lens::Lens;
use crate::limits::leash::Leash;
use crate::limits::ratchet::{Barrier, Ratchet};
use crate::limits::walls::Walls;
use crate::motion::motion::Moving;
use crate::settings::follow::Follow;

use super::change::{INSTANT, MAX_RATE};
use super::framing::Framing;
use super::leg::Ride;

/// A leash that pulls by less than this, in world units, has not pulled: it is rounding.
pub(super) const ROUNDING: f64 = 1e-9;

/// How often a leash pulls that is turned against the range.
const MAX_PULLS: usize = 8;

/// A room is reached when the view is nearer to its range than this, in screen pixels.
const REACHED_PIXELS: f64 = 1e-6;

/// The subject at the end of its leash.
#[derive(Clone, Copy, Debug)]
pub(super) struct Tether {
    pub leash: Leash,
    pub subject: SubjectNow,
    /// Whether the subject may be anywhere on the screen, so that the leash does not pull.
    pub is_free: bool,
    /// The lens an instant later, while it moves. The end of the leash moves with it.
    pub later: Option<Lens>,
}

impl Tether {
    /// Returns the leash of a subject, if there are both.
    pub fn new(framing: &Framing, is_free: bool, subject: Option<SubjectNow>) -> Option<Self> {
        let (leash, subject) = framing.follow.leash.zip(subject)?;
        Some(Self { leash, subject, is_free, later: None })
    }

    /// Returns a focus as the leash with some slack pulls it, moving as the leash's end does, or `None` if it does not
    /// pull.
    pub fn pull(&self, framing: &Framing, focus: &Moving, slack: DVec2) -> Option<Moving> {
        if self.is_free {
            return None;
        }
        let Framing { follow, lens, view, .. } = framing;
        let pulled = self.pull_through(follow, lens, *view, focus, slack)?;
        let Some(lens) = &self.later else { return Some(pulled) };
        let next = Moving { position: pulled.position + pulled.velocity * INSTANT, ..pulled };
        let subject = self.subject.coasts(INSTANT).end();
        let tether = Self { subject, later: None, ..*self };
        let later = tether.pull_through(follow, lens, lens.view_size(), &next, slack);
        let velocity = (later.unwrap_or(next).position - pulled.position) / INSTANT;
        // A lens that jumps, as to the next whole zoom, has no speed.
        let moves = velocity.abs().cmple(*view * MAX_RATE).all();
        Some(Moving { velocity: if moves { velocity } else { pulled.velocity }, ..pulled })
    }

    /// Returns the same seen through a lens that stands still.
    fn pull_through(
        &self,
        follow: &Follow,
        lens: &Lens,
        view: DVec2,
        focus: &Moving,
        slack: DVec2,
    ) -> Option<Moving> {
        let before = lens.to_screen_orientation(focus.position);
        let subject = lens.to_screen_orientation(self.subject.position);
        let mut pulled = self.leash.clamp_with_slack(before, subject, follow.anchor, view, slack);
        let mut speed = lens.to_screen_orientation(focus.velocity);
        let subject_speed = lens.to_screen_orientation(self.subject.velocity);
        for axis in 0..2 {
            if !follow.axes.has(axis) || (pulled[axis] - before[axis]).abs() <= ROUNDING {
                pulled[axis] = before[axis];
            } else {
                speed[axis] = subject_speed[axis];
            }
        }
        (pulled != before).then(|| Moving {
            position: lens.to_world_orientation(pulled),
            velocity: lens.to_world_orientation(speed),
        })
    }

    /// Keeps a focus in a range and, as far as that allows, on a leash that is turned against it. Pulled along one axis
    /// towards an edge, it stops there, and pulled along the edge, it slides. Pulled along both, it is opposite to the
    /// corner of its leash.
    #[cold]
    pub fn pull_turned(&self, framing: &Framing, range: &Rect, focus: Moving) -> Moving {
        let lens = &framing.lens;
        let mut focus = in_range(range, framing.offset, focus);
        for _turn in 0..MAX_PULLS {
            let Some(pulled) = self.pull(framing, &focus, DVec2::ZERO) else { break };
            let way = lens.to_screen_orientation(pulled.position - focus.position);
            let mut speed = lens.to_screen_orientation(pulled.velocity);
            let mut centre = focus.position - framing.offset;
            if way.abs().cmpgt(DVec2::splat(ROUNDING)).all() {
                centre = range.nearest(centre + lens.to_world_orientation(way));
            } else {
                let (next, stopped) = stepped(range, centre, lens.to_world_orientation(way));
                centre = next;
                let axis = usize::from(way.y.abs() > way.x.abs());
                speed[axis] = if stopped { 0.0 } else { speed[axis] };
            }
            let before = focus.position;
            let moved = Moving {
                position: centre + framing.offset,
                velocity: lens.to_world_orientation(speed),
            };
            focus = in_range(range, framing.offset, moved);
            if (focus.position - before).abs().max_element() <= ROUNDING {
                break;
            }
        }
        focus
    }

    /// Returns the distance from a focus to the subject, per axis of the screen, in world units.
    pub fn length(&self, lens: &Lens, focus: DVec2) -> DVec2 {
        lens.to_screen_orientation(self.subject.position - focus).abs()
    }
}

impl Ride {
    /// Limits following, the hand and the picture.
    #[inline]
    pub fn limit(&mut self, framing: &Framing, tether: Option<&Tether>) {
        let limits = tether.is_some() || framing.walls.is_some() || self.room.is_some();
        if !limits && self.picture.barrier.is_none() && self.picture.shows_following() {
            // Nothing limits, except a ratchet that has just begun.
            (self.on_leash, self.picture.slack) = ([false; 2], DVec2::ZERO);
            if framing.follow.ratchet == Ratchet::None {
                return;
            }
        }
        self.limit_following(framing, tether);
        if self.picture.shows_following() {
            self.picture.slack = DVec2::ZERO;
        } else {
            self.picture.limit_hand(framing);
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
        let free = self.focus;
        (self.focus, self.on_leash) = on_leash(tether, framing, free);
        if let Some(room) = &mut self.room {
            room.arrived = room.arrived || has_reached(room, framing, self.focus.position);
        }
        let range = self.range(framing, self.focus.position);
        let pulled = self.focus;
        self.focus = in_range(&range, framing.offset, pulled);
        if self.on_leash == [false; 2] || self.focus == pulled {
            return;
        }
        if let Some(tether) = tether {
            self.focus = tether.pull_turned(framing, &range, free);
        }
    }

    /// Returns the allowed range of the centre for a focus of following.
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
    let moved = framing.lens.to_screen_orientation(pulled.position - focus.position).abs();
    (pulled, [moved.x > ROUNDING, moved.y > ROUNDING])
}

/// Returns a step within a range. It slides along the edges that it meets at a small angle, and stops at others.
/// Returns also whether it stopped.
fn stepped(range: &Rect, from: DVec2, step: DVec2) -> (DVec2, bool) {
    let over = from + step - range.nearest(from + step);
    let mut share: f64 = 1.0;
    for axis in (0..2).filter(|axis| over[*axis].abs() > ROUNDING) {
        if step[axis].abs() * core::f64::consts::SQRT_2 >= step.length() {
            share = share.min(1.0 - over[axis] / step[axis]);
        }
    }
    (range.nearest(from + step * share.max(0.0)), share < 1.0)
}

/// Returns whether the leash pulls the view along, within the allowed range.
pub(super) fn is_led(tether: &Tether, framing: &Framing, range: &Rect, focus: &Moving) -> bool {
    let Some(pulled) = tether.pull(framing, focus, DVec2::ZERO) else { return false };
    let led = range.nearest(pulled.position - framing.offset);
    let still = focus.position - framing.offset;
    (led - still).abs().max_element() > ROUNDING
}

/// Returns whether the focus moved back against a ratchet, or may have done so on the way.
pub(super) fn goes_back(barrier: &Barrier, before: &Moving, now: &Moving) -> bool {
    barrier.is_behind(now.velocity)
        || barrier.is_behind(before.velocity)
        || barrier.is_behind(now.position - before.position)
}

/// Returns whether the view has reached a room, which limits it from then on.
fn has_reached(room: &RoomMemory, framing: &Framing, focus: DVec2) -> bool {
    let centre = focus - framing.offset;
    let rest = (room_range(room, &framing.lens).nearest(centre) - centre).length();
    rest * framing.lens.scale() < REACHED_PIXELS
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

/// Returns the allowed range of the centre: bounds, a ratchet's line, and a room that the view has reached.
#[inline]
pub(super) fn range(
    framing: &Framing,
    room: Option<&RoomMemory>,
    barrier: Option<&Barrier>,
) -> Rect {
    let range = framing.range_before(barrier);
    let Some(room) = room.filter(|room| room.arrived) else { return range };
    let own = room_range(room, &framing.lens);
    Rect { min: range.nearest(own.min), max: range.nearest(own.max) }
}

/// Returns the allowed range of the view's centre in a room.
pub(super) fn room_range(room: &RoomMemory, lens: &Lens) -> Rect {
    Walls::new(room.rect()).centre_range(lens)
}

/// Returns the allowed range of a snapped picture's centre in a room. A ratchet's line, and a room with less than a
/// pixel to spare, do not limit fractions of a pixel.
pub(super) fn snapping_range(framing: &Framing, room: &RoomMemory) -> Rect {
    let (mut snapping, own) = (framing.range, range(framing, Some(room), None));
    let spare = (own.max - own.min) * framing.lens.scale();
    for axis in (0..2).filter(|axis| spare[*axis] >= 1.0) {
        (snapping.min[axis], snapping.max[axis]) = (own.min[axis], own.max[axis]);
    }
    snapping
}
