//! Draws charts as SVG, and renders them to pictures with smooth lines.

use std::sync::Arc;

use plotters::coord::Shift;
use plotters::prelude::*;
use resvg::tiny_skia::{Pixmap, Transform};
use resvg::usvg::{Options, Tree, fontdb::Database};
use velvet_pan::glam::UVec2;
use velvet_pan_takes::Fault;
use velvet_pan_terraces::picture::Picture;

use crate::charts::plot::failed;

/// Drawing units per pixel of the picture. Charts are laid out in whole units, which would make curves look like
/// stairs at one unit per pixel.
pub const FINE: u32 = 4;

/// Converts pixels to drawing units.
pub const fn px(pixels: u32) -> u32 {
    pixels * FINE
}

/// Draws a chart of this size in pixels as SVG.
pub fn draw(
    size: UVec2,
    draw: impl FnOnce(&DrawingArea<SVGBackend<'_>, Shift>) -> Result<(), Fault>,
) -> Result<String, Fault> {
    let mut text = String::new();
    {
        let area = SVGBackend::with_string(&mut text, (size * FINE).into()).into_drawing_area();
        draw(&area)?;
        area.present().map_err(failed)?;
    }
    Ok(text)
}

/// Renders a drawing of this size.
pub fn picture(text: &str, size: UVec2) -> Result<Picture, Fault> {
    let mut fonts = Database::new();
    fonts.load_font_data(epaint_default_fonts::HACK_REGULAR.to_vec());
    let family = fonts.faces().find_map(|face| Some(face.families.first()?.0.clone()));
    fonts.set_sans_serif_family(family.unwrap_or_default());
    let options = Options { fontdb: Arc::new(fonts), ..Options::default() };
    let tree = Tree::from_str(text, &options).map_err(failed)?;
    let mut pixels = Pixmap::new(size.x, size.y).ok_or_else(|| failed("no room for it"))?;
    let fine = 1.0 / FINE as f32;
    resvg::render(&tree, Transform::from_scale(fine, fine), &mut pixels.as_mut());
    let colors: Vec<u8> =
        pixels.pixels().iter().flat_map(|one| [one.red(), one.green(), one.blue()]).collect();
    Ok(Picture::from_rgb(size, &colors))
}
