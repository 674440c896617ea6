//! All settings of a camera, which are checked once.

use core::fmt::Write;

use alloc::collections::BTreeMap;
use alloc::string::String;
use alloc::vec::Vec;

use glam::DVec2;

use crate::goal::lure::Lure;
use crate::goal::party::Party;
use crate::goal::rail::Rail;
use crate::goal::rooms::Rooms;
use crate::goal::scroll::Scroll;
use crate::lens::rotation::Rotation;
use crate::lens::screen::Screen;
use crate::lens::zoom::{Zoom, ZoomRange};
use crate::limits::bounds::Bounds;
use crate::settings::follow::Follow;
use crate::settings::hands::Hands;
use crate::settings::zone::Zone;
use crate::shake::cue::Cue;
use crate::shake::shaker::Shaking;
use crate::units::error::{Report, SettingsError};
use crate::units::keys::report_faults;
use crate::units::value::Value;
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
    /// How several subjects are framed together.
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
    /// The rectangle that the view must not leave. Default `None`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub bounds: Option<Bounds>,
    /// How large the world appears.
    pub zoom: Zoom,
    /// How the camera rotates.
    pub rotation: Rotation,
    /// How the view returns to the subject after a drag, a pan or a pause.
    pub hands: Hands,
    /// How several shakes are combined.
    pub shake: Shaking,
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
        self.check_cover(self.bounds.as_ref(), report);
        faults
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
        self.check_cover(bounds, report);
        refused.map_or(Ok(()), Err)
    }

    /// A number that differs if settings differ: of the keys and values that are not the defaults. So a new key, or another
    /// name of a field, leaves it alone.
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
