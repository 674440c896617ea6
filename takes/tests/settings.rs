//! Settings are read and written as serde reads and writes them, and every wrong value is told at its key.

use proptest::prelude::*;
use velvet_pan::{Bounds, Cue, Rect, Rooms, SettingKind, Settings, Shake, Zone};
use velvet_pan_takes::{BuiltIn, Document, Fault, Files, settings_text};

use crate::tools::demos;

fn read(text: &str) -> (Settings, Vec<Fault>) {
    let files = [BuiltIn { name: "camera.toml", text: text.to_owned().into() }];
    Document::read(Files::BuiltIn(&files), "camera.toml".as_ref()).expect("built in").settings()
}

fn written(settings: &Settings) -> String {
    settings_text(settings, |_| true).expect("it can be written")
}

/// Settings as serde reads them from a text. Text becomes a tree first: serde would compile every type for each format.
fn serde_reads(text: &str) -> Settings {
    text.parse::<toml::Table>().expect("TOML").try_into().expect("a tuning")
}

fn serde_writes(settings: &Settings) -> String {
    let tree = toml::Value::try_from(settings).expect("it can be written");
    toml::to_string(&tree).expect("TOML")
}

/// The tunings of the demo: files, and tables within takes.
fn tunings() -> Vec<String> {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../terraces/demo/");
    let courier = std::fs::read_to_string(format!("{folder}courier.toml")).expect("a file");
    let within = demos().into_iter().filter_map(|name| {
        let take = std::fs::read_to_string(format!("{folder}{name}.toml")).expect("a file");
        let take: toml::Table = take.parse().expect("TOML");
        take.get("tuning")?.as_table().map(|tuning| toml::to_string(tuning).expect("TOML"))
    });
    within.chain([courier]).collect()
}

#[test]
fn what_serde_writes_is_read_the_same_and_the_other_way_round() {
    let tunings = tunings();
    assert!(tunings.len() > 5, "{}", tunings.len());
    for text in tunings {
        let serde = serde_reads(&text);
        assert_eq!(read(&text), (serde.clone(), Vec::new()), "{text}");
        assert_eq!(serde_reads(&written(&serde)), serde);
        assert_eq!(read(&serde_writes(&serde)).0, serde);
    }
}

/// They are refused when a camera is made; a file that is written before keeps them all the same.
#[test]
fn a_rectangle_that_is_not_finite_keeps_its_corners() {
    for far in [f64::INFINITY, f64::MAX] {
        let rect = Rect { min: [-far, 3.0].into(), max: [far, 9.5].into() };
        let settings = Settings { bounds: Some(Bounds::new(rect)), ..Settings::default() };
        assert_eq!(serde_reads(&written(&settings)), settings, "{}", written(&settings));
        assert_eq!(serde_reads(&serde_writes(&settings)), settings);
    }
}

/// A dot does not divide the name of a cue, even before the name of a table within cues.
#[test]
fn a_cue_may_have_any_name() {
    let mut settings = Settings::default();
    for name in ["gong", "gate.shake", "gate.zoom", "gate", "a b", ""] {
        settings
            .cues
            .insert(name.into(), Cue { full_within: 0.5, none_beyond: 9.0, ..Cue::default() });
    }
    if let Some(gate) = settings.cues.get_mut("gate") {
        gate.shake = Some(Shake { hz: 7.0, ..Shake::default() });
    }
    assert_eq!(read(&written(&settings)), (settings, Vec::new()));
}

/// A text that is nothing to any key is a fault of this key alone.
#[test]
fn a_wrong_value_is_told_at_its_key() {
    let mut checked = 0;
    for table in Settings::tables().iter().filter(|table| !table.path().contains('*')) {
        for key in table.keys().iter().filter(|key| key.kind() != SettingKind::Text) {
            let path = format!("{}.{}", table.path(), key.key());
            let (_, faults) = read(&format!("{path} = \"no such thing\"\n"));
            let at_key: Vec<&Fault> =
                faults.iter().filter(|fault| fault.key.as_ref() == Some(&path)).collect();
            assert_eq!(at_key.len(), 1, "{path}: {faults:?}");
            assert!(at_key[0].what.contains("expected") || at_key[0].what.contains("mean"));
            assert_eq!(at_key[0].place.map(|place| place.0), Some(1), "{path}");
            checked += 1;
        }
    }
    assert!(checked >= 50, "{checked}");
}

/// Values that do not fit each other are a fault only where each could be read.
#[test]
fn one_mistake_is_one_fault() {
    for (text, key) in [
        ("[zoom]\nrange = [4.0, 0.5]\n", "zoom.range"),
        ("[bounds]\ncushion_depth = 0.1\n", "bounds.rect"),
        ("[bounds]\nrect = [0, 0, -1, 5]\n", "bounds.rect"),
        ("[bounds]\nrect = { min = [0, 0], mix = [5, 5] }\n", "bounds.rect.mix"),
        ("[rooms]\nlist = [[0, 0, 9, 9], [0, 0, 9]]\n", "rooms.list.1"),
        ("[[lures]]\nat = [0, 0]\n", "lures.0.radius"),
        ("[follow]\nsmoothing = { x = { half_life = -1 } }\n", "follow.smoothing"),
        ("[follow]\nsmoothing = { x = { half_lif = 1 } }\n", "follow.smoothing.x.half_lif"),
        ("[shake.limit]\nrech = 1\n", "shake.limit.rech"),
        ("cues = 3\n", "cues"),
        ("\"follow.anchor\" = [0.5, 0.5]\n", "follow.anchor"),
        ("[\"cues.*\"]\nfull_within = 1.0\n", "cues.*"),
        ("[cues.gong.shake]\n\"*\" = 1\n", "cues.gong.shake.*"),
        ("layers = [3]\n", "layers.0"),
    ] {
        let (_, faults) = read(text);
        let keys: Vec<&str> = faults.iter().filter_map(|fault| fault.key.as_deref()).collect();
        assert_eq!(keys, [key], "{text}: {faults:?}");
    }
}

proptest! {
    /// A rectangle is written and read to the bit, also where no size gives its far corner.
    #[test]
    fn rectangles_keep_their_bits(
        corners in prop::array::uniform4(-1e9..1e9_f64), small in prop::array::uniform4(-1.0..1.0_f64),
    ) {
        let rects = [corners, small].map(|[a, b, c, d]| Rect::new([a, b], [c, d]));
        let [big, small] = rects;
        let mut settings = Settings { bounds: Some(Bounds::new(big)), ..Settings::default() };
        settings.rooms = Some(Rooms { list: rects.to_vec(), ..Rooms::default() });
        settings.zones = vec![Zone { bounds: Some(big), ..Zone::new(small) }];
        prop_assert_eq!(read(&written(&settings)), (settings, Vec::new()));
    }
}

/// Distances in world units became shares of the screen: an old name is answered with the new number.
#[test]
fn an_old_distance_is_told_its_share_of_the_screen() {
    let text = "[follow]\nlook_ahead = { turn = 0.75 }\n[rooms]\nmargin = 0.5\n[bounds]\nrect = [0, 0, 9, 9]\n\
                cushion = 2\n[cues.gong]\nnear = 5\nfar = 40\n[screen]\nunit_pixels = 16.0\n";
    let files = [BuiltIn { name: "old.toml", text: text.into() }];
    let document = Document::read(Files::BuiltIn(&files), "old.toml".as_ref()).expect("a file");
    let told: Vec<String> = document.settings().1.iter().map(ToString::to_string).collect();
    let share = "in widths of the design screen";
    assert_eq!(
        told,
        [
            format!(
                "old.toml:2:16: follow.look_ahead.turn: 0.75 world units: expected turn_after = 0.0375, {share}"
            ),
            format!(
                "old.toml:4:1: rooms.margin: 0.5 world units: expected overstep = 0.025, {share}"
            ),
            format!(
                "old.toml:7:1: bounds.cushion: 2 world units: expected cushion_depth = 0.1, {share}"
            ),
            format!(
                "old.toml:9:1: cues.gong.near: 5 world units: expected full_within = 0.25, {share}"
            ),
            format!(
                "old.toml:10:1: cues.gong.far: 40 world units: expected none_beyond = 2, {share}"
            ),
        ]
    );
}
