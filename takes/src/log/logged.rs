//! A camera whose calls are noted.

use std::ops::Deref;
use std::sync::Arc;

use velvet_pan::glam::Vec2;
use velvet_pan::{
    Bounds, Camera, CameraState, Command, CueCall, Ease, IntoSeconds, IntoWorld, ItineraryTarget,
    Rect, Settings, SettingsError, Shake, StateError, Subject, Travel, TravelError, UnknownCue,
    View, WindowPoint, WindowSize,
};

use super::book::Book;
use super::call::{Call, What};
use super::shown_view::ShownView;

/// A camera whose calls are noted in a [`RideLog`](super::RideLog). It has the methods of [`Camera`], and can be read
/// as one.
#[derive(Debug)]
pub struct LoggedCamera<'a> {
    pub(super) camera: &'a mut Camera,
    pub(super) key: Arc<str>,
    pub(super) book: &'a Book,
}

impl Deref for LoggedCamera<'_> {
    type Target = Camera;

    fn deref(&self) -> &Camera {
        self.camera
    }
}

impl LoggedCamera<'_> {
    fn note(&self, what: What, seconds: f64) {
        self.book.note(|| Call::new(&self.key, what).after(seconds));
    }

    /// Runs a frame.
    pub(super) fn run(&mut self, what: What, seconds: f64, subjects: &[Subject]) -> View {
        let (view, subject) = match (&what, subjects) {
            (What::Follow, [subject]) => (self.camera.follow(seconds, *subject), Some(*subject)),
            (What::FollowAll, subjects) => {
                for subject in subjects {
                    let member = Call::new(&self.key, What::Member);
                    self.book.note(|| Call { subject: Some(*subject), ..member });
                }
                (self.camera.follow_all(seconds, subjects), None)
            }
            _ => (self.camera.advance(seconds), None),
        };
        self.book.note(|| Call {
            subject,
            shown: Some(ShownView::of(&view)),
            ..Call::new(&self.key, what).after(seconds)
        });
        view
    }

    /// Tells a command.
    pub(super) fn say(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError> {
        match &command {
            // Games may repeat both before every frame.
            Command::SetSettings { settings, .. } if **settings == *self.camera.settings() => {}
            Command::Resize(window) if *window == self.camera.view().window_size() => {}
            Command::SetSettings { settings, seconds } => {
                self.note(What::Settings(settings.clone()), *seconds);
            }
            _ => self.note(What::Tell(command.clone()), before_end),
        }
        self.camera.tell_due(command, before_end)
    }

    pub(super) fn put_back(&mut self, state: CameraState) -> Result<(), StateError> {
        self.note(What::Restore(Box::new(state)), 0.0);
        self.camera.restore(state)
    }

    pub(super) fn call_cue(&mut self, name: &str, call: CueCall) -> Result<(), UnknownCue> {
        self.note(What::Tell(Command::Cue { name: name.to_owned(), call }), 0.0);
        self.camera.cue(name, call)
    }
}

/// The methods of a camera, for what can `run`, `say`, `put_back` and `call_cue`.
macro_rules! methods_of_a_camera {
    ($this:ident) => {
        /// See [`Camera::follow`].
        pub fn follow(&mut $this, seconds: impl IntoSeconds, subject: impl Into<Subject>) -> View {
            $this.run(What::Follow, seconds.into_seconds(), &[subject.into()])
        }

        /// See [`Camera::follow_all`].
        pub fn follow_all(&mut $this, seconds: impl IntoSeconds, subjects: &[Subject]) -> View {
            $this.run(What::FollowAll, seconds.into_seconds(), subjects)
        }

        /// See [`Camera::advance`].
        pub fn advance(&mut $this, seconds: impl IntoSeconds) -> View {
            $this.run(What::Advance, seconds.into_seconds(), &[])
        }

        /// See [`Camera::tell`].
        ///
        /// # Errors
        ///
        /// As there.
        pub fn tell(&mut $this, command: Command) -> Result<(), SettingsError> {
            $this.tell_due(command, 0.0)
        }

        /// See [`Camera::tell_due`].
        ///
        /// # Errors
        ///
        /// As there.
        pub fn tell_due(
            &mut $this,
            command: Command,
            before_end: impl IntoSeconds,
        ) -> Result<(), SettingsError> {
            $this.say(command, before_end.into_seconds())
        }

        /// See [`Camera::restore`].
        ///
        /// # Errors
        ///
        /// As there.
        pub fn restore(&mut $this, state: CameraState) -> Result<(), StateError> {
            $this.put_back(state)
        }

        /// See [`Camera::set_settings`].
        ///
        /// # Errors
        ///
        /// As there.
        pub fn set_settings(
            &mut $this,
            settings: Settings,
            seconds: impl IntoSeconds,
        ) -> Result<(), SettingsError> {
            let (settings, seconds) = (Box::new(settings), seconds.into_seconds());
            $this.tell(Command::SetSettings { settings, seconds })
        }

        /// See [`Camera::set_bounds`].
        ///
        /// # Errors
        ///
        /// As there.
        pub fn set_bounds(
            &mut $this,
            bounds: Option<Bounds>,
            seconds: impl IntoSeconds,
        ) -> Result<(), SettingsError> {
            $this.tell(Command::SetBounds { bounds, seconds: seconds.into_seconds() })
        }

        /// See [`Camera::travel`].
        ///
        /// # Errors
        ///
        /// As there.
        pub fn travel(&mut $this, travel: &Travel) -> Result<(), TravelError> {
            travel.fault().map_or(Ok(()), Err)?;
            $this.told(Command::Travel(travel.clone()));
            Ok(())
        }

        /// See [`Camera::cue`].
        ///
        /// # Errors
        ///
        /// As there.
        pub fn cue(&mut $this, name: &str, call: impl Into<CueCall>) -> Result<(), UnknownCue> {
            $this.call_cue(name, call.into())
        }

        /// See [`Camera::grab_at_window`].
        pub fn grab_at_window(&mut $this, point: impl Into<WindowPoint>) -> bool {
            let screen = $this.view().window_to_screen(point);
            screen.map(|screen| $this.grab(screen)).is_some()
        }

        /// See [`Camera::drag_to_window`].
        pub fn drag_to_window(&mut $this, point: impl Into<WindowPoint>) {
            let screen = $this.view().window_to_screen_unbounded(point);
            $this.drag_to(screen);
        }

        /// See [`Camera::zoom_by_at_window`].
        pub fn zoom_by_at_window(&mut $this, notches: f64, point: impl Into<WindowPoint>) {
            let about = $this.view().window_to_screen(point);
            $this.zoom_by(notches, about);
        }

        /// Tells what can't be refused.
        fn told(&mut $this, command: Command) {
            let _never_refused = $this.tell(command);
        }

        methods_of_a_camera! { $this,
            resize(window: impl Into<WindowSize>) Resize(window.into());
            place_at(point: impl IntoWorld) PlaceAt(point.into_world());
            zoom_now(zoom: f64) ZoomNow(zoom);
            rotate_now(rotation: f64) RotateNow(rotation);
            translate(delta: impl IntoWorld) Translate(delta.into_world());
            end_shakes(seconds: impl IntoSeconds) EndShakes(seconds.into_seconds());
            pause_shakes(paused: bool) PauseShakes(paused);
            advance_shakes(seconds: impl IntoSeconds) AdvanceShakes(seconds.into_seconds());
            cut() Cut;
            switch_subject() SwitchSubject;
            aim_at(point: impl IntoWorld) AimAt(point.into_world());
            zoom_to(zoom: f64) ZoomTo(zoom);
            zoom_by(notches: f64, about: Option<Vec2>) ZoomBy { notches, about };
            rotate_to(rotation: f64) RotateTo(rotation);
            grab(screen: Vec2) Grab(screen);
            drag_to(screen: Vec2) DragTo(screen);
            release() Release;
            pan(pixels: Vec2) Pan(pixels);
            shake(shake: &Shake, strength: f64) Shake { shake: *shake, strength };
            glide(seconds: impl IntoSeconds, ease: Ease) Glide { seconds: seconds.into_seconds(), ease };
            show(rect: &Rect, seconds: impl IntoSeconds, ease: Ease)
                Show { rect: *rect, seconds: seconds.into_seconds(), ease };
        }
    };
    ($this:ident, $($name:ident($($arg:ident: $kind:ty),*) $command:ident $(($told:expr))? $({ $($field:tt)* })?;)*) => {
        $(
            #[doc = concat!("See [`Camera::", stringify!($name), "`].")]
            pub fn $name(&mut $this, $($arg: $kind),*) {
                $this.told(Command::$command $(($told))? $({ $($field)* })?);
            }
        )*
    };
}

pub(super) use methods_of_a_camera;

impl LoggedCamera<'_> {
    methods_of_a_camera!(self);
}

impl ItineraryTarget for LoggedCamera<'_> {
    fn tell_due(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError> {
        Self::tell_due(self, command, before_end)
    }

    fn glide_to_due(&mut self, key: &str, seconds: f64, ease: Ease, before_view: f64) -> bool {
        ItineraryTarget::glide_to_due(self.camera, key, seconds, ease, before_view)
    }

    fn has_arrived(&self) -> bool {
        self.camera.has_arrived()
    }

    fn ignore_hands(&mut self, ignored: bool) {
        self.note(What::IgnoreHands(ignored), 0.0);
        self.camera.ignore_hands(ignored);
    }

    fn count_cut(&mut self) {
        self.note(What::CountCut, 0.0);
        self.camera.count_cut();
    }
}
