//! The takes of the demo.

use std::fs;
use std::path::PathBuf;

use velvet_pan_takes::Take;

fn folder() -> PathBuf {
    PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../terraces/demo")
}

/// The names of all takes of the demo.
pub fn demos() -> Vec<String> {
    let files = fs::read_dir(folder()).expect("a folder").map(|entry| entry.expect("one").path());
    let takes = files.filter(|path| {
        path.extension().is_some_and(|it| it == "toml")
            && fs::read_to_string(path).expect("text").contains("[subjects.")
    });
    takes.map(|path| path.file_stem().expect("a name").to_string_lossy().into_owned()).collect()
}

pub fn demo(name: &str) -> Take {
    Take::open(folder().join(format!("{name}.toml"))).expect("a take of the demo")
}
