//! Cutscenes: commands at their times, waits, loops, and what skipping leaves behind.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Camera, Cameras, Command, Cue, CueCall, Ease, Itinerary, ItineraryRun, Passage, Settings,
    Shake, Smoothing, Travel, Waypoint,
};

use crate::support::smooth;

fn settings() -> Settings {
    let mut settings = smooth(Smoothing::HalfLife(0.1));
    let shake = Shake { hold: 0.3, fade: 0.4, ..Shake::default() };
    settings.cues.insert("bell".into(), Cue { shake: Some(shake), ..Cue::default() });
    settings
}

fn camera() -> Camera {
    let mut camera = Camera::new(settings()).unwrap();
    camera.follow(0.0, [0, 0]);
    camera
}

/// To the bell along a curve, a pause while it rings, and back.
fn scene() -> Itinerary {
    let way = [[0.0, 0.0], [260.0, -90.0], [480.0, 30.0]].map(Waypoint::at);
    Itinerary::default()
        .at(0.107, Command::Travel(Travel::new(way, 1.3).with_ease(Ease::InOut)))
        .at(1.511, Command::Cue { name: "bell".into(), call: CueCall::anywhere() })
        .mark(1.611, "the bell rings")
        .at(1.917, Command::ZoomTo(1.5))
        .at(2.303, Command::Glide { seconds: 0.8, ease: Ease::Smooth })
        .mark(3.401, "the end")
}

fn wren(t: f64) -> [f64; 2] {
    [40.0 * t, 0.0]
}

/// The steady views of a scene and their times, in frames of these lengths.
fn ridden(scene: &Itinerary, step: impl Fn(usize) -> f64) -> Vec<(f64, DVec2, f64)> {
    let (mut camera, mut run) = (camera(), ItineraryRun::new(scene.clone()).unwrap());
    let (mut t, mut frame, mut views) = (0.0, 0, Vec::new());
    while t < 4.0 {
        let dt = step(frame);
        run.advance(dt, &mut camera).for_each(drop);
        t += dt;
        let view = camera.follow(dt, wren(t));
        views.push((t, view.steady().centre(), view.lens().zoom()));
        frame += 1;
    }
    assert!(run.is_over());
    views
}

/// Its times are in no frame of any rate.
#[test]
fn a_scene_is_the_same_at_any_frame_rate() {
    let fine = ridden(&scene(), |_| 1.0 / 960.0);
    let hitches = |frame: usize| if frame % 40 == 7 { 0.3 } else { 1.0 / 60.0 };
    let rates: [(&str, &dyn Fn(usize) -> f64); 4] = [
        ("24", &|_| 1.0 / 24.0),
        ("60", &|_| 1.0 / 60.0),
        ("240", &|_| 1.0 / 240.0),
        ("hitches", &hitches),
    ];
    for (name, step) in rates {
        let mut worst: f64 = 0.0;
        for (t, centre, zoom) in ridden(&scene(), step).into_iter().filter(|(t, ..)| *t <= 4.0) {
            let next = fine.partition_point(|(time, ..)| *time < t).clamp(1, fine.len() - 1);
            let ((t0, from, zoom_from), (t1, to, zoom_to)) = (fine[next - 1], fine[next]);
            let part = ((t - t0) / (t1 - t0)).clamp(0.0, 1.0);
            let off = (from + (to - from) * part).distance(centre) * zoom;
            worst =
                worst.max(off).max((zoom_from + (zoom_to - zoom_from) * part - zoom).abs() * 90.0);
        }
        println!("{name}: {worst:e} px");
        assert!(worst < 0.2, "{name}: {worst} px");
    }
}

#[test]
fn marks_come_in_the_frame_of_their_time() {
    let (mut camera, mut run) = (camera(), ItineraryRun::new(scene()).unwrap());
    let mut heard = Vec::new();
    for frame in 1..=40 {
        let t = f64::from(frame) * 0.1;
        for notice in run.advance(0.1, &mut camera) {
            heard.push((notice.name().to_owned(), t - notice.before_end));
        }
        camera.follow(0.1, wren(t));
    }
    assert_eq!(heard.len(), 2);
    for ((name, t), (expected, at)) in
        heard.iter().zip([("the bell rings", 1.611), ("the end", 3.401)])
    {
        assert!(name == expected && (t - at).abs() < 1e-9, "{name} at {t}");
    }
}

/// Skipped, the cameras are as if it had run, but for shakes and one more cut.
#[test]
fn a_skipped_scene_leaves_what_it_would_have_left() {
    let stands = [120.0, 10.0];
    for skipped_at in [0, 10, 100, 150] {
        let run_on = |skips: bool| {
            let (mut camera, mut run) = (camera(), ItineraryRun::new(scene()).unwrap());
            let mut frames = 0;
            while !(run.is_over() || skips && frames == skipped_at) {
                run.advance(1.0 / 60.0, &mut camera).for_each(drop);
                camera.follow(1.0 / 60.0, stands);
                frames += 1;
            }
            if skips {
                let told: Vec<String> = run
                    .skip(&mut camera, |camera, dt| _ = camera.follow(dt, stands))
                    .map(|notice| notice.name().to_owned())
                    .collect();
                assert_eq!(told.last().unwrap(), "the end");
            }
            camera.end_shakes(0.0);
            camera
        };
        let (ran, skipped) = (run_on(false), run_on(true));
        let (one, other) = (ran.view(), skipped.view());
        assert_eq!((one.centre(), one.lens()), (other.centre(), other.lens()), "at {skipped_at}");
        assert!(other.is_cut_from(&one));
        assert!(!skipped.is_shaking());
        // And they go on alike.
        let (mut ran, mut skipped) = (ran, skipped);
        for frame in 0..60 {
            let at = [120.0 + f64::from(frame), 10.0];
            let [one, other] =
                [&mut ran, &mut skipped].map(|one| one.follow(1.0 / 60.0, at).centre());
            assert_eq!(one, other);
        }
    }
}

#[test]
fn waits_for_gates_and_for_the_view() {
    let show = Command::AimAt([300.0, 0.0].into());
    let scene = Itinerary::default()
        .at(0.0, Command::Glide { seconds: 0.7, ease: Ease::Smooth })
        .at(0.0, show)
        .with(0.0, Passage::WaitForArrival)
        .mark(0.0, "there")
        .with(0.2, Passage::WaitForGate("read".into()))
        .mark(0.2, "on");
    let (mut camera, mut run) = (camera(), ItineraryRun::new(scene).unwrap());
    let mut heard = Vec::new();
    for frame in 1..=240 {
        let t = f64::from(frame) / 60.0;
        if frame == 120 {
            run.open("read");
        }
        for notice in run.advance(1.0 / 60.0, &mut camera) {
            heard.push((notice.name().to_owned(), t));
        }
        camera.advance(1.0 / 60.0);
    }
    let [(there, at), (on, later)] = &heard[..] else { panic!("{heard:?}") };
    assert!(there == "there" && (0.7..0.8).contains(at), "{at}");
    assert!(on == "on" && (later - 2.0).abs() < 1e-9, "{later}");
    // A view that never arrives is waited for 5 seconds.
    let forever = Itinerary::default().with(0.1, Passage::WaitForArrival).mark(0.1, "on");
    let mut run = ItineraryRun::new(forever).unwrap();
    let mut t = 0.0;
    let over = loop {
        t += 0.03;
        let told = run.advance(0.03, &mut camera).next().map(|notice| notice.before_end);
        camera.follow(0.03, [t * 300.0, 0.0]);
        if let Some(before_end) = told {
            break t - before_end;
        }
    };
    assert!((over - 5.1).abs() < 1e-9, "{over}");
}

#[test]
fn loops_pauses_and_speeds() {
    let scene = Itinerary { loops: true, ..Itinerary::default().mark(0.3, "tick") };
    let (mut camera, mut run) = (camera(), ItineraryRun::new(scene).unwrap());
    let mut count =
        |run: &mut ItineraryRun, seconds: f64| run.advance(seconds, &mut camera).count();
    assert_eq!(count(&mut run, 1.0), 3);
    run.pause(true);
    assert_eq!(count(&mut run, 1.0), 0);
    run.pause(false);
    run.set_speed(0.5);
    assert_eq!((count(&mut run, 0.3), run.is_over()), (0, false));
    run.set_speed(f64::NAN);
    assert_eq!(count(&mut run, 0.3), 1);
    run.end_loop();
    assert_eq!((count(&mut run, 5.0), run.is_over()), (1, true), "it ends with its round");
}

/// The player's hands do nothing while it runs, and everything before and after.
#[test]
fn hands_are_ignored_while_it_runs() {
    let pulls = |allows_hands: bool| {
        let scene =
            Itinerary { allows_hands, ..Itinerary::default().mark(0.2, "on").mark(1.0, "end") };
        let (mut camera, mut run) = (camera(), ItineraryRun::new(scene).unwrap());
        let mut pulled = Vec::new();
        for _frame in 0..4 {
            run.advance(0.3, &mut camera).for_each(drop);
            camera.pan(Vec2::new(30.0, 0.0));
            camera.tell(Command::ZoomBy { notches: 1.0, about: None }).unwrap();
            camera.follow(0.3, [0, 0]);
            pulled.push(camera.is_in_hand());
        }
        pulled
    };
    assert_eq!(pulls(false), [false, false, false, true]);
    assert_eq!(pulls(true), [true; 4]);
}

#[test]
fn several_cameras_run_one_scene() {
    let mut cameras = Cameras::new("wren".to_owned(), camera());
    cameras.insert("bell".to_owned(), camera());
    cameras.get_mut(&"bell".to_owned()).unwrap().place_at([900, 0]);
    let to = |key: &str| Passage::Camera { key: key.into(), seconds: 0.5, ease: Ease::Smooth };
    let scene = Itinerary::default()
        .with(0.1, to("bell"))
        .with(0.7, Passage::Watch(vec!["kite".into()]))
        .with(1.0, to("nobody"))
        .with(1.2, to("wren"));
    let mut run = ItineraryRun::new(scene).unwrap();
    let mut heard = Vec::new();
    for _frame in 0..60 {
        let dt = 1.0 / 30.0;
        for notice in run.advance(dt, &mut cameras) {
            heard.push(notice.watched().map_or(notice.name().to_owned(), |names| names.join(" ")));
        }
        for (_, camera) in cameras.iter_mut() {
            camera.advance(dt);
        }
        cameras.view(dt);
    }
    assert_eq!(heard, ["kite", "nobody"], "what to watch, and a camera that is not there");
    assert_eq!(cameras.active_key(), "wren");
}

#[test]
fn scenes_that_can_not_run_are_refused() {
    let wrong = |scene: Itinerary| ItineraryRun::new(scene).unwrap_err().to_string();
    let mut turned = Itinerary::default().mark(1.0, "a").mark(2.0, "b");
    turned.entries.swap(0, 1);
    assert_eq!(wrong(turned), "entries.1.at = 1: expected 2 or more, up to 3600");
    assert!(wrong(Itinerary::default().mark(-1.0, "a")).starts_with("entries.0.at = -1"));
    let nowhere = Itinerary::default().at(0.0, Command::Travel(Travel::default()));
    assert!(wrong(nowhere).starts_with("entries.0: travel: points: expected 1 to 16"));
    let endless = Itinerary { loops: true, ..Itinerary::default().mark(0.0, "a") };
    assert_eq!(wrong(endless), "loops: expected an entry later than 0");
    let empty = Itinerary { loops: true, ..Itinerary::default() };
    assert_eq!(wrong(empty), "loops: expected an entry later than 0");
    // A loop of next to no time, at any pace and in any frame, has an answer.
    let busy = Itinerary { loops: true, ..Itinerary::default().mark(1e-300, "a") };
    let (mut camera, mut run) = (camera(), ItineraryRun::new(busy).unwrap());
    run.set_speed(1e300);
    assert!(run.advance(1e300, &mut camera).count() > 1000 && !run.is_over());
    let nothing = ItineraryRun::new(Itinerary::default()).unwrap();
    assert!(nothing.is_over());
}

#[cfg(feature = "serde")]
#[test]
fn a_scene_and_its_run_are_written_and_read() {
    let (mut camera, mut run) = (camera(), ItineraryRun::new(scene()).unwrap());
    run.advance(1.55, &mut camera).for_each(drop);
    camera.follow(1.55, [0, 0]);
    let text = serde_json::to_string(&run).unwrap();
    let mut read: ItineraryRun = serde_json::from_str(&text).unwrap();
    assert_eq!(read, run);
    let mut other = camera.clone();
    for _frame in 0..200 {
        run.advance(0.02, &mut camera).for_each(drop);
        read.advance(0.02, &mut other).for_each(drop);
        assert_eq!(camera.follow(0.02, [0, 0]), other.follow(0.02, [0, 0]));
    }
}
