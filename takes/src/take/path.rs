//! The path of a subject: its position at any time.

use std::path::Path as FilePath;

use csv::StringRecord;
use velvet_pan::Subject;
use velvet_pan::glam::DVec2;

use crate::text::csv::Table;
use crate::text::fault::{Fault, quoted};
use crate::text::files::Files;

/// One row of a path.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct PathRow {
    /// Time, in seconds.
    pub t: f64,
    /// Position, in world units.
    pub position: DVec2,
    /// Whether the subject stands on the ground. `None` if the path does not tell.
    pub grounded: Option<bool>,
    /// Whether the subject jumped in this step. `None` if the path does not tell: then its movement does.
    pub jump: Option<bool>,
    /// The velocity of what carries the subject, in world units per second.
    pub carrier: DVec2,
    /// Whether the subject, and the camera with it, jumps here, as after a respawn or a door. The position before is
    /// held until this row.
    pub cut: bool,
}

/// The rows of a path in order of time, at least one. Positions between rows are interpolated linearly. The first row
/// also holds before it, the last row after it.
#[derive(Clone, Debug, PartialEq)]
pub struct Path {
    rows: Vec<PathRow>,
}

impl Path {
    /// Reads a CSV file with the columns `t`, `x` and `y` and, optionally, `grounded`, `jump`, `carrier_x`, `carrier_y`
    /// and `cut`, in any order. Other columns are ignored. Fields are separated by commas, semicolons or tabs.
    ///
    /// # Errors
    ///
    /// The file can't be read, a column is missing, a number can't be used, or the times do not increase.
    pub fn read(files: Files<'_>, path: &FilePath) -> Result<Self, Fault> {
        Self::parse(path, &files.read(path)?)
    }

    /// Parses the text of such a file. `path` is only for messages.
    ///
    /// # Errors
    ///
    /// As [`read`](Self::read), except that no file is read.
    ///
    /// ```
    /// # use velvet_pan_takes::Path;
    /// let path = Path::parse("run.csv".as_ref(), "t,x,y\n0,0,300\n2,240,300\n")?;
    /// assert_eq!(path.position(0.5).x, 60.0);
    ///
    /// let fault = Path::parse("run.csv".as_ref(), "t,x,y\n0,wide,300\n").unwrap_err();
    /// assert!(fault.to_string().starts_with("run.csv:2"), "{fault}");
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn parse(path: &FilePath, text: &str) -> Result<Self, Fault> {
        rows_of(&Table::new(path, text)).map(|rows| Self { rows })
    }

    /// Creates a path from `[t, x, y]` keys: seconds and world units.
    ///
    /// # Errors
    ///
    /// There are no keys, a number is not finite, or the times do not increase.
    ///
    /// ```
    /// # use velvet_pan_takes::Path;
    /// let path = Path::from_keys(&[[0.0, 0.0, 300.0], [2.0, 240.0, 300.0]]).unwrap();
    /// assert_eq!(path.top_speed().x, 120.0);
    /// assert_eq!(path.position(9.0).x, 240.0); // the last row holds
    /// assert!(Path::from_keys(&[]).is_err());
    /// ```
    pub fn from_keys(keys: &[[f64; 3]]) -> Result<Self, String> {
        let row =
            |[t, x, y]: [f64; 3]| PathRow { t, position: (x, y).into(), ..PathRow::default() };
        let rows: Vec<PathRow> = keys.iter().copied().map(row).collect();
        if rows.is_empty() {
            return Err("no keys: expected at least one [t, x, y]".to_owned());
        }
        for (index, row) in rows.iter().enumerate() {
            let before = index.checked_sub(1).map(|index| rows[index].t);
            check_row(row, before).map_err(|what| format!("key {}: {what}", index + 1))?;
        }
        Ok(Self { rows })
    }

    /// Creates a path with one row, to be extended with [`push`](Self::push).
    ///
    /// # Errors
    ///
    /// A number is not finite.
    pub fn starting(row: PathRow) -> Result<Self, String> {
        check_row(&row, None)?;
        Ok(Self { rows: vec![row] })
    }

    /// Adds a row at the end.
    ///
    /// # Errors
    ///
    /// A number is not finite, or the time is not later than the last one. The path then stays as it is.
    ///
    /// ```
    /// # use velvet_pan_takes::{Path, PathRow};
    /// let row = |t, x| PathRow { t, position: [x, 300.0].into(), ..PathRow::default() };
    /// let mut path = Path::starting(row(0.0, 10.0)).unwrap();
    /// path.push(row(0.5, 70.0)).unwrap();
    /// assert!(path.push(row(0.5, 90.0)).is_err()); // no later than the last row
    /// assert_eq!((path.rows().len(), path.end()), (2, 0.5));
    /// ```
    pub fn push(&mut self, row: PathRow) -> Result<(), String> {
        check_row(&row, Some(self.end()))?;
        self.rows.push(row);
        Ok(())
    }

    /// Returns all rows in order of time.
    pub fn rows(&self) -> &[PathRow] {
        &self.rows
    }

    /// Returns the time of the last row, in seconds.
    pub fn end(&self) -> f64 {
        self.rows[self.rows.len() - 1].t
    }

    /// Returns the gaps between rows that are more than ten times as long as usual: their start and their length, in
    /// seconds.
    pub fn gaps(&self) -> impl Iterator<Item = (f64, f64)> {
        let mut steps: Vec<f64> = self.steps().map(|(_, seconds)| seconds).collect();
        steps.sort_by(f64::total_cmp);
        let usual = steps.get(steps.len() / 2).copied().unwrap_or(0.0);
        self.steps().filter(move |(_, seconds)| *seconds > 10.0 * usual)
    }

    /// Returns the median time between rows, in seconds, or `None` if there is a single row.
    pub fn usual_step(&self) -> Option<f64> {
        let mut steps: Vec<f64> = self.steps().map(|(_, seconds)| seconds).collect();
        steps.sort_by(f64::total_cmp);
        steps.get(steps.len() / 2).copied()
    }

    fn steps(&self) -> impl Iterator<Item = (f64, f64)> {
        self.rows.windows(2).map(|pair| (pair[0].t, pair[1].t - pair[0].t))
    }

    /// Returns whether every row says whether the subject is on the ground.
    pub fn knows_ground(&self) -> bool {
        self.rows.iter().all(|row| row.grounded.is_some())
    }

    /// Returns whether a row with a cut is later than `from` and not later than `to`, in seconds.
    ///
    /// ```
    /// # use velvet_pan_takes::Path;
    /// let text = "t,x,y,cut\n0,0,300,0\n1,100,300,0\n2,900,300,1\n";
    /// let path = Path::parse("run.csv".as_ref(), text)?;
    /// assert_eq!((path.cut_between(1.5, 2.5), path.cut_between(0.0, 1.5)), (Some(2.0), None));
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn cut_between(&self, from: f64, to: f64) -> Option<f64> {
        let first = self.rows.partition_point(|row| row.t <= from);
        self.rows[first..]
            .iter()
            .take_while(|row| row.t <= to)
            .filter(|row| row.cut)
            .map(|row| row.t)
            .last()
    }

    /// Returns the times of the rows that are reached faster than `speed`, in world units per second per axis. Such a
    /// step looks like a jump that should be a cut.
    ///
    /// ```
    /// # use velvet_pan::glam::DVec2;
    /// # use velvet_pan_takes::Path;
    /// let path = Path::from_keys(&[[0.0, 0.0, 300.0], [1.0, 100.0, 300.0], [1.1, 900.0, 300.0]]).unwrap();
    /// let fast = DVec2::splat(2000.0); // world units per second
    /// assert_eq!(path.leaps(fast).collect::<Vec<_>>(), [1.1]);
    /// ```
    pub fn leaps(&self, speed: DVec2) -> impl Iterator<Item = f64> {
        self.rows.windows(2).filter_map(move |pair| {
            let step = (pair[1].position - pair[0].position).abs();
            let fast = (step / (pair[1].t - pair[0].t)).cmpgt(speed).any();
            (fast && !pair[1].cut).then_some(pair[1].t)
        })
    }

    /// Returns the highest speed along each axis, in world units per second, without cuts.
    pub fn top_speed(&self) -> DVec2 {
        let speed = |pair: &[PathRow]| {
            if pair[1].cut {
                return DVec2::ZERO;
            }
            ((pair[1].position - pair[0].position) / (pair[1].t - pair[0].t).max(1e-9)).abs()
        };
        self.rows.windows(2).map(speed).fold(DVec2::ZERO, DVec2::max)
    }

    /// Returns the subject at `t` seconds.
    ///
    /// ```
    /// # use velvet_pan_takes::Path;
    /// let path = Path::parse("run.csv".as_ref(), "t,x,y,grounded\n0,0,300,1\n1,60,280,0\n")?;
    /// assert_eq!(path.subject(0.5).grounded, Some(true));
    /// assert_eq!(path.subject(1.0).grounded, Some(false));
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn subject(&self, t: f64) -> Subject {
        let after = self.rows.partition_point(|row| row.t <= t);
        let PathRow { grounded, jump, carrier, .. } = self.rows[after.saturating_sub(1)];
        Subject { grounded, jump, carrier, ..Subject::from(self.position(t)) }
    }

    /// Returns the position at `t` seconds, in world units.
    ///
    /// ```
    /// # use velvet_pan_takes::Path;
    /// let path = Path::from_keys(&[[0.0, 0.0, 300.0], [2.0, 240.0, 300.0]]).unwrap();
    /// assert_eq!(path.position(0.5).x, 60.0);
    /// ```
    pub fn position(&self, t: f64) -> DVec2 {
        let after = self.rows.partition_point(|row| row.t <= t);
        let Some(before) = after.checked_sub(1) else { return self.rows[0].position };
        let from = &self.rows[before];
        let Some(to) = self.rows.get(after).filter(|to| !to.cut) else { return from.position };
        from.position + (to.position - from.position) * ((t - from.t) / (to.t - from.t))
    }

    /// Returns the mean velocity between two times, at least over the millisecond after the first.
    pub(crate) fn mean_velocity(&self, from: f64, to: f64) -> DVec2 {
        let seconds = (to - from).max(0.001);
        (self.position(from + seconds) - self.position(from)) / seconds
    }

    /// Returns whether the subject is on the ground at `t` seconds, according to the row before. `true` if the path
    /// does not tell.
    ///
    /// ```
    /// # use velvet_pan_takes::Path;
    /// let path = Path::from_keys(&[[0.0, 0.0, 300.0]]).unwrap();
    /// assert!(path.grounded(0.0)); // the path does not tell
    /// ```
    pub fn grounded(&self, t: f64) -> bool {
        self.subject(t).grounded.unwrap_or(true)
    }
}

const EXPECTED: &str =
    "expected t, x and y, and if known grounded, jump, carrier_x, carrier_y and cut";

/// The names of columns that are read.
const COLUMNS: [&str; 8] = ["t", "x", "y", "grounded", "jump", "carrier_x", "carrier_y", "cut"];

/// Returns the name of a column in the usual case, or nothing for one that is not read.
fn column_name(given: &str) -> &'static str {
    COLUMNS.into_iter().find(|name| name.eq_ignore_ascii_case(given)).unwrap_or("")
}

/// Returns whether a table is a path, judged by its first line.
#[must_use]
pub fn is_path_table(text: &str) -> bool {
    let header = text.lines().find(|line| !line.trim().is_empty()).unwrap_or("");
    let names = header.trim_start_matches('\u{feff}').split([',', ';', '\t']);
    let mut names = names.into_iter().map(|name| name.trim().trim_matches('"'));
    names.any(|name| column_name(name) == "t" || is_time(name))
}

/// Returns whether a column is named `time` in any case, which counts as `t` in a table without a column `t`.
fn is_time(name: &str) -> bool {
    name.eq_ignore_ascii_case("time")
}

/// The columns of a path's file.
struct Columns {
    numbers: [usize; 3],
    grounded: Option<usize>,
    jump: Option<usize>,
    carrier: [Option<usize>; 2],
    cut: Option<usize>,
}

impl Columns {
    /// Finds the columns, or the field that is wrong, from 1, and why.
    fn of(header: &StringRecord) -> Result<Self, (usize, String)> {
        let mut names: Vec<&str> = header.iter().map(column_name).collect();
        let time = header.iter().position(is_time).filter(|_| !names.contains(&"t"));
        if let Some(time) = time {
            names[time] = "t";
        }
        for (index, name) in names.iter().enumerate().filter(|(_, name)| !name.is_empty()) {
            if names[..index].contains(name) {
                return Err((index + 1, format!("column \"{name}\" twice: {EXPECTED}")));
            }
        }
        let place = |name: &str| names.iter().position(|one| *one == name);
        let needed = |name: &str| {
            let given = header.iter().collect::<Vec<_>>().join(",");
            let what = format!("no column \"{name}\" in {}: {EXPECTED}", quoted(&given));
            place(name).ok_or((1, what))
        };
        let numbers = [needed("t")?, needed("x")?, needed("y")?];
        Ok(Self {
            numbers,
            grounded: place("grounded"),
            jump: place("jump"),
            carrier: [place("carrier_x"), place("carrier_y")],
            cut: place("cut"),
        })
    }
}

fn rows_of(table: &Table<'_>) -> Result<Vec<PathRow>, Fault> {
    let records = table.records()?;
    let Some(((line, header), records)) = records.split_first() else {
        return Err(table.whole(format!("empty: {EXPECTED} in the first line")));
    };
    let columns = Columns::of(header).map_err(|(field, what)| table.fault(*line, field, what))?;
    let mut rows: Vec<PathRow> = Vec::with_capacity(records.len());
    for (line, record) in records {
        if record.len() != header.len() {
            let what = format!("{} fields: expected {}, as in line 1", record.len(), header.len());
            return Err(table.fault(*line, 1, what));
        }
        let row = row_of(table, *line, record, &columns)?;
        check_row(&row, rows.last().map(|row| row.t))
            .map_err(|what| table.fault(*line, 1, what))?;
        rows.push(row);
    }
    if rows.is_empty() {
        return Err(table.whole("no rows: expected at least one under the column names"));
    }
    Ok(rows)
}

fn row_of(
    table: &Table<'_>,
    line: usize,
    record: &StringRecord,
    columns: &Columns,
) -> Result<PathRow, Fault> {
    let number = |column: usize, key: &str| {
        let field = &record[column];
        field.parse::<f64>().map_err(|_| {
            let what = format!("{} is not a number", quoted(field));
            table.fault(line, column + 1, what).of_key(key)
        })
    };
    let speed = |column: Option<usize>, key| column.map_or(Ok(0.0), |column| number(column, key));
    let flag = |column: Option<usize>, key: &str| {
        let Some(column) = column else { return Ok(None) };
        match record[column].to_lowercase().as_str() {
            "1" | "true" => Ok(Some(true)),
            "0" | "false" => Ok(Some(false)),
            other => {
                let what = format!("\"{other}\": expected 1 or 0");
                Err(table.fault(line, column + 1, what).of_key(key))
            }
        }
    };
    let [t, x, y] = columns.numbers;
    let [carrier_x, carrier_y] = columns.carrier;
    Ok(PathRow {
        t: number(t, "t")?,
        position: DVec2::new(number(x, "x")?, number(y, "y")?),
        grounded: flag(columns.grounded, "grounded")?,
        jump: flag(columns.jump, "jump")?,
        carrier: DVec2::new(speed(carrier_x, "carrier_x")?, speed(carrier_y, "carrier_y")?),
        cut: flag(columns.cut, "cut")?.unwrap_or(false),
    })
}

/// The greatest distance from the world's origin that a path may reach, in world units.
pub(crate) const MAX_COORDINATE: f64 = 1e12;

fn check_row(row: &PathRow, before: Option<f64>) -> Result<(), String> {
    let numbers = [row.t, row.position.x, row.position.y, row.carrier.x, row.carrier.y];
    if let Some(bad) = numbers.iter().find(|number| !number.is_finite()) {
        return Err(format!("{bad} can't be used: expected finite numbers"));
    }
    if let Some(far) = numbers[1..3].iter().find(|number| number.abs() > MAX_COORDINATE) {
        return Err(format!(
            "{far:e} is too far away: expected at most {MAX_COORDINATE:e} world units"
        ));
    }
    if let Some(fast) = numbers[3..].iter().find(|number| number.abs() > MAX_COORDINATE) {
        return Err(format!(
            "a carrier of {fast:e} is too fast: expected at most {MAX_COORDINATE:e} world units a second"
        ));
    }
    match before {
        Some(before) if row.t == before => {
            Err(format!("time {} repeated: expected a later time", row.t))
        }
        Some(before) if row.t < before => {
            Err(format!("time {} after {before}: expected times in order", row.t))
        }
        _ => Ok(()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn straight_between_rows_and_held_outside() {
        let path = Path::from_keys(&[[1.0, 0.0, 10.0], [3.0, 8.0, 30.0]]).unwrap();
        for (t, x) in [(0.0, 0.0), (1.0, 0.0), (2.0, 4.0), (3.0, 8.0), (9.0, 8.0)] {
            assert_eq!(path.position(t).x, x, "at {t}");
        }
    }
}
