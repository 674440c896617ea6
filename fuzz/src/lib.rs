//! Input that nobody would write, and what must hold whatever it is.
//!
//! Each module has one `check` of some bytes that panics where a promise is broken. Tests call it with the files in
//! `corpus/` and with random bytes; `cargo +nightly fuzz run NAME` calls it with bytes that reach ever more of the
//! code, until it is stopped.

pub mod camera;
pub mod culling;
pub mod draw;
pub mod files;
#[path = "../../tests/game/mod.rs"]
mod game;
pub mod presenting;
pub mod tables;

/// The program of one target: a fuzzer's, or one that checks the files it is given.
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
