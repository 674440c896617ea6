//! Putting a finished canvas into a window's pixels, on the CPU.
//!
//! Where the scale is whole, the nearest pixel is taken. Otherwise each window pixel shows the part
//! of the canvas that it covers: one that lies within an art pixel has just its colour, and only
//! one that an art edge crosses is blended, so that edges stay sharp and no art pixel is wider than
//! its neighbour by more than its fair share.
//!
//! The work is done art pixel by art pixel and not window pixel by window pixel: each art row is
//! spread once, and the window rows that show the same are copies of it.

use core::ops::Range;

use glam::UVec2;

use crate::fit::Placement;

/// The same filter for a graphics card: WGSL with the function
/// `present_canvas(canvas, window_pixel, origin, scale)`, where `canvas` is a `texture_2d<f32>`,
/// `window_pixel` the `@builtin(position)` of the fragment, and `origin` and `scale` are those of
/// the [`Placement`].
///
/// For blending as on the CPU, bind the canvas without sRGB conversion; with it, the blending is
/// linear.
pub const PRESENT_WGSL: &str = include_str!("present.wgsl");

/// A picture to read: 4 channels of 8 bits a pixel, rows from the top.
///
/// The order of the channels is the caller's; for [`present_over`] the last is opacity, and the
/// others are premultiplied by it.
#[derive(Clone, Copy, Debug)]
pub struct Pixels<'a> {
    /// The picture's size in pixels.
    pub size: UVec2,
    /// From the start of one row to the start of the next, in pixels; at least `size.x`.
    pub stride: usize,
    /// The pixels, row by row.
    pub data: &'a [[u8; 4]],
}

impl<'a> Pixels<'a> {
    /// A picture whose rows follow each other without a gap.
    #[must_use]
    pub fn new(size: UVec2, data: &'a [[u8; 4]]) -> Self {
        Self { size, stride: size.x as usize, data }
    }

    /// A row as far as it is there.
    fn row(&self, y: usize) -> &'a [[u8; 4]] {
        let start = y.saturating_mul(self.stride).min(self.data.len());
        let end = start.saturating_add(self.size.x as usize).min(self.data.len());
        &self.data[start..end]
    }
}

/// A picture to write into, such as a window: see [`Pixels`].
#[derive(Debug)]
pub struct PixelsMut<'a> {
    /// The picture's size in pixels.
    pub size: UVec2,
    /// From the start of one row to the start of the next, in pixels; at least `size.x`.
    pub stride: usize,
    /// The pixels, row by row.
    pub data: &'a mut [[u8; 4]],
}

impl<'a> PixelsMut<'a> {
    /// A picture whose rows follow each other without a gap.
    #[must_use]
    pub fn new(size: UVec2, data: &'a mut [[u8; 4]]) -> Self {
        Self { size, stride: size.x as usize, data }
    }

    /// Part of a row, as far as it is there.
    fn row(&mut self, y: usize, first: usize, end: usize) -> &mut [[u8; 4]] {
        let start = y.saturating_mul(self.stride);
        let end = start.saturating_add(end.min(self.size.x as usize)).min(self.data.len());
        let first = start.saturating_add(first).min(end);
        &mut self.data[first..end]
    }
}

/// How two colours are blended where an art edge crosses a window pixel.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum Blending {
    /// As the numbers stand, in encoded sRGB: as the art was drawn.
    #[default]
    Encoded,
    /// As light adds up.
    Linear,
}

/// Draws `canvas` into `window` where `placement` says, as if it were opaque.
///
/// The bars around the picture are left as they are. Buffers shorter than their size says are used
/// as far as they go. Nothing is allocated.
///
/// ```
/// use velvet_pan::{Blending, Lens, Pixels, PixelsMut, Screen, Snap, View, present};
/// use velvet_pan::glam::UVec2;
///
/// let screen = Screen { size: UVec2::new(2, 1), ..Screen::default() };
/// let view = View::new(Lens::new(&screen), [1.0, 0.5], Snap::Whole).in_window((5, 2));
/// let (red, green, bar) = ([255, 0, 0, 255], [0, 255, 0, 255], [9, 9, 9, 255]);
///
/// let canvas = [red, green];
/// let mut window = [bar; 10];
/// present(
///     Pixels::new(view.canvas_size(), &canvas),
///     PixelsMut::new(UVec2::new(5, 2), &mut window),
///     &view.placement(),
///     Blending::Encoded,
/// );
/// assert_eq!(window[..5], [red, red, green, green, bar]);
/// ```
pub fn present(
    canvas: Pixels<'_>,
    mut window: PixelsMut<'_>,
    placement: &Placement,
    blending: Blending,
) {
    let Some(spread) = Spread::new(&canvas, &window, placement, blending) else { return };
    let (first, end) = (spread.across.first, spread.across.end);
    let lay = |window: &mut PixelsMut<'_>, y: usize| {
        spread.lay(&canvas, &spread.down.cover(y), window.row(y, first, end), &Opaque);
    };
    let mut laid: Option<(usize, usize)> = None; // an art row, and a window row that shows just it
    for y in spread.down.first..spread.down.end {
        let cover = spread.down.cover(y);
        match laid {
            Some((art, shown)) if cover.is_only(art) => copy_row(&mut window, shown, y, first, end),
            // An edge between two art rows that are shown alone above and below it.
            Some((art, shown))
                if cover.count == 2 && art == cover.first && spread.shows_next(y) =>
            {
                lay(&mut window, y + 1);
                mix_rows(&mut window, [shown, y], first..end, &spread.mixer, cover.last_share());
                laid = Some((art + 1, y + 1));
            }
            _ => {
                lay(&mut window, y);
                laid = cover.only().map(|art| (art, y));
            }
        }
    }
}

/// Lays `canvas`, premultiplied, over what `window` shows already: for layers, from back to front.
///
/// ```
/// use velvet_pan::{Blending, Lens, Pixels, PixelsMut, Screen, Snap, View, present_over};
/// use velvet_pan::glam::UVec2;
///
/// let screen = Screen { size: UVec2::new(2, 1), ..Screen::default() };
/// let view = View::new(Lens::new(&screen), [1.0, 0.5], Snap::Whole);
/// let canvas = [[0; 4], [0, 60, 0, 128]]; // clear, and half of a green
/// let mut window = [[200, 0, 0, 255]; 2];
/// let (size, placement) = (view.canvas_size(), view.placement());
/// let target = PixelsMut::new(size, &mut window);
/// present_over(Pixels::new(size, &canvas), target, &placement, Blending::Encoded);
/// assert_eq!(window, [[200, 0, 0, 255], [100, 60, 0, 255]]);
/// ```
pub fn present_over(
    canvas: Pixels<'_>,
    mut window: PixelsMut<'_>,
    placement: &Placement,
    blending: Blending,
) {
    let Some(spread) = Spread::new(&canvas, &window, placement, blending) else { return };
    for y in spread.down.first..spread.down.end {
        let cover = spread.down.cover(y);
        let row = window.row(y, spread.across.first, spread.across.end);
        spread.lay(&canvas, &cover, row, &Over);
    }
}

fn copy_row(window: &mut PixelsMut<'_>, from: usize, to: usize, first: usize, end: usize) {
    let end = end.min(window.size.x as usize);
    if from == to {
        return;
    }
    let (start, target) = (from * window.stride + first, to * window.stride + first);
    let length = end.saturating_sub(first).min(window.data.len().saturating_sub(target));
    if length > 0 {
        window.data.copy_within(start..start + length, target);
    }
}

/// Makes row `y` the blend of the row `above` and of the one below it.
fn mix_rows(
    window: &mut PixelsMut<'_>,
    [above, y]: [usize; 2],
    columns: Range<usize>,
    mixer: &Mixer,
    part: f32,
) {
    let (stride, width) = (window.stride, window.size.x as usize);
    let columns = columns.start..columns.end.min(width).min(stride);
    let start = (y * stride).min(window.data.len());
    let (before, rest) = window.data.split_at_mut(start);
    let (row, after) = rest.split_at_mut(stride.min(rest.len()));
    let part_of = |row: &'_ [[u8; 4]]| row.get(columns.clone()).is_some();
    if !part_of(row) || !part_of(after) || before.len() < above * stride + columns.end {
        return; // a buffer shorter than its size says
    }
    let above = &before[above * stride..][columns.clone()];
    mixer.mix_all(&mut row[columns.clone()], above, &after[columns], part);
}

/// How a colour comes upon a pixel.
trait Put {
    fn pixel(&self, pixel: &mut [u8; 4], colour: [u8; 4]);

    /// Puts a colour on the pixels from `start` to `end`; those after `end` are drawn next, and may
    /// be spoilt.
    fn run(&self, row: &mut [[u8; 4]], start: usize, end: usize, colour: [u8; 4]);
}

struct Opaque;

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

struct Over;

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

/// How a canvas spreads over a window, along both axes.
struct Spread {
    across: Axis,
    down: Axis,
    mixer: Mixer,
}

impl Spread {
    /// None where nothing of the canvas would be seen.
    fn new(
        canvas: &Pixels<'_>,
        window: &PixelsMut<'_>,
        placement: &Placement,
        blending: Blending,
    ) -> Option<Self> {
        let usable = placement.scale > 0.0 && placement.scale.is_finite();
        if !usable || !placement.origin.is_finite() || canvas.size.min_element() == 0 {
            return None;
        }
        let whole = placement.is_whole();
        let axis = |axis: usize| Axis {
            origin: placement.origin[axis],
            scale: placement.scale,
            whole,
            start: match placement.origin[axis] {
                origin if whole => libm::ceil(origin - 0.5),
                origin => origin,
            },
            count: canvas.size[axis] as usize,
            first: placement.first[axis] as usize,
            end: placement.end[axis].min(window.size[axis]) as usize,
        };
        let (across, down) = (axis(0), axis(1));
        (across.first < across.end && down.first < down.end).then(|| Self {
            across,
            down,
            mixer: Mixer::new(blending),
        })
    }

    /// Whether the window row after `y` is there and shows one art row alone.
    fn shows_next(&self, y: usize) -> bool {
        y + 1 < self.down.end && self.down.cover(y + 1).count == 1
    }

    /// Lays one window row, which shows the art rows of `cover`.
    fn lay(&self, canvas: &Pixels<'_>, cover: &Cover, row: &mut [[u8; 4]], put: &impl Put) {
        if cover.count == 1 {
            let art = canvas.row(cover.first);
            self.lay_columns(row, |column| art.get(column).copied().unwrap_or([0; 4]), put);
        } else if cover.count == 2 {
            let (one, other) = (canvas.row(cover.first), canvas.row(cover.first + 1));
            let blend = |column: usize| match (one.get(column), other.get(column)) {
                (Some(one), Some(other)) => self.mixer.mix(*one, *other, cover.last_share()),
                _ => [0; 4],
            };
            self.lay_columns(row, blend, put);
        } else {
            let sum = |column: usize| {
                let rows = (cover.first..cover.first + cover.count).enumerate();
                let parts = rows.map(|(index, y)| {
                    let colour = canvas.row(y).get(column).copied().unwrap_or([0; 4]);
                    (colour, cover.share(index))
                });
                self.mixer.sum(parts)
            };
            self.lay_columns(row, sum, put);
        }
    }

    /// Spreads the colours of one row of art over a window row.
    fn lay_columns(&self, row: &mut [[u8; 4]], colour: impl Fn(usize) -> [u8; 4], put: &impl Put) {
        if self.across.scale < 1.0 {
            return self.gather_columns(row, colour, put);
        }
        let axis = &self.across;
        let mut x = axis.first;
        let mut column = axis.cover(x).first;
        let mut here = colour(column);
        while x < axis.first + row.len() {
            // The pixels that show this column alone, then one that may show the next as well.
            let edge = axis.edge(column + 1);
            let whole = if column + 1 == axis.count { axis.end } else { edge as i32 as usize };
            let end = whole.min(axis.first + row.len());
            if end > x {
                put.run(row, x - axis.first, end - axis.first, here);
                x = end;
            }
            column += 1;
            if x >= axis.first + row.len() || column >= axis.count {
                break;
            }
            let next = colour(column);
            let share = edge - whole as f64; // of the pixel, what still shows the column before
            if share > SLIVER && edge >= x as f64 {
                let pixel = &mut row[x - axis.first];
                put.pixel(pixel, self.mixer.mix(here, next, 1.0 - share as f32));
                x += 1;
            }
            here = next;
        }
    }

    /// The same for a window smaller than the canvas: several columns in each pixel.
    fn gather_columns(
        &self,
        row: &mut [[u8; 4]],
        colour: impl Fn(usize) -> [u8; 4],
        put: &impl Put,
    ) {
        for (x, pixel) in (self.across.first..).zip(row) {
            let cover = self.across.cover(x);
            let parts =
                (0..cover.count).map(|index| (colour(cover.first + index), cover.share(index)));
            put.pixel(pixel, self.mixer.sum(parts));
        }
    }
}

/// Shares of a window pixel below this are rounding.
const SLIVER: f64 = 1e-6;

/// One axis of a spread: art pixel `i` fills the window from `origin + i·scale` on.
struct Axis {
    origin: f64,
    scale: f64,
    /// Edges are rounded to whole window pixels.
    whole: bool,
    /// The edge of the first art pixel, so rounded.
    start: f64,
    /// Art pixels.
    count: usize,
    /// The window pixels that show any.
    first: usize,
    end: usize,
}

/// The art pixels that one window pixel shows.
#[derive(Clone, Copy)]
struct Cover {
    first: usize,
    count: usize,
    /// Shares of the first, of each between, and of the last; they add up to 1.
    shares: [f32; 3],
}

impl Cover {
    fn is_only(&self, art: usize) -> bool {
        self.count == 1 && self.first == art
    }

    fn only(&self) -> Option<usize> {
        (self.count == 1).then_some(self.first)
    }

    fn last_share(&self) -> f32 {
        self.shares[2]
    }

    fn share(&self, index: usize) -> f32 {
        match index {
            0 => self.shares[0],
            index if index + 1 == self.count => self.shares[2],
            _ => self.shares[1],
        }
    }
}

impl Axis {
    /// Where art pixel `number` begins, in window pixels; never negative, since nothing is drawn
    /// there.
    #[inline]
    fn edge(&self, number: usize) -> f64 {
        let edge = self.start + number as f64 * self.scale;
        if edge > 0.0 { edge } else { 0.0 }
    }

    /// What the window pixel `at` shows: what lies between its edges, or, where edges are rounded,
    /// what its middle falls on.
    fn cover(&self, at: usize) -> Cover {
        let last = self.count - 1;
        let art = |window: f64| (window - self.origin) / self.scale;
        let index = |place: f64| (place.max(0.0) as usize).min(last);
        let one = |first| Cover { first, count: 1, shares: [1.0; 3] };
        if self.whole {
            return one(index(art(at as f64 + 0.5)));
        }
        let low = art(at as f64).max(0.0);
        let high = art(at as f64 + 1.0).min(self.count as f64);
        let sliver = SLIVER / self.scale;
        let (first, end) = (index(low + sliver), index(high - sliver));
        if end <= first {
            return one(first);
        }
        let each = 1.0 / (high - low);
        let (head, tail) = (((first + 1) as f64 - low) * each, (high - end as f64) * each);
        Cover {
            first,
            count: end - first + 1,
            shares: [head, each, tail].map(|share| share as f32),
        }
    }
}

/// Blends colours, in encoded or in linear light.
struct Mixer {
    /// Linear light of each encoded value, where it is asked for.
    light: Option<[f32; 256]>,
}

impl Mixer {
    fn new(blending: Blending) -> Self {
        let light = |encoded: usize| {
            // IEC 61966-2-1.
            let value = encoded as f32 / 255.0;
            if value <= 0.040_45 { value / 12.92 } else { libm::powf((value + 0.055) / 1.055, 2.4) }
        };
        Self { light: (blending == Blending::Linear).then(|| core::array::from_fn(light)) }
    }

    /// The colour a part of the way from one to another.
    #[inline]
    fn mix(&self, from: [u8; 4], to: [u8; 4], part: f32) -> [u8; 4] {
        let Some(light) = &self.light else {
            return mix_encoded(from, to, (part * 256.0 + 0.5) as u32);
        };
        core::array::from_fn(|channel| {
            let (from, to) = (usize::from(from[channel]), usize::from(to[channel]));
            match channel {
                3 => (from as f32 + (to as f32 - from as f32) * part + 0.5) as u8,
                _ => encoded(light, light[from] + (light[to] - light[from]) * part),
            }
        })
    }

    /// Blends two rows into a third.
    fn mix_all(&self, row: &mut [[u8; 4]], from: &[[u8; 4]], to: &[[u8; 4]], part: f32) {
        let pairs = row.iter_mut().zip(from.iter().zip(to));
        if self.light.is_none() {
            let part = (part * 256.0 + 0.5) as u32;
            pairs.for_each(|(pixel, (from, to))| *pixel = mix_encoded(*from, *to, part));
        } else {
            pairs.for_each(|(pixel, (from, to))| *pixel = self.mix(*from, *to, part));
        }
    }

    /// The sum of colours by their shares.
    fn sum(&self, parts: impl Iterator<Item = ([u8; 4], f32)>) -> [u8; 4] {
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
fn mix_encoded(from: [u8; 4], to: [u8; 4], part: u32) -> [u8; 4] {
    const PAIR: u32 = 0x00ff_00ff;
    const HALF: u32 = 0x0080_0080;
    let (from, to) = (u32::from_le_bytes(from), u32::from_le_bytes(to));
    let pair =
        |from: u32, to: u32| ((from & PAIR) * (256 - part) + (to & PAIR) * part + HALF) >> 8 & PAIR;
    (pair(from, to) | pair(from >> 8, to >> 8) << 8).to_le_bytes()
}

/// The encoded value whose light is nearest.
fn encoded(light: &[f32; 256], value: f32) -> u8 {
    let above = light.partition_point(|known| *known < value).min(255);
    let below = above.saturating_sub(1);
    let nearer_below = value - light[below] < light[above] - value;
    (if nearer_below { below } else { above }) as u8
}
