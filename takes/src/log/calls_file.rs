//! The table of calls: one line for each call, and files for settings and states.

use std::fmt::Write as _;
use std::path::{Path, PathBuf};
use std::str::FromStr;

use csv::StringRecord;
use velvet_pan::glam::DVec2;
use velvet_pan::{CameraState, Ease, Settings, Subject};

use super::call::{Call, What};
use super::shown_view::ShownView;
use crate::text::command;
use crate::text::csv::Table;
use crate::text::fault::Fault;
use crate::text::files::{Files, beside};
use crate::tuning::tuning::read_settings;
use crate::tuning::tuning_text::settings_text;

/// The columns of the table.
pub const COLUMNS: &str = "call,camera,seconds,x,y,velocity_x,velocity_y,grounded,jump,carrier_x,carrier_y,id,weight,rank,margin,view_x,view_y,zoom,rotation,shake_x,shake_y,roll,cuts,digest,what";

const COUNT: usize = 25;
/// The first column of a subject, and of what was shown.
const SUBJECT: usize = 3;
const SHOWN: usize = 15;
const WHAT: usize = 24;

/// What the writer of a table puts beside it.
pub struct Beside {
    pub name: String,
    pub text: String,
}

/// Writes the line of a call. Settings and states go into files beside the table, which have this number.
pub fn write(call: &Call, number: usize, line: &mut String) -> Option<Beside> {
    // Writing to a string can't fail.
    let _ = write!(line, "{},", call.what.name());
    quote(&call.camera, line);
    let _ = write!(line, ",{}", number_text(call.seconds));
    write_subject(call.subject.as_ref(), line);
    write_shown(call.shown.as_ref(), line);
    let (what, beside) = what_text(&call.what, number);
    line.push(',');
    quote(&what, line);
    line.push('\n');
    beside
}

/// Zero is an empty field; the other zero is not.
fn number_text(number: f64) -> String {
    if number.to_bits() == 0 { String::new() } else { number.to_string() }
}

fn write_subject(subject: Option<&Subject>, line: &mut String) {
    let Some(subject) = subject else {
        line.push_str(",,,,,,,,,,,,");
        return;
    };
    let Subject { position, velocity, grounded, jump, carrier, id, weight, rank, margin } =
        *subject;
    let flag = |flag: Option<bool>| flag.map_or(String::new(), |flag| u8::from(flag).to_string());
    let [vx, vy] = velocity.map_or([String::new(), String::new()], |velocity| {
        [velocity.x.to_string(), velocity.y.to_string()]
    });
    let id = id.map_or(String::new(), |id| id.to_string());
    let _ = write!(line, ",{},{},{vx},{vy}", number_text(position.x), number_text(position.y));
    let _ = write!(line, ",{},{}", flag(grounded), flag(jump));
    let _ = write!(line, ",{},{},{id}", number_text(carrier.x), number_text(carrier.y));
    let weight = if weight == 1.0 { String::new() } else { weight.to_string() };
    let rank = if rank == 0 { String::new() } else { rank.to_string() };
    let _ = write!(line, ",{weight},{rank},{}", number_text(margin));
}

fn write_shown(shown: Option<&ShownView>, line: &mut String) {
    let Some(shown) = shown else {
        line.push_str(",,,,,,,,,");
        return;
    };
    for (name, number) in shown.numbers() {
        let text = if name == "zoom" { number.to_string() } else { number_text(number) };
        let _ = write!(line, ",{text}");
    }
    let _ = write!(line, ",{:016x}", shown.digest);
}

fn what_text(what: &What, number: usize) -> (String, Option<Beside>) {
    let tuning = |settings: &Settings| {
        let name = format!("tuning-{number}.toml");
        let text = settings_text(settings, |_| true).unwrap_or_default();
        (name.clone(), Some(Beside { name, text }))
    };
    match what {
        What::Tell(command) => (command::written(command).unwrap_or_default(), None),
        What::Settings(settings) | What::Insert(settings) => tuning(settings),
        What::Restore(state) => {
            let name = format!("state-{number}.json");
            let text = serde_json::to_string(state).unwrap_or_default();
            (name.clone(), Some(Beside { name, text }))
        }
        What::GlideTo { seconds, ease } => (command::timing(*seconds, *ease), None),
        What::IgnoreHands(ignored) => (ignored.to_string(), None),
        _ => (String::new(), None),
    }
}

/// A field of a table, in quotes where it needs them.
fn quote(field: &str, line: &mut String) {
    if field.contains([',', '"', '\n', '\r']) || field.starts_with(' ') || field.ends_with(' ') {
        let _ = write!(line, "\"{}\"", field.replace('"', "\"\""));
    } else {
        line.push_str(field);
    }
}

/// Reads a table of calls piece by piece, up to the first line that can't be read.
#[derive(Clone, Debug)]
pub struct Reader {
    path: PathBuf,
    /// The number of lines that were read.
    lines: usize,
    /// Why nothing more can be read.
    pub fault: Option<Fault>,
}

impl Reader {
    /// Starts before the first line.
    pub fn new(path: &Path) -> Self {
        Self { path: path.to_owned(), lines: 0, fault: None }
    }

    /// Reads whole lines. Returns their calls, with the lines' numbers.
    pub fn read(&mut self, files: Files<'_>, text: &str) -> Vec<(usize, Call)> {
        if self.fault.is_some() {
            return Vec::new();
        }
        let before = self.lines;
        self.lines += text.lines().count();
        let path = self.path.clone();
        let table = Table::new(&path, text);
        let records = match table.records() {
            Ok(records) => records,
            Err(fault) => {
                self.fault = Some(fault);
                return Vec::new();
            }
        };
        let mut calls = Vec::with_capacity(records.len());
        for (line, record) in records {
            let line = before + line;
            let read =
                if line == 1 { header(&record).map(|()| None) } else { self.call(files, &record) };
            match read {
                Ok(call) => calls.extend(call.map(|call| (line, call))),
                Err((field, what)) => {
                    self.stop(line, table.column(line - before, field + 1), what);
                    break;
                }
            }
        }
        calls
    }

    /// Ends the reading of a file. A last line without its end was cut off while it was written.
    pub fn end(&mut self, rest: &str) {
        if !rest.is_empty() && self.fault.is_none() {
            self.stop(self.lines + 1, 1, "cut off".to_owned());
        }
    }

    fn stop(&mut self, line: usize, column: usize, what: String) {
        let what = if line == 1 { what } else { format!("{what}: what comes before is ridden") };
        self.fault = Some(Fault::of_file(&self.path, what).at(line, column));
    }

    fn call(&mut self, files: Files<'_>, record: &StringRecord) -> Read<Option<Call>> {
        call_of(files, &self.path, record).map(Some)
    }
}

fn header(record: &StringRecord) -> Read<()> {
    if record.iter().eq(COLUMNS.split(',')) {
        return Ok(());
    }
    Err((0, format!("not a table of calls: expected {COLUMNS}")))
}

/// Returns the end of the last whole line of a text.
pub fn whole_lines(text: &str) -> (&str, &str) {
    text.split_at(text.rfind('\n').map_or(0, |end| end + 1))
}

/// A call, or the field that is wrong, from 0, and why.
type Read<T> = Result<T, (usize, String)>;

fn call_of(files: Files<'_>, path: &Path, record: &StringRecord) -> Read<Call> {
    if record.len() != COUNT {
        return Err((0, format!("{} fields: expected {COUNT}", record.len())));
    }
    let what = what_of(files, path, record)?;
    let has_subject = matches!(what, What::Follow | What::Member);
    let has_shown = what.is_frame() || matches!(what, What::View);
    Ok(Call {
        camera: record[1].to_owned(),
        what,
        seconds: number(record, 2)?,
        subject: has_subject.then(|| subject_of(record)).transpose()?,
        shown: has_shown.then(|| shown_of(record)).transpose()?,
    })
}

fn what_of(files: Files<'_>, path: &Path, record: &StringRecord) -> Read<What> {
    let what = &record[WHAT];
    let beside = beside(path, what);
    let wrong = |what: String| (WHAT, what);
    let tuning = || -> Read<Box<Settings>> {
        let settings = read_settings(files, &beside, &[]);
        settings.map(Box::new).map_err(|fault| wrong(fault.to_string()))
    };
    Ok(match &record[0] {
        "follow" => What::Follow,
        "member" => What::Member,
        "follow_all" => What::FollowAll,
        "advance" => What::Advance,
        "view" => What::View,
        "tell" => What::Tell(command::read(what).map_err(wrong)?),
        "settings" => What::Settings(tuning()?),
        "insert" => What::Insert(tuning()?),
        "restore" => What::Restore(Box::new(state_of(files, &beside).map_err(wrong)?)),
        "remove" => What::Remove,
        "switch_to" => What::SwitchTo,
        "glide_to" => {
            let (seconds, ease): (f64, Ease) = command::read_timing(what).map_err(wrong)?;
            What::GlideTo { seconds, ease }
        }
        "ignore_hands" => What::IgnoreHands(what == "true"),
        "count_cut" => What::CountCut,
        other => return Err((0, format!("no call \"{other}\""))),
    })
}

fn state_of(files: Files<'_>, path: &Path) -> Result<CameraState, String> {
    let text = files.read(path).map_err(|fault| fault.to_string())?;
    serde_json::from_str(&text).map_err(|error| format!("{}: {error}", path.display()))
}

fn parsed<T: FromStr>(record: &StringRecord, field: usize, empty: T, expected: &str) -> Read<T> {
    let text = &record[field];
    if text.is_empty() {
        return Ok(empty);
    }
    text.parse().map_err(|_| (field, format!("\"{text}\": expected {expected}")))
}

fn number(record: &StringRecord, field: usize) -> Read<f64> {
    parsed(record, field, 0.0, "a number")
}

fn pair(record: &StringRecord, field: usize) -> Read<DVec2> {
    Ok(DVec2::new(number(record, field)?, number(record, field + 1)?))
}

fn flag(record: &StringRecord, field: usize) -> Read<Option<bool>> {
    match &record[field] {
        "" => Ok(None),
        "0" => Ok(Some(false)),
        "1" => Ok(Some(true)),
        other => Err((field, format!("\"{other}\": expected 1 or 0"))),
    }
}

fn subject_of(record: &StringRecord) -> Read<Subject> {
    let at = |offset: usize| SUBJECT + offset;
    let velocity = if record[at(2)].is_empty() { None } else { Some(pair(record, at(2))?) };
    let has_id = !record[at(8)].is_empty();
    let id = has_id.then(|| parsed(record, at(8), 0, "a whole number")).transpose()?;
    Ok(Subject {
        position: pair(record, at(0))?,
        velocity,
        grounded: flag(record, at(4))?,
        jump: flag(record, at(5))?,
        carrier: pair(record, at(6))?,
        id,
        weight: parsed(record, at(9), 1.0, "a number")?,
        rank: parsed(record, at(10), 0, "a whole number")?,
        margin: number(record, at(11))?,
    })
}

fn shown_of(record: &StringRecord) -> Read<ShownView> {
    let at = |offset: usize| SHOWN + offset;
    let digest = &record[at(8)];
    let wrong = |_| (at(8), format!("\"{digest}\": expected 16 hexadecimal digits"));
    Ok(ShownView {
        centre: pair(record, at(0))?,
        zoom: number(record, at(2))?,
        rotation: number(record, at(3))?,
        shake: pair(record, at(4))?,
        roll: number(record, at(6))?,
        cuts: parsed(record, at(7), 0, "a whole number")?,
        digest: u64::from_str_radix(digest, 16).map_err(wrong)?,
    })
}
