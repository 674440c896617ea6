//! One moment of a ride as the player would see it.

use velvet_pan::YAxis;
use velvet_pan::glam::UVec2;
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
    /// Draws what lasts.
    pub fn new(take: &'a Take) -> Self {
        Self { take, stage: Stage::new(&take.settings, &take.layers(), take.map.clone()) }
    }

    /// The take's name.
    pub fn name(&self) -> &str {
        &self.take.name
    }

    /// All pictures, by the numbers that quads have.
    pub fn pictures(&self) -> &[Picture] {
        self.stage.pictures()
    }

    /// What the moment shows, from back to front.
    pub fn cels(&self, moment: &Moment) -> Vec<Cel> {
        self.stage.cels(&moment.view, &self.figures(moment))
    }

    /// The moment in its window, the bars around it in the colour of the night.
    pub fn draw(&self, moment: &Moment) -> Picture {
        let window = moment.view.window_size();
        let mut picture = Picture::new(UVec2::new(window.width, window.height), NIGHT);
        self.stage.paint(&moment.view, &self.figures(moment), &mut picture);
        picture
    }

    fn figures(&self, moment: &Moment) -> Vec<Figure> {
        let y_axis = self.take.settings.screen.y_axis;
        self.take.subjects.iter().map(|one| figure(one, moment, y_axis)).collect()
    }
}

/// Who somebody is, by name: a kite, or the courier.
fn figure((name, actor): (&String, &Actor), moment: &Moment, y_axis: YAxis) -> Figure {
    let (path, t) = (&actor.path, moment.t);
    let at = path.position(t);
    let kite = name.contains("kite");
    let role = if kite { Role::Kite } else { Role::Courier(pose(path, t, y_axis)) };
    Figure { role, at, left: facing_left(path, t), followed: moment.subject == Some(at) }
}

/// What the courier does, from where her path leads.
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
