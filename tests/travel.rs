//! The view on its way along a curve.

use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Camera, Command, Ease, Rect, Smoothing, Travel, TravelError, Waypoint};

use crate::support::{camera, smooth};

fn way() -> Travel {
    let points = [[0.0, 0.0], [300.0, -80.0], [420.0, 160.0], [760.0, 40.0]];
    Travel::new(points.map(Waypoint::at), 4.0).with_ease(Ease::Linear)
}

/// A camera that follows a runner.
fn following() -> Camera {
    let mut camera = camera(smooth(Smoothing::HalfLife(0.1)));
    camera.follow(0.0, [-40.0, 0.0]);
    camera
}

/// The centres of a travel that is told at 0.1 s, for 5 s, in frames of these lengths, with their times.
fn ridden(travel: &Travel, step: impl Fn(usize) -> f64) -> Vec<(f64, DVec2)> {
    let mut camera = following();
    let (mut t, mut frame, mut centres) = (0.0, 0, Vec::new());
    while t < 5.0 {
        let next = t + step(frame);
        if t < 0.1 && 0.1 <= next {
            camera.tell_due(Command::Travel(travel.clone()), next - 0.1).unwrap();
        }
        let view = camera.follow(next - t, [-40.0 + 60.0 * next, 0.0]);
        centres.push((next, view.centre()));
        (t, frame) = (next, frame + 1);
    }
    centres
}

#[test]
fn it_moves_evenly_through_its_points() {
    let centres = ridden(&way(), |_| 1.0 / 240.0);
    let moving: Vec<DVec2> = centres
        .iter()
        .filter(|(t, _)| (0.36..4.09).contains(t))
        .map(|(_, centre)| *centre)
        .collect();
    let steps: Vec<f64> = moving.windows(2).map(|pair| pair[0].distance(pair[1])).collect();
    let mean = steps.iter().sum::<f64>() / steps.len() as f64;
    for step in &steps {
        assert!((step - mean).abs() < 0.01 * mean, "{step} of {mean}");
    }
    for point in &way().points[1..] {
        let nearest = centres.iter().map(|(_, at)| at.distance(point.at)).fold(f64::MAX, f64::min);
        assert!(nearest < mean, "{point:?} is {nearest} away");
    }
    let (_, end) = centres[centres.len() - 1];
    assert_eq!(end, way().points[3].at, "it holds the last point");
}

#[test]
fn it_begins_without_a_jump_and_ends_in_the_hand() {
    let centres = ridden(&way(), |_| 1.0 / 240.0);
    let fastest = centres.windows(2).map(|pair| pair[0].1.distance(pair[1].1)).fold(0.0, f64::max);
    // The way is 900 long and takes 4 s; onto it there are 34 in a quarter of a second.
    assert!(fastest < 2.6, "{fastest} in a frame of 1/240 s");
    let mut camera = following();
    camera.travel(&way()).unwrap();
    camera.follow(0.1, [0, 0]);
    assert!(camera.is_in_hand());
    for _frame in 0..300 {
        // The same way, told every frame, is one way.
        camera.travel(&way()).unwrap();
        camera.follow(1.0 / 60.0, [0, 0]);
    }
    assert_eq!(camera.view().centre(), way().points[3].at);
    camera.release();
    for _frame in 0..60 {
        camera.follow(1.0 / 60.0, [0, 0]);
    }
    assert_eq!(camera.view().centre(), DVec2::ZERO);
    // Another hand takes the view, and a cut ends both.
    for other in [Command::Grab([10.0, 10.0].into()), Command::Cut] {
        camera.travel(&way()).unwrap();
        camera.follow(0.5, [0, 0]);
        camera.tell(other.clone()).unwrap();
        let held = camera.follow(0.1, [0, 0]).centre();
        assert!(camera.follow(0.2, [0, 0]).centre().distance(held) < 1e-9, "{other:?}");
        camera.tell(Command::Cut).unwrap();
        camera.follow(0.0, [0, 0]);
    }
}

#[test]
fn points_may_carry_a_zoom_and_a_rotation() {
    let points = [
        Waypoint::at([0, 0]),
        Waypoint::at([200, 0]).with_zoom(2.0).with_rotation(0.4),
        Waypoint::at([400, 0]).with_zoom(0.5),
    ];
    let mut camera = following();
    camera.travel(&Travel::new(points, 2.0).with_ease(Ease::Linear)).unwrap();
    camera.follow(0.0, [0, 0]);
    let mut lens = Vec::new();
    for _frame in 0..130 {
        let view = camera.follow(1.0 / 60.0, [0, 0]);
        lens.push((view.lens().zoom(), view.lens().rotation()));
    }
    let (zoom, rotation) = lens[59];
    assert!((zoom - 2.0).abs() < 1e-6 && (rotation - 0.4).abs() < 1e-6, "{zoom} {rotation}");
    let (zoom, _) = lens[129];
    assert!((zoom - 0.5).abs() < 1e-6, "{zoom}");
    assert!((1.0..1.1).contains(&lens[8].0), "it comes from the zoom at the start: {:?}", lens[8]);
    for pair in lens.windows(2) {
        assert!((pair[1].0 / pair[0].0).ln().abs() < 0.06, "{pair:?}");
    }
}

/// Bounds hold a traveller, a state continues it, and a world that loops moves it along.
#[test]
fn limits_states_and_translations() {
    let mut camera = following();
    camera.set_bounds(Some(Bounds::new(Rect::new([-400, -120], [700, 120]))), 0.0).unwrap();
    camera.travel(&way()).unwrap();
    for frame in 0..150 {
        let view = camera.follow(1.0 / 60.0, [0, 0]);
        let shown = view.visible_world();
        assert!(shown.min.y >= -120.0 - 1e-9 && shown.max.x <= 700.0 + 1e-9, "{frame}: {shown:?}");
    }
    let saved = camera.state();
    let once: Vec<DVec2> = (0..60).map(|_| camera.follow(0.02, [0, 0]).centre()).collect();
    camera.restore(saved).unwrap();
    let again: Vec<DVec2> = (0..60).map(|_| camera.follow(0.02, [0, 0]).centre()).collect();
    assert_eq!(once, again);

    let mut still = following();
    still.travel(&way()).unwrap();
    still.follow(0.5, [0, 0]);
    let mut moved = still.clone();
    let delta = DVec2::new(4096.0, -1024.0);
    moved.translate(delta);
    for _frame in 0..60 {
        let [one, other] = [still.follow(0.05, [0, 0]), moved.follow(0.05, delta)];
        assert!((one.centre() + delta - other.centre()).length() < 1e-6);
    }
}

#[test]
fn ways_that_can_not_be_travelled_are_refused() {
    let mut camera = following();
    let before = camera.state();
    let many = Travel::new((0..17).map(|x| Waypoint::at([x, 0])), 1.0);
    let nan = Travel::new([Waypoint::at([0, 0]), Waypoint::at([f64::NAN, 0.0])], 1.0);
    let flat = Travel::new([Waypoint::at([0, 0]).with_zoom(0.0)], 1.0);
    for (travel, error) in [
        (many, TravelError::Count(17)),
        (nan, TravelError::Point(1)),
        (flat, TravelError::Point(0)),
        (Travel::new([Waypoint::at([0, 0])], -1.0), TravelError::Seconds(-1.0)),
    ] {
        assert_eq!(camera.travel(&travel), Err(error.clone()));
        assert_eq!(travel.fault(), Some(error.clone()));
        let told = camera.tell(Command::Travel(travel)).unwrap_err();
        assert_eq!(told.to_string(), format!("travel: {error}"));
    }
    assert_eq!(camera.state(), before);
    // Points that stand twice, and a way of no length, are fine.
    let stands = [[5, 5], [5, 5], [90, 5], [90, 5], [5, 5]].map(Waypoint::at);
    for travel in [Travel::new(stands, 1.0), Travel::new([Waypoint::at([7, 7])], 1.0)] {
        camera.travel(&travel).unwrap();
        for _frame in 0..90 {
            assert!(camera.follow(1.0 / 60.0, [0, 0]).centre().is_finite());
        }
        assert_eq!(camera.view().centre(), travel.points[travel.points.len() - 1].at);
    }
}
