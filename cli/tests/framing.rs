//! Takes with rooms, parties, lures, zones, rails and several cameras.

use crate::tools::{Folder, Numbers, demo, demo_takes};

fn trace(name: &str) -> Numbers {
    let folder = Folder::new(&[]);
    Numbers::read(&folder.ok(&["trace", demo(name).to_str().unwrap()]))
}

/// The row at a time of a take at 60 frames a second.
fn at(ride: &Numbers, column: &str, seconds: f64) -> f64 {
    ride.column(column)[(seconds * 60.0).round() as usize]
}

/// Every take of the demo has a whole ride, and is filmed with its overlay.
#[test]
fn every_demo_take_runs() {
    let folder = Folder::new(&[]);
    for name in demo_takes() {
        let ride = trace(&name);
        for column in ["x", "y", "goal_x", "goal_y", "zoom", "residual_x"] {
            assert!(ride.column(column).iter().all(|value| value.is_finite()), "{name}: {column}");
        }
        let (take, out) = (demo(&name), name.replace(".toml", ".png"));
        let args = ["film", take.to_str().unwrap(), "--overlay", "--frames", "3", "--window"];
        folder.ok(&[&args[..], &["160x90", "--out", &out]].concat());
    }
    assert!(folder.names().len() > 11);
}

#[test]
fn the_kite_is_framed_and_let_go() {
    let ride = trace("kite.toml");
    assert_eq!(at(&ride, "zoom", 1.9), 1.0, "alone");
    let apart = at(&ride, "zoom", 7.6);
    assert!(apart < 0.95, "both are held: {apart}");
    // She is never let go: always on the screen.
    for (column, size) in [("subject_screen_x", 320.0), ("subject_screen_y", 180.0)] {
        assert!(ride.column(column).iter().all(|at| (0.0..=size).contains(at)), "{column}");
    }
    // Far away, the kite is let go, and the view comes back to her.
    assert!(at(&ride, "zoom", 15.0) > at(&ride, "zoom", 13.0));
}

#[test]
fn the_drying_house_is_shown_room_by_room() {
    let ride = trace("house.toml");
    let (x, y) = (ride.column("x"), ride.column("y"));
    let middle = |value: f64, size: f64| ((value / size - 0.5).fract()).abs() < 1e-9;
    let resting =
        x.iter().zip(&y).filter(|(x, y)| middle(**x, 320.0) && middle(**y, 176.0)).count();
    // Six rooms are entered after the first, each by a slide of 0.4 s, which is 24 frames.
    let sliding = x.len() - resting;
    assert!((5 * 22..=7 * 25).contains(&sliding), "{sliding} frames between rooms");
    assert_eq!((at(&ride, "x", 15.5), at(&ride, "y", 15.5)), (160.0, 88.0));
}

#[test]
fn the_cable_ride_is_on_its_rail() {
    let ride = trace("cable.toml");
    // From 500, 600 to 900, 540, at 260 units a second.
    let (x, y) = (at(&ride, "x", 2.0), at(&ride, "y", 2.0));
    assert!((y - (600.0 - (x - 500.0) * 60.0 / 400.0)).abs() < 1e-6, "{x}, {y}");
    let further = at(&ride, "x", 2.5) - x;
    assert!((further - 130.0 * (400.0 / 400_f64.hypot(60.0))).abs() < 1e-6, "{further}");
}

#[test]
fn the_shrine_is_shown_closer() {
    let ride = trace("shrine.toml");
    assert_eq!(at(&ride, "zoom", 10.0), 1.0);
    assert_eq!(at(&ride, "zoom", 14.5), 1.6);
}

/// The parts of the cellar, from its file.
const CELLAR: [[f64; 4]; 4] = [
    [32.0, 768.0, 992.0, 240.0],
    [32.0, 224.0, 416.0, 784.0],
    [768.0, 320.0, 128.0, 688.0],
    [576.0, 96.0, 448.0, 288.0],
];

/// Wherever the corners of the view are outside of the cellar, the view is in the stair or on its way.
#[test]
fn the_cellar_is_shown_from_inside() {
    let ride = trace("cellar.toml");
    let (x, y) = (ride.column("x"), ride.column("y"));
    let inside = |x: f64, y: f64| {
        let holds = |[left, top, width, height]: &[f64; 4]| {
            (0.0..=*width).contains(&(x - left)) && (0.0..=*height).contains(&(y - top))
        };
        CELLAR.iter().any(holds)
    };
    let mut in_the_stair = 0;
    for (frame, (x, y)) in x.iter().zip(&y).enumerate() {
        let corners = [(-159.9, -89.9), (159.9, -89.9), (-159.9, 89.9), (159.9, 89.9)];
        if corners.iter().all(|(right, down)| inside(x + right, y + down)) {
            continue;
        }
        let t = frame as f64 / 60.0;
        assert!((9.5..14.5).contains(&t), "outside at {t}");
        in_the_stair += usize::from((x - 832.0).abs() < 1e-9);
    }
    assert!(in_the_stair > 150, "{in_the_stair} frames in the middle of the stair");
    // She is on the screen all the time.
    for (column, size) in [("subject_screen_x", 320.0), ("subject_screen_y", 180.0)] {
        assert!(ride.column(column).iter().all(|at| (0.0..=size).contains(at)), "{column}");
    }
}

/// A cutscene with its own camera leaves the main one alone.
#[test]
fn the_cutscene_comes_back_to_the_same_ride() {
    let (cut, plain) = (trace("landslide.toml"), trace("terraces.toml"));
    for seconds in [0.0, 1.5, 3.0, 10.0, 11.0] {
        for column in ["x", "y"] {
            let apart = at(&cut, column, seconds) - at(&plain, column, seconds);
            assert!(apart.abs() < 1e-9, "{column} at {seconds}: {apart}");
        }
    }
    assert_eq!(
        (at(&cut, "x", 4.5), at(&cut, "y", 4.5), at(&cut, "zoom", 4.5)),
        (3000.0, 560.0, 0.8)
    );
    assert_eq!((at(&cut, "x", 6.9), at(&cut, "x", 8.5)), (3300.0, 2700.0));
}
