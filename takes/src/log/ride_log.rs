//! A camera or a set of cameras whose calls are logged.

use std::mem::replace;
use std::ops::Deref;
use std::path::Path;
use std::sync::Arc;

use velvet_pan::glam::Vec2;
use velvet_pan::{
    Bounds, Camera, CameraState, Cameras, Command, CueCall, Ease, IntoSeconds, IntoWorld,
    ItineraryTarget, Rect, Settings, SettingsError, Shake, StateError, Subject, Travel,
    TravelError, UnknownCue, View, WindowPoint, WindowSize,
};

use super::book::{Book, Keep, LogOptions};
use super::call::{Call, What};
use super::logged::{LoggedCamera, methods_of_a_camera};
use super::shown_view::ShownView;
use crate::take::subjects::MAIN;
use crate::text::fault::Fault;

/// A [`Camera`] or a set of [`Cameras`] that logs every call of the game, as a take that grows.
///
/// It has the same methods, so the rest of the game stays as it is. Reading goes to the camera itself. The log is a
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
pub struct RideLog<T = Camera> {
    target: T,
    /// The keys of all cameras.
    keys: Vec<Arc<str>>,
    book: Book,
    /// The time since the last head of the log, in seconds.
    age: f64,
}

impl<T> Deref for RideLog<T> {
    type Target = T;

    fn deref(&self) -> &T {
        &self.target
    }
}

/// What can be logged.
trait Heads {
    /// Returns the calls that set up what there is now.
    fn head(&self) -> Vec<Call>;
}

/// Returns the calls that set up a camera.
fn head_of(key: &Arc<str>, camera: &Camera) -> [Call; 3] {
    let window = camera.view().window_size();
    [
        What::Insert(Box::new(camera.settings().clone())),
        What::Tell(Command::Resize(window)),
        What::Restore(Box::new(camera.state())),
    ]
    .map(|what| Call::new(key, what))
}

impl Heads for Camera {
    fn head(&self) -> Vec<Call> {
        head_of(&MAIN.into(), self).into()
    }
}

impl Heads for Cameras<String> {
    fn head(&self) -> Vec<Call> {
        let cameras = self.iter().map(|(key, camera)| head_of(&key.as_str().into(), camera));
        cameras.flatten().collect()
    }
}

#[expect(private_bounds, reason = "these are a camera and a set of cameras")]
impl<T: Heads> RideLog<T> {
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
        let mut log = Self { target, keys: Vec::new(), book, age: 0.0 };
        log.record(true);
        Ok(log)
    }

    /// Starts or stops logging. A new start begins a new part. What was told since the last frame is not in it, so start after
    /// a frame.
    pub fn record(&mut self, records: bool) {
        if replace(&mut self.book.records, records) != records && records {
            self.begin();
        }
    }

    /// Waits until everything that was noted is written; with [`Keep::Last`], as a new part.
    pub fn write(&self) {
        self.book.write();
    }

    /// Returns what went wrong with the log, once. The game goes on without it.
    pub fn fault(&self) -> Option<Fault> {
        self.book.take_fault()
    }

    /// Ends the log, and returns the camera.
    pub fn into_inner(self) -> T {
        self.target
    }

    fn begin(&mut self) {
        self.age = 0.0;
        let head = self.target.head();
        self.book.note(|| Call::new(&MAIN.into(), What::Begin(head.len())));
        for call in head {
            self.book.note(|| call);
        }
    }

    /// Returns the key of a camera, without a copy if it is known.
    fn key(&mut self, key: &str) -> Arc<str> {
        if let Some(known) = self.keys.iter().find(|known| ***known == *key) {
            return Arc::clone(known);
        }
        let new: Arc<str> = key.into();
        self.keys.push(Arc::clone(&new));
        new
    }

    /// Begins a new stretch where only the last seconds are kept.
    fn age(&mut self, seconds: f64) {
        self.age += if seconds.is_finite() { seconds.max(0.0) } else { 0.0 };
        let Keep::Last { seconds } = self.book.keep else { return };
        if self.book.records && self.age >= seconds {
            self.begin();
        }
    }
}

impl RideLog<Camera> {
    fn logged(&mut self) -> LoggedCamera<'_> {
        let key = self.key(MAIN);
        LoggedCamera { camera: &mut self.target, key, book: &self.book }
    }

    fn run(&mut self, what: What, seconds: f64, subjects: &[Subject]) -> View {
        let view = self.logged().run(what, seconds, subjects);
        self.age(seconds);
        view
    }

    fn say(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError> {
        self.logged().say(command, before_end)
    }

    fn put_back(&mut self, state: CameraState) -> Result<(), StateError> {
        self.logged().put_back(state)
    }

    fn call_cue(&mut self, name: &str, call: CueCall) -> Result<(), UnknownCue> {
        self.logged().call_cue(name, call)
    }

    methods_of_a_camera!(self);
}

impl ItineraryTarget for RideLog<Camera> {
    fn tell_due(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError> {
        self.say(command, before_end)
    }

    fn glide_to_due(&mut self, key: &str, seconds: f64, ease: Ease, before_view: f64) -> bool {
        self.logged().glide_to_due(key, seconds, ease, before_view)
    }

    fn has_arrived(&self) -> bool {
        self.target.has_arrived()
    }

    fn ignore_hands(&mut self, ignored: bool) {
        self.logged().ignore_hands(ignored);
    }

    fn count_cut(&mut self) {
        self.logged().count_cut();
    }
}

impl RideLog<Cameras<String>> {
    fn note(&mut self, key: &str, what: What, seconds: f64) {
        let key = self.key(key);
        self.book.note(|| Call::new(&key, what).after(seconds));
    }

    /// See [`Cameras::get_mut`]. `None` for an unknown key.
    pub fn get_mut(&mut self, key: &str) -> Option<LoggedCamera<'_>> {
        let known = self.key(key);
        let camera = self.target.get_mut(&key.to_owned())?;
        Some(LoggedCamera { camera, key: known, book: &self.book })
    }

    /// See [`Cameras::active_mut`].
    pub fn active_mut(&mut self) -> LoggedCamera<'_> {
        let key = self.active_key().clone();
        let key = self.key(&key);
        LoggedCamera { camera: self.target.active_mut(), key, book: &self.book }
    }

    /// See [`Cameras::iter_mut`].
    pub fn iter_mut(&mut self) -> impl Iterator<Item = LoggedCamera<'_>> {
        let book = &self.book;
        let logged = |(key, camera)| {
            let key: &String = key;
            LoggedCamera { camera, key: key.as_str().into(), book }
        };
        self.target.iter_mut().map(logged)
    }

    /// See [`Cameras::view`].
    pub fn view(&mut self, seconds: impl IntoSeconds) -> View {
        let seconds = seconds.into_seconds();
        let view = self.target.view(seconds);
        let key = self.active_mut().key;
        let shown = || Some(ShownView::of(&view));
        self.book.note(|| Call { shown: shown(), ..Call::new(&key, What::View).after(seconds) });
        self.age(seconds);
        view
    }

    /// See [`Cameras::insert`].
    pub fn insert(&mut self, key: &str, camera: Camera) -> Option<Camera> {
        for call in head_of(&self.key(key), &camera) {
            self.book.note(|| call);
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
        self.note(key, What::GlideTo { seconds, ease }, before_view);
        self.target.glide_to_due(&key.to_owned(), seconds, ease, before_view)
    }

    /// See [`Cameras::resize`].
    pub fn resize(&mut self, window: impl Into<WindowSize>) {
        let window = window.into();
        self.iter_mut().for_each(|mut camera| camera.resize(window));
    }
}

impl ItineraryTarget for RideLog<Cameras<String>> {
    fn tell_due(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError> {
        self.active_mut().say(command, before_end)
    }

    fn glide_to_due(&mut self, key: &str, seconds: f64, ease: Ease, before_view: f64) -> bool {
        Self::glide_to_due(self, key, seconds, ease, before_view)
    }

    fn has_arrived(&self) -> bool {
        self.target.has_arrived()
    }

    fn ignore_hands(&mut self, ignored: bool) {
        self.iter_mut().for_each(|mut camera| camera.ignore_hands(ignored));
    }

    fn count_cut(&mut self) {
        self.active_mut().count_cut();
    }
}
