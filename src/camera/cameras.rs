//! Several cameras, one of them active, and the way from one to the next.

use alloc::boxed::Box;
use alloc::collections::BTreeMap;

use glam::{DVec2, DVec4};

use crate::camera::Camera;
use crate::camera::changes::INSTANT;
use crate::limits::bounds::Bounds;
use crate::motion::transition::{Transition, Transitions};
use crate::shake::shake::ShakeOffset;
use crate::units::convert::IntoSeconds;
use crate::units::ease::Ease;
use crate::units::maths::{shorter_arc, usable_seconds};
use crate::units::rect::Rect;
use crate::units::window::WindowSize;
use crate::view::view::View;

/// Several cameras by their keys, one of them active; the picture cuts or glides from one to the
/// next. Each keeps its own settings, bounds, shakes and memory, and is given its own frames: two
/// cameras that both follow are both ready when the picture comes to them.
///
/// The mistake it prevents is one camera for everything, whose every setting a cutscene has to save
/// and to put back.
///
/// For a split screen no set is needed: two cameras give two views, each in its half of the window.
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
    /// A glide that begins with the next view.
    next: Option<Passage<K>>,
    /// What is left of glides under way: centre, logarithm of the zoom, rotation.
    transitions: Transitions<DVec4>,
    /// Where the newest of them comes from.
    passage: Option<Passage<K>>,
    /// What the picture may show meanwhile, and whether all of its ends fit into that.
    area: Option<Rect>,
    fits: bool,
    /// What makes the cuts of the active camera those of the set.
    cuts: u32,
}

/// On the way from one camera to another.
#[derive(Clone, Debug)]
struct Passage<K> {
    from: Source<K>,
    seconds: f64,
    ease: Ease,
    age: f64,
}

/// Where a passage comes from.
#[derive(Clone, Debug)]
enum Source<K> {
    /// A camera, whose shake fades along.
    Camera(K),
    /// What a camera saw that is gone.
    Still(Box<View>),
}

impl<K: Ord + Clone> Cameras<K> {
    /// A set of one camera, which is active.
    #[must_use]
    pub fn new(key: K, camera: Camera) -> Self {
        Self {
            active: (key, camera),
            others: BTreeMap::new(),
            next: None,
            transitions: Transitions::default(),
            passage: None,
            area: None,
            fits: true,
            cuts: 0,
        }
    }

    /// Adds a camera, or puts it in the place of the one of this key, which is answered.
    pub fn insert(&mut self, key: K, camera: Camera) -> Option<Camera> {
        if key == self.active.0 {
            return Some(core::mem::replace(&mut self.active.1, camera));
        }
        self.others.insert(key, camera)
    }

    /// Takes a camera out; the active one stays.
    pub fn remove(&mut self, key: &K) -> Option<Camera> {
        let camera = self.others.remove(key)?;
        for passage in [&mut self.next, &mut self.passage].into_iter().flatten() {
            if matches!(&passage.from, Source::Camera(other) if other == key) {
                passage.from = Source::Still(Box::new(camera.view()));
            }
        }
        Some(camera)
    }

    /// The camera of this key.
    #[must_use]
    pub fn get(&self, key: &K) -> Option<&Camera> {
        if *key == self.active.0 { Some(&self.active.1) } else { self.others.get(key) }
    }

    /// The camera of this key, to be told something or to be given its frame.
    pub fn get_mut(&mut self, key: &K) -> Option<&mut Camera> {
        if *key == self.active.0 { Some(&mut self.active.1) } else { self.others.get_mut(key) }
    }

    /// All cameras, the active one first, then in the order of their keys.
    pub fn iter_mut(&mut self) -> impl Iterator<Item = (&K, &mut Camera)> {
        let (key, camera) = &mut self.active;
        core::iter::once((&*key, camera)).chain(self.others.iter_mut())
    }

    /// Returns all cameras, the active one first, then in the order of their keys.
    pub fn iter(&self) -> impl Iterator<Item = (&K, &Camera)> {
        core::iter::once((&self.active.0, &self.active.1)).chain(&self.others)
    }

    /// The key of the active camera.
    #[must_use]
    pub fn active_key(&self) -> &K {
        &self.active.0
    }

    /// The active camera.
    #[must_use]
    pub fn active(&self) -> &Camera {
        &self.active.1
    }

    /// The active camera, to be told something or to be given its frame.
    pub fn active_mut(&mut self) -> &mut Camera {
        &mut self.active.1
    }

    /// Tells all cameras the window's size in physical pixels.
    pub fn resize(&mut self, window: impl Into<WindowSize>) {
        let window = window.into();
        for (_, camera) in self.iter_mut() {
            camera.resize(window);
        }
    }

    /// Shows another camera at once; answers whether there is one of this key.
    pub fn switch_to(&mut self, key: &K) -> bool {
        if self.get(key).is_none() {
            return false;
        }
        let cuts = self.shown_cuts();
        self.activate(key);
        (self.next, self.passage, self.area) = (None, None, None);
        self.transitions.clear();
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
        self.cuts.wrapping_add(self.active.1.view().cuts())
    }

    fn count_cuts(&mut self, cuts: u32) {
        self.cuts = cuts.wrapping_sub(self.active.1.view().cuts());
    }

    /// Glides to another camera in exactly `seconds`, which goes on meanwhile: the centre in a
    /// straight line, the zoom in log space, the rotation by the shorter arc; the shake of the one before
    /// fades along. With [`Ease::Smooth`] the picture goes on at the velocity that it had, with any other
    /// ease it starts from rest. A new glide starts from what is shown; each ends at its own time. Answers
    /// whether there is a camera of this key. Times that are not above 0 cut.
    pub fn glide_to(&mut self, key: &K, seconds: impl IntoSeconds, ease: Ease) -> bool {
        let seconds = usable_seconds(seconds.into_seconds());
        if self.get(key).is_none() {
            return false;
        }
        if seconds == 0.0 {
            return self.switch_to(key);
        }
        if *key == self.active.0 && self.next.is_none() && self.transitions.is_empty() {
            return true;
        }
        let from = match self.next.take() {
            Some(passage) => passage.from,
            None => Source::Camera(self.active.0.clone()),
        };
        let cuts = self.shown_cuts();
        self.activate(key);
        self.count_cuts(cuts);
        self.next = Some(Passage { from, seconds, ease, age: 0.0 });
        true
    }

    /// Whether the picture is on the way from one camera to another.
    #[must_use]
    pub fn is_gliding(&self) -> bool {
        self.next.is_some() || !self.transitions.is_empty()
    }

    /// What is shown, `seconds` after the last time it was asked; call it once a frame, after the
    /// cameras' own frames. A glide begins with the first view after it was announced.
    ///
    /// Where both cameras have bounds, the view between them stays inside the rectangle around both.
    pub fn view(&mut self, seconds: impl IntoSeconds) -> View {
        let seconds = usable_seconds(seconds.into_seconds());
        self.transitions.advance(seconds);
        if let Some(passage) = &mut self.passage {
            passage.age += seconds;
        }
        if let Some(passage) = self.next.take() {
            self.begin(passage);
        }
        if self.transitions.is_empty() {
            (self.passage, self.area) = (None, None);
        }
        self.shown()
    }

    /// A glide begins: what is left of the difference between the two cameras will fade.
    fn begin(&mut self, passage: Passage<K>) {
        let (from, pace) = match &passage.from {
            Source::Camera(key) => match self.get_mut(key) {
                Some(camera) => (camera.view(), camera.pace().numbers()),
                None => return,
            },
            Source::Still(view) => (**view, DVec4::ZERO),
        };
        let (to, to_pace) = (self.active.1.view(), self.active.1.pace().numbers());
        let before = self.moving(numbers(&from.steady()), pace);
        self.transitions.make_room();
        let now = self.moving(numbers(&to.steady()), to_pace);
        let mut gap = before.0 - now.0;
        gap.w = shorter_arc(now.0.w, before.0.w);
        let transition = if passage.ease == Ease::Smooth {
            Transition::smooth(gap, before.1 - now.1, passage.seconds)
        } else {
            Transition::eased(now.0 + gap, passage.seconds, passage.ease)
        };
        if gap.is_finite() && (before.1 - now.1).is_finite() {
            self.transitions.add(transition);
        }
        let area = from.area().joined(&to.area());
        self.area = Some(self.area.map_or(area, |before| before.joined(&area)));
        let fits = |end: &View| end.lens().zoom() >= end.lens().zoom_to_fill(&area) - 1e-9;
        self.fits = fits(&from) && fits(&to);
        self.passage = Some(passage);
    }

    /// What is shown for a source that moves, and how fast it changes.
    fn moving(&self, source: DVec4, pace: DVec4) -> (DVec4, DVec4) {
        let now = self.transitions.shown(source);
        let mut later = self.transitions;
        later.advance(INSTANT);
        (now, (later.shown(source + pace * INSTANT) - now) / INSTANT)
    }

    fn shown(&self) -> View {
        let mut to = self.active.1.view();
        to.set_cuts(self.shown_cuts());
        if self.transitions.is_empty() {
            return to;
        }
        let shown = self.transitions.shown(numbers(&to.steady()));
        let lens = to.lens().with_zoom(libm::exp(shown.z)).with_rotation(shown.w);
        let view = to.steady().like(lens, DVec2::new(shown.x, shown.y));
        let area = self.area.map_or(to.area(), |area| area.joined(&to.area()));
        view.held_within(&area, self.fits).shaken(self.shake(&to))
    }

    /// The shake of the camera before fades along with the glide.
    fn shake(&self, to: &View) -> ShakeOffset {
        let Some(passage) = &self.passage else { return to.shake() };
        let from = match &passage.from {
            Source::Camera(key) => self.get(key).map(|camera| camera.view().shake()),
            Source::Still(view) => Some(view.shake()),
        };
        from.unwrap_or_default().mixed(to.shake(), passage.ease.at(passage.age / passage.seconds))
    }
}

/// Centre, logarithm of the zoom, rotation.
fn numbers(view: &View) -> DVec4 {
    let lens = view.lens();
    DVec4::new(view.centre().x, view.centre().y, libm::log(lens.zoom()), lens.rotation())
}

impl View {
    /// The same view inside a rectangle, moved by no more than needed, and brought closer where it may
    /// be.
    fn held_within(&self, area: &Rect, closer: bool) -> Self {
        if *area == Rect::EVERYWHERE {
            return *self;
        }
        let lens = *self.lens();
        let least = lens.zoom_to_fill(area);
        let lens = if closer && lens.zoom() < least { lens.with_zoom(least) } else { lens };
        let centre = Bounds::new(*area).centre_range(&lens).nearest(self.centre());
        let mut held = self.like(lens, centre);
        held.hold_within(*area);
        held
    }
}
