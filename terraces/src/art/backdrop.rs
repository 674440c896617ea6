//! The layers behind and in front of the world, each on a canvas of its own.

use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan::{Layer, Origin, Rect, Screen, Snap, View, YAxis};

use super::{mist, reeds, ridge, sky};
use crate::cel::{Cel, Quad, QuadArea};
use crate::own::Artwork;
use crate::paint::unsnapped;
use crate::picture::Picture;

/// The pictures of a take's layers.
#[derive(Debug)]
pub struct Backdrop {
    layers: Vec<Painted>,
}

/// A layer with its picture, and the position of the picture in the layer's own coordinates.
#[derive(Debug)]
struct Painted {
    layer: Layer,
    /// Its number among all pictures.
    picture: usize,
    rect: Rect,
    /// Whether a sky that does not cover the view is enlarged.
    is_sky: bool,
}

/// The maximum number of copies of a picture, so that filming takes a finite time.
const MAX_COPIES: usize = 1000;

/// The side of the largest sky, in pixels.
const MAX_SKY: f64 = 4096.0;

impl Backdrop {
    /// Adds the pictures for these layers by their names. A layer of the user without a picture is not drawn.
    ///
    /// In the art of the terraces, a layer that covers the view is a sky, unknown names are ridges, and without any
    /// layer there is a sky that stands still.
    pub fn new(
        art: &Artwork,
        layers: &[Layer],
        screen: &Screen,
        pictures: &mut Vec<Picture>,
    ) -> Self {
        let (size, y_axis) = (screen.size, screen.y_axis);
        let layers: Vec<Painted> = match art {
            Artwork::Own(own) => {
                let with_picture =
                    layers.iter().filter_map(|layer| Some((layer, own.layer(&layer.name)?)));
                with_picture
                    .map(|(layer, picture)| Painted::own(layer, picture, y_axis, pictures))
                    .collect()
            }
            Artwork::Terraces => {
                let pinned =
                    Layer { response: 0.0, rotates: false, ..Layer::at_rate("sky", [0, 0]) };
                let none = [Layer { cover: Some(size.as_dvec2()), ..pinned }];
                let layers = if layers.is_empty() { &none } else { layers };
                layers.iter().map(|layer| Painted::new(layer, size, y_axis, pictures)).collect()
            }
        };
        Self { layers }
    }

    /// Returns what this view shows of the layers in front of the world, or of those behind it, from back to front.
    pub fn cels(&self, view: &View, nearer: bool) -> Vec<Cel> {
        let layers = self.layers.iter().filter(|one| one.layer.is_foreground() == nearer);
        layers.map(|layer| layer.cel(view)).collect()
    }
}

impl Painted {
    fn new(layer: &Layer, screen: UVec2, y_axis: YAxis, pictures: &mut Vec<Picture>) -> Self {
        let is_sky = layer.cover.is_some() || layer.name == "sky";
        let size = layer.cover.unwrap_or(screen.as_dvec2());
        // From the layer's alignment point to the picture's top left corner.
        let (picture, from) = match layer.name.as_str() {
            _ if is_sky => {
                let pixels = size.round().clamp(DVec2::ONE, DVec2::splat(MAX_SKY)).as_uvec2();
                (sky::picture(pixels), size / -2.0)
            }
            "mist" => (mist::picture(), DVec2::new(0.0, -10.0)),
            "reeds" => (reeds::picture(), DVec2::new(0.0, 6.0)),
            name if name.contains("far") => (ridge::far(), DVec2::new(0.0, -18.0)),
            _ => (ridge::near(), DVec2::new(0.0, -2.0)),
        };
        let from = if y_axis == YAxis::Down { from } else { DVec2::new(from.x, -from.y) };
        let size = if is_sky { size } else { picture.size().as_dvec2() };
        let rect = Origin::Corner.rect(layer.align + from, size, y_axis);
        pictures.push(picture);
        let picture = pictures.len() - 1;
        Self { layer: layer.clone(), picture, rect: layer.within.unwrap_or(rect), is_sky }
    }

    /// Returns a picture of the user: over what the layer covers, or from its alignment point on, one world unit a pixel.
    fn own(layer: &Layer, picture: &Picture, y_axis: YAxis, pictures: &mut Vec<Picture>) -> Self {
        let size = layer.cover.unwrap_or(picture.size().as_dvec2());
        let from = if layer.cover.is_some() { size / -2.0 } else { DVec2::ZERO };
        let from = if y_axis == YAxis::Down { from } else { DVec2::new(from.x, -from.y) };
        let rect = Origin::Corner.rect(layer.align + from, size, y_axis);
        pictures.push(picture.clone());
        let picture = pictures.len() - 1;
        let rect = layer.within.unwrap_or(rect);
        Self { layer: layer.clone(), picture, rect, is_sky: false }
    }

    fn cel(&self, view: &View) -> Cel {
        let seen = view.layer(&self.layer);
        let seen =
            if seen.snap() == Snap::Off { unsnapped(&seen, view.window_size()) } else { seen };
        let rect = self.rect_in(&seen);
        let turned = seen.lens().is_rotated();
        let copies = seen.copies(&rect, self.layer.repeat).take(MAX_COPIES);
        let quads = copies.map(|copy| {
            let place = match turned {
                true => QuadArea::World(Rect {
                    min: rect.min + copy.offset,
                    max: rect.max + copy.offset,
                }),
                false => QuadArea::Canvas { rect: copy.rect, mirrored: false },
            };
            Quad { picture: self.picture, place }
        });
        Cel::new(seen, quads.collect())
    }

    fn rect_in(&self, view: &View) -> Rect {
        let shown = view.visible_world();
        let covers = self.rect.min.cmple(shown.min).all() && self.rect.max.cmpge(shown.max).all();
        if !self.is_sky || covers {
            return self.rect;
        }
        // Enlarged evenly and a little beyond the edges, the sun at its fraction of the screen.
        let pixel = view.screen_to_world_length(1.0);
        let shown = Rect { min: shown.min - pixel, max: shown.max + pixel };
        let size = self.rect.size() * (shown.size() / self.rect.size()).max_element();
        let min = shown.min + (shown.size() - size) * sky::SUN.as_dvec2();
        Rect { min, max: min + size }
    }
}
