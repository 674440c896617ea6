//! The hall of an outline that the view is in, and the moment at which it passes into another one.

use glam::DVec2;

use crate::base::rect::Rect;
use crate::camera::hand::Hand;
use crate::curves::ease::Timing;
use crate::limits::bounds::Bounds;
use crate::limits::halls::{Gauge, Halls, Stand};
use crate::limits::outline::OutlineName;
use crate::limits::walls::Walls;

use super::Camera;
use super::arrival::Clock;
use super::change::FocusAfter;
use super::framing::Framing;
use super::ride::Ride;
use super::rules::Rules;
use super::state::LimitsState;

/// The most halls that a view passes into at one moment.
const MAX_AT_ONCE: usize = 8;

/// A goal that moves by less than this, in screen pixels, because of another hall, does not leap.
const LEAP_PIXELS: f64 = 0.01;

/// How far the subject may be outside of its hall, in fractions of the design screen.
const SLACK: f64 = 0.02;

impl Rules {
    /// Returns the halls of the outline that is in force, if one is.
    #[inline]
    pub(super) fn halls(&self, limits: &LimitsState) -> Option<&Halls> {
        self.halls_of(&limits.bounds.or_own(self.settings.bounds)?)
    }

    #[inline]
    pub(super) fn halls_of(&self, bounds: &Bounds) -> Option<&Halls> {
        self.halls_named(bounds.outline?)
    }

    fn halls_named(&self, name: OutlineName) -> Option<&Halls> {
        self.outlines.iter().find(|(known, _)| *known == name).map(|(_, halls)| halls)
    }

    /// Where the view's centre may be in any hall, or within the bounds of one rectangle.
    pub(super) fn whole_range(&self, framing: &Framing) -> Rect {
        let Framing { walls, outline, lens, range, .. } = framing;
        let halls = outline.and_then(|name| self.halls_named(name));
        let (Some(halls), Some(walls)) = (halls, walls) else { return *range };
        Walls { rect: halls.extent(), ..*walls }.centre_range(lens)
    }

    /// Returns the hall into which the view passes at this moment.
    #[inline]
    pub(super) fn next_hall(
        &self,
        framing: &Framing,
        limits: &LimitsState,
        ride: &Ride,
        subject: Option<DVec2>,
    ) -> Option<Rect> {
        let (name, hall) = (framing.outline?, limits.hall?);
        let stand = self.stand(framing, ride, subject);
        if framing.is_at_ease(&hall, &stand) && limits.edges.is_empty() {
            return None;
        }
        self.halls_named(name)?.next(&hall, &stand, &framing.gauge())
    }

    /// How the view stands to its outline, which a hand decides, if there is one.
    #[inline]
    fn stand(&self, framing: &Framing, ride: &Ride, subject: Option<DVec2>) -> Stand {
        let Framing { lens, offset, .. } = framing;
        let picture = &ride.picture;
        let changes = !picture.fades.is_empty();
        if let Some(focus) = picture.hand.focus(lens, *offset, picture.hand_focus) {
            let wanted = focus - *offset;
            let here = picture.hand_focus - *offset;
            return Stand { subject: wanted, here, wanted, changes };
        }
        let mut memory = ride.goal;
        let goal = ride.shapes(self, framing).shape(0.0, &mut memory);
        let level = || goal - lens.to_world_orientation(ride.goal.look.ahead);
        let subject = subject.filter(|_| !self.leads).unwrap_or_else(level);
        let here = ride.focus.position - *offset;
        Stand { subject, here, wanted: goal - *offset, changes }
    }
}

impl Framing {
    /// Returns whether a hall shows what is wanted, so that no other one is better.
    #[inline]
    fn is_at_ease(&self, hall: &Rect, stand: &Stand) -> bool {
        let Rect { min, max } = self.range;
        self.cushion == 0.0
            && min.cmplt(max).all()
            && self.range.nearest(stand.wanted) == stand.wanted
            && hall.covers(stand.subject)
    }

    /// How halls show the world now.
    fn gauge(&self) -> Gauge {
        let free = self.lens.with_zoom(self.lens.zoom().min(self.wanted));
        Gauge {
            lens: self.lens,
            free,
            per_view: 0.5 / free.half_extents(),
            small: self.walls.map(|walls| walls.small).unwrap_or_default(),
            cushion: self.design * self.cushion,
            slack: self.design * SLACK,
        }
    }
}

impl Camera {
    pub(super) fn next_hall(&self, clock: Clock) -> Option<Rect> {
        let Self { rules, state, framing, .. } = self;
        let subject = clock.subject(&state.goal.track).map(|now| now.position);
        rules.next_hall(framing, &state.limits, &state.ride, subject)
    }

    /// Passes into other halls at this moment.
    pub(super) fn pass_halls(&mut self, clock: Clock) {
        for _hall in 0..MAX_AT_ONCE {
            let Some(hall) = self.next_hall(clock) else { return };
            self.pass_into(hall, clock);
        }
    }

    /// Passes into a hall: on the way, if its goal is the same there, else by a change.
    fn pass_into(&mut self, hall: Rect, clock: Clock) {
        let Self { rules, state, framing, .. } = self;
        let Some(before) = state.limits.hall else { return };
        let wanted = rules.stand(framing, &state.ride, None).wanted;
        let gauge = framing.gauge();
        let leap = (gauge.nearest(&hall, wanted) - gauge.nearest(&before, wanted)).length();
        let is_quiet = state.ride.picture.fades.is_empty() && state.limits.edges.is_empty();
        let is_alike = leap * framing.lens.scale() < LEAP_PIXELS && is_quiet;
        if is_alike && !rules.settings.zoom.fill_bounds {
            state.limits.hall = Some(hall);
            return self.refresh_framing();
        }
        let fade = state.limits.bounds.or_own(rules.settings.bounds).map_or(0.0, |own| own.fade);
        let change = self.begin(Timing::smooth(fade), clock);
        self.state.limits.hall = Some(hall);
        let has_hand = self.state.ride.picture.hand != Hand::Off;
        self.fade(change, if has_hand { FocusAfter::Here } else { FocusAfter::AsFarBehind }, clock);
    }

    /// Lets the view be in a hall of the outline in force, in the best one if it starts anew. Returns where following
    /// then is after a change.
    pub(super) fn keep_to_halls(&mut self, after: FocusAfter, clock: Clock) -> FocusAfter {
        let Self { rules, state, framing, .. } = self;
        let limits = &state.limits;
        let Some(halls) = rules.halls(limits) else {
            self.state.limits.hall = None;
            return after;
        };
        // A zone has bounds of its own.
        if framing.outline.is_none() {
            return after;
        }
        let subject = clock.subject(&state.goal.track).map(|now| now.position);
        let stand = match after {
            FocusAfter::Restarted(goal) => {
                let wanted = goal - framing.offset;
                Stand { subject: wanted, here: wanted, wanted, changes: false }
            }
            _ => Stand { changes: true, ..rules.stand(framing, &state.ride, subject) },
        };
        let starts = matches!(after, FocusAfter::AtGoal | FocusAfter::Restarted(_));
        let present = limits.hall.filter(|hall| !starts && halls.has(hall));
        let gauge = framing.gauge();
        let hall = match present {
            Some(present) => halls.next(&present, &stand, &gauge).or(Some(present)),
            None => halls.best(&stand, &gauge),
        };
        let before = core::mem::replace(&mut self.state.limits.hall, hall);
        if hall == before {
            return after;
        }
        self.refresh_framing();
        let is_held = self.state.ride.picture.hand != Hand::Off;
        // Following stood where the hand was.
        if matches!(after, FocusAfter::Here) && !is_held { FocusAfter::AtGoal } else { after }
    }
}
