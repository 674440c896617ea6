//! The verdicts on twenty cameras: `compare` marks what is bad about the bad ones, and nothing of the good ones. Its
//! tips cure without harm.

use std::path::Path;

use crate::tools::{Folder, tip_in};

/// What `compare` prints of a take after these changes.
fn compared(take: &str, changes: &[&str]) -> String {
    let sets = changes.iter().flat_map(|change| ["--set", change]);
    let args: Vec<&str> = ["compare", take].into_iter().chain(sets).collect();
    Folder::new(&[]).ok(&args)
}

/// The figures that it marks, with the names of its table.
fn marked(text: &str) -> Vec<String> {
    let lines = text.lines().filter_map(|line| line.strip_prefix("! "));
    // Names may have a comma, units follow one.
    let name = |line: &str| {
        line.split(':').next().and_then(|start| start.rsplit_once(", ")).unwrap().0.to_owned()
    };
    lines.map(name).collect()
}

#[test]
fn each_camera_gets_its_verdict() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cameras");
    let (mut judged, mut cured) = (0, 0);
    for entry in std::fs::read_dir(folder).expect("there") {
        let path = entry.expect("readable").path();
        if path.extension().is_none_or(|ending| ending != "toml") {
            continue;
        }
        let text = std::fs::read_to_string(&path).expect("text");
        let verdict = text.lines().find_map(|line| line.strip_prefix("# Verdict: "));
        let verdict = verdict.expect("a verdict");
        let take = path.to_string_lossy();
        let text = compared(&take, &[]);
        let marked = marked(&text);
        if verdict == "comfortable" {
            assert!(marked.is_empty(), "{}: {marked:?}", path.display());
        } else {
            let worst = verdict.split(',').next().expect("a figure").replace('_', " ");
            let worst = worst.replace("lag p95", "lag, 95th percentile");
            assert!(marked.contains(&worst), "{}: {marked:?} without {worst}", path.display());
            cured += u32::from(is_cured(&take, &text, &marked));
        }
        judged += 1;
    }
    assert_eq!((judged, cured), (20, 8));
}

/// Whether the tip takes away every mark. It never adds one, and it says which stay.
fn is_cured(take: &str, text: &str, marked_before: &[String]) -> bool {
    let line = text.lines().find(|line| tip_in(line).is_some());
    let line = line.unwrap_or_else(|| panic!("{take}: no tip in {text}"));
    let left = marked(&compared(take, &tip_in(line).expect("a tip")));
    assert!(left.iter().all(|one| marked_before.contains(one)), "{take}: {line}: {left:?}");
    let stays = line.split_once("(stays: ").map_or("", |(_, names)| names.trim_end_matches(')'));
    assert_eq!(stays, left.join(", "), "{take}: {line}");
    left.is_empty()
}
