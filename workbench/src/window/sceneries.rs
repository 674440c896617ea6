//! The pictures of the two cameras, drawn again only when something changed.

use std::sync::Arc;

use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan::{Camera, Layer, YAxis};
use velvet_pan_takes::Take;
use velvet_pan_terraces::own::Artwork;
use velvet_pan_terraces::scenery::Scenery;

/// Everything that the pictures depend on.
#[derive(Clone, Debug, PartialEq)]
struct Motif {
    layers: Vec<Layer>,
    screen: UVec2,
    y_axis: YAxis,
    bells: Vec<DVec2>,
    cable: Vec<DVec2>,
}

impl Motif {
    fn of(camera: &Camera) -> Self {
        let settings = camera.settings();
        Self {
            layers: camera.layers().to_vec(),
            screen: settings.screen.size,
            y_axis: settings.screen.y_axis,
            bells: settings.lures.iter().map(|lure| lure.at).collect(),
            cable: settings.rail.iter().flat_map(|rail| rail.points.iter().copied()).collect(),
        }
    }
}

/// The sceneries of the last frame.
#[derive(Debug, Default)]
pub struct Sceneries {
    known: Vec<(Motif, Arc<Scenery>)>,
    /// The take whose map is drawn.
    take: String,
}

impl Sceneries {
    /// Returns the scenery of each camera. The pictures are kept during a drag.
    pub fn of<'a>(
        &mut self,
        cameras: impl Iterator<Item = &'a Camera>,
        (take, art): (&Take, &Artwork),
        is_dragged: bool,
    ) -> Vec<Arc<Scenery>> {
        if self.take != take.name {
            self.known.clear();
            take.name.clone_into(&mut self.take);
        }
        let mut now: Vec<(Motif, Arc<Scenery>)> = Vec::new();
        for (index, camera) in cameras.enumerate() {
            let motif = Motif::of(camera);
            let known = now.iter().chain(&self.known).find(|(one, _)| *one == motif);
            let scenery = match (known, self.known.get(index)) {
                (Some((_, scenery)), _) => Arc::clone(scenery),
                (None, Some(old)) if is_dragged => {
                    now.push(old.clone());
                    continue;
                }
                _ => Arc::new(Scenery::new(
                    art,
                    camera.settings(),
                    camera.layers(),
                    take.map.clone(),
                )),
            };
            now.push((motif, scenery));
        }
        self.known = now;
        self.known.iter().map(|(_, scenery)| Arc::clone(scenery)).collect()
    }
}
