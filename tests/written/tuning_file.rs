//! Settings as a tuning file holds them.

use velvet_pan::{HandReturn, Settings, Shake, Snap, YAxis};

use super::{read_json, read_toml, through_toml};

fn read(text: &str) -> Result<Settings, String> {
    read_toml(text)
}

#[test]
fn an_empty_file_is_the_defaults() {
    assert_eq!(read(""), Ok(Settings::default()));
    let settings = Settings::default();
    assert_eq!(settings.screen.size, [320, 180].into());
    assert_eq!((settings.screen.snap, settings.screen.y_axis), (Snap::Subpixel, YAxis::Down));
}

#[test]
fn what_is_wrong_is_named() {
    for (text, words) in [
        ("[follow]\nanchr = [0, 0]", "anchr"),
        ("[screen]\nsnap = \"hole\"", "hole"),
        ("[follow]\nsmoothing = { half_lif = 0.1 }", "half_lif"),
        ("[follow]\nsmoothing = { x = \"none\", z = \"none\" }", "z"),
        ("[bounds]\nrect = [0, 0, 5]", "x, y, width and height"),
        ("[screen]\nsize = [-1, 5]", "-1"),
        ("[follow]\nsmoothing = [1]", "one setting for both axes, or a table of x and y"),
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
        let settings = read(text).expect("valid");
        assert_eq!(settings.hands.back, back);
        assert_eq!(through_toml(&settings), settings);
    }
    let error = read("[hands]\nreturn = \"go\"\n").unwrap_err();
    assert!(error.contains("expected a time in seconds"), "{error}");
    let mut settings = Settings::default();
    settings.hands.back = HandReturn::Seconds(-1.0);
    assert_eq!(settings.validate().unwrap_err().field(), "hands.return");
}

/// What a file leaves out has the default of its documentation.
#[test]
fn what_a_file_leaves_out_has_its_default() {
    let text = r#"
        [[zones]]
        rect = [0, 0, 10, 10]
        [[lures]]
        at = [3, 4]
        radius = 20
    "#;
    let settings = read(text).expect("a tuning");
    assert_eq!((settings.zones[0].fade, settings.lures[0].strength), (0.5, 0.5));
}

/// In a file written by hand, the length of a rumble may be a whole number, and one without end is a word.
#[test]
fn a_hold_may_be_whole_or_endless() {
    let json = |hold: &str| read_json(&format!("{{\"hold\": {hold}}}"));
    let toml = |hold: &str| read_toml(&format!("hold = {hold}"));
    let endless = ("\"inf\"", f64::INFINITY);
    let both = [("5", 5.0), ("-5", -5.0), ("0.25", 0.25), endless, ("\"-inf\"", -f64::INFINITY)];
    for (text, hold) in both {
        let expected = Ok(Shake { hold, ..Shake::default() });
        assert_eq!((json(text), toml(text)), (expected.clone(), expected), "{text}");
    }
    assert_eq!(toml("inf").map(|shake| shake.hold), Ok(f64::INFINITY));
    for error in [json("\"soon\""), toml("\"soon\"")] {
        let error = error.unwrap_err();
        assert!(error.contains("a number, or \"inf\""), "{error}");
    }
}
