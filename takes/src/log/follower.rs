//! Follows a log while its game runs.

use std::fs::File;
use std::io::{self, Read, Seek, SeekFrom};
use std::path::{Path, PathBuf};

use super::calls_file::{Reader, whole_lines};
use super::parts::{CALLS, newest_part};
use super::read::Log;
use super::story::Teller;
use crate::take::take::Take;
use crate::text::fault::Fault;
use crate::text::files::{Files, reason};

/// Follows the newest part of a log while its game runs.
///
/// ```
/// use velvet_pan::{Camera, Settings};
/// use velvet_pan_takes::{LogFollower, LogNews, RideLog};
/// # let folder = std::env::temp_dir().join("velvet-pan-followed");
/// # let _ = std::fs::remove_dir_all(&folder);
///
/// let mut camera = RideLog::new(Camera::new(Settings::default())?, &folder)?;
/// camera.follow(0.5, [0, 0]);
/// camera.write();
/// let mut follower = LogFollower::open(&folder)?;
/// let mut take = follower.take();
/// camera.follow(0.5, [30, 0]);
/// camera.write();
/// assert_eq!(follower.poll(&mut take)?, Some(LogNews::Grew));
/// assert_eq!(take.seconds, 0.5);
/// # drop(camera);
/// # std::fs::remove_dir_all(&folder)?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug)]
pub struct LogFollower {
    folder: PathBuf,
    /// The take of the part that is followed.
    part: PathBuf,
    /// The take as it was opened.
    opened: Take,
    reader: Reader,
    /// The number of bytes that were read as whole lines.
    bytes: u64,
    log: Log,
    teller: Teller,
    /// The number of events of the log that its take has.
    told: usize,
}

/// What is new in a log.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LogNews {
    /// There are more frames.
    Grew,
    /// The game has begun a new part, which is followed from now on.
    NewPart,
}

impl LogFollower {
    /// Opens the newest part of a log.
    ///
    /// # Errors
    ///
    /// The folder has no part, or its newest one can't be read.
    pub fn open(folder: impl AsRef<Path>) -> Result<Self, Fault> {
        let folder = folder.as_ref();
        let none =
            || Fault::of_file(folder, "no ride log: expected a folder with part-1/take.toml");
        Self::of_part(folder, newest_part(folder).ok_or_else(none)?)
    }

    fn of_part(folder: &Path, part: PathBuf) -> Result<Self, Fault> {
        let opened = Take::open(&part)?.in_even_steps();
        let Some(log) = &opened.log else {
            return Err(Fault::of_file(&part, "not a ride log: expected the key calls"));
        };
        // What the game wrote meanwhile is read again: only whole lines are taken.
        let log = log.without_calls();
        let mut follower = Self {
            folder: folder.to_owned(),
            reader: Reader::new(&part.with_file_name(CALLS)),
            part,
            opened,
            bytes: 0,
            log,
            teller: Teller::default(),
            told: 0,
        };
        follower.opened.events.clear();
        follower.read()?;
        Ok(follower)
    }

    /// Returns the take of the part that is followed, as far as it was read. [`poll`](Self::poll) goes on from there.
    pub fn take(&mut self) -> Take {
        let mut take = self.opened.clone();
        self.told = 0;
        self.tell(&mut take);
        take
    }

    /// Reads what is new into the take. Call it in each frame: without news it only looks at the folder and at the
    /// length of a file.
    ///
    /// # Errors
    ///
    /// What is new can't be read. It is reported once, and nothing more of this part is read.
    pub fn poll(&mut self, take: &mut Take) -> Result<Option<LogNews>, Fault> {
        if let Some(part) = newest_part(&self.folder).filter(|part| *part != self.part) {
            // A part without a frame can't be read yet.
            if let Ok(new) = Self::of_part(&self.folder, part) {
                *self = new;
                *take = self.take();
                return Ok(Some(LogNews::NewPart));
            }
        }
        if self.reader.fault.is_some() || !self.read()? {
            return Ok(None);
        }
        self.tell(take);
        match &self.reader.fault {
            Some(fault) => Err(fault.clone()),
            None => Ok(Some(LogNews::Grew)),
        }
    }

    /// Reads whole new lines. Returns whether there are any.
    fn read(&mut self) -> Result<bool, Fault> {
        let path = self.part.with_file_name(CALLS);
        let text =
            read_from(&path, self.bytes).map_err(|error| Fault::of_file(&path, reason(&error)))?;
        let (whole, _rest) = whole_lines(&text);
        self.bytes += whole.len() as u64;
        let calls = self.reader.read(Files::Disk, whole);
        let is_new = !calls.is_empty();
        self.log.add(calls);
        self.teller.listen(&self.log);
        Ok(is_new)
    }

    /// Puts everything that was heard into a take. Events that were added by hand are kept.
    fn tell(&mut self, take: &mut Take) {
        let story = self.teller.told();
        (take.subjects, take.cameras) = (story.subjects, story.cameras);
        for event in &story.events[self.told..] {
            let place = take.events.partition_point(|other| other.at <= event.at);
            take.events.insert(place, event.clone());
        }
        self.told = story.events.len();
        take.seconds = self.log.seconds();
    }
}

/// Returns the text of a file after this many bytes. Half a character at its end is left for the next time.
fn read_from(path: &Path, bytes: u64) -> io::Result<String> {
    let mut file = File::open(path)?;
    if file.metadata()?.len() <= bytes {
        return Ok(String::new());
    }
    file.seek(SeekFrom::Start(bytes))?;
    let mut new = Vec::new();
    file.read_to_end(&mut new)?;
    let whole = new.iter().rposition(|byte| *byte == b'\n').map_or(0, |end| end + 1);
    new.truncate(whole);
    String::from_utf8(new).map_err(io::Error::other)
}
