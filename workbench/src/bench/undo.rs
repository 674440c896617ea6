//! Steps back and forth through the changes of a tuning.

use velvet_pan::Settings;

/// As many steps as are kept.
const MOST: usize = 200;

/// The settings before each change.
#[derive(Debug)]
pub struct Undo {
    done: Vec<Settings>,
    undone: Vec<Settings>,
    now: Settings,
}

impl Undo {
    /// Nothing to undo.
    pub fn new(now: &Settings) -> Self {
        Self { done: Vec::new(), undone: Vec::new(), now: now.clone() }
    }

    /// Notes a change. A drag is one: nothing is noted before the pointer is let go of.
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

    /// The settings before the last change; what is there now can be had again.
    pub fn undo(&mut self) -> Option<&Settings> {
        let before = self.done.pop()?;
        self.undone.push(std::mem::replace(&mut self.now, before));
        Some(&self.now)
    }

    /// The settings before the last step back.
    pub fn redo(&mut self) -> Option<&Settings> {
        let after = self.undone.pop()?;
        self.done.push(std::mem::replace(&mut self.now, after));
        Some(&self.now)
    }

    /// Whether there is something to undo, and to redo.
    pub fn can(&self) -> [bool; 2] {
        [!self.done.is_empty(), !self.undone.is_empty()]
    }
}
