//! Output files that appear whole or not at all, and standard output, which may be closed early.

use std::fs;
use std::io::{self, BufWriter, Write};
use std::path::{Path, PathBuf};

use serde::Serialize;
use velvet_pan_takes::{Document, Fault, Files, place_of, reason};

use crate::judgement::limits;

/// Writes a file under a temporary name beside it and renames it once it is complete. `-` is standard output. A target
/// that is not a regular file, such as a device or a pipe, is written to directly.
pub fn write_whole(
    path: &Path,
    write: impl FnOnce(&mut dyn Write) -> Result<(), Fault>,
) -> Result<(), Fault> {
    let failed =
        |error: io::Error| Fault::of_file(path, format!("not written: {}", reason(&error)));
    if path == Path::new("-") {
        return write_to(None, write);
    }
    let old = fs::metadata(path).ok();
    if old.as_ref().is_some_and(|old| !old.is_file() && !old.is_dir()) {
        let file = fs::OpenOptions::new().write(true).open(path).map_err(failed)?;
        let mut buffer = BufWriter::new(file);
        write(&mut buffer).map_err(|fault| in_place(fault, failed))?;
        return buffer.flush().map_err(failed);
    }
    velvet_pan_takes::write_whole(path, failed, |out| {
        write(out).map_err(|fault| in_place(fault, failed))
    })
}

/// Adds the path to a writing error. Other faults stay as they are.
fn in_place(fault: Fault, failed: impl Fn(io::Error) -> Fault) -> Fault {
    match fault.what.strip_prefix("not written: ") {
        Some(what) if fault.file.is_none() => failed(io::Error::other(what)),
        _ => fault,
    }
}

/// Refuses outputs that would overwrite a take or a file that it names, and two outputs with the same name.
pub fn refuse_overwriting<P: AsRef<Path>>(
    outputs: &[Option<&Path>],
    takes: &[P],
) -> Result<(), Fault> {
    let outputs: Vec<&Path> =
        outputs.iter().copied().flatten().filter(|path| *path != Path::new("-")).collect();
    for (index, output) in outputs.iter().enumerate() {
        if outputs[..index].iter().any(|other| place_of(other) == place_of(output)) {
            return Err(Fault::of_file(output, "given for two outputs: expected two names"));
        }
        // Only what is there can be overwritten.
        let Ok(place) = fs::canonicalize(output) else { continue };
        let is_same = |input: &PathBuf| fs::canonicalize(input).is_ok_and(|one| one == place);
        if takes.iter().flat_map(|take| inputs_of(take.as_ref())).any(|input| is_same(&input)) {
            return Err(Fault::of_file(
                output,
                "an input of this command: expected another output name",
            ));
        }
    }
    Ok(())
}

/// Returns the files of a take: its own, and all that it names.
fn inputs_of(take: &Path) -> Vec<PathBuf> {
    let names = Document::read(Files::Disk, take).map(|file| file.texts()).unwrap_or_default();
    let folder = take.parent().unwrap_or(Path::new(""));
    let beside = [take.to_owned(), limits::file_beside(take)];
    names.into_iter().map(|name| folder.join(name)).chain(beside).collect()
}

/// Returns a number with at most two decimals, to print.
pub fn hundredths(value: f64) -> f64 {
    (value * 100.0).round() / 100.0
}

/// Prints to standard error, with `what` in red. Ignores a full standard error.
pub fn tell(what: &str, text: &dyn std::fmt::Display) {
    let _ = writeln!(anstream::stderr(), "\x1b[31m{what}\x1b[0m: {text}");
}

/// Writes to the file, or to standard output without one.
pub fn write_to(
    path: Option<&Path>,
    write: impl FnOnce(&mut dyn Write) -> Result<(), Fault>,
) -> Result<(), Fault> {
    let Some(path) = path.filter(|path| *path != Path::new("-")) else {
        let mut out = BufWriter::new(io::stdout().lock());
        write(&mut out)?;
        return out.flush().map_err(|error| broken(&error));
    };
    write_whole(path, write)
}

/// Writes a text to the file, or to standard output without one.
pub fn write_text(path: Option<&Path>, text: &str) -> Result<(), Fault> {
    write_to(path, |out| put(out, text))
}

/// Writes a text.
pub fn put(out: &mut dyn Write, text: &str) -> Result<(), Fault> {
    out.write_all(text.as_bytes()).map_err(|error| broken(&error))
}

/// Writes values as CSV, one line each, the names of their fields first.
pub fn write_csv<T: Serialize>(rows: &[T], out: &mut dyn Write) -> Result<(), Fault> {
    write_lines(out, |writer| rows.iter().try_for_each(|row| writer.serialize(row)))
}

/// Writes records as CSV, the names of the columns first.
pub fn write_records(records: &[Vec<String>], out: &mut dyn Write) -> Result<(), Fault> {
    write_lines(out, |writer| records.iter().try_for_each(|record| writer.write_record(record)))
}

fn write_lines(
    out: &mut dyn Write,
    write: impl FnOnce(&mut csv::Writer<Vec<u8>>) -> csv::Result<()>,
) -> Result<(), Fault> {
    let failed = |what: String| Fault::new(format!("not written: {what}"));
    let mut writer = csv::Writer::from_writer(Vec::new());
    write(&mut writer).map_err(|error| failed(error.to_string()))?;
    let bytes = writer.into_inner().map_err(|error| failed(error.to_string()))?;
    out.write_all(&bytes).map_err(|error| broken(&error))
}

/// Writes a value as JSON.
pub fn write_json<T: Serialize + ?Sized>(value: &T, out: &mut dyn Write) -> Result<(), Fault> {
    let text = serde_json::to_string_pretty(value)
        .map_err(|error| Fault::new(format!("not written: {error}")))?;
    writeln!(out, "{text}").map_err(|error| broken(&error))
}

/// Returns the fault of a failed write. If the reader closed the pipe, the program ends silently.
pub fn broken(error: &io::Error) -> Fault {
    if error.kind() == io::ErrorKind::BrokenPipe {
        std::process::exit(0);
    }
    Fault::new(format!("not written: {}", reason(error)))
}

/// Returns the fault of a file, with the system's reason.
pub fn reason_of(path: &Path, what: &str, error: &io::Error) -> Fault {
    Fault::of_file(path, format!("{what}: {}", reason(error)))
}

/// Creates a folder and its parents.
pub fn make_folder(path: &Path) -> Result<(), Fault> {
    std::fs::create_dir_all(path)
        .map_err(|error| Fault::of_file(path, format!("not made: {}", reason(&error))))
}
