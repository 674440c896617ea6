//! For any input, the command returns a result or a clear error, and leaves nothing behind.

use crate::tools::Folder;

const WALK: &str = "[subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [2.0, 200.0, 0.0]]\n";

/// Runs the command on these files, and checks what must always hold.
fn survives(files: &[(&str, &str)], args: &[&str]) {
    let folder = Folder::new(files);
    let output = folder.run(args);
    let told = |bytes: &[u8]| String::from_utf8_lossy(bytes).into_owned();
    let (text, errors) = (told(&output.stdout), told(&output.stderr));
    let about = format!("{args:?} on {files:?}: {errors}");
    assert!(matches!(output.status.code(), Some(0..=2)), "{about}");
    assert!(!errors.contains("panicked"), "{about}");
    // A fault may name such a number; a result has none.
    let is_result = args[0] != "check";
    let odd = ["NaN", ",inf", ",-inf"].into_iter().any(|word| text.contains(word));
    assert!(!(is_result && odd), "{about}");
    let is_long = |word: &str| word.len() > 60 && word.bytes().all(|byte| byte.is_ascii_digit());
    assert!(!errors.split_whitespace().any(is_long), "{about}");
    let left: Vec<String> =
        folder.names().into_iter().filter(|name| name.starts_with('.')).collect();
    assert!(left.is_empty(), "{left:?}: {about}");
}

#[test]
fn any_setting() {
    let keys = [
        "follow.anchor",
        "follow.offset",
        "screen.size",
        "zoom.range",
        "bounds.rect",
        "follow.leash",
    ];
    let values = [
        "nan",
        "inf",
        "1e308",
        "-1",
        "[]",
        "[1]",
        "[nan,nan]",
        "[1e308,1e308]",
        "[1,2,3,4,5]",
        "x",
        "true",
        "{}",
    ];
    for key in keys {
        for value in values {
            survives(&[("t.toml", WALK)], &["trace", "t.toml", "--set", &format!("{key}={value}")]);
        }
    }
}

#[test]
fn any_rate_and_length() {
    for option in ["fps", "seconds", "from", "to"] {
        let command = if ["fps", "seconds"].contains(&option) { "trace" } else { "compare" };
        for value in ["nan", "inf", "-inf", "1e308", "-1e308", "1e-308", "0", "-0.0", "-1", "1e999"]
        {
            survives(&[("t.toml", WALK)], &[command, "t.toml", &format!("--{option}={value}")]);
        }
    }
}

#[test]
fn any_map() {
    let take = format!("map = {{ file = \"m.csv\", tile = [16.0, 16.0] }}\n{WALK}");
    for map in [
        "",
        "\n",
        "\n\n\n",
        ",",
        ";;;\n",
        ",,,\n,,,\n",
        "1\t2\n3",
        "1,2;3\n",
        "\u{feff}",
        "a",
        "0x10\n",
        "1e3\n",
        "1.5\n",
        "-1\n",
        "99999999999999999999\n",
        "\"1,2\n",
        "1,2\r3,4\r",
        "\0\n",
        "1,2\n3,4\n5",
    ] {
        survives(&[("m.csv", map), ("t.toml", &take)], &["tiles", "t.toml"]);
        survives(&[("m.csv", map)], &["check", "m.csv"]);
    }
}

#[test]
fn any_path() {
    let take = "[subjects.wren]\npath = \"p.csv\"\n";
    for path in [
        "",
        "t,x,y",
        "t,x,y\n",
        "t,x,y\n1,2",
        "x,y,t\n0,0,0",
        "t,t,x,y\n0,1,2,3",
        "t,x,y,cut\n0,0,0,1\n1,1e12,0,1\n",
        "t,x,y\n1e308,0,0\n",
        "t,x,y\n-5,0,0\n-4,1,0\n",
        "t;x;y\n0;0,5;1\n",
        "\"t\",\"x\",\"y\"\n\"0\",\"1\",\"2\"\n",
        "t,x,y\n0,0,0\n1e-300,1,1\n",
        "t,x,y\n0,1e12,-1e12\n1,-1e12,1e12\n",
    ] {
        survives(&[("p.csv", path), ("t.toml", take)], &["trace", "t.toml"]);
        survives(&[("p.csv", path), ("t.toml", take)], &["compare", "t.toml", "--format", "json"]);
        survives(&[("p.csv", path)], &["check", "p.csv"]);
    }
}

#[test]
fn any_event() {
    for event in [
        "at = nan",
        "at = 1e308",
        "at = 0\nzoom = 1e300",
        "at = 0\nnotches = 1e300",
        "at = 0\npan = [1e30, 1e30]",
        "at = 0\nshow = [0, 0, 1e300, 1e300]",
        "at = 0\nbounds = [0, 0, 1e-300, 1e-300]",
        "at = 0\nrotate = 1e300",
        "at = 0\nshake = 1e300",
        "at = 0\nshake = -1",
        "at = 0\nwindow = [0, 0]",
        "at = 0\nwindow = [1, 16384]",
        "at = 0\nglide = 1e300",
        "at = 0\naim = [1e300, 0]\ncut = true",
        "at = 0\nwatch = []",
        "at = 0\ncamera = \"main\"\nglide = 0.5",
    ] {
        let take = format!("{WALK}[[events]]\n{event}\n");
        survives(&[("t.toml", &take)], &["trace", "t.toml"]);
        survives(&[("t.toml", &take)], &["compare", "t.toml", "--format", "csv"]);
        let film = ["film", "t.toml", "--frames", "2", "--window", "40x30", "--out", "x.png"];
        survives(&[("t.toml", &take)], &film);
    }
}

#[test]
fn any_limit_and_wish() {
    for limits in [
        "lag.worst=nan",
        "lag=3",
        "lost=\"x\"",
        "x=1",
        "[lag]\nworst=1e999",
        "lag.worst=[1]",
        "\u{feff}lost=0",
        "lost=0\nlost=1",
    ] {
        survives(&[("t.toml", WALK), ("t.limits.toml", limits)], &["compare", "t.toml"]);
        survives(&[("t.limits.toml", limits)], &["check", "t.limits.toml"]);
    }
    for wish in [
        "lag<0",
        "lag<=",
        "lag>=x",
        "<=3",
        "lag==3",
        "lag<=3,settle",
        "lag=1e308",
        "lag<=1e-300",
        ",",
        "lost>=1",
    ] {
        survives(&[("t.toml", WALK)], &["tune", "t.toml", "--rides", "12", "--for", wish]);
    }
}

#[test]
fn any_file() {
    let deep =
        ["[".repeat(4000), format!("a={}", "[".repeat(3000)), format!("{}b=1", "a.".repeat(2000))];
    let files = ["\0".repeat(1000), "=".into(), "[[events]]".into(), "seconds".into()];
    for text in deep.iter().chain(&files) {
        for command in ["trace", "check", "compare"] {
            survives(&[("t.toml", text)], &[command, "t.toml"]);
        }
    }
    for command in
        ["trace", "chart", "film", "compare", "check", "tiles", "locate", "tune", "new", "settings"]
    {
        for argument in ["none", "/", "/dev/null", ".", "--", ""] {
            survives(&[("t.toml", WALK)], &[command, argument]);
        }
    }
}
