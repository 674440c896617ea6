//! A call of a game, as a value.

use velvet_pan::{CameraCall, CameraState, Command, Ease, Settings, Standing, Subject};

use super::shown_view::ShownView;

/// A call of a game, and what it answered.
#[derive(Clone, Debug)]
pub struct Call {
    /// The key of the camera.
    pub camera: String,
    pub what: What,
    /// Its time: the step of a frame, the moment of a command before the end of the frame, or the duration of a change.
    pub seconds: f64,
    /// What is followed, in `follow`, and what joins the next `follow_all`.
    pub subject: Option<Subject>,
    /// What a frame showed.
    pub shown: Option<ShownView>,
}

/// What was called.
#[derive(Clone, Debug)]
pub enum What {
    /// A new part of the log, from where the cameras with these keys stand. Its calls are written in its place.
    Begin(Vec<(String, Standing)>),
    Follow,
    /// A subject of the next `follow_all`.
    Member,
    FollowAll,
    Advance,
    /// The view of a set of cameras.
    View,
    Tell(Command),
    Settings(Box<Settings>),
    Restore(Box<CameraState>),
    /// A new camera of the set, with these settings.
    Insert(Box<Settings>),
    Remove,
    SwitchTo,
    /// The call's time is how long before the view the glide began.
    GlideTo {
        seconds: f64,
        ease: Ease,
    },
    /// Whether an itinerary ignores the player's hands.
    IgnoreHands(bool),
    CountCut,
}

impl What {
    /// Returns its name in a file.
    pub fn name(&self) -> &'static str {
        match self {
            Self::Begin(_) => "begin",
            Self::Follow => "follow",
            Self::Member => "member",
            Self::FollowAll => "follow_all",
            Self::Advance => "advance",
            Self::View => "view",
            Self::Tell(_) => "tell",
            Self::Settings(_) => "settings",
            Self::Restore(_) => "restore",
            Self::Insert(_) => "insert",
            Self::Remove => "remove",
            Self::SwitchTo => "switch_to",
            Self::GlideTo { .. } => "glide_to",
            Self::IgnoreHands(_) => "ignore_hands",
            Self::CountCut => "count_cut",
        }
    }

    /// Returns whether it runs a frame of a camera.
    pub fn is_frame(&self) -> bool {
        matches!(self, Self::Follow | Self::FollowAll | Self::Advance)
    }
}

impl Call {
    /// Returns the calls that set up a camera.
    pub fn set_up(camera: &str, standing: Standing) -> [Self; 3] {
        let Standing { settings, window, state } = standing;
        [
            What::Insert(Box::new(settings)),
            What::Tell(Command::Resize(window)),
            What::Restore(Box::new(state)),
        ]
        .map(|what| Self::new(camera, what))
    }

    /// Creates a call without a time, without a subject, and without what the frame showed.
    pub fn new(camera: &str, what: What) -> Self {
        Self { camera: camera.to_owned(), what, seconds: 0.0, subject: None, shown: None }
    }

    /// Returns a call that a camera has noted.
    pub fn of(camera: &str, noted: CameraCall) -> Self {
        let (what, seconds, subject, view) = match noted {
            CameraCall::Follow { seconds, subject, view } => {
                (What::Follow, seconds, Some(subject), Some(view))
            }
            CameraCall::FollowAll { seconds, view } => (What::FollowAll, seconds, None, Some(view)),
            CameraCall::Advance { seconds, view } => (What::Advance, seconds, None, Some(view)),
            CameraCall::Member(subject) => (What::Member, 0.0, Some(subject), None),
            CameraCall::Told { command: Command::SetSettings { settings, seconds }, .. } => {
                (What::Settings(settings), seconds, None, None)
            }
            CameraCall::Told { command, before_end } => {
                (What::Tell(command), before_end, None, None)
            }
            CameraCall::Restored(state) => (What::Restore(state), 0.0, None, None),
            CameraCall::HandsIgnored(ignored) => (What::IgnoreHands(ignored), 0.0, None, None),
            CameraCall::CutCounted => (What::CountCut, 0.0, None, None),
            CameraCall::Standing(standing) => {
                (What::Begin(vec![(camera.to_owned(), *standing)]), 0.0, None, None)
            }
        };
        let shown = view.as_ref().map(ShownView::of);
        Self { subject, shown, ..Self::new(camera, what).after(seconds) }
    }

    /// Returns the same at a time.
    pub fn after(self, seconds: f64) -> Self {
        Self { seconds, ..self }
    }

    /// Returns whether it tells a camera something that is seen. To aim at a point is to follow it.
    pub fn tells(&self) -> bool {
        match &self.what {
            What::Tell(Command::AimAt(_)) | What::Member | What::View | What::IgnoreHands(_) => {
                false
            }
            what => !what.is_frame(),
        }
    }
}
