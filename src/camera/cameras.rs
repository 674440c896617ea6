//! Several cameras, one of which is active, and glides between them.

use alloc::boxed::Box;
use alloc::collections::BTreeMap;

use glam::DVec4;

use crate::base::convert::IntoSeconds;
use crate::base::maths::{shorter_arc, usable_seconds};
use crate::base::rect::Rect;
use crate::base::sound::Sound;
use crate::base::window::WindowSize;
use crate::camera::arrival::Clock;
use crate::camera::{Camera, CameraState, StateError};
use crate::curves::ease::Ease;
use crate::limits::walls::Walls;
use crate::motion::transition::INSTANT;
use crate::motion::transition::{Transition, Transitions};
use crate::shake::shake::ShakeOffset;
use crate::view::view::View;

/// Several cameras, each with a key. One of them is active and shown. The picture cuts or glides from one camera to
/// another.
///
/// Each camera keeps its own settings, bounds, shakes and state, and needs its own frames. A camera that is not shown
/// can follow too, so that it is ready when the picture glides to it.
///
/// A split screen needs no set: use two cameras, each with its own view.
///
/// ```
/// use velvet_pan::{Camera, Cameras, Ease, Settings};
///
/// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
/// cameras.insert("landslide", Camera::new(Settings::default())?);
/// if let Some(camera) = cameras.get_mut(&"landslide") {
///     camera.place_at([3000, 500]);
/// }
///
/// let mut wren = [200.0, 300.0];
/// cameras.glide_to(&"landslide", 1.0, Ease::Smooth);
/// for _frame in 0..=60 {
///     wren[0] += 1.0;
///     cameras.active_mut().advance(1.0 / 60.0);
///     if let Some(camera) = cameras.get_mut(&"wren") {
///         camera.follow(1.0 / 60.0, wren);
///     }
///     let _view = cameras.view(1.0 / 60.0);
/// }
/// assert_eq!(cameras.view(0.0).centre(), [3000.0, 500.0].into());
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Debug)]
pub struct Cameras<K> {
    active: (K, Camera),
    others: BTreeMap<K, Camera>,
    glides: Glides<K>,
}

/// Everything of a set that lasts from frame to frame: see [`Cameras::state`].
#[derive(Clone, Debug, PartialEq)]
pub struct CamerasState<K> {
    active: K,
    cameras: BTreeMap<K, CameraState>,
    glides: Glides<K>,
}

/// The glides between cameras.
#[derive(Clone, Debug, PartialEq)]
struct Glides<K> {
    /// A glide that begins with the next view.
    next: Option<Passage<K>>,
    /// The remaining differences of glides under way: centre, logarithm of the zoom, rotation.
    transitions: Transitions<DVec4>,
    /// The source of the newest glide.
    passage: Option<Passage<K>>,
    /// The area that the picture may show during glides, and whether all of their ends fit into it.
    area: Option<Rect>,
    fits: bool,
    /// The difference between the number of cuts of the set and that of its active camera.
    cuts: u32,
}

/// A glide from one camera to another.
#[derive(Clone, Debug, PartialEq)]
struct Passage<K> {
    from: GlideFrom<K>,
    seconds: f64,
    ease: Ease,
    age: f64,
}

/// The source of a glide.
#[derive(Clone, Debug, PartialEq)]
enum GlideFrom<K> {
    /// A camera, whose shake fades along.
    Camera(K),
    /// The last view of a camera that was removed.
    Still(Box<View>),
}

impl<K: Ord + Clone> Cameras<K> {
    /// Creates a set of one camera, which is active.
    #[must_use]
    pub fn new(key: K, camera: Camera) -> Self {
        let glides = Glides {
            next: None,
            transitions: Transitions::default(),
            passage: None,
            area: None,
            fits: true,
            cuts: 0,
        };
        Self { active: (key, camera), others: BTreeMap::new(), glides }
    }

    /// Adds a camera, or replaces the camera with this key. Returns the replaced camera.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// assert!(cameras.insert("kite", Camera::new(Settings::default())?).is_none());
    /// assert_eq!(cameras.iter().count(), 2);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn insert(&mut self, key: K, camera: Camera) -> Option<Camera> {
        if key == self.active.0 {
            return Some(core::mem::replace(&mut self.active.1, camera));
        }
        self.others.insert(key, camera)
    }

    /// Removes a camera and returns it. Does nothing and returns `None` for an unknown key and for the active camera.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// cameras.insert("kite", Camera::new(Settings::default())?);
    /// assert!(cameras.remove(&"kite").is_some());
    /// assert!(cameras.remove(&"wren").is_none()); // the active camera stays
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn remove(&mut self, key: &K) -> Option<Camera> {
        let camera = self.others.remove(key)?;
        for passage in [&mut self.glides.next, &mut self.glides.passage].into_iter().flatten() {
            if matches!(&passage.from, GlideFrom::Camera(other) if other == key) {
                passage.from = GlideFrom::Still(Box::new(camera.view()));
            }
        }
        Some(camera)
    }

    /// Returns the camera with this key.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// assert!(cameras.get(&"wren").is_some() && cameras.get(&"kite").is_none());
    /// # let _ = cameras.get_mut(&"wren");
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn get(&self, key: &K) -> Option<&Camera> {
        if *key == self.active.0 { Some(&self.active.1) } else { self.others.get(key) }
    }

    /// Returns the camera with this key, to give it commands or its frame.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// if let Some(camera) = cameras.get_mut(&"wren") {
    ///     camera.follow(1.0 / 60.0, [400, 300]);
    /// }
    /// assert_eq!(cameras.view(0.0).centre().x, 400.0);
    /// assert!(cameras.get_mut(&"kite").is_none());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn get_mut(&mut self, key: &K) -> Option<&mut Camera> {
        if *key == self.active.0 { Some(&mut self.active.1) } else { self.others.get_mut(key) }
    }

    /// Returns all cameras with their keys, to change them: the active one first, then the others in the order of
    /// their keys.
    pub fn iter_mut(&mut self) -> impl Iterator<Item = (&K, &mut Camera)> {
        let (key, camera) = &mut self.active;
        core::iter::once((&*key, camera)).chain(self.others.iter_mut())
    }

    /// Returns all cameras with their keys: the active one first, then the others in the order of their keys.
    pub fn iter(&self) -> impl Iterator<Item = (&K, &Camera)> {
        core::iter::once((&self.active.0, &self.active.1)).chain(&self.others)
    }

    /// Returns the key of the active camera.
    #[must_use]
    pub fn active_key(&self) -> &K {
        &self.active.0
    }

    /// Returns the active camera.
    #[must_use]
    pub fn active(&self) -> &Camera {
        &self.active.1
    }

    /// Returns the active camera, to give it commands or its frame.
    pub fn active_mut(&mut self) -> &mut Camera {
        &mut self.active.1
    }

    /// Sets the window's size for all cameras, in physical pixels.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// cameras.resize((1280, 720));
    /// assert_eq!(cameras.view(0.0).placement().scale, 4.0); // the screen is 320 pixels wide
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn resize(&mut self, window: impl Into<WindowSize>) {
        let window = window.into();
        for (_, camera) in self.iter_mut() {
            camera.resize(window);
        }
    }

    /// Shows another camera immediately. Returns `false`, and changes nothing, for an unknown key. Telling it every
    /// frame is one cut.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// cameras.insert("kite", Camera::new(Settings::default())?);
    /// assert!(cameras.switch_to(&"kite") && !cameras.switch_to(&"otter"));
    /// assert_eq!(*cameras.active_key(), "kite");
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn switch_to(&mut self, key: &K) -> bool {
        if self.get(key).is_none() {
            return false;
        }
        if *key == self.active.0 && !self.is_gliding() {
            return true;
        }
        let cuts = self.shown_cuts();
        self.activate(key);
        (self.glides.next, self.glides.passage, self.glides.area) = (None, None, None);
        self.glides.transitions.clear();
        self.count_cuts(cuts.wrapping_add(1));
        true
    }

    fn activate(&mut self, key: &K) {
        if let Some(next) = self.others.remove_entry(key) {
            let (key, camera) = core::mem::replace(&mut self.active, next);
            self.others.insert(key, camera);
        }
    }

    fn shown_cuts(&self) -> u32 {
        self.glides.cuts.wrapping_add(self.active.1.view().cuts())
    }

    fn count_cuts(&mut self, cuts: u32) {
        self.glides.cuts = cuts.wrapping_sub(self.active.1.view().cuts());
    }

    /// Moves the picture to another camera in exactly `seconds`, even if both cameras move meanwhile.
    ///
    /// The centre moves in a straight line, the zoom in log space, the rotation by the shorter arc. The shake of the
    /// first camera fades. With [`Ease::Smooth`] the picture keeps its velocity at the start. With any other ease it
    /// starts from rest. A glide during a glide starts from what is shown, and both end at their own times. The same
    /// glide may be given every frame.
    ///
    /// If `seconds` is zero or negative, cuts. Returns `false`, and changes nothing, for an unknown key.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Ease, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// cameras.insert("bell", Camera::new(Settings::default())?);
    /// cameras.get_mut(&"bell").unwrap().follow(0.0, [600, 0]);
    /// assert!(cameras.glide_to(&"bell", 1.0, Ease::Linear));
    /// cameras.view(0.0); // the glide begins with this view
    /// assert_eq!(cameras.view(0.5).centre().x, 300.0);
    /// assert_eq!(cameras.view(0.5).centre().x, 600.0);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn glide_to(&mut self, key: &K, seconds: impl IntoSeconds, ease: Ease) -> bool {
        self.glide_to_due(key, seconds, ease, 0.0)
    }

    /// Does the same as [`glide_to`](Self::glide_to), `before_view` seconds before the next view. What follows then does
    /// not depend on the frame rate. Both cameras count as moving evenly since.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Ease, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// cameras.insert("bell", Camera::new(Settings::default())?);
    /// cameras.get_mut(&"bell").unwrap().follow(0.0, [600, 0]);
    /// assert!(cameras.glide_to_due(&"bell", 1.0, Ease::Linear, 0.25));
    /// assert_eq!(cameras.view(0.5).centre().x, 150.0);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn glide_to_due(
        &mut self,
        key: &K,
        seconds: impl IntoSeconds,
        ease: Ease,
        before_view: impl IntoSeconds,
    ) -> bool {
        let seconds = usable_seconds(seconds.into_seconds());
        if self.get(key).is_none() {
            return false;
        }
        if seconds == 0.0 {
            return self.switch_to(key);
        }
        let on_its_way = self.glides.next.as_ref().or(self.glides.passage.as_ref());
        let is_same = |glide: &Passage<K>| (glide.seconds, glide.ease) == (seconds, ease);
        if *key == self.active.0 && on_its_way.is_none_or(is_same) {
            return true;
        }
        let from = match self.glides.next.take() {
            Some(passage) => passage.from,
            None => GlideFrom::Camera(self.active.0.clone()),
        };
        let cuts = self.shown_cuts();
        self.activate(key);
        self.count_cuts(cuts);
        let age = usable_seconds(before_view.into_seconds());
        self.glides.next = Some(Passage { from, seconds, ease, age });
        true
    }

    /// Returns the state of every camera, which of them is active, and the glides under way. Save it for a replay or a
    /// rollback.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Ease, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// cameras.insert("bell", Camera::new(Settings::default())?);
    /// cameras.get_mut(&"bell").unwrap().follow(0.0, [600, 0]);
    /// cameras.glide_to(&"bell", 1.0, Ease::Smooth);
    /// cameras.view(0.0);
    /// cameras.view(0.3);
    /// let saved = cameras.state();
    /// let once = cameras.view(0.1);
    /// cameras.restore(&saved)?;
    /// assert_eq!(cameras.view(0.1), once);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn state(&self) -> CamerasState<K> {
        CamerasState {
            active: self.active.0.clone(),
            cameras: self.iter().map(|(key, camera)| (key.clone(), camera.state())).collect(),
            glides: self.glides.clone(),
        }
    }

    /// Restores a saved state, as [`Camera::restore`] does for one camera. Cameras that were added since keep their
    /// present state. With the same settings, windows and input, the set then returns the same views, to the bit.
    ///
    /// # Errors
    ///
    /// Returns an error if the state has a camera that is not in the set any more. Nothing is changed then.
    pub fn restore(&mut self, state: &CamerasState<K>) -> Result<(), StateError> {
        if state.cameras.keys().any(|key| self.get(key).is_none()) {
            return Err(StateError::UnknownCamera);
        }
        if !state.cameras.values().all(CameraState::is_sound) {
            return Err(StateError::BadNumbers);
        }
        for (key, saved) in &state.cameras {
            if let Some(camera) = self.get_mut(key) {
                camera.restore(*saved)?;
            }
        }
        self.activate(&state.active);
        self.glides.clone_from(&state.glides);
        Ok(())
    }

    /// Returns whether a glide between two cameras is under way.
    #[must_use]
    pub fn is_gliding(&self) -> bool {
        self.glides.next.is_some() || !self.glides.transitions.is_empty()
    }

    /// Returns the view that is shown, `seconds` after the last call. Call it once a frame, after the cameras' own
    /// frames. A glide begins with the first view after [`glide_to`](Self::glide_to).
    ///
    /// If both cameras have bounds, the view between them stays inside the rectangle around both.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cameras, Settings};
    /// let mut cameras = Cameras::new("wren", Camera::new(Settings::default())?);
    /// let dt = 1.0 / 60.0;
    /// cameras.active_mut().follow(dt, [400, 300]);
    /// assert_eq!(cameras.view(dt).centre(), [400.0, 300.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn view(&mut self, seconds: impl IntoSeconds) -> View {
        let seconds = usable_seconds(seconds.into_seconds());
        self.glides.transitions.advance(seconds);
        if let Some(passage) = &mut self.glides.passage {
            passage.age += seconds;
        }
        if let Some(passage) = self.glides.next.take() {
            self.begin(passage);
        }
        if self.glides.transitions.is_empty() {
            (self.glides.passage, self.glides.area) = (None, None);
        }
        self.shown()
    }

    /// Begins a glide: the difference between the two cameras will fade.
    fn begin(&mut self, passage: Passage<K>) {
        let (from, velocity) = match &passage.from {
            GlideFrom::Camera(key) => match self.get_mut(key) {
                Some(camera) => (camera.view(), camera.rate(Clock::Track)),
                None => return,
            },
            GlideFrom::Still(view) => (**view, DVec4::ZERO),
        };
        let (to, to_pace) = (self.active.1.view(), self.active.1.rate(Clock::Track));
        let before = self.moving(numbers(&from), velocity);
        let now = self.moving(numbers(&to), to_pace);
        let mut gap = before.0 - now.0;
        gap.w = shorter_arc(now.0.w, before.0.w);
        // The glide began a little earlier.
        let (faster, age) = (before.1 - now.1, passage.age);
        let transition = if passage.ease == Ease::Smooth {
            Transition::smooth(gap - faster * age, faster, passage.seconds)
        } else {
            Transition::eased(now.0 + gap - before.1 * age, passage.seconds, passage.ease)
        };
        if gap.is_finite() && faster.is_finite() && age < passage.seconds {
            self.glides.transitions.add(transition.aged(age), numbers(&to));
        }
        let area = from.area().joined(&to.area());
        self.glides.area = Some(self.glides.area.map_or(area, |before| before.joined(&area)));
        let fits = |end: &View| end.lens().zoom() >= end.lens().zoom_to_fill(&area) - 1e-9;
        self.glides.fits = fits(&from) && fits(&to);
        self.glides.passage = Some(passage);
    }

    /// Returns the view for a moving source, and its rate of change.
    fn moving(&self, source: DVec4, velocity: DVec4) -> (DVec4, DVec4) {
        let now = self.glides.transitions.shown(source);
        let mut later = self.glides.transitions;
        later.advance(INSTANT);
        (now, (later.shown(source + velocity * INSTANT) - now) / INSTANT)
    }

    fn shown(&self) -> View {
        let mut to = self.active.1.view();
        to.set_cuts(self.shown_cuts());
        if self.glides.transitions.is_empty() {
            return to;
        }
        let shown = self.glides.transitions.shown(numbers(&to));
        let (lens, centre) = to.steady().lens().with_numbers(shown);
        let area = self.glides.area.map_or(to.area(), |area| area.joined(&to.area()));
        // Between two views that fill the area, the picture does so too.
        let least = if self.glides.fits { lens.zoom_to_fill(&area) } else { 0.0 };
        let lens = if lens.zoom() < least { lens.with_zoom(least) } else { lens };
        let centre = Walls::new(area).centre_range(&lens).nearest(centre);
        to.like(lens, centre).within(area).shaken(self.shake(&to))
    }

    /// Returns the shake of the previous camera, which fades with the glide.
    fn shake(&self, to: &View) -> ShakeOffset {
        let Some(passage) = &self.glides.passage else { return to.shake() };
        let from = match &passage.from {
            GlideFrom::Camera(key) => self.get(key).map(|camera| camera.view().shake()),
            GlideFrom::Still(view) => Some(view.shake()),
        };
        from.unwrap_or_default().mixed(to.shake(), passage.ease.at(passage.age / passage.seconds))
    }
}

/// Returns a view without its shake: centre, logarithm of the zoom, rotation.
fn numbers(view: &View) -> DVec4 {
    let steady = view.steady();
    steady.lens().numbers(steady.centre())
}
