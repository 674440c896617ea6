//! Runs logged calls on cameras.

use velvet_pan::{Camera, Cameras, Command, ItineraryTarget, Subject, View};

use super::call::{Call, What};
use super::shown_view::ShownView;
use crate::tuning::edits::Edits;

/// What a log needs on its way from call to call.
#[derive(Clone, Debug)]
pub struct Player {
    /// The subjects of the next frame with several.
    members: Vec<Subject>,
    /// What wins over the settings of the log, for the camera with this key.
    edits: Edits,
    own: String,
    /// What was followed last. `None` if nothing was.
    pub followed: Option<Subject>,
}

impl Player {
    /// Starts before the first call.
    pub fn new(own: &str, edits: Edits) -> Self {
        Self { members: Vec::new(), edits, own: own.to_owned(), followed: None }
    }

    /// Lets other settings win from now on.
    pub fn edit(&mut self, edits: Edits) {
        self.edits = edits;
    }

    /// Returns a command for a camera, with the settings that win.
    pub fn edited(&self, key: &str, command: Command) -> Command {
        match command {
            Command::SetSettings { settings, seconds } if key == self.own => {
                let settings = Box::new(self.edits.applied(&settings));
                Command::SetSettings { settings, seconds }
            }
            other => other,
        }
    }

    /// Makes a call. Returns the view of a frame. A call of a camera that was never inserted does nothing.
    pub fn play(&mut self, cameras: &mut Cameras<String>, call: &Call) -> Option<View> {
        let key = call.camera.clone();
        match &call.what {
            What::Insert(settings) => {
                let own = key == self.own;
                let settings =
                    if own { self.edits.applied(settings) } else { (**settings).clone() };
                _ = cameras.insert(key, Camera::new(settings).ok()?);
            }
            What::View => return Some(cameras.view(call.seconds)),
            What::SwitchTo => _ = cameras.switch_to(&key),
            What::Remove => _ = cameras.remove(&key),
            What::GlideTo { seconds, ease } => {
                _ = cameras.glide_to_due(&key, *seconds, *ease, call.seconds);
            }
            what if what.is_frame() => return self.run(cameras, &key, call),
            _ => self.tell(cameras.get_mut(&key)?, &key, call),
        }
        None
    }

    /// Returns a frame of a camera.
    fn run(&mut self, cameras: &mut Cameras<String>, key: &String, call: &Call) -> Option<View> {
        let is_active = cameras.active_key() == key;
        let camera = cameras.get_mut(key)?;
        let members = std::mem::take(&mut self.members);
        let followed = call.subject.or(members.first().copied());
        if is_active {
            self.followed = followed;
        }
        Some(match (&call.what, call.subject) {
            (What::Follow, Some(subject)) => camera.follow(call.seconds, subject),
            (What::FollowAll, _) => camera.follow_all(call.seconds, &members),
            _ => camera.advance(call.seconds),
        })
    }

    fn tell(&mut self, camera: &mut Camera, key: &str, call: &Call) {
        let seconds = call.seconds;
        // What the game was refused is refused again.
        match &call.what {
            What::Member => self.members.extend(call.subject),
            What::Tell(command) => _ = camera.tell_due(command.clone(), seconds),
            What::Settings(settings) => {
                let settings = settings.clone();
                _ = camera.tell(self.edited(key, Command::SetSettings { settings, seconds }));
            }
            // With other settings, where the game's camera was says nothing about where this one would be.
            What::Restore(state) if self.edits.is_empty() => _ = camera.restore(**state),
            What::IgnoreHands(ignored) => camera.ignore_hands(*ignored),
            What::CountCut => camera.count_cut(),
            _ => {}
        }
    }
}

/// The first frame of a log that is not the same again.
#[derive(Clone, Debug, PartialEq)]
pub struct Differs {
    /// The frame, from 0.
    pub frame: usize,
    /// Its time, in seconds.
    pub t: f64,
    /// Its line in the table of calls.
    pub line: usize,
    /// What the game showed.
    pub logged: ShownView,
    /// What is shown now.
    pub now: ShownView,
    /// The commands since the frame before, as they stand in the table.
    pub told: Vec<String>,
}
