//! What a camera notes of a game's calls.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, CameraCall, Command, Cue, CueCall, Ease, Rect, Settings, Shake, Standing,
    Subject, Travel, Waypoint,
};

fn settings(anchor: f64) -> Settings {
    let mut settings = Settings::default();
    settings.follow.anchor.x = anchor;
    let drum = Cue { shake: Some(Shake::default()), glide: Some(0.4), ..Cue::default() };
    settings.cues.insert("drum".into(), drum);
    settings
}

fn camera() -> Camera {
    Camera::new(settings(0.5)).expect("valid settings")
}

fn noted(camera: &mut Camera) -> Vec<CameraCall> {
    camera.calls().take().collect()
}

const COURT: Rect = Rect { min: DVec2::ZERO, max: DVec2::new(900.0, 400.0) };

fn way() -> Travel {
    Travel::new([[0, 0], [400, -60]].map(Waypoint::at), 3.0)
}

/// A method, and the command of its name.
type Told = (fn(&mut Camera), Command);

fn every_one() -> [Told; 26] {
    const AT: Vec2 = Vec2::new(100.0, 50.0);
    const PLACE: DVec2 = DVec2::new(70.0, -20.0);
    let ease = Ease::Out;
    [
        (|camera| camera.place_at(PLACE), Command::PlaceAt(PLACE)),
        (|camera| camera.zoom_now(2.0), Command::ZoomNow(2.0)),
        (|camera| camera.rotate_now(0.2), Command::RotateNow(0.2)),
        (|camera| camera.translate(PLACE), Command::Translate(PLACE)),
        (|camera| camera.resize((640, 480)), Command::Resize((640, 480).into())),
        (
            |camera| camera.set_settings(settings(0.25), 0.3).expect("valid"),
            Command::SetSettings { settings: Box::new(settings(0.25)), seconds: 0.3 },
        ),
        (|camera| camera.end_shakes(0.1), Command::EndShakes(0.1)),
        (|camera| camera.pause_shakes(true), Command::PauseShakes(true)),
        (|camera| camera.advance_shakes(0.1), Command::AdvanceShakes(0.1)),
        (Camera::cut, Command::Cut),
        (Camera::switch_subject, Command::SwitchSubject),
        (|camera| camera.aim_at(PLACE), Command::AimAt(PLACE)),
        (|camera| camera.glide(0.3, Ease::Out), Command::Glide { seconds: 0.3, ease }),
        (
            |camera| camera.set_bounds(Some(Bounds::new(COURT)), 0.3).expect("valid"),
            Command::SetBounds { bounds: Some(Bounds::new(COURT)), seconds: 0.3 },
        ),
        (|camera| camera.zoom_to(2.0), Command::ZoomTo(2.0)),
        (|camera| camera.zoom_by(1.0, Some(AT)), Command::ZoomBy { notches: 1.0, about: Some(AT) }),
        (|camera| camera.rotate_to(0.2), Command::RotateTo(0.2)),
        (|camera| camera.grab(AT), Command::Grab(AT)),
        (|camera| assert!(camera.grab_at_window((100.0, 50.0))), Command::Grab(AT)),
        (|camera| camera.drag_to(AT), Command::DragTo(AT)),
        (Camera::release, Command::Release),
        (|camera| camera.pan(AT), Command::Pan(AT)),
        (
            |camera| camera.show(&COURT, 0.3, Ease::Out),
            Command::Show { rect: COURT, seconds: 0.3, ease },
        ),
        (|camera| camera.travel(&way()).expect("a way"), Command::Travel(way())),
        (
            |camera| camera.shake(&Shake::default(), 0.5),
            Command::Shake { shake: Shake::default(), strength: 0.5 },
        ),
        (
            |camera| camera.cue("drum", CueCall::at(PLACE)).expect("a cue"),
            Command::Cue { name: "drum".into(), call: CueCall::at(PLACE) },
        ),
    ]
}

/// A method tells the command of its name, once, and does the same as it.
#[test]
fn each_method_tells_its_command() {
    for (method, command) in every_one() {
        let mut told = camera();
        told.follow(0.1, [300, 0]);
        let mut called = told.clone();
        called.calls().note(true);
        method(&mut called);
        told.tell(command.clone()).expect("a sound command");
        assert_eq!(noted(&mut called), [CameraCall::Told { command, before_end: 0.0 }]);
        for x in [310, 320, 330] {
            assert_eq!(called.follow(0.1, [x, 0]), told.follow(0.1, [x, 0]));
        }
        assert_eq!(called.state(), told.state());
    }
}

/// What is refused, what changes nothing, and what happens in a copy are not noted. Frames are, with what they were given.
#[test]
fn only_what_happens_is_noted() {
    let mut camera = camera();
    camera.advance(0.1);
    camera.calls().note(true);
    let mut copy = camera.clone();
    copy.cut();
    assert_eq!(noted(&mut copy), []);

    assert!(camera.set_settings(Settings::default(), 0.1).is_ok());
    _ = noted(&mut camera);
    assert!(camera.set_settings(Settings::default(), 0.3).is_ok(), "the same again");
    camera.resize(camera.view().window_size());
    let mut wrong = Settings::default();
    wrong.zoom.level = -1.0;
    assert!(camera.set_settings(wrong, 0.1).is_err());
    assert!(camera.travel(&Travel::new([], 1.0)).is_err());
    assert!(camera.cue("drum", CueCall::anywhere()).is_err());
    let nowhere = Bounds::new(Rect { min: DVec2::ZERO, max: DVec2::NAN });
    assert!(camera.set_bounds(Some(nowhere), 0.1).is_err());
    assert_eq!(noted(&mut camera), []);

    camera.calls().note_standing();
    let [wren, kite] = [[300, 0], [400, 0]].map(Subject::from);
    let view = camera.follow_all(-1.0, &[wren, kite]);
    let standing = Standing::of(&camera);
    camera.tell_due(Command::Cut, 0.05).expect("a cut");
    let after = camera.follow(0.1, wren);
    let expected = [
        CameraCall::Member(wren),
        CameraCall::Member(kite),
        CameraCall::FollowAll { seconds: -1.0, view },
        CameraCall::Standing(Box::new(standing)),
        CameraCall::Told { command: Command::Cut, before_end: 0.05 },
        CameraCall::Follow { seconds: 0.1, subject: wren, view: after },
    ];
    assert_eq!(noted(&mut camera), expected);
    camera.calls().note(false);
    camera.advance(0.1);
    assert_eq!(noted(&mut camera), []);
}
