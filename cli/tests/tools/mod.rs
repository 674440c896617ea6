//! Running the command in a folder of its own.
#![allow(dead_code)]

use std::path::{Path, PathBuf};
use std::process::Output;

use assert_cmd::Command;
use tempfile::TempDir;

/// A temporary folder with the files of a test.
pub struct Folder(TempDir);

impl Folder {
    pub fn new(files: &[(&str, &str)]) -> Self {
        let folder = TempDir::new().expect("a folder");
        for (name, text) in files {
            std::fs::write(folder.path().join(name), text).expect("written");
        }
        Self(folder)
    }

    pub fn path(&self) -> &Path {
        self.0.path()
    }

    /// Runs `velvet-pan` in this folder.
    pub fn run(&self, args: &[&str]) -> Output {
        Command::cargo_bin("velvet-pan")
            .expect("built")
            .current_dir(self.path())
            .args(args)
            .output()
            .expect("runs")
    }

    /// Runs it and expects success. Returns standard output.
    pub fn ok(&self, args: &[&str]) -> String {
        let output = self.run(args);
        let errors = String::from_utf8_lossy(&output.stderr).into_owned();
        assert!(output.status.success(), "{args:?}: {errors}");
        assert!(errors.is_empty(), "off a terminal nothing but results: {errors}");
        String::from_utf8(output.stdout).expect("text")
    }

    /// The names of everything in the folder.
    pub fn names(&self) -> Vec<String> {
        let mut names: Vec<String> = std::fs::read_dir(self.path())
            .expect("readable")
            .map(|entry| entry.expect("readable").file_name().to_string_lossy().into_owned())
            .collect();
        names.sort();
        names
    }
}

/// The changes of a tip of `compare`, if this is its line.
pub fn tip_in(line: &str) -> Option<Vec<&str>> {
    let line = line.trim();
    let is_tip = line.starts_with("--try '") || line.starts_with("--set '");
    is_tip.then(|| line.split('\'').skip(1).step_by(2).collect())
}

/// A PNG file, its header read.
pub fn png(path: &Path) -> png::Reader<std::io::BufReader<std::fs::File>> {
    let file = std::fs::File::open(path).expect("there");
    png::Decoder::new(std::io::BufReader::new(file)).read_info().expect("a picture")
}

/// Width and height of a PNG file.
pub fn size_of(path: &Path) -> (u32, u32) {
    png(path).info().size()
}

/// The project's own demo folder.
pub fn demo(name: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../terraces/demo").join(name)
}

/// The files of all takes of the demo.
pub fn demo_takes() -> Vec<String> {
    let entries = std::fs::read_dir(demo("")).expect("a folder").map(|entry| entry.expect("one"));
    let names = entries.map(|entry| entry.file_name().into_string().expect("a name"));
    let is_take = |name: &String| {
        name.ends_with(".toml")
            && std::fs::read_to_string(demo(name)).expect("text").contains("[subjects.")
    };
    names.filter(is_take).collect()
}

/// A table of numbers with named columns; empty fields and words are NaN.
pub struct Numbers {
    columns: Vec<String>,
    rows: Vec<Vec<f64>>,
}

impl Numbers {
    pub fn read(text: &str) -> Self {
        let mut reader = csv::Reader::from_reader(text.as_bytes());
        let columns = reader.headers().expect("header").iter().map(str::to_owned).collect();
        let word = |field: &str| field.chars().all(|letter| letter.is_ascii_lowercase());
        let number = |field: &str| if word(field) { f64::NAN } else { field.parse().expect(field) };
        let rows =
            reader.records().map(|row| row.expect("row").iter().map(number).collect()).collect();
        Self { columns, rows }
    }

    pub fn len(&self) -> usize {
        self.rows.len()
    }

    pub fn columns(&self) -> &[String] {
        &self.columns
    }

    pub fn column(&self, name: &str) -> Vec<f64> {
        let index = self.columns.iter().position(|column| column == name).expect(name);
        self.rows.iter().map(|row| row[index]).collect()
    }
}
