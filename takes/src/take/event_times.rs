//! The times of events, written into the file of their take.

use std::convert::identity;
use std::path::Path;

use toml_edit::{Array, ArrayOfTables, DocumentMut, Item, TableLike, Value};

use crate::take::event::Event;
use crate::take::take_file::TakeFile;
use crate::text::atomic_write::write_whole;
use crate::text::document::Document;
use crate::text::fault::Fault;
use crate::text::files::{Files, reason};
use crate::tuning::tuning_text::change_number;

/// When an event happens, and how long it takes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct EventTime {
    /// Time from the start of the take, in seconds.
    pub at: f64,
    /// Its duration, in seconds, if it has one.
    pub glide: Option<f64>,
}

impl EventTime {
    /// Returns the time of an event.
    #[must_use]
    pub fn of(event: &Event) -> Self {
        Self { at: event.at, glide: event.glide }
    }

    /// Writes the times of a take's events into its file: the first belongs to the first event of the file, and so on.
    /// Events that are now in another order change places, each with the comment above it. Everything else stays as it
    /// is. The file appears whole or not at all.
    ///
    /// # Errors
    ///
    /// The file can't be read or written, or has another number of events.
    ///
    /// ```
    /// # use velvet_pan_takes::{EventTime, Take};
    /// let path = std::env::temp_dir().join("velvet-pan-times.toml");
    /// std::fs::write(&path, "seconds = 9.0\n[[events]] # the bell\nat = 2.0 # soon\ncut = true\n")?;
    /// EventTime::save(&path, &[EventTime { at: 3.5, glide: None }])?;
    /// assert_eq!(Take::open(&path)?.events[0].at, 3.5);
    /// assert!(std::fs::read_to_string(&path)?.contains("at = 3.5 # soon\n"));
    /// # std::fs::remove_file(&path)?;
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn save(path: impl AsRef<Path>, times: &[Self]) -> Result<(), Fault> {
        let path = path.as_ref();
        let fault = |what: String| Fault::of_file(path, format!("not saved: {what}"));
        let document = Document::read(Files::Disk, path)?;
        let (file, faults) = TakeFile::read(&document, &[]);
        if let Some(fault) = faults.into_iter().next() {
            return Err(fault);
        }
        let (had, have) = (file.events.len(), times.len());
        if had != have {
            return Err(fault(format!("its file has {had} events now: expected {have}")));
        }
        let text = changed(document.text(), times)
            .ok_or_else(|| fault("its text could not be changed".to_owned()))?;
        if text == document.text() {
            return Ok(());
        }
        write_whole(path, identity, |out| out.write_all(text.as_bytes()))
            .map_err(|error| fault(reason(&error)))
    }

    fn write(&self, table: &mut dyn TableLike) {
        change_number(table, "at", self.at);
        if let Some(glide) = self.glide {
            change_number(table, "glide", glide);
        }
    }
}

/// Returns the text with these times.
fn changed(text: &str, times: &[EventTime]) -> Option<String> {
    let mut document: DocumentMut = text.parse().ok()?;
    match document.get_mut("events") {
        Some(Item::ArrayOfTables(tables)) => write_tables(tables, times),
        Some(Item::Value(Value::Array(array))) => write_array(array, times),
        _ => {}
    }
    Some(document.to_string())
}

/// Where each event stands after it is put in order of time.
fn in_order(times: &[EventTime]) -> Vec<usize> {
    let mut order: Vec<usize> = (0..times.len()).collect();
    order.sort_by(|one, other| times[*one].at.total_cmp(&times[*other].at));
    order
}

fn write_tables(tables: &mut ArrayOfTables, times: &[EventTime]) {
    tables.iter_mut().zip(times).for_each(|(table, time)| time.write(table));
    let before: Vec<_> = tables.iter().cloned().collect();
    let places: Vec<_> = before.iter().map(toml_edit::Table::position).collect();
    tables.clear();
    for (index, place) in in_order(times).into_iter().zip(places) {
        let mut table = before[index].clone();
        table.set_position(place);
        tables.push(table);
    }
}

fn write_array(array: &mut Array, times: &[EventTime]) {
    for (value, time) in array.iter_mut().zip(times) {
        if let Some(table) = value.as_inline_table_mut() {
            time.write(table);
        }
    }
    let before: Vec<Value> = array.iter().cloned().collect();
    for (value, index) in array.iter_mut().zip(in_order(times)) {
        *value = before[index].clone();
    }
}
