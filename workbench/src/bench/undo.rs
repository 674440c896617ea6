//! Undo and redo for the changes of a tuning.

use velvet_pan::Settings;

/// The maximum number of steps that are kept.
const MOST: usize = 200;

/// The settings before each change.
#[derive(Debug)]
pub struct Undo {
    done: Vec<Settings>,
    undone: Vec<Settings>,
    now: Settings,
}

impl Undo {
    /// Creates an empty history.
    pub fn new(now: &Settings) -> Self {
        Self { done: Vec::new(), undone: Vec::new(), now: now.clone() }
    }

    /// Records a change. A drag is one change: it is recorded when the pointer is released.
    pub fn note(&mut self, now: &Settings, pointer_is_down: bool) {
        if pointer_is_down || *now == self.now {
            return;
        }
        self.done.push(std::mem::replace(&mut self.now, now.clone()));
        self.undone.clear();
        if self.done.len() > MOST {
            self.done.remove(0);
        }
    }

    /// Returns the settings before the last change, and keeps the current ones for redo.
    pub fn undo(&mut self) -> Option<&Settings> {
        let before = self.done.pop()?;
        self.undone.push(std::mem::replace(&mut self.now, before));
        Some(&self.now)
    }

    /// Returns the settings before the last undo.
    pub fn redo(&mut self) -> Option<&Settings> {
        let after = self.undone.pop()?;
        self.done.push(std::mem::replace(&mut self.now, after));
        Some(&self.now)
    }

    /// Returns whether there is something to undo, and something to redo.
    pub fn can(&self) -> [bool; 2] {
        [!self.done.is_empty(), !self.undone.is_empty()]
    }
}
