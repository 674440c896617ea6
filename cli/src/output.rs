//! Output files that appear whole or not at all, and standard output that may be cut short.

use std::io::{self, BufWriter, Write};
use std::path::Path;

use serde::Serialize;
use tempfile::NamedTempFile;
use velvet_pan_takes::{Fault, reason};

/// Writes a file under another name beside it and moves it into place once it is complete.
pub fn write_whole(
    path: &Path,
    write: impl FnOnce(&mut dyn Write) -> Result<(), Fault>,
) -> Result<(), Fault> {
    let failed =
        |error: io::Error| Fault::of_file(path, format!("not written: {}", reason(&error)));
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty());
    let mut file = NamedTempFile::new_in(folder.unwrap_or(Path::new("."))).map_err(failed)?;
    let mut buffer = BufWriter::new(&mut file);
    write(&mut buffer)?;
    buffer.flush().map_err(failed)?;
    drop(buffer);
    file.persist(path).map_err(|error| failed(error.error))?;
    open_to_readers(path);
    Ok(())
}

/// A temporary file is its owner's alone; a result is as readable as any other new file.
#[cfg(unix)]
fn open_to_readers(path: &Path) {
    use std::os::unix::fs::PermissionsExt;
    // A file that stays private is still a file: nothing to report.
    let _ = std::fs::set_permissions(path, std::fs::Permissions::from_mode(0o644));
}

#[cfg(not(unix))]
fn open_to_readers(_path: &Path) {}

/// Writes to the file, or to standard output where there is none.
pub fn write_to(
    path: Option<&Path>,
    write: impl FnOnce(&mut dyn Write) -> Result<(), Fault>,
) -> Result<(), Fault> {
    let Some(path) = path else {
        let mut out = BufWriter::new(io::stdout().lock());
        write(&mut out)?;
        return out.flush().map_err(|error| broken(&error));
    };
    write_whole(path, write)
}

/// Writes rows as CSV, the first line naming the columns.
pub fn write_csv<T: Serialize>(rows: &[T], out: &mut dyn Write) -> Result<(), Fault> {
    let failed = |what: String| Fault::new(format!("not written: {what}"));
    let mut writer = csv::Writer::from_writer(Vec::new());
    for row in rows {
        writer.serialize(row).map_err(|error| failed(error.to_string()))?;
    }
    let bytes = writer.into_inner().map_err(|error| failed(error.to_string()))?;
    out.write_all(&bytes).map_err(|error| broken(&error))
}

/// Writes a value as JSON.
pub fn write_json<T: Serialize + ?Sized>(value: &T, out: &mut dyn Write) -> Result<(), Fault> {
    let text = serde_json::to_string_pretty(value)
        .map_err(|error| Fault::new(format!("not written: {error}")))?;
    writeln!(out, "{text}").map_err(|error| broken(&error))
}

/// A failed write as a fault; a reader who has had enough is none, and ends the program quietly.
pub fn broken(error: &io::Error) -> Fault {
    if error.kind() == io::ErrorKind::BrokenPipe {
        std::process::exit(0);
    }
    Fault::new(format!("not written: {}", reason(error)))
}

/// Makes a folder and all above it.
pub fn make_folder(path: &Path) -> Result<(), Fault> {
    std::fs::create_dir_all(path)
        .map_err(|error| Fault::of_file(path, format!("not made: {}", reason(&error))))
}
