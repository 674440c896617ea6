//! The events of a take's file, whose times can be changed. Events that were added by hand are not among them.

use velvet_pan_takes::{Event, EventTime};

/// Which events of a take are those of its file.
#[derive(Clone, Debug, Default)]
pub struct Passages {
    /// For each event of the take its number in the file, or `None` if it was added by hand.
    numbers: Vec<Option<usize>>,
    /// The times in the file, in its order.
    saved: Vec<EventTime>,
}

impl Passages {
    /// All events of a take are in its file.
    pub fn of(events: &[Event]) -> Self {
        Self {
            numbers: (0..events.len()).map(Some).collect(),
            saved: events.iter().map(EventTime::of).collect(),
        }
    }

    /// Notes that an event was added by hand.
    pub fn add(&mut self, place: usize) {
        self.numbers.insert(place.min(self.numbers.len()), None);
    }

    /// Returns the number of an event in the file, if it is there.
    pub fn number_of(&self, index: usize) -> Option<usize> {
        self.numbers.get(index).copied().flatten()
    }

    /// Returns the times of the file's events, in the order of the file.
    pub fn times(&self, events: &[Event]) -> Vec<EventTime> {
        let mut times = self.saved.clone();
        for (number, event) in self.numbers.iter().zip(events) {
            if let Some(time) = number.and_then(|number| times.get_mut(number)) {
                *time = EventTime::of(event);
            }
        }
        times
    }

    /// Gives the file's events these times, and puts all in order.
    pub fn set_times(&mut self, events: &mut Vec<Event>, times: &[EventTime]) {
        // Those that a played take adds by itself are behind the others.
        self.numbers.resize(events.len(), None);
        let mut all: Vec<_> = self.numbers.drain(..).zip(events.drain(..)).collect();
        for (number, event) in &mut all {
            if let Some(time) = number.and_then(|number| times.get(number)) {
                (event.at, event.glide) = (time.at, time.glide);
            }
        }
        all.sort_by(|(_, one), (_, other)| one.at.total_cmp(&other.at));
        (self.numbers, *events) = all.into_iter().unzip();
    }

    /// Changes the time of an event. Returns its new place.
    pub fn retime(
        &mut self,
        events: &mut Vec<Event>,
        index: usize,
        time: EventTime,
    ) -> Option<usize> {
        let number = self.number_of(index)?;
        let mut times = self.times(events);
        *times.get_mut(number)? = time;
        self.set_times(events, &times);
        self.numbers.iter().position(|one| *one == Some(number))
    }

    /// The times were written to the file, where the events are now in order of time.
    pub fn note_saved(&mut self, events: &[Event]) {
        let mut next = 0..;
        self.numbers.iter_mut().flatten().for_each(|number| *number = next.next().unwrap_or(0));
        let own = self.numbers.iter().zip(events).filter(|(number, _)| number.is_some());
        self.saved = own.map(|(_, event)| EventTime::of(event)).collect();
    }

    /// Returns whether a time differs from the file.
    pub fn is_changed(&self, events: &[Event]) -> bool {
        self.times(events) != self.saved
    }
}
