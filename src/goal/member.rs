//! A member of a party, and sets of members.

use glam::{DVec2, Vec2};

use crate::base::maths::mix;
use crate::base::sound::{NOT_NEGATIVE, sound};
use crate::goal::subject::Subject;

/// A member.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Member {
    pub id: u32,
    pub position: DVec2,
    /// The mean velocity in this step and in the one before.
    pub velocity: Vec2,
    pub before: Vec2,
    /// Whether it has moved since it joined, so that its velocity is known.
    pub has_moved: bool,
    pub in_air: bool,
    /// Whether it landed in the last step. As with a take-off, velocities before say nothing about those after.
    pub has_landed: bool,
    /// The time for which it continues at that velocity after it is no longer named, in seconds.
    pub coasts: f32,
    pub weight: f64,
    pub margin: f64,
    pub rank: i32,
    /// Whether it is too far away, and for how many seconds it has been.
    pub dropped: bool,
    pub gone: f32,
}

sound!(Member {
    id,
    position,
    velocity,
    before,
    has_moved,
    in_air,
    has_landed,
    coasts in NOT_NEGATIVE,
    weight in 0.0..=1e9,
    margin in 0.0..=1e9,
    rank,
    dropped,
    gone in 0.0..=1e6,
});

impl Member {
    /// Moves it through a frame of some seconds. Its velocity changes linearly, as it did between the last two frames.
    pub fn move_to(&mut self, subject: &Subject, seconds: f64) {
        let takes_off = subject.grounded == Some(false) && !self.in_air;
        let is_steady = self.has_moved && !takes_off && !self.has_landed;
        let way = subject.position - self.position;
        self.velocity = velocity(way, seconds).unwrap_or(self.velocity);
        self.before = if is_steady { self.before } else { self.velocity };
        self.position = subject.position;
    }

    /// Moves on as before, for at most twice the last frame.
    pub fn coast_for(&mut self, seconds: f64) {
        let coasts = seconds.min(f64::from(self.coasts));
        self.position += self.velocity.as_dvec2() * coasts;
        self.coasts -= coasts as f32;
    }

    /// Half the change of its velocity within the step, which bends its way.
    pub fn bend(&self) -> Vec2 {
        let most = self.velocity.abs();
        ((self.velocity - self.before) * 0.5).clamp(-most, most)
    }
}

/// What steps move of a member.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct MovingMember {
    pub position: DVec2,
    pub dropped: bool,
    pub gone: f32,
}

sound!(MovingMember { position, dropped, gone in 0.0..=1e6 });

/// A member's way through a frame, and where it was before it, at the state's time.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct MemberWay {
    pub early: DVec2,
    pub from: DVec2,
    pub to: DVec2,
    pub bulge: DVec2,
}

/// A time on a way: a fraction of the frame, or of the stretch before it.
#[derive(Clone, Copy, Debug)]
pub(crate) enum WayTime {
    Before(f64),
    Within(f64),
}

impl MemberWay {
    pub fn at_rest(position: DVec2) -> Self {
        Self { early: position, from: position, to: position, bulge: DVec2::ZERO }
    }

    pub fn at(&self, at: WayTime) -> DVec2 {
        match at {
            WayTime::Before(share) => mix(self.early, self.from, share),
            WayTime::Within(part) => {
                mix(self.from, self.to, part) - self.bulge * (part * (1.0 - part))
            }
        }
    }
}

/// A set of party members, one bit for each.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct MemberSet(u32);

impl MemberSet {
    pub fn contains(self, index: usize) -> bool {
        self.0 & (1 << index) != 0
    }

    pub fn with(self, index: usize) -> Self {
        Self(self.0 | (1 << index))
    }

    pub fn without(self, index: usize) -> Self {
        Self(self.0 & !(1 << index))
    }

    pub fn count(self) -> usize {
        self.0.count_ones() as usize
    }
}

/// Returns the velocity of a movement, or `None` if it can't be computed.
pub(super) fn velocity(way: DVec2, seconds: f64) -> Option<Vec2> {
    // So that sums of several velocities are finite, too.
    const MAX_SPEED: Vec2 = Vec2::splat(1e30);
    let velocity = (way / seconds).as_vec2();
    Some(velocity).filter(|velocity| seconds > 0.0 && velocity.abs().cmple(MAX_SPEED).all())
}
