//! Nothing but a place to run the library's rides from: see `tests/rides`.
