//! Numbers that some file formats can't write.

/// A float that may be infinite. Infinities are written as `"inf"` or `"-inf"`, which every format can. Both notations
/// can be read.
pub(crate) mod float {
    use core::fmt;

    use serde::de::{Deserializer, Error, Visitor};
    use serde::ser::Serializer;

    pub(crate) fn serialize<S: Serializer>(value: &f64, serializer: S) -> Result<S::Ok, S::Error> {
        match *value {
            f64::INFINITY => serializer.serialize_str("inf"),
            f64::NEG_INFINITY => serializer.serialize_str("-inf"),
            value => serializer.serialize_f64(value),
        }
    }

    pub(crate) fn deserialize<'de, D: Deserializer<'de>>(input: D) -> Result<f64, D::Error> {
        input.deserialize_any(Float)
    }

    struct Float;

    impl Visitor<'_> for Float {
        type Value = f64;

        fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
            f.write_str("a number, or \"inf\"")
        }

        fn visit_f64<E: Error>(self, value: f64) -> Result<f64, E> {
            Ok(value)
        }

        fn visit_i64<E: Error>(self, value: i64) -> Result<f64, E> {
            Ok(value as f64)
        }

        fn visit_u64<E: Error>(self, value: u64) -> Result<f64, E> {
            Ok(value as f64)
        }

        fn visit_str<E: Error>(self, word: &str) -> Result<f64, E> {
            match word {
                "inf" => Ok(f64::INFINITY),
                "-inf" => Ok(f64::NEG_INFINITY),
                _ => Err(E::invalid_value(serde::de::Unexpected::Str(word), &self)),
            }
        }
    }
}

/// A whole number of 64 bits. Those beyond `i64`, which some formats can't write, are written as the negative number
/// with the same bits.
pub(crate) mod bits {
    use core::fmt;

    use serde::de::{Deserializer, Error, Visitor};
    use serde::ser::Serializer;

    pub(crate) fn serialize<S: Serializer>(value: &u64, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_i64(value.cast_signed())
    }

    pub(crate) fn deserialize<'de, D: Deserializer<'de>>(input: D) -> Result<u64, D::Error> {
        input.deserialize_any(Bits)
    }

    struct Bits;

    impl Visitor<'_> for Bits {
        type Value = u64;

        fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
            f.write_str("a whole number")
        }

        fn visit_i64<E: Error>(self, value: i64) -> Result<u64, E> {
            Ok(value.cast_unsigned())
        }

        fn visit_u64<E: Error>(self, value: u64) -> Result<u64, E> {
            Ok(value)
        }
    }
}
