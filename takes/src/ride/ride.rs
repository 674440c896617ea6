//! A ride: the camera's movement in a take, row by row.

use crate::ride::moment::Moment;
use crate::ride::run::{RideState, Run};
use crate::take::take::Take;
use crate::text::fault::Fault;

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
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Files, Overrides, Ride, Take};
    /// # let text = "seconds = 2.0\n[subjects.courier]\nkeys = [[0.0, 0.0, 0.0], [2.0, 240.0, 0.0]]\n";
    /// # let files = [BuiltIn { name: "run.toml", text: text.into() }];
    /// # let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
    /// let ride = Ride::new(&take)?; // 2 seconds at 60 frames a second, without smoothing
    /// let last = ride.last().unwrap();
    /// assert_eq!((last.t, last.view.centre().x), (2.0, 240.0));
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
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
