//! The takes of the demo.

use std::path::PathBuf;

use velvet_pan_takes::Take;

pub const DEMOS: [&str; 11] = [
    "terraces",
    "gully",
    "pan",
    "valley",
    "kite",
    "house",
    "shrine",
    "cable",
    "landslide",
    "cutscene",
    "changes",
];

pub fn demo(name: &str) -> Take {
    let folder = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../terraces/demo");
    Take::open(folder.join(format!("{name}.toml"))).expect("a take of the demo")
}
