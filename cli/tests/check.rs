//! `check`: every fault at once with its position, warnings about unlikely values, and nothing else.

use crate::tools::{Folder, demo};

/// The output of `check` for these files, and its exit code.
fn check(files: &[(&str, &str)]) -> (String, Option<i32>) {
    let folder = Folder::new(files);
    let names: Vec<&str> = files.iter().map(|(name, _)| *name).collect();
    let output = folder.run(&[&["check"], &names[..]].concat());
    assert!(output.stderr.is_empty(), "{}", String::from_utf8_lossy(&output.stderr));
    assert_eq!(folder.names().len(), files.len(), "no file is left");
    (String::from_utf8(output.stdout).unwrap(), output.status.code())
}

#[test]
fn every_fault_of_a_file_at_once() {
    let tuning = "[follow]\nanchr = [0.5, 0.5]\nanchor = [2.0, 0.5]\n[folow]\nx = 1\n\
        [[layers]]\nrat = 2\nrate = [1.0, \"a\"]\n[screen]\nfit = \"hole\"\n[zoom]\nlevel = 9\n\
        [cues.gong]\nnone_beyond = 0.1\nshake = { hz = -1, reech = 2 }\n";
    let (text, code) = check(&[("tuning.toml", tuning)]);
    assert_eq!(code, Some(1));
    let expected = [
        "tuning.toml:2:1: follow.anchr: unknown key \"anchr\": did you mean \"anchor\"?",
        "tuning.toml:3:1: follow.anchor: [2.0, 0.5] is not possible",
        "tuning.toml:4:2: folow: unknown key \"folow\": did you mean \"follow\"?",
        "tuning.toml:7:1: layers.0.rat: unknown key \"rat\": did you mean \"rate\"?",
        "tuning.toml:8:14: layers.0.rate.1: \"a\": expected a number",
        "tuning.toml:10:1: screen.fit: unknown word \"hole\": did you mean \"whole\"?",
        "tuning.toml:12:1: zoom.level: 9 is not possible",
        "tuning.toml:14:1: cues.gong.none_beyond: 0.1 is not possible",
        "tuning.toml:15:11: cues.gong.shake.hz: -1 is not possible",
        "tuning.toml:15:20: cues.gong.shake.reech: unknown key \"reech\": did you mean \"reach\"?",
    ];
    let lines: Vec<&str> = text.lines().collect();
    for (line, expected) in lines.iter().zip(expected) {
        assert!(line.starts_with(&format!("fault: {expected}")), "{line}, expected {expected}");
    }
    assert_eq!(lines.last(), Some(&"1 file: 10 faults, 0 warnings"));
}

/// A choice that needs its numbers says which.
#[test]
fn what_a_choice_needs() {
    let tuning = "[cues.gong.shake]\nmotion = \"kick\"\n[follow]\nsmoothing = \"half_life\"\n";
    let (text, code) = check(&[("tuning.toml", tuning)]);
    assert_eq!(code, Some(1));
    for words in [
        "tuning.toml:2:1: cues.gong.shake.motion: \"kick\" alone is not enough: expected { kick = [x, y] }, a direction",
        "tuning.toml:4:1: follow.smoothing: \"half_life\" alone is not enough: expected { half_life = … }, a half-life",
    ] {
        assert!(text.contains(words), "{text}");
    }
}

/// Tunings with one thing wrong in each, and its line.
const TUNINGS: [(&str, usize); 51] = [
    ("[bounds]\nfade = 1", 1),
    ("[bounds]\noutline = \"cellar\"", 2),
    ("[outlines.cellar]\nparts = []", 2),
    ("[bounds]\nrect = [0.0, 0.0, 9.0, 9.0]\nopen = [\"lft\"]", 3),
    ("[bounds]\nrect = [0.0, 0.0, 9.0, 9.0]\nopen = \"left\"", 3),
    ("screen", 1),
    ("[screen", 1),
    ("[screen]\nsize = [320]", 2),
    ("[screen]\nsize = [320, 0]", 2),
    ("[screen]\nsize = [320, -1]", 2),
    ("[screen]\nsize = [320.5, 180]", 2),
    ("[screen]\nunit_pixels = 0", 2),
    ("[screen]\nunit_pixels = nan", 2),
    ("[screen]\ny_axis = \"left\"", 2),
    ("[screen]\nsnap = 1", 2),
    ("[follow]\naxes = \"z\"", 2),
    ("[follow]\nanchor = [0.5, 0.5, 0.5]", 2),
    ("[follow]\noffset = [inf, 0.0]", 2),
    ("[follow]\ndeadzone = { left = 2.0 }", 2),
    ("[follow]\ndeadzone = 0.1", 2),
    ("[follow]\nsmoothing = \"some\"", 2),
    ("[follow]\nsmoothing = { half_life = -1.0 }", 2),
    ("[follow]\nsmoothing = { half_lif = 1.0 }", 2),
    ("[follow]\nlook_ahead = { seconds = [99.0, 0.0] }", 2),
    ("[follow]\nlook_ahead = { turn_after = -1.0 }", 2),
    ("[follow]\nleash = [0.5, 1.5]", 2),
    ("[follow]\nratchet = \"sideways\"", 2),
    ("[follow]\nairborne = true", 2),
    ("[bounds]\nrect = [0.0, 0.0, 10.0]", 2),
    ("[bounds]\nrect = [0.0, 0.0, -10.0, 10.0]", 2),
    ("[bounds]\nrect = [0.0, 0.0, 10.0, 10.0]\ncushion_depth = -1.0", 3),
    ("[bounds]\ncushion_depth = 1.0", 1),
    ("[zoom]\nrange = [4.0, 0.5]", 2),
    ("[zoom]\nnotch = 1.0", 2),
    ("[zoom]\nhalf_life = -1", 2),
    ("[zoom]\nwhole = 1", 2),
    ("[shake]\nmix = \"sum\"", 2),
    ("[shake]\nintensity = 1.5", 2),
    ("[shake]\nlimit = { reach = [-1.0, 0.0] }", 2),
    ("[shake]\nseed = -1", 2),
    ("[cues]\ngong = 1", 2),
    ("[cues.gong]\nfull_within = -1.0", 2),
    ("[cues.gong]\nzoom = { by = 0.0 }", 2),
    ("[cues.gong]\npause = -1.0", 2),
    ("[rooms]\noverstep = -1.0", 2),
    ("[rooms]\nslide = inf", 2),
    ("[rail]\nspeed = 1.0", 1),
    ("[scroll]\nspeed = [nan, 0.0]", 2),
    ("[party]\nfade = -1.0", 2),
    ("[[zones]]\nfade = 1.0", 1),
    ("[[lures]]\nat = [0.0, 0.0]\nradius = 0.0", 3),
];

/// The file and the line are named, by `check` and by `trace`.
#[test]
fn malformed_tunings() {
    let take = "tuning = \"tuning.toml\"\n[subjects.wren]\nkeys = [[0.0, 0.0, 0.0]]\n";
    for (tuning, line) in TUNINGS {
        let (text, code) = check(&[("tuning.toml", tuning)]);
        assert_eq!(code, Some(1), "{tuning}: {text}");
        assert!(text.contains(&format!("tuning.toml:{line}:")), "{tuning}: {text}");
        assert_eq!(text.matches("tuning.toml:").count(), 1, "one mistake, one fault: {text}");
        let folder = Folder::new(&[("tuning.toml", tuning), ("take.toml", take)]);
        let output = folder.run(&["trace", "take.toml", "--out", "ride.csv"]);
        let message = String::from_utf8_lossy(&output.stderr).into_owned();
        assert_eq!(output.status.code(), Some(2), "{tuning}: {message}");
        assert!(message.contains(&format!("tuning.toml:{line}:")), "{tuning}: {message}");
        assert!(!message.contains("panicked") && folder.names().len() == 2, "{tuning}");
    }
}

/// Checks that a tuning without a fault is warned of with these words.
fn warned(tuning: &str, words: &str) {
    let (text, code) = check(&[("tuning.toml", tuning)]);
    assert_eq!(code, Some(0), "{text}");
    assert!(text.contains("warning: tuning.toml:") && text.contains(words), "{tuning}: {text}");
}

#[test]
fn what_is_seldom_meant() {
    let leash = "[follow]\nleash = [0.2, 0.4]\ndeadzone = { left = 0.3, right = 0.1, top = 0.0, bottom = 0.0 }\n";
    warned(leash, "tuning.toml:3:1: follow.deadzone: the deadzone is wider than the leash");
    warned("[bounds]\nrect = [0.0, 0.0, 200.0, 500.0]\n", "smaller than the view, 320 x 180");
    let cellar = |parts: &str| {
        format!("[bounds]\noutline = \"cellar\"\n[outlines.cellar]\nparts = [{parts}]\n")
    };
    warned(
        &cellar("[0, 0, 400, 200], [100, 0, 90, 900]"),
        "tuning.toml:4:1: outlines.cellar.parts: at 100, 0 it is only 90 x 900, less than the view, 320 x 180",
    );
    warned(
        &cellar("[0, 0, 400, 200], [400, 200, 400, 200], [390, 0, 400, 190]"),
        "tuning.toml:4:1: outlines.cellar.parts: 2 pieces that are not joined",
    );
    let (text, _) = check(&[("tuning.toml", &cellar("[0, 0, 400, 200], [0, 0, 330, 900]"))]);
    assert_eq!(text, "1 file: 0 faults, 0 warnings\n");
    let gong = "[cues.gong]\nshake = { reach = [6.0, 3.0] }\n";
    warned(
        &format!("[bounds]\nrect = [0.0, 0.0, 900.0, 500.0]\n{gong}"),
        "up to 6 x 3 screen pixels",
    );
    let held = "[bounds]\nrect = [0.0, 0.0, 320.0, 180.0]\n[shake]\nstay_in_bounds = true\n";
    warned(&format!("{held}{gong}"), "no room to shake");
    warned("[zoom]\nlevel = 1.5\n", "1.5 screen pixels per world unit");
    let cover = "[bounds]\nrect = [0.0, 0.0, 900.0, 500.0]\n[[layers]]\ncover = [400.0, 220.0]\n";
    warned(cover, "at zoom 0.5 the view is larger than this picture");
}

/// Rooms whose neighbours show, and numbers for another scale.
#[test]
fn what_belongs_to_another_scale() {
    let reveal = "[screen]\nfit = \"reveal\"\n[rooms]\n";
    warned(reveal, "rooms: a room of 320 x 180 is hardly larger than the view");
    let list = format!("{reveal}list = [[0.0, 0.0, 900.0, 900.0], [900.0, 0.0, 330.0, 900.0]]\n");
    warned(&list, "rooms: a room of 330 x 900");
    // Pixels given as world units, in a world of tiles.
    let tiles = "[screen]\nunit_pixels = 16.0\nsize = [320, 192]\n";
    for (table, words) in [
        (
            "[[lures]]\nat = [0.0, 0.0]\nradius = 1000.0\n",
            "lures.0.radius: the radius is 83.333 screens, at 16 screen pixels",
        ),
        ("[rooms]\nsize = [0.2, 0.2]\n", "rooms.size: a room is 0.017 screens"),
        ("[scroll]\nspeed = [-300.0, 0.0]\n", "scroll.speed: the speed is 15.000 screens a second"),
        (
            "[rail]\nspeed = 0.01\npoints = [[0.0, 0.0], [9.0, 0.0]]\n",
            "rail.speed: the speed is 0.001 screens",
        ),
        ("[[zones]]\nrect = [0.0, 0.0, 0.1, 0.1]\n", "zones.0.rect: the zone is 0.008 screens"),
        (
            "[cues.gong]\nshake = { reach = [90.0, 0.0] }\n[shake.limit]\nreach = [100.0, 100.0]\n",
            "cues.gong.shake.reach: a shake of 90 x 0 on a screen of 320 x 192",
        ),
    ] {
        warned(&format!("{tiles}{table}"), words);
    }
    let quiet = "[scroll]\nspeed = [3.0, 0.0]\n[[lures]]\nat = [0.0, 0.0]\nradius = 9.0\n";
    let (text, _) = check(&[("tuning.toml", &format!("{tiles}{quiet}"))]);
    assert!(text.contains("0 warnings"), "{text}");
}

#[test]
fn what_a_take_and_its_tuning_seldom_mean() {
    let wren = "[subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [1.0, 900.0, 0.0]]\n";
    let slow = format!("tuning = \"slow.toml\"\nwindow = [1000, 1000]\n{wren}");
    let (text, code) = check(&[
        ("take.toml", &slow),
        ("slow.toml", "[follow]\nsmoothing = { half_life = 0.5 }\n"),
    ]);
    assert_eq!(code, Some(0));
    assert!(text.contains("at its top speed, 900 x 0 world units a second, smoothing leaves \"wren\" 649 x 0 behind"), "{text}");
    assert!(
        !text.contains("window pixels per screen pixel"),
        "a whole fit has whole scales: {text}"
    );
    let odd = format!(
        "window = [1000, 1000]\n{wren}[tuning.screen]\nfit = \"contain\"\n{}",
        "[tuning.cues.gong]\npause = 0.1\n"
    );
    let (text, _) = check(&[("take.toml", &odd)]);
    assert!(text.contains("take.toml:1:1: window: 3.125 window pixels per screen pixel"), "{text}");
    assert!(text.contains("tuning.cues.gong: this cue is never called"), "{text}");
}

/// Jumps, paths that leave the bounds, and events that do nothing.
#[test]
fn what_a_take_seldom_means() {
    let take = "seconds = 4.0\n[subjects.wren]\nkeys = [[0.0, 0.0, 90.0], [1.0, 100.0, 90.0], [1.02, 900.0, 90.0], [4.0, 2000.0, 90.0]]\n\
        [tuning.bounds]\nrect = [0.0, 0.0, 1000.0, 500.0]\n\
        [[events]]\nat = 1.0\nabout = [4.0, 4.0]\nstrength = 2.0\n[[events]]\nat = 2.0\n\
        [[events]]\nat = 2.5\ntravel = [[0.0, 0.0], [90.0, 40.0]]\nglide = 1.0\n[[events]]\nat = 3.0\nrelease = true\n\
        [[events]]\nat = 3.5\nease = \"linear\"\n[[events]]\nat = 9.0\ncut = true\n\
        [[events]]\nat = 9.0\ngate = \"read\"\n[[events]]\nat = 9.0\ngate = \"late\"\n[gates]\nlate = 60.0\n";
    let (text, code) = check(&[("take.toml", take)]);
    assert_eq!(code, Some(0), "{text}");
    for words in [
        "subjects.wren: a jump at t = 1.02",
        "subjects.wren: outside the bounds from t = 4 on",
        "take.toml:8:1: events.0.about: no effect without notches",
        "take.toml:9:1: events.0.strength: no effect without cue",
        "events.1: this event does nothing",
        "take.toml:16:1: events.3: cuts off the travel of events.2, which takes until t = 3.5",
        "events.4.ease: no effect without glide",
        "events.5.at: after the end of the take",
        "take.toml:27:1: events.6.gate: waits without end, as nothing opens \"read\"",
        "events.7.gate: waits without end, as \"late\" opens at t = 60, after the end",
    ] {
        assert!(text.contains(words), "no \"{words}\" in {text}");
    }
    let rows = |step: f64| {
        let row = |i: u32| format!("{},{i},0,1\n", f64::from(i) * step);
        format!("t,x,y,grounded\n{}", (0..60).map(row).collect::<String>())
    };
    let (text, _) = check(&[("path.csv", &rows(16.7))]);
    assert!(text.contains("16.700 s from row to row: likely milliseconds"), "{text}");
    let late = rows(0.0167)
        .replace("\n0,0,0,1", "")
        .replace("\n0.0", "\n9000.0")
        .replace("\n0.", "\n9000.");
    let (text, _) = check(&[("path.csv", &late)]);
    assert!(text.contains("the first row is at 9000.0"), "{text}");
}

/// A window that does not suit the screen, an axis that is not followed, and a path in another unit.
#[test]
fn what_does_not_fit_together() {
    let take = |window: &str, tuning: &str, keys: &str| {
        let text = format!("window = {window}\n[subjects.wren]\nkeys = {keys}\n{tuning}\n");
        let (text, code) = check(&[("take.toml", &text)]);
        assert_eq!(code, Some(0), "{text}");
        text
    };
    let run = "[[0.0, 0.0, 0.0], [1.0, 90.0, 0.0], [2.0, 90.0, 95.0]]";
    let fits =
        |window: &str, fit: &str| take(window, &format!("[tuning.screen]\nfit = \"{fit}\""), run);
    assert!(fits("[960, 960]", "contain").contains(
        "window: 320 x 180 in 960 x 960: the shapes differ, and bars take 44 % of the window"
    ));
    assert!(fits("[960, 960]", "cover").contains("44 % of the screen is cut off"));
    assert!(
        fits("[300, 180]", "whole")
            .contains("320 x 180 in 300 x 180: smaller than the screen: expected physical pixels")
    );
    for (window, fit) in [("[960, 960]", "reveal"), ("[960, 540]", "whole"), ("[0, 0]", "whole")] {
        assert!(fits(window, fit).contains("0 warnings"), "{}", fits(window, fit));
    }
    let locked = |tuning: &str| take("[960, 540]", tuning, run);
    let text = locked("[tuning.follow]\naxes = \"x\"");
    assert!(
        text.contains("subjects.wren: off the screen from t = 2 on: follow.axes does not follow y"),
        "{text}"
    );
    for tuning in [
        "[tuning.follow]\naxes = \"y\"",
        "[tuning.follow]\naxes = \"x\"\nanchor = [0.5, 0.2]",
        // In bounds of the view's height, it is where the bounds are.
        "[tuning.follow]\naxes = \"x\"\n[tuning.bounds]\nrect = [-200.0, -80.0, 900.0, 180.0]",
    ] {
        assert!(locked(tuning).contains("0 warnings"), "{tuning}: {}", locked(tuning));
    }
    // Metres where the tuning has pixels.
    let text = take("[960, 540]", "", "[[0.0, 0.0, 0.0], [1.0, 0.7, 0.0]]");
    assert!(
        text.contains("subjects.wren: at most 0.0022 screens a second, at 1 screen pixels"),
        "{text}"
    );
}

/// Assumptions about a path are reported.
#[test]
fn what_is_assumed_of_a_path() {
    let rows = |gap: f64| {
        let row =
            |i: u32| format!("{},{i},0\n", f64::from(i) / 60.0 + if i > 30 { gap } else { 0.0 });
        format!("t,x,y\n{}", (0..60).map(row).collect::<String>())
    };
    let (text, code) = check(&[("path.csv", &rows(0.0))]);
    assert_eq!(code, Some(0));
    assert!(text.contains("0 warnings"), "a walker has no ground: {text}");
    let take = "tuning.follow.airborne = \"hold\"\nsubjects.wren.path = \"path.csv\"\n";
    let (text, _) = check(&[("take.toml", take), ("path.csv", &rows(0.0))]);
    assert!(text.contains("subjects.wren: its path has no column grounded"), "{text}");
    let (text, _) = check(&[("path.csv", &rows(2.0))]);
    assert!(
        text.contains(
            "path.csv: a gap of 2.02 s after t = 0.5: the positions between are interpolated"
        ),
        "{text}"
    );
    let (text, _) = check(&[("path.csv", "t,x,y,grounded\n0,1,2,1\n")]);
    assert!(text.contains("0 faults, 0 warnings"), "{text}");
}

#[test]
fn all_of_the_demo_is_well() {
    let folder = Folder::new(&[]);
    let mut files: Vec<String> = std::fs::read_dir(demo(""))
        .unwrap()
        .map(|entry| entry.unwrap().path().to_str().unwrap().to_owned())
        .collect();
    files.sort();
    let args: Vec<&str> =
        std::iter::once("check").chain(files.iter().map(String::as_str)).collect();
    let text = folder.ok(&args);
    assert!(text.contains("files: 0 faults"), "{text}");
    let none = folder.run(&["check", "none.toml"]);
    assert_eq!(none.status.code(), Some(1));
    assert!(String::from_utf8_lossy(&none.stdout).contains("none.toml: no such file"));
}
