//! A user's own pictures and player, as a take names them.

use std::fs;
use std::path::Path;

use velvet_pan_takes::{BuiltIn, Document, Files, Pictures, Player, PlayerKind, Take, take_faults};

const WALK: &str = "[subjects.gardener]\nkeys = [[0.0, 8.0, 8.0], [2.0, 88.0, 8.0]]\n";

const ALL: &str = "\
[pictures]
tiles = { file = \"art/tiles.png\", size = [16, 24] }
level = { file = \"level.png\", at = [-32.0, 8.0], pixel = 0.5 }

[pictures.subjects.gardener]
file = \"gardener.png\"
frames = 4
fps = 10
origin = [8, 15.5]

[pictures.layers.sky]
file = \"sky.png\"

[player] # the one with the rake
kind = \"walker\"
speed = 90.0 # on gravel
size = [8.0, 6.0]
";

fn read(text: &str) -> (tempfile::TempDir, Take) {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("garden.toml");
    fs::write(&path, text).expect("written");
    let take = Take::open(&path).expect("a take");
    (folder, take)
}

#[test]
fn pictures_and_player_are_read_beside_the_take() {
    let (folder, take) = read(&format!("{WALK}{ALL}"));
    let Pictures { art, tiles, level, subjects, layers } = &take.pictures;
    let there = |name: &str| folder.path().join(name);
    let tiles = tiles.as_ref().expect("tiles");
    assert_eq!((art, &tiles.file.path, tiles.size), (&None, &there("art/tiles.png"), [16, 24]));
    let level = level.as_ref().expect("a level");
    assert_eq!((&level.file.path, level.at, level.pixel), (&there("level.png"), [-32.0, 8.0], 0.5));
    let gardener = &subjects["gardener"];
    assert_eq!((gardener.frames, gardener.fps, gardener.origin), (4, 10.0, Some([8.0, 15.5])));
    assert_eq!(layers["sky"].path, there("sky.png"));
    let walker = Player { speed: 90.0, size: [8.0, 6.0], ..Player::new(PlayerKind::Walker) };
    assert_eq!(take.player, Some(walker));
    let fault = level.file.fault("no such file").to_string();
    assert!(
        fault.contains("garden.toml:5:11: pictures.level.file: ")
            && fault.ends_with("no such file"),
        "{fault}"
    );

    // Saved elsewhere, it names the same files.
    take.save(there("saved")).expect("written");
    let back = Take::open(there("saved/take.toml")).expect("readable");
    assert_eq!((back.pictures, back.player), (take.pictures, take.player));
}

#[test]
fn a_player_is_saved_with_its_comments() {
    let (folder, take) = read(&format!("{WALK}{ALL}"));
    let path = folder.path().join("garden.toml");
    let player = Player { speed: 120.0, size: [9.0, 7.0], ..take.player.expect("a player") };
    player.save(&path).expect("saved");
    let text = fs::read_to_string(&path).expect("there");
    let expected = format!("{WALK}{ALL}")
        .replace("speed = 90.0 # on", "speed = 120.0 # on")
        .replace("size = [8.0, 6.0]", "size = [9.0, 7.0]");
    assert_eq!(text, expected);
    let (folder, _) = read(WALK);
    let path = folder.path().join("garden.toml");
    player.save(&path).expect("saved");
    assert_eq!(Take::open(&path).expect("a take").player, Some(player));
}

#[test]
fn what_is_wrong_is_told_with_its_place() {
    for (text, words) in [
        ("[pictures]\nart = \"oil\"\n", "4:1: pictures.art: \"oil\": expected \"terraces\""),
        ("[pictures]\ntiles = { size = [16, 16] }\n", "pictures.tiles.file: missing"),
        ("[pictures]\ntiles = { file = \"t.png\" }\n", "pictures.tiles.size: missing"),
        (
            "[pictures]\ntiles = { file = \"t.png\", size = [0, 16] }\n",
            "4:35: pictures.tiles.size.0: 0: expected a whole number of pixels, 1 to 4096",
        ),
        (
            "[pictures]\nlevel = { file = \"l.png\", pixel = 0.0 }\n",
            "pictures.level.pixel: 0: expected world units",
        ),
        (
            "[pictures.subjects.gardener]\nfile = \"g.png\"\nframes = 0\n",
            "5:1: pictures.subjects.gardener.frames: 0: expected a number of frames",
        ),
        ("[pictures]\nskies = 1\n", "unknown key \"skies\""),
        (
            "[player]\nkind = \"swimmer\"\n",
            "4:1: player.kind: \"swimmer\": expected runner, walker",
        ),
        ("[player]\nspeed = -1.0\n", "player.speed: -1: expected a number of world units"),
        ("[player]\nsize = [nan, 1.0]\n", "player.size.0: NaN: expected world units"),
        (
            "[map]\nfile = \"m.csv\"\ntile = [16.0, 16.0]\nnumber_bits = 40\n",
            "6:1: map.number_bits: 40: expected a number of bits, 1 to 32",
        ),
    ] {
        let text = format!("{WALK}{text}");
        let files = [BuiltIn { name: "garden.toml", text: text.clone().into() }];
        let document = Document::read(Files::BuiltIn(&files), Path::new("garden.toml"));
        let (faults, _) = take_faults(&document.expect("text"));
        let told: Vec<String> = faults.iter().map(ToString::to_string).collect();
        assert!(told.iter().any(|fault| fault.contains(words)), "{text}\n{told:?}");
    }
    let text = format!("{WALK}[player]\nsubject = \"nobody\"\n");
    let files = [BuiltIn { name: "garden.toml", text: text.into() }];
    let read =
        Take::read_all(Files::BuiltIn(&files), Path::new("garden.toml"), &Default::default());
    let faults = read.expect_err("nobody");
    assert!(faults[0].to_string().contains("player.subject: no subject \"nobody\""), "{faults:?}");
}
