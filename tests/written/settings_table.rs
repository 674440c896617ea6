//! The table of settings matches tuning files: every key, its kind, its range.

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{
    Bounds, Camera, ChoiceForm, Chosen, Cue, Deadzone, Layer, Leash, LookAhead, Lure, Outline,
    OutlineName, PerAxis, Rail, Rect, Rooms, Scroll, Setting, SettingKind, Settings, Shake,
    ShakeMotion, Side, SmallWorld, Smoothing, TableForm, Value, Zone, ZoomNudge, ZoomRange,
};

use super::{through_json, through_toml};
use crate::support::properties::properties;

/// Settings that contain every optional part.
fn full() -> Settings {
    let mut settings = Settings::default();
    settings.follow.look_ahead = Some(LookAhead::default());
    settings.follow.leash = Some(Leash([0.4, 0.3].into()));
    settings.follow.smoothing = Smoothing::HalfLife(0.12).into();
    settings.rooms = Some(Rooms {
        size: Some([320.0, 180.0].into()),
        slide: Some(0.5),
        list: vec![Rect::from_corner_size([0, 0], [320, 180])],
        ..Rooms::default()
    });
    let points = vec![[0.0, 0.0].into(), [100.0, 0.0].into()];
    settings.rail = Some(Rail { points, speed: Some(30.0), ..Rail::default() });
    settings.scroll = Some(Scroll { speed: [10.0, 0.0].into() });
    settings.bounds = Some(Bounds::new(Rect::from_corner_size([0, 0], [3840, 960])));
    let cellar = Outline::new([Rect::new([0, 0], [640, 180]), Rect::new([0, 0], [320, 960])]);
    settings.outlines.insert("cellar".to_owned(), cellar);
    let kick = Shake { motion: ShakeMotion::Kick([1.0, 0.0].into()), ..Shake::default() };
    let cue = Cue {
        shake: Some(kick),
        zoom: Some(ZoomNudge::default()),
        glide: Some(0.8),
        pause: Some(0.1),
        ..Cue::default()
    };
    settings.cues.insert("gong".into(), cue);
    settings.lures = vec![Lure { at: [100.0, 100.0].into(), radius: 200.0, strength: 0.5 }];
    settings.zones = vec![Zone {
        anchor: Some([0.3, 0.5].into()),
        zoom: Some(2.0),
        deadzone: Some(Deadzone::default()),
        bounds: Some(Rect::from_corner_size([0, 0], [640, 360])),
        ..Zone::new(Rect::from_corner_size([0, 0], [320, 180]))
    }];
    let ridge = Layer::at_rate("ridge", [0.3, 0.3]);
    settings.layers = vec![Layer { cover: Some([640.0, 360.0].into()), ..ridge }];
    settings
}

/// A value as written in a tuning file, read by another crate.
fn written(setting: &Setting, value: &Value) -> toml::Value {
    let text = setting.write(value);
    let table: toml::Table = toml::from_str(&format!("key = {text}")).expect(&text);
    table["key"].clone()
}

/// The keys of a document with their values, where what the table calls a value counts as one.
fn leaves(path: &str, value: &toml::Value, known: &dyn Fn(&str) -> bool, found: &mut Vec<String>) {
    if known(path) {
        return found.push(path.to_owned());
    }
    let within = |key: &dyn std::fmt::Display| match path {
        "" => key.to_string(),
        path => format!("{path}.{key}"),
    };
    match value {
        toml::Value::Table(table) => {
            table.iter().for_each(|(key, value)| leaves(&within(key), value, known, found));
        }
        toml::Value::Array(items) => {
            let items = items.iter().enumerate();
            items.for_each(|(index, value)| leaves(&within(&index), value, known, found));
        }
        _ => found.push(path.to_owned()),
    }
}

fn at<'a>(document: &'a toml::Value, path: &str) -> Option<&'a toml::Value> {
    path.split('.').try_fold(document, |value, key| match value {
        toml::Value::Array(items) => items.get(key.parse::<usize>().ok()?),
        value => value.get(key),
    })
}

/// Numbers alone: whole numbers in a file may be floats in the table.
fn same(a: &toml::Value, b: &toml::Value) -> bool {
    use toml::Value::{Array, Float, Integer};
    match (a, b) {
        (Array(a), Array(b)) => a.len() == b.len() && a.iter().zip(b).all(|(a, b)| same(a, b)),
        (Float(a), Integer(b)) | (Integer(b), Float(a)) => *a == *b as f64,
        (a, b) => a == b,
    }
}

#[test]
fn what_is_expected_is_said_with_its_range() {
    for (path, words) in [
        ("follow.offset", "two finite distances in world units"),
        ("layers.0.rate", "a rate for each axis, each from -100 to 100"),
        ("shake.intensity", "a share of all motion, from 0 to 1"),
        ("rooms.overstep", "a fraction of the design screen, from 0 to 10"),
    ] {
        assert_eq!(Settings::setting(path).expect(path).expected(), words);
    }
}

/// All keys but the one that stands in place of another one.
fn set_paths(settings: &Settings) -> Vec<(String, &'static Setting)> {
    let paths = settings.paths().into_iter();
    paths.filter(|(path, _)| path != "bounds.outline").collect()
}

#[test]
fn an_outline_reads_back_in_place_of_a_rectangle() {
    let mut settings = full();
    settings.bounds = Some(Bounds::of_outline("cellar").expect("a name"));
    assert_eq!(settings.faults(), []);
    assert_eq!(through_toml(&settings), settings);
    assert_eq!(through_json(&settings), settings);
    assert_eq!(settings.get("bounds.outline"), Some(Value::Text("cellar".to_owned())));
}

/// A setting that is not possible, and what is said of it.
type Refused = (fn(&mut Settings), &'static str);

const OUTLINES: [Refused; 7] = [
    (
        |s| s.bounds = Bounds::of_outline("celar").ok(),
        "bounds.outline = \"celar\": expected the name of an outline; did you mean \"cellar\"?",
    ),
    (
        |s| s.bounds.as_mut().unwrap().rect = Some(Rect::new([0, 0], [9, 9])),
        "bounds.outline = \"cellar\": expected no outline beside a rect",
    ),
    (
        |s| s.bounds.as_mut().unwrap().open = [Side::Top].into(),
        "bounds.outline = \"cellar\": expected no outline for bounds with open sides",
    ),
    (
        |s| s.bounds.as_mut().unwrap().outline = None,
        "bounds.rect: is missing: expected a rect or an outline",
    ),
    (
        |s| s.outlines.get_mut("cellar").unwrap().parts.clear(),
        "outlines.cellar.parts = []: expected one rectangle or more",
    ),
    (
        |s| {
            let steps = (0..2001).map(|step| Rect::around([step * 3, 0], [1, 1]));
            s.outlines.get_mut("cellar").unwrap().parts = steps.collect();
        },
        "outlines.cellar.parts = 2001: expected at most 2,000 parts",
    ),
    (
        |s| {
            let rows = (0..100).map(|row| Rect::new([row, row], [row + 100, row + 1]));
            s.outlines.get_mut("cellar").unwrap().parts = rows.collect();
        },
        "outlines.cellar.parts = 100: expected parts with at most 2,000 halls, which are the largest rectangles inside of \
        their union",
    ),
];

#[test]
fn an_outline_that_can_not_be_is_refused() {
    for (change, expected) in OUTLINES {
        let mut settings = full();
        settings.bounds = Bounds::of_outline("cellar").ok();
        change(&mut settings);
        assert_eq!(settings.validate().expect_err(expected).to_string(), expected);
    }
    let long = OutlineName::new(&"k".repeat(32)).expect_err("too long").to_string();
    assert!(long.ends_with("expected the name of an outline, from 1 to 31 bytes long"), "{long}");
    let mut camera = Camera::new(full()).expect("valid settings");
    let message = camera.set_bounds("atic", 0.5).expect_err("refused").to_string();
    assert_eq!(message, "bounds.outline = \"atic\": expected the name of an outline");
}

#[test]
fn every_optional_part_reads_back() {
    assert_eq!(through_toml(&full()), full());
    assert_eq!(through_json(&full()), full());
}

#[test]
fn the_table_names_every_key_of_a_file_with_its_value() {
    let settings = full();
    assert_eq!(settings.faults(), []);
    let document = super::written(&settings);
    let paths: Vec<String> = set_paths(&settings).into_iter().map(|(path, _)| path).collect();
    for (path, setting) in &set_paths(&settings) {
        let value = settings.get(path).unwrap_or_else(|| panic!("{path} is set"));
        let in_file = at(&document, path).unwrap_or_else(|| panic!("{path} is in the file"));
        assert!(same(in_file, &written(setting, &value)), "{path}: {in_file} for {value}");
    }
    let mut found = Vec::new();
    leaves("", &document, &|path| paths.iter().any(|known| known == path), &mut found);
    for path in found {
        assert!(paths.contains(&path), "{path} is not in the table");
    }
}

#[test]
fn what_is_left_out_has_no_value_and_is_made_with_its_defaults() {
    let mut settings = Settings::default();
    let full = full();
    for (path, _) in set_paths(&full) {
        let value = full.get(&path).expect("set");
        if settings.get(&path).as_ref() != Some(&value) && !path.contains(".0.") {
            settings.set(&path, value.clone()).expect(&path);
            assert_eq!(settings.get(&path), Some(value), "{path}");
        }
    }
    assert_eq!(settings.follow.look_ahead, full.follow.look_ahead);
    assert_eq!(settings.cues, full.cues);
    let optional = Settings::tables().iter().filter(|table| table.form() == TableForm::Optional);
    let once = optional.map(velvet_pan::SettingsTable::path).filter(|path| !path.contains('*'));
    for path in once.chain(["follow.leash", "cues.gong", "outlines.cellar"]) {
        assert!(settings.leave_out(path), "{path}");
    }
    settings.set("follow.smoothing", Chosen::name("none")).expect("allowed");
    assert_eq!(settings, Settings::default());
    for path in
        ["zoom", "zoom.level", "layers.0", "cues.bong", "cues.bong.shake", "follow", "nowhere", ""]
    {
        assert!(!settings.leave_out(path), "{path}");
        assert_eq!(settings, Settings::default());
    }
}

/// The names of these fields, which are all: a new one does not compile until it is named here.
macro_rules! fields {
    ($($field:ident),*) => {{
        let Settings { $($field: _),* } = full();
        [$(stringify!($field)),*]
    }};
}

/// A field of the settings that no table describes could not be read from a file by name.
#[test]
fn every_field_of_the_settings_has_a_table() {
    let fields = fields!(
        screen, follow, party, rooms, rail, scroll, bounds, outlines, zoom, rotation, hands, shake,
        cues, lures, zones, layers
    );
    let first = |table: &velvet_pan::SettingsTable| table.path().split('.').next();
    let tables: std::collections::BTreeSet<&str> =
        Settings::tables().iter().filter_map(first).collect();
    assert_eq!(tables, fields.into_iter().collect());
    let full = full();
    for table in Settings::tables() {
        let paths = full.table_paths(table);
        assert!(paths.iter().any(|path| full.has_table(path)), "{} is not in full()", table.path());
    }
}

/// A state tells settings apart by what is not a default: any other number, and a table that is there.
#[test]
fn a_state_knows_the_settings_that_it_was_made_with() {
    let state =
        |settings: &Settings| Camera::new(settings.clone()).expect("valid settings").state();
    // The hash of an empty text: a new key with its default leaves it alone.
    let plain = serde_json::to_value(state(&Settings::default())).expect("JSON");
    assert_eq!(plain["settings"], 0xcbf2_9ce4_8422_2325_u64.cast_signed());
    let (full, mut others) = (full(), 0);
    let of_full = state(&full);
    assert!(of_full.fits(&full) && !of_full.fits(&Settings::default()));
    for (path, setting) in set_paths(&full) {
        let [low, high] = setting.usual();
        let Some(value) = with_number(setting, low + (high - low) * 0.377) else { continue };
        let mut changed = full.clone();
        if changed.set(&path, value).is_ok() && changed != full {
            assert!(!of_full.fits(&changed), "{path}");
            others += 1;
        }
    }
    assert!(others > 40, "{others} changes");
    for path in ["rooms", "follow.look_ahead", "cues.gong.shake", "zones.0.deadzone"] {
        let mut without = full.clone();
        assert!(without.leave_out(path) && !of_full.fits(&without), "{path}");
    }
    let mut dotted = Settings::default();
    dotted.cues.insert("gate.shake".into(), Cue::default());
    let mut nested = Settings::default();
    nested.cues.insert("gate".into(), Cue { shake: Some(Shake::default()), ..Cue::default() });
    assert!(!state(&dotted).fits(&nested) && state(&dotted).fits(&dotted));
}

#[test]
fn what_there_is_not_is_refused() {
    let mut settings = Settings::default();
    let refused = |settings: &mut Settings, path: &str, value: Value| {
        settings.set(path, value).expect_err(path).to_string()
    };
    let message = refused(&mut settings, "zoom.levle", Value::Number(1.0));
    assert_eq!(message, "zoom.levle: no such setting: did you mean \"zoom.level\"?");
    let message = refused(&mut settings, "layers.0.rate", Value::Pair([1.0, 1.0]));
    assert_eq!(message, "layers.0.rate: there is no layer 0; the list is empty");
    settings.layers = vec![Layer::default(); 2];
    let message = refused(&mut settings, "layers.7.rate", Value::Pair([1.0, 1.0]));
    assert_eq!(message, "layers.7.rate: there is no layer 7; the last is 1");
    settings.layers.clear();
    let message = refused(&mut settings, "zones.0.deadzone.left", Value::Number(0.1));
    assert_eq!(message, "zones.0.deadzone.left: there is no zone 0; the list is empty");
    let message = refused(&mut settings, "nonsense", Value::Number(1.0));
    assert_eq!(message, "nonsense: no such setting");
    let message = refused(&mut settings, "follow.look_ahed.reach", Value::Number(1.0));
    assert_eq!(
        message,
        "follow.look_ahed.reach: no such setting: did you mean \"follow.look_ahead.reach\"?"
    );
    let message = refused(&mut settings, "cues.gong.shake.motion", Chosen::name("kick").into());
    let expected = "{ kick = [x, y] }, a direction of the screen, not 0";
    assert_eq!(message, format!("cues.gong.shake.motion = \"kick\": expected {expected}"));
    let message = refused(&mut settings, "screen.fit", Chosen::name("squeeze").into());
    assert!(
        message.ends_with("expected one of \"whole\", \"contain\", \"reveal\", \"cover\""),
        "{message}"
    );
    let message =
        refused(&mut settings, "follow.smoothing", Chosen::number("half_life", -1.0).into());
    assert!(message.ends_with("expected a half-life in seconds, from 0 to 1000000"), "{message}");
    let message = refused(&mut settings, "follow.smoothing", Chosen::name("half_life").into());
    let expected = "expected { half_life = … }, a half-life in seconds, from 0 to 1000000";
    assert!(message.ends_with(expected), "{message}");
    let message = refused(&mut settings, "screen.size", Value::Pair([320.5, 180.0]));
    assert!(message.ends_with("each from 1 to 65536"), "{message}");
    let message = refused(&mut settings, "zoom.whole", Value::Number(1.0));
    assert!(message.ends_with("expected true or false"), "{message}");
    assert_eq!(settings, Settings::default());
}

/// Each key accepts a value of its own kind and no other; a refused value changes nothing.
#[test]
fn a_key_holds_values_of_its_kind_alone() {
    let full = full();
    let values = [
        Value::Number(0.5),
        Value::Count(7),
        Value::Pair([0.25, 0.5]),
        Value::Rect(Rect::new([0, 0], [64, 32])),
        Value::Flag(true),
        Value::Flag(false),
        Value::Text("ridge".to_owned()),
        Value::Points(vec![[0.0, 0.0], [9.0, 9.0]]),
        Value::Rects(vec![Rect::new([0, 0], [8, 8])]),
    ];
    let mut taken = 0;
    for (path, _) in set_paths(&full) {
        let held = full.get(&path).expect("set");
        for value in &values {
            let mut settings = full.clone();
            let kin = std::mem::discriminant(&held) == std::mem::discriminant(value);
            if settings.set(&path, value.clone()).is_ok() {
                assert_eq!(settings.get(&path).as_ref(), Some(value), "{path}");
                taken += 1;
            } else {
                assert_eq!(settings, full, "{path} = {value}");
                let ranged = matches!(value, Value::Number(_) | Value::Pair(_));
                assert!(!kin || ranged, "{path} = {value} is of its kind");
            }
        }
    }
    assert!(taken > 60, "{taken}");
}

/// Each name of a key, with its numbers, is kept.
#[test]
fn a_key_holds_each_of_its_names() {
    let full = full();
    let mut taken = 0;
    for (path, setting) in set_paths(&full) {
        let SettingKind::Choice(choices) = setting.kind() else { continue };
        for choice in choices {
            let value = match choice.form() {
                ChoiceForm::Number | ChoiceForm::BareNumber => {
                    Chosen::number(choice.as_str(), 0.25)
                }
                ChoiceForm::Pair => Chosen::pair(choice.as_str(), [0.5, 0.25]),
                ChoiceForm::Name => Chosen::name(choice.as_str()),
            };
            let mut settings = full.clone();
            settings.set(&path, value.clone()).unwrap_or_else(|fault| panic!("{path}: {fault}"));
            assert_eq!(settings.get(&path), Some(value.into()), "{path}");
            taken += 1;
        }
        let mut settings = full.clone();
        assert!(settings.set(&path, Chosen::name("sideways")).is_err());
        assert_eq!(settings, full, "{path}");
    }
    assert!(taken > 30, "{taken}");
}

/// Tables in a list are removed one by one. A table that does not exist can't be removed.
#[test]
fn parts_of_cues_and_zones_are_left_out() {
    let mut settings = full();
    for path in ["cues.gong.shake", "cues.gong.zoom", "zones.0.deadzone"] {
        assert!(settings.leave_out(path), "{path}");
        assert!(!set_paths(&settings).iter().any(|(key, _)| key.starts_with(path)), "{path}");
    }
    let zones = settings.zones.len();
    assert!(!settings.leave_out(&format!("zones.{zones}.deadzone")));
    assert!(!settings.leave_out("cues.bong.shake"));
    assert!(settings.zones[0].deadzone.is_none() && settings.cues.contains_key("gong"));
}

#[test]
fn an_axis_may_differ() {
    let mut settings = full();
    let [x, y] = [Chosen::number("settle", 0.5), Chosen::name("none")];
    settings.set("follow.smoothing", Value::PerAxis([x, y])).expect("allowed");
    assert_eq!(
        settings.follow.smoothing,
        PerAxis { x: Smoothing::Settle(0.5), y: Smoothing::None }
    );
    let written = settings.get("follow.smoothing").expect("set").to_string();
    assert_eq!(written, "{ x = { settle = 0.5 }, y = \"none\" }");
    let [x, y] = [Chosen::name("start"), Chosen::name("end")];
    settings.set("bounds.small", Value::PerAxis([x, y])).expect("allowed");
    let small = settings.bounds.map(|bounds| bounds.small);
    assert_eq!(small, Some(PerAxis { x: SmallWorld::Start, y: SmallWorld::End }));
    let [x, y] = [Chosen::name("whole"), Chosen::name("whole")];
    settings.set("screen.snap", Value::PerAxis([x, y])).expect_err("one for both axes");
}

/// A value of this kind with this number in it.
fn with_number(setting: &Setting, number: f64) -> Option<Value> {
    match setting.kind() {
        SettingKind::Number => Some(Value::Number(number)),
        SettingKind::Pair | SettingKind::Size => Some(Value::Pair([number, number])),
        _ => None,
    }
}

/// The range in the table is exactly the range that a camera accepts.
#[test]
fn the_ends_of_each_range_are_allowed_and_nothing_beyond() {
    // These have another limit besides, in another key.
    let paired = ["zoom.level", "zoom.range", "cues.gong.full_within", "cues.gong.none_beyond"];
    for (path, setting) in full().paths() {
        let [least, most] = setting.allowed();
        let accepts = |number: f64| {
            let mut settings = full();
            let taken =
                settings.set(&path, with_number(setting, number).expect("a number")).is_ok();
            let sound = settings.faults().is_empty() && Camera::new(settings).is_ok();
            assert!(!taken || sound || paired.contains(&path.as_str()), "{path} = {number}");
            taken
        };
        if with_number(setting, 0.0).is_none() {
            continue;
        }
        assert_eq!(accepts(least), !setting.is_above_least(), "{path} = {least}");
        assert!(accepts(most.min(1e12)), "{path} = {most}");
        for beyond in [least - 1.0, most * 1.5 + 1.0, f64::NAN, f64::NEG_INFINITY] {
            assert!(beyond == most || beyond == least || !accepts(beyond), "{path} = {beyond}");
        }
        let [low, high] = setting.usual();
        assert!(least <= low && low < high && high <= most, "{path}: usually {low} to {high}");
        assert!(accepts(high), "{path} = {high}");
    }
}

#[test]
fn every_key_is_told_of() {
    let names: Vec<&str> = Settings::tables().iter().map(velvet_pan::SettingsTable::path).collect();
    for table in Settings::tables() {
        assert!(!table.help().is_empty() && !table.help().ends_with('.'), "{}", table.path());
        for setting in table.keys() {
            let key = format!("{}.{}", table.path(), setting.key());
            assert!(setting.help().len() > 5 && !setting.help().ends_with('.'), "{key}");
            assert!(setting.expected().len() > 5, "{key}");
            assert!(!names.contains(&key.as_str()), "{key} is a table, too");
        }
    }
}

properties! {
    #![cases(256)]

    /// Any path and any numbers are accepted or refused.
    #[test]
    fn nothing_panics(path in "[a-z_.*0-9]{0,30}", a in any::<f64>(), b in any::<f64>()) {
        let mut settings = full();
        let _ = settings.get(&path);
        let _ = settings.leave_out(&path);
        let mut settings = full();
        for value in [Value::Number(a), Value::Pair([a, b]), Value::Rect(Rect { min: [a, b].into(), max: [b, a].into() })] {
            let _ = settings.set(&path, value.clone());
            for (path, _) in full().paths() {
                if settings.set(&path, value.clone()).is_ok() {
                    let _ = settings.faults();
                }
            }
        }
    }
}

#[test]
fn values_that_do_not_fit_each_other_are_named() {
    let faults = |change: &dyn Fn(&mut Settings)| -> Vec<String> {
        let mut settings = Settings::default();
        change(&mut settings);
        settings.faults().iter().map(ToString::to_string).collect()
    };
    let named = |cue: Cue| {
        faults(&|settings| {
            settings.cues.insert("gong".into(), cue);
        })
    };
    let far = named(Cue { full_within: 2.0, none_beyond: 2.0, ..Cue::default() });
    assert!(far.len() == 1 && far[0].starts_with("cues.gong.none_beyond = 2"), "{far:?}");
    let kick = Shake { motion: ShakeMotion::Kick(DVec2::ZERO), ..Shake::default() };
    let kick = named(Cue { shake: Some(kick), ..Cue::default() });
    assert!(kick.len() == 1 && kick[0].starts_with("cues.gong.shake.motion"), "{kick:?}");
    let zooms = |min, max, level| {
        faults(&|settings| {
            settings.zoom.range = ZoomRange { min, max };
            settings.zoom.level = level;
        })
    };
    assert_eq!((zooms(1.0, 1.0, 1.0).len(), zooms(0.5, 2.0, 2.0).len()), (0, 0));
    assert_eq!((zooms(2.0, 1.0, 1.5).len(), zooms(0.5, 2.0, 3.0).len()), (1, 1));
}

#[test]
fn places_that_can_not_be_are_refused() {
    let refused = |change: fn(&mut Settings)| {
        let mut settings = Settings::default();
        change(&mut settings);
        settings.validate().unwrap_err().field().to_owned()
    };
    let rooms = |rooms: Rooms| Settings { rooms: Some(rooms), ..Settings::default() };
    let field = |settings: &Settings| settings.validate().unwrap_err().field().to_owned();
    assert_eq!(field(&rooms(Rooms { size: Some(DVec2::ZERO), ..Rooms::default() })), "rooms.size");
    assert_eq!(field(&rooms(Rooms { overstep: -1.0, ..Rooms::default() })), "rooms.overstep");
    assert_eq!(field(&rooms(Rooms { slide: Some(f64::NAN), ..Rooms::default() })), "rooms.slide");
    let flat = vec![Rect::new([0, 0], [9, 0])];
    assert_eq!(field(&rooms(Rooms { list: flat, ..Rooms::default() })), "rooms.list.0");
    assert_eq!(refused(|s| s.rail = Some(Rail::default())), "rail.points");
    assert_eq!(refused(|s| s.scroll = Some(Scroll { speed: DVec2::NAN })), "scroll.speed");
    let lure = Lure { at: DVec2::ZERO, radius: 0.0, strength: 0.5 };
    let mut settings = Settings { lures: vec![lure], ..Settings::default() };
    assert_eq!(field(&settings), "lures.0.radius");
    settings.lures.clear();
    let zone = Zone::new(Rect::new([0, 0], [9, 9]));
    for (zone, name) in [
        (Zone { fade: -1.0, ..zone }, "zones.0.fade"),
        (Zone { zoom: Some(0.0), ..zone }, "zones.0.zoom"),
        (Zone { anchor: Some(DVec2::splat(2.0)), ..zone }, "zones.0.anchor"),
        (Zone { bounds: Some(Rect::default()), ..zone }, "zones.0.bounds"),
        (
            Zone { deadzone: Some(Deadzone { left: 9.0, ..Deadzone::default() }), ..zone },
            "zones.0.deadzone.left",
        ),
        (Zone { rect: Rect::default(), ..zone }, "zones.0.rect"),
    ] {
        settings.zones = vec![zone];
        assert_eq!(field(&settings), name);
    }
}
