//! An entry of a take's timeline.

use serde::{Deserialize, Serialize};

use crate::path::FARTHEST;

/// Something that happens at a certain time in a take. It may do several things at once.
#[derive(Clone, Debug, Default, Deserialize, PartialEq, Serialize)]
#[serde(deny_unknown_fields)]
pub struct Event {
    /// Time from the start of the take, in seconds.
    pub at: f64,
    /// Switches to this camera of the take; with `glide`, within that time. The other keys of the event then apply to
    /// this camera.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub camera: Option<String>,
    /// Follows these subjects from now on. Several are framed together.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub watch: Option<Vec<String>>,
    /// Aims at this world point from now on, instead of at a subject.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub aim: Option<[f64; 2]>,
    /// Jumps to the target immediately.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub cut: bool,
    /// Reaches the target in this time, in seconds.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub glide: Option<f64>,
    /// Glides to this zoom.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub zoom: Option<f64>,
    /// Turns the wheel by this number of notches; a positive number zooms in.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub notches: Option<f64>,
    /// The screen point to zoom about, in screen pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub about: Option<[f32; 2]>,
    /// Pans by hand at this velocity, in screen pixels per second, until another event changes it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pan: Option<[f32; 2]>,
    /// Shows this whole world rectangle: x, y, width, height.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub show: Option<[f64; 4]>,
    /// Ends the hand's control of the view.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub release: bool,
    /// Sets new bounds: x, y, width, height in world units. With `glide`, within that time.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub bounds: Option<[f64; 4]>,
    /// Calls this cue of the tuning.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cue: Option<String>,
    /// The world point from which the cue comes.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub from: Option<[f64; 2]>,
    /// The strength of the cue, as a factor.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub strength: Option<f64>,
    /// Shakes as [`Shake::default`](velvet_pan::Shake) does, with this strength as a factor.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub shake: Option<f64>,
    /// Rotates to this angle, in radians.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rotate: Option<f64>,
    /// Changes the size of the window, in window pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub window: Option<[u32; 2]>,
}

impl Event {
    /// The key of a number that is not finite or unreasonably large.
    pub(crate) fn first_bad_number(&self) -> Option<&'static str> {
        let wide = |pair: Option<[f32; 2]>| pair.map(|pair| pair.map(f64::from));
        let pairs = [
            ("aim", self.aim),
            ("from", self.from),
            ("about", wide(self.about)),
            ("pan", wide(self.pan)),
        ];
        let singles = [
            ("rotate", self.rotate),
            ("notches", self.notches),
            ("strength", self.strength),
            ("shake", self.shake),
        ];
        let fours = [("show", self.show), ("bounds", self.bounds)];
        let bad = |numbers: &[f64]| !numbers.iter().all(|number| number.abs() <= FARTHEST);
        let mut names = pairs
            .iter()
            .filter(|(_, pair)| pair.is_some_and(|pair| bad(&pair)))
            .map(|(name, _)| *name)
            .chain(
                singles
                    .iter()
                    .filter(|(_, one)| one.is_some_and(|one| bad(&[one])))
                    .map(|(name, _)| *name),
            )
            .chain(
                fours
                    .iter()
                    .filter(|(_, four)| four.is_some_and(|four| bad(&four)))
                    .map(|(name, _)| *name),
            );
        names.next()
    }
}
