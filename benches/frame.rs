//! What a frame costs, beside a hand-written "move a fraction of the way and clamp".

use std::hint::black_box;

use criterion::measurement::WallTime;
use criterion::{BenchmarkGroup, Criterion, criterion_group, criterion_main};
use rand::{RngExt, SeedableRng};
use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan::{
    Airborne, Blending, Bounds, Camera, Deadzone, Fit, Leash, Lens, LookAhead, Pixels, PixelsMut,
    Ratchet, Rect, Screen, Settings, Shake, Smoothing, Snap, View, present,
};

/// Positions of a subject that wanders through the world.
fn positions() -> Vec<DVec2> {
    let at = |i: u32| {
        let t = f64::from(i) / 60.0;
        DVec2::new(1900.0 + 1800.0 * (0.3 * t).sin(), 480.0 + 300.0 * (0.7 * t).cos())
    };
    (0..4096).map(at).collect()
}

/// A frame of a camera with these settings, its time given by the frame's number.
fn measure(
    group: &mut BenchmarkGroup<'_, WallTime>,
    name: &str,
    settings: Settings,
    step: impl Fn(usize) -> f64,
) {
    let positions = positions();
    let mut camera = Camera::new(settings).expect("valid settings");
    let mut frame = 0;
    group.bench_function(name, |b| {
        b.iter(|| {
            frame = (frame + 1) % positions.len();
            camera.follow(black_box(step(frame)), black_box(positions[frame])).centre()
        });
    });
}

fn following(c: &mut Criterion) {
    let positions = positions();
    let mut group = c.benchmark_group("following");

    group.bench_function("baseline: a fraction of the way, clamped", |b| {
        let (mut centre, mut frame) = (DVec2::ZERO, 0);
        let (low, high) = (DVec2::new(160.0, 90.0), DVec2::new(3680.0, 870.0));
        b.iter(|| {
            frame = (frame + 1) % positions.len();
            centre += (black_box(positions[frame]) - centre) * black_box(0.1);
            centre = centre.clamp(low, high);
            centre
        });
    });

    let mut plain = Settings::default();
    plain.screen.snap = Snap::Off;
    let mut typical = Settings::default();
    typical.follow.smoothing = Smoothing::HalfLife(0.12).into();
    typical.bounds = Some(Bounds::new(Rect::new([0, 0], [3840, 960])));
    typical.follow.deadzone = Deadzone { left: 0.04, right: 0.04, top: 0.15, bottom: 0.1 };
    let steady = |_| 1.0 / 60.0;
    let varying = |frame: usize| (1.0 + 0.001 * (frame % 7) as f64) / 60.0;
    measure(&mut group, "everything off", plain, steady);
    measure(&mut group, "deadzone, half-life and bounds", typical.clone(), steady);
    typical.follow.look_ahead = Some(LookAhead::default());
    measure(&mut group, "typical: with look-ahead", typical.clone(), steady);
    measure(&mut group, "typical, the step varying", typical.clone(), varying);
    let mut all = typical;
    all.follow.smoothing = Smoothing::Settle(0.5).into();
    all.follow.leash = Some(Leash(DVec2::splat(0.3)));
    all.follow.ratchet = Ratchet::Right;
    all.follow.airborne = Airborne::Hold;
    all.bounds.as_mut().expect("just set").cushion = 40.0;
    measure(&mut group, "everything on", all, steady);
    group.finish();
}

/// Presenting, beside copying the same number of bytes.
fn presenting(c: &mut Criterion) {
    let screen = Screen::default();
    for (window, name) in [((1920, 1080), "1920 x 1080"), ((3840, 2160), "3840 x 2160")] {
        let mut group = c.benchmark_group(format!("presenting 321 x 181 in {name}"));
        let size = UVec2::from(window);
        let source = vec![[7_u8, 8, 9, 255]; (size.x * size.y) as usize];
        let mut target = vec![[0_u8; 4]; source.len()];
        group.bench_function("baseline: copying as many bytes", |b| {
            b.iter(|| black_box(&mut target).copy_from_slice(black_box(&source)));
        });
        // A little less than the whole scale of 6 or 12, so that every edge is blended.
        let odd = (window.0 - 10, window.1 - 7);
        let cases = [("nearest", Fit::Whole, window), ("filtered", Fit::Contain, odd)];
        for (name, fit, window) in cases {
            let view = View::new(Lens::new(&screen), [100.37, 50.21], Snap::Subpixel)
                .fitted(fit, screen.size)
                .in_window(window);
            let canvas: Vec<[u8; 4]> =
                (0..321 * 181_u32).map(|i| i.wrapping_mul(2_654_435_761).to_le_bytes()).collect();
            let placement = view.placement();
            group.bench_function(name, |b| {
                b.iter(|| {
                    let canvas = Pixels::new(view.canvas_size(), black_box(&canvas));
                    let target = PixelsMut::new(window.into(), black_box(&mut target));
                    present(canvas, target, &placement, Blending::Encoded);
                });
            });
        }
        group.finish();
    }
}

/// Shakes that are alive, beside one pair of random numbers for each axis and frame.
fn shaking(c: &mut Criterion) {
    let mut group = c.benchmark_group("shaking");
    group.bench_function("baseline: a random pair", |b| {
        let mut random = rand::rngs::SmallRng::seed_from_u64(1);
        b.iter(|| DVec2::new(random.random_range(-6.0..6.0), random.random_range(-3.0..3.0)));
    });
    for live in [0, 1, 8, 64] {
        let mut camera = Camera::new(Settings::default()).expect("valid settings");
        for _ in 0..live {
            camera.shake(&Shake { hold: f64::INFINITY, ..Shake::default() }, 0.1);
        }
        group.bench_function(format!("a frame with {live} live"), |b| {
            b.iter(|| camera.rest(black_box(1.0 / 60.0)).centre());
        });
    }
    group.finish();
}

criterion_group!(benches, following, presenting, shaking);
criterion_main!(benches);
