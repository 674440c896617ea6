//! Writes files that appear whole or not at all.

use std::collections::BTreeSet;
use std::fs::{self, File};
use std::io::{self, BufWriter, Write};
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Mutex, MutexGuard, PoisonError};

/// Writes a file under a temporary name beside it, and renames it once it is complete. Follows links, and keeps the
/// mode of an existing file.
///
/// The temporary name is `.NAME.PROCESS-NUMBER.new`, so two programs that write the same file do not mix: the last one
/// wins. A program that is interrupted calls [`remove_unfinished`], and leaves nothing behind.
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
    let unfinished = Unfinished::beside(&place);
    let new = &unfinished.0;
    let file = File::create(new).map_err(&failed)?;
    let mut buffer = BufWriter::new(&file);
    write(&mut buffer)?;
    buffer.flush().map_err(&failed)?;
    if let Ok(old) = fs::metadata(&place) {
        file.set_permissions(old.permissions()).map_err(&failed)?;
    }
    fs::rename(new, &place).map_err(&failed)
}

/// Every temporary file and folder that is being written.
static UNFINISHED: Mutex<BTreeSet<PathBuf>> = Mutex::new(BTreeSet::new());
/// The number of temporary names so far.
static COUNT: AtomicU64 = AtomicU64::new(0);

fn unfinished() -> MutexGuard<'static, BTreeSet<PathBuf>> {
    UNFINISHED.lock().unwrap_or_else(PoisonError::into_inner)
}

/// Removes every file that is being written, for a program that ends at once. What is complete stays.
///
/// ```
/// # use velvet_pan_takes::{remove_unfinished, write_whole};
/// let path = std::env::temp_dir().join("velvet-pan-half.txt");
/// let written = write_whole(&path, |error| error, |out| {
///     out.write_all(b"half of it")?;
///     remove_unfinished(); // and exit
///     Ok(())
/// });
/// assert!(written.is_err() && !path.exists());
/// ```
pub fn remove_unfinished() {
    for path in std::mem::take(&mut *unfinished()) {
        remove(&path);
    }
}

fn remove(path: &Path) {
    // It may be in its place already, or never have been there.
    let _ = if path.is_dir() { fs::remove_dir_all(path) } else { fs::remove_file(path) };
}

/// The temporary name of what is being written. What is still there when it ends is removed.
#[derive(Debug)]
pub struct Unfinished(PathBuf);

impl Unfinished {
    /// Reserves a name beside the one that it will have.
    #[must_use]
    pub fn beside(path: &Path) -> Self {
        let name = path.file_name().unwrap_or_default().to_string_lossy();
        let number = COUNT.fetch_add(1, Ordering::Relaxed);
        let new = path.with_file_name(format!(".{name}.{}-{number}.new", std::process::id()));
        unfinished().insert(new.clone());
        Self(new)
    }

    /// Returns the temporary path.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.0
    }
}

impl Drop for Unfinished {
    fn drop(&mut self) {
        unfinished().remove(&self.0);
        remove(&self.0);
    }
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
