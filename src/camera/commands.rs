//! What the game tells a camera between two frames, and when it takes effect.

use glam::Vec2;

use crate::camera::hands::{Grip, Hand};
use crate::lens::rotation::RotationGlide;
use crate::lens::zoom::ZoomGlide;
use crate::limits::bounds::{Bounds, BoundsBlend};
use crate::limits::ratchet::Barrier;
use crate::motion::glide::Glide;
use crate::motion::motion::Moving;
use crate::settings::settings::Settings;
use crate::units::convert::{IntoSeconds, IntoWorld};
use crate::units::ease::Ease;
use crate::units::error::SettingsError;
use crate::units::maths::usable_seconds;
use crate::units::rect::Rect;
use glam::DVec2;

use super::Camera;
use super::state::{CameraState, Pending};

impl Camera {
    /// The next frame with a subject cuts to it: after a teleport, say. All memories are cleared.
    pub fn cut(&mut self) {
        self.state.goal.cut = true;
        (self.state.motion.glide, self.state.pending.glide) = (None, None);
    }

    /// Looks at this world point at once; it is held at the anchor. Points that are not finite
    /// change nothing.
    pub fn place_at(&mut self, point: impl IntoWorld) {
        let point = point.into_world();
        if point.is_finite() {
            self.release();
            self.forget_goal(point);
            (self.state.pending.aim, self.state.limits.barrier) = (None, None);
            self.state.goal.room = None;
            self.state.motion.focus = Moving { position: point, velocity: DVec2::ZERO };
            self.begin_shapes();
            self.stay_in_range();
        }
    }

    /// Looks at this world point from the next frame on, for as long as no subject is followed.
    /// Points that are not finite change nothing.
    pub fn aim_at(&mut self, point: impl IntoWorld) {
        let point = point.into_world();
        if point.is_finite() {
            self.state.pending.aim = Some(point);
        }
    }

    /// The next frame's subject is another one: its place is a new goal, not a movement.
    pub fn switch_subject(&mut self) {
        self.state.goal.track.forget();
    }

    /// Comes to the goal in exactly `seconds`, though it moves meanwhile; a new glide starts from
    /// the present position. Times that are not above 0 cut.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Ease, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.follow(0.0, [0, 0]);
    /// camera.switch_subject(); // another subject, 300 away
    /// camera.glide(0.5, Ease::InOut);
    /// camera.follow(0.1, [300, 0]); // the glide begins with this frame
    /// assert_eq!(camera.follow(0.25, [300, 0]).centre().x, 150.0);
    /// assert_eq!(camera.follow(0.25, [320, 0]).centre().x, 320.0);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn glide(&mut self, seconds: impl IntoSeconds, ease: Ease) {
        let seconds = usable_seconds(seconds.into_seconds());
        if seconds > 0.0 {
            self.state.pending.glide = Some(Glide::new(DVec2::ZERO, seconds, ease));
        } else {
            self.cut();
        }
    }

    /// New bounds, or none. Where the allowed range of the view changes it does so within
    /// `seconds`, so that nothing jumps; lifted bounds are gone at once.
    ///
    /// # Errors
    ///
    /// Bounds that can't be used; the camera then keeps its old ones.
    pub fn set_bounds(
        &mut self,
        bounds: Option<Bounds>,
        seconds: impl IntoSeconds,
    ) -> Result<(), SettingsError> {
        let changed = Settings { bounds, ..self.settings.clone() };
        changed.validate()?;
        let before = if self.settings.bounds.is_some() {
            Some(self.framing.range)
        } else {
            // From everywhere: from as much as is needed for where the view is.
            bounds.map(|bounds| {
                let (to, centre) = (bounds.centre_range(&self.framing.lens), self.centre());
                Rect { min: to.min.min(centre), max: to.max.max(centre) }
            })
        };
        self.settings = changed;
        self.derive();
        let seconds = usable_seconds(seconds.into_seconds());
        self.state.limits.bounds = before
            .filter(|_| bounds.is_some() && seconds > 0.0)
            .map(|from| BoundsBlend::new(from, seconds));
        self.state.pending.bounds = true;
        self.zoom_to(self.state.lens.zoom.wanted());
        self.refresh();
        Ok(())
    }

    /// Moves everything by `delta` world units, for worlds that loop: when the game moves all its
    /// positions, nothing moves on the screen. Bounds stay where they are. Differences that are not
    /// finite change nothing.
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
        if !delta.is_finite() {
            return;
        }
        self.move_focus(delta);
        let CameraState { goal, motion, limits, shakes, pending, .. } = &mut self.state;
        goal.memory.goal += delta;
        goal.memory.scroll += delta;
        goal.track.translate(delta);
        goal.party.translate(delta);
        if let Some(room) = &mut goal.room {
            room.translate(delta);
        }
        pending.aim = pending.aim.map(|aim| aim + delta);
        if let Some(barrier) = &mut limits.barrier {
            barrier.translate(delta);
        }
        shakes.translate(delta);
        match &mut motion.hand {
            Hand::Grab(grip) | Hand::Pin(grip) => grip.world += delta,
            Hand::Show(position) => *position += delta,
            Hand::Off | Hand::Nudge => {}
        }
        self.stay_in_range();
    }

    /// The line that a ratcheted view has left behind; none without a ratchet.
    #[must_use]
    pub fn barrier(&self) -> Option<Barrier> {
        self.state.limits.barrier
    }

    /// Glides to this zoom; at 2 everything appears twice as large, and the point at the anchor
    /// stays there. Values that are not a number change nothing; others are held within the range.
    pub fn zoom_to(&mut self, zoom: f64) {
        if !zoom.is_nan() {
            let zoom = self.limited_zoom(zoom);
            self.state.lens.zoom.head_for(zoom);
            self.state.pending.zoom = true;
        }
    }

    /// The same at once, without a glide.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.zoom_now(2.0);
    /// assert_eq!(camera.view().visible_world().size(), [160.0, 90.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn zoom_now(&mut self, zoom: f64) {
        if !zoom.is_nan() {
            self.state.lens.zoom = ZoomGlide::at(self.limited_zoom(zoom));
            self.refresh();
        }
    }

    /// A zoom within the range, and what bounds and ratchet leave of it.
    fn limited_zoom(&self, zoom: f64) -> f64 {
        let least = self.framing.least_zoom(&self.settings, &self.state.limits);
        self.settings.zoom.limited(zoom, least)
    }

    /// Glides by so many notches of a wheel, closer for positive ones. With a screen point, the
    /// world point under it stays there on every frame of the glide, and following waits until the
    /// glide is over.
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
        if !notches.is_finite() {
            return;
        }
        let grip = about.filter(|point| point.is_finite()).map(|at| Grip::at(&self.view(), at));
        self.zoom_to(self.settings.zoom.notched(self.state.lens.zoom.wanted(), notches));
        if let Some(grip) = grip
            && !matches!(self.state.motion.hand, Hand::Grab(_))
            && !self.state.lens.zoom.rests()
        {
            self.take_in_hand(Hand::Pin(grip));
        }
    }

    /// Glides to `rotation` radians, clockwise as seen on the screen, by the shorter way, with the
    /// half-life [`Rotation::half_life`](crate::Rotation::half_life). The point at the anchor stays
    /// there. Values that are not finite change nothing.
    pub fn rotate_to(&mut self, rotation: f64) {
        if rotation.is_finite() {
            self.state.lens.rotation.head_for(rotation);
            self.state.pending.rotation = true;
        }
    }

    /// Turns the camera to `rotation` radians at once, clockwise as seen on the screen. Values that
    /// are not finite change nothing.
    pub fn rotate_now(&mut self, rotation: f64) {
        if rotation.is_finite() {
            self.state.lens.rotation = RotationGlide::at(rotation);
            self.refresh();
        }
    }

    /// What was told since the last frame takes effect at the end of this one.
    pub(super) fn obey_commands(&mut self) {
        let aim = self.state.pending.aim;
        let told =
            core::mem::replace(&mut self.state.pending, Pending { aim, ..Pending::default() });
        if let Some(pause) = told.pause {
            self.state.motion.pause = self.state.motion.pause.max(pause);
        }
        if told.nudge.is_some() {
            self.state.lens.nudge = told.nudge;
        }
        self.move_zoom(0.0);
        self.refresh_framing();
        self.obey_hand();
        self.stay_in_range();
    }
}
