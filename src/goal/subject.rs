//! The subject of the camera, and its movement.

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::maths::{clamp_point, is_usable, mix};
use crate::base::sound::{NOT_NEGATIVE, sound};

/// Something to follow: a position, and what else the game knows about it. Every world point converts into a subject, so
/// `camera.follow(dt, player.position)` is enough.
///
/// ```
/// use velvet_pan::Subject;
///
/// let courier = Subject::from([120.0, 64.0]).with_velocity([90.0, 0.0]).with_grounded(true);
/// assert_eq!(courier.position.x, 120.0);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Subject {
    /// Its position, in world units. If it is not finite, there is no subject in this frame: the goal stays where it was.
    pub position: DVec2,
    /// Its velocity, in world units per second. If `None`, it is computed from the last positions.
    pub velocity: Option<DVec2>,
    /// Whether it stands on the ground at the end of the step. `None` means that it does. A subject that leaves the
    /// ground counts as in the air from the step's start; a landing takes effect at the step's end.
    pub grounded: Option<bool>,
    /// Whether it jumped in this step, or was pushed upwards by something else. `None` means that its movement tells. It
    /// matters with [`Airborne::Hold`](crate::Airborne::Hold) only.
    pub jump: Option<bool>,
    /// The velocity at the end of the step of what carries it, such as a platform, in world units per second. Look-ahead
    /// and its turns count movement against the carrier only. A velocity that is not finite counts as 0. Default 0.
    pub carrier: DVec2,
    /// Identifies it among several subjects: the same number in every frame. If `None`, its index in the list is used.
    pub id: Option<u32>,
    /// Its weight in the mean position of several subjects, 0 or more. Default 1.
    pub weight: f64,
    /// Its rank among several subjects: if not all fit, the one with the lowest rank is not shown. Default 0.
    pub rank: i32,
    /// The distance around it that must be visible with several subjects, in world units, 0 or more. Default 0.
    pub margin: f64,
}

impl Default for Subject {
    fn default() -> Self {
        Self::from(DVec2::ZERO)
    }
}

impl Subject {
    /// Interpolates between the subject of the last step and that of this one, for a fixed simulation step with a faster
    /// display. Draw it there, in [`View::between`](crate::View::between) of the same fraction.
    ///
    /// Position, velocity and carrier are interpolated. It is in the air if it is so in either of the two, and all else
    /// is taken from `to`. If `fraction` is 0 or less, or NaN, returns `from`; if it is 1 or more, `to`. After a
    /// respawn nothing lies between the two: where [`View::is_cut_from`](crate::View::is_cut_from) says so, draw it at
    /// `to`.
    ///
    /// ```
    /// # use velvet_pan::Subject;
    /// let (last, now) = (Subject::from([40, 20]), Subject::from([44, 20]));
    /// assert_eq!(Subject::between(&last, &now, 0.25).position.x, 41.0);
    /// ```
    #[must_use]
    pub fn between(from: &Self, to: &Self, fraction: f64) -> Self {
        if fraction <= 0.0 || fraction.is_nan() {
            return *from;
        }
        if fraction >= 1.0 {
            return *to;
        }
        let velocity = from.velocity.zip(to.velocity).map(|(a, b)| mix(a, b, fraction));
        let position = mix(from.position, to.position, fraction);
        let carrier = mix(from.carrier, to.carrier, fraction);
        let grounded = if from.grounded == Some(false) { from.grounded } else { to.grounded };
        Self { position, velocity: velocity.or(to.velocity), carrier, grounded, ..*to }
    }

    /// Returns this subject with a velocity, in world units per second.
    #[must_use]
    pub fn with_velocity(mut self, velocity: impl IntoWorld) -> Self {
        self.velocity = Some(velocity.into_world());
        self
    }

    /// Returns this subject on something that moves: `velocity` is the carrier's at the end of the step, in world units
    /// per second. The subject's own position and velocity stay those in the world.
    #[must_use]
    pub fn with_carrier(mut self, velocity: impl IntoWorld) -> Self {
        self.carrier = velocity.into_world();
        self
    }

    /// Returns this subject with an id, to recognise it among several.
    #[must_use]
    pub fn with_id(mut self, id: u32) -> Self {
        self.id = Some(id);
        self
    }

    /// Returns this subject with a weight among several. Weights that are not above 0 count as 0: the subject is shown,
    /// but does not move the mean.
    #[must_use]
    pub fn with_weight(mut self, weight: f64) -> Self {
        self.weight = weight;
        self
    }

    /// Returns this subject with a rank among several.
    #[must_use]
    pub fn with_rank(mut self, rank: i32) -> Self {
        self.rank = rank;
        self
    }

    /// Returns this subject with a margin: the distance around it that must be visible with several subjects, in world
    /// units.
    #[must_use]
    pub fn with_margin(mut self, margin: f64) -> Self {
        self.margin = margin;
        self
    }

    /// Returns this subject on the ground or in the air.
    #[must_use]
    pub fn with_grounded(mut self, grounded: bool) -> Self {
        self.grounded = Some(grounded);
        self
    }

    /// Returns this subject as one that jumped in this step, or did not. It may be set in every step of the jump.
    #[must_use]
    pub fn with_jump(mut self, jump: bool) -> Self {
        self.jump = Some(jump);
        self
    }

    #[inline]
    fn usable_carrier(&self) -> DVec2 {
        if is_usable(self.carrier) { self.carrier } else { DVec2::ZERO }
    }
}

impl<T: IntoWorld> From<T> for Subject {
    fn from(position: T) -> Self {
        Self {
            position: position.into_world(),
            velocity: None,
            grounded: None,
            jump: None,
            carrier: DVec2::ZERO,
            id: None,
            weight: 1.0,
            rank: 0,
            margin: 0.0,
        }
    }
}

/// The memory of a subject's movement from frame to frame.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Track {
    /// The last position, or `None` after a cut or a loss.
    last: Option<DVec2>,
    /// The mean velocity in the last step, and the duration of that step, which is 0 if nothing is known.
    velocity: DVec2,
    seconds: f64,
    /// The velocity at the end of the step.
    end_velocity: DVec2,
    /// Whether it was in the air.
    in_air: bool,
    /// The velocity of what carried it.
    carrier: DVec2,
}

sound!(Track { last, velocity, seconds in NOT_NEGATIVE, end_velocity, in_air, carrier });

/// A subject at one moment.
#[derive(Clone, Copy, Debug)]
pub(crate) struct SubjectNow {
    pub position: DVec2,
    pub velocity: DVec2,
}

impl SubjectNow {
    /// Returns a path of no length, at this velocity.
    pub fn stays(self) -> Stride {
        Stride::straight(self.position, self.position, [self.velocity; 2])
    }

    /// Returns the path of some seconds at this velocity.
    pub fn coasts(self, seconds: f64) -> Stride {
        let to = self.position + self.velocity * seconds;
        Stride::straight(self.position, to, [self.velocity; 2])
    }
}

/// The path of a subject through one step: straight, or a parabola if its velocity changes.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Stride {
    pub from: DVec2,
    pub to: DVec2,
    /// Velocity at the step's start and at its end.
    pub velocity: [DVec2; 2],
    /// The velocity of what carries the subject, at the step's start and at its end.
    carrier: [DVec2; 2],
    /// Half of the distance that the change of velocity adds in the step.
    bulge: DVec2,
}

impl Stride {
    /// Creates a straight path with a given velocity, which does not depend on the path.
    #[inline]
    pub fn straight(from: DVec2, to: DVec2, velocity: [DVec2; 2]) -> Self {
        Self { from, to, velocity, carrier: [DVec2::ZERO; 2], bulge: DVec2::ZERO }
    }

    /// Returns the last seconds of a subject's way to where it is, at the velocity that the game gives. Without one it
    /// stood there.
    pub fn until(subject: &Subject, seconds: f64) -> Self {
        let velocity = subject.velocity.filter(|velocity| is_usable(*velocity)).unwrap_or_default();
        let from = subject.position - velocity * seconds;
        let carrier = [subject.usable_carrier(); 2];
        Self { carrier, ..Self::straight(from, subject.position, [velocity; 2]) }
    }

    /// Returns the movement of a step of this duration as what carries the subject sees it.
    #[inline]
    pub fn against_carrier(&self, seconds: f64) -> Self {
        let [before, after] = self.carrier;
        if self.carrier == [DVec2::ZERO; 2] {
            return *self;
        }
        let carried = (before + after) * (seconds / 2.0);
        let velocity = [self.velocity[0] - before, self.velocity[1] - after];
        Self { to: self.to - carried, velocity, ..*self }
    }

    /// Returns the same path with another movement along one axis, at an even speed.
    #[inline]
    pub fn with_axis(mut self, axis: usize, [from, to]: [f64; 2], velocity: [f64; 2]) -> Self {
        (self.from[axis], self.to[axis]) = (from, to);
        (self.velocity[0][axis], self.velocity[1][axis]) = (velocity[0], velocity[1]);
        self.bulge[axis] = 0.0;
        self
    }

    /// Returns the same path with what carries the subject.
    pub fn carried(self, carrier: [DVec2; 2]) -> Self {
        Self { carrier, ..self }
    }

    /// Returns the velocity of what carries the subject, at the step's start and at its end.
    #[inline]
    pub fn carrier(&self) -> [DVec2; 2] {
        self.carrier
    }

    /// Returns the subject at a fraction of the step.
    #[inline]
    pub fn at(&self, fraction: f64) -> SubjectNow {
        let [before, after] = self.velocity;
        let position =
            mix(self.from, self.to, fraction) - self.bulge * (fraction * (1.0 - fraction));
        SubjectNow { position, velocity: mix(before, after, fraction) }
    }

    /// Returns the subject at the end of the step.
    #[inline]
    pub fn end(&self) -> SubjectNow {
        SubjectNow { position: self.to, velocity: self.velocity[1] }
    }

    /// Returns the same path along other axes.
    #[inline]
    pub fn map(self, axes: impl Fn(DVec2) -> DVec2) -> Self {
        Self {
            from: axes(self.from),
            to: axes(self.to),
            velocity: self.velocity.map(&axes),
            carrier: self.carrier.map(&axes),
            bulge: axes(self.bulge),
        }
    }
}

impl Track {
    /// Returns a subject that came to this position, with the mean velocity of the last step.
    #[inline]
    pub fn stands_at(&self, position: DVec2) -> SubjectNow {
        SubjectNow { position, velocity: self.velocity }
    }

    /// Returns the subject at the end of the last step.
    #[inline]
    pub fn end(&self) -> Option<SubjectNow> {
        let velocity = self.end_velocity;
        self.last.map(|position| SubjectNow { position, velocity })
    }

    /// Returns whether anything is known of the velocity.
    pub fn knows_velocity(&self) -> bool {
        self.seconds > 0.0
    }

    /// Returns the position in the last frame.
    #[inline]
    pub fn last(&self) -> Option<DVec2> {
        self.last
    }

    /// Forgets the position and the velocity.
    pub fn forget(&mut self) {
        *self = Self::default();
    }

    /// Moves everything by `delta`.
    pub fn translate(&mut self, delta: DVec2) {
        self.last = self.last.map(|last| last + delta);
    }

    /// Takes the subject's new position, and returns its way there.
    #[inline]
    pub fn advance(&mut self, subject: &Subject, seconds: f64) -> Stride {
        let mut stride = self.stride_to(subject, seconds);
        self.end_velocity = stride.velocity[1];
        let carrier = subject.usable_carrier();
        stride.carrier = [core::mem::replace(&mut self.carrier, carrier), carrier];
        stride
    }

    #[inline]
    fn stride_to(&mut self, subject: &Subject, seconds: f64) -> Stride {
        let to = subject.position;
        let from = self.last.unwrap_or(to);
        self.last = Some(to);
        let in_air = subject.grounded == Some(false);
        let was_in_air = core::mem::replace(&mut self.in_air, in_air);
        // Take-off, at the start of the step, and landing, at its end, interrupt the change of velocity: earlier
        // values say nothing about later ones.
        if in_air && !was_in_air {
            self.seconds = 0.0;
        }
        let given = subject.velocity.filter(|velocity| is_usable(*velocity));
        if let Some(velocity) = given {
            let before = if self.seconds > 0.0 { self.velocity } else { velocity };
            self.velocity = velocity;
            self.seconds = seconds.max(f64::MIN_POSITIVE);
            return Stride::straight(from, to, [before, velocity]);
        }
        if seconds <= 0.0 {
            return Stride::straight(from, to, [self.velocity; 2]);
        }
        // The mean over a step is the velocity at its middle. Between two middles it changes linearly.
        let mean = (to - from) * (1.0 / seconds);
        let share = match self.seconds {
            0.0 => 0.0,
            before if before == seconds => 0.5,
            before => seconds / (seconds + before),
        };
        let mean = if mean.is_finite() { mean } else { DVec2::ZERO };
        // Never so much that the subject would turn within the step, or move in a step in which it stood.
        let change = clamp_point((mean - self.velocity) * share, -mean.abs(), mean.abs());
        (self.velocity, self.seconds) = (mean, if was_in_air && !in_air { 0.0 } else { seconds });
        let velocity = [mean - change, mean + change];
        Stride { bulge: change * seconds, ..Stride::straight(from, to, velocity) }
    }

    /// Moves one that is left on to where it is now.
    pub fn leave_at(&mut self, now: SubjectNow) {
        (self.last, self.end_velocity) = (Some(now.position), now.velocity);
    }

    /// Sets the position of a subject that is new or jumped, and thus did not move.
    pub fn jump(&mut self, position: DVec2) {
        *self = Self { last: Some(position), ..Self::default() };
    }

    /// Does the same, with the velocity that the game gives.
    pub fn meet(&mut self, subject: &Subject) {
        self.jump(subject.position);
        self.carrier = subject.usable_carrier();
        if let Some(velocity) = subject.velocity.filter(|velocity| is_usable(*velocity)) {
            (self.velocity, self.end_velocity, self.seconds) =
                (velocity, velocity, f64::MIN_POSITIVE);
        }
    }
}
