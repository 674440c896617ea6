//! Clamping the view to the world.

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::rect::Rect;
use crate::base::sound::Sound;
use crate::keys::error::SettingsError;
use crate::keys::keys::{is_valid, settings};
use crate::keys::per_axis::PerAxis;
use crate::keys::setting::{Setting, SettingKind};
use crate::lens::lens::Lens;
use crate::lens::screen::YAxis;
use crate::limits::outline::OutlineName;
use crate::limits::sides::{Side, Sides};
use crate::limits::small_world::SmallWorld;
use crate::limits::walls::Walls;

/// Where in the world the view must stay, in a rectangle or in an outline of several: the `[bounds]` table of a tuning
/// file.
///
/// The whole visible rectangle stays inside, at every zoom and rotation.
///
/// With a cushion the view slows down before an edge. It is `w` world units deep: `cushion_depth` of the width of the
/// [design screen](crate::Screen::design_size) for x, and of its height for y. On an axis on which the centre may be
/// from `lo` to `hi`, let `w' = min(w, (hi − lo)/2)`. A goal that is `u` past `hi − w'` is replaced by `hi − w' + u −
/// u²/(4w')`, and from `u = 2w'` on by `hi`. The lower edge is the mirror image.
///
/// ```
/// use velvet_pan::{Bounds, Lens, Rect, Screen};
///
/// let bounds = Bounds::new(Rect::from_corner_size([0, 0], [3840, 960]));
/// let lens = Lens::new(&Screen::default()); // sees 320 x 180
/// assert_eq!(bounds.centre_range(&lens), Rect::new([160, 90], [3680, 870]));
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(deny_unknown_fields)
)]
pub struct Bounds {
    /// The rectangle in world units. In a file it is written as `[x, y, width, height]`, where `x` and `y` are the
    /// smallest coordinates. Either this or `outline` is given.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub rect: Option<Rect>,
    /// The name of one of [`Settings::outlines`](crate::Settings::outlines), for a level that is not one rectangle.
    #[cfg_attr(feature = "serde", serde(default, skip_serializing_if = "Option::is_none"))]
    pub outline: Option<OutlineName>,
    /// The distance before an edge over which the view slows down, in fractions of the design screen, from 0 to 10.
    /// Default 0: it stops at the edge without slowing down.
    #[cfg_attr(feature = "serde", serde(default))]
    pub cushion_depth: f64,
    /// Where the world is shown on an axis on which it is smaller than the view. Default centred.
    #[cfg_attr(feature = "serde", serde(default))]
    pub small: PerAxis<SmallWorld>,
    /// The sides at which the view may leave the rectangle, and at which nothing stops. Default none. An outline has
    /// none.
    #[cfg_attr(feature = "serde", serde(default))]
    pub open: Sides,
    /// The time in which the view passes from one hall of its outline into another one where it can't move there
    /// without showing the outside, in seconds, from 0 to 1,000. Default 0.5.
    #[cfg_attr(feature = "serde", serde(default = "half_a_second"))]
    pub fade: f64,
}

settings!(Bounds {
    rect = Setting::rect("rect", "the rectangle that the view must not leave").optional();
    outline = Setting::other("outline", SettingKind::Text, "the outline that the view must not leave, instead of a rectangle", "the name of one of the outlines").optional();
    cushion_depth = Setting::number("cushion_depth", "the distance before an edge over which the view slows down", "a fraction of the design screen")
        .measured("of the design screen").from(0.0, 10.0).usual_from(0.0, 0.5);
    small = Setting::choice("small", "where the world is shown if it is smaller than the view", SmallWorld::NAMES).per_axis();
    open = Setting::names("open", "the sides at which the view may leave the rectangle", Side::NAMES, "a list of sides, each \"left\", \"right\", \"top\" or \"bottom\"");
    fade = Setting::number("fade", "the time in which the view passes into another hall of its outline", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0);
});

#[cfg(feature = "serde")]
pub(crate) fn half_a_second() -> f64 {
    0.5
}

impl Sound for Bounds {
    fn is_sound(&self) -> bool {
        // Any sides and names are sound, and to write them would allocate.
        is_valid(&Self { open: Sides::default(), outline: None, ..*self })
    }
}

impl Bounds {
    /// Creates bounds without a cushion. A world smaller than the view is centred.
    ///
    /// ```
    /// # use velvet_pan::{Bounds, Rect};
    /// let bounds = Bounds::new(Rect::from_corner_size([0, 0], [3840, 960]));
    /// assert_eq!(bounds.cushion_depth, 0.0);
    /// ```
    #[must_use]
    pub fn new(rect: Rect) -> Self {
        Self {
            rect: Some(rect),
            outline: None,
            cushion_depth: 0.0,
            small: PerAxis::default(),
            open: Sides::default(),
            fade: 0.5,
        }
    }

    /// Creates bounds of an outline of the settings, without a cushion.
    ///
    /// # Errors
    ///
    /// The name is empty, or longer than 31 bytes. Whether there is such an outline is checked with the settings.
    ///
    /// ```
    /// # use velvet_pan::Bounds;
    /// assert_eq!(Bounds::of_outline("cellar")?.outline.unwrap().as_str(), "cellar");
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn of_outline(name: &str) -> Result<Self, SettingsError> {
        let outline = Some(OutlineName::new(name)?);
        Ok(Self { rect: None, outline, ..Self::new(Rect::default()) })
    }

    /// Returns the rectangle with its open sides at infinity. For an outline it is the whole plane: see
    /// [`Camera::bounds_now`](crate::Camera::bounds_now).
    ///
    /// ```
    /// # use velvet_pan::{Bounds, Rect, Side, YAxis};
    /// let shaft = Bounds { open: [Side::Top].into(), ..Bounds::new(Rect::new([0, 0], [320, 960])) };
    /// assert_eq!(shaft.limits(YAxis::Down).min, [0.0, f64::NEG_INFINITY].into());
    /// assert_eq!(shaft.limits(YAxis::Down).max, [320.0, 960.0].into());
    /// ```
    #[must_use]
    #[inline]
    pub fn limits(&self, y_axis: YAxis) -> Rect {
        self.rect.map_or(Rect::EVERYWHERE, |rect| self.open.moved_out(rect, y_axis))
    }

    /// Returns a body's position, moved inside if needed, in world units: a player who must not leave the world, or a
    /// crate. `half` is half of its size. On an axis on which it does not fit, it is centred. Open sides stop nothing.
    ///
    /// ```
    /// # use velvet_pan::{Bounds, Rect, Side, YAxis};
    /// let terraces = Bounds::new(Rect::new([0, 0], [3840, 960]));
    /// let half = [8.0, 12.0]; // a player of 16 x 24
    /// assert_eq!(terraces.stop([-5.0, 700.0], half, YAxis::Down), [8.0, 700.0].into());
    ///
    /// let pit = Bounds { open: [Side::Bottom].into(), ..terraces };
    /// assert_eq!(pit.stop([500.0, 2000.0], half, YAxis::Down), [500.0, 2000.0].into());
    /// ```
    #[must_use]
    pub fn stop(&self, position: impl IntoWorld, half: impl IntoWorld, y_axis: YAxis) -> DVec2 {
        self.limits(y_axis).clamp_body(position.into_world(), half.into_world())
    }

    /// Returns where the view's centre may be, in world units.
    ///
    /// ```
    /// # use velvet_pan::{Bounds, Lens, Rect, Screen};
    /// let bounds = Bounds::new(Rect::new([0, 0], [3840, 960]));
    /// let range = bounds.centre_range(&Lens::new(&Screen::default())); // 320 x 180
    /// assert_eq!(range, Rect::new([160, 90], [3680, 870]));
    /// ```
    #[must_use]
    #[inline]
    pub fn centre_range(&self, lens: &Lens) -> Rect {
        Walls { rect: self.limits(lens.y_axis()), small: self.small }.centre_range(lens)
    }
}

/// What can be the bounds of a view: [`Bounds`], a rectangle, or the name of an outline; `None` for none.
pub trait IntoBounds {
    /// Returns the bounds, or `None` for none.
    ///
    /// # Errors
    ///
    /// A name is empty, or longer than 31 bytes.
    fn into_bounds(self) -> Result<Option<Bounds>, SettingsError>;
}

impl IntoBounds for Option<Bounds> {
    fn into_bounds(self) -> Result<Option<Bounds>, SettingsError> {
        Ok(self)
    }
}

impl IntoBounds for Bounds {
    fn into_bounds(self) -> Result<Option<Bounds>, SettingsError> {
        Ok(Some(self))
    }
}

impl IntoBounds for Rect {
    fn into_bounds(self) -> Result<Option<Bounds>, SettingsError> {
        Ok(Some(Bounds::new(self)))
    }
}

impl IntoBounds for &str {
    fn into_bounds(self) -> Result<Option<Bounds>, SettingsError> {
        Bounds::of_outline(self).map(Some)
    }
}

/// The bounds in force.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) enum BoundsInForce {
    /// Those of the settings.
    #[default]
    Own,
    /// Those that the game has set, or none.
    Set(Option<Bounds>),
}

impl Sound for BoundsInForce {
    fn is_sound(&self) -> bool {
        match self {
            Self::Set(bounds) => bounds.is_sound(),
            Self::Own => true,
        }
    }
}

impl BoundsInForce {
    #[inline]
    pub fn or_own(&self, own: Option<Bounds>) -> Option<Bounds> {
        match self {
            Self::Own => own,
            Self::Set(bounds) => *bounds,
        }
    }
}
