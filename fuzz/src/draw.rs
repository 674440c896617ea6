//! Numbers and choices from bytes.

use arbitrary::Unstructured;
use velvet_pan::Rect;

use crate::random_play::{Dice, ODD};

/// A source of numbers from one input. Past its end, every number is the smallest possible one.
pub struct Draw<'a>(Unstructured<'a>);

impl<'a> Draw<'a> {
    /// Starts at the first of these bytes.
    pub fn new(bytes: &'a [u8]) -> Self {
        Self(Unstructured::new(bytes))
    }

    /// Returns the remaining bytes.
    pub fn rest(self) -> &'a [u8] {
        self.0.take_rest()
    }

    /// Returns any rectangle, with its corners in any order.
    pub fn any_rect(&mut self) -> Rect {
        Rect { min: self.point(), max: self.point() }
    }
}

impl Dice for Draw<'_> {
    fn is_over(&self) -> bool {
        self.0.is_empty()
    }

    fn below(&mut self, count: u32) -> u32 {
        self.0.int_in_range(0..=count.max(1) - 1).unwrap_or(0)
    }

    /// Returns one of 65,536 numbers.
    fn fair(&mut self, low: f64, high: f64) -> f64 {
        let part = self.0.arbitrary::<u16>().unwrap_or(0);
        low + f64::from(part) / 65_536.0 * (high - low)
    }

    fn number(&mut self, low: f64, high: f64) -> f64 {
        match self.below(128) {
            126 => self.pick(&ODD),
            127 => f64::from_bits(self.0.arbitrary().unwrap_or(0)),
            _ => self.fair(low, high),
        }
    }
}
