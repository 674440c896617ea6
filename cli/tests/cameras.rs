//! The verdicts on twenty cameras: `compare` marks what is bad about the bad ones, and nothing of the good ones.

use std::path::Path;

use crate::tools::Folder;

/// The figures that `compare` marks, with the names of its table.
fn marked(take: &str) -> Vec<String> {
    let text = Folder::new(&[]).ok(&["compare", take]);
    let lines = text.lines().filter_map(|line| line.strip_prefix("! "));
    lines.map(|line| line.split(',').next().expect("a name").to_owned()).collect()
}

#[test]
fn each_camera_gets_its_verdict() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cameras");
    let mut judged = 0;
    for entry in std::fs::read_dir(folder).expect("there") {
        let path = entry.expect("readable").path();
        if path.extension().is_none_or(|ending| ending != "toml") {
            continue;
        }
        let text = std::fs::read_to_string(&path).expect("text");
        let verdict = text.lines().find_map(|line| line.strip_prefix("# Verdict: "));
        let verdict = verdict.expect("a verdict");
        let marked = marked(&path.to_string_lossy());
        if verdict == "comfortable" {
            assert!(marked.is_empty(), "{}: {marked:?}", path.display());
        } else {
            let worst = verdict.split(',').next().expect("a figure").replace('_', " ");
            let worst = worst.replace("lag p95", "lag");
            assert!(marked.contains(&worst), "{}: {marked:?} without {worst}", path.display());
        }
        judged += 1;
    }
    assert_eq!(judged, 20);
}
