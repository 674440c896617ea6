//! Whether the subject's height is followed: on the ground, where the ground is lost, and in a jump.

use crate::base::sound::{Sound, sound};

/// The increase of the upward speed that is a push, in heights of the design screen per second.
pub(crate) const PUSH: f64 = 0.5;

/// The increase of the upward speed that is a push, per speed sideways: a little more than a slope of 45 degrees.
const STEEP: f64 = 1.05;

/// Whether the subject's height is followed. Heights are along the screen's `y`, upwards, in world units.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) enum Air {
    /// On the ground, or without it and not pushed: its height is followed.
    #[default]
    Grounded,
    /// The ground was lost just now. Until a push is certain the goal moves on as if there were ground, at `speed`
    /// against the carrier. The subject is higher than that by `lift`.
    Doubt { speed: f64, lift: f64 },
    /// In a jump: the goal holds its height.
    Held,
    /// In a jump and beyond its leash, or cut to in the air: its height is followed until it lands.
    Loose,
}

impl Air {
    /// Returns a subject of which nothing is known but whether it is in the air.
    pub fn unknown(in_air: bool) -> Self {
        if in_air { Self::Loose } else { Self::Grounded }
    }

    /// Counts the subject as landed at the end of a step, unless it is in the air. Returns whether its height was held.
    pub fn touch_down(&mut self, in_air: bool) -> bool {
        if in_air {
            return false;
        }
        core::mem::replace(self, Self::Grounded) == Self::Held
    }
}

impl Sound for Air {
    fn is_sound(&self) -> bool {
        match self {
            Self::Doubt { speed, lift } => speed.is_sound() && lift.is_sound(),
            Self::Grounded | Self::Held | Self::Loose => true,
        }
    }
}

/// One step of a subject as its carrier sees it.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Climb {
    pub seconds: f64,
    /// How far it moved upwards, and sideways, along the screen's axes in world units.
    pub up: f64,
    pub across: f64,
    pub in_air: bool,
    /// What the game says about a jump.
    pub jump: Option<bool>,
}

/// How the subject has moved upwards of late, by which a push is announced from lost ground.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Takeoff {
    /// The lowest upward speed of late, 0 or more, and the time since then in seconds.
    calm: f64,
    age: f64,
    /// How much higher the subject is than if it had kept that speed.
    rise: f64,
    /// The upward speed in the last step, if one is known.
    speed: Option<f64>,
    /// The time for which the ground has been lost, in seconds.
    lost: f64,
    /// Whether the game announced of a jump in the last step.
    announced: bool,
}

sound!(Takeoff { calm, age, rise, speed, lost, announced });

/// What a step says about the subject's height.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Verdict {
    /// It is on the ground, or lost it without a push.
    Follow,
    /// It may have been pushed. The ground's upward speed is this one.
    Doubt(f64),
    /// It was pushed. At the start of the step it was already higher than at the push, by this distance.
    Push(f64),
}

impl Takeoff {
    /// Takes a step in. `grace` is the time for which a push is looked for before and after the ground is lost, in
    /// seconds, and `push` the speed of one, in world units per second.
    pub fn advance(&mut self, climb: &Climb, grace: f64, push: f64) -> Verdict {
        let before = *self;
        let speed = climb.up / climb.seconds;
        if !speed.is_finite() {
            *self = Self::default();
            return Verdict::Follow;
        }
        self.measure(climb, speed, grace);
        self.announced = climb.jump == Some(true);
        self.speed = Some(speed);
        self.lost = if climb.in_air { before.lost + climb.seconds } else { 0.0 };
        if !climb.in_air {
            return Verdict::Follow;
        }
        let push_here = push.max(climb.across / climb.seconds * STEEP);
        let is_fast = |speed: f64| speed - before.calm > push_here;
        // Whether it was pushed before the ground was reported lost.
        let late = before.speed.is_some_and(is_fast);
        // A stumble is as fast as a push, but not as high.
        let looks = before.lost < grace && climb.jump != Some(false);
        let rises = looks && is_fast(speed) && self.rise > push * grace / 2.0;
        if rises || self.announced || before.announced {
            return Verdict::Push(if late { before.rise } else { 0.0 });
        }
        match before.speed.filter(|_| looks) {
            // A speed that may be that of a push says nothing about the ground.
            Some(speed) => Verdict::Doubt(if late { before.calm } else { speed }),
            None => Verdict::Follow,
        }
    }

    /// Measures how far it rises above its lowest speed of late.
    fn measure(&mut self, climb: &Climb, speed: f64, grace: f64) {
        self.rise += climb.up - self.calm * climb.seconds;
        self.age += climb.seconds;
        let is_calm = speed <= self.calm || (self.age > grace && !climb.in_air);
        if is_calm {
            *self = Self { calm: speed.max(0.0), age: 0.0, rise: 0.0, ..*self };
        }
    }
}
