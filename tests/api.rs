//! Committed lists of all public items, so that a change of the interface is visible in a review.
//!
//! `UPDATE_API=1 cargo test -p velvet-pan --test api` writes them again.

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

use quote::ToTokens;
use syn::{Attribute, Fields, ImplItem, Item, ItemImpl, ItemUse, UseTree, Visibility};

/// The published crates, and their folders.
const CRATES: [(&str, &str); 4] = [
    ("velvet-pan", "."),
    ("velvet-pan-takes", "takes"),
    ("velvet-pan-wgpu", "gpu"),
    ("velvet-pan-egui", "panel"),
];

/// The list for one crate: one line for each item that others can name.
#[derive(Default)]
struct Api {
    /// Public names, each with its module.
    names: BTreeMap<String, PathBuf>,
    lines: BTreeSet<String>,
}

impl Api {
    fn of(source: &Path) -> Self {
        let mut api = Self::default();
        for item in parsed(&source.join("lib.rs")) {
            if let Item::Use(item) = item {
                api.take_names(&item);
            }
        }
        for file in files(source) {
            let module = file.strip_prefix(source).expect("a file of the crate").to_owned();
            parsed(&file).iter().for_each(|item| api.add(&module, item));
        }
        api
    }

    fn take_names(&mut self, item: &ItemUse) {
        if !is_public(&item.vis) {
            return;
        }
        let mut names = Vec::new();
        leaves(&item.tree, PathBuf::new(), &mut names);
        for (module, name) in names {
            if module.as_os_str().is_empty() {
                self.lines.insert(format!("pub use {name}"));
            } else {
                self.names.insert(name, module);
            }
        }
    }

    /// Whether a file contains the item that the crate exports under this name.
    fn has(&self, module: &Path, name: &str) -> bool {
        let from = self.names.get(name);
        from.is_some_and(|from| {
            [from.with_extension("rs"), from.join("mod.rs")].iter().any(|file| file == module)
        })
    }

    fn add(&mut self, module: &Path, item: &Item) {
        match item {
            Item::Struct(item) if self.has(module, &item.ident.to_string()) => {
                let name = format!("{}{}", item.ident, text(&item.generics));
                self.derived(&name, &item.attrs);
                let fields = fields(&item.fields);
                self.lines
                    .extend(fields.iter().map(|field| format!("struct {name} {{ {field} }}")));
                let hidden =
                    if fields.len() < item.fields.len() { ", with private fields" } else { "" };
                self.lines.insert(format!("struct {name}{hidden}"));
            }
            Item::Enum(item) if self.has(module, &item.ident.to_string()) => {
                let name = format!("{}{}", item.ident, text(&item.generics));
                self.derived(&name, &item.attrs);
                for variant in &item.variants {
                    let mut variant = variant.clone();
                    variant.attrs.clear();
                    variant.fields.iter_mut().for_each(|field| field.attrs.clear());
                    self.lines.insert(format!("enum {name} {{ {} }}", text(&variant)));
                }
            }
            Item::Trait(item) if self.has(module, &item.ident.to_string()) => {
                let methods = item.items.iter().filter_map(|item| match item {
                    syn::TraitItem::Fn(method) => Some(text(&method.sig)),
                    _ => None,
                });
                self.lines.extend(methods.map(|it| format!("trait {} {{ {it} }}", item.ident)));
            }
            Item::Fn(item) if self.has(module, &item.sig.ident.to_string()) => {
                self.lines.insert(text(&item.sig));
            }
            Item::Const(item) if self.has(module, &item.ident.to_string()) => {
                self.lines.insert(format!("const {}: {}", item.ident, text(&item.ty)));
            }
            Item::Impl(item) => self.add_impl(item),
            _ => {}
        }
    }

    fn add_impl(&mut self, item: &ItemImpl) {
        let syn::Type::Path(of) = &*item.self_ty else { return };
        let last = of.path.segments.last().map(|segment| segment.ident.to_string());
        if !last.is_some_and(|name| self.names.contains_key(&name)) {
            return;
        }
        let of = text(&of.path);
        if let Some((_, path, _)) = &item.trait_ {
            // Two traits can't be named from outside: of the values of settings, and of the numbers of a state.
            if !path.is_ident("Held") && !path.is_ident("Sound") {
                self.lines.insert(format!("impl {} for {of}", text(path)));
            }
            return;
        }
        for one in &item.items {
            match one {
                ImplItem::Fn(method) if is_public(&method.vis) => {
                    self.lines.insert(format!("impl {of} {{ {} }}", text(&method.sig)));
                }
                ImplItem::Const(one) if is_public(&one.vis) => {
                    let ty = text(&one.ty);
                    self.lines.insert(format!("impl {of} {{ const {}: {ty} }}", one.ident));
                }
                _ => {}
            }
        }
    }

    fn derived(&mut self, name: &str, attributes: &[Attribute]) {
        for attribute in attributes {
            if attribute.path().is_ident("non_exhaustive") {
                self.lines.insert(format!("non_exhaustive {name}"));
            }
            if attribute.path().is_ident("derive") {
                let list = text(&attribute.meta.require_list().expect("a list").tokens);
                self.lines.extend(list.split(", ").map(|one| format!("impl {one} for {name}")));
            }
        }
    }
}

fn is_public(visibility: &Visibility) -> bool {
    matches!(visibility, Visibility::Public(_))
}

/// The names at the ends of a `use`, each with its path.
fn leaves(tree: &UseTree, path: PathBuf, found: &mut Vec<(PathBuf, String)>) {
    match tree {
        UseTree::Path(one) => leaves(&one.tree, path.join(one.ident.to_string()), found),
        UseTree::Name(one) => found.push((path, one.ident.to_string())),
        UseTree::Rename(one) => found.push((path, one.rename.to_string())),
        UseTree::Group(group) => group.items.iter().for_each(|it| leaves(it, path.clone(), found)),
        UseTree::Glob(_) => found.push((path, "*".to_owned())),
    }
}

/// Public fields as written.
fn fields(fields: &Fields) -> Vec<String> {
    let public = fields.iter().enumerate().filter(|(_, field)| is_public(&field.vis));
    public
        .map(|(index, field)| {
            let name = field.ident.as_ref().map_or(index.to_string(), ToString::to_string);
            format!("{name}: {}", text(&field.ty))
        })
        .collect()
}

/// Code on one line, with usual spacing.
fn text(code: &impl ToTokens) -> String {
    let mut text = code.to_token_stream().to_string();
    for (spaced, tight) in [
        (" (", "("),
        ("( ", "("),
        (" )", ")"),
        (" ,", ","),
        (" :", ":"),
        (": :", "::"),
        (":: ", "::"),
        (" <", "<"),
        ("< ", "<"),
        (" >", ">"),
        ("& ", "&"),
        ("[ ", "["),
        (" ]", "]"),
        (" ;", ";"),
        (" ::", "::"),
        ("->", " ->"),
        ("  ->", " ->"),
        (",)", ")"),
    ] {
        text = text.replace(spaced, tight);
    }
    text
}

fn parsed(file: &Path) -> Vec<Item> {
    let text = fs::read_to_string(file).unwrap_or_else(|error| panic!("{file:?}: {error}"));
    syn::parse_file(&text).unwrap_or_else(|error| panic!("{file:?}: {error}")).items
}

/// All code files in a folder and its subfolders.
fn files(folder: &Path) -> Vec<PathBuf> {
    let entries =
        fs::read_dir(folder).expect("a folder").map(|entry| entry.expect("an entry").path());
    let (folders, files): (Vec<PathBuf>, Vec<PathBuf>) = entries.partition(|path| path.is_dir());
    let code = files.into_iter().filter(|path| path.extension().is_some_and(|it| it == "rs"));
    code.chain(folders.iter().flat_map(|folder| self::files(folder))).collect()
}

#[test]
fn the_interface_is_the_committed_one() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    for (name, folder) in CRATES {
        let api = Api::of(&root.join(folder).join("src"));
        let list: String = api.lines.iter().map(|line| format!("{line}\n")).collect();
        let path = root.join("docs/api").join(format!("{name}.txt"));
        if std::env::var_os("UPDATE_API").is_some() {
            fs::write(&path, &list).expect("a file to write");
        }
        let committed = fs::read_to_string(&path).unwrap_or_default();
        let (now, before): (BTreeSet<&str>, BTreeSet<&str>) =
            (list.lines().collect(), committed.lines().collect());
        let (new, gone): (Vec<_>, Vec<_>) =
            (now.difference(&before).collect(), before.difference(&now).collect());
        assert!(
            new.is_empty() && gone.is_empty(),
            "the interface of {name} has changed: new {new:#?}, gone {gone:#?}. If it is meant, \
            UPDATE_API=1 cargo test -p velvet-pan --test library"
        );
    }
}

/// A command has a method that is held against it, and random games tell it.
#[test]
fn every_camera_command_is_known_everywhere() {
    let read = |file: &str| fs::read_to_string(file).expect("a file of the project");
    let list = read("docs/api/velvet-pan.txt");
    let (calls, games) = (read("tests/calls.rs"), read("tests/random_play/mod.rs"));
    let commands = list.lines().filter_map(|line| line.strip_prefix("enum Command { "));
    let mut count = 0;
    for command in commands {
        let name = command.split([' ', '(']).next().expect("a name");
        let method = name.chars().fold(String::new(), |mut snake, letter| {
            if letter.is_uppercase() && !snake.is_empty() {
                snake.push('_');
            }
            snake.extend(letter.to_lowercase());
            snake
        });
        assert!(list.contains(&format!("impl Camera {{ fn {method}(&mut self")), "{method}");
        assert!(calls.contains(&format!("Command::{name}")), "tests/calls.rs: {name}");
        assert!(games.contains(&format!("Command::{name}")), "tests/random_play: {name}");
        count += 1;
    }
    assert!(count > 20, "{count} commands");
}
