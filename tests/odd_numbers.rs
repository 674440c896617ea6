//! Numbers at the ends of their ranges, outside of frames: every call returns, and soon.

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, Chunks, Grid, Layer, Lens, Rect, Screen, Settings, Snap, SpriteGrid, Subject,
    View,
};

fn lens() -> Lens {
    Lens::new(&Screen::default())
}

#[test]
fn a_sight_made_smaller_than_nothing_is_its_middle() {
    let screen = Screen { size: UVec2::new(180, 320), ..Screen::default() };
    for rotation in [0.0, 0.4] {
        let lens = Lens::new(&screen).with_rotation(rotation);
        let view = View::new(lens, [1000, 1000], Snap::Off);
        let area = Rect::new([0, 0], [2000, 2000]);
        let mut sprites = SpriteGrid::new(&area, 16.0);
        sprites.insert(&Rect::new([995, 995], [1005, 1005]));
        sprites.insert(&Rect::new([995, 1200], [1005, 1210]));
        let mut seen = Vec::new();
        for margin in [-120.0, -1e300, f64::MIN, -90.0] {
            let sight = view.sight().padded(margin);
            sprites.seen(&sight, &mut seen);
            let by_one: Vec<u32> = [(0, [995, 995]), (1, [995, 1200])]
                .into_iter()
                .filter(|(_, corner)| sight.sees(&Rect::from_corner_size(*corner, [10, 10])))
                .map(|(number, _)| number)
                .collect();
            assert_eq!(seen, by_one, "margin {margin}, turned by {rotation}");
        }
    }
}

#[test]
fn worlds_and_screens_without_measure_have_a_corner() {
    for far in [6e99, 1e18, -1e18, -6e99] {
        let mut settings = Settings::default();
        settings.screen.snap = Snap::Whole;
        settings.bounds = Some(Bounds::new(Rect::new([far, 0.0], [far * 1.5, 9e99])));
        let mut camera = Camera::new(settings).expect("valid settings");
        let view = camera.follow(0.1, [50, 50]);
        assert!(view.centre().is_finite() && view.canvas_corner().is_finite());
    }
    let size = UVec2::splat(u32::MAX);
    let vast = Lens::new(&Screen { size, ..Screen::default() });
    for snap in [Snap::Off, Snap::Whole, Snap::Subpixel] {
        let view = View::new(vast, [50, 50], snap);
        assert!(view.canvas_size().cmpge(size).all() && view.placement().origin.is_finite());
    }
}

#[test]
fn a_picture_that_repeats_without_measure_is_listed_soon() {
    for rotation in [0.0, 0.5] {
        let view = View::new(lens().with_rotation(rotation), [2000, 90], Snap::Whole);
        let ridge = Rect::new([0, 40], [256, 180]);
        for repeat in [1e-310, 1e-300, 1e-9, 1e-7] {
            assert!(view.copies(&ridge, [repeat, 0.0]).count() <= 4096, "{repeat}");
        }
        let vast = Rect::new([0, 0], [1_000_000, 1_000_000]);
        let copies: Vec<_> = view.copies(&vast, [1.0, 0.0]).collect();
        // The last ones, which are drawn on top, and all of them in sight.
        assert!(copies.len() <= 4096 && copies.last().is_some_and(|copy| copy.rect.min.x < 1000.0));
        let plain = view.copies(&ridge, [256, 140]).count();
        assert!((2..40).contains(&plain), "{plain}");
    }
}

/// A point farther than 1e100 from the origin is nowhere, whatever takes it there.
#[test]
fn what_is_too_far_away_is_not_followed() {
    for (position, offset) in [(2e100, 0.0), (0.0, 2e100), (-2e100, 0.0), (0.9e100, 0.9e100)] {
        let mut settings = Settings::default();
        settings.follow.offset = DVec2::new(offset, 0.0);
        let mut camera = Camera::new(settings).expect("valid settings");
        camera.place_at([50, 60]);
        assert_eq!(camera.follow(0.1, [position, 0.0]).centre(), DVec2::new(50.0, 60.0));
    }
    let mut camera = Camera::new(Settings::default()).expect("valid settings");
    let far = camera.follow(0.1, [0.9e100, 0.0]).centre();
    camera.translate([0.9e100, 0.0]);
    assert_eq!(camera.view().centre(), far, "the world does not move there");
    camera.translate([-0.8e100, 1e60]);
    assert_eq!(camera.view().centre(), far + DVec2::new(-0.8e100, 1e60));
}

/// A sprite that ends nowhere is seen from within and not from beside it, as one that ends just out of sight.
#[test]
fn a_sprite_without_end_is_seen_from_a_rotated_view() {
    for far in [1e4, 1e17, 4.2e284, f64::INFINITY] {
        let tower = Rect { min: DVec2::new(0.0, -far), max: DVec2::new(640.0, 190.0) };
        for (centre, seen) in
            [([300, -500], true), ([300, 180], true), ([-300, -500], false), ([300, 450], false)]
        {
            let sight = View::new(lens().with_rotation(0.6), centre, Snap::Off).sight();
            assert_eq!(sight.sees(&tower), seen, "{far} from {centre:?}");
            let mut found = Vec::new();
            SpriteGrid::of(&Rect::new([0, 0], [900, 900]), 64.0, &[tower]).seen(&sight, &mut found);
            assert_eq!(!found.is_empty(), seen, "{far} from {centre:?}, in a grid");
        }
    }
}

#[test]
fn nothing_is_seen_of_a_picture_without_measure() {
    let view = View::new(lens(), [0, 0], Snap::Whole);
    let picture = Rect::new([0, 0], [64, 32]);
    assert!(view.visible_part(&picture, UVec2::new(64, 32)).is_some());
    assert_eq!(view.visible_part(&picture, UVec2::new(0, 32)), None);
    for bad in [f64::NAN, f64::INFINITY] {
        let endless = Rect { max: DVec2::new(64.0, bad), ..picture };
        assert_eq!(view.visible_part(&endless, UVec2::new(64, 32)), None);
    }
}

#[test]
fn chunks_look_ahead_a_few_views_however_short_the_step() {
    let mut chunks = Chunks::new(&Grid::unbounded([16, 16]), [32, 32]).with_ahead(0.5);
    let view = |x: f64, seconds: f64| View::new(lens(), [x, 0.0], Snap::Off).with_time(seconds);
    let _ = chunks.update(&view(0.0, 0.0));
    let change = chunks.update(&view(5.0, 1e-6));
    let count = change.to_load().count();
    assert!((1..12).contains(&count), "{count} chunks");
}

#[test]
fn far_marks_are_numbers() {
    for point in [[1e300, 0.0], [1e90, -1e90], [0.0, 0.0]] {
        let mut camera = Camera::new(Settings::default()).expect("valid settings");
        let view = camera.follow(0.1, Subject::from(point));
        camera.translate([1e308, 0.0]);
        camera.translate([1e308, 1e308]);
        assert!(camera.view().centre().is_finite());
        for mark in camera.overlay().marks() {
            assert!(mark.screen_points(&view).all(Vec2::is_finite), "{mark:?}");
        }
    }
}

#[test]
fn a_picture_that_can_not_cover_has_no_rate() {
    let world = Rect::new([0, 0], [640, 360]);
    let screen = Screen::default();
    // Far out the picture, which shrinks faster than the world, is smaller than the view.
    let layer = Layer { response: 3.0, ..Layer::named("sky") };
    let layer = layer.covering([2500, 1400], &world, &screen, [0.25, 1.0]);
    assert_eq!(layer.rate, DVec2::ZERO);
    // By brute force over all zooms, where it can.
    for response in [0.0, 0.5, 1.0, 1.5, 2.5] {
        let layer = Layer { response, ..Layer::named("sky") };
        let picture = DVec2::new(900.0, 500.0);
        let layer = layer.covering(picture, &world, &screen, [0.6, 3.0]);
        let view = screen.size.as_dvec2();
        let least = (0..20_000).map(|step| {
            let zoom = 0.6 + 2.4 * f64::from(step) / 20_000.0;
            let way = world.size() - view / zoom;
            let rate = (picture - view * zoom.powf(-response)) / way;
            if way.x > 1e-9 { rate.x } else { f64::INFINITY }
        });
        let least = least.fold(f64::INFINITY, f64::min).clamp(0.0, 100.0);
        assert!((layer.rate.x - least).abs() < 1e-3, "{response}: {} for {least}", layer.rate.x);
    }
}
