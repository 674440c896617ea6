//! Clamping the view to the world.

use glam::DVec2;

use crate::lens::lens::Lens;
use crate::lens::screen::YAxis;
use crate::limits::sides::{Side, Sides};
use crate::units::convert::IntoWorld;
use crate::units::course::{Course, Knot};
use crate::units::keys::{is_valid, names, settings};
use crate::units::per_axis::PerAxis;
use crate::units::rect::Rect;
use crate::units::setting::Setting;
use crate::units::sound::Sound;

/// The world rectangle that the view must not leave: the `[bounds]` table of a tuning file.
///
/// The whole visible rectangle stays inside, at every zoom and rotation.
///
/// With a cushion the view slows down before an edge. It is `w` world units deep: `cushion_depth` of the width of the
/// [design screen](crate::Screen::design_size) for x, and of its height for y. On an axis on which the centre may be from `lo` to
/// `hi`, let `w' = min(w, (hi − lo)/2)`. A goal that is `u` past `hi − w'` is replaced by `hi − w' + u − u²/(4w')`, and from
/// `u = 2w'` on by `hi`. The lower edge is the mirror image.
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
    /// The rectangle in world units. In a file it is written as `[x, y, width, height]`, where `x` and `y` are the smallest
    /// coordinates.
    pub rect: Rect,
    /// The distance before an edge over which the view slows down, in fractions of the design screen, from 0 to 10. Default 0:
    /// it stops at the edge without slowing down.
    #[cfg_attr(feature = "serde", serde(default))]
    pub cushion_depth: f64,
    /// Where the world is shown on an axis on which it is smaller than the view. Default centred.
    #[cfg_attr(feature = "serde", serde(default))]
    pub small: PerAxis<SmallWorld>,
    /// The sides at which the view may leave the rectangle, and at which nothing stops. Default none.
    #[cfg_attr(feature = "serde", serde(default))]
    pub open: Sides,
}

settings!(Bounds {
    rect = Setting::rect("rect", "the rectangle that the view must not leave").required();
    cushion_depth = Setting::number("cushion_depth", "the distance before an edge over which the view slows down", "a fraction of the design screen")
        .measured("of the design screen").from(0.0, 10.0).usual_from(0.0, 0.5);
    small = Setting::choice("small", "where the world is shown if it is smaller than the view", SmallWorld::NAMES).per_axis();
    open = Setting::names("open", "the sides at which the view may leave the rectangle", Side::NAMES, "a list of sides, each \"left\", \"right\", \"top\" or \"bottom\"");
});

/// Where the world is shown on an axis on which it is smaller than the view.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum SmallWorld {
    /// The world in the middle of the screen.
    #[default]
    Centre,
    /// The world at the screen's left or top edge.
    Start,
    /// The world at the screen's right or bottom edge.
    End,
}

names!(SmallWorld { Centre = "centre", Start = "start", End = "end" });

impl Sound for Bounds {
    fn is_sound(&self) -> bool {
        // Any sides are sound, and to name them would allocate.
        is_valid(&Self { open: Sides::default(), ..*self })
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
        Self { rect, cushion_depth: 0.0, small: PerAxis::default(), open: Sides::default() }
    }

    /// Returns the rectangle with its open sides at infinity.
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
        self.open.moved_out(self.rect, y_axis)
    }

    /// The same bounds with their open sides at infinity, where no further step sees that they are open.
    #[inline]
    pub(crate) fn opened(self, y_axis: YAxis) -> Self {
        Self { rect: self.limits(y_axis), open: Sides::default(), ..self }
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
        self.limits(y_axis).held(position.into_world(), half.into_world())
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
        let half = lens.half_extents();
        let rect = self.limits(lens.y_axis());
        let (low, high) = (rect.min + half, rect.max - half);
        let middle = rect.centre();
        // The top of the screen is the largest y of the world if y points up.
        let (top, bottom) =
            if lens.y_axis().sign() > 0.0 { (low.y, high.y) } else { (high.y, low.y) };
        let (x0, x1) = axis_range(low.x, high.x, [low.x, middle.x, high.x], self.small.x);
        let (y0, y1) = axis_range(low.y, high.y, [top, middle.y, bottom], self.small.y);
        Rect { min: (x0, y0).into(), max: (x1, y1).into() }
    }

    /// Clamps a course of the view's centre to `range`, bent by a cushion of this depth `w`: a distance of `u` past
    /// `hi − w'` becomes `u − u²/(4w')`, and stays `w'` from `u = 2w'`, with `w' = min(w, (hi − lo)/2)`.
    #[inline]
    pub(crate) fn clamp_course(course: &mut Course, range: &Rect, depth: DVec2) {
        if depth != DVec2::ZERO {
            for axis in 0..2 {
                let (low, high) = (range.min[axis], range.max[axis]);
                let cushion = depth[axis].min((high - low) / 2.0);
                bend_at_edges(course, axis, low, high, cushion);
            }
        }
        course.clamp(range.min, range.max);
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

/// Bends one axis of a course at both edges of a range.
fn bend_at_edges(course: &mut Course, axis: usize, low: f64, high: f64, cushion: f64) {
    let outside = |knot: &Knot| {
        let value = knot.point[axis];
        value < low + cushion || value > high - cushion
    };
    if cushion <= 0.0 || !course.knots().iter().any(outside) {
        return;
    }
    // Each curve becomes a few straight pieces.
    let parts = [0.0, 0.25, 0.5, 0.75, 1.0, 1.5, 2.0].map(|fraction| fraction * cushion);
    let far = parts.map(|fraction| high - cushion + fraction);
    let near = parts.map(|fraction| low + cushion - fraction);
    course.bend_where(axis, &far);
    course.bend_where(axis, &near);
    let slowed = |past: f64| {
        let past = past.min(2.0 * cushion);
        past - past * past / (4.0 * cushion)
    };
    course.map(|mut point| {
        let value = &mut point[axis];
        if *value > high - cushion {
            *value = high - cushion + slowed(*value - (high - cushion));
        } else if *value < low + cushion {
            *value = low + cushion - slowed(low + cushion - *value);
        }
        point
    });
}

/// `low..=high`, or, if these cross, the single position that `small` selects from start, middle and end.
#[inline]
fn axis_range(low: f64, high: f64, positions: [f64; 3], small: SmallWorld) -> (f64, f64) {
    if low <= high {
        return (low, high);
    }
    let position = match small {
        SmallWorld::Start => positions[0],
        SmallWorld::Centre => positions[1],
        SmallWorld::End => positions[2],
    };
    (position, position)
}
