//! Takes: scripted rides of a 2D game camera, for tests and tools.
//!
//! A [`Take`] is a TOML file with the settings of the camera, the paths of its subjects, and events with their times. A
//! [`Ride`] runs a camera through it, frame by frame. [`Figures`] measure the ride, for example lag, settling, judder,
//! and how often the subject was off the screen.
//!
//! Add this crate to a game's dev-dependencies, and a test can check the camera's figures:
//!
//! ```
//! use velvet_pan_takes::{Figures, Files, BuiltIn, Overrides, Take};
//!
//! let text = r#"
//! seconds = 2.0
//! [tuning.follow]
//! smoothing = { half_life = 0.1 }
//! [subjects.courier]
//! keys = [[0.0, 0.0, 0.0], [1.0, 120.0, 0.0]]
//! "#;
//! let files = [BuiltIn { name: "run.toml", text: text.into() }];
//! let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
//! let figures = Figures::of_take(&take)?;
//! assert!(figures.lag_worst.is_some_and(|pixels| pixels < 20.0));
//! assert_eq!(figures.lost, Some(0.0));
//! # Ok::<(), velvet_pan_takes::Fault>(())
//! ```
//!
//! Every [`Fault`] names the file, the line, the key and a correct value.

// A file uses its own folder and those above it in this list. The exceptions: a tuning file may lie
// within a take, and a take may hold a log.
mod text;
mod tuning;
mod take;
mod ride;
mod figures;
mod log;

pub use figures::{Better, Figure, Figures, Warned};
pub use log::{
    Differs, Keep, Log, LogFollower, LogNews, LogOptions, RideLog, ShownView, newest_part,
};
pub use ride::drawn::drawn_origin;
pub use ride::jerks::Jerk;
pub use ride::marks::{MarkArea, MarkLine, MarkLook, MarkNames};
pub use ride::moment::{Happening, Moment, deciders_in_words};
pub use ride::ride::Ride;
pub use ride::row::{Row, write_rows};
pub use ride::run::{RideState, Run};
pub use ride::side_by_side::SideBySide;
pub use take::event::Event;
pub use take::event_times::EventTime;
pub use take::map::{Map, MapForm};
pub use take::path::{Path, PathRow, is_path_table};
pub use take::pictures::{LevelPicture, PictureFile, Pictures, SubjectPicture, TilePictures};
pub use take::player::{Player, PlayerKind};
pub use take::subjects::{MAIN, TakeCamera, TakeSubject};
pub use take::take::{Overrides, Take};
pub use take::take_file::take_faults;
pub use text::atomic_write::{Unfinished, place_of, remove_unfinished, write_whole};
pub use text::change::Change;
pub use text::csv::Table;
pub use text::document::Document;
pub use text::fault::Fault;
pub use text::files::{BuiltIn, Files, beside, reason};
pub use tuning::reference::{KeyHelp, settings_keys, settings_reference};
pub use tuning::schema::settings_schema;
pub use tuning::tuning::read_settings;
pub use tuning::tuning_file::TuningFile;
pub use tuning::tuning_text::settings_text;
