//! The picture of a view in its window, and the world at a point of the window.

use glam::{DVec2, UVec2, Vec2};

use crate::lens::fit::Placement;
use crate::lens::screen::Snap;
use crate::units::convert::IntoWorld;
use crate::units::rect::ScreenRect;
use crate::units::window::WindowPoint;
use crate::view::view::View;

impl View {
    /// Converts a screen position to a window position, in physical pixels.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, WindowPoint, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Off)
    ///     .with_window((1300, 720));
    /// assert_eq!(view.screen_to_window(Vec2::new(160.0, 90.0)), WindowPoint::from((650.0, 360.0)));
    /// ```
    #[must_use]
    pub fn screen_to_window(&self, screen: Vec2) -> WindowPoint {
        let placement = self.placement();
        let canvas = screen.as_dvec2() + self.slack();
        (placement.origin + canvas * placement.scale).as_vec2().into()
    }

    /// Converts a window position to a screen position: the inverse of [`screen_to_window`](Self::screen_to_window).
    /// Returns `None` outside of the picture: on the bars and outside of the window.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Off)
    ///     .with_window((1300, 720)); // bars of 10 pixels to the left and the right
    /// assert_eq!(view.window_to_screen((650.0, 360.0)), Some(Vec2::new(160.0, 90.0)));
    /// assert_eq!(view.window_to_screen((9.0, 360.0)), None);
    /// ```
    #[must_use]
    pub fn window_to_screen(&self, window: impl Into<WindowPoint>) -> Option<Vec2> {
        let window = window.into();
        let shown = self.placement().shows(f64::from(window.x), f64::from(window.y));
        shown.then(|| self.window_to_screen_unbounded(window))
    }

    /// Does the same outside the picture: in the bars and outside the window.
    pub(crate) fn window_to_screen_unbounded(&self, window: WindowPoint) -> Vec2 {
        let at = DVec2::new(f64::from(window.x), f64::from(window.y));
        let placement = self.placement();
        ((at - placement.origin) / placement.scale - self.slack()).as_vec2()
    }

    /// Converts a window position, such as the pointer's, to the world point that is shown there. Returns `None` outside
    /// of the picture: on the bars and outside of the window.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [500, 300], Snap::Subpixel)
    ///     .with_window((1280, 720));
    /// assert_eq!(view.window_to_world((640.0, 360.0)), Some([500.0, 300.0].into()));
    /// ```
    #[must_use]
    pub fn window_to_world(&self, window: impl Into<WindowPoint>) -> Option<DVec2> {
        self.window_to_screen(window).map(|screen| self.screen_to_world(screen))
    }

    /// Returns the part of the screen that is visible in the window, in screen pixels. It is the whole screen unless
    /// [`Fit::Cover`](crate::Fit::Cover), or a window smaller than the screen, cuts off its edges.
    ///
    /// ```
    /// # use velvet_pan::{Fit, Lens, Screen, Snap, View, glam::{UVec2, Vec2}};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole)
    ///     .with_fit(Fit::Cover, UVec2::new(320, 180))
    ///     .with_window((720, 720));
    /// assert_eq!(view.visible_screen().min, Vec2::new(70.0, 0.0));
    /// assert_eq!(view.visible_screen().max, Vec2::new(250.0, 180.0));
    /// ```
    #[must_use]
    pub fn visible_screen(&self) -> ScreenRect {
        let placement = Placement { origin: self.picture_corner(), ..self.placement() };
        let size = self.size().as_vec2();
        let at = |edge: UVec2| {
            let screen = (edge.as_dvec2() - placement.origin) / placement.scale;
            screen.as_vec2().clamp(Vec2::ZERO, size)
        };
        ScreenRect { min: at(placement.first), max: at(placement.end) }
    }

    /// Returns the rectangle for everything that must be visible, such as a score, in screen pixels. It is the middle of
    /// the screen in its design size, as far as the window shows it. With [`Fit::Reveal`](crate::Fit::Reveal) the screen
    /// is larger.
    #[must_use]
    pub fn safe_area(&self) -> ScreenRect {
        let (size, design) = (self.size().as_vec2(), self.fit().1.as_vec2());
        let corner = ((size - design) / 2.0).max(Vec2::ZERO);
        let shown = self.visible_screen();
        ScreenRect { min: corner.max(shown.min), max: (corner + design.min(size)).min(shown.max) }
    }

    /// Returns where to draw the finished canvas in the window.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [0.5, 0.0], Snap::Subpixel)
    ///     .with_window((1280, 720));
    /// let placement = view.placement();
    /// assert_eq!(placement.scale, 4.0);
    /// assert_eq!(placement.origin.x, -2.0); // half a screen pixel to the left
    /// ```
    #[must_use]
    pub fn placement(&self) -> Placement {
        let residual = match self.snap() {
            Snap::Off | Snap::Whole => DVec2::ZERO,
            Snap::Subpixel => self.residual().as_dvec2(),
        };
        self.placed(residual)
    }

    /// Returns where to draw a canvas in the window that contains only a followed sprite, drawn at
    /// [`followed_position`](Self::followed_position). It uses the sprite's own residual, so that with
    /// [`Snap::Subpixel`] the sprite does not jitter by window pixels either.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let lens = Lens::new(&Screen::default());
    /// let courier = [40.7, 20.0];
    /// let view = View::new(lens, [40.3, 20.0], Snap::Subpixel).with_window((1280, 720));
    /// let (drawn, placement) = (view.followed_position(courier), view.followed_placement(courier));
    /// let shown = placement.origin.x + f64::from(drawn.x) * placement.scale;
    /// assert!((shown - 4.0 * 160.4).abs() < 1e-4); // exactly at the courier
    /// ```
    #[must_use]
    pub fn followed_placement(&self, world: impl IntoWorld) -> Placement {
        let world = world.into_world();
        let screen = self.world_to_screen_f64(world);
        match self.snap() {
            Snap::Off | Snap::Whole => self.placement(),
            Snap::Subpixel => self.placed(self.followed_position(world).as_dvec2() - screen),
        }
    }

    fn placed(&self, residual: DVec2) -> Placement {
        let (fit, design) = self.fit();
        let scale = fit.scale(design, self.window_size());
        Placement::centred(self.size(), self.window_size(), scale, residual)
    }

    /// The top left corner of the picture in window pixels.
    fn picture_corner(&self) -> DVec2 {
        self.placed(DVec2::ZERO).origin
    }

    /// The offset from a position on the screen to the same position on the canvas, in screen pixels.
    #[inline]
    fn slack(&self) -> DVec2 {
        if self.snap() == Snap::Off { DVec2::ZERO } else { self.residual().as_dvec2() }
    }
}
