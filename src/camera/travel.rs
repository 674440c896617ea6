//! The view on its way along a curve, as in a cutscene.

use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::list::List;
use crate::base::maths::{is_usable, usable_seconds};
use crate::base::sound::{NOT_NEGATIVE, sound};
use crate::curves::curve::{self, Piece};
use crate::curves::ease::{Ease, Timing};
use crate::keys::error::SettingsError;
use crate::keys::value::Value;
use crate::lens::rotation::RotationGlide;
use crate::lens::zoom::ZoomGlide;
use crate::settings::settings::Settings;

use super::Camera;
use super::arrival::Clock;
use super::calls::CameraCall;
use super::change::FocusAfter;
use super::command::Command;
use super::hand::Hand;
use super::state::CameraState;

/// The time in which the view comes onto the curve, in seconds.
const ONTO_THE_CURVE: f64 = 0.25;

/// A way for the view along a smooth curve: see [`Camera::travel`].
///
/// The curve passes through all points, makes no loop between two of them, and is there at most a quarter of their
/// distance beside the line. At most 16 points.
///
/// ```
/// use velvet_pan::{Camera, Settings, Travel, Waypoint};
///
/// let mut camera = Camera::new(Settings::default())?;
/// camera.place_at([0, 0]);
/// let way = Travel::new([[0, 0], [400, -60], [700, 100]].map(Waypoint::at), 3.0);
/// camera.travel(&way)?;
/// camera.advance(0.0); // it begins at the end of this frame
/// for _frame in 0..181 {
///     camera.advance(1.0 / 60.0);
/// }
/// assert_eq!(camera.view().centre(), [700.0, 100.0].into());
/// camera.release();
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Travel {
    /// The points, in order.
    pub points: Vec<Waypoint>,
    /// How long it takes from the first point to the last, in seconds.
    pub seconds: f64,
    /// How the way is distributed over the time. With `Linear` the view moves evenly along the curve.
    pub ease: Ease,
}

/// A point of a [`Travel`].
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(deny_unknown_fields)
)]
pub struct Waypoint {
    /// Where the middle of the view is, in world units.
    pub at: DVec2,
    /// The zoom there. It changes smoothly from the last point that has one, or from the zoom at the start.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub zoom: Option<f64>,
    /// The rotation there, in radians, likewise.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub rotation: Option<f64>,
}

impl Travel {
    /// Creates a way through points that takes this number of seconds, with [`Ease::Smooth`].
    #[must_use]
    pub fn new(points: impl IntoIterator<Item = Waypoint>, seconds: f64) -> Self {
        Self { points: points.into_iter().collect(), seconds, ease: Ease::default() }
    }

    /// Returns this way with another ease.
    #[must_use]
    pub fn with_ease(mut self, ease: Ease) -> Self {
        self.ease = ease;
        self
    }

    /// Returns why no camera can travel this way, if so.
    ///
    /// ```
    /// # use velvet_pan::Travel;
    /// let nowhere = Travel::new([], 2.0);
    /// assert_eq!(nowhere.fault().unwrap().to_string(), "points: expected 1 to 16 points, found 0");
    /// ```
    #[must_use]
    pub fn fault(&self) -> Option<TravelError> {
        Route::new(self).err()
    }
}

impl Waypoint {
    /// Creates a point in the world, at which zoom and rotation stay as they are.
    #[must_use]
    pub fn at(point: impl IntoWorld) -> Self {
        Self { at: point.into_world(), zoom: None, rotation: None }
    }

    /// Returns this point with a zoom.
    #[must_use]
    pub fn with_zoom(mut self, zoom: f64) -> Self {
        self.zoom = Some(zoom);
        self
    }

    /// Returns this point with a rotation, in radians.
    #[must_use]
    pub fn with_rotation(mut self, rotation: f64) -> Self {
        self.rotation = Some(rotation);
        self
    }
}

/// The error for a [`Travel`] that no camera can make.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum TravelError {
    /// It has no point, or more than 16.
    Count(usize),
    /// A point, by its index, is not finite or too far away, or its zoom or rotation is not possible.
    Point(usize),
    /// Its time is negative or not finite.
    Seconds(f64),
}

impl fmt::Display for TravelError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let most = Route::MAX_POINTS;
        match self {
            Self::Count(count) => write!(f, "points: expected 1 to {most} points, found {count}"),
            Self::Point(index) => write!(
                f,
                "points.{index}: expected a world point, a zoom from 0.000001 to 1000000, and a finite rotation"
            ),
            Self::Seconds(seconds) => write!(f, "seconds = {seconds}: expected 0 or more"),
        }
    }
}

impl core::error::Error for TravelError {}

impl From<TravelError> for SettingsError {
    fn from(error: TravelError) -> Self {
        let what = error.to_string();
        Self::missing("travel", Value::Text(String::new()), what)
    }
}

/// A way that a camera travels.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Route {
    stops: List<Stop, { Route::MAX_POINTS }>,
    /// The logarithm of the zoom and the rotation with which it began.
    start: [f64; 2],
    timing: Timing,
    /// Seconds since it began.
    age: f64,
}

sound!(Route { stops, start, timing, age in NOT_NEGATIVE });

/// A point of a route, and the length of the curve up to it.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
struct Stop {
    at: DVec2,
    along: f64,
    /// The logarithm of the zoom.
    zoom: Option<f64>,
    rotation: Option<f64>,
}

sound!(Stop { at, along in NOT_NEGATIVE, zoom, rotation });

impl Default for Route {
    fn default() -> Self {
        Self { stops: List::default(), start: [0.0; 2], timing: Timing::smooth(0.0), age: 0.0 }
    }
}

impl Route {
    /// The maximum number of points.
    const MAX_POINTS: usize = 16;

    pub fn new(travel: &Travel) -> Result<Self, TravelError> {
        let Travel { points, seconds, ease } = travel;
        if !(1..=Self::MAX_POINTS).contains(&points.len()) {
            return Err(TravelError::Count(points.len()));
        }
        if !(seconds.is_finite() && *seconds >= 0.0) {
            return Err(TravelError::Seconds(*seconds));
        }
        let timing = Timing { seconds: usable_seconds(*seconds), ease: *ease };
        let mut route = Self { timing, ..Self::default() };
        for (index, point) in points.iter().enumerate() {
            let Waypoint { at, zoom, rotation } = *point;
            let usable = is_usable(at)
                && zoom.is_none_or(|zoom| (1e-6..=1e6).contains(&zoom))
                && rotation.is_none_or(f64::is_finite);
            if !usable {
                return Err(TravelError::Point(index));
            }
            let zoom = zoom.map(libm::log);
            route.stops.push(Stop { at, along: 0.0, zoom, rotation });
        }
        for index in 1..route.stops.len() {
            let length = route.piece(index - 1).map_or(0.0, |piece| piece.length(1.0));
            route.stops[index].along = route.stops[index - 1].along + length;
        }
        Ok(route)
    }

    /// Returns the piece of the curve that begins at a point.
    fn piece(&self, from: usize) -> Option<Piece> {
        let mut points = [DVec2::ZERO; Self::MAX_POINTS];
        for (point, stop) in points.iter_mut().zip(self.stops.iter()) {
            *point = stop.at;
        }
        curve::piece_of(&points[..self.stops.len()], from)
    }

    pub fn age(&self) -> f64 {
        self.age
    }

    pub fn set_age(&mut self, age: f64) {
        self.age = age;
    }

    fn advance(&mut self, seconds: f64) {
        self.age = (self.age + seconds).min(self.timing.seconds);
    }

    /// Returns whether it has not yet arrived.
    fn is_under_way(&self) -> bool {
        self.age < self.timing.seconds
    }

    /// Returns the distance along the curve now.
    fn along(&self) -> f64 {
        let whole = self.stops.last().map_or(0.0, |stop| stop.along);
        let done = if self.is_under_way() { self.age / self.timing.seconds } else { 1.0 };
        whole * self.timing.ease.at(done)
    }

    /// Returns the point of the curve now.
    fn point(&self) -> DVec2 {
        let along = self.along();
        let next = self.stops.partition_point(|stop| stop.along <= along);
        let (Some(last), Some(to)) = (next.checked_sub(1), self.stops.get(next)) else {
            return self.stops.last().map_or(DVec2::ZERO, |stop| stop.at);
        };
        let from = &self.stops[last];
        let fraction = (along - from.along) / (to.along - from.along);
        self.piece(last).map_or(from.at, |piece| piece.at_length(fraction))
    }

    /// Returns the zoom now, if a point has one.
    fn zoom(&self) -> Option<f64> {
        self.value(self.start[0], |stop| stop.zoom).map(libm::exp)
    }

    /// Returns the rotation now, if a point has one.
    fn rotation(&self) -> Option<f64> {
        self.value(self.start[1], |stop| stop.rotation)
    }

    /// Returns a value between the nearest points that have one. Before the first of them, it comes from where the way
    /// began.
    fn value(&self, start: f64, of: impl Fn(&Stop) -> Option<f64>) -> Option<f64> {
        let along = self.along();
        let all = || self.stops.iter().filter_map(|stop| Some((stop.along, of(stop)?)));
        let before = all().take_while(|(at, _)| *at <= along).last();
        let after = all().find(|(at, _)| *at > along);
        let Some((to, high)) = after else { return before.map(|(_, value)| value) };
        let (from, low) = before.unwrap_or((0.0, start));
        Some(low + (high - low) * Ease::InOut.at((along - from) / (to - from)))
    }

    pub fn translate(&mut self, delta: DVec2) {
        for stop in self.stops.iter_mut() {
            stop.at += delta;
        }
    }

    /// Returns whether it is the same way as another, at any time.
    pub fn is_the_way_of(&self, other: &Self) -> bool {
        (self.stops, self.timing) == (other.stops, other.timing)
    }

    /// Returns the time in which the view comes onto the curve.
    fn onto_the_curve(&self) -> Timing {
        Timing::smooth(self.timing.seconds.min(ONTO_THE_CURVE))
    }
}

impl Camera {
    /// Moves the view along a smooth curve, and holds it at its end until [`release`](Self::release). It starts at the
    /// first point: the difference to what is shown fades within a quarter of a second. Points may carry a zoom and a
    /// rotation. Limits, such as bounds, apply. Following continues underneath. It begins at the end of the next frame.
    ///
    /// # Errors
    ///
    /// There is no point, there are more than 16, or a number can't be used. Nothing is then changed.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Travel, TravelError, Waypoint};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let up = [Waypoint::at([0, 0]), Waypoint::at([0, -300]).with_zoom(0.5)];
    /// camera.travel(&Travel::new(up, 2.0)).unwrap();
    /// assert_eq!(camera.travel(&Travel::new([], 2.0)), Err(TravelError::Count(0)));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn travel(&mut self, travel: &Travel) -> Result<(), TravelError> {
        self.told.at_end.set_off(Route::new(travel)?);
        let command = || Command::Travel(travel.clone());
        self.calls.add(|| CameraCall::Told { command: command(), before_end: 0.0 });
        Ok(())
    }

    /// Begins a way. The same one may be given every frame.
    pub(super) fn begin_travel(&mut self, next: Option<Route>, clock: Clock) {
        let Some(next) = next else { return };
        let CameraState { route, ride, .. } = &self.state;
        if matches!(ride.picture.hand, Hand::Travel(_)) && route.is_the_way_of(&next) {
            return;
        }
        let change = self.begin(next.onto_the_curve(), clock);
        let lens = &self.framing.lens;
        self.state.route = Route { start: [libm::log(lens.zoom()), lens.rotation()], ..next };
        self.state.ride.picture.hand = Hand::Travel(next.point());
        self.state.travel_on(&self.rules.settings, 0.0);
        self.fade(change, FocusAfter::Here, clock);
    }
}

impl CameraState {
    /// Returns whether the view is on its way along a curve.
    #[inline]
    pub(super) fn travels(&self) -> bool {
        matches!(self.ride.picture.hand, Hand::Travel(_)) && self.route.is_under_way()
    }

    /// Moves a travelling view on, with the zoom and the rotation of its way.
    pub(super) fn travel_on(&mut self, settings: &Settings, seconds: f64) {
        let Hand::Travel(centre) = &mut self.ride.picture.hand else { return };
        self.route.advance(seconds);
        *centre = self.route.point();
        if let Some(zoom) = self.route.zoom() {
            self.lens.zoom = ZoomGlide::at(settings.zoom.limited(zoom, self.limits.least_zoom));
        }
        if let Some(rotation) = self.route.rotation() {
            self.lens.rotation = RotationGlide::at(rotation);
        }
    }
}
