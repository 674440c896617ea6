//! `cargo +nightly fuzz run presenting`; without a fuzzer, a program that checks the given files.
#![cfg_attr(fuzzing, no_main)]

velvet_pan_fuzz::target!(presenting);
