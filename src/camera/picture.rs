//! What the player sees instead of following: a hand, changes that fade, the line of a ratchet.

use glam::DVec2;

use crate::base::rect::Rect;
use crate::base::sound::sound;
use crate::camera::hand::Hand;
use crate::limits::ratchet::Barrier;
use crate::motion::motion::Moving;
use crate::motion::transition::{Transition, Transitions};

use super::framing::Framing;
use super::limits::{Tether, limited, range};
use super::ride::Ride;

/// The part of a ride that is shown and is not that of following.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Picture {
    pub hand: Hand,
    /// The focus that is shown while a hand controls the view.
    pub hand_focus: DVec2,
    /// Changes of the focus that fade.
    pub fades: Transitions<DVec2>,
    /// The extra length of the leash, in world units along the axes of the screen.
    pub slack: DVec2,
    pub barrier: Option<Barrier>,
    /// The edge that was shown in the last frame, for a ratchet.
    pub edge: Option<Barrier>,
    /// The focus that was shown before the last frame that took time, and that time in seconds.
    pub before: (DVec2, f64),
}

sound!(Picture { hand, hand_focus, fades, slack, barrier, edge, before });

/// A line that is farther on than the picture's edge by more than this, in screen pixels, was pushed back. Less is
/// rounding.
const PUSHED_PIXELS: f64 = 1e-6;

/// Returns the edge of a picture behind which a ratchet does not go back, if there is one.
pub(super) fn edge_behind(framing: &Framing, centre: DVec2) -> Option<Barrier> {
    let visible = Rect::around(centre, framing.half);
    Barrier::behind(framing.follow.ratchet, &visible, framing.lens.y_axis())
}

impl Ride {
    /// Returns the shown focus.
    #[inline]
    pub fn shown_focus(&self, framing: &Framing, tether: Option<&Tether>) -> DVec2 {
        let Self { focus, picture, .. } = self;
        if picture.shows_following() {
            return focus.position;
        }
        picture.limited(framing, focus.position, tether)
    }

    /// Returns the centre of the picture. A picture on its way into a room is not limited to it.
    #[inline]
    pub fn centre(&self, framing: &Framing, tether: Option<&Tether>) -> DVec2 {
        let centre = self.shown_focus(framing, tether) - framing.offset;
        let room = self.room.as_ref().filter(|_| self.picture.shows_following());
        // Limits once more, because adding and subtracting the anchor may change the last bit.
        range(framing, room, self.picture.shown_line().as_ref()).nearest(centre)
    }
}

impl Picture {
    /// Shows following at a position.
    pub fn at(position: DVec2) -> Self {
        Self {
            hand: Hand::Off,
            hand_focus: position,
            fades: Transitions::default(),
            slack: DVec2::ZERO,
            barrier: None,
            edge: None,
            before: (position, 0.0),
        }
    }

    /// Returns whether the picture is exactly where following is.
    #[inline]
    pub fn shows_following(&self) -> bool {
        self.hand == Hand::Off && self.fades.is_empty()
    }

    /// Returns the source of the shown focus: following or the hand.
    #[inline]
    fn source(&self, focus: DVec2) -> DVec2 {
        if self.hand == Hand::Off { focus } else { self.hand_focus }
    }

    /// Lets a change of the focus fade.
    pub fn add_fade(&mut self, fade: Transition<DVec2>, focus: DVec2) {
        self.fades.add(fade, self.source(focus));
    }

    /// Returns the source plus the remaining difference of each change, before the limits.
    #[inline]
    pub fn faded(&self, focus: DVec2) -> DVec2 {
        self.fades.shown(self.source(focus))
    }

    /// Returns the shown focus in a hand, or while changes are under way.
    #[cold]
    #[inline(never)]
    fn limited(&self, framing: &Framing, focus: DVec2, tether: Option<&Tether>) -> DVec2 {
        let shown = self.faded(focus);
        let free = self.hand != Hand::Off && !self.hand.is_leashed();
        let still = Moving { position: shown, velocity: DVec2::ZERO };
        let range = framing.range_before(self.barrier.as_ref());
        limited(framing, &range, tether.filter(|_| !free), still, self.slack).0.position
    }

    /// Returns the line that a ratcheted picture has passed, as it limits following.
    #[inline]
    pub fn barrier_for(&self, framing: &Framing, focus: DVec2) -> Option<Barrier> {
        let barrier = self.barrier?;
        let fades = self.hand == Hand::Off && !self.fades.is_empty();
        Some(if fades { self.barrier_before(barrier, framing, focus) } else { barrier })
    }

    /// Returns the line as it limits the source while changes are under way: farther back by as much as the picture is
    /// ahead. Otherwise the picture would push its own source.
    fn barrier_before(&self, barrier: Barrier, framing: &Framing, source: DVec2) -> Barrier {
        if self.fades.is_empty() {
            return barrier;
        }
        let axis = usize::from(barrier.is_across_y());
        // The fraction of the source's movement that the picture makes, which is below 1 in an eased change.
        let shown = self.fades.shown(source)[axis];
        let share = self.fades.shown(source + 1.0)[axis] - shown;
        let line = barrier.centre_at(framing.half) + framing.offset[axis];
        let way = source[axis] + (line - shown) / share.max(1e-6) - line;
        // An eased change may start beyond the line. With its source at the line, it stays there.
        let needless = share < 1.0 - 1e-9 && barrier.is_onwards(way);
        if needless { barrier } else { barrier.moved_by(way) }
    }

    /// Moves the hand's focus to where the hand wants it, within the range.
    #[inline]
    pub fn limit_hand(&mut self, framing: &Framing) {
        let Some(wanted) = self.hand.focus(&framing.lens, framing.offset, self.hand_focus) else {
            return;
        };
        let line = |barrier| self.barrier_before(barrier, framing, wanted);
        let barrier = self.barrier.map(line);
        let range = framing.range_before(barrier.as_ref());
        let focus = range.nearest(wanted - framing.offset) + framing.offset;
        if focus.is_finite() {
            self.hand_focus = focus;
        }
    }

    /// Gives the view to a hand, at rest, at the shown focus.
    pub fn take_in_hand(&mut self, hand: Hand, shown: DVec2) {
        self.hand_focus = shown;
        self.fades.clear();
        self.hand = hand;
    }

    /// Keeps the hand's focus in the picture although the point at the anchor moves by `moved` from the centre.
    pub fn carry_hand(&mut self, moved: DVec2) {
        self.fades.translate(moved);
        if self.hand != Hand::Off {
            self.hand_focus += moved;
        }
    }

    /// Shortens the leash to `length` if that is shorter. In a player's hand, and while the subject is free from it, it
    /// lengthens again.
    pub fn take_in_leash(&mut self, length: DVec2, is_free: bool) {
        let lets_out = is_free || (self.hand != Hand::Off && !self.hand.is_leashed());
        self.slack = if lets_out { length } else { length.min(self.slack) };
    }

    /// Lengthens the leash to the present distance, at a change.
    pub fn let_leash_out(&mut self, framing: &Framing, focus: DVec2, tether: Option<&Tether>) {
        if let Some(tether) = tether {
            self.slack = tether.length(&framing.lens, self.faded(focus));
        }
    }

    /// Moves a ratchet's line up to the edge of the picture. Bounds that push the picture back behind the line, which
    /// only they can, push the line back, too: once they let go, the picture would jump to it.
    #[inline]
    pub fn advance_barrier(&mut self, framing: &Framing, centre: DVec2) {
        let edge = edge_behind(framing, centre);
        let pushed = |edge: &Barrier, line: &Barrier| {
            edge.behind_by(line) * framing.lens.scale() > PUSHED_PIXELS
        };
        self.barrier = match (edge, self.barrier) {
            (Some(edge), Some(line)) if pushed(&edge, &line) => {
                self.edge = None;
                Some(edge)
            }
            (edge, line) => edge.map(|edge| edge.after(line)),
        };
    }

    /// Remembers the edge that is shown, which does not go back behind the one before, unless a ratchet's line was taken back
    /// since it was at `before`. The line itself knows only the times of the grid.
    pub fn keep_edge(
        &mut self,
        shown: Option<Barrier>,
        last: Option<Barrier>,
        before: Option<Barrier>,
    ) {
        let Some(line) = self.barrier else { return self.edge = None };
        let is_taken_back = before.is_none_or(|before| before.after(Some(line)) != line);
        let edge = shown.map_or(line, |shown| shown.after(Some(line)));
        self.edge = Some(edge.after(last.filter(|_| !is_taken_back)));
    }

    /// Lets a ratchet begin anew.
    pub fn forget_line(&mut self) {
        self.barrier = None;
        self.edge = None;
    }

    /// Returns the line that limits what is shown: a ratchet's, or the edge that was shown, whichever is farther on.
    #[inline]
    pub fn shown_line(&self) -> Option<Barrier> {
        self.barrier.map(|line| line.after(self.edge))
    }

    pub fn translate(&mut self, delta: DVec2) {
        self.hand_focus += delta;
        self.before.0 += delta;
        self.fades.translate(delta);
        self.hand.translate(delta);
        if let Some(barrier) = &mut self.barrier {
            barrier.translate(delta);
        }
        if let Some(edge) = &mut self.edge {
            edge.translate(delta);
        }
    }
}
