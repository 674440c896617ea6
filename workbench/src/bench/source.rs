//! Where a take and a tuning come from.

use std::path::{Path, PathBuf};

use velvet_pan::Settings;
use velvet_pan_takes::{Document, Fault, Files, Overrides, Take, TuningFile};
use velvet_pan_terraces::files;

use super::play::Play;

/// What is opened.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Source {
    /// Wren, played by the user. The camera has the tuning of this file, or the demo's tuning without a path.
    Play(Option<PathBuf>),
    /// A take of the demo, by name.
    Demo(&'static str),
    /// A take on the disk.
    Take(PathBuf),
}

/// The demo's tuning for Wren.
const COURIER_TUNING: &str = "courier.toml";

impl Source {
    /// Opens a file of the user: a take or a tuning.
    ///
    /// # Errors
    ///
    /// The file can't be read.
    pub fn of_file(path: &Path) -> Result<Self, Fault> {
        let document = Document::read(Files::Disk, path)?;
        Ok(if document.is_take() {
            Self::Take(path.to_owned())
        } else {
            Self::Play(Some(path.to_owned()))
        })
    }

    /// Returns all takes of the demo.
    pub fn demos() -> impl Iterator<Item = Self> {
        DEMOS.into_iter().map(Self::Demo)
    }

    /// Returns a short description for a list.
    pub fn name(&self) -> String {
        match self {
            Self::Play(_) => "play Wren".to_owned(),
            Self::Demo(name) => name.trim_end_matches(".toml").to_owned(),
            Self::Take(path) => path.file_name().unwrap_or_default().to_string_lossy().into_owned(),
        }
    }

    /// Returns its tuning.
    pub(super) fn tuning(&self) -> Result<TuningFile, Fault> {
        let built_in = files::files();
        match self {
            Self::Play(Some(path)) => TuningFile::open(path),
            Self::Play(None) => TuningFile::read(Files::BuiltIn(&built_in), COURIER_TUNING),
            Self::Demo(name) => TuningFile::of_take(Files::BuiltIn(&built_in), name),
            Self::Take(path) => TuningFile::of_take(Files::Disk, path),
        }
    }

    /// Returns its take with these settings, and Wren if she is played.
    pub(super) fn take(&self, settings: &Settings) -> Result<(Option<Play>, Take), Fault> {
        let built_in = files::files();
        let read = |files: Files<'_>, path: &Path| {
            let take = Take::read(files, path, &Overrides::default())?;
            Ok((None, Take { settings: settings.clone(), ..take }))
        };
        match self {
            Self::Play(_) => {
                let play = Play::new();
                let take = play.begin(settings.clone(), FPS)?;
                Ok((Some(play), take))
            }
            Self::Demo(name) => read(Files::BuiltIn(&built_in), Path::new(name)),
            Self::Take(path) => read(Files::Disk, path),
        }
    }
}

/// The default frames per second.
const FPS: f64 = 60.0;

const DEMOS: [&str; 10] = [
    "terraces.toml",
    "pan.toml",
    "gully.toml",
    "kite.toml",
    "house.toml",
    "shrine.toml",
    "valley.toml",
    "cable.toml",
    "landslide.toml",
    "cutscene.toml",
];
