//! A ride: what the camera does in a take, row by row.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, CameraState, Cameras, CueCall, Decider, Ease, LastWord, Overlay, PerAxis, Rect,
    Settings, Subject, View,
};

use crate::cast::MAIN;
use crate::event::Event;
use crate::fault::Fault;
use crate::take::Take;

/// One row of a ride's table: the state at `t`.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
pub struct Row {
    /// Seconds.
    pub t: f64,
    /// The subject's position in world units; none where nothing is followed.
    pub subject_x: Option<f64>,
    /// See `subject_x`.
    pub subject_y: Option<f64>,
    /// The goal as a centre of the view, after the bounds, in world units.
    pub goal_x: f64,
    /// See `goal_x`.
    pub goal_y: f64,
    /// The view's centre without shake, in world units.
    pub x: f64,
    /// See `x`.
    pub y: f64,
    /// The zoom.
    pub zoom: f64,
    /// The rotation in radians, without shake.
    pub rotation: f64,
    /// The shake in screen pixels.
    pub shake_x: f64,
    /// See `shake_x`.
    pub shake_y: f64,
    /// The shake's part of the rotation in radians.
    pub roll: f64,
    /// The view's corner in whole screen pixels.
    pub corner_x: i64,
    /// See `corner_x`.
    pub corner_y: i64,
    /// The fraction of a screen pixel that snapping took away.
    pub residual_x: f32,
    /// See `residual_x`.
    pub residual_y: f32,
    /// Where the subject appears in the unsnapped view, in screen pixels.
    pub subject_screen_x: Option<f64>,
    /// See `subject_screen_x`.
    pub subject_screen_y: Option<f64>,
    /// The first column of tiles in view.
    pub first_col: Option<i64>,
    /// The last column of tiles in view, itself in view.
    pub last_col: Option<i64>,
    /// The first row of tiles in view.
    pub first_row: Option<i64>,
    /// The last row of tiles in view, itself in view.
    pub last_row: Option<i64>,
    /// How many tiles in view are not blank; none without a map.
    pub tiles: Option<usize>,
    /// The stage that decides where the view is along x, and along y.
    pub decider_x: Decider,
    /// See `decider_x`.
    pub decider_y: Decider,
}

/// A moment of a ride: the view, and what was followed.
#[derive(Clone, Copy, Debug)]
pub struct Moment {
    /// Seconds.
    pub t: f64,
    /// The camera's answer.
    pub view: View,
    /// The goal as a centre of the view.
    pub goal: DVec2,
    /// Where the followed subject is.
    pub subject: Option<DVec2>,
    /// The camera's picture of itself.
    pub overlay: Overlay,
    /// How far shakes may go at this moment, in screen pixels.
    pub envelope: DVec2,
    /// The stage that decides where the view is.
    pub last_word: PerAxis<LastWord>,
}

/// What a camera looks at.
#[derive(Clone, Debug, Serialize, Deserialize)]
enum Target {
    Subjects {
        names: Vec<String>,
        /// Framed together, now or before: then whoever leaves fades out.
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

/// A ride in the middle: enough to go on with in another process, to the bit.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct RideState {
    /// The next row.
    next: u64,
    /// How much of the timeline has happened.
    happened: usize,
    pan: [f32; 2],
    active: String,
    cameras: BTreeMap<String, (Target, CameraState)>,
}

/// The moments of a take, one after the other.
#[derive(Debug)]
pub struct Ride<'a> {
    take: &'a Take,
    cameras: Cameras<&'a str>,
    targets: BTreeMap<&'a str, Target>,
    /// Panning by hand, in screen pixels per second.
    pan: Vec2,
    pending: &'a [Event],
    next: u64,
}

impl<'a> Ride<'a> {
    /// Ready for the first row.
    pub fn new(take: &'a Take) -> Result<Self, Fault> {
        let camera = |settings: &Settings| {
            Camera::new(settings.clone()).map_err(|error| Fault::new(error.to_string()))
        };
        let mut cameras = Cameras::new(MAIN, camera(&take.settings)?);
        let mut targets = BTreeMap::from([(MAIN, Target::of(take.watch.clone(), false))]);
        for (name, other) in &take.cameras {
            cameras.insert(name.as_str(), camera(&other.settings)?);
            let target = match other.aim {
                Some(place) if other.watch.is_empty() => Target::Point(place.into()),
                _ => Target::of(other.watch.clone(), false),
            };
            targets.insert(name.as_str(), target);
        }
        for (name, camera) in cameras.iter_mut() {
            if let Some(Target::Point(point)) = targets.get(name) {
                camera.place_at(*point);
            }
        }
        cameras.resize(take.window);
        Ok(Self { take, cameras, targets, pan: Vec2::ZERO, pending: &take.timeline, next: 0 })
    }

    /// The ride as it stands; none while the picture is on its way between two cameras.
    pub fn state(&self) -> Option<RideState> {
        if self.cameras.is_gliding() {
            return None;
        }
        let active = (*self.cameras.active_key()).to_owned();
        let targets = &self.targets;
        let cameras = self.cameras.iter().filter_map(|(name, camera)| {
            Some(((*name).to_owned(), (targets.get(name)?.clone(), camera.state())))
        });
        Some(RideState {
            next: self.next,
            happened: self.take.timeline.len() - self.pending.len(),
            pan: self.pan.to_array(),
            active,
            cameras: cameras.collect(),
        })
    }

    /// The same take from a saved moment on.
    pub fn resumed(take: &'a Take, state: &RideState) -> Result<Self, Fault> {
        let mut ride = Self::new(take)?;
        let other = || Fault::new("the saved ride is not one of this take: expected the same take");
        let (happened, pending) =
            take.timeline.split_at_checked(state.happened).ok_or_else(other)?;
        // What events change in settings is no part of a camera's state.
        for event in happened {
            if let Some(window) = event.window {
                ride.cameras.resize(window);
            }
            if let Some(name) = &event.camera {
                ride.cameras.switch_to(&name.as_str());
            }
            if let Some([x, y, width, height]) = event.bounds {
                let bounds = Bounds::new(Rect::from_corner_size([x, y], [width, height]));
                let camera = ride.cameras.active_mut();
                let settings = Settings { bounds: Some(bounds), ..camera.settings().clone() };
                // Checked when the take was read.
                let _ = camera.set_settings(settings, 0.0);
            }
        }
        for (name, camera) in ride.cameras.iter_mut() {
            let (target, saved) = state.cameras.get(*name).ok_or_else(other)?;
            camera.restore(*saved).map_err(|error| Fault::new(error.to_string()))?;
            ride.targets.insert(name, target.clone());
        }
        let active = ride.targets.keys().find(|name| **name == state.active).ok_or_else(other)?;
        ride.cameras.switch_to(active);
        (ride.next, ride.pan, ride.pending) = (state.next, state.pan.into(), pending);
        Ok(ride)
    }

    fn apply(&mut self, event: &'a Event, t: f64) {
        if let Some(window) = event.window {
            self.cameras.resize(window);
        }
        if let Some(name) = &event.camera {
            // Cameras were checked when the take was read.
            let seconds = event.glide.unwrap_or(0.0);
            self.cameras.glide_to(&name.as_str(), seconds, Ease::Smooth);
        }
        self.apply_to_target(event);
        self.apply_to_hands(event);
        let camera = self.cameras.active_mut();
        if let Some(name) = &event.cue {
            let place = event.from.map_or(CueCall::anywhere(), CueCall::at);
            let call = place.with_strength(event.strength.unwrap_or(1.0)).since(t - event.at);
            // The take was read with its cues checked; a camera that has it not is not moved by it.
            let _ = camera.cue(name, call);
        }
        if let Some(zoom) = event.zoom {
            camera.zoom_to(zoom);
        }
        if let Some(rotation) = event.rotate {
            camera.rotate_to(rotation);
        }
    }

    fn apply_to_target(&mut self, event: &Event) {
        let key = *self.cameras.active_key();
        let camera = self.cameras.active_mut();
        if let Some(names) = &event.watch {
            let before =
                matches!(self.targets.get(key), Some(Target::Subjects { party: true, .. }));
            let target = Target::of(names.clone(), before);
            if matches!(target, Target::Subjects { party: false, .. }) {
                camera.switch_subject();
            }
            self.targets.insert(key, target);
        }
        if let Some(place) = event.aim {
            self.targets.insert(key, Target::Point(place.into()));
            camera.aim_at(place);
        }
        if let Some([x, y, width, height]) = event.bounds {
            let bounds = Bounds::new(Rect::from_corner_size([x, y], [width, height]));
            // Checked when the take was read; bounds that are refused leave the old ones.
            let _ = camera.set_bounds(Some(bounds), event.glide.unwrap_or(0.0));
        } else if let Some(seconds) =
            event.glide.filter(|_| event.show.is_none() && event.camera.is_none())
        {
            camera.glide(seconds, Ease::Smooth);
        }
        if event.cut {
            camera.cut();
            if let Some(place) = event.aim {
                camera.place_at(place);
            }
        }
    }

    fn apply_to_hands(&mut self, event: &Event) {
        let camera = self.cameras.active_mut();
        if event.release {
            camera.release();
        }
        if let Some(notches) = event.notches {
            camera.zoom_by(notches, event.about.map(Vec2::from));
        }
        if let Some([x, y, width, height]) = event.show {
            let rect = Rect::from_corner_size([x, y], [width, height]);
            camera.show(&rect, event.glide.unwrap_or(0.0), Ease::Smooth);
        }
    }

    /// How far a hand pans in a step of the take's time: each of its events counts from its own time on.
    fn pan_through(&mut self, events: &[Event], from: f64, to: f64) -> Vec2 {
        let (mut panned, mut since) = (Vec2::ZERO, from);
        for event in events {
            let Some(speed) = event.pan else { continue };
            let at = event.at.max(since);
            panned += self.pan * (at - since) as f32;
            (self.pan, since) = (speed.into(), at);
        }
        panned + self.pan * (to - since) as f32
    }

    /// A frame of every camera.
    fn advance(&mut self, step: f64, t: f64) {
        let take = self.take;
        for (name, camera) in self.cameras.iter_mut() {
            let (watched, party) = match self.targets.get(name) {
                Some(Target::Subjects { names, party }) => (names.as_slice(), *party),
                _ => (&[][..], false),
            };
            let subject = |name: &String| take.subjects.get(name).map(|actor| actor.subject(t));
            match watched {
                [] => camera.advance(step),
                [only] if !party => match subject(only) {
                    Some(subject) => camera.follow(step, subject),
                    None => camera.advance(step),
                },
                several => {
                    // By their place among all, so that each keeps its number.
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

    /// Where the first of those is that the active camera looks at.
    fn aimed_at(&self, t: f64) -> Option<DVec2> {
        match self.targets.get(self.cameras.active_key())? {
            Target::Point(place) => Some(*place),
            Target::Subjects { names, .. } => {
                Some(self.take.subjects.get(names.first()?)?.path.position(t))
            }
        }
    }
}

impl Iterator for Ride<'_> {
    type Item = Moment;

    fn next(&mut self) -> Option<Moment> {
        if self.next >= self.take.rows() {
            return None;
        }
        let t = self.next as f64 / self.take.fps;
        let step = if self.next == 0 { 0.0 } else { 1.0 / self.take.fps };
        self.next += 1;
        let happens = self.pending.iter().take_while(|event| event.at <= t).count();
        let (events, rest) = self.pending.split_at(happens);
        self.pending = rest;
        for event in events {
            self.apply(event, t);
        }
        let panned = self.pan_through(events, t - step, t);
        self.cameras.active_mut().pan(panned);
        self.advance(step, t);
        let view = self.cameras.view(step);
        let camera = self.cameras.active();
        let (goal, overlay, envelope) = (camera.goal(), camera.overlay(), camera.shake_envelope());
        Some(Moment {
            t,
            view,
            goal,
            subject: self.aimed_at(t),
            overlay,
            envelope,
            last_word: camera.last_word(),
        })
    }

    fn size_hint(&self) -> (usize, Option<usize>) {
        let left = self.take.rows().saturating_sub(self.next) as usize;
        (left, Some(left))
    }
}

impl Moment {
    /// From the followed point to its anchor, in screen pixels; none where nothing is followed.
    pub fn lag(&self, take: &Take) -> Option<f64> {
        let follow = &take.settings.follow;
        Some(self.view.lag_of(self.subject? + follow.offset, follow.anchor))
    }

    /// The moment as a row of the ride's table.
    pub fn row(&self, take: &Take) -> Row {
        let (steady, shake) = (self.view.steady(), self.view.shake());
        let centre = steady.centre();
        let on_screen = self.subject.map(|subject| steady.world_to_screen_f64(subject));
        let tiles = take.map.as_ref().map(|map| (map, self.view.tiles(map.grid())));
        let seen = tiles.filter(|(_, tiles)| !tiles.is_empty()).map(|(_, tiles)| tiles);
        Row {
            t: self.t,
            subject_x: self.subject.map(|subject| subject.x),
            subject_y: self.subject.map(|subject| subject.y),
            goal_x: self.goal.x,
            goal_y: self.goal.y,
            x: centre.x,
            y: centre.y,
            zoom: steady.lens().zoom(),
            rotation: steady.lens().rotation(),
            shake_x: shake.pixels.x,
            shake_y: shake.pixels.y,
            roll: shake.roll,
            corner_x: self.view.corner().x,
            corner_y: self.view.corner().y,
            residual_x: self.view.residual().x,
            residual_y: self.view.residual().y,
            subject_screen_x: on_screen.map(|place| place.x),
            subject_screen_y: on_screen.map(|place| place.y),
            first_col: seen.map(|tiles| tiles.columns().start),
            last_col: seen.map(|tiles| tiles.columns().end - 1),
            first_row: seen.map(|tiles| tiles.row_numbers().start),
            last_row: seen.map(|tiles| tiles.row_numbers().end - 1),
            tiles: tiles.map(|(map, tiles)| map.filled(&tiles)),
            decider_x: self.last_word.x.by,
            decider_y: self.last_word.y.by,
        }
    }
}
