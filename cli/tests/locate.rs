//! `locate`: conversions in both directions.

use std::io::Write;
use std::process::{Command, Stdio};

use crate::tools::{Folder, Numbers};
use proptest::prelude::*;

/// A window with bars on all sides: 300 x 200 for a screen of 40 x 20 at scale 7.
const TAKE: &str = "window = [300, 200]\n[tuning.screen]\nsize = [40, 20]\nsnap = 'whole'\n\
    [subjects.wren]\nkeys = [[0.0, 100.0, 50.0], [1.0, 140.0, 50.0]]\n";

fn locate(folder: &Folder, args: &[&str]) -> Vec<Vec<f64>> {
    let all = [&["locate", "take.toml"], args].concat();
    let numbers = Numbers::read(&folder.ok(&all));
    let names = ["world_x", "world_y", "screen_x", "screen_y", "window_x", "window_y"];
    let columns = names.map(|name| numbers.column(name));
    (0..numbers.len()).map(|row| columns.iter().map(|column| column[row]).collect()).collect()
}

#[test]
fn a_point_in_all_three_spaces() {
    let folder = Folder::new(&[("take.toml", TAKE)]);
    // The view's middle is 100, 50; bars of 10 and 30.
    assert_eq!(locate(&folder, &["100,50"]), [[100.0, 50.0, 20.0, 10.0, 150.0, 100.0]]);
    assert_eq!(
        locate(&folder, &["140,50", "--at", "1"]),
        [[140.0, 50.0, 20.0, 10.0, 150.0, 100.0]]
    );
    assert_eq!(locate(&folder, &["0,0", "--from", "screen"]), [[80.0, 40.0, 0.0, 0.0, 10.0, 30.0]]);
    assert_eq!(
        locate(&folder, &["150,100", "--from", "window"]),
        [[100.0, 50.0, 20.0, 10.0, 150.0, 100.0]]
    );
    let far = locate(&folder, &["--centre", "0,0", "--zoom", "2", "--", "-500,50"]);
    assert_eq!(far[0][2..4], [-980.0, 110.0]);
    assert!(far[0][4].is_nan(), "not shown");
    let bar = locate(&folder, &["5,100", "--from", "window"]);
    assert!(bar[0][0].is_nan() && bar[0][2].is_nan(), "the bars show nothing");
    let json = folder.ok(&["locate", "take.toml", "100,50", "--format", "json"]);
    assert!(json.contains("\"window_x\": 150.0"), "{json}");
}

#[test]
fn points_from_standard_input() {
    let folder = Folder::new(&[("take.toml", TAKE)]);
    let run = |input: &str| {
        let mut child = Command::new(env!("CARGO_BIN_EXE_velvet-pan"))
            .args(["locate", "take.toml"])
            .current_dir(folder.path())
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .unwrap();
        child.stdin.take().unwrap().write_all(input.as_bytes()).unwrap();
        child.wait_with_output().unwrap()
    };
    let output = run("x,y\n100,50\n\n101.5,50\n");
    let numbers = Numbers::read(&String::from_utf8(output.stdout).unwrap());
    assert_eq!(numbers.column("screen_x"), [20.0, 21.5]);
    for (input, place) in
        [("1,2\n3\n", "standard input:2:1"), ("1,2\nnan,2\n", "standard input:2:1")]
    {
        let output = run(input);
        let message = String::from_utf8_lossy(&output.stderr).into_owned();
        assert_eq!(output.status.code(), Some(2));
        assert!(message.contains(place) && message.contains("two finite numbers"), "{message}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 12, failure_persistence: None, ..ProptestConfig::default() })]

    /// Conversion to the screen and back returns the point, with rotation and zoom.
    #[test]
    fn there_and_back(x in -50.0..50.0_f64, y in -20.0..20.0_f64, zoom in 0.3..3.0_f64, turn in -3.0..3.0_f64) {
        let folder = Folder::new(&[("take.toml", TAKE)]);
        let (zoom, turn) = (zoom.to_string(), turn.to_string());
        let view = ["--centre", "10,-5", "--zoom", &zoom, "--rotate", &turn];
        let there = locate(&folder, &[&view[..], &["--", &format!("{x},{y}")]].concat());
        let screen = format!("{},{}", there[0][2], there[0][3]);
        let back = locate(&folder, &[&view[..], &["--from", "screen", "--", &screen]].concat());
        prop_assert!((back[0][0] - x).abs() < 1e-3 && (back[0][1] - y).abs() < 1e-3, "{back:?}");
    }
}
