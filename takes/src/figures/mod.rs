//! Figures of a ride: how it feels, in numbers.
//!
//! Where the camera is does not depend on the frame rate. So everything is measured on one clock, [`RATE`], whatever
//! the take's own frame rate is: else a figure would tell of the clock.

mod figure;
mod motion;
mod percentile;
mod picture;
mod place;
mod sight;
mod stops;

pub use figure::{Better, Figure};
pub use sight::drawn_origin;
pub(crate) use sight::{drawn_subject, true_origin};

use std::ops::RangeInclusive;

use serde::Serialize;

use crate::fault::Fault;
use crate::run::Run;
use crate::take::Take;
use motion::{Motion, Turns};
use picture::Picture;
use place::Place;
use sight::Sights;
use stops::Stops;

/// Looks a second at the camera's motion.
pub(crate) const RATE: f64 = 240.0;

/// The figures of a ride. A figure is `None` where the ride does not tell: [`Figure::reason`] says why.
///
/// Lag, view ahead, turns, speed, acceleration, stops and losing the subject are those of following. A cut, a change
/// of room, a glide, a cutscene, a hand, and the second after a teleport do not count; `led` says how much of the
/// ride that is.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
pub struct Figures {
    /// The ride's name.
    pub ride: String,
    /// Screen pixels from the subject to its anchor: the mean, …
    pub lag_mean: Option<f64>,
    /// … the 95th percentile, in a ride of more than 18 minutes to a thousandth, …
    pub lag_p95: Option<f64>,
    /// … and the worst.
    pub lag_worst: Option<f64>,
    /// Seconds from the subject's stop until the camera is slower than 4 screen pixels a second, at worst; 5
    /// where it did not come to rest.
    pub settle: Option<f64>,
    /// Screen pixels beyond the place of rest, at worst: seen from where the subject came, and from where the
    /// camera did.
    pub overshoot: Option<f64>,
    /// The share of the screen's length in front of the subject along its motion, on average.
    pub view_ahead: Option<f64>,
    /// How far the drawn picture strays from its true way while it moves: the root of the mean square, in window
    /// pixels; shaken frames left out.
    pub judder: Option<f64>,
    /// The longest step there and back of the drawn subject within a tenth of a second, while truly it went one
    /// way, in window pixels.
    pub tremble: Option<f64>,
    /// How often per second the camera turns back along an axis, by a screen pixel or more.
    pub turns: Option<f64>,
    /// Screen pixels per second, over a sixtieth of a second.
    pub peak_speed: Option<f64>,
    /// Screen pixels per second²: how much the speed differs from one sixtieth of a second to the next.
    pub peak_acceleration: Option<f64>,
    /// The largest area shown outside the world, in square screen pixels; none without bounds.
    pub out_of_bounds: Option<f64>,
    /// The share of the time with the subject off the screen, while it is followed.
    pub lost: Option<f64>,
    /// How many stops of the subject were looked at: those of at least a second, and shorter ones in which the
    /// camera came to rest.
    pub stops: u32,
    /// In how many of them the camera did not come to rest within 5 seconds, or before the subject went on.
    pub unsettled: u32,
    /// How many stops were too short to tell: less than a second, and the camera was not at rest.
    pub short_stops: u32,
    /// How many cuts and changes of room there were.
    pub cuts: u32,
    /// How many times a followed subject was elsewhere at once.
    pub teleports: u32,
    /// The share of the time in which something else than following led the view.
    pub led: f64,
}

impl Figures {
    /// Rides a take and measures the ride.
    ///
    /// # Errors
    ///
    /// Settings that can't be used.
    pub fn of_take(take: &Take) -> Result<Self, Fault> {
        Self::of_part(take, 0.0..=f64::INFINITY)
    }

    /// Rides a take and measures a part of the ride: these seconds of it.
    ///
    /// # Errors
    ///
    /// Settings that can't be used.
    pub fn of_part(take: &Take, seconds: RangeInclusive<f64>) -> Result<Self, Fault> {
        let take = &Take { fps: RATE, ..take.clone() };
        let (mut place, mut moved) = (Place::default(), Motion::default());
        let (mut turns, mut stops) = (Turns::default(), Stops::default());
        let mut picture = Picture::default();
        for sight in Sights::new(take)? {
            if seconds.contains(&sight.t) {
                place.add(&sight);
                moved.add(&sight);
                turns.add(&sight);
                stops.add(&sight);
                picture.add(&sight);
            }
        }
        let mut figures = Self { ride: take.name.clone(), ..Self::default() };
        place.tell(&mut figures);
        moved.tell(&mut figures);
        turns.tell(&mut figures);
        stops.tell(&mut figures);
        picture.tell(&mut figures);
        Ok(figures)
    }
}
