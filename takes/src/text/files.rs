//! Where input files come from: the disk, or the demo that is built in.

use std::borrow::Cow;
use std::io::Read;
use std::path::{Path, PathBuf};

use crate::text::fault::Fault;

/// A text file that is built into a program.
#[derive(Clone, Debug)]
pub struct BuiltIn {
    /// Its name, without a folder.
    pub name: &'static str,
    /// Its whole text.
    pub text: Cow<'static, str>,
}

/// A source of files.
#[derive(Clone, Copy, Debug)]
pub enum Files<'a> {
    /// The file system.
    Disk,
    /// Only these files, by name.
    BuiltIn(&'a [BuiltIn]),
}

impl Files<'_> {
    /// Reads the whole text of a file.
    ///
    /// # Errors
    ///
    /// The file can't be read, is not UTF-8, or is not built in.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Files};
    /// let files = [BuiltIn { name: "run.toml", text: "seconds = 2.0".into() }];
    /// assert_eq!(Files::BuiltIn(&files).read("run.toml".as_ref())?, "seconds = 2.0");
    /// assert!(Files::BuiltIn(&files).read("walk.toml".as_ref()).is_err());
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn read(self, path: &Path) -> Result<String, Fault> {
        match self {
            Self::Disk => read_disk(path),
            Self::BuiltIn(files) => files
                .iter()
                .find(|file| Path::new(file.name) == path)
                .map(|file| file.text.clone().into_owned())
                .ok_or_else(|| Fault::of_file(path, "not part of the demo")),
        }
    }
}

/// Returns the whole text of a file; `-` is standard input.
fn read_disk(path: &Path) -> Result<String, Fault> {
    let bytes = match path == Path::new("-") {
        true => read_input(),
        false => std::fs::read(path),
    };
    let bytes = bytes.map_err(|error| Fault::of_file(path, reason(&error)))?;
    String::from_utf8(bytes).map_err(|error| {
        let good = &error.as_bytes()[..error.utf8_error().valid_up_to()];
        let line = 1 + good.iter().filter(|byte| **byte == b'\n').count();
        Fault::of_file(path, "not text: expected UTF-8").at(line, 1)
    })
}

fn read_input() -> std::io::Result<Vec<u8>> {
    let mut bytes = Vec::new();
    std::io::stdin().read_to_end(&mut bytes).map(|_| bytes)
}

/// Returns the message of an input or output error, without the error number of the operating system.
pub fn reason(error: &std::io::Error) -> String {
    match error.kind() {
        std::io::ErrorKind::NotFound => "no such file".to_owned(),
        std::io::ErrorKind::PermissionDenied => "no permission".to_owned(),
        std::io::ErrorKind::IsADirectory => "a folder: expected a file".to_owned(),
        _ => error.to_string(),
    }
}

/// Returns the path of a file that is named in another one: relative to that file's folder.
///
/// ```
/// # use std::path::Path;
/// use velvet_pan_takes::beside;
/// assert_eq!(beside("rides/hall.toml".as_ref(), "run.csv"), Path::new("rides/run.csv"));
/// ```
pub fn beside(file: &Path, name: &str) -> PathBuf {
    file.parent().unwrap_or(Path::new("")).join(name)
}
