//! Every call does everything that it says: each test fails if a part is missing.

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, Cue, CueCall, Deadzone, Ease, LookAhead, Lure, MarkKind, Ratchet, Rect, Rooms,
    Scroll, Settings, Shake, Smoothing, Subject, View, Zone, ZoomRange, edge_push,
};

const STEP: f64 = 1.0 / 60.0;

/// A stage with memory: its name, its settings, and the number of followed subjects.
type Remembering<'a> = (&'a str, &'a dyn Fn(&mut Settings), usize);

/// A command: its name, and how it is told at a place of the world.
type Telling<'a> = (&'a str, &'a dyn Fn(&mut Camera, DVec2));

fn camera(change: impl FnOnce(&mut Settings)) -> Camera {
    let mut settings = Settings::default();
    change(&mut settings);
    Camera::new(settings).expect("valid settings")
}

/// Runs this number of frames with a subject that stands.
fn stand(camera: &mut Camera, at: [i32; 2], frames: u32) -> View {
    (0..frames).map(|_| camera.follow(STEP, at)).last().expect("a frame")
}

/// Values by hand: a quarter of the way, half, and three quarters.
#[test]
fn each_ease_has_its_shape() {
    for (ease, quarters) in [
        (Ease::Linear, [0.25, 0.5, 0.75]),
        (Ease::In, [0.0625, 0.25, 0.5625]),
        (Ease::Out, [0.4375, 0.75, 0.9375]),
        (Ease::InOut, [0.15625, 0.5, 0.84375]),
        (Ease::Smooth, [0.103_515_625, 0.5, 0.896_484_375]),
    ] {
        assert_eq!([0.25, 0.5, 0.75].map(|t| ease.at(t)), quarters, "{ease:?}");
        assert_eq!([-1.0, 0.0, 1.0, 2.0, f64::NAN].map(|t| ease.at(t)), [0.0, 0.0, 1.0, 1.0, 1.0]);
    }
}

/// Three quarters of the way to it, half and a quarter, by hand.
#[test]
fn a_lure_pulls_by_a_smooth_step() {
    let lure = |x: f64, strength| Lure { at: DVec2::new(x, 0.0), radius: 100.0, strength };
    for (away, pulled) in [(100.0, 0.0), (75.0, 0.15625), (50.0, 0.5), (25.0, 0.84375), (1e-9, 1.0)]
    {
        let goal = DVec2::new(200.0 - away, 0.0);
        let expected = goal.x + away * 0.8 * pulled;
        assert!((Lure::pull(&[lure(200.0, 0.8)], goal).x - expected).abs() < 1e-9, "{away}");
    }
    // Pulls are added: two that are weak pull twice as far, and two on either side cancel each other.
    let weak = [lure(200.0, 0.3), lure(200.0, 0.3)];
    assert!(
        (Lure::pull(&weak, DVec2::new(150.0, 0.0)).x - (150.0 + 50.0 * 0.5 * 0.6)).abs() < 1e-9
    );
    assert_eq!(Lure::pull(&[lure(100.0, 0.4), lure(200.0, 0.4)], DVec2::new(150.0, 0.0)).x, 150.0);
    // Fractions that add up to more than 1 are divided by their sum: nothing is pulled past its lures.
    let strong = [lure(200.0, 1.0), lure(200.0, 1.0)];
    assert!((Lure::pull(&strong, DVec2::new(190.0, 0.0)).x - 200.0).abs() < 1e-9);
    // Several never pull beyond themselves, and no step of the goal is a jump of the pull.
    let many = [lure(180.0, 1.0), lure(200.0, 1.0), lure(230.0, 1.0)];
    let pulled = |x: i32| Lure::pull(&many, DVec2::new(f64::from(x) * 0.1, 0.0)).x;
    for x in 0..4000 {
        let goal = f64::from(x) * 0.1;
        assert!(pulled(x) >= goal.min(180.0) && pulled(x) <= goal.max(230.0));
        assert!((pulled(x + 1) - pulled(x)).abs() < 0.5, "{goal}");
    }
}

#[test]
fn a_cut_ends_every_glide() {
    let mut camera = camera(|s| s.follow.smoothing = Smoothing::HalfLife(0.2).into());
    stand(&mut camera, [0, 0], 2);
    camera.switch_subject();
    camera.glide(2.0, Ease::Smooth);
    stand(&mut camera, [500, 0], 10);
    assert!(camera.is_gliding());
    camera.cut();
    let view = stand(&mut camera, [500, 0], 1);
    assert!(!camera.is_gliding() && view.centre() == DVec2::new(500.0, 0.0), "{}", view.centre());
    // In either order a cut wins over a glide that waits with it.
    camera.glide(2.0, Ease::Smooth);
    camera.cut();
    camera.glide(2.0, Ease::Smooth);
    assert_eq!(stand(&mut camera, [900, 0], 1).centre(), DVec2::new(900.0, 0.0));
}

/// A camera in a world that moves and one in a world that stays show the same pictures.
#[test]
fn a_moved_world_moves_all_that_is_remembered() {
    let rooms = |s: &mut Settings| {
        let size = DVec2::new(400.0, 400.0);
        s.rooms = Some(Rooms { size: Some(size), slide: Some(0.6), ..Rooms::default() });
    };
    let scroll = |s: &mut Settings| s.scroll = Some(Scroll { speed: DVec2::new(90.0, 20.0) });
    let ratchet = |s: &mut Settings| s.follow.ratchet = Ratchet::Right;
    let cue = |s: &mut Settings| {
        let cue = Cue { shake: Some(Shake::default()), ..Cue::default() };
        s.cues.insert("gong".into(), cue);
    };
    let all: [Remembering; 5] = [
        ("rooms", &rooms, 1),
        ("scroll", &scroll, 1),
        ("ratchet", &ratchet, 1),
        ("shakes", &cue, 1),
        ("party", &|_| {}, 3),
    ];
    // A whole number of rooms, and of what a float can hold exactly.
    let delta = DVec2::new(-6400.0, 3200.0);
    for (name, set, members) in all {
        let mut pair = [camera(set), camera(set)];
        for frame in 0..240 {
            let x = f64::from(if frame < 150 { frame } else { 300 - frame });
            let at = DVec2::new(250.0 + 2.0 * x, 150.0 + 0.3 * x);
            let moved = if frame >= 60 { delta } else { DVec2::ZERO };
            if frame == 60 {
                pair[1].translate(delta);
            }
            if frame == 40 && name == "shakes" {
                for camera in &mut pair {
                    camera.cue("gong", CueCall::at([300, 160])).expect("a cue");
                }
            }
            let views = [0, 1].map(|index| {
                let place = if index == 1 { at + moved } else { at };
                let beside = |id: u32| place + DVec2::new(70.0, -20.0) * f64::from(id);
                let party: Vec<Subject> = (0..members as u32)
                    .filter(|id| *id == 0 || frame < 50 + 20 * *id)
                    .map(|id| Subject::from(beside(id)).with_id(id))
                    .collect();
                pair[index].follow_all(STEP, &party)
            });
            let off = views[1].centre() - moved - views[0].centre();
            assert!(off.length() < 1e-6, "{name}, frame {frame}: {off}");
            let zooms = views.map(|view| view.lens().zoom());
            assert!((zooms[0] - zooms[1]).abs() < 1e-9, "{name}, frame {frame}: {zooms:?}");
            let lines = [pair[0].barrier(), pair[1].barrier()].map(|line| line.map(|line| line.at));
            if let [Some(one), Some(other)] = lines {
                assert!((other - moved.x - one).abs() < 1e-6, "{name}, frame {frame}");
            }
        }
    }
}

/// What was said before a world moves is the same as what is said after, at the same place of the world.
#[test]
fn a_moved_world_moves_the_commands_that_wait() {
    let delta = DVec2::new(-6400.0, 3200.0);
    let middle = Vec2::new(160.0, 90.0);
    let all: [Telling; 4] = [
        ("aim", &|camera, world| camera.aim_at(world + DVec2::new(40.0, 9.0))),
        ("show", &|camera, world| {
            let rect = Rect::from_corner_size(world + DVec2::new(30.0, 20.0), [500, 300]);
            camera.show(&rect, 0.3, Ease::InOut);
        }),
        ("grab", &|camera, _| {
            camera.grab(middle);
            camera.drag_to(middle + Vec2::new(25.0, -8.0));
        }),
        ("zoom about a point", &|camera, _| camera.zoom_by(3.0, Some(middle / 2.0))),
    ];
    for (name, tell) in all {
        let ride = |before: bool| {
            let mut camera = camera(|_| {});
            let mut at = DVec2::new(100.0, 50.0);
            camera.follow(STEP, at);
            if before {
                tell(&mut camera, at);
            }
            camera.translate(delta);
            at += delta;
            if !before {
                tell(&mut camera, at);
            }
            // The first frames have no subject, as where a place is aimed at.
            let frames = 0..30;
            frames
                .map(|n| if n < 3 { camera.advance(STEP) } else { camera.follow(STEP, at) })
                .collect::<Vec<View>>()
        };
        for (one, other) in ride(true).iter().zip(ride(false)) {
            let off = one.centre() - other.centre();
            assert!(off.length() < 1e-6, "{name}: {off}");
            assert_eq!(one.lens().zoom(), other.lens().zoom(), "{name}");
        }
    }
}

#[test]
fn the_overlay_shows_what_look_ahead_adds() {
    let offset = DVec2::new(7.0, -3.0);
    let mut camera = camera(|s| {
        s.follow.look_ahead = Some(LookAhead::default());
        s.follow.offset = offset;
    });
    let walk = (0..90).map(|frame| DVec2::new(2.0 * f64::from(frame), 0.0));
    let (at, view) = walk.map(|at| (at, camera.follow(STEP, at))).last().expect("frames");
    let overlay = camera.overlay();
    let line = overlay.marks().find(|mark| mark.kind == MarkKind::LookAhead).expect("a line");
    assert!(line.world_points()[0].distance(at + offset) < 1e-9);
    assert!(line.world_points()[1].distance(view.centre()) < 1e-9);
}

/// A barrier keeps a body of some size on its side, whichever side that is.
#[test]
fn a_barrier_stops_on_both_sides() {
    for (ratchet, way) in [(Ratchet::Right, 1.0), (Ratchet::Left, -1.0)] {
        let mut camera = camera(|s| s.follow.ratchet = ratchet);
        camera.follow(STEP, [0, 0]);
        let line = camera.barrier().expect("a ratchet");
        assert_eq!(line.at, -160.0 * way);
        let stopped = |x: f64| line.stop([x, 5.0], 8.0);
        assert_eq!(stopped(-200.0 * way), DVec2::new(-152.0 * way, 5.0));
        assert_eq!(stopped(-150.0 * way), DVec2::new(-150.0 * way, 5.0));
    }
}

#[test]
fn new_settings_forget_rooms_move_the_anchor_and_limit_the_zoom() {
    let rooms = |size: f64| Some(Rooms { size: Some(DVec2::splat(size)), ..Rooms::default() });
    let mut camera = camera(|s| s.rooms = rooms(320.0));
    stand(&mut camera, [500, 500], 1);
    let mut changed = camera.settings().clone();
    changed.rooms = rooms(1000.0);
    changed.follow.anchor.x = 0.25;
    camera.set_settings(changed.clone(), 0.0).expect("valid settings");
    let view = stand(&mut camera, [500, 500], 1);
    // In a room larger than the view the subject is followed, at its anchor.
    assert_eq!(view.world_to_screen([500, 500]).x, 80.0);
    camera.zoom_now(3.0);
    changed.zoom.range = ZoomRange { min: 0.5, max: 2.0 };
    camera.set_settings(changed, 0.0).expect("valid settings");
    // It glides into the new range.
    assert_eq!(stand(&mut camera, [500, 500], 240).lens().zoom(), 2.0);
}

#[test]
fn a_state_of_other_settings_is_adopted() {
    let mut one = camera(|s| s.follow.smoothing = Smoothing::HalfLife(0.2).into());
    let mut other = camera(|s| s.follow.smoothing = Smoothing::HalfLife(0.3).into());
    stand(&mut one, [300, 20], 9);
    stand(&mut other, [0, 0], 9);
    let restored = other.restore(one.state());
    assert!(restored.is_ok() && other.state().fits(other.settings()));
    // The view is where it was, and follows as these settings say.
    assert_eq!(other.view().centre(), one.view().centre());
    assert_eq!(stand(&mut other, [300, 20], 600).centre().x, 300.0);
}

/// A spring that runs into a bound has no speed there, and turns back at once.
#[test]
fn a_bound_takes_the_speed() {
    let bounds = |s: &mut Settings| {
        s.follow.smoothing = Smoothing::Settle(0.8).into();
        s.bounds = Some(Bounds::new(Rect::new([0, 0], [1000, 180])));
    };
    let mut camera = camera(bounds);
    stand(&mut camera, [160, 90], 1);
    let stopped = stand(&mut camera, [4000, 90], 600);
    assert_eq!(stopped.centre().x, 840.0);
    // Tiny steps of a spring that starts at rest.
    let view = (0..12).map(|_| camera.follow(STEP, [500, 90])).last().expect("a frame");
    let (pull, mut x, mut speed) = (6.6384 / 0.8, 840.0, 0.0);
    let (small, steps) = (1e-5, (11.0 * STEP / 1e-5) as u32);
    for _step in 0..steps {
        speed += (pull * pull * (500.0 - x) - 2.0 * pull * speed) * small;
        x += speed * small;
    }
    assert!((view.centre().x - x).abs() < 6.0, "{} for {x}", view.centre().x);
}

#[test]
fn the_longest_pause_holds() {
    let pausing = |seconds| Cue { pause: Some(seconds), ..Cue::default() };
    let mut camera = camera(|s| {
        s.cues.insert("long".into(), pausing(0.5));
        s.cues.insert("short".into(), pausing(0.1));
        s.hands.back = velvet_pan::HandReturn::Seconds(0.0);
    });
    stand(&mut camera, [0, 0], 1);
    camera.cue("long", CueCall::anywhere()).expect("a cue");
    camera.cue("short", CueCall::anywhere()).expect("a cue");
    stand(&mut camera, [0, 0], 1);
    assert_eq!(stand(&mut camera, [300, 0], 24).centre().x, 0.0, "still paused");
    assert_eq!(stand(&mut camera, [300, 0], 8).centre().x, 300.0, "and over");
}

/// With more zones than are remembered at once, the last ones of the list still count.
#[test]
fn the_last_of_many_zones_sets_the_zoom() {
    let zone = |number: i32| Zone {
        zoom: Some(1.0 + 0.1 * f64::from(number)),
        fade: 0.0,
        ..Zone::new(Rect::around([0, 0], [500.0 - f64::from(number), 400.0]))
    };
    let mut camera = camera(|s| {
        s.zones = (0..12).map(zone).collect();
        s.zoom.half_life = 0.0;
        s.zoom.range = ZoomRange { min: 0.1, max: 9.0 };
    });
    let inside = stand(&mut camera, [0, 0], 3).lens().zoom();
    assert!((inside - 2.1).abs() < 1e-9, "{inside}");
    // Only the widest is left where the others end.
    let beside = stand(&mut camera, [500, 0], 3).lens().zoom();
    assert!((beside - 1.0).abs() < 1e-9, "{beside}");
}

#[test]
fn letting_go_ends_a_show_and_returns_in_its_time() {
    let mut camera = camera(|s| s.follow.smoothing = Smoothing::None.into());
    stand(&mut camera, [0, 0], 1);
    let rect = Rect::around([900, 300], [80, 45]);
    camera.show(&rect, 0.5, Ease::Smooth);
    let shown = stand(&mut camera, [0, 0], 40);
    assert_eq!((shown.centre(), shown.lens().zoom()), (DVec2::new(900.0, 300.0), 2.0));
    camera.release();
    stand(&mut camera, [0, 0], 1);
    let on_its_way = stand(&mut camera, [0, 0], 6).centre().x;
    assert!((50.0..850.0).contains(&on_its_way), "{on_its_way}");
    assert_eq!(stand(&mut camera, [0, 0], 40).centre(), DVec2::ZERO);
    assert!(!camera.is_in_hand() && !camera.is_gliding());
}

#[test]
fn a_drag_holds_the_world_at_the_pointer_until_it_is_let_go() {
    let mut camera = camera(|_| {});
    stand(&mut camera, [0, 0], 1);
    camera.grab(Vec2::new(100.0, 90.0));
    camera.drag_to(Vec2::new(160.0, 60.0));
    let view = stand(&mut camera, [0, 0], 2);
    assert_eq!(view.centre(), DVec2::new(-60.0, 30.0));
    assert!(camera.is_in_hand());
    camera.pan(Vec2::new(5.0, 0.0));
    camera.release();
    assert_eq!(stand(&mut camera, [0, 0], 60).centre(), DVec2::ZERO);
}

/// Look-ahead stays while the subject runs, and is exactly 0 some time after it stops.
#[test]
fn what_is_ahead_comes_to_nothing() {
    let mut camera = camera(|s| {
        let seconds = DVec2::new(0.5, 0.0);
        s.follow.look_ahead = Some(LookAhead { seconds, ..LookAhead::default() });
    });
    let runs = (0..120).map(|frame| camera.follow(STEP, [2 * frame, 0]));
    let ahead = runs.last().expect("a frame").centre().x - 238.0;
    assert!((59.0..60.5).contains(&ahead), "half a second of 120 units a second: {ahead}");
    let soon = stand(&mut camera, [238, 0], 20).centre().x - 238.0;
    assert!(soon > 5.0 && soon < ahead, "{soon}");
    assert_eq!(stand(&mut camera, [238, 0], 600).centre().x, 238.0);
}

/// On each side the subject moves freely within the zone, and moves the view beyond it.
#[test]
fn a_deadzone_of_one_side_is_free_on_that_side_only() {
    let none = Deadzone::default();
    let zones = [
        (Deadzone { right: 0.1, ..none }, DVec2::X, 32.0),
        (Deadzone { left: 0.1, ..none }, -DVec2::X, 32.0),
        (Deadzone { bottom: 0.1, ..none }, DVec2::Y, 18.0),
        (Deadzone { top: 0.1, ..none }, -DVec2::Y, 18.0),
        (none, DVec2::X, 0.0),
    ];
    for (deadzone, way, free) in zones {
        for (way, free) in [(way, free), (-way, 0.0)] {
            let mut camera = camera(|settings| settings.follow.deadzone = deadzone);
            camera.follow(0.0, [0, 0]);
            for step in 1..=60 {
                let view = camera.follow(1.0 / 60.0, way * f64::from(step));
                let moved = view.centre().dot(way);
                let expected = (f64::from(step) - free).max(0.0);
                assert!((moved - expected).abs() < 1e-9, "{deadzone:?} {way} {step}: {moved}");
            }
            let (view, goal) = (DVec2::new(320.0, 180.0), way * 60.0);
            assert!((deadzone.goal(DVec2::ZERO, goal, view).dot(way) - (60.0 - free)).abs() < 1e-9);
        }
    }
}

#[test]
fn a_drag_goes_on_where_the_pointer_leaves_the_picture() {
    let mut camera = Camera::new(Settings::default()).expect("valid settings");
    camera.resize((1300, 720)); // bars of 10 pixels to the left and the right
    assert!(camera.grab_at_window((30.0, 360.0)));
    camera.drag_to_window((-50.0, 360.0)); // 80 window pixels, 20 screen pixels
    assert_eq!(camera.advance(1.0 / 60.0).centre(), DVec2::new(20.0, 0.0));
}

#[test]
fn a_wheel_over_a_bar_zooms_about_no_point() {
    let zoomed = |point: (f64, f64)| {
        let mut camera = Camera::new(Settings::default()).expect("valid settings");
        camera.resize((1300, 720));
        camera.zoom_by_at_window(2.0, point);
        (0..60).map(|_| camera.advance(1.0 / 60.0)).last().expect("frames")
    };
    let (bar, picture) = (zoomed((4.0, 100.0)), zoomed((100.0, 100.0)));
    assert_eq!(bar.centre(), DVec2::ZERO);
    assert_ne!(picture.centre(), DVec2::ZERO);
    assert_eq!(bar.lens().zoom(), picture.lens().zoom());
}

/// Tells a camera something that takes the view in hand.
type Hand<'a> = (&'a str, &'a dyn Fn(&mut Camera));

#[test]
fn a_cut_wins_over_every_hand_told_before_the_same_frame() {
    let gong = Cue { pause: Some(0.5), ..Cue::default() };
    let hands: [Hand<'_>; 7] = [
        ("grab", &|camera| camera.grab(Vec2::new(40.0, 30.0))),
        ("grab and drag", &|camera| {
            camera.grab(Vec2::new(40.0, 30.0));
            camera.drag_to(Vec2::new(90.0, 60.0));
        }),
        ("zoom about a point", &|camera| camera.zoom_by(1.0, Some(Vec2::new(40.0, 30.0)))),
        ("pan", &|camera| camera.pan(Vec2::new(30.0, 5.0))),
        ("show", &|camera| camera.show(&Rect::new([-900, -900], [-500, -700]), 0.4, Ease::Smooth)),
        ("show at once", &|camera| {
            camera.show(&Rect::new([-900, -900], [-500, -700]), 0.0, Ease::Smooth);
        }),
        ("pause", &|camera| camera.cue("gong", CueCall::anywhere()).expect("a cue")),
    ];
    for (name, hand) in hands {
        for cut_first in [true, false] {
            let mut camera = camera(|settings| {
                settings.cues.insert("gong".into(), gong);
            });
            stand(&mut camera, [0, 0], 5);
            if cut_first {
                camera.cut();
                hand(&mut camera);
            } else {
                hand(&mut camera);
                camera.cut();
            }
            let mut zoom = 1.0;
            for frame in 0..30 {
                let view = camera.follow(STEP, [5000, 800]);
                let told = format!("{name}, cut first: {cut_first}, frame {frame}");
                assert_eq!(view.centre(), DVec2::new(5000.0, 800.0), "{told}");
                assert!(!camera.is_in_hand(), "{told}");
                zoom = view.lens().zoom();
            }
            // Only the point of the zoom is dropped.
            assert_eq!(zoom > 1.1, name == "zoom about a point", "{name}: {zoom}");
        }
    }
}

/// The cut of the first frame is told by nobody, so it takes nothing away.
#[test]
fn what_is_told_before_the_first_frame_acts() {
    let mut camera = camera(|_| {});
    camera.show(&Rect::new([-900, -900], [-500, -700]), 0.0, Ease::Smooth);
    let view = camera.follow(STEP, [5000, 800]);
    assert_eq!(view.centre(), DVec2::new(-700.0, -800.0));
}

/// A zoom is held within the limits that are there when it acts: bounds that are told after it, with the same frame, count.
#[test]
fn a_zoom_is_limited_where_it_acts() {
    let mut camera = camera(|settings| {
        settings.zoom.fill_bounds = true;
        settings.bounds = Some(Bounds::new(Rect::new([0, 0], [160, 90])));
    });
    assert_eq!(stand(&mut camera, [80, 45], 2).lens().zoom(), 2.0);
    camera.zoom_to(0.8);
    camera.set_bounds(Some(Bounds::new(Rect::new([0, 0], [3200, 1800]))), 0.0).expect("bounds");
    assert_eq!(stand(&mut camera, [80, 45], 600).lens().zoom(), 0.8);
}

/// At the corners of a margin of 20 pixels, and within and beyond it.
#[test]
fn the_pointer_pushes_at_the_screens_edge() {
    let push = |x: f32, y: f32| edge_push(Vec2::new(x, y), UVec2::new(320, 180), 20.0);
    assert_eq!(push(160.0, 90.0), Vec2::ZERO);
    assert_eq!((push(20.0, 90.0), push(300.0, 90.0)), (Vec2::ZERO, Vec2::ZERO));
    assert_eq!((push(10.0, 90.0), push(310.0, 90.0)), (Vec2::new(-0.5, 0.0), Vec2::new(0.5, 0.0)));
    assert_eq!(
        (push(160.0, 5.0), push(160.0, 175.0)),
        (Vec2::new(0.0, -0.75), Vec2::new(0.0, 0.75))
    );
    assert_eq!((push(0.0, 0.0), push(320.0, 180.0)), (Vec2::splat(-1.0), Vec2::splat(1.0)));
    assert_eq!(push(f32::NAN, 3.0), Vec2::ZERO);
}
