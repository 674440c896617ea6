//! Only benchmarks: `cargo bench -p velvet-pan-benches`.
