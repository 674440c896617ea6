//! Several cameras, one of them active, and the way from one to the next.

use alloc::collections::BTreeMap;

use crate::camera::Camera;
use crate::limits::bounds::Bounds;
use crate::units::convert::IntoSeconds;
use crate::units::ease::Ease;
use crate::units::maths::usable_seconds;
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
/// cameras.glide_to(&"landslide", 1.0, Ease::InOut);
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
    glide: Option<Passage<K>>,
}

/// On the way from one camera to another.
#[derive(Clone, Debug)]
struct Passage<K> {
    from: Source<K>,
    seconds: f64,
    elapsed: f64,
    ease: Ease,
    /// Announced since the last view.
    fresh: bool,
}

/// Where a passage comes from.
#[derive(Clone, Debug)]
enum Source<K> {
    /// A camera, which goes on moving.
    Camera(K),
    /// What was shown in the middle of another passage.
    Still(View),
}

impl<K: Ord + Clone> Cameras<K> {
    /// A set of one camera, which is active.
    #[must_use]
    pub fn new(key: K, camera: Camera) -> Self {
        Self { active: (key, camera), others: BTreeMap::new(), glide: None }
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
        if let Some(Passage { from, .. }) = &mut self.glide
            && matches!(from, Source::Camera(other) if other == key)
        {
            *from = Source::Still(camera.view());
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
        self.glide = None;
        self.activate(key);
        true
    }

    fn activate(&mut self, key: &K) {
        if let Some(next) = self.others.remove_entry(key) {
            let (key, camera) = core::mem::replace(&mut self.active, next);
            self.others.insert(key, camera);
        }
    }

    /// Glides to another camera in exactly `seconds`, both going on meanwhile: the centre in a
    /// straight line, the zoom in log space, the rotation by the shorter arc. A new glide starts from
    /// what is shown. Answers whether there is a camera of this key. Times that are not above 0 cut.
    pub fn glide_to(&mut self, key: &K, seconds: impl IntoSeconds, ease: Ease) -> bool {
        let seconds = usable_seconds(seconds.into_seconds());
        if self.get(key).is_none() {
            return false;
        }
        if seconds == 0.0 || (*key == self.active.0 && self.glide.is_none()) {
            return self.switch_to(key);
        }
        let from = match &self.glide {
            Some(_) => Source::Still(self.shown()),
            None => Source::Camera(self.active.0.clone()),
        };
        self.activate(key);
        self.glide = Some(Passage { from, seconds, elapsed: 0.0, ease, fresh: true });
        true
    }

    /// Whether the picture is on the way from one camera to another.
    #[must_use]
    pub fn is_gliding(&self) -> bool {
        self.glide.is_some()
    }

    /// What is shown, `seconds` after the last time it was asked; call it once a frame, after the
    /// cameras' own frames. A glide begins with the first view after it was announced.
    ///
    /// Where both cameras have bounds, the view between them stays inside the rectangle around both.
    pub fn view(&mut self, seconds: impl IntoSeconds) -> View {
        let seconds = usable_seconds(seconds.into_seconds());
        if let Some(glide) = &mut self.glide {
            glide.elapsed += if glide.fresh { 0.0 } else { seconds };
            glide.fresh = false;
            // The rounding of a sum of steps is no part of a glide.
            if glide.elapsed >= glide.seconds * (1.0 - 1e-12) {
                self.glide = None;
            }
        }
        self.shown()
    }

    fn shown(&self) -> View {
        let (to, to_bounds) = (self.active().view(), bounds_of(self.active()));
        let Some(glide) = &self.glide else { return to };
        let (from, from_bounds) = match &glide.from {
            Source::Still(view) => (*view, to_bounds),
            Source::Camera(key) => match self.get(key) {
                Some(camera) => (camera.view(), bounds_of(camera)),
                None => return to,
            },
        };
        let view = View::between(&from, &to, glide.ease.at(glide.elapsed / glide.seconds));
        let Some((a, b)) = from_bounds.zip(to_bounds) else { return view };
        let area = Rect { min: a.min.min(b.min), max: a.max.max(b.max) };
        let fits = |end: &View| end.lens().zoom() >= end.lens().zoom_to_fill(&area) - 1e-9;
        view.held_within(&area, fits(&from) && fits(&to))
    }
}

fn bounds_of(camera: &Camera) -> Option<Rect> {
    camera.settings().bounds.map(|bounds| bounds.rect)
}

impl View {
    /// The same view inside a rectangle, moved by no more than needed, and brought closer where it may
    /// be; what a shake adds stays as it is.
    fn held_within(&self, area: &Rect, closer: bool) -> Self {
        let steady = self.steady();
        let lens = *steady.lens();
        let least = lens.zoom_to_fill(area);
        let lens = if closer && lens.zoom() < least { lens.with_zoom(least) } else { lens };
        let centre = Bounds::new(*area).centre_range(&lens).nearest(steady.centre());
        if centre == steady.centre() && lens == *steady.lens() {
            return *self;
        }
        let mut held = self.like(lens, centre);
        held.clamp_corner(area);
        held.shaken(self.shake())
    }
}
