//! Figures of a ride: numbers that describe how the camera feels.
//!
//! The position of a camera does not depend on the frame rate, so everything is measured at one rate, [`RATE`],
//! whatever the frame rate of the take is. Otherwise the figures would depend on it.

mod figure;
mod lens;
mod motion;
mod outside;
mod percentile;
mod picture;
mod subject;
mod sample;
mod stops;
mod warning;
mod worst;

pub use figure::{Better, Figure};
pub use warning::Warned;

use std::collections::BTreeMap;
use std::ops::RangeInclusive;

use serde::Serialize;

use crate::ride::run::Run;
use crate::take::take::Take;
use crate::text::fault::Fault;
use lens::LensFigures;
use motion::{Motion, Turns};
use picture::Picture;
use sample::Samples;
use stops::Stops;
use subject::SubjectFigures;
use warning::Warnings;

/// Samples of the camera per second.
pub(crate) const RATE: f64 = 240.0;

/// The figures of a ride. A figure is `None` if the ride does not have it; [`Figure::reason`] says why.
///
/// Each counts only where it means something. Cuts, changes of room, glides, cutscenes, hands, and the second after a
/// teleport do not count for figures of following; `led` is the fraction of the ride that they take. Lag counts on the
/// axes on which motion, a party or a rail decides; the distance from the anchor where motion decides.
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
    /// The mean distance of the view behind its own goal, in screen pixels. Look-ahead moves the goal, so it is no lag.
    pub lag_mean: Option<f64>,
    /// The 95th percentile of that distance; in a ride of more than 18 minutes within a thousandth.
    pub lag_p95: Option<f64>,
    /// The greatest such distance.
    pub lag_worst: Option<f64>,
    /// The greatest distance from the subject to its anchor, in screen pixels.
    pub off_anchor: Option<f64>,
    /// The longest time, in seconds, from a stop of the subject until the view stays within half a screen pixel. It is
    /// 5 if it did not come to rest in that time.
    pub settle: Option<f64>,
    /// The greatest distance beyond the position of rest, in screen pixels, in the direction of the subject's movement
    /// and in that of the camera's.
    pub overshoot: Option<f64>,
    /// The mean fraction of the screen that is ahead of the subject, along its direction of motion.
    pub view_ahead: Option<f64>,
    /// The shortest time, in seconds and at most 3, for which a place was in view before the subject came there.
    pub warning: Option<f64>,
    /// The same for the hazards of the take, when the subject first came within a quarter of the screen's width.
    pub hazard_warning: Option<f64>,
    /// The deviation of the drawn picture from its true path while it moves, as a root mean square in window pixels.
    /// Shaken frames do not count.
    pub judder: Option<f64>,
    /// The longest step of the drawn subject that is reversed within a tenth of a second although the subject truly
    /// moved in one direction, in window pixels.
    pub tremble: Option<f64>,
    /// The fraction of the frames with a moving picture in which the world is drawn between the canvas's pixels, so that
    /// pixel art shimmers: 0 with `whole` and `subpixel`.
    pub off_grid: Option<f64>,
    /// How often per second the camera turns back along an axis, by a screen pixel or more.
    pub turns: Option<f64>,
    /// The highest speed over a sixtieth of a second, in screen pixels per second.
    pub peak_speed: Option<f64>,
    /// The greatest change of speed from one sixtieth of a second to the next, in screen pixels per second².
    pub peak_acceleration: Option<f64>,
    /// By how many octaves per second the zoom changes, in the two seconds in which it changes most. An octave is twice
    /// or half as large.
    pub zooming: Option<f64>,
    /// By how many degrees per second the view rotates, in the two seconds in which it rotates most.
    pub rotating: Option<f64>,
    /// The fraction of the time in which the view shakes.
    pub shaken: Option<f64>,
    /// The shakes' offset while the view shakes, as a root mean square in screen pixels.
    pub shake: Option<f64>,
    /// The largest area outside the bounds in force that is shown, in square screen pixels. `None` without bounds.
    pub out_of_bounds: Option<f64>,
    /// The fraction of the time in which a followed subject is off the screen.
    pub lost: Option<f64>,
    /// When the worst value of a figure was, in seconds from the start, by the key of the figure.
    pub when: BTreeMap<&'static str, f64>,
    /// The five shortest warnings, the shortest first.
    pub warnings: Vec<Warned>,
    /// The number of hazards that the subject never reached.
    pub hazards_missed: u32,
    /// The fraction of the time for which each stage decided where the view is, over both axes, by its
    /// [name](velvet_pan::Decider::name).
    pub deciders: BTreeMap<&'static str, f64>,
    /// The number of measured stops of the subject: those in which the camera came to rest, and those of 5 seconds.
    pub stops: u32,
    /// The number of those stops in which the camera did not come to rest within 5 seconds.
    pub unsettled: u32,
    /// The number of stops that were too short to measure: the subject moved on while the camera was still moving.
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
        let take = &Take { fps: RATE, ..take.clone().in_even_steps() };
        let (mut subject, mut moved) = (SubjectFigures::default(), Motion::default());
        let (mut turns, mut stops) = (Turns::default(), Stops::default());
        let (mut picture, mut lens) = (Picture::default(), LensFigures::default());
        let mut warnings = Warnings::new(&take.hazards);
        for sample in Samples::new(take)? {
            if seconds.contains(&sample.t) {
                subject.add(&sample);
                moved.add(&sample);
                turns.add(&sample);
                stops.add(&sample);
                picture.add(&sample);
                lens.add(&sample);
                warnings.add(&sample);
            }
        }
        let mut figures = Self { ride: take.name.clone(), ..Self::default() };
        subject.tell(&mut figures);
        moved.tell(&mut figures);
        turns.tell(&mut figures);
        stops.tell(&mut figures);
        picture.tell(&mut figures);
        lens.tell(&mut figures);
        warnings.tell(&mut figures);
        Ok(figures)
    }
}
