//! Layers that pass at their own rates: depth for a flat world.

use alloc::string::String;

use glam::DVec2;

use crate::lens::lens::Lens;
use crate::lens::screen::{Screen, Snap};
use crate::lens::zoom::ZoomRange;
use crate::limits::bounds::Bounds;
use crate::shake::shake::ShakeOffset;
use crate::units::convert::IntoWorld;
use crate::units::keys::{names, settings};
use crate::units::maths::clamp;
use crate::units::rect::Rect;
use crate::units::setting::{Setting, SettingKind};
use crate::view::view::View;

/// A layer of the picture that passes at its own rate: an entry of `[[layers]]` in a tuning file.
///
/// A layer has coordinates of its own, in world units. What it shows of them is centred at
/// `align + (c − align)·rate − drift·t`, `c` being the view's centre and `t` its time, at the zoom
/// `zoom^response`. So at `align` a layer stands just as the world does, whatever its rate.
///
/// The mistake this prevents is one rounding for all layers: each has its own corner and its own
/// residual, so each is drawn on its own canvas ([`View::layer`]) or moves in whole pixels against
/// another's ([`View::layer_on`]).
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
    /// What it is called.
    pub name: String,
    /// How fast it passes, per axis, from −100 to 100: 0 is pinned to the screen, 1 moves with the
    /// world, above 1 is nearer than the world. Default 1.
    pub rate: DVec2,
    /// The world point at which it stands just as the world does. Default the origin.
    pub align: DVec2,
    /// World units per second by which it moves by itself. Default 0.
    pub drift: DVec2,
    /// World units after which it repeats, per axis, 0 or more; 0 is once. Default 0.
    pub repeat: DVec2,
    /// How it answers to the zoom, from 0 to 4: its own is `zoom^response`. Far layers zoom less;
    /// 0 never does. Default 1.
    pub response: f64,
    /// Whether it rotates with the view. Default yes.
    pub rotates: bool,
    /// How it shakes. Default by its rate.
    pub shake: LayerShake,
    /// The size in world units of a picture that must never run out. The camera then works out
    /// `rate` and `align` from its bounds, as [`covering`](Self::covering) does. Default none.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub cover: Option<DVec2>,
    /// What the layer's view must not leave, in its own coordinates; an axis on which this is
    /// smaller than the view is centred. Set by [`covering`](Self::covering). Default none.
    #[cfg_attr(feature = "serde", serde(skip))]
    pub within: Option<Rect>,
}

settings!(Layer {
    name = Setting::other("name", SettingKind::Text, "what the layer is called", "a text");
    rate = Setting::pair("rate", "how fast it passes, per axis: 0 is pinned, 1 the world, above 1 nearer", "a rate for each axis")
        .from(-100.0, 100.0).usual_from(0.0, 2.0);
    align = Setting::pair("align", "where it stands as the world does", "a world point")
        .measured("world units").from(-1e12, 1e12).usual_from(-1000.0, 1000.0);
    drift = Setting::pair("drift", "how it moves by itself", "world units per second for each axis")
        .measured("world units/s").from(-1e9, 1e9).usual_from(-40.0, 40.0);
    repeat = Setting::pair("repeat", "after how much it repeats, per axis; 0 is once", "world units for each axis")
        .measured("world units").from(0.0, 1e12).usual_from(0.0, 1280.0);
    response = Setting::number("response", "its zoom is the view's to this power: 0 never zooms", "an exponent of the zoom")
        .from(0.0, 4.0).usual_from(0.0, 1.5);
    rotates = Setting::flag("rotates", "whether it rotates with the view");
    shake = Setting::choice("shake", "how it shakes", LayerShake::NAMES);
    cover = Setting::pair("cover", "the size of a picture that must never run out; rate and align follow from the bounds", "a picture's width and height in world units")
        .measured("world units").above(0.0, 1e12).usual_from(64.0, 2000.0).optional();
});

/// How a layer shakes when the view does.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum LayerShake {
    /// By its rate, so that what is pinned stands still; the roll by the mean of both axes.
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
    /// A layer of this name that moves with the world.
    #[must_use]
    pub fn named(name: impl Into<String>) -> Self {
        Self { name: name.into(), ..Self::default() }
    }

    /// A layer of this name that passes at this rate, per axis.
    ///
    /// ```
    /// use velvet_pan::Layer;
    /// assert!(Layer::at_rate("reeds", [1.4, 1.2]).is_foreground());
    /// ```
    #[must_use]
    pub fn at_rate(name: impl Into<String>, rate: impl IntoWorld) -> Self {
        Self { rate: rate.into_world(), ..Self::named(name) }
    }

    /// The same layer with a picture of this size, in world units, that never runs out: its rate is
    /// the largest at which the picture covers the view wherever it may be in `world`, at every zoom
    /// from `zooms.min` to `zooms.max`, and its place is held inside the picture beyond that (while the
    /// view rotates, shakes or is revealed larger). [`within`](Self::within) is then where the
    /// picture stands: around the world's middle.
    ///
    /// On an axis the rate is the least of `(P − V·z^−response) / (W − V/z)` over all zooms `z`, with
    /// the picture's size `P`, the world's `W` and the view's at zoom 1, `V`; at least 0, and 0 where
    /// the view is always as large as the world. A picture that is smaller than the view at some
    /// zoom can't cover it there, whatever the rate. Numbers that are not finite change nothing.
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
        let (picture, zooms) = (picture.into_world(), zooms.into());
        if !(picture.is_finite()
            && zooms.min.is_finite()
            && zooms.max.is_finite()
            && world.is_finite())
        {
            return self;
        }
        let view = screen.size.as_dvec2() / screen.unit_pixels;
        let rate = |axis: usize| {
            covering_rate(picture[axis], world.size()[axis], view[axis], zooms, self.response)
        };
        self.rate = DVec2::new(rate(0), rate(1));
        self.align = world.centre();
        self.cover = Some(picture);
        self.within = Some(Rect::around(world.centre(), picture / 2.0));
        self
    }

    /// Whether it is nearer than the world: drawn after it.
    #[must_use]
    pub fn is_foreground(&self) -> bool {
        self.rate.max_element() > 1.0
    }

    /// Whether it is where the world is.
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

/// The largest rate at which a picture covers the view at every zoom, along one axis.
fn covering_rate(picture: f64, world: f64, view: f64, zooms: ZoomRange, response: f64) -> f64 {
    // The view's size relative to that at zoom 1, from the closest zoom to the farthest that still
    // leaves the view a way to go.
    let (least, most) = (1.0 / zooms.max, 1.0 / zooms.min);
    let most = most.min(world / view);
    let rate = |fraction: f64| {
        (picture - view * libm::pow(fraction, response)) / (world - view * fraction)
    };
    // Positive where the rate rises with `fraction`. A response below 1 makes it fall first and then rise;
    // one above 1 the other way, so that the least is at an end.
    let slope = |fraction: f64| {
        let relative = libm::pow(fraction, response - 1.0);
        picture - world * response * relative + view * (response - 1.0) * relative * fraction
    };
    let usable = least.is_finite() && least > 0.0 && least < world / view;
    if !usable {
        return 0.0;
    }
    let (mut low, mut high) = (least, most);
    for _halving in 0..64 {
        let middle = f64::midpoint(low, high);
        if slope(middle) > 0.0 { high = middle } else { low = middle }
    }
    let smallest = |a: f64, b: f64| if b < a { b } else { a };
    // Where the view has no way left, a picture that does not cover it there has no rate at all, and one
    // that does has any.
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
    /// What this view shows of a layer: a view with its own snapped corner and its own residual, to
    /// be drawn on a canvas of its own, back to front, each presented at its own
    /// [`placement`](Self::placement).
    ///
    /// A layer at rate 1 that does not drift is the view itself, with the same bits.
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
                self.like(lens, centre).shaken(shake).kept_inside(&drawn)
            }
        }
    }

    /// What this view shows of a layer that is drawn on the canvas of `host`, another layer's view
    /// or the world's. Under [`Snap::Subpixel`] it moves in whole pixels against its host, at most
    /// half a screen pixel from where it should be; a canvas of its own is smoother.
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

/// Where a picture is once its edges are drawn at whole screen pixels: a view that is held inside
/// the true picture could show a part of a pixel beyond the drawn one.
fn drawn_bounds(lens: &Lens, snap: Snap, picture: &Rect) -> Bounds {
    if snap == Snap::Off || lens.is_rotated() {
        return Bounds::new(*picture);
    }
    let drawn = |corner: DVec2| {
        let pixels = lens.to_screen_axes(corner);
        lens.to_world_axes((pixels + 0.5).floor())
    };
    Bounds::new(Rect::new(drawn(picture.min), drawn(picture.max)))
}
