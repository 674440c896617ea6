//! What several tests share.

use proptest::prelude::ProptestConfig;
use proptest::test_runner::RngSeed;

/// So many random cases, the same ones every time.
pub fn config(cases: u32) -> ProptestConfig {
    ProptestConfig {
        cases,
        failure_persistence: None,
        rng_seed: RngSeed::Fixed(20),
        ..ProptestConfig::default()
    }
}
