//! What a game tells a camera between two frames: each method tells the command of its name.

use glam::Vec2;

use crate::base::convert::{IntoSeconds, IntoWorld};
use crate::curves::ease::Ease;
use crate::keys::error::SettingsError;
use crate::limits::bounds::{Bounds, IntoBounds};
use crate::limits::ratchet::Barrier;

use super::Camera;
use super::command::Command;

impl Camera {
    /// Cuts to the subject in the next frame that has one, for example after a teleport. Clears all memories and ends
    /// all changes, hands and pauses. Commanded before the same frame, a cut takes precedence over every glide, grab,
    /// pan, `show` and pause, in either order. A zoom about a point still zooms, and only its point is dropped.
    pub fn cut(&mut self) {
        self.say(Command::Cut);
    }

    /// Moves the view immediately so that this world point is at the anchor. Does nothing if the point is not finite.
    /// On an axis that is not followed it then stays there.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.place_at([900, 40]);
    /// assert_eq!(camera.view().centre(), [900.0, 40.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn place_at(&mut self, point: impl IntoWorld) {
        self.say(Command::PlaceAt(point.into_world()));
    }

    /// Sets this world point as the goal if the next frame has no subject. Points that are not finite change
    /// nothing.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.aim_at([900, 40]);
    /// camera.advance(0.0); // commands take effect at the end of the next frame
    /// assert_eq!(camera.advance(0.1).centre(), [900.0, 40.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn aim_at(&mut self, point: impl IntoWorld) {
        self.say(Command::AimAt(point.into_world()));
    }

    /// Treats the next subject position as a new target instead of a movement. Call it when the player switches
    /// characters.
    pub fn switch_subject(&mut self) {
        self.say(Command::SwitchSubject);
    }

    /// Reaches the goal in exactly `seconds`, even if the goal moves. Other changes under way end at their own
    /// times. With [`Ease::Smooth`] the view keeps its velocity at the start. With any other ease it starts from
    /// rest. If `seconds` is zero or negative, cuts.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Ease, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.follow(0.0, [0, 0]);
    /// camera.switch_subject(); // another subject, 300 away
    /// camera.glide(0.5, Ease::Smooth);
    /// camera.follow(0.1, [300, 0]); // the glide begins with this frame
    /// assert_eq!(camera.follow(0.25, [300, 0]).centre().x.round(), 150.0);
    /// assert_eq!(camera.follow(0.25, [320, 0]).centre().x, 320.0);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn glide(&mut self, seconds: impl IntoSeconds, ease: Ease) {
        self.say(Command::Glide { seconds: seconds.into_seconds(), ease });
    }

    /// Sets new bounds, or removes them, within `seconds`. If the view lies outside the new bounds, their edges
    /// start at the view and move in. Setting the same bounds again changes nothing.
    ///
    /// # Errors
    ///
    /// Returns an error for invalid bounds, and for `None` if a layer needs bounds. The camera then keeps its
    /// old ones.
    ///
    /// ```
    /// # use velvet_pan::{Bounds, Camera, Rect, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.set_bounds(Some(Bounds::new(Rect::new([0, 0], [3840, 960]))), 0.5)?;
    /// camera.follow(0.0, [0, 0]);
    /// let view = camera.follow(0.5, [0, 0]);
    /// assert_eq!(view.visible_world().min, [0.0, 0.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn set_bounds(
        &mut self,
        bounds: impl IntoBounds,
        seconds: impl IntoSeconds,
    ) -> Result<(), SettingsError> {
        let (bounds, seconds) = (bounds.into_bounds()?, seconds.into_seconds());
        self.tell(Command::SetBounds { bounds, seconds })
    }

    /// Returns the bounds in force: those of the settings, or what [`set_bounds`](Self::set_bounds) has put in their
    /// place.
    ///
    /// ```
    /// # use velvet_pan::{Bounds, Camera, Rect, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let court = Bounds::new(Rect::new([0, 0], [640, 360]));
    /// camera.set_bounds(Some(court), 0.0)?;
    /// camera.follow(0.0, [0, 0]);
    /// assert_eq!((camera.bounds(), camera.settings().bounds), (Some(court), None));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[inline]
    #[must_use]
    pub fn bounds(&self) -> Option<Bounds> {
        self.state.limits.bounds.or_own(self.rules.settings.bounds)
    }

    /// Moves the camera and everything it remembers by `delta` world units, for worlds that loop. If the game moves
    /// all its positions by the same difference, nothing moves on the screen. Bounds are not moved. Does nothing if
    /// `delta` is not finite, or if a position would be farther than 1e100 world units from the origin.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Smoothing};
    /// let mut settings = Settings::default();
    /// settings.follow.smoothing = Smoothing::Settle(0.5).into();
    /// let mut camera = Camera::new(settings)?;
    /// camera.follow(0.0, [0, 0]);
    /// let before = camera.follow(0.1, [1000, 0]);
    /// camera.translate([-1024, 0]);
    /// assert_eq!(camera.view().centre(), before.centre() - velvet_pan::glam::DVec2::new(1024.0, 0.0));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn translate(&mut self, delta: impl IntoWorld) {
        self.say(Command::Translate(delta.into_world()));
    }

    /// Returns the line behind which a ratcheted view does not go back, or `None` without a ratchet. Only bounds that
    /// push the view back push it back as well.
    #[must_use]
    pub fn barrier(&self) -> Option<Barrier> {
        self.state.ride.picture.shown_line()
    }

    /// Glides to this zoom with the half-life [`Zoom::half_life`](crate::Zoom::half_life). At 2 everything appears
    /// twice as large. The world point at the anchor stays there. Clamps `zoom` to [`Zoom::range`](crate::Zoom::range);
    /// does nothing for NaN.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.zoom_to(2.0);
    /// camera.advance(0.0);
    /// let zoom = camera.advance(0.15).lens().zoom(); // after one half-life
    /// assert!((zoom - 2.0_f64.sqrt()).abs() < 1e-9);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn zoom_to(&mut self, zoom: f64) {
        self.say(Command::ZoomTo(zoom));
    }

    /// Sets the zoom immediately. Range and NaN as with [`zoom_to`](Self::zoom_to).
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.zoom_now(2.0);
    /// assert_eq!(camera.view().visible_world().size(), [160.0, 90.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn zoom_now(&mut self, zoom: f64) {
        self.say(Command::ZoomNow(zoom));
    }

    /// Zooms by this number of wheel notches, closer for positive ones. Notches add up.
    ///
    /// With a screen point, the world point that the last view shows there without its shake stays there, from the
    /// start of the next frame. If no subject is followed, it stays until the zoom ends. Otherwise it stays until 1 %
    /// of the zoom is left, or until the subject has covered 90 % of the way from its anchor to the screen's edge. Then
    /// the view returns as [`Hands::back`](crate::Hands::back) says. A leash takes precedence over the point.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, glam::Vec2};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let pointer = Vec2::new(250.0, 40.0);
    /// let under = camera.view().screen_to_world(pointer);
    /// camera.zoom_by(3.0, Some(pointer));
    /// for _frame in 0..30 {
    ///     let view = camera.advance(1.0 / 60.0);
    ///     assert!((view.world_to_screen(under) - pointer).length() < 0.01);
    /// }
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn zoom_by(&mut self, notches: f64, about: Option<Vec2>) {
        self.say(Command::ZoomBy { notches, about });
    }

    /// Glides to `rotation` radians, clockwise as seen on the screen, by the shorter way, with the half-life
    /// [`Rotation::half_life`](crate::Rotation::half_life). The world point at the anchor stays there. Does nothing if
    /// `rotation` is not finite.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.rotate_to(0.2);
    /// camera.advance(0.0);
    /// let rotation = camera.advance(0.15).lens().rotation(); // after one half-life
    /// assert!((rotation - 0.1).abs() < 1e-9);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn rotate_to(&mut self, rotation: f64) {
        self.say(Command::RotateTo(rotation));
    }

    /// Sets the rotation immediately, in radians, clockwise as seen on the screen. Does nothing if `rotation` is not
    /// finite.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.rotate_now(0.2);
    /// assert_eq!(camera.view().lens().rotation(), 0.2);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn rotate_now(&mut self, rotation: f64) {
        self.say(Command::RotateNow(rotation));
    }
}
