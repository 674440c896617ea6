//! Results appear where they are sent, whole or not at all, and never overwrite an input.

use std::fs;
use std::process::{Command as Process, Stdio};

use crate::tools::{Folder, demo};

const TAKE: &str =
    "seconds = 1.0\ntuning = \"camera.toml\"\n[subjects.wren]\npath = \"path.csv\"\n";

fn folder() -> Folder {
    Folder::new(&[
        ("take.toml", TAKE),
        ("camera.toml", "[zoom]\nlevel = 1.0\n"),
        ("path.csv", "t,x,y\n0,0,0\n1,100,0\n"),
    ])
}

fn refused(folder: &Folder, args: &[&str]) -> String {
    let output = folder.run(args);
    assert_eq!(output.status.code(), Some(2), "{args:?}");
    String::from_utf8_lossy(&output.stderr).into_owned()
}

#[test]
fn no_input_is_overwritten() {
    let folder = folder();
    for output in ["take.toml", "camera.toml", "path.csv", "./path.csv"] {
        for args in [
            &["trace", "take.toml", "--out", output][..],
            &["chart", "take.toml", "--out", output],
            &["film", "take.toml", "--out", output],
            &["compare", "take.toml", "--out", output],
            &["tune", "take.toml", "--for", "lag<=90", "--out", output],
        ] {
            let message = refused(&folder, args);
            assert!(message.contains("an input of this command"), "{args:?}: {message}");
        }
    }
    let message = refused(&folder, &["trace", "take.toml", "--out", "a.csv", "--save", "./a.csv"]);
    assert!(message.contains("given for two outputs"), "{message}");
    assert_eq!(folder.names(), ["camera.toml", "path.csv", "take.toml"]);
}

#[test]
fn a_dash_is_standard_input_and_output() {
    let folder = folder();
    let table = folder.ok(&["trace", "take.toml"]);
    assert_eq!(folder.ok(&["trace", "take.toml", "--out", "-"]), table);
    let mut process = Process::new(env!("CARGO_BIN_EXE_velvet-pan"))
        .args(["trace", "-"])
        .current_dir(folder.path())
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .spawn()
        .expect("started");
    std::io::Write::write_all(&mut process.stdin.take().expect("an input"), TAKE.as_bytes())
        .expect("read");
    let output = process.wait_with_output().expect("done");
    assert_eq!(String::from_utf8_lossy(&output.stdout), table);
    assert_eq!(folder.names(), ["camera.toml", "path.csv", "take.toml"]);
}

#[cfg(unix)]
#[test]
fn links_modes_and_devices_stay_what_they_are() {
    use std::os::unix::fs::{PermissionsExt, symlink};
    let folder = folder();
    let place = |name: &str| folder.path().join(name);
    fs::write(place("real.csv"), "old").unwrap();
    fs::set_permissions(place("real.csv"), fs::Permissions::from_mode(0o640)).unwrap();
    symlink("real.csv", place("link.csv")).unwrap();
    symlink("new.csv", place("hanging.csv")).unwrap();
    for name in ["link.csv", "hanging.csv"] {
        folder.ok(&["trace", "take.toml", "--out", name]);
        assert!(fs::symlink_metadata(place(name)).unwrap().is_symlink(), "{name}");
        assert!(fs::read_to_string(place(name)).unwrap().starts_with("t,"), "{name}");
    }
    let mode = |name: &str| fs::metadata(place(name)).unwrap().permissions().mode() & 0o777;
    assert_eq!(mode("real.csv"), 0o640);
    fs::write(place("any"), "").unwrap();
    assert_eq!(mode("new.csv"), mode("any"), "as any other new file");
    folder.ok(&["trace", "take.toml", "--out", "/dev/null"]);
    let message = refused(&folder, &["trace", "take.toml", "--out", "/dev/full"]);
    assert!(message.contains("/dev/full: not written"), "{message}");
    assert!(fs::metadata("/dev/null").unwrap().len() == 0);
}

/// A command that fails, or that is interrupted while it writes, leaves nothing behind.
#[cfg(unix)]
#[test]
fn nothing_is_left_behind() {
    let folder = folder();
    refused(&folder, &["trace", "take.toml", "--out", "no/such/folder.csv"]);
    refused(&folder, &["chart", "take.toml", "--out", "chart.gif"]);
    let before = folder.names();
    let long = ["film", "take.toml", "--seconds", "30", "--window", "640x360", "--format"];
    for (format, out) in [("apng", "long.png"), ("frames", "frames")] {
        let mut film = std::process::Command::new(env!("CARGO_BIN_EXE_velvet-pan"))
            .args(long)
            .args([format, "--out", out])
            .current_dir(folder.path())
            .spawn()
            .expect("runs");
        let began = std::time::Instant::now();
        while folder.names() == before && began.elapsed().as_secs() < 20 {
            std::thread::sleep(std::time::Duration::from_millis(10));
        }
        assert_ne!(folder.names(), before, "it writes under another name");
        let pid = film.id().to_string();
        assert!(
            std::process::Command::new("kill").args(["-INT", &pid]).status().unwrap().success()
        );
        assert_eq!(film.wait().expect("ends").code(), Some(130), "{format}");
        assert_eq!(folder.names(), before, "{format}");
    }
}

/// Two commands that write the same file at once leave the whole file of one of them.
#[test]
fn two_runs_into_one_file_do_not_mix() {
    let folder = folder();
    let trace = |fps: &str| {
        std::process::Command::new(env!("CARGO_BIN_EXE_velvet-pan"))
            .args(["trace", "take.toml", "--seconds", "200", "--fps", fps, "--out", "ride.csv"])
            .current_dir(folder.path())
            .spawn()
            .expect("runs")
    };
    let mut both = [trace("60"), trace("75")];
    assert!(both.iter_mut().all(|one| one.wait().expect("ends").success()));
    let rows = fs::read_to_string(folder.path().join("ride.csv")).expect("a ride").lines().count();
    assert!([12_002, 15_002].contains(&rows), "{rows}");
    assert_eq!(folder.names(), ["camera.toml", "path.csv", "ride.csv", "take.toml"]);
}

#[test]
fn a_shorter_film_leaves_no_frames_of_a_longer_one() {
    let folder = folder();
    let film = |seconds: &str| {
        folder.ok(&[
            "film",
            "take.toml",
            "--format",
            "frames",
            "--window",
            "80x45",
            "--fps",
            "10",
            "--seconds",
            seconds,
            "--out",
            "frames",
        ]);
        fs::read_dir(folder.path().join("frames")).unwrap().count()
    };
    assert_eq!((film("1.0"), film("0.4")), (11, 5));
}

#[test]
fn what_needs_more_memory_than_sense_is_refused() {
    let args = ["film", "take.toml", "--window", "16384x16384", "--out", "film.png"];
    let message = refused(&folder(), &args);
    assert!(message.contains("expected") && message.contains("at most"), "{message}");
}

/// A ride of more rows than a chart keeps.
#[test]
fn a_long_ride_is_charted() {
    let folder = folder();
    folder.ok(&["chart", "take.toml", "--seconds", "1500", "--out", "long.svg"]);
    let text = fs::read_to_string(folder.path().join("long.svg")).unwrap();
    assert!(text.contains("every four seconds") && text.len() < 20_000_000, "{}", text.len());
}

#[cfg(target_os = "linux")]
#[test]
fn a_full_standard_error_is_no_panic() {
    let full = fs::OpenOptions::new().write(true).open("/dev/full").unwrap();
    let status = Process::new(env!("CARGO_BIN_EXE_velvet-pan"))
        .args(["trace", "none.toml"])
        .stderr(full)
        .status()
        .expect("ran");
    assert_eq!(status.code(), Some(2));
}

#[test]
fn a_ride_is_resumed_in_its_own_take_only() {
    let folder = folder();
    folder.ok(&["trace", "take.toml", "--seconds", "0.5", "--save", "half.json", "--out", "a.csv"]);
    folder.ok(&["trace", "take.toml", "--resume", "half.json"]);
    let message = refused(&folder, &["trace", "take.toml", "--resume", "half.json", "--fps", "30"]);
    assert!(message.contains("60 frames a second, this one 30"), "{message}");
    fs::write(folder.path().join("path.csv"), "t,x,y\n0,0,0\n1,101,0\n").unwrap();
    let message = refused(&folder, &["trace", "take.toml", "--resume", "half.json"]);
    assert!(message.contains("belongs to another take"), "{message}");
}

#[test]
fn settings_are_explained() {
    let folder = Folder::new(&[]);
    let text = folder.ok(&["settings", "zoom.half_life"]);
    assert_eq!(text.lines().count(), 3, "{text}");
    assert!(text.starts_with("[zoom]\n  half_life") && text.contains("default 0.15"), "{text}");
    assert!(folder.ok(&["settings", "turn_after"]).starts_with("[follow.look_ahead]"));
    assert!(folder.ok(&["settings"]).lines().count() > 100);
    let message = refused(&folder, &["settings", "zoom.half_live"]);
    assert!(message.contains("did you mean \"zoom.half_life\"?"), "{message}");
    let schema = fs::read_to_string(demo("../../docs/tuning.schema.json")).unwrap();
    assert_eq!(folder.ok(&["settings", "--format", "json-schema"]), schema);
    let page = fs::read_to_string(demo("../../docs/settings.md")).unwrap();
    assert!(page.contains(folder.ok(&["settings", "--format", "markdown"]).trim()));
}

/// A fault in a change names the change and its key.
#[test]
fn changes_are_blamed_by_name() {
    let demo = demo("terraces.toml");
    let demo = demo.to_string_lossy();
    let folder = Folder::new(&[]);
    for (change, words) in [
        ("zoom.levl=2", "zoom.levl: unknown key \"levl\": did you mean \"level\"?"),
        ("zoom={level=-1}", "zoom: level: -1 is not possible"),
        ("zoom.level=-1", "zoom.level: -1 is not possible"),
        ("zoom.level=abc", "zoom.level: \"abc\": expected a zoom, from 0.000001 to 1000000"),
        ("follow.anchor=[1,2,3]", "follow.anchor: a list of 3"),
        ("follow=3", "follow: 3: expected a table of settings"),
        ("follow.airborne=2", "follow.airborne: 2: expected one of \"follow\", \"hold\""),
        ("zoom.range=1", "zoom.range: 1: expected the smallest and the largest zoom"),
        ("follow.leash={}", "follow.leash: a table: expected two fractions of the screen"),
        ("screen.size=[1.5,3]", "screen.size: 0: 1.5: expected a whole number"),
    ] {
        let message = refused(&folder, &["trace", &demo, "--set", change]);
        assert!(message.contains(&format!("--set {words}")), "{change}: {message}");
        let message = refused(&folder, &["compare", &demo, "--try", change]);
        assert!(message.contains(&format!("--try {words}")), "{change}: {message}");
    }
}
