//! A rectangle in a file: `[x, y, width, height]`, or, if no size gives the corners to the bit,
//! `{ min = [x, y], max = [x, y] }`.

use core::fmt;

use crate::base::rect::Rect;

/// A rectangle as a file has it.
pub(crate) enum InFile {
    /// `[x, y, width, height]`.
    CornerAndSize([f64; 4]),
    /// `{ min = [x, y], max = [x, y] }`, if no size gives the corners exactly.
    Corners(Rect),
}

impl Rect {
    pub(crate) fn in_a_file(&self) -> InFile {
        let Self { min, max } = *self;
        let exact = |min: f64, max: f64| {
            let size = max - min;
            let near = [size, size.next_up(), size.next_down(), size.next_up().next_up()];
            near.into_iter().find(|size| min + size == max)
        };
        match exact(min.x, max.x).zip(exact(min.y, max.y)) {
            Some((width, height)) => InFile::CornerAndSize([min.x, min.y, width, height]),
            None => InFile::Corners(*self),
        }
    }
}

impl fmt::Display for InFile {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::CornerAndSize(numbers) => write!(f, "{numbers:?}"),
            // Only a message names what is not a number, as the user wrote it.
            Self::Corners(rect) if rect.min.is_nan() || rect.max.is_nan() => {
                let ([x, y], [width, height]) = (rect.min.to_array(), rect.size().to_array());
                write!(f, "{:?}", [x, y, width, height])
            }
            Self::Corners(Rect { min, max }) => {
                write!(f, "{{ min = {:?}, max = {:?} }}", min.to_array(), max.to_array())
            }
        }
    }
}

#[cfg(feature = "serde")]
mod serial {
    use core::fmt;

    use alloc::string::String;

    use glam::DVec2;
    use serde::de::{Deserialize, Deserializer, Error, MapAccess, SeqAccess, Visitor};
    use serde::ser::{Serialize, SerializeStruct, Serializer};

    use super::{InFile, Rect};

    impl Serialize for Rect {
        fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
            let Self { min, max } = match self.in_a_file() {
                InFile::CornerAndSize(numbers) => return numbers.serialize(serializer),
                InFile::Corners(rect) => rect,
            };
            let mut table = serializer.serialize_struct("Rect", 2)?;
            table.serialize_field("min", &min.to_array())?;
            table.serialize_field("max", &max.to_array())?;
            table.end()
        }
    }

    impl<'de> Deserialize<'de> for Rect {
        fn deserialize<D: Deserializer<'de>>(input: D) -> Result<Self, D::Error> {
            input.deserialize_any(NumbersOrCorners)
        }
    }

    struct NumbersOrCorners;

    impl<'de> Visitor<'de> for NumbersOrCorners {
        type Value = Rect;

        fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
            f.write_str("x, y, width and height in a list")
        }

        /// Keeps the numbers as written, so that a negative size is reported and not silently corrected.
        fn visit_seq<A: SeqAccess<'de>>(self, mut items: A) -> Result<Rect, A::Error> {
            let mut numbers = [0.0; 4];
            for (index, number) in numbers.iter_mut().enumerate() {
                let item = items.next_element()?;
                *number = item.ok_or_else(|| A::Error::invalid_length(index, &self))?;
            }
            if items.next_element::<f64>()?.is_some() {
                return Err(A::Error::invalid_length(5, &self));
            }
            let [x, y, width, height] = numbers;
            Ok(Rect { min: (x, y).into(), max: (x + width, y + height).into() })
        }

        fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<Rect, A::Error> {
            let (mut min, mut max): (Option<[f64; 2]>, Option<[f64; 2]>) = (None, None);
            while let Some(key) = map.next_key::<String>()? {
                match key.as_str() {
                    "min" => min = Some(map.next_value()?),
                    "max" => max = Some(map.next_value()?),
                    other => return Err(A::Error::unknown_field(other, &["min", "max"])),
                }
            }
            let corner = |corner: Option<[f64; 2]>, name| {
                corner.map(DVec2::from).ok_or_else(|| A::Error::missing_field(name))
            };
            Ok(Rect { min: corner(min, "min")?, max: corner(max, "max")? })
        }
    }
}
