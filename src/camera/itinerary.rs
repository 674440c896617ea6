//! A cutscene as a value: commands with their times, and their run.

use alloc::collections::BTreeSet;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

use crate::base::convert::IntoSeconds;
use crate::base::maths::usable_seconds;
use crate::curves::ease::Ease;
use crate::keys::error::SettingsError;

use super::Camera;
use super::arrival::Clock;
use super::calls::CameraCall;
use super::cameras::Cameras;
use super::command::Command;
use super::hand::Hand;

/// The longest itinerary, in seconds.
const MAX_SECONDS: f64 = 3600.0;

/// The longest wait for the view's arrival, in seconds.
const PATIENCE: f64 = 5.0;

/// A view that is nearer to its goal than this, in screen pixels, has arrived.
const ARRIVED_PIXELS: f64 = 0.5;

/// The maximum number of entries in one frame. What is left happens in the next one.
const MAX_PASSES: u32 = 100_000;

/// The length of a frame while an itinerary is skipped, in seconds.
const SKIPPED_FRAME: f64 = 1.0 / 60.0;

/// A cutscene: commands for a camera, with their times. An [`ItineraryRun`] runs it in a game.
///
/// ```
/// use velvet_pan::{Camera, Command, Itinerary, ItineraryRun, Settings, Travel, Waypoint};
///
/// let to_the_bell = Travel::new([[0, 0], [300, -80], [600, 0]].map(Waypoint::at), 2.0);
/// let scene = Itinerary::default()
///     .at(0.0, Command::Travel(to_the_bell))
///     .mark(2.0, "the bell rings")
///     .at(3.0, Command::Release);
/// let mut run = ItineraryRun::new(scene)?;
/// let mut camera = Camera::new(Settings::default())?;
/// let mut heard = Vec::new();
/// while !run.is_over() {
///     let dt = 1.0 / 60.0;
///     for notice in run.advance(dt, &mut camera) {
///         heard.push(notice.name().to_string());
///     }
///     camera.follow(dt, [0, 0]);
/// }
/// assert_eq!(heard, ["the bell rings"]);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Itinerary {
    /// What happens, in the order of the times.
    pub entries: Vec<Entry>,
    /// Whether it begins again after its last entry, until [`ItineraryRun::end_loop`]. Default `false`.
    pub loops: bool,
    /// Whether the player may grab, pan and zoom the view while it runs. Default `false`.
    pub allows_hands: bool,
}

/// An entry of an [`Itinerary`].
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(deny_unknown_fields)
)]
pub struct Entry {
    /// Its time, in seconds from the start. Waits do not count.
    pub at: f64,
    /// What happens.
    pub what: Passage,
}

/// What happens in an [`Itinerary`].
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Passage {
    /// The camera gets a command.
    Tell(Command),
    /// The picture glides to another camera of a set, as in [`Cameras::glide_to`].
    Camera {
        /// The key of the camera.
        key: String,
        /// The duration, in seconds; 0 cuts.
        seconds: f64,
        /// The easing.
        ease: Ease,
    },
    /// The game is to follow these subjects from now on.
    Watch(Vec<String>),
    /// The game gets a name: of a subtitle, a sound, somebody who enters.
    Mark(String),
    /// Waits until the game [opens](ItineraryRun::open) the gate with this name.
    WaitForGate(String),
    /// Waits until no glide, show, travel, zoom or rotation is under way and the view is within half a screen pixel of
    /// its goal, but not longer than 5 seconds.
    WaitForArrival,
}

impl Itinerary {
    /// Adds a command at a time, in seconds from the start.
    #[must_use]
    pub fn at(self, seconds: f64, command: Command) -> Self {
        self.with(seconds, Passage::Tell(command))
    }

    /// Adds a mark for the game.
    #[must_use]
    pub fn mark(self, seconds: f64, name: impl Into<String>) -> Self {
        self.with(seconds, Passage::Mark(name.into()))
    }

    /// Adds an entry, after those of the same time.
    ///
    /// ```
    /// # use velvet_pan::{Itinerary, Passage};
    /// let scene = Itinerary::default().with(2.0, Passage::WaitForArrival).mark(1.0, "curtain");
    /// assert_eq!(scene.entries[0].at, 1.0);
    /// ```
    #[must_use]
    pub fn with(mut self, seconds: f64, what: Passage) -> Self {
        let later = self.entries.iter().position(|entry| entry.at > seconds);
        let index = later.unwrap_or(self.entries.len());
        self.entries.insert(index, Entry { at: seconds, what });
        self
    }

    /// Returns the time of the last entry, in seconds.
    #[must_use]
    pub fn seconds(&self) -> f64 {
        self.entries.last().map_or(0.0, |entry| entry.at)
    }

    /// Returns the first entry that can't be run, by its index, and why.
    ///
    /// ```
    /// # use velvet_pan::{Command, Itinerary};
    /// let scene = Itinerary::default().at(f64::NAN, Command::Cut);
    /// assert_eq!(scene.fault().unwrap().to_string(), "entries.0.at = NaN: expected 0 or more, up to 3600");
    /// ```
    #[must_use]
    pub fn fault(&self) -> Option<ItineraryError> {
        let mut before = 0.0;
        for (entry, one) in self.entries.iter().enumerate() {
            if !(0.0..=MAX_SECONDS).contains(&one.at) {
                return Some(ItineraryError::Time { entry, at: one.at, least: 0.0 });
            }
            if one.at < before {
                return Some(ItineraryError::Time { entry, at: one.at, least: before });
            }
            if let Passage::Tell(Command::Travel(travel)) = &one.what
                && let Some(fault) = travel.fault()
            {
                return Some(ItineraryError::Command { entry, error: fault.into() });
            }
            before = one.at;
        }
        (self.loops && before <= 0.0).then_some(ItineraryError::Loop)
    }
}

/// The error for an [`Itinerary`] that can't be run.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum ItineraryError {
    /// The time of an entry is not possible, or earlier than that of the entry before.
    Time {
        /// The entry, by its index.
        entry: usize,
        /// Its time.
        at: f64,
        /// The earliest possible time.
        least: f64,
    },
    /// A command is refused.
    Command {
        /// The entry, by its index.
        entry: usize,
        /// What is wrong with it.
        error: SettingsError,
    },
    /// It loops, and takes no time.
    Loop,
}

impl fmt::Display for ItineraryError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Time { entry, at, least } => {
                write!(
                    f,
                    "entries.{entry}.at = {at}: expected {least} or more, up to {MAX_SECONDS}"
                )
            }
            Self::Command { entry, error } => write!(f, "entries.{entry}: {error}"),
            Self::Loop => write!(f, "loops: expected an entry later than 0"),
        }
    }
}

impl core::error::Error for ItineraryError {}

/// What runs an [`Itinerary`]: a [`Camera`], a set of [`Cameras`], or a wrapper around one that takes the same commands.
pub trait ItineraryTarget {
    /// Tells a command that was due before the end of the next frame: see [`Camera::tell_due`].
    ///
    /// # Errors
    ///
    /// Returns an error for a command that is refused.
    fn tell_due(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError>;

    /// Glides to another camera: see [`Cameras::glide_to_due`]. Returns `false` for an unknown key.
    fn glide_to_due(&mut self, key: &str, seconds: f64, ease: Ease, before_view: f64) -> bool;

    /// Returns whether the view has come to rest where it is heading.
    fn has_arrived(&self) -> bool;

    /// Ignores the player's hands from now on, or no longer.
    fn ignore_hands(&mut self, ignored: bool);

    /// Counts a cut without one, after frames that were not shown.
    fn count_cut(&mut self);
}

impl ItineraryTarget for Camera {
    fn tell_due(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError> {
        Self::tell_due(self, command, before_end)
    }

    fn glide_to_due(&mut self, _key: &str, _seconds: f64, _ease: Ease, _before_view: f64) -> bool {
        false
    }

    fn has_arrived(&self) -> bool {
        let state = &self.state;
        if self.is_gliding() || state.lens_changes() || !self.told.is_empty() {
            return false;
        }
        let is_held = !matches!(state.ride.picture.hand, Hand::Off | Hand::Pause | Hand::Stay);
        let away = (self.goal() - self.centre(Clock::Track)).length() * self.framing.lens.scale();
        is_held || away <= ARRIVED_PIXELS
    }

    fn ignore_hands(&mut self, ignored: bool) {
        if self.state.ignores_hands != ignored {
            self.state.ignores_hands = ignored;
            self.calls.add(|| CameraCall::HandsIgnored(ignored));
        }
    }

    fn count_cut(&mut self) {
        self.state.cuts = self.state.cuts.wrapping_add(1);
        self.calls.add(|| CameraCall::CutCounted);
    }
}

impl ItineraryTarget for Cameras<String> {
    fn tell_due(&mut self, command: Command, before_end: f64) -> Result<(), SettingsError> {
        self.active_mut().tell_due(command, before_end)
    }

    fn glide_to_due(&mut self, key: &str, seconds: f64, ease: Ease, before_view: f64) -> bool {
        Self::glide_to_due(self, &key.into(), seconds, ease, before_view)
    }

    fn has_arrived(&self) -> bool {
        !self.is_gliding() && self.active().has_arrived()
    }

    fn ignore_hands(&mut self, ignored: bool) {
        self.iter_mut().for_each(|(_, camera)| camera.ignore_hands(ignored));
    }

    fn count_cut(&mut self) {
        self.active_mut().count_cut();
    }
}

/// What an itinerary tells the game.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Notice<'a> {
    what: &'a Passage,
    /// How long before the end of the frame it happened, in seconds.
    pub before_end: f64,
}

impl<'a> Notice<'a> {
    /// Returns the subjects to follow from now on, if it says so.
    #[must_use]
    pub fn watched(&self) -> Option<&'a [String]> {
        if let Passage::Watch(names) = self.what { Some(names) } else { None }
    }

    /// Returns the name of a mark, or of a camera that the target does not have. Otherwise an empty text.
    #[must_use]
    pub fn name(&self) -> &'a str {
        match self.what {
            Passage::Mark(name) | Passage::Camera { key: name, .. } => name,
            _ => "",
        }
    }

    /// Returns what happened.
    #[must_use]
    pub fn passage(&self) -> &'a Passage {
        self.what
    }
}

/// An [`Itinerary`] on its way.
///
/// ```
/// use velvet_pan::{Camera, Command, Itinerary, ItineraryRun, Passage, Settings};
///
/// let scene = Itinerary::default()
///     .at(0.0, Command::ZoomTo(2.0))
///     .with(0.5, Passage::WaitForGate("the player has read it".into()))
///     .at(0.5, Command::ZoomTo(1.0));
/// let mut run = ItineraryRun::new(scene)?;
/// let mut camera = Camera::new(Settings::default())?;
/// let mut frame = |run: &mut ItineraryRun| {
///     run.advance(0.1, &mut camera);
///     camera.follow(0.1, [0, 0]);
/// };
/// (0..30).for_each(|_frame| frame(&mut run));
/// assert_eq!((run.waits(), run.seconds()), (true, 0.5));
/// run.open("the player has read it");
/// frame(&mut run);
/// assert!(run.is_over());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct ItineraryRun {
    itinerary: Itinerary,
    /// The time in it, and the next entry.
    at: f64,
    next: usize,
    /// How long it has waited at the next entry, in seconds. `None` if it does not wait.
    waited: Option<f64>,
    open: BTreeSet<String>,
    paused: bool,
    speed: f64,
    /// Whether it begins again after its last entry.
    loops: bool,
    /// What the last frame has to report: an entry, and its time before the frame's end.
    noticed: Vec<(usize, f64)>,
}

impl ItineraryRun {
    /// Begins an itinerary.
    ///
    /// # Errors
    ///
    /// Returns the first entry that can't be run.
    pub fn new(itinerary: Itinerary) -> Result<Self, ItineraryError> {
        if let Some(fault) = itinerary.fault() {
            return Err(fault);
        }
        let loops = itinerary.loops;
        Ok(Self {
            itinerary,
            at: 0.0,
            next: 0,
            waited: None,
            open: BTreeSet::new(),
            paused: false,
            speed: 1.0,
            loops,
            noticed: Vec::new(),
        })
    }

    /// Tells the target what is due in the next frame of this length, in seconds, each at its exact time, and returns
    /// what the game is to do: subjects to watch, and marks. Call it before the frame of the camera.
    ///
    /// A command that the camera refuses, and a camera that it does not have, are returned, too.
    pub fn advance<T: ItineraryTarget + ?Sized>(
        &mut self,
        seconds: impl IntoSeconds,
        target: &mut T,
    ) -> impl Iterator<Item = Notice<'_>> {
        self.noticed.clear();
        let mut left = usable_seconds(seconds.into_seconds());
        if !self.paused && !self.is_over() {
            target.ignore_hands(false);
            // A loop that takes next to no time would go round without end in a long frame.
            let mut passes = 0;
            while passes < MAX_PASSES && self.pass(&mut left, target) {
                passes += 1;
            }
            target.ignore_hands(!self.itinerary.allows_hands && !self.is_over());
        }
        self.notices()
    }

    /// What there is to report.
    fn notices(&self) -> impl Iterator<Item = Notice<'_>> {
        let entries = &self.itinerary.entries;
        self.noticed.iter().filter_map(|(entry, before_end)| {
            Some(Notice { what: &entries.get(*entry)?.what, before_end: *before_end })
        })
    }

    /// Goes on to the next entry, or to the end of the frame. `left` is the rest of the frame. Returns whether there
    /// may be more in this frame.
    fn pass<T: ItineraryTarget + ?Sized>(&mut self, left: &mut f64, target: &mut T) -> bool {
        let Some(entry) = self.itinerary.entries.get(self.next) else { return self.begin_again() };
        let reach = self.at + *left * self.speed;
        if entry.at > reach {
            (self.at, *left) = (reach, 0.0);
            return false;
        }
        if entry.at > self.at {
            *left -= (entry.at - self.at) / self.speed;
            self.at = entry.at;
        }
        let before_end = left.max(0.0);
        let acted = match &entry.what {
            Passage::WaitForGate(name) if self.open.contains(name) => true,
            Passage::WaitForGate(_) => return self.wait(left, f64::INFINITY),
            Passage::WaitForArrival if self.waited.is_some() && target.has_arrived() => true,
            Passage::WaitForArrival => return self.wait(left, PATIENCE),
            Passage::Tell(command) => target.tell_due(command.clone(), before_end).is_ok(),
            Passage::Camera { key, seconds, ease } => {
                target.glide_to_due(key, *seconds, *ease, before_end)
            }
            Passage::Watch(_) | Passage::Mark(_) => false,
        };
        if !acted {
            self.noticed.push((self.next, before_end));
        }
        (self.next, self.waited) = (self.next + 1, None);
        true
    }

    /// Waits for the rest of the frame, at most for some seconds in all. Returns whether it goes on within the frame.
    fn wait(&mut self, left: &mut f64, most: f64) -> bool {
        let waited = self.waited.unwrap_or(0.0);
        let rest = most - waited;
        if rest > *left {
            (self.waited, *left) = (Some(waited + *left), 0.0);
            return false;
        }
        *left -= rest;
        (self.next, self.waited) = (self.next + 1, None);
        true
    }

    /// Begins again after the last entry. Returns whether it does.
    fn begin_again(&mut self) -> bool {
        if self.loops {
            (self.at, self.next) = (0.0, 0);
        }
        self.loops
    }

    /// Runs the rest at once, in frames of 1/60 s that are not shown. `frame` runs a frame of this length: let the
    /// subjects stand where they are. Gates count as open, and a loop ends with its round. Afterwards the cameras are
    /// as if it had run, but without shakes, and count a cut more. Returns what the game is to do.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Command, Itinerary, ItineraryRun, Settings};
    /// let scene = Itinerary::default().at(1.0, Command::ZoomTo(2.0)).mark(4.0, "the end");
    /// let mut run = ItineraryRun::new(scene)?;
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.follow(0.0, [40, 20]);
    /// let notices = run.skip(&mut camera, |camera, dt| {
    ///     camera.follow(dt, [40, 20]);
    /// });
    /// assert_eq!(notices.last().unwrap().name(), "the end");
    /// assert!(run.is_over() && camera.view().lens().zoom() > 1.99);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn skip<T: ItineraryTarget + ?Sized>(
        &mut self,
        target: &mut T,
        mut frame: impl FnMut(&mut T, f64),
    ) -> impl Iterator<Item = Notice<'_>> {
        let gates = self.itinerary.entries.iter().filter_map(|entry| match &entry.what {
            Passage::WaitForGate(name) => Some(name.clone()),
            _ => None,
        });
        self.open.extend(gates);
        (self.loops, self.paused, self.speed) = (false, false, 1.0);
        let mut all = Vec::new();
        while !self.is_over() {
            self.advance(SKIPPED_FRAME, target).for_each(drop);
            all.append(&mut self.noticed);
            frame(target, SKIPPED_FRAME);
        }
        // A shake that is refused is none.
        let _ended = target.tell_due(Command::EndShakes(0.0), 0.0);
        target.count_cut();
        self.noticed = all;
        self.notices()
    }

    /// Ends it here. Commands that were given stay.
    pub fn stop<T: ItineraryTarget + ?Sized>(&mut self, target: &mut T) {
        (self.next, self.waited, self.loops) = (self.itinerary.entries.len(), None, false);
        target.ignore_hands(false);
    }

    /// Opens a gate, before or while it waits for it.
    pub fn open(&mut self, gate: impl Into<String>) {
        self.open.insert(gate.into());
    }

    /// Lets a loop end with its round.
    pub fn end_loop(&mut self) {
        self.loops = false;
    }

    /// Pauses it, or lets it go on. Commands under way go on.
    pub fn pause(&mut self, paused: bool) {
        self.paused = paused;
    }

    /// Sets how fast its time goes, above 0; 1 is its own pace. Commands take the time that they say. Other numbers
    /// change nothing.
    pub fn set_speed(&mut self, speed: f64) {
        if speed.is_finite() && speed > 0.0 {
            self.speed = speed;
        }
    }

    /// Returns the time in the itinerary, in seconds. It stands during waits.
    #[must_use]
    pub fn seconds(&self) -> f64 {
        self.at
    }

    /// Returns whether it waits.
    #[must_use]
    pub fn waits(&self) -> bool {
        self.waited.is_some()
    }

    /// Returns whether its last entry has happened.
    #[must_use]
    pub fn is_over(&self) -> bool {
        self.next >= self.itinerary.entries.len() && !self.loops
    }
}
