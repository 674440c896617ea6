//! `check`: every fault of some files at once, and warnings about unlikely values.

use std::fmt::Write as _;
use std::path::{Path as FilePath, PathBuf};

use clap::Args;
use velvet_pan_takes::{
    Document, Fault, Files, Map, MapForm, Overrides, Path, Take, is_path_table, take_faults,
};
use velvet_pan_terraces::own::{Artwork, read_png};

use crate::judgement::limits;
use crate::support::output::write_text;
use crate::warnings::{warnings_of_log, warnings_of_path, warnings_of_settings, warnings_of_take};

/// List every fault of tunings, takes, maps and paths, with file, line and key, and warn of unlikely values.
#[derive(Args, Debug)]
#[command(after_help = "\
A file that ends in .csv is a path if its first line names a column t, else a map; one that ends in
.limits.toml has limits for `compare`; one that ends in .png is a picture; any other is a take if it has a
key that only takes have, else a tuning. Warnings are legal, and seldom meant.

Exit status: 0 no faults, 1 faults found.

Examples:
  velvet-pan check terraces/demo/courier.toml
  velvet-pan check terraces/demo/*.toml terraces/demo/*.csv")]
pub struct CheckArgs {
    /// The files to check
    #[arg(value_name = "FILE", required = true)]
    files: Vec<PathBuf>,
}

/// The faults and warnings of a file.
#[derive(Debug, Default)]
struct Found {
    faults: Vec<Fault>,
    warnings: Vec<Fault>,
}

/// Runs the command. Returns whether there is no fault.
pub fn run(args: &CheckArgs) -> Result<bool, Fault> {
    let mut text = String::new();
    let (mut faults, mut warnings) = (0, 0);
    for path in &args.files {
        let mut found = check_file(path);
        found.faults.sort_by_key(|fault| fault.place);
        for (kind, list) in [("fault", &found.faults), ("warning", &found.warnings)] {
            for fault in list {
                // Writing to a string can't fail.
                let _ = writeln!(text, "{kind}: {fault}");
            }
        }
        (faults, warnings) = (faults + found.faults.len(), warnings + found.warnings.len());
    }
    let count = |number: usize, name: &str| {
        format!("{number} {name}{}", if number == 1 { "" } else { "s" })
    };
    let files = count(args.files.len(), "file");
    let _ = writeln!(text, "{files}: {}, {}", count(faults, "fault"), count(warnings, "warning"));
    write_text(None, &text)?;
    Ok(faults == 0)
}

fn check_file(path: &FilePath) -> Found {
    if path.extension().is_some_and(|ending| ending == "png") {
        let fault = read_png(path).err().map(|what| Fault::of_file(path, what));
        return Found { faults: fault.into_iter().collect(), ..Found::default() };
    }
    let document = match Document::read(Files::Disk, path) {
        Ok(document) => document,
        Err(fault) => return Found { faults: vec![fault], ..Found::default() },
    };
    if path.extension().is_some_and(|ending| ending == "csv") {
        return check_table(path, document.text());
    }
    if limits::is_limits_file(path) {
        let faults = limits::read_all(path).err().unwrap_or_default();
        return Found { faults, ..Found::default() };
    }
    if document.is_take() { check_take(&document) } else { check_tuning(&document) }
}

fn check_table(path: &FilePath, text: &str) -> Found {
    if !is_path_table(text) {
        let form = MapForm::guessed([1.0, 1.0], text);
        let fault = Map::parse(path, text, &form).err();
        return Found { faults: fault.into_iter().collect(), ..Found::default() };
    }
    match Path::parse(path, text) {
        Err(fault) => Found { faults: vec![fault], ..Found::default() },
        Ok(read) => Found { warnings: warnings_of_path(path, &read), ..Found::default() },
    }
}

fn check_tuning(document: &Document) -> Found {
    let (settings, faults) = document.settings();
    let warnings =
        if faults.is_empty() { warnings_of_settings(&settings, document, "") } else { Vec::new() };
    Found { faults, warnings }
}

fn check_take(document: &Document) -> Found {
    let (faults, inline) = take_faults(document);
    if !faults.is_empty() {
        return Found { faults, ..Found::default() };
    }
    match Take::read_all(Files::Disk, document.path(), &Overrides::default()) {
        Err(faults) => Found { faults, ..Found::default() },
        Ok(take) => {
            let mut warnings = warnings_of_log(&take, document);
            // What a game did is no mistake of a file.
            if take.log.is_none() {
                warnings.extend(warnings_of_take(&take, document, inline));
            }
            if inline {
                warnings.extend(warnings_of_settings(&take.settings, document, "tuning."));
            }
            warnings.extend(Artwork::of_take(&take).1);
            Found { faults, warnings }
        }
    }
}
