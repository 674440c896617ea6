//! Several rides, row by row together.

use crate::ride::moment::Moment;
use crate::ride::ride::Ride;
use crate::take::take::Take;
use crate::text::fault::Fault;

/// Iterates over the moments of several takes, those of the same row together. It ends with the shortest ride.
#[derive(Debug)]
pub struct SideBySide<'a> {
    rides: Vec<Ride<'a>>,
}

impl<'a> SideBySide<'a> {
    /// Starts a ride of each take.
    ///
    /// # Errors
    ///
    /// The settings of a take can't be used.
    pub fn new(takes: &'a [Take]) -> Result<Self, Fault> {
        Ok(Self { rides: takes.iter().map(Ride::new).collect::<Result<_, Fault>>()? })
    }
}

impl Iterator for SideBySide<'_> {
    type Item = Vec<Moment>;

    fn next(&mut self) -> Option<Vec<Moment>> {
        self.rides.iter_mut().map(Iterator::next).collect()
    }
}
