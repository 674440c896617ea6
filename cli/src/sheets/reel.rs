//! Several rides side by side, as pictures.

use std::sync::Arc;

use velvet_pan::Snap;
use velvet_pan_takes::{Fault, Moment, SideBySide, Take, deciders_in_words};
use velvet_pan_terraces::art::marks;
use velvet_pan_terraces::own::Artwork;
use velvet_pan_terraces::picture::Picture;
use velvet_pan_terraces::scene::Scene;

use crate::support::output::tell;

/// A frame of one ride, with its labels.
#[derive(Debug)]
pub struct Frame {
    pub picture: Picture,
    pub label: String,
    pub detail: String,
}

/// A frame that is drawn on request.
#[derive(Debug)]
pub struct Undrawn<'a> {
    scene: Arc<Scene<'a>>,
    moment: Moment,
    overlay: bool,
    /// Its name among the others, or `None` for a single ride.
    beside: Option<String>,
}

/// Returns the frames of several takes, those of the same time together, with the camera's overlay over each frame if
/// wanted.
pub fn frames<'a>(
    takes: &'a [Take],
    overlay: bool,
) -> Result<impl Iterator<Item = Vec<Undrawn<'a>>>, Fault> {
    let scenes = scenes(takes).into_iter().map(Arc::new).collect::<Vec<_>>();
    let several = takes.len() > 1;
    let named = takes.iter().any(|take| take.name != takes[0].name);
    Ok(SideBySide::new(takes)?.map(move |moments| {
        let frame = |(scene, moment): (&Arc<Scene<'a>>, Moment)| {
            let name = if named { scene.name() } else { snap_label(moment.view.snap()) };
            let beside = several.then(|| name.to_owned());
            Undrawn { scene: Arc::clone(scene), moment, overlay, beside }
        };
        scenes.iter().zip(moments).map(frame).collect()
    }))
}

/// Returns the scene of each take. The pictures of a take are read once, also if it is filmed with several settings.
fn scenes<'a>(takes: &'a [Take]) -> Vec<Scene<'a>> {
    let mut read: Vec<(&'a Take, Artwork)> = Vec::new();
    let scene = |take: &'a Take| {
        let is_alike = |one: &Take| (&one.name, &one.pictures) == (&take.name, &take.pictures);
        let known = read.iter().position(|(one, _)| is_alike(one));
        let index = known.unwrap_or_else(|| {
            read.push((take, artwork(take)));
            read.len() - 1
        });
        Scene::new(take, &read[index].1)
    };
    takes.iter().map(scene).collect()
}

/// Returns the pictures of a take. What can't be read is reported, and drawn plainly.
pub fn artwork(take: &Take) -> Artwork {
    let (art, faults) = Artwork::of_take(take);
    faults.iter().for_each(|fault| tell("warning", fault));
    art
}

impl Undrawn<'_> {
    /// Draws the frame.
    pub fn draw(self) -> Frame {
        let mut picture = self.scene.draw(&self.moment);
        if self.overlay {
            marks::draw(&mut picture, &self.moment);
        }
        let centre = self.moment.view.centre();
        let place = format!("centre {:.1}, {:.1}", centre.x, centre.y);
        let alone = if self.overlay {
            format!("{} · {place}", deciders_in_words(&self.moment.decision))
        } else {
            place
        };
        let detail = self.beside.unwrap_or(alone);
        let time = format!("t = {:.2} s", self.moment.t);
        let mark = self.scene.take().mark_at(self.moment.events_t);
        let label = mark.map_or(time.clone(), |mark| format!("{time} · {mark}"));
        Frame { picture, label, detail }
    }
}

fn snap_label(snap: Snap) -> &'static str {
    match snap {
        Snap::Off => "snap off",
        Snap::Whole => "snap whole",
        Snap::Subpixel => "snap subpixel",
        _ => "another snap",
    }
}
