//! Bodies that are kept in the view or in the bounds, and bounds with open sides.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, Ease, Lens, Ratchet, Rect, Screen, Scroll, Settings, Shake, Side, Sides,
    Smoothing, Snap, View, YAxis,
};

use crate::support::properties::properties;

fn sides() -> impl Strategy<Value = Sides> {
    prop::collection::vec(
        prop_oneof![Just(Side::Left), Just(Side::Right), Just(Side::Top), Just(Side::Bottom)],
        0..4,
    )
    .prop_map(Sides::from_iter)
}

/// A rectangle whose open sides are a billion units away: the same to a camera that stays near.
fn widened(rect: Rect, open: Sides, up: bool) -> Rect {
    const FAR: f64 = 1e9;
    let Rect { mut min, mut max } = rect;
    for side in open.iter() {
        match side {
            Side::Left => min.x = -FAR,
            Side::Right => max.x = FAR,
            Side::Top if up => max.y = FAR,
            Side::Bottom if up => min.y = -FAR,
            Side::Top => min.y = -FAR,
            Side::Bottom => max.y = FAR,
        }
    }
    Rect { min, max }
}

properties! {
    #![cases(300)]

    /// Bounds with open sides give the views of a rectangle that is very large on these sides, whatever else limits them.
    #[test]
    fn an_open_side_is_one_that_is_far_away(
        open in sides(), up in any::<bool>(), fills in any::<bool>(), snap in any::<bool>(),
        cushion in prop_oneof![Just(0.0), 0.05..0.4_f64],
        ratchet in prop_oneof![Just(Ratchet::None), Just(Ratchet::Right), Just(Ratchet::Up)],
        size in (200.0..2000.0_f64, 100.0..900.0_f64),
        ways in prop::collection::vec((-30.0..30.0_f64, -30.0..30.0_f64, 0.0..0.05_f64, 0..40_u8), 100),
    ) {
        let mut settings = Settings::default();
        settings.screen.y_axis = if up { YAxis::Up } else { YAxis::Down };
        settings.screen.snap = if snap { Snap::Whole } else { Snap::Off };
        settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
        settings.follow.ratchet = ratchet;
        settings.zoom.fill_bounds = fills;
        settings.shake.stay_in_bounds = true;
        let rect = Rect::from_corner_size([-100.0, -50.0], size);
        let bounds = Bounds { cushion_depth: cushion, ..Bounds::new(rect) };
        let camera = |bounds: Bounds| {
            Camera::new(Settings { bounds: Some(bounds), ..settings.clone() }).expect("valid settings")
        };
        let mut open_one = camera(Bounds { open, ..bounds });
        let mut far_one = camera(Bounds { rect: Some(widened(rect, open, up)), ..bounds });
        let mut at = DVec2::ZERO;
        for (x, y, seconds, event) in ways {
            at += DVec2::new(x, y);
            let [one, other] = [&mut open_one, &mut far_one].map(|camera| {
                match event {
                    0 => camera.zoom_to(0.6),
                    1 => camera.rotate_now(0.3),
                    2 => camera.shake(&Shake::default(), 1.0),
                    3 => camera.glide(0.4, Ease::Smooth),
                    4 => camera.set_bounds(None, 0.3).expect("no layer covers"),
                    5 => {
                        let bounds = camera.settings().bounds;
                        camera.set_bounds(bounds, 0.3).expect("its own bounds");
                    }
                    _ => {}
                }
                camera.follow(seconds, at)
            });
            prop_assert!((one.centre() - other.centre()).length() < 1e-6, "{one:?} {other:?}");
            prop_assert!((one.lens().zoom() - other.lens().zoom()).abs() < 1e-6);
            prop_assert!((one.residual() - other.residual()).length() < 1e-3);
            let overlay = open_one.overlay();
            let mut drawn = overlay.marks().flat_map(|mark| mark.world_points().to_vec());
            prop_assert!(drawn.all(DVec2::is_finite), "{overlay:?}");
        }
    }

    /// All of a body that fits is in the view, it moves only if it was not, and not farther than needed.
    #[test]
    fn a_body_is_stopped_at_the_edge_of_the_view(
        turn in -4.0..4.0_f64, zoom in 0.3..3.0_f64, up in any::<bool>(),
        at in (-900.0..900.0_f64, -900.0..900.0_f64), half in (0.0..20.0_f64, 0.0..20.0_f64),
    ) {
        let screen = Screen { y_axis: if up { YAxis::Up } else { YAxis::Down }, ..Screen::default() };
        let lens = Lens::new(&screen).with_zoom(zoom).with_rotation(turn);
        let view = View::new(lens, [30, 40], Snap::Off);
        let (at, half) = (DVec2::from(at), DVec2::from(half));
        let held = view.stop(at, half);
        // By how many screen pixels its corners are out, on the worse axis.
        let out = |at: DVec2| {
            let corner = |x: f64, y: f64| view.world_to_screen(at + half * DVec2::new(x, y));
            let corners = [corner(-1.0, -1.0), corner(1.0, -1.0), corner(-1.0, 1.0), corner(1.0, 1.0)];
            let size = Vec2::new(320.0, 180.0);
            let over = corners.map(|at| (-at).max(at - size).max_element());
            over.into_iter().fold(f32::MIN, f32::max)
        };
        prop_assert!(out(held) < 1e-3, "{} pixels out", out(held));
        if out(at) < -1e-3 {
            prop_assert_eq!(held, at);
        } else if out(at) > 1e-2 {
            let back = held + (at - held) * 0.01;
            prop_assert!(out(back) > -1e-3, "it is {} pixels farther in than needed", out(back));
        }
    }
}

#[test]
fn bounds_stop_a_body_but_not_at_an_open_side() {
    let bounds = Bounds { open: [Side::Top].into(), ..Bounds::new(Rect::new([0, 0], [100, 60])) };
    for (at, up, expected) in [
        ([-9.0, 30.0], false, [5.0, 30.0]),
        ([99.0, 70.0], false, [95.0, 57.0]),
        ([50.0, -900.0], false, [50.0, -900.0]),
        ([50.0, -900.0], true, [50.0, 3.0]),
        ([50.0, 900.0], true, [50.0, 900.0]),
    ] {
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        assert_eq!(bounds.stop(at, [5, 3], y_axis), DVec2::from(expected), "{at:?} {up}");
    }
    // One that does not fit is in the middle, of the axis on which it does not.
    let wide = bounds.stop([-9.0, 30.0], [70.0, 3.0], YAxis::Down);
    assert_eq!(wide, DVec2::new(50.0, 30.0));
    assert!(bounds.stop([f64::NAN, 30.0], [5, 3], YAxis::Down).y == 30.0);
}

/// A steady scroll pushes a player who stands, by its left edge.
#[test]
fn a_scroll_pushes_a_body() {
    let scroll = Some(Scroll { speed: [60.0, 0.0].into() });
    let mut camera =
        Camera::new(Settings { scroll, ..Settings::default() }).expect("valid settings");
    let mut wren = DVec2::new(0.0, 0.0);
    for _frame in 0..600 {
        let view = camera.follow(1.0 / 60.0, wren);
        camera.shake(&Shake::default(), 1.0);
        wren = view.stop(wren, [8, 12]);
        assert!(view.steady().visible_world().min.x <= wren.x - 8.0 + 1e-9);
    }
    assert!((wren.x - (60.0 * 10.0 - 160.0 + 8.0)).abs() < 2.0, "{wren}");
}
