//! Mixing colours: blended along the edge of an art pixel, or drawn over the window.

use glam::Vec4;

/// How two colours are blended where an art edge crosses a window pixel.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Blending {
    /// In encoded sRGB, as most art is drawn.
    #[default]
    Encoded,
    /// In linear light, as a graphics card does it with an sRGB target. A premultiplied colour is then the encoded
    /// value of its light times its opacity.
    Linear,
}

/// A colour to be written to the window: that of one art pixel, or a blend that is not rounded yet.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Colour {
    Art([u8; 4]),
    /// The amounts of a [`Mixer`].
    Blend(Vec4),
}

impl Colour {
    pub const CLEAR: Self = Self::Art([0; 4]);
}

/// How a colour is written to a pixel.
pub(crate) trait Put {
    fn pixel(&self, mixer: &Mixer, pixel: &mut [u8; 4], colour: Colour);

    /// Writes a colour to the pixels from `start` to `end`. Those after `end` are drawn next and may be overwritten.
    fn run(&self, mixer: &Mixer, row: &mut [[u8; 4]], start: usize, end: usize, colour: Colour);
}

pub(crate) struct Opaque;

impl Put for Opaque {
    #[inline]
    fn pixel(&self, mixer: &Mixer, pixel: &mut [u8; 4], colour: Colour) {
        *pixel = mixer.rounded(colour);
    }

    /// Runs are short, so a block of fixed length is written. The surplus pixels are drawn next anyway.
    #[inline]
    fn run(&self, mixer: &Mixer, row: &mut [[u8; 4]], start: usize, end: usize, colour: Colour) {
        const BLOCK: usize = 16;
        let colour = mixer.rounded(colour);
        match row.get_mut(start..start + BLOCK) {
            Some(block) if end - start <= BLOCK => block.copy_from_slice(&[colour; BLOCK]),
            _ => row[start..end].fill(colour),
        }
    }
}

pub(crate) struct Over;

impl Put for Over {
    #[inline]
    fn pixel(&self, mixer: &Mixer, pixel: &mut [u8; 4], colour: Colour) {
        *pixel = mixer.over(*pixel, colour);
    }

    #[inline]
    fn run(&self, mixer: &Mixer, row: &mut [[u8; 4]], start: usize, end: usize, colour: Colour) {
        if matches!(colour, Colour::Art([_, _, _, 0])) {
            return;
        }
        let row = &mut row[start..end];
        match colour {
            Colour::Art(art @ [_, _, _, 255]) => row.fill(art),
            _ => row.iter_mut().for_each(|pixel| *pixel = mixer.over(*pixel, colour)),
        }
    }
}

/// Blends colours in encoded or in linear light. Rounds once, when a colour is written to a pixel.
pub(crate) struct Mixer {
    /// Tables for linear light; without them, encoded values are blended.
    light: Option<Light>,
}

/// The linear light of each encoded value, and the limits between two values, halfway between them in encoded form.
struct Light {
    of: [f32; 256],
    borders: [f32; 255],
}

/// Converts encoded sRGB to linear light (IEC 61966-2-1).
fn light(encoded: f32) -> f32 {
    let value = encoded / 255.0;
    if value <= 0.040_45 { value / 12.92 } else { libm::powf((value + 0.055) / 1.055, 2.4) }
}

impl Light {
    fn new() -> Self {
        Self {
            of: core::array::from_fn(|encoded| light(encoded as f32)),
            borders: core::array::from_fn(|encoded| light(encoded as f32 + 0.5)),
        }
    }
}

impl Mixer {
    pub fn new(blending: Blending) -> Self {
        Self { light: (blending == Blending::Linear).then(Light::new) }
    }

    /// Returns whether encoded values are blended, and not light.
    pub fn is_encoded(&self) -> bool {
        self.light.is_none()
    }

    /// Returns the amount of each channel: light, or the encoded value. Opacity is always the value itself.
    #[inline]
    fn amounts(&self, colour: Colour) -> Vec4 {
        match (colour, &self.light) {
            (Colour::Blend(amounts), _) => amounts,
            (Colour::Art(art), None) => {
                let [a, b, c, d] = art.map(f32::from);
                Vec4::new(a, b, c, d)
            }
            (Colour::Art([red, green, blue, opacity]), Some(light)) => {
                let of = |encoded: u8| light.of[usize::from(encoded)];
                Vec4::new(of(red), of(green), of(blue), f32::from(opacity))
            }
        }
    }

    /// Returns the rounded colour of a pixel.
    #[inline]
    fn rounded(&self, colour: Colour) -> [u8; 4] {
        match (colour, &self.light) {
            (Colour::Art(art), _) => art,
            (Colour::Blend(amounts), None) => (amounts + 0.5).to_array().map(|amount| amount as u8),
            (Colour::Blend(amounts), Some(light)) => {
                let encoded =
                    |amount: f32| light.borders.partition_point(|border| *border < amount) as u8;
                let [red, green, blue, opacity] = amounts.to_array();
                [encoded(red), encoded(green), encoded(blue), (opacity + 0.5) as u8]
            }
        }
    }

    /// Returns a premultiplied colour over another.
    fn over(&self, below: [u8; 4], above: Colour) -> [u8; 4] {
        match above {
            Colour::Art([_, _, _, 0]) => return below,
            Colour::Art(art @ [_, _, _, 255]) => return art,
            Colour::Art(art) if self.light.is_none() => return over_encoded(below, art),
            _ => {}
        }
        let (above, below) = (self.amounts(above), self.amounts(Colour::Art(below)));
        let shows = 1.0 - above.w / 255.0;
        let most =
            if self.light.is_some() { Vec4::new(1.0, 1.0, 1.0, 255.0) } else { Vec4::splat(255.0) };
        self.rounded(Colour::Blend((above + below * shows).min(most)))
    }

    /// Returns the colour a fraction of the way from one to another.
    #[inline]
    pub fn mix(&self, from: Colour, to: Colour, fraction: f32) -> Colour {
        if from == to {
            return from;
        }
        let (from, to) = (self.amounts(from), self.amounts(to));
        Colour::Blend(from + (to - from) * fraction)
    }

    /// Returns the sum of colours by their shares.
    pub fn sum(&self, parts: impl Iterator<Item = (Colour, f32)>) -> Colour {
        let sum = |sums, (colour, share)| sums + self.amounts(colour) * share;
        Colour::Blend(parts.fold(Vec4::ZERO, sum))
    }
}

/// Returns a premultiplied colour over another, in whole numbers.
fn over_encoded(below: [u8; 4], above: [u8; 4]) -> [u8; 4] {
    core::array::from_fn(|channel| {
        let shows = u16::from(below[channel]) * u16::from(255 - above[3]) + 127;
        above[channel].saturating_add((shows / 255) as u8)
    })
}
