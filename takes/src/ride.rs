//! A ride: the camera's movement in a take, row by row.

use crate::fault::Fault;
use crate::moment::Moment;
use crate::run::{RideState, Run};
use crate::take::Take;

/// Iterates over the moments of a take.
#[derive(Debug)]
pub struct Ride<'a> {
    take: &'a Take,
    run: Run,
}

impl<'a> Ride<'a> {
    /// Starts before the first row.
    ///
    /// # Errors
    ///
    /// The settings can't be used.
    pub fn new(take: &'a Take) -> Result<Self, Fault> {
        Run::new(take).map(|run| Self { take, run })
    }

    /// Returns the state of the ride, or `None` while the picture glides between two cameras.
    pub fn state(&self) -> Option<RideState> {
        self.run.state(self.take)
    }

    /// Continues the same take from a saved state.
    ///
    /// # Errors
    ///
    /// The state is not one of this take.
    pub fn resumed(take: &'a Take, state: &RideState) -> Result<Self, Fault> {
        Run::resumed(take, state).map(|run| Self { take, run })
    }
}

impl Iterator for Ride<'_> {
    type Item = Moment;

    fn next(&mut self) -> Option<Moment> {
        (self.run.next_row() < self.take.rows()).then(|| self.run.step(self.take))
    }

    fn size_hint(&self) -> (usize, Option<usize>) {
        let left = self.take.rows().saturating_sub(self.run.next_row()) as usize;
        (left, Some(left))
    }
}
