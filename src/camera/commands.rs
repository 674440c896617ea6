//! Commands from the game between two frames, and the moment when they take effect.

use glam::{DVec2, Vec2};

use crate::base::convert::{IntoSeconds, IntoWorld};
use crate::base::maths::{is_usable, usable_angle, usable_seconds};
use crate::camera::hand::{Grip, Hand};
use crate::curves::ease::{Ease, Timing};
use crate::keys::error::SettingsError;
use crate::limits::bounds::{Bounds, BoundsInForce, IntoBounds};
use crate::limits::ratchet::Barrier;
use crate::motion::motion::Moving;

use super::Camera;
use super::arrival::Clock;
use super::change::FocusAfter;
use super::command::Command;
use super::state::{CameraState, Cut};
use super::told::NewBounds;

impl Camera {
    /// Cuts to the subject in the next frame that has one, for example after a teleport. Clears all memories and ends
    /// all changes, hands and pauses. Commanded before the same frame, a cut takes precedence over every glide, grab,
    /// pan, `show` and pause, in either order. A zoom about a point still zooms, and only its point is dropped.
    pub fn cut(&mut self) {
        self.state.goal.cut = Cut::Commanded;
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
        let point = point.into_world();
        if !is_usable(point) {
            return;
        }
        let CameraState { ride, cuts, goal, .. } = &mut self.state;
        *cuts = cuts.wrapping_add(1);
        goal.cut = if goal.cut == Cut::First { Cut::Placed } else { goal.cut };
        ride.picture.hand = Hand::Off;
        ride.picture.fades.clear();
        let at_end = &mut self.told.at_end;
        (at_end.aim, at_end.hand, at_end.about) = (None, None, None);
        (ride.picture.barrier, ride.room) = (None, None);
        ride.focus = Moving { position: point, velocity: DVec2::ZERO };
        self.state.forget_goal(point);
        let ride = &mut self.state.ride;
        ride.goal = ride.goal.restarted(&self.rules, &self.framing);
        self.keep_to_halls(FocusAfter::Restarted(point), Clock::Step(None));
        self.limit(Clock::Step(None));
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
        let point = point.into_world();
        if is_usable(point) {
            self.told.at_end.aim = Some(point);
        }
    }

    /// Treats the next subject position as a new target instead of a movement. Call it when the player switches
    /// characters.
    pub fn switch_subject(&mut self) {
        self.state.goal.switched = true;
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
    /// assert_eq!(camera.follow(0.25, [300, 0]).centre().x, 150.0);
    /// assert_eq!(camera.follow(0.25, [320, 0]).centre().x, 320.0);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn glide(&mut self, seconds: impl IntoSeconds, ease: Ease) {
        let seconds = usable_seconds(seconds.into_seconds());
        if seconds > 0.0 {
            self.told.at_end.glide = Some(Timing { seconds, ease });
        } else {
            self.cut();
        }
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
        let bounds = bounds.into_bounds()?;
        self.rules.settings.check_bounds(bounds.as_ref())?;
        let seconds = usable_seconds(seconds.into_seconds());
        self.told.at_end.bounds = Some(NewBounds { bounds, seconds });
        Ok(())
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
        let delta = delta.into_world();
        let focus = self.state.ride.focus.position;
        if !is_usable(delta) || !is_usable(focus + delta) {
            return;
        }
        self.state.translate(delta);
        self.told.translate(delta);
        self.limit(Clock::Track);
    }

    /// Returns the line behind which a ratcheted view does not go back, or `None` without a ratchet. Only bounds that
    /// push the view back push it back as well.
    #[must_use]
    pub fn barrier(&self) -> Option<Barrier> {
        self.state.ride.picture.barrier
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
        if !zoom.is_nan() {
            self.told.at_end.zoom = Some(self.limited_zoom(zoom));
        }
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
        self.act(&Command::ZoomNow(zoom), 0.0, Clock::Track);
    }

    /// Returns a zoom within the range and the limits of bounds and ratchet.
    pub(super) fn limited_zoom(&self, zoom: f64) -> f64 {
        self.rules.settings.zoom.limited(zoom, self.framing.least_zoom)
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
        _ = self.tell(Command::ZoomBy { notches, about }); // never refused
    }

    /// What this screen point shows, without the shake, if it is one.
    pub(super) fn grip(&self, screen: Vec2, clock: Clock) -> Option<Grip> {
        let view = self.view_about(self.centre(clock)).steady();
        screen.is_finite().then(|| Grip::at(&view, screen))
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
        if let Some(rotation) = usable_angle(rotation) {
            self.told.at_end.rotation = Some(rotation);
        }
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
        self.act(&Command::RotateNow(rotation), 0.0, Clock::Track);
    }

    /// Applies what was told for a moment, at the end of a frame or at their moment.
    pub(super) fn apply_commands(&mut self, clock: Clock) {
        self.take_point_in_hand(clock);
        let told = core::mem::take(&mut self.told.at_end);
        let fits = |new: &NewBounds| self.rules.settings.check_bounds(new.bounds.as_ref()).is_ok();
        let is_other = |new: &NewBounds| new.bounds != self.bounds() && fits(new);
        if let Some(new) = told.bounds.filter(is_other) {
            let change = self.begin(Timing::smooth(new.seconds), clock);
            self.state.limits.bounds = BoundsInForce::Set(new.bounds);
            self.scratch.cover_bounds(&self.rules, self.state.limits.bounds);
            self.fade(change, FocusAfter::AsFarBehind, clock);
        }
        if let Some(zoom) = told.zoom {
            let zoom = self.limited_zoom(zoom);
            self.state.lens.zoom.head_for(zoom, self.framing.least_zoom);
        }
        if let Some(rotation) = told.rotation {
            self.state.lens.rotation.head_for(rotation);
        }
        if let Some(nudge) = told.nudge {
            // During another one, it begins at the current value and takes its own rise time.
            let rise = self.state.lens.nudge.map_or(0.0, |_| nudge.nudge.rise);
            let change = (rise > 0.0).then(|| self.begin(Timing::smooth(rise), clock));
            self.state.lens.nudge = Some(nudge);
            if let Some(change) = change {
                self.fade(change, FocusAfter::Here, clock);
            }
        }
        if let Some(pause) = told.pause {
            self.state.pause = self.state.pause.max(pause);
        }
        // A change without duration is complete at once.
        let screen = self.framing.lens.size();
        self.state.move_lens(&self.rules.settings, screen, 0.0, &mut self.scratch.zoom);
        self.refresh_framing();
        self.apply_hand(&told, clock);
        self.refresh(clock);
    }
}
