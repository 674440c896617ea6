//! The hash FNV-1a.

/// The hash of what was added.
#[derive(Clone, Copy, Debug)]
pub struct Hash(pub u64);

impl Default for Hash {
    fn default() -> Self {
        Self(0xcbf2_9ce4_8422_2325)
    }
}

impl Hash {
    /// Adds a byte, or a word as one.
    pub fn add(&mut self, word: u64) {
        self.0 = (self.0 ^ word).wrapping_mul(0x0100_0000_01b3);
    }
}
