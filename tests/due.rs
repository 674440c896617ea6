//! Commands with a time of their own within a frame.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, Command, Cue, CueCall, Ease, Rect, Rooms, Settings, Shake, Smoothing, Subject,
    Travel, View, Waypoint, Zone,
};

fn camera() -> Camera {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.2).into();
    settings.cues.insert("gong".into(), Cue { pause: Some(0.3), ..Cue::default() });
    let mut camera = Camera::new(settings).expect("valid settings");
    camera.follow(0.0, runner(0.0));
    camera
}

fn runner(t: f64) -> Subject {
    Subject::from([150.0 * t, 0.0]).with_velocity([150.0, 0.0])
}

fn show(x: f64) -> Command {
    let rect = Rect::around([x, 0.0], [160.0, 90.0]);
    Command::Show { rect, seconds: 0.4, ease: Ease::Smooth }
}

/// One long frame of 0.3 s, with commands at times since its start.
fn hitch(told: &[(f64, Command)]) -> View {
    let mut camera = camera();
    for (at, command) in told {
        camera.tell_due(command.clone(), 0.3 - at).expect("valid bounds");
    }
    camera.follow(0.3, runner(0.3))
}

/// The same in frames of a millisecond.
fn smooth(told: &[(f64, Command)]) -> View {
    let mut camera = camera();
    let mut view = camera.view();
    for frame in 1..=300 {
        let t = f64::from(frame) / 1000.0;
        for (_, command) in told.iter().filter(|(at, _)| (at - t).abs() < 1e-9) {
            camera.tell(command.clone()).expect("valid bounds");
        }
        view = camera.follow(0.001, runner(t));
    }
    view
}

#[test]
fn several_of_one_kind_act_one_after_the_other() {
    let told = [(0.05, show(400.0)), (0.12, show(-300.0)), (0.2, Command::Release)];
    let (once, often) = (hitch(&told), smooth(&told));
    assert!((once.centre() - often.centre()).length() < 0.05, "{once:?} {often:?}");
    let [first, second] = [&told[..1], &told[1..]].map(hitch);
    assert!((once.centre() - first.centre()).length() > 10.0);
    assert!((once.centre() - second.centre()).length() > 10.0);
}

#[test]
fn they_keep_the_order_of_their_times() {
    let told = [(0.2, show(400.0)), (0.1, Command::Cut)];
    assert!((hitch(&told).centre() - smooth(&told).centre()).length() < 0.05);
    let later = [(0.1, show(400.0)), (0.2, Command::Cut)];
    let view = hitch(&later);
    assert!((view.centre() - smooth(&later).centre()).length() < 0.05);
    assert!(view.is_cut_from(&camera().view()) && view.centre().x < 45.0, "{view:?}");
}

#[test]
fn a_cut_without_a_time_leaves_those_with_one() {
    let mut camera = camera();
    camera.cut();
    camera.tell_due(Command::ZoomTo(2.0), 0.15).expect("a zoom");
    let view = camera.follow(0.3, [900.0, 0.0]);
    assert!((view.lens().zoom() - 2.0_f64.sqrt()).abs() < 1e-9); // after one half-life
    assert_eq!(view.centre(), DVec2::new(900.0, 0.0));
}

#[test]
fn a_cue_happened_when_it_says() {
    let mut late = camera();
    late.cue("gong", CueCall::anywhere().since(0.2)).expect("a cue");
    late.follow(0.3, runner(0.3));
    let mut exact = camera();
    exact.cue("gong", CueCall::anywhere()).expect("a cue");
    exact.follow(0.1, runner(0.1));
    exact.follow(0.2, runner(0.3));
    for t in [0.35, 0.45, 0.8] {
        let [a, b] = [&mut late, &mut exact].map(|camera| camera.follow(0.05, runner(t)));
        assert!((a.centre() - b.centre()).length() < 0.01, "{t}: {a:?} {b:?}");
    }
}

#[test]
fn without_a_time_or_in_no_time_they_act_as_told() {
    let mut camera = camera();
    for (seconds, before_end) in [(0.1, 0.0), (0.1, -1.0), (0.1, f64::NAN), (0.0, 0.05)] {
        let mut told = camera.clone();
        camera.tell_due(Command::RotateTo(0.3), before_end).expect("a rotation");
        told.rotate_to(0.3);
        for seconds in [seconds, 0.1] {
            assert_eq!(camera.follow(seconds, runner(0.0)), told.follow(seconds, runner(0.0)));
        }
    }
}

/// What acts in a frame of 0 seconds lasts, also while a cut waits for somebody to cut to.
#[test]
fn a_frame_of_no_time_keeps_what_acts_in_it() {
    let mut camera = camera();
    camera.rotate_to(0.5);
    camera.follow(0.01, runner(0.0));
    camera.follow(0.01, runner(0.0));
    camera.cut();
    camera.tell_due(Command::ZoomNow(2.0), 0.01).expect("a zoom");
    assert_eq!(camera.advance(0.0).lens().zoom(), 2.0);
    assert_eq!(camera.advance(0.1).lens().zoom(), 2.0);
    assert_eq!(camera.follow(0.1, runner(0.1)).lens().zoom(), 2.0);
}

/// A moment before the frame is its start.
#[test]
fn what_was_due_before_the_frame_acts_at_its_start() {
    let [early, start] = [5.0, 0.1].map(|before_end| {
        let mut camera = camera();
        camera.tell_due(Command::ZoomTo(3.0), before_end).expect("a zoom");
        camera.follow(0.1, runner(0.1))
    });
    assert_eq!(early, start);
}

#[test]
fn none_is_lost_if_there_are_many() {
    let mut camera = camera();
    for count in 1..=40 {
        camera.tell_due(Command::ZoomTo(1.0), 0.001 * f64::from(count)).expect("a zoom");
    }
    camera.tell_due(Command::RotateTo(0.5), 0.05).expect("a rotation");
    camera.follow(0.1, runner(0.1));
    let view = camera.follow(9.0, runner(9.1));
    assert!((view.lens().rotation() - 0.5).abs() < 1e-6);
}

#[test]
fn bounds_are_checked_when_they_are_told() {
    let bad = Bounds::new(Rect::new([0.0, 0.0], [f64::NAN, 1.0]));
    let mut camera = camera();
    let told = Command::SetBounds { bounds: Some(bad), seconds: 0.0 };
    assert_eq!(camera.tell_due(told, 0.1).unwrap_err().field(), "bounds.rect");
    for command in [
        Command::ZoomTo(f64::NAN),
        Command::AimAt(DVec2::NAN),
        Command::Pan(Vec2::INFINITY),
        Command::Glide { seconds: f64::INFINITY, ease: Ease::Smooth },
        Command::Shake { shake: Shake { hz: -1.0, ..Shake::default() }, strength: f64::NAN },
    ] {
        camera.tell_due(command, 0.05).expect("nothing to refuse");
        assert!(camera.follow(0.1, runner(0.1)).centre().is_finite());
    }
}

/// What waits is the next frame's input. After a restore it is told again; a cut and a switch last.
#[test]
fn a_restored_camera_is_told_again() {
    let mut camera = camera();
    let state = camera.state();
    let tell = |camera: &mut Camera| {
        camera.tell_due(show(500.0), 0.07).expect("a rectangle");
        camera.tell_due(Command::ZoomTo(2.0), 0.02).expect("a zoom");
        camera.rotate_to(0.3);
    };
    tell(&mut camera);
    assert_eq!(camera.state(), state);
    let once = camera.follow(0.1, runner(0.1));
    let mut other = Camera::new(camera.settings().clone()).expect("valid settings");
    other.restore(state).expect("a sound state");
    tell(&mut other);
    assert_eq!(other.follow(0.1, runner(0.1)), once);
    // Without it, nothing of that happens.
    tell(&mut other);
    other.restore(state).expect("a sound state");
    let view = other.follow(0.1, runner(0.1));
    assert!(!other.is_in_hand() && view.lens().zoom() == 1.0);
    // A world that loops moves what waits.
    camera.restore(state).expect("a sound state");
    tell(&mut camera);
    camera.translate([-1024.0, 0.0]);
    let moved = camera.follow(0.1, [15.0 - 1024.0, 0.0]);
    assert!((moved.centre() - once.centre() + DVec2::new(1024.0, 0.0)).length() < 1e-9);
    // A cut waits for somebody to follow.
    camera.cut();
    camera.advance(0.1);
    let state = camera.state();
    camera.restore(state).expect("a sound state");
    let cut = camera.follow(0.1, [900.0, 40.0]).centre();
    assert!(cut.distance(DVec2::new(900.0, 40.0)) < 1e-9, "{cut}");
}

/// A cue that is long over cuts, also to somebody who comes in the same frame.
#[test]
fn a_late_cue_cuts_to_who_comes() {
    let mut settings = camera().settings().clone();
    settings.cues.insert("drum".into(), Cue { glide: Some(0.4), ..Cue::default() });
    let mut camera = Camera::new(settings).expect("valid settings");
    camera.follow(0.0, runner(0.0));
    camera.advance(0.1);
    camera.cue("drum", CueCall::anywhere().since(0.5)).expect("a cue");
    assert_eq!(camera.follow(0.02, [900.0, 40.0]).centre(), DVec2::new(900.0, 40.0));
}

/// Of two ways in one frame both begin, each at its moment.
#[test]
fn two_travels_in_one_frame_both_begin() {
    let way = |x: f64| {
        Command::Travel(Travel::new(
            [Waypoint::at([x, 300.0]), Waypoint::at([x + 400.0, 0.0])],
            1.0,
        ))
    };
    let told = [(0.05, way(-200.0)), (0.2, way(300.0))];
    let (once, often) = (hitch(&told), smooth(&told));
    assert!((once.centre() - often.centre()).length() < 0.1, "{once:?} {often:?}");
    let second = hitch(&told[1..]);
    assert!((once.centre() - second.centre()).length() > 10.0);
}

/// Points and zooms are those of the moment at which they are told, and what acts at once drops what it contradicts.
#[test]
fn what_waits_means_what_it_meant_when_it_was_told() {
    let mut camera = camera();
    let grabbed = camera.view().screen_to_world(Vec2::new(40.0, 30.0));
    camera.grab(Vec2::new(40.0, 30.0));
    camera.rotate_now(0.7);
    let view = camera.follow(0.1, runner(0.1));
    assert!((view.world_to_screen(grabbed) - Vec2::new(40.0, 30.0)).length() < 1e-3);
    camera.release();
    camera.zoom_by(2.0, None);
    camera.zoom_by(1.0, None);
    camera.zoom_now(1.5);
    camera.follow(0.1, runner(0.2));
    assert_eq!(camera.follow(1.0, runner(1.2)).lens().zoom(), 1.5);
    camera.glide(0.5, Ease::Smooth);
    assert!(camera.is_gliding(), "a getter sees what waits");
    camera.grab(Vec2::new(40.0, 30.0));
    camera.place_at([0.0, 0.0]);
    camera.follow(0.1, runner(1.3));
    assert!(!camera.is_in_hand());
}

/// Another subject comes at a moment of the frame, at the velocity that the game gives.
#[test]
fn another_subject_came_at_its_moment() {
    let kite = |t: f64| Subject::from([300.0 - 80.0 * t, 40.0]).with_velocity([-80.0, 0.0]);
    let mut long = camera();
    long.tell_due(Command::SwitchSubject, 0.2).expect("a command");
    let long = long.follow(0.3, kite(0.3));
    let mut short = camera();
    short.follow(0.1, runner(0.1));
    short.switch_subject();
    short.follow(1e-9, kite(0.1));
    let short = short.follow(0.2, kite(0.3));
    assert!((long.centre() - short.centre()).length() < 0.01, "{long:?} {short:?}");
}

/// The one that is left crosses into a zone, and into a room, before the other one comes in the same frame.
#[test]
fn the_one_that_is_left_crosses_its_lines_first() {
    let kite = |t: f64| Subject::from([300.0 - 80.0 * t, 40.0]).with_velocity([-80.0, 0.0]);
    let rect = Rect::new([6, -90], [400, 90]);
    let zone = |s: &mut Settings| s.zones.push(Zone { zoom: Some(2.0), ..Zone::new(rect) });
    let room = |s: &mut Settings| {
        let list = vec![Rect::new([-9000, -90], [3, 90]), rect];
        s.rooms = Some(Rooms { list, slide: Some(0.4), overstep: 0.0, ..Rooms::default() });
    };
    for set in [&zone as &dyn Fn(&mut Settings), &room] {
        let camera = || {
            let mut settings = Settings::default();
            set(&mut settings);
            let mut camera = Camera::new(settings).expect("valid settings");
            camera.follow(0.0, runner(-0.1));
            camera.follow(0.1, runner(0.0));
            camera
        };
        let (mut long, mut short) = (camera(), camera());
        long.tell_due(Command::SwitchSubject, 0.2).expect("a command");
        let long = long.follow(0.3, kite(0.3));
        for frame in 1..=100 {
            short.follow(0.001, runner(f64::from(frame) * 0.001));
        }
        short.switch_subject();
        short.follow(1e-9, kite(0.1));
        let short = short.follow(0.2, kite(0.3));
        assert!((long.centre() - short.centre()).length() < 0.05, "{long:?} {short:?}");
        assert!((long.lens().zoom() / short.lens().zoom()).ln().abs() < 1e-3);
    }
}

/// Commands that act at once, and impacts, are commands as well.
#[test]
fn every_call_is_a_command() {
    let mut settings = Settings::default();
    let shake = Shake { hold: 0.2, fade: 0.4, ..Shake::default() };
    settings.cues.insert("gong".into(), Cue { shake: Some(shake), ..Cue::default() });
    let mut closer = settings.clone();
    closer.zoom.level = 2.0;
    let call = CueCall::at([40.0, 0.0]).with_strength(0.5);
    let told = [
        Command::Resize((1280, 720).into()),
        Command::Cue { name: "gong".into(), call },
        Command::Shake { shake, strength: 0.3 },
        Command::SetSettings { settings: Box::new(closer.clone()), seconds: 0.4 },
        Command::PauseShakes(true),
        Command::AdvanceShakes(0.1),
        Command::PauseShakes(false),
        Command::EndShakes(0.3),
        Command::Translate([30.0, 0.0].into()),
    ];
    let mut by_value = Camera::new(settings.clone()).unwrap();
    for command in told {
        by_value.tell(command).unwrap();
    }
    let mut by_call = Camera::new(settings).unwrap();
    by_call.resize((1280, 720));
    by_call.cue("gong", call).unwrap();
    by_call.shake(&shake, 0.3);
    by_call.set_settings(closer, 0.4).unwrap();
    by_call.pause_shakes(true);
    by_call.advance_shakes(0.1);
    by_call.pause_shakes(false);
    by_call.end_shakes(0.3);
    by_call.translate([30.0, 0.0]);
    for frame in 0..60 {
        let at = [f64::from(frame), 0.0];
        assert_eq!(by_value.follow(1.0 / 60.0, at), by_call.follow(1.0 / 60.0, at), "{frame}");
    }
    // A cue that was due is as old as if it had been called at its moment.
    let late = |before_end: f64| {
        let mut camera = by_call.clone();
        let cue = Command::Cue { name: "gong".into(), call: CueCall::anywhere() };
        camera.tell_due(cue, before_end).unwrap();
        camera.advance(0.1);
        camera.shake_envelope().x
    };
    assert!(late(0.5) < late(0.05) && late(2.0) == 0.0);
    let unknown = Command::Cue { name: "gnog".into(), call };
    assert_eq!(by_value.tell(unknown).unwrap_err().field(), "cues.gnog");
}

/// Commands are written and read, as a game sends or records them.
#[cfg(feature = "serde")]
#[test]
fn commands_are_written_and_read() {
    let told = [
        Command::Cue { name: "gong".into(), call: CueCall::at([4.0, 2.0]).with_strength(0.5) },
        Command::Resize((640, 360).into()),
        Command::SetSettings { settings: Box::default(), seconds: 0.2 },
        show(30.0),
        Command::Cut,
    ];
    let text = serde_json::to_string(&told).unwrap();
    assert!(text.contains(r#""cue":{"name":"gong","call":{"#), "{text}");
    assert_eq!(serde_json::from_str::<Vec<Command>>(&text).unwrap(), told);
}
