//! Several rides in step.

use crate::fault::Fault;
use crate::moment::Moment;
use crate::ride::Ride;
use crate::take::Take;

/// The moments of several takes, all of the same row together; it ends with the shortest ride.
#[derive(Debug)]
pub struct Reel<'a> {
    rides: Vec<Ride<'a>>,
}

impl<'a> Reel<'a> {
    /// Starts a ride of each take.
    ///
    /// # Errors
    ///
    /// Settings that can't be used.
    pub fn new(takes: &'a [Take]) -> Result<Self, Fault> {
        Ok(Self { rides: takes.iter().map(Ride::new).collect::<Result<_, Fault>>()? })
    }
}

impl Iterator for Reel<'_> {
    type Item = Vec<Moment>;

    fn next(&mut self) -> Option<Vec<Moment>> {
        self.rides.iter_mut().map(Iterator::next).collect()
    }
}
