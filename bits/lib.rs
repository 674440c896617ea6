//! An empty library from which the rides of `tests/rides` are compiled.
