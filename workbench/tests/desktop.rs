//! The program in a real window of a virtual screen, with a real keyboard and pointer.
//!
//! It needs `Xvfb` and `xdotool`. Without them it is skipped, unless `VELVET_PAN_CARD=required`.

use std::fs;
use std::path::{Path, PathBuf};
use std::process::Command;

use velvet_pan_takes::Take;

/// Starts the program on a tuning, runs, drags the slider of the time to settle, saves, and writes a picture and the
/// ride. Waits for results, not for a time.
const SCRIPT: &str = r#"
"$WORKBENCH" courier.toml > log.txt 2>&1 &
program=$!
trap 'kill $program' EXIT
for _ in $(seq 150); do
  window=$(xdotool search --onlyvisible --name "Velvet Pan" | head -1)
  [ -n "$window" ] && xdotool windowmove "$window" 0 0 windowfocus "$window"
  [ -n "$window" ] && [ "$(xdotool getwindowfocus)" = "$window" ] && break
  sleep 0.2
done
sleep 2
until_there() { for _ in $(seq 60); do [ -e "$1" ] && return; sleep 0.2; done; }
xdotool keydown Right
sleep 3
xdotool keyup Right
xdotool mousemove 1034 317 sleep 0.5 mousedown 1 sleep 0.5
for x in 1040 1050 1060 1070 1080; do xdotool mousemove $x 317; sleep 0.3; done
xdotool mouseup 1
sleep 1
xdotool key ctrl+s
xdotool key p
xdotool key i
until_there wren-1.png
# A slow window may miss a click.
for _ in $(seq 5); do
  xdotool mousemove 652 12 sleep 0.5 mousedown 1 sleep 0.3 mouseup 1
  until_there wren-ride-1/take.toml
  [ -e wren-ride-1/take.toml ] && break
done
"#;

fn is_installed(program: &str) -> bool {
    Command::new("which").arg(program).output().is_ok_and(|answer| answer.status.success())
}

/// As the picture's test shows the window: the slider of the time to settle is at 1034, 317.
fn use_the_program(folder: &Path) {
    let program = PathBuf::from(env!("CARGO_BIN_EXE_velvet-pan-workbench"));
    let status = Command::new("xvfb-run")
        .args(["-a", "-s", "-screen 0 1280x800x24", "bash", "-c", SCRIPT])
        .current_dir(folder)
        .env("WORKBENCH", program)
        .status()
        .expect("a virtual screen");
    let log = fs::read_to_string(folder.join("log.txt")).unwrap_or_default();
    assert!(status.success(), "{status}: {log}");
}

#[test]
fn a_person_runs_drags_a_slider_and_saves() {
    if !["xvfb-run", "xdotool"].into_iter().all(is_installed) {
        let required = std::env::var("VELVET_PAN_CARD").is_ok_and(|value| value == "required");
        assert!(!required, "Xvfb and xdotool are needed");
        eprintln!("passed over: no Xvfb and xdotool");
        return;
    }
    let folder = tempfile::tempdir().expect("a folder");
    let own = concat!(env!("CARGO_MANIFEST_DIR"), "/../terraces/demo/courier.toml");
    fs::copy(own, folder.path().join("courier.toml")).expect("copied");
    use_the_program(folder.path());

    let own = fs::read_to_string(own).expect("the demo's tuning");
    let saved = fs::read_to_string(folder.path().join("courier.toml")).expect("a tuning");
    let changed: Vec<&str> =
        saved.lines().zip(own.lines()).filter(|(a, b)| a != b).map(|(a, _)| a).collect();
    assert_eq!(changed.len(), 1, "{changed:?}");
    assert!(changed[0].starts_with("smoothing = { settle = "), "{}", changed[0]);

    let take = Take::open(folder.path().join("wren-ride-1/take.toml")).expect("a take");
    let path = &take.subjects["courier"].path;
    let ran = path.position(take.seconds).x - path.position(0.0).x;
    // Three seconds at 132 units a second, and the picture may be slow.
    assert!((20.0..800.0).contains(&ran), "Wren ran {ran} units");

    let file = fs::File::open(folder.path().join("wren-1.png")).expect("a picture");
    let picture = png::Decoder::new(std::io::BufReader::new(file)).read_info().expect("a PNG");
    let (width, height) = (picture.info().width, picture.info().height);
    assert!((900..=1000).contains(&width) && (500..=600).contains(&height), "{width} x {height}");
}
