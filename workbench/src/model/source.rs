//! Where a take and a tuning come from.

use std::path::{Path, PathBuf};

use velvet_pan_takes::{
    BuiltIn, Document, Fault, Files, Overrides, Take, TuningFile, newest_part, settings_text,
};
use velvet_pan_terraces::files;

use super::live::Live;
use super::play::Play;

/// What is opened.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Source {
    /// Wren, played by the user. The camera has the tuning of this file, or the demo's tuning without a path.
    Play(Option<PathBuf>),
    /// The subject of a take on the disk, played by the user.
    PlayTake(PathBuf),
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

    /// Returns what else can be done with the same file: ride it, or play in it.
    pub fn other(&self) -> Option<Self> {
        match self {
            Self::Take(path) => Some(Self::PlayTake(path.clone())),
            Self::PlayTake(path) => Some(Self::Take(path.clone())),
            _ => None,
        }
    }

    /// Returns a short description for a list.
    pub fn name(&self) -> String {
        match self {
            Self::Play(_) => "play Wren".to_owned(),
            Self::PlayTake(path) => {
                let name = path.file_stem().unwrap_or_default().to_string_lossy();
                format!("play {name}")
            }
            Self::Demo(name) => name.trim_end_matches(".toml").to_owned(),
            Self::Take(path) | Self::Log(path) => {
                path.file_name().unwrap_or_default().to_string_lossy().into_owned()
            }
        }
    }

    /// Opens everything of it.
    pub(super) fn open(&self) -> Result<Opened, Fault> {
        let built_in = files::files();
        match self {
            Self::Play(Some(path)) => Opened::play(TuningFile::open(path)?),
            Self::Play(None) => {
                let tuning = TuningFile::read(Files::BuiltIn(&built_in), COURIER_TUNING)?;
                Opened::play(tuning)
            }
            Self::PlayTake(path) => Opened::play_take(path),
            Self::Demo(name) => Opened::take(Files::BuiltIn(&built_in), Path::new(name)),
            Self::Take(path) => Opened::take(Files::Disk, path),
            Self::Log(folder) => Opened::log(Live::open(folder)?),
        }
    }
}

/// Everything of a source: its tuning, its take with the settings of the tuning, and what makes the take grow.
pub struct Opened {
    pub tuning: TuningFile,
    /// What the user plays.
    pub play: Option<Play>,
    pub take: Take,
    /// What follows the log of a game.
    pub live: Option<Live>,
}

impl Opened {
    fn of(tuning: TuningFile, play: Option<Play>, take: Take, live: Option<Live>) -> Self {
        let take = Take { settings: tuning.settings().clone(), ..take };
        Self { tuning, play, take, live }
    }

    fn play(tuning: TuningFile) -> Result<Self, Fault> {
        let play = Play::wren(tuning.settings().clone())?;
        let take = play.begin(tuning.settings().clone(), FPS)?;
        Ok(Self::of(tuning, Some(play), take, None))
    }

    fn play_take(path: &Path) -> Result<Self, Fault> {
        let opened = Self::take(Files::Disk, path)?;
        let play = Play::of_take(&opened.take)?;
        let take = play.begin(opened.take.settings.clone(), opened.take.fps)?;
        Ok(Self { play: Some(play), take, ..opened })
    }

    fn take(files: Files<'_>, path: &Path) -> Result<Self, Fault> {
        let tuning = TuningFile::of_take(files, path)?;
        // The steps of the workbench are those of its clock.
        let take = Take::read(files, path, &Overrides::default())?.in_even_steps();
        Ok(Self::of(tuning, None, take, None))
    }

    /// Returns a log is read once: it may be long.
    fn log(mut live: Live) -> Result<Self, Fault> {
        let take = live.begin();
        let tuning = tuning_of_log(&take)?;
        Ok(Self::of(tuning, None, take, Some(live)))
    }
}

/// Returns the tuning that the game reads while it runs; of a game that said nothing of one, a new file with its
/// settings.
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
