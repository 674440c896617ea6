//! What happens in a take happens at its own time, whatever the frame rate.

use std::collections::BTreeMap;

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, ItineraryRun, View};
use velvet_pan_takes::{BuiltIn, Files, Happening, Overrides, Ride, Run, Take};

/// A ride past two others, with a second camera.
const RIDE: &str = r#"
seconds = 3.0
watch = ["courier"]

[subjects.courier]
keys = [[0.0, 0.0, 0.0], [3.0, 450.0, 60.0]]

[subjects.kite]
keys = [[0.0, 100.0, -60.0], [3.0, 300.0, -120.0]]

[subjects.goat]
path = "goat.csv"

[cameras.bell]
aim = [500.0, 0.0]

[tuning]
follow.smoothing = { half_life = 0.25 }

[tuning.cues.gong]
pause = 0.4
zoom = { by = 0.2, rise = 0.1, hold = 0.1, fade = 0.3 }

[tuning.cues.swoop]
glide = 0.5
"#;

const GOAT: &str = "t,x,y,cut\n0,-200,0,0\n1.01,-50,0,0\n1.011,3000,0,1\n3,3300,0,0\n";

fn take(events: &str, fps: f64) -> Take {
    let text = RIDE.replacen("seconds", &format!("fps = {fps}\nseconds"), 1) + events;
    let files = [
        BuiltIn { name: "ride.toml", text: text.into() },
        BuiltIn { name: "goat.csv", text: GOAT.into() },
    ];
    let (files, nothing) = (Files::BuiltIn(&files), Overrides::default());
    Take::read(files, "ride.toml".as_ref(), &nothing).expect("a take")
}

/// The views at full twelfths of a second, which frames of all these rates share.
fn views(events: &str, fps: f64) -> BTreeMap<u32, View> {
    let take = take(events, fps);
    let mut run = Run::new(&take).expect("a run");
    let rows = (3.0 * fps) as u32;
    let moments = (0..=rows).map(|_| run.step(&take));
    let twelfth =
        |t: f64| ((t * 12.0 - (t * 12.0).round()).abs() < 1e-6).then(|| (t * 12.0).round() as u32);
    moments.filter_map(|moment| Some((twelfth(moment.t)?, moment.view))).collect()
}

/// The greatest distance of two pictures' corners, in screen pixels.
fn apart(one: &View, other: &View) -> f64 {
    let shown = other.visible_world();
    let off =
        |corner: DVec2| one.world_to_screen_f64(corner).distance(other.world_to_screen_f64(corner));
    off(shown.min).max(off(shown.max))
}

#[test]
fn an_event_happens_at_its_own_time() {
    let events = [
        "zoom = 2.0",
        "rotate = 0.4",
        "notches = 2.0\nabout = [250.0, 40.0]",
        "show = [600.0, 100.0, 200.0, 100.0]\nglide = 0.8",
        "glide = 0.5",
        "watch = [\"kite\"]\nglide = 0.5",
        "watch = [\"kite\"]",
        "watch = [\"goat\"]\ncut = true",
        "aim = [700.0, 40.0]\nglide = 0.6",
        "bounds = [-100.0, -90.0, 320.0, 180.0]\nglide = 0.7",
        "cue = \"gong\"",
        "cue = \"swoop\"",
        "shake = 2.0",
        "pan = [40.0, 10.0]\n[[events]]\nat = 1.517\npan = [0.0, 0.0]",
        "camera = \"bell\"\nglide = 0.9",
        "show = [600.0, 100.0, 200.0, 100.0]\n[[events]]\nat = 2.007\nrelease = true",
        "travel = [[150.0, 0.0], [400.0, 80.0, 1.5], [600.0, -40.0]]\nglide = 0.9\nease = \"linear\"",
        "travel = [[150.0, 0.0], [300.0, 80.0, 1.2, 0.2]]\nglide = 0.6\n[[events]]\nat = 1.907\nrelease = true",
        "grab = [100.0, 90.0]\n[[events]]\nat = 1.307\ndrag = [180.0, 60.0]\n[[events]]\nat = 1.9\nrelease = true",
        "zoom_now = 1.7",
        "rotate_now = 0.3",
    ];
    for event in events {
        let text = format!("[[events]]\nat = 1.01\n{event}\n");
        let fine = views(&text, 240.0);
        let nothing = views("", 240.0);
        let differs = fine.iter().any(|(at, view)| apart(view, &nothing[at]) > 1.0);
        assert!(differs || event == "glide = 0.5", "{event}: nothing happened");
        for fps in [24.0, 60.0] {
            let coarse = views(&text, fps);
            let worst = coarse.iter().map(|(at, view)| apart(view, &fine[at])).fold(0.0, f64::max);
            println!("{event:?} at {fps}/s: {worst:.4}");
            assert!(worst < 0.2, "{event} at {fps}/s: {worst}");
        }
    }
}

#[test]
fn a_subject_teleports_at_its_own_time() {
    let watch = "[[events]]\nat = 0.0\nwatch = [\"goat\"]\n";
    let fine = views(watch, 240.0);
    for fps in [24.0, 60.0] {
        let worst =
            views(watch, fps).iter().map(|(at, view)| apart(view, &fine[at])).fold(0.0, f64::max);
        assert!(worst < 0.2, "at {fps}/s: {worst}");
    }
}

#[test]
fn both_events_of_a_long_frame_happen() {
    let events = "[[events]]\nat = 1.02\nshow = [600.0, 100.0, 200.0, 100.0]\n\
        [[events]]\nat = 1.11\nshow = [-300.0, -50.0, 200.0, 100.0]\nglide = 0.5\n";
    let (take, fine) = (take(events, 60.0), views(events, 60.0));
    let mut run = Run::new(&take).expect("a run");
    run.skip_to(&take, 61);
    let hitch = run.long_step(&take, 15).view;
    assert_eq!(fine.keys().nth(15), Some(&15));
    let gap = apart(&hitch, &fine[&15]);
    assert!(gap < 0.01, "{gap}");
}

/// The events of a take, run in a game as an itinerary, give the ride of the take.
#[test]
fn a_take_is_a_scene_of_a_game() {
    let take = crate::tools::demo("cutscene");
    let (mut camera, mut run) = (
        Camera::new(take.settings.clone()).expect("valid settings"),
        ItineraryRun::new(take.itinerary()).expect("a scene"),
    );
    camera.resize(take.window);
    let mut marks = Vec::new();
    for (row, moment) in Ride::new(&take).expect("a ride").enumerate() {
        let step = if row == 0 { 0.0 } else { 1.0 / take.fps };
        for notice in run.advance(step, &mut camera) {
            marks.push(notice.name().to_owned());
        }
        let view = camera.follow(step, take.subjects["courier"].subject(moment.t));
        assert!(apart(&view.steady(), &moment.view.steady()) < 1e-9, "at {}", moment.t);
    }
    assert!(run.is_over());
    assert_eq!(marks, ["The bell rings."]);
    assert_eq!(take.mark_at(12.0), Some("The bell rings."));
    assert_eq!((take.mark_at(11.0), take.mark_at(14.5)), (None, None));
}

/// What comes after a wait is put off by it, in a take as in a game, at any frame rate.
#[test]
fn events_wait() {
    let events = "[gates]\nread = 2.577\n[[events]]\nat = 0.1\naim = [100.0, 0.0]\ncut = true\nzoom = 1.1\n[[events]]\nat = 0.5\narrive = true\n\
        [[events]]\nat = 0.6\nmark = \"there\"\n[[events]]\nat = 1.0\ngate = \"read\"\nzoom_now = 1.0\n\
        [[events]]\nat = 1.2\nmark = \"gone\"\n";
    let fine = views(events, 240.0);
    for fps in [24.0, 60.0] {
        let take = take(events, fps);
        let mut scene = ItineraryRun::new(take.itinerary()).expect("a scene");
        let mut camera = Camera::new(take.settings.clone()).expect("valid settings");
        camera.resize(take.window);
        let mut marks = Vec::new();
        for (row, moment) in Ride::new(&take).expect("a ride").enumerate() {
            let step = if row == 0 { 0.0 } else { 1.0 / fps };
            // A gate of a game opens between two frames; this one opens in the frame of its time.
            if moment.t >= 2.577 {
                scene.open("read");
            }
            let told = scene.advance(step, &mut camera);
            marks.extend(told.map(|notice| (notice.name().to_owned(), moment.t)));
            match moment.t < 0.1 {
                true => camera.follow(step, take.subjects["courier"].subject(moment.t)),
                false => camera.advance(step),
            };
            // The clock of the events stands.
            assert!(!(2.45..2.577).contains(&moment.t) || (moment.events_t - 1.0).abs() < 1e-9);
        }
        // The zoom is reached when it stands, which frames tell to their length.
        let [(ref there, at), (ref gone, end)] = marks[..] else { panic!("{marks:?}") };
        assert_eq!((there.as_str(), gone.as_str()), ("there", "gone"));
        assert!((0.6..2.4).contains(&at), "{at}");
        assert!((end - (2.577 + 0.2)).abs() <= 1.01 / fps, "{end}");
        let coarse = views(events, fps);
        let apart = coarse.iter().map(|(at, view)| apart(view, &fine[at])).fold(0.0, f64::max);
        assert!(apart < 1e-6, "at {fps}: {apart}");
    }
}

#[test]
fn a_gate_that_nothing_opens_holds_up_the_rest() {
    let events = "[[events]]\nat = 1.0\ngate = \"never\"\n[[events]]\nat = 1.5\nzoom_now = 3.0\n";
    let (never, nothing) = (views(events, 60.0), views("", 60.0));
    assert!(never.iter().all(|(at, view)| apart(view, &nothing[at]) == 0.0));
    // A ride that is continued while it waits.
    let take = take(
        &events.replace("[[events]]", "[gates]\nnever = 2.0\n[[events]]").replacen(
            "[gates]\nnever = 2.0\n[[events]]\nat = 1.5",
            "[[events]]\nat = 1.5",
            1,
        ),
        60.0,
    );
    let mut run = Run::new(&take).expect("a run");
    run.skip_to(&take, 90);
    let mut resumed = Run::resumed(&take, &run.state(&take).expect("a state")).expect("the same");
    run.skip_to(&take, 160);
    resumed.skip_to(&take, 160);
    assert_eq!(run.view().lens().zoom(), 3.0);
    assert_eq!(run.view(), resumed.view());
}

/// Landings, teleports and commands are told in the frame in which they happened.
#[test]
fn what_happens_is_told() {
    let path = "t,x,y,grounded,cut\n0,0,0,1,0\n0.5,0,0,1,0\n0.6,0,-9,0,0\n0.9,0,0,0,0\n1,0,0,1,0\n2,900,0,1,1\n3,900,0,1,0\n";
    let text =
        "seconds = 3.0\n[subjects.wren]\npath = \"wren.csv\"\n[[events]]\nat = 1.51\nzoom = 2.0\n";
    let files = [
        BuiltIn { name: "ride.toml", text: text.into() },
        BuiltIn { name: "wren.csv", text: path.into() },
    ];
    let files = Files::BuiltIn(&files);
    let take = Take::read(files, "ride.toml".as_ref(), &Overrides::default()).expect("a take");
    let told: Vec<(f64, Happening)> = Ride::new(&take)
        .expect("a ride")
        .filter_map(|moment| Some((moment.t, moment.happening?)))
        .collect();
    let [(landed, Happening::Landing), (told, Happening::Command), (away, Happening::Teleport)] =
        told[..]
    else {
        panic!("{told:?}");
    };
    let near = |t: f64, at: f64| (at..at + 1.0 / 60.0 + 1e-9).contains(&t);
    assert!(near(landed, 1.0) && near(told, 1.51) && near(away, 2.0), "{landed} {told} {away}");
}

/// An event makes an outline the bounds, at its time, and one that is not there is a fault with its line.
#[test]
fn an_event_sets_an_outline() {
    let outlined = "[tuning.outlines.cellar]\nparts = [[0.0, -90.0, 400.0, 180.0], [0.0, -90.0, 320.0, 900.0]]\n";
    let events = |name: &str| format!("{outlined}[[events]]\nat = 1.0\noutline = \"{name}\"\n");
    let take_of = |name: &str| {
        let text = RIDE.to_owned() + &events(name);
        let files = [
            BuiltIn { name: "ride.toml", text: text.into() },
            BuiltIn { name: "goat.csv", text: GOAT.into() },
        ];
        Take::read(Files::BuiltIn(&files), "ride.toml".as_ref(), &Overrides::default())
    };
    let shown = views(&events("cellar"), 60.0);
    let at = |twelfths: u32| shown[&twelfths].visible_world();
    assert!(at(11).min.x < 0.0 && at(14).min.x >= 0.0 && at(35).max.x <= 400.0);
    let fault = take_of("attic").expect_err("no such outline").to_string();
    assert!(
        fault.contains("events.0.outline: no outline \"attic\": the tuning has cellar"),
        "{fault}"
    );
}
