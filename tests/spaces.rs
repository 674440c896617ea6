//! World, screen and canvas: conversions in both directions, by every path.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, UVec2, Vec2, Vec3};
use velvet_pan::{IntoWorld, Lens, Rect, Screen, Snap, View, WindowPoint, YAxis};

use crate::support::properties::properties;

const SNAPS: [Snap; 3] = [Snap::Off, Snap::Whole, Snap::Subpixel];

prop_compose! {
    fn lenses()(
        width in 1..2000_u32,
        height in 1..2000_u32,
        unit_pixels in 0.1..64.0_f64,
        up in any::<bool>(),
        zoom in 0.1..10.0_f64,
        rotation in prop_oneof![Just(0.0), -7.0..7.0_f64],
    ) -> Lens {
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        let size = UVec2::new(width, height);
        let screen = Screen { size, unit_pixels, y_axis, ..Screen::default() };
        Lens::new(&screen).with_zoom(zoom).with_rotation(rotation)
    }
}

prop_compose! {
    fn views(far: f64)(
        lens in lenses(),
        x in -far..far,
        y in -far..far,
        snap in prop::sample::select(&SNAPS),
    ) -> View {
        View::new(lens, [x, y], snap)
    }
}

prop_compose! {
    /// A position up to one screen outside the screen, as a fraction of it.
    fn places()(x in -1.0..2.0_f32, y in -1.0..2.0_f32) -> Vec2 {
        Vec2::new(x, y)
    }
}

properties! {
    #![cases(2000)]

    #[test]
    fn screen_to_world_and_back_ten_million_units_out(view in views(1e7), place in places()) {
        let place = place * view.size().as_vec2();
        let back = view.world_to_screen(view.screen_to_world(place));
        prop_assert!((back - place).length() < 1e-3, "{place} came back as {back}");
    }

    #[test]
    fn world_to_screen_and_back(view in views(1e7), place in places()) {
        let world = view.screen_to_world(place * view.size().as_vec2());
        let error = view.screen_to_world(view.world_to_screen(world)) - world;
        // The screen is f32: 3000 of its pixels leave 2e-4 of one.
        prop_assert!(error.length() * view.scale() < 1e-3);
    }

    #[test]
    fn matrices_say_what_the_view_says(view in views(1e7), place in places()) {
        let world = view.screen_to_world(place * view.size().as_vec2());
        let canvas = view.world_to_screen(world)
            + if view.snap() == Snap::Off { Vec2::ZERO } else { view.residual() };
        let relative = view.world_to_relative(world).extend(0.0);
        let by_matrix = view.relative_to_canvas_matrix().transform_point3(relative).truncate();
        prop_assert!((by_matrix - canvas).length() < 0.02, "{by_matrix} for {canvas}");

        let clip = view.relative_to_clip_matrix().transform_point3(relative).truncate();
        let unit = canvas / view.canvas_size().as_vec2();
        let expected = Vec2::new(2.0 * unit.x - 1.0, 1.0 - 2.0 * unit.y);
        prop_assert!((clip - expected).length() < 0.02);
    }

    #[test]
    fn plain_matrices_agree_near_the_origin(view in views(100.0), place in places()) {
        let world = view.screen_to_world(place * view.size().as_vec2());
        let direct = Vec3::new(world.x as f32, world.y as f32, 0.0);
        let relative = view.world_to_relative(world).extend(0.0);
        let pairs = [
            (view.world_to_canvas_matrix().transform_point3(direct),
             view.relative_to_canvas_matrix().transform_point3(relative), 1.0),
            (view.world_to_clip_matrix().transform_point3(direct),
             view.relative_to_clip_matrix().transform_point3(relative), 1.0),
        ];
        for (plain, exact, most) in pairs {
            prop_assert!((plain - exact).length() < most, "{plain} for {exact}");
        }
    }

    /// The residual is the difference between the canvas and the view, at every rotation.
    #[test]
    fn what_is_placed_is_within_a_pixel_of_its_true_place(view in views(1e6), place in places()) {
        let world = view.screen_to_world(place * view.size().as_vec2());
        let (placed, screen) = (view.canvas_position(world), view.world_to_screen(world));
        let slack = if view.snap() == Snap::Off { Vec2::ZERO } else { view.residual() };
        prop_assert!((placed - screen - slack).abs().max_element() <= 0.51);
        // The window is as large as the screen.
        let player = view.followed_placement(world).origin.as_vec2();
        prop_assert!((player - screen).abs().max_element() <= 0.51);
    }

    /// Every corner of the screen is in the visible rectangle and touches its edges.
    #[test]
    fn visible_is_the_tightest_upright_rectangle(view in views(1e6)) {
        let size = view.size().as_vec2();
        let corners = [Vec2::ZERO, Vec2::new(size.x, 0.0), size, Vec2::new(0.0, size.y)]
            .map(|corner| view.screen_to_world(corner));
        let min = corners.into_iter().reduce(DVec2::min).expect("four");
        let max = corners.into_iter().reduce(DVec2::max).expect("four");
        let visible = view.visible_world();
        let slack = 1e-6 * view.visible_world().size().max_element();
        prop_assert!((visible.min - min).length() < slack && (visible.max - max).length() < slack);
    }

    #[test]
    fn upright_rectangles_round_trip(view in views(1e5), w in 0.1..500.0_f64, h in 0.1..500.0_f64) {
        let view = View::new(view.lens().with_rotation(0.0), view.centre(), view.snap());
        let rect = Rect::from_corner_size(view.centre(), [w, h]);
        let back = view.screen_to_world_rect(&view.world_to_screen_rect(&rect));
        let most = 1e-3 / view.scale() + 1e-6 * rect.size().length();
        prop_assert!((back.min - rect.min).length() < most && (back.max - rect.max).length() < most);
    }

    #[test]
    fn any_float_gives_an_answer(bits in prop::array::uniform6(any::<u64>())) {
        let [x, y, zoom, rotation, px, py] = bits.map(f64::from_bits);
        let lens = Lens::new(&Screen::default()).with_zoom(zoom).with_rotation(rotation);
        let view = View::new(lens, [x, y], Snap::Subpixel);
        prop_assert!(view.centre().is_finite() && view.scale() > 0.0);
        prop_assert!((0.0..1.0).contains(&view.residual().x));
        let _ = (view.world_to_screen([px, py]), view.canvas_position([px, py]), view.followed_placement([px, py]));
        let _ = (view.visible_world(), view.placement(), view.relative_to_clip_matrix(), view.world_to_clip_matrix());
    }
}

#[test]
fn a_positive_rotation_turns_the_world_counter_clockwise() {
    for (y_axis, above) in [(YAxis::Down, [0.0, -10.0]), (YAxis::Up, [0.0, 10.0])] {
        let screen = Screen { y_axis, ..Screen::default() };
        let view = View::new(Lens::new(&screen).with_rotation(0.5), [0, 0], Snap::Off);
        // What was straight above the middle has moved to the left of it.
        let place = view.world_to_screen(above) - Vec2::new(160.0, 90.0);
        assert!(place.x < 0.0 && place.y < 0.0, "{y_axis:?}: {place}");
    }
}

#[test]
fn lengths_and_differences_scale() {
    let screen = Screen { unit_pixels: 16.0, y_axis: YAxis::Up, ..Screen::default() };
    let view = View::new(Lens::new(&screen).with_zoom(2.0), [5, 5], Snap::Off);
    assert_eq!(view.world_to_screen_length(1.5), 48.0);
    assert_eq!(view.world_to_screen_vector([1.0, 1.0]), Vec2::new(32.0, -32.0));
    assert_eq!(view.screen_to_world_vector(Vec2::new(32.0, -32.0)), DVec2::new(1.0, 1.0));
}

#[test]
fn arrays_work_without_any_feature() {
    assert_eq!([3.0_f32, -4.0].into_world(), DVec2::new(3.0, -4.0));
    assert_eq!(WindowPoint::from([3.0_f32, -4.0]), WindowPoint { x: 3.0, y: -4.0 });
}
