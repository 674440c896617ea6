//! Hostile inputs, and the promises that hold for all of them.
//!
//! Each module has a function `check` of some bytes that panics if a promise is broken. Tests call it with the files
//! in `corpus/` and with random bytes. `cargo +nightly fuzz run NAME` calls it with bytes that reach more and more of
//! the code, until it is stopped.

pub mod camera;
pub mod culling;
pub mod draw;
pub mod files;
#[path = "../../tests/random_play/mod.rs"]
mod random_play;
pub mod presenting;
pub mod tables;

/// The program of one target: a fuzzer, or a program that checks the given files.
#[macro_export]
macro_rules! target {
    ($name:ident) => {
        #[cfg(fuzzing)]
        libfuzzer_sys::fuzz_target!(|bytes: &[u8]| $crate::$name::check(bytes));

        #[cfg(not(fuzzing))]
        fn main() -> std::io::Result<()> {
            for file in std::env::args_os().skip(1) {
                $crate::$name::check(&std::fs::read(file)?);
            }
            Ok(())
        }
    };
}
