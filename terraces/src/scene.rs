//! A moment of a ride as the player would see it.

use velvet_pan::YAxis;
use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan_takes::{Actor, Moment, Path, Take};

use crate::art::courier::Pose;
use crate::art::palette::NIGHT;
use crate::cel::Cel;
use crate::picture::Picture;
use crate::stage::{Figure, Role, Stage};

/// Draws the moments of a take.
#[derive(Debug)]
pub struct Scene<'a> {
    take: &'a Take,
    stage: Stage,
}

impl<'a> Scene<'a> {
    /// Draws the pictures that are kept.
    pub fn new(take: &'a Take) -> Self {
        Self { take, stage: Stage::new(&take.settings, &take.layers(), take.map.clone()) }
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
        self.stage.pictures()
    }

    /// What the moment shows, from back to front.
    pub fn cels(&self, moment: &Moment) -> Vec<Cel> {
        self.stage.cels(&moment.view, &figures(self.take, moment.t, moment.subject))
    }

    /// The moment in its window, the bars around it in the colour of the night.
    pub fn draw(&self, moment: &Moment) -> Picture {
        let window = moment.view.window_size();
        let mut picture = Picture::new(UVec2::new(window.width, window.height), NIGHT);
        let figures = figures(self.take, moment.t, moment.subject);
        self.stage.paint(&moment.view, &figures, &mut picture);
        picture
    }
}

/// Everybody in a take at this time; `followed` is where the one is that the camera follows.
pub fn figures(take: &Take, t: f64, followed: Option<DVec2>) -> Vec<Figure> {
    let y_axis = take.settings.screen.y_axis;
    let figure = |(name, actor): (&String, &Actor)| {
        let at = actor.path.position(t);
        let role = match name.contains("kite") {
            true => Role::Kite,
            false => Role::Courier(pose(&actor.path, t, y_axis)),
        };
        Figure { role, at, left: facing_left(&actor.path, t), followed: followed == Some(at) }
    };
    take.subjects.iter().map(figure).collect()
}

/// What the courier does, from the shape of the path.
fn pose(path: &Path, t: f64, y_axis: YAxis) -> Pose {
    const MOMENT: f64 = 1.0 / 30.0;
    let speed = (path.position(t + MOMENT) - path.position(t - MOMENT)) / (2.0 * MOMENT);
    let rising = if y_axis == YAxis::Down { speed.y < 0.0 } else { speed.y > 0.0 };
    Pose::of(path.grounded(t), rising, speed.x, path.position(t).x)
}

/// Whether it last moved to the left.
fn facing_left(path: &Path, t: f64) -> bool {
    let looks = (0..20).map(|back| t - 0.1 * f64::from(back));
    let moved = |t: f64| path.position(t + 0.05).x - path.position(t - 0.05).x;
    looks.map(moved).find(|moved| moved.abs() > 0.5).is_some_and(|moved| moved < 0.0)
}
