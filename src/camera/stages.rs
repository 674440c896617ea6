//! The stages of a frame, in order: lens, goal, motion, allowed range.

use glam::DVec2;

use super::framing::Framing;
use super::{Camera, Fresh};
use crate::camera::hands::Hand;
use crate::goal::subject::{Stride, Subject};
use crate::limits::ratchet::{Barrier, Ratchet};
use crate::motion::glide::Glide;
use crate::motion::motion::Moving;
use crate::settings::follow::{FollowFrame, FollowMemory};
use crate::units::course::Course;
use crate::units::maths::{mix, usable_seconds};
use crate::units::rect::Rect;
use crate::view::view::View;

impl Camera {
    #[inline]
    pub(super) fn step(&mut self, seconds: f64, subject: Option<&Subject>) -> View {
        let seconds = usable_seconds(seconds);
        if (self.state.time + seconds).is_finite() {
            self.state.time += seconds;
        }
        let offset = self.settings.follow.offset;
        let subject = subject.filter(|subject| (subject.position + offset).is_finite());
        let announced = self.state.announced.take();
        if announced.is_some() {
            self.release();
        }
        if self.state.shaker.is_alive() {
            self.state.shaker.advance(seconds);
        }
        self.pass(seconds, subject, announced.is_some());
        self.begin_announced(announced, subject);
        if self.state.hand != Hand::Off {
            self.loosen_hand();
        }
        self.view()
    }

    /// A part of the step in which no line is crossed.
    #[inline]
    pub(super) fn leg(&mut self, seconds: f64, subject: Option<&Subject>, gliding_off: bool) {
        if self.lens_moves() {
            self.approach(seconds, subject, gliding_off);
        } else {
            self.run_stages(seconds, subject, gliding_off);
        }
    }

    /// Whether zoom, bounds or zones are on their way through this step.
    #[inline]
    fn lens_moves(&self) -> bool {
        let fresh = &self.state.fresh;
        (!self.state.zoom.rests() && !fresh.zoom)
            || (!self.state.rotation.rests() && !fresh.rotation)
            || (self.state.bounds.is_some() && !fresh.bounds)
            || self.state.nudge.is_some_and(|nudge| !nudge.fresh)
            || self.state.zones.moves()
    }

    /// The step in small ones: with the lens all that is measured by the view changes.
    fn approach(&mut self, seconds: f64, subject: Option<&Subject>, gliding_off: bool) {
        let steps = small_steps(seconds);
        let from = self.state.follow.track.last();
        let grounded = self.state.follow.is_grounded();
        for step in 1..=steps {
            self.advance_lens(seconds / f64::from(steps));
            let fraction = f64::from(step) / f64::from(steps);
            let on_its_way = subject.zip(from).filter(|_| step < steps).map(|(subject, from)| {
                // What the game says of this frame holds from its end on.
                let position = mix(from, subject.position, fraction);
                Subject { position, grounded: Some(grounded), ..*subject }
            });
            let subject = on_its_way.as_ref().or(subject);
            self.run_stages(seconds / f64::from(steps), subject, gliding_off);
        }
    }

    /// B to D for a lens that stands.
    #[inline]
    fn run_stages(&mut self, seconds: f64, subject: Option<&Subject>, gliding_off: bool) {
        let stride = if self.state.pause > 0.0 && !self.state.fresh.pause {
            self.state.pause -= seconds;
            self.state.follow.track.forget();
            None
        } else if self.state.hand == Hand::Off {
            self.follow_subject(seconds, subject, gliding_off)
        } else {
            self.obey_hand();
            None
        };
        if self.state.glide.as_mut().is_some_and(|glide| glide.advance(seconds)) {
            self.state.glide = None;
        }
        if let Some(subject) = subject {
            let stride = stride.unwrap_or(Stride::standing(subject.position));
            self.stay_on_leash(&stride, 1.0);
        }
        self.arrive_in_room();
        self.stay_in_range();
        self.advance_barrier();
    }

    /// A. Zoom, and bounds that are on their way.
    fn advance_lens(&mut self, seconds: f64) {
        let fresh = self.state.fresh;
        if !fresh.zoom {
            self.advance_zoom(seconds);
        }
        if !fresh.rotation {
            let size = self.framing.lens.size().as_dvec2();
            self.state.rotation.advance(self.settings.rotation.half_life, seconds, size);
        }
        if let Some(blend) = self.state.bounds.as_mut().filter(|_| !fresh.bounds)
            && blend.advance(seconds)
        {
            self.state.bounds = None;
        }
        if self.state.nudge.as_mut().is_some_and(|nudge| !nudge.fresh && nudge.advance(seconds)) {
            self.state.nudge = None;
        }
        let anchor = self.framing.follow.anchor;
        self.state.zones.advance(&self.settings.zones, seconds);
        self.refresh_framing();
        self.keep_centre(anchor);
    }

    /// The focus for another anchor than this, so that the picture stays where it is.
    fn keep_centre(&mut self, before: DVec2) {
        if self.framing.follow.anchor != before {
            let moved = self.framing.offset - self.framing.lens.anchor_offset(before);
            self.state.focus.position += moved;
            if let Some(glide) = &mut self.state.glide {
                glide.from += moved;
            }
        }
    }

    fn advance_zoom(&mut self, seconds: f64) {
        let settings = &self.settings.zoom;
        let wanted = settings.limited(self.state.zoom.wanted(), self.least_zoom());
        if wanted != self.state.zoom.wanted() {
            self.state.zoom.head_for(wanted);
        }
        let size = self.framing.lens.size().as_dvec2();
        self.state.zoom.advance(settings.half_life, seconds, size, &mut self.zooming);
    }

    /// What was announced since the last frame begins at the end of this one.
    #[inline]
    fn begin_announced(&mut self, glide: Option<Glide>, subject: Option<&Subject>) {
        if self.state.fresh != Fresh::default() {
            self.state.fresh = Fresh::default();
            self.advance_zoom(0.0);
            self.refresh();
        }
        if let Some(nudge) = &mut self.state.nudge {
            nudge.fresh = false;
        }
        if let Some(glide) = glide {
            self.state.glide = Some(glide.starting_at(self.focus()));
            self.cut_to_subject(subject);
        }
    }

    /// B and C. The goal's way through the step, bounded, and the focus after it. A subject that is
    /// new in the step with which a glide begins is left to the glide.
    #[inline]
    fn follow_subject(
        &mut self,
        seconds: f64,
        subject: Option<&Subject>,
        gliding_off: bool,
    ) -> Option<Stride> {
        if let Some(subject) = subject.filter(|_| self.state.cut) {
            self.cut_to_subject(Some(subject));
            return Some(Stride::standing(subject.position));
        }
        let known = self.state.follow.track.is_known();
        let subject = subject.filter(|_| known || !gliding_off);
        let follow = &self.framing.follow;
        let frame = FollowFrame {
            lens: &self.framing.lens,
            view: self.framing.view,
            focus: self.state.focus.position,
            seconds,
        };
        let course = &mut self.course;
        let stride =
            follow.course(course, &mut self.state.follow, &mut self.ahead, subject, &frame);
        if subject.is_none()
            && !gliding_off
            && let Some(named) = self.state.named.take()
        {
            course.jump(named);
            self.state.follow.goal = named;
            // A position that is looked at is in no room.
            self.state.room = None;
        }
        let (mut course, mut shapes) = (core::mem::take(&mut self.course), self.state.shapes);
        self.shape(&mut course, &mut shapes, seconds);
        (self.course, self.state.shapes) = (course, shapes);
        let course = &mut self.course;
        if self.framing.range != Rect::EVERYWHERE || self.state.barrier.is_some() {
            let offset = self.framing.offset;
            course.map(|focus| focus - offset);
            self.framing.bound(self.settings.bounds.as_ref(), self.state.barrier.as_ref(), course);
            course.map(|centre| centre + offset);
        }
        let before = self.state.focus;
        self.state.focus = self.motion.advance(
            &self.settings.follow.smoothing,
            before,
            &self.course,
            seconds,
            self.framing.lens.scale(),
        );
        if !self.state.focus.is_finite() {
            self.state.focus = before;
        }
        let stride = stride?;
        if self.is_checked(&stride) {
            self.state.focus = before;
            self.advance_checked(seconds, &stride);
        }
        Some(stride)
    }

    /// Whether leash or ratchet would have had a say in the step that ended here.
    #[inline]
    fn is_checked(&self, stride: &Stride) -> bool {
        if self.state.glide.is_some() {
            return false;
        }
        let backwards = self.state.barrier.is_some_and(|barrier| {
            let centre = self.centre_of(self.state.focus.position);
            barrier.is_behind(self.state.focus.velocity) || self.range().nearest(centre) != centre
        });
        backwards || self.leashed(stride, 1.0).is_some()
    }

    /// The same step in small ones, with leash and ratchet in force all along.
    fn advance_checked(&mut self, seconds: f64, stride: &Stride) {
        let course = self.course.clone();
        let advance = |camera: &mut Self, from, to, seconds| {
            let smoothing = &camera.settings.follow.smoothing;
            let (focus, piece) = (camera.state.focus, Course::straight(from, to));
            let scale = camera.framing.lens.scale();
            camera.state.focus = camera.motion.advance(smoothing, focus, &piece, seconds, scale);
        };
        let steps = small_steps(seconds);
        let fraction = |step: u32| f64::from(step) / f64::from(steps);
        for step in 0..steps {
            let (from, to) = (course.sample(fraction(step)), course.sample(fraction(step + 1)));
            advance(self, from, to, seconds / f64::from(steps));
            self.stay_on_leash(stride, fraction(step + 1));
            self.stay_in_range();
            self.advance_barrier();
        }
        let last = course.sample(1.0);
        if course.end() != last {
            advance(self, last, course.end(), 0.0);
        }
    }

    pub(super) fn cut_to_subject(&mut self, subject: Option<&Subject>) {
        self.state.cut = false;
        if let Some(subject) = subject {
            self.framing.follow.cut(&mut self.state.follow, subject, &self.framing.lens);
            self.state.named = None;
        } else if let Some(named) = self.state.named.take() {
            self.state.follow = FollowMemory::at(named);
            self.state.room = None;
        }
        self.begin_shapes();
        if self.state.glide.is_none() {
            (self.state.barrier, self.state.leash_slack) = (None, DVec2::ZERO);
        }
        let position = self.goal() + self.framing.offset;
        self.state.focus = Moving { position, velocity: DVec2::ZERO };
    }

    pub(super) fn obey_hand(&mut self) {
        let (lens, offset) = (&self.framing.lens, self.framing.offset);
        match &self.state.hand {
            Hand::Grab(grip) | Hand::Pin(grip) => {
                self.state.focus.position = grip.centre(lens) + offset;
            }
            Hand::Show(centre) => self.state.focus.position = *centre + offset,
            Hand::Off | Hand::Nudge => {}
        }
    }

    /// A nudge is over with its frame, a pin once its zoom is reached.
    fn loosen_hand(&mut self) {
        let over = match self.state.hand {
            Hand::Nudge => true,
            Hand::Pin(_) => self.state.zoom.rests(),
            _ => false,
        };
        if over {
            self.release();
        }
    }

    /// D. The leash, unless a hand or a glide is on the view; then it is let out.
    #[inline]
    fn stay_on_leash(&mut self, stride: &Stride, fraction: f64) {
        if self.settings.follow.leash.is_none() {
            return;
        }
        let subject = stride.at(fraction).0;
        if self.state.glide.is_some() || self.state.hand != Hand::Off || self.is_off_leash() {
            self.state.leash_slack = self.distance(subject);
            return;
        }
        if let Some(held) = self.leashed(stride, fraction) {
            self.state.focus = held;
        }
        self.state.leash_slack = self.distance(subject).min(self.state.leash_slack);
    }

    /// From the focus to the subject, per axis of the screen, in world units.
    fn distance(&self, subject: DVec2) -> DVec2 {
        self.framing.lens.screen_aligned(subject - self.focus()).abs()
    }

    /// The focus as the leash pulls it, if it does; where it does, at the subject's speed.
    #[inline]
    fn leashed(&self, stride: &Stride, fraction: f64) -> Option<Moving> {
        let follow = &self.framing.follow;
        let leash = follow.leash.filter(|_| !self.is_off_leash())?;
        let Framing { lens, view, .. } = &self.framing;
        let before = lens.screen_aligned(self.state.focus.position);
        let (subject, velocity) = stride.at(fraction);
        let level = lens.screen_aligned(subject);
        let mut held =
            leash.clamp_with_slack(before, level, follow.anchor, *view, self.state.leash_slack);
        let mut speed = lens.screen_aligned(self.state.focus.velocity);
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

    /// D. The one allowed range of the centre, which always wins.
    #[inline]
    pub(super) fn stay_in_range(&mut self) {
        if self.state.glide.is_some() {
            return; // the shown centre is held; where following is may differ for now
        }
        let offset = self.framing.offset;
        let centre = self.centre_of(self.state.focus.position);
        let allowed = self.range().nearest(centre);
        if allowed != centre {
            self.state.focus.position = allowed + offset;
            let outward = (centre - allowed) * self.state.focus.velocity;
            let speed = &mut self.state.focus.velocity;
            speed.x = if outward.x > 0.0 { 0.0 } else { speed.x };
            speed.y = if outward.y > 0.0 { 0.0 } else { speed.y };
        }
    }

    #[inline]
    fn advance_barrier(&mut self) {
        if self.settings.follow.ratchet == Ratchet::None {
            return;
        }
        let visible = Rect::around(self.centre(), self.framing.half);
        let y_axis = self.settings.screen.y_axis;
        let edge = Barrier::behind(self.settings.follow.ratchet, &visible, y_axis);
        self.state.barrier = edge.map(|edge| edge.after(self.state.barrier));
    }

    /// Where the centre may be.
    #[inline]
    pub(super) fn range(&self) -> Rect {
        let range = self.framing.range_before(self.state.barrier.as_ref());
        let Some(room) = self.state.room.filter(|room| room.arrived) else { return range };
        let own = self.room_range(&room);
        Rect { min: range.nearest(own.min), max: range.nearest(own.max) }
    }

    /// The smallest zoom that the bounds ask for, and with a ratchet what is left of them.
    pub(super) fn least_zoom(&self) -> f64 {
        let Some(bounds) = &self.settings.bounds else { return 0.0 };
        let fitting = if self.settings.zoom.fill_bounds {
            self.framing.lens.zoom_to_fill(&bounds.rect)
        } else {
            0.0
        };
        let barrier = self.state.barrier.as_ref();
        barrier
            .map_or(0.0, |barrier| barrier.least_zoom(&bounds.rect, &self.framing.lens))
            .max(fitting)
    }

    /// The shown focus.
    #[inline]
    pub(super) fn focus(&self) -> DVec2 {
        let position = self.state.focus.position;
        self.state.glide.map_or(position, |glide| glide.focus(position))
    }

    #[inline]
    pub(super) fn centre_of(&self, focus: DVec2) -> DVec2 {
        focus - self.framing.offset
    }

    #[inline]
    pub(super) fn centre(&self) -> DVec2 {
        // The range once more: adding and taking the anchor away again may cost the last bit.
        self.range().nearest(self.centre_of(self.focus()))
    }

    fn refresh_framing(&mut self) {
        self.framing = Framing::new(&self.settings, &self.state, self.window);
    }

    pub(super) fn refresh(&mut self) {
        self.refresh_framing();
        self.stay_in_range();
    }
}

/// World units by which a leash may pull without having pulled: the rounding of its own sums.
const ROUNDING: f64 = 1e-9;

/// How many small steps a step is made of where one stage depends on another all along it.
fn small_steps(seconds: f64) -> u32 {
    (seconds * 480.0).clamp(1.0, 32.0) as u32
}
