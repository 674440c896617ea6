//! One setting for both axes, or one for each axis.

use crate::keys::value::{SettingValue, Value};

/// A setting that may differ between the screen's two axes.
///
/// In a tuning file it is written once for both, `small = "start"`, or as a table of the two:
/// `small = { x = "centre", y = "end" }`; an axis left out has the default.
///
/// ```
/// use velvet_pan::{PerAxis, Smoothing};
///
/// let same = PerAxis::both(Smoothing::HalfLife(0.1));
/// assert_eq!(same.x, same.y);
/// assert_eq!(PerAxis::from(Smoothing::HalfLife(0.1)), same);
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct PerAxis<T> {
    /// Along `x`.
    pub x: T,
    /// Along `y`.
    pub y: T,
}

impl<T: Copy> PerAxis<T> {
    /// Uses the same value for both axes.
    pub const fn both(value: T) -> Self {
        Self { x: value, y: value }
    }
}

impl<T: Copy> From<T> for PerAxis<T> {
    fn from(value: T) -> Self {
        Self::both(value)
    }
}

impl<T: SettingValue + PartialEq> SettingValue for PerAxis<T> {
    fn value(&self) -> Option<Value> {
        if self.x == self.y {
            return self.x.value();
        }
        match (self.x.value()?, self.y.value()?) {
            (Value::Choice(x), Value::Choice(y)) => Some(Value::PerAxis([x, y])),
            _ => None,
        }
    }

    fn of(value: &Value) -> Option<Self> {
        let [x, y] = match value {
            Value::PerAxis(axes) => axes.clone().map(Value::Choice),
            value => [value.clone(), value.clone()],
        };
        Some(Self { x: T::of(&x)?, y: T::of(&y)? })
    }
}

#[cfg(feature = "serde")]
mod serial {
    use core::fmt;
    use core::marker::PhantomData;

    use alloc::string::String;
    use serde::de::value::{MapAccessDeserializer, StrDeserializer, StringDeserializer};
    use serde::de::{DeserializeSeed, Deserializer, Error, MapAccess, Visitor};
    use serde::ser::{SerializeStruct, Serializer};
    use serde::{Deserialize, Serialize};

    use super::PerAxis;

    impl<T: Serialize + PartialEq> Serialize for PerAxis<T> {
        fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
            if self.x == self.y {
                return self.x.serialize(serializer);
            }
            let mut table = serializer.serialize_struct("PerAxis", 2)?;
            table.serialize_field("x", &self.x)?;
            table.serialize_field("y", &self.y)?;
            table.end()
        }
    }

    impl<'de, T: Deserialize<'de> + Copy + Default> Deserialize<'de> for PerAxis<T> {
        fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
            deserializer.deserialize_any(OneOrTwo(PhantomData))
        }
    }

    struct OneOrTwo<T>(PhantomData<T>);

    impl<'de, T: Deserialize<'de> + Copy + Default> Visitor<'de> for OneOrTwo<T> {
        type Value = PerAxis<T>;

        fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
            f.write_str("one setting for both axes, or a table of x and y")
        }

        fn visit_str<E: Error>(self, word: &str) -> Result<Self::Value, E> {
            T::deserialize(StrDeserializer::new(word)).map(PerAxis::both)
        }

        fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<Self::Value, A::Error> {
            let first: Option<String> = map.next_key()?;
            if !matches!(first.as_deref(), Some("x" | "y")) {
                let whole = MapAccessDeserializer::new(Resumed { first, map });
                return T::deserialize(whole).map(PerAxis::both);
            }
            let mut axes = PerAxis::default();
            let mut key = first;
            while let Some(axis) = key {
                match axis.as_str() {
                    "x" => axes.x = map.next_value()?,
                    "y" => axes.y = map.next_value()?,
                    other => return Err(A::Error::unknown_field(other, &["x", "y"])),
                }
                key = map.next_key()?;
            }
            Ok(axes)
        }
    }

    /// A table whose first key was already read.
    struct Resumed<A> {
        first: Option<String>,
        map: A,
    }

    impl<'de, A: MapAccess<'de>> MapAccess<'de> for Resumed<A> {
        type Error = A::Error;

        fn next_key_seed<K: DeserializeSeed<'de>>(
            &mut self,
            seed: K,
        ) -> Result<Option<K::Value>, Self::Error> {
            match self.first.take() {
                Some(key) => seed.deserialize(StringDeserializer::new(key)).map(Some),
                None => self.map.next_key_seed(seed),
            }
        }

        fn next_value_seed<V: DeserializeSeed<'de>>(
            &mut self,
            seed: V,
        ) -> Result<V::Value, Self::Error> {
            self.map.next_value_seed(seed)
        }
    }
}
