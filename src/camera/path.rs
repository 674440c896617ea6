//! The way of the followed subject, or of a party, through a frame, continued backwards to a state that is behind it.

use glam::DVec2;

use crate::base::maths::mix;
use crate::goal::member::WayTime;
use crate::goal::party_memory::MemberWays;
use crate::goal::subject::{Stride, SubjectNow};

use super::arrival::{Arrival, Clock};
use super::clock_state::ClockState;
use super::step::way;

/// Two moments closer together than this, in seconds, are one.
pub(super) const SAME: f64 = 1e-12;

/// A frame's times, in seconds since the last point of the grid, and the way of its subject.
#[derive(Clone, Copy, Debug)]
pub(super) struct Path<'a> {
    pub arrival: &'a Arrival<'a>,
    /// Whether another subject came within the frame, and it has not come yet.
    pub waits: bool,
    /// When the frame begins, and when it ends.
    pub start: f64,
    pub end: f64,
    /// The subject at the state's time, and that time: before the frame.
    pub early: Option<SubjectNow>,
    pub since: f64,
    /// The ways of a party's members, if there may be any.
    pub members: Option<&'a MemberWays>,
    /// The way of a subject through the whole frame, if nothing else is to be known of it.
    pub moved: Option<Stride>,
    /// The velocity of what carries the subject, at the frame's start and at its end.
    pub carried: [DVec2; 2],
    /// The part of the frame that passes in a second.
    pub per_second: f64,
    /// The share in which a scroll moves, in the frame and in the one before.
    pub scrolls: [f64; 2],
    /// By how many screen pixels a hand pans the view, in the frame and before it.
    pub pan: [DVec2; 2],
}

impl<'a> Path<'a> {
    /// Lays the path of a frame that the grid has gone on by.
    pub fn new(
        arrival: &'a Arrival<'a>,
        grid: &ClockState,
        members: Option<&'a MemberWays>,
    ) -> Self {
        let (seconds, stride) = (arrival.seconds, arrival.stride());
        let is_plain = !arrival.together && arrival.leaving.is_none();
        Self {
            arrival,
            waits: arrival.before_turn(0.0).is_some(),
            start: grid.rest - seconds,
            end: grid.rest,
            early: grid.subject.map(|(position, velocity)| SubjectNow { position, velocity }),
            since: grid.part,
            members,
            moved: stride.filter(|_| is_plain),
            carried: stride.map_or([DVec2::ZERO; 2], |stride| stride.carrier()),
            per_second: if seconds > 0.0 { 1.0 / seconds } else { 0.0 },
            scrolls: [grid.scrolls; 2],
            pan: [DVec2::ZERO, grid.pan],
        }
    }

    /// The time of a moment that is told as a fraction of the frame.
    pub fn time_of(&self, moment: f64) -> f64 {
        self.start + self.arrival.seconds * moment
    }

    pub fn fraction(&self, at: f64) -> f64 {
        if self.per_second > 0.0 { (at - self.start) * self.per_second } else { 1.0 }
    }

    /// The subject at a time.
    #[inline]
    pub fn at(&self, at: f64) -> Option<SubjectNow> {
        let share = match self.way_time(at) {
            WayTime::Within(fraction) => return self.within(fraction),
            WayTime::Before(share) => share,
        };
        let (from, to) = (self.early, self.within(0.0));
        let (Some(from), Some(to)) = (from, to) else { return to };
        Some(SubjectNow {
            position: mix(from.position, to.position, share),
            velocity: mix(from.velocity, to.velocity, share),
        })
    }

    /// The subject at a fraction of the frame.
    #[inline]
    fn within(&self, fraction: f64) -> Option<SubjectNow> {
        if let Some(moved) = &self.moved {
            return Some(moved.at(fraction));
        }
        if self.waits {
            return self.arrival.before_turn(fraction);
        }
        match self.arrival.clock(fraction) {
            Clock::Step(subject) => subject,
            Clock::Track => None,
        }
    }

    pub fn clock(&self, at: f64) -> Clock {
        if self.arrival.together {
            return Clock::Track;
        }
        Clock::Step(self.at(at))
    }

    /// The way between two times.
    pub fn stride(&self, from: f64, to: f64) -> Option<Stride> {
        Some(way(self.at(from)?, self.at(to)?, self.carriers(from, to)))
    }

    /// The velocity of what carries the subject, at two times.
    #[inline]
    pub fn carriers(&self, from: f64, to: f64) -> [DVec2; 2] {
        let [first, last] = self.carried;
        if first == DVec2::ZERO && last == DVec2::ZERO {
            return [DVec2::ZERO; 2];
        }
        [from, to].map(|at| mix(first, last, self.fraction(at).clamp(0.0, 1.0)))
    }

    #[inline]
    pub fn way_time(&self, at: f64) -> WayTime {
        if at < self.start - SAME {
            return WayTime::Before((at - self.since) / (self.start - self.since));
        }
        let fraction = self.fraction(at);
        WayTime::Within(if fraction > 1.0 - 1e-12 { 1.0 } else { fraction.max(0.0) })
    }

    /// By how many pixels a hand pans the view between two times.
    pub fn pan(&self, from: f64, to: f64) -> DVec2 {
        let [within, before] = self.pan;
        if within == DVec2::ZERO && before == DVec2::ZERO {
            return DVec2::ZERO;
        }
        let share = |from: f64, to: f64, first: f64, last: f64| {
            let (low, high) = (from.max(first), to.min(last));
            if high > low { (high - low) / (last - first) } else { 0.0 }
        };
        within * share(from, to, self.start, self.end)
            + before * share(from, to, self.since, self.start)
    }

    pub fn scrolls(&self, at: f64) -> f64 {
        self.scrolls[usize::from(at < self.start - SAME)]
    }
}
