//! The pages name existing things: calls of the committed lists, and keys of the settings.

use std::fs;
use std::path::Path;

use velvet_pan::Settings;

fn read(path: &str) -> String {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join(path);
    fs::read_to_string(&path).unwrap_or_else(|error| panic!("{}: {error}", path.display()))
}

/// The texts between backticks.
fn spans(text: &str) -> impl Iterator<Item = &str> {
    text.split('`').skip(1).step_by(2)
}

#[test]
fn which_names_calls_and_keys_that_exist() {
    let page = read("docs/which.md");
    let calls = read("docs/api/velvet-pan.txt") + &read("docs/api/velvet-pan-takes.txt");
    let mut named = 0;
    for span in spans(&page) {
        let name = span.split([' ', '(']).next().unwrap_or_default();
        if let Some((owner, call)) = name.split_once("::") {
            // `impl Owner { fn call(…` and not another owner that has the same call.
            let listed = |line: &str| {
                let (before, after) = line.split_once('{').unwrap_or((line, ""));
                before.split(|c: char| !c.is_alphanumeric()).any(|word| word == owner)
                    && (after.contains(&format!(" {call}("))
                        || after.contains(&format!(" {call}<")))
            };
            assert!(calls.lines().any(listed), "no {name}");
        } else if name.contains('.') && !name.ends_with(".limits") {
            let is_table = Settings::tables().iter().any(|table| table.path() == name);
            assert!(is_table || Settings::setting(name).is_some(), "no key {name}");
        } else {
            continue;
        }
        named += 1;
    }
    assert!(named > 40, "{named}");
}

/// Every section of the guide that the page refers to exists.
#[test]
fn which_points_to_sections_of_the_guide() {
    let (page, guide) = (read("docs/which.md"), read("docs/guide.md"));
    for line in page.lines().filter(|line| line.starts_with("| ") && line.ends_with("] |")) {
        let number = line.trim_end_matches("] |").rsplit('[').next().unwrap_or_default();
        assert!(guide.contains(&format!("\n## {number}. ")), "{line}");
    }
}

/// Every link of a page leads to a file, or to a heading of one.
#[test]
fn links_lead_somewhere() {
    let slug = |heading: &str| -> String {
        let kept = heading.to_lowercase();
        kept.chars()
            .filter(|c| c.is_alphanumeric() || " -_".contains(*c))
            .collect::<String>()
            .replace(' ', "-")
    };
    let mut followed = 0;
    for page in [
        "README.md",
        "ARCHITECTURE.md",
        "CONTRIBUTING.md",
        "docs/guide.md",
        "docs/command.md",
        "docs/gallery.md",
        "docs/which.md",
        "docs/settings.md",
        "gpu/README.md",
        "panel/README.md",
        "takes/README.md",
    ] {
        let text = read(page);
        for link in text.split("](").skip(1).filter_map(|rest| rest.split(')').next()) {
            let (path, heading) = link.split_once('#').unwrap_or((link, ""));
            let file = Path::new(page).parent().expect("a folder").join(path);
            let file = if path.is_empty() { Path::new(page).to_owned() } else { file };
            let is_there = Path::new(env!("CARGO_MANIFEST_DIR")).join(&file).exists();
            assert!(is_there || link.contains("://"), "{page}: {link}");
            if !heading.is_empty() && !link.contains("://") {
                let target = read(&file.to_string_lossy());
                let mut headings = target.lines().filter(|line| line.starts_with('#'));
                let leads = |line: &str| slug(line.trim_start_matches('#').trim()) == heading;
                assert!(headings.any(leads), "{page}: no heading {link}");
            }
            followed += 1;
        }
    }
    assert!(followed > 80, "{followed}");
}

/// The size that the documents state.
#[cfg(target_pointer_width = "64")]
#[test]
fn a_state_is_as_large_as_they_say() {
    let size = std::mem::size_of::<velvet_pan::CameraState>();
    assert_eq!(size, 6960);
    for page in ["docs/guide.md", "src/camera/state.rs"] {
        assert!(read(page).contains("6,960 bytes"), "{page}");
    }
}
