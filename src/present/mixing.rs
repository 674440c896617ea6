//! How colours come together: blended along an art edge, or laid over what is there.

/// How two colours are blended where an art edge crosses a window pixel.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Blending {
    /// As the numbers stand, in encoded sRGB: as the art was drawn.
    #[default]
    Encoded,
    /// As light adds up.
    Linear,
}

/// How a colour comes upon a pixel.
pub(crate) trait Put {
    fn pixel(&self, pixel: &mut [u8; 4], colour: [u8; 4]);

    /// Puts a colour on the pixels from `start` to `end`; those after `end` are drawn next, and may
    /// be spoilt.
    fn run(&self, row: &mut [[u8; 4]], start: usize, end: usize, colour: [u8; 4]);
}

pub(crate) struct Opaque;

impl Put for Opaque {
    #[inline]
    fn pixel(&self, pixel: &mut [u8; 4], colour: [u8; 4]) {
        *pixel = colour;
    }

    /// Runs are short: a block of fixed length is written and what it covers too much is drawn
    /// next anyway.
    #[inline]
    fn run(&self, row: &mut [[u8; 4]], start: usize, end: usize, colour: [u8; 4]) {
        const BLOCK: usize = 16;
        match row.get_mut(start..start + BLOCK) {
            Some(block) if end - start <= BLOCK => block.copy_from_slice(&[colour; BLOCK]),
            _ => row[start..end].fill(colour),
        }
    }
}

pub(crate) struct Over;

impl Put for Over {
    #[inline]
    fn pixel(&self, pixel: &mut [u8; 4], colour: [u8; 4]) {
        *pixel = over(*pixel, colour);
    }

    #[inline]
    fn run(&self, row: &mut [[u8; 4]], start: usize, end: usize, colour: [u8; 4]) {
        for pixel in &mut row[start..end] {
            *pixel = over(*pixel, colour);
        }
    }
}

/// A premultiplied colour over another.
fn over(below: [u8; 4], above: [u8; 4]) -> [u8; 4] {
    match above[3] {
        255 => above,
        0 => below,
        opacity => core::array::from_fn(|channel| {
            let shows = u16::from(below[channel]) * u16::from(255 - opacity) + 127;
            above[channel].saturating_add((shows / 255) as u8)
        }),
    }
}

/// Blends colours, in encoded or in linear light.
pub(crate) struct Mixer {
    /// Linear light of each encoded value, where it is asked for.
    light: Option<[f32; 256]>,
}

impl Mixer {
    pub fn new(blending: Blending) -> Self {
        let light = |encoded: usize| {
            // IEC 61966-2-1.
            let value = encoded as f32 / 255.0;
            if value <= 0.040_45 { value / 12.92 } else { libm::powf((value + 0.055) / 1.055, 2.4) }
        };
        Self { light: (blending == Blending::Linear).then(|| core::array::from_fn(light)) }
    }

    /// The colour a fraction of the way from one to another.
    #[inline]
    pub fn mix(&self, from: [u8; 4], to: [u8; 4], fraction: f32) -> [u8; 4] {
        let Some(light) = &self.light else {
            return mix_encoded(from, to, (fraction * 256.0 + 0.5) as u32);
        };
        core::array::from_fn(|channel| {
            let (from, to) = (usize::from(from[channel]), usize::from(to[channel]));
            match channel {
                3 => (from as f32 + (to as f32 - from as f32) * fraction + 0.5) as u8,
                _ => encoded(light, light[from] + (light[to] - light[from]) * fraction),
            }
        })
    }

    /// Blends two rows into a third.
    pub fn mix_all(&self, row: &mut [[u8; 4]], from: &[[u8; 4]], to: &[[u8; 4]], fraction: f32) {
        let pairs = row.iter_mut().zip(from.iter().zip(to));
        if self.light.is_none() {
            let fraction = (fraction * 256.0 + 0.5) as u32;
            pairs.for_each(|(pixel, (from, to))| *pixel = mix_encoded(*from, *to, fraction));
        } else {
            pairs.for_each(|(pixel, (from, to))| *pixel = self.mix(*from, *to, fraction));
        }
    }

    /// The sum of colours by their shares.
    pub fn sum(&self, parts: impl Iterator<Item = ([u8; 4], f32)>) -> [u8; 4] {
        let value = |channel: usize, number: u8| match &self.light {
            Some(light) if channel < 3 => light[usize::from(number)],
            _ => f32::from(number),
        };
        let sums = parts.fold([0.0; 4], |sums: [f32; 4], (colour, share)| {
            core::array::from_fn(|channel| sums[channel] + value(channel, colour[channel]) * share)
        });
        core::array::from_fn(|channel| match &self.light {
            Some(light) if channel < 3 => encoded(light, sums[channel]),
            _ => (sums[channel] + 0.5) as u8,
        })
    }
}

/// A blend in 256ths, two channels at a time: each has 16 bits to itself.
#[inline]
fn mix_encoded(from: [u8; 4], to: [u8; 4], fraction: u32) -> [u8; 4] {
    const PAIR: u32 = 0x00ff_00ff;
    const HALF: u32 = 0x0080_0080;
    let (from, to) = (u32::from_le_bytes(from), u32::from_le_bytes(to));
    let pair = |from: u32, to: u32| {
        ((from & PAIR) * (256 - fraction) + (to & PAIR) * fraction + HALF) >> 8 & PAIR
    };
    (pair(from, to) | pair(from >> 8, to >> 8) << 8).to_le_bytes()
}

/// The encoded value whose light is nearest.
fn encoded(light: &[f32; 256], value: f32) -> u8 {
    let above = light.partition_point(|known| *known < value).min(255);
    let below = above.saturating_sub(1);
    let nearer_below = value - light[below] < light[above] - value;
    (if nearer_below { below } else { above }) as u8
}
