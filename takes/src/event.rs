//! What happens when: an entry of a take's timeline.

use serde::{Deserialize, Serialize};

use crate::path::FARTHEST;

/// Something that happens at a time of a take.
#[derive(Clone, Debug, Default, Deserialize, PartialEq, Serialize)]
#[serde(deny_unknown_fields)]
pub struct Event {
    /// Seconds from the take's start.
    pub at: f64,
    /// Show this camera of the take from now on; with `glide`, within so many seconds. The rest of the
    /// event is for the camera that is then active.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub camera: Option<String>,
    /// Follow these subjects from now on; several are framed together.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub watch: Option<Vec<String>>,
    /// Aim at this world point from now on, instead of a subject.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub aim: Option<[f64; 2]>,
    /// Be there at once.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub cut: bool,
    /// Be there in so many seconds.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub glide: Option<f64>,
    /// Glide to this zoom.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub zoom: Option<f64>,
    /// Turn the wheel by so many notches, closer for positive ones …
    #[serde(skip_serializing_if = "Option::is_none")]
    pub notches: Option<f64>,
    /// … about this screen point, in screen pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub about: Option<[f32; 2]>,
    /// Pan by hand, in screen pixels per second, until told otherwise.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pan: Option<[f32; 2]>,
    /// Show this world rectangle whole: x, y, width, height.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub show: Option<[f64; 4]>,
    /// Take the hand off the view.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub release: bool,
    /// New bounds: x, y, width, height in world units. With `glide`, within so many seconds.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub bounds: Option<[f64; 4]>,
    /// Call this cue of the tuning …
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cue: Option<String>,
    /// … from this world point …
    #[serde(skip_serializing_if = "Option::is_none")]
    pub from: Option<[f64; 2]>,
    /// … so many times as hard.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub strength: Option<f64>,
    /// Shake as [`Shake::default`](velvet_pan::Shake) does, so many times as hard.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub shake: Option<f64>,
    /// The rotation from now on, in radians.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rotate: Option<f64>,
    /// The window's size from now on.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub window: Option<[u32; 2]>,
}

impl Event {
    /// The key of a number that is not finite, or larger than any that makes sense.
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
