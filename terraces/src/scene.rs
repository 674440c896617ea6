//! A moment of a ride as the player would see it.

use velvet_pan::YAxis;
use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan_takes::{Moment, Path, Take, TakeSubject};

use crate::art::courier::Pose;
use crate::art::palette::NIGHT;
use crate::cel::Cel;
use crate::own::Artwork;
use crate::picture::Picture;
use crate::scenery::{Figure, Role, Scenery};

/// Draws the moments of a take.
#[derive(Debug)]
pub struct Scene<'a> {
    take: &'a Take,
    scenery: Scenery,
}

impl<'a> Scene<'a> {
    /// Draws the pictures that are kept.
    pub fn new(take: &'a Take, art: &Artwork) -> Self {
        Self { take, scenery: Scenery::new(art, &take.settings, &take.layers(), take.map.clone()) }
    }

    /// Returns the take.
    pub fn take(&self) -> &Take {
        self.take
    }

    /// Returns the name of the take.
    pub fn name(&self) -> &str {
        &self.take.name
    }

    /// Returns all pictures, in the order of their numbers.
    pub fn pictures(&self) -> &[Picture] {
        self.scenery.pictures()
    }

    /// What the moment shows, from back to front.
    pub fn cels(&self, moment: &Moment) -> Vec<Cel> {
        self.scenery.cels(&moment.view, &figures(self.take, moment.t, moment.subject))
    }

    /// Returns the moment in its window, the bars around it in the colour of the night.
    pub fn draw(&self, moment: &Moment) -> Picture {
        let window = moment.view.window_size();
        let mut picture = Picture::new(UVec2::new(window.width, window.height), NIGHT);
        let figures = figures(self.take, moment.t, moment.subject);
        self.scenery.paint(&moment.view, &figures, &mut picture);
        picture
    }
}

/// Everybody in a take at this time; `followed` is where the one is that the camera follows.
pub fn figures(take: &Take, t: f64, followed: Option<DVec2>) -> Vec<Figure> {
    let y_axis = take.settings.screen.y_axis;
    let figure = |(subject, (name, actor)): (usize, (&String, &TakeSubject))| {
        let path = &actor.path;
        let at = path.position(t);
        let role = match () {
            () if !take.pictures.are_of_demo() => {
                Role::Own { subject, way: way(path, t, y_axis), moves: moves(path, t) }
            }
            () if name.contains("kite") => Role::Kite,
            () => Role::Courier(pose(path, t, y_axis)),
        };
        Figure { role, at, left: facing_left(path, t), followed: followed == Some(at) }
    };
    take.subjects.iter().enumerate().map(figure).collect()
}

/// Returns the movement of a path around a time, in world units a second.
fn speed(path: &Path, t: f64) -> DVec2 {
    const MOMENT: f64 = 1.0 / 30.0;
    (path.position(t + MOMENT) - path.position(t - MOMENT)) / (2.0 * MOMENT)
}

/// Returns the eighth of a turn to which it last moved, clockwise from the right on the screen.
fn way(path: &Path, t: f64, y_axis: YAxis) -> Option<usize> {
    let looks = (0..20).map(|back| speed(path, t - 0.1 * f64::from(back)));
    let moved = looks.into_iter().find(|speed| speed.length() > SLOW)?;
    let down = if y_axis == YAxis::Down { moved.y } else { -moved.y };
    let eighths = down.atan2(moved.x) / std::f64::consts::FRAC_PI_4;
    Some(eighths.round().rem_euclid(8.0) as usize)
}

/// For how long it has been moving, if it does: the time itself keeps the rhythm of its frames.
fn moves(path: &Path, t: f64) -> Option<f64> {
    (speed(path, t).length() > SLOW).then_some(t)
}

/// The speed below which a subject stands, in world units a second.
const SLOW: f64 = 1.0;

/// What the courier does, from the shape of the path.
fn pose(path: &Path, t: f64, y_axis: YAxis) -> Pose {
    let speed = speed(path, t);
    let rising = if y_axis == YAxis::Down { speed.y < 0.0 } else { speed.y > 0.0 };
    Pose::of(path.grounded(t), rising, speed.x, path.position(t).x)
}

/// Returns whether it last moved to the left.
fn facing_left(path: &Path, t: f64) -> bool {
    let looks = (0..20).map(|back| t - 0.1 * f64::from(back));
    let moved = |t: f64| path.position(t + 0.05).x - path.position(t - 0.05).x;
    looks.map(moved).find(|moved| moved.abs() > 0.5).is_some_and(|moved| moved < 0.0)
}
