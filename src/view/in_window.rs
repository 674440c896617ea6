//! The picture of a view in its window, and the world at a point of the window.

use glam::{DVec2, UVec2, Vec2};

use crate::base::convert::IntoWorld;
use crate::base::pixel_rect::ScreenRect;
use crate::base::rect::Rect;
use crate::base::window::WindowPoint;
use crate::lens::fit::Placement;
use crate::lens::screen::Snap;
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
        self.exact_screen_to_window(screen.as_dvec2())
    }

    /// Converts a world point to a window position, in physical pixels: for a label, a cursor or a sprite that is drawn
    /// straight into the window. It may be on the bars or outside of the window.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, WindowPoint};
    /// let view = View::new(Lens::new(&Screen::default()), [500, 300], Snap::Off)
    ///     .with_window((1280, 720)); // 4 window pixels per world unit
    /// assert_eq!(view.world_to_window([510, 300]), WindowPoint::from((680.0, 360.0)));
    /// ```
    #[must_use]
    pub fn world_to_window(&self, world: impl IntoWorld) -> WindowPoint {
        self.exact_screen_to_window(self.world_to_screen_f64(world.into_world()))
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

    /// Does the same outside the picture: in the bars and outside the window, where a drag may go on.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View, glam::Vec2};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Off)
    ///     .with_window((1300, 720)); // bars of 10 pixels to the left and the right
    /// assert_eq!(view.window_to_screen_unbounded((2.0, 360.0)), Vec2::new(-2.0, 90.0));
    /// ```
    #[must_use]
    pub fn window_to_screen_unbounded(&self, window: impl Into<WindowPoint>) -> Vec2 {
        let window = window.into();
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

    /// Returns a body's position, moved into the view if needed, in world units: a player whom a steady scroll pushes
    /// on, or one of several who must stay together. `half` is half of the body's size. On an axis on which it does not
    /// fit, it is centred. A shake moves nobody: this is about the [`steady`](Self::steady) view.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [500, 90], Snap::Off); // from x = 340 to 660
    /// let half = [8, 12];
    /// assert_eq!(view.stop([300, 90], half), [348.0, 90.0].into());
    /// assert_eq!(view.stop([400, 90], half), [400.0, 90.0].into());
    /// ```
    #[must_use]
    pub fn stop(&self, position: impl IntoWorld, half: impl IntoWorld) -> DVec2 {
        let (position, half) = (position.into_world(), half.into_world());
        let steady = self.steady();
        let (lens, centre) = (steady.lens(), steady.centre());
        let extent = |axis: DVec2| lens.to_screen_orientation(axis * half).abs();
        let at = lens.to_screen_orientation(position - centre);
        let shown = Rect::around(DVec2::ZERO, lens.view_size() / 2.0);
        let clamped = shown.clamp_body(at, extent(DVec2::X) + extent(DVec2::Y));
        if clamped == at { position } else { centre + lens.to_world_orientation(clamped) }
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

    /// Returns where to draw the picture of the followed sprite in the window: the placement of a canvas whose top left
    /// corner is at this world point. For another pixel of the picture, such as its feet, use [`Placement::anchored`].
    ///
    /// Draw the sprite of the player on a canvas of its own, which may be as small as the sprite, and present it over the
    /// world's. On the world's canvas it would be rounded to art pixels, and would tremble.
    ///
    /// With [`Snap::Subpixel`] and a whole scale, the result is a whole window pixel; with [`Snap::Whole`], a whole
    /// screen pixel. It is rounded in the window, or against the ground if that is where the camera's subject moves less.
    /// So it stands still on the ground while the view comes to rest, and in the window while the view runs with it.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let lens = Lens::new(&Screen::default());
    /// let courier = [40.6, 20.0];
    /// let view = View::new(lens, [40.3, 20.0], Snap::Subpixel).with_window((1280, 720));
    /// let feet = [8.0, 16.0]; // on the picture
    /// let placement = view.followed_placement(courier).anchored(feet);
    /// // 0.3 screen pixels to the right of the middle, at scale 4, to the nearest window pixel.
    /// assert_eq!(placement.origin.x + 4.0 * 8.0, 641.0);
    /// ```
    #[must_use]
    pub fn followed_placement(&self, world: impl IntoWorld) -> Placement {
        let world = world.into_world();
        let (ground, corner) = (self.placement(), self.picture_corner());
        let (on_screen, on_canvas) = (self.world_to_screen_f64(world), self.on_canvas_at(world));
        // Rounded in the window, and against the ground.
        let origins = match self.snap() {
            Snap::Whole => {
                [on_screen, on_canvas].map(|pixels| corner + whole(pixels) * ground.scale)
            }
            Snap::Subpixel if ground.is_whole() => [
                whole(corner + on_screen * ground.scale),
                ground.first_edge() + whole(on_canvas * ground.scale),
            ],
            Snap::Off | Snap::Subpixel => [corner + on_screen * ground.scale; 2],
        };
        let [x, y] = self.on_ground().map(usize::from);
        Placement { origin: DVec2::new(origins[x].x, origins[y].y), ..ground }
    }

    /// Returns the placement of a canvas of [`size`](Self::size) pixels that stands still on the screen: for a HUD. The
    /// world's canvas slides by the rest of the snapping, and a score on it would tremble.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let lens = Lens::new(&Screen::default());
    /// let view = |x: f64| View::new(lens, [x, 0.0], Snap::Subpixel).with_window((1280, 720));
    /// assert_eq!(view(0.3).hud_placement(), view(7.9).hud_placement());
    /// ```
    #[must_use]
    pub fn hud_placement(&self) -> Placement {
        self.placed(DVec2::ZERO)
    }

    /// Returns a world point on the canvas, in canvas pixels.
    fn on_canvas_at(&self, world: DVec2) -> DVec2 {
        self.lens().to_screen_axes(world) - self.canvas_corner()
    }

    fn exact_screen_to_window(&self, screen: DVec2) -> WindowPoint {
        let placement = self.placement();
        (placement.origin + (screen + self.slack()) * placement.scale).as_vec2().into()
    }

    fn placed(&self, residual: DVec2) -> Placement {
        let (fit, design) = self.fit();
        let scale = fit.scale(design, self.window_size());
        Placement::centred(self.size(), self.window_size(), scale, residual)
    }

    /// Returns the top left corner of the picture in window pixels.
    fn picture_corner(&self) -> DVec2 {
        self.hud_placement().origin
    }

    /// Returns the offset from a position on the screen to the same position on the canvas, in screen pixels.
    #[inline]
    fn slack(&self) -> DVec2 {
        if self.snap() == Snap::Off { DVec2::ZERO } else { self.residual().as_dvec2() }
    }
}

/// Returns the nearest whole pixel; a half, and what rounding errors leave of it, goes up.
fn whole(pixels: DVec2) -> DVec2 {
    const HALF_UP: f64 = 0.5 + 1.0 / 128.0;
    (pixels + HALF_UP).floor()
}
