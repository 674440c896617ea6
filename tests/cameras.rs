//! Several cameras: cuts and glides.

use std::f64::consts::{PI, TAU};

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Camera, Cameras, Ease, Rect, Settings, Shake, Smoothing, View};

use crate::support::properties::properties;

const STEP: f64 = 1.0 / 60.0;

fn at(place: [f64; 2], zoom: f64, rotation: f64) -> Camera {
    let mut settings = Settings::default();
    settings.zoom.range = [0.1, 10.0].into();
    settings.zoom.level = zoom;
    let mut camera = Camera::new(settings).unwrap();
    camera.rotate_now(rotation);
    camera.place_at(place);
    camera
}

fn inside(view: &View, rect: &Rect) -> bool {
    let shown = view.visible_world();
    shown.min.cmpge(rect.min - 1e-6).all() && shown.max.cmple(rect.max + 1e-6).all()
}

properties! {
    #![cases(1000)]

    /// Between two cameras at rest, the centre moves in a straight line, the zoom in log space, the rotation in the
    /// shorter direction. At the end, the view is exactly that of the other camera.
    #[test]
    fn a_glide_in_closed_form(
        places in prop::array::uniform4(-900.0..900.0_f64), zooms in (0.2..5.0_f64, 0.2..5.0_f64),
        turns in (-PI..PI, -PI..PI), steps in 2..100_u32,
    ) {
        let mut cameras = Cameras::new(1, at([places[0], places[1]], zooms.0, turns.0));
        cameras.insert(2, at([places[2], places[3]], zooms.1, turns.1));
        let (from, to) = (cameras.active().view(), cameras.get(&2).unwrap().view());
        prop_assert!(cameras.glide_to(&2, 1.0, Ease::Linear));
        let arc = (turns.1 - turns.0 + PI).rem_euclid(TAU) - PI;
        for step in 0..steps {
            let view = cameras.view(if step == 0 { 1e9 } else { 1.0 / f64::from(steps) });
            let part = f64::from(step) / f64::from(steps);
            prop_assert!((view.centre() - from.centre().lerp(to.centre(), part)).length() < 1e-6);
            let zoom = zooms.0.powf(1.0 - part) * zooms.1.powf(part);
            prop_assert!((view.lens().zoom() / zoom - 1.0).abs() < 1e-9);
            let turned = view.lens().rotation() - (turns.0 + arc * part);
            let turned = (turned + PI).rem_euclid(TAU) - PI;
            prop_assert!(turned.abs() < 1e-6 || (arc.abs() - PI).abs() < 1e-6);
        }
        prop_assert_eq!(cameras.view(1.0 / f64::from(steps)), to);
        prop_assert!(!cameras.is_gliding());
    }

    /// If both cameras move, the glide still ends in time and at the right position. No step is larger than both
    /// movements and the glide's own speed (1.5 of the distance in its time) explain, and the view stays in the shared
    /// bounds.
    #[test]
    fn a_glide_between_moving_cameras(
        walk in prop::collection::vec((-4.0..4.0_f64, -4.0..4.0_f64), 100), zooms in (0.7..3.0_f64, 0.7..3.0_f64),
        seconds in 0.1..1.2_f64, turn in prop_oneof![Just(0.0), -0.3..0.3_f64], back in 20..80_usize,
    ) {
        let world = Rect::new([0, 0], [1600, 1000]);
        let bounded = |zoom: f64, rotation: f64| {
            let mut settings = Settings { bounds: Some(Bounds::new(world)), ..Settings::default() };
            settings.zoom.level = zoom;
            settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
            let mut camera = Camera::new(settings).unwrap();
            camera.rotate_now(rotation);
            camera
        };
        let mut cameras = Cameras::new("wren", bounded(zooms.0, 0.0));
        cameras.insert("kite", bounded(zooms.1, turn));
        let (mut wren, mut kite) = (DVec2::new(300.0, 400.0), DVec2::new(1200.0, 300.0));
        let mut last: Option<(View, [DVec2; 2])> = None;
        for (frame, way) in walk.into_iter().enumerate() {
            (wren, kite) = (wren + DVec2::from(way), kite - DVec2::from(way).perp());
            match frame {
                10 => prop_assert!(cameras.glide_to(&"kite", seconds, Ease::InOut)),
                frame if frame == back => prop_assert!(cameras.glide_to(&"wren", seconds, Ease::InOut)),
                _ => {}
            }
            let ends = [("wren", wren), ("kite", kite)].map(|(key, place)| {
                cameras.get_mut(&key).unwrap().follow(STEP, place).centre()
            });
            let view = cameras.view(STEP);
            prop_assert!(inside(&view, &world), "{:?}", view.visible_world());
            if let Some((last, before)) = last {
                let ways = ends[0].distance(before[0]).max(ends[1].distance(before[1]));
                let most = ways + 1.5 * STEP / seconds * (ends[0].distance(ends[1]) + 200.0) + 1e-6;
                // Kept inside while it turns and zooms, it may be moved by what its extent changes.
                let extent = (view.visible_world().size() - last.visible_world().size()).length();
                prop_assert!(view.centre().distance(last.centre()) <= most + extent);
            }
            last = Some((view, ends));
        }
        for _frame in 0..100 {
            cameras.get_mut(&"wren").unwrap().follow(STEP, wren);
            cameras.view(STEP);
        }
        prop_assert_eq!(cameras.view(STEP), cameras.get(&"wren").unwrap().view());
    }
}

/// A rotated camera in a world from the origin to `end`, following a subject at one of its corners.
fn in_world(end: [i32; 2], rotation: f64, subject: [i32; 2]) -> Camera {
    let bounds = Some(Bounds::new(Rect::new([0, 0], end)));
    let mut camera = Camera::new(Settings { bounds, ..Settings::default() }).unwrap();
    camera.rotate_now(rotation);
    camera.follow(STEP, subject);
    camera
}

/// Half way through a turn, a view that is higher than the world comes closer.
#[test]
fn nothing_outside_is_shown_while_the_view_turns() {
    let world = [400, 230];
    let mut cameras = Cameras::new(0, in_world(world, 0.0, [390, 220]));
    cameras.insert(1, in_world(world, 3.0, [390, 220]));
    cameras.glide_to(&1, 1.0, Ease::Linear);
    for _frame in 0..60 {
        let view = cameras.view(STEP);
        assert!(inside(&view, &Rect::new([0, 0], world)), "{:?}", view.visible_world());
    }
}

#[test]
fn a_view_between_is_inside_the_world_at_its_time_and_zoom() {
    let world = [900, 900];
    let [from, to] = [0.0, 3.0].map(|rotation| in_world(world, rotation, [-90, 990]).view());
    let (from, to) = (from.with_time(7.0), to.with_time(10.0));
    let [near, far] = [1.0, 4.0].map(|zoom| at([0.0, 0.0], zoom, 0.0).view());
    for part in [0.2, 0.5, 0.9] {
        let view = View::between(&from, &to, part);
        assert!(inside(&view, &Rect::new([0, 0], world)), "{:?}", view.visible_world());
        assert!((view.time() - 7.0 - 3.0 * part).abs() < 1e-12);
        let zoom = View::between(&near, &far, part).lens().zoom();
        assert!((zoom - 4.0_f64.powf(part)).abs() < 1e-12);
    }
}

/// Its duration is exact to 1e-9, at any frame rate.
#[test]
fn a_glide_ends_on_its_time() {
    for fps in [30, 60, 144, 1000] {
        let mut cameras = Cameras::new(0, at([0.0, 0.0], 1.0, 0.0));
        cameras.insert(1, at([500.0, 0.0], 1.0, 0.0));
        cameras.glide_to(&1, 2.0, Ease::InOut);
        cameras.view(0.0);
        let mut goal = 500.0;
        for _frame in 1..2 * fps {
            goal += 0.25;
            cameras.get_mut(&1).unwrap().follow(1.0 / f64::from(fps), [goal, 0.0]);
            assert!(cameras.view(1.0 / f64::from(fps)).centre().x < goal);
        }
        assert!((cameras.view(1.0 / f64::from(fps)).centre().x - goal).abs() < 1e-9);
    }
}

#[test]
fn cameras_are_added_switched_and_removed() {
    let mut cameras = Cameras::new("a", at([1.0, 0.0], 1.0, 0.0));
    assert!(cameras.insert("b", at([2.0, 0.0], 1.0, 0.0)).is_none());
    assert!(cameras.insert("a", at([3.0, 0.0], 1.0, 0.0)).is_some());
    assert_eq!((*cameras.active_key(), cameras.active().view().centre().x), ("a", 3.0));
    assert!(
        !cameras.switch_to(&"c") && !cameras.glide_to(&"c", 1.0, Ease::In) && !cameras.is_gliding()
    );
    assert!(cameras.remove(&"a").is_none(), "the active one stays");
    assert!(cameras.glide_to(&"b", f64::NAN, Ease::In), "no time: a cut");
    assert_eq!((*cameras.active_key(), cameras.is_gliding()), ("b", false));
    // Taken out in mid-glide, where it was is where the glide comes from.
    assert!(cameras.glide_to(&"a", 1.0, Ease::Linear));
    cameras.view(0.0);
    assert!(cameras.remove(&"b").is_some());
    assert_eq!(cameras.view(0.5).centre().x, 2.5);
    let keys: Vec<&str> = cameras.iter_mut().map(|(key, _)| *key).collect();
    assert_eq!(keys, ["a"]);
    cameras.resize((640, 360));
    assert_eq!(cameras.view(1.0).window_size(), (640, 360).into());
}

/// Each camera has its own shakes and settings.
#[test]
fn each_camera_keeps_its_own_shakes_and_zoom() {
    let mut cameras = Cameras::new(0, at([0.0, 0.0], 1.0, 0.0));
    cameras.insert(1, at([0.0, 0.0], 2.0, 0.0));
    cameras.get_mut(&1).unwrap().shake(&Shake { hold: 9.0, ..Shake::default() }, 1.0);
    for (_, camera) in cameras.iter_mut() {
        camera.advance(0.0);
        camera.advance(0.1);
    }
    assert_eq!(cameras.view(0.0).shake().pixels, DVec2::ZERO);
    assert!(cameras.switch_to(&1));
    assert!(cameras.view(0.0).shake().pixels.length() > 0.0);
    assert_eq!(cameras.view(0.0).lens().zoom(), 2.0);
}
