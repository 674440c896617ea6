//! How a struct of settings describes its keys for a tuning file: name, help, unit, range and default of each, its
//! value of any type, and the error for a value that is refused. It uses `base`.

pub(crate) mod error;
pub(crate) mod keys;
#[cfg(feature = "serde")]
pub(crate) mod number;
pub(crate) mod per_axis;
pub(crate) mod setting;
pub(crate) mod value;
