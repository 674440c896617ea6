//! Many sprites, asked one after the other.

use alloc::vec::Vec;
use core::ops::Range;

use glam::DVec2;

use crate::cull::sight::Sight;
use crate::units::rect::Rect;

/// The boxes of many sprites, coordinate by coordinate, for a pass over all of them: as fast as
/// memory, and enough for some ten thousand. For a world of a million see
/// [`SpriteGrid`](crate::SpriteGrid).
///
/// Coordinates are kept in `f32` and rounded outwards, so that a box is never smaller than the
/// sprite: a sprite may be found that only just is not in view, but none is ever lost.
///
/// ```
/// use velvet_pan::{Boxes, Lens, Rect, Screen, Snap, View};
///
/// let mut lanterns = Boxes::new();
/// for number in 0..100 {
///     lanterns.push(&Rect::from_corner_size([number * 40, 60], [8, 16]));
/// }
/// let view = View::new(Lens::new(&Screen::default()), [990, 90], Snap::Whole);
/// let mut found = Vec::new(); // kept from frame to frame
/// lanterns.seen(&view.sight(), &mut found);
/// assert_eq!(found, (21..=28).collect::<Vec<u32>>());
/// ```
#[derive(Clone, Debug, Default)]
pub struct Boxes {
    min_x: Vec<f32>,
    max_x: Vec<f32>,
    min_y: Vec<f32>,
    max_y: Vec<f32>,
}

/// Boxes that are asked for at once.
const BLOCK: usize = 32;

impl Boxes {
    /// None yet.
    #[must_use]
    pub fn new() -> Self {
        Self::default()
    }

    /// How many there are.
    #[must_use]
    pub fn len(&self) -> usize {
        self.min_x.len()
    }

    /// Whether there is none.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.min_x.is_empty()
    }

    /// Adds the box of a sprite, and answers its number: 0 for the first, and so on. A box with a
    /// coordinate that is not a number is never seen.
    pub fn push(&mut self, sprite: &Rect) -> u32 {
        let number = self.len() as u32;
        let one = OutwardBox::of(sprite);
        self.min_x.push(one.min[0]);
        self.max_x.push(one.max[0]);
        self.min_y.push(one.min[1]);
        self.max_y.push(one.max[1]);
        number
    }

    /// Says where a sprite is now; answers whether there is one of this number.
    pub fn set(&mut self, number: u32, sprite: &Rect) -> bool {
        let (at, one) = (number as usize, OutwardBox::of(sprite));
        if at >= self.len() {
            return false;
        }
        (self.min_x[at], self.max_x[at]) = (one.min[0], one.max[0]);
        (self.min_y[at], self.max_y[at]) = (one.min[1], one.max[1]);
        true
    }

    /// Forgets all, keeping the memory.
    pub fn clear(&mut self) {
        for side in [&mut self.min_x, &mut self.max_x, &mut self.min_y, &mut self.max_y] {
            side.clear();
        }
    }

    /// Puts the numbers of all sprites in sight into `found`, in order, in place of what it held.
    pub fn seen(&self, sight: &Sight, found: &mut Vec<u32>) {
        found.clear();
        let area = OutwardBox::of(&sight.bounding());
        for first in (0..self.len()).step_by(BLOCK) {
            let block = first..(first + BLOCK).min(self.len());
            // Most blocks end here, after loops without branches; of most, `y` is not even read.
            let (x, y) =
                (axis(&self.min_x, &self.max_x, &block), axis(&self.min_y, &self.max_y, &block));
            let mut beside = [true; BLOCK];
            if keep_overlapping(&mut beside, x, area.min[0], area.max[0])
                && keep_overlapping(&mut beside, y, area.min[1], area.max[1])
            {
                self.seen_of(block, &area, sight, found);
            }
        }
    }

    /// The same, one by one.
    fn seen_of(&self, block: Range<usize>, area: &OutwardBox, sight: &Sight, found: &mut Vec<u32>) {
        for at in block {
            let one = OutwardBox {
                min: [self.min_x[at], self.min_y[at]],
                max: [self.max_x[at], self.max_y[at]],
            };
            if one.overlaps(area) && (!sight.is_turned() || sight.sees(&one.rect())) {
                found.push(at as u32);
            }
        }
    }
}

/// The stretches of a block of boxes along an axis.
fn axis<'a>(min: &'a [f32], max: &'a [f32], block: &Range<usize>) -> (&'a [f32], &'a [f32]) {
    (&min[block.clone()], &max[block.clone()])
}

/// Keeps those of a block's boxes whose stretch along an axis reaches into `low..high`; answers
/// whether any is left.
#[inline]
fn keep_overlapping(
    kept: &mut [bool; BLOCK],
    (min, max): (&[f32], &[f32]),
    low: f32,
    high: f32,
) -> bool {
    let mut any = false;
    for (kept, (min, max)) in kept.iter_mut().zip(min.iter().zip(max)) {
        *kept &= (*min < high) & (*max > low);
        any |= *kept;
    }
    any
}

/// A box in `f32` that is never smaller than the rectangle it was made of.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct OutwardBox {
    pub min: [f32; 2],
    pub max: [f32; 2],
}

impl OutwardBox {
    #[inline]
    pub fn of(rect: &Rect) -> Self {
        let min = [round_down(rect.min.x), round_down(rect.min.y)];
        Self { min, max: [-round_down(-rect.max.x), -round_down(-rect.max.y)] }
    }

    /// Whether the two share any area.
    #[inline]
    pub fn overlaps(&self, other: &Self) -> bool {
        (self.min[0] < other.max[0])
            & (self.max[0] > other.min[0])
            & (self.min[1] < other.max[1])
            & (self.max[1] > other.min[1])
    }

    pub fn rect(&self) -> Rect {
        let wide = |[x, y]: [f32; 2]| DVec2::new(f64::from(x), f64::from(y));
        Rect { min: wide(self.min), max: wide(self.max) }
    }
}

/// The largest `f32` that is not above `value`.
#[inline]
fn round_down(value: f64) -> f32 {
    let near = value as f32;
    if f64::from(near) > value { near.next_down() } else { near }
}
