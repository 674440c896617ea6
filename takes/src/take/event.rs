//! An event of a take.

use toml_edit::{Array, Table, Value};
use velvet_pan::{Command, Ease, Travel, Waypoint};

use crate::take::path::MAX_COORDINATE;
use crate::text::command;
use crate::text::keys::Keys;
use crate::text::node::{Node, Wrong};

/// Something that happens at a certain time in a take. It may do several things at once.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Event {
    /// Time from the start of the take, in seconds.
    pub at: f64,
    /// Waits until this gate is open: see [`Take::gates`](crate::Take::gates). The events after it wait with it.
    pub gate: Option<String>,
    /// Waits until the view has come to rest at its goal, at most 5 seconds.
    pub arrive: bool,
    /// Switches to this camera of the take; with `glide`, within that time. The other keys of the event then apply to
    /// this camera.
    pub camera: Option<String>,
    /// Follows these subjects from now on. Several are shown together.
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
    /// Grabs the picture at this screen point.
    pub grab: Option<[f32; 2]>,
    /// Drags the grabbed point to this screen point.
    pub drag: Option<[f32; 2]>,
    /// Shows this whole world rectangle: x, y, width, height.
    pub show: Option<[f64; 4]>,
    /// Moves the view along a smooth curve through these points within `glide`: `[x, y]`, `[x, y, zoom]` or
    /// `[x, y, zoom, rotation]`.
    pub travel: Option<Vec<Vec<f64>>>,
    /// The ease of `glide`, `show`, `travel` and a glide to another camera.
    pub ease: Option<Ease>,
    /// Ends the hand's control of the view.
    pub release: bool,
    /// Sets new bounds: x, y, width, height in world units. With `glide`, within that time.
    pub bounds: Option<[f64; 4]>,
    /// Makes this outline of the tuning the bounds. With `glide`, within that time.
    pub outline: Option<String>,
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
    /// Moves the view to this world point at once.
    pub place: Option<[f64; 2]>,
    /// Shows this zoom at once.
    pub zoom_now: Option<f64>,
    /// Shows this rotation at once, in radians.
    pub rotate_now: Option<f64>,
    /// Tells the game a name, such as a subtitle. Films show it.
    pub mark: Option<String>,
    /// Changes the size of the window, in window pixels.
    pub window: Option<[u32; 2]>,
    /// Any other command, as it stands in a ride log.
    pub tell: Option<Command>,
}

/// What the points of a way look like.
const WAYPOINTS: &str = "a list of [x, y], [x, y, zoom] or [x, y, zoom, rotation]";

/// The names of eases.
const EASES: [(&str, Ease); 5] = [
    ("linear", Ease::Linear),
    ("in", Ease::In),
    ("out", Ease::Out),
    ("in_out", Ease::InOut),
    ("smooth", Ease::Smooth),
];

fn ease(node: &Node) -> Result<Ease, Wrong> {
    let expected = || node.wrong("one of linear, in, out, in_out, smooth");
    let name = node.text().map_err(|_| expected())?;
    EASES.iter().find(|(known, _)| *known == name).map(|(_, ease)| *ease).ok_or_else(expected)
}

fn name_of(ease: Ease) -> &'static str {
    EASES.iter().find(|(_, one)| *one == ease).map_or("smooth", |(name, _)| name)
}

impl Event {
    /// Returns what of it takes time, by its key, and how many seconds.
    pub fn passage(&self) -> Option<(&'static str, f64)> {
        let key = match () {
            () if self.camera.is_some() => "camera",
            () if self.travel.is_some() => "travel",
            () if self.show.is_some() => "show",
            () if self.bounds.is_some() => "bounds",
            () if self.outline.is_some() => "outline",
            () => "glide",
        };
        self.glide.filter(|seconds| *seconds > 0.0).map(|seconds| (key, seconds))
    }

    /// Returns the way that the view travels, if there is one. A point needs two to four numbers.
    pub fn way(&self) -> Option<Result<Travel, String>> {
        let waypoint = |point: &Vec<f64>| {
            let (zoom, rotation) = (point.get(2).copied(), point.get(3).copied());
            match point[..] {
                [x, y] | [x, y, _] | [x, y, _, _] => {
                    Ok(Waypoint { at: [x, y].into(), zoom, rotation })
                }
                _ => Err(format!("expected {WAYPOINTS}")),
            }
        };
        let points: Result<Vec<Waypoint>, String> =
            self.travel.as_ref()?.iter().map(waypoint).collect();
        let ease = self.ease.unwrap_or_default();
        let travel = points.and_then(|points| {
            let travel = Travel::new(points, self.glide.unwrap_or(0.0)).with_ease(ease);
            travel.fault().map_or(Ok(travel), |fault| Err(fault.to_string()))
        });
        Some(travel)
    }

    /// Reads an entry of the events.
    pub(crate) fn read(mut keys: Keys<'_, '_, '_>) -> Self {
        let narrow = |keys: &mut Keys<'_, '_, '_>, key| {
            keys.numbers::<2>(key).map(|pair| pair.map(|number| number as f32))
        };
        let event = Self {
            at: keys.required("at", "a time in seconds", Node::number),
            gate: keys.text("gate"),
            arrive: keys.flag("arrive"),
            camera: keys.text("camera"),
            watch: keys.texts("watch"),
            aim: keys.numbers("aim"),
            cut: keys.flag("cut"),
            glide: keys.number("glide"),
            zoom: keys.number("zoom"),
            notches: keys.number("notches"),
            about: narrow(&mut keys, "about"),
            pan: narrow(&mut keys, "pan"),
            grab: narrow(&mut keys, "grab"),
            drag: narrow(&mut keys, "drag"),
            show: keys.numbers("show"),
            travel: keys.read("travel", |node| {
                node.list(WAYPOINTS, |point| point.list(WAYPOINTS, Node::number))
            }),
            ease: keys.read("ease", ease),
            release: keys.flag("release"),
            bounds: keys.numbers("bounds"),
            outline: keys.text("outline"),
            cue: keys.text("cue"),
            from: keys.numbers("from"),
            strength: keys.number("strength"),
            shake: keys.number("shake"),
            rotate: keys.number("rotate"),
            place: keys.numbers("place"),
            zoom_now: keys.number("zoom_now"),
            rotate_now: keys.number("rotate_now"),
            mark: keys.text("mark"),
            window: keys.size("window"),
            tell: keys.read("tell", |node| {
                let wrong = || node.wrong("a command as a text, such as \"{ zoom_to = 2.0 }\"");
                node.text().and_then(|text| command::read(text).map_err(|_| wrong()))
            }),
        };
        keys.finish();
        event
    }

    /// Returns the entry as a table of a file.
    pub(crate) fn table(&self) -> Table {
        let list = |numbers: &[f64]| numbers.iter().copied().collect::<Array>();
        let wide = |pair: Option<[f32; 2]>| pair.map(|pair| list(&pair.map(f64::from)).into());
        let pair = |pair: Option<[f64; 2]>| pair.map(|pair| list(&pair).into());
        let four = |four: Option<[f64; 4]>| four.map(|four| list(&four).into());
        let whole = |size: [u32; 2]| Value::from(Array::from_iter(size.map(i64::from)));
        let names = |names: &Vec<String>| Value::from(names.iter().collect::<Array>());
        let travel = |points: &Vec<Vec<f64>>| {
            Value::from(Array::from_iter(points.iter().map(|point| Value::from(list(point)))))
        };
        let keys: [(&str, Option<Value>); 31] = [
            ("at", Some(self.at.into())),
            ("gate", self.gate.as_ref().map(Value::from)),
            ("arrive", self.arrive.then_some(true.into())),
            ("camera", self.camera.as_ref().map(Value::from)),
            ("watch", self.watch.as_ref().map(names)),
            ("aim", pair(self.aim)),
            ("cut", self.cut.then_some(true.into())),
            ("glide", self.glide.map(Value::from)),
            ("zoom", self.zoom.map(Value::from)),
            ("notches", self.notches.map(Value::from)),
            ("about", wide(self.about)),
            ("pan", wide(self.pan)),
            ("grab", wide(self.grab)),
            ("drag", wide(self.drag)),
            ("show", four(self.show)),
            ("travel", self.travel.as_ref().map(travel)),
            ("ease", self.ease.map(|ease| name_of(ease).into())),
            ("release", self.release.then_some(true.into())),
            ("bounds", four(self.bounds)),
            ("outline", self.outline.as_ref().map(Value::from)),
            ("cue", self.cue.as_ref().map(Value::from)),
            ("from", pair(self.from)),
            ("strength", self.strength.map(Value::from)),
            ("shake", self.shake.map(Value::from)),
            ("rotate", self.rotate.map(Value::from)),
            ("place", pair(self.place)),
            ("zoom_now", self.zoom_now.map(Value::from)),
            ("rotate_now", self.rotate_now.map(Value::from)),
            ("mark", self.mark.as_ref().map(Value::from)),
            ("window", self.window.map(whole)),
            ("tell", self.tell.as_ref().and_then(command::written).map(Value::from)),
        ];
        let mut table = Table::new();
        for (key, value) in keys {
            if let Some(value) = value {
                table.insert(key, value.into());
            }
        }
        table
    }

    /// Returns the key of a number that is not finite or unreasonably large.
    pub(crate) fn first_bad_number(&self) -> Option<&'static str> {
        let wide = |pair: Option<[f32; 2]>| pair.map(|pair| pair.map(f64::from));
        let pairs = [
            ("aim", self.aim),
            ("from", self.from),
            ("about", wide(self.about)),
            ("pan", wide(self.pan)),
            ("grab", wide(self.grab)),
            ("drag", wide(self.drag)),
            ("place", self.place),
        ];
        let singles = [
            ("rotate_now", self.rotate_now),
            ("rotate", self.rotate),
            ("notches", self.notches),
            ("strength", self.strength),
            ("shake", self.shake),
        ];
        let fours = [("show", self.show), ("bounds", self.bounds)];
        let bad = |numbers: &[f64]| !numbers.iter().all(|number| number.abs() <= MAX_COORDINATE);
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
