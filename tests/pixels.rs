//! The picture in the window: fits, pointers, steps of a pan, trembling.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{
    Blending, Bounds, Camera, Canvas, CanvasMut, Fit, Lens, MAX_REVEALED, Ratchet, Rect, Rooms,
    Screen, Settings, Snap, View, YAxis, present,
};

use crate::support::corners;
use crate::support::properties::properties;

const FITS: [Fit; 4] = [Fit::Whole, Fit::Contain, Fit::Reveal, Fit::Cover];
const SNAPS: [Snap; 3] = [Snap::Off, Snap::Whole, Snap::Subpixel];

/// A camera's view in a window, looking at `centre`.
fn view_in(settings: &Settings, window: (u32, u32), centre: DVec2) -> View {
    let mut camera = Camera::new(settings.clone()).expect("valid settings");
    camera.resize(window);
    camera.place_at(centre);
    camera.view()
}

prop_compose! {
    fn settings()(
        size in (1..700_u32, 1..700_u32),
        fit in prop::sample::select(&FITS),
        snap in prop::sample::select(&SNAPS),
        unit_pixels in prop_oneof![Just(1.0), 0.3..40.0_f64],
        up in any::<bool>(),
    ) -> Settings {
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        Settings {
            screen: Screen { size: size.into(), unit_pixels, y_axis, fit, snap },
            ..Settings::default()
        }
    }
}

properties! {
    #![cases(3000)]

    #[test]
    fn nothing_is_squashed_and_pointers_come_back(
        settings in settings(),
        window in (1..10_000_u32, 1..10_000_u32),
        pointer in (0.0..1.0_f32, 0.0..1.0_f32),
        centre in (-1e5..1e5_f64, -1e5..1e5_f64),
    ) {
        let view = view_in(&settings, window, centre.into());
        let placement = view.placement();
        let design = settings.screen.size;
        // One scale for both axes, in the window as on the screen.
        let unit = |axis: DVec2| {
            let (a, b) = (view.screen_to_window(view.world_to_screen(view.centre())), view.screen_to_window(view.world_to_screen(view.centre() + axis)));
            Vec2::new(b.x - a.x, b.y - a.y).length()
        };
        let reach = 100.0 / (view.scale() * placement.scale);
        let (x, y) = (unit(DVec2::X * reach), unit(DVec2::Y * reach));
        // A window point is f32, and a covered screen may reach far beyond the window.
        let most = 0.01 + 1e-6 * placement.origin.abs().max_element() as f32;
        prop_assert!((x - y).abs() < most && (x - 100.0).abs() < 2.0 * most, "{x} and {y}");

        match settings.screen.fit {
            Fit::Whole => prop_assert!(placement.scale.fract() == 0.0 && placement.scale >= 1.0),
            Fit::Reveal => {
                prop_assert!(view.size().cmpge(design).all() && view.size().cmple(design * MAX_REVEALED).all());
                let shown = view.safe_area().size();
                prop_assert!((shown - design.as_vec2()).abs().max_element() < 1.0, "safe area {shown} for {design}");
                let capped = (view.size() / MAX_REVEALED).cmpge(design).any();
                let filled = placement.first == UVec2::ZERO && placement.end == UVec2::from(window);
                prop_assert!(capped || filled, "bars: {placement:?}");
            }
            Fit::Contain => prop_assert!((view.visible_screen().size() - view.size().as_vec2()).abs().max_element() <= 1.0 / placement.scale as f32 + 0.01),
            _ => prop_assert!(placement.first == UVec2::ZERO && placement.end == UVec2::from(window)),
        }

        let at = Vec2::from(pointer) * Vec2::new(window.0 as f32, window.1 as f32);
        let inside = placement.shows(f64::from(at.x), f64::from(at.y));
        prop_assert_eq!(view.window_to_screen((at.x, at.y)).is_some(), inside);
        if let Some(screen) = view.window_to_screen((at.x, at.y)) {
            let back = view.screen_to_window(screen);
            let off = Vec2::new(back.x - at.x, back.y - at.y).length() / placement.scale as f32;
            prop_assert!(off < 0.01, "{off} screen pixels");
            let world = view.window_to_world((at.x, at.y)).expect("inside");
            prop_assert!((view.world_to_screen(world) - screen).length() < 0.01);
        }
        prop_assert_eq!(view.window_to_screen((-1.0, 5.0)), None);
        prop_assert_eq!(view.window_to_screen((f32::NAN, 5.0)), None);
    }

    /// A pointer hits what is drawn: a position on the canvas, through the window, and back.
    #[test]
    fn the_pointer_hits_what_is_drawn(
        settings in settings(), centre in (-1e4..1e4_f64, -1e4..1e4_f64), thing in (0.2..0.8_f64, 0.2..0.8_f64),
    ) {
        let view = view_in(&settings, (1280, 720), centre.into());
        let size = view.size().as_dvec2();
        let world = view.screen_to_world((size * DVec2::from(thing)).as_vec2());
        let placement = view.placement();
        // The middle of the canvas pixel on which it is drawn, in the window.
        let drawn = placement.origin + (view.canvas_position(world).as_dvec2()) * placement.scale;
        if let Some(hit) = view.window_to_world(drawn.as_vec2()) {
            let off = view.world_to_screen_vector(hit - world);
            prop_assert!(off.abs().max_element() <= 0.52, "{off} screen pixels beside it");
        }
    }

    /// No column and no row outside the world is visible, at any bound.
    #[test]
    fn nothing_outside_is_ever_shown(
        settings in settings(),
        world in (1..4000_u32, 1..4000_u32),
        corner in (-3000..3000_i32, -3000..3000_i32),
        subject in (-9000.0..9000.0_f64, -9000.0..9000.0_f64),
        whole in any::<bool>(),
        window in (1..3000_u32, 1..3000_u32),
    ) {
        let corner = if whole { DVec2::new(f64::from(corner.0), f64::from(corner.1)) }
            else { DVec2::new(f64::from(corner.0) + 0.37, f64::from(corner.1) - 0.71) };
        let rect = Rect::from_corner_size(corner, [f64::from(world.0), f64::from(world.1)]);
        let settings = Settings { bounds: Some(Bounds::new(rect)), ..settings };
        let view = view_in(&settings, window, subject.into());
        // The canvas pixels that the window shows, in the view's own axes.
        let canvas = match view.snap() {
            Snap::Off => view.lens().to_screen_axes(view.centre()) - view.size().as_dvec2() / 2.0,
            Snap::Whole => view.corner().as_dvec2(),
            _ => view.corner().as_dvec2() + view.residual().as_dvec2(),
        };
        let (a, b) = (view.lens().to_screen_axes(rect.min), view.lens().to_screen_axes(rect.max));
        let (low, high) = (a.min(b), a.max(b));
        let size = view.size().as_dvec2();
        for axis in 0..2 {
            // Where the world has fewer whole pixels than the screen, some of it must show.
            let room = (high[axis] + 1e-6).floor() - (low[axis] - 1e-6).ceil();
            if high[axis] - low[axis] < size[axis] || (view.snap() == Snap::Whole && room < size[axis]) {
                continue;
            }
            prop_assert!(canvas[axis] >= low[axis] - 2e-3 && canvas[axis] + size[axis] <= high[axis] + 2e-3,
                "axis {axis}: {} to {} in {} to {}", canvas[axis], canvas[axis] + size[axis], low[axis], high[axis]);
        }
    }
}

#[test]
fn absurd_windows_are_answered() {
    for fit in FITS {
        for window in [(0, 0), (0, 500), (1, 1), (1, 100_000), (u32::MAX, 1), (u32::MAX, u32::MAX)]
        {
            let mut settings = Settings::default();
            settings.screen.fit = fit;
            let view = view_in(&settings, window, DVec2::ZERO);
            let placement = view.placement();
            assert!(placement.scale > 0.0 && placement.scale.is_finite(), "{fit:?} {window:?}");
            assert!(placement.end.x <= window.0 && placement.end.y <= window.1);
            assert!(view.canvas_size().max_element() <= 320 * MAX_REVEALED + 1);
            assert!(
                view.visible_screen().size().is_finite() && view.safe_area().size().is_finite()
            );
        }
    }
}

const SCALE: u32 = 6;
const WINDOW: UVec2 = UVec2::new(64 * SCALE, SCALE);

/// A screen of 64 x 1 pixels in a window six times as large, looking at x.
fn small_view(x: f64, snap: Snap) -> View {
    let lens = Lens::new(&Screen { size: UVec2::new(64, 1), ..Screen::default() });
    View::new(lens, [x, 0.5], snap).with_window(WINDOW)
}

/// The window pixels of a world in which every unit has its own colour.
fn shown(view: &View) -> Vec<[u8; 4]> {
    let size = view.canvas_size();
    let mut canvas = vec![[0; 4]; (size.x * size.y) as usize];
    for (column, pixel) in canvas.iter_mut().enumerate() {
        let unit = view.corner().x + (column as i64 % i64::from(size.x));
        *pixel = [(unit % 251) as u8, (unit % 241) as u8, (unit % 239) as u8, 255];
    }
    let mut window = vec![[0; 4]; (WINDOW.x * WINDOW.y) as usize];
    let target = CanvasMut::new(WINDOW, &mut window);
    present(Canvas::new(size, &canvas), target, &view.placement(), Blending::Encoded);
    window[..WINDOW.x as usize].to_vec()
}

/// The number of window pixels by which a frame is shifted from the last one. The common part must be equal.
fn step(last: &[[u8; 4]], now: &[[u8; 4]]) -> Option<usize> {
    (0..3 * SCALE as usize).find(|by| last[*by..] == now[..now.len() - by])
}

/// Run with `--nocapture` for the table.
#[test]
fn a_steady_pan_of_37_pixels_a_second() {
    println!(
        "window pixels from frame to frame, 37 screen pixels a second at scale 6, 60 Hz (ideal 3.7)"
    );
    for snap in [Snap::Whole, Snap::Subpixel] {
        let x = |frame: u32| 1000.0 + 37.0 / 60.0 * f64::from(frame);
        let mut last = shown(&small_view(x(0), snap));
        let (mut steps, mut moved, mut worst) = (Vec::new(), 0, 0.0_f64);
        for frame in 1..=240 {
            let now = shown(&small_view(x(frame), snap));
            // The standing world changes by pure translation: 0 differing pixels.
            let by =
                step(&last, &now).unwrap_or_else(|| panic!("{snap:?}: frame {frame} is no shift"));
            moved += by;
            let ideal = f64::from(SCALE) * (x(frame) - x(0));
            worst = worst.max((moved as f64 - ideal).abs());
            steps.push(by);
            last = now;
        }
        let mean = moved as f64 / 240.0;
        let spread = steps.iter().map(|by| (*by as f64 - mean).powi(2)).sum::<f64>() / 240.0;
        println!(
            "{snap:?}: {:?} …, judder {:.2}, off the ideal by at most {worst:.2}",
            &steps[..20],
            spread.sqrt()
        );
        match snap {
            Snap::Subpixel => assert!(worst <= 1.0 && steps.iter().all(|by| (3..=4).contains(by))),
            _ => assert!(steps.iter().all(|by| by % 6 == 0) && steps.contains(&0)),
        }
    }
    // Without snapping, each thing is drawn at its own true place.
    let view = |frame: u32| small_view(1000.0 + 37.0 / 60.0 * f64::from(frame), Snap::Off);
    let place =
        |frame: u32| f64::from(view(frame).canvas_position([1010.0, 0.0]).x) * f64::from(SCALE);
    assert!((1..240).all(|frame| (place(frame - 1) - place(frame) - 3.7).abs() < 1e-3));
}

#[test]
fn a_live_resize_keeps_the_middle() {
    let mut settings = Settings::default();
    settings.screen.fit = Fit::Reveal;
    let mut camera = Camera::new(settings).expect("valid settings");
    for window in [(1280, 720), (1280, 1280), (3000, 700), (0, 0), (641, 359)] {
        camera.resize(window);
        let view = camera.follow(1.0 / 60.0, [400, 300]);
        assert_eq!(view.centre(), DVec2::new(400.0, 300.0));
        assert!(view.size().cmpge(UVec2::new(320, 180)).all(), "{window:?}: {}", view.size());
    }
}

#[test]
fn snapping_in_the_views_own_axes_far_out_and_upside_down() {
    for (y_axis, rotation) in [(YAxis::Down, 0.7), (YAxis::Up, -2.3), (YAxis::Up, 0.0)] {
        let screen = Screen { y_axis, unit_pixels: 3.7, ..Screen::default() };
        let lens = Lens::new(&screen).with_rotation(rotation);
        let centre = DVec2::new(1e7 + 0.123, -1e7 + 0.456);
        let view = View::new(lens, centre, Snap::Subpixel);
        let true_corner = lens.to_screen_axes(centre) - view.size().as_dvec2() / 2.0;
        let snapped = view.corner().as_dvec2() + view.residual().as_dvec2();
        assert!((true_corner - snapped).length() < 2e-3, "{y_axis:?} {rotation}");
        // Two things a whole pixel apart on the screen are drawn a whole pixel apart.
        let next = centre + lens.to_world_axes(DVec2::X);
        assert_eq!(view.canvas_position(next) - view.canvas_position(centre), Vec2::X);
    }
}

/// In whole pixels, a view at the end of its world shows the last pixel and nothing beyond it.
#[test]
fn the_last_pixel_of_the_world_is_shown() {
    for (corner, rest) in [([0.0, 0.0], 0.0), ([0.3, -0.4], 0.5)] {
        let world = Rect::from_corner_size(corner, [640, 360]);
        let mut settings = Settings { bounds: Some(Bounds::new(world)), ..Settings::default() };
        settings.screen.snap = Snap::Whole;
        for (subject, end) in [([900, 900], world.max), ([-900, -900], world.min)] {
            let mut camera = Camera::new(settings.clone()).expect("valid");
            let view = camera.follow(0.1, subject);
            let between = View::between(&view, &camera.follow(0.1, subject), 0.5);
            for corner in [view, between].map(|view| view.corner().as_dvec2()) {
                let shown = if end == world.max {
                    end - corner - view.size().as_dvec2()
                } else {
                    corner - end
                };
                assert!(shown.min_element() >= 0.0 && shown.max_element() <= 2.0 * rest, "{shown}");
            }
        }
    }
}

properties! {
    #![cases(2000)]

    /// A rotated view in whole pixels is at the corner of a pixel near its true corner, and inside the bounds.
    #[test]
    fn whole_pixels_of_a_rotated_view_stay_inside(
        rotation in -3.0..3.0_f64, subject in (-900.0..1900.0_f64, -900.0..1900.0_f64), zoom in 0.8..3.0_f64, up in any::<bool>(),
        spare in (0.0..6.0_f64, prop_oneof![0.0..6.0_f64, 0.0..900.0_f64]),
    ) {
        let mut settings = Settings::default();
        settings.screen.snap = Snap::Whole;
        settings.screen.y_axis = if up { YAxis::Up } else { YAxis::Down };
        settings.zoom.level = zoom;
        let mut camera = Camera::new(settings).expect("valid");
        camera.rotate_now(rotation);
        let half = camera.view().visible_world().size() / 2.0;
        let world = Rect::around([470.3, 450.7], half + DVec2::from(spare) / zoom / 2.0);
        camera.set_bounds(Some(Bounds::new(world)), 0.0).expect("valid bounds");
        let view = camera.follow(0.1, DVec2::from(subject));
        let middle = view.corner().as_dvec2() + view.size().as_dvec2() / 2.0;
        let shown = corners(&Rect::from_corner_size(view.corner().as_dvec2(), view.size().as_dvec2()));
        for corner in shown.map(|corner| view.lens().to_world_axes(corner)) {
            let most = if spare.0.min(spare.1) > 1.4143 { 1e-5 } else { 0.708 / zoom };
            let out = (corner - world.nearest(corner)).abs().max_element();
            prop_assert!(out < most, "{corner} is {out} outside");
        }
        let off = view.lens().to_screen_axes(view.centre()) - middle;
        prop_assert!(off.length() < 2.0, "{off} screen pixels from where it should be");
    }
}

/// A ratchet may hold the view outside of the room that it has reached. The picture is drawn there, too.
#[test]
fn a_picture_is_drawn_where_the_view_is() {
    let mut settings = Settings::default();
    settings.screen.snap = Snap::Whole;
    settings.follow.ratchet = Ratchet::Down;
    settings.rooms = Some(Rooms { size: Some(DVec2::new(640.0, 360.0)), ..Rooms::default() });
    let mut camera = Camera::new(settings).expect("valid settings");
    camera.zoom_now(4.0);
    camera.follow(1.0 / 60.0, [100, 348]);
    camera.follow(1.0 / 60.0, [100, 348]);
    camera.zoom_now(1.0);
    let view = camera.follow(1.0 / 60.0, [100, 348]);
    let drawn = view.world_to_screen(view.centre());
    assert!((drawn - view.size().as_vec2() / 2.0).abs().max_element() <= 1.0, "{drawn}");
    let corner = view.corner().as_dvec2() + view.residual().as_dvec2();
    let exact = view.centre() - view.size().as_dvec2() / 2.0;
    assert!((corner - exact).abs().max_element() <= 1.0, "{corner} for {exact}");
}
