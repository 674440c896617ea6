//! A picture in memory, which can be written as a PNG file.

use std::io::Write;

use velvet_pan::glam::{UVec2, Vec2};
use velvet_pan::{Canvas, CanvasMut};
use velvet_pan_takes::Fault;

/// A colour: red, green, blue, opacity.
pub type Colour = [u8; 4];

/// A transparent pixel.
pub const CLEAR: Colour = [0, 0, 0, 0];

/// A picture in premultiplied RGBA, rows from the top.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Picture {
    size: UVec2,
    data: Vec<Colour>,
}

impl Picture {
    /// Creates a picture of one colour.
    pub fn new(size: UVec2, colour: Colour) -> Self {
        Self { size, data: vec![colour; size.x as usize * size.y as usize] }
    }

    /// Creates a picture from a function of each pixel's position.
    pub fn from_fn(size: UVec2, mut colour: impl FnMut(u32, u32) -> Colour) -> Self {
        let data = (0..size.y).flat_map(|y| (0..size.x).map(move |x| (x, y)));
        Self { size, data: data.map(|(x, y)| colour(x, y)).collect() }
    }

    /// Creates a picture from triples of bytes, red, green and blue, row by row. Missing pixels are transparent.
    pub fn from_rgb(size: UVec2, bytes: &[u8]) -> Self {
        let pixel = |index: usize| match bytes.get(index * 3..index * 3 + 3) {
            Some(&[red, green, blue]) => [red, green, blue, 255],
            _ => CLEAR,
        };
        Self { size, data: (0..size.x as usize * size.y as usize).map(pixel).collect() }
    }

    /// Returns width and height in pixels.
    pub fn size(&self) -> UVec2 {
        self.size
    }

    /// Returns the pixels as a canvas that the library reads.
    pub fn pixels(&self) -> Canvas<'_> {
        Canvas::new(self.size, &self.data)
    }

    /// Returns the pixels as a canvas that the library writes.
    pub fn pixels_mut(&mut self) -> CanvasMut<'_> {
        CanvasMut::new(self.size, &mut self.data)
    }

    /// Returns the colour of a pixel, transparent outside.
    pub fn get(&self, x: i64, y: i64) -> Colour {
        self.index(x, y).map_or(CLEAR, |index| self.data[index])
    }

    /// Sets a pixel; does nothing outside the picture.
    pub fn set(&mut self, x: i64, y: i64, colour: Colour) {
        if let Some(index) = self.index(x, y) {
            self.data[index] = colour;
        }
    }

    /// Blends a colour over a pixel, with an opacity from 0 to 1.
    pub fn tint(&mut self, x: i64, y: i64, colour: Colour, opacity: f32) {
        let Some(index) = self.index(x, y) else { return };
        let below = self.data[index];
        self.data[index] = std::array::from_fn(|channel| {
            let (from, to) = (f32::from(below[channel]), f32::from(colour[channel]));
            (from + (to - from) * opacity.clamp(0.0, 1.0)).round() as u8
        });
    }

    /// Draws a straight line `width` pixels wide, with dashes of `dash` pixels if that is above 0.
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

    /// Fills the part of a rectangle that is within the picture.
    pub fn fill(&mut self, corner: (i64, i64), size: (i64, i64), colour: Colour) {
        let within = |first: i64, length: i64, size: u32| {
            let end = first.saturating_add(length).clamp(0, i64::from(size)) as usize;
            (first.clamp(0, i64::from(size)) as usize).min(end)..end
        };
        let columns = within(corner.0, size.0, self.size.x);
        for y in within(corner.1, size.1, self.size.y) {
            self.row_mut(y)[columns.clone()].fill(colour);
        }
    }

    /// Returns a row of pixels.
    fn row(&self, y: usize) -> &[Colour] {
        let width = self.size.x as usize;
        &self.data[y * width..(y + 1) * width]
    }

    fn row_mut(&mut self, y: usize) -> &mut [Colour] {
        let width = self.size.x as usize;
        &mut self.data[y * width..(y + 1) * width]
    }

    /// Returns the part from `corner` on, at most of this size.
    pub fn part(&self, corner: UVec2, size: UVec2) -> Self {
        let size = size.min(self.size.saturating_sub(corner));
        let columns = corner.x as usize..(corner.x + size.x) as usize;
        let rows = (0..size.y as usize).map(|y| &self.row(corner.y as usize + y)[columns.clone()]);
        Self { size, data: rows.collect::<Vec<_>>().concat() }
    }

    /// Replaces a part of this picture, from `corner` on, by the top left part of `other`, at most of this size.
    pub fn put(&mut self, other: &Self, corner: UVec2, size: UVec2) {
        let size = size.min(other.size).min(self.size.saturating_sub(corner));
        let columns = corner.x as usize..(corner.x + size.x) as usize;
        for y in 0..size.y as usize {
            let to = &mut self.row_mut(corner.y as usize + y)[columns.clone()];
            to.copy_from_slice(&other.row(y)[..columns.len()]);
        }
    }

    /// Draws `other` over this picture with its top left corner at `corner`. Transparent pixels change nothing.
    pub fn lay(&mut self, other: &Self, corner: (i64, i64), mirrored: bool) {
        // Only what falls on this picture.
        let within = |corner: i64, size: u32, here: u32| {
            (-corner).max(0)..i64::from(size).min(i64::from(here) - corner)
        };
        let columns = within(corner.0, other.size.x, self.size.x);
        if columns.is_empty() {
            return;
        }
        for y in within(corner.1, other.size.y, self.size.y) {
            let from = other.row(y as usize);
            let to = self.row_mut((corner.1 + y) as usize);
            let opaque = !mirrored && from.iter().all(|colour| colour[3] > 0);
            if opaque {
                let part = columns.start as usize..columns.end as usize;
                let start = (corner.0 + columns.start) as usize;
                to[start..start + part.len()].copy_from_slice(&from[part]);
                continue;
            }
            for x in columns.clone() {
                let at = if mirrored { i64::from(other.size.x) - 1 - x } else { x };
                let colour = from[at as usize];
                if colour[3] > 0 {
                    to[(corner.0 + x) as usize] = colour;
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
        let mut data = Vec::new();
        self.write_opaque(UVec2::ZERO, self.size, &mut data);
        writer.write_image_data(&data).map_err(|error| not_drawn(&error))?;
        writer.finish().map_err(|error| not_drawn(&error))
    }

    /// Writes the picture as PNG with its opacity, which is full or none.
    pub fn write_sprite(&self, out: &mut dyn Write) -> Result<(), Fault> {
        let mut encoder = encoder(out, self.size);
        encoder.set_color(png::ColorType::Rgba);
        let mut writer = encoder.write_header().map_err(|error| not_drawn(&error))?;
        writer.write_image_data(self.data.as_flattened()).map_err(|error| not_drawn(&error))?;
        writer.finish().map_err(|error| not_drawn(&error))
    }

    /// Writes the colours of a part, without opacity.
    fn write_opaque(&self, corner: UVec2, size: UVec2, bytes: &mut Vec<u8>) {
        let [left, top, width, height] =
            [corner.x, corner.y, size.x, size.y].map(|length| length as usize);
        bytes.resize(width * height * 3, 0);
        let rows = bytes.chunks_exact_mut((width * 3).max(1));
        for (to, y) in rows.zip(top..) {
            let from = &self.row(y)[left..left + width];
            for (to, pixel) in to.as_chunks_mut::<3>().0.iter_mut().zip(from) {
                *to = [pixel[0], pixel[1], pixel[2]];
            }
        }
    }

    /// Returns the rows that differ from another picture of the same size, from the first one to the last, as their
    /// corner and their size. Returns one pixel if the pictures are equal.
    fn difference(&self, other: &Self) -> (UVec2, UVec2) {
        let differs = |y: &u32| self.row(*y as usize) != other.row(*y as usize);
        let Some(top) = (0..self.size.y).find(differs) else { return (UVec2::ZERO, UVec2::ONE) };
        let bottom = (top..self.size.y).rev().find(differs).unwrap_or(top);
        (UVec2::new(0, top), UVec2::new(self.size.x, bottom + 1 - top))
    }
}

/// The form of an animation whose pictures have the same size.
#[derive(Clone, Copy, Debug)]
pub struct Animation {
    /// The number of pictures.
    pub count: u32,
    /// Pictures per second.
    pub fps: f64,
    /// Whether to take several times as long for a much smaller file.
    pub small: bool,
}

/// Writes pictures as an animated PNG that repeats forever. Only the rows that differ from the picture before are
/// written. `draw` draws the next one over an earlier one, or over `blank`.
pub fn write_apng(
    out: &mut dyn Write,
    animation: &Animation,
    blank: &Picture,
    mut draw: impl FnMut(&mut Picture),
) -> Result<(), Fault> {
    let Animation { count, fps, small } = *animation;
    let mut encoder = encoder(out, blank.size);
    if small {
        encoder.set_compression(png::Compression::High);
    } else {
        // Rows of enlarged pixels are equal to those above.
        encoder.set_deflate_compression(png::DeflateCompression::Level(2));
        encoder.set_filter(png::Filter::Up);
    }
    encoder.set_animated(count, 0).map_err(|error| not_drawn(&error))?;
    let (numerator, denominator) = delay(fps);
    encoder.set_frame_delay(numerator, denominator).map_err(|error| not_drawn(&error))?;
    let mut writer = encoder.write_header().map_err(|error| not_drawn(&error))?;
    let (mut last, mut picture, mut bytes) = (blank.clone(), blank.clone(), Vec::new());
    for number in 0..count {
        draw(&mut picture);
        let whole = (UVec2::ZERO, picture.size);
        let (corner, size) = if number == 0 { whole } else { picture.difference(&last) };
        picture.write_opaque(corner, size, &mut bytes);
        let written = writer
            .set_frame_position(0, 0)
            .and_then(|()| writer.set_frame_dimension(size.x, size.y))
            .and_then(|()| writer.set_frame_position(corner.x, corner.y))
            .and_then(|()| writer.write_image_data(&bytes));
        written.map_err(|error| not_drawn(&error))?;
        std::mem::swap(&mut last, &mut picture);
    }
    writer.finish().map_err(|error| not_drawn(&error))
}

/// Returns the time between two frames as a fraction of a second.
fn delay(fps: f64) -> (u16, u16) {
    let most = f64::from(u16::MAX);
    if fps < 1.0 {
        return ((1000.0 / fps).round().min(most) as u16, 1000);
    }
    let numerator = (most / fps).floor().clamp(1.0, 1000.0);
    (numerator as u16, (numerator * fps).round().min(most) as u16)
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
