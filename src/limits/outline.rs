//! Levels that are not one rectangle: unions of rectangles, by name.

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

use crate::base::rect::Rect;
use crate::base::sound::always_sound;
use crate::keys::error::SettingsError;
use crate::keys::keys::settings;
use crate::keys::setting::Setting;
use crate::keys::value::{SettingValue, Value};
use crate::limits::halls::{Halls, TooMany};

/// The shape of a level: a union of rectangles, as an entry of `[outlines]` in a tuning file. Bounds name it with
/// [`Bounds::outline`](crate::Bounds::outline).
///
/// Parts may overlap or touch; the edges inside of the union do not matter. The view is always in one *hall* of the
/// outline: a largest rectangle that lies inside of the union. There it is limited as by bounds of one rectangle.
///
/// - The hall holds the subject, if one does. Of those that do, it is one into which the view fits, if there is one. A narrower
///   one, such as a stair, is entered when the subject is on its way into it: closer than 15 % of the view to the edge where the
///   large one ends.
/// - Where two such halls overlap, the view passes from one into the other as soon as it is in both and comes nearer to its goal.
///   A way around a corner is then one smooth way.
/// - A view that has no way on without showing the outside passes into another hall over
///   [`Bounds::fade`](crate::Bounds::fade) seconds. This happens when the subject leaves its hall, and when the goal is farther
///   from the middle of the screen than a quarter of the view, and nearer to it by 2.5 % of the view in another hall that holds
///   the subject.
/// - A hall that is smaller than the view is shown as a small world is: see [`Bounds::small`](crate::Bounds::small).
///
/// A rotated view counts as large as the upright rectangle around it.
///
/// ```
/// use velvet_pan::{Bounds, Camera, Outline, Rect, Settings};
///
/// let mut settings = Settings::default(); // the screen is 320 x 180
/// // A passage, and a hall above its left end: an L.
/// let parts = [Rect::new([0, 800], [1000, 1000]), Rect::new([0, 0], [400, 1000])];
/// settings.outlines.insert("cellar".into(), Outline::new(parts));
/// settings.bounds = Some(Bounds::of_outline("cellar")?);
/// let mut camera = Camera::new(settings)?;
///
/// let in_the_passage = camera.follow(0.0, [700, 950]).visible_world();
/// assert_eq!(in_the_passage, Rect::new([540, 820], [860, 1000]));
/// camera.cut();
/// let in_the_hall = camera.follow(10.0, [390, 400]).visible_world();
/// assert_eq!(in_the_hall, Rect::new([80, 310], [400, 490]));
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(deny_unknown_fields)
)]
pub struct Outline {
    /// Its rectangles in world units, at least one and at most 2,000. In a file each is written as `[x, y, width,
    /// height]`.
    pub parts: Vec<Rect>,
}

settings!(Outline {
    parts = Setting::rects("parts", "the rectangles whose union it is").required();
});

impl Outline {
    /// Creates an outline of these rectangles.
    #[must_use]
    pub fn new(parts: impl Into<Vec<Rect>>) -> Self {
        Self { parts: parts.into() }
    }

    /// Returns the smallest rectangle around all parts, or `None` without parts.
    ///
    /// ```
    /// # use velvet_pan::{Outline, Rect};
    /// let stairs = Outline::new([Rect::new([0, 0], [80, 40]), Rect::new([60, 40], [200, 90])]);
    /// assert_eq!(stairs.extent(), Some(Rect::new([0, 0], [200, 90])));
    /// ```
    #[must_use]
    pub fn extent(&self) -> Option<Rect> {
        self.parts.iter().copied().reduce(|all, part| all.joined(&part))
    }

    /// Returns its halls: all rectangles inside of the union that can't be made larger, in world units.
    ///
    /// # Errors
    ///
    /// There are more than 2,000 parts, or more than 2,000 halls.
    ///
    /// ```
    /// # use velvet_pan::{Outline, Rect};
    /// let cross = Outline::new([Rect::new([0, 40], [120, 80]), Rect::new([40, 0], [80, 120])]);
    /// assert_eq!(cross.halls()?.len(), 2);
    /// let step = Outline::new([Rect::new([0, 0], [40, 40]), Rect::new([0, 40], [90, 60])]);
    /// assert!(step.halls()?.contains(&Rect::new([0, 0], [40, 60])));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn halls(&self) -> Result<Vec<Rect>, SettingsError> {
        let halls =
            Halls::of(&self.parts).map_err(|fault| self.refused("outline.parts".into(), fault))?;
        Ok(halls.into_rects())
    }

    /// Returns the edges of the union, each from one end to the other, in world units: for drawing it. It is empty for
    /// an outline that [`halls`](Self::halls) refuses.
    ///
    /// ```
    /// # use velvet_pan::{Outline, Rect};
    /// let one = Outline::new([Rect::new([0, 0], [40, 40]), Rect::new([40, 0], [90, 40])]);
    /// assert_eq!(one.edges().len(), 4); // the common edge is left out
    /// ```
    #[must_use]
    pub fn edges(&self) -> Vec<[glam::DVec2; 2]> {
        Halls::of(&self.parts).map(Halls::into_edges).unwrap_or_default()
    }

    /// Returns the fault of its number of parts or halls.
    pub(crate) fn fault(&self, field: String) -> Option<SettingsError> {
        if self.parts.len() <= MAX_UNCOUNTED_PARTS {
            return None;
        }
        Halls::of(&self.parts).err().map(|fault| self.refused(field, fault))
    }

    fn refused(&self, field: String, fault: TooMany) -> SettingsError {
        SettingsError::new(field, Value::Count(self.parts.len() as u64), fault.expected())
    }
}

/// Up to this number of parts, an outline can't have too many halls: the sides of a hall are sides of parts, and
/// between a left and a right one there are at most as many halls as parts.
const MAX_UNCOUNTED_PARTS: usize = 12;

/// The name of an [`Outline`], of at most 31 bytes.
///
/// ```
/// use velvet_pan::OutlineName;
///
/// let name = OutlineName::new("cellar")?;
/// assert_eq!(name.as_str(), "cellar");
/// assert!(OutlineName::new("").is_err());
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, PartialEq, Eq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(try_from = "String", into = "String")
)]
pub struct OutlineName {
    bytes: [u8; Self::MAX_BYTES],
    length: u8,
}

impl OutlineName {
    const MAX_BYTES: usize = 31;

    /// Creates the name of an outline.
    ///
    /// # Errors
    ///
    /// The name is empty, or longer than 31 bytes.
    pub fn new(name: &str) -> Result<Self, SettingsError> {
        Self::fitting(name).ok_or_else(|| {
            let expected = "the name of an outline, from 1 to 31 bytes long";
            SettingsError::new("bounds.outline", Value::Text(name.into()), expected)
        })
    }

    fn fitting(name: &str) -> Option<Self> {
        let mut bytes = [0; Self::MAX_BYTES];
        bytes.get_mut(..name.len())?.copy_from_slice(name.as_bytes());
        (!name.is_empty()).then_some(Self { bytes, length: name.len() as u8 })
    }

    /// Returns the name.
    #[must_use]
    pub fn as_str(&self) -> &str {
        core::str::from_utf8(&self.bytes[..usize::from(self.length)]).unwrap_or_default()
    }
}

impl fmt::Debug for OutlineName {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:?}", self.as_str())
    }
}

always_sound!(OutlineName);

impl SettingValue for OutlineName {
    fn value(&self) -> Option<Value> {
        Some(Value::Text(self.as_str().into()))
    }

    fn of(value: &Value) -> Option<Self> {
        let Value::Text(name) = value else { return None };
        Self::fitting(name)
    }
}

impl TryFrom<String> for OutlineName {
    type Error = SettingsError;

    fn try_from(name: String) -> Result<Self, SettingsError> {
        Self::new(&name)
    }
}

impl From<OutlineName> for String {
    fn from(name: OutlineName) -> Self {
        name.as_str().into()
    }
}
