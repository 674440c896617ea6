//! Where following may be: on its leash, and in the allowed range of the view's centre.

use glam::DVec2;

use crate::base::rect::Rect;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::SubjectNow;
use crate::lens::lens::Lens;
use crate::limits::leash::Leash;
use crate::limits::ratchet::{Barrier, Ratchet};
use crate::limits::turned_box::TurnedBox;
use crate::limits::walls::Walls;
use crate::motion::motion::Moving;
use crate::motion::transition::INSTANT;
use crate::settings::follow::Follow;

use super::change::MAX_RATE;
use super::framing::Framing;
use super::ride::Ride;

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
    /// By how much it is let out on each side, to reach a range that it is turned against.
    pub let_out: DVec2,
    /// The lens an instant later, while it moves. The end of the leash moves with it.
    pub later: Option<Lens>,
}

impl Tether {
    /// Returns the leash of a subject, if there are both.
    pub fn new(framing: &Framing, is_free: bool, subject: Option<SubjectNow>) -> Option<Self> {
        let (leash, subject) = framing.follow.leash.zip(subject)?;
        Some(Self { leash, subject, is_free, let_out: DVec2::ZERO, later: None })
    }

    /// Returns a focus as the leash with some slack pulls it, moving as the leash's end does, or `None` if it does not
    /// pull.
    fn pull(&self, framing: &Framing, focus: &Moving, slack: DVec2) -> Option<Moving> {
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
        let [low, high] = self.ends(follow, lens, view, slack);
        let mut pulled = before.max(low).min(high);
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

    /// Returns the least and the greatest coordinates at which the leash lets the focus be, along the axes of the screen.
    fn ends(&self, follow: &Follow, lens: &Lens, view: DVec2, slack: DVec2) -> [DVec2; 2] {
        let subject = lens.to_screen_orientation(self.subject.position);
        let [before, after] = self
            .leash
            .lengths(follow.anchor, view)
            .map(|length| (length + self.let_out).max(slack));
        [subject - after, subject + before]
    }

    /// Returns where the leash lets a focus be in a turned view. On an axis that is not followed it is a view to each side of
    /// it.
    fn turned_box<'a>(&self, framing: &'a Framing, focus: DVec2, slack: DVec2) -> TurnedBox<'a> {
        let Framing { follow, lens, view, .. } = framing;
        let [mut low, mut high] = self.ends(follow, lens, *view, slack);
        let focus = lens.to_screen_orientation(focus);
        for axis in (0..2).filter(|axis| !follow.axes.has(*axis)) {
            (low[axis], high[axis]) = (focus[axis] - view[axis], focus[axis] + view[axis]);
        }
        TurnedBox::new(lens, [low, high])
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

    /// Limits the focus of following: by the leash and by the range.
    #[inline]
    pub fn limit_following(&mut self, framing: &Framing, tether: Option<&Tether>) {
        if let Some(room) = &mut self.room {
            room.arrived = room.arrived || has_reached(room, framing, self.focus.position);
        }
        let range = self.range(framing, self.focus.position);
        (self.focus, self.on_leash) = limited(framing, &range, tether, self.focus, DVec2::ZERO);
    }

    /// Returns the allowed range of the centre for a focus of following.
    #[inline]
    pub fn range(&self, framing: &Framing, focus: DVec2) -> Rect {
        let barrier = self.picture.barrier_for(framing, focus);
        range(framing, self.room.as_ref(), barrier.as_ref())
    }
}

/// Keeps a focus on the leash, with some slack, and in the allowed range of the centre, which always wins. Returns also
/// whether the leash pulled, per axis of the screen.
#[inline]
pub(super) fn limited(
    framing: &Framing,
    range: &Rect,
    tether: Option<&Tether>,
    free: Moving,
    slack: DVec2,
) -> (Moving, [bool; 2]) {
    match tether.filter(|tether| !tether.is_free) {
        Some(tether) if framing.lens.is_rotated() => {
            limited_turned(framing, range, tether, free, slack)
        }
        tether => {
            let (pulled, on_leash) = on_leash(tether, framing, free, slack);
            (in_range(range, framing.offset, pulled), on_leash)
        }
    }
}

/// Does the same where leash and range are turned against each other: the leash is let out until it reaches the range.
#[cold]
fn limited_turned(
    framing: &Framing,
    range: &Rect,
    tether: &Tether,
    free: Moving,
    slack: DVec2,
) -> (Moving, [bool; 2]) {
    let of_focus = Rect { min: range.min + framing.offset, max: range.max + framing.offset };
    let let_out = tether.turned_box(framing, free.position, DVec2::ZERO).lacks(&of_focus);
    let tether = &Tether { let_out, ..*tether };
    let (pulled, on_leash) = on_leash(Some(tether), framing, free, slack);
    let mut focus = in_range(range, framing.offset, pulled);
    if focus.position != pulled.position {
        let held = tether.turned_box(framing, free.position, slack);
        focus.position = held.nearest_in(&of_focus, free.position);
    }
    (focus, on_leash)
}

/// Keeps a focus on the leash. Returns also whether it pulled, per axis of the screen.
#[inline]
fn on_leash(
    tether: Option<&Tether>,
    framing: &Framing,
    focus: Moving,
    slack: DVec2,
) -> (Moving, [bool; 2]) {
    let pulled = tether.and_then(|tether| tether.pull(framing, &focus, slack));
    let Some(pulled) = pulled else { return (focus, [false; 2]) };
    let moved = framing.lens.to_screen_orientation(pulled.position - focus.position).abs();
    (pulled, [moved.x > ROUNDING, moved.y > ROUNDING])
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
