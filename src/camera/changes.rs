//! Changes at one moment: the difference between the old and the new picture fades.

use glam::{DVec2, DVec4};

use crate::camera::hand::Hand;
use crate::goal::subject::{Stride, Subject};
use crate::motion::transition::Transition;
use crate::units::ease::Ease;
use crate::units::rect::Rect;

use super::Camera;
use super::lens_step::Framing;
use super::state::Timing;

/// The picture at a moment, or its rate of change.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Picture {
    centre: DVec2,
    /// Half the size of the upright visible rectangle.
    half: DVec2,
    /// The natural logarithm of the zoom.
    zoom: f64,
    rotation: f64,
}

impl Picture {
    /// Centre, logarithm of the zoom, rotation.
    pub fn numbers(&self) -> DVec4 {
        DVec4::new(self.centre.x, self.centre.y, self.zoom, self.rotation)
    }
}

/// The position of a subject at a moment, and its velocity.
pub(super) type Standing = (DVec2, DVec2);

/// The time over which a velocity is measured, in seconds.
pub(super) const INSTANT: f64 = 1.0 / 65536.0;

/// A smaller difference than this, in screen pixels, is no change.
const NOTHING: f64 = 1e-6;

/// The greatest velocity that a change keeps, in views per second, and in natural logarithms of the zoom per second.
/// At this velocity the picture moves by one view, or zooms by a factor of e, before it has faded.
const FASTEST: f64 = 37.0;

impl Camera {
    /// Makes a change that takes the given time. `alter` makes it, and `place` then puts following into its new
    /// position. The picture keeps its position and its velocity, and the difference fades. At 0 seconds it is a cut.
    pub(super) fn change(
        &mut self,
        timing: Timing,
        alter: impl FnOnce(&mut Self),
        place: impl FnOnce(&mut Self),
    ) {
        if timing.seconds <= 0.0 {
            alter(self);
            self.refresh_framing();
            place(self);
            return self.refresh();
        }
        let (before, pace) = (self.picture(), self.pace());
        let anchor = self.framing.follow.anchor;
        self.make_room();
        alter(self);
        self.refresh_framing();
        self.let_edges_out(&before, &pace, timing);
        self.fade_lens(&before, &pace, timing);
        self.keep_held(anchor);
        place(self);
        self.limit_following(self.subject_now());
        self.hold();
        self.fade_focus(&before, &pace, timing);
        self.let_leash_out();
        self.refresh();
    }

    /// Changes following. It stays as far behind its goal as before.
    pub(super) fn change_following(&mut self, seconds: f64, alter: impl FnOnce(&mut Self)) {
        let goal = self.shaped_goal();
        self.change(Timing::smooth(seconds), alter, |camera| camera.follow_along(goal));
    }

    /// Computes the goal again at the subject's position. The focus moves by the same amount.
    fn follow_along(&mut self, before: DVec2) {
        let stride = self.subject_now().map(|(at, pace)| Stride::straight(at, at, [pace; 2]));
        let course = self.goal_course(stride.as_ref(), 0.0);
        let moved = course.end() - before;
        if moved.is_finite() {
            self.state.ride.focus.position += moved;
        }
    }

    fn make_room(&mut self) {
        self.state.lens.transitions.make_room();
        self.state.ride.picture.fades.make_room();
        self.state.limits.edges.make_room();
    }

    /// Widens tightened bounds by as much as the view lies outside them.
    fn let_edges_out(&mut self, before: &Picture, pace: &Picture, timing: Timing) {
        let Some(bounds) = &self.framing.bounds else { return };
        let seen = Rect::around(before.centre, before.half);
        let lens = self.framing.lens.with_zoom(libm::exp(before.zoom));
        let held = bounds.centre_range(&lens).nearest(before.centre);
        let fills = self.rules.settings.zoom.fill_bounds;
        let beside = |axis: usize| fills || held[axis] != before.centre[axis];
        let (low, high) = (bounds.rect.min - seen.min, seen.max - bounds.rect.max);
        // The outward speed of the view's edges.
        let grows = before.half * -pace.zoom;
        let (low_pace, high_pace) = (grows - pace.centre, grows + pace.centre);
        let mut gap = DVec4::ZERO;
        let mut speed = DVec4::ZERO;
        for axis in (0..2).filter(|axis| beside(*axis)) {
            for (edge, out, pace) in
                [(axis, low[axis], low_pace[axis]), (axis + 2, high[axis], high_pace[axis])]
            {
                if out > 0.0 {
                    (gap[edge], speed[edge]) = (out, pace.max(0.0));
                }
            }
        }
        if gap != DVec4::ZERO && gap.is_finite() && speed.is_finite() {
            self.state.limits.edges.add(Transition::smooth(gap, speed, timing.seconds));
            self.refresh_framing();
        }
    }

    fn fade_lens(&mut self, before: &Picture, pace: &Picture, timing: Timing) {
        let now = self.picture();
        let pixels = self.framing.lens.size().as_dvec2().length();
        let gap = before.zoom - now.zoom;
        let transition = if timing.ease == Ease::Smooth {
            let faster = pace.zoom - self.pace().zoom;
            if (gap.abs() + faster.abs()) * pixels < NOTHING {
                return;
            }
            Transition::smooth(gap, faster, timing.seconds)
        } else {
            if gap.abs() * pixels < NOTHING {
                return;
            }
            Transition::eased(before.zoom, timing.seconds, timing.ease)
        };
        self.state.lens.transitions.add(transition);
        self.refresh_framing();
    }

    /// Keeps a held position in the picture although the anchor changes.
    fn keep_held(&mut self, anchor: DVec2) {
        if self.framing.follow.anchor == anchor {
            return;
        }
        let moved = self.framing.offset - self.framing.lens.anchor_offset(anchor);
        self.state.ride.picture.fades.translate(moved);
        if self.state.ride.picture.hand != Hand::Off {
            self.state.ride.picture.held += moved;
        }
    }

    fn fade_focus(&mut self, before: &Picture, pace: &Picture, timing: Timing) {
        let was = before.centre + self.framing.offset;
        let transitions = &self.state.ride.picture.fades;
        let gap = was - transitions.shown(self.source());
        if !gap.is_finite() {
            return;
        }
        let transition = if timing.ease == Ease::Smooth {
            let faster = pace.centre - self.pace().centre;
            let faster = if faster.is_finite() { faster } else { DVec2::ZERO };
            if (gap.length() + faster.length()) * self.framing.lens.scale() < NOTHING {
                return;
            }
            Transition::smooth(gap, faster, timing.seconds)
        } else {
            Transition::eased(was, timing.seconds, timing.ease)
        };
        self.state.ride.picture.fades.add(transition);
    }

    /// Corrects the newest transition when a subject, whose velocity was unknown at the last change, turns out to have
    /// one.
    pub(super) fn learn_velocity(&mut self, stride: &Stride) {
        if self.state.ride.picture.fades.newest().is_none() {
            return;
        }
        let at = stride.from;
        let pace_of = |camera: &mut Self, velocity: DVec2| {
            camera.moment = Some(Some((at, velocity)));
            camera.pace().centre
        };
        let faster = pace_of(self, stride.velocity[0]) - pace_of(self, DVec2::ZERO);
        self.moment = None;
        self.learn(faster);
    }

    /// Does the same for a new member of a party.
    pub(super) fn learn_velocities(&mut self, subjects: &[Subject], seconds: f64) {
        if self.state.ride.picture.fades.newest().is_none() || seconds <= 0.0 {
            return;
        }
        let before = self.pace().centre;
        self.state.goal.party.learn_velocities(subjects, seconds);
        let faster = self.pace().centre - before;
        self.learn(faster);
    }

    fn learn(&mut self, faster: DVec2) {
        let newest = self.state.ride.picture.fades.newest();
        if let Some(newest) = newest.filter(|_| faster.is_finite()) {
            newest.learn(faster);
        }
    }

    // The shown picture and its rate of change.

    pub(super) fn picture(&self) -> Picture {
        let zoom = libm::log(self.framing.lens.zoom());
        let Framing { lens, half, .. } = &self.framing;
        Picture { centre: self.centre(), half: *half, zoom, rotation: lens.rotation() }
    }

    /// Returns the rate of change of the picture from this moment on, if nothing else happens. It is measured by
    /// running an instant.
    pub(super) fn pace(&mut self) -> Picture {
        let before = (self.state, self.framing, self.moment);
        let share = core::mem::replace(&mut self.scroll_share, 1.0);
        self.moment = Some(self.subject_now());
        let mut seen = [Picture::default(); 3];
        for picture in &mut seen {
            self.let_an_instant_pass();
            *picture = self.picture();
        }
        (self.state, self.framing, self.moment) = before;
        self.scroll_share = share;
        let [one, two, three] = seen;
        // A stage that comes to rest in between counts as standing.
        let rate = |one: f64, two: f64, three: f64| {
            let (first, second) = (two - one, three - two);
            if first.abs() < second.abs() { first / INSTANT } else { second / INSTANT }
        };
        let axis = |axis: usize| rate(one.centre[axis], two.centre[axis], three.centre[axis]);
        let most = self.framing.view * FASTEST;
        let centre = DVec2::new(axis(0), axis(1)).clamp(-most, most);
        Picture {
            centre: if centre.is_nan() { DVec2::ZERO } else { centre },
            zoom: finite(rate(one.zoom, two.zoom, three.zoom)).clamp(-FASTEST, FASTEST),
            rotation: finite(rate(one.rotation, two.rotation, three.rotation)),
            half: DVec2::ZERO,
        }
    }

    fn let_an_instant_pass(&mut self) {
        let stride = self.stride_of_instant();
        if self.lens_moves() {
            self.move_lens(INSTANT);
        }
        self.follow_leg(stride, INSTANT);
        self.moment = Some(stride.map(|stride| (stride.to, stride.velocity[1])));
    }

    fn stride_of_instant(&mut self) -> Option<Stride> {
        let subject = self.subject_now();
        let mut party = self.state.goal.party;
        let mut stride =
            subject.map(|(at, pace)| Stride::straight(at, at + pace * INSTANT, [pace; 2]));
        if party.is_several() {
            party.coast(INSTANT);
            let point = party.come_together(&self.party_frame(), Some(INSTANT));
            let ways = subject.zip(point).filter(|((at, _), to)| at.is_finite() && to.is_finite());
            stride = ways.map(|((at, _), to)| Stride::straight(at, to, [DVec2::ZERO; 2]));
        } else if party.is_empty() {
            party.advance_alone(INSTANT, &self.party_frame());
        } else {
            party.coast(INSTANT);
            party.come_together(&self.party_frame(), Some(INSTANT));
        }
        self.state.goal.party = party;
        stride
    }

    /// Returns the position and the velocity of the followed subject at this moment, within a step or between two
    /// frames.
    pub(super) fn subject_now(&self) -> Option<Standing> {
        let track = &self.state.goal.track;
        self.moment.unwrap_or_else(|| track.last().map(|last| (last, track.pace())))
    }
}

fn finite(number: f64) -> f64 {
    if number.is_finite() { number } else { 0.0 }
}
