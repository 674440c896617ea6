//! Where a game's calls are noted, and the thread that writes them.

use std::convert::identity;
use std::fs::File;
use std::io::{self, Write};
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, RecvTimeoutError, Sender, channel};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::thread::JoinHandle;
use std::time::Duration;

use velvet_pan::Standing;

use super::call::{Call, What};
use super::calls_file::{self, COLUMNS};
use super::parts::{CALLS, TAKE, new_part};
use crate::text::atomic_write::{place_of, write_whole};
use crate::text::fault::Fault;
use crate::text::files::reason;

/// The time between two writes.
const EVERY: Duration = Duration::from_millis(100);
/// The number of calls for which there is room from the start.
const ROOM: usize = 1 << 12;

/// What a log keeps.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Keep {
    /// Everything, in a part that grows.
    Everything,
    /// At least the last seconds, up to twice as many, in memory. They are written when the game asks for it
    /// ([`RideLog::write`](super::RideLog::write)) and when it panics.
    Last {
        /// The least number of seconds.
        seconds: f64,
    },
}

/// What a log keeps, and how much.
#[derive(Clone, Debug, PartialEq)]
pub struct LogOptions {
    /// What is kept. Default [`Keep::Everything`].
    pub keep: Keep,
    /// The most bytes of a part; it ends there. Default 4 GiB.
    pub most_bytes: u64,
    /// The tuning file that the game reads while it runs, if there is one. The workbench that follows the log changes it.
    pub tuning: Option<PathBuf>,
}

impl Default for LogOptions {
    fn default() -> Self {
        Self { keep: Keep::Everything, most_bytes: 1 << 32, tuning: None }
    }
}

/// The calls that no thread has taken yet.
#[derive(Debug, Default)]
struct Shared {
    calls: Mutex<Vec<Call>>,
    fault: Mutex<Option<Fault>>,
}

/// What the writer is asked for.
enum Ask {
    /// Write everything that is kept, then confirm it.
    Write(Sender<()>),
}

/// Notes calls. A thread writes them.
#[derive(Debug)]
pub struct Book {
    shared: Arc<Shared>,
    pub keep: Keep,
    /// Whether calls are noted.
    pub records: bool,
    ask: Option<Sender<Ask>>,
    writer: Option<JoinHandle<()>>,
}

impl Book {
    /// Starts a thread that writes into a folder.
    pub fn new(folder: &Path, options: LogOptions) -> Result<Self, Fault> {
        let LogOptions { keep, most_bytes, tuning } = options;
        let shared = Arc::new(Shared::default());
        locked(&shared.calls).reserve(ROOM);
        let mut book = Self { shared, keep, records: false, ask: None, writer: None };
        if !cfg!(feature = "ride-log") {
            return Ok(book);
        }
        let (ask, asked) = channel();
        let mut writer = Writer {
            shared: Arc::clone(&book.shared),
            folder: folder.to_owned(),
            keep,
            most_bytes,
            // The log may be followed from another folder.
            tuning: tuning.map(|path| place_of(&path)),
            part: None,
            kept: Vec::new(),
            line: String::new(),
        };
        let thread = std::thread::Builder::new().name("ride log".to_owned());
        let thread = thread
            .spawn(move || writer.run(&asked))
            .map_err(|error| Fault::of_file(folder, format!("no ride log: {}", reason(&error))))?;
        (book.ask, book.writer) = (Some(ask), Some(thread));
        Ok(book)
    }

    /// Notes a call.
    pub fn note(&self, call: Call) {
        if self.records {
            locked(&self.shared.calls).push(call);
        }
    }

    /// Returns whether so much time has passed since the last beginning that a new stretch begins.
    pub fn wants_beginning(&self, age: f64) -> bool {
        self.records && matches!(self.keep, Keep::Last { seconds } if age >= seconds)
    }

    /// Returns what went wrong, once.
    pub fn take_fault(&self) -> Option<Fault> {
        locked(&self.shared.fault).take()
    }

    /// Waits until everything that was noted is written.
    pub fn write(&self) {
        let (done, is_done) = channel();
        let asked = self.ask.as_ref().is_some_and(|ask| ask.send(Ask::Write(done)).is_ok());
        // Without a thread nothing is kept.
        let _written = asked.then(|| is_done.recv());
    }
}

impl Drop for Book {
    fn drop(&mut self) {
        if std::thread::panicking() || self.keep == Keep::Everything {
            self.write();
        }
        self.ask = None;
        if let Some(writer) = self.writer.take() {
            // What it could not write is told by the fault.
            let _ended = writer.join();
        }
    }
}

/// Returns a thread that panicked with the lock left whole calls behind.
fn locked<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}

/// The thread's side.
struct Writer {
    shared: Arc<Shared>,
    folder: PathBuf,
    keep: Keep,
    most_bytes: u64,
    tuning: Option<PathBuf>,
    /// The part that grows. `None` before the first call, and after something went wrong.
    part: Option<LogPart>,
    /// The stretches of calls that are kept in memory, each with the calls that set it up.
    kept: Vec<Vec<Call>>,
    line: String,
}

impl Writer {
    fn run(&mut self, asked: &Receiver<Ask>) {
        let mut calls = Vec::with_capacity(ROOM);
        loop {
            let ask = asked.recv_timeout(EVERY);
            std::mem::swap(&mut *locked(&self.shared.calls), &mut calls);
            self.take(&mut calls);
            match ask {
                Ok(Ask::Write(done)) => {
                    self.write_kept();
                    // Who asked may be gone.
                    let _told = done.send(());
                }
                Err(RecvTimeoutError::Timeout) => {}
                Err(RecvTimeoutError::Disconnected) => return,
            }
        }
    }

    fn take(&mut self, calls: &mut Vec<Call>) {
        if self.keep == Keep::Everything {
            self.write(calls);
            calls.clear();
            return;
        }
        for call in calls.drain(..) {
            if matches!(call.what, What::Begin(_)) {
                // The last stretch is as long as asked for, the new one is still growing.
                let old = self.kept.len().saturating_sub(1);
                self.kept.drain(..old);
                self.kept.push(Vec::with_capacity(ROOM));
            }
            if let Some(kept) = self.kept.last_mut() {
                kept.push(call);
            }
        }
    }

    /// Writes what is kept as a new part.
    fn write_kept(&mut self) {
        let kept = std::mem::take(&mut self.kept);
        for (number, stretch) in kept.iter().enumerate() {
            // A later stretch needs no setting up: it goes on where the one before ends.
            self.write(&stretch[number.min(1)..]);
        }
        self.kept = kept;
    }

    fn write(&mut self, calls: &[Call]) {
        let mut rest = calls;
        while let Some((first, others)) = rest.split_first() {
            let begins = |call: &Call| matches!(call.what, What::Begin(_));
            let end = 1 + others.iter().position(begins).unwrap_or(others.len());
            let (stretch, later) = rest.split_at(end);
            let written = match &first.what {
                What::Begin(cameras) => self.begin(cameras, &stretch[1..]),
                _ => self.go_on(stretch),
            };
            if let Err((path, error)) = written {
                // Told once; the game goes on without a log.
                let what = format!("the ride log ends here: {}", reason(&error));
                *locked(&self.shared.fault) = Some(Fault::of_file(&path, what));
                self.part = None;
            }
            rest = later;
        }
    }

    fn begin(
        &mut self,
        cameras: &[(String, Standing)],
        calls: &[Call],
    ) -> Result<(), (PathBuf, io::Error)> {
        let folder = new_part(&self.folder).map_err(|error| (self.folder.clone(), error))?;
        let part = LogPart::new(&folder).map_err(|error| (folder.clone(), error))?;
        self.part = Some(part);
        let head = cameras.iter().flat_map(|(key, at)| Call::set_up(key, at.clone()));
        self.go_on(&head.collect::<Vec<_>>())?;
        self.go_on(calls)?;
        let take = folder.join(TAKE);
        let mut text = format!(
            "# A ride log: what a game told its cameras, call by call.\n\
             calls = \"{CALLS}\"\nversion = \"{}\"\ntuning = \"tuning-1.toml\"\n",
            env!("CARGO_PKG_VERSION")
        );
        if let Some(tuning) = &self.tuning {
            let path = toml_edit::Value::from(tuning.to_string_lossy().as_ref());
            text += &format!("tunes = {path} # the file that the game reads while it runs\n");
        }
        write_whole(&take, identity, |out| out.write_all(text.as_bytes()))
            .map_err(|error| (take.clone(), error))
    }

    fn go_on(&mut self, calls: &[Call]) -> Result<(), (PathBuf, io::Error)> {
        let Some(part) = &mut self.part else { return Ok(()) };
        self.line.clear();
        part.write(calls, &mut self.line).map_err(|error| (part.folder.clone(), error))?;
        if part.bytes <= self.most_bytes {
            return Ok(());
        }
        let folder = part.folder.clone();
        let what = format!("it is {} bytes long, the most that was allowed", part.bytes);
        Err((folder, io::Error::other(what)))
    }
}

/// A part that grows.
struct LogPart {
    folder: PathBuf,
    file: File,
    lines: usize,
    bytes: u64,
}

impl LogPart {
    fn new(folder: &Path) -> io::Result<Self> {
        let mut file = File::create_new(folder.join(CALLS))?;
        writeln!(file, "{COLUMNS}")?;
        Ok(Self { folder: folder.to_owned(), file, lines: 0, bytes: 0 })
    }

    fn write(&mut self, calls: &[Call], text: &mut String) -> io::Result<()> {
        for call in calls {
            self.lines += 1;
            if let Some(beside) = calls_file::write(call, self.lines, text) {
                // Before the line that names it, so that a reader finds it.
                let path = self.folder.join(&beside.name);
                std::fs::write(path, &beside.text)?;
                self.bytes += beside.text.len() as u64;
            }
        }
        self.bytes += text.len() as u64;
        self.file.write_all(text.as_bytes())
    }
}
