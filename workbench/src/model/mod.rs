//! The workbench without its window: a take that is played or ridden, and two cameras that go through it together, A
//! with the kept settings and B with the edited ones.

mod compared_camera;
mod live;
mod machine;
mod measure;
mod mover;
mod passages;
mod play;
mod source;
mod transport;
mod undo;

pub use compared_camera::ComparedCamera;
pub use machine::Machine;
pub use mover::Wish;
pub use play::COURIER;
pub use source::Source;
pub use transport::Transport;

use live::Live;
use passages::Passages;
use play::Play;
use source::Opened;
use undo::Undo;
use velvet_pan::glam::Vec2;
use velvet_pan::{Settings, WindowSize};
use velvet_pan_egui::Drawn;
use velvet_pan_takes::{Event, EventTime, Fault, Figures, LogNews, Player, Take, TuningFile};
use velvet_pan_terraces::own::Artwork;

/// The length of a played take, in seconds, after which it starts again.
const MAX_PLAYED_SECONDS: f64 = 600.0;
/// The duration of a hitch, in seconds.
const HITCH: f64 = 0.25;

/// Camera A, with the kept settings.
pub const A: usize = 0;
/// Camera B, with the edited settings.
pub const B: usize = 1;

/// A take, two cameras, and the tuning of the second.
#[derive(Debug)]
pub struct Bench {
    /// The tuning, whose settings are those of B.
    pub tuning: TuningFile,
    /// The simulated machine.
    pub machine: Machine,
    /// Play and pause.
    pub transport: Transport,
    /// The last fault of the tuning's file or of writing.
    pub fault: Option<Fault>,
    source: Source,
    take: Take,
    /// The pictures of the take.
    art: Artwork,
    /// The take's own frames per second.
    own_fps: f64,
    play: Option<Play>,
    /// What follows the log of a game.
    live: Option<Live>,
    kept: Settings,
    sides: [ComparedCamera; 2],
    undo: Undo<Edited>,
    passages: Passages,
    /// The revision of the take, which counts its changes.
    changes: u64,
    /// The number of events that were added by hand.
    added: usize,
    hitches: bool,
    hand: Hand,
}

/// What can be undone: the tuning, the times of the take's events, and how its player moves.
#[derive(Clone, Debug, PartialEq)]
struct Edited {
    settings: Settings,
    times: Vec<EventTime>,
    player: Option<Player>,
}

/// What the pointer did with the view since the last frame.
#[derive(Clone, Copy, Debug, Default)]
struct Hand {
    /// In screen pixels.
    pan: Vec2,
    /// Whether the take currently pans.
    pans: bool,
    lets_go: bool,
}

impl Bench {
    /// Opens a take, or the terraces to play in.
    ///
    /// # Errors
    ///
    /// A file can't be used.
    pub fn open(source: Source) -> Result<Self, Fault> {
        let Opened { mut tuning, play, take, live } = source.open()?;
        // Without a watch it works as well.
        let fault = if tuning.is_on_disk() { tuning.watch().err() } else { None };
        let (art, unread) = Artwork::of_take(&take);
        let fault = fault.or(unread.into_iter().next());
        let kept = tuning.settings().clone();
        let window = take.window;
        let side = || ComparedCamera::new(&take, kept.clone(), window);
        let sides = [side()?, side()?];
        let passages = Passages::of(&take.events);
        let player = play.as_ref().map(Play::player).cloned();
        let times = passages.times(&take.events);
        let undo = Undo::new(Edited { settings: kept.clone(), times, player });
        Ok(Self {
            tuning,
            machine: Machine::default(),
            transport: Transport::default(),
            fault,
            source,
            own_fps: take.fps,
            take,
            art,
            play,
            live,
            kept,
            sides,
            undo,
            passages,
            changes: 0,
            added: 0,
            hitches: false,
            hand: Hand::default(),
        })
    }

    /// Returns where it came from.
    pub fn source(&self) -> &Source {
        &self.source
    }

    /// Returns the take that is played or ridden.
    pub fn take(&self) -> &Take {
        &self.take
    }

    /// Returns the pictures with which the take is drawn.
    pub fn art(&self) -> &Artwork {
        &self.art
    }

    /// Returns whether the user plays.
    pub fn is_played(&self) -> bool {
        self.play.is_some()
    }

    /// Returns how the player of a take moves, if the user plays it.
    pub fn player(&self) -> Option<&Player> {
        let is_own = matches!(self.source, Source::PlayTake(_));
        self.play.as_ref().filter(|_| is_own).map(Play::player)
    }

    /// Changes how the player moves, from now on.
    pub fn set_player(&mut self, player: Player) {
        if let Some(play) = &mut self.play {
            play.set_player(player);
        }
    }

    /// Returns the cameras A and B.
    pub fn sides(&self) -> &[ComparedCamera; 2] {
        &self.sides
    }

    /// Notes what the picture of one of them has drawn.
    pub fn note_drawn(&mut self, side: usize, drawn: Drawn) {
        self.sides[side].history.add_drawn(drawn);
    }

    /// Returns the current row and the last one.
    pub fn rows(&self) -> (u64, u64) {
        (self.sides[B].row(), self.take.rows() - 1)
    }

    /// Returns the current time, in seconds.
    pub fn time(&self) -> f64 {
        self.sides[B].row() as f64 / self.take.fps
    }

    /// Returns the number of events that were added to the take by hand.
    pub fn added(&self) -> usize {
        self.added
    }

    /// Runs a frame of the window, `seconds` after the last one. Each camera is shown in a window of its own.
    pub fn frame(
        &mut self,
        seconds: f64,
        wish: Wish,
        pointer_is_down: bool,
        windows: [WindowSize; 2],
    ) {
        match self.tuning.poll() {
            Some(Ok(())) => self.fault = None,
            Some(Err(fault)) => self.fault = Some(fault),
            None => {}
        }
        // A drag is one change: it is recorded when the pointer is released.
        if !pointer_is_down {
            self.note_change();
        }
        self.follow();
        self.take_over_machine();
        self.take_over_settings();
        for (side, window) in self.sides.iter_mut().zip(windows) {
            side.resize(window);
        }
        for _ in 0..self.due(seconds) {
            self.step(wish);
        }
        self.measure();
    }

    /// Records what was changed since the last frame, to undo it.
    fn note_change(&mut self) {
        let (settings, player) = (self.tuning.settings(), self.play.as_ref().map(Play::player));
        let (times, before) = (self.passages.times(&self.take.events), self.undo.now());
        let is_same = before.settings == *settings && before.player.as_ref() == player;
        if !is_same || before.times != times {
            let (settings, player) = (settings.clone(), player.cloned());
            self.undo.note(Edited { settings, times, player });
        }
    }

    /// Returns the number of rows to run after this time, in seconds.
    fn due(&mut self, seconds: f64) -> u64 {
        let due = self.transport.due(seconds, self.take.fps);
        let (row, last) = self.rows();
        match &self.live {
            Some(live) if self.transport.plays => live.due(due, last - row, self.take.fps),
            _ => due,
        }
    }

    /// Takes over what the game logged since the last frame.
    fn follow(&mut self) {
        let Some(live) = &mut self.live else { return };
        match live.poll(&mut self.take) {
            Ok(None) => {}
            Ok(Some(LogNews::Grew)) => self.changes += 1,
            Ok(Some(LogNews::NewPart)) => self.begin(true),
            Err(fault) => self.fault = Some(fault),
        }
    }

    /// Returns whether the newest frames of a game are shown, and not those of a moment ago.
    pub fn is_live(&self) -> bool {
        self.transport.plays && self.live.as_ref().is_some_and(Live::is_at_end)
    }

    /// The frames per second of the machine.
    fn take_over_machine(&mut self) {
        let fps = self.machine.fps.unwrap_or(self.own_fps);
        if fps != self.take.fps {
            let t = self.time();
            self.take.fps = fps;
            self.changes += 1;
            self.seek((t * fps).round() as u64);
        }
    }

    /// Applies what was changed since the last frame.
    fn take_over_settings(&mut self) {
        let (_, last) = self.rows();
        let runs = self.transport.plays && (self.is_played() || self.sides[B].row() < last);
        let wanted = [&self.kept, self.tuning.settings()].map(|one| self.machine.settings(one));
        self.take.settings = self.tuning.settings().clone();
        for (side, wanted) in self.sides.iter_mut().zip(wanted) {
            if wanted != *side.settings() {
                // The panel says what is refused.
                let _refused = side.change(&self.take, wanted, runs);
            }
        }
    }

    /// Runs a frame of the take, or the first one after its end.
    fn step(&mut self, wish: Wish) {
        let rows = match std::mem::take(&mut self.hitches) {
            true => (HITCH * self.take.fps).ceil() as u64,
            false => 1,
        };
        let (row, last) = self.rows();
        if row + rows > last && self.transport.loops && self.live.is_none() {
            return self.seek(0);
        }
        let rows = match &mut self.play {
            Some(play) => {
                for number in (last + 1)..=(row + rows) {
                    if let Err(fault) = play.step(&mut self.take, number, wish) {
                        self.fault = Some(fault);
                    }
                    self.changes += 1;
                }
                rows
            }
            None => rows.min(last - row),
        };
        if rows == 0 {
            // A game goes on.
            self.transport.plays = self.live.is_some();
            return;
        }
        self.tell_of_hand();
        for side in &mut self.sides {
            side.step(&self.take, rows);
        }
        if self.take.seconds > MAX_PLAYED_SECONDS && self.is_played() {
            self.begin(false);
        }
    }

    fn measure(&mut self) {
        let window = self.machine.window.unwrap_or(self.take.window);
        for side in &mut self.sides {
            side.measure(&self.take, window, self.changes);
        }
    }

    /// Returns the figures of A and of B over the whole take, as far as they have been computed.
    pub fn figures(&self) -> [Option<&Figures>; 2] {
        [A, B].map(|index| self.sides[index].figures())
    }

    /// Returns whether the figures belong to the take and the settings as they are now.
    pub fn figures_are_new(&self) -> bool {
        self.sides.iter().all(|side| side.is_measured(self.changes))
    }

    /// Pauses or continues; at the end of a take, starts from the beginning.
    pub fn play_or_pause(&mut self) {
        self.transport.plays = !self.transport.plays;
        let (row, last) = self.rows();
        if self.transport.plays && row == last && !self.is_played() {
            self.seek(0);
        }
    }

    /// Returns the subjects that are followed at the current time.
    pub fn watched(&self) -> &[String] {
        let now = self.sides[B].events_time(&self.take).next_up();
        let happened = self.take.events.iter().take_while(|event| event.at <= now);
        let last = happened.filter_map(|event| event.watch.as_deref()).last();
        last.unwrap_or(&self.take.watch)
    }

    /// Saves the tuning, and the times of the take's events.
    pub fn save(&mut self) {
        let saved = self.tuning.save().and_then(|()| self.save_times());
        self.fault = saved.and_then(|()| self.save_player()).err();
    }

    fn save_player(&self) -> Result<(), Fault> {
        match (&self.source, self.player()) {
            (Source::PlayTake(path), Some(player)) if self.take.player.as_ref() != Some(player) => {
                player.save(path)
            }
            _ => Ok(()),
        }
    }

    fn save_times(&mut self) -> Result<(), Fault> {
        if !self.is_retimed() {
            return Ok(());
        }
        let events = &self.take.events;
        let Source::Take(path) = &self.source else {
            let what = "a take of the demo can't be changed: save it with \"ride\", and open that";
            return Err(Fault::new(what));
        };
        EventTime::save(path, &self.passages.times(events))?;
        self.passages.note_saved(events);
        Ok(())
    }

    /// Returns whether the time of an event differs from the take's file.
    pub fn is_retimed(&self) -> bool {
        self.passages.is_changed(&self.take.events)
    }

    /// Returns the number of an event in the take's file, or `None` if it was added by hand.
    pub fn number_of(&self, event: usize) -> Option<usize> {
        self.passages.number_of(event)
    }

    /// Changes when an event of the take's file happens, and how long it takes.
    pub fn retime(&mut self, event: usize, time: EventTime) {
        let at = time.at.clamp(0.0, self.take.seconds);
        self.passages.retime(&mut self.take.events, event, EventTime { at, ..time });
        self.ride_again();
    }

    /// Rides to the current row with other events.
    fn ride_again(&mut self) {
        self.changes += 1;
        self.seek(self.sides[B].row());
    }

    /// Keeps the current settings as A.
    pub fn keep(&mut self) {
        self.kept = self.tuning.settings().clone();
    }

    /// Goes to a row of the take. Both cameras ride there from the start.
    pub fn seek(&mut self, row: u64) {
        let (_, last) = self.rows();
        if let Some(live) = &mut self.live {
            live.look_at(last.saturating_sub(row) as f64 / self.take.fps);
        }
        for side in &mut self.sides {
            if let Err(fault) = side.seek(&self.take, row.min(last)) {
                self.fault = Some(fault);
            }
        }
    }

    /// Pauses and moves this number of frames forwards or back.
    pub fn nudge(&mut self, frames: i64, wish: Wish) {
        self.transport.plays = false;
        let row = self.sides[B].row();
        if frames < 0 {
            return self.seek(row.saturating_sub(frames.unsigned_abs()));
        }
        for _ in 0..frames {
            self.step(wish);
        }
    }

    /// Starts again: a take as it is in its file, or the player where it began.
    pub fn again(&mut self) {
        self.begin(true);
    }

    fn begin(&mut self, home: bool) {
        let settings = self.tuning.settings().clone();
        let fps = self.take.fps;
        let begun = match (&mut self.play, &mut self.live) {
            (Some(play), _) => {
                if home {
                    play.go_home();
                }
                play.begin(settings, fps)
            }
            (None, Some(live)) => Ok(Take { settings, fps, ..live.begin() }),
            (None, None) => self.source.open().map(|opened| Take { settings, fps, ..opened.take }),
        };
        match begun {
            Ok(take) => {
                self.take = take;
                self.changes += 1;
                self.added = 0;
                self.passages = Passages::of(&self.take.events);
                self.hand = Hand::default();
                // Of a game the newest frames are shown.
                let (_, last) = self.rows();
                self.seek(if self.live.is_some() { last } else { 0 });
            }
            Err(fault) => self.fault = Some(fault),
        }
    }

    /// Undoes (`true`) or redoes a change of the tuning, of an event's time, or of the player.
    pub fn undo(&mut self, back: bool) {
        let before = if back { self.undo.undo() } else { self.undo.redo() };
        let Some(Edited { settings, times, player }) = before.cloned() else { return };
        *self.tuning.settings_mut() = settings;
        if times != self.passages.times(&self.take.events) {
            self.passages.set_times(&mut self.take.events, &times);
            self.ride_again();
        }
        if let Some(player) = player {
            self.set_player(player);
        }
    }

    /// Returns whether there is something to undo, and something to redo.
    pub fn can_undo(&self) -> [bool; 2] {
        self.undo.can()
    }

    /// Makes the next frame take a quarter of a second.
    pub fn hitch(&mut self) {
        self.hitches = true;
    }

    /// Calls a cue of the tuning at the subject's position.
    pub fn cue(&mut self, name: &str) {
        let subject = self.play.as_ref().map_or(COURIER, Play::subject);
        let from =
            self.take.subjects.get(subject).map(|subject| subject.path.position(self.time()));
        let cue = Some(name.to_owned());
        self.add(Event { cue, from: from.map(Into::into), ..Event::default() });
    }

    /// Shakes the view, whatever the tuning contains.
    pub fn shake(&mut self) {
        self.add(Event { shake: Some(1.0), ..Event::default() });
    }

    /// Follows these subjects from now on.
    pub fn watch(&mut self, names: &[&str]) {
        let names = names.iter().map(|name| (*name).to_owned()).collect();
        self.add(Event { watch: Some(names), ..Event::default() });
    }

    /// Turns the wheel about a point of the screen.
    pub fn turn_wheel(&mut self, notches: f64, about: Vec2) {
        self.add(Event { notches: Some(notches), about: Some(about.into()), ..Event::default() });
    }

    /// Drags the view by this number of screen pixels.
    pub fn drag(&mut self, pixels: Vec2) {
        if self.transport.plays {
            self.hand.pan -= pixels;
        }
    }

    /// Ends the drag.
    pub fn let_go(&mut self) {
        self.hand.lets_go = true;
    }

    /// Adds the pointer's actions as events of the take, so that both cameras receive them.
    fn tell_of_hand(&mut self) {
        let hand = std::mem::take(&mut self.hand);
        if hand.pan != Vec2::ZERO || hand.pans {
            let speed = hand.pan * self.take.fps as f32;
            self.add(Event { pan: Some(speed.into()), ..Event::default() });
            self.hand.pans = hand.pan != Vec2::ZERO;
        }
        if hand.lets_go {
            self.add(Event { release: true, ..Event::default() });
        }
    }

    /// Adds an event that happens in the next frame.
    fn add(&mut self, event: Event) {
        // After the frame that is shown, so that it comes in the same frame again when the take is ridden anew.
        let at = self.sides[B].events_time(&self.take).next_up();
        let place = self.take.events.partition_point(|other| other.at <= at);
        self.take.events.insert(place, Event { at, ..event });
        self.passages.add(place);
        self.added += 1;
        self.changes += 1;
    }
}
