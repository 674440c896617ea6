//! The layers behind the world and before it, each on a canvas of its own.

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{Layer, Origin, Rect, Snap, View, YAxis};

use super::{mist, reeds, ridge, sky};
use crate::paint::{lay, stretch, unsnapped};
use crate::picture::{CLEAR, Picture};

/// The pictures of a take's layers, drawn once.
#[derive(Debug)]
pub struct Backdrop {
    layers: Vec<Painted>,
}

/// A layer with its picture, and where that stands in the layer's own coordinates.
#[derive(Debug)]
struct Painted {
    layer: Layer,
    picture: Picture,
    rect: Rect,
    /// A sky smaller than the view is stretched over it.
    is_sky: bool,
}

/// Copies of a picture that are drawn, at most: any file is filmed in a finite time.
const MOST_COPIES: usize = 1000;

/// Pixels along a side of the largest sky.
const MOST: f64 = 4096.0;

impl Backdrop {
    /// The pictures for these layers, by their names; where there is none, a sky that stands still.
    ///
    /// A layer that covers is a sky; names that the terraces do not know are ridges.
    pub fn new(layers: &[Layer], screen: UVec2, y_axis: YAxis) -> Self {
        let pinned = Layer { response: 0.0, rotates: false, ..Layer::at_rate("sky", [0, 0]) };
        let none = [Layer { cover: Some(screen.as_dvec2()), ..pinned }];
        let layers = if layers.is_empty() { &none } else { layers };
        Self { layers: layers.iter().map(|layer| Painted::new(layer, screen, y_axis)).collect() }
    }

    /// Lays the layers that are behind the world over the window's picture.
    pub fn draw_behind(&self, picture: &mut Picture, view: &View) {
        self.draw(picture, view, false);
    }

    /// Lays those that are nearer than the world.
    pub fn draw_before(&self, picture: &mut Picture, view: &View) {
        self.draw(picture, view, true);
    }

    fn draw(&self, picture: &mut Picture, view: &View, before: bool) {
        for painted in self.layers.iter().filter(|one| one.layer.is_foreground() == before) {
            painted.draw(picture, view);
        }
    }
}

impl Painted {
    fn new(layer: &Layer, screen: UVec2, y_axis: YAxis) -> Self {
        let is_sky = layer.cover.is_some() || layer.name == "sky";
        let size = layer.cover.unwrap_or(screen.as_dvec2());
        // From the layer's alignment point to the picture's top left corner.
        let (picture, from) = match layer.name.as_str() {
            _ if is_sky => {
                let pixels = size.round().clamp(DVec2::ONE, DVec2::splat(MOST)).as_uvec2();
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
        Self { layer: layer.clone(), picture, rect: layer.within.unwrap_or(rect), is_sky }
    }

    fn draw(&self, picture: &mut Picture, view: &View) {
        let seen = view.layer(&self.layer);
        let seen =
            if seen.snap() == Snap::Off { unsnapped(&seen, view.window_size()) } else { seen };
        let mut canvas = Picture::new(seen.canvas_size(), CLEAR);
        if seen.lens().is_rotated() {
            self.draw_turned(&mut canvas, &seen);
        } else {
            let copies = seen.copies(&self.rect_in(&seen), self.layer.repeat);
            for copy in copies.take(MOST_COPIES) {
                stretch(&mut canvas, &self.picture, &copy.rect, false);
            }
        }
        lay(&canvas, picture, &seen);
    }

    fn rect_in(&self, view: &View) -> Rect {
        let shown = view.visible_world();
        let covers = self.rect.min.cmple(shown.min).all() && self.rect.max.cmpge(shown.max).all();
        if self.is_sky && !covers { shown } else { self.rect }
    }

    /// Pixel by pixel, asking which of the picture's is there.
    fn draw_turned(&self, canvas: &mut Picture, view: &View) {
        let rect = self.rect_in(view);
        let size = rect.size();
        let per_unit = self.picture.size().as_dvec2() / size;
        let top = Origin::Corner.rect(DVec2::ZERO, size, view.lens().y_axis()).min;
        for y in 0..canvas.size().y {
            for x in 0..canvas.size().x {
                let place = Vec2::new(x as f32, y as f32) + 0.5 - view.residual();
                let from = view.screen_to_world(place) - (rect.min - top);
                let from = DVec2::new(from.x, if top.y < 0.0 { -from.y } else { from.y });
                let wrapped =
                    |at: f64, repeat: f64| if repeat > 0.0 { at.rem_euclid(repeat) } else { at };
                let at = DVec2::new(
                    wrapped(from.x, self.layer.repeat.x),
                    wrapped(from.y, self.layer.repeat.y),
                );
                let pixel = (at * per_unit).floor();
                let colour = self.picture.get(pixel.x as i64, pixel.y as i64);
                if colour[3] > 0 {
                    canvas.set(i64::from(x), i64::from(y), colour);
                }
            }
        }
    }
}
