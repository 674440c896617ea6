//! The order of the folders: a file uses its own folder and the earlier ones of a frame.

use std::fs;
use std::path::{Path, PathBuf};

/// In the order of a frame, as `src/lib.rs` lists them.
const FOLDERS: [&str; 11] = [
    "units", "lens", "goal", "motion", "limits", "shake", "view", "settings", "cull", "present",
    "camera",
];

fn source() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("src")
}

fn files(folder: &Path) -> Vec<PathBuf> {
    let entries = fs::read_dir(folder).expect("a folder").map(|entry| entry.expect("an entry"));
    entries
        .map(|entry| entry.path())
        .filter(|path| path.extension().is_some_and(|it| it == "rs"))
        .collect()
}

/// The folders that a line of code names: `crate::lens::…`.
fn named(line: &str) -> impl Iterator<Item = &str> {
    let code = line.split("//").next().unwrap_or("");
    code.split("crate::").skip(1).filter_map(|rest| {
        let name = rest.split(|c: char| !c.is_alphanumeric() && c != '_').next()?;
        rest[name.len()..].starts_with("::").then_some(name)
    })
}

#[test]
fn no_file_uses_a_folder_after_its_own() {
    let mut looked_at = 0;
    for (index, folder) in FOLDERS.iter().enumerate() {
        for file in files(&source().join(folder)) {
            let text = fs::read_to_string(&file).expect("a file");
            for (line, name) in
                text.lines().flat_map(|line| named(line).map(move |name| (line, name)))
            {
                let other = FOLDERS.iter().position(|folder| *folder == name);
                let other = other.unwrap_or_else(|| panic!("{}: {name}?", file.display()));
                assert!(other <= index, "{} comes before {name}: {line}", file.display());
                looked_at += 1;
            }
        }
    }
    assert!(looked_at > 200, "only {looked_at} uses found");
}

#[test]
fn the_folders_are_those_of_the_crate_and_say_what_belongs_there() {
    let crate_root = fs::read_to_string(source().join("lib.rs")).expect("lib.rs");
    let listed = crate_root.lines().filter_map(|line| line.strip_prefix("mod ")?.strip_suffix(';'));
    assert_eq!(listed.collect::<Vec<_>>(), FOLDERS);
    assert_eq!(files(&source()).len(), 1, "only lib.rs stands beside the folders");
    for folder in FOLDERS {
        let text = fs::read_to_string(source().join(folder).join("mod.rs")).expect("mod.rs");
        let paragraph = text.lines().take_while(|line| line.starts_with("//! ")).count();
        assert!(paragraph >= 2, "src/{folder}/mod.rs begins with a paragraph");
        assert!(
            text.contains(" uses ") || text.contains("uses\n"),
            "src/{folder}/mod.rs says what it uses"
        );
    }
}
