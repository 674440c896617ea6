//! For any bad input: exit 2, one clear message, no panic, no file left behind.

use crate::tools::Folder;

const TAKE: &str = "tuning = \"tuning.toml\"\nmap = { file = \"map.csv\", tile = [16.0, 16.0] }\n\
watch = [\"courier\"]\n[subjects.courier]\npath = \"path.csv\"\n";
const TUNING: &str = "[follow]\nanchor = [0.5, 0.5]\n";
const MAP: &str = "0,1,2\n0,1,2\n";
const PATH: &str = "t,x,y\n0,10,10\n1,20,10\n";

/// A folder in which one file differs from a good take.
fn with(name: &str, text: &str) -> Folder {
    let good = [("take.toml", TAKE), ("tuning.toml", TUNING), ("map.csv", MAP), ("path.csv", PATH)];
    Folder::new(&good.map(|(file, good)| (file, if file == name { text } else { good })))
}

/// The message of a refused command. Nothing may have been written.
fn refused(folder: &Folder, args: &[&str]) -> String {
    let before = folder.names();
    let output = folder.run(args);
    let message = String::from_utf8_lossy(&output.stderr).into_owned();
    assert_eq!(output.status.code(), Some(2), "{args:?}: {message}");
    assert!(output.stdout.is_empty(), "{args:?} wrote to standard output");
    assert!(!message.contains("panicked"), "{message}");
    assert_eq!(folder.names(), before, "{args:?} left a file");
    message
}

fn expect(name: &str, text: &str, words: &[&str]) {
    let folder = with(name, text);
    for args in [
        &["trace", "take.toml", "--out", "ride.csv"][..],
        &["film", "take.toml", "--out", "film.png"][..],
    ] {
        let message = refused(&folder, args);
        assert_eq!(message.lines().count(), 1, "{message}");
        for word in words {
            assert!(message.contains(word), "no \"{word}\" in: {message}");
        }
    }
    let output = folder.run(&["check", "take.toml", name]);
    let found = String::from_utf8_lossy(&output.stdout).into_owned();
    assert_eq!(output.status.code(), Some(1), "{found}");
    assert!(words.iter().all(|word| found.contains(word)), "not {words:?} in: {found}");
}

#[test]
fn a_good_take_is_taken() {
    let folder = with("", "");
    folder.ok(&["trace", "take.toml"]);
    folder.ok(&["film", "take.toml", "--out", "film.png", "--window", "320x180"]);
}

#[test]
fn faults_of_layers() {
    let far = "[[layers]]\nname = \"far\"\n";
    let cases: [(&str, &[&str]); 6] = [
        ("rat = [0.2, 0.2]", &["tuning.toml:3:1: layers.0.rat", "did you mean \"rate\"?"]),
        ("rate = [0.2]", &["tuning.toml:3:1: layers.0.rate"]),
        ("rate = [0.2, 200.0]", &["tuning.toml:3:1: layers.0.rate", "from -100 to 100"]),
        ("shake = \"hole\"", &["tuning.toml:3:", "did you mean \"whole\"?"]),
        ("cover = [320.0, 200.0]", &["tuning.toml:3:1: layers.0.cover", "expected bounds"]),
        ("repeat = [nan, 0.0]", &["tuning.toml:3:1: layers.0.repeat", "0 or more"]),
    ];
    for (line, words) in cases {
        expect("tuning.toml", &format!("{far}{line}\n"), words);
    }
    let folder = with("tuning.toml", far);
    let message = |change: &str| refused(&folder, &["trace", "take.toml", "--set", change]);
    assert!(message("layers.1.rate=[1.0, 1.0]").contains("a list of 1: expected a number from 0"));
    assert!(message("layers.rate=[1.0, 1.0]").contains("such as layers.0.key=value"));
    assert!(message("layers.0.rate=[1e9, 1.0]").contains("--set layers.0.rate"));
    folder.ok(&["trace", "take.toml", "--set", "layers.0.rate=[0.5, 0.5]"]);
}

#[test]
fn faults_of_a_tuning() {
    let cases: [(&str, &[&str]); 24] = [
        ("[shake]\nintensity = 2", &["tuning.toml:2:1: shake.intensity", "from 0 to 1"]),
        (
            "[cues.gong]\nshake = { reach = [1.0, -1.0] }",
            &["tuning.toml:2:", "cues.gong.shake.reach", "0 to 10000"],
        ),
        ("[cues.gong]\nshake = { hz = nan }", &["tuning.toml:2:", "cues.gong.shake.hz"]),
        (
            "[cues.gong]\nshake = { motion = \"rattel\" }",
            &["tuning.toml:2:", "did you mean \"rattle\"?"],
        ),
        (
            "[cues.gong]\nnone_beyond = 0.1",
            &["tuning.toml:2:1: cues.gong.none_beyond", "above full_within"],
        ),
        ("[cues.gong]\nshak = {}", &["tuning.toml:2:", "did you mean \"shake\"?"]),
        ("[follow\n", &["tuning.toml:1:"]),
        (
            "[follow]\nanchr = [0.5, 0.5]",
            &["tuning.toml:2:1: follow.anchr", "did you mean \"anchor\"?"],
        ),
        ("[folow]\nanchor = [0.5, 0.5]", &["tuning.toml:1:", "did you mean \"follow\"?"]),
        ("[follow]\n\nanchor = 0.5", &["tuning.toml:3:", "follow.anchor"]),
        ("[follow]\nanchor = [0.5]", &["tuning.toml:2:", "follow.anchor"]),
        (
            "[follow]\nanchor = [0.5, 1.5]",
            &["tuning.toml:2:1: follow.anchor", "[0.5, 1.5]", "from 0 to 1"],
        ),
        ("[follow]\nanchor = [nan, 0.5]", &["tuning.toml:2:1: follow.anchor", "from 0 to 1"]),
        ("[follow]\noffset = [0.0, inf]", &["tuning.toml:2:1: follow.offset", "finite"]),
        (
            "[follow]\nsmoothing = { half_life = -1 }",
            &["tuning.toml:2:1: follow.smoothing", "-1", "from 0"],
        ),
        ("[follow]\nsmoothing = \"nome\"", &["tuning.toml:2:", "did you mean \"none\"?"]),
        ("[follow]\naxes = \"z\"", &["tuning.toml:2:", "follow.axes", "both"]),
        ("[screen]\nsize = [0, 180]", &["tuning.toml:2:1: screen.size", "from 1 to 65536"]),
        ("[screen]\nsize = [-5, 180]", &["tuning.toml:2:", "screen.size"]),
        ("[screen]\nunit_pixels = 0", &["tuning.toml:2:1: screen.unit_pixels"]),
        ("[screen]\nsnap = 3", &["tuning.toml:2:", "screen.snap"]),
        ("[bounds]\nrect = [0, 0, 5]", &["a list of 3: expected x, y, width and height"]),
        ("[bounds]\nrect = [0, 0, -5, 10]", &["tuning.toml:2:1: bounds.rect", "above 0"]),
        ("[zoom]\nlevel = nan", &["tuning.toml:2:1: zoom.level", "NaN"]),
    ];
    for (text, words) in cases {
        expect("tuning.toml", text, words);
    }
}

#[test]
fn faults_of_a_take() {
    let changed = |from: &str, to: &str| TAKE.replace(from, to);
    let cases: [(String, &[&str]); 18] = [
        (
            TAKE.to_owned() + "[[events]]\nat = 1\ncue = \"gong\"\n",
            &["take.toml:8:1: events.0.cue", "no cue \"gong\"", "none"],
        ),
        (
            changed("tuning.toml", "gone.toml"),
            &["take.toml:1:1: tuning", "gone.toml", "no such file"],
        ),
        (changed("map.csv", "gone.csv"), &["take.toml:2:", "map.file", "gone.csv", "no such file"]),
        (
            changed("path.csv", "gone.csv"),
            &["take.toml:5:", "subjects.courier.path", "no such file"],
        ),
        (changed("[16.0, 16.0]", "[0.0, 16.0]"), &["take.toml:2:", "map.tile", "above 0"]),
        (changed("[16.0, 16.0]", "[nan, 16.0]"), &["take.toml:2:", "map.tile"]),
        (changed("[\"courier\"]", "[\"corier\"]"), &["take.toml:3:1: watch", "corier", "courier"]),
        (changed("watch", "wach"), &["take.toml:3:", "did you mean \"watch\"?"]),
        (changed("path =", "pth ="), &["take.toml:5:", "did you mean \"path\"?"]),
        ("seconds = -1\n".to_owned() + TAKE, &["take.toml:1:1: seconds", "-1"]),
        ("seconds = nan\n".to_owned() + TAKE, &["take.toml:1:1: seconds", "NaN"]),
        ("fps = 0\n".to_owned() + TAKE, &["take.toml:1:1: fps", "expected"]),
        ("fps = inf\n".to_owned() + TAKE, &["take.toml:1:1: fps"]),
        ("window = [99999, 5]\n".to_owned() + TAKE, &["take.toml:1:1: window", "16384"]),
        (TAKE.to_owned() + "[[events]]\nat = nan\n", &["take.toml:7:1: events.0.at", "NaN"]),
        (
            TAKE.to_owned() + "[[events]]\nat = 2\n[[events]]\nat = 1\n",
            &["take.toml:9:1: events.1.at", "2 or later"],
        ),
        (TAKE.to_owned() + "[[events]]\nat = 1\nzoom = 0\n", &["take.toml:", "zoom"]),
        (
            TAKE.to_owned() + "[[events]]\nat = 1\nwach = [\"courier\"]\n",
            &["take.toml:8:", "did you mean \"watch\"?"],
        ),
    ];
    for (text, words) in cases {
        expect("take.toml", &text, words);
    }
}

#[test]
fn faults_of_a_map() {
    let cases: [(&str, &[&str]); 6] = [
        ("", &["map.csv", "no tiles"]),
        ("0,1,2\n0,1\n", &["map.csv:2:4", "2 tiles", "expected 3"]),
        ("0,1\n0,1,2\n", &["map.csv:2:5", "3 tiles", "expected 2"]),
        ("0,1,2\n0,x,2\n", &["map.csv:2:3", "\"x\"", "0 (blank) to 65535"]),
        ("0,1,2\n0,-1,2\n", &["map.csv:2:3", "blank = -1"]),
        ("0,1,2\n0,1,70000\n", &["map.csv:2:5", "70000 is not a tile number"]),
    ];
    for (text, words) in cases {
        expect("map.csv", text, words);
    }
}

#[test]
fn faults_of_a_path() {
    let cases: [(&str, &[&str]); 11] = [
        ("", &["path.csv", "empty: expected t, x and y"]),
        ("t,x,y\n", &["path.csv", "no rows"]),
        ("x,y\n0,1\n", &["path.csv:1:1", "no column \"t\" in \"x,y\""]),
        ("0,1,2\n1,2,3\n", &["path.csv:1:1", "no column \"t\""]),
        ("t,x,y\n0,1\n", &["path.csv:2", "2 fields", "expected 3"]),
        ("t,x,y\n0,1,1\n0,2,2\n", &["path.csv:3", "time 0 repeated"]),
        ("t,x,y\n1,1,1\n0.5,2,2\n", &["path.csv:3", "0.5 after 1", "in order"]),
        ("t,x,y\n0,nan,1\n", &["path.csv:2", "finite"]),
        ("t,x,y\n0,1,inf\n", &["path.csv:2", "finite"]),
        ("t,x,y\n0,one,1\n", &["path.csv:2:3: x", "\"one\""]),
        ("t,x,y,grounded\n0,1,1,maybe\n", &["path.csv:2:7: grounded", "\"maybe\""]),
    ];
    for (text, words) in cases {
        expect("path.csv", text, words);
    }
}

#[test]
fn faults_of_keys() {
    let take = |keys: &str| format!("[subjects.kite]\nkeys = {keys}\n");
    for (keys, words) in [
        ("[]", ["take.toml:2:1: subjects.kite.keys", "at least one"]),
        ("[[0, 1, nan]]", ["take.toml:2:1: subjects.kite.keys", "key 1"]),
        ("[[0, 1, 1], [0, 2, 2]]", ["take.toml:2:1: subjects.kite.keys", "key 2"]),
        ("[[0, 1]]", ["take.toml:2:", "subjects.kite.keys"]),
    ] {
        expect("take.toml", &take(keys), &words);
    }
    expect("take.toml", "[subjects.kite]\n", &["take.toml:1:", "subjects.kite", "path or keys"]);
}

#[test]
fn faults_of_the_command_line() {
    let folder = with("", "");
    let cases: [(&[&str], &str); 11] = [
        (&["trace", "gone.toml"], "gone.toml: no such file"),
        (&["trace", "."], "folder"),
        (&["trace", "take.toml", "--fps", "0"], "--fps"),
        (&["trace", "take.toml", "--seconds", "-2"], "--seconds"),
        (&["trace", "take.toml", "--set", "follow.anchr=[0,0]"], "did you mean \"anchor\"?"),
        (&["trace", "take.toml", "--set", "follow.anchor=[0,9]"], "--set"),
        (&["trace", "take.toml", "--set", "anchor"], "key=value"),
        (&["trace", "take.toml", "--out", "no/such/folder/ride.csv"], "no such file"),
        (&["film", "take.toml", "--out", "film.png", "--window", "0x5"], "WIDTHxHEIGHT"),
        (&["film", "take.toml", "--out", "film.png", "--frames", "0"], "--frames"),
        (&["fly"], "fly"),
    ];
    for (args, word) in cases {
        let message = refused(&folder, args);
        assert!(message.contains(word), "{args:?}: no \"{word}\" in: {message}");
    }
}

#[test]
fn files_that_are_no_text() {
    let folder = with("", "");
    std::fs::write(folder.path().join("path.csv"), b"t,x,y\n0,\xff\xfe,1\n").unwrap();
    let message = refused(&folder, &["trace", "take.toml"]);
    assert!(message.contains("path.csv:2") && message.contains("UTF-8"), "{message}");
}

#[test]
fn a_minimised_window_is_traced_but_not_filmed() {
    let folder = with("take.toml", &format!("window = [0, 0]\n{TAKE}"));
    folder.ok(&["trace", "take.toml"]);
    let message = refused(&folder, &["film", "take.toml", "--out", "film.png"]);
    assert!(message.contains("0 x 0"), "{message}");
}

/// Faults of the text itself are told in the words of people.
#[test]
fn what_is_not_toml() {
    for (text, words) in [
        ("fps = 3\nfps = 4", "take.toml:2:1: \"fps\" twice: expected each key and each table once"),
        ("[tuning]\n[tuning]", "take.toml:2:2: \"tuning\" twice"),
        ("fps = ", "take.toml:1:7: no value: expected one after the ="),
        (
            "fps = slow",
            "take.toml:1:7: \"slow\": expected a text in quotes, a number, true or false",
        ),
        ("fps = fast", "take.toml:1:7: neither true nor false: expected quotes around a text"),
        ("fps = 6__0", "take.toml:1:8: not TOML: \"_\" may only go between digits"),
    ] {
        let folder = Folder::new(&[("take.toml", text)]);
        let message = refused(&folder, &["trace", "take.toml"]);
        assert!(message.contains(words), "{text}: {message}");
        for word in ["literal", "u64", "enum", "expected nothing", "elements"] {
            assert!(!message.contains(word), "{text}: {message}");
        }
    }
    let folder = Folder::new(&[("take.toml", "seconds = 1.0")]);
    let message = refused(&folder, &["trace", "take.toml", "--set", "follow..smoothing=1"]);
    assert!(message.contains("expected names with a dot between"), "{message}");
}

/// All faults of a file of limits at their lines; and no output over it.
#[test]
fn faults_of_limits() {
    let take = "seconds = 1.0\n[subjects.wren]\nkeys = [[0.0, 0.0, 0.0]]\n";
    let limits = "lag.worst = \"much\"\n\nspeed = 3\nlag.mean = -1\n";
    let folder = Folder::new(&[("take.toml", take), ("take.limits.toml", limits)]);
    let text = String::from_utf8(folder.run(&["check", "take.limits.toml"]).stdout).expect("text");
    for words in [
        "take.limits.toml:1:5: lag.worst: \"much\": expected a number",
        "take.limits.toml:3:1: speed: no figure \"speed\"",
        "take.limits.toml:4:5: lag.mean: -1 is not possible: expected a number, 0 or more",
        "3 faults",
    ] {
        assert!(text.contains(words), "no {words} in {text}");
    }
    for args in [&["compare"][..], &["trace"], &["tune", "--for", "lag<=30"]] {
        let args = [args, &["take.toml", "--out", "take.limits.toml"]].concat();
        assert!(refused(&folder, &args).contains("an input of this command"), "{args:?}");
    }
}

#[test]
fn faults_of_places_and_cameras() {
    let path = "[subjects.wren]\nkeys = [[0.0, 0.0, 0.0]]\n";
    let cases: [(&str, &[&str]); 13] = [
        ("[cameras.main]\naim = [0.0, 0.0]", &["take.toml:3:", "cameras.main", "another name"]),
        ("[cameras.far]\nwatch = [\"kite\"]", &["cameras.far.watch", "no subject \"kite\""]),
        ("[cameras.far]\naim = [nan, 0.0]", &["cameras.far.aim", "a world point"]),
        ("[cameras.far.tuning.zoom]\nlevel = 9", &["cameras.far.tuning.zoom.level", "0.5 to 4"]),
        ("[cameras.far]\ntuning = \"none.toml\"", &["cameras.far.tuning", "no such file"]),
        (
            "[[events]]\nat = 0.0\ncamera = \"fra\"",
            &["events.0", "no camera \"fra\": expected one of main"],
        ),
        (
            "[[events]]\nat = 0.0\nwatch = [\"wren\", \"kite\"]",
            &["events.0", "no subject \"kite\""],
        ),
        ("[tuning.rooms]\nsize = [0.0, 9.0]", &["tuning.rooms.size", "0.001 or more"]),
        ("[tuning.rooms]\nlist = [[0.0, 0.0, 9.0]]", &["take.toml:4:"]),
        ("[tuning.rail]\npoints = [[0.0, 0.0]]", &["tuning.rail.points", "two points or more"]),
        ("[[tuning.lures]]\nat = [0.0, 0.0]\nradius = -1.0", &["tuning.lures.0.radius", "above 0"]),
        ("[[tuning.zones]]\nrect = [0.0, 0.0, 9.0, 9.0]\nzom = 2.0", &["did you mean \"zoom\"?"]),
        ("[tuning.zoom]\nrange = [2.0, 1.0]", &["tuning.zoom.range", "the smallest zoom first"]),
    ];
    for (text, words) in cases {
        expect("take.toml", &format!("{path}{text}\n"), words);
    }
    for field in ["weight = -1.0", "margin = nan"] {
        let place = "take.toml:3:1: subjects.wren.";
        expect("take.toml", &format!("{path}{field}\n"), &[place, "0 or more"]);
    }
}
