//! States that are written and read: the camera continues exactly the same, or refuses them whole.

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{
    Bounds, Camera, CameraState, Cue, CueCall, Ease, LookAhead, Lure, Rect, Rooms, Settings, Shake,
    Smoothing, Subject, View, Zone, ZoomNudge,
};

use super::{json, read_json, read_toml, through_json, through_toml, toml};
use crate::support::properties::properties;

fn settings() -> Settings {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::Settle(0.5).into();
    settings.zones = vec![Zone { zoom: Some(1.5), ..Zone::new(Rect::new([0, 0], [200, 900])) }];
    let rumble = Some(Shake { hold: f64::INFINITY, ..Shake::default() });
    let zoom = Some(ZoomNudge::default());
    settings.cues.insert("slide".into(), Cue { shake: rumble, zoom, ..Cue::default() });
    settings
}

fn camera(settings: Settings) -> Camera {
    Camera::new(settings).expect("valid settings")
}

/// A camera with everything under way.
fn busy(steps: &[(u8, f64, f64)]) -> Camera {
    let mut camera = camera(settings());
    for (what, x, y) in steps {
        let at = DVec2::new(*x, *y);
        match what {
            0 => camera.zoom_to(1.0 + x.abs() / 500.0),
            1 => camera.glide(y.abs() / 100.0, Ease::InOut),
            2 => camera.cue("slide", CueCall::at(at)).expect("a cue"),
            3 => camera.rotate_to(x / 100.0),
            4 => camera.aim_at(at),
            5 => {
                let party = [Subject::from(at).with_id(1), Subject::from([100, 50]).with_id(2)];
                camera.follow_all(0.02, &party);
            }
            6 => camera.grab([40.0, 50.0].into()),
            7 => camera.release(),
            8 => camera
                .set_bounds(Some(Bounds::new(Rect::new([-900, -900], [900, 900]))), 0.5)
                .expect("good bounds"),
            12 => camera.show(&Rect::from_corner_size(at, [640, 360]), 0.5, Ease::InOut),
            13 => camera.end_shakes(0.5),
            _ => {
                camera.follow(0.02, at);
            }
        }
    }
    camera
}

fn steps() -> impl Strategy<Value = Vec<(u8, f64, f64)>> {
    prop::collection::vec((0..14_u8, -400.0..400.0_f64, -400.0..400.0_f64), 1..30)
}

properties! {
    #![cases(300)]

    #[test]
    fn a_state_survives_json_and_toml(steps in steps()) {
        let state = busy(&steps).state();
        prop_assert_eq!(through_json(&state), state);
        prop_assert_eq!(through_toml(&state), state);
    }

    /// Two corners of a rectangle are restored exactly, even if no width leads from one to the other.
    #[test]
    fn a_rectangle_of_two_corners_survives(
        one in (-1e7..1e7_f64, -1e-3..1e3_f64), other in (-1e3..1e7_f64, -1e-9..1e9_f64),
    ) {
        let rect = Rect::new(DVec2::from(one), DVec2::from(other));
        let settings = Settings { bounds: Some(Bounds::new(rect)), ..settings() };
        prop_assert_eq!(&through_toml(&settings), &settings);
        prop_assert_eq!(&through_json(&settings), &settings);
    }
}

/// A whole ride, and one that is saved, written, read and continued by another camera.
#[test]
fn a_ride_goes_on_from_what_was_written() {
    for rooms in [false, true] {
        let mut whole = camera(of_a_ride(rooms));
        let views: Vec<View> = (0..240).map(|number| frame(&mut whole, number)).collect();
        for cut in [1, 33, 75, 100, 115, 150, 200] {
            let mut first = camera(of_a_ride(rooms));
            (0..cut).for_each(|number| {
                frame(&mut first, number);
            });
            let mut second = camera(of_a_ride(rooms));
            second.restore(through_json(&first.state())).expect("a state of the same settings");
            for number in cut..240 {
                let view = frame(&mut second, number);
                assert_eq!(view, views[number as usize], "cut at {cut}, frame {number}");
            }
        }
    }
}

fn of_a_ride(rooms: bool) -> Settings {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::Settle(0.5).into();
    settings.follow.look_ahead = Some(LookAhead::default());
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [3840, 960])));
    settings.lures = vec![Lure { at: DVec2::new(500.0, 300.0), radius: 200.0, strength: 0.5 }];
    settings.zones = vec![Zone { zoom: Some(1.5), ..Zone::new(Rect::new([400, 0], [900, 900])) }];
    settings.rooms = rooms.then(|| Rooms { slide: Some(0.4), ..Rooms::default() });
    settings
}

/// A frame of the ride, with commands now and then.
fn frame(camera: &mut Camera, number: u32) -> View {
    let t = f64::from(number) / 60.0;
    let wren = DVec2::new(300.0 + 140.0 * t, 400.0 + 90.0 * (1.7 * t).sin());
    match number {
        30 => camera.shake(&Shake { hold: 2.0, ..Shake::default() }, 1.0),
        70 => camera.zoom_to(2.0),
        110 => camera.glide(0.7, Ease::InOut),
        _ => {}
    }
    if number % 100 < 60 {
        camera.follow(1.0 / 60.0, wren)
    } else {
        let kite = Subject::from(wren + DVec2::new(120.0, -30.0)).with_id(2).with_margin(10.0);
        camera.follow_all(1.0 / 60.0, &[Subject::from(wren).with_id(1), kite])
    }
}

/// A state with one damaged number is refused whole, or does no harm.
#[test]
fn spoilt_states_do_no_harm() {
    let good = busy(&[
        (0, 200.0, 1.0),
        (9, 10.0, 20.0),
        (2, 5.0, 5.0),
        (5, 30.0, 40.0),
        (1, 0.0, 90.0),
        (9, 50.0, 60.0),
    ]);
    let state = json(&good.state());
    let mut tried = 0;
    let mut paths = Vec::new();
    numbers_of(&state, String::new(), &mut paths);
    for path in &paths {
        for bad in [-1e300, 1e300, -7.0, 200.0] {
            let mut spoilt = state.clone();
            *spoilt.pointer_mut(path).unwrap() = bad.into();
            let Ok(spoilt) = read_json::<CameraState>(&spoilt.to_string()) else { continue };
            let mut camera = good.clone();
            let before = camera.state();
            if camera.restore(spoilt).is_err() {
                assert_eq!(camera.state(), before, "{path}");
                continue;
            }
            tried += 1;
            for frame in 0..30 {
                let view = camera.follow(1.0 / 60.0, [f64::from(frame), 40.0]);
                assert!(view.centre().is_finite() && view.scale() > 0.0, "{path} = {bad}");
            }
        }
    }
    assert!(paths.len() > 50 && tried > 50, "{} numbers, {tried} tried", paths.len());
}

/// An invalid number is refused at any position, and the camera does not change.
#[test]
fn no_number_may_be_none() {
    let (begin, party, cue) = ((0, 200.0, 1.0), (5, 30.0, 40.0), (2, 5.0, 5.0));
    let (follow, grab, show) = ((9, 50.0, 60.0), (6, 0.0, 0.0), (12, 70.0, 80.0));
    // Some commands wait for the next frame, and have other numbers after it.
    for last in [
        &[follow][..],
        &[party],
        &[grab],
        &[grab, follow],
        &[show],
        &[show, follow],
        &[(8, 0.0, 0.0)],
        &[(13, 0.0, 0.0), follow],
    ] {
        let steps = [&[begin, (9, 10.0, 20.0), cue, party, (1, 0.0, 90.0)], last].concat();
        every_number_is_refused(&busy(&steps));
    }
}

fn every_number_is_refused(good: &Camera) {
    let text = toml(&good.state());
    let (mut refused, mut kept) = (0, Vec::new());
    for (index, line) in text.lines().enumerate() {
        for spoilt in spoilt_lines(line) {
            let lines = text.lines().enumerate();
            let whole: Vec<&str> =
                lines.map(|(at, line)| if at == index { &spoilt } else { line }).collect();
            let Ok(state) = read_toml::<CameraState>(&whole.join("\n")) else {
                refused += 1;
                continue;
            };
            let mut camera = good.clone();
            match camera.restore(state) {
                Err(_) => refused += 1,
                Ok(()) => kept.push(spoilt.clone()),
            }
        }
    }
    assert!(refused > 60 && kept.is_empty(), "{refused} refused, but not {kept:#?}");
}

/// Replaces each decimal number of a file by one that is not finite, one at a time.
fn spoilt_lines(line: &str) -> Vec<String> {
    let Some((key, value)) = line.split_once(" = ") else { return Vec::new() };
    let is_number = |part: &str| part.contains('.') && part.parse::<f64>().is_ok();
    let parts: Vec<&str> = value.split_inclusive([',', ' ', '[', ']', '{', '}']).collect();
    let spoilt = |number: usize| {
        let with = parts.iter().enumerate().map(|(at, part)| {
            let word = part.trim_end_matches([',', ' ', '[', ']', '{', '}']);
            if at == number { part.replace(word, "nan") } else { (*part).to_owned() }
        });
        format!("{key} = {}", with.collect::<String>())
    };
    let words = parts.iter().map(|part| part.trim_end_matches([',', ' ', '[', ']', '{', '}']));
    words.enumerate().filter(|(_, word)| is_number(word)).map(|(at, _)| spoilt(at)).collect()
}

/// The paths of all numbers in a value.
fn numbers_of(value: &serde_json::Value, path: String, found: &mut Vec<String>) {
    match value {
        serde_json::Value::Number(_) => found.push(path),
        serde_json::Value::Array(items) => items
            .iter()
            .enumerate()
            .for_each(|(index, item)| numbers_of(item, format!("{path}/{index}"), found)),
        serde_json::Value::Object(items) => {
            items.iter().for_each(|(key, item)| numbers_of(item, format!("{path}/{key}"), found));
        }
        _ => {}
    }
}

#[test]
fn a_count_of_another_kind_is_refused() {
    let mut state = json(&busy(&[]).state());
    *state.pointer_mut("/shakes/begun").unwrap() = true.into();
    let error = read_json::<CameraState>(&state.to_string()).unwrap_err();
    assert!(error.contains("expected a whole number"), "{error}");
}

/// Lists that are too long are refused when they are read.
#[test]
fn too_long_lists_are_refused() {
    let mut state = json(&busy(&[(5, 1.0, 2.0)]).state());
    let members =
        state.pointer_mut("/goal/party/members").and_then(|it| it.as_array_mut()).unwrap();
    let one = members[0].clone();
    members.resize(17, one);
    let error = read_json::<CameraState>(&state.to_string()).unwrap_err();
    assert!(error.contains("length 17") && error.contains("at most 16"), "{error}");
}

#[test]
fn states_and_cameras_are_small() {
    println!("state {} bytes, camera {} bytes", size_of::<CameraState>(), size_of::<Camera>());
    assert!(size_of::<CameraState>() <= 7_000);
    assert!(size_of::<Camera>() <= 11_000);
}

/// The last member of a party leaves like any other if it has no position.
#[test]
fn a_party_that_loses_its_last_position_stays_where_it_is() {
    let mut camera = Camera::new(Settings::default()).unwrap();
    let one = |x: f64| Subject::from([x, 0.0]).with_id(1);
    camera.follow_all(0.0, &[one(0.0), Subject::from([90, 0]).with_id(2)]);
    let before = camera.follow_all(0.1, &[one(4.0), Subject::from([90, 0]).with_id(2)]);
    for _frame in 0..3 {
        let view = camera.follow_all(0.1, &[one(f64::NAN)]);
        assert!((view.centre() - before.centre()).length() < 60.0, "{:?}", view.centre());
        let state = camera.state();
        assert_eq!(camera.restore(state), Ok(()));
    }
}

/// So far away that a room is narrower than the precision of coordinates.
#[test]
fn a_state_in_a_room_far_away_is_restored() {
    let settings = Settings { rooms: Some(Rooms::default()), ..Settings::default() };
    let mut camera = Camera::new(settings).unwrap();
    camera.follow(0.0, [-1.5e22, 0.0]);
    camera.follow(0.1, [-1.5e22, 40.0]);
    let state = camera.state();
    assert_eq!(camera.restore(state), Ok(()));
}

/// Two states that differ in one shake, or one member of a party, are not equal.
#[test]
fn states_differ_by_what_is_in_their_lists() {
    for what in [2, 5] {
        let [one, other] = [[3.0, 4.0], [3.0, 5.0]].map(|[x, y]| busy(&[(what, x, y)]).state());
        assert_ne!(one, other);
    }
}
