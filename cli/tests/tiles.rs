//! `tiles`: counts compared with the map itself, in every format.

use crate::tools::{Folder, Numbers, demo, size_of};

fn take() -> String {
    demo("terraces.toml").to_str().unwrap().to_owned()
}

#[test]
fn a_ride_in_every_form() {
    let folder = Folder::new(&[]);
    let args = ["tiles", &take(), "--seconds", "3"];
    let text = folder.ok(&args);
    for word in
        ["181 views in 3 s", "tiles touched", "of these blank", "14400", "skipped", "times as long"]
    {
        assert!(text.contains(word), "no \"{word}\" in {text}");
    }
    let csv = Numbers::read(&folder.ok(&[&args[..], &["--format", "csv"]].concat()));
    let number = |name: &str| csv.column(name)[0];
    assert_eq!((number("views"), number("map")), (181.0, 14_400.0));
    assert!((number("touched_mean") - number("blank_mean") - number("drawn_mean")).abs() < 1e-9);
    assert!((number("saved") - (1.0 - number("drawn_mean") / 14_400.0)).abs() < 1e-12);
    assert!(number("culled_ms") > 0.0 && number("whole_ms") > 0.0);

    // The same counts as the ride's own table.
    let ride = Numbers::read(&folder.ok(&["trace", &take(), "--seconds", "3"]));
    let tiles = ride.column("tiles");
    let mean = tiles.iter().sum::<f64>() / tiles.len() as f64;
    assert!((mean - number("drawn_mean")).abs() < 1e-9);
    assert_eq!(tiles.iter().copied().fold(0.0, f64::max), number("drawn_most"));

    folder.ok(&[&args[..], &["--format", "json", "--out", "tiles.json"]].concat());
    let json = std::fs::read_to_string(folder.path().join("tiles.json")).unwrap();
    let json: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!(json["touched_most"].as_f64(), Some(number("touched_most")));
}

/// One view of a little map, by hand: 4 x 3 tiles of 10, the view 20 x 10 around the middle.
#[test]
fn a_view_counted_by_hand() {
    let take = "map = { file = 'map.csv', tile = [10.0, 10.0] }\n\
                [tuning.screen]\nsize = [20, 10]\nsnap = 'whole'\n\
                [subjects.one]\nkeys = [[0.0, 20.0, 15.0]]\n";
    let folder = Folder::new(&[("take.toml", take), ("map.csv", "1,1,1,1\n1,0,1,1\n1,1,1,1\n")]);
    let counts = |args: &[&str]| {
        let args = [&["tiles", "take.toml", "--format", "csv"], args].concat();
        let csv = Numbers::read(&folder.ok(&args));
        (csv.column("touched_most")[0], csv.column("blank_mean")[0])
    };
    assert_eq!(counts(&["--at", "0"]), (2.0, 1.0));
    assert_eq!(counts(&["--centre", "20,15"]), (2.0, 1.0));
    assert_eq!(counts(&["--centre", "25,15"]), (3.0, 1.0)); // in mid-scroll
    assert_eq!(counts(&["--centre", "20,15", "--zoom", "0.5"]), (12.0, 1.0));
    assert_eq!(counts(&["--centre", "500,15"]), (0.0, 0.0));
    // Turned by a quarter it sees the middle two columns' halves, and all three rows.
    assert_eq!(counts(&["--centre", "15,15", "--rotate", "1.5707963267948966"]).0, 3.0);
}

#[test]
fn the_plan_is_drawn() {
    let folder = Folder::new(&[]);
    let view = ["tiles", &take(), "--centre", "2300,560", "--zoom", "0.6"];
    for (name, turn) in [("upright.png", "0"), ("turned.png", "0.4")] {
        folder.ok(&[&view[..], &["--rotate", turn, "--picture", name]].concat());
        assert_eq!(size_of(&folder.path().join(name)), (1280, 800));
    }
    let text = folder.ok(&[&view[..], &["--rotate", "0.4"]].concat());
    assert!(text.contains("pixel by pixel"), "{text}");
}

#[test]
fn misuse_is_answered() {
    let bare = "[subjects.one]\nkeys = [[0.0, 0.0, 0.0]]\n";
    let folder = Folder::new(&[("bare.toml", bare)]);
    let take = take();
    for (args, words) in [
        (&["tiles", "bare.toml"][..], "has no map"),
        (&["tiles", &take, "--at", "99"], "expected a time of the ride, 0 to 37.783 s"),
        (&["tiles", &take, "--at", "nan"], "expected a time of the ride"),
        (&["tiles", &take, "--centre", "12"], "expected X,Y"),
        (&["tiles", &take, "--centre", "1,inf"], "expected X,Y"),
        (&["tiles", &take, "--centre", "1,2", "--zoom", "0"], "expected 0.000001 to 1000000"),
        (&["tiles", &take, "--centre", "1,2", "--rotate", "inf"], "expected radians"),
        (&["tiles", &take, "--zoom", "2"], "--centre"),
        (&["tiles", &take, "--at", "1", "--centre", "1,2"], "cannot be used with"),
    ] {
        let output = folder.run(args);
        let errors = String::from_utf8_lossy(&output.stderr).into_owned();
        assert_eq!(output.status.code(), Some(2), "{args:?}: {errors}");
        assert!(errors.contains(words), "{args:?}: {errors}");
    }
    assert_eq!(folder.names(), ["bare.toml"]);
}
