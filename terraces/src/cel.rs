//! The content of one canvas, described so that the CPU and a graphics card draw it in the same way.

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{Blending, CanvasRect, Placement, Rect, Snap, View, YAxis, present_over};

use crate::paint::stretch;
use crate::picture::{CLEAR, Picture};

/// One transparent canvas of a scene: its pictures from back to front, and its placement.
#[derive(Clone, Debug)]
pub struct Cel {
    /// The view that it shows.
    pub view: View,
    /// Its placement in the window.
    pub placement: Placement,
    /// The pictures on it.
    pub quads: Vec<Quad>,
}

/// A picture on a canvas, drawn with the nearest pixel.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Quad {
    /// The number of the picture in its scene.
    pub picture: usize,
    /// The area that it fills.
    pub place: QuadArea,
}

/// The area that a picture fills.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum QuadArea {
    /// Whole pixels of the canvas.
    Canvas {
        /// The pixels.
        rect: CanvasRect,
        /// Whether the picture is mirrored.
        mirrored: bool,
    },
    /// A rectangle of the world, in a view that is rotated.
    World(Rect),
}

impl Quad {
    /// Returns whether any of it is on the canvas of a view, or within a pixel of it.
    #[must_use]
    pub fn is_seen(&self, view: &View) -> bool {
        match self.place {
            QuadArea::Canvas { rect, .. } => {
                let far = view.canvas_size().as_vec2() + 1.0;
                rect.max.cmpgt(Vec2::splat(-1.0)).all() && rect.min.cmplt(far).all()
            }
            QuadArea::World(rect) => view.sees(&rect),
        }
    }
}

impl Cel {
    /// Creates a cel at the view's own placement.
    #[must_use]
    pub fn new(view: View, quads: Vec<Quad>) -> Self {
        Self { view, placement: view.placement(), quads }
    }

    /// Draws it over the picture of the window.
    pub fn paint(&self, pictures: &[Picture], window: &mut Picture) {
        let mut canvas = Picture::new(self.view.canvas_size(), CLEAR);
        paint(&mut canvas, pictures, &self.view, &self.quads);
        present_over(canvas.pixels(), window.pixels_mut(), &self.placement, Blending::Encoded);
    }
}

/// Draws pictures on a canvas.
pub fn paint(canvas: &mut Picture, pictures: &[Picture], view: &View, quads: &[Quad]) {
    for quad in quads {
        let picture = &pictures[quad.picture];
        match quad.place {
            QuadArea::Canvas { rect, mirrored } => stretch(canvas, picture, &rect, mirrored),
            QuadArea::World(rect) => turn(canvas, picture, &rect, view),
        }
    }
}

/// Converts a position of the view to the same position on its canvas.
#[must_use]
pub fn slack(view: &View) -> Vec2 {
    if view.snap() == Snap::Off { Vec2::ZERO } else { view.residual() }
}

/// Draws a picture that fills a rectangle of the world. A pixel whose middle is in the rectangle shows the picture's
/// pixel there.
fn turn(canvas: &mut Picture, picture: &Picture, rect: &Rect, view: &View) {
    let slack = slack(view);
    let around = view.world_to_screen_rect(rect);
    let size = canvas.size().as_vec2();
    let first = (around.min + slack).floor().clamp(Vec2::ZERO, size).as_uvec2();
    let end = (around.max + slack).ceil().clamp(Vec2::ZERO, size).as_uvec2();
    let per_unit = picture.size().as_dvec2() / rect.size();
    for (x, y) in (first.y..end.y).flat_map(|y| (first.x..end.x).map(move |x| (x, y))) {
        let middle = UVec2::new(x, y).as_vec2() + 0.5;
        let world = view.screen_to_world(middle - slack);
        if !rect.contains(world) {
            continue;
        }
        let down = match view.lens().y_axis() {
            YAxis::Down => world.y - rect.min.y,
            YAxis::Up => rect.max.y - world.y,
        };
        let texel = (DVec2::new(world.x - rect.min.x, down) * per_unit).floor();
        let colour = picture.get(texel.x as i64, texel.y as i64);
        if colour[3] > 0 {
            canvas.set(i64::from(x), i64::from(y), colour);
        }
    }
}
