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

mod cast;
mod change;
mod clock;
mod document;
mod edits;
mod event;
mod event_times;
mod fault;
mod figures;
mod files;
mod hash;
mod jerks;
mod keys;
mod list_text;
mod log;
mod map;
mod marks;
mod moment;
mod node;
mod path;
mod pictures;
mod player;
mod reel;
mod reference;
mod ride;
mod row;
mod run;
mod saved;
mod scene;
mod schema;
mod table;
mod take;
mod take_file;
mod tuning;
mod tuning_file;
mod tuning_text;
mod whole;

pub use cast::{Actor, MAIN, TakeCamera};
pub use change::Change;
pub use document::Document;
pub use event::Event;
pub use event_times::EventTime;
pub use fault::Fault;
pub use figures::{Better, Figure, Figures, Warned, drawn_origin};
pub use files::{BuiltIn, Files, beside, reason};
pub use jerks::Jerk;
pub use log::{
    Differs, Keep, Log, LogFollower, LogNews, LogOptions, LoggedCamera, RideLog, Shown, newest_part,
};
pub use map::{Map, MapForm};
pub use marks::{MarkArea, MarkLine, MarkLook, MarkNames};
pub use moment::{Happening, Moment, deciders_in_words};
pub use path::{Path, PathRow, is_path_table};
pub use pictures::{LevelPicture, PictureFile, Pictures, SubjectPicture, TilePictures};
pub use player::{Player, PlayerKind};
pub use reel::Reel;
pub use reference::{KeyHelp, settings_keys, settings_reference};
pub use ride::Ride;
pub use row::{Row, write_rows};
pub use run::{RideState, Run};
pub use schema::settings_schema;
pub use table::Table;
pub use take::{Overrides, Take};
pub use take_file::take_faults;
pub use tuning::read_settings;
pub use tuning_file::TuningFile;
pub use tuning_text::settings_text;
pub use whole::{Unfinished, place_of, remove_unfinished, write_whole};
