//! Regions of the world in which the camera has other settings.

use glam::DVec2;

use crate::goal::deadzone::Deadzone;
use crate::lens::lens::Lens;
use crate::limits::bounds::Bounds;
use crate::settings::follow::Follow;
use crate::units::ease::Ease;
use crate::units::error::{Report, check};
use crate::units::list::List;
use crate::units::maths::mix;
use crate::units::rect::Rect;

/// A world region that changes settings while the subject is in it: an entry of `[[zones]]` in a
/// tuning file. What it does not name stays as it is.
///
/// The mistake it prevents is a switch that is thrown at a line: anchor, zoom, deadzone and bounds
/// blend in and out, from wherever they are, and the moment of crossing does not depend on the frame
/// rate. Where zones overlap, later ones are laid over earlier ones.
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
    /// Where it is, in world units; in a file `[x, y, width, height]`.
    #[cfg_attr(feature = "serde", serde(with = "crate::units::rect::serial"))]
    pub rect: Rect,
    /// Seconds in which it takes hold, and in which it lets go, from 0 to 1,000. Default 0.5.
    #[cfg_attr(feature = "serde", serde(default = "half_a_second"))]
    pub blend: f64,
    /// Another anchor, in fractions of the screen.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub anchor: Option<DVec2>,
    /// Another zoom, whatever it was.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub zoom: Option<f64>,
    /// Another deadzone.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub deadzone: Option<Deadzone>,
    /// Other bounds, in world units; in a file `[x, y, width, height]`.
    #[cfg_attr(
        feature = "serde",
        serde(
            default,
            skip_serializing_if = "Option::is_none",
            with = "crate::units::rect::serial_some"
        )
    )]
    pub bounds: Option<Rect>,
}

#[cfg(feature = "serde")]
fn half_a_second() -> f64 {
    0.5
}

impl Zone {
    /// A zone that changes nothing yet and blends within half a second.
    #[must_use]
    pub fn new(rect: Rect) -> Self {
        Self { rect, blend: 0.5, anchor: None, zoom: None, deadzone: None, bounds: None }
    }

    pub(crate) fn check(&self, index: usize, report: Report<'_>) {
        let name = |key: &str| alloc::format!("zones.{index}.{key}");
        self.rect.check(name("rect"), report);
        if let Some(bounds) = self.bounds {
            bounds.check(name("bounds"), report);
        }
        let expected = "a time in seconds, from 0 to 1000";
        check(report, name("blend"), self.blend, 0.0..=1000.0, expected);
        if let Some(anchor) = self.anchor {
            let expected = "two fractions of the screen, each from 0 to 1";
            check(report, name("anchor"), anchor, 0.0..=1.0, expected);
        }
        if let Some(zoom) = self.zoom {
            check(report, name("zoom"), zoom, 1e-6..=1e6, "a zoom from 0.000001 to 1000000");
        }
        if let Some(deadzone) = &self.deadzone {
            deadzone.check(&name("deadzone"), report);
        }
    }
}

/// Which zones have a say, and how much.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct ZoneMemory {
    active: List<Active, { ZoneMemory::MOST }>,
}

/// A zone that the subject is in, or has left a moment ago.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
struct Active {
    index: u32,
    inside: bool,
    /// From 0 to 1, evenly in time.
    weight: f64,
}

impl ZoneMemory {
    /// Zones that have a say at once; beyond that the one with the least gives way.
    const MOST: usize = 8;

    /// Whether any has a say.
    #[inline]
    pub fn is_empty(&self) -> bool {
        self.active.is_empty()
    }

    pub fn is_sound(&self) -> bool {
        self.active.iter().all(|zone| (0.0..=1.0).contains(&zone.weight))
    }

    /// Keeps what is remembered of the zones that are in both lists.
    pub fn carry_over(&mut self, before: &[Zone], after: &[Zone]) {
        self.active.retain(|active| {
            let zone = before.get(active.index as usize);
            let same = zone.and_then(|zone| after.iter().position(|other| other == zone));
            active.index = same.unwrap_or_default() as u32;
            same.is_some()
        });
        self.active.sort_unstable_by_key(|active| active.index);
    }

    /// Whether any is taking hold or letting go.
    #[inline]
    pub fn moves(&self) -> bool {
        self.active.iter().any(|zone| zone.weight != if zone.inside { 1.0 } else { 0.0 })
    }

    /// The subject is here now; `at_once` after a cut, when nothing blends.
    pub fn enter(&mut self, zones: &[Zone], position: DVec2, at_once: bool) {
        if at_once {
            self.active.truncate(0);
        }
        for zone in self.active.iter_mut() {
            zone.inside =
                zones.get(zone.index as usize).is_some_and(|zone| zone.rect.contains(position));
        }
        for (index, zone) in (0..).zip(zones).filter(|(_, zone)| zone.rect.contains(position)) {
            if self.active.iter().all(|active| active.index != index) {
                let weight = if at_once || zone.blend == 0.0 { 1.0 } else { 0.0 };
                self.add(Active { index, inside: true, weight });
            }
        }
    }

    /// Adds a zone in the order of their numbers.
    fn add(&mut self, zone: Active) {
        if self.active.is_full() {
            let least = (0..Self::MOST)
                .min_by(|a, b| self.active[*a].weight.total_cmp(&self.active[*b].weight));
            self.active.remove(least.unwrap_or(0));
        }
        let at = self.active.iter().position(|other| other.index > zone.index);
        self.active.insert(at.unwrap_or(Self::MOST), zone);
    }

    /// Goes on for some seconds.
    pub fn advance(&mut self, zones: &[Zone], seconds: f64) {
        self.active.retain(|zone| {
            let blend = zones.get(zone.index as usize).map_or(0.0, |zone| zone.blend);
            let fraction = if blend > 0.0 { seconds / blend } else { 1.0 };
            // The rounding of a sum of steps is no part of a blend.
            let change = if zone.inside { fraction } else { -fraction };
            zone.weight = (zone.weight + change).clamp(0.0, 1.0);
            if zone.weight > 1.0 - 1e-12 {
                zone.weight = 1.0;
            }
            zone.weight >= 1e-12 || zone.inside
        });
    }

    /// The zones that have a say, in order, with their shares.
    fn shares<'a>(&'a self, zones: &'a [Zone]) -> impl Iterator<Item = (&'a Zone, f64)> {
        let share = |active: &Active| {
            Some((zones.get(active.index as usize)?, Ease::InOut.at(active.weight)))
        };
        self.active.iter().filter_map(share)
    }

    /// Where the zones are that have a say.
    pub fn rects<'a>(&'a self, zones: &'a [Zone]) -> impl Iterator<Item = Rect> {
        self.shares(zones).map(|(zone, _)| zone.rect)
    }

    /// Following as these zones have it.
    pub fn follow(&self, zones: &[Zone], mut follow: Follow) -> Follow {
        for (zone, share) in self.shares(zones) {
            if let Some(anchor) = zone.anchor {
                follow.anchor = mix(follow.anchor, anchor, share);
            }
            if let Some(deadzone) = &zone.deadzone {
                follow.deadzone = follow.deadzone.mixed(deadzone, share);
            }
        }
        follow
    }

    /// A zoom as these zones have it, blended in log space.
    pub fn zoom(&self, zones: &[Zone], mut zoom: f64) -> f64 {
        for (zone, share) in self.shares(zones) {
            if let Some(other) = zone.zoom {
                zoom = if share >= 1.0 { other } else { zoom * libm::pow(other / zoom, share) };
            }
        }
        zoom
    }

    /// Where the view's centre may be as these zones have it.
    pub fn range(&self, zones: &[Zone], lens: &Lens, mut range: Rect) -> Rect {
        for (zone, share) in self.shares(zones) {
            if let Some(bounds) = zone.bounds {
                let own = Bounds::new(bounds).centre_range(lens);
                // From everywhere the edges come in from so far away that they are never met at first.
                let away = lens.view_size() * (1.0 / share - 1.0);
                let blend = |from: DVec2, to: DVec2, far: DVec2| {
                    if from.is_finite() { mix(from, to, share) } else { far }
                };
                range = Rect {
                    min: blend(range.min, own.min, own.min - away),
                    max: blend(range.max, own.max, own.max + away),
                };
            }
        }
        range
    }
}

/// The first moment on a straight way at which it enters or leaves a zone, as a fraction of it.
pub(crate) fn next_crossing(zones: &[Zone], from: DVec2, to: DVec2) -> Option<f64> {
    let crossing = |zone: &Zone| {
        let (start, end) = zone.rect.stretch_of(from, to)?;
        if start > 0.0 { Some(start) } else { Some(end).filter(|end| *end < 1.0) }
    };
    // Most zones are nowhere near.
    let (low, high) = (from.min(to), from.max(to));
    let near = |zone: &&Zone| zone.rect.min.cmple(high).all() && zone.rect.max.cmpge(low).all();
    zones
        .iter()
        .filter(near)
        .filter_map(crossing)
        .filter(|at| *at > 0.0 && *at < 1.0)
        .reduce(f64::min)
}
