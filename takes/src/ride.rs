//! A ride: what the camera does in a take, row by row.

use crate::fault::Fault;
use crate::moment::Moment;
use crate::run::{RideState, Run};
use crate::take::Take;

/// The moments of a take, one after the other.
#[derive(Debug)]
pub struct Ride<'a> {
    take: &'a Take,
    run: Run,
}

impl<'a> Ride<'a> {
    /// Ready for the first row.
    ///
    /// # Errors
    ///
    /// Settings that can't be used.
    pub fn new(take: &'a Take) -> Result<Self, Fault> {
        Run::new(take).map(|run| Self { take, run })
    }

    /// The ride as it stands; none while the picture is on its way between two cameras.
    pub fn state(&self) -> Option<RideState> {
        self.run.state(self.take)
    }

    /// The same take from a saved moment on.
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
