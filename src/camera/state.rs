//! The state that lasts from frame to frame, in the groups of a frame.

use core::fmt;

use glam::{DVec2, DVec4, UVec2, Vec2};

use crate::base::rect::Rect;
use crate::base::sound::{NOT_NEGATIVE, Sound, always_sound, sound};
use crate::camera::agenda::Agenda;
use crate::camera::hand::{Grip, Hand};
use crate::camera::leg::Ride;
use crate::camera::rules::Rules;
use crate::camera::travel::Route;
use crate::curves::ease::Timing;
use crate::curves::half_life::HalfLifeStep;
use crate::goal::air::Takeoff;
use crate::goal::look_ahead::LookMemory;
use crate::goal::party_memory::PartyMemory;
use crate::goal::rooms::RoomMemory;
use crate::goal::subject::Track;
use crate::lens::lens::Lens;
use crate::lens::rotation::RotationGlide;
use crate::lens::zoom::ZoomGlide;
use crate::limits::bounds::{Bounds, BoundsInForce};
use crate::limits::ratchet::Ratchet;
use crate::motion::footing::Footing;
use crate::motion::transition::Transitions;
use crate::settings::settings::Settings;
use crate::shake::active_shakes::ActiveShakes;
use crate::shake::cue::Nudge;

/// Everything of a camera that lasts from frame to frame. It is `Copy` and 9,976 bytes large.
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
    pub(super) pending: Pending,
    pub(super) agenda: Agenda,
    /// The way that the view travels, and the pending one.
    pub(super) route: Route,
    pub(super) next_route: Route,
    /// Whether the player's hands are ignored, as in a cutscene.
    pub(super) ignores_hands: bool,
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
    pending,
    agenda,
    route,
    next_route,
    ignores_hands,
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
    /// It is the first one. The game gave no cut, so no other pending command is dropped.
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

/// The commands since the last frame that have no time, one slot for each kind. They take effect at the end of the next
/// frame.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Pending {
    pub glide: Option<Timing>,
    /// A point to aim at if nothing is followed.
    pub aim: Option<DVec2>,
    pub nudge: Option<Nudge>,
    pub pause: Option<f64>,
    pub zoom: Option<f64>,
    /// What the zoom is about.
    pub about: Option<Grip>,
    pub rotation: Option<f64>,
    pub bounds: Option<NewBounds>,
    pub hand: Option<HandCommand>,
    /// The screen point to which the grabbed point is dragged, in screen pixels.
    pub drag: Option<Vec2>,
    /// By how much the view is moved, in world units.
    pub pan: DVec2,
}

sound!(Pending {
    glide,
    aim,
    nudge,
    pause in 0.0..=1e6,
    zoom in 1e-9..=1e9,
    about,
    rotation,
    bounds,
    hand,
    drag,
    pan,
});

/// Bounds that were set.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct NewBounds {
    pub bounds: Option<Bounds>,
    pub seconds: f64,
}

sound!(NewBounds { bounds, seconds in NOT_NEGATIVE });

/// The command of a hand.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) enum HandCommand {
    Grab(Grip),
    /// A world rectangle as large as it can be.
    Show(Rect, Timing),
    Travel,
    Release,
}

impl Sound for HandCommand {
    fn is_sound(&self) -> bool {
        match self {
            Self::Grab(grip) => grip.is_sound(),
            Self::Show(rect, timing) => rect.is_sound() && timing.is_sound(),
            Self::Travel | Self::Release => true,
        }
    }
}

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
            pending: Pending::default(),
            agenda: Agenda::default(),
            route: Route::default(),
            next_route: Route::default(),
            ignores_hands: false,
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
            self.ride.picture.barrier = None;
        }
        let is_unknown = |bounds: &Bounds| rules.extent(bounds).is_none();
        if let BoundsInForce::Set(Some(bounds)) = &self.limits.bounds
            && is_unknown(bounds)
        {
            self.limits.bounds = BoundsInForce::Own;
        }
        let wanted = self.pending.bounds.as_ref().and_then(|new| new.bounds);
        if wanted.is_some_and(|bounds| is_unknown(&bounds)) {
            self.pending.bounds = None;
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

    /// Returns whether a command waits that cannot do without the subject: a cut, also that of the first frame, or a
    /// glide.
    pub(super) fn waits_for_subject(&self) -> bool {
        self.goal.cut != Cut::No || self.pending.glide.is_some()
    }

    /// Returns whether more than following is under way.
    #[inline]
    pub(super) fn is_busy(&self) -> bool {
        self.lens_moves()
            || !self.ride.picture.shows_following()
            || self.pause > 0.0
            || self.pending.holds_point()
            || !self.agenda.is_empty()
            || !self.goal.party.is_empty()
    }

    /// Returns whether the subject may be anywhere on the screen, so that no leash holds it.
    #[inline]
    pub(super) fn frees_from_leash(&self, rules: &Rules) -> bool {
        rules.leads || self.ride.room.is_some() || self.goal.party.is_several()
    }

    /// Returns whether zoom, rotation or bounds are changing, or a party may change the zoom.
    #[inline]
    pub(super) fn lens_moves(&self) -> bool {
        self.lens_changes() || self.goal.party.may_zoom()
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

    /// Ends the oldest change of each kind if there are too many. Its remaining difference becomes part of a new change.
    pub(super) fn make_room_for_changes(&mut self) {
        self.lens.transitions.make_room();
        self.ride.picture.fades.make_room();
        self.limits.edges.make_room();
    }

    /// Restarts following at a new goal, with nothing else known.
    pub(super) fn forget_goal(&mut self, goal: DVec2) {
        self.ride.goal = self.ride.goal.moved_to(goal);
        self.goal.track.forget();
    }

    /// Moves everything that is in the world.
    pub(super) fn translate(&mut self, delta: DVec2) {
        self.ride.translate(delta);
        self.goal.track.translate(delta);
        self.goal.party.translate(delta);
        self.footing.translate(delta);
        self.shakes.translate(delta);
        self.pending.translate(delta);
        self.agenda.translate(delta);
        self.route.translate(delta);
        self.next_route.translate(delta);
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

impl Pending {
    /// Returns whether nothing takes effect with the end of the next frame.
    #[inline]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }

    /// Returns whether a point is grabbed or zoomed about from the start of the next frame.
    #[inline]
    pub fn holds_point(&self) -> bool {
        self.about.is_some() || matches!(self.hand, Some(HandCommand::Grab(_)))
    }

    /// Lets the view pause, at least for this time.
    pub fn pause(&mut self, seconds: f64) {
        self.pause = Some(self.pause.unwrap_or(seconds).max(seconds));
    }

    /// Grabs a point, if there is one.
    pub fn grab(&mut self, grip: Option<Grip>) {
        if let Some(grip) = grip {
            (self.hand, self.drag) = (Some(HandCommand::Grab(grip)), None);
        }
    }

    /// Drags the grabbed point to a screen point.
    pub fn drag_to(&mut self, screen: Vec2) {
        match &mut self.hand {
            _ if !screen.is_finite() => {}
            Some(HandCommand::Grab(grip)) => grip.screen = screen,
            _ => self.drag = Some(screen),
        }
    }

    /// Moves the view by screen pixels.
    pub fn pan_by(&mut self, pixels: Vec2, lens: &Lens) {
        let pan = self.pan + lens.to_world_axes(pixels.as_dvec2());
        if pixels.is_finite() && pan.is_finite() {
            self.pan = pan;
        }
    }

    /// Drops everything that takes the view in hand, or lets it wait.
    pub fn drop_hands(&mut self) {
        (self.hand, self.drag, self.about, self.pause) = (None, None, None, None);
        self.pan = DVec2::ZERO;
    }

    /// Moves everything that is in the world.
    pub fn translate(&mut self, delta: DVec2) {
        self.aim = self.aim.map(|aim| aim + delta);
        if let Some(about) = &mut self.about {
            about.world += delta;
        }
        match &mut self.hand {
            Some(HandCommand::Grab(grip)) => grip.world += delta,
            Some(HandCommand::Show(rect, _)) => rect.translate(delta),
            Some(HandCommand::Travel | HandCommand::Release) | None => {}
        }
    }
}
