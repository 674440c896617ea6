//! A ride: what the camera does in a take, row by row.

use serde::Serialize;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{Bounds, Camera, CueCall, Ease, Overlay, Rect, Subject, View};

use crate::fault::Fault;
use crate::take::{Event, Take};

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
}

/// What the camera looks at.
#[derive(Clone, Debug)]
enum Target {
    Nothing,
    Subject(String),
    Place(DVec2),
}

/// The moments of a take, one after the other.
#[derive(Debug)]
pub struct Ride<'a> {
    take: &'a Take,
    camera: Camera,
    target: Target,
    /// Panning by hand, in screen pixels per second.
    pan: Vec2,
    pending: &'a [Event],
    next: u64,
}

impl<'a> Ride<'a> {
    /// Ready for the first row.
    pub fn new(take: &'a Take) -> Result<Self, Fault> {
        let mut camera =
            Camera::new(take.settings.clone()).map_err(|error| Fault::new(error.to_string()))?;
        camera.resize(take.window);
        let target = take.watch.clone().map_or(Target::Nothing, Target::Subject);
        Ok(Self { take, camera, target, pan: Vec2::ZERO, pending: &take.timeline, next: 0 })
    }

    fn apply(&mut self, event: &Event, t: f64) {
        self.apply_to_target(event);
        self.apply_to_hands(event);
        if let Some(name) = &event.cue {
            let place = event.from.map_or(CueCall::anywhere(), CueCall::at);
            let call = place.strength(event.strength.unwrap_or(1.0)).since(t - event.at);
            // The take was read with its cues checked; one that is not there changes nothing.
            let _ = self.camera.cue(name, call);
        }
        if let Some(zoom) = event.zoom {
            self.camera.zoom_to(zoom);
        }
        if let Some(rotation) = event.rotate {
            self.camera.set_rotation(rotation);
        }
        if let Some(window) = event.window {
            self.camera.resize(window);
        }
    }

    fn apply_to_target(&mut self, event: &Event) {
        if let Some(name) = &event.watch {
            self.target = Target::Subject(name.clone());
            self.camera.switch();
        }
        if let Some(place) = event.look {
            self.target = Target::Place(place.into());
            self.camera.look_at(place);
        }
        if let Some([x, y, width, height]) = event.bounds {
            let bounds = Bounds::new(Rect::from_corner_size([x, y], [width, height]));
            // Checked when the take was read; bounds that are refused leave the old ones.
            let _ = self.camera.set_bounds(Some(bounds), event.glide.unwrap_or(0.0));
        } else if let Some(seconds) = event.glide.filter(|_| event.show.is_none()) {
            self.camera.glide(seconds, Ease::InOut);
        }
        if event.cut {
            self.camera.cut();
            if let Some(place) = event.look {
                self.camera.cut_to(place);
            }
        }
    }

    fn apply_to_hands(&mut self, event: &Event) {
        if event.release {
            self.camera.release();
        }
        if let Some(notches) = event.notches {
            self.camera.zoom_by(notches, event.about.map(Vec2::from));
        }
        if let Some([x, y, width, height]) = event.show {
            let rect = Rect::from_corner_size([x, y], [width, height]);
            self.camera.show(&rect, event.glide.unwrap_or(0.0), Ease::InOut);
        }
        if let Some(speed) = event.pan {
            self.pan = speed.into();
        }
    }

    fn target_at(&self, t: f64) -> Option<Subject> {
        match &self.target {
            Target::Nothing => None,
            Target::Subject(name) => self.take.subjects.get(name).map(|path| path.subject(t)),
            Target::Place(_) => None,
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
        while let [event, rest @ ..] = self.pending
            && event.at <= t
        {
            self.pending = rest;
            self.apply(event, t);
        }
        let subject = self.target_at(t);
        self.camera.pan(self.pan * step as f32);
        let view = match subject {
            Some(subject) => self.camera.follow(step, subject),
            None => self.camera.rest(step),
        };
        let subject = match self.target {
            Target::Place(place) => Some(place),
            _ => subject.map(|subject| subject.position),
        };
        let overlay = self.camera.overlay();
        let envelope = self.camera.shake_envelope();
        Some(Moment { t, view, goal: self.camera.goal(), subject, overlay, envelope })
    }

    fn size_hint(&self) -> (usize, Option<usize>) {
        let left = (self.take.rows() - self.next) as usize;
        (left, Some(left))
    }
}

impl Moment {
    /// The moment as a row of the ride's table.
    pub fn row(&self, take: &Take) -> Row {
        let (steady, shake) = (self.view.steady(), self.view.shake());
        let centre = steady.centre();
        let on_screen = self.subject.map(|subject| subject_on_screen(&steady, subject));
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
        }
    }
}

/// Where a world point appears in the unsnapped view, in screen pixels, to the last bit.
pub fn subject_on_screen(view: &View, subject: DVec2) -> DVec2 {
    let size = view.size().as_dvec2();
    view.lens().to_screen_axes(subject - view.centre()) + size / 2.0
}
