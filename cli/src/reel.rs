//! Several rides side by side, in step, as pictures.

use std::rc::Rc;

use velvet_pan::Snap;

use crate::art::marks;
use crate::fault::Fault;
use crate::picture::Picture;
use crate::ride::{Moment, Ride};
use crate::scene::Scene;
use crate::take::Take;

/// A frame of one ride, with what is said of it.
#[derive(Debug)]
pub struct Frame {
    pub picture: Picture,
    pub label: String,
    pub detail: String,
}

/// A frame that is drawn if it is asked for.
#[derive(Debug)]
pub struct Undrawn<'a> {
    scene: Rc<Scene<'a>>,
    moment: Moment,
    overlay: bool,
    /// What tells it from the ones beside it; none for one alone.
    beside: Option<String>,
}

/// The moments of several takes of one length, all of the same time together.
#[derive(Debug)]
pub struct Reel<'a> {
    rides: Vec<(Ride<'a>, Rc<Scene<'a>>)>,
    overlay: bool,
}

impl<'a> Reel<'a> {
    /// Ready for the first moment; with the camera's own picture over each frame, if wanted.
    pub fn new(takes: &'a [Take], overlay: bool) -> Result<Self, Fault> {
        let ride = |take: &'a Take| Ok((Ride::new(take)?, Rc::new(Scene::new(take))));
        Ok(Self { rides: takes.iter().map(ride).collect::<Result<_, Fault>>()?, overlay })
    }
}

impl<'a> Iterator for Reel<'a> {
    type Item = Vec<Undrawn<'a>>;

    fn next(&mut self) -> Option<Self::Item> {
        let (overlay, several) = (self.overlay, self.rides.len() > 1);
        let named = self.rides.iter().any(|(_, scene)| scene.name() != self.rides[0].1.name());
        let frame = |(ride, scene): &mut (Ride<'a>, Rc<Scene<'a>>)| {
            let moment = ride.next()?;
            let beside = match named {
                true => scene.name().to_owned(),
                false => format!("snap {}", snap_name(moment.view.snap())),
            };
            let beside = several.then_some(beside);
            Some(Undrawn { scene: Rc::clone(scene), moment, overlay, beside })
        };
        self.rides.iter_mut().map(frame).collect()
    }
}

impl Undrawn<'_> {
    /// Draws it.
    pub fn draw(self) -> Frame {
        let mut picture = self.scene.draw(&self.moment);
        if self.overlay {
            marks::draw(&mut picture, &self.moment);
        }
        let centre = self.moment.view.centre();
        let detail = self.beside.unwrap_or(format!("centre {:.1}, {:.1}", centre.x, centre.y));
        Frame { picture, label: format!("t = {:.2} s", self.moment.t), detail }
    }
}

fn snap_name(snap: Snap) -> &'static str {
    match snap {
        Snap::Off => "off",
        Snap::Whole => "whole",
        Snap::Subpixel => "subpixel",
    }
}
