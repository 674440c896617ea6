//! Runs the stages in the order of a frame: lens, goal, motion, limits, view. Holds the state that lasts from frame to
//! frame, and the commands from the game and the player's hand. It uses every folder before it but `cull` and `present`.
//!
//! A frame is `frame.rs`, from top to bottom. Its steps are functions of plain values, each in the file of its name:
//! `arrival`, `air`, `goal`, `limits`, `picture`. `step.rs` puts them together for one short step, `clock.rs` takes these steps, and
//! `events.rs` divides them where something happens.

mod act;
mod air;
mod arrival;
pub(crate) mod calls;
pub(crate) mod cameras;
mod change;
mod clock;
mod clock_state;
pub(crate) mod command;
mod commands;
mod events;
mod frame;
mod framing;
mod goal;
mod halls;
mod hand;
pub(crate) mod hands;
mod impacts;
pub(crate) mod itinerary;
mod limits;
mod party;
mod path;
mod picture;
mod places;
mod pointer;
mod report;
mod ride;
mod rules;
mod state;
mod step;
mod told;
pub(crate) mod travel;

use alloc::boxed::Box;
use alloc::vec::Vec;

use glam::DVec2;

use crate::base::convert::IntoSeconds;
use crate::base::maths::usable_seconds;
use crate::base::rect::Rect;
use crate::base::sound::Sound;
use crate::base::window::WindowSize;
use crate::camera::calls::{CameraCall, CameraCalls};
use crate::camera::command::Command;
use crate::camera::hand::Hand;
use crate::camera::told::Told;
use crate::curves::ease::Timing;
use crate::goal::subject::Subject;
use crate::keys::error::SettingsError;
use crate::lens::lens::Lens;
use crate::lens::zoom::ZoomGlide;
use crate::limits::bounds::BoundsInForce;
use crate::settings::settings::Settings;
use crate::view::layer::Layer;
use crate::view::view::View;

use arrival::{Clock, Input};
use change::FocusAfter;
use framing::Framing;
use limits::{Tether, snapping_range};
use ride::Ride;
use rules::Rules;
pub use state::{CameraState, StateError};

/// The camera. Each frame it takes the elapsed time and a subject, and returns a [`View`].
///
/// It runs the stages in order: lens, goal, motion, limits, shake, view. The first frame with a subject cuts to it.
/// A command takes effect at the end of the next frame; [`Command`](crate::Command) lists them.
///
/// Invalid input does not move the camera. A step that is negative or not finite counts as 0. A subject whose position is
/// not finite, or farther than 1e100 world units from the origin, counts as no subject.
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
    rules: Rules,
    window: WindowSize,
    state: CameraState,
    /// What the game has told since the last frame.
    told: Told,
    /// What follows from rules, state and window.
    framing: Framing,
    scratch: Scratch,
    calls: CameraCalls,
}

/// What is kept only so that it need not be worked out again. It never changes a result.
#[derive(Clone, Debug, Default)]
struct Scratch {
    /// The layers, with the rates that follow from the bounds in force.
    layers: Vec<Layer>,
    /// Factors of whole steps, and of the last partial one.
    whole: step::Factors,
    part: step::Factors,
    /// The framing of the state of the grid.
    framing: Option<Framing>,
    /// Whether only the ride of what is shown differs from that of the grid.
    is_alike: bool,
}

impl Scratch {
    fn new(rules: &Rules, bounds: BoundsInForce) -> Self {
        let mut scratch = Self { layers: rules.settings.layers.clone(), ..Self::default() };
        scratch.cover_bounds(rules, bounds);
        scratch
    }

    /// Gives covering layers the rates that follow from the bounds in force, the screen and the zooms.
    fn cover_bounds(&mut self, rules: &Rules, bounds: BoundsInForce) {
        let Settings { bounds: own, screen, zoom, .. } = &rules.settings;
        let bounds = bounds.or_own(*own).or(*own);
        let Some(world) = bounds.and_then(|bounds| rules.extent(&bounds)) else { return };
        for layer in &mut self.layers {
            if let Some(picture) = layer.cover {
                layer.cover(picture, &world, screen, zoom.range);
            }
        }
    }
}

impl Camera {
    /// Creates a camera with these settings. It looks at the middle of its bounds, or without bounds at the world's
    /// origin.
    ///
    /// # Errors
    ///
    /// Returns the first invalid setting: its key, its value, and what is expected.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut settings = Settings::default();
    /// settings.zoom.level = -1.0;
    /// let error = Camera::new(settings).unwrap_err();
    /// assert_eq!(error.field(), "zoom.level");
    /// ```
    pub fn new(settings: Settings) -> Result<Self, SettingsError> {
        settings.validate()?;
        let rules = Rules::new(settings);
        let window = rules.settings.screen.size.into();
        let state = CameraState::new(&rules);
        let lens = Lens::new(&rules.settings.screen);
        let framing = Framing::new(&rules, &state, window, &lens, None);
        let scratch = Scratch::new(&rules, state.limits.bounds);
        let (told, calls) = (Told::default(), CameraCalls::default());
        let mut camera = Self { rules, window, state, told, framing, scratch, calls };
        camera.zoom_now(camera.rules.settings.zoom.level);
        camera.keep_to_halls(FocusAfter::AtGoal, Clock::Track);
        camera.commit();
        Ok(camera)
    }

    /// Returns the settings that the camera was given. For the bounds in force, see [`bounds`](Self::bounds).
    #[must_use]
    pub fn settings(&self) -> &Settings {
        &self.rules.settings
    }

    /// Replaces the settings. The picture keeps its position and its velocity, and reaches the new settings within
    /// `seconds`; 0 is a cut. What did not change is not disturbed: the zoom stays, or glides on, as far as the new
    /// range allows, unless `zoom.level` is another, and bounds that [`set_bounds`](Self::set_bounds) has set stay
    /// unless `bounds` is another. Setting the same settings again changes nothing.
    ///
    /// # Errors
    ///
    /// Returns the first invalid setting. The camera then keeps its old settings.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.follow(0.0, [100, 50]);
    /// let mut changed = Settings::default();
    /// changed.follow.anchor.x = 0.25; // 80 screen pixels farther left
    /// camera.set_settings(changed, 0.3)?;
    /// assert_eq!(camera.view().centre().x, 100.0);
    /// assert_eq!(camera.follow(0.3, [100, 50]).centre().x, 180.0);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn set_settings(
        &mut self,
        settings: Settings,
        seconds: impl IntoSeconds,
    ) -> Result<(), SettingsError> {
        if settings == self.rules.settings {
            return Ok(());
        }
        settings.validate()?;
        let seconds = usable_seconds(seconds.into_seconds());
        self.calls.add(|| {
            let settings = Box::new(settings.clone());
            let command = Command::SetSettings { settings, seconds };
            CameraCall::Told { command, before_end: 0.0 }
        });
        let change = self.begin(Timing::smooth(seconds), Clock::Track);
        let rules = self.rules.replaced(settings);
        let old = core::mem::replace(&mut self.rules, rules).settings;
        let Self { rules, state, framing, scratch, .. } = self;
        state.replace_settings(&old, rules);
        *scratch = Scratch::new(rules, state.limits.bounds);
        *framing = framing.renewed(rules, state, self.window);
        if old.rail != rules.settings.rail {
            state.ride.goal = state.ride.goal.restarted(rules, framing);
        }
        // A new level applies at once, and the change's own time fades the difference.
        let zoom = &rules.settings.zoom;
        if old.zoom.level != zoom.level {
            state.lens.zoom = ZoomGlide::at(zoom.limited(zoom.level, framing.least_zoom));
        }
        state.keep_zoom_within(framing.least_zoom, &rules.settings);
        let old = old.follow.smoothing;
        let is_alike = seconds <= 0.0 || old == self.rules.settings.follow.smoothing;
        let place = if is_alike { FocusAfter::AsFarBehind } else { FocusAfter::Resmoothed(old) };
        self.fade(change, place, Clock::Track);
        self.commit();
        Ok(())
    }

    /// Returns everything that lasts from frame to frame. Save it for a replay or a rollback, after a frame.
    ///
    /// What the game has told since, and waits for the next frame, belongs to that frame's input and not to the state. Tell
    /// it again after [`restore`](Self::restore). A cut and a switch of the subject last until somebody is followed.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.follow(0.1, [40, 20]);
    /// let saved = camera.state();
    /// camera.rotate_to(0.2);
    /// let turned = (camera.follow(0.1, [40, 20]), camera.follow(0.1, [40, 20])).1;
    ///
    /// camera.restore(saved)?;
    /// camera.rotate_to(0.2); // the input of the next frame, again
    /// camera.follow(0.1, [40, 20]);
    /// assert_eq!(camera.follow(0.1, [40, 20]), turned);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn state(&self) -> CameraState {
        self.state
    }

    /// Restores a saved state. With the same settings and the same input, the camera then returns the same views, to
    /// the bit. Bounds in force are part of the state, the window's size is not. What was told and waits is forgotten.
    /// Allocates nothing.
    ///
    /// A state that was saved with other settings is accepted: memories of what these settings do not have end, and their
    /// limits apply at once. [`CameraState::fits`] tells whether they are the same.
    ///
    /// # Errors
    ///
    /// Returns an error if the state contains numbers that no camera can have. The camera then keeps its present state.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.follow(0.016, [40, 20]);
    /// let saved = camera.state();
    /// let once = camera.follow(0.016, [90, 20]);
    /// camera.restore(saved)?;
    /// assert_eq!(camera.follow(0.016, [90, 20]), once);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn restore(&mut self, state: CameraState) -> Result<(), StateError> {
        if !state.is_sound() {
            return Err(StateError::BadNumbers);
        }
        self.calls.add(|| CameraCall::Restored(Box::new(state)));
        self.state = state;
        self.told.clear();
        self.scratch.cover_bounds(&self.rules, state.limits.bounds);
        // A line that a ratchet has passed since the smallest zoom was worked out does not count, as it did not in the
        // camera that the state is from.
        let (lens, least_zoom) = (&self.framing.lens, Some(state.limits.least_zoom));
        self.framing = Framing::new(&self.rules, &self.state, self.window, lens, least_zoom);
        if state.settings != self.rules.digest {
            self.state.adopt(&self.rules);
            self.refresh_framing();
            if self.state.limits.hall.is_none() {
                self.keep_to_halls(FocusAfter::AsFarBehind, Clock::Track);
            }
            self.state.keep_zoom_within(self.framing.least_zoom, &self.rules.settings);
            self.refresh(Clock::Track);
        }
        self.frame_grid();
        Ok(())
    }

    /// Sets the window's size in physical pixels. Zero means a minimised window.
    ///
    /// With [`Fit::Reveal`](crate::Fit::Reveal) the size of the view depends on the window, so call this before the
    /// frame.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.resize((1280, 720));
    /// assert_eq!(camera.view().placement().scale, 4.0); // the screen is 320 x 180
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn resize(&mut self, window: impl Into<WindowSize>) {
        self.say(Command::Resize(window.into()));
    }

    // Frames.

    /// Advances the camera by `seconds` and follows one subject: a world point, or a [`Subject`].
    ///
    /// In a frame of 0 seconds, as in a paused game, commands act, and nothing else does. A subject that moved, landed or
    /// joined counts from the next frame that takes time. The first frame and cuts do not wait.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let view = camera.follow(1.0 / 60.0, [40, 20]);
    /// assert_eq!(view.centre(), [40.0, 20.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[inline]
    pub fn follow(&mut self, seconds: impl IntoSeconds, subject: impl Into<Subject>) -> View {
        self.frame(Input {
            seconds: seconds.into_seconds(),
            party: None,
            alone: Some(&subject.into()),
        })
    }

    /// Advances the camera by `seconds` without a subject. The goal stays where it is, and the view moves towards it.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.follow(0.0, [40, 20]);
    /// assert_eq!(camera.advance(1.0).centre(), [40.0, 20.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[inline]
    pub fn advance(&mut self, seconds: impl IntoSeconds) -> View {
        self.frame(Input { seconds: seconds.into_seconds(), party: None, alone: None })
    }

    /// Advances the camera by `seconds` and shows several subjects together: see [`Party`](crate::Party).
    ///
    /// When a subject joins or leaves the list, the picture changes over `party.fade` seconds. The same
    /// happens when a subject is too far away to be shown, and when it is back. A subject whose position is not finite
    /// leaves. At most 16 subjects are shown; more are ignored until there is room. With an empty list the goal stays
    /// where it is.
    ///
    /// Give each subject an [`id`](Subject::id) unless the list keeps its order. Two subjects must not have the same id.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Subject};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let wren = |x: i32| Subject::from([x, 0]).with_id(1).with_margin(16.0);
    /// let kite = |x: i32| Subject::from([x, 0]).with_id(2).with_margin(16.0);
    /// let view = camera.follow_all(0.0, &[wren(0), kite(100)]);
    /// assert_eq!((view.centre().x, view.lens().zoom()), (50.0, 1.0));
    /// camera.follow_all(1.0, &[wren(0), kite(400)]); // the view zooms out to hold both
    /// let view = camera.follow_all(1.0, &[wren(0), kite(400)]);
    /// assert!(view.visible_world().contains([0, 0]) && view.visible_world().contains([400, 0]));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn follow_all(&mut self, seconds: impl IntoSeconds, subjects: &[Subject]) -> View {
        self.frame(Input { seconds: seconds.into_seconds(), party: Some(subjects), alone: None })
    }

    /// Returns the view of the camera's present state, without a frame. After a frame it is the frame's view.
    #[inline]
    #[must_use]
    pub fn view(&self) -> View {
        self.view_about(self.centre(Clock::Track))
    }

    #[inline]
    fn view_about(&self, centre: DVec2) -> View {
        let screen = &self.rules.settings.screen;
        let mut view = View::new(self.framing.lens, centre, screen.snap);
        view.set_frame(self.state.time, screen.fit, screen.size, self.window);
        view.set_cuts(self.state.cuts);
        view.set_on_ground(self.state.footing.on_ground());
        if self.framing.walls.is_some() || self.state.ride.room.is_some() {
            let Ride { picture, room, .. } = &self.state.ride;
            let range = match room {
                Some(room) if picture.shows_following() => snapping_range(&self.framing, room),
                _ => self.framing.range,
            };
            // A ratchet may hold the view outside of its room.
            let (min, max) = (range.min.min(centre), range.max.max(centre));
            let half = self.framing.half;
            view.set_limits(Rect { min: min - half, max: max + half });
        }
        if self.state.shakes.is_alive() {
            view = self.shaken(view);
        }
        view
    }

    /// Returns the layers of the settings, from back to front, for [`View::layer`]. Layers with `cover` have the rates
    /// that follow from the present bounds.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Layer, Settings};
    /// let mut settings = Settings::default();
    /// settings.layers = vec![Layer::at_rate("far ridge", [0.2, 0.1]), Layer::at_rate("reeds", [1.4, 1.2])];
    /// let mut camera = Camera::new(settings)?;
    /// let view = camera.follow(0.0, [100, 50]);
    /// let (behind, before): (Vec<_>, Vec<_>) =
    ///     camera.layers().iter().partition(|layer| !layer.is_foreground());
    /// for layer in behind {
    ///     let _far = view.layer(layer); // a view: its tiles, its places, its placement
    /// }
    /// # let _ = before;
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn layers(&self) -> &[Layer] {
        &self.scratch.layers
    }

    /// Returns whether a hand holds the view: a grab, a pan, a zoom about a point, a `show`, or a pause.
    /// Following continues underneath.
    #[must_use]
    pub fn is_in_hand(&self) -> bool {
        self.state.ride.picture.hand != Hand::Off
    }

    /// Returns whether a change of the view's position is under way, for example a glide, a room's slide or a
    /// zone's fade, or whether a glide begins with the next frame.
    #[must_use]
    pub fn is_gliding(&self) -> bool {
        let Self { state, told, .. } = self;
        let glides = |command: &Command| matches!(command, Command::Glide { .. });
        !state.ride.picture.fades.is_empty() || told.at_end.glide.is_some() || told.is_due(glides)
    }

    // What the parts of a frame share.

    #[inline]
    fn tether(&self, clock: Clock) -> Option<Tether> {
        self.framing.follow.leash?;
        let is_free = self.state.frees_from_leash(&self.rules);
        Tether::new(&self.framing, is_free, clock.subject(&self.state.goal.track))
    }

    /// Returns the centre of the shown picture, without shakes.
    #[inline]
    fn centre(&self, clock: Clock) -> DVec2 {
        self.state.ride.centre(&self.framing, self.tether(clock).as_ref())
    }

    fn shown_focus(&self, clock: Clock) -> DVec2 {
        self.state.ride.shown_focus(&self.framing, self.tether(clock).as_ref())
    }

    /// Returns the goal, shaped and bounded.
    fn goal_at_rest(&self) -> DVec2 {
        self.state.ride.goal_at_rest(&self.rules, &self.framing)
    }

    fn limit(&mut self, clock: Clock) {
        let tether = self.tether(clock);
        self.state.ride.limit(&self.framing, tether.as_ref());
    }

    fn refresh_framing(&mut self) {
        self.framing = self.framing.renewed(&self.rules, &mut self.state, self.window);
    }

    /// Limits the view again after a sudden change of the lens.
    fn refresh(&mut self, clock: Clock) {
        self.refresh_framing();
        self.limit(clock);
    }
}
