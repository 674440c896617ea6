//! The checks of a take that need its values only, and no path or map.

use std::collections::BTreeMap;

use velvet_pan::Settings;

use crate::take::event::Event;
use crate::take::path::MAX_COORDINATE;
use crate::take::subjects::{MAIN, TakeCamera};
use crate::take::take_file::TakeFile;
use crate::text::document::Document;
use crate::text::fault::Fault;

/// What an event may name: its key, the name in an event, and the names in a tuning.
type Named = (&'static str, fn(&Event) -> Option<&String>, fn(&Settings) -> Vec<&String>);

impl TakeFile {
    /// Returns every fault of values that do not fit each other.
    pub fn check(&self, document: &Document) -> Vec<Fault> {
        let mut faults = Vec::new();
        let mut before = 0.0;
        for (index, event) in self.events.iter().enumerate() {
            let mut add = |key: &str, what: String| {
                faults.push(document.fault(&format!("events.{index}.{key}"), what));
            };
            if !event.at.is_finite() || event.at < before {
                let what = format!("{}: expected a time of {before} or later", event.at);
                add("at", what);
            } else {
                before = event.at;
            }
            for (key, what) in self.event_faults(event) {
                add(key, what);
            }
        }
        for (name, at) in &self.gates {
            if !(0.0..=86_400.0).contains(at) {
                let what = format!("{at}: expected a time from 0 to 86400 seconds");
                faults.push(document.fault(&format!("gates.{name}"), what));
            }
        }
        if let Some(Err(what)) = self.window.map(check_window) {
            faults.push(document.fault("window", what));
        }
        let played = self.player.iter().filter_map(|player| player.subject.as_ref());
        for what in played.filter_map(|name| self.check_name(name).err()) {
            faults.push(document.fault("player.subject", what));
        }
        faults
    }

    /// Faults in the keys of an event.
    fn event_faults(&self, event: &Event) -> Vec<(&'static str, String)> {
        let mut faults = Vec::new();
        for name in event.watch.iter().flatten() {
            faults.extend(self.check_name(name).err().map(|what| ("watch", what)));
        }
        if let Some(name) = event.camera.as_ref().filter(|name| *name != MAIN)
            && !self.cameras.contains_key(name)
        {
            let known: Vec<&str> = self.cameras.keys().map(String::as_str).chain([MAIN]).collect();
            let what = format!("no camera \"{name}\": expected one of {}", known.join(", "));
            faults.push(("camera", what));
        }
        if event.zoom.is_some_and(|zoom| !(1e-6..=1e6).contains(&zoom)) {
            faults.push(("zoom", "expected 0.000001 to 1000000".to_owned()));
        }
        if event.zoom_now.is_some_and(|zoom| !(1e-6..=1e6).contains(&zoom)) {
            faults.push(("zoom_now", "expected 0.000001 to 1000000".to_owned()));
        }
        if let Some(Err(what)) = event.way() {
            faults.push(("travel", what));
        }
        if let Some(name) = event.first_bad_number() {
            faults.push((name, format!("expected numbers up to {MAX_COORDINATE:e}")));
        }
        let empty = |rect: Option<[f64; 4]>| rect.is_some_and(|[_, _, w, h]| w <= 0.0 || h <= 0.0);
        for (name, _) in
            [("show", event.show), ("bounds", event.bounds)].into_iter().filter(|one| empty(one.1))
        {
            faults.push((name, "expected x, y, width and height, the latter above 0".to_owned()));
        }
        if event.glide.is_some_and(|seconds| !(0.0..=86_400.0).contains(&seconds)) {
            faults.push(("glide", "expected 0 to 86400 seconds".to_owned()));
        }
        if let Some(Err(what)) = event.window.map(check_window) {
            faults.push(("window", what));
        }
        faults
    }

    /// Checks that every cue and every outline that an event names exists in the tuning, or in the tuning of a camera.
    pub fn check_names(
        &self,
        settings: &Settings,
        cameras: &BTreeMap<String, TakeCamera>,
        document: &Document,
    ) -> Vec<Fault> {
        let kinds: [Named; 2] = [
            ("cue", |event| event.cue.as_ref(), |tuning| tuning.cues.keys().collect()),
            ("outline", |event| event.outline.as_ref(), |tuning| tuning.outlines.keys().collect()),
        ];
        let faults = kinds.iter().flat_map(|(kind, named, known)| {
            let is_known = |name: &String| {
                let own = |camera: &TakeCamera| known(&camera.settings).contains(&name);
                known(settings).contains(&name) || cameras.values().any(own)
            };
            let fault = move |(index, event): (usize, &Event)| {
                let name = named(event).filter(|name| !is_known(name))?;
                let all: Vec<&str> = known(settings).into_iter().map(String::as_str).collect();
                let all = if all.is_empty() { "none".to_owned() } else { all.join(", ") };
                let what = format!("no {kind} \"{name}\": the tuning has {all}");
                Some(document.fault(&format!("events.{index}.{kind}"), what))
            };
            self.events.iter().enumerate().filter_map(fault)
        });
        faults.collect()
    }

    /// Checks that a subject has this name.
    pub fn check_name(&self, name: &str) -> Result<(), String> {
        if self.subjects.contains_key(name) {
            return Ok(());
        }
        let known: Vec<&str> = self.subjects.keys().map(String::as_str).collect();
        Err(format!("no subject \"{name}\": expected one of {}", known.join(", ")))
    }
}

fn check_window(window: [u32; 2]) -> Result<(), String> {
    if window.iter().all(|side| *side <= 16_384) {
        return Ok(());
    }
    Err(format!("window {window:?}: expected at most 16384 pixels a side"))
}
