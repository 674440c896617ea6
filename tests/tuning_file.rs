//! Settings as a tuning file holds them.
#![cfg(feature = "serde")]

use velvet_pan::{
    Axes, Bounds, HandReturn, PerAxis, Rect, Settings, SmallWorld, Smoothing, Snap, YAxis,
};

fn read(text: &str) -> Result<Settings, String> {
    toml::from_str(text).map_err(|error| error.message().to_owned())
}

#[test]
fn an_empty_file_is_the_defaults() {
    assert_eq!(read(""), Ok(Settings::default()));
    let settings = Settings::default();
    assert_eq!(settings.screen.size, [320, 180].into());
    assert_eq!((settings.screen.snap, settings.screen.y_axis), (Snap::Subpixel, YAxis::Down));
}

#[test]
fn keys_of_every_kind_are_read() {
    let settings = read(
        r#"
        [screen]
        size = [400, 225]
        unit_pixels = 16
        y_axis = "up"
        fit = "whole"
        snap = "off"
        [follow]
        axes = "x"
        anchor = [0.25, 0.75]
        offset = [0, -12.5]
        smoothing = { x = { half_life = 0.2 }, y = "none" }
        [bounds]
        rect = [-16.0, 0.0, 640.0, 480.0]
        small = { y = "end" }
        [zoom]
        level = 2.0
        "#,
    )
    .unwrap();
    assert_eq!(settings.screen.size, [400, 225].into());
    assert_eq!((settings.screen.y_axis, settings.screen.snap), (YAxis::Up, Snap::Off));
    assert_eq!(settings.follow.axes, Axes::X);
    assert_eq!(settings.follow.offset, [0.0, -12.5].into());
    assert_eq!(
        settings.follow.smoothing,
        PerAxis { x: Smoothing::HalfLife(0.2), y: Smoothing::None }
    );
    let rect = Rect::from_corner_size([-16, 0], [640, 480]);
    let small = PerAxis { x: SmallWorld::Centre, y: SmallWorld::End };
    assert_eq!(settings.bounds, Some(Bounds { small, ..Bounds::new(rect) }));
    assert_eq!(settings.zoom.level, 2.0);
}

#[test]
fn what_is_written_reads_back() {
    let mut settings = Settings::default();
    settings.follow.smoothing = PerAxis { x: Smoothing::HalfLife(0.1), y: Smoothing::None };
    settings.bounds = Some(Bounds::new(Rect::new([0, -5], [300, 200])));
    let text = toml::to_string(&settings).unwrap();
    assert_eq!(read(&text), Ok(settings), "{text}");
}

#[test]
fn what_is_wrong_is_named() {
    for (text, words) in [
        ("[follow]\nanchr = [0, 0]", "anchr"),
        ("[screen]\nsnap = \"hole\"", "hole"),
        ("[follow]\nsmoothing = { half_lif = 0.1 }", "half_lif"),
        ("[follow]\nsmoothing = { x = \"none\", z = \"none\" }", "z"),
        ("[bounds]\nrect = [0, 0, 5]", "array of length 4"),
        ("[screen]\nsize = [-1, 5]", "-1"),
    ] {
        let message = read(text).expect_err(text);
        assert!(message.contains(words), "{text}: {message}");
    }
}

#[test]
fn what_a_file_says_of_hands() {
    for (text, back) in [
        ("[hands]\nreturn = 0.2\n", HandReturn::Seconds(0.2)),
        ("[hands]\nreturn = 1\n", HandReturn::Seconds(1.0)),
        ("[hands]\nreturn = \"stay\"\n", HandReturn::Stay),
        ("", HandReturn::Seconds(0.4)),
    ] {
        let settings: Settings = toml::from_str(text).expect("valid");
        assert_eq!(settings.hands.back, back);
        let again: Settings =
            toml::from_str(&toml::to_string(&settings).expect("it writes")).expect("it reads");
        assert_eq!(again, settings);
    }
    let error = toml::from_str::<Settings>("[hands]\nreturn = \"go\"\n").unwrap_err().to_string();
    assert!(error.contains("expected a time in seconds"), "{error}");
    let mut settings = Settings::default();
    settings.hands.back = HandReturn::Seconds(-1.0);
    assert_eq!(settings.validate().unwrap_err().field(), "hands.return");
}
