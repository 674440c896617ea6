//! Layers: their positions and movements, and that backdrops always cover the view.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, Layer, LayerShake, Lens, Rect, Screen, Settings, Shake, ShakeMotion,
    ShakeOffset, Snap, View, YAxis,
};

use crate::support::properties::properties;
use crate::support::{canvas, corners, overlap, true_corner};

const SNAPS: [Snap; 3] = [Snap::Off, Snap::Whole, Snap::Subpixel];

prop_compose! {
    fn views(turned: bool)(
        size in (1..90_u32, 1..90_u32),
        unit_pixels in prop_oneof![Just(1.0), 0.3..4.0_f64],
        up in any::<bool>(),
        zoom in prop_oneof![Just(1.0), Just(2.0), 0.4..3.0_f64],
        angle in -7.0..7.0_f64,
        snap in prop::sample::select(&SNAPS),
        centre in (-900.0..900.0_f64, -900.0..900.0_f64),
        time in 0.0..100.0_f64,
    ) -> View {
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        let screen = Screen { size: size.into(), unit_pixels, y_axis, ..Screen::default() };
        let lens = Lens::new(&screen).with_zoom(zoom);
        let lens = if turned { lens.with_rotation(angle) } else { lens };
        View::new(lens, centre, snap).with_time(time)
    }
}

prop_compose! {
    fn layers()(
        rate in (prop_oneof![Just(0.0), Just(1.0), -1.0..2.0_f64], -1.0..2.0_f64),
        align in (-500.0..500.0_f64, -500.0..500.0_f64),
        drift in (-20.0..20.0_f64, -20.0..20.0_f64),
        response in prop_oneof![Just(1.0), Just(0.0), 0.0..2.0_f64],
        rotates in any::<bool>(),
        whole in any::<bool>(),
    ) -> Layer {
        let shake = if whole { LayerShake::Whole } else { LayerShake::ByRate };
        let (rate, align, drift) = (rate.into(), align.into(), drift.into());
        Layer { rate, align, drift, response, rotates, shake, ..Layer::default() }
    }
}

properties! {
    #![cases(4000)]

    /// When the world moves, a layer moves by its rate and its drift. When the zoom doubles, that of the layer grows
    /// by a power of two.
    #[test]
    fn a_layer_passes_at_its_rate(
        view in views(false), layer in layers(), step in (-90.0..90.0_f64, -90.0..90.0_f64), time in 0.0..20.0_f64,
    ) {
        let step = DVec2::from(step);
        let at = |centre: DVec2, zoom: f64, seconds: f64| {
            let view = View::new(view.lens().with_zoom(zoom), centre, view.snap());
            view.with_time(view.time() + seconds).layer(&layer)
        };
        let (here, zoom) = (view.centre(), view.lens().zoom());
        let before = at(here, zoom, 0.0);
        let walked = at(here + step, zoom, 0.0).centre() - before.centre();
        prop_assert!((walked.x - step.x * layer.rate.x).abs() < 1e-8, "{walked} for {step}");
        prop_assert!((walked.y - step.y * layer.rate.y).abs() < 1e-8, "{walked} for {step}");
        let drifted = at(here, zoom, time).centre() - before.centre();
        prop_assert!((drifted + layer.drift * time).length() < 1e-8, "{drifted}");
        let closer = at(here, 2.0 * zoom, 0.0).lens().zoom() / before.lens().zoom();
        prop_assert!((closer.log2() - layer.response).abs() < 1e-9, "{closer}");
    }

    /// A layer has its own window, snapping, corner and residual, and rotates with the view unless it is set not to.
    #[test]
    fn a_layer_is_a_view(view in views(true), layer in layers()) {
        let seen = view.layer(&layer);
        let rotation = if layer.rotates { view.lens().rotation() } else { 0.0 };
        prop_assert_eq!(seen.lens().rotation(), rotation);
        prop_assert_eq!((seen.snap(), seen.window_size()), (view.snap(), view.window_size()));
        let back = seen.corner().as_dvec2() + seen.residual().as_dvec2();
        prop_assert!((back - true_corner(&seen)).abs().max_element() < 2e-3);
    }

    #[test]
    fn at_rate_one_a_layer_is_the_world(view in views(true), align in (-9e3..9e3_f64, -9e3..9e3_f64)) {
        prop_assert_eq!(view.layer(&Layer { align: align.into(), ..Layer::default() }), view);
    }

    /// At its alignment point, a layer shows the world's coordinates at any rate.
    #[test]
    fn layers_meet_the_world_where_they_are_aligned(view in views(false), layer in layers()) {
        let layer = Layer { drift: DVec2::ZERO, response: 1.0, align: view.centre(), ..layer };
        let seen = view.layer(&layer);
        prop_assert!((seen.world_to_screen(layer.align) - view.world_to_screen(layer.align)).length() < 1e-3);
    }

    /// On another view's canvas, it has that view's residual, and is at most half a screen pixel away.
    #[test]
    fn a_shared_canvas_costs_half_a_pixel(view in views(true), layer in layers(), host in layers()) {
        let host = view.layer(&host);
        let shared = view.layer_on(&layer, &host);
        prop_assert_eq!(shared.centre(), view.layer(&layer).centre());
        if view.snap() == Snap::Subpixel {
            prop_assert_eq!(shared.residual(), host.residual());
            prop_assert_eq!(shared.placement(), host.placement());
            let drawn = shared.corner().as_dvec2() + shared.residual().as_dvec2();
            prop_assert!((drawn - true_corner(&shared)).abs().max_element() <= 0.5 + 1e-6);
        } else {
            prop_assert_eq!(shared, view.layer(&layer));
        }
    }

    /// A shake moves it by its rate in screen pixels, or fully, and never changes it without the shake.
    #[test]
    fn a_layer_has_its_share_of_a_shake(
        view in views(true), layer in layers(), pixels in (-9.0..9.0_f64, -9.0..9.0_f64), roll in -0.2..0.2_f64,
    ) {
        let shaken = view.shaken(ShakeOffset { pixels: pixels.into(), roll });
        let (still, moved) = (view.layer(&layer), shaken.layer(&layer));
        prop_assert!((moved.steady().centre() - still.centre()).length() < 1e-9);
        let share = if layer.shake == LayerShake::Whole { DVec2::ONE } else { layer.rate };
        let offset = still.lens().to_screen_axes(moved.centre() - still.centre());
        prop_assert!((offset - DVec2::from(pixels) * share).length() < 1e-6);
        let turned = moved.lens().rotation() - still.lens().rotation();
        prop_assert!((turned - roll * (share.x + share.y) / 2.0).abs() < 1e-9);
    }
}

#[test]
fn a_layer_at_rate_0_stays_on_the_screen() {
    let pinned = Layer::at_rate("sky", [0, 0]);
    let mut camera = Camera::new(Settings::default()).unwrap();
    camera.shake(&Shake { motion: ShakeMotion::Rattle, ..Shake::default() }, 1.0);
    let first = camera.follow(0.0, [0, 0]).layer(&pinned).corner();
    for step in 0..200 {
        let view = camera.follow(1.0 / 60.0, [f64::from(step) * 1.7, 30.0]);
        let sky = view.layer(&pinned);
        assert_eq!((sky.corner(), sky.residual()), (first, Vec2::ZERO));
    }
}

/// A layer drifts with the time of the frames, at any frame rate, and stands while time stands.
#[test]
fn drift_goes_by_time() {
    let mist = Layer { drift: DVec2::new(-4.0, 1.0), ..Layer::at_rate("mist", [0.5, 0.5]) };
    let after = |fps: u32| {
        let mut camera = Camera::new(Settings::default()).unwrap();
        camera.follow(0.0, [0, 0]);
        for _frame in 0..3 * fps {
            camera.follow(1.0 / f64::from(fps), [0, 0]);
        }
        camera.follow(0.0, [0, 0]).layer(&mist).centre()
    };
    for fps in [30, 60, 144, 1000] {
        assert!((after(fps) - DVec2::new(12.0, -3.0)).length() < 1e-9);
    }
    let mut camera = Camera::new(Settings::default()).unwrap();
    camera.follow(0.5, [0, 0]);
    let (saved, before) = (camera.state(), camera.view().time());
    camera.follow(f64::NAN, [0, 0]);
    assert_eq!(camera.view().time(), before);
    camera.follow(0.25, [0, 0]);
    camera.restore(saved).expect("its own state");
    assert_eq!(camera.view().time(), before);
    let between = View::between(&camera.view().with_time(1.0), &camera.view().with_time(2.0), 0.25);
    assert_eq!(between.time(), 1.25);
}

/// The steps of a layer at constant speed in window pixels, and their unevenness: the root of the mean squared
/// difference from the mean.
fn judder(rate: f64, shared: bool) -> f64 {
    const SCALE: f64 = 4.0;
    let layer = Layer::at_rate("ridge", [rate, rate]);
    let lens = Lens::new(&Screen::default());
    let shown = |frame: u32| {
        let at = [200.0 + f64::from(frame) * 37.0 / 60.0, 90.0];
        let view = View::new(lens, at, Snap::Subpixel).with_window((1280, 720));
        let seen = if shared { view.layer_on(&layer, &view) } else { view.layer(&layer) };
        let on_canvas = f64::from(seen.canvas_position([120.0, 90.0]).x);
        (seen.placement().origin.x + on_canvas * SCALE).round()
    };
    let steps: Vec<f64> = (0..240).map(|frame| shown(frame + 1) - shown(frame)).collect();
    let mean = steps.iter().sum::<f64>() / steps.len() as f64;
    (steps.iter().map(|step| (step - mean).powi(2)).sum::<f64>() / steps.len() as f64).sqrt()
}

/// A canvas of its own moves a layer by single window pixels, a shared one by whole art pixels.
#[test]
fn a_layer_of_its_own_judders_less() {
    for rate in [0.2, 0.35, 0.6, 1.4] {
        let (own, shared) = (judder(rate, false), judder(rate, true));
        assert!(own <= 0.51, "rate {rate}: {own}");
        assert!(shared > 3.0 * own, "rate {rate}: {shared} against {own}");
    }
    assert_eq!(judder(1.0, true), judder(1.0, false));
}

// Repeats.

fn copies_are_those_that_touch(
    view: &View,
    rect: &Rect,
    repeat: DVec2,
) -> Result<(), TestCaseError> {
    let mut listed: Vec<(i64, i64)> = Vec::new();
    for copy in view.copies(rect, repeat) {
        let down = if view.lens().y_axis() == YAxis::Down { 1.0 } else { -1.0 };
        let offset = DVec2::new(copy.column as f64, copy.row as f64 * down) * repeat;
        prop_assert!((copy.offset - offset).length() < 1e-6);
        listed.push((copy.row, copy.column));
    }
    prop_assert!(listed.is_sorted_by(|a, b| a < b), "in rows from the top left, each once");
    let canvas = corners(&canvas(view));
    let reach = canvas.iter().map(|at| at.length()).fold(0.0, f64::max) / view.scale();
    let reach = reach + rect.min.length() + rect.max.length();
    let far = |axis: usize| if repeat[axis] > 0.0 { (reach / repeat[axis]) as i64 + 2 } else { 0 };
    for row in -far(1)..=far(1) {
        for column in -far(0)..=far(0) {
            let down = if view.lens().y_axis() == YAxis::Down { 1.0 } else { -1.0 };
            let offset = DVec2::new(column as f64, row as f64 * down) * repeat;
            let copy = corners(&Rect { min: rect.min + offset, max: rect.max + offset })
                .map(|corner| view.lens().to_screen_axes(corner));
            let (inside, listed) = (overlap(&canvas, &copy), listed.contains(&(row, column)));
            prop_assert!(
                inside.abs() < 1e-7 || listed == (inside > 0.0),
                "{column}, {row}: {inside}"
            );
        }
    }
    Ok(())
}

prop_compose! {
    fn pictures()(
        corner in (-200.0..200.0_f64, -200.0..200.0_f64),
        size in (20.0..300.0_f64, 20.0..300.0_f64),
        repeats in (any::<bool>(), any::<bool>()),
        part in (prop_oneof![Just(1.0), 0.5..2.0_f64], 0.5..2.0_f64),
    ) -> (Rect, DVec2) {
        let repeat = DVec2::new(
            if repeats.0 { size.0 * part.0 } else { 0.0 },
            if repeats.1 { size.1 * part.1 } else { 0.0 },
        );
        (Rect::from_corner_size(corner, size), repeat)
    }
}

properties! {
    #![cases(50_000)]

    #[test]
    fn copies_are_the_visible_ones(view in views(false), (rect, repeat) in pictures()) {
        copies_are_those_that_touch(&view, &rect, repeat)?;
    }

    #[test]
    fn copies_are_the_visible_ones_of_a_turned_view(view in views(true), (rect, repeat) in pictures()) {
        copies_are_those_that_touch(&view, &rect, repeat)?;
    }
}

properties! {
    #![cases(4000)]

    /// Adjacent copies leave no seam and do not overlap, at any scale.
    #[test]
    fn adjoining_copies_share_their_edges(view in views(false), (rect, _) in pictures()) {
        let copies: Vec<_> = view.copies(&rect, rect.size()).collect();
        for pair in copies.windows(2).filter(|pair| pair[0].row == pair[1].row) {
            prop_assert_eq!(pair[0].rect.max.x, pair[1].rect.min.x);
        }
    }

    /// The part of a large picture consists of the pixels that touch the canvas, drawn at the right position.
    #[test]
    fn a_part_of_a_large_picture(
        view in views(false), (rect, _) in pictures(), pixels in (1..400_u32, 1..400_u32),
    ) {
        let pixel = rect.size() / UVec2::from(pixels).as_dvec2();
        let down = view.lens().y_axis() == YAxis::Down;
        // Edges of the picture's pixel columns and rows, in screen pixels.
        let x = |column: u32| view.lens().to_screen_axes([rect.min.x + f64::from(column) * pixel.x, 0.0]).x;
        let y = |row: u32| {
            let from_top = f64::from(row) * pixel.y;
            let world = if down { rect.min.y + from_top } else { rect.max.y - from_top };
            view.lens().to_screen_axes([0.0, world]).y
        };
        let Rect { min: low, max: high } = canvas(&view);
        let touching = |edge: &dyn Fn(u32) -> f64, count: u32, low: f64, high: f64| {
            let seen: Vec<u32> = (0..count).filter(|at| edge(*at) < high - 1e-7 && edge(at + 1) > low + 1e-7).collect();
            seen.first().zip(seen.last()).map(|(first, last)| (*first, last + 1))
        };
        let expected = touching(&x, pixels.0, low.x, high.x).zip(touching(&y, pixels.1, low.y, high.y));
        match (view.visible_part(&rect, pixels.into()), expected) {
            (None, expected) => prop_assert!(expected.is_none()),
            (Some(part), Some(((left, right), (top, bottom)))) => {
                // Only where edges meet exactly may the sums of the test differ.
                prop_assert!(part.min.x.abs_diff(left) <= 1 && part.max.x.abs_diff(right) <= 1);
                prop_assert!(part.min.y.abs_diff(top) <= 1 && part.max.y.abs_diff(bottom) <= 1);
                let to = DVec2::new(x(part.max.x), y(part.max.y)) - low;
                let from = DVec2::new(x(part.min.x), y(part.min.y)) - low;
                let most = if view.snap() == Snap::Off { 1e-2 } else { 0.5 + 1e-6 };
                prop_assert!((part.rect.min.as_dvec2() - from).abs().max_element() <= most);
                prop_assert!((part.rect.max.as_dvec2() - to).abs().max_element() <= most);
            }
            // No more than touching: the test leaves out what only just does.
            (Some(part), None) => prop_assert!(part.rect.size().min_element() <= 1.0),
        }
    }
}

#[test]
fn pictures_that_are_none_have_no_copies() {
    let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole);
    for (corner, size) in [
        ([0.0, 0.0], [0.0, 9.0]),
        ([f64::NAN, 0.0], [9.0, 9.0]),
        ([0.0, 0.0], [f64::INFINITY, 1.0]),
    ] {
        let rect = Rect { min: corner.into(), max: DVec2::from(corner) + DVec2::from(size) };
        assert_eq!(view.copies(&rect, [16, 0]).count(), 0);
        assert_eq!(view.visible_part(&rect, UVec2::new(4, 4)), None);
    }
    let picture = Rect::new([0, 0], [16, 16]);
    assert_eq!(view.copies(&picture, [f64::NAN, -3.0]).count(), 1, "no repeat at all");
    assert_eq!(view.visible_part(&picture, UVec2::ZERO), None);
}

// Pictures that must not run out.

#[derive(Debug)]
struct Backdrop {
    screen: Screen,
    world: Rect,
    picture: DVec2,
    zooms: DVec2,
    response: f64,
}

prop_compose! {
    fn backdrops()(
        size in (8..90_u32, 8..90_u32),
        unit_pixels in prop_oneof![Just(1.0), 0.5..3.0_f64],
        up in any::<bool>(),
        world in (1.0..20.0_f64, 1.0..20.0_f64),
        corner in (-500.0..500.0_f64, -500.0..500.0_f64),
        beyond in (1.0..3.0_f64, 1.0..3.0_f64),
        zooms in (0.5..1.0_f64, 1.0..4.0_f64),
        response in prop_oneof![Just(1.0), Just(0.0), 0.0..2.5_f64],
        snap in prop::sample::select(&SNAPS),
    ) -> Backdrop {
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        let screen = Screen { size: size.into(), unit_pixels, y_axis, snap, ..Screen::default() };
        let view = screen.size.as_dvec2() / unit_pixels;
        // As large as the view is at most, and beyond.
        let most = zooms.0.powf(-response).max(zooms.1.powf(-response));
        let picture = (view * most * DVec2::from(beyond)).ceil();
        let world = Rect::from_corner_size(corner, view / zooms.0 * DVec2::from(world));
        Backdrop { screen, world, picture, zooms: zooms.into(), response }
    }
}

/// The minimum of `(P − V·z^−response) / (W − V/z)` over many zooms.
fn least_rate(backdrop: &Backdrop, axis: usize) -> f64 {
    let Backdrop { screen, world, picture, zooms, response } = backdrop;
    let view = f64::from(screen.size[axis]) / screen.unit_pixels;
    let zoom = |step: u32| zooms.x + (zooms.y - zooms.x) * f64::from(step) / 4000.0;
    (0..=4000)
        .map(zoom)
        .map(|zoom| (world.size()[axis] - view / zoom, picture[axis] - view * zoom.powf(-response)))
        .filter(|(way, _)| *way > 1e-9)
        .map(|(way, spare)| spare / way)
        .fold(100.0, f64::min)
}

properties! {
    #![cases(3000)]

    /// Compares the covering rate with many zooms.
    #[test]
    fn the_covering_rate_is_the_largest(backdrop in backdrops()) {
        let Backdrop { screen, world, picture, zooms, response } = &backdrop;
        let layer = Layer { response: *response, ..Layer::default() };
        let layer = layer.covering(*picture, world, screen, zooms.to_array());
        for axis in 0..2 {
            let least = least_rate(&backdrop, axis);
            prop_assert!(layer.rate[axis] <= least + 1e-9, "{} above {least}", layer.rate[axis]);
            prop_assert!(layer.rate[axis] >= least * (1.0 - 1e-3) - 1e-9, "{} below {least}", layer.rate[axis]);
        }
    }

    /// For any position of the camera, at every zoom, with or without shake, in any window, the drawn picture fills
    /// the view.
    #[test]
    fn a_covering_picture_never_runs_out(
        backdrop in backdrops(), zoom in 0.0..1.0_f64, at in (-0.2..1.2_f64, -0.2..1.2_f64),
        pixels in (-9.0..9.0_f64, -9.0..9.0_f64),
    ) {
        let Backdrop { screen, world, picture, zooms, response } = &backdrop;
        let layer = Layer { response: *response, shake: LayerShake::Whole, ..Layer::default() };
        let layer = layer.covering(*picture, world, screen, zooms.to_array());
        let lens = Lens::new(screen).with_zoom(zooms.x + (zooms.y - zooms.x) * zoom);
        let range = Bounds::new(*world).centre_range(&lens);
        let centre = range.min + range.size() * DVec2::from(at).clamp(DVec2::ZERO, DVec2::ONE);
        let view = View::new(lens, centre, screen.snap).shaken(ShakeOffset { pixels: pixels.into(), roll: 0.0 });
        let seen = view.layer(&layer);
        let drawn = seen.copies(&layer.within.expect("covering"), [0, 0]).next().expect("in sight").rect;
        let shown = if screen.snap == Snap::Subpixel { seen.residual() } else { Vec2::ZERO };
        prop_assert!(drawn.min.cmple(shown + 1e-3).all(), "{drawn:?} from {shown}");
        let end = shown + seen.size().as_vec2();
        prop_assert!(drawn.max.cmpge(end - 1e-3).all(), "{drawn:?} to {end}");
    }
}

// In the settings.

#[test]
fn covering_layers_follow_the_bounds() {
    let sky = Layer { cover: Some(DVec2::new(400.0, 220.0)), response: 0.0, ..Layer::named("sky") };
    let mut settings = Settings { layers: vec![sky], ..Settings::default() };
    let refused = settings.validate().unwrap_err();
    assert_eq!(
        (refused.field(), refused.expected()),
        ("layers.0.cover", "bounds, for the picture to cover")
    );
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [3840, 960])));
    settings.zoom.range = [1.0, 1.0].into();
    let mut camera = Camera::new(settings).unwrap();
    assert_eq!(camera.layers()[0].rate.x, 80.0 / 3520.0);
    assert_eq!(camera.settings().layers[0].rate, DVec2::ONE, "as it was given");
    camera.set_bounds(Some(Bounds::new(Rect::new([0, 0], [720, 960]))), 0.0).unwrap();
    camera.advance(0.0);
    assert_eq!(camera.layers()[0].rate.x, 80.0 / 400.0);
}

#[test]
fn layers_that_are_none_are_refused() {
    let refused = |layer: Layer| {
        let settings = Settings { layers: vec![Layer::default(), layer], ..Settings::default() };
        settings.validate().unwrap_err().field().to_owned()
    };
    let bad = DVec2::new(f64::NAN, 0.0);
    assert_eq!(refused(Layer { rate: DVec2::splat(1e3), ..Layer::default() }), "layers.1.rate");
    assert_eq!(refused(Layer { align: bad, ..Layer::default() }), "layers.1.align");
    assert_eq!(refused(Layer { drift: bad, ..Layer::default() }), "layers.1.drift");
    assert_eq!(refused(Layer { repeat: DVec2::NEG_ONE, ..Layer::default() }), "layers.1.repeat");
    assert_eq!(refused(Layer { response: -1.0, ..Layer::default() }), "layers.1.response");
    assert_eq!(refused(Layer { cover: Some(DVec2::ZERO), ..Layer::default() }), "layers.1.cover");
    // Used straight, without settings, they still answer.
    let view = View::new(Lens::new(&Screen::default()), [5, 5], Snap::Subpixel);
    assert!(
        view.layer(&Layer { rate: bad, response: f64::NAN, ..Layer::default() })
            .centre()
            .is_finite()
    );
}
