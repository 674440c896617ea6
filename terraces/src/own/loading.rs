//! PNG files of the user.

use std::fs::File;
use std::io::BufReader;
use std::path::Path;

use velvet_pan::glam::UVec2;
use velvet_pan_takes::{Fault, PictureFile, reason};

use crate::picture::{Colour, Picture};

/// The longest side of a picture, and the pixels of all pictures together, which every graphics card can hold.
const MAX_SIDE: u32 = 8192;
const MAX_PIXELS: u64 = 48_000_000;

/// The pixels that may still be read.
pub struct Budget(u64);

impl Default for Budget {
    fn default() -> Self {
        Self(MAX_PIXELS)
    }
}

impl Budget {
    /// Reads a picture.
    pub fn read(&mut self, file: &PictureFile) -> Result<Picture, Fault> {
        let picture = read_within(&file.path, self.0).map_err(|what| file.fault(&what))?;
        self.0 -= pixels(picture.size());
        Ok(picture)
    }
}

/// Reads a PNG file, or returns what is wrong with it.
///
/// # Errors
///
/// The file can't be read, or is not a PNG picture.
pub fn read_png(path: &Path) -> Result<Picture, String> {
    read_within(path, MAX_PIXELS)
}

fn pixels(size: UVec2) -> u64 {
    u64::from(size.x) * u64::from(size.y)
}

/// Reads a file of at most `most` pixels.
fn read_within(path: &Path, most: u64) -> Result<Picture, String> {
    let (mut decoder, size) = opened(path)?;
    if size.max_element() > MAX_SIDE || pixels(size) > most {
        return Err(too_large(size));
    }
    decoder.set_transformations(png::Transformations::normalize_to_color8());
    let mut reader = decoder.read_info().map_err(|error| words(&error))?;
    let mut bytes = vec![0; reader.output_buffer_size().unwrap_or(0)];
    let info = reader.next_frame(&mut bytes).map_err(|error| words(&error))?;
    let channels = info.color_type.samples();
    let colour = |x: u32, y: u32| {
        let start = y as usize * info.line_size + x as usize * channels;
        colour(&bytes[start..start + channels])
    };
    Ok(Picture::from_fn(size, colour))
}

fn too_large(size: UVec2) -> String {
    let UVec2 { x, y } = size;
    format!(
        "{x} x {y} pixels: expected at most {MAX_SIDE} a side, and {MAX_PIXELS} in all pictures"
    )
}

/// Returns the size of a PNG file in pixels, or what is wrong with it.
///
/// # Errors
///
/// The file can't be read, or is not a PNG picture.
pub fn size_of_png(path: &Path) -> Result<UVec2, String> {
    opened(path).map(|(_, size)| size)
}

fn opened(path: &Path) -> Result<(png::Decoder<BufReader<File>>, UVec2), String> {
    let file = File::open(path).map_err(|error| reason(&error))?;
    let mut decoder = png::Decoder::new(BufReader::new(file));
    let header = decoder.read_header_info().map_err(|error| words(&error))?;
    let size = UVec2::new(header.width, header.height);
    Ok((decoder, size))
}

fn words(error: &png::DecodingError) -> String {
    match error {
        png::DecodingError::IoError(error) if error.kind() != std::io::ErrorKind::UnexpectedEof => {
            reason(error)
        }
        _ => "not a PNG picture, or a broken one".to_owned(),
    }
}

/// Returns the premultiplied colour of a pixel: grey or red, green and blue, with opacity or without.
fn colour(samples: &[u8]) -> Colour {
    let (rgb, opacity) = match *samples {
        [grey] => ([grey; 3], 255),
        [grey, opacity] => ([grey; 3], opacity),
        [red, green, blue] => ([red, green, blue], 255),
        [red, green, blue, opacity] => ([red, green, blue], opacity),
        _ => ([0; 3], 0),
    };
    let [red, green, blue] =
        rgb.map(|channel| ((u16::from(channel) * u16::from(opacity) + 127) / 255) as u8);
    [red, green, blue, opacity]
}

/// Cuts a picture into parts of this size, row by row, each with its corner. The last ones may be smaller.
pub fn cut(picture: &Picture, size: UVec2) -> impl Iterator<Item = (UVec2, Picture)> {
    let whole = picture.size();
    let corners = (0..whole.y)
        .step_by(size.y as usize)
        .flat_map(move |y| (0..whole.x).step_by(size.x as usize).map(move |x| UVec2::new(x, y)));
    corners.map(move |corner| (corner, picture.part(corner, size)))
}
