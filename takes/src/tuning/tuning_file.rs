//! A tuning file that is read, watched, changed and saved while a game runs.

use std::convert::identity;
use std::ffi::OsString;
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, channel};
use std::time::{Duration, Instant};

use notify::{RecommendedWatcher, RecursiveMode, Watcher};
use velvet_pan::{Settings, Value};

use crate::take::take_file::{TakeFile, Tuning};
use crate::text::atomic_write::write_whole;
use crate::text::document::Document;
use crate::text::fault::Fault;
use crate::text::files::{Files, beside, reason};
use crate::tuning::edits::Edits;
use crate::tuning::tuning_text;

/// Some editors empty a file before they write it, so it is read only after this time without a change.
const SETTLED: Duration = Duration::from_millis(60);

/// A tuning file that a running game loads, watches, changes and saves.
///
/// ```no_run
/// use velvet_pan::Camera;
/// use velvet_pan_takes::TuningFile;
///
/// let mut tuning = TuningFile::open("camera.toml")?;
/// tuning.watch()?;
/// let mut camera = Camera::new(tuning.settings().clone())?;
/// # let (dt, player) = (1.0 / 60.0, [0.0, 0.0]);
/// loop {
///     match tuning.poll() {
///         Some(Ok(())) => camera.set_settings(tuning.settings().clone(), 0.2)?,
///         Some(Err(fault)) => eprintln!("{fault}"), // camera.toml:3:1: zoom.levle: …
///         None => {}
///     }
///     let view = camera.follow(dt, player);
/// #   let _ = view;
/// }
/// # #[allow(unreachable_code)]
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug)]
pub struct TuningFile {
    path: PathBuf,
    /// Whether the settings are in the table `tuning` of a take.
    in_take: bool,
    /// Whether the file exists on the disk. What was read from elsewhere does not exist before it is saved.
    on_disk: bool,
    /// The settings as they were last read or written.
    text: String,
    saved: Settings,
    settings: Settings,
    watch: Option<Watch>,
}

#[derive(Debug)]
struct Watch {
    /// Watches the file while it exists.
    _watcher: RecommendedWatcher,
    events: Receiver<notify::Result<notify::Event>>,
    name: OsString,
    /// When the file was last changed, if it has not been read since.
    written: Option<Instant>,
}

impl TuningFile {
    /// Reads a tuning file.
    ///
    /// # Errors
    ///
    /// The file can't be read, or a setting in it is wrong. The fault has its line and column.
    pub fn open(path: impl AsRef<Path>) -> Result<Self, Fault> {
        Self::read(Files::Disk, path)
    }

    /// Reads a tuning file from the disk, or one that is built into a program. Saving a built-in file creates a new
    /// file at its path and never overwrites another one.
    ///
    /// # Errors
    ///
    /// As [`open`](Self::open).
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Files, TuningFile};
    /// let files = [BuiltIn { name: "soft.toml", text: "[zoom]\nlevel = 2.0 # near\n".into() }];
    /// let tuning = TuningFile::read(Files::BuiltIn(&files), "soft.toml")?;
    /// assert_eq!(tuning.settings().zoom.level, 2.0);
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn read(files: Files<'_>, path: impl AsRef<Path>) -> Result<Self, Fault> {
        Self::of(files, &Document::read(files, path.as_ref())?, false)
    }

    /// Reads the tuning of a take: the file that the take names, or the table within the take's own file.
    ///
    /// # Errors
    ///
    /// As [`open`](Self::open).
    pub fn of_take(files: Files<'_>, path: impl AsRef<Path>) -> Result<Self, Fault> {
        let document = Document::read(files, path.as_ref())?;
        match take_file(&document)?.tuning {
            Some(Tuning::Beside(name)) => Self::read(files, beside(document.path(), &name)),
            _ => Self::of(files, &document, true),
        }
    }

    fn of(files: Files<'_>, document: &Document, in_take: bool) -> Result<Self, Fault> {
        let settings = settings_of(document, in_take)?;
        Ok(Self {
            path: document.path().to_owned(),
            in_take,
            on_disk: matches!(files, Files::Disk),
            text: document.text().to_owned(),
            saved: settings.clone(),
            settings,
            watch: None,
        })
    }

    /// Starts watching the file. [`poll`](Self::poll) then reports changes.
    ///
    /// This watches the folder and not the file, because many editors replace a file when they save it.
    ///
    /// # Errors
    ///
    /// The folder can't be watched.
    pub fn watch(&mut self) -> Result<(), Fault> {
        let no_watch = |what: String| Fault::of_file(&self.path, format!("not watched: {what}"));
        let name = self.path.file_name().ok_or_else(|| no_watch("it is no file".into()))?;
        let folder = match self.path.parent() {
            Some(folder) if !folder.as_os_str().is_empty() => folder,
            _ => Path::new("."),
        };
        let (sender, events) = channel();
        let watcher = notify::recommended_watcher(sender).and_then(|mut watcher| {
            watcher.watch(folder, RecursiveMode::NonRecursive)?;
            Ok(watcher)
        });
        let _watcher = watcher.map_err(|error| no_watch(error.to_string()))?;
        self.watch = Some(Watch { _watcher, events, name: name.to_owned(), written: None });
        Ok(())
    }

    /// Returns the file's path.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// Returns whether the file exists on the disk. A file that is built into a program does not exist until it is
    /// saved.
    #[must_use]
    pub fn is_on_disk(&self) -> bool {
        self.on_disk
    }

    /// Returns the settings of the file, including changes that are not saved yet.
    #[must_use]
    pub fn settings(&self) -> &Settings {
        &self.settings
    }

    /// Returns the settings for changing. [`save`](Self::save) writes what differs from the file.
    pub fn settings_mut(&mut self) -> &mut Settings {
        &mut self.settings
    }

    /// Returns the settings as they are in the file.
    #[must_use]
    pub fn saved(&self) -> &Settings {
        &self.saved
    }

    /// Returns the paths of all keys that differ from the file, with the values to save, or `None` for a key that will
    /// be removed.
    #[must_use]
    pub fn changed(&self) -> Vec<(String, Option<Value>)> {
        Edits::between(&self.saved, &self.settings).0
    }

    /// Reads the file again if another program changed it. Call it in each frame: it does no work without a change.
    ///
    /// Returns `Some(Ok(()))` if there are new settings. Changes that are not saved yet are applied on top of them if
    /// possible. Returns the fault, once, if the file can't be used; the settings then stay as they are. Returns
    /// `None` without [`watch`](Self::watch).
    pub fn poll(&mut self) -> Option<Result<(), Fault>> {
        let watch = self.watch.as_mut()?;
        while let Ok(event) = watch.events.try_recv() {
            let ours = |event: &notify::Event| {
                let named = |path: &PathBuf| path.file_name() == Some(&watch.name);
                !event.kind.is_access() && event.paths.iter().any(named)
            };
            // A watcher that lost events can't say which.
            if event.as_ref().map_or(true, |event| ours(event) || event.need_rescan()) {
                watch.written = Some(Instant::now());
            }
        }
        if watch.written.is_none_or(|written| written.elapsed() < SETTLED) {
            return None;
        }
        watch.written = None;
        self.reload().transpose()
    }

    /// Reads the file again. Returns `None` if its text is the same.
    fn reload(&mut self) -> Result<Option<()>, Fault> {
        if !self.on_disk {
            return Ok(None);
        }
        let document = Document::read(Files::Disk, &self.path)?;
        if document.text() == self.text {
            return Ok(None);
        }
        let saved = settings_of(&document, self.in_take)?;
        let settings = Edits::between(&self.saved, &self.settings).applied(&saved);
        (self.text, self.saved, self.settings) = (document.text().to_owned(), saved, settings);
        Ok(Some(()))
    }

    /// Writes the changes and nothing else: comments, the order of keys and the layout stay. The file appears whole or
    /// not at all.
    ///
    /// # Errors
    ///
    /// A setting is not possible, another program has changed the file since it was read, or it can't be written.
    pub fn save(&mut self) -> Result<(), Fault> {
        let fault = |what: String| Fault::of_file(&self.path, what);
        self.settings.validate().map_err(|error| fault(format!("not saved: {error}")))?;
        if !self.on_disk && self.path.exists() {
            let what = "not saved: a file with this name exists already: move it, or work in another folder";
            return Err(fault(what.into()));
        }
        if self.on_disk && Files::Disk.read(&self.path)? != self.text {
            return Err(fault(
                "not saved: another program changed the file since it was read".into(),
            ));
        }
        let text = tuning_text::changed(&self.text, self.in_take, &self.saved, &self.settings)
            .ok_or_else(|| fault("not saved: its text could not be changed".into()))?;
        if text != self.text || !self.on_disk {
            write_whole(&self.path, identity, |out| out.write_all(text.as_bytes()))
                .map_err(|error| fault(format!("not saved: {}", reason(&error))))?;
        }
        (self.text, self.saved, self.on_disk) = (text, self.settings.clone(), true);
        Ok(())
    }

    /// Returns to the settings of the file.
    pub fn revert(&mut self) {
        self.settings = self.saved.clone();
    }
}

fn settings_of(document: &Document, in_take: bool) -> Result<Settings, Fault> {
    if in_take {
        return match take_file(document)?.tuning {
            Some(Tuning::Inline(settings)) => Ok(*settings),
            _ => Ok(Settings::default()),
        };
    }
    let (settings, faults) = document.settings();
    faults.into_iter().next().map_or(Ok(settings), Err)
}

fn take_file(document: &Document) -> Result<TakeFile, Fault> {
    let (file, faults) = TakeFile::read(document, &[]);
    faults.into_iter().next().map_or(Ok(file), Err)
}
