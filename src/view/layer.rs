//! Layers that scroll at their own rates, for depth in a 2D world.

use alloc::string::String;

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::maths::{bisect, clamp};
use crate::base::rect::Rect;
use crate::keys::keys::{names, settings};
use crate::keys::setting::{Setting, SettingKind};
use crate::lens::lens::Lens;
use crate::lens::screen::{Screen, Snap};
use crate::lens::zoom::ZoomRange;
use crate::limits::walls::Walls;
use crate::shake::shake::ShakeOffset;
use crate::view::view::View;

/// A background or foreground layer that scrolls at its own rate: an entry of `[[layers]]` in a tuning file.
///
/// A layer has its own coordinates, in world units. Its view has the centre `align + (c − align)·rate − drift·t` and the
/// zoom `zoom^response`, where `c` is the centre of the world's view, `zoom` its zoom and `t` its time. When the world's
/// view is centred at `align`, and there is no drift, the layer shows the same coordinates as the world.
///
/// Each layer has its own snapped corner and residual. Draw it on its own canvas ([`View::layer`]), or share the canvas
/// of another layer in whole pixels ([`View::layer_on`]).
///
/// ```
/// use velvet_pan::{Layer, Lens, Screen, Snap, View, glam::DVec2};
///
/// let ridge = Layer { rate: DVec2::new(0.25, 0.5), ..Layer::named("far ridge") };
/// let view = View::new(Lens::new(&Screen::default()), [400, 100], Snap::Subpixel);
/// assert_eq!(view.layer(&ridge).centre(), DVec2::new(100.0, 50.0));
/// ```
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Layer {
    /// The layer's name.
    pub name: String,
    /// How fast it scrolls, per axis, from −100 to 100. At 0 it is fixed on the screen, at 1 it moves with the world,
    /// above 1 it is nearer than the world. Default 1.
    pub rate: DVec2,
    /// The view's centre at which the layer shows the same coordinates as the world, in world units. Default 0, 0.
    pub align: DVec2,
    /// How fast it moves by itself, in world units per second. Default 0.
    pub drift: DVec2,
    /// The distance after which its picture repeats, per axis, in world units, 0 or more. 0 means that it does not
    /// repeat. Default 0.
    pub repeat: DVec2,
    /// The exponent of its zoom, `zoom^response`, from 0 to 4. Far layers zoom less than the world; at 0 the layer does
    /// not zoom. Default 1.
    pub response: f64,
    /// Whether it rotates with the view. Default `true`.
    pub rotates: bool,
    /// How much it shakes. Default [`LayerShake::ByRate`].
    pub shake: LayerShake,
    /// The size of a picture that must always cover the view, in world units. The camera then computes `rate` and
    /// `align` from its bounds, as [`covering`](Self::covering) does. Default `None`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub cover: Option<DVec2>,
    /// The rectangle that the layer's view must not leave, in the layer's coordinates. On an axis on which it is smaller
    /// than the view, the view is centred. Set by [`covering`](Self::covering). Default `None`.
    #[cfg_attr(feature = "serde", serde(skip))]
    pub within: Option<Rect>,
}

settings!(Layer {
    name = Setting::other("name", SettingKind::Text, "the name of the layer", "a text");
    rate = Setting::pair("rate", "how fast it scrolls, per axis: 0 is fixed on the screen, 1 moves with the world, above 1 is nearer", "a rate for each axis")
        .from(-100.0, 100.0).usual_from(0.0, 2.0);
    align = Setting::pair("align", "the view's centre at which it shows the same coordinates as the world", "a world point")
        .measured("world units").from(-1e12, 1e12).usual_from(-1000.0, 1000.0);
    drift = Setting::pair("drift", "its own velocity", "world units per second for each axis")
        .measured("world units/s").from(-1e9, 1e9).usual_from(-40.0, 40.0);
    repeat = Setting::pair("repeat", "the distance after which it repeats, per axis; 0 means that it does not repeat", "world units for each axis")
        .measured("world units").from(0.0, 1e12).usual_from(0.0, 1280.0);
    response = Setting::number("response", "its zoom is the view's to this power; at 0 it does not zoom", "an exponent of the zoom")
        .from(0.0, 4.0).usual_from(0.0, 1.5);
    rotates = Setting::flag("rotates", "whether it rotates with the view");
    shake = Setting::choice("shake", "how much it shakes", LayerShake::NAMES);
    cover = Setting::pair("cover", "the size of a picture that always covers the view; rate and align follow from the bounds", "a picture's width and height in world units")
        .measured("world units").above(0.0, 1e12).usual_from(64.0, 2000.0).optional();
});

/// How much a layer shakes when the view does.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum LayerShake {
    /// The shake's offset times the layer's rate, so that a layer with rate 0 stands still. The roll is multiplied by the
    /// mean rate of both axes.
    #[default]
    ByRate,
    /// As much as the view.
    Whole,
}

names!(LayerShake { ByRate = "by_rate", Whole = "whole" });

impl Default for Layer {
    fn default() -> Self {
        Self {
            name: String::new(),
            rate: DVec2::ONE,
            align: DVec2::ZERO,
            drift: DVec2::ZERO,
            repeat: DVec2::ZERO,
            response: 1.0,
            rotates: true,
            shake: LayerShake::ByRate,
            cover: None,
            within: None,
        }
    }
}

impl Layer {
    /// Creates a layer with this name that moves with the world.
    #[must_use]
    pub fn named(name: impl Into<String>) -> Self {
        Self { name: name.into(), ..Self::default() }
    }

    /// Creates a layer with this name and this rate per axis.
    ///
    /// ```
    /// use velvet_pan::Layer;
    /// assert!(Layer::at_rate("reeds", [1.4, 1.2]).is_foreground());
    /// ```
    #[must_use]
    pub fn at_rate(name: impl Into<String>, rate: impl IntoWorld) -> Self {
        Self { rate: rate.into_world(), ..Self::named(name) }
    }

    /// Creates a layer with this name that goes along with the camera, by this share of its way: 0.7 for "70 % of the
    /// camera". Its rate is `1 − share`: at 1 it is fixed on the screen, at 0 it moves with the world.
    ///
    /// ```
    /// # use velvet_pan::Layer;
    /// assert_eq!(Layer::going_along("ridge", 0.75).rate.x, 0.25);
    /// ```
    #[must_use]
    pub fn going_along(name: impl Into<String>, share: f64) -> Self {
        Self::at_rate(name, DVec2::splat(1.0 - share))
    }

    /// Returns this layer with a picture of this size, in world units, that always covers the view.
    ///
    /// The rate becomes the largest at which the picture covers the view wherever it is in `world`, at every zoom from
    /// `zooms.min` to `zooms.max`. While the view rotates, shakes or is revealed larger, the layer's view is held inside
    /// the picture. [`within`](Self::within) becomes the picture's rectangle, around the middle of the world.
    ///
    /// On each axis the rate is the minimum of `(P − V·z^−response) / (W − V/z)` over all zooms `z`, where `P` is the
    /// picture's size, `W` the world's, and `V` the view's at zoom 1. It is at least 0, and 0 if the view is never
    /// smaller than the world. A picture that is smaller than the view at some zoom cannot cover it there. Numbers that
    /// are not finite change nothing.
    ///
    /// ```
    /// use velvet_pan::{Layer, Rect, Screen};
    ///
    /// let world = Rect::new([0, 0], [3840, 960]);
    /// let sky = Layer::named("sky").covering([400, 220], &world, &Screen::default(), [1.0, 1.0]);
    /// assert_eq!(sky.rate, [80.0 / 3520.0, 40.0 / 780.0].into());
    /// assert_eq!(sky.within, Some(Rect::new([1720, 370], [2120, 590])));
    /// ```
    #[must_use]
    pub fn covering(
        mut self,
        picture: impl IntoWorld,
        world: &Rect,
        screen: &Screen,
        zooms: impl Into<ZoomRange>,
    ) -> Self {
        self.cover(picture.into_world(), world, screen, zooms.into());
        self
    }

    /// Makes it one that covers. Does nothing if a number is not finite.
    pub(crate) fn cover(
        &mut self,
        picture: DVec2,
        world: &Rect,
        screen: &Screen,
        zooms: ZoomRange,
    ) {
        if !(picture.is_finite()
            && zooms.min.is_finite()
            && zooms.max.is_finite()
            && world.is_finite())
        {
            return;
        }
        let view = screen.design_size();
        let rate = |axis: usize| {
            covering_rate(picture[axis], world.size()[axis], view[axis], zooms, self.response)
        };
        self.rate = DVec2::new(rate(0), rate(1));
        self.align = world.centre();
        self.cover = Some(picture);
        self.within = Some(Rect::around(world.centre(), picture / 2.0));
    }

    /// Returns whether the layer is nearer than the world, so that it is drawn after the world: whether its rate is above
    /// 1 on any axis.
    #[must_use]
    pub fn is_foreground(&self) -> bool {
        self.rate.max_element() > 1.0
    }

    /// Returns whether it is where the world is.
    fn is_world(&self) -> bool {
        let Self { rate, drift, response, rotates, within, .. } = self;
        let moves = *rate == DVec2::ONE && *drift == DVec2::ZERO;
        moves && *response == 1.0 && *rotates && within.is_none()
    }

    fn centre(&self, view: &View) -> DVec2 {
        self.align + (view.centre() - self.align) * self.rate - self.drift * view.time()
    }

    fn lens(&self, lens: &Lens) -> Lens {
        let zoomed = if self.response == 1.0 {
            *lens
        } else {
            lens.with_zoom(libm::pow(lens.zoom(), self.response))
        };
        if self.rotates { zoomed } else { zoomed.with_rotation(0.0) }
    }

    fn shaken(&self, shake: ShakeOffset) -> ShakeOffset {
        match self.shake {
            LayerShake::Whole => shake,
            LayerShake::ByRate => {
                let (pixels, roll) = (shake.pixels * self.rate, shake.roll);
                ShakeOffset { pixels, roll: roll * (self.rate.x + self.rate.y) / 2.0 }
            }
        }
    }
}

/// Returns the largest rate at which a picture covers the view at every zoom, along one axis.
fn covering_rate(picture: f64, world: f64, view: f64, zooms: ZoomRange, response: f64) -> f64 {
    // The size of the view relative to that at zoom 1, from the largest zoom to the smallest that still lets the view
    // move.
    let (least, most) = (1.0 / zooms.max, 1.0 / zooms.min);
    let most = most.min(world / view);
    let rate = |fraction: f64| {
        (picture - view * libm::pow(fraction, response)) / (world - view * fraction)
    };
    // Positive where the rate rises with `fraction`. With a response below 1 it first falls and then rises; with one
    // above 1 it is the reverse, so that the minimum is at an end.
    let slope = |fraction: f64| {
        let relative = libm::pow(fraction, response - 1.0);
        picture - world * response * relative + view * (response - 1.0) * relative * fraction
    };
    let usable = least.is_finite() && least > 0.0 && least < world / view;
    if !usable {
        return 0.0;
    }
    let [low, _] = bisect([least, most], 64, |fraction| slope(fraction) > 0.0);
    let smallest = |a: f64, b: f64| if b < a { b } else { a };
    // If the view can't move any more, a picture that does not cover it has no valid rate, and one that covers it has
    // any.
    let end = if most < world / view {
        rate(most)
    } else if picture < view * libm::pow(most, response) {
        0.0
    } else {
        f64::MAX
    };
    let ends = smallest(rate(least), end);
    clamp(smallest(ends, rate(low)), 0.0, 100.0)
}

impl View {
    /// Returns the view of a layer. It has its own snapped corner and residual: draw it on its own canvas, from back to
    /// front, and present each canvas at its own [`placement`](Self::placement).
    ///
    /// For a layer with rate 1 and without drift, returns this view, with the same bits.
    ///
    /// ```
    /// # use velvet_pan::{Layer, Lens, Screen, Snap, View};
    /// let lens = Lens::new(&Screen::default());
    /// let view = View::new(lens, [1003.0, 90.0], Snap::Subpixel);
    /// let ridge = view.layer(&Layer::at_rate("ridge", [0.5, 0.5]));
    /// assert_eq!((view.residual().x, ridge.residual().x), (0.0, 0.5));
    /// ```
    #[must_use]
    pub fn layer(&self, layer: &Layer) -> Self {
        if layer.is_world() {
            return *self;
        }
        let unshaken;
        let steady = if self.is_still() {
            self
        } else {
            unshaken = self.steady();
            &unshaken
        };
        let (lens, centre) = (layer.lens(steady.lens()), layer.centre(steady));
        let shake = layer.shaken(self.shake());
        match &layer.within {
            None if self.is_still() => self.like(lens, centre),
            None => self.like(lens, centre).shaken(shake),
            Some(picture) => {
                let drawn = drawn_bounds(&lens, self.snap(), picture);
                let centre = drawn.centre_range(&lens).nearest(centre);
                self.like(lens, centre).shaken(shake).shake_limited_to(&drawn)
            }
        }
    }

    /// Returns the view of a layer that shares the canvas of `host`, which is the view of another layer or of the world.
    /// With [`Snap::Subpixel`] the layer moves against its host in whole pixels, at most half a screen pixel from its
    /// exact position. On its own canvas it moves more smoothly.
    ///
    /// ```
    /// # use velvet_pan::{Layer, Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [1003.3, 90.0], Snap::Subpixel);
    /// let shared = view.layer_on(&Layer::at_rate("ridge", [0.5, 0.5]), &view);
    /// assert_eq!(shared.residual(), view.residual());
    /// assert_eq!(shared.placement(), view.placement());
    /// ```
    #[must_use]
    pub fn layer_on(&self, layer: &Layer, host: &Self) -> Self {
        let view = self.layer(layer);
        if self.snap() == Snap::Subpixel { view.sharing_residual(host) } else { view }
    }
}

/// Returns the bounds of a picture after its edges are rounded to whole screen pixels. A view inside the true picture
/// could show a part of a pixel beyond the drawn one.
fn drawn_bounds(lens: &Lens, snap: Snap, picture: &Rect) -> Walls {
    if snap == Snap::Off || lens.is_rotated() {
        return Walls::new(*picture);
    }
    let drawn = |corner: DVec2| {
        let pixels = lens.to_screen_axes(corner);
        lens.to_world_axes((pixels + 0.5).floor())
    };
    Walls::new(Rect::new(drawn(picture.min), drawn(picture.max)))
}
