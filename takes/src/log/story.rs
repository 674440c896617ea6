//! A log as paths and events, to be ridden in even steps.

use std::collections::{BTreeMap, BTreeSet};

use velvet_pan::glam::DVec2;
use velvet_pan::{Command, Settings, Subject, WindowSize};

use super::call::{Call, What};
use super::read::Log;
use crate::take::event::Event;
use crate::take::path::{MAX_COORDINATE, Path, PathRow};
use crate::take::subjects::{MAIN, TakeCamera, TakeSubject};

/// The name of a subject that is followed alone.
const ALONE: &str = "subject";

/// Everything is this much earlier, in seconds, so that no rounding of a sum of steps puts it off by a row.
const HAIR: f64 = 1e-9;

/// What a log says as a take does.
#[derive(Clone, Debug, Default)]
pub struct Story {
    pub settings: Settings,
    pub window: WindowSize,
    pub watch: Vec<String>,
    pub subjects: BTreeMap<String, TakeSubject>,
    pub cameras: BTreeMap<String, TakeCamera>,
    pub events: Vec<Event>,
}

impl Log {
    /// Returns what the log says as a take does. States that the game put back are not in it.
    pub(crate) fn story(&self) -> Story {
        let mut teller = Teller::default();
        teller.listen(self);
        teller.told()
    }
}

/// Listens to a log, also to one that grows.
#[derive(Clone, Debug, Default)]
pub(super) struct Teller {
    /// The number of calls that it has heard.
    heard: usize,
    story: Story,
    /// The key of the first camera, which is the take's own.
    own: Option<String>,
    active: String,
    rows: BTreeMap<String, (Subject, Vec<PathRow>)>,
    members: Vec<String>,
    /// Whom the active camera follows, after the first frame.
    watched: Option<Vec<String>>,
    sizes: BTreeSet<String>,
}

impl Teller {
    /// Hears the new calls of a log.
    pub fn listen(&mut self, log: &Log) {
        for (t, call) in log.timed(self.heard) {
            self.hear((t - HAIR).max(0.0), call);
            self.heard += 1;
        }
    }

    /// Returns the name of a camera in the take.
    fn name(&self, key: &str) -> String {
        if self.own.as_deref() == Some(key) { MAIN.to_owned() } else { key.to_string() }
    }

    fn hear(&mut self, t: f64, call: &Call) {
        let name = self.name(&call.camera);
        let is_active = name == self.active;
        match &call.what {
            What::Insert(settings) => self.insert(&call.camera, settings),
            // The window at the start is the take's own.
            What::Tell(Command::Resize(window)) if self.sizes.insert(name.clone()) => {
                self.story.window = if is_active { *window } else { self.story.window };
            }
            What::Tell(command) if is_active => self.tell(t - call.seconds, command.clone()),
            What::Settings(settings) if is_active => {
                let (settings, seconds) = (settings.clone(), call.seconds);
                self.tell(t, Command::SetSettings { settings, seconds });
            }
            What::SwitchTo if !is_active => self.switch(t, name, None),
            What::GlideTo { seconds, ease } if !is_active => {
                let glide = Event { ease: Some(*ease), glide: Some(*seconds), ..Event::default() };
                self.switch(t - call.seconds, name, Some(glide));
            }
            What::Member => self.see_member(t, call),
            What::Follow if is_active => {
                self.see(t, ALONE, call);
                self.watch(t, vec![ALONE.to_owned()]);
            }
            What::FollowAll if is_active => {
                let members = std::mem::take(&mut self.members);
                self.watch(t, members);
            }
            What::Advance if is_active => self.watch(t, Vec::new()),
            What::FollowAll => self.members.clear(),
            _ => {}
        }
    }

    fn insert(&mut self, key: &str, settings: &Settings) {
        if self.own.is_none() {
            self.own = Some(key.to_owned());
            self.active = MAIN.to_owned();
            self.story.settings = settings.clone();
        } else if self.own.as_deref() != Some(key) {
            let camera = TakeCamera { settings: settings.clone(), watch: Vec::new(), aim: None };
            self.story.cameras.insert(key.to_string(), camera);
        }
    }

    fn tell(&mut self, at: f64, command: Command) {
        self.add(Event { at, tell: Some(command), ..Event::default() });
    }

    fn switch(&mut self, at: f64, name: String, glide: Option<Event>) {
        self.active.clone_from(&name);
        self.add(Event { at, camera: Some(name), ..glide.unwrap_or_default() });
    }

    /// Adds an event, not before the last one.
    fn add(&mut self, event: Event) {
        let last = self.story.events.last().map_or(0.0, |event| event.at);
        let at = if event.at.is_finite() { event.at.max(last) } else { last };
        self.story.events.push(Event { at, ..event });
    }

    fn watch(&mut self, at: f64, names: Vec<String>) {
        match &self.watched {
            None => self.story.watch.clone_from(&names),
            Some(watched) if *watched == names => return,
            Some(_) => {
                self.add(Event { at, watch: Some(names.clone()), ..Event::default() });
            }
        }
        self.watched = Some(names);
    }

    fn see_member(&mut self, t: f64, call: &Call) {
        let index = self.members.len();
        let id = call.subject.and_then(|subject| subject.id);
        let name = id.map_or(format!("{ALONE}-{index}"), |id| format!("{ALONE}-{id}"));
        self.see(t, &name, call);
        self.members.push(name);
    }

    /// Adds a place of a subject.
    fn see(&mut self, t: f64, name: &str, call: &Call) {
        let Some(subject) = call.subject else { return };
        let place = subject.position;
        // A path has no gaps: the subject stays where it was.
        let near = |point: DVec2| point.is_finite() && point.abs().max_element() <= MAX_COORDINATE;
        if !near(place) || !near(subject.carrier) {
            return;
        }
        let (last, rows) = self.rows.entry(name.to_owned()).or_insert((subject, Vec::new()));
        *last = subject;
        if rows.last().is_some_and(|row| row.t >= t) {
            return;
        }
        let view =
            self.story.settings.screen.size.as_dvec2() / self.story.settings.screen.unit_pixels;
        let leaps = |row: &PathRow| (place - row.position).abs().cmpgt(view).any();
        let cut = rows.last().is_some_and(leaps);
        let Subject { grounded, jump, carrier, .. } = subject;
        rows.push(PathRow { t, position: place, grounded, jump, carrier, cut });
    }

    /// Returns what was heard so far.
    pub fn told(&self) -> Story {
        let actors = self.rows.iter().filter_map(|(name, (subject, rows))| {
            let (first, others) = rows.split_first()?;
            let mut path = Path::starting(*first).ok()?;
            others.iter().try_for_each(|row| path.push(*row)).ok()?;
            let Subject { weight, rank, margin, .. } = *subject;
            Some((name.clone(), TakeSubject { path, weight, rank, margin }))
        });
        Story { subjects: actors.collect(), ..self.story.clone() }
    }
}
