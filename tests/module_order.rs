//! The order of the folders: a file uses its own folder and the earlier ones of a frame.

use std::fs;
use std::path::{Path, PathBuf};

/// In the order of a frame, as `src/lib.rs` lists them.
const FOLDERS: [&str; 13] = [
    "base", "keys", "curves", "lens", "goal", "motion", "limits", "shake", "view", "settings",
    "cull", "present", "camera",
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

/// The folders that a folder's files use, without itself.
fn used(folder: &str) -> Vec<&'static str> {
    let texts = files(&source().join(folder)).into_iter().map(|file| {
        let text = fs::read_to_string(file).expect("a file");
        text.lines().flat_map(named).map(str::to_owned).collect::<Vec<_>>()
    });
    let names: Vec<String> = texts.flatten().collect();
    let is_used = |other: &&str| *other != folder && names.iter().any(|name| name == other);
    FOLDERS.into_iter().filter(is_used).collect()
}

/// The folders that the first paragraph of a `mod.rs` says it uses.
fn said_to_be_used(text: &str, folder: &str) -> Vec<&'static str> {
    let paragraph = text.lines().map_while(|line| line.strip_prefix("//! "));
    let paragraph = paragraph.collect::<Vec<_>>().join(" ");
    let (_, uses) = paragraph.split_once("It uses ").expect("it says what it uses");
    let names = |given: &str| -> Vec<&str> {
        given
            .split('`')
            .skip(1)
            .step_by(2)
            .filter_map(|it| FOLDERS.into_iter().find(|f| *f == it))
            .collect()
    };
    let Some((_, without)) = uses.split_once("every folder before it") else { return names(uses) };
    let before = FOLDERS.into_iter().take_while(|other| *other != folder);
    before.filter(|other| !names(without).contains(other)).collect()
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
        assert_eq!(said_to_be_used(&text, folder), used(folder), "src/{folder}/mod.rs");
    }
}

/// A function of the camera's folder: its name, and the types of what it is given. A method is given its own type.
struct Signature {
    file: String,
    name: String,
    given: Vec<String>,
    changes_itself: bool,
}

/// The signatures of a file of the camera's folder.
fn signatures(path: &Path) -> Vec<Signature> {
    let text = fs::read_to_string(path).expect("a file");
    let code = syn::parse_file(&text).expect("Rust");
    let file = path.file_name().expect("a name").to_string_lossy().into_owned();
    let read = |signature: &syn::Signature, own: Option<&syn::Type>| {
        let mut given: Vec<String> = own.map(named_type).into_iter().collect();
        let mut changes_itself = false;
        for input in &signature.inputs {
            match input {
                syn::FnArg::Typed(typed) => given.push(named_type(&typed.ty)),
                syn::FnArg::Receiver(receiver) => changes_itself = receiver.mutability.is_some(),
            }
        }
        Signature { file: file.clone(), name: signature.ident.to_string(), given, changes_itself }
    };
    let mut found = Vec::new();
    for item in &code.items {
        match item {
            syn::Item::Fn(function) => found.push(read(&function.sig, None)),
            syn::Item::Impl(block) => found.extend(block.items.iter().filter_map(|item| {
                let syn::ImplItem::Fn(method) = item else { return None };
                Some(read(&method.sig, Some(&block.self_ty)))
            })),
            _ => {}
        }
    }
    found
}

/// A type as text, without spaces.
fn named_type(given: &syn::Type) -> String {
    quote::quote!(#given).to_string().replace(' ', "")
}

/// Whether a type is this one, or a reference to it or an option of it.
fn is_or_holds(given: &str, name: &str) -> bool {
    given.split(|c: char| !c.is_alphanumeric() && c != '_').any(|word| word == name)
}

fn of_the_camera() -> Vec<Signature> {
    files(&source().join("camera")).iter().flat_map(|path| signatures(path)).collect()
}

/// Arrival, goal, limits and picture are functions of plain values. Only what divides a frame takes its
/// path: no stage knows of the frame's times.
#[test]
fn a_signature_tells_what_a_step_needs() {
    const STEPS: [&str; 5] = ["arrival.rs", "air.rs", "goal.rs", "limits.rs", "picture.rs"];
    let (mut steps, mut paths) = (0, 0);
    for Signature { file, name, given, .. } in of_the_camera() {
        if STEPS.contains(&file.as_str()) {
            for whole in ["Camera", "CameraState"] {
                let takes = given.iter().any(|given| is_or_holds(given, whole));
                assert!(!takes, "{file}: `{name}` takes {whole}");
            }
            steps += 1;
        }
        if given.iter().any(|given| is_or_holds(given, "Path")) {
            let divides = ["path.rs", "clock.rs", "events.rs"].contains(&file.as_str());
            assert!(divides, "{file}: `{name}` takes a Path");
            paths += 1;
        }
        assert!(given.len() <= 7, "{file}: `{name}` takes {}", given.len());
    }
    assert!(steps > 40 && paths > 5, "found {steps} functions of steps and {paths} of paths");
}

#[test]
fn few_methods_change_a_camera() {
    let changes = |of: &Signature| {
        of.changes_itself && of.given.first().is_some_and(|given| given == "Camera")
    };
    let count = of_the_camera().iter().filter(|signature| changes(signature)).count();
    // Four of them are those of a trait, by which an itinerary tells any target.
    assert!((30..=94).contains(&count), "{count} methods of a camera change it");
}
