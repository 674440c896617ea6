//! `tune`, `completions`, `man` and films side by side.

use crate::tools::{Folder, Numbers, demo, size_of};

const RAMP: &str = "seconds = 4.0\nfps = 60\n[tuning.follow]\nanchor = [0.4, 0.5]\n\
    [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [0.5, 0.0, 0.0], [3.0, 300.0, 0.0]]\n";

#[test]
fn what_is_wished_for_is_found() {
    let folder = Folder::new(&[("ramp.toml", RAMP)]);
    let tune = |wish: &str| folder.ok(&["tune", "ramp.toml", "--for", wish, "--rides", "200"]);
    for (wish, column, value) in
        [("lag=25", "lag_mean", 25.0), ("view-ahead=0.7", "view_ahead", 0.7)]
    {
        let found = tune(wish);
        assert_eq!(found, tune(wish), "the same wish has the same answer");
        // The answer is a tuning, and its ride is as it says.
        let take =
            RAMP.replace("[tuning.follow]\nanchor = [0.4, 0.5]\n", "tuning = \"found.toml\"\n");
        let take =
            format!("tuning = \"found.toml\"\n{}", take.replace("tuning = \"found.toml\"\n", ""));
        let again = Folder::new(&[("found.toml", &found), ("take.toml", &take)]);
        assert!(again.ok(&["check", "found.toml", "take.toml"]).contains("0 faults"));
        let figures = again.ok(&["compare", "take.toml", "--format", "csv"]);
        let is = Numbers::read(&figures.replace("take,", "0,")).column(column)[0];
        assert!((is - value).abs() < 0.1 * value, "{wish}: {is}");
        assert!(found.contains("anchor = [0.4, 0.5]"), "all else stays: {found}");
    }
}

#[test]
fn a_wish_that_can_not_come_true_is_told() {
    let folder = Folder::new(&[("ramp.toml", RAMP)]);
    let args = ["tune", "ramp.toml", "--rides", "60", "--for", "peak-speed<=20,lag.worst<=200"];
    let output = folder.run(&args);
    let message = String::from_utf8_lossy(&output.stderr).into_owned();
    assert_eq!(output.status.code(), Some(1));
    assert!(message.contains("peak-speed <= 20, nearest"), "{message}");
    assert!(!message.contains("lag.worst"), "{message}");
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    assert!(text.contains("missed") && text.contains("[follow]"), "{text}");
}

/// The search does not change the vertical look-ahead, smoothing of a single axis, and uneven sides.
#[test]
fn what_is_not_searched_stays() {
    let own = "[tuning.follow]\nsmoothing = { x = { half_life = 0.3 }, y = { speed = 90.0 } }\n\
        deadzone = { left = 0.3, right = 0.1 }\nlook_ahead = { seconds = [0.2, 0.35], reach = [0.2, 0.2] }\n";
    let take = RAMP.replace("[tuning.follow]\nanchor = [0.4, 0.5]\n", own);
    let folder = Folder::new(&[("ramp.toml", &take)]);
    let text = folder.ok(&["tune", "ramp.toml", "--rides", "60", "--for", "lag<=200"]);
    let table: toml::Table = text.parse().unwrap();
    let follow = &table["follow"];
    assert_eq!(follow["look_ahead"]["seconds"][1].as_float(), Some(0.35));
    assert_eq!(follow["smoothing"]["y"]["speed"].as_float(), Some(90.0));
    let [left, right] = ["left", "right"].map(|side| follow["deadzone"][side].as_float().unwrap());
    assert!((left - 3.0 * right).abs() < 0.01, "{left}, {right}");
}

/// The examples of the help, exactly.
#[test]
fn the_examples_of_the_help_work() {
    let help = Folder::new(&[]).ok(&["tune", "--help"]);
    let folder = Folder::new(&[]);
    let demo = demo("terraces.toml");
    for wish in help.lines().filter_map(|line| line.split("--for '").nth(1)?.split('\'').next()) {
        folder.ok(&["tune", &demo.to_string_lossy(), "--for", wish]);
    }
}

#[test]
fn wishes_that_are_none() {
    let folder = Folder::new(&[("ramp.toml", RAMP), ("none.toml", "seconds = 1.0\n")]);
    for (args, words) in [
        (&["tune", "ramp.toml"][..], "--for"),
        (&["tune", "ramp.toml", "--for", "lagg=3"], "expected one of lag.mean, lag.p95"),
        (&["tune", "ramp.toml", "--for", "lag=x"], "such as lag=40"),
        (&["tune", "ramp.toml", "--for", "lag=-4"], "expected a number, 0 or more"),
        (&["tune", "ramp.toml", "--for", "lag"], "such as lag=40"),
        (&["tune", "none.toml", "--for", "lag=3"], "no subject"),
    ] {
        let output = folder.run(args);
        let message = String::from_utf8_lossy(&output.stderr).into_owned();
        assert_eq!(output.status.code(), Some(2));
        assert!(message.contains(words), "{args:?}: {message}");
    }
}

#[test]
fn completions_and_a_manual() {
    let folder = Folder::new(&[]);
    for shell in ["bash", "zsh", "fish", "powershell", "elvish"] {
        let text = folder.ok(&["completions", shell]);
        for command in ["trace", "film", "compare", "chart", "locate", "tiles", "check", "tune"] {
            assert!(text.contains(command), "{shell}: {command}");
        }
    }
    let manual = folder.ok(&["man", "--quiet"]);
    assert!(
        manual.contains(".TH velvet-pan 1") && manual.contains(".TH velvet-pan-compare 1"),
        "{manual}"
    );
    assert_eq!(folder.run(&["completions", "fsh"]).status.code(), Some(2));
}

/// The installed shells load their scripts; bash completes after a subcommand.
#[test]
fn completions_complete() {
    let folder = Folder::new(&[]);
    let is_here = |shell: &str| std::process::Command::new(shell).arg("--version").output().is_ok();
    for (shell, load) in [
        ("bash", "source"),
        ("zsh", "autoload -U compinit; compinit -D; source"),
        ("fish", "source"),
    ] {
        if !is_here(shell) {
            continue;
        }
        std::fs::write(folder.path().join("script"), folder.ok(&["completions", shell])).unwrap();
        let output = std::process::Command::new(shell)
            .args(["-c", &format!("{load} ./script")])
            .current_dir(folder.path())
            .output()
            .unwrap();
        assert!(output.status.success() && output.stderr.is_empty(), "{shell}: {output:?}");
    }
    if is_here("bash") {
        std::fs::write(folder.path().join("script"), folder.ok(&["completions", "bash"])).unwrap();
        let ask = "source ./script; COMP_WORDS=(velvet-pan trace --f); COMP_CWORD=2; \
            _velvet__pan velvet-pan --f trace; echo ${COMPREPLY[@]}";
        let output = std::process::Command::new("bash")
            .args(["-c", ask])
            .current_dir(folder.path())
            .output()
            .unwrap();
        assert_eq!(String::from_utf8_lossy(&output.stdout).trim(), "--fps --format");
    }
}

#[test]
fn a_folder_to_begin_with() {
    let folder =
        Folder::new(&[("level.csv", "0,-1,2\n3,-1,-1\n"), ("way.csv", "t,x,y\n0,8,8\n2,40,8\n")]);
    folder.ok(&["new", "camera"]);
    let text = folder.ok(&[
        "check",
        "camera/camera.toml",
        "camera/ride.toml",
        "camera/ride.limits.toml",
        "camera/path.csv",
    ]);
    assert!(text.contains("0 faults, 0 warnings"), "{text}");
    folder.ok(&["compare", "camera/ride.toml"]);
    let again = folder.ok(&["new", "camera"]);
    assert_eq!(again.matches("kept").count(), 4, "{again}");
    folder.ok(&["new", "own", "--map", "level.csv", "--tile", "16,16", "--path", "way.csv"]);
    let camera = std::fs::read_to_string(folder.path().join("own/camera.toml")).unwrap();
    assert!(camera.contains("rect = [0.0, 0.0, 48.0, 32.0]"), "{camera}");
    assert!(folder.ok(&["check", "own/ride.toml"]).contains("0 faults"));
    for args in [&["new", "x", "--map", "level.csv"][..], &["new", "x", "--path", "none.csv"]] {
        assert_eq!(folder.run(args).status.code(), Some(2), "{args:?}");
    }
    assert!(!folder.path().join("x").exists());
}

/// Moments by their times, a part of a ride, and a number of its frames.
#[test]
fn a_part_of_a_ride_is_filmed() {
    let folder = Folder::new(&[("ramp.toml", RAMP)]);
    let count = |args: &[&str]| {
        let all =
            ["film", "ramp.toml", "--window", "80x45", "--format", "frames", "--out", "frames"];
        folder.ok(&[&all[..], args].concat());
        std::fs::read_dir(folder.path().join("frames")).unwrap().count()
    };
    assert_eq!(count(&["--from", "1", "--to", "1.5"]), 31);
    assert_eq!(count(&["--frames", "4"]), 4);
    assert_eq!(count(&["--at", "0.5,2"]), 2);
    for args in [
        &["--at", "9"][..],
        &["--from", "3", "--to", "1"],
        &["--from", "-1"],
        &["--at", "1", "--frames", "3"],
    ] {
        let all = ["film", "ramp.toml", "--out", "film.png"];
        assert_eq!(folder.run(&[&all[..], args].concat()).status.code(), Some(2), "{args:?}");
    }
    for format in ["sheet", "apng"] {
        let output = folder.run(&["film", "ramp.toml", "--format", format, "--out", "film.jpg"]);
        let message = String::from_utf8_lossy(&output.stderr).into_owned();
        assert!(message.contains("film.jpg: expected a name that ends in .png"), "{message}");
    }
}

#[test]
fn several_takes_are_filmed_side_by_side() {
    let other = RAMP.replace("seconds = 4.0", "seconds = 2.0");
    let folder = Folder::new(&[
        ("one.toml", RAMP),
        ("other.toml", &other),
        ("slow.toml", &RAMP.replace("60", "30")),
    ]);
    let film = |takes: &[&str]| {
        let args =
            [&["film"], takes, &["--frames", "2", "--window", "160x90", "--out", "film.png"]];
        folder.run(&args.concat())
    };
    assert!(film(&["one.toml", "other.toml"]).status.success());
    assert_eq!(size_of(&folder.path().join("film.png")).0, 2 * 160 + 3 * 14, "two columns");
    let args =
        ["film", "other.toml", "--seconds", "0.1", "--format", "frames", "--window", "160x90"];
    folder.ok(&[&args[..], &["--out", "frames"]].concat());
    let frames = std::fs::read_dir(folder.path().join("frames")).unwrap().count();
    assert_eq!(frames, 7, "0 to 6 of 60 a second");
    assert!(folder.path().join("frames/00006.png").exists());
    let refused = film(&["one.toml", "slow.toml"]);
    assert_eq!(refused.status.code(), Some(2));
    assert!(
        String::from_utf8_lossy(&refused.stderr).contains("differ in window or frames a second")
    );
}
