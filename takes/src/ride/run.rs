//! Cameras on their way through a take.

use std::collections::BTreeMap;
use std::ops::Range;

use serde::{Deserialize, Serialize};
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, CameraState, Cameras, Command, CueCall, Decider, Decision, ItineraryTarget,
    PerAxis, Rect, Settings, SettingsError, Shake, Subject, View, WindowSize,
};

use crate::log::{Log, Player};
use crate::ride::clock::EventClock;
use crate::ride::moment::{Happening, Moment};
use crate::take::event::Event;
use crate::take::subjects::{MAIN, TakeSubject};
use crate::take::take::Take;
use crate::text::fault::Fault;
use crate::tuning::edits::Edits;

/// The target of a camera.
#[derive(Clone, Debug, Serialize, Deserialize)]
enum Target {
    Subjects {
        names: Vec<String>,
        /// Whether they are shown together, now or before. If so, subjects that leave fade out.
        party: bool,
    },
    Point(DVec2),
}

impl Target {
    fn of(names: Vec<String>, party: bool) -> Self {
        let party = party || names.len() > 1;
        Self::Subjects { names, party }
    }
}

/// The state of a run, from which another process continues with exactly the same results.
///
/// It can be serialised.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct RideState {
    /// The next row.
    next: u64,
    events: EventClock,
    pan: [f32; 2],
    active: String,
    cameras: BTreeMap<String, (Target, CameraState)>,
    /// The take that it belongs to, and its frame rate.
    take: u64,
    fps: f64,
}

/// The cameras of a take, and their progress through it.
///
/// A run does not contain its take; each call passes it. So the take may grow while it runs, as the one that a player
/// records, and several runs with different settings can use the same take. To ride a take from start to end, a
/// [`Ride`](crate::Ride) is simpler.
///
/// ```
/// # use velvet_pan_takes::{BuiltIn, Files, Overrides, Run, Take};
/// # let text = "seconds = 2.0\n[subjects.courier]\nkeys = [[0.0, 0.0, 0.0], [2.0, 240.0, 0.0]]\n";
/// # let files = [BuiltIn { name: "run.toml", text: text.into() }];
/// # let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
/// let mut run = Run::new(&take)?;
/// run.skip_to(&take, 60); // 60 frames a second: the first second
/// let moment = run.step(&take);
/// assert_eq!(moment.t, 1.0);
/// assert_eq!(run.camera().view().centre().x, 120.0);
/// # Ok::<(), velvet_pan_takes::Fault>(())
/// ```
#[derive(Clone, Debug)]
pub struct Run {
    cameras: Cameras<String>,
    targets: BTreeMap<String, Target>,
    /// The velocity of panning by hand, in screen pixels per second.
    pan: Vec2,
    events: EventClock,
    next: u64,
    /// What goes through the log, if the take is one, or else wins over the settings that its events change.
    player: Player,
    /// The key of the take's own camera.
    own: String,
    /// Its settings in the log, if the take is one.
    logged: Option<Box<Settings>>,
}

/// What figures need of a row.
pub(crate) struct Glance {
    pub t: f64,
    pub view: View,
    pub subject: Option<DVec2>,
    /// As a centre of the view, in world units.
    pub goal: DVec2,
    pub deciders: [Decider; 2],
}

impl Run {
    /// Starts before the first row.
    ///
    /// # Errors
    ///
    /// The settings can't be used.
    pub fn new(take: &Take) -> Result<Self, Fault> {
        Self::with_settings(take, &take.settings)
    }

    /// Starts before the first row, with other settings for the take's own camera.
    ///
    /// # Errors
    ///
    /// The settings can't be used.
    pub fn with_settings(take: &Take, settings: &Settings) -> Result<Self, Fault> {
        let logged = take.log.as_deref().map(|log| Box::new(log.first_camera().1));
        let edits = logged.as_ref().map(|logged| Edits::between(logged, settings));
        let camera = |settings: &Settings| {
            Camera::new(settings.clone()).map_err(|error| Fault::new(error.to_string()))
        };
        let own = take.ridden_log().map_or(MAIN, |log| log.first_camera().0).to_owned();
        let player = Player::new(&own, edits.unwrap_or_default());
        let mut cameras = Cameras::new(own.clone(), camera(settings)?);
        let mut targets = BTreeMap::from([(own.clone(), Target::of(take.watch.clone(), false))]);
        // A log inserts its cameras itself.
        let others = take.cameras.iter().filter(|_| take.ridden_log().is_none());
        for (name, other) in others {
            cameras.insert(name.clone(), camera(&other.settings)?);
            let target = match other.aim {
                Some(place) if other.watch.is_empty() => Target::Point(place.into()),
                _ => Target::of(other.watch.clone(), false),
            };
            targets.insert(name.clone(), target);
        }
        for (name, camera) in cameras.iter_mut() {
            if let Some(Target::Point(point)) = targets.get(name) {
                camera.place_at(*point);
            }
        }
        cameras.resize(take.window);
        let (pan, events) = (Vec2::ZERO, EventClock::default());
        Ok(Self { cameras, targets, pan, events, next: 0, player, own, logged })
    }

    /// Returns the state of the run, or `None` while the picture glides between two cameras.
    pub fn state(&self, take: &Take) -> Option<RideState> {
        if self.cameras.is_gliding() {
            return None;
        }
        let active = self.cameras.active_key().clone();
        let targets = &self.targets;
        let cameras = self.cameras.iter().filter_map(|(name, camera)| {
            Some((name.clone(), (targets.get(name)?.clone(), camera.state())))
        });
        Some(RideState {
            next: self.next,
            events: self.events.clone(),
            pan: self.pan.to_array(),
            active,
            cameras: cameras.collect(),
            take: take.digest(),
            fps: take.fps,
        })
    }

    /// Continues the same take from a saved state.
    ///
    /// # Errors
    ///
    /// The state is not one of this take.
    pub fn resumed(take: &Take, state: &RideState) -> Result<Self, Fault> {
        let mut run = Self::new(take)?;
        let other = || Fault::new("the saved ride belongs to another take: expected the same take");
        if state.take != take.digest() {
            return Err(other());
        }
        if state.fps != take.fps {
            let (was, is) = (state.fps, take.fps);
            let what = format!(
                "the saved ride has {was} frames a second, this one {is}: expected the same"
            );
            return Err(Fault::new(what));
        }
        if take.ridden_log().is_some() {
            run.skip_to(take, state.next);
            return Ok(run);
        }
        let happened = take.events.get(..state.events.happened).ok_or_else(other)?;
        // The window is not part of a camera's state.
        if let Some(window) = happened.iter().rev().find_map(|event| event.window) {
            run.cameras.resize(window);
        }
        for (name, camera) in run.cameras.iter_mut() {
            let (target, saved) = state.cameras.get(name).ok_or_else(other)?;
            camera.restore(*saved).map_err(|error| Fault::new(error.to_string()))?;
            run.targets.insert(name.clone(), target.clone());
        }
        if !run.targets.contains_key(&state.active) {
            return Err(other());
        }
        run.cameras.switch_to(&state.active);
        (run.next, run.pan, run.events) = (state.next, state.pan.into(), state.events.clone());
        Ok(run)
    }

    /// Runs the next row, a frame of `1 / fps` seconds. The first row has no duration.
    pub fn step(&mut self, take: &Take) -> Moment {
        self.long_step(take, 1)
    }

    /// Runs a single frame as long as this number of rows, as on a machine that falls behind. The rows between are not
    /// shown.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Files, Overrides, Run, Take};
    /// # let text = "seconds = 2.0\n[subjects.courier]\nkeys = [[0.0, 0.0, 0.0], [2.0, 240.0, 0.0]]\n";
    /// # let files = [BuiltIn { name: "run.toml", text: text.into() }];
    /// # let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
    /// let mut run = Run::new(&take)?;
    /// run.step(&take);
    /// assert_eq!(run.long_step(&take, 15).t, 0.25); // 15 rows at 60 frames a second
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn long_step(&mut self, take: &Take, rows: u64) -> Moment {
        let (t, step) = self.frame(take, rows);
        let view = self.shown(take, step);
        let camera = self.cameras.active();
        Moment {
            t,
            view,
            goal: camera.goal(),
            subject: self.aimed_at(take, t),
            overlay: camera.overlay(),
            envelope: camera.shake_envelope(),
            led: self.is_led(),
            decision: self.decision(),
            happening: self.happening(take, t, step),
            events_t: self.events.at(t),
        }
    }

    /// What happened in the last frame, which ended at `t`.
    fn happening(&self, take: &Take, t: f64, step: f64) -> Option<Happening> {
        // Not the moment at which the frame before ended, whatever rounding says.
        let from = t - step + 1e-9;
        let followed = match self.targets.get(self.cameras.active_key()) {
            Some(Target::Subjects { names, .. }) => {
                names.first().and_then(|name| take.subjects.get(name))
            }
            _ => None,
        };
        let in_air = |actor: &TakeSubject, t: f64| actor.subject(t).grounded == Some(false);
        match followed {
            Some(actor) if actor.path.cut_between(from, t).is_some() => Some(Happening::Teleport),
            Some(actor) if in_air(actor, from) && !in_air(actor, t) => Some(Happening::Landing),
            _ => {
                let newest = self.events.newest.filter(|at| *at > from || t <= 0.0);
                newest.map(|_| Happening::Command)
            }
        }
    }

    /// Runs the next row as [`step`](Self::step) does, without what only charts and films need.
    pub(crate) fn glance(&mut self, take: &Take) -> Glance {
        let (t, step) = self.frame(take, 1);
        let view = self.shown(take, step);
        let PerAxis { x, y } = self.decision();
        let goal = self.cameras.active().goal();
        Glance { t, view, subject: self.aimed_at(take, t), goal, deciders: [x.by, y.by] }
    }

    /// Returns the stage that decides where the view is. Between two cameras it is their glide.
    fn decision(&self) -> PerAxis<Decision> {
        let word = self.cameras.active().decision();
        let glides = |word: Decision| Decision { by: Decider::Transition, ..word };
        if self.cameras.is_gliding() {
            return PerAxis { x: glides(word.x), y: glides(word.y) };
        }
        word
    }

    /// Returns whether the active camera follows subjects.
    pub(crate) fn follows(&self) -> bool {
        if self.player.followed.is_some() {
            return true;
        }
        let target = self.targets.get(self.cameras.active_key());
        matches!(target, Some(Target::Subjects { names, .. }) if !names.is_empty())
    }

    /// Returns whether something other than following moves the view: a glide, a hand, a cutscene.
    pub(crate) fn is_led(&self) -> bool {
        let camera = self.cameras.active();
        !self.follows() || self.cameras.is_gliding() || camera.is_gliding() || camera.is_in_hand()
    }

    /// Runs until this row, counted from 0, is the next one.
    pub fn skip_to(&mut self, take: &Take, row: u64) {
        while self.next < row {
            let (_, step) = self.frame(take, 1);
            self.shown(take, step);
        }
    }

    /// Returns the number of the next row, from 0.
    pub fn next_row(&self) -> u64 {
        self.next
    }

    /// Returns the time on the clock of the take's events, in seconds: that of the ride, without waits.
    pub fn events_time(&self, take: &Take) -> f64 {
        self.events.at(self.next.saturating_sub(1) as f64 / take.fps)
    }

    /// Returns the active camera.
    pub fn camera(&self) -> &Camera {
        self.cameras.active()
    }

    /// Returns the current view, in a window of the current size.
    pub fn view(&mut self) -> View {
        self.cameras.view(0.0)
    }

    /// Sets the size of the window, in window pixels.
    pub fn resize(&mut self, window: impl Into<WindowSize>) {
        self.cameras.resize(window);
    }

    /// Changes the settings of the take's own camera while it runs. The change takes the given number of seconds.
    ///
    /// # Errors
    ///
    /// The settings can't be used; the old ones stay.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Files, Overrides, Run, Take};
    /// # let text = "seconds = 2.0\n[subjects.courier]\nkeys = [[0.0, 0.0, 0.0]]\n";
    /// # let files = [BuiltIn { name: "run.toml", text: text.into() }];
    /// # let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
    /// let mut run = Run::new(&take)?;
    /// run.step(&take);
    /// let mut settings = take.settings.clone();
    /// settings.zoom.level = 2.0;
    /// run.set_settings(settings, 0.0)?;
    /// run.step(&take);
    /// assert_eq!(run.camera().view().lens().zoom(), 2.0);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn set_settings(&mut self, settings: Settings, seconds: f64) -> Result<(), SettingsError> {
        if let Some(logged) = &self.logged {
            self.player.edit(Edits::between(logged, &settings));
        }
        match self.cameras.get_mut(&self.own) {
            Some(camera) => camera.set_settings(settings, seconds),
            None => Ok(()),
        }
    }

    /// Returns the view at the end of a frame of this length. A log has made the call already.
    fn shown(&mut self, take: &Take, step: f64) -> View {
        self.cameras.view(if take.ridden_log().is_some() { 0.0 } else { step })
    }

    /// Makes the calls of the next frames of a log. Returns the time of the last one, and how long they are together.
    fn logged_frames(&mut self, log: &Log, rows: u64) -> (f64, f64) {
        let (mut t, mut seconds) = (log.seconds(), 0.0);
        for _ in 0..rows {
            let Some(frame) = log.frame(self.next) else { break };
            (t, seconds) = (frame.t, seconds + frame.step);
            let calls = log.calls_of(self.next);
            let tells = calls.fold(false, |tells, call| {
                self.player.play(&mut self.cameras, call);
                tells || call.tells()
            });
            if tells || self.next == 0 {
                self.events.newest = Some(t);
            }
            self.next += 1;
        }
        (t, seconds)
    }

    /// Applies the events up to the end of the next frame, and runs the frame of every camera. Returns its time and
    /// its length, in seconds.
    fn frame(&mut self, take: &Take, rows: u64) -> (f64, f64) {
        let rows = rows.max(1);
        if let Some(log) = take.ridden_log() {
            return self.logged_frames(log, rows);
        }
        let before = self.next.saturating_sub(1);
        let row = if self.next == 0 { 0 } else { before.saturating_add(rows) };
        let t = row as f64 / take.fps;
        let step = match (row, rows) {
            (0, _) => 0.0,
            (_, 1) => 1.0 / take.fps,
            _ => t - before as f64 / take.fps,
        };
        self.next = row.saturating_add(1);
        let arrived = self.events.waits_for_view() && self.cameras.has_arrived();
        let (mut panned, mut switched) = (t - step, None);
        while let Some((event, at)) = self.events.next(take, (t - step, t), arrived) {
            if let Some(speed) = event.pan {
                self.pan_on(panned..at, t);
                panned = at.max(panned);
                self.change_pan(speed.into(), t - at);
            }
            if self.apply(event, t - at) {
                switched = Some((self.cameras.active_key().clone(), at));
            }
        }
        self.pan_on(panned..t, t);
        self.advance(take, step, t, switched.as_ref());
        (t, step)
    }

    /// Applies an event that was due `late` seconds before the end of the frame. Returns whether the active camera
    /// follows another single subject from then on.
    fn apply(&mut self, event: &Event, late: f64) -> bool {
        if let Some(window) = event.window {
            self.cameras.resize(window);
        }
        if let Some(name) = &event.camera {
            // Cameras were checked when the take was read.
            let seconds = event.glide.unwrap_or(0.0);
            self.cameras.glide_to_due(name, seconds, event.ease.unwrap_or_default(), late);
        }
        let switched = self.change_target(event);
        let switch = switched.then_some(Command::SwitchSubject);
        for command in switch.into_iter().chain(commands(event)) {
            let command = self.player.edited(self.cameras.active_key(), command);
            tell(self.cameras.active_mut(), command, late);
        }
        switched
    }

    /// Changes what the active camera follows or aims at. Returns whether that is another single subject.
    fn change_target(&mut self, event: &Event) -> bool {
        let key = self.cameras.active_key().clone();
        let mut switched = false;
        if let Some(names) = &event.watch {
            let before =
                matches!(self.targets.get(&key), Some(Target::Subjects { party: true, .. }));
            let target = Target::of(names.clone(), before);
            switched = matches!(target, Target::Subjects { party: false, .. });
            self.targets.insert(key.clone(), target);
        }
        if let Some(place) = event.aim {
            self.targets.insert(key, Target::Point(place.into()));
        }
        switched
    }

    /// Pans by hand for a part of a step that ends at `t`. From its start the hand holds the view.
    fn pan_on(&mut self, span: Range<f64>, t: f64) {
        let (seconds, late) = (span.end - span.start, t - span.start);
        if seconds > 0.0 && self.pan != Vec2::ZERO {
            let pan = Command::Pan(self.pan * seconds as f32);
            tell(self.cameras.active_mut(), pan, late);
        }
    }

    /// Pans at another velocity. At 0 the hand lets the view go.
    fn change_pan(&mut self, speed: Vec2, late: f64) {
        if self.pan != Vec2::ZERO && speed == Vec2::ZERO {
            tell(self.cameras.active_mut(), Command::Release, late);
        }
        self.pan = speed;
    }

    /// Runs a frame of every camera. `switched` is one that has another subject, and since when.
    fn advance(&mut self, take: &Take, step: f64, t: f64, switched: Option<&(String, f64)>) {
        for (name, camera) in self.cameras.iter_mut() {
            let (watched, party) = match self.targets.get(name) {
                Some(Target::Subjects { names, party }) => (names.as_slice(), *party),
                _ => (&[][..], false),
            };
            let subject = |name: &String| take.subjects.get(name).map(|actor| actor.subject(t));
            match watched {
                [] => camera.advance(step),
                [only] if !party => match subject(only) {
                    Some(subject) => {
                        let path = &take.subjects[only].path;
                        let switched = switched.filter(|(camera, _)| camera == name);
                        let jumped = path.cut_between(t - step, t);
                        // The subject jumped, and the camera cuts with it.
                        if let Some(at) = jumped {
                            tell(camera, Command::Cut, t - at);
                        }
                        let came = jumped.or(switched.map(|(_, at)| *at));
                        let velocity = came.map(|at| path.mean_velocity(at, t));
                        camera.follow(step, Subject { velocity, ..subject })
                    }
                    None => camera.advance(step),
                },
                several => {
                    // By their index among all subjects, so that each keeps its number.
                    let number = |name: &String| take.subjects.keys().position(|key| key == name);
                    let numbered = |name: &String| {
                        Some(subject(name)?.with_id(u32::try_from(number(name)?).ok()?))
                    };
                    let subjects: Vec<Subject> = several.iter().filter_map(numbered).collect();
                    camera.follow_all(step, &subjects)
                }
            };
        }
    }

    /// Returns the position of the first subject that the active camera aims at.
    fn aimed_at(&self, take: &Take, t: f64) -> Option<DVec2> {
        if take.ridden_log().is_some() {
            return self.player.followed.map(|subject| subject.position);
        }
        match self.targets.get(self.cameras.active_key())? {
            Target::Point(place) => Some(*place),
            Target::Subjects { names, .. } => {
                Some(take.subjects.get(names.first()?)?.path.position(t))
            }
        }
    }
}

/// Tells a camera what was due `late` seconds before the end of its frame. Bounds were checked when the take was read;
/// refused ones leave the old ones.
fn tell(camera: &mut Camera, command: Command, late: f64) {
    let _ = camera.tell_due(command, late);
}

/// What an event tells the active camera.
pub(crate) fn commands(event: &Event) -> impl Iterator<Item = Command> {
    let (seconds, ease) = (event.glide.unwrap_or(0.0), event.ease.unwrap_or_default());
    let rect = |[x, y, width, height]: [f64; 4]| Rect::from_corner_size([x, y], [width, height]);
    let glides = event.bounds.is_none()
        && event.outline.is_none()
        && event.show.is_none()
        && event.travel.is_none()
        && event.camera.is_none();
    let shake = |strength| Command::Shake { shake: Shake::default(), strength };
    let zoom_by = |notches| Command::ZoomBy { notches, about: event.about.map(Vec2::from) };
    let set_bounds = |bounds| Command::SetBounds { bounds: Some(bounds), seconds };
    // The outlines were checked when the take was read.
    let outline = event.outline.as_ref().and_then(|name| Bounds::of_outline(name).ok());
    let show = |shown| Command::Show { rect: rect(shown), seconds, ease };
    let aim = event.aim.map(DVec2::from);
    let place = event.from.map_or(CueCall::anywhere(), CueCall::at);
    let call = place.with_strength(event.strength.unwrap_or(1.0));
    // The cues were checked when the take was read. A camera without this cue ignores it.
    let cue = |name: &String| Command::Cue { name: name.clone(), call };
    [
        event.cue.as_ref().map(cue),
        aim.map(Command::AimAt),
        event.bounds.map(|four| Bounds::new(rect(four))).or(outline).map(set_bounds),
        event.glide.filter(|_| glides).map(|seconds| Command::Glide { seconds, ease }),
        event.cut.then_some(Command::Cut),
        aim.filter(|_| event.cut).map(Command::PlaceAt),
        event.place.map(|place| Command::PlaceAt(place.into())),
        event.zoom_now.map(Command::ZoomNow),
        event.rotate_now.map(Command::RotateNow),
        event.release.then_some(Command::Release),
        event.grab.map(|point| Command::Grab(point.into())),
        event.drag.map(|point| Command::DragTo(point.into())),
        event.notches.map(zoom_by),
        event.show.map(show),
        event.way().and_then(Result::ok).map(Command::Travel),
        event.shake.map(shake),
        event.zoom.map(Command::ZoomTo),
        event.rotate.map(Command::RotateTo),
        event.tell.clone(),
    ]
    .into_iter()
    .flatten()
}
