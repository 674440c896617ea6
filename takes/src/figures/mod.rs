//! Figures of a ride: numbers that describe how the camera feels.
//!
//! The position of a camera does not depend on the frame rate, so everything is measured at one rate, [`RATE`],
//! whatever the frame rate of the take is. Otherwise the figures would depend on it.

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

/// Samples of the camera per second.
pub(crate) const RATE: f64 = 240.0;

/// The figures of a ride. A figure is `None` if the ride does not have it; [`Figure::reason`] says why.
///
/// Lag, view ahead, turns, speed, acceleration, stops and the time off the screen are figures of following. Cuts,
/// changes of room, glides, cutscenes, hands, and the second after a teleport do not count; `led` is the fraction of
/// the ride that they take.
///
/// ```
/// # use velvet_pan_takes::{BuiltIn, Figures, Files, Overrides, Take};
/// # let text = "seconds = 2.0\ntuning = { follow = { smoothing = { half_life = 0.1 } } }\n[subjects.courier]\nkeys = [[0.0, 0.0, 0.0], [2.0, 240.0, 0.0]]\n";
/// # let files = [BuiltIn { name: "run.toml", text: text.into() }];
/// # let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
/// let figures = Figures::of_take(&take)?;
/// // At 120 units a second, a half-life of 0.1 s ends 120 · 0.1 / ln 2 = 17.3 units behind.
/// assert!((figures.lag_worst.unwrap() - 17.3).abs() < 0.1);
/// assert_eq!(figures.settle, None); // the subject never stops
/// # Ok::<(), velvet_pan_takes::Fault>(())
/// ```
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
pub struct Figures {
    /// The name of the ride.
    pub ride: String,
    /// The mean distance from the subject to its anchor, in screen pixels.
    pub lag_mean: Option<f64>,
    /// The 95th percentile of that distance; in a ride of more than 18 minutes within a thousandth.
    pub lag_p95: Option<f64>,
    /// The greatest such distance.
    pub lag_worst: Option<f64>,
    /// The longest time, in seconds, from a stop of the subject until the camera is slower than 4 screen pixels per
    /// second. It is 5 if the camera did not come to rest.
    pub settle: Option<f64>,
    /// The greatest distance beyond the position of rest, in screen pixels, in the direction of the subject's movement
    /// and in that of the camera's.
    pub overshoot: Option<f64>,
    /// The mean fraction of the screen that is ahead of the subject, along its direction of motion.
    pub view_ahead: Option<f64>,
    /// The deviation of the drawn picture from its true path while it moves, as a root mean square in window pixels.
    /// Shaken frames do not count.
    pub judder: Option<f64>,
    /// The longest step of the drawn subject that is reversed within a tenth of a second although the subject truly
    /// moved in one direction, in window pixels.
    pub tremble: Option<f64>,
    /// How often per second the camera turns back along an axis, by a screen pixel or more.
    pub turns: Option<f64>,
    /// The highest speed over a sixtieth of a second, in screen pixels per second.
    pub peak_speed: Option<f64>,
    /// The greatest change of speed from one sixtieth of a second to the next, in screen pixels per second².
    pub peak_acceleration: Option<f64>,
    /// The largest area outside the bounds that is shown, in square screen pixels. `None` without bounds.
    pub out_of_bounds: Option<f64>,
    /// The fraction of the time in which a followed subject is off the screen.
    pub lost: Option<f64>,
    /// The number of measured stops of the subject: those of at least a second, and shorter ones in which the camera
    /// came to rest.
    pub stops: u32,
    /// The number of those stops in which the camera did not come to rest within 5 seconds, or before the subject
    /// moved on.
    pub unsettled: u32,
    /// The number of stops that were too short to measure: less than a second, with the camera still moving.
    pub short_stops: u32,
    /// The number of cuts and changes of room.
    pub cuts: u32,
    /// The number of times that a followed subject jumped.
    pub teleports: u32,
    /// The fraction of the time in which something other than following moved the view.
    pub led: f64,
}

impl Figures {
    /// Rides a take and measures the ride.
    ///
    /// # Errors
    ///
    /// The settings can't be used.
    pub fn of_take(take: &Take) -> Result<Self, Fault> {
        Self::of_part(take, 0.0..=f64::INFINITY)
    }

    /// Rides a take and measures the part of the ride between two times, in seconds.
    ///
    /// # Errors
    ///
    /// The settings can't be used.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Figures, Files, Overrides, Take};
    /// # let text = "seconds = 2.0\n[subjects.courier]\nkeys = [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [2.0, 240.0, 0.0]]\n";
    /// # let files = [BuiltIn { name: "run.toml", text: text.into() }];
    /// # let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
    /// // The courier stands for a second, then runs at 240 units a second.
    /// assert_eq!(Figures::of_part(&take, 0.0..=0.9)?.peak_speed, Some(0.0));
    /// assert!((Figures::of_part(&take, 1.1..=2.0)?.peak_speed.unwrap() - 240.0).abs() < 1e-6);
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
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
