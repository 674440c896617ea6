//! A tuning file that changes while a game runs, from the game and from outside.

use std::fs;
use std::path::PathBuf;
use std::time::{Duration, Instant};

use proptest::prelude::*;
use velvet_pan::{Chosen, Layer, Rect, Settings, Value, Zone};
use velvet_pan_takes::{Fault, TuningFile};

const TEXT: &str = "\
# Wren's camera.
[zoom] # as it was
level    = 1.5   # closer
range = [0.5,
  4.0]           # far enough

[follow]
smoothing = { half_life = 0.12 } # soft
deadzone = { left = 0.04, right = 0.04 }
anchor = [ 0.5, 0.6 ]  # a little low

[[layers]]
name = \"far ridge\" # behind everything
rate = [0.2, 0.3]

[[layers]]
name = \"mist\"
";

struct Tuned {
    /// Removed at the end.
    _folder: tempfile::TempDir,
    path: PathBuf,
    tuning: TuningFile,
}

fn tuned(text: &str) -> Tuned {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("courier.toml");
    fs::write(&path, text).expect("written");
    let tuning = TuningFile::open(&path).expect("a tuning");
    Tuned { _folder: folder, path, tuning }
}

impl Tuned {
    fn text(&self) -> String {
        fs::read_to_string(&self.path).expect("a file")
    }

    /// The result of the next poll with news, within some seconds.
    fn news(&mut self) -> Option<Result<(), Fault>> {
        let start = Instant::now();
        while start.elapsed() < Duration::from_secs(5) {
            if let Some(news) = self.tuning.poll() {
                return Some(news);
            }
            std::thread::sleep(Duration::from_millis(5));
        }
        None
    }

    /// Checks that there is no news for a while.
    fn no_news(&mut self) {
        let start = Instant::now();
        while start.elapsed() < Duration::from_millis(300) {
            assert_eq!(self.tuning.poll(), None);
            std::thread::sleep(Duration::from_millis(5));
        }
    }
}

/// The lines of `after` that are not in `before`, each with the line that was in its place.
fn differing(before: &str, after: &str) -> Vec<(String, String)> {
    assert_eq!(before.lines().count(), after.lines().count(), "{after}");
    let pairs = before.lines().zip(after.lines()).filter(|(a, b)| a != b);
    pairs.map(|(a, b)| (a.to_owned(), b.to_owned())).collect()
}

#[test]
fn saving_changes_one_line_and_keeps_comments_and_order() {
    let cases: [(&str, Value, &str); 5] = [
        ("zoom.level", 2.0.into(), "level    = 2.0   # closer"),
        ("zoom.range", [0.5, 8.0].into(), "  8.0]           # far enough"),
        ("follow.anchor", [0.25, 0.6].into(), "anchor = [ 0.25, 0.6 ]  # a little low"),
        (
            "follow.smoothing",
            Chosen::number("half_life", 0.3).into(),
            "smoothing = { half_life = 0.3 } # soft",
        ),
        ("layers.0.rate", [0.2, 0.5].into(), "rate = [0.2, 0.5]"),
    ];
    for (path, value, line) in cases {
        let mut tuned = tuned(TEXT);
        tuned.tuning.settings_mut().set(path, value.clone()).expect("allowed");
        assert_eq!(tuned.tuning.changed(), [(path.to_owned(), Some(value))]);
        tuned.tuning.save().expect("saved");
        let changed = differing(TEXT, &tuned.text());
        assert_eq!(changed.len(), 1, "{path}: {changed:?}");
        assert_eq!(changed[0].1, line);
        assert_eq!(tuned.tuning.changed(), []);
    }
}

#[test]
fn what_the_file_did_not_say_is_added_alone() {
    let mut tuned = tuned(TEXT);
    let settings = tuned.tuning.settings_mut();
    settings.set("shake.intensity", 0.5).expect("allowed");
    settings.set("zoom.whole", true).expect("allowed");
    settings.set("cues.gong.shake.hz", 12.0).expect("allowed");
    settings.layers.push(Layer::at_rate("reeds", [1.5, 1.0]));
    let wanted = settings.clone();
    tuned.tuning.save().expect("saved");
    let text = tuned.text();
    assert_eq!(TuningFile::open(&tuned.path).expect("a tuning").settings(), &wanted);
    assert!(text.contains("[shake]\nintensity = 0.5\n"), "{text}");
    assert!(!text.contains("overscan"), "{text}");
    assert!(text.contains("# Wren's camera.") && text.contains("whole = true"), "{text}");
}

#[test]
fn what_is_left_out_now_goes_from_the_file() {
    let mut tuned = tuned("[rooms]\nslide = 0.5\n\n[zoom]\nlevel = 2.0 # close\n");
    assert!(tuned.tuning.settings_mut().leave_out("rooms"));
    assert!(tuned.tuning.changed().contains(&("rooms.slide".to_owned(), None)));
    tuned.tuning.save().expect("saved");
    assert_eq!(tuned.text().trim(), "[zoom]\nlevel = 2.0 # close");
}

#[test]
fn a_write_from_outside_is_read_and_own_saves_are_not() {
    let mut tuned = tuned(TEXT);
    tuned.tuning.watch().expect("watched");
    tuned.no_news();
    fs::write(&tuned.path, TEXT.replace("1.5 ", "1.75")).expect("written");
    assert_eq!(tuned.news(), Some(Ok(())));
    assert_eq!(tuned.tuning.settings().zoom.level, 1.75);

    tuned.tuning.settings_mut().zoom.level = 2.0;
    tuned.tuning.save().expect("saved");
    tuned.no_news();

    // As editors do it: a new file takes the old one's place.
    let beside = tuned.path.with_extension("swap");
    fs::write(&beside, TEXT).expect("written");
    fs::rename(&beside, &tuned.path).expect("moved");
    assert_eq!(tuned.news(), Some(Ok(())));
    assert_eq!(tuned.tuning.settings().zoom.level, 1.5);
    // Another file of the folder is no news.
    fs::write(&beside, "x").expect("written");
    tuned.no_news();
}

#[test]
fn a_bad_file_leaves_the_settings_and_says_where() {
    let mut tuned = tuned(TEXT);
    tuned.tuning.watch().expect("watched");
    let before = tuned.tuning.settings().clone();
    let cases = [
        (TEXT.replace("level ", "levle "), (3, 1), "did you mean \"level\"?"),
        (TEXT.replace("1.5 ", "-1.5"), (3, 1), "expected a zoom"),
        (TEXT.replace("1.5 ", "1.5.5"), (3, 15), ""),
        (TEXT.replace("[0.2, 0.3]", "[0.2, 300.0]"), (14, 1), "from -100 to 100"),
    ];
    for (text, place, words) in cases {
        fs::write(&tuned.path, &text).expect("written");
        let fault = tuned.news().expect("news").expect_err("a fault");
        assert_eq!(fault.place, Some(place), "{fault}");
        assert!(fault.to_string().contains(words), "{fault}");
        assert_eq!(tuned.tuning.settings(), &before);
        tuned.no_news(); // told once
    }
    fs::remove_file(&tuned.path).expect("removed");
    assert!(tuned.news().expect("news").is_err());
    fs::write(&tuned.path, TEXT.replace("1.5 ", "3.0")).expect("written");
    assert_eq!(tuned.news(), Some(Ok(())));
    assert_eq!(tuned.tuning.settings().zoom.level, 3.0);
}

#[test]
fn changes_that_are_not_saved_stay_on_top() {
    let mut tuned = tuned(TEXT);
    tuned.tuning.watch().expect("watched");
    tuned.tuning.settings_mut().set("zoom.notch", 1.5).expect("allowed");
    fs::write(&tuned.path, TEXT.replace("1.5 ", "1.75")).expect("written");
    assert!(
        tuned.tuning.save().expect_err("a fault").what.contains("another program changed the file")
    );
    assert_eq!(tuned.news(), Some(Ok(())));
    let zoom = &tuned.tuning.settings().zoom;
    assert_eq!((zoom.level, zoom.notch), (1.75, 1.5));
    tuned.tuning.revert();
    assert_eq!(tuned.tuning.settings().zoom.notch, 1.2);
    assert_eq!(tuned.tuning.changed(), []);
}

#[test]
fn what_is_not_possible_is_not_saved() {
    let mut tuned = tuned(TEXT);
    tuned.tuning.settings_mut().zoom.level = 9.0;
    let fault = tuned.tuning.save().expect_err("beyond the range");
    assert!(fault.to_string().contains("zoom.level = 9"), "{fault}");
    assert_eq!(tuned.text(), TEXT);
    assert!(TuningFile::open(tuned.path.with_file_name("nowhere.toml")).is_err());
}

proptest! {
    /// After any change, the file contains exactly that when it is read again.
    #[test]
    fn a_saved_file_reads_back_equal(
        changes in prop::collection::vec((0_usize..200, 0.0..1.0), 1..6),
    ) {
        let mut tuned = tuned(TEXT);
        let settings = tuned.tuning.settings_mut();
        for (index, fraction) in changes {
            let paths = settings.paths();
            let (path, setting) = &paths[index % paths.len()];
            let [low, high] = setting.usual();
            let number: f64 = low + (high - low) * fraction;
            let values: [Value; 3] = [number.into(), [number; 2].into(), (fraction > 0.5).into()];
            for value in values {
                let _ = settings.set(path, value);
            }
        }
        let wanted: Settings = settings.clone();
        prop_assume!(wanted.validate().is_ok());
        tuned.tuning.save().expect("saved");
        let read = TuningFile::open(&tuned.path).expect("a tuning");
        prop_assert_eq!(read.settings(), &wanted);
        prop_assert!(tuned.text().contains("# Wren's camera."));
    }
}

const LISTS: &str = "\
[rooms]
slide = 0.4
list = [
  [0.0, 0.0, 320.0, 180.0],     # the hall
  # Above the stove:
  [320.0, 0.0, 320.0, 180.0],   # the kitchen
  [640.0, 0.0, 320.0, 180.0],   # the loft
]

[rail]
points = [[0.0, 0.0], [100.0, 50.0], [200.0, 0.0]]   # over the stream

# The pond.
[[zones]]
rect = [0.0, 0.0, 64.0, 32.0]   # at the willow
zoom = 2.0

# The shed.
[[zones]]
rect = [100.0, 0.0, 64.0, 32.0]
zoom = 1.5   # dark in there
";

/// A list that loses and gains items keeps the comments of the others, whatever its notation.
#[test]
fn comments_inside_of_lists_are_kept() {
    let saved = |change: fn(&mut velvet_pan::Settings)| {
        let folder = tempfile::tempdir().expect("a folder");
        let path = folder.path().join("camera.toml");
        std::fs::write(&path, LISTS).expect("written");
        let mut tuning = TuningFile::open(&path).expect("a tuning");
        change(tuning.settings_mut());
        tuning.save().expect("saved");
        let wanted = tuning.settings().clone();
        let again = TuningFile::open(&path).expect("a tuning");
        assert!(*again.settings() == wanted, "it reads back");
        std::fs::read_to_string(&path).expect("there")
    };
    assert_eq!(saved(|_| {}), LISTS);

    let text = saved(|settings| {
        settings.rooms.as_mut().expect("rooms").list.remove(0);
    });
    assert_eq!(text, LISTS.replace("  [0.0, 0.0, 320.0, 180.0],     # the hall\n", ""));

    let text = saved(|settings| {
        let list = &mut settings.rooms.as_mut().expect("rooms").list;
        list.push(Rect::from_corner_size([0, 180], [320, 180]));
        list[1].max.x = 700.0;
    });
    let expected = LISTS
        .replace("  [320.0, 0.0, 320.0, 180.0],", "  [320.0, 0.0, 380.0, 180.0],")
        .replace("# the loft\n", "# the loft\n  [0.0, 180.0, 320.0, 180.0],\n");
    assert_eq!(text, expected);

    let text = saved(|settings| {
        settings.rail.as_mut().expect("a rail").points.insert(1, [50.0, 60.0].into());
    });
    assert_eq!(text, LISTS.replace("[[0.0, 0.0], [100", "[[0.0, 0.0], [50.0, 60.0], [100"));

    let text = saved(|settings| {
        settings.zones.remove(0);
        settings.zones.push(Zone::new(Rect::from_corner_size([7, 8], [9, 10])));
    });
    assert!(
        text.contains(
            "# The shed.\n[[zones]]\nrect = [100.0, 0.0, 64.0, 32.0]\nzoom = 1.5   # dark"
        ),
        "{text}"
    );
    assert!(
        !text.contains("willow") && text.contains("[[zones]]\nrect = [7.0, 8.0, 9.0, 10.0]"),
        "{text}"
    );
}
