//! An event of a take.

use toml_edit::{Array, Table, Value};

use crate::keys::Keys;
use crate::node::Node;
use crate::path::FARTHEST;

/// Something that happens at a certain time in a take. It may do several things at once.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Event {
    /// Time from the start of the take, in seconds.
    pub at: f64,
    /// Switches to this camera of the take; with `glide`, within that time. The other keys of the event then apply to
    /// this camera.
    pub camera: Option<String>,
    /// Follows these subjects from now on. Several are framed together.
    pub watch: Option<Vec<String>>,
    /// Aims at this world point from now on, instead of at a subject.
    pub aim: Option<[f64; 2]>,
    /// Jumps to the target immediately.
    pub cut: bool,
    /// Reaches the target in this time, in seconds.
    pub glide: Option<f64>,
    /// Glides to this zoom.
    pub zoom: Option<f64>,
    /// Turns the wheel by this number of notches; a positive number zooms in.
    pub notches: Option<f64>,
    /// The screen point to zoom about, in screen pixels.
    pub about: Option<[f32; 2]>,
    /// Pans by hand at this velocity, in screen pixels per second, until another event changes it.
    pub pan: Option<[f32; 2]>,
    /// Shows this whole world rectangle: x, y, width, height.
    pub show: Option<[f64; 4]>,
    /// Ends the hand's control of the view.
    pub release: bool,
    /// Sets new bounds: x, y, width, height in world units. With `glide`, within that time.
    pub bounds: Option<[f64; 4]>,
    /// Calls this cue of the tuning.
    pub cue: Option<String>,
    /// The world point from which the cue comes.
    pub from: Option<[f64; 2]>,
    /// The strength of the cue, as a factor.
    pub strength: Option<f64>,
    /// Shakes as [`Shake::default`](velvet_pan::Shake) does, with this strength as a factor.
    pub shake: Option<f64>,
    /// Rotates to this angle, in radians.
    pub rotate: Option<f64>,
    /// Changes the size of the window, in window pixels.
    pub window: Option<[u32; 2]>,
}

impl Event {
    /// Reads an entry of the events.
    pub(crate) fn read(mut keys: Keys<'_, '_, '_>) -> Self {
        let narrow = |keys: &mut Keys<'_, '_, '_>, key| {
            keys.numbers::<2>(key).map(|pair| pair.map(|number| number as f32))
        };
        let event = Self {
            at: keys.required("at", "a time in seconds", Node::number),
            camera: keys.text("camera"),
            watch: keys.texts("watch"),
            aim: keys.numbers("aim"),
            cut: keys.flag("cut"),
            glide: keys.number("glide"),
            zoom: keys.number("zoom"),
            notches: keys.number("notches"),
            about: narrow(&mut keys, "about"),
            pan: narrow(&mut keys, "pan"),
            show: keys.numbers("show"),
            release: keys.flag("release"),
            bounds: keys.numbers("bounds"),
            cue: keys.text("cue"),
            from: keys.numbers("from"),
            strength: keys.number("strength"),
            shake: keys.number("shake"),
            rotate: keys.number("rotate"),
            window: keys.size("window"),
        };
        keys.finish();
        event
    }

    /// The entry as a table of a file.
    pub(crate) fn table(&self) -> Table {
        let list = |numbers: &[f64]| numbers.iter().copied().collect::<Array>();
        let wide = |pair: Option<[f32; 2]>| pair.map(|pair| list(&pair.map(f64::from)).into());
        let pair = |pair: Option<[f64; 2]>| pair.map(|pair| list(&pair).into());
        let four = |four: Option<[f64; 4]>| four.map(|four| list(&four).into());
        let whole = |size: [u32; 2]| Value::from(Array::from_iter(size.map(i64::from)));
        let names = |names: &Vec<String>| Value::from(names.iter().collect::<Array>());
        let keys: [(&str, Option<Value>); 19] = [
            ("at", Some(self.at.into())),
            ("camera", self.camera.as_ref().map(Value::from)),
            ("watch", self.watch.as_ref().map(names)),
            ("aim", pair(self.aim)),
            ("cut", self.cut.then_some(true.into())),
            ("glide", self.glide.map(Value::from)),
            ("zoom", self.zoom.map(Value::from)),
            ("notches", self.notches.map(Value::from)),
            ("about", wide(self.about)),
            ("pan", wide(self.pan)),
            ("show", four(self.show)),
            ("release", self.release.then_some(true.into())),
            ("bounds", four(self.bounds)),
            ("cue", self.cue.as_ref().map(Value::from)),
            ("from", pair(self.from)),
            ("strength", self.strength.map(Value::from)),
            ("shake", self.shake.map(Value::from)),
            ("rotate", self.rotate.map(Value::from)),
            ("window", self.window.map(whole)),
        ];
        let mut table = Table::new();
        for (key, value) in keys {
            if let Some(value) = value {
                table.insert(key, value.into());
            }
        }
        table
    }

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
