//! Where everything is: the result of a frame.

use glam::{DVec2, I64Vec2, UVec2, Vec2};

use crate::base::convert::{IntoSeconds, IntoWorld};
use crate::base::maths::{MAX_EXACT_INTEGER, mix, round_to_i64};
use crate::base::pixel_rect::ScreenRect;
use crate::base::rect::Rect;
use crate::base::window::WindowSize;
use crate::lens::fit::Fit;
use crate::lens::lens::Lens;
use crate::lens::screen::Snap;
use crate::limits::walls::Walls;
use crate::shake::shake::ShakeOffset;
use crate::view::snap::SnappedCorner;

/// What the camera sees in one frame: a plain `Copy` value that converts positions and says what is visible.
///
/// It knows three spaces beside the world:
///
/// * the **screen**, at its exact position: [`world_to_screen`](Self::world_to_screen) and
///   [`screen_to_world`](Self::screen_to_world) convert without rounding;
/// * the **canvas**, the picture that the game draws. Its top left corner is a whole screen pixel unless
///   [`Snap::Off`]. [`canvas_position`](Self::canvas_position) returns where to draw what stands in the world;
/// * the **window**: [`placement`](Self::placement) returns where the finished canvas goes, and
///   [`followed_placement`](Self::followed_placement) where the picture of the player goes.
///
/// ```
/// use velvet_pan::{Lens, Screen, Snap, View, glam::{DVec2, Vec2}};
///
/// let lens = Lens::new(&Screen::default()); // 320 x 180
/// let view = View::new(lens, [1000.25, 400.0], Snap::Whole);
/// assert_eq!(view.world_to_screen([1000.25, 400.0]), Vec2::new(160.0, 90.0));
/// assert_eq!(view.screen_to_world(Vec2::new(160.0, 90.0)), DVec2::new(1000.25, 400.0));
/// assert_eq!(view.canvas_position([1000.0, 400.0]), Vec2::new(160.0, 90.0)); // on the pixel grid
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct View {
    lens: Lens,
    centre: DVec2,
    snap: Snap,
    snapped: SnappedCorner,
    fit: Fit,
    design: UVec2,
    window: WindowSize,
    /// The time since the camera's first frame, in seconds.
    time: f64,
    shake: ShakeOffset,
    /// Centre and rotation without the shake.
    steady: (DVec2, f64),
    /// The world rectangle that limits what is shown, except during a shake.
    area: Rect,
    /// The number of cuts until now.
    cuts: u32,
    /// Whether the followed subject is drawn in whole pixels of the ground, or else of the window, per axis.
    on_ground: [bool; 2],
}

/// How far a rotated picture in whole pixels may be from its true place to show nothing from outside, in screen pixels.
const MAX_TURNED_AWAY: f64 = 2.0;

impl View {
    /// Creates a view with this world point in its centre, in a window as large as the screen.
    ///
    /// A centre that is not finite counts as the world's origin.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [400, 300], Snap::Whole);
    /// assert_eq!(view.visible_world().min, [240.0, 210.0].into());
    /// ```
    #[inline]
    #[must_use]
    pub fn new(lens: Lens, centre: impl IntoWorld, snap: Snap) -> Self {
        let centre = centre.into_world();
        let centre = if centre.is_finite() { centre } else { DVec2::ZERO };
        Self {
            lens,
            centre,
            snap,
            snapped: SnappedCorner::of(corner_of(&lens, centre)),
            fit: Fit::default(),
            design: lens.size(),
            window: lens.size().into(),
            time: 0.0,
            shake: ShakeOffset::default(),
            steady: (centre, lens.rotation()),
            area: Rect::EVERYWHERE,
            cuts: 0,
            on_ground: [false; 2],
        }
    }

    /// Interpolates between two views, for a fixed simulation step with a faster display.
    ///
    /// The centre moves in a straight line, the zoom in log space, the rotation by the shorter arc, time and shake
    /// linearly. The result stays within what either view may show. All else is taken from `to`.
    ///
    /// If `fraction` is 0 or less, or NaN, returns `from`. If it is 1 or more, or if there was a cut between the two
    /// views, returns `to`.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::DVec2};
    /// let lens = Lens::new(&Screen::default());
    /// let from = View::new(lens, [0, 0], Snap::Off);
    /// let to = View::new(lens.with_zoom(4.0), [10, 20], Snap::Off);
    /// let between = View::between(&from, &to, 0.5);
    /// assert_eq!(between.centre(), DVec2::new(5.0, 10.0));
    /// assert!((between.lens().zoom() - 2.0).abs() < 1e-12);
    /// ```
    #[must_use]
    pub fn between(from: &Self, to: &Self, fraction: f64) -> Self {
        if fraction <= 0.0 || fraction.is_nan() {
            return *from;
        }
        if fraction >= 1.0 || from.cuts != to.cuts {
            return *to;
        }
        let (from, to, ends) = (from.steady(), to.steady(), [from.shake, to.shake]);
        let lens = from.lens.towards(&to.lens, fraction);
        let centre = mix(from.centre, to.centre, fraction);
        let time = from.time + (to.time - from.time) * fraction;
        let area = from.area.joined(&to.area);
        let view = to.like(lens, area.clamp_centre(centre, lens.half_extents())).within(area);
        view.with_time(time).shaken(ends[0].mixed(ends[1], fraction))
    }

    /// Returns this view moved and rotated by a shake. [`steady`](Self::steady) of the result is the view without the
    /// shake. Offsets that are not finite change nothing.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, ShakeOffset, Snap, View, glam::DVec2};
    /// let view = View::new(Lens::new(&Screen::default()), [500, 300], Snap::Off);
    /// let shaken = view.shaken(ShakeOffset { pixels: DVec2::new(4.0, -2.0), roll: 0.0 });
    /// assert_eq!(shaken.centre(), DVec2::new(504.0, 298.0));
    /// assert_eq!(shaken.steady(), view);
    /// ```
    #[must_use]
    pub fn shaken(&self, shake: ShakeOffset) -> Self {
        let still = shake == ShakeOffset::default();
        if still || !shake.pixels.is_finite() || !shake.roll.is_finite() {
            return *self;
        }
        let base = self.steady();
        let centre = base.centre + base.lens.to_world_axes(shake.pixels);
        let lens = base.lens.with_rotation(base.lens.rotation() + shake.roll);
        Self { shake, steady: base.steady, ..base.like(lens, centre) }
    }

    /// Returns this view without its shake. Use it to convert pointer positions, so that a shake does not make clicks
    /// miss.
    #[must_use]
    pub fn steady(&self) -> Self {
        if self.is_still() {
            return *self;
        }
        let (centre, rotation) = self.steady;
        self.like(self.lens.with_rotation(rotation), centre).within(self.area)
    }

    /// Returns whether it has no shake.
    #[inline]
    pub(crate) fn is_still(&self) -> bool {
        self.shake == ShakeOffset::default()
    }

    /// Returns the shake's offset in screen pixels and its roll in radians.
    #[inline]
    #[must_use]
    pub fn shake(&self) -> ShakeOffset {
        self.shake
    }

    /// Returns another view in the same window at the same time, with the same snapping and fit, without shake and
    /// without limits.
    #[inline]
    pub(crate) fn like(&self, lens: Lens, centre: DVec2) -> Self {
        let centre = if centre.is_finite() { centre } else { DVec2::ZERO };
        Self {
            lens,
            centre,
            snapped: SnappedCorner::of(corner_of(&lens, centre)),
            shake: ShakeOffset::default(),
            steady: (centre, lens.rotation()),
            ..*self
        }
    }

    /// Returns the world rectangle that limits what is shown, except during a shake.
    pub(crate) fn area(&self) -> Rect {
        self.area
    }

    /// Returns whether the camera cut between an earlier view of it and this one: with `cut`, with `place_at`, or by
    /// switching to another camera at once. Nothing should be blended across a cut.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let before = camera.follow(1.0 / 60.0, [0, 0]);
    /// let after = camera.follow(1.0 / 60.0, [4, 0]);
    /// assert!(!after.is_cut_from(&before));
    /// camera.place_at([900, 0]);
    /// assert!(camera.view().is_cut_from(&after));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn is_cut_from(&self, before: &Self) -> bool {
        self.cuts != before.cuts
    }

    /// Returns the number of cuts until now. It begins again after the greatest number.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let first = camera.follow(0.0, [0, 0]).cuts();
    /// camera.place_at([900, 0]);
    /// assert_eq!(camera.view().cuts(), first + 1);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn cuts(&self) -> u32 {
        self.cuts
    }

    pub(crate) fn set_cuts(&mut self, cuts: u32) {
        self.cuts = cuts;
    }

    pub(crate) fn set_on_ground(&mut self, on_ground: [bool; 2]) {
        self.on_ground = on_ground;
    }

    pub(crate) fn on_ground(&self) -> [bool; 2] {
        self.on_ground
    }

    /// Returns this view at another time, in seconds since the camera's first frame. Layers with `drift` depend on it.
    /// A time that is not finite changes nothing.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Off);
    /// assert_eq!(view.with_time(2.5).time(), 2.5);
    /// assert_eq!(view.with_time(f64::NAN).time(), 0.0);
    /// ```
    #[inline]
    #[must_use]
    pub fn with_time(mut self, seconds: impl IntoSeconds) -> Self {
        let seconds = seconds.into_seconds();
        if seconds.is_finite() {
            self.time = seconds;
        }
        self
    }

    /// Returns this view in a window of this size, in physical pixels.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole); // 320 x 180
    /// assert_eq!(view.with_window((1280, 720)).placement().scale, 4.0);
    /// ```
    #[inline]
    #[must_use]
    pub fn with_window(mut self, window: impl Into<WindowSize>) -> Self {
        self.window = window.into();
        self
    }

    /// Returns this view with another fit. `design` is the screen size that the game was designed for, in screen
    /// pixels; with [`Fit::Reveal`] the view's size may be larger.
    ///
    /// ```
    /// # use velvet_pan::{Fit, Lens, Screen, Snap, View};
    /// let screen = Screen::default(); // 320 x 180
    /// let view = View::new(Lens::new(&screen), [0, 0], Snap::Whole).with_window((1000, 720));
    /// assert_eq!(view.with_fit(Fit::Whole, screen.size).placement().scale, 3.0);
    /// assert_eq!(view.with_fit(Fit::Contain, screen.size).placement().scale, 3.125);
    /// ```
    #[inline]
    #[must_use]
    pub fn with_fit(mut self, fit: Fit, design: UVec2) -> Self {
        (self.fit, self.design) = (fit, design);
        self
    }

    /// Sets the time, and the fit into the window, in place.
    #[inline]
    pub(crate) fn set_frame(&mut self, time: f64, fit: Fit, design: UVec2, window: WindowSize) {
        (self.time, self.fit, self.design, self.window) = (time, fit, design, window);
    }

    /// Returns a shaken view, moved as little as possible to stay inside, as far as there is room. The view without the
    /// shake does not change.
    pub(crate) fn shake_limited_to(self, area: &Walls) -> Self {
        let clamped = area.centre_range(self.lens()).nearest(self.centre());
        let mut view = self;
        if clamped != self.centre() {
            let steady = self.steady();
            let pixels = steady.lens().to_screen_axes(clamped - steady.centre());
            view = steady.shaken(ShakeOffset { pixels, roll: self.shake().roll });
        }
        view.hold_corner(&area.rect);
        view
    }

    /// This view, which shows nothing outside of this rectangle, to the pixel.
    #[inline]
    #[must_use]
    pub(crate) fn within(mut self, area: Rect) -> Self {
        if area != Rect::EVERYWHERE {
            self.set_limits(area);
        }
        self
    }

    /// Shows nothing outside this rectangle, to the pixel.
    #[inline]
    pub(crate) fn set_limits(&mut self, area: Rect) {
        // Farther away than any world, and still finite.
        const OUT_OF_SIGHT: DVec2 = DVec2::splat(1e30);
        self.area = Rect { min: area.min.max(-OUT_OF_SIGHT), max: area.max.min(OUT_OF_SIGHT) };
        let area = self.area;
        self.hold_corner(&area);
    }

    /// With [`Snap::Whole`], limits the snapped corner to the whole screen pixels inside `rect`, so that rounding
    /// never shows a row of pixels from outside.
    #[inline]
    fn hold_corner(&mut self, rect: &Rect) {
        if self.snap != Snap::Whole {
            return;
        }
        if self.lens.is_rotated() {
            return self.hold_turned_corner(rect);
        }
        let one = self.lens.to_screen_axes(rect.min);
        let other = self.lens.to_screen_axes(rect.max);
        let size = self.lens.size().as_dvec2();
        self.snapped = self.snapped.clamped(one.min(other), one.max(other), size);
    }

    /// Does the same in a rotated view: of the whole corners around, takes the nearest one that shows nothing from
    /// outside, or as little as possible. Where the centre may be anywhere in a square of √2 pixels, there is one: the
    /// disc in it is larger than a circle around four corners.
    fn hold_turned_corner(&mut self, rect: &Rect) {
        let half = self.lens.half_extents();
        let slack = 1e-6 / self.lens.scale();
        let (low, high) = (rect.min + half - slack, rect.max - half + slack);
        let middle = self.lens.size().as_dvec2() / 2.0;
        let outside = |corner: I64Vec2| {
            let centre = self.lens.to_world_axes(corner.as_dvec2() + middle);
            // On an axis on which the view is larger, nothing is limited.
            let out = |axis: usize| {
                let out = (low[axis] - centre[axis]).max(centre[axis] - high[axis]);
                if low[axis] > high[axis] { 0.0 } else { out.max(0.0) }
            };
            out(0).max(out(1))
        };
        let own = self.snapped.corner;
        let far = own.cmpgt(I64Vec2::splat(MAX_EXACT_INTEGER))
            | own.cmplt(I64Vec2::splat(-MAX_EXACT_INTEGER));
        if far.any() || outside(own) == 0.0 {
            return;
        }
        let corner = self.true_corner();
        let away = |one: &I64Vec2| one.as_dvec2().distance_squared(corner);
        let around = (-2..=2).flat_map(|x| (-2..=2).map(move |y| own + I64Vec2::new(x, y)));
        let near = around.filter(|one| away(one) < MAX_TURNED_AWAY * MAX_TURNED_AWAY);
        let worse = |a: &I64Vec2, b: &I64Vec2| {
            outside(*a).total_cmp(&outside(*b)).then(away(a).total_cmp(&away(b)))
        };
        self.snapped.corner = near.min_by(worse).unwrap_or(own);
    }

    /// Uses the residual of another view, so that both can be drawn on one canvas. The corner is then the nearest
    /// possible one.
    pub(crate) fn sharing_residual(mut self, host: &Self) -> Self {
        let residual = host.snapped.residual;
        let corner = self.true_corner() - residual.as_dvec2();
        let corner = I64Vec2::new(round_to_i64(corner.x), round_to_i64(corner.y));
        self.snapped = SnappedCorner { corner, residual };
        self
    }

    // What it is.

    /// Returns size, zoom and rotation.
    #[inline]
    #[must_use]
    pub fn lens(&self) -> &Lens {
        &self.lens
    }

    /// Returns the world point in the middle of the screen.
    #[inline]
    #[must_use]
    pub fn centre(&self) -> DVec2 {
        self.centre
    }

    /// Returns the number of screen pixels per world unit.
    #[inline]
    #[must_use]
    pub fn scale(&self) -> f64 {
        self.lens.scale()
    }

    /// Returns the screen's size in screen pixels.
    #[inline]
    #[must_use]
    pub fn size(&self) -> UVec2 {
        self.lens.size()
    }

    /// Returns the window's size in physical pixels.
    #[inline]
    #[must_use]
    pub fn window_size(&self) -> WindowSize {
        self.window
    }

    /// Returns the time in seconds: the sum of the camera's steps since its first frame.
    #[inline]
    #[must_use]
    pub fn time(&self) -> f64 {
        self.time
    }

    /// Returns the fit of the screen into its window, and its design size.
    #[inline]
    pub(crate) fn fit(&self) -> (Fit, UVec2) {
        (self.fit, self.design)
    }

    /// Returns what happens to fractions of a screen pixel.
    #[inline]
    #[must_use]
    pub fn snap(&self) -> Snap {
        self.snap
    }

    /// Returns the smallest upright world rectangle that contains everything the screen shows. Without rotation it is
    /// exactly what the screen shows.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Rect, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Off);
    /// assert_eq!(view.visible_world(), Rect::new([0, 0], [320, 180]));
    /// ```
    #[inline]
    #[must_use]
    pub fn visible_world(&self) -> Rect {
        Rect::around(self.centre, self.lens.half_extents())
    }

    // Points, lengths and rectangles between world and screen.

    /// Converts a world point to screen pixels from the top left corner, without rounding.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [400, 300], Snap::Whole);
    /// assert_eq!(view.world_to_screen([410, 300]), [170.0, 90.0].into());
    /// ```
    #[inline]
    #[must_use]
    pub fn world_to_screen(&self, world: impl IntoWorld) -> Vec2 {
        self.world_to_screen_f64(world.into_world()).as_vec2()
    }

    /// Converts a world point to screen pixels like [`world_to_screen`](Self::world_to_screen), in `f64`, for measuring.
    #[inline]
    #[must_use]
    pub fn world_to_screen_f64(&self, world: DVec2) -> DVec2 {
        self.lens.to_screen_axes(world - self.centre) + self.lens.size().as_dvec2() / 2.0
    }

    /// Converts a screen position to the world point that is shown there: the inverse of
    /// [`world_to_screen`](Self::world_to_screen).
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()), [400, 300], Snap::Whole);
    /// assert_eq!(view.screen_to_world(Vec2::new(170.0, 90.0)), [410.0, 300.0].into());
    /// ```
    #[inline]
    #[must_use]
    pub fn screen_to_world(&self, screen: Vec2) -> DVec2 {
        let from_middle = screen.as_dvec2() - self.lens.size().as_dvec2() / 2.0;
        self.centre + self.lens.to_world_axes(from_middle)
    }

    /// Converts a world difference, such as a velocity, to screen pixels along the screen's axes.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()).with_zoom(2.0), [500, 300], Snap::Off);
    /// assert_eq!(view.world_to_screen_vector([3, -1]), Vec2::new(6.0, -2.0));
    /// ```
    #[inline]
    #[must_use]
    pub fn world_to_screen_vector(&self, world: impl IntoWorld) -> Vec2 {
        self.lens.to_screen_axes(world).as_vec2()
    }

    /// Converts a difference in screen pixels, such as a pointer's movement, to a world difference.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::{DVec2, Vec2}};
    /// let view = View::new(Lens::new(&Screen::default()).with_zoom(2.0), [500, 300], Snap::Off);
    /// assert_eq!(view.screen_to_world_vector(Vec2::new(6.0, -2.0)), DVec2::new(3.0, -1.0));
    /// ```
    #[inline]
    #[must_use]
    pub fn screen_to_world_vector(&self, screen: Vec2) -> DVec2 {
        self.lens.to_world_axes(screen.as_dvec2())
    }

    /// Converts a length in world units to screen pixels.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()).with_zoom(4.0), [0, 0], Snap::Off);
    /// assert_eq!(view.world_to_screen_length(2.5), 10.0);
    /// assert_eq!(view.screen_to_world_length(10.0), 2.5);
    /// ```
    #[inline]
    #[must_use]
    pub fn world_to_screen_length(&self, world: f64) -> f32 {
        (world * self.lens.scale()) as f32
    }

    /// Converts a length in screen pixels to world units.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()).with_zoom(4.0), [0, 0], Snap::Off);
    /// assert_eq!(view.screen_to_world_length(10.0), 2.5);
    /// ```
    #[inline]
    #[must_use]
    pub fn screen_to_world_length(&self, screen: f32) -> f64 {
        f64::from(screen) / self.lens.scale()
    }

    /// Converts a world rectangle to screen pixels. With a rotated view, returns the bounding box of the rotated
    /// rectangle.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Rect, Screen, Snap, View, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Off);
    /// let hut = view.world_to_screen_rect(&Rect::new([10, 20], [26, 36]));
    /// assert_eq!((hut.min, hut.max), (Vec2::new(10.0, 20.0), Vec2::new(26.0, 36.0)));
    /// ```
    #[must_use]
    pub fn world_to_screen_rect(&self, world: &Rect) -> ScreenRect {
        let corners = world.corners().map(|corner| self.world_to_screen(corner));
        ScreenRect { min: least(corners, Vec2::min), max: least(corners, Vec2::max) }
    }

    /// Converts a screen rectangle to world units. With a rotated view, returns the bounding box of the rotated
    /// rectangle.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Rect, Screen, ScreenRect, Snap, View, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Off);
    /// let corner = ScreenRect::new(Vec2::new(10.0, 20.0), Vec2::new(26.0, 36.0));
    /// assert_eq!(view.screen_to_world_rect(&corner), Rect::new([10, 20], [26, 36]));
    /// ```
    #[must_use]
    pub fn screen_to_world_rect(&self, screen: &ScreenRect) -> Rect {
        let screen = Rect { min: screen.min.as_dvec2(), max: screen.max.as_dvec2() };
        let corners = screen.corners().map(|corner| self.screen_to_world(corner.as_vec2()));
        Rect { min: least(corners, DVec2::min), max: least(corners, DVec2::max) }
    }

    // The canvas.

    /// Returns the size of the canvas to draw, in screen pixels. With [`Snap::Subpixel`] it is one pixel wider and one
    /// pixel higher than the screen.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::UVec2};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Subpixel); // 320 x 180
    /// assert_eq!(view.canvas_size(), UVec2::new(321, 181));
    /// ```
    #[inline]
    #[must_use]
    pub fn canvas_size(&self) -> UVec2 {
        match self.snap {
            Snap::Off | Snap::Whole => self.lens.size(),
            Snap::Subpixel => self.lens.size().saturating_add(UVec2::ONE),
        }
    }

    /// Returns the snapped top left corner of the view, in whole screen pixels from the world's origin along the view's
    /// axes: `floor(o + 2⁻¹⁰)`, where `o` is [`true_corner`](Self::true_corner).
    #[inline]
    #[must_use]
    pub fn corner(&self) -> I64Vec2 {
        self.snapped.corner
    }

    /// Returns the top left corner of the view at its true position, in screen pixels from the
    /// world's origin along the view's axes.
    #[inline]
    #[must_use]
    pub fn true_corner(&self) -> DVec2 {
        corner_of(&self.lens, self.centre)
    }

    /// Returns the fraction of a screen pixel that snapping removed: `max(0, o − corner)`, in [0, 1) on both axes.
    #[inline]
    #[must_use]
    pub fn residual(&self) -> Vec2 {
        self.snapped.residual
    }

    /// Returns the top left corner of the canvas as it is drawn, in screen pixels from the world's
    /// origin along the view's axes: [`corner`](Self::corner), or the true corner with [`Snap::Off`].
    #[inline]
    #[must_use]
    pub fn canvas_corner(&self) -> DVec2 {
        match self.snap {
            Snap::Off => self.true_corner(),
            Snap::Whole | Snap::Subpixel => self.snapped.corner.as_dvec2(),
        }
    }

    /// Returns where to draw a sprite of the world, in canvas pixels: `round(p·scale) − corner`.
    ///
    /// Things drawn this way keep their distances to the pixel while the camera moves. Use it for drawing only, and do
    /// not round the positions themselves. With [`Snap::Off`], returns
    /// [`world_to_screen`](Self::world_to_screen) of the point.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [400.3, 300.0], Snap::Subpixel);
    /// // 169.7 pixels from the left edge; the canvas begins 0.3 pixels before it.
    /// assert_eq!(view.canvas_position([410, 300]), [170.0, 90.0].into());
    /// ```
    #[inline]
    #[must_use]
    pub fn canvas_position(&self, world: impl IntoWorld) -> Vec2 {
        let world = world.into_world();
        if self.snap == Snap::Off {
            return self.world_to_screen(world);
        }
        let pixels = self.lens.to_screen_axes(world);
        self.on_canvas(round_to_i64(pixels.x), round_to_i64(pixels.y))
    }

    #[inline]
    fn on_canvas(&self, x: i64, y: i64) -> Vec2 {
        let corner = self.snapped.corner;
        Vec2::new(x.saturating_sub(corner.x) as f32, y.saturating_sub(corner.y) as f32)
    }
}

/// Returns the view's top left corner in screen pixels from the world's origin, along the axes of the view: `o =
/// R(−θ)(c)·scale − size/2`.
#[inline]
fn corner_of(lens: &Lens, centre: DVec2) -> DVec2 {
    lens.to_screen_axes(centre) - lens.size().as_dvec2() / 2.0
}

fn least<T: Copy>([a, b, c, d]: [T; 4], pick: impl Fn(T, T) -> T) -> T {
    pick(pick(a, b), pick(c, d))
}
