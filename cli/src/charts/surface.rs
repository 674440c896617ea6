//! What charts are drawn on: the pixels of a picture, or the text of an SVG file.

use std::io;

use plotters::coord::Shift;
use plotters::prelude::*;
use plotters_backend::text_anchor::{HPos, VPos};
use plotters_backend::{
    BackendColor, BackendCoord, BackendStyle, BackendTextStyle, DrawingErrorKind, FontTransform,
};
use velvet_pan::glam::{UVec2, Vec2};
use velvet_pan_takes::Fault;
use velvet_pan_terraces::art::text;
use velvet_pan_terraces::picture::{CLEAR, Picture};
use zeno::{Command, Join, Mask, Stroke, Style};

/// Drawing units per pixel of the picture. Charts are laid out in whole units, which would make curves look like
/// stairs at one unit per pixel.
pub const FINE: u32 = 4;

/// Converts pixels to drawing units.
pub const fn px(pixels: u32) -> u32 {
    pixels * FINE
}

/// Both draw the same chart, because text is measured with one font.
pub enum Surface<'a> {
    /// The pixels of a picture.
    Pixels(&'a mut Picture),
    /// The text of an SVG file.
    Svg(SVGBackend<'a>),
}

/// The area of a chart.
pub type Area<'a> = DrawingArea<Surface<'a>, Shift>;

/// Draws a chart of this size as pixels.
pub fn picture(
    size: UVec2,
    draw: impl FnOnce(&Area<'_>) -> Result<(), Fault>,
) -> Result<Picture, Fault> {
    let mut picture = Picture::new(size, CLEAR);
    finished(Surface::Pixels(&mut picture), draw)?;
    Ok(picture)
}

/// Draws a chart of this size in pixels as SVG.
pub fn svg(
    size: UVec2,
    draw: impl FnOnce(&Area<'_>) -> Result<(), Fault>,
) -> Result<String, Fault> {
    let mut text = String::new();
    finished(Surface::Svg(SVGBackend::with_string(&mut text, (size * FINE).into())), draw)?;
    Ok(text)
}

fn finished<'a>(
    surface: Surface<'a>,
    draw: impl FnOnce(&Area<'a>) -> Result<(), Fault>,
) -> Result<(), Fault> {
    let area = surface.into_drawing_area();
    draw(&area)?;
    area.present().map_err(failed)
}

type Drawn = Result<(), DrawingErrorKind<io::Error>>;

impl DrawingBackend for Surface<'_> {
    type ErrorType = io::Error;

    fn get_size(&self) -> (u32, u32) {
        match self {
            Self::Pixels(picture) => (picture.size() * FINE).into(),
            Self::Svg(svg) => svg.get_size(),
        }
    }

    fn ensure_prepared(&mut self) -> Drawn {
        Ok(())
    }

    fn present(&mut self) -> Drawn {
        match self {
            Self::Pixels(_) => Ok(()),
            Self::Svg(svg) => svg.present(),
        }
    }

    fn draw_pixel(&mut self, at: BackendCoord, color: BackendColor) -> Drawn {
        self.draw_rect(at, (at.0 + 1, at.1 + 1), &color, true)
    }

    fn draw_line<S: BackendStyle>(
        &mut self,
        from: BackendCoord,
        to: BackendCoord,
        style: &S,
    ) -> Drawn {
        self.draw_path([from, to], style)
    }

    fn draw_rect<S: BackendStyle>(
        &mut self,
        from: BackendCoord,
        to: BackendCoord,
        style: &S,
        fill: bool,
    ) -> Drawn {
        match self {
            Self::Pixels(picture) => {
                let corners = [from, (to.0, from.1), to, (from.0, to.1)];
                let width = (!fill).then(|| style.stroke_width());
                draw_shape(picture, corners, true, width, style.color());
                Ok(())
            }
            Self::Svg(svg) => svg.draw_rect(from, to, style, fill),
        }
    }

    fn draw_path<S: BackendStyle, I: IntoIterator<Item = BackendCoord>>(
        &mut self,
        points: I,
        style: &S,
    ) -> Drawn {
        match self {
            Self::Pixels(picture) => {
                draw_shape(picture, points, false, Some(style.stroke_width()), style.color());
                Ok(())
            }
            Self::Svg(svg) => svg.draw_path(points, style),
        }
    }

    fn fill_polygon<S: BackendStyle, I: IntoIterator<Item = BackendCoord>>(
        &mut self,
        points: I,
        style: &S,
    ) -> Drawn {
        match self {
            Self::Pixels(picture) => {
                draw_shape(picture, points, true, None, style.color());
                Ok(())
            }
            Self::Svg(svg) => svg.fill_polygon(points, style),
        }
    }

    fn draw_text<S: BackendTextStyle>(&mut self, text: &str, style: &S, at: BackendCoord) -> Drawn {
        match self {
            Self::Pixels(picture) => {
                draw_text(picture, text, style, at);
                Ok(())
            }
            Self::Svg(svg) => svg.draw_text(text, style, at),
        }
    }

    fn estimate_text_size<S: BackendTextStyle>(
        &self,
        text: &str,
        style: &S,
    ) -> Result<(u32, u32), DrawingErrorKind<io::Error>> {
        let height = line_height(style);
        Ok((text::width(text, height).round() as u32, height.round() as u32))
    }
}

/// Fills a shape, or draws its outline with this width.
fn draw_shape(
    picture: &mut Picture,
    points: impl IntoIterator<Item = BackendCoord>,
    closed: bool,
    width: Option<u32>,
    color: BackendColor,
) {
    let far = picture.size().as_vec2() * 2.0;
    let mut path: Vec<Command> = Vec::new();
    for (x, y) in points {
        // A mask is as large as its path.
        let at = (Vec2::new(x as f32, y as f32) / FINE as f32).clamp(-far, far).to_array();
        path.push(if path.is_empty() {
            Command::MoveTo(at.into())
        } else {
            Command::LineTo(at.into())
        });
    }
    if closed {
        path.push(Command::Close);
    }
    let mut stroke = Stroke::new(width.unwrap_or(1) as f32 / FINE as f32);
    stroke.join(Join::Round);
    let style = if width.is_some() { Style::from(&stroke) } else { Style::default() };
    let (mask, place) = Mask::new(&path).style(style).render();
    let rows = mask.chunks_exact((place.width as usize).max(1));
    for (row, y) in rows.zip(i64::from(place.top)..) {
        for (coverage, x) in row.iter().zip(i64::from(place.left)..) {
            blend(picture, (x, y), f32::from(*coverage) / 255.0, color);
        }
    }
}

fn blend(picture: &mut Picture, at: (i64, i64), coverage: f32, color: BackendColor) {
    let (red, green, blue) = color.rgb;
    if coverage > 0.0 {
        picture.tint(at.0, at.1, [red, green, blue, 255], coverage * color.alpha as f32);
    }
}

/// Returns the height of a line of text in drawing units. The size of a style is 1.24 times the font's em, and a line
/// of the font 1.164 times.
fn line_height(style: &impl BackendTextStyle) -> f32 {
    (style.size() * 1.164 / 1.24) as f32
}

fn draw_text(picture: &mut Picture, text: &str, style: &impl BackendTextStyle, at: BackendCoord) {
    let (height, anchor, transform) =
        (line_height(style) / FINE as f32, style.anchor(), style.transform());
    let back = match transform {
        FontTransform::Rotate90 => FontTransform::Rotate270,
        FontTransform::Rotate270 => FontTransform::Rotate90,
        ref same => same.clone(),
    };
    let em = height / 1.164;
    let start = Vec2::new(
        match anchor.h_pos {
            HPos::Left => 0.0,
            HPos::Center => -0.5,
            HPos::Right => -1.0,
        } * text::width(text, height),
        // From the anchor to the baseline; a small letter is 0.55 em high.
        match anchor.v_pos {
            VPos::Top => 0.76 * em,
            VPos::Center => 0.27 * em,
            VPos::Bottom => -0.27 * em,
        },
    );
    let origin = turned(Vec2::new(at.0 as f32, at.1 as f32) / FINE as f32, &back);
    text::rasterize(text, origin + start, height, |x, y, coverage| {
        let middle = turned(Vec2::new(x as f32 + 0.5, y as f32 + 0.5), &transform).floor();
        blend(picture, (middle.x as i64, middle.y as i64), coverage, style.color());
    });
}

fn turned(at: Vec2, transform: &FontTransform) -> Vec2 {
    match transform {
        FontTransform::None => at,
        FontTransform::Rotate90 => at.perp(),
        FontTransform::Rotate180 => -at,
        FontTransform::Rotate270 => -at.perp(),
    }
}

/// Returns the fault for a plot that could not be drawn.
pub fn failed(error: impl std::fmt::Display) -> Fault {
    Fault::new(format!("plot not drawn: {error}"))
}
