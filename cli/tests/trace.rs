//! `trace`: the ride as a table, compared with separate calculations.

use std::f64::consts::LN_2;

use crate::tools::{Folder, Numbers, demo};

const COLUMNS: &str = "t,subject_x,subject_y,goal_x,goal_y,x,y,zoom,rotation,shake_x,shake_y,roll,\
corner_x,corner_y,residual_x,residual_y,subject_screen_x,subject_screen_y,first_col,last_col,\
first_row,last_row,tiles,picture_x,picture_y,true_picture_x,true_picture_y,drawn_x,drawn_y,led,\
decider_x,decider_y,happening";

/// A ramp to the right with a stop, in a world whose edge the view reaches.
const RAMP: &str = r#"
seconds = 6.0
fps = 50
map = { file = "map.csv", tile = [16.0, 16.0] }
[tuning.follow]
anchor = [0.4, 0.7]
smoothing = { half_life = 0.25 }
[tuning.bounds]
rect = [0.0, 0.0, 1000.0, 400.0]
[subjects.courier]
keys = [[0.0, 300.0, 200.0], [4.0, 1100.0, 240.0]]
"#;

/// 63 x 25 tiles, every third one blank.
fn map() -> String {
    let tile = |index: usize| if index.is_multiple_of(3) { "0" } else { "7" };
    let row =
        |row: usize| (0..63).map(|column| tile(row * 63 + column)).collect::<Vec<_>>().join(",");
    (0..25).map(|index| row(index) + "\n").collect()
}

fn ramp() -> Folder {
    Folder::new(&[("ramp.toml", RAMP), ("map.csv", &map())])
}

/// The focus in closed form: `g − v/k + (c0 − g0 + v/k)·e^(−kt)` on a straight path, and `g + (c0 − g)·e^(−kt)` once
/// the goal stands.
fn focus(t: f64, start: f64, speed: f64, until: f64) -> f64 {
    let k = LN_2 / 0.25;
    let moving = |t: f64| start + speed * t - speed / k + speed / k * (-k * t).exp();
    if t <= until {
        return moving(t);
    }
    let goal = start + speed * until;
    goal + (moving(until) - goal) * (-k * (t - until)).exp()
}

#[test]
fn columns_are_as_promised_and_rows_are_counted() {
    let text = ramp().ok(&["trace", "ramp.toml"]);
    assert_eq!(text.lines().next(), Some(COLUMNS));
    let ride = Numbers::read(&text);
    assert_eq!(ride.len(), 301);
    assert_eq!(ride.columns().len(), 33);
    // The view is on its way at first, and at the edge of the world in the end.
    let decider =
        |line: Option<&str>| line.and_then(|line| line.rsplit(',').nth(2)).map(str::to_owned);
    assert_eq!(decider(text.lines().nth(40)).as_deref(), Some("motion"));
    assert_eq!(decider(text.lines().last()).as_deref(), Some("bounds"));
    for (index, t) in ride.column("t").into_iter().enumerate() {
        assert_eq!(t, index as f64 / 50.0);
    }
}

#[test]
fn the_ride_is_the_closed_form() {
    let ride = Numbers::read(&ramp().ok(&["trace", "ramp.toml"]));
    // The centre is the focus less the anchor's offset of (0.4 − ½)·320 and (0.7 − ½)·180; the
    // right bound holds it at 1000 − 160, which the goal reaches at 808 / 200 − 300 / 200 s.
    let (dx, dy) = (-32.0, 36.0);
    let bound_from = (840.0 + dx - 300.0) / 200.0;
    let (x, y) = (ride.column("x"), ride.column("y"));
    for (index, t) in ride.column("t").into_iter().enumerate() {
        let expected_x = focus(t, 300.0, 200.0, bound_from) - dx;
        let expected_y = focus(t, 200.0, 10.0, 4.0) - dy;
        // The last hundredth of a pixel is taken in one step. The goal meets the bound within a step, which takes it as even.
        let rest = |goal: f64, expected: f64, usual: f64| {
            if (goal - expected).abs() < 0.011 { 0.011 } else { usual }
        };
        let met = if t > bound_from { 0.002 } else { 1e-9 };
        let (gap_x, gap_y) = ((x[index] - expected_x).abs(), (y[index] - expected_y).abs());
        assert!(gap_x < rest(840.0, expected_x, met), "x at {t}: {gap_x:e}");
        assert!(gap_y < rest(204.0, expected_y, 1e-9), "y at {t}: {gap_y:e}");
    }
    assert_eq!(x[300], 840.0);
}

#[test]
fn goal_corner_subject_and_tiles_follow_from_the_centre() {
    let ride = Numbers::read(&ramp().ok(&["trace", "ramp.toml", "--set", "screen.snap=whole"]));
    let numbers: Vec<u16> =
        map().split([',', '\n']).filter_map(|field| field.parse().ok()).collect();
    let column = |name: &str| ride.column(name);
    let (x, y, corner_x, corner_y) =
        (column("x"), column("y"), column("corner_x"), column("corner_y"));
    let edges = ["first_col", "last_col", "first_row", "last_row"].map(column);
    for row in 0..ride.len() {
        let goal = (column("subject_x")[row] + 32.0).clamp(160.0, 840.0);
        assert!((column("goal_x")[row] - goal).abs() < 1e-9);
        let screen = column("subject_screen_x")[row];
        assert!((screen - (column("subject_x")[row] - x[row] + 160.0)).abs() < 1e-9);
        assert!((corner_x[row] + column("residual_x")[row] - (x[row] - 160.0)).abs() <= 1e-3);
        assert!((corner_y[row] + column("residual_y")[row] - (y[row] - 90.0)).abs() <= 1e-3);

        let touching = |tile: usize, corner: f64, size: f64| {
            (tile as f64 + 1.0) * 16.0 > corner && (tile as f64) * 16.0 < corner + size
        };
        let columns: Vec<usize> =
            (0..63).filter(|tile| touching(*tile, corner_x[row], 320.0)).collect();
        let rows: Vec<usize> =
            (0..25).filter(|tile| touching(*tile, corner_y[row], 180.0)).collect();
        let expected = [columns[0], columns[columns.len() - 1], rows[0], rows[rows.len() - 1]];
        assert_eq!([0, 1, 2, 3].map(|edge| edges[edge][row] as usize), expected);
        let filled = rows
            .iter()
            .flat_map(|row| columns.iter().map(move |column| row * 63 + column))
            .filter(|index| numbers[*index] != 0)
            .count();
        assert_eq!(column("tiles")[row] as usize, filled);
    }
}

#[test]
fn json_holds_what_csv_holds() {
    let folder = ramp();
    let csv = Numbers::read(&folder.ok(&["trace", "ramp.toml", "--seconds", "1"]));
    let json = folder.ok(&["trace", "ramp.toml", "--seconds", "1", "--format", "json"]);
    let rows: Vec<serde_json::Map<String, serde_json::Value>> =
        serde_json::from_str(&json).unwrap();
    assert_eq!(rows.len(), csv.len());
    for name in csv.columns() {
        let numbers = csv.column(name);
        for (row, number) in rows.iter().zip(numbers) {
            let same = row[name].as_f64().is_none_or(|json| json == number);
            assert!(same && (row[name].is_number() != number.is_nan()), "{name}");
        }
    }
}

#[test]
fn a_file_and_standard_output_get_the_same() {
    let folder = ramp();
    let shown = folder.ok(&["trace", "ramp.toml"]);
    assert_eq!(folder.ok(&["trace", "ramp.toml", "--out", "ride.csv"]), "");
    assert_eq!(std::fs::read_to_string(folder.path().join("ride.csv")).unwrap(), shown);
}

#[test]
fn the_events_take_effect_when_it_says() {
    let take = RAMP.to_owned()
        + "[[events]]\nat = 1.0\nzoom = 2.0\n[[events]]\nat = 2.0\naim = [500.0, 200.0]\ncut = true\n";
    let folder = Folder::new(&[("take.toml", &take), ("map.csv", &map())]);
    let text = folder.ok(&["trace", "take.toml", "--set", "zoom.half_life=0"]);
    let ride = Numbers::read(&text);
    let zoom = ride.column("zoom");
    assert_eq!((zoom[49], zoom[50]), (1.0, 2.0));
    assert_eq!(
        (ride.column("subject_x")[100], ride.column("subject_screen_x")[100]),
        (500.0, 128.0)
    );
}

#[test]
fn settings_are_changed_by_name() {
    let folder = ramp();
    let text = folder.ok(&[
        "trace",
        "ramp.toml",
        "--set",
        "follow.smoothing=none",
        "--set",
        "zoom.level=2",
    ]);
    let ride = Numbers::read(&text);
    assert_eq!(ride.column("zoom")[0], 2.0);
    assert_eq!(ride.column("x")[50], ride.column("goal_x")[50]);
}

#[test]
fn a_take_without_subject_or_map_rests() {
    let folder = Folder::new(&[("take.toml", "seconds = 1\nfps = 10")]);
    let ride = Numbers::read(&folder.ok(&["trace", "take.toml"]));
    assert_eq!(ride.len(), 11);
    assert!(ride.column("subject_x").iter().all(|x| x.is_nan()));
    assert!(ride.column("tiles").iter().all(|tiles| tiles.is_nan()));
}

/// A ride that is traced in one process and continued in another from its saved state gives the same bytes.
#[test]
fn a_ride_is_continued_in_another_process() {
    for name in [
        "terraces",
        "valley",
        "kite",
        "house",
        "shrine",
        "cable",
        "landslide",
        "cutscene",
        "cellar",
    ] {
        let take = demo(&format!("{name}.toml"));
        let take = take.to_str().unwrap();
        let folder = Folder::new(&[]);
        let whole = folder.ok(&["trace", take]);
        let first = folder.ok(&["trace", take, "--seconds", "6.5", "--save", "ride.json"]);
        let second = folder.ok(&["trace", take, "--resume", "ride.json"]);
        assert_eq!(first.lines().count(), 1 + 391);
        assert!(first + &second == whole, "{name}");
    }
}

#[test]
fn rides_that_can_not_be_continued() {
    let (take, other) = (demo("landslide.toml"), demo("pan.toml"));
    let (take, other) = (take.to_str().unwrap(), other.to_str().unwrap());
    let folder = Folder::new(&[("odd.json", "{\n\"next\": x}")]);
    folder.ok(&["trace", take, "--seconds", "1", "--out", "a.csv", "--save", "ride.json"]);
    folder.ok(&["trace", take, "--resume", "ride.json", "--out", "b.csv"]);
    for (args, words) in [
        (&["trace", take, "--resume", "odd.json"][..], "odd.json:2:"),
        (&["trace", take, "--resume", "none.json"], "no such file"),
        (&["trace", take, "--resume", "ride.json", "--format", "json"], "expected csv"),
        (
            &["trace", take, "--seconds", "3.5", "--out", "c.csv", "--save", "c.json"],
            "between two cameras",
        ),
    ] {
        let output = folder.run(args);
        let message = String::from_utf8_lossy(&output.stderr).into_owned();
        assert_eq!(output.status.code(), Some(2), "{args:?}");
        assert!(message.contains(words), "{args:?}: {message}");
    }
    // Another take's ride is not this one's.
    folder.ok(&["trace", take, "--seconds", "10.9", "--out", "d.csv", "--save", "late.json"]);
    let output = folder.run(&["trace", other, "--resume", "late.json"]);
    assert!(String::from_utf8_lossy(&output.stderr).contains("belongs to another take"));
}
