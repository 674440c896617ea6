//! The state that lasts from frame to frame, in the groups of a frame.

use core::fmt;

use glam::{DVec2, DVec4, UVec2};

use crate::base::rect::Rect;
use crate::base::sound::{NOT_NEGATIVE, always_sound, sound};
use crate::camera::framing::Framing;
use crate::camera::hand::Hand;
use crate::camera::ride::Ride;
use crate::camera::rules::Rules;
use crate::camera::travel::Route;
use crate::curves::half_life::HalfLifeStep;
use crate::goal::air::Takeoff;
use crate::goal::look_ahead::LookMemory;
use crate::goal::party_memory::PartyMemory;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::Track;
use crate::lens::rotation::RotationGlide;
use crate::lens::zoom::ZoomGlide;
use crate::limits::bounds::{Bounds, BoundsInForce};
use crate::limits::ratchet::Ratchet;
use crate::motion::footing::Footing;
use crate::motion::motion::Moving;
use crate::motion::transition::Transitions;
use crate::settings::settings::Settings;
use crate::shake::active_shakes::ActiveShakes;
use crate::shake::cue::Nudge;

/// Everything of a camera that lasts from frame to frame. It is `Copy` and 6,960 bytes large.
///
/// Save it with [`Camera::state`](crate::Camera::state) and restore it with
/// [`Camera::restore`](crate::Camera::restore). With the feature `serde` it can be written to a file and read.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
pub struct CameraState {
    /// The digest of the settings that it was made with.
    #[cfg_attr(feature = "serde", serde(with = "crate::keys::number::bits"))]
    pub(super) settings: u64,
    /// The time since the first frame, in seconds.
    pub(super) time: f64,
    /// The number of cuts.
    pub(super) cuts: u32,
    pub(super) lens: LensState,
    pub(super) goal: GoalState,
    pub(super) ride: Ride,
    /// Seconds for which the view still pauses.
    pub(super) pause: f64,
    /// How the followed subject moves, for drawing it.
    pub(super) footing: Footing,
    pub(super) limits: LimitsState,
    pub(super) shakes: ActiveShakes,
    /// The way that the view travels.
    pub(super) route: Route,
    /// Whether the player's hands are ignored, as in a cutscene.
    pub(super) ignores_hands: bool,
    pub(super) clock: super::clock_state::ClockState,
}

sound!(CameraState {
    settings,
    time in NOT_NEGATIVE,
    cuts,
    lens,
    goal,
    ride,
    pause in 0.0..=1e6,
    footing,
    limits,
    shakes,
    route,
    ignores_hands,
    clock,
});

/// The scale of the world, and its changes.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct LensState {
    pub zoom: ZoomGlide,
    pub rotation: RotationGlide,
    /// A short change of the zoom.
    pub nudge: Option<Nudge>,
    /// Changes of the zoom that fade, in natural logarithms.
    pub transitions: Transitions<f64>,
}

sound!(LensState { zoom, rotation, nudge, transitions });

/// The subject as it was last seen, and the places that it is in.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct GoalState {
    /// Whether the next frame with a subject cuts to it.
    pub cut: Cut,
    /// Whether the subject of the next frame that takes time is another one. Until then the view stays with this one.
    pub switched: bool,
    pub track: Track,
    pub takeoff: Takeoff,
    pub party: PartyMemory,
    /// The position of the subject when zones were last checked. The zones follow from it.
    pub zones_at: Option<DVec2>,
}

/// Whether the next frame with a subject cuts to it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) enum Cut {
    No,
    /// It is the first one. The game gave no cut, so nothing else that was told is dropped.
    First,
    /// It is the first one, and the game has placed the view.
    Placed,
    Commanded,
}

always_sound!(Cut);

sound!(GoalState { cut, switched, track, takeoff, party, zones_at });

impl GoalState {
    /// Goes on to wait for a subject to cut to.
    pub fn wait_for(&mut self, cut: Cut) {
        self.switched = false;
        if cut != Cut::No {
            self.cut = cut;
        }
    }
}

/// Where the view may be.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct LimitsState {
    pub bounds: BoundsInForce,
    /// The hall that the view is in, if the bounds are an outline.
    pub hall: Option<Rect>,
    /// The smallest zoom within the limits, as it was last worked out.
    pub least_zoom: f64,
    /// By how much the edges of the bounds are let out while tighter ones come into force: at the
    /// smallest and the largest coordinates.
    pub edges: Transitions<DVec4>,
}

sound!(LimitsState { bounds, hall, least_zoom in 0.0..=1e9, edges });

/// Why a state cannot be restored.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum StateError {
    /// The state contains numbers that are not finite or out of range.
    BadNumbers,
    /// The state of a set has a camera that the set does not have.
    UnknownCamera,
}

impl fmt::Display for StateError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Self::UnknownCamera => {
                "the state has a camera that is not in this set: insert one with its key first"
            }
            Self::BadNumbers => {
                "the state holds numbers that no camera can have: expected one from Camera::state"
            }
        })
    }
}

impl core::error::Error for StateError {}

impl CameraState {
    /// Returns whether it was made by a camera with exactly these settings. Such a camera continues from it to the bit.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let state = camera.state();
    /// assert!(state.fits(camera.settings()));
    /// let mut other = Settings::default();
    /// other.follow.anchor.y = 0.6;
    /// assert!(!state.fits(&other));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn fits(&self, settings: &Settings) -> bool {
        self.settings == settings.digest()
    }

    /// Looks at the middle of the bounds, or at the world's origin, without a subject.
    pub(super) fn new(rules: &Rules) -> Self {
        let (settings, digest) = (&rules.settings, rules.digest);
        let world = settings.bounds.and_then(|bounds| rules.extent(&bounds));
        let focus = world.map_or(DVec2::ZERO, |world| world.centre());
        let zoom = ZoomGlide::at(settings.zoom.level);
        let lens = LensState {
            zoom,
            rotation: RotationGlide::default(),
            nudge: None,
            transitions: Transitions::default(),
        };
        let goal = GoalState {
            cut: Cut::First,
            switched: false,
            track: Track::default(),
            takeoff: Takeoff::default(),
            party: PartyMemory::default(),
            zones_at: None,
        };
        Self {
            settings: digest,
            time: 0.0,
            cuts: 0,
            lens,
            goal,
            ride: Ride::at(focus),
            pause: 0.0,
            footing: Footing::default(),
            limits: LimitsState::default(),
            shakes: ActiveShakes::default(),
            route: Route::default(),
            ignores_hands: false,
            clock: super::clock_state::ClockState::new(lens, Ride::at(focus)),
        }
    }

    /// Forgets what belongs to settings that are replaced.
    pub(super) fn replace_settings(&mut self, old: &Settings, rules: &Rules) {
        let new = &rules.settings;
        if old.bounds != new.bounds {
            self.limits.bounds = BoundsInForce::Own;
        }
        if old.rooms != new.rooms {
            self.ride.room = None;
        }
        if old.zones != new.zones {
            self.goal.zones_at = self.goal.track.last();
        }
        self.end_memories(rules);
    }

    /// Becomes a state of these settings, of which a game with other ones has made it.
    pub(super) fn adopt(&mut self, rules: &Rules) {
        let Settings { rooms, screen, .. } = &rules.settings;
        let is_there = |room: &RoomMemory| {
            rooms
                .as_ref()
                .is_some_and(|rooms| rooms.at(room.rect().centre(), screen) == Some(room.rect()))
        };
        self.ride.room = self.ride.room.filter(is_there);
        self.end_memories(rules);
    }

    /// Forgets what the settings do not have.
    fn end_memories(&mut self, rules: &Rules) {
        let follow = &rules.settings.follow;
        self.settings = rules.digest;
        if follow.look_ahead.is_none() {
            self.ride.goal.look = LookMemory::default();
        }
        if follow.ratchet == Ratchet::None {
            self.ride.picture.forget_line();
        }
        let is_unknown = |bounds: &Bounds| rules.extent(bounds).is_none();
        if let BoundsInForce::Set(Some(bounds)) = &self.limits.bounds
            && is_unknown(bounds)
        {
            self.limits.bounds = BoundsInForce::Own;
        }
        let halls = rules.halls(&self.limits);
        self.limits.hall =
            self.limits.hall.filter(|hall| halls.is_some_and(|halls| halls.has(hall)));
    }

    /// Glides on to the wanted zoom, as far as the limits allow it.
    pub(super) fn keep_zoom_within(&mut self, least: f64, settings: &Settings) {
        let zoom = settings.zoom.limited(self.lens.zoom.wanted(), least);
        self.lens.zoom.head_for(zoom, 0.0);
    }

    /// Moves time and shakes on.
    #[inline]
    pub(super) fn pass_time(&mut self, seconds: f64) {
        if (self.time + seconds).is_finite() {
            self.time += seconds;
        }
        if self.shakes.is_alive() {
            self.shakes.advance(seconds);
        }
    }

    /// Returns whether the subject may be anywhere on the screen, so that no leash holds it.
    #[inline]
    pub(super) fn frees_from_leash(&self, rules: &Rules) -> bool {
        rules.leads || self.ride.room.is_some() || self.goal.party.is_several()
    }

    /// Returns whether zoom, rotation or bounds are changing without a party.
    #[inline]
    pub(super) fn lens_changes(&self) -> bool {
        let LensState { zoom, rotation, nudge, transitions } = &self.lens;
        !zoom.rests()
            || !rotation.rests()
            || nudge.is_some()
            || !transitions.is_empty()
            || !self.limits.edges.is_empty()
            || self.travels()
    }

    /// Moves zoom, rotation, nudge and bounds by some seconds. `screen` is the screen's size.
    pub(super) fn move_lens(
        &mut self,
        settings: &Settings,
        screen: UVec2,
        seconds: f64,
        step: &mut HalfLifeStep,
    ) {
        self.lens.advance(settings, screen.as_dvec2(), seconds, step);
        self.limits.edges.advance(seconds);
        self.travel_on(settings, seconds);
    }

    /// Lets a pause go on. Returns whether it ended, and the view waited for it.
    pub(super) fn pass_pause(&mut self, seconds: f64) -> bool {
        if self.pause <= 0.0 {
            return false;
        }
        self.pause -= seconds;
        if self.pause > 1e-12 {
            return false;
        }
        self.pause = 0.0;
        self.ride.picture.hand == Hand::Pause
    }

    /// Restarts following at a new goal, with nothing else known.
    pub(super) fn forget_goal(&mut self, goal: DVec2) {
        self.ride.goal = self.ride.goal.moved_to(goal);
        self.goal.track.forget();
    }

    /// Places the view so that a world point is at the anchor, and forgets how it came there.
    pub(super) fn place_at(&mut self, point: DVec2, rules: &Rules, framing: &Framing) {
        let Self { ride, cuts, goal, .. } = self;
        *cuts = cuts.wrapping_add(1);
        goal.cut = if goal.cut == Cut::First { Cut::Placed } else { goal.cut };
        ride.picture.hand = Hand::Off;
        ride.picture.fades.clear();
        ride.picture.forget_line();
        ride.room = None;
        ride.focus = Moving { position: point, velocity: DVec2::ZERO };
        self.forget_goal(point);
        self.ride.goal = self.ride.goal.restarted(rules, framing);
    }

    /// Moves everything that is in the world.
    pub(super) fn translate(&mut self, delta: DVec2) {
        self.ride.translate(delta);
        self.goal.track.translate(delta);
        self.goal.party.translate(delta);
        self.footing.translate(delta);
        self.shakes.translate(delta);
        self.route.translate(delta);
        self.clock.translate(delta);
    }
}

impl LensState {
    fn advance(
        &mut self,
        settings: &Settings,
        screen: DVec2,
        seconds: f64,
        step: &mut HalfLifeStep,
    ) {
        let Self { zoom, rotation, nudge, transitions } = self;
        zoom.advance(settings.zoom.half_life, seconds, screen, step);
        rotation.advance(settings.rotation.half_life, seconds, screen);
        if nudge.as_mut().is_some_and(|nudge| nudge.advance(seconds)) {
            *nudge = None;
        }
        transitions.advance(seconds);
    }
}
