//! The figures of `compare`, computed again in another way from the table of `trace`.

use std::path::{Path, PathBuf};

use crate::tools::{Folder, Numbers, demo};

/// Rows per second: the rate at which `compare` samples.
const RATE: f64 = 240.0;

type Point = [f64; 2];

/// A ride's table.
struct Ride {
    numbers: Numbers,
    screen: Point,
    led: Vec<bool>,
    /// Per axis of the world.
    deciders: Vec<[String; 2]>,
    zoom: Vec<f64>,
    centre: Vec<Point>,
}

impl Ride {
    fn of(take: &str) -> Self {
        let path = path_of(take);
        let text = Folder::new(&[]).ok(&["trace", &path.to_string_lossy(), "--fps", "240"]);
        let numbers = Numbers::read(&text);
        let led = numbers.column("led").iter().map(|led| *led != 0.0).collect();
        let (zoom, centre) = (numbers.column("zoom"), points(&numbers, "x", "y"));
        let screen = if take == "pan" { [80.0, 45.0] } else { [320.0, 180.0] };
        let deciders = deciders(&text);
        Self { numbers, screen, led, deciders, zoom, centre }
    }

    fn points(&self, x: &str, y: &str) -> Vec<Point> {
        points(&self.numbers, x, y)
    }

    fn is_free(&self, from: usize, to: usize) -> bool {
        !self.led[from..=to].contains(&true)
    }

    /// Screen pixels per second, over the last sixtieth of a second.
    fn velocity(&self, row: usize, zoom: f64) -> Point {
        difference(self.centre[row], self.centre[row - 4]).map(|side| side * zoom * RATE / 4.0)
    }

    fn peak_speed(&self) -> f64 {
        let rows = (4..self.centre.len()).filter(|row| self.is_free(row - 4, *row));
        rows.map(|row| length(self.velocity(row, self.zoom[row]))).fold(0.0, f64::max)
    }

    fn peak_acceleration(&self) -> f64 {
        let change = |row: usize| {
            let (now, zoom) = (self.velocity(row, self.zoom[row]), self.zoom[row]);
            length(difference(now, self.velocity(row - 4, zoom))) * RATE / 4.0
        };
        let rows = (8..self.centre.len()).filter(|row| self.is_free(row - 8, *row));
        rows.map(change).fold(0.0, f64::max)
    }

    /// The lengths of ways, on the axes on which one of these stages decides.
    fn counted(&self, ways: &[Point], by: &[&str]) -> Vec<f64> {
        let subject = self.points("subject_x", "subject_y");
        let length_of = |row: usize| {
            let counts = |axis: usize| by.contains(&self.deciders[row][axis].as_str());
            let free = !self.led[row] && !subject[row][0].is_nan();
            let part = [0, 1].map(|axis| if counts(axis) { ways[row][axis] } else { 0.0 });
            (free && (counts(0) || counts(1))).then(|| length(part))
        };
        (0..ways.len()).filter_map(length_of).collect()
    }

    /// The distance from the view to its goal, in screen pixels.
    fn lags(&self) -> Vec<f64> {
        let goal = self.points("goal_x", "goal_y");
        let behind = goal.iter().zip(&self.centre).zip(&self.zoom);
        let behind =
            behind.map(|((goal, at), zoom)| difference(*goal, *at).map(|side| side * zoom));
        self.counted(&behind.collect::<Vec<Point>>(), &["motion", "party", "rail"])
    }

    /// The distance from the subject on the screen to its anchor.
    fn off_anchor(&self, anchor: Point) -> Vec<f64> {
        let held = [0, 1].map(|axis| anchor[axis] * self.screen[axis]);
        let places = self.points("subject_screen_x", "subject_screen_y");
        let off: Vec<Point> = places.iter().map(|place| difference(*place, held)).collect();
        self.counted(&off, &["motion"])
    }

    /// The most by which a column changes within two seconds, a second.
    fn changes(&self, column: &[f64]) -> f64 {
        let steps: Vec<f64> = column.windows(2).map(|pair| (pair[1] - pair[0]).abs()).collect();
        let span = 2 * RATE as usize;
        let sum = |end: usize| steps[end.saturating_sub(span)..end].iter().sum::<f64>() / 2.0;
        (1..=steps.len()).map(sum).fold(0.0, f64::max)
    }

    /// The share of the frames with a shake, and its root mean square.
    fn shake(&self) -> (f64, f64) {
        let all = self.points("shake_x", "shake_y");
        let roll = self.numbers.column("roll");
        let shaken: Vec<f64> = all
            .iter()
            .zip(roll)
            .filter(|(shake, roll)| **shake != [0.0; 2] || *roll != 0.0)
            .map(|(shake, _)| length(*shake).powi(2))
            .collect();
        let share = shaken.len() as f64 / all.len() as f64;
        (share, (shaken.iter().sum::<f64>() / shaken.len() as f64).sqrt())
    }

    /// The shortest time for which a place was on the screen before the subject came there, of places 8 screen pixels
    /// apart.
    fn warning(&self) -> Option<f64> {
        let subject = self.points("subject_x", "subject_y");
        let half = [0, 1].map(|axis| self.screen[axis] / 2.0);
        let shows = |row: usize, place: Point| {
            let at = difference(place, self.centre[row]).map(|side| side * self.zoom[row]);
            at.iter().zip(half).all(|(at, half)| -half <= *at && *at < half)
        };
        let (mut since, mut way, mut shortest) = (0, 0.0, None);
        for row in 1..subject.len() {
            if self.led[row] || self.deciders[row].iter().any(|by| by == "room" || by == "scroll") {
                since = row + 1;
            }
            if row < since + 3 * RATE as usize {
                continue;
            }
            way += length(difference(subject[row], subject[row - 1])) * self.zoom[row];
            if way >= 8.0 {
                way = 0.0;
                let from =
                    (row - 3 * RATE as usize..=row).rev().find(|at| !shows(*at, subject[row]));
                let seen = from.map_or(3.0, |from| (row as f64 - from as f64 - 1.0) / RATE);
                shortest = Some(shortest.unwrap_or(f64::MAX).min(seen.max(0.0)));
            }
        }
        shortest
    }

    fn lost(&self) -> f64 {
        let places = self.points("subject_screen_x", "subject_screen_y");
        let off =
            |place: &&Point| (0..2).any(|axis| !(0.0..self.screen[axis]).contains(&place[axis]));
        let free =
            || places.iter().zip(&self.led).filter(|(_, led)| !**led).map(|(place, _)| place);
        free().filter(off).count() as f64 / free().count() as f64
    }

    fn view_ahead(&self) -> f64 {
        let (subject, on_screen) = (
            self.points("subject_x", "subject_y"),
            self.points("subject_screen_x", "subject_screen_y"),
        );
        let ahead = |row: usize| {
            let step = difference(subject[row], subject[row - 1]);
            if self.led[row] || length(step) * RATE * self.zoom[row] <= 0.5 {
                return None;
            }
            let axis = usize::from(step[1].abs() > step[0].abs());
            let part = on_screen[row][axis] / self.screen[axis];
            Some((if step[axis] > 0.0 { 1.0 - part } else { part }).clamp(0.0, 1.0))
        };
        let all: Vec<f64> = (1..subject.len()).filter_map(ahead).collect();
        all.iter().sum::<f64>() / all.len() as f64
    }

    fn turns(&self) -> f64 {
        let along = |axis: usize| {
            let places = self.centre.iter().zip(&self.zoom).map(|(place, zoom)| place[axis] * zoom);
            turns(&places.collect::<Vec<f64>>(), 1.0)
        };
        (along(0) + along(1)) as f64 / ((self.centre.len() - 1) as f64 / RATE)
    }

    /// The rows in which the subject stands after it moved, until it moves on, or for five seconds.
    fn stops(&self) -> Vec<(usize, usize)> {
        let subject = self.points("subject_x", "subject_y");
        let moves = |row: usize| {
            length(difference(subject[row], subject[row - 1])) * RATE * self.zoom[row] > 0.5
        };
        let begins = (2..subject.len()).filter(|row| !moves(*row) && moves(row - 1));
        let until = |row: usize| {
            let goes_on = (row..subject.len()).find(|row| moves(*row)).unwrap_or(subject.len());
            (row - 1, (goes_on - 1).min(row - 1 + 5 * RATE as usize))
        };
        begins.map(until).filter(|(from, to)| self.is_free(*from, *to)).collect()
    }

    /// The time from a stop until the camera stays within half a pixel of where it is at the end; `None` if that is less
    /// than a quarter of a second before the end.
    fn settle(&self, from: usize, to: usize) -> Option<f64> {
        let away = |row: &usize| {
            length(difference(self.centre[*row], self.centre[to])) * self.zoom[from + 1] > 0.5
        };
        let last = (from..=to).rev().find(away).unwrap_or(from);
        ((to - last) as f64 / RATE >= 0.25 - 1e-9).then(|| (last - from) as f64 / RATE)
    }

    /// How far the view is beyond its last position in a stop, in the subject's direction and in its own.
    fn overshoot(&self, from: usize, to: usize) -> f64 {
        let subject = self.points("subject_x", "subject_y");
        let unit = |way: Point| {
            let size = length(way);
            if size > 0.0 { way.map(|side| side / size) } else { [0.0; 2] }
        };
        let rest = self.centre[to];
        let ways = [
            unit(difference(subject[from], subject[from - 1])),
            unit(difference(rest, self.centre[from])),
        ];
        let beyond = |row: usize| {
            let past = difference(self.centre[row], rest);
            let along = |way: &Point| past[0] * way[0] + past[1] * way[1];
            ways.iter().map(along).fold(0.0, f64::max) * self.zoom[from + 1]
        };
        (from..=to).map(beyond).fold(0.0, f64::max)
    }

    /// The deviation of the drawn picture from its mean, on each axis on which it moves.
    fn judder(&self) -> f64 {
        let drawn = self.points("picture_x", "picture_y");
        let truly = self.points("true_picture_x", "true_picture_y");
        let shake = self.points("shake_x", "shake_y");
        let (mut squares, mut count) = (0.0, 0.0);
        for axis in 0..2 {
            let strays: Vec<f64> = (1..drawn.len())
                .filter(|row| self.zoom[*row] == self.zoom[row - 1])
                .filter(|row| [shake[*row], shake[row - 1]] == [[0.0; 2]; 2])
                .filter(|row| (truly[*row][axis] - truly[row - 1][axis]).abs() > 0.01)
                .map(|row| drawn[row][axis] - truly[row][axis])
                .collect();
            let mean = strays.iter().sum::<f64>() / strays.len().max(1) as f64;
            squares += strays.iter().map(|stray| (stray - mean).powi(2)).sum::<f64>();
            count += strays.len() as f64;
        }
        (squares / count).sqrt()
    }
}

fn points(numbers: &Numbers, x: &str, y: &str) -> Vec<Point> {
    numbers.column(x).into_iter().zip(numbers.column(y)).map(|(x, y)| [x, y]).collect()
}

fn difference(a: Point, b: Point) -> Point {
    [a[0] - b[0], a[1] - b[1]]
}

fn length(way: Point) -> f64 {
    way[0].hypot(way[1])
}

/// The number of times the movement turns back by this distance, from the farthest position since the last turn.
fn turns(places: &[f64], by: f64) -> usize {
    let (mut count, mut from, mut way) = (0, 0, 0.0);
    for now in 0..places.len() {
        let stretch = places[from..=now].iter().copied();
        let (low, high) =
            (stretch.clone().fold(f64::MAX, f64::min), stretch.fold(f64::MIN, f64::max));
        let new = match (high - places[now] >= by, places[now] - low >= by) {
            (true, _) if way >= 0.0 => -1.0,
            (_, true) if way <= 0.0 => 1.0,
            _ => continue,
        };
        count += usize::from(way != 0.0);
        (way, from) = (new, now);
    }
    count
}

/// A demo take, or one of the cameras with a verdict.
fn path_of(take: &str) -> PathBuf {
    let demo = demo(&format!("{take}.toml"));
    let cameras = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cameras");
    if demo.exists() { demo } else { cameras.join(format!("{take}.toml")) }
}

/// The stages that decide, row by row.
fn deciders(table: &str) -> Vec<[String; 2]> {
    let mut reader = csv::Reader::from_reader(table.as_bytes());
    let names = reader.headers().expect("header").clone();
    let index = |name: &str| names.iter().position(|column| column == name).expect(name);
    let at = [index("decider_x"), index("decider_y")];
    reader
        .records()
        .map(|row| row.expect("row"))
        .map(|row| at.map(|at| row[at].to_owned()))
        .collect()
}

/// The output of `compare` for a take.
fn compared(take: &str) -> Numbers {
    let path = path_of(take);
    let text = Folder::new(&[]).ok(&["compare", &path.to_string_lossy(), "--format", "csv"]);
    Numbers::read(&text.replacen(&format!("\n{take},"), "\n0,", 1))
}

fn mean(values: &[f64]) -> f64 {
    values.iter().sum::<f64>() / values.len() as f64
}

#[test]
fn the_figures_of_eight_takes() {
    let takes =
        ["terraces", "gully", "pan", "kite", "shrine", "05_meadow", "11_pumping", "12_quaking"];
    for name in takes {
        let (ride, figures) = (Ride::of(name), compared(name));
        let near = |key: &str, value: f64, by: f64| {
            let is = figures.column(key)[0];
            let small = by * value.abs().max(1e-6);
            assert!((is - value).abs() <= small, "{name}: {key} {is}, recomputed {value}");
        };
        near("peak_speed", ride.peak_speed(), 1e-6);
        near("peak_acceleration", ride.peak_acceleration(), 1e-6);
        near("judder", ride.judder(), 0.02);
        let lags = ride.lags();
        near("lag_mean", mean(&lags), 1e-6);
        near("lag_worst", lags.iter().copied().fold(0.0, f64::max), 1e-6);
        let mut sorted = lags.clone();
        sorted.sort_by(f64::total_cmp);
        near("lag_p95", sorted[(sorted.len() * 95 / 100).min(sorted.len() - 1)], 1e-5);
        let zoom: Vec<f64> = ride.zoom.iter().map(|zoom| zoom.log2()).collect();
        near("zooming", ride.changes(&zoom), 1e-6);
        let turned: Vec<f64> =
            ride.numbers.column("rotation").into_iter().map(f64::to_degrees).collect();
        near("rotating", ride.changes(&turned), 1e-6);
        let (share, rms) = ride.shake();
        near("shaken", share, 1e-9);
        if share > 0.0 {
            near("shake", rms, 1e-4);
        }
        if name != "kite" {
            // Two are shown there, and the table has the first.
            near("lost", ride.lost(), 1e-9);
        }
        if let Some(warning) = ride.warning().filter(|_| name != "kite") {
            near("warning", warning, 0.02);
        }
        if ["pan", "05_meadow", "11_pumping"].contains(&name) {
            near("view_ahead", ride.view_ahead(), 1e-6);
            near("off_anchor", ride.off_anchor([0.5; 2]).into_iter().fold(0.0, f64::max), 1e-6);
        }
        // Places in screen pixels can be compared while the zoom stays.
        if !ride.led.contains(&true) && name != "11_pumping" {
            near("turns", ride.turns(), 1e-6);
        }
        let beyond = ride.stops().into_iter().filter_map(|(from, to)| {
            let beyond = ride.overshoot(from, to);
            (beyond >= 1.0 || ride.settle(from, to).is_some()).then_some(beyond)
        });
        if let Some(beyond) = beyond.reduce(f64::max).filter(|_| name != "kite") {
            near("overshoot", beyond, 1e-6);
        }
        let settled = ride.stops().into_iter().filter_map(|(from, to)| ride.settle(from, to));
        if let Some(worst) =
            settled.reduce(f64::max).filter(|_| figures.column("unsettled")[0] == 0.0)
        {
            near("settle", worst, 1e-6);
        }
    }
}
