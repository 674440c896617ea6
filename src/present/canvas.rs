//! Pictures in memory: a canvas to read, and a canvas to write.

use core::ops::Range;

use glam::UVec2;

/// A pixel of 4 channels of 8 bits: `[u8; 4]`, or `u32` as many windows have them.
///
/// A `u32` counts as its bytes in memory. On a little-endian machine, that is nearly every one, `0xAARRGGBB` has its
/// opacity last, as [`present_over`](crate::present_over) needs it. [`present`](crate::present) with
/// [`Blending::Encoded`](crate::Blending::Encoded) works in any order, and with `0x00RRGGBB`.
pub trait Pixel: sealed::Channels {}

impl Pixel for [u8; 4] {}
impl Pixel for u32 {}

mod sealed {
    /// Pixels as their channels.
    pub trait Channels: bytemuck::Pod {
        fn channels(pixels: &[Self]) -> &[[u8; 4]] {
            bytemuck::cast_slice(pixels)
        }

        fn channels_mut(pixels: &mut [Self]) -> &mut [[u8; 4]] {
            bytemuck::cast_slice_mut(pixels)
        }
    }

    impl Channels for [u8; 4] {}
    impl Channels for u32 {}
}

/// A picture to read: 4 channels of 8 bits a pixel, rows from the top.
///
/// The channels may have any order. For [`present_over`](crate::present_over) the last one is opacity, and the others are
/// premultiplied by it.
#[derive(Clone, Copy, Debug)]
pub struct Canvas<'a> {
    /// The picture's size in pixels.
    pub size: UVec2,
    /// From the start of one row to the start of the next, in pixels; at least `size.x`.
    pub stride: usize,
    /// The pixels, row by row.
    pub data: &'a [[u8; 4]],
}

impl<'a> Canvas<'a> {
    /// Creates a canvas whose rows follow each other without gaps.
    ///
    /// ```
    /// # use velvet_pan::{Canvas, glam::UVec2};
    /// let pixels = [[0, 0, 0, 255]; 321 * 181];
    /// assert_eq!(Canvas::new(UVec2::new(321, 181), &pixels).stride, 321);
    /// ```
    #[must_use]
    pub fn new(size: UVec2, data: &'a [impl Pixel]) -> Self {
        Self { size, stride: size.x as usize, data: sealed::Channels::channels(data) }
    }

    /// Returns the existing part of a row.
    pub(crate) fn row(&self, y: usize) -> &'a [[u8; 4]] {
        let start = y.saturating_mul(self.stride).min(self.data.len());
        let end = start.saturating_add(self.size.x as usize).min(self.data.len());
        &self.data[start..end]
    }
}

/// A picture to write into, such as a window: see [`Canvas`].
#[derive(Debug)]
pub struct CanvasMut<'a> {
    /// The picture's size in pixels.
    pub size: UVec2,
    /// From the start of one row to the start of the next, in pixels; at least `size.x`.
    pub stride: usize,
    /// The pixels, row by row.
    pub data: &'a mut [[u8; 4]],
}

impl<'a> CanvasMut<'a> {
    /// Creates a canvas whose rows follow each other without gaps.
    ///
    /// ```
    /// # use velvet_pan::{CanvasMut, glam::UVec2};
    /// let mut pixels = vec![0x00_2b_2d_42_u32; 1280 * 720];
    /// assert_eq!(CanvasMut::new(UVec2::new(1280, 720), &mut pixels).stride, 1280);
    /// ```
    #[must_use]
    pub fn new(size: UVec2, data: &'a mut [impl Pixel]) -> Self {
        Self { size, stride: size.x as usize, data: sealed::Channels::channels_mut(data) }
    }

    /// Returns the existing part of some pixels of a row.
    pub(crate) fn row(&mut self, y: usize, first: usize, end: usize) -> &mut [[u8; 4]] {
        let range = self.range(y, first, end);
        &mut self.data[range]
    }

    /// Copies part of a row to another, as far as both exist.
    pub(crate) fn copy_row(&mut self, from: usize, to: usize, first: usize, end: usize) {
        let (from, to) = (self.range(from, first, end), self.range(to, first, end));
        let length = from.len().min(to.len());
        self.data.copy_within(from.start..from.start + length, to.start);
    }

    /// Writes a row between two others: the share of `below` in each pixel, from 0 to 1, and the rest of `above`, as far
    /// as all three exist. Returns whether it could: `to` must be before `below` and after `above`.
    pub(crate) fn mix_rows(
        &mut self,
        [above, to, below]: [usize; 3],
        (first, end): (usize, usize),
        share: f32,
    ) -> bool {
        let [above, to, below] = [above, to, below].map(|y| self.range(y, first, end));
        if above.end > to.start || to.end > below.start || above.len() != below.len() {
            return false;
        }
        let (before, rest) = self.data.split_at_mut(to.start);
        let (target, after) = rest.split_at_mut(to.len());
        let below = &after[below.start - to.end..below.end - to.end];
        mix_bytes(target, &before[above], below, share);
        true
    }

    /// Returns the range of part of a row in the data.
    fn range(&self, y: usize, first: usize, end: usize) -> Range<usize> {
        let start = y.saturating_mul(self.stride);
        let end = start.saturating_add(end.min(self.size.x as usize)).min(self.data.len());
        start.saturating_add(first).min(end)..end
    }
}

/// Mixes encoded colours in whole numbers, rounded to the nearest, a hundredth of a step aside. A difference has 7 bits
/// below the point and the share has 15, so that their product fits the upper half of 32 bits: processors do that for
/// many channels at once.
fn mix_bytes(target: &mut [[u8; 4]], above: &[[u8; 4]], below: &[[u8; 4]], share: f32) {
    let share = (share * 32768.0 + 0.5).clamp(0.0, 32767.0) as i16;
    let sources = above.as_flattened().iter().zip(below.as_flattened());
    for (to, (a, b)) in target.as_flattened_mut().iter_mut().zip(sources) {
        let (a, b) = (i16::from(*a), i16::from(*b));
        let moved = ((i32::from((b - a) << 7) * i32::from(share)) >> 16) as i16;
        *to = (((a << 6) + moved + 32) >> 6) as u8;
    }
}
