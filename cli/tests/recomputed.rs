//! The figures of `compare`, computed again in another way from the table of `trace`.

use crate::tools::{Folder, Numbers, demo};

/// Rows per second: the rate at which `compare` samples.
const RATE: f64 = 240.0;

type Point = [f64; 2];

/// A ride's table.
struct Ride {
    numbers: Numbers,
    screen: Point,
    led: Vec<bool>,
    zoom: Vec<f64>,
    centre: Vec<Point>,
}

impl Ride {
    fn of(take: &str) -> Self {
        let path = demo(&format!("{take}.toml"));
        let text = Folder::new(&[]).ok(&["trace", &path.to_string_lossy(), "--fps", "240"]);
        let numbers = Numbers::read(&text);
        let led = numbers.column("led").iter().map(|led| *led != 0.0).collect();
        let (zoom, centre) = (numbers.column("zoom"), points(&numbers, "x", "y"));
        let screen = if take == "pan" { [80.0, 45.0] } else { [320.0, 180.0] };
        Self { numbers, screen, led, zoom, centre }
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

    /// The distance from the subject on the screen to its anchor.
    fn lags(&self, anchor: Point) -> Vec<f64> {
        let places = self.points("subject_screen_x", "subject_screen_y");
        let held = [0, 1].map(|axis| anchor[axis] * self.screen[axis]);
        let free = places.iter().zip(&self.led).filter(|(place, led)| !**led && !place[0].is_nan());
        free.map(|(place, _)| length(difference(*place, held))).collect()
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

    /// The time of the last row of a stop in which the camera moves, from its first row; `None` if it moves to the
    /// end.
    fn settle(&self, from: usize, to: usize) -> Option<f64> {
        let moves = |row: &usize| {
            length(difference(self.centre[*row], self.centre[row - 1])) * self.zoom[*row] * RATE
                > 4.0
        };
        let last = (from + 1..=to).rev().find(moves).unwrap_or(from);
        (last < to).then(|| (last - from) as f64 / RATE)
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

/// The output of `compare` for a demo take.
fn compared(take: &str) -> Numbers {
    let path = demo(&format!("{take}.toml"));
    let text = Folder::new(&[]).ok(&["compare", &path.to_string_lossy(), "--format", "csv"]);
    Numbers::read(&text.replacen(&format!("\n{take},"), "\n0,", 1))
}

#[test]
fn the_figures_of_five_takes() {
    for name in ["terraces", "gully", "pan", "kite", "shrine"] {
        let (ride, figures) = (Ride::of(name), compared(name));
        let near = |key: &str, value: f64, by: f64| {
            let is = figures.column(key)[0];
            let small = by * value.abs().max(1e-6);
            assert!((is - value).abs() <= small, "{name}: {key} {is}, recomputed {value}");
        };
        near("peak_speed", ride.peak_speed(), 1e-6);
        near("peak_acceleration", ride.peak_acceleration(), 1e-6);
        near("view_ahead", ride.view_ahead(), 1e-6);
        near("judder", ride.judder(), 0.02);
        if name != "kite" {
            // Two are framed there, and the table has the first.
            near("lost", ride.lost(), 1e-9);
        }
        if !ride.led.contains(&true) {
            near("turns", ride.turns(), 1e-6);
        }
        let settled = ride.stops().into_iter().filter_map(|(from, to)| ride.settle(from, to));
        if let Some(worst) =
            settled.reduce(f64::max).filter(|_| figures.column("unsettled")[0] == 0.0)
        {
            near("settle", worst, 1e-6);
        }
        if name == "pan" {
            let lags = ride.lags([0.5, 0.5]);
            near("lag_mean", lags.iter().sum::<f64>() / lags.len() as f64, 1e-6);
            near("lag_worst", lags.iter().copied().fold(0.0, f64::max), 1e-6);
        }
    }
}
