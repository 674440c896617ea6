//! A moment of a ride.

use serde::Serialize;
use velvet_pan::glam::DVec2;
use velvet_pan::{Decision, Overlay, PerAxis, View};

/// A moment of a ride: the view, and what was followed.
#[derive(Clone, Copy, Debug)]
pub struct Moment {
    /// Time, in seconds.
    pub t: f64,
    /// The view of this frame.
    pub view: View,
    /// The goal, as a centre of the view in world units.
    pub goal: DVec2,
    /// The position of the followed subject, in world units. `None` if nothing is followed.
    pub subject: Option<DVec2>,
    /// The camera's overlay.
    pub overlay: Overlay,
    /// The maximum shake offset at this moment, in screen pixels per axis.
    pub envelope: DVec2,
    /// Whether something other than following moves the view: a glide, a hand, a cutscene.
    pub led: bool,
    /// The stage that decides where the view is, along x and along y.
    pub decision: PerAxis<Decision>,
    /// What happened in the frame, if anything did.
    pub happening: Option<Happening>,
    /// The time on the clock of the take's events, in seconds: that of the ride, without waits.
    pub events_t: f64,
}

/// Something in a frame that explains a movement of the view.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Happening {
    /// The followed subject jumped to another place.
    Teleport,
    /// It landed.
    Landing,
    /// An event of the take gave the camera a command.
    Command,
}

impl Happening {
    /// Returns its name, as in the table of a ride.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Teleport => "teleport",
            Self::Landing => "landing",
            Self::Command => "command",
        }
    }
}

/// Returns the names of the stages that decide where the view is: of both axes if it is the same, else along x and
/// along y.
///
/// ```
/// # use velvet_pan::{Camera, Settings};
/// let camera = Camera::new(Settings::default())?;
/// assert_eq!(velvet_pan_takes::deciders_in_words(&camera.decision()), "motion");
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
pub fn deciders_in_words(word: &PerAxis<Decision>) -> String {
    let (x, y) = (word.x.by.name(), word.y.by.name());
    if x == y { x.to_owned() } else { format!("{x}, {y}") }
}

impl Moment {
    /// Returns how far the view is behind its goal, in screen pixels, or `None` if nothing is followed.
    pub fn lag(&self) -> Option<f64> {
        self.subject?;
        let view = self.view.steady();
        Some((self.goal - view.centre()).length() * view.scale())
    }
}
