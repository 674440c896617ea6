//! Tunings and takes with any text: each is read, or every fault of it is reported.

use std::path::Path;

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Settings};
use velvet_pan_takes::{
    BuiltIn, Document, Fault, Files, Overrides, Ride, Take, read_settings, settings_text,
    take_faults,
};

/// The file that is read. Others follow in the same input, each after a line that begins with `#### `.
const NAME: &str = "input.toml";

/// Reads the bytes as a tuning or as a take.
///
/// # Panics
///
/// A promise is broken.
pub fn check(bytes: &[u8]) {
    let text = String::from_utf8_lossy(bytes);
    let files = split(&text);
    let document = Document::read(Files::BuiltIn(&files), Path::new(NAME)).expect("the first");
    if document.is_take() { check_take(&files, &document) } else { check_tuning(&files, &document) }
}

/// The files of an input, by name. Only expected names, because the list needs static ones.
fn split(text: &str) -> Vec<BuiltIn> {
    const NAMES: [&str; 6] =
        ["courier.toml", "courier.csv", "terraces.csv", "house.csv", "map.csv", "path.csv"];
    let mut parts = text.split("\n#### ");
    let first = parts.next().unwrap_or("");
    let mut files = vec![BuiltIn { name: NAME, text: first.to_owned().into() }];
    for part in parts {
        let (name, text) = part.split_once('\n').unwrap_or((part, ""));
        let known = NAMES.into_iter().find(|known| *known == name.trim());
        files.extend(known.map(|name| BuiltIn { name, text: text.to_owned().into() }));
    }
    files
}

fn check_tuning(files: &[BuiltIn], document: &Document) {
    let (_, faults) = document.settings();
    let read = read_settings(Files::BuiltIn(files), Path::new(NAME), &[]);
    assert_eq!(read.is_ok(), faults.is_empty(), "{faults:?} and {read:?}");
    faults.iter().for_each(told);
    let Ok(settings) = read else { return };
    assert_eq!(settings.validate(), Ok(()));
    let tree = toml::Value::try_from(&settings).expect("settings can be written");
    let text = toml::to_string(&tree).expect("a tree can be written");
    assert_eq!(serde_reads(&text), settings, "written as\n{text}");
    // What one writes, the other reads.
    let written = settings_text(&settings, |_| true).expect("settings can be written");
    assert_eq!(serde_reads(&written), settings, "written as\n{written}");
    let files = [BuiltIn { name: NAME, text: text.into() }];
    let again = read_settings(Files::BuiltIn(&files), Path::new(NAME), &[]);
    assert_eq!(again.as_ref(), Ok(&settings), "written as\n{}", files[0].text);
    // A hostile tuning of many tables is no faster for being ridden for long.
    let mut camera = Camera::new(settings).expect("they are valid");
    for frame in 0..20 {
        let view = camera.follow(1.0 / 30.0, DVec2::new(f64::from(frame) * 9.0, 40.0));
        assert!(view.centre().is_finite() && view.scale() > 0.0, "{view:?}");
    }
}

fn serde_reads(text: &str) -> Settings {
    let tree: toml::Table = text.parse().unwrap_or_else(|error| panic!("{error} in\n{text}"));
    tree.try_into().unwrap_or_else(|error| panic!("{error} in\n{text}"))
}

fn check_take(files: &[BuiltIn], document: &Document) {
    let (own, _) = take_faults(document);
    own.iter().for_each(told);
    match Take::read_all(Files::BuiltIn(files), Path::new(NAME), &Overrides::default()) {
        Err(faults) => {
            assert!(!faults.is_empty(), "refused without a reason");
            faults.iter().for_each(told);
        }
        Ok(take) => {
            assert!(own.is_empty(), "faults in a take that can be read: {own:?}");
            ride(&take);
        }
    }
}

fn ride(take: &Take) {
    let ride = Ride::new(take).expect("a take that was read can be ridden");
    for moment in ride.take(120) {
        let row = moment.row(take);
        let numbers = [row.t, row.x, row.y, row.zoom, row.rotation, row.goal_x, row.goal_y];
        assert!(numbers.iter().all(|number| number.is_finite()), "{row:?}");
    }
}

/// A fault must name its file and fit into a few lines.
fn told(fault: &Fault) {
    let text = fault.to_string();
    assert!(!fault.what.is_empty() && text.len() < 2_000, "{text}");
}
