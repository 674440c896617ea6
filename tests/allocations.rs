//! A frame allocates nothing.

use std::hint::black_box;

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{
    Bounds, Boxes, Camera, Cameras, Chunks, Command, Ease, Grid, GridEdge, Layer, Lure, Rect,
    Rooms, Settings, Shake, ShakeMix, Smoothing, SpriteGrid, Subject, Zone,
};

use crate::support::smooth;

/// The number of allocations of this thread while something runs.
fn allocations(run: impl FnOnce()) -> u64 {
    allocation_counter::measure(run).count_total
}

#[test]
fn allocations_are_counted() {
    assert_eq!(allocations(|| drop(black_box(vec![1, 2, 3]))), 1);
}

#[test]
fn frames_after_the_first_allocate_nothing() {
    let mut settings = smooth(Smoothing::HalfLife(0.1));
    settings.shake.mix = ShakeMix::Strongest;
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [3840, 960])));
    let mut camera = Camera::new(settings).expect("valid settings");
    let grid = Grid::new(240, 60, [16, 16]);
    let tell = |camera: &mut Camera, frame: i32| {
        for late in [0.004, 0.01, 0.002] {
            let zoom = Command::ZoomTo(1.0 + f64::from(frame % 5) * 0.1);
            camera.tell_due(zoom, late).expect("a zoom");
        }
        camera.pan(Vec2::new(1.0, 0.0));
        camera.show(&Rect::new([0, 0], [640, 360]), 0.2, Ease::Smooth);
    };
    tell(&mut camera, 0);
    camera.follow(0.0, [0, 0]);

    let count = allocations(|| {
        for frame in 0..1000 {
            if frame % 7 == 0 {
                camera.shake(&Shake::default(), 1.0);
                tell(&mut camera, frame);
            }
            let at = [f64::from(frame) * 3.0, 400.0];
            camera.rotate_now(f64::from(frame % 3) * 0.1);
            let view = camera.follow(1.0 / 60.0, at);
            let drawn: usize = view.tiles(&grid).rows().map(|row| row.indices().len()).sum();
            black_box((
                view.canvas_position(at),
                view.followed_placement(at),
                view.placement(),
                view.relative_to_clip_matrix(),
            ));
            black_box(drawn);
        }
    });
    assert_eq!(count, 0);
}

/// Layers, repeats, chunks and sprites allocate nothing after the largest crowd.
#[test]
fn what_is_in_view_is_found_without_allocating() {
    let ridge = Layer { drift: DVec2::new(-4.0, 0.0), ..Layer::at_rate("ridge", [0.2, 0.3]) };
    let settings = Settings { layers: vec![ridge; 5], ..Settings::default() };
    let mut camera = Camera::new(settings).expect("valid settings");
    let grid = Grid::new(240, 60, [16, 16]).with_edges(GridEdge::Wrapped);
    let map = vec![1_u8; 240 * 60];
    let picture = Rect::new([0, 0], [100, 60]);
    let mut chunks = Chunks::new(&grid, [8, 8]).with_ahead(0.5);
    let place = |number: i32, frame: i32| {
        Rect::from_corner_size([(number * 37 + frame) % 3840, (number * 91) % 960], [12, 12])
    };
    let crowd: Vec<Rect> = (0..2000).map(|number| place(number, 0)).collect();
    let mut sprites = SpriteGrid::of(&grid.rect(), 32.0, &crowd);
    let mut boxes = Boxes::new();
    for sprite in &crowd {
        boxes.push(sprite);
    }
    let mut found = Vec::new();
    let mut places = Settings { rooms: Some(Rooms::default()), ..Settings::default() };
    places.zones = vec![Zone { zoom: Some(1.5), ..Zone::new(Rect::new([100, 0], [400, 300])) }];
    places.lures = vec![Lure { at: DVec2::ZERO, radius: 200.0, strength: 0.5 }];
    let of = |settings: &Settings| Camera::new(settings.clone()).expect("valid settings");
    let mut cameras = Cameras::new(0, of(&Settings::default()));
    cameras.insert(1, of(&places));
    let mut run = |frames: core::ops::Range<i32>| {
        for frame in frames {
            let view = camera.follow(1.0 / 60.0, [frame * 3 % 4000, 400]);
            for layer in camera.layers() {
                let far = view.layer(layer);
                black_box(far.copies(&picture, [100, 0]).count());
                black_box(view.layer_on(layer, &far).visible_part(&picture, UVec2::new(100, 60)));
            }
            for row in view.tiles(&grid).rows() {
                black_box(row.filled(&map, |number| *number != 0).count());
            }
            black_box(chunks.update(&view).to_load().count());
            let swing = f64::from(frame % 200) * 5.0;
            let party = [Subject::from([0.0, swing]), Subject::from([swing, 0.0]).with_rank(1)];
            let split = if frame % 100 < 50 { 1 } else { 2 };
            if let Some(other) = cameras.get_mut(&1) {
                other.follow_all(1.0 / 60.0, &party[..split]);
            }
            if frame % 120 == 0 {
                cameras.glide_to(&(frame / 120 % 2), 0.5, Ease::InOut);
            }
            black_box(cameras.view(1.0 / 60.0));
            for number in 0..2000 {
                sprites.set(number, &place(number as i32, frame));
                boxes.set(number, &place(number as i32, frame));
            }
            sprites.remove(frame as u32 % 2000);
            sprites.insert(&place(frame, frame));
            sprites.seen(&view.sight(), &mut found);
            boxes.seen(&view.sight(), &mut found);
        }
    };
    run(0..3840); // once around
    assert_eq!(allocations(|| run(3840..4840)), 0);
}

/// Going back across every change, and on from there.
#[test]
fn restoring_allocates_nothing() {
    let sky = Layer { cover: Some(DVec2::new(800.0, 500.0)), ..Layer::named("sky") };
    let court = |side: i32| Bounds::new(Rect::new([0, 0], [side, 600]));
    let settings = Settings {
        layers: vec![sky],
        bounds: Some(court(2000)),
        rooms: Some(Rooms::default()),
        ..Settings::default()
    };
    let mut camera = Camera::new(settings).expect("valid settings");
    camera.follow(0.0, [0, 0]);
    let (wide, rate) = (camera.state(), camera.layers()[0].rate);
    camera.set_bounds(Some(court(900)), 0.5).expect("valid bounds");
    camera.follow(0.1, [0, 0]);
    let narrow = camera.state();
    assert_ne!(camera.layers()[0].rate, rate);
    let count = allocations(|| {
        for frame in 0..100 {
            camera.restore(if frame % 2 == 0 { wide } else { narrow }).expect("a state");
            black_box(camera.follow(1.0 / 60.0, [f64::from(frame), 40.0]));
        }
    });
    camera.restore(wide).expect("a state");
    assert_eq!((count, camera.layers()[0].rate), (0, rate));
}
