//! Where a take and a tuning come from.

use std::path::{Path, PathBuf};

use velvet_pan::Settings;
use velvet_pan_takes::{
    BuiltIn, Document, Fault, Files, LogFollower, Overrides, Take, TuningFile, newest_part,
    settings_text,
};
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
    /// The ride log of a game that may still run.
    Log(PathBuf),
}

/// The demo's tuning for Wren.
const COURIER_TUNING: &str = "courier.toml";

impl Source {
    /// Opens a file of the user: a take, a tuning, or the folder of a ride log.
    ///
    /// # Errors
    ///
    /// The file can't be read.
    pub fn of_file(path: &Path) -> Result<Self, Fault> {
        if newest_part(path).is_some() {
            return Ok(Self::Log(path.to_owned()));
        }
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
            Self::Take(path) | Self::Log(path) => {
                path.file_name().unwrap_or_default().to_string_lossy().into_owned()
            }
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
            Self::Log(folder) => tuning_of_log(&LogFollower::open(folder)?.take()),
        }
    }

    /// Returns its take with these settings, and Wren if she is played.
    pub(super) fn take(&self, settings: &Settings) -> Result<(Option<Play>, Take), Fault> {
        let built_in = files::files();
        let read = |files: Files<'_>, path: &Path| {
            // The steps of the workbench are those of its clock.
            let take = Take::read(files, path, &Overrides::default())?.in_even_steps();
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
            Self::Log(folder) => {
                let take = LogFollower::open(folder)?.take();
                Ok((None, Take { settings: settings.clone(), ..take }))
            }
        }
    }

    /// Returns what follows the log, if it is one.
    pub(super) fn follower(&self) -> Result<Option<LogFollower>, Fault> {
        let Self::Log(folder) = self else { return Ok(None) };
        LogFollower::open(folder).map(Some)
    }
}

/// The tuning that the game reads while it runs; of a game that said nothing of one, a new file with its settings.
fn tuning_of_log(take: &Take) -> Result<TuningFile, Fault> {
    let game_reads = take.log.as_ref().and_then(|log| log.tuning()).filter(|path| path.is_file());
    if let Some(path) = game_reads {
        return TuningFile::open(path);
    }
    let text = settings_text(&take.settings, |_| true).unwrap_or_default();
    let new = [BuiltIn { name: NEW_TUNING, text: text.into() }];
    TuningFile::read(Files::BuiltIn(&new), NEW_TUNING)
}

/// The name of the file into which settings are saved that no game reads.
const NEW_TUNING: &str = "camera.toml";

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
