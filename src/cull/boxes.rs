//! Visible sprites among many, tested one after the other.

use alloc::vec::Vec;
use core::ops::Range;

use glam::{DVec2, Vec4};

use crate::base::rect::Rect;
use crate::cull::sight::Sight;

/// The boxes of many sprites, for a linear pass over all of them. It suits up to some ten thousand sprites; for more, use
/// [`SpriteGrid`](crate::SpriteGrid).
///
/// Coordinates are kept in `f32` and rounded outwards. A query may return a sprite just outside the view, but it never
/// misses a visible one. Beyond the largest `f32`, 3.4e38, all positions count as one.
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

/// The number of boxes that are tested together.
const BLOCK: usize = 32;

impl Boxes {
    /// Creates an empty list.
    #[must_use]
    pub fn new() -> Self {
        Self::default()
    }

    /// Returns the number of boxes.
    #[must_use]
    pub fn len(&self) -> usize {
        self.min_x.len()
    }

    /// Returns whether there are no boxes.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.min_x.is_empty()
    }

    /// Adds the box of a sprite, in world units, and returns its number, from 0 on. A box with a NaN coordinate is never
    /// found.
    ///
    /// ```
    /// # use velvet_pan::{Boxes, Rect};
    /// let mut lanterns = Boxes::new();
    /// assert_eq!(lanterns.push(&Rect::from_corner_size([40, 60], [8, 16])), 0);
    /// assert_eq!(lanterns.push(&Rect::from_corner_size([80, 60], [8, 16])), 1);
    /// ```
    pub fn push(&mut self, sprite: &Rect) -> u32 {
        let number = self.len() as u32;
        let OutwardBox([min_x, min_y, less_x, less_y]) = OutwardBox::of(sprite);
        self.min_x.push(min_x);
        self.max_x.push(-less_x);
        self.min_y.push(min_y);
        self.max_y.push(-less_y);
        number
    }

    /// Replaces the box with this number. Returns `false` if there is no such box.
    ///
    /// ```
    /// # use velvet_pan::{Boxes, Rect};
    /// let mut lanterns = Boxes::new();
    /// let lantern = lanterns.push(&Rect::new([0, 0], [8, 16]));
    /// assert!(lanterns.set(lantern, &Rect::new([40, 0], [48, 16])));
    /// assert!(!lanterns.set(7, &Rect::new([40, 0], [48, 16])));
    /// ```
    pub fn set(&mut self, number: u32, sprite: &Rect) -> bool {
        let (at, OutwardBox([min_x, min_y, less_x, less_y])) =
            (number as usize, OutwardBox::of(sprite));
        if at >= self.len() {
            return false;
        }
        (self.min_x[at], self.max_x[at]) = (min_x, -less_x);
        (self.min_y[at], self.max_y[at]) = (min_y, -less_y);
        true
    }

    /// Removes all boxes and keeps the memory.
    pub fn clear(&mut self) {
        for side in [&mut self.min_x, &mut self.max_x, &mut self.min_y, &mut self.max_y] {
            side.clear();
        }
    }

    /// Replaces the contents of `found` by the numbers of all visible sprites, sorted.
    ///
    /// ```
    /// # use velvet_pan::{Boxes, Lens, Rect, Screen, Snap, View};
    /// let mut lanterns = Boxes::new();
    /// lanterns.push(&Rect::from_corner_size([5000, 60], [8, 16]));
    /// let near = lanterns.push(&Rect::from_corner_size([100, 60], [8, 16]));
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
    /// let mut found = Vec::new();
    /// lanterns.seen(&view.sight(), &mut found);
    /// assert_eq!(found, [near]);
    /// ```
    pub fn seen(&self, sight: &Sight, found: &mut Vec<u32>) {
        found.clear();
        let across = OutwardBox::of(&sight.bounding()).across();
        let [max_x, max_y, less_x, less_y] = across.to_array();
        for first in (0..self.len()).step_by(BLOCK) {
            let block = first..(first + BLOCK).min(self.len());
            // Most blocks end here, after loops without branches. For most of them, `y` is not even read.
            let (x, y) =
                (axis(&self.min_x, &self.max_x, &block), axis(&self.min_y, &self.max_y, &block));
            let mut beside = [true; BLOCK];
            if keep_overlapping(&mut beside, x, -less_x, max_x)
                && keep_overlapping(&mut beside, y, -less_y, max_y)
            {
                self.seen_of(block, across, sight, found);
            }
        }
    }

    /// Tests a block box by box.
    fn seen_of(&self, block: Range<usize>, across: Vec4, sight: &Sight, found: &mut Vec<u32>) {
        for at in block {
            let (min_x, min_y) = (self.min_x[at], self.min_y[at]);
            let one = OutwardBox([min_x, min_y, -self.max_x[at], -self.max_y[at]]);
            if one.reaches(across) && (!sight.is_turned() || sight.sees(&one.rect())) {
                found.push(at as u32);
            }
        }
    }
}

/// Returns the intervals of a block of boxes along an axis.
fn axis<'a>(min: &'a [f32], max: &'a [f32], block: &Range<usize>) -> (&'a [f32], &'a [f32]) {
    (&min[block.clone()], &max[block.clone()])
}

/// Keeps the boxes of a block whose interval along an axis overlaps `low..high`. Returns whether any is left.
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

/// A box in `f32` that is never smaller than its rectangle. It holds the smallest coordinates and the negated largest
/// ones, so that all four are rounded down and compared in the same way.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct OutwardBox(pub [f32; 4]);

impl OutwardBox {
    #[inline]
    pub fn of(rect: &Rect) -> Self {
        let Rect { min, max } = rect;
        let (min_x, min_y) = (round_down(min.x), round_down(min.y));
        // Combined before it is written: one write instead of four.
        Self(Vec4::new(min_x, min_y, round_down(-max.x), round_down(-max.y)).to_array())
    }

    /// Returns the values that all four sides of another box must be below for the two to overlap.
    #[inline]
    pub fn across(&self) -> Vec4 {
        let [min_x, min_y, less_x, less_y] = self.0;
        -Vec4::new(less_x, less_y, min_x, min_y)
    }

    /// Returns whether it overlaps another box, given by that box's [`across`](Self::across).
    #[inline]
    pub fn reaches(&self, across: Vec4) -> bool {
        Vec4::from_array(self.0).cmplt(across).all()
    }

    #[inline]
    pub fn rect(&self) -> Rect {
        let [min_x, min_y, less_x, less_y] = self.0;
        let wide = |x: f32, y: f32| DVec2::new(f64::from(x), f64::from(y));
        Rect { min: wide(min_x, min_y), max: wide(-less_x, -less_y) }
    }
}

/// Returns the largest `f32` that is not above `value`.
#[inline]
fn round_down(value: f64) -> f32 {
    let near = value as f32;
    // The choice can't be predicted, so both are computed and one is selected without a branch.
    let bits = near.to_bits();
    let below = if near > 0.0 { bits.wrapping_sub(1) } else { bits.wrapping_add(1) };
    let below = if bits == 0 { (-f32::from_bits(1)).to_bits() } else { below };
    f32::from_bits(if f64::from(near) > value { below } else { bits })
}
