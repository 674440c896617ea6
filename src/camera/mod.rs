//! Runs the stages in the order of a frame: lens, goal, motion, limits, view. It holds what lasts from frame
//! to frame and what the game and the player's hand tell the camera. It uses every other folder.

mod announce;
mod by_hand;
pub(crate) mod cameras;
mod framing;
mod gathering;
pub(crate) mod hands;
pub(crate) mod overlay;
mod places;
mod shaking;
mod stages;

use alloc::vec::Vec;

use framing::Framing;
use glam::DVec2;

use crate::camera::hands::Hand;
use crate::camera::overlay::{Overlay, Shown};
use crate::goal::party::PartyMemory;
use crate::goal::rail::RailPosition;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::Subject;
use crate::lens::rotation::RotationGlide;
use crate::lens::zoom::ZoomGlide;
use crate::limits::bounds::BoundsBlend;
use crate::limits::ratchet::Barrier;
use crate::motion::glide::Glide;
use crate::motion::motion::{Motion, Moving};
use crate::settings::follow::FollowMemory;
use crate::settings::settings::Settings;
use crate::settings::zone::ZoneMemory;
use crate::shake::cue::ZoomNudge;
use crate::shake::shaker::Shaker;
use crate::units::convert::IntoSeconds;
use crate::units::course::Course;
use crate::units::error::SettingsError;
use crate::units::half_life::HalfLifeStep;
use crate::units::window::WindowSize;
use crate::view::layer::Layer;
use crate::view::view::View;

/// A camera: each frame it takes time and a subject, and answers with a [`View`].
///
/// It runs the stages in order (lens, goal, motion, allowed range, view) and holds no arithmetic of
/// its own. The first frame with a subject cuts to it. What is announced between two frames (a zoom,
/// a glide, another subject) begins with the second of them. Bad numbers never move it: a step that
/// is negative or not finite counts as 0, a position that is not finite as a lost subject.
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
    window: WindowSize,
    state: CameraState,
    layers: Vec<Layer>,
    // What follows from the above, kept so that it is not worked out in every frame.
    framing: Framing,
    course: Course,
    motion: Motion,
    ahead: HalfLifeStep,
    zooming: HalfLifeStep,
}

/// What lasts from frame to frame: small, `Copy`, and enough to go back to an earlier moment.
///
/// Save it with [`Camera::state`] and go back with [`Camera::restore`]; with the feature `serde` it
/// can be written and read.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct CameraState {
    /// Seconds since the first frame.
    time: f64,
    /// The world point held at the anchor, as following has it.
    focus: Moving,
    follow: FollowMemory,
    /// A goal that was named and not yet taken up.
    named: Option<DVec2>,
    /// Whether the next frame with a subject cuts to it.
    cut: bool,
    /// A glide that begins at the end of the next frame.
    announced: Option<Glide>,
    glide: Option<Glide>,
    hand: Hand,
    zoom: ZoomGlide,
    rotation: RotationGlide,
    bounds: Option<BoundsBlend>,
    barrier: Option<Barrier>,
    room: Option<RoomMemory>,
    zones: ZoneMemory,
    party: PartyMemory,
    shapes: Shapes,
    shaker: Shaker,
    /// A short change of the zoom.
    nudge: Option<Nudge>,
    /// Seconds for which following still pauses.
    pause: f64,
    /// How much longer than set the leash is for now, in world units along the screen's axes.
    leash_slack: DVec2,
    /// Announced since the last frame, to begin with the next.
    fresh: Fresh,
}

/// Where what shapes the goal has come to.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
struct Shapes {
    rail: RailPosition,
    /// The goal that scrolls steadily.
    scroll: DVec2,
}

/// What begins with the next frame and has not aged yet.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
struct Fresh {
    zoom: bool,
    rotation: bool,
    bounds: bool,
    pause: bool,
}

/// A short change of the zoom that has begun.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
struct Nudge {
    nudge: ZoomNudge,
    strength: f64,
    age: f64,
    /// Begun since the last frame.
    fresh: bool,
}

impl Nudge {
    fn factor(&self) -> f64 {
        self.nudge.factor(self.age, self.strength)
    }

    /// Grows older by some seconds; answers whether it is over.
    fn advance(&mut self, seconds: f64) -> bool {
        self.age += seconds;
        self.nudge.is_over(self.age)
    }
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
        let state = CameraState {
            time: 0.0,
            focus: Moving { position: focus, velocity: DVec2::ZERO },
            follow: FollowMemory::at(focus),
            named: None,
            cut: true,
            announced: None,
            glide: None,
            hand: Hand::Off,
            zoom: ZoomGlide::at(settings.zoom.level),
            rotation: RotationGlide::default(),
            bounds: None,
            barrier: None,
            room: None,
            zones: ZoneMemory::default(),
            party: PartyMemory::default(),
            shapes: Shapes { rail: RailPosition::default(), scroll: focus },
            shaker: Shaker::default(),
            nudge: None,
            pause: 0.0,
            leash_slack: DVec2::ZERO,
            fresh: Fresh::default(),
        };
        let mut camera = Self {
            framing: Framing::new(&settings, &state, settings.screen.size.into()),
            window: settings.screen.size.into(),
            state,
            layers: settings.laid_layers(),
            settings,
            course: Course::straight(focus, focus),
            motion: Motion::default(),
            ahead: HalfLifeStep::default(),
            zooming: HalfLifeStep::default(),
        };
        camera.zoom_now(camera.settings.zoom.level);
        Ok(camera)
    }

    /// The settings in use.
    #[must_use]
    pub fn settings(&self) -> &Settings {
        &self.settings
    }

    /// Changes the settings in mid-flight. The camera goes on from where it is, at its present
    /// zoom as far as the new range allows; a new anchor does not move the picture.
    ///
    /// # Errors
    ///
    /// The first setting that can't be used; the camera then keeps its old ones.
    pub fn set_settings(&mut self, settings: Settings) -> Result<(), SettingsError> {
        settings.validate()?;
        let before = self.framing.offset;
        if self.settings.rooms != settings.rooms {
            self.state.room = None;
        }
        self.settings = settings;
        self.layers = self.settings.laid_layers();
        self.refresh();
        let moved = self.framing.offset - before;
        self.state.focus.position += moved;
        if let Some(glide) = &mut self.state.glide {
            glide.from += moved;
        }
        self.zoom_to(self.state.zoom.wanted());
        Ok(())
    }

    /// What lasts from frame to frame: save it for a replay or a rollback.
    #[must_use]
    pub fn state(&self) -> CameraState {
        self.state
    }

    /// Goes back to a saved state; with the same settings and inputs it continues with the same
    /// bits. A state with numbers that are not finite is not taken.
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
        let positions = [state.focus.position, state.focus.velocity, state.follow.goal];
        let numbers = [state.time];
        let finite = positions.iter().all(|position| position.is_finite())
            && numbers.iter().all(|number| number.is_finite());
        if finite && state.zoom.is_finite() && state.rotation.is_finite() {
            self.state = state;
            self.refresh();
        }
    }

    /// Tells the camera the window's size in physical pixels; zero is a minimised window.
    ///
    /// Under [`Fit::Reveal`](crate::Fit::Reveal) the view's size follows the window's, so tell it
    /// before the frame.
    pub fn resize(&mut self, window: impl Into<WindowSize>) {
        let window = window.into();
        if self.window != window {
            self.window = window;
            self.refresh();
        }
    }

    // Frames.

    /// A frame with one subject, `seconds` after the last: anything that is a world point, or a
    /// [`Subject`].
    #[inline]
    pub fn follow(&mut self, seconds: impl IntoSeconds, subject: impl Into<Subject>) -> View {
        self.follow_alone(seconds.into_seconds(), Some(&subject.into()))
    }

    /// A frame without a subject: the goal stays, and the camera comes to it.
    #[inline]
    pub fn advance(&mut self, seconds: impl IntoSeconds) -> View {
        self.follow_alone(seconds.into_seconds(), None)
    }

    /// What the camera sees as it stands.
    #[inline]
    #[must_use]
    pub fn view(&self) -> View {
        let screen = &self.settings.screen;
        let mut view = View::new(self.framing.lens, self.centre(), screen.snap);
        view.land(self.state.time, screen.fit, screen.size, self.window);
        if let Some(bounds) = &self.settings.bounds {
            view.clamp_corner(&bounds.rect);
        }
        if self.state.shaker.is_alive() {
            view = self.shaken(view);
        }
        view
    }

    /// The layers of the settings, back to front, each to be asked of a view:
    /// [`View::layer`]. Those that cover have the rates that follow from the present bounds.
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
        &self.layers
    }

    /// Whether a hand is on the view (a grab, a zoom about a point, a position that is shown), so that
    /// following waits.
    #[must_use]
    pub fn is_in_hand(&self) -> bool {
        self.state.hand != Hand::Off
    }

    /// Whether a glide is under way or about to begin.
    #[must_use]
    pub fn is_gliding(&self) -> bool {
        self.state.glide.is_some() || self.state.announced.is_some()
    }

    /// The goal as a centre of the view, after the bounds: where the camera is heading.
    #[must_use]
    pub fn goal(&self) -> DVec2 {
        let goal = self.shaped(self.state.follow.goal) - self.framing.offset;
        let mut course = Course::straight(goal, goal);
        let (bounds, barrier) = (self.settings.bounds.as_ref(), self.state.barrier.as_ref());
        self.framing.bound(bounds, barrier, &mut course);
        course.end()
    }

    /// The camera's picture of itself: deadzone, leash, anchor, goal, bounds, as plain geometry.
    #[must_use]
    pub fn overlay(&self) -> Overlay {
        let follow = &self.framing.follow;
        let zone = &follow.deadzone;
        let ahead = self.framing.lens.world_aligned(self.state.follow.look.ahead);
        let subject = self.state.follow.track.last().map(|last| last + follow.offset);
        let mut overlay = Overlay::new(&Shown {
            room: self.room(),
            party: self.state.party.outline(&self.framing.lens),
            rail: self.settings.rail.as_ref().map(|rail| rail.ends(self.state.shapes.rail)),
            view: self.view(),
            anchor: follow.anchor,
            deadzone: [zone.left, zone.right, zone.top, zone.bottom],
            leash: follow.leash.map(|leash| leash.0),
            bounds: self.settings.bounds.map(|bounds| bounds.rect),
            barrier: self.state.barrier,
            goal: self.goal() + self.framing.offset,
            ahead: subject.filter(|_| ahead != DVec2::ZERO).map(|from| [from, from + ahead]),
        });
        for zone in self.state.zones.rects(&self.settings.zones) {
            overlay.add_zone(&zone);
        }
        let goal = self.state.follow.goal;
        for lure in self.settings.lures.iter().filter(|lure| lure.reaches(goal)) {
            overlay.add_lure(goal, lure.at);
        }
        overlay
    }
}
