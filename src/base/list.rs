//! A list with a fixed capacity, for state that is copied and never allocates.

use core::fmt;
use core::ops::{Deref, DerefMut};

/// Up to `N` items in order. It is `Copy`, compares by its items, and refuses an item that does not fit.
#[derive(Clone, Copy)]
pub(crate) struct List<T, const N: usize> {
    items: [T; N],
    count: u32,
}

impl<T: Copy + Default, const N: usize> Default for List<T, N> {
    #[inline]
    fn default() -> Self {
        Self { items: [T::default(); N], count: 0 }
    }
}

impl<T: Copy, const N: usize> List<T, N> {
    /// Creates an empty list of a type without a default. `filler` is never visible.
    #[inline]
    pub fn empty(filler: T) -> Self {
        Self { items: [filler; N], count: 0 }
    }

    /// Returns whether no other item fits.
    #[inline]
    pub fn is_full(&self) -> bool {
        self.len() == N
    }

    /// Appends an item. Returns `false`, and changes nothing, if the list is full.
    #[inline]
    pub fn push(&mut self, item: T) -> bool {
        let count = self.len();
        let fits = count < N;
        if fits {
            self.items[count] = item;
            self.count += 1;
        }
        fits
    }

    /// Removes the item at `index`; the later ones move up.
    pub fn remove(&mut self, index: usize) {
        let count = self.len();
        if index < count {
            self.items.copy_within(index + 1..count, index);
            self.count -= 1;
        }
    }

    /// Keeps the items for which `keep` returns `true`, in their order. `keep` may change them.
    pub fn retain(&mut self, mut keep: impl FnMut(&mut T) -> bool) {
        let mut kept = 0;
        for index in 0..self.len() {
            if keep(&mut self.items[index]) {
                if kept != index {
                    self.items[kept] = self.items[index];
                }
                kept += 1;
            }
        }
        self.count = kept as u32;
    }

    /// Keeps the first `count` items.
    #[inline]
    pub fn truncate(&mut self, count: usize) {
        self.count = self.count.min(count as u32);
    }
}

/// Shows only the items: the memory beyond them is not part of the list.
impl<T: fmt::Debug, const N: usize> fmt::Debug for List<T, N> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_list().entries(self.iter()).finish()
    }
}

impl<T, const N: usize> Deref for List<T, N> {
    type Target = [T];

    #[inline]
    fn deref(&self) -> &[T] {
        &self.items[..(self.count as usize).min(N)]
    }
}

impl<T, const N: usize> DerefMut for List<T, N> {
    #[inline]
    fn deref_mut(&mut self) -> &mut [T] {
        &mut self.items[..(self.count as usize).min(N)]
    }
}

impl<T: PartialEq, const N: usize> PartialEq for List<T, N> {
    fn eq(&self, other: &Self) -> bool {
        **self == **other
    }
}

/// Writes a list as its items. Refuses one that is too long when reading.
#[cfg(feature = "serde")]
mod serial {
    use core::fmt;
    use core::marker::PhantomData;

    use serde::de::{Deserialize, Deserializer, Error, SeqAccess, Visitor};
    use serde::ser::{Serialize, Serializer};

    use super::List;

    impl<T: Serialize, const N: usize> Serialize for List<T, N> {
        fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
            serializer.collect_seq(self.iter())
        }
    }

    impl<'de, T: Deserialize<'de> + Copy + Default, const N: usize> Deserialize<'de> for List<T, N> {
        fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
            deserializer.deserialize_seq(Items(PhantomData))
        }
    }

    struct Items<T, const N: usize>(PhantomData<T>);

    impl<'de, T: Deserialize<'de> + Copy + Default, const N: usize> Visitor<'de> for Items<T, N> {
        type Value = List<T, N>;

        fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
            write!(f, "a list of at most {N} items")
        }

        fn visit_seq<A: SeqAccess<'de>>(self, mut items: A) -> Result<Self::Value, A::Error> {
            let mut list = List::default();
            while let Some(item) = items.next_element()? {
                if !list.push(item) {
                    return Err(A::Error::invalid_length(N + 1, &self));
                }
            }
            Ok(list)
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use std::vec::Vec;

    proptest! {
        /// Compares with the standard vector.
        #[test]
        fn it_does_what_a_vector_does(steps in prop::collection::vec((0..3_u8, 0..9_usize, any::<i32>()), 0..60)) {
            let (mut list, mut vector) = (List::<i32, 6>::default(), Vec::new());
            for (kind, index, item) in steps {
                match kind {
                    0 => {
                        let fits = vector.len() < 6;
                        prop_assert_eq!(list.push(item), fits);
                        if fits { vector.push(item); }
                    }
                    1 => {
                        list.remove(index);
                        if index < vector.len() { vector.remove(index); }
                    }
                    _ => {
                        list.retain(|item| *item % 3 != 0);
                        vector.retain(|item| item % 3 != 0);
                    }
                }
                prop_assert_eq!(&list[..], &vector[..]);
                prop_assert_eq!(list.is_full(), vector.len() == 6);
            }
        }
    }
}
