//! What lasts of a camera's movement: the state at a time of its own grid.

use glam::DVec2;

use crate::base::sound::{NOT_NEGATIVE, sound};
use crate::goal::party_memory::PartyMoving;

use super::ride::Ride;
use super::state::{CameraState, LensState, LimitsState};

/// The time between two points of the grid, in seconds. It decides the bits.
pub(super) const STEP: f64 = 1.0 / 240.0;

/// A time closer to a point of the grid than this fraction of a step is at it.
pub(super) const TIE: f64 = 1e-6;

/// What steps move, at the grid's time.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct ClockState {
    /// The end of the last frame, in seconds since the last point of the grid.
    pub rest: f64,
    /// Its own time, likewise.
    pub part: f64,
    /// The share of the last frame in which a steady scroll moved.
    pub scrolls: f64,
    /// By how many screen pixels a hand pans the view from its time to the end of the last frame.
    pub pan: DVec2,
    /// Where the followed subject was at its time, and its velocity.
    pub subject: Option<(DVec2, DVec2)>,
    pub moving: Moving,
}

sound!(ClockState { rest in NOT_NEGATIVE, part in NOT_NEGATIVE, scrolls in 0.0..=1.0, pan, subject, moving });

/// The parts of a state that a step moves.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Moving {
    lens: LensState,
    pub ride: Ride,
    pub limits: LimitsState,
    pause: f64,
    /// The age of the way that the view travels.
    age: f64,
    zones_at: Option<DVec2>,
    pub party: PartyMoving,
}

sound!(Moving { lens, ride, limits, pause in 0.0..=1e6, age in NOT_NEGATIVE, zones_at, party });

impl ClockState {
    /// Starts with a lens, at a place.
    pub fn new(lens: LensState, ride: Ride) -> Self {
        let limits = LimitsState::default();
        let moving = Moving {
            lens,
            ride,
            limits,
            pause: 0.0,
            age: 0.0,
            zones_at: None,
            party: PartyMoving::default(),
        };
        Self { rest: 0.0, part: 0.0, scrolls: 1.0, pan: DVec2::ZERO, subject: None, moving }
    }

    /// Goes on by the time of a frame. The state is then behind the last point of the grid, by a number of steps.
    pub fn go_on(&mut self, seconds: f64) {
        let rest = self.rest + seconds;
        let behind = libm::floor(rest / STEP + TIE) * STEP;
        self.rest = (rest - behind).max(0.0);
        self.part -= behind;
    }

    pub fn translate(&mut self, delta: DVec2) {
        if let Some((position, _)) = &mut self.subject {
            *position += delta;
        }
        self.moving.ride.translate(delta);
        self.moving.party.translate(delta);
        self.moving.zones_at = self.moving.zones_at.map(|at| at + delta);
    }
}

impl Moving {
    pub fn of(state: &CameraState) -> Self {
        let CameraState { lens, ride, limits, pause, route, goal, .. } = state;
        Self {
            lens: *lens,
            ride: *ride,
            limits: *limits,
            pause: *pause,
            age: route.age(),
            zones_at: goal.zones_at,
            party: goal.party.moving(),
        }
    }

    pub fn put_into(&self, state: &mut CameraState) {
        let Self { lens, ride, limits, pause, age, zones_at, ref party } = *self;
        (state.lens, state.ride, state.limits, state.pause) = (lens, ride, limits, pause);
        state.goal.zones_at = zones_at;
        state.route.set_age(age);
        state.goal.party.put(party);
    }
}
