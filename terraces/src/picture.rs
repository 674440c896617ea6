//! A picture in memory, and the PNG file it becomes.

use std::io::Write;

use velvet_pan::glam::{UVec2, Vec2};
use velvet_pan::{Canvas, CanvasMut};
use velvet_pan_takes::Fault;

/// A colour: red, green, blue, opacity.
pub type Colour = [u8; 4];

/// Nothing at all.
pub const CLEAR: Colour = [0, 0, 0, 0];

/// A picture in RGBA, premultiplied, rows from the top.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Picture {
    size: UVec2,
    data: Vec<Colour>,
}

impl Picture {
    /// A picture of one colour.
    pub fn new(size: UVec2, colour: Colour) -> Self {
        Self { size, data: vec![colour; size.x as usize * size.y as usize] }
    }

    /// A picture whose every pixel is asked for.
    pub fn from_fn(size: UVec2, mut colour: impl FnMut(u32, u32) -> Colour) -> Self {
        let data = (0..size.y).flat_map(|y| (0..size.x).map(move |x| (x, y)));
        Self { size, data: data.map(|(x, y)| colour(x, y)).collect() }
    }

    /// A picture of bytes in threes, red, green and blue, row by row; what is missing is clear.
    pub fn from_rgb(size: UVec2, bytes: &[u8]) -> Self {
        let pixel = |index: usize| match bytes.get(index * 3..index * 3 + 3) {
            Some(&[red, green, blue]) => [red, green, blue, 255],
            _ => CLEAR,
        };
        Self { size, data: (0..size.x as usize * size.y as usize).map(pixel).collect() }
    }

    /// Width and height in pixels.
    pub fn size(&self) -> UVec2 {
        self.size
    }

    /// For reading by the library.
    pub fn pixels(&self) -> Canvas<'_> {
        Canvas::new(self.size, &self.data)
    }

    /// For writing by the library.
    pub fn pixels_mut(&mut self) -> CanvasMut<'_> {
        CanvasMut::new(self.size, &mut self.data)
    }

    /// The colour at a pixel; clear outside.
    pub fn get(&self, x: i64, y: i64) -> Colour {
        self.index(x, y).map_or(CLEAR, |index| self.data[index])
    }

    /// Sets a pixel; outside the picture nothing happens.
    pub fn set(&mut self, x: i64, y: i64, colour: Colour) {
        if let Some(index) = self.index(x, y) {
            self.data[index] = colour;
        }
    }

    /// Lays a colour over a pixel with an opacity from 0 to 1.
    pub fn tint(&mut self, x: i64, y: i64, colour: Colour, opacity: f32) {
        let Some(index) = self.index(x, y) else { return };
        let below = self.data[index];
        self.data[index] = std::array::from_fn(|channel| {
            let (from, to) = (f32::from(below[channel]), f32::from(colour[channel]));
            (from + (to - from) * opacity.clamp(0.0, 1.0)).round() as u8
        });
    }

    /// Draws a straight line `width` pixels wide, in dashes of `dash` pixels if that is above 0.
    pub fn line(&mut self, from: Vec2, to: Vec2, width: f32, dash: f32, colour: Colour) {
        // Only the part near the picture: marks of the world may be far away.
        let far = self.size.as_vec2().max_element() * 4.0;
        let limit = |point: Vec2| point.clamp(Vec2::splat(-far), Vec2::splat(far));
        let (from, to) = (limit(from), limit(to));
        let length = (to - from).length().max(1e-3);
        let along = (to - from) / length;
        for step in 0..=(length * 2.0) as u32 {
            let at = step as f32 / 2.0;
            if dash > 0.0 && (at / dash) as u32 % 2 == 1 {
                continue;
            }
            let corner = (from + along * at - width / 2.0).round();
            let side = width.max(1.0) as i64;
            self.fill((corner.x as i64, corner.y as i64), (side, side), colour);
        }
    }

    /// Fills a rectangle, as far as it lies within the picture.
    pub fn fill(&mut self, corner: (i64, i64), size: (i64, i64), colour: Colour) {
        for y in corner.1..corner.1 + size.1 {
            for x in corner.0..corner.0 + size.0 {
                self.set(x, y, colour);
            }
        }
    }

    /// Its top left part of at most this size.
    pub fn cropped(&self, size: UVec2) -> Self {
        let size = size.min(self.size);
        Self::from_fn(size, |x, y| self.get(i64::from(x), i64::from(y)))
    }

    /// Lays `other` on this one with its top left corner at `corner`; clear pixels leave what is
    /// there.
    pub fn lay(&mut self, other: &Self, corner: (i64, i64), mirrored: bool) {
        // Only what falls on this picture.
        let within = |corner: i64, size: u32, here: u32| {
            (-corner).max(0)..i64::from(size).min(i64::from(here) - corner)
        };
        for y in within(corner.1, other.size.y, self.size.y) {
            for x in within(corner.0, other.size.x, self.size.x) {
                let from = if mirrored { i64::from(other.size.x) - 1 - x } else { x };
                let colour = other.get(from, y);
                if colour[3] > 0 {
                    self.set(corner.0 + x, corner.1 + y, colour);
                }
            }
        }
    }

    fn index(&self, x: i64, y: i64) -> Option<usize> {
        let inside =
            (0..i64::from(self.size.x)).contains(&x) && (0..i64::from(self.size.y)).contains(&y);
        inside.then(|| y as usize * self.size.x as usize + x as usize)
    }

    /// Writes the picture as PNG.
    pub fn write_png(&self, out: &mut dyn Write) -> Result<(), Fault> {
        let encoder = encoder(out, self.size);
        let mut writer = encoder.write_header().map_err(|error| not_drawn(&error))?;
        writer.write_image_data(&self.opaque()).map_err(|error| not_drawn(&error))?;
        writer.finish().map_err(|error| not_drawn(&error))
    }

    /// Its colours without opacity.
    fn opaque(&self) -> Vec<u8> {
        self.data.iter().flat_map(|pixel| [pixel[0], pixel[1], pixel[2]]).collect()
    }
}

/// Writes pictures of one size as an animated PNG that repeats for ever.
pub fn write_apng(
    out: &mut dyn Write,
    size: UVec2,
    count: u32,
    fps: f64,
    pictures: impl Iterator<Item = Picture>,
) -> Result<(), Fault> {
    let mut encoder = encoder(out, size);
    encoder.set_animated(count, 0).map_err(|error| not_drawn(&error))?;
    let delay = (1000.0 / fps).round().clamp(1.0, 60_000.0) as u16;
    encoder.set_frame_delay(delay, 1000).map_err(|error| not_drawn(&error))?;
    let mut writer = encoder.write_header().map_err(|error| not_drawn(&error))?;
    for picture in pictures {
        writer.write_image_data(&picture.opaque()).map_err(|error| not_drawn(&error))?;
    }
    writer.finish().map_err(|error| not_drawn(&error))
}

fn encoder(out: &mut dyn Write, size: UVec2) -> png::Encoder<'static, &mut dyn Write> {
    let mut encoder = png::Encoder::new(out, size.x, size.y);
    encoder.set_color(png::ColorType::Rgb);
    encoder.set_depth(png::BitDepth::Eight);
    encoder
}

fn not_drawn(error: &png::EncodingError) -> Fault {
    Fault::new(format!("picture not written: {error}"))
}
