//! Undo and redo.

/// The maximum number of steps that are kept.
const MAX_STEPS: usize = 200;

/// A value, and what it was before each change.
#[derive(Debug)]
pub struct Undo<T> {
    done: Vec<T>,
    undone: Vec<T>,
    now: T,
}

impl<T> Undo<T> {
    /// Creates an empty history.
    pub fn new(now: T) -> Self {
        Self { done: Vec::new(), undone: Vec::new(), now }
    }

    /// Returns the value of the last change.
    pub fn now(&self) -> &T {
        &self.now
    }

    /// Records a change.
    pub fn note(&mut self, now: T) {
        self.done.push(std::mem::replace(&mut self.now, now));
        self.undone.clear();
        if self.done.len() > MAX_STEPS {
            self.done.remove(0);
        }
    }

    /// Returns the value before the last change, and keeps the current one for redo.
    pub fn undo(&mut self) -> Option<&T> {
        let before = self.done.pop()?;
        self.undone.push(std::mem::replace(&mut self.now, before));
        Some(&self.now)
    }

    /// Returns the value before the last undo.
    pub fn redo(&mut self) -> Option<&T> {
        let after = self.undone.pop()?;
        self.done.push(std::mem::replace(&mut self.now, after));
        Some(&self.now)
    }

    /// Returns whether there is something to undo, and something to redo.
    pub fn can(&self) -> [bool; 2] {
        [!self.done.is_empty(), !self.undone.is_empty()]
    }
}
