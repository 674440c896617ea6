//! The clock of a take's events. It stands while an event waits.

use serde::{Deserialize, Serialize};

use crate::take::event::Event;
use crate::take::take::Take;

/// The longest wait for the view's arrival, in seconds, as in an [`Itinerary`](velvet_pan::Itinerary).
const PATIENCE: f64 = 5.0;

/// Which events have happened, and how far the waits have put off the others.
#[derive(Clone, Debug, Default, Serialize, Deserialize)]
pub(crate) struct EventClock {
    /// The number of events that have happened.
    pub happened: usize,
    /// The time of the ride less the time of the events, in seconds.
    put_off: f64,
    /// Since when the next event has waited for the view, as a time of the ride.
    waits_since: Option<f64>,
    /// When the newest event happened, as a time of the ride.
    pub newest: Option<f64>,
}

impl EventClock {
    /// Returns the time of the events at a time of the ride.
    pub fn at(&self, t: f64) -> f64 {
        t - self.put_off
    }

    /// Returns whether the next event waits for the view.
    pub fn waits_for_view(&self) -> bool {
        self.waits_since.is_some()
    }

    /// Returns the next event of a frame from `from` to `t`, and its moment. `arrived` tells whether the view had come to
    /// rest at the frame's start.
    pub fn next<'a>(
        &mut self,
        take: &'a Take,
        (from, t): (f64, f64),
        arrived: bool,
    ) -> Option<(&'a Event, f64)> {
        let event = take.events.get(self.happened)?;
        let due = event.at + self.put_off;
        if due > t {
            return None;
        }
        let moment = self.end_of_wait(take, event, due, from, arrived);
        if moment > t {
            // The clock stands.
            self.put_off = t - event.at;
            return None;
        }
        self.put_off = if moment > due { moment - event.at } else { self.put_off };
        (self.waits_since, self.newest) = (None, Some(moment));
        self.happened += 1;
        Some((event, moment))
    }

    /// Returns the moment at which an event that is due happens, or a later one than any frame's end.
    fn end_of_wait(
        &mut self,
        take: &Take,
        event: &Event,
        due: f64,
        from: f64,
        arrived: bool,
    ) -> f64 {
        let mut moment = due;
        if let Some(gate) = &event.gate {
            moment = moment.max(take.gates.get(gate).copied().unwrap_or(f64::INFINITY));
        }
        if event.arrive {
            let since = *self.waits_since.get_or_insert(due);
            let rested = if arrived && since < from { from } else { since + PATIENCE };
            moment = moment.max(rested);
        }
        moment
    }
}
