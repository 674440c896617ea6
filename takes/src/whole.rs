//! Writes files that appear whole or not at all.

use std::fs::{self, File};
use std::io::{self, BufWriter, Write};
use std::path::{Path, PathBuf};

/// Writes a file under a temporary name beside it, and renames it once it is complete. Follows links, and keeps the
/// mode of an existing file.
///
/// The temporary name is always `.NAME.new`, so what an interrupted program leaves behind is overwritten the next
/// time.
///
/// # Errors
///
/// The file can't be written; then nothing has changed. `failed` turns the system's error into that of the caller.
///
/// ```
/// # use velvet_pan_takes::write_whole;
/// let path = std::env::temp_dir().join("velvet-pan-ride.txt");
/// write_whole(&path, |error| error, |out| out.write_all(b"61 rows"))?;
/// assert_eq!(std::fs::read(&path)?, b"61 rows");
/// # std::fs::remove_file(&path)?;
/// # Ok::<(), std::io::Error>(())
/// ```
pub fn write_whole<E>(
    path: &Path,
    failed: impl Fn(io::Error) -> E,
    write: impl FnOnce(&mut dyn Write) -> Result<(), E>,
) -> Result<(), E> {
    let place = place_of(path);
    let name = place.file_name().unwrap_or_default().to_string_lossy();
    let new = place.with_file_name(format!(".{name}.new"));
    let put_in_place = || {
        let file = File::create(&new).map_err(&failed)?;
        let mut buffer = BufWriter::new(&file);
        write(&mut buffer)?;
        buffer.flush().map_err(&failed)?;
        if let Ok(old) = fs::metadata(&place) {
            file.set_permissions(old.permissions()).map_err(&failed)?;
        }
        fs::rename(&new, &place).map_err(&failed)
    };
    put_in_place().inspect_err(|_| {
        let _ = fs::remove_file(&new);
    })
}

/// Returns the real path of an existing or future file, without links and dots. A link is followed even if its target
/// does not exist.
#[must_use]
pub fn place_of(path: &Path) -> PathBuf {
    fs::canonicalize(path).unwrap_or_else(|_| match fs::read_link(path) {
        Ok(target) => path.parent().unwrap_or(Path::new("")).join(target),
        Err(_) => in_true_folder(path),
    })
}

fn in_true_folder(path: &Path) -> PathBuf {
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty());
    match (fs::canonicalize(folder.unwrap_or(Path::new("."))), path.file_name()) {
        (Ok(folder), Some(name)) => folder.join(name),
        _ => path.to_owned(),
    }
}
