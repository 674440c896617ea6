//! Rails and steady scrolling.

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Camera, Rail, RailCurve, Rect, Scroll, Settings, Smoothing};

use crate::rooms::walks;
use crate::support::properties::properties;

properties! {
    #![cases(1000)]

    /// The goal is always on the rail, and never further along than possible.
    #[test]
    fn the_goal_is_on_the_rail(
        corners in prop::collection::vec((-300.0..300.0_f64, -300.0..300.0_f64), 2..12), walk in walks(30.0),
    ) {
        let points: Vec<DVec2> = corners.into_iter().map(DVec2::from).collect();
        let rail = Rail { points: points.clone(), ..Rail::default() };
        let mut camera = Camera::new(Settings { rail: Some(rail), ..Settings::default() }).unwrap();
        let mut place = DVec2::ZERO;
        let nearest = |at: DVec2| {
            let piece = |pair: &[DVec2]| {
                let way = pair[1] - pair[0];
                let part = ((at - pair[0]).dot(way) / way.length_squared()).clamp(0.0, 1.0);
                pair[0] + way * part
            };
            points.windows(2).map(piece).fold(DVec2::INFINITY, |best, one| {
                if one.distance(at) < best.distance(at) { one } else { best }
            })
        };
        // The first frame is at the nearest point of all.
        let first = camera.follow(0.0, place).centre();
        prop_assert!((first.distance(place) - nearest(place).distance(place)).abs() < 1e-9);
        for (seconds, way) in walk {
            place += way;
            let centre = camera.follow(seconds, place).centre();
            prop_assert!(nearest(centre).distance(centre) < 1e-6, "{centre} is beside the rail");
        }
    }
}

fn on_rail(points: &[[f64; 2]], speed: Option<f64>, smoothing: Smoothing) -> Camera {
    let points = points.iter().map(|point| DVec2::from(*point)).collect();
    let mut settings =
        Settings { rail: Some(Rail { points, speed, ..Rail::default() }), ..Settings::default() };
    settings.follow.smoothing = smoothing.into();
    Camera::new(settings).unwrap()
}

/// The goal does not jump across a rail that comes near itself.
#[test]
fn a_rail_is_followed_along() {
    let points = [[0.0, 0.0], [400.0, 0.0], [400.0, 30.0], [0.0, 30.0]];
    let mut camera = on_rail(&points, None, Smoothing::None);
    camera.follow(0.0, [100, 0]);
    let centre = camera.follow(0.1, [110, 25]).centre();
    assert!((centre - DVec2::new(110.0, 0.0)).length() < 1e-9, "{centre}");
    // By itself: 90 units a second, around the corner, and at the end it stays.
    let points = [[0.0, 0.0], [90.0, 0.0], [90.0, 45.0]];
    let mut camera = on_rail(&points, Some(90.0), Smoothing::None);
    camera.follow(0.0, [0, 500]);
    for (seconds, at) in [(0.5, [45.0, 0.0]), (0.75, [90.0, 22.5]), (5.0, [90.0, 45.0])] {
        let centre = camera.follow(seconds, [0, 500]).centre();
        assert!((centre - DVec2::from(at)).length() < 1e-9, "{centre}");
    }
}

/// A rail from a curve tool has thousands of corners. Bends that can't be seen are left out, and the view is still on it
/// to 1/50 px at the largest zoom.
#[test]
fn a_rail_of_short_pieces_is_followed_within_a_fiftieth_of_a_pixel() {
    let curve = |x: f64| [x, 480.0 + 200.0 * (x / 96.0).sin()];
    let points: Vec<[f64; 2]> = (0..=10_000).map(|at| curve(f64::from(at) * 0.384)).collect();
    let mut camera = on_rail(&points, None, Smoothing::None);
    let zoom = camera.settings().zoom.range.max;
    let mut by_itself = on_rail(&points, Some(90.0), Smoothing::None);
    by_itself.follow(0.0, points[0]);
    let mut beyond: f64 = 0.0;
    for frame in 0..1500 {
        let x = 20.0 + f64::from(frame) * 2.3;
        let centres =
            [camera.follow(1.0 / 60.0, [x, 480.0]), by_itself.follow(1.0 / 60.0, points[0])];
        for centre in centres.map(|view| view.centre()) {
            let near = points.partition_point(|[x, _]| *x < centre.x);
            let [from, to] = [near - 1, near].map(|at| DVec2::from(points[at]));
            let away = (centre - from).perp_dot((to - from).normalize()).abs();
            beyond = beyond.max(away * zoom);
        }
    }
    assert!(beyond <= 0.02, "{beyond} px beside the rail");
}

/// A smooth rail passes through its points at an even speed, and has no corner.
#[test]
fn a_smooth_rail_passes_through_its_points() {
    let points: Vec<DVec2> =
        [[0.0, 0.0], [300.0, 0.0], [420.0, 160.0], [420.0, 160.0], [700.0, 40.0]]
            .map(DVec2::from)
            .to_vec();
    let rail = Rail { points: points.clone(), speed: Some(90.0), curve: RailCurve::Smooth };
    let mut camera = Camera::new(Settings { rail: Some(rail), ..Settings::default() }).unwrap();
    camera.follow(0.0, [0, 0]);
    let centres: Vec<DVec2> =
        (0..640).map(|_frame| camera.follow(1.0 / 60.0, [0, 0]).centre()).collect();
    let end = centres.iter().position(|centre| *centre == points[4]).expect("it arrives");
    for point in &points {
        let nearest = centres.iter().map(|centre| centre.distance(*point)).fold(f64::MAX, f64::min);
        assert!(nearest < 1.51, "{point} is {nearest} away");
    }
    for three in centres[..end].windows(3) {
        let [before, after] = [three[1] - three[0], three[2] - three[1]];
        assert!((before.length() - 1.5).abs() < 0.015, "{before}");
        assert!(before.angle_to(after).abs() < 0.06, "a corner at {}", three[1]);
    }
}

/// Corners on a straight line change nothing, nor do corners that stand twice.
#[test]
fn a_corner_that_does_not_bend_a_rail_changes_nothing() {
    let plain = [[0.0, 0.0], [400.0, 0.0], [400.0, 300.0], [100.0, 300.0]];
    let corners = [
        [0.0, 0.0],
        [0.0, 0.0],
        [128.0, 0.0],
        [400.0, 0.0],
        [400.0, 0.0],
        [400.0, 75.0],
        [400.0, 300.0],
        [100.0, 300.0],
    ];
    for speed in [None, Some(90.0)] {
        let rails = [&plain[..], &corners[..]];
        let mut cameras = rails.map(|points| on_rail(points, speed, Smoothing::HalfLife(0.1)));
        for frame in 0..600 {
            let subject = [f64::from(frame), f64::from(frame) * 0.6];
            let [one, other] =
                cameras.each_mut().map(|camera| camera.follow(1.0 / 60.0, subject).centre());
            assert_eq!(one, other, "frame {frame}, {speed:?}");
        }
    }
}

/// There and back around two corners, and beyond both ends.
#[test]
fn a_rail_is_followed_back() {
    let points = [[0.0, 0.0], [90.0, 0.0], [90.0, 45.0], [180.0, 45.0]];
    let mut camera = on_rail(&points, None, Smoothing::None);
    let along = |at: f64| match at {
        at if at < 90.0 => DVec2::new(at, 0.0),
        at if at < 135.0 => DVec2::new(90.0, at - 90.0),
        at => DVec2::new(at - 45.0, 45.0),
    };
    let there = (-10..=24).chain((-10..24).rev()).chain(-10..=24);
    for at in there.map(|step| f64::from(step) * 10.0) {
        let centre = camera.follow(1.0 / 60.0, along(at)).centre();
        let expected = along(at.clamp(0.0, 225.0));
        assert!(centre.distance(expected) < 1e-9, "{centre} for {expected}");
    }
}

/// A rail that ends within a step: a view that is smoothed is where tiny steps lead it.
#[test]
fn the_end_of_a_rail_is_reached_within_a_step() {
    let ride = |steps: u32| {
        let points = [[0.0, 0.0], [36.0, 0.0]];
        let mut camera = on_rail(&points, Some(90.0), Smoothing::HalfLife(0.3));
        camera.follow(0.0, [0, 500]);
        camera.follow(0.1, [0, 500]);
        (0..steps).map(|_| camera.follow(1.0 / f64::from(steps), [0, 500]).centre().x).last()
    };
    let (one, tiny) = (ride(1).unwrap(), ride(10_000).unwrap());
    assert!((one - tiny).abs() < 1e-2 && tiny < 33.0, "{one} beside {tiny}");
}

#[test]
fn scrolling_stays_inside_the_bounds() {
    let scroll = Some(Scroll { speed: DVec2::new(100.0, 0.0) });
    let mut settings = Settings { scroll, ..Settings::default() };
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [500, 180])));
    let mut camera = Camera::new(settings).unwrap();
    camera.follow(0.0, [160, 90]);
    for _step in 0..100 {
        camera.follow(0.1, [0, 90]);
    }
    assert_eq!(camera.view().centre().x, 340.0);
    // New bounds: it goes on from there, not from where it would have been.
    camera.set_bounds(Some(Bounds::new(Rect::new([0, 0], [5000, 180]))), 0.0).unwrap();
    camera.follow(0.0, [0, 90]);
    assert!((camera.follow(0.1, [0, 90]).centre().x - 350.0).abs() < 1e-9);
}
