//! Files from other programs, and takes with more than one fault.

use std::fs;
use std::path::Path as FilePath;

use velvet_pan::glam::DVec2;
use velvet_pan_takes::{Document, Files, Map, MapForm, Overrides, Path, Run, Take};

fn map(text: &str, blank: i64) -> Result<(u32, Vec<u16>), String> {
    let form = MapForm { blank, ..MapForm::new([16.0, 16.0]) };
    let map =
        Map::parse(FilePath::new("map.csv"), text, &form).map_err(|fault| fault.to_string())?;
    Ok((map.grid().columns(), map.numbers().to_vec()))
}

fn path(text: &str) -> Result<Path, String> {
    Path::parse(FilePath::new("path.csv"), text).map_err(|fault| fault.to_string())
}

#[test]
fn maps_of_many_forms_are_the_same_map() {
    let plain = map("1,0,2\n3,4,0\n", 0).expect("a map");
    assert_eq!(plain, (3, vec![1, 0, 2, 3, 4, 0]));
    for (text, blank) in [
        ("1,0,2,\n3,4,0,\n", 0),
        ("1;0;2\n3;4;0\n", 0),
        ("1\t0\t2\n3\t4\t0\n", 0),
        ("\u{feff}1,0,2\r\n3,4,0\r\n", 0),
        ("1,,2\n3,4,\n", 0),
        ("1,,2,\n3,4,,\n", 0),
        (" 1, 0, 2 \n\n 3, 4, 0 \n", 0),
        ("\"1\",\"0\",\"2\"\n3,4,0\n", 0),
        ("0,-1,1\n2,3,-1\n", -1),
        ("0,-1,1,\n2,3,,\n", -1),
    ] {
        assert_eq!(map(text, blank), Ok(plain.clone()), "{text:?}");
    }
    // Flipped along each axis and the diagonal.
    let text = "2147483649,0,1073741826\n536870915,4,3758096384\n";
    let form = MapForm { number_bits: Some(29), ..MapForm::new([16.0, 16.0]) };
    let flipped = Map::parse(FilePath::new("map.csv"), text, &form).expect("a map");
    assert_eq!(flipped.numbers(), plain.1);
}

#[test]
fn what_is_no_map_is_told() {
    for (text, blank, words) in [
        ("1,2\n3\n", 0, "map.csv:2:2: 1 tiles in this row: expected 2, as in line 1"),
        (
            "1,-1\n",
            0,
            "map.csv:1:3: -1 is not a tile number: if it is a blank tile, say blank = -1",
        ),
        ("1,x\n", 0, "map.csv:1:3: \"x\" is not a tile number"),
        ("1,70000\n", 0, "map.csv:1:3: 70000 is not a tile number: expected 0 (blank) to 65535"),
        ("1,65535\n", -1, "map.csv:1:3: 65535 is not a tile number"),
        ("1,4294967296\n", 0, "map.csv:1:3: 4294967296 is not a tile number"),
        (
            "1,2147483649\n",
            0,
            "map.csv:1:3: 2147483649 is not a tile number: expected 0 (blank) to 65535; if its highest \
             bits say how the tile is flipped, say number_bits = 29",
        ),
        ("1,-2\n", -1, "map.csv:1:3: -2 is not a tile number"),
        ("", 0, "map.csv: no tiles"),
    ] {
        let message = map(text, blank).expect_err(text);
        assert!(message.starts_with(words), "{text:?}: {message}");
    }
}

#[test]
fn paths_of_many_forms_are_the_same_path() {
    let plain = path("t,x,y,grounded\n0,1,2,1\n1,3,5,0\n").expect("a path");
    for text in [
        "\u{feff}t,x,y,grounded\r\n0,1,2,1\r\n1,3,5,0\r\n",
        "\"t\",\"x\",\"y\",\"grounded\"\n0,1,2,1\n1,3,5,0\n",
        "grounded,y,x,t\n1,2,1,0\n0,5,3,1\n",
        "frame,t,x,y,name,grounded\n0,0,1,2,wren,true\n1,1,3,5,wren,false\n",
        "t;x;y;grounded\n0;1;2;1\n1;3;5;0\n",
        "Time,X,Y,Grounded\n0,1,2,1\n1,3,5,0\n",
        "time,t,x,y,grounded\n9,0,1,2,1\n9,1,3,5,0\n",
        "T\tX\tY\tGrounded\n0\t1\t2\t1\n1\t3\t5\t0\n",
        "t,x,y,grounded,cut\n0,1,2,1,0\n1,3,5,0,0\n",
    ] {
        assert_eq!(path(text), Ok(plain.clone()), "{text:?}");
    }
}

#[test]
fn a_path_tells_of_jumps_and_of_what_carries() {
    let path =
        path("t,x,y,jump,carrier_x,carrier_y\n0,1,2,0,30,0\n1,3,5,1,0,-2.5\n").expect("a path");
    let (first, last) = (path.subject(0.5), path.subject(1.0));
    assert_eq!((first.jump, last.jump), (Some(false), Some(true)));
    assert_eq!((first.carrier.x, last.carrier.y), (30.0, -2.5));
}

#[test]
fn what_is_no_path_is_told() {
    for (text, words) in [
        ("t,x\n0,1\n", "path.csv:1:1: no column \"y\" in \"t,x\""),
        ("t,x,y\n0,1,1e308\n", "path.csv:2:1: 1e308 is too far away: expected at most 1e12"),
        ("t,x,y\n0,1,nan\n", "path.csv:2:1: NaN"),
        ("t,x,y\n0,1\n", "path.csv:2:1: 2 fields: expected 3"),
        ("t,x,y\n1,1,1\n0,1,1\n", "path.csv:3:1: time 0 after 1"),
        ("t,x,y,carrier_x\n0,1,1,inf\n", "path.csv:2:1: inf"),
        ("t,x,y,carrier_x\n0,1,1,1e13\n", "path.csv:2:1: a carrier of 1e13 is too fast"),
        ("t,x,y,carrier_y\n0,1,1,fast\n", "path.csv:2:7: carrier_y: \"fast\" is not a number"),
        ("t,x,y,cut\n0,1,1,maybe\n", "path.csv:2:7: cut: \"maybe\": expected 1 or 0"),
        ("t,x,y\n", "path.csv: no rows"),
        // Lines and columns as an editor counts them.
        ("t,x,y\r\n0,0,0\r\n\r\n1, bad,0\r\n", "path.csv:4:4: x: \"bad\""),
        ("t,x,y\r0,0,0\r\r1,1,bad\r", "path.csv:4:5: y: \"bad\""),
        ("\n\nTime,X,Y\n\n\n\"12\",\"bäd\",0\n", "path.csv:6:7: x: \"bäd\""),
        ("t,x,X,y\n0,0,0,1\n", "path.csv:1:5: column \"x\" twice"),
    ] {
        let message = path(text).expect_err(text);
        assert!(message.starts_with(words), "{text:?}: {message}");
    }
}

/// At a row with a cut, the subject and the camera jump.
#[test]
fn a_cut_is_a_cut() {
    let path = path("t,x,y,cut\n0,0,0,0\n1,100,0,0\n2,5000,0,1\n3,5100,0,0\n").expect("a path");
    let x = |t: f64| path.position(t).x;
    assert_eq!((x(0.5), x(1.5), x(1.999), x(2.0), x(2.5)), (50.0, 100.0, 100.0, 5000.0, 5050.0));
    assert_eq!((path.cut_between(1.9, 2.0), path.cut_between(2.0, 2.1)), (Some(2.0), None));
    assert_eq!(path.top_speed(), DVec2::new(100.0, 0.0));
    let folder = tempfile::tempdir().expect("a folder");
    let write =
        |name: &str, text: &str| fs::write(folder.path().join(name), text).expect("written");
    write("path.csv", "t,x,y,cut\n0,0,0,0\n1,100,0,0\n2,5000,0,1\n3,5100,0,0\n");
    write(
        "take.toml",
        "[tuning.follow]\nsmoothing = { half_life = 0.5 }\n[subjects.wren]\npath = \"path.csv\"\n",
    );
    let take = Take::open(folder.path().join("take.toml")).expect("a take");
    let mut run = Run::new(&take).expect("a run");
    run.skip_to(&take, 120);
    let before = run.step(&take).view;
    assert_eq!(before.centre().x, 5000.0, "the row of the cut is at 2 s");
    // And back again, from a folder.
    take.save(folder.path().join("again")).expect("saved");
    let again = Take::open(folder.path().join("again/take.toml")).expect("a take");
    assert_eq!(again.subjects["wren"].path, take.subjects["wren"].path);
}

#[test]
fn every_fault_of_a_take_is_told_at_once() {
    let folder = tempfile::tempdir().expect("a folder");
    let text = "seconds = 4.0\n\n[subjects.wren]\npath = \"none.csv\"\n[subjects.kite]\npath = \"nil.csv\"\n\
        [subjects.gong]\nkeys = []\n\n[[events]]\nat = 1.0\ncue = \"bong\"\n\n[[events]]\nat = 2.0\nwatch = [\"wern\"]\n\n\
        [[events]]\nat = 1.5\nzoom = -1.0\n";
    let path = folder.path().join("take.toml");
    fs::write(&path, format!("watch = [\"wren\"]\n{text}")).expect("written");
    let faults = Take::read_all(Files::Disk, &path, &Overrides::default()).expect_err("faults");
    let told: Vec<(usize, String)> = faults
        .iter()
        .map(|fault| (fault.place.expect("a place").0, fault.key.clone().expect("a key")))
        .collect();
    for expected in [
        (5, "subjects.wren.path"),
        (7, "subjects.kite.path"),
        (9, "subjects.gong.keys"),
        (13, "events.0.cue"),
        (17, "events.1.watch"),
        (20, "events.2.at"),
        (21, "events.2.zoom"),
    ] {
        let found = told.iter().any(|(line, key)| (*line, key.as_str()) == expected);
        assert!(found, "{expected:?} is not among {told:?}");
    }
    let first = Take::open(&path).expect_err("faults");
    assert_eq!(first.place.map(|place| place.0), Some(5));
}

#[test]
fn a_tuning_is_no_take_and_an_empty_take_is_a_fault() {
    let folder = tempfile::tempdir().expect("a folder");
    let read = |text: &str| {
        let path = folder.path().join("camera.toml");
        fs::write(&path, text).expect("written");
        let document = Document::read(Files::Disk, &path).expect("a file");
        (Take::open(&path).map(|_| ()).map_err(|fault| fault.what), document.is_take())
    };
    let (error, is_take) = read("[zoom]\nlevel = 2.0\n");
    assert!(
        error
            .expect_err("a tuning")
            .contains("expected a take, which names it as tuning = \"camera.toml\"")
    );
    assert!(!is_take);
    let (error, _) = read("[tuning.zoom]\nlevel = 2.0\n");
    assert!(error.expect_err("nothing").contains("nothing to ride"));
    assert_eq!(read("seconds = 2.0\n"), (Ok(()), true));
}

#[test]
fn numbers_beyond_all_measure_are_refused_in_a_few_words() {
    let folder = tempfile::tempdir().expect("a folder");
    let read = |text: &str| {
        let path = folder.path().join("take.toml");
        fs::write(&path, text).expect("written");
        Take::open(&path).map(|_| ()).map_err(|fault| fault.to_string())
    };
    let subject = "[subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [1.0, 9.0, 0.0]]\n";
    for (text, words) in [
        (
            format!("{subject}[[events]]\nat = 0.5\naim = [1e300, 0.0]\n"),
            "expected numbers up to 1e12",
        ),
        (format!("{subject}[[events]]\nat = 0.5\nnotches = inf\n"), "expected numbers up to 1e12"),
        (format!("fps = 1e300\n{subject}"), "1e300 is not possible"),
        (format!("seconds = 1e-300\nfps = 1e-300\n{subject}"), "1e-300 is not possible"),
        (
            format!("seconds = 1e300\n{subject}"),
            "1e300 is not possible: expected 0 to 86400 seconds",
        ),
    ] {
        let message = read(&text).expect_err(&text);
        assert!(message.contains(words) && message.len() < 160, "{message}");
    }
}
