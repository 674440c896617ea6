//! Regions of the world with other settings for the camera.

use glam::DVec2;

use crate::base::nearby::Nearby;
use crate::base::rect::Rect;
use crate::goal::deadzone::Deadzone;
use crate::keys::keys::settings;
use crate::keys::setting::Setting;
use crate::settings::follow::Follow;

/// A region of the world that changes settings while the subject is in it: an entry of `[[zones]]` in a tuning file.
/// Settings that it does not name stay as they are.
///
/// A zone applies at the moment at which the subject crosses its edge, at any frame rate. The difference to what was
/// shown fades over `fade` seconds. Where zones overlap, later ones override earlier ones.
///
/// ```
/// use velvet_pan::{Camera, Rect, Settings, Zone};
///
/// let shrine = Zone { zoom: Some(2.0), ..Zone::new(Rect::new([400, 0], [600, 180])) };
/// let mut camera = Camera::new(Settings { zones: vec![shrine], ..Settings::default() })?;
/// camera.follow(0.0, [390, 90]);
/// camera.follow(0.1, [410, 90]); // in
/// assert_eq!(camera.follow(0.5, [500, 90]).lens().zoom(), 2.0);
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(deny_unknown_fields)
)]
pub struct Zone {
    /// The region, in world units. In a file it is written as `[x, y, width, height]`.
    pub rect: Rect,
    /// The time in which the picture changes when the subject enters or leaves, in seconds, from 0 to 1,000. Default 0.5.
    #[cfg_attr(feature = "serde", serde(default = "crate::limits::bounds::half_a_second"))]
    pub fade: f64,
    /// The anchor in the zone, in fractions of the screen. Default `None`: as outside.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub anchor: Option<DVec2>,
    /// The zoom in the zone. Default `None`: as outside.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub zoom: Option<f64>,
    /// The deadzone in the zone. Default `None`: as outside.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub deadzone: Option<Deadzone>,
    /// The bounds in the zone, in world units. In a file they are written as `[x, y, width, height]`. Default `None`: as
    /// outside.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub bounds: Option<Rect>,
}

settings!(Zone {
    rect = Setting::rect("rect", "the region").required();
    fade = Setting::number("fade", "the time in which the picture changes when the subject enters or leaves", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 3.0);
    anchor = Setting::pair("anchor", "the anchor there", "two fractions of the screen")
        .measured("of the screen").from(0.0, 1.0).optional();
    zoom = Setting::number("zoom", "the zoom there", "a zoom").from(1e-6, 1e6).usual_from(0.5, 4.0).optional();
    bounds = Setting::rect("bounds", "the bounds there").optional();
});

impl Zone {
    /// Creates a zone that changes nothing yet and fades within half a second.
    ///
    /// ```
    /// # use velvet_pan::{Rect, Zone};
    /// let zone = Zone { zoom: Some(1.5), ..Zone::new(Rect::new([600, 0], [900, 300])) };
    /// assert_eq!(zone.fade, 0.5); // seconds
    /// ```
    #[must_use]
    pub fn new(rect: Rect) -> Self {
        Self { rect, fade: 0.5, anchor: None, zoom: None, deadzone: None, bounds: None }
    }
}

/// A zone that changes nothing, of an empty rectangle, which no point is in.
impl Default for Zone {
    fn default() -> Self {
        Self::new(Rect::default())
    }
}

/// The zones, and a grid over them.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Zones<'a> {
    pub all: &'a [Zone],
    pub nearby: &'a Nearby,
}

impl<'a> Zones<'a> {
    /// Returns the zones that contain a point, in order: later zones override earlier ones.
    pub fn holding(&self, point: Option<DVec2>) -> impl Iterator<Item = &'a Zone> {
        let about = point.map(|point| self.nearby.about(self.all, point, point));
        about.into_iter().flatten().filter(move |zone| zone.contains(point))
    }

    /// Returns the time in which the zones' settings change on the path between two points, in seconds, or `None` if
    /// they do not change. If one zone is left as another is entered, it is the time of the entered one.
    pub fn fade_between(&self, from: Option<DVec2>, to: Option<DVec2>) -> Option<f64> {
        let ends = (from.or(to)?, to.or(from)?);
        let (mut entered, mut left) = (None, None);
        self.nearby.about(self.all, ends.0, ends.1).for_each(|zone| {
            match (zone.contains(from), zone.contains(to)) {
                (false, true) => entered = Some(zone.fade),
                (true, false) => left = Some(zone.fade),
                _ => {}
            }
        });
        entered.or(left)
    }

    /// Returns the first moment on a straight path at which it enters or leaves a zone, as a fraction of the path.
    pub fn next_crossing(&self, from: DVec2, to: DVec2) -> Option<f64> {
        // Most zones are far away.
        let (low, high) = (from.min(to), from.max(to));
        let near = |zone: &&Zone| zone.rect.min.cmple(high).all() && zone.rect.max.cmpge(low).all();
        self.nearby
            .about(self.all, from, to)
            .filter(near)
            .filter_map(|zone| zone.rect.stretch_of(from, to))
            .flat_map(|(start, end)| [start, end])
            .filter(|at| *at > 0.0 && *at < 1.0)
            .reduce(f64::min)
    }
}

impl Zone {
    fn contains(&self, point: Option<DVec2>) -> bool {
        point.is_some_and(|point| self.rect.contains(point))
    }

    /// Returns the settings of following in this zone.
    pub(crate) fn follow(&self, follow: Follow) -> Follow {
        Follow {
            anchor: self.anchor.unwrap_or(follow.anchor),
            deadzone: self.deadzone.unwrap_or(follow.deadzone),
            ..follow
        }
    }
}
