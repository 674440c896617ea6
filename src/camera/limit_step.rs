//! The limits of a leg: the leash, then the allowed range of the view's centre.

use glam::DVec2;

use crate::camera::hand::Hand;
use crate::goal::subject::Stride;
use crate::limits::last_word::{Decider, LastWord};
use crate::limits::ratchet::{Barrier, Ratchet};
use crate::motion::motion::Moving;
use crate::units::per_axis::PerAxis;
use crate::units::rect::Rect;

use super::Camera;
use super::changes::Standing;
use super::lens_step::Framing;
use super::state::Ride;

impl Camera {
    /// Limits following, the hand and the picture at the end of a leg. `subject` is the followed one, with its
    /// velocity.
    #[inline]
    pub(super) fn limit(&mut self, subject: Option<Standing>) {
        self.limit_following(subject);
        self.hold();
        self.take_in_leash(subject);
        self.advance_barrier();
    }

    /// Limits the focus of following: first by the leash, then by the range.
    #[inline]
    pub(super) fn limit_following(&mut self, subject: Option<Standing>) {
        if let Some((subject, velocity)) = subject {
            self.stay_on_leash(subject, velocity);
        }
        self.arrive_in_room();
        self.stay_in_range();
    }

    /// Whether bounds or a ratchet exclude anything.
    #[inline]
    pub(super) fn is_bounded(&self) -> bool {
        self.framing.bounds.is_some() || self.state.ride.picture.barrier.is_some()
    }

    /// Whether leash or ratchet would have acted within the leg that ended here. The leg must then be run in small
    /// steps.
    #[inline]
    pub(super) fn is_limited(&self, stride: Option<&Stride>, before: &Moving) -> bool {
        if self.framing.follow.leash.is_none() && self.state.ride.picture.barrier.is_none() {
            return false;
        }
        self.goes_back(before) || stride.is_some_and(|stride| self.is_led(stride))
    }

    /// Whether the leash pulls the view along, within the allowed range.
    fn is_led(&self, stride: &Stride) -> bool {
        let Some(held) = self.leashed(stride.to, stride.velocity[1]) else { return false };
        let led = self.range().nearest(self.centre_of(held.position));
        let still = self.centre_of(self.state.ride.focus.position);
        (led - still).abs().max_element() > ROUNDING
    }

    /// Whether the view moved back against its ratchet, or may have done so on the way.
    fn goes_back(&self, before: &Moving) -> bool {
        let Some(barrier) = &self.state.ride.picture.barrier else { return false };
        let focus = &self.state.ride.focus;
        let centre = self.centre_of(focus.position);
        barrier.is_behind(focus.velocity)
            || barrier.is_behind(before.velocity)
            || barrier.is_behind(focus.position - before.position)
            || self.range().nearest(centre) != centre
    }

    /// Keeps following on the leash.
    #[inline]
    fn stay_on_leash(&mut self, subject: DVec2, velocity: DVec2) {
        if self.framing.follow.leash.is_none() {
            return;
        }
        let held = self.leashed(subject, velocity);
        let moved = held.map_or(DVec2::ZERO, |held| held.position - self.state.ride.focus.position);
        let moved = self.framing.lens.screen_aligned(moved).abs();
        self.state.ride.on_leash = [moved.x > ROUNDING, moved.y > ROUNDING];
        self.state.ride.focus = held.unwrap_or(self.state.ride.focus);
    }

    /// Whether the picture is exactly where following is.
    #[inline]
    fn shows_following(&self) -> bool {
        self.state.ride.picture.hand == Hand::Off && self.state.ride.picture.fades.is_empty()
    }

    /// Lengthens the leash of the picture to the current distance, at a change.
    pub(super) fn let_leash_out(&mut self) {
        if let (Some(_), Some((subject, _))) = (self.framing.follow.leash, self.subject_now()) {
            self.state.ride.picture.slack = self.distance(subject, self.shown_focus());
        }
    }

    /// Shortens that leash as the distance decreases; in a player's hand it lengthens again.
    #[inline]
    fn take_in_leash(&mut self, subject: Option<Standing>) {
        if self.shows_following() {
            self.state.ride.picture.slack = DVec2::ZERO;
            return;
        }
        let (Some(_), Some((subject, _))) = (self.framing.follow.leash, subject) else { return };
        let now = self.distance(subject, self.focus());
        let let_out = self.state.ride.picture.hand != Hand::Off && !self.is_leashed_in_hand();
        let slack = &mut self.state.ride.picture.slack;
        *slack = if let_out { now } else { now.min(*slack) };
    }

    /// The distance from a focus to the subject, per axis of the screen, in world units.
    fn distance(&self, subject: DVec2, focus: DVec2) -> DVec2 {
        self.framing.lens.screen_aligned(subject - focus).abs()
    }

    /// A focus that is shown and is not that of following, on the leash at its current length.
    pub(super) fn leash_picture(&self, focus: DVec2) -> DVec2 {
        let follow = &self.framing.follow;
        let Some(leash) = follow.leash.filter(|_| !self.is_off_leash()) else { return focus };
        let Some((subject, _)) = self.subject_now() else { return focus };
        let Framing { lens, view, .. } = &self.framing;
        let before = lens.screen_aligned(focus);
        let slack = self.state.ride.picture.slack;
        let level = lens.screen_aligned(subject);
        let held = leash.clamp_with_slack(before, level, follow.anchor, *view, slack);
        let pick = |axis: usize| {
            let stays = !follow.axes.has(axis) || (held[axis] - before[axis]).abs() <= ROUNDING;
            if stays { before[axis] } else { held[axis] }
        };
        lens.world_aligned(DVec2::new(pick(0), pick(1)))
    }

    /// The focus as pulled by the leash, moving at the subject's speed, or `None` if the leash does not pull.
    #[inline]
    pub(super) fn leashed(&self, subject: DVec2, velocity: DVec2) -> Option<Moving> {
        let follow = &self.framing.follow;
        let leash = follow.leash.filter(|_| !self.is_off_leash())?;
        let Framing { lens, view, .. } = &self.framing;
        let before = lens.screen_aligned(self.state.ride.focus.position);
        let level = lens.screen_aligned(subject);
        let mut held = leash.clamp(before, level, follow.anchor, *view);
        let mut speed = lens.screen_aligned(self.state.ride.focus.velocity);
        let subject_speed = lens.screen_aligned(velocity);
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

    /// Keeps following in the allowed range, which always wins.
    #[inline]
    fn stay_in_range(&mut self) {
        if !self.is_bounded() && self.state.ride.room.is_none() {
            return;
        }
        let offset = self.framing.offset;
        let centre = self.centre_of(self.state.ride.focus.position);
        let allowed = self.range().nearest(centre);
        if allowed != centre {
            self.state.ride.focus.position = allowed + offset;
            let outward = (centre - allowed) * self.state.ride.focus.velocity;
            let speed = &mut self.state.ride.focus.velocity;
            speed.x = if outward.x > 0.0 { 0.0 } else { speed.x };
            speed.y = if outward.y > 0.0 { 0.0 } else { speed.y };
        }
    }

    #[inline]
    fn advance_barrier(&mut self) {
        if self.rules.settings.follow.ratchet == Ratchet::None {
            return;
        }
        let visible = Rect::around(self.centre(), self.framing.half);
        let y_axis = self.rules.settings.screen.y_axis;
        let edge = Barrier::behind(self.rules.settings.follow.ratchet, &visible, y_axis);
        self.state.ride.picture.barrier =
            edge.map(|edge| edge.after(self.state.ride.picture.barrier));
    }

    /// The allowed range of the centre for following.
    #[inline]
    pub(super) fn range(&self) -> Rect {
        if self.state.ride.picture.barrier.is_none() && self.state.ride.room.is_none() {
            return self.framing.range;
        }
        self.within_room(self.framing.range_before(self.barrier_of_following().as_ref()))
    }

    /// The part of a range that is inside the room, once the view has reached it.
    fn within_room(&self, range: Rect) -> Rect {
        let Some(room) = self.state.ride.room.filter(|room| room.arrived) else { return range };
        let own = self.room_range(&room);
        Rect { min: range.nearest(own.min), max: range.nearest(own.max) }
    }

    /// The allowed range of the snapped picture's centre. A ratchet's line, and a room with less than a pixel to
    /// spare, do not limit fractions of a pixel.
    #[inline]
    pub(super) fn snapping_range(&self) -> Rect {
        if self.state.ride.room.is_none() || !self.shows_following() {
            return self.framing.range;
        }
        self.range_snapped_in_room()
    }

    fn range_snapped_in_room(&self) -> Rect {
        let mut range = self.framing.range;
        let room = self.within_room(range);
        let spare = (room.max - room.min) * self.framing.lens.scale();
        for axis in (0..2).filter(|axis| spare[*axis] >= 1.0) {
            (range.min[axis], range.max[axis]) = (room.min[axis], room.max[axis]);
        }
        range
    }

    /// The line that a ratcheted picture has passed, as it limits following.
    #[inline]
    pub(super) fn barrier_of_following(&self) -> Option<Barrier> {
        let Ride { focus, picture, .. } = &self.state.ride;
        let barrier = picture.barrier?;
        if picture.hand != Hand::Off {
            return Some(barrier);
        }
        Some(self.barrier_before(barrier, focus.position))
    }

    /// The line as it limits the source while changes are under way: farther back by as much as the picture is ahead.
    /// Otherwise the picture would push its own source.
    #[inline]
    pub(super) fn barrier_before(&self, barrier: Barrier, source: DVec2) -> Barrier {
        let transitions = &self.state.ride.picture.fades;
        if transitions.is_empty() {
            return barrier;
        }
        let Framing { half, offset, .. } = &self.framing;
        let axis = usize::from(barrier.is_across_y());
        // The fraction of the source's movement that the picture makes, which is below 1 in an eased change.
        let shown = transitions.shown(source)[axis];
        let share = transitions.shown(source + 1.0)[axis] - shown;
        let line = barrier.centre_at(*half) + offset[axis];
        let way = source[axis] + (line - shown) / share.max(1e-6) - line;
        // An eased change may start beyond the line. With its source at the line, it stays there.
        let needless = share < 1.0 - 1e-9 && barrier.is_onwards(way);
        if needless { barrier } else { barrier.moved_by(way) }
    }

    /// Returns the stage that decides where the view is, per axis of the world, and the speed of the view. It tells
    /// why a view does not follow. In a rotated view a leash counts on both axes.
    ///
    /// ```
    /// use velvet_pan::{Bounds, Camera, Decider, Rect, Settings};
    ///
    /// let bounds = Some(Bounds::new(Rect::new([0, 0], [1000, 180])));
    /// let mut camera = Camera::new(Settings { bounds, ..Settings::default() })?;
    /// camera.follow(0.0, [300, 90]);
    /// camera.follow(0.1, [310, 90]);
    /// let word = camera.last_word();
    /// assert_eq!((word.x.by, word.x.velocity), (Decider::Motion, 100.0));
    /// assert_eq!((word.y.by, word.y.velocity), (Decider::Bounds, 0.0));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn last_word(&self) -> PerAxis<LastWord> {
        PerAxis { x: self.last_word_on(0), y: self.last_word_on(1) }
    }

    fn last_word_on(&self, axis: usize) -> LastWord {
        let Ride { on_leash, picture, .. } = &self.state.ride;
        let turned = self.framing.lens.is_rotated();
        let leashed = on_leash[axis] || (turned && *on_leash != [false; 2]);
        let (before, seconds) = picture.before;
        let moved = (self.focus() - before)[axis];
        let velocity = if seconds > 0.0 { moved / seconds } else { 0.0 };
        let still = |by| LastWord { by, velocity: 0.0 };
        match self.edge_on(axis) {
            _ if picture.hand != Hand::Off => still(Decider::Hand),
            _ if !turned && !self.framing.follow.axes.has(axis) => still(Decider::Locked),
            Some(edge) => still(edge),
            None if leashed => LastWord { by: Decider::Leash, velocity },
            None => LastWord { by: Decider::Motion, velocity },
        }
    }

    /// The edge of the allowed range at which the view is, on an axis.
    fn edge_on(&self, axis: usize) -> Option<Decider> {
        let centre = self.centre()[axis];
        let at = |range: &Rect| centre == range.min[axis] || centre == range.max[axis];
        if self.framing.bounds.is_some() && at(&self.framing.range) {
            return Some(Decider::Bounds);
        }
        if at(&self.framing.range_before(self.state.ride.picture.barrier.as_ref())) {
            return Some(Decider::Barrier);
        }
        let room = self.state.ride.room.filter(|room| room.arrived);
        room.filter(|room| at(&self.room_range(room))).map(|_| Decider::Room)
    }

    /// The source of the focus: following or the hand.
    #[inline]
    pub(super) fn source(&self) -> DVec2 {
        let Ride { focus, picture, .. } = &self.state.ride;
        if picture.hand == Hand::Off { focus.position } else { picture.held }
    }

    /// The source plus the remaining difference of each change, before the limits.
    #[inline]
    fn shown_focus(&self) -> DVec2 {
        self.state.ride.picture.fades.shown(self.source())
    }

    /// The shown focus.
    #[inline]
    pub(super) fn focus(&self) -> DVec2 {
        if self.shows_following() { self.state.ride.focus.position } else { self.faded_focus() }
    }

    /// The shown focus in a hand, or while changes are under way.
    #[cold]
    #[inline(never)]
    fn faded_focus(&self) -> DVec2 {
        let shown = self.shown_focus();
        let free = self.state.ride.picture.hand != Hand::Off && !self.is_leashed_in_hand();
        let shown = if free { shown } else { self.leash_picture(shown) };
        let range = self.framing.range_before(self.state.ride.picture.barrier.as_ref());
        let centre = range.nearest(self.centre_of(shown));
        centre + self.framing.offset
    }

    #[inline]
    pub(super) fn centre_of(&self, focus: DVec2) -> DVec2 {
        focus - self.framing.offset
    }

    #[inline]
    pub(super) fn centre(&self) -> DVec2 {
        if !self.is_bounded() && self.state.ride.room.is_none() {
            return self.centre_of(self.focus());
        }
        // Limits once more, because adding and subtracting the anchor may change the last bit.
        self.picture_range().nearest(self.centre_of(self.focus()))
    }

    /// The allowed range of the picture's centre. On its way into a room, the picture is not limited to it.
    #[inline]
    pub(super) fn picture_range(&self) -> Rect {
        if self.shows_following() {
            return self.range();
        }
        self.framing.range_before(self.state.ride.picture.barrier.as_ref())
    }
}

/// A leash that pulls by less than this, in world units, has not pulled: it is rounding.
pub(super) const ROUNDING: f64 = 1e-9;
