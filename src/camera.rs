//! The camera: settings, and the few numbers that last from frame to frame.

use glam::DVec2;

use crate::convert::{IntoSeconds, IntoWorld};
use crate::course::Course;
use crate::error::SettingsError;
use crate::lens::Lens;
use crate::maths::usable_seconds;
use crate::rect::Rect;
use crate::settings::Settings;
use crate::smoothing::Motion;
use crate::subject::Subject;
use crate::view::View;
use crate::window::WindowSize;

/// A camera: each frame it takes time and a subject, and answers with a [`View`].
///
/// It runs the stages in order (lens, goal, motion, allowed range, view) and holds no arithmetic of
/// its own. The first frame with a subject cuts to it. Bad numbers never move it: a step that is
/// negative or not finite counts as 0, a position that is not finite as a lost subject.
///
/// ```
/// use velvet_pan::{Camera, Settings, Smoothing};
///
/// let mut settings = Settings::default();
/// settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
/// let mut camera = Camera::new(settings)?;
///
/// camera.follow(0.0, [100.0, 50.0]);
/// let view = camera.follow(0.1, [100.0, 50.0]);
/// assert_eq!(view.centre().x, 100.0); // the first frame cut to the subject
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Debug)]
pub struct Camera {
    settings: Settings,
    lens: Lens,
    window: WindowSize,
    motion: Motion,
    state: CameraState,
}

/// What lasts from frame to frame: small, `Copy`, and enough to go back to an earlier moment.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct CameraState {
    /// The world point held at the anchor.
    pub focus: DVec2,
    /// Where the focus wants to be, before the bounds.
    pub goal: DVec2,
    /// Whether the next frame with a subject cuts to it.
    pub cut: bool,
    /// The zoom.
    pub zoom: f64,
    /// The rotation in radians.
    pub rotation: f64,
}

impl Camera {
    /// A camera with these settings, looking at the middle of its bounds, or at the world's origin.
    ///
    /// # Errors
    ///
    /// The first setting that can't be used: which, what it was, and what would be right.
    pub fn new(settings: Settings) -> Result<Self, SettingsError> {
        settings.validate()?;
        let focus = settings.bounds.map_or(DVec2::ZERO, |bounds| bounds.rect.centre());
        let zoom = settings.zoom.level;
        let mut camera = Self {
            lens: Lens::new(&settings.screen).with_zoom(zoom),
            window: settings.screen.size.into(),
            motion: Motion::default(),
            state: CameraState { focus, goal: focus, cut: true, zoom, rotation: 0.0 },
            settings,
        };
        camera.stay_allowed();
        Ok(camera)
    }

    /// The settings in use.
    #[must_use]
    pub fn settings(&self) -> &Settings {
        &self.settings
    }

    /// Changes the settings in mid-flight; the camera goes on from where it is, at its present
    /// zoom.
    ///
    /// # Errors
    ///
    /// The first setting that can't be used; the camera then keeps its old ones.
    pub fn set_settings(&mut self, settings: Settings) -> Result<(), SettingsError> {
        settings.validate()?;
        self.settings = settings;
        self.refresh_lens();
        Ok(())
    }

    /// What lasts from frame to frame: save it for a replay or a rollback.
    #[must_use]
    pub fn state(&self) -> CameraState {
        self.state
    }

    /// Goes back to a saved state; with the same settings and inputs it continues with the same
    /// bits.
    ///
    /// A state with numbers that are not finite is not taken.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.follow(0.016, [40, 20]);
    /// let saved = camera.state();
    /// let once = camera.follow(0.016, [90, 20]);
    /// camera.restore(saved);
    /// assert_eq!(camera.follow(0.016, [90, 20]), once);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn restore(&mut self, state: CameraState) {
        let numbers = [state.zoom, state.rotation];
        let finite = numbers.iter().all(|number| number.is_finite());
        if finite && state.focus.is_finite() && state.goal.is_finite() {
            self.state = state;
            self.refresh_lens();
        }
    }

    /// Tells the camera the window's size in physical pixels; zero is a minimised window.
    pub fn resize(&mut self, window: impl Into<WindowSize>) {
        self.window = window.into();
    }

    /// The zoom: at 2 everything appears twice as large. The world point at the anchor stays
    /// there. Values that are not a number change nothing; others are held from 1e-9 to 1e9.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.set_zoom(2.0);
    /// assert_eq!(camera.view().visible().size(), [160.0, 90.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn set_zoom(&mut self, zoom: f64) {
        self.lens = self.lens.with_zoom(zoom);
        self.state.zoom = self.lens.zoom();
        self.stay_allowed();
    }

    /// Turns the camera to `rotation` radians, clockwise as seen on the screen. Values that are
    /// not finite change nothing.
    pub fn set_rotation(&mut self, rotation: f64) {
        self.lens = self.lens.with_rotation(rotation);
        self.state.rotation = self.lens.rotation();
        self.stay_allowed();
    }

    /// The next frame with a subject cuts to it instead of gliding: after a teleport, say.
    pub fn cut(&mut self) {
        self.state.cut = true;
    }

    /// Looks at this world point from now on, at once; the point is held at the anchor. Points
    /// that are not finite change nothing.
    pub fn cut_to(&mut self, point: impl IntoWorld) {
        let point = point.into_world();
        if point.is_finite() {
            self.state.goal = point;
            self.state.focus = point;
            self.stay_allowed();
        }
    }

    /// A frame with one subject, `seconds` after the last: anything that is a world point, or a
    /// [`Subject`].
    #[inline]
    pub fn follow(&mut self, seconds: impl IntoSeconds, subject: impl Into<Subject>) -> View {
        self.step(seconds.into_seconds(), Some(subject.into()))
    }

    /// A frame without a subject: the goal stays, and the camera comes to it.
    #[inline]
    pub fn rest(&mut self, seconds: impl IntoSeconds) -> View {
        self.step(seconds.into_seconds(), None)
    }

    /// What the camera sees as it stands.
    #[inline]
    #[must_use]
    pub fn view(&self) -> View {
        let screen = &self.settings.screen;
        let view = View::new(self.lens, self.centre(), screen.snap)
            .fitted(screen.fit)
            .in_window(self.window);
        match &self.settings.bounds {
            Some(bounds) => view.corner_held_within(&bounds.rect),
            None => view,
        }
    }

    /// The goal as a centre of the view, after the bounds: where the camera is heading.
    #[must_use]
    pub fn goal(&self) -> DVec2 {
        self.centre_range().nearest(self.state.goal - self.anchor_offset())
    }

    fn step(&mut self, seconds: f64, subject: Option<Subject>) -> View {
        let seconds = usable_seconds(seconds);
        let course = self.goal_course(subject);
        let focus = self.motion.advance(
            &self.settings.follow.smoothing,
            self.state.focus,
            &course,
            seconds,
            self.lens.scale(),
        );
        if focus.is_finite() {
            self.state.focus = focus;
        }
        self.stay_allowed();
        self.view()
    }

    /// The way of the goal through this step, bounded; a cut puts the focus on it.
    #[inline]
    fn goal_course(&mut self, subject: Option<Subject>) -> Course {
        let last = self.state.goal;
        let want = subject.and_then(|subject| self.settings.follow.want(last, &subject));
        let cut = self.state.cut && want.is_some();
        self.state.goal = want.unwrap_or(last);
        let mut course =
            Course::straight(if cut { self.state.goal } else { last }, self.state.goal);
        let (range, offset) = (self.centre_range(), self.anchor_offset());
        course.clamp(range.min + offset, range.max + offset);
        if cut {
            self.state.cut = false;
            self.state.focus = course.end();
        }
        course
    }

    /// Where the centre may be: always wins.
    #[inline]
    fn centre_range(&self) -> Rect {
        match &self.settings.bounds {
            Some(bounds) => bounds.centre_range(&self.lens),
            None => Rect::EVERYWHERE,
        }
    }

    #[inline]
    fn stay_allowed(&mut self) {
        let offset = self.anchor_offset();
        let centre = self.state.focus - offset;
        let allowed = self.centre_range().nearest(centre);
        if allowed != centre {
            self.state.focus = allowed + offset;
        }
    }

    #[inline]
    fn centre(&self) -> DVec2 {
        // The range once more: adding and taking the anchor away again may cost the last bit.
        self.centre_range().nearest(self.state.focus - self.anchor_offset())
    }

    #[inline]
    fn anchor_offset(&self) -> DVec2 {
        self.lens.anchor_offset(self.settings.follow.anchor)
    }

    fn refresh_lens(&mut self) {
        self.lens = Lens::new(&self.settings.screen)
            .with_zoom(self.state.zoom)
            .with_rotation(self.state.rotation);
        self.stay_allowed();
    }
}
