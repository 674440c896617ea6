//! `demo` and `film`: files that a person can open.

use std::path::Path;

use crate::tools::{Folder, Numbers, demo, png};

/// Width and height of a PNG file, and its number of colours.
fn picture(path: &Path) -> (u32, u32, usize) {
    let mut reader = png(path);
    let mut data = vec![0; reader.output_buffer_size().unwrap()];
    let info = reader.next_frame(&mut data).unwrap();
    let colours: std::collections::HashSet<&[u8]> = data.chunks(3).collect();
    (info.width, info.height, colours.len())
}

#[test]
fn one_command_does_it_all() {
    let folder = Folder::new(&[]);
    let summary = folder.ok(&["demo"]);
    for word in ["frames", "lag", "screen pixels", "tiles", "14400", "ride.csv", "film.png"] {
        assert!(summary.contains(word), "no \"{word}\" in: {summary}");
    }
    let out = folder.path().join("velvet-pan-demo");
    let ride = std::fs::read_to_string(out.join("ride.csv")).unwrap();
    assert!(Numbers::read(&ride).len() > 1000);
    let (width, height, colours) = picture(&out.join("frame.png"));
    assert_eq!((width, height), (1280, 720));
    assert!(colours > 20, "{colours} colours");
    assert!(picture(&out.join("film.png")).0 > 1280);
    assert_eq!(picture(&out.join("shake.png")).0, 1280);

    // The take left beside the results is the same ride.
    let again = folder.ok(&["trace", "velvet-pan-demo/take/terraces.toml"]);
    assert_eq!(again, ride);
}

#[test]
fn a_changed_take_is_kept() {
    let folder = Folder::new(&[]);
    folder.ok(&["demo", "--out", "here"]);
    let tuning = folder.path().join("here/take/courier.toml");
    std::fs::write(&tuning, "[zoom]\nlevel = 2.0\n").unwrap();
    assert!(folder.ok(&["demo", "--out", "here"]).contains("which differs from the demo's"));
    assert_eq!(std::fs::read_to_string(&tuning).unwrap(), "[zoom]\nlevel = 2.0\n");
}

#[test]
fn film_at_every_snap_zoom_and_rotation() {
    let folder = Folder::new(&[]);
    let take = demo("terraces.toml");
    for (name, change) in [
        ("off.png", "screen.snap=off"),
        ("whole.png", "screen.snap=whole"),
        ("near.png", "zoom.level=1.7"),
        ("up.png", "screen.y_axis=up"),
        ("small.png", "screen.size=[1, 1]"),
    ] {
        let args = ["film", take.to_str().unwrap(), "--frames", "2", "--window", "640x360"];
        folder.ok(&[&args[..], &["--seconds", "2", "--set", change, "--out", name]].concat());
        let (width, height, _) = picture(&folder.path().join(name));
        assert!(width == 2 * 640 + 3 * 16 && height > 360, "{width} x {height}");
    }
}

#[test]
fn a_turned_view_is_filmed() {
    let take = std::fs::read_to_string(demo("terraces.toml")).unwrap();
    let (take, _) = take.split_once("[[events]]").unwrap();
    let take = format!("{take}[[events]]\nat = 0.0\nrotate = 0.3\n");
    let copy = |name: &str| std::fs::read_to_string(demo(name)).unwrap();
    let folder = Folder::new(&[
        ("take.toml", &take),
        ("courier.toml", &copy("courier.toml")),
        ("terraces.csv", &copy("terraces.csv")),
        ("courier.csv", &copy("courier.csv")),
    ]);
    folder.ok(&["film", "take.toml", "--frames", "1", "--columns", "1", "--out", "film.png"]);
    assert!(picture(&folder.path().join("film.png")).2 > 20);
}

#[test]
fn help_teaches() {
    let folder = Folder::new(&[]);
    for (args, word) in [
        (&["--help"][..], "velvet-pan demo"),
        (&["trace", "--help"], "--set"),
        (&["film", "--help"], "--frames"),
        (&["demo", "--help"], "--out"),
    ] {
        assert!(folder.ok(args).contains(word), "{args:?}");
    }
}

#[test]
fn the_other_takes_of_the_demo() {
    let folder = Folder::new(&[]);
    for take in ["gully.toml", "valley.toml"] {
        let take = demo(take);
        let args = ["film", take.to_str().unwrap(), "--overlay", "--window", "320x180"];
        folder.ok(&[&args[..], &["--out", "film.png"]].concat());
        assert!(picture(&folder.path().join("film.png")).2 > 20);
    }
}

#[test]
fn the_gully_never_goes_back() {
    let folder = Folder::new(&[]);
    let ride = Numbers::read(&folder.ok(&["trace", demo("gully.toml").to_str().unwrap()]));
    assert!(ride.column("x").windows(2).all(|pair| pair[1] >= pair[0]));
    assert!(ride.column("subject_x").windows(2).any(|pair| pair[1] < pair[0]), "she turned");
}

#[test]
fn the_valley_is_shown_and_left_on_time() {
    let folder = Folder::new(&[]);
    let ride = Numbers::read(&folder.ok(&["trace", demo("valley.toml").to_str().unwrap()]));
    let (x, zoom) = (ride.column("x"), ride.column("zoom"));
    // Within a second of being asked for, the middle of the world, as large as it can be.
    assert!((x[122] - 1920.0).abs() < 1e-6 && (zoom[170] - 320.0 / 3840.0).abs() < 1e-3);
    // The glide back ends at 7.7 s with the courier at her anchor, but for the smoothing's lag.
    let place = ride.column("subject_screen_x")[463];
    assert!((place - 160.0).abs() < 30.0, "{place}");
}

#[test]
fn several_snaps_side_by_side() {
    let folder = Folder::new(&[]);
    let pan = demo("pan.toml");
    let args =
        ["film", pan.to_str().unwrap(), "--snap", "off,whole,subpixel", "--window", "160x90"];
    folder.ok(&[&args[..], &["--frames", "2", "--out", "film.png"]].concat());
    let (width, height, _) = picture(&folder.path().join("film.png"));
    assert_eq!(width, 3 * 160 + 4 * 14);
    assert!(height > 2 * 90);
}

#[test]
fn an_animation_holds_every_frame() {
    let folder = Folder::new(&[]);
    let pan = demo("pan.toml");
    let args = ["film", pan.to_str().unwrap(), "--format", "apng", "--window", "160x90"];
    folder.ok(&[&args[..], &["--seconds", "0.5", "--out", "pan.png"]].concat());
    let length = |name: &str| std::fs::metadata(folder.path().join(name)).unwrap().len();
    folder.ok(&[&args[..], &["--seconds", "0.5", "--small", "--out", "small.png"]].concat());
    assert!(length("small.png") < length("pan.png"));
    let refused = folder.run(&["film", pan.to_str().unwrap(), "--small", "--out", "sheet.png"]);
    assert!(String::from_utf8_lossy(&refused.stderr).contains("expected --format apng"));
    let mut reader = png(&folder.path().join("pan.png"));
    let animation = reader.info().animation_control.expect("animated");
    assert_eq!(animation.num_frames, 31);

    // Each frame laid over the one before is the frame as it is drawn alone, wherever the ride stands still, too.
    let args = ["film", pan.to_str().unwrap(), "--format", "frames", "--window", "160x90"];
    folder.ok(&[&args[..], &["--seconds", "0.5", "--out", "frames"]].concat());
    let width = reader.info().width as usize;
    let mut shown = vec![[0; 3]; width * reader.info().height as usize];
    let mut data = vec![0; reader.output_buffer_size().unwrap()];
    for number in 0..31 {
        reader.next_frame(&mut data).unwrap();
        let part = *reader.info().frame_control().expect("a frame of an animation");
        assert_eq!(u32::from(part.delay_den), 60 * u32::from(part.delay_num));
        let (part_width, left, top) =
            (part.width as usize, part.x_offset as usize, part.y_offset as usize);
        for (index, pixel) in
            data.as_chunks::<3>().0.iter().take(part_width * part.height as usize).enumerate()
        {
            shown[(top + index / part_width) * width + left + index % part_width] = *pixel;
        }
        let (alone, _) = pixels(&folder.path().join(format!("frames/{number:05}.png")));
        for (row, expected) in alone.chunks(160).enumerate() {
            let start = (14 + 28 + row) * width + 14;
            assert!(shown[start..start + 160] == *expected, "frame {number}, row {row}");
        }
    }
}

#[test]
fn every_fit_is_filmed() {
    let folder = Folder::new(&[]);
    let take = demo("terraces.toml");
    for fit in ["whole", "contain", "reveal", "cover"] {
        let change = format!("screen.fit={fit}");
        let args = ["film", take.to_str().unwrap(), "--frames", "1", "--seconds", "1"];
        let rest = ["--window", "317x201", "--set", &change, "--out", "film.png"];
        folder.ok(&[&args[..], &rest].concat());
        assert!(picture(&folder.path().join("film.png")).2 > 20, "{fit}");
    }
}

/// A reader that closes the pipe is not an error.
#[test]
fn piped_into_a_reader_that_stops_it_ends_quietly() {
    use std::io::Read;
    use std::process::{Command, Stdio};

    let folder = Folder::new(&[]);
    let take = demo("terraces.toml");
    for args in [vec!["demo"], vec!["trace", take.to_str().unwrap(), "--fps", "2000"]] {
        let mut child = Command::new(env!("CARGO_BIN_EXE_velvet-pan"))
            .args(&args)
            .current_dir(folder.path())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .unwrap();
        let mut first = [0; 1];
        let mut out = child.stdout.take().unwrap();
        out.read_exact(&mut first).unwrap();
        drop(out);
        let ended = child.wait_with_output().unwrap();
        let errors = String::from_utf8_lossy(&ended.stderr);
        assert!(ended.status.success() && errors.is_empty(), "{args:?}: {errors}");
    }
}

/// The colours of a picture's pixels, three bytes each, and its width.
fn pixels(path: &Path) -> (Vec<[u8; 3]>, usize) {
    let mut reader = png(path);
    let mut data = vec![0; reader.output_buffer_size().unwrap()];
    let info = reader.next_frame(&mut data).unwrap();
    let (pixels, _) = data.as_chunks::<3>();
    (pixels.to_vec(), info.width as usize)
}

/// Each of the demo's layers is in the picture: without it, or at another rate, the picture differs.
#[test]
fn every_layer_is_drawn() {
    let folder = Folder::new(&[]);
    let take = demo("terraces.toml");
    let film = |name: &str, change: &[&str]| {
        let args = ["film", take.to_str().unwrap(), "--frames", "1", "--columns", "1"];
        let args = [&args[..], &["--window", "320x180", "--seconds", "7", "--out", name], change];
        folder.ok(&args.concat());
        pixels(&folder.path().join(name)).0
    };
    let whole = film("whole.png", &[]);
    for layer in 1..5 {
        let aside = format!("layers.{layer}.rate=[0.77, 0.04]");
        let other = film("other.png", &["--set", &aside]);
        let differing = whole.iter().zip(&other).filter(|(a, b)| a != b).count();
        assert!(differing > 300, "layer {layer}: {differing} pixels");
    }
    let sky = film("sky.png", &["--set", "layers.0.cover=[600.0, 300.0]"]);
    assert_ne!(whole, sky);
}

/// Unknown names, no layers and unusual layers are drawn too.
#[test]
fn any_layers_are_filmed() {
    let take = "[subjects.one]\nkeys = [[0.0, 0.0, 0.0], [1.0, 90.0, 9.0]]\n";
    let odd = "[[tuning.layers]]\nname = 'cloud'\nrate = [-2.0, 100.0]\nrepeat = [1.0, 0.5]\n\
               [[tuning.layers]]\nresponse = 4.0\ndrift = [1e9, 0.0]\n";
    let odd = format!("{odd}{take}");
    let folder = Folder::new(&[("bare.toml", take), ("odd.toml", &odd)]);
    for (name, change) in [("bare.toml", "screen.snap=off"), ("odd.toml", "zoom.level=3.5")] {
        let args = ["film", name, "--frames", "2", "--window", "160x90", "--set", change];
        folder.ok(&[&args[..], &["--out", "film.png"]].concat());
        let colours: std::collections::HashSet<[u8; 3]> =
            pixels(&folder.path().join("film.png")).0.into_iter().collect();
        assert!(colours.len() > 10, "{name}: {}", colours.len());
    }
}
