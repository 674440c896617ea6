//! Figures of rides whose results are known.

use crate::tools::{Folder, Numbers, size_of};

/// The figures of a take, and of the same take with each change.
fn figures(take: &str, tries: &[&str]) -> Numbers {
    let folder = Folder::new(&[("take.toml", take)]);
    let mut args = vec!["compare", "take.toml", "--format", "csv"];
    for change in tries {
        args.extend(["--try", *change]);
    }
    let text = folder.ok(&args);
    // The first column is a name, with commas in it.
    let mut reader = csv::Reader::from_reader(text.as_bytes());
    let header = reader.headers().unwrap().iter().skip(1).collect::<Vec<_>>().join(",");
    let rows =
        reader.records().map(|row| row.unwrap().iter().skip(1).collect::<Vec<_>>().join(","));
    Numbers::read(&format!("{header}\n{}\n", rows.collect::<Vec<_>>().join("\n")))
}

fn near(value: f64, expected: f64, by: f64, what: &str) {
    assert!((value - expected).abs() <= by, "{what}: {value}, expected {expected}");
}

/// At one position until a time, then at another, at a hundred frames a second.
const STEP: &str = "seconds = 6.0\nfps = 100\nwindow = [1280, 720]\n\
    [tuning.follow]\nsmoothing = { half_life = 0.25 }\n\
    [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [1.05, 100.0, 0.0]]\n";

/// At a constant 120 units a second.
const RAMP: &str = "seconds = 10.0\nfps = 60\nwindow = [1280, 720]\n\
    [tuning.follow]\nsmoothing = { half_life = 0.25 }\n\
    [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [10.0, 1200.0, 0.0]]\n";

#[test]
fn a_step() {
    let figures = figures(STEP, &["follow.smoothing=none", "follow.smoothing={ settle = 0.5 }"]);
    let column = |name: &str| figures.column(name);
    // When it stops, what a move of 2,000 a second for 0.05 s has left: then by half every quarter of a second, until
    // half a pixel is left to where it is at the end, 4.95 s later.
    let rate = std::f64::consts::LN_2 / 0.25;
    let left = 2000.0 / rate * (1.0 - (-rate * 0.05).exp());
    let expected = (left / (0.5 + left * (-rate * 4.95).exp())).ln() / rate;
    near(column("settle")[0], expected, 0.01, "settle");
    near(column("settle")[1], 0.0, 1e-9, "settle without smoothing");
    near(column("overshoot")[0], 0.0, 0.05, "overshoot");
    near(column("lag_worst")[0], left, 0.1, "worst lag");
    near(column("lag_worst")[1], 0.0, 1e-9, "worst lag without smoothing");
    // The fastest is at the stop, seen over a sixtieth of a second.
    let at_stop = left * rate;
    assert!(column("peak_speed")[0] < at_stop && column("peak_speed")[0] > 0.95 * at_stop);
    near(column("peak_speed")[1], 2_000.0, 1e-6, "peak speed without smoothing");
    assert!(column("peak_acceleration")[2] < 0.2 * column("peak_acceleration")[1]);
    assert_eq!(column("lost"), [0.0; 3]);
    assert!(
        column("out_of_bounds").iter().all(|area| area.is_nan()),
        "without bounds there is no outside"
    );
}

#[test]
fn a_ramp() {
    let changes = [
        "screen.snap=whole",
        "follow.anchor=[0.25, 0.5]",
        "bounds={ rect = [0.0, -500.0, 600.0, 1000.0] }",
    ];
    let figures = figures(RAMP, &changes);
    let column = |name: &str| figures.column(name);
    // Behind by speed · half-life / ln 2.
    let behind = 120.0 * 0.25 / std::f64::consts::LN_2;
    near(column("lag_worst")[0], behind, 1e-3, "lag");
    near(column("view_ahead")[0], 0.5 - behind / 320.0, 0.01, "view ahead");
    near(
        column("view_ahead")[2],
        0.75 - behind / 320.0,
        0.01,
        "view ahead of an anchor to the left",
    );
    near(column("peak_speed")[0], 120.0, 1e-6, "speed");
    assert_eq!(column("turns")[0], 0.0);
    // 2 screen pixels a frame: whole steps are even, too.
    near(column("judder")[0], 0.0, 0.5, "judder");
    assert!(column("tremble")[0] <= 1.0);
    // Held at the world's end she runs off the screen: from 600 on, of 1200.
    near(column("lost")[3], 0.5, 0.01, "lost");
    assert_eq!(column("out_of_bounds")[3], 0.0);
}

/// A pan of 37 screen pixels a second, with 8 window pixels each: the figures of the snaps.
#[test]
fn judder_by_snap() {
    let take = "seconds = 4.0\nfps = 60\nwindow = [640, 360]\n[tuning.screen]\nsize = [80, 45]\n\
        [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [4.0, 148.0, 0.0]]\n";
    let figures = figures(take, &["screen.snap=whole", "screen.snap=off"]);
    let judder = figures.column("judder");
    assert!(judder[0] < 0.6, "subpixel: {}", judder[0]);
    // Anywhere within a step of 8 with the same chance: 8/√12.
    near(judder[1], 8.0 / 12.0_f64.sqrt(), 0.02, "whole");
    assert!(judder[2] < 0.6, "off: {}", judder[2]);
}

/// Back and forth in a sine of half a period a second, followed without smoothing.
#[test]
fn a_sine() {
    let at = |t: f64| 80.0 * (std::f64::consts::PI * t).sin();
    let keys: Vec<String> = (0..=1920)
        .map(|i| f64::from(i) / 240.0)
        .map(|t| format!("[{t}, {}, 0.0]", at(t)))
        .collect();
    let take = format!("seconds = 8.0\nfps = 100\n[subjects.wren]\nkeys = [{}]\n", keys.join(", "));
    let deadzone = "follow.deadzone={ left = 0.5, right = 0.5, top = 0.0, bottom = 0.0 }";
    let figures = figures(&take, &[deadzone]);
    let column = |name: &str| figures.column(name);
    near(column("turns")[0], 8.0 / 8.0, 0.01, "turns a second");
    near(column("peak_speed")[0], 80.0 * std::f64::consts::PI, 0.2, "peak speed");
    near(
        column("peak_acceleration")[0],
        80.0 * std::f64::consts::PI.powi(2),
        2.0,
        "peak acceleration",
    );
    near(column("lag_worst")[0], 0.0, 1e-9, "lag");
    assert_eq!(
        (column("turns")[1], column("peak_speed")[1]),
        (0.0, 0.0),
        "in the deadzone nothing moves"
    );
    // In the deadzone the view is where it wants to be, and the subject is not at its anchor.
    near(column("lag_worst")[1], 0.0, 1e-9, "lag in the deadzone");
    near(column("off_anchor")[1], 80.0, 0.01, "off anchor in the deadzone");
}

/// The visible outside of the world is measured, and its remedy named.
#[test]
fn out_of_bounds_is_measured_and_cured() {
    let take = "seconds = 2.0\nfps = 60\n[tuning.bounds]\nrect = [0.0, 0.0, 320.0, 180.0]\n\
        [tuning.cues.gong]\nshake = { reach = [8.0, 0.0], hold = 1.0, fade = 0.5, hz = 9.0, motion = 'rattle' }\n\
        [subjects.wren]\nkeys = [[0.0, 160.0, 90.0]]\n[[events]]\nat = 0.2\ncue = 'gong'\n";
    let figures = figures(take, &["shake.stay_in_bounds=true"]);
    let outside = figures.column("out_of_bounds");
    assert!(outside[0] > 180.0 && outside[0] <= 8.0 * 180.0 + 1e-6, "{}", outside[0]);
    assert_eq!(outside[1], 0.0);
    let folder = Folder::new(&[("take.toml", take)]);
    let text = folder.ok(&["compare", "take.toml"]);
    assert!(
        text.contains("out of bounds") && text.contains("--try 'shake.stay_in_bounds=true'"),
        "{text}"
    );
}

/// Limits in screen pixels grow with the screen.
#[test]
fn comfort_is_a_matter_of_the_screen() {
    let take = |size: &str, place: u32| {
        format!(
            "seconds = 3.0\n[tuning.screen]\nsize = {size}\n[tuning.follow]\nsmoothing = {{ half_life = 0.5 }}\n\
                 [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [3.0, {place}.0, 0.0]]\n"
        )
    };
    let says = |take: &str| Folder::new(&[("take.toml", take)]).ok(&["compare", "take.toml"]);
    assert!(says(&take("[320, 180]", 250)).contains("! lag, mean, screen px: (1)"));
    assert!(!says(&take("[640, 360]", 250)).contains("! lag, mean"));
    let far = says(&take("[640, 360]", 800));
    assert!(far.contains("! lag, mean, screen px: (1)"), "{far}");
}

/// The effect in a tip is the real effect.
#[test]
fn every_tip_does_what_it_says() {
    let demo = |name: &str| {
        concat!(env!("CARGO_MANIFEST_DIR"), "/../terraces/demo/").to_owned() + name + ".toml"
    };
    let folder = Folder::new(&[]);
    let mut tips = 0;
    for name in ["terraces", "house", "cable", "shrine", "gully", "kite", "valley", "landslide"] {
        let path = demo(name);
        let text = folder.ok(&["compare", &path]);
        let mut lines = text.lines().peekable();
        while let Some(line) = lines.next() {
            let Some(changes) = crate::tools::tip_in(line) else { continue };
            let said = lines.peek().expect("what it does").trim();
            // "(1) settle 1.97 -> 1.08; …": the figure, before and after.
            let first = said.trim_start_matches("(1) ").split(';').next().expect("a figure");
            let (figure, after) = first.split_once(" -> ").expect("an arrow");
            let sets = changes.iter().flat_map(|change| ["--set", change]);
            let args: Vec<&str> = ["compare", &path].into_iter().chain(sets).collect();
            let table = folder.ok(&args);
            let name = figure.rsplit_once(' ').expect("a name").0;
            let row = table.lines().find(|row| row.starts_with(name)).expect("its row");
            let unmarked = |word: &&str| word.trim_matches(['!', '+', '-']) == after;
            assert!(
                row.split_whitespace().any(|word| unmarked(&word)),
                "{path}: {changes:?}: {row}"
            );
            tips += 1;
        }
    }
    assert!(tips >= 2, "only {tips} tips");
}

#[test]
fn limits_are_a_test_of_the_camera() {
    let folder = Folder::new(&[("ramp.toml", RAMP)]);
    let fails = |args: &[&str]| {
        let output = folder.run(&[&["compare", "ramp.toml"], args].concat());
        let error = String::from_utf8_lossy(&output.stderr).into_owned();
        (output.status.code(), error)
    };
    assert_eq!(fails(&["--limit", "lag.worst=50", "--limit", "view-ahead=0.3"]).0, Some(0));
    let (code, error) = fails(&["--limit", "lag.worst=40", "--limit", "lost=0"]);
    assert_eq!(code, Some(1));
    assert!(error.contains("ramp: lag.worst: 43.3: expected at most 40"), "{error}");
    assert!(!error.contains("lost"), "{error}");
    // The ride does not tell: that is no proof.
    let (code, error) = fails(&["--limit", "settle=1"]);
    assert!(code == Some(1) && error.contains("settle: no stop that was long enough"), "{error}");
    for wrong in ["lag.worst", "lag.wrst=4", "lag.worst=much", "lag.worst=-1"] {
        assert_eq!(fails(&["--limit", wrong]).0, Some(2), "{wrong}");
    }
    // From a file beside the take; the command line's own replace them.
    std::fs::write(folder.path().join("ramp.limits.toml"), "lag.worst = 40\nview-ahead = 0.3\n")
        .unwrap();
    let (code, error) = fails(&[]);
    assert!(code == Some(1) && error.contains("expected at most 40"), "{error}");
    assert_eq!(fails(&["--limit", "lag.worst=50"]).0, Some(0));
    std::fs::write(folder.path().join("ramp.limits.toml"), "view-ahead = 0.3\nlag.wrst = 40\n")
        .unwrap();
    let (code, error) = fails(&[]);
    assert!(
        code == Some(2) && error.contains("ramp.limits.toml:2:5: lag.wrst: no figure"),
        "{error}"
    );
}

#[test]
fn a_part_and_what_is_missing_are_told() {
    let longer = STEP.replace("seconds = 6.0", "seconds = 7.0");
    let folder = Folder::new(&[("ramp.toml", RAMP), ("step.toml", &longer)]);
    let text = folder.ok(&["compare", "ramp.toml", "--from", "2", "--to", "3"]);
    assert!(
        text.contains("no stop that was long enough: settle")
            && text.contains("no bounds: out of bounds"),
        "{text}"
    );
    for args in [["--from", "12"], ["--from", "-1"], ["--to", "-1"]] {
        let output = folder.run(&[&["compare", "ramp.toml"], &args[..]].concat());
        assert_eq!(output.status.code(), Some(2), "{args:?}");
    }
    let soft =
        folder.ok(&["compare", "step.toml", "--try", "follow.smoothing={ half_life = 3.0 }"]);
    assert!(soft.contains(">5.00") && soft.contains("in 1 of 1 stops"), "{soft}");
}

#[test]
fn tables_and_charts() {
    let folder = Folder::new(&[("step.toml", STEP), ("ramp.toml", RAMP)]);
    let text = folder.ok(&[
        "compare",
        "step.toml",
        "ramp.toml",
        "--try",
        "zoom.level=2.0",
        "--chart",
        "rides.svg",
    ]);
    for word in ["(4)  ramp, zoom.level = 2.0", "settle", "judder", "+ best, - worst"] {
        assert!(text.contains(word), "no \"{word}\" in {text}");
    }
    let json: serde_json::Value =
        serde_json::from_str(&folder.ok(&["compare", "step.toml", "--format", "json"])).unwrap();
    assert_eq!(json[0]["ride"], "step");
    let svg = std::fs::read_to_string(folder.path().join("rides.svg")).unwrap();
    assert!(svg.contains("<svg") && svg.contains("world units") && svg.contains("seconds"));
    folder.ok(&["chart", "ramp.toml", "--out", "ramp.png"]);
    assert_eq!(size_of(&folder.path().join("ramp.png")), (1280, 800));
    for args in [
        &["chart", "ramp.toml", "--out", "ramp.gif"][..],
        &["chart", "none.toml", "--out", "none.png"],
        &["compare", "ramp.toml", "--try", "zoom.levl=2.0"],
        &["compare", "ramp.toml", "--try", "a", "--chart", "x.png"],
        &["compare"],
    ] {
        assert_eq!(folder.run(args).status.code(), Some(2), "{args:?}");
    }
    assert_eq!(folder.names(), ["ramp.png", "ramp.toml", "rides.svg", "step.toml"]);
}

/// What a ride does has a panel of its own: a shake hides no zoom, and rotation is drawn. Bounds stand at their numbers
/// or not at all, and 0 has no sign.
#[test]
fn a_chart_shows_all_that_a_ride_does() {
    let take = format!("{RAMP}[[events]]\nat = 0.5\nrotate = 0.4\nshake = 1.0\nzoom = 2.0\n");
    let folder = Folder::new(&[("turn.toml", &take), ("ramp.toml", RAMP)]);
    let svg = |take: &str, change: &str| {
        folder.ok(&["chart", take, "--set", change, "--out", "chart.svg"]);
        std::fs::read_to_string(folder.path().join("chart.svg")).unwrap()
    };
    let rose = |svg: &str| svg.matches("#A55580").count();
    let far = svg("turn.toml", "bounds.rect=[-9e5, -9e5, 18e5, 18e5]");
    for word in ["rotation", "degrees", "zoom", "shake, downwards", "envelope"] {
        assert!(far.contains(word), "no {word}");
    }
    assert!(!far.contains(">-0<") && !far.contains(">-0.0<"));
    let near = svg("turn.toml", "bounds.rect=[-20, -9e5, 18e5, 18e5]");
    assert_eq!(rose(&near), rose(&far) + 1, "the left side");
    let plain = svg("ramp.toml", "zoom.level=1.0");
    assert!(!plain.contains("rotation") && plain.contains("zoom") && rose(&plain) == 0);
}
