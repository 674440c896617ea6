//! A camera or a set of cameras whose calls are logged.

use std::ops::{Deref, DerefMut};
use std::path::Path;

use velvet_pan::{
    Camera, Cameras, Command, Ease, IntoSeconds, ItineraryTarget, SettingsError, Standing, View,
    WindowSize,
};

use super::book::{Book, LogOptions};
use super::call::{Call, What};
use super::shown_view::ShownView;
use crate::take::subjects::MAIN;
use crate::text::fault::Fault;

/// A [`Camera`] or a set of [`Cameras`] that logs every call of the game, as a take that grows.
///
/// It is used as the camera itself, so the rest of the game stays as it is. The log is a
/// folder with a part for each start: `part-1/take.toml` and so on. `velvet-pan replay part-1/take.toml` runs the
/// game's camera again, to the bit; `trace`, `chart`, `film` and the others read it as any take.
///
/// In a frame a call is only noted. A thread writes every 0.1 seconds. Without the cargo feature `ride-log`, which is
/// on by default, nothing is logged and the calls go straight to the camera.
///
/// ```
/// use velvet_pan::{Camera, Settings};
/// use velvet_pan_takes::{RideLog, Take, newest_part};
/// # let folder = std::env::temp_dir().join("velvet-pan-log");
/// # let _ = std::fs::remove_dir_all(&folder);
///
/// let mut camera = RideLog::new(Camera::new(Settings::default())?, &folder)?;
/// for frame in 0..60 {
///     camera.follow(1.0 / 60.0, [f64::from(frame), 0.0]);
/// }
/// camera.zoom_to(2.0);
/// camera.advance(1.0 / 60.0);
/// drop(camera); // the rest is written
///
/// let take = Take::open(newest_part(&folder).unwrap())?;
/// let log = take.log.unwrap();
/// assert_eq!((log.frames(), log.first_difference()), (61, None));
/// # std::fs::remove_dir_all(&folder)?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug)]
#[expect(private_bounds, reason = "these are a camera and a set of cameras")]
pub struct RideLog<T: Logged = Camera> {
    target: T,
    book: Book,
    /// The time since the last head of the log, in seconds.
    age: f64,
}

/// What can be logged.
trait Logged: ItineraryTarget {
    /// Whether a frame of a camera is a frame of the game. In a set the view is.
    const IS_ALONE: bool;

    /// Passes each camera, with its key, in order.
    fn each(&mut self, seen: &mut dyn FnMut(&str, &mut Camera));
}

impl Logged for Camera {
    const IS_ALONE: bool = true;

    fn each(&mut self, seen: &mut dyn FnMut(&str, &mut Camera)) {
        seen(MAIN, self);
    }
}

impl Logged for Cameras<String> {
    const IS_ALONE: bool = false;

    fn each(&mut self, seen: &mut dyn FnMut(&str, &mut Camera)) {
        self.iter_mut().for_each(|(key, camera)| seen(key, camera));
    }
}

impl<T: Logged> Deref for RideLog<T> {
    type Target = T;

    fn deref(&self) -> &T {
        &self.target
    }
}

/// What is called is noted by the camera, and taken before the next call.
impl DerefMut for RideLog<Camera> {
    fn deref_mut(&mut self) -> &mut Camera {
        self.collect();
        &mut self.target
    }
}

impl<T: Logged> Drop for RideLog<T> {
    fn drop(&mut self) {
        self.collect();
    }
}

#[expect(private_bounds, reason = "these are a camera and a set of cameras")]
impl<T: Logged> RideLog<T> {
    /// Logs everything into a new part of a folder.
    ///
    /// # Errors
    ///
    /// There is no thread for it. What goes wrong later is in [`fault`](Self::fault); the game goes on.
    pub fn new(target: T, folder: impl AsRef<Path>) -> Result<Self, Fault> {
        Self::with(target, folder, LogOptions::default())
    }

    /// Logs with these options.
    ///
    /// # Errors
    ///
    /// As [`new`](Self::new).
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// # use velvet_pan_takes::{Keep, LogOptions, RideLog, newest_part};
    /// # let folder = std::env::temp_dir().join("velvet-pan-last");
    /// # let _ = std::fs::remove_dir_all(&folder);
    /// let camera = Camera::new(Settings::default())?;
    /// let options = LogOptions { keep: Keep::Last { seconds: 10.0 }, ..LogOptions::default() };
    /// let mut camera = RideLog::with(camera, &folder, options)?;
    /// camera.follow(1.0 / 60.0, [3.0, 4.0]);
    /// assert_eq!(newest_part(&folder), None);
    /// camera.write(); // on a key
    /// assert!(newest_part(&folder).is_some());
    /// # std::fs::remove_dir_all(&folder)?;
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn with(target: T, folder: impl AsRef<Path>, options: LogOptions) -> Result<Self, Fault> {
        let book = Book::new(folder.as_ref(), options)?;
        let mut log = Self { target, book, age: 0.0 };
        log.record(true);
        Ok(log)
    }

    /// Starts or stops logging. A new start begins a new part. What was told since the last frame is not in it, so start after
    /// a frame.
    pub fn record(&mut self, records: bool) {
        self.collect();
        self.book.records = records && cfg!(feature = "ride-log");
        if records {
            self.collect();
        } else {
            self.target.each(&mut |_, camera| camera.calls().note(false));
        }
    }

    /// Waits until everything that was noted is written; with [`Keep::Last`](super::Keep::Last), as a new part.
    pub fn write(&mut self) {
        self.collect();
        self.book.write();
    }

    /// Returns what went wrong with the log, once. The game goes on without it.
    pub fn fault(&self) -> Option<Fault> {
        self.book.take_fault()
    }

    /// Begins a new stretch here.
    fn begin(&mut self) {
        self.age = 0.0;
        let mut cameras = Vec::new();
        self.target.each(&mut |key, camera| cameras.push((key.to_owned(), Standing::of(camera))));
        self.book.note(Call::new(MAIN, What::Begin(cameras)));
    }

    /// Notes what was called since, then something of the set itself.
    fn note(&mut self, key: &str, what: What, seconds: f64) {
        self.collect();
        self.book.note(Call::new(key, what).after(seconds));
    }

    /// Hands what was called since to the book. A camera that notes nothing is a new one.
    fn collect(&mut self) {
        let Self { target, book, age } = self;
        let mut is_new = false;
        target.each(&mut |key, camera| {
            for noted in camera.calls().take() {
                let call = Call::of(key, noted);
                match call.what {
                    What::Begin(_) => *age = 0.0,
                    ref what if T::IS_ALONE && what.is_frame() => *age += lasting(call.seconds),
                    _ => {}
                }
                book.note(call);
            }
            if T::IS_ALONE && book.wants_beginning(*age) {
                camera.calls().note_standing();
            }
            if book.records && !camera.calls().are_noted() {
                camera.calls().note(true);
                is_new = true;
            }
        });
        if is_new {
            self.begin();
        }
    }
}

/// The time that a step takes. Wrong ones take none.
fn lasting(seconds: f64) -> f64 {
    if seconds.is_finite() { seconds.max(0.0) } else { 0.0 }
}

#[expect(private_bounds, reason = "these are a camera and a set of cameras")]
impl<T: Logged + Clone> RideLog<T> {
    /// Ends the log, and returns the camera.
    #[must_use]
    pub fn into_inner(self) -> T {
        // A log writes its rest when it is dropped, so nothing can be moved out of it.
        self.target.clone()
    }
}

impl<T: Logged> ItineraryTarget for RideLog<T> {
    fn tell_due(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError> {
        self.collect();
        self.target.tell_due(command, before_end)
    }

    fn glide_to_due(&mut self, key: &str, seconds: f64, ease: Ease, before_view: f64) -> bool {
        self.note(key, What::GlideTo { seconds, ease }, before_view);
        self.target.glide_to_due(key, seconds, ease, before_view)
    }

    fn has_arrived(&self) -> bool {
        self.target.has_arrived()
    }

    fn ignore_hands(&mut self, ignored: bool) {
        self.target.ignore_hands(ignored);
    }

    fn count_cut(&mut self) {
        self.target.count_cut();
    }
}

impl RideLog<Cameras<String>> {
    /// See [`Cameras::get_mut`]. `None` for an unknown key.
    pub fn get_mut(&mut self, key: &str) -> Option<&mut Camera> {
        self.collect();
        self.target.get_mut(&key.to_owned())
    }

    /// See [`Cameras::active_mut`].
    pub fn active_mut(&mut self) -> &mut Camera {
        self.collect();
        self.target.active_mut()
    }

    /// See [`Cameras::iter_mut`].
    pub fn iter_mut(&mut self) -> impl Iterator<Item = (&String, &mut Camera)> {
        self.collect();
        self.target.iter_mut()
    }

    /// See [`Cameras::view`].
    pub fn view(&mut self, seconds: impl IntoSeconds) -> View {
        let seconds = seconds.into_seconds();
        self.collect();
        let view = self.target.view(seconds);
        let call = Call::new(self.target.active_key(), What::View);
        self.book.note(Call { shown: Some(ShownView::of(&view)), ..call.after(seconds) });
        self.age += lasting(seconds);
        if self.book.wants_beginning(self.age) {
            self.begin();
        }
        view
    }

    /// See [`Cameras::insert`].
    pub fn insert(&mut self, key: &str, mut camera: Camera) -> Option<Camera> {
        self.collect();
        camera.calls().note(self.book.records);
        for call in Call::set_up(key, Standing::of(&camera)) {
            self.book.note(call);
        }
        self.target.insert(key.to_owned(), camera)
    }

    /// See [`Cameras::remove`].
    pub fn remove(&mut self, key: &str) -> Option<Camera> {
        self.note(key, What::Remove, 0.0);
        self.target.remove(&key.to_owned())
    }

    /// See [`Cameras::switch_to`].
    pub fn switch_to(&mut self, key: &str) -> bool {
        self.note(key, What::SwitchTo, 0.0);
        self.target.switch_to(&key.to_owned())
    }

    /// See [`Cameras::glide_to`].
    pub fn glide_to(&mut self, key: &str, seconds: impl IntoSeconds, ease: Ease) -> bool {
        self.glide_to_due(key, seconds, ease, 0.0)
    }

    /// See [`Cameras::glide_to_due`].
    pub fn glide_to_due(
        &mut self,
        key: &str,
        seconds: impl IntoSeconds,
        ease: Ease,
        before_view: impl IntoSeconds,
    ) -> bool {
        let (seconds, before_view) = (seconds.into_seconds(), before_view.into_seconds());
        ItineraryTarget::glide_to_due(self, key, seconds, ease, before_view)
    }

    /// See [`Cameras::resize`].
    pub fn resize(&mut self, window: impl Into<WindowSize>) {
        self.target.resize(window);
    }
}
