//! All settings of a camera, which are checked once.

use core::fmt::Write;

use alloc::collections::BTreeMap;
use alloc::string::String;
use alloc::vec::Vec;

use glam::DVec2;

use crate::base::rect::Rect;
use crate::base::text::nearest;
use crate::goal::lure::Lure;
use crate::goal::party::Party;
use crate::goal::rail::Rail;
use crate::goal::rooms::Rooms;
use crate::goal::scroll::Scroll;
use crate::keys::error::{Report, SettingsError};
use crate::keys::keys::report_faults;
use crate::keys::value::Value;
use crate::lens::rotation::Rotation;
use crate::lens::screen::Screen;
use crate::lens::zoom::{Zoom, ZoomRange};
use crate::limits::bounds::Bounds;
use crate::limits::outline::{Outline, OutlineName};
use crate::settings::follow::Follow;
use crate::settings::hands::Hands;
use crate::settings::zone::Zone;
use crate::shake::active_shakes::ShakeSettings;
use crate::shake::cue::Cue;
use crate::view::layer::Layer;

/// All settings of a camera: the contents of a tuning file.
///
/// With the feature `serde` it is read and written in exactly the form of a tuning file, in any file format. Unknown keys
/// are errors.
///
/// ```
/// use velvet_pan::{Camera, Settings, Smoothing};
///
/// let mut settings = Settings::default();
/// settings.follow.smoothing = Smoothing::HalfLife(0.12).into();
/// assert!(Camera::new(settings).is_ok());
/// ```
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Settings {
    /// The picture that the game draws.
    pub screen: Screen,
    /// How the view follows its subject.
    pub follow: Follow,
    /// How several subjects are shown together.
    pub party: Party,
    /// The rooms that the view shows one at a time. Default `None`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub rooms: Option<Rooms>,
    /// The polyline on which the goal stays. Default `None`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub rail: Option<Rail>,
    /// How the view scrolls by itself. Default `None`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub scroll: Option<Scroll>,
    /// The rectangle or the outline that the view must not leave. Default `None`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub bounds: Option<Bounds>,
    /// Levels that are not one rectangle, by name, for [`Bounds::outline`] and
    /// [`Camera::set_bounds`](crate::Camera::set_bounds).
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "BTreeMap::is_empty"))]
    pub outlines: BTreeMap<String, Outline>,
    /// How large the world appears.
    pub zoom: Zoom,
    /// How the camera rotates.
    pub rotation: Rotation,
    /// How the view returns to the subject after a drag, a pan or a pause.
    pub hands: Hands,
    /// How several shakes are combined.
    pub shake: ShakeSettings,
    /// What the camera does at named events of the game.
    pub cues: BTreeMap<String, Cue>,
    /// Points of interest that pull the view.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Vec::is_empty"))]
    pub lures: Vec<Lure>,
    /// Regions of the world with other settings. Where they overlap, later ones override earlier ones.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Vec::is_empty"))]
    pub zones: Vec<Zone>,
    /// Layers that scroll at their own rates, from back to front.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Vec::is_empty"))]
    pub layers: Vec<Layer>,
}

impl Settings {
    /// Checks all values.
    ///
    /// # Errors
    ///
    /// Returns the first invalid value, in the order of the tables.
    ///
    /// ```
    /// use velvet_pan::Settings;
    ///
    /// let mut settings = Settings::default();
    /// settings.zoom.level = f64::NAN;
    /// assert_eq!(settings.validate().unwrap_err().field(), "zoom.level");
    /// ```
    pub fn validate(&self) -> Result<(), SettingsError> {
        self.faults().into_iter().next().map_or(Ok(()), Err)
    }

    /// Returns all invalid values, in the order of the tables. The list is empty if all are valid.
    #[must_use]
    pub fn faults(&self) -> Vec<SettingsError> {
        let mut faults = Vec::new();
        let report: Report<'_> = &mut |fault| faults.push(fault);
        for (path, table) in self.tables_here() {
            report_faults(table, &path, report);
        }
        self.check_pairs(report);
        self.check_outlines(report);
        self.check_shape(self.bounds.as_ref(), report);
        self.check_cover(self.bounds.as_ref(), report);
        faults
    }

    /// Returns the rectangle around everything that these bounds let the view show, with no side open, in world units.
    /// Returns `None` without bounds, and if there is no such outline.
    ///
    /// ```
    /// use velvet_pan::{Bounds, Outline, Rect, Settings};
    ///
    /// let mut settings = Settings::default();
    /// let parts = [Rect::new([0, 0], [400, 200]), Rect::new([0, 0], [200, 900])];
    /// settings.outlines.insert("cellar".into(), Outline::new(parts));
    /// let bounds = Bounds::of_outline("cellar")?;
    /// assert_eq!(settings.extent(&bounds), Some(Rect::new([0, 0], [400, 900])));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn extent(&self, bounds: &Bounds) -> Option<Rect> {
        let outline = || self.outlines.get(bounds.outline.as_ref()?.as_str())?.extent();
        bounds.rect.or_else(outline)
    }

    /// Reports values that do not fit together.
    fn check_pairs(&self, report: Report<'_>) {
        if let Some(rail) = self.rail.as_ref().filter(|rail| rail.points.len() < 2) {
            let points = rail.points.iter().map(DVec2::to_array).collect();
            report(SettingsError::new("rail.points", Value::Points(points), "two points or more"));
        }
        let ZoomRange { min, max } = self.zoom.range;
        if min > max {
            let expected = "the smallest zoom first, then the largest";
            report(SettingsError::new("zoom.range", [min, max], expected));
        } else if !(min..=max).contains(&self.zoom.level) {
            let expected = alloc::format!("a zoom within zoom.range, from {min} to {max}");
            report(SettingsError::new("zoom.level", self.zoom.level, expected));
        }
        for (name, cue) in &self.cues {
            cue.check_pairs(name, report);
        }
    }

    /// Reports outlines that are empty, too large, or can't be named.
    fn check_outlines(&self, report: Report<'_>) {
        for (name, outline) in &self.outlines {
            let field = alloc::format!("outlines.{name}.parts");
            if OutlineName::new(name).is_err() {
                let expected = "a name of 1 to 31 bytes";
                report(SettingsError::new("outlines", Value::Text(name.clone()), expected));
            }
            if outline.parts.is_empty() {
                let expected = "one rectangle or more";
                report(SettingsError::new(field, Value::Rects(Vec::new()), expected));
            } else if let Some(fault) = outline.fault(field) {
                report(fault);
            }
        }
    }

    /// Reports bounds that are not of exactly one shape, or of one that is not there.
    fn check_shape(&self, bounds: Option<&Bounds>, report: Report<'_>) {
        let Some(bounds) = bounds else { return };
        let Some(outline) = &bounds.outline else {
            if bounds.rect.is_none() {
                let what = "is missing: expected a rect or an outline".into();
                report(SettingsError::missing("bounds.rect", Value::Rects(Vec::new()), what));
            }
            return;
        };
        let name = outline.as_str();
        let is_there = self.outlines.contains_key(name);
        let expected = match () {
            () if bounds.rect.is_some() => "no outline beside a rect".into(),
            () if !is_there => self.names_of_outlines(name),
            () if !bounds.open.is_empty() => "no outline for bounds with open sides".into(),
            () => return,
        };
        report(SettingsError::new("bounds.outline", Value::Text(name.into()), expected));
    }

    fn names_of_outlines(&self, name: &str) -> String {
        match nearest(name, self.outlines.keys().cloned()) {
            Some(near) => alloc::format!("the name of an outline; did you mean {near:?}?"),
            None if self.outlines.is_empty() => "the name of an outline; there is none".into(),
            None => "the name of an outline".into(),
        }
    }

    /// Reports layers that cover if there are no bounds, or open ones.
    pub(crate) fn check_cover(&self, bounds: Option<&Bounds>, report: Report<'_>) {
        let expected = match bounds {
            None => "bounds, for the picture to cover",
            Some(bounds) if !bounds.open.is_empty() => {
                "bounds without open sides, for the picture to cover"
            }
            Some(_) => return,
        };
        for (index, layer) in self.layers.iter().enumerate() {
            if let Some(cover) = layer.cover {
                let field = alloc::format!("layers.{index}.cover");
                report(SettingsError::new(field, cover, expected));
            }
        }
    }

    /// Returns the first fault of bounds that are put in the place of these settings' own.
    pub(crate) fn check_bounds(&self, bounds: Option<&Bounds>) -> Result<(), SettingsError> {
        let mut refused = None;
        let report: Report<'_> = &mut |fault| refused = Some(refused.take().unwrap_or(fault));
        if let Some(bounds) = bounds {
            report_faults(bounds, "bounds", report);
        }
        self.check_shape(bounds, report);
        self.check_cover(bounds, report);
        refused.map_or(Ok(()), Err)
    }

    /// Returns a number that differs if settings differ: of the keys and values that are not the defaults. So a new
    /// key, or another name of a field, leaves it alone.
    pub(crate) fn digest(&self) -> u64 {
        let mut digest = Digest(0xcbf2_9ce4_8422_2325);
        let (plain, alike) = (Self::default(), self.defaults_alike());
        for ((path, table), (_, default)) in self.tables_here().into_iter().zip(alike.tables_here())
        {
            // Writing to a digest can't fail.
            if !plain.has_table(&path) {
                let _ = write!(digest, "{path};");
            }
            for (index, setting) in table.keys().iter().enumerate() {
                let value = table.value(index);
                if value != default.value(index) {
                    let _ = write!(digest, "{path}.{} = {value:?};", setting.key());
                }
            }
        }
        digest.0
    }
}

/// The hash FNV-1a over the bytes of a text.
struct Digest(u64);

impl Write for Digest {
    fn write_str(&mut self, text: &str) -> core::fmt::Result {
        for byte in text.bytes() {
            self.0 = (self.0 ^ u64::from(byte)).wrapping_mul(0x0000_0100_0000_01b3);
        }
        Ok(())
    }
}
