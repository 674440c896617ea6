//! `cargo +nightly fuzz run presenting`, or, without it, the files that are named.
#![cfg_attr(fuzzing, no_main)]

velvet_pan_fuzz::target!(presenting);
